"""Replicates in blocks, and the shuffles that they are made of."""

"""Counts of one category, or of two."""

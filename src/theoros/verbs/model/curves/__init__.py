"""Curves through pairs of numbers, a module each."""

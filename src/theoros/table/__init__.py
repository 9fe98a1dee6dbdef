"""Columns, kinds and units; the immutable table; changes to it."""

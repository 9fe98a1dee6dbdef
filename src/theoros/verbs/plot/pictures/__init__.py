"""Axes, colours and comparisons of pictures."""

"""Least squares, curves through pairs of numbers, and what their residuals show."""

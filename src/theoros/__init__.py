"""Theoros: ask questions of your data in sentences."""

__version__ = "0.1.0"

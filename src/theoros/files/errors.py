"""What a reader says of a file that is no table."""

from __future__ import annotations


class ReadError(ValueError):
    """A file that cannot be read as a table, with what is wrong and what to do."""

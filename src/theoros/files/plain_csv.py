"""Delimited text as Polars reads it, without what it would do unasked."""

from __future__ import annotations

from typing import Any

from theoros.files.errors import ReadError
from theoros.lazy_imports import pl

_PACKED = (b"\x1f\x8b", b"\x28\xb5\x2f\xfd")
"""How gzip and zstandard begin; no text in UTF-8 does."""


def frame_of(data: bytes, *, skip_lines: int = 0, **how: Any) -> pl.DataFrame:
    """A frame of delimited text, by the options of `polars.read_csv`.

    What begins like packed data is never unpacked: a few bytes of it could fill the memory.
    Raises ReadError for it, and what Polars raises.
    """
    if data.startswith(_PACKED):
        raise ReadError("The table is packed (gzip or zstandard). Unpack it, and open that.")
    if data[:1] == b"x":  # which may be taken for the beginning of packed data, too
        data, skip_lines = b"\n" + data, skip_lines + 1
    return pl.read_csv(data, skip_lines=skip_lines, **how)

"""The print of a file: by which it is known whether another program has changed it since."""

from __future__ import annotations

import stat
import zlib
from dataclasses import dataclass
from pathlib import Path

_PIECE = 1 << 20


@dataclass(frozen=True)
class Print:
    """What a file looks like from outside, and a sum of its bytes."""

    size: int
    modified: int
    """In nanoseconds, by the clock of the disk."""
    sum: int


def sum_of(path: Path) -> int:
    """A sum of the bytes of a file (CRC-32, as in zip files). Raises OSError."""
    total = 0
    with open(path, "rb") as file:
        while piece := file.read(_PIECE):
            total = zlib.crc32(piece, total)
    return total


def print_of(path: Path) -> Print | None:
    """The print of a file; None where there is none that can be read."""
    try:
        before = path.stat()
        if not stat.S_ISREG(before.st_mode):
            return None  # a pipe would be waited for
        return Print(before.st_size, before.st_mtime_ns, sum_of(path))
    except OSError:
        return None


def changed_since(path: Path, known: Print | None) -> bool:
    """Whether a file is there and holds something else than when its print was taken."""
    try:
        found = path.stat()
    except OSError:
        return False  # gone: there is nothing that could be lost
    if known is None:
        return True
    if (found.st_size, found.st_mtime_ns) == (known.size, known.modified):
        return False
    now = print_of(path)
    return now is not None and (now.size, now.sum) != (known.size, known.sum)

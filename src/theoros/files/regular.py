"""What can be read as a file at all: not a folder, a device or a pipe, and not endless."""

from __future__ import annotations

import stat
from pathlib import Path

from theoros.files.errors import ReadError, reason
from theoros.files.form import LARGEST


def check_file(path: Path) -> None:
    """Raises ReadError with the reason for what is no file, or too large to be opened."""
    try:
        found = path.stat()
    except (OSError, ValueError) as problem:  # ValueError for a name with NUL in it
        raise ReadError(f"{path.name} could not be opened ({reason(problem)}).") from None
    if not stat.S_ISREG(found.st_mode):
        what = "a folder" if stat.S_ISDIR(found.st_mode) else "a device or a pipe"
        raise ReadError(f"{path.name or path} is {what}, not a file. Choose a file.")
    if found.st_size > LARGEST:
        raise ReadError(f"{path.name} is larger than Theoros opens (2 GB).")

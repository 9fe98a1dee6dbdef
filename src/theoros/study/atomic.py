"""Writing a file so that it is either as before or whole; clearing what a kill left behind."""

from __future__ import annotations

import contextlib
import fcntl
import os
import tempfile
from collections.abc import Callable, Iterable
from pathlib import Path

from theoros.files.errors import ReadError, reason
from theoros.study.entries import StudyError

PART = ".theoros-part-"
"""How the names of files begin that are being written."""


def write_atomically(path: Path, write: Callable[[Path], object]) -> None:
    """Calls `write(temporary path)`, syncs what it wrote and puts it in the place of `path`.

    Where `path` is a link, what it leads to is replaced, and the link stays. Raises StudyError
    where it cannot be written; an earlier file there is then untouched.
    """
    temporary = None
    try:
        target = Path(os.path.realpath(path))
        sweep_parts([target.parent])
        handle, temporary = tempfile.mkstemp(target.suffix, PART, target.parent)
        with open(handle, "rb") as held:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)  # which tells it from a leftover
            write(Path(temporary))
            with open(temporary, "rb") as written:  # another file, where it was put in its place
                os.fsync(written.fileno())
            mode = target.stat().st_mode & 0o777 if target.exists() else 0o666 & ~_umask()
            os.chmod(temporary, mode)
            os.replace(temporary, target)
            sync_folder(target.parent)
    except (OSError, ReadError) as problem:
        _discard(temporary)
        if isinstance(problem, ReadError):
            raise
        raise _unwritten(path, problem) from None
    except Exception as problem:
        _discard(temporary)
        if type(problem).__module__.startswith("polars"):  # which has its own word for a full disk
            raise _unwritten(path, problem) from None
        raise


def _unwritten(path: Path, problem: Exception) -> StudyError:
    return StudyError(
        f"{path.name} could not be written there ({reason(problem)}). Choose another place; nothing was lost."
    )


def _discard(temporary: str | None) -> None:
    if temporary:
        with contextlib.suppress(OSError):
            os.unlink(temporary)


def sweep_parts(folders: Iterable[Path]) -> int:
    """Deletes files that a program which was cut short left half written; how many there were."""
    swept = 0
    for folder in folders:
        with contextlib.suppress(OSError):
            for part in folder.glob(f"{PART}*"):
                with contextlib.suppress(OSError), open(part, "rb") as held:
                    fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
                    part.unlink()
                    swept += 1
    return swept


def sync(path: Path) -> None:
    """Waits until the disk has a file. Raises OSError where it cannot take it."""
    with open(path, "rb") as written:
        os.fsync(written.fileno())


def sync_folder(folder: Path) -> None:
    """Waits until the disk has the names in a folder."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _umask() -> int:
    current = os.umask(0)
    os.umask(current)
    return current

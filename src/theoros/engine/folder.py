"""The folder in which columns are handed over; gone after leaving, or at the next start."""

from __future__ import annotations

import contextlib
import fcntl
import os
import shutil
import tempfile
from pathlib import Path

PREFIX = "theoros-engine-"
RUNNING = "running"
"""The file that says which task is being worked on, to be read after a crash."""


def runtime_home() -> Path:
    """Where files of running programs belong: in memory where the desktop has such a place."""
    wanted = os.environ.get("XDG_RUNTIME_DIR", "")
    if wanted and os.access(wanted, os.W_OK):
        return Path(wanted)
    return Path(tempfile.gettempdir())


class RuntimeFolder:
    """A folder that is locked as long as its program runs, and deleted when it ends."""

    def __init__(self, home: Path | None = None) -> None:
        self.path = Path(tempfile.mkdtemp(prefix=PREFIX, dir=home or runtime_home()))
        self._lock = open(self.path / "lock", "w")  # noqa: SIM115 - held while open
        fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)

    def remove(self) -> None:
        shutil.rmtree(self.path, ignore_errors=True)
        self._lock.close()


def sweep(home: Path | None = None) -> int:
    """Deletes the folders that programs left which were cut short; how many there were."""
    swept = 0
    for folder in (home or runtime_home()).glob(f"{PREFIX}*"):
        try:
            with open(folder / "lock", "r+") as lock:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
                shutil.rmtree(folder, ignore_errors=True)
                swept += 1
        except OSError:  # in use, another user's, or just being made
            continue
    return swept


def discard(path: Path) -> None:
    """Deletes a file if it is there."""
    with contextlib.suppress(OSError):
        path.unlink()

"""How much memory and processor time a task may take, and looking at what a process has taken.

The watch is kept from outside, by the link: a library that is deep in its own code lets nothing
else run in its process, and a bound by the kernel (RLIMIT_AS) counts what is only reserved.
"""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

WATCH = 0.01
"""Seconds between two looks at a process whose task has limits: it can take a gigabyte in one."""
MB = 1_000_000
LEAST_MEMORY = 440 * MB
"""Enough for the libraries and any table of a few megabytes."""
MEMORY_OF_A_BYTE = 60
"""Bytes of memory for each byte of a file: sheets unpack to thirty times their size."""
LEAST_SECONDS = 3.0
SECONDS_OF_A_MB = 2.0
MOST_SECONDS = 600.0
MEMORY, TIME, CRASH = "memory", "time", "crash"
"""What a task was ended for."""

_PAGE, _TICKS = os.sysconf("SC_PAGE_SIZE"), os.sysconf("SC_CLK_TCK")


@dataclass(frozen=True)
class Limits:
    """What a task may take before its process is ended."""

    memory: int
    """Bytes that the whole process holds."""
    seconds: float
    """Of the processor, by this task."""

    @property
    def patience(self) -> float:
        """Seconds by the clock, for a task that waits and takes no processor time."""
        return 20.0 + 4.0 * self.seconds


def most_memory() -> int:
    """Bytes that any process of ours may hold: six tenths of what the machine has."""
    return int(os.sysconf("SC_PHYS_PAGES") * _PAGE * 0.6)


def limits_for(*paths: Path) -> Limits:
    """Limits for reading files, by their sizes; files that are not there count nothing."""
    size = sum(path.stat().st_size for path in paths if path.is_file())
    memory = LEAST_MEMORY + MEMORY_OF_A_BYTE * size
    seconds = LEAST_SECONDS + SECONDS_OF_A_MB * size / MB
    return Limits(min(memory, most_memory()), min(seconds, MOST_SECONDS))


@dataclass(frozen=True)
class Taken:
    """What a process has taken so far."""

    memory: int
    """Bytes it holds now; pages of mapped files are not counted."""
    seconds: float
    """Of the processor, since it began."""


def taken(pid: int) -> Taken | None:
    """What a process has taken; None where that cannot be told, as after its end."""
    try:
        sizes = Path(f"/proc/{pid}/statm").read_text().split()
        times = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
    except OSError:
        return None
    memory = (int(sizes[1]) - int(sizes[2])) * _PAGE
    return Taken(memory, (int(times[11]) + int(times[12])) / _TICKS)


def in_mb(size: int) -> str:
    """Bytes in words: "480 MB", "2.9 GB"."""
    return f"{size / 1e9:.1f} GB" if size >= 1_000 * MB else f"{round(size / MB)} MB"

"""What an engine can be asked to do: a value whose steps are made in the engine.

A new one is a frozen dataclass in a module of this package. Nothing heavy is imported before a
task runs.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path

from theoros.engine.limits import Limits
from theoros.table.table import Table

CRASHED = "the process that worked it out ended twice without a word, as it does where there is not enough memory"


@dataclass(frozen=True)
class Task(ABC):
    """Something to do in an engine."""

    @property
    def needs(self) -> tuple[str, ...]:
        """The tables whose values it needs; of the others it is told the columns."""
        return ()

    @property
    def limits(self) -> Limits | None:
        """What it may take; None for all that the machine has. Asked on a thread of the link.

        A task with limits is ended at once when it is cancelled.
        """
        return None

    def ended(self, why: str) -> str:
        """What is said where its process was ended, or died: see `engine.limits` for why."""
        return CRASHED

    @abstractmethod
    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        """What it gives, one after the other; it can be stopped in between.

        Large tables are left in the folder and handed back by their tokens.
        """


@dataclass(frozen=True)
class Nothing(Task):
    """Nothing at all: to measure the way there and back."""

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        yield from ()

"""What an engine can be asked to do: a value whose steps are made in the engine.

A new one is a frozen dataclass in a module of this package. Nothing heavy is imported before a
task runs.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from theoros.table.table import Table

if TYPE_CHECKING:
    pass


@dataclass(frozen=True)
class Task(ABC):
    """Something to do in an engine."""

    @property
    def needs(self) -> tuple[str, ...]:
        """The tables whose values it needs; of the others it is told the columns."""
        return ()

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

"""How a file is written, what was read from it, and what is wrong with it."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.table.table import Table

MOST_COLUMNS = 5_000
MOST_CELLS = 60_000_000
CELLS_ANYWAY, CELLS_OF_A_BYTE = 2_000_000, 4
"""Cells that rows of unequal length may make: a table has a sign for each, or nearly."""
LARGEST = 2_000_000_000
"""Bytes of a file that is opened."""


@dataclass(frozen=True)
class Form:
    """How a file is written, as far as that can be chosen. A format uses what it knows of."""

    delimiter: str = ","
    quote: str = '"'
    """What stands around a value that holds a delimiter; empty for nothing."""
    header: int = 1
    """How many lines of names there are."""
    skip: int = 0
    """How many lines stand above them."""
    decimal_comma: bool = False
    month_first: bool = False
    """Whether 3/4/2026 is the 4th of March."""
    missing: tuple[str, ...] = ()
    """Codes for a missing value, besides the usual ones."""
    encoding: str = "utf-8"
    sheet: str = ""
    cells: str = ""
    """The range of cells, such as B3:F40; empty for all that hold something."""


@dataclass(frozen=True)
class Misfit:
    """A cell whose text does not fit the kind of its column, so that it becomes missing."""

    line: int
    column: str
    text: str


@dataclass(frozen=True)
class Opened:
    """A table that was read, the form it was read by, and what was noticed on the way."""

    table: Table
    form: Form
    notes: tuple[str, ...] = ()
    misfits: tuple[Misfit, ...] = ()
    """The first cells that do not fit, at most MOST_MISFITS."""
    misfit_count: int = 0
    first_line: int = 1
    """Where the first row stands in the file, counted from 1."""


MOST_MISFITS = 200

"""The formats that tables are read from and written to; one module of this package for each.

Files are read in a process of its own with bounds on memory and time (`theoros.engine.limits`), so
that none can take the desk down with it; what a reader can tell of a trap, it says itself.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from theoros.files.errors import ReadError
from theoros.files.form import Form, Opened
from theoros.files.regular import check_file
from theoros.plugins import listed_in
from theoros.table.kinds import Kind
from theoros.table.table import Table

Kinds = Mapping[int, Kind] | None


@dataclass(frozen=True)
class Format:
    """A format: how its files are named, read and written."""

    name: str
    suffixes: tuple[str, ...]
    load: Callable[[Path], Any]
    """A file as something that `read` can be asked of again and again. Raises ReadError."""
    guess: Callable[[Any], Form]
    read: Callable[[Any, Form, str, Kinds], Opened]
    write: Callable[[Table, Path], None]
    choices: frozenset[str]
    """The fields of Form that can be chosen for it."""
    holds: frozenset[str]
    """What it keeps of a table besides the values: see `not_held`."""
    order: int = 0

    def fits(self, path: Path) -> bool:
        """Whether a file is of this format, by its name."""
        return path.name.lower().endswith(self.suffixes)


EVERYTHING = frozenset({"units", "kinds", "levels", "meanings", "formulas", "rows", "aside", "counts"})


@cache
def formats() -> tuple[Format, ...]:
    """The formats that there are. Each module of this package with `FORMATS` adds its own."""
    return listed_in("theoros.files", "FORMATS")


def format_of(path: Path) -> Format:
    """The format of a file by its name; text of some kind where the ending is not known."""
    for one in formats():
        if one.fits(path):
            return one
    return next(one for one in formats() if one.name == "CSV")


def open_table(path: Path) -> Opened:
    """A table from a file of any format, by the form guessed. Raises ReadError."""
    check_file(path)
    one = format_of(path)
    source = one.load(path)
    return one.read(source, one.guess(source), path.stem, None)


def write_table(table: Table, path: Path) -> str:
    """Writes a table by the ending of the file, and gives what the format cannot hold, in words.

    Raises ReadError for an ending that none has, or a table that does not fit the format, and
    OSError.
    """
    one = next((one for one in formats() if one.fits(path)), None)
    if one is None:
        endings = ", ".join(suffix for each in formats() for suffix in each.suffixes)
        raise ReadError(f"No format has the ending of {path.name}. Choose one of: {endings}.")
    one.write(table, path)
    lost = not_held(table, one)
    if not lost:
        return ""
    return f"{one.name} does not hold {', '.join(lost)}; the study keeps them."


def not_held(table: Table, format: Format) -> list[str]:  # noqa: A002
    """What of a table a format loses, in words."""
    numbers_as_levels = [c.name for c in table.columns if c.kind is Kind.ORDERED or (c.levels and c.kind.is_grouping)]
    there = {
        "units": ("units", any(c.unit for c in table.columns)),
        "kinds": ("kinds of columns", any(c.kind in (Kind.ORDERED, Kind.TEXT) for c in table.columns)),
        "levels": ("the order of levels", bool(numbers_as_levels)),
        "meanings": ("meanings", any(c.meaning for c in table.columns)),
        "formulas": ("formulas", any(c.formula for c in table.columns)),
        "rows": ("what a row is", table.noun != "row" or bool(table.sampling)),
        "aside": ("which rows are in use", bool(table.aside or table.keep)),
        "counts": ("how rows count", bool(table.counts)),
    }
    return [words for key, (words, so) in there.items() if so and key not in format.holds]

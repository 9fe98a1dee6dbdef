"""What a way of having data is: a value nested in a statement that says, checks and reads itself.

A new one is a module of this package with a frozen dataclass, listed in its `DATA`. Its fields
are slots under the path where the statement holds it; `read` comes to one of the values of
`samples`, the same for rows and for typed figures.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import ClassVar, Literal, Self, TypeVar

from theoros.plugins import listed_in
from theoros.verbs.core.json_values import family
from theoros.verbs.core.nested import Nested, kind_options, turned_into
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeNumber, choice_slot
from theoros.verbs.data.observed_counts import Observation

Row = TypeVar("Row")
Family = Literal[
    "one sample",
    "two samples",
    "pairs",
    "several samples",
    "counts",
    "two-way counts",
    "two numbers",
    "one share",
    "two shares",
    "repeated",
    "two factors",
]
"""What data come to, once they are read."""
Design = Literal["not said", "separate", "matched"]
LARGEST = 1e150
"""Squares of larger values overflow."""


@dataclass(frozen=True)
class Sides:
    """How data are said within a sentence: one side, or two that are compared."""

    first: Phrase
    second: Phrase = ()
    """After a word of comparison: "that for quick"; empty where there is one side."""
    than: Phrase = ()
    """The same after "than", where less needs saying: "for quick"."""


class Data(Nested):
    """A way of having data. Subclasses are frozen dataclasses."""

    family: ClassVar[Family]
    typed: ClassVar[bool] = False
    """Whether it is typed, so that no table is needed."""
    valued: ClassVar[bool] = False
    """Whether single values are typed, of which all can be asked that can be asked of rows."""
    fixed_groups: ClassVar[int] = 0
    """How many groups it must have; 0 for any number of them."""
    stands_for: ClassVar[str] = ""
    """The kind it is listed as where kinds are chosen, if that is another."""

    @classmethod
    def bare(cls) -> bool:
        """Whether there are figures alone, and no values behind them."""
        return cls.typed and not cls.valued

    @abstractmethod
    def read(self, tables: Tables, table: str) -> Observation:
        """The data themselves, a value of `samples`. Raises CannotAnswer."""

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        """The parameter of each side with the slots of the data, for a sentence."""
        return Sides((*parameter, " of ", *self.slots(place)))

    def wrong(self) -> str:
        """Why it cannot be what was written in a file; empty if it can."""
        wanted = self.fixed_groups
        if wanted and len(getattr(self, "groups", ())) != wanted:
            return f"must have {wanted} group{'s' if wanted > 1 else ''} ({self.label})"
        return ""

    def agreeing(self) -> Data:
        """Data of the kind that its own fields say it is, however they were written."""
        return self

    def settings(self, place: Place) -> tuple[Slot, ...]:
        """Slots beside the sentence."""
        return ()

    def levels_of(self, place: Place) -> tuple[str, ...]:
        """The levels whose cases are counted, of data that count them."""
        return ()

    def put(self, field: str, value: object, place: Place) -> tuple[Nested, list[str]] | None:
        return None

    def swapped(self) -> Self:
        """With its two sides in each other's place."""
        return self

    @property
    def title(self) -> str:
        """A short name for an entry about it."""
        return ""

    @property
    def about(self) -> dict[str, str | None]:
        """The columns that other verbs can be asked about: of a number (or category) with what goes beside it."""
        if not hasattr(self, "what") or hasattr(self, "other"):  # of two columns there is no one that is asked about
            return {}
        return {name: getattr(self, name) for name in ("what", "by", "against") if hasattr(self, name)}

    @property
    def design(self) -> Design:
        """Whether samples are separate or matched, as far as that has been said."""
        return "not said"


@cache
def data_kinds() -> Mapping[str, type[Data]]:
    """The ways of having data by kind."""
    return {one.kind: one for one in listed_in("theoros.verbs.data", "DATA")}


family(Data, data_kinds)


def with_data_of(data: Data, kind: str, place: Place) -> Data:
    """Data of another kind, with what fits of the fields that both have."""
    made = turned_into(data, data_kinds()[kind], place, but=("design", "groups"))
    column = place.column(getattr(data, "what", None))
    if column is not None and hasattr(made, "measure") and not hasattr(data, "measure"):
        made = replace(made, measure=column.name, unit=column.unit)  # type: ignore[type-var]
    return made


def waiting(slot: Slot) -> Slot:
    """A slot of a row that waits to be typed, and may stay empty."""
    holds = replace(slot.holds, auto=True) if isinstance(slot.holds, TypeNumber) else slot.holds
    return replace(slot, holds=holds, missing="")


def with_row(rows: tuple[Row, ...], empty: Row, at: int, name: str, value: object, least: int) -> tuple[Row, ...]:
    """Rows with a value typed into one, or into the one that waits behind the last.

    Rows that are emptied are taken out, as long as `least` are left.
    """
    made = [*rows, empty]
    at = min(at, len(rows))
    made[at] = replace(made[at], **{name: value})  # type: ignore[type-var]
    if made[-1] == empty:
        made.pop()
    kept = [row for row in made if row != empty]
    return tuple(kept if len(kept) >= least else made[: max(least, len(rows))])


def row_field(field: str, head: str) -> tuple[int, str] | None:
    """The row and the name of a field such as "levels.2.count"; None for another one."""
    parts = field.split(".")
    if len(parts) == 3 and parts[0] == head and parts[1].isdigit():
        return int(parts[1]), parts[2]
    return None


def kind_slot(data: Data, kinds: Sequence[str], label: str, name: str = "data") -> Slot:
    """The slot that says how data are had."""
    options = kind_options(data_kinds()[kind] for kind in kinds)
    return choice_slot(name, label, data.stands_for or data.kind, options)

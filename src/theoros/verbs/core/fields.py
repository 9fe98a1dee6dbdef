"""Fields that carry their slots: what a field is called, what it may hold, what it hangs on.

A field of a statement, or of a value nested in one, is declared with one of the makers below.
Its slot in the sentence, what a file may put there, whether a renamed column or level reaches it,
what it falls back to when another field is set, and its line in docs/statements.md are all read
from that.
"""

from __future__ import annotations

import dataclasses
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field, replace
from functools import cache
from typing import Any, Generic, Self, TypeVar

from theoros.answer.wording import exact, percent_text, shortened, with_unit
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import (
    EMPTY,
    MOST_SEED,
    Option,
    PickSeveral,
    Slot,
    TypeNumber,
    TypeSeed,
    TypeText,
    choice_slot,
    column_slot,
    columns_slot,
    number_slot,
    text_slot,
)

V = TypeVar("V")
Held = TypeVar("Held")
LARGEST_SEED = 2**63 - 1
"""Beyond the bounds of any slot."""
GROUPING = (Kind.CATEGORY, Kind.ORDERED)


@dataclass(frozen=True, kw_only=True)
class Declared:
    """What a field says of itself; alone, of one whose slot its holder makes, or that has none."""

    told: str | Callable[[], str] = ""
    """What it holds, for docs/statements.md; worked out there where it lists what there is."""
    reset_by: tuple[str, ...] = ()
    """Slots that put it back to what it holds unasked, when they are set; "data." for all within `data`."""

    @property
    def meaning(self) -> str:
        """What it holds, in words."""
        return self.told if isinstance(self.told, str) else self.told()


@dataclass(frozen=True, kw_only=True)
class DeclaredSlot(Declared, ABC, Generic[V]):
    """What a field says of its slot; `V` is what the field holds."""

    label: str = ""
    """What it is, in words."""
    shown: str = ""
    """How its value is shown, where that is not said by the value alone."""
    missing: str = ""
    """Why it does not fit, where that is not a matter of the value alone."""

    @abstractmethod
    def slot(self, name: str, value: V, place: Place, holder: Fielded) -> Slot:
        """The slot, under the bare name of the field."""

    def problem(self, value: V) -> str:
        """Why no slot of it takes the value, whatever the tables are; empty where some may."""
        return ""


@dataclass(frozen=True, kw_only=True)
class NamesColumn(DeclaredSlot[str | None]):
    """One column of certain kinds, of the table that is asked about."""

    kinds: tuple[Kind, ...] = tuple(Kind)
    none: str = ""
    """What stands where there is none; empty where there must be one."""
    elsewhere: bool = False
    """Whether a column of another table can be chosen, which brings the table along."""
    other_than: tuple[str, ...] = ()
    """Fields whose columns cannot be chosen once more."""
    levels: int = 0
    """How many levels a category has at least that is chosen unasked."""

    def slot(self, name: str, value: str | None, place: Place, holder: Fielded) -> Slot:
        return column_slot(
            name,
            self.label,
            value,
            place.tables,
            place.table,
            self.kinds,
            none=self.none,
            elsewhere=self.elsewhere,
            exclude=_taken(holder, self.other_than),
        )

    def fitting(self, value: str | None, table: Table, holder: Fielded) -> str | None:
        """The value where the table has such a column; else none, or the first that fits."""
        taken = _taken(holder, self.other_than)
        column = table.by_name.get(value or "")
        if column is not None and column.kind in self.kinds and value not in taken:
            return value
        if self.none:
            return None
        fit = (one.name for one in table.of_kind(*self.kinds) if one.name not in taken)
        return next((one for one in fit if not self.levels or len(table.levels(one)) >= self.levels), None)


@dataclass(frozen=True, kw_only=True)
class NamesColumns(DeclaredSlot[tuple[str, ...]]):
    """Several columns of certain kinds, in an order."""

    kinds: tuple[Kind, ...] = tuple(Kind)
    none: str = ""
    least: int = 1
    other_than: tuple[str, ...] = ()

    def slot(self, name: str, value: tuple[str, ...], place: Place, holder: Fielded) -> Slot:
        made = columns_slot(
            name, self.label, value, place.tables, place.table, self.kinds, least=self.least, none=self.none
        )
        taken = _taken(holder, self.other_than)
        if not taken or not isinstance(made.holds, PickSeveral):
            return made
        options = tuple(option for option in made.holds.options if option.value not in taken)
        return replace(made, holds=replace(made.holds, options=options))

    def fitting(self, value: tuple[str, ...], table: Table, holder: Fielded) -> tuple[str, ...]:
        """Those of the columns that the table has, and that stand nowhere else."""
        known, taken = table.by_name, _taken(holder, self.other_than)
        return tuple(one for one in value if one in known and known[one].kind in self.kinds and one not in taken)


@dataclass(frozen=True, kw_only=True)
class NamesLevel(DeclaredSlot[str | None]):
    """A level, or several, of the category in the field `of`."""

    of: str = ""

    def slot(self, name: str, value: str | None, place: Place, holder: Fielded) -> Slot:
        own, home = place.own, place.column(getattr(holder, self.of))
        levels = own.levels(home.name) if own is not None and home is not None and home.kind.is_grouping else ()
        made = choice_slot(name, self.label, value, [Option(level, level) for level in levels])
        if value in levels:
            return made
        category = getattr(holder, self.of)
        missing = f"Choose a level of {category}." if category else f"Choose {self.label}."
        return replace(made, shown=made.shown if value else EMPTY, missing=missing)


@dataclass(frozen=True, kw_only=True)
class HoldsNumber(DeclaredSlot[float | None]):
    """A number that is typed."""

    holds: TypeNumber = TypeNumber()
    empty: str = "…"
    """What stands where none is typed."""

    def slot(self, name: str, value: float | None, place: Place, holder: Fielded) -> Slot:
        slot = number_slot(name, self.label, value, self.holds, self._shown(value))
        needed = value is None and not self.holds.auto
        return replace(slot, missing=f"Type the {self.label}.") if needed else slot

    def _shown(self, value: float | None) -> str:
        if value is None:
            return self.empty
        if self.holds.percent:
            return percent_text(value)
        return self.holds.typed(value) if self.holds.days else with_unit(exact(value), self.holds.unit)

    def problem(self, value: float | None) -> str:
        return self.holds.range_words if self.holds.whole and value is not None and self.holds.problem(value) else ""


@dataclass(frozen=True, kw_only=True)
class HoldsSeed(HoldsNumber):
    """The seed of what is drawn by chance."""

    def _shown(self, value: float | None) -> str:
        return str(value)

    def problem(self, value: float | None) -> str:
        return "" if value is not None and 0 <= value <= LARGEST_SEED else self.holds.range_words


@dataclass(frozen=True, kw_only=True)
class Chooses(DeclaredSlot[object]):
    """One of several choices."""

    options: tuple[Option, ...] = ()

    def slot(self, name: str, value: object, place: Place, holder: Fielded) -> Slot:
        return choice_slot(name, self.label, value, self.options)


@dataclass(frozen=True, kw_only=True)
class ChoosesSeveral(DeclaredSlot[tuple[str, ...]]):
    """Some of several choices; `what` is what they are called together."""

    options: tuple[Option, ...] = ()
    what: str = "choices"
    least: int = 0
    none: str = "none"

    def slot(self, name: str, value: tuple[str, ...], place: Place, holder: Fielded) -> Slot:
        shown = ", ".join(value) or self.none
        return Slot(name, self.label, shown, value, PickSeveral(self.options, self.least, self.what))


@dataclass(frozen=True, kw_only=True)
class HoldsText(DeclaredSlot[str]):
    """Text that is typed."""

    holds: TypeText = TypeText()
    empty: str = ""
    quotes: bool = False

    def slot(self, name: str, value: str, place: Place, holder: Fielded) -> Slot:
        return text_slot(name, self.label, value, self.holds, empty=self.empty, quotes=self.quotes)


def _declared(default: Held, told: Declared) -> Held:
    return field(default=default, metadata={"slot": told})


def column_field(
    label: str = "",
    kinds: Iterable[Kind] = tuple(Kind),
    told: str = "",
    *,
    none: str = "",
    elsewhere: bool = False,
    other_than: tuple[str, ...] = (),
    levels: int = 0,
    reset_by: tuple[str, ...] = (),
) -> str | None:
    """A field that names a column, and follows it when it is renamed."""
    made = NamesColumn(
        label=label,
        told=told,
        kinds=tuple(kinds),
        none=none,
        elsewhere=elsewhere,
        other_than=other_than,
        levels=levels,
        reset_by=reset_by,
    )
    return _declared(None, made)


def number_column(
    label: str, told: str = "", *, elsewhere: bool = True, other_than: tuple[str, ...] = ()
) -> str | None:
    """A field that names a number column."""
    return column_field(label, (Kind.NUMBER,), told, elsewhere=elsewhere, other_than=other_than)


def category_column(
    label: str, told: str = "", *, elsewhere: bool = False, other_than: tuple[str, ...] = ()
) -> str | None:
    """A field that names a category; chosen unasked is one with two levels or more."""
    return column_field(
        label, GROUPING, told, elsewhere=elsewhere, other_than=other_than, levels=0 if other_than else 2
    )


def columns_field(
    label: str,
    kinds: Iterable[Kind] = tuple(Kind),
    told: str = "",
    *,
    none: str = "",
    least: int = 1,
    other_than: tuple[str, ...] = (),
) -> tuple[str, ...]:
    """A field that names several columns."""
    made = NamesColumns(label=label, told=told, kinds=tuple(kinds), none=none, least=least, other_than=other_than)
    return _declared((), made)


def level_field(of: str, label: str = "", told: str = "") -> str | None:
    """A field that names a level of the column in the field `of`."""
    return _declared(None, NamesLevel(label=label, told=told, of=of))


def levels_field(of: str, told: str = "") -> tuple[str, ...]:
    """A field that names several levels of the column in the field `of`."""
    return _declared((), NamesLevel(told=told, of=of))


def number_field(
    default: Held, label: str, holds: TypeNumber, told: str = "", *, empty: str = "…", reset_by: tuple[str, ...] = ()
) -> Held:
    """A field for a typed number; where None is not a value of its own, it must be typed."""
    return _declared(default, HoldsNumber(label=label, told=told, holds=holds, empty=empty, reset_by=reset_by))


def seed_field(drawn: str = "draws", told: str = "The seed of what is drawn.", most: int = MOST_SEED) -> int:
    """A field for the seed of `drawn`; the window asks such a field, whatever its name, for another one."""
    holds = TypeSeed(0, most, whole=True, help=f"The same seed, the same {drawn}.")
    return _declared(1, HoldsSeed(label="seed", told=told, holds=holds))


def choice_field(
    default: Held, label: str, options: Iterable[Option], told: str = "", *, reset_by: tuple[str, ...] = ()
) -> Held:
    """A field for one of several choices."""
    return _declared(default, Chooses(label=label, told=told, options=tuple(options), reset_by=reset_by))


def choices_field(
    default: tuple[str, ...],
    label: str,
    options: Iterable[Option],
    told: str = "",
    *,
    what: str = "choices",
    least: int = 0,
    none: str = "none",
) -> tuple[str, ...]:
    """A field for some of several choices."""
    made = ChoosesSeveral(label=label, told=told, options=tuple(options), what=what, least=least, none=none)
    return _declared(default, made)


def text_field(
    label: str,
    holds: TypeText,
    told: str = "",
    *,
    empty: str = "",
    default: str = "",
    quotes: bool = False,
    reset_by: tuple[str, ...] = (),
) -> str:
    """A field for typed text; `empty` is shown where there is none."""
    made = HoldsText(label=label, told=told, holds=holds, empty=empty, quotes=quotes, reset_by=reset_by)
    return _declared(default, made)


def word_field(label: str, help_: str, told: str = "", *, empty: str = "", longest: int = 60) -> str:
    """A field for a word or two, such as what is counted."""
    return text_field(label, TypeText(help_, longest=longest), told or help_, empty=empty)


def bare_field(default: Held, told: str | Callable[[], str] = "", *, reset_by: tuple[str, ...] = ()) -> Held:
    """A field whose slot its holder makes from other things, or that has no slot."""
    return _declared(default, Declared(told=told, reset_by=reset_by))


def nested_field(kind: Callable[[], Held], told: str = "") -> Held:
    """A field for a value nested in the statement; `kind` makes the usual one."""
    return field(default_factory=kind, metadata={"slot": Declared(told=told)})


def declared(cls: type) -> dict[str, Declared]:
    """What the fields of a class say of their slots, by name; not of those that say nothing."""
    return _declared_of(cls)


def slotted(cls: type) -> dict[str, DeclaredSlot[Any]]:
    """Those of them that make a slot."""
    return _slotted_of(cls)


@cache  # apart from what is called: checked types do not take a cached function of a class
def _declared_of(cls: type) -> dict[str, Declared]:
    return {f.name: f.metadata["slot"] for f in dataclasses.fields(cls) if "slot" in f.metadata}


@cache
def _slotted_of(cls: type) -> dict[str, DeclaredSlot[Any]]:
    return {name: told for name, told in _declared_of(cls).items() if isinstance(told, DeclaredSlot)}


def default_of(holder: Fielded, name: str) -> object:
    """What a field holds unasked."""
    found = next(f for f in dataclasses.fields(holder) if f.name == name)  # type: ignore[arg-type]
    if found.default is not dataclasses.MISSING:
        return found.default
    assert found.default_factory is not dataclasses.MISSING
    return found.default_factory()


class Fielded:
    """Base of the frozen dataclasses whose fields carry their slots: statements, and what is nested in them."""

    def field_slot(self, name: str, place: Place, **other: Any) -> Slot:
        """The slot of a field; `other` is what it says otherwise than declared, as things stand."""
        told = slotted(type(self))[name]
        if other:
            told = replace(told, **other)
        slot = told.slot(name, getattr(self, name), place, self)
        changes = {"shown": told.shown, "missing": told.missing, "name": place.path and place.path + slot.name}
        said = {key: text for key, text in changes.items() if text}
        return replace(slot, **said) if said else slot  # type: ignore[arg-type]

    def put_back(self, slot: str) -> Self:
        """It with the fields put back that hang on a slot which was set."""
        changes = {
            name: default_of(self, name)
            for name, told in declared(type(self)).items()
            if any(slot.startswith(one) if one.endswith(".") else slot == one for one in told.reset_by)
        }
        return replace(self, **changes) if changes else self  # type: ignore[type-var]

    def with_columns_of(self, table: Table) -> Self:
        """It with columns that the table has: each where it fits, else none or the first that does."""
        made = self
        for name, told in declared(type(self)).items():
            if isinstance(told, NamesColumn | NamesColumns):
                held = getattr(made, name)
                fit = told.fitting(held, table, made)
                if fit != held:
                    made = replace(made, **{name: fit})  # type: ignore[type-var]
        return made

    def misfit(self) -> str:
        """The first field that holds what no slot would take, and why; empty for none."""
        for name, told in slotted(type(self)).items():
            problem = told.problem(getattr(self, name))
            if problem:
                return f"{name} cannot be {shortened(str(getattr(self, name)))}. {problem}"
        return ""


def _taken(holder: Fielded, names: tuple[str, ...]) -> list[str]:
    """The columns that stand in other fields already."""
    return [value for name in names if (value := getattr(holder, name))]

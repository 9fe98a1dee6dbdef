"""What a statement is said with: text and slots, and what each slot may hold."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Mapping
from contextlib import suppress
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, listed, sentence_case, shortened, whole, with_unit
from theoros.table.kinds import Kind, NotAValue, parse_date, parse_number
from theoros.table.table import Column, Table

Tables = Mapping[str, Table]


@dataclass(frozen=True)
class Option:
    """One thing a slot may hold. `group` is the heading it stands under."""

    value: Any
    label: str
    detail: str = ""
    help: str = ""
    group: str = ""


@dataclass(frozen=True)
class Pick:
    """One of several: a column, a level, a choice of words."""

    options: tuple[Option, ...]

    def problem(self, value: object) -> str:
        """Why it cannot hold the value; empty if it can."""
        if any(option.value == value for option in self.options):
            return ""
        fit = ", ".join(
            "none" if o.value is None else str(o.value) for o in self.options if not isinstance(o.value, tuple)
        )
        if value is None or value == "":
            return f"Choose one: {fit}." if fit else "There is nothing to choose here yet."
        return f"It cannot be “{shortened(str(value))}” here." + (f" It can be: {fit}." if fit else "")


def _number(text: str) -> float:
    """A number as it was typed. Raises NotWorkedOut."""
    with suppress(NotAValue):  # a number alone, in any form that a cell takes
        value = parse_number(text)
        return TypedNumber(text) if re.fullmatch(r"[-−]?\d+[.,]\d+", text) else value
    return TypedNumber(text)


_EPOCH = date(1970, 1, 1)
FIRST_DAY, LAST_DAY = (date.min - _EPOCH).days, (date.max - _EPOCH).days
"""The days that there are, by the calendar of dates."""


@dataclass(frozen=True)
class TypeNumber:
    """A number that is typed, within bounds; None stands for "work it out" if `auto`."""

    low: float = -math.inf
    high: float = math.inf
    low_open: bool = False
    high_open: bool = False
    whole: bool = False
    unit: str = ""
    auto: bool = False
    help: str = ""
    days: bool = False
    """Whether it is a date, typed as one; the number is its days since 1970-01-01."""
    percent: bool = False
    """Whether it is a share that is told in per cent; 95, 95 % and 0.95 are the same."""

    def read(self, text: str) -> tuple[float | None, str]:
        """The number that was typed, and what is wrong with it; empty text stands for None."""
        text = text.strip().removesuffix(self.unit).strip()
        value: float | None = None
        if not text:
            return None, self.problem(None) and self.range_words
        try:
            value = (parse_date(text) - _EPOCH).days if self.days else _number(text)
        except (NotAValue, NotWorkedOut) as wrong:
            return None, f"{str(wrong).removesuffix('.')}. {self.range_words}"
        if self.whole and value == int(value):
            value = int(value)
        if self.percent and 1 < value < 100:
            value = value / 100
        return value, self.problem(value)

    def typed(self, value: float | None) -> str:
        """A value as somebody would type it, without the marks of typesetting."""
        if value is None:
            return ""
        if self.days and FIRST_DAY <= value <= LAST_DAY:
            return (_EPOCH + timedelta(days=round(value))).isoformat()
        if isinstance(value, TypedNumber):
            return value.text
        if self.percent:
            return f"{exact(round(100 * value, 10))} %"
        text = exact(float(value))
        return repr(value) if "×" in text else text.replace("−", "-").replace("\u202f", "")

    def problem(self, value: object) -> str:
        """Why it cannot hold the value, with the range that it can; empty if it can."""
        if value is None:
            return "" if self.auto else self.range_words
        if isinstance(value, bool) or not isinstance(value, int | float):
            return f"“{shortened(str(value))}” is not a number. {self.range_words}"
        if not math.isfinite(value):
            return f"It must be a finite number. {self.range_words}"
        if self.days and not FIRST_DAY <= value <= LAST_DAY:
            return f"It is a day beyond the years 1 to 9999. {self.range_words}"
        low = value <= self.low if self.low_open else value < self.low
        high = value >= self.high if self.high_open else value > self.high
        if high and self.percent and value > 1:
            return f"{exact(value)} is more than 1. {self.range_words}"
        if low or high:
            return f"{exact(value)} is out of range. {self.range_words}"
        if self.whole and value != int(value):
            return f"{exact(value)} is not a whole number. {self.range_words}"
        return ""

    @property
    def range_words(self) -> str:
        """ "Type a whole number from 1 to 100 000." """
        if self.days:
            return "Type a date, such as 2026-03-01."
        what = "a whole number" if self.whole else "a number"
        if self.percent:
            return "Type a percentage between 0 and 100, such as 95 % or 0.95."

        def bound(value: float) -> str:
            return whole(int(value)) if abs(value) < 1e12 and value == int(value) else exact(value)

        if math.isfinite(self.low) and math.isfinite(self.high):
            if self.low_open or self.high_open:
                return f"Type {what} between {bound(self.low)} and {bound(self.high)}."
            return f"Type {what} from {bound(self.low)} to {bound(self.high)}."
        if math.isfinite(self.low):
            above = "above" if self.low_open else "of at least"
            return f"Type {what} {above} {bound(self.low)}."
        return f"Type {what}."


def percent_inside(help_: str = "") -> TypeNumber:
    """A percentage that is neither none nor all."""
    return TypeNumber(0, 1, low_open=True, high_open=True, percent=True, help=help_)


@dataclass(frozen=True)
class PickSeveral:
    """Some of several, in an order that may matter."""

    options: tuple[Option, ...]
    least: int = 1
    what: str = "columns"

    def problem(self, value: object) -> str:
        """Why it cannot hold the value; empty if it can."""
        if not isinstance(value, tuple):
            return f"“{value}” is not a list."
        for one in value:
            if not any(option.value == one for option in self.options):
                return f"“{shortened(str(one))}” cannot be chosen here."
        if len(set(value)) < len(value):
            return "Each can be chosen once."
        if len(value) < self.least:
            least = {1: "one", 2: "two"}.get(self.least, str(self.least))
            return f"Choose {least} or more of the {self.what}."
        return ""


@dataclass(frozen=True)
class TypeSeed(TypeNumber):
    """The seed of what is drawn by chance."""


MOST_SEED = 2**31 - 1


@dataclass(frozen=True)
class TypeText:
    """Text that is typed; `suggestions` are offered while typing."""

    help: str = ""
    suggestions: tuple[str, ...] = ()
    may_be_empty: bool = True
    longest: int = 2000

    def problem(self, value: object) -> str:
        """Why it cannot hold the value; empty if it can."""
        if not isinstance(value, str):
            return f"“{value}” is not text."
        if len(value) > self.longest:
            return f"That is longer than the {self.longest} letters that fit."
        if not value.strip() and not self.may_be_empty:
            return self.help or "Type something."
        return ""


@dataclass(frozen=True)
class TypeFormula(TypeText):
    """A formula over the columns of a table; with `condition`, one that is true or false."""

    columns: tuple[str, ...] = ()
    condition: bool = False


Holds = Pick | PickSeveral | TypeNumber | TypeText


@dataclass(frozen=True)
class Slot:
    """A part of a statement that can be changed."""

    name: str
    """The field of the statement that it sets."""
    label: str
    """What it is, in words: for a screen reader, and in the pane at the right."""
    shown: str
    value: Any
    holds: Holds
    missing: str = ""
    """Why it does not fit, where that is not a matter of the value alone."""
    group: str = ""
    """Of a setting that is rarely used: under which heading it is folded away."""
    changed: bool = False
    """Whether it holds something else than it does unasked; its group is then unfolded."""

    @property
    def problem(self) -> str:
        """Why the statement cannot be answered with what this slot holds."""
        if self.missing:
            return self.missing
        problem = self.holds.problem(self.value)
        return f"{sentence_case(self.label)}: {problem}" if problem else ""


Phrase = tuple[str | Slot, ...]
EMPTY = "…"
"""What a sentence shows where nothing is chosen yet; the page says what is missing."""


@dataclass(frozen=True)
class SlotGrid:
    """Slots in rows and columns below a sentence: figures of many groups, a table of counts."""

    label: str
    """What it holds, for a screen reader."""
    columns: tuple[str, ...]
    """Names of the columns; the first stands above the names of the rows."""
    rows: tuple[tuple[str | Slot, ...], ...]
    """For each row its name (text, or a slot for it), then as many cells as there are columns."""

    @property
    def slots(self) -> tuple[Slot, ...]:
        """Its slots, row by row."""
        return tuple(cell for row in self.rows for cell in row if isinstance(cell, Slot))


@dataclass(frozen=True)
class Mended:
    """A statement after a slot was changed, and what else had to change, in words."""

    statement: Any
    notes: tuple[str, ...] = ()


def column_option(column: Column, table: Table, *, other: bool) -> Option:
    """A column to choose, with its unit and kind; from another table it carries that name."""
    detail = " · ".join(part for part in (column.unit, str(column.kind)) if part)
    value = (table.name, column.name) if other else column.name
    group = f"in {table.name}" if other else ""
    return Option(value, column.name, detail, column.meaning, group)


def column_slot(
    name: str,
    label: str,
    value: str | None,
    tables: Tables,
    table: str,
    kinds: Iterable[Kind],
    *,
    none: str = "",
    elsewhere: bool = False,
    exclude: Iterable[str] = (),
) -> Slot:
    """A slot for a column of certain kinds; with `none`, one that may be left empty.

    With `elsewhere`, columns of other tables can be chosen too, as (table, column).
    """
    wanted, shut = tuple(kinds), set(exclude)
    own = tables.get(table)
    options = [Option(None, none)] if none else []
    if own:
        options += [
            column_option(column, own, other=False) for column in own.of_kind(*wanted) if column.name not in shut
        ]
    if elsewhere:
        for other in tables.values():
            if other is not own:
                options += [column_option(c, other, other=True) for c in other.of_kind(*wanted)]
    shown, missing = none, ""
    if value is not None:
        column = own.by_name.get(value) if own else None
        shown = column.label if column else value
        if own is None:
            missing = f"There is no table called “{shortened(table)}” in this study."
        elif column is None:
            missing = f"There is no column “{shortened(value)}” in {table}. Choose another column."
        elif column.kind not in wanted:
            kinds_text = listed(list(dict.fromkeys(kind.value for kind in wanted)), "or")
            missing = (
                f"{value} is a {column.kind} column, and {label} must be a {kinds_text} column. "
                f"Choose another column, or change its kind in the table."
            )
        elif value in shut:
            missing = f"{value} is used elsewhere in this statement. Choose another column."
    elif not none:
        shown = EMPTY
        kinds_text = listed(list(dict.fromkeys(kind.value for kind in wanted)), "or")
        missing = (
            f"Choose {label}: a {kinds_text} column."
            if any(option.value is not None for option in options)
            else f"There is no {kinds_text} column in {table} to use as {label}. Add one, or change a column’s kind."
        )
    return Slot(name, label, shown, value, Pick(tuple(options)), missing)


def choice_slot(name: str, label: str, value: object, options: Iterable[Option]) -> Slot:
    """A slot for one of several choices, shown by the label of the one it holds."""
    choices = tuple(options)
    shown = next((option.label for option in choices if option.value == value), str(value))
    return Slot(name, label, shown, value, Pick(choices))


def number_slot(name: str, label: str, value: float | None, holds: TypeNumber, shown: str = "") -> Slot:
    """A slot for a typed number, shown with its unit."""
    text = shown or (with_unit(exact(value), holds.unit) if value is not None else "automatic")
    return Slot(name, label, text, value, holds)


def next_seed(seed: int, most: int = MOST_SEED) -> int:
    """Another seed: the one after it, and after the last one the first."""
    return (seed + 1) % (most + 1)


def columns_slot(
    name: str,
    label: str,
    value: tuple[str, ...],
    tables: Tables,
    table: str,
    kinds: Iterable[Kind] = tuple(Kind),
    *,
    least: int = 1,
    none: str = "",
) -> Slot:
    """A slot for several columns of certain kinds; with `none`, one that may be left empty."""
    wanted = tuple(kinds)
    own = tables.get(table)
    options = [column_option(c, own, other=False) for c in own.of_kind(*wanted)] if own else []
    holds = PickSeveral(tuple(options), 0 if none else least)
    missing = ""
    for one in value:
        if own is not None and one not in own.by_name:
            missing = f"There is no column “{shortened(one)}” in {table}. Choose another."
        elif own is not None and own.column(one).kind not in wanted:
            missing = f"{one} is a {own.column(one).kind} column, which does not fit here."
    if not value and not none:
        words = f"{least} or more " if least > 1 else ""
        missing = f"Choose {label}: {words}{listed([k.value for k in wanted], 'or')} columns."
    shown = listed(list(value)) if value else none or EMPTY
    return Slot(name, label, shown, value, holds, missing)


def text_slot(name: str, label: str, value: str, holds: TypeText, *, empty: str = "", quotes: bool = False) -> Slot:
    """A slot for typed text; `empty` is shown where there is none."""
    shown = (f"“{value}”" if quotes else value) if value else empty or EMPTY
    return Slot(name, label, shown, value, holds)


def joined(phrase: Phrase) -> Phrase:
    """The same phrase with pieces of text that follow each other made one."""
    made: list[str | Slot] = []
    for part in phrase:
        last = made[-1] if made else None
        if isinstance(part, str) and isinstance(last, str):
            made[-1] = last + part
        else:
            made.append(part)
    return tuple(made)


def phrase_text(phrase: Phrase) -> str:
    """The sentence as plain text."""
    return "".join(part if isinstance(part, str) else part.shown for part in phrase)

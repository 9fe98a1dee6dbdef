"""Shares of cases that have something: of all cases, or in two groups; from rows, or typed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import plural, spoken
from theoros.answer.wording import sentence_case
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.table.table import Table
from theoros.verbs.core.fields import GROUPING, column_field, level_field, text_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.data.columns import level_slot, lost_words
from theoros.verbs.data.data import Data, Family, Sides
from theoros.verbs.data.groups import grouping, said_unused, why_none
from theoros.verbs.data.samples import Cells, Observed

SUCCESSES = "successes"
MOST_CASES = 1_000_000_000
COUNTED = TypeText("What is counted, such as “leaking jars”.", longest=120)
AMONG = TypeText("What they are counted among, such as “jars”.", longest=120)


@dataclass(frozen=True, eq=False)
class Share:
    """How many of n cases have something (0 <= x <= n, n >= 1)."""

    label: str
    """Its name in short; empty where there is one alone."""
    phrase: str
    """How to speak of the cases: "netted bushes"."""
    x: int
    n: int

    @property
    def value(self) -> float:
        return self.x / self.n


def _among(share: Share) -> str:
    """ "among netted bushes", "in the “drug” group"."""
    return f"in {share.phrase}" if share.phrase.startswith("the ") else f"among {share.phrase}"


def _among_all(share: Share) -> str:
    """What a sample stands for: "among all jars"; of a name that is no word for cases, its population."""
    phrase = share.phrase
    if phrase.startswith("the "):
        return f"in the population of {phrase}"
    if phrase.lower().endswith("s") or " " not in phrase:
        return f"among all {phrase}"
    return f"in the population of {phrase}"


@dataclass(frozen=True, eq=False, kw_only=True)
class Shares(Observed):
    """One share, or two separate ones of the same thing."""

    success: str
    """What the cases have that are counted."""
    of: tuple[Share, ...]
    decimals: int = 3
    from_rows: bool = False
    lost: tuple[str, ...] = ()
    null: float | None = None
    """The share that is claimed of one, where one is."""

    @property
    def sides(self) -> tuple[Share, ...]:
        return self.of

    @property
    def size(self) -> int:
        return sum(share.n for share in self.of)

    @property
    def arrays(self) -> tuple[Floats | Ints, ...]:
        return (np.array([(share.x, share.n) for share in self.of], dtype=np.int64),)

    def cells(self) -> Cells:
        return [{"group": one.label or self.said, self.said: float(one.x), "n": float(one.n)} for one in self.of]

    def with_counts(self, counts: Sequence[int]) -> Shares:
        """Other counts of the same cases."""
        return replace(self, of=tuple(replace(one, x=int(x)) for one, x in zip(self.of, counts, strict=True)))

    @property
    def letters(self) -> tuple[str, ...]:
        return tuple(share.label for share in self.of)

    @property
    def names(self) -> tuple[str, ...]:
        return tuple(spoken(share.label) for share in self.of)

    @property
    def used(self) -> int:
        return self.size if self.from_rows else 0

    @property
    def left_out(self) -> tuple[str, ...]:
        return self.lost

    @property
    def typed(self) -> bool:
        return not self.from_rows

    @property
    def said(self) -> str:
        """What is counted, in a sentence: “fine”, or a word of one's own."""
        return f"“{self.success}”" if self.from_rows else self.success

    def clauses(self, parameter: str) -> tuple[str, ...]:
        first, *rest = self.of
        if not rest:
            return self.meanings(parameter)
        return (f"the {parameter} of {self.said} {_among(first)}", *(f"that {_among(share)}" for share in rest))

    def meanings(self, parameter: str) -> tuple[str, ...]:
        return tuple(f"the {parameter} of {self.said} {_among_all(s)}" for s in self.of)


@dataclass(frozen=True)
class LevelShare(Data):
    """The share of the cases that have a level of a category."""

    kind: ClassVar[str] = "level"
    label: ClassVar[str] = "a level of a category"
    help: ClassVar[str] = "The share of the rows in use that have it."
    family: ClassVar[Family] = "one share"
    order: ClassVar[int] = 50
    what: str | None = column_field("the category", GROUPING, elsewhere=True, levels=1)
    level: str | None = level_field("what")

    def slots(self, place: Place) -> tuple[Slot, ...]:
        level = level_slot(place, "level", "what is counted", self.level, self.what, anywhere=True, several=False)
        return level, self.field_slot("what", place)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        level, what = self.slots(place)
        return Sides((*parameter, " of ", level, " in ", what))

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        return _moved(self, field, value)

    def filled(self, table: Table) -> LevelShare:
        made = self.with_columns_of(table)
        return replace(made, level=_level_field(table, made.what, self.level))

    @property
    def title(self) -> str:
        return f"Share of {self.level}" if self.level else ""

    def read(self, tables: Tables, table: str) -> Shares:
        own, what, level = tables[table], str(self.what), str(self.level)
        has, rows, lost = _having(own, what, level)
        if rows.size == 0:
            raise CannotAnswer(why_none(own, what), "data.what")
        share = Share("", plural(own.noun), int(has.sum()), int(rows.size))
        return Shares(
            success=level,
            of=(share,),
            noun=own.noun,
            from_rows=True,
            lost=(*lost_words(own, lost, what), *said_unused(own)),
        )


@dataclass(frozen=True)
class TwoLevelShares(Data):
    """The share that have a level of one category, in two levels of another."""

    kind: ClassVar[str] = "level in two groups"
    label: ClassVar[str] = "a level, in two groups"
    help: ClassVar[str] = "Each row is a case; one column has its level, another its group."
    family: ClassVar[Family] = "two shares"
    order: ClassVar[int] = 52
    what: str | None = column_field("the category", GROUPING, elsewhere=True, levels=1)
    level: str | None = level_field("what")
    by: str | None = column_field("the groups", GROUPING, other_than=("what",))
    first: str | None = level_field("by")
    second: str | None = level_field("by")

    def slots(self, place: Place) -> tuple[Slot, ...]:
        level = level_slot(place, "level", "what is counted", self.level, self.what, anywhere=True, several=False)
        one = level_slot(place, "first", "the first group", self.first, self.by, anywhere=True)
        two = level_slot(place, "second", "the second group", self.second, self.by, other=self.first)
        return level, one, two

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        level, one, two = self.slots(place)
        return Sides((*parameter, " of ", level, " for ", one), ("that for ", two), ("for ", two))

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        moved = _moved(self, field, value)
        if moved is not None:
            data, notes = moved
            return (data.filled(place.own) if place.own is not None else data), notes
        others = {"first": self.second, "second": self.first}
        if field in others and value is not None and value == others[field]:
            return self.swapped(), ["The two groups were swapped."]
        return None

    def filled(self, table: Table) -> TwoLevelShares:
        made = self.with_columns_of(table)
        groups = list(table.levels(made.by)) if made.by else []
        first = self.first if self.first in groups else None
        second = self.second if self.second in groups and self.second != first else None
        rest = [one for one in groups if one not in (first, second)]
        first = first or (rest.pop(0) if rest else None)
        second = second or (rest.pop(0) if rest else None)
        return replace(made, level=_level_field(table, made.what, self.level), first=first, second=second)

    def swapped(self) -> TwoLevelShares:
        return replace(self, first=self.second, second=self.first)

    @property
    def title(self) -> str:
        return f"Share of {self.level}: {self.first or '…'} and {self.second or '…'}" if self.level else ""

    def read(self, tables: Tables, table: str) -> Shares:
        own, what, level, by = tables[table], str(self.what), str(self.level), str(self.by)
        has, rows, lost = _having(own, what, level)
        made = grouping(own, by, None)
        shares = []
        for label in (str(self.first), str(self.second)):
            code = made.labels.index(label)
            here = made.codes[rows] == code
            if not here.any():
                raise CannotAnswer(f"No row of {label} has a value of {what}. Choose another group.", "data.first")
            shares.append(Share(label, made.phrases[code], int(has[here].sum()), int(here.sum())))
        unknown = int((made.codes[rows] < 0).sum())
        left = (*lost_words(own, lost, what), *lost_words(own, unknown, by), *said_unused(own))
        return Shares(success=level, of=tuple(shares), noun=own.noun, from_rows=True, lost=left)


def _moved(data: LevelShare | TwoLevelShares, field: str, value: object) -> tuple[Data, list[str]] | None:
    """A level of another category brings that along."""
    from theoros.verbs.data.columns import ELSEWHERE

    if field not in ("level", "first") or not isinstance(value, str) or ELSEWHERE not in value:
        return None
    home, _, level = value.partition(ELSEWHERE)
    if field == "level":
        return replace(data, what=home, level=level), [f"Levels of {home} are counted now."]
    assert isinstance(data, TwoLevelShares)
    return replace(data, by=home, first=level, second=None), [f"The groups are levels of {home} now."]


def _level_field(table: Table, what: str | None, level: str | None) -> str | None:
    """The level where the category has it, else its first."""
    levels = table.levels(what) if what else ()
    return level if level in levels else next(iter(levels), None)


def _having(table: Table, what: str, level: str) -> tuple[Bools, Ints, int]:
    """Which of the cases with a known level have this one, those cases, and how many have none."""
    codes, cases = table.codes(what), table.cases
    levels = table.levels(what)
    rows = cases[codes[cases] >= 0]
    code = levels.index(level) if level in levels else -2
    return np.asarray(codes[rows] == code), rows, int(cases.size - rows.size)


@dataclass(frozen=True)
class TypedSuccesses:
    """x of n, with the name of the group where there are two."""

    name: str = ""
    x: int | None = None
    n: int | None = None

    def slots(self, at: int, place: Place, *, alone: bool) -> tuple[Slot, ...]:
        said = self.called(at)
        whose = "" if alone else f" of {said}"
        name = text_slot(f"groups.{at}.name", f"name of group {at + 1}", self.name, TypeText(longest=120), empty=said)
        x = _count(f"groups.{at}.x", f"number of successes{whose}", self.x, 0)
        n = _count(f"groups.{at}.n", f"n{whose}", self.n, 1)
        if self.x is not None and self.n is not None and self.x > self.n:
            x = replace(x, missing=f"There cannot be {self.x} of {self.n}. Type {self.n} at most.")
        made = (x, n) if alone else (name, x, n)
        return tuple(place.slot(slot) for slot in made)

    def called(self, at: int) -> str:
        return self.name.strip() or f"group {at + 1}"


def _count(name: str, label: str, value: int | None, low: int) -> Slot:
    holds = TypeNumber(low, MOST_CASES, whole=True)
    slot = number_slot(name, label, value, holds, str(value) if value is not None else "…")
    what = f"the {label}"
    if low:
        what = f"{label}, how many cases {'there are' if label == 'n' else 'it has'}"
    return slot if value is not None else replace(slot, missing=f"Type {what}.")


@dataclass(frozen=True)
class TypedShare(Data):
    """x of n, typed."""

    kind: ClassVar[str] = "typed share"
    label: ClassVar[str] = "typed figures: x of n"
    help: ClassVar[str] = "No rows: x of n is typed."
    family: ClassVar[Family] = "one share"
    typed: ClassVar[bool] = True
    order: ClassVar[int] = 51
    success: str = text_field("what is counted", COUNTED, empty=SUCCESSES)
    cases: str = text_field("what they are", AMONG, empty="cases")
    fixed_groups: ClassVar[int] = 1
    groups: tuple[TypedSuccesses, ...] = (TypedSuccesses(),)

    def _words(self, place: Place) -> tuple[Slot, Slot]:
        return self.field_slot("success", place), self.field_slot("cases", place)

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (*self._words(place), *self.groups[0].slots(0, place, alone=True))

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        success, cases = self._words(place)
        x, n = self.groups[0].slots(0, place, alone=True)
        return Sides((*parameter, " of ", success, " among ", cases, " (", x, " of ", n, ")"))

    @property
    def title(self) -> str:
        return f"Share of {self.success.strip() or SUCCESSES}"

    def read(self, tables: Tables, table: str) -> Shares:
        one = self.groups[0]
        assert one.x is not None
        assert one.n is not None
        share = Share("", self.cases.strip() or "cases", one.x, one.n)
        return Shares(success=self.success.strip() or SUCCESSES, of=(share,), noun="case")


@dataclass(frozen=True)
class TypedShares(Data):
    """x of n in two groups, typed."""

    kind: ClassVar[str] = "typed shares"
    label: ClassVar[str] = "typed figures: x of n, twice"
    help: ClassVar[str] = "No rows: x of n is typed for both groups."
    family: ClassVar[Family] = "two shares"
    typed: ClassVar[bool] = True
    order: ClassVar[int] = 53
    success: str = text_field("what is counted", COUNTED, empty=SUCCESSES)
    fixed_groups: ClassVar[int] = 2
    groups: tuple[TypedSuccesses, ...] = (TypedSuccesses(), TypedSuccesses())

    def _success(self, place: Place) -> Slot:
        return self.field_slot("success", place)

    def slots(self, place: Place) -> tuple[Slot, ...]:
        own = [s for at, g in enumerate(self.groups) for s in g.slots(at, place, alone=False)]
        return (self._success(place), *own)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        def group(at: int) -> Phrase:
            name, x, n = self.groups[at].slots(at, place, alone=False)
            return (name, " (", x, " of ", n, ")")

        start = (*parameter, " of ", self._success(place), " for ", *group(0))
        return Sides(start, ("that for ", *group(1)), ("for ", *group(1)))

    def swapped(self) -> TypedShares:
        return replace(self, groups=self.groups[::-1])

    @property
    def title(self) -> str:
        one, two = (group.called(at) for at, group in enumerate(self.groups))
        return f"{sentence_case(self.success.strip() or SUCCESSES)}: {one} and {two}"

    def read(self, tables: Tables, table: str) -> Shares:
        names = [group.called(at) for at, group in enumerate(self.groups)]
        if names[0] == names[1]:
            raise CannotAnswer("Both groups have the same name.", "data.groups.1.name")
        of = []
        for name, group in zip(names, self.groups, strict=True):
            assert group.x is not None
            assert group.n is not None
            phrase = name if " " in name or name.lower().endswith("s") else f"the “{name}” group"
            of.append(Share(name, phrase, group.x, group.n))
        return Shares(success=self.success.strip() or SUCCESSES, of=tuple(of), noun="case")


DATA = (LevelShare, TypedShare, TwoLevelShares, TypedShares)

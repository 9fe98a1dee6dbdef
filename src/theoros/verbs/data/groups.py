"""Splitting cases into groups by one category or two, and saying which were left out."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted, group_phrase, pair_phrase, plural
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.numeric.summaries import Summary, summarize
from theoros.table.table import Table

MOST_GROUPS = 60
LARGEST, SMALLEST = 1e300, 1e-300


@dataclass(frozen=True, eq=False)
class Group:
    """The cases of one level: their values (finite) and the rows they stand in."""

    label: str
    phrase: str
    """How to speak of its cases: "slow trays"."""
    values: Floats
    rows: Ints
    missing: int

    def summary(self, rule: str = "halves") -> Summary:
        """The summary of its values, worked out once for each quartile rule."""
        known: dict[str, Summary] = self.__dict__.setdefault("_summaries", {})
        if rule not in known:
            known[rule] = summarize(self.values, rule)
        return known[rule]

    def beyond(self, summary: Summary) -> Bools:
        """Which of its values lie beyond the fences of one of its summaries, worked out once."""
        known: dict[int, tuple[Summary, Bools]] = self.__dict__.setdefault("_beyond", {})
        if id(summary) not in known:
            known[id(summary)] = summary, summary.outside(self.values)
        return known[id(summary)][1]


@dataclass(frozen=True, eq=False)
class Grouping:
    """Groups by one category, or by each combination of two that occurs."""

    name: str
    """ "netting", or "netting and grade"."""
    labels: tuple[str, ...]
    phrases: tuple[str, ...]
    codes: Ints
    """For each row of the table the place of its group; -1 where a level is missing."""


@dataclass(frozen=True)
class Split:
    """Groups in the order of their levels, and what was left out, in words."""

    groups: tuple[Group, ...]
    left_out: tuple[str, ...]

    @property
    def used(self) -> int:
        return sum(group.values.size for group in self.groups)

    @property
    def all_values(self) -> Floats:
        return np.concatenate([group.values for group in self.groups])


def grouping(table: Table, by: str, and_by: str | None = None) -> Grouping:
    """The groups of a category, or of each combination of two categories that occurs."""
    noun = table.noun
    if and_by is None:
        labels = table.levels(by)
        phrases = tuple(group_phrase(label, by, noun) for label in labels)
        return Grouping(by, labels, phrases, table.codes(by))

    def find() -> Grouping:
        one, two = table.codes(by), table.codes(and_by)
        first, second = table.levels(by), table.levels(and_by)
        both = np.where((one < 0) | (two < 0), -1, one * len(second) + two)
        there = np.unique(both[both >= 0])
        place = np.full(len(first) * len(second) + 1, -1, dtype=np.int64)
        place[there] = np.arange(there.size)
        pairs = [(first[k // len(second)], second[k % len(second)]) for k in there.tolist()]
        labels = tuple(f"{a}, {b}" for a, b in pairs)
        phrases = tuple(pair_phrase(pair, (by, and_by), noun) for pair in pairs)
        return Grouping(f"{by} and {and_by}", labels, phrases, place[both])

    return table.remembered(f"combined with {and_by}", by, find)


def group_labels(table: Table, by: str | None, and_by: str | None) -> tuple[str, ...]:
    """The labels of the groups that the categories make; none where they are not categories."""
    for name in (by, and_by):
        if name is None:
            continue
        if name not in table.by_name or not table.column(name).kind.is_grouping:
            return ()
    return grouping(table, by, and_by).labels if by is not None else ()


def unit_of_count(table: Table) -> str:
    """What is counted: rows, or cases where rows count more than once."""
    return "case" if table.counts else "row"


def said_unused(table: Table) -> list[str]:
    """What is said of rows that are not in use, and of how rows count."""
    said = []
    if table.counts:
        said.append(f"each row counts as often as {table.counts} says")
        lost = table.missing(table.counts)
        if lost:
            said.append(f"{counted(lost, 'row')} left out: {table.counts} is missing")
    if table.keep and table.kept is not None:
        from theoros.table.formula import in_words

        shut = int((~table.kept).sum())
        where = in_words(table.keep, table)
        said.append(f"{counted(shut, 'row')} not kept, only those where {where}")
    if table.aside:
        said.append(f"{counted(len(table.aside), 'row')} set aside")
    return said


def workable(table: Table, what: str) -> Floats:
    """The numbers of a column, NaN where missing.

    Raises CannotAnswer if some are too large, or too close to 0 without being 0, to reckon with.
    """
    values = table.numbers(what)

    def find() -> tuple[float, float]:
        sizes = np.abs(values[np.isfinite(values)])
        return float(sizes.max(initial=0.0)), float(sizes.min(initial=1.0, where=sizes > 0))

    largest, smallest = table.remembered("sizes", what, find)
    if smallest < SMALLEST:
        raise CannotAnswer(
            f"{what} holds values closer to 0 than 10⁻³⁰⁰, too small to work with. Put the column "
            f"in a smaller unit, so its numbers become larger.",
            "what",
        )
    if largest > LARGEST:
        raise CannotAnswer(
            f"{what} holds values beyond 10³⁰⁰, too large to work with. Put the column in a larger "
            f"unit, so its numbers become smaller.",
            "what",
        )
    return values


def split(
    table: Table, what: str, by: str | None, levels: tuple[str, ...] | None = None, and_by: str | None = None
) -> Split:
    """The values of `what` for each group, or all together; each row as often as it counts.

    `levels` are the labels of the groups that are wanted, all if None. Raises CannotAnswer if
    no value is left, or there are more groups than can be shown.
    """
    values, cases = workable(table, what), table.cases
    if what == table.counts:  # a count tells of its row once, however many it counts
        cases = np.flatnonzero(table.in_use)
    # where every row counts once, nothing need be picked out
    plain = (table.weights is None or what == table.counts) and cases.size == values.size
    present = np.isfinite(values if plain else values[cases])
    one = unit_of_count(table)
    left_out: list[str] = []
    if by is None:
        rows = cases[present]
        missing = int(cases.size - rows.size)
        groups = [Group("", plural(table.noun), values[rows], rows, missing)]
    else:
        made = grouping(table, by, and_by)
        wanted = made.labels if levels is None else levels
        _not_too_many(made, wanted, two=and_by is not None)
        codes = made.codes if plain else made.codes[cases]
        place = {label: code for code, label in enumerate(made.labels)}
        # one stable sort by group, instead of a look at every case for each
        order = np.argsort(codes.astype(np.int16), kind="stable")
        ends = np.cumsum(np.bincount(codes + 1, minlength=len(made.labels) + 1))
        groups = []
        for label in wanted:
            code = place.get(label, -2)
            own = order[ends[code] : ends[code + 1]] if code >= 0 else order[:0]
            there = present[own]
            kept = own if there.all() else own[there]
            rows = kept if plain else cases[kept]
            missing = int(own.size - rows.size)
            phrase = made.phrases[code] if code >= 0 else group_phrase(label, by, table.noun)
            groups.append(Group(label, phrase, values[rows], rows, missing))
        rest = [place[label] for label in place if label not in wanted]
        others = int(np.isin(codes, rest).sum()) if rest else 0
        if others:
            left_out.append(f"{counted(others, one)} left out: another {made.name}")
        homeless = int(ends[0])
        if homeless:
            either = f"{by} or {and_by}" if and_by else by
            left_out.append(f"{counted(homeless, one)} left out: {either} is missing")
    lost = sum(group.missing for group in groups)
    if lost:
        left_out.insert(0, f"{counted(lost, one)} left out: {what} is missing")
    left_out += said_unused(table)
    if not any(group.values.size for group in groups):
        raise CannotAnswer(why_none(table, what), "what" if table.in_use.any() else "")
    return Split(tuple(groups), tuple(left_out))


def _not_too_many(made: Grouping, wanted: tuple[str, ...], *, two: bool) -> None:
    n = len(wanted)
    if n > MOST_GROUPS:
        many = f"make {counted(n, 'group')}" if two else f"has {counted(n, 'level')}"
        raise CannotAnswer(
            f"{made.name} {many}, more than the {MOST_GROUPS} groups that can be shown. Choose "
            f"another column, or merge levels.",
            "by",
        )


def why_none(table: Table, what: str) -> str:
    """Why there is no value to work with, and what to do."""
    if table.rows == 0:
        return f"{table.name} has no rows yet. Type or paste some values."
    if not table.in_use.any():
        if table.keep:
            return f"No row of {table.name} is kept. Keep all rows, or change the condition."
        return f"Every row of {table.name} is set aside. Take some rows back."
    if not table.cases.size:
        return f"Every count in {table.counts} is 0 or missing, so there are no cases."
    return (
        f"Every value of {what} is missing, so there is nothing to work with. Type some values, or "
        f"choose another column."
    )

"""The pairs that a model goes through, with their groups."""

from __future__ import annotations

from dataclasses import dataclass, replace

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.kinds import Kind, NotAValue, parse_number
from theoros.table.table import Column, Table
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.columns import known_in, lost_words, squarable
from theoros.verbs.data.groups import MOST_GROUPS, grouping, said_unused, unit_of_count, workable


@dataclass(frozen=True, eq=False)
class PairsGroup:
    """The pairs of one group; all of them where there are no groups."""

    label: str
    phrase: str
    """How to speak of its cases: "Amber bushes"."""
    x: Floats
    y: Floats
    rows: Ints
    code: int = 0


@dataclass(frozen=True, eq=False)
class ModelPairs:
    """Pairs of x and y with the columns that they are of."""

    table: Table
    response: Column
    predictor: Column
    decimals: tuple[int, int]
    """Of x and of y."""
    groups: tuple[PairsGroup, ...]
    left_out: tuple[str, ...]
    names: tuple[tuple[float, str], ...] = ()
    """Names of places on the axis, where levels are read as numbers in their order."""

    @property
    def all(self) -> PairsGroup:
        """All pairs together."""
        if len(self.groups) == 1:
            return self.groups[0]
        x, y, rows = (np.concatenate([getattr(g, name) for g in self.groups]) for name in ("x", "y", "rows"))
        return PairsGroup("", "", x, y, rows)

    @property
    def used(self) -> int:
        return sum(group.x.size for group in self.groups)

    @property
    def noun(self) -> str:
        return self.table.noun


def is_numeric(levels: tuple[str, ...]) -> bool:
    """Whether all levels of a category are numbers."""
    try:
        for level in levels:
            parse_number(level)
    except NotAValue:
        return False
    return bool(levels)


@dataclass(frozen=True)
class PairsChoice:
    """Which pairs are read: all that changes them, so that fits to the same pairs can be kept."""

    table: str
    what: str | None
    against: str | None
    by: str | None = None
    and_by: str | None = None
    as_numbers: bool = False


def read_pairs(s: PairsChoice, tables: Tables) -> ModelPairs:
    """The pairs that are asked for. Raises CannotAnswer."""
    table, what, against = tables[s.table], str(s.what), str(s.against)
    predictor, names = table.column(against), tuple[tuple[float, str], ...]()
    y = workable(table, what)
    if predictor.kind is Kind.NUMBER:
        x = workable(table, against)
        rows, lost = known_in(table, what, against)
    else:
        x, names = _levels_as_numbers(table, predictor)
        rows, lost = known_in(table, what)
        there = np.isfinite(x[rows])
        lost += int((~there).sum())
        rows = rows[there]
    left_out = [*lost_words(table, lost, f"{what} or {against}")]
    groups: list[PairsGroup] = []
    if s.by is None:
        groups.append(PairsGroup("", "", x[rows], y[rows], rows))
    else:
        found = grouping(table, s.by, s.and_by)
        if len(found.labels) > MOST_GROUPS:
            raise CannotAnswer(
                f"{found.name} makes {counted(len(found.labels), 'group')}, more than the "
                f"{MOST_GROUPS} that can be shown. Choose another column, or merge levels.",
                "by",
            )
        codes = found.codes[rows]
        for code, label in enumerate(found.labels):
            own = rows[codes == code]
            if own.size:
                groups.append(PairsGroup(label, found.phrases[code], x[own], y[own], own, code))
        homeless = int((codes < 0).sum())
        if homeless:
            one = unit_of_count(table)
            left_out.append(f"{counted(homeless, one)} left out: {found.name} is missing")
    left_out += said_unused(table)
    if not groups or not sum(group.x.size for group in groups):
        raise CannotAnswer(f"No row has both {what} and {against}.", "against")
    made = ModelPairs(table, table.column(what), predictor, (0, 0), tuple(groups), tuple(left_out), names)
    squarable(made.all.x, against, "against")
    squarable(made.all.y, what, "what")
    places = table.decimals(against) if predictor.kind is Kind.NUMBER else 0
    return replace(made, decimals=(places, table.decimals(what)))


def _levels_as_numbers(table: Table, column: Column) -> tuple[Floats, tuple[tuple[float, str], ...]]:
    """The numbers that levels are, or their places in order."""
    levels = tuple(table.levels(column.name))
    codes = table.codes(column.name)
    if is_numeric(levels):
        worth = np.array([parse_number(level) for level in levels], dtype=np.float64)
        names: tuple[tuple[float, str], ...] = ()
    else:
        worth = np.arange(1.0, len(levels) + 1)
        names = tuple((float(at), level) for at, level in enumerate(levels, 1))
    made = np.append(worth, np.nan)[codes]
    return made, names

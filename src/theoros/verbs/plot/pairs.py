"""What a scatter or a line has to show: pairs of values in groups."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.parts import CannotAnswer
from theoros.answer.picture import Axis, Key, span
from theoros.answer.wording import counted
from theoros.heavy import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.groups import MOST_GROUPS, grouping, said_unused, unit_of_count, workable
from theoros.verbs.plot.plotted import colours
from theoros.verbs.plot.statement import PlotStatement


@dataclass(frozen=True, eq=False)
class PairGroup:
    """The pairs of one panel."""

    label: str
    x: Floats
    y: Floats
    rows: Ints


@dataclass(frozen=True, eq=False)
class Pairs:
    """Pairs of values with their scales and colours."""

    statement: PlotStatement
    table: Table
    groups: tuple[PairGroup, ...]
    across: Axis
    up: Axis
    codes: Ints | None
    keys: tuple[Key, ...]
    left_out: tuple[str, ...]
    against: str
    """What lies along the axis, in words."""

    @property
    def count(self) -> int:
        return sum(group.x.size for group in self.groups)

    @property
    def x(self) -> Floats:
        return np.concatenate([group.x for group in self.groups])

    @property
    def y(self) -> Floats:
        return np.concatenate([group.y for group in self.groups])

    def colours(self, rows: Ints) -> Ints:
        return self.codes[rows] if self.codes is not None else np.zeros_like(rows)


def pairs(statement: PlotStatement, table: Table) -> Pairs:
    """The pairs of a plot of one number against another, a date, or the rows."""
    assert statement.what is not None
    what, against = statement.what, statement.against
    if table.column(what).kind is not Kind.NUMBER:
        raise CannotAnswer(f"{what} is no number column, so it has no place along a scale.", "what")
    y = workable(table, what)
    days = against is not None and table.column(against).kind is Kind.DATE
    if against is None:
        x = np.arange(1, table.rows + 1, dtype=np.float64)
    elif days:
        physical = table.frame[against].to_physical().cast(float)
        x = np.asarray(physical.to_numpy(), dtype=np.float64)
    else:
        x = workable(table, against)
    cases = table.cases
    there = (np.isfinite(x) & np.isfinite(y))[cases]
    rows = cases[there]
    said = against or "its place among the rows"
    if rows.size == 0:
        raise CannotAnswer(f"No row has both {what} and {said}: nothing to plot.", "against")
    lost = int(cases.size - rows.size)
    one = unit_of_count(table)
    left_out = [f"{counted(lost, one)} left out: a value is missing"] if lost else []
    codes, keys, colourless = colours(table, statement.colour)
    made: list[PairGroup] = []
    if statement.by is None:
        made.append(PairGroup("", x[rows], y[rows], rows))
    else:
        split_by = grouping(table, statement.by, statement.and_by)
        if len(split_by.labels) > MOST_GROUPS // 3:
            raise CannotAnswer(
                f"{split_by.name} makes {len(split_by.labels)} panels, more than can be read. "
                f"Choose another column, or merge levels.",
                "by",
            )
        of = split_by.codes[rows]
        for code, label in enumerate(split_by.labels):
            own = rows[of == code]
            if own.size:
                made.append(PairGroup(label, x[own], y[own], own))
        homeless = int((of < 0).sum())
        if homeless:
            left_out.append(f"{counted(homeless, one)} left out: {split_by.name} is missing")
        if not made:
            raise CannotAnswer(f"Every value of {split_by.name} is missing.", "by")
    label = table.column(against).label if against else "row"
    across = Axis(*span(x[rows]), label, days=days)
    up = Axis(*span(y[rows]), table.column(what).label)
    left_out += [*said_unused(table), *colourless]
    return Pairs(statement, table, tuple(made), across, up, codes, keys, tuple(left_out), said)

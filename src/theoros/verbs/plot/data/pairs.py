"""What a scatter or a line has to show: pairs of values in groups."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from theoros.answer.axis import Axis
from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.picture import Key, Picture
from theoros.answer.wording import between_data, exact, listed, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.table.times import MONTHS
from theoros.verbs.data.groups import MOST_GROUPS, grouping, said_unused, unit_of_count, workable
from theoros.verbs.plot.data.numbers import MOST_ACROSS
from theoros.verbs.plot.pictures.axes import axis_for
from theoros.verbs.plot.pictures.colours import MOST_COLOURS, colours, tinted
from theoros.verbs.plot.pictures.reading_line import height_at
from theoros.verbs.plot.statement import PlotStatement


@dataclass(frozen=True, eq=False)
class PairGroup:
    """The pairs of one panel."""

    label: str
    x: Floats
    y: Floats
    rows: Ints
    codes: Ints
    """The colour of each pair; all 0 for one colour."""


@dataclass(frozen=True, eq=False)
class Response:
    """One of the numbers that are set against the axis."""

    name: str
    x: Floats
    y: Floats


@dataclass(frozen=True)
class PairColumn:
    """The groups of one level of the second category; all of them where there is none."""

    title: str
    groups: tuple[PairGroup, ...]


@dataclass(frozen=True, eq=False)
class PlottedPairs:
    """Pairs of values with their scales and colours."""

    statement: PlotStatement
    table: Table
    groups: tuple[PairGroup, ...]
    across: Axis
    up: Axis
    keys: tuple[Key, ...]
    left_out: tuple[str, ...]
    against: str
    """What lies along the axis, in words."""
    used: int
    """Cases that have a point."""

    @property
    def roles(self) -> tuple[str, ...]:
        """The colours of the keys."""
        return Picture((), self.keys).roles

    @property
    def read_at(self) -> float | None:
        """Where the reading line stands; None where there is none."""
        return self.statement.read if "read" in self.statement.uses else None

    def said_at(self, x: float | None) -> str:
        """A value along the axis, in words."""
        if x is None:
            return ""
        if self.across.days:
            return str(np.datetime64(round(x), "D"))
        column = self.table.by_name.get(self.statement.against or "")
        return with_unit(exact(x), column.unit) if column else f"row {exact(x)}"

    @cached_property
    def monthly(self) -> bool:
        """Whether the dates stand for months: several, each the first day of one."""
        if not self.across.days or self.x.size < 2:
            return False
        days = self.x.astype("datetime64[D]")
        return bool((days == days.astype("datetime64[M]")).all())

    def when(self, x: float) -> str:
        """A date along the axis with its preposition: "on 2026-03-14", "in March 2026"."""
        day = np.datetime64(round(x), "D")
        if self.monthly and day == day.astype("datetime64[M]"):
            year, month = str(day).split("-")[:2]
            return f"in {MONTHS[int(month) - 1]} {year}"
        return f"on {day}"

    def readings(self, group: PairGroup, at: float) -> tuple[tuple[float, str, str], ...]:
        """What the lines of a panel say at a value, as words beside the reading line."""
        said = self.heights(group, at)
        texts = [f"{name}: {text}" if name else text for name, text in said]
        return ((at, ", ".join(texts) or "no value here", "start"),)

    def heights(self, group: PairGroup, at: float) -> list[tuple[str, str]]:
        """The height of each line at a value, by the name of its colour, in words."""
        made = []
        for code in np.unique(group.codes).tolist():
            what = self.table.column(self.responses[code if self.statement.also else 0].name)
            places = self.table.decimals(what.name)
            here = np.flatnonzero(group.codes == code)
            order = here[np.argsort(group.x[here], kind="stable")]
            found = height_at(group.x[order], group.y[order], at)
            if found is not None:
                name = self.keys[code].label if self.keys else ""
                made.append((name, with_unit(between_data(found, places), what.unit)))
        return made

    @property
    def columns(self) -> tuple[PairColumn, ...]:
        """The panels in columns, where a second category with few levels makes some."""
        s = self.statement
        first = self.table.levels(s.by) if s.by and s.and_by else ()
        second = self.table.levels(s.and_by) if s.by and s.and_by else ()
        if not 0 < len(second) <= MOST_ACROSS:
            return (PairColumn("", self.groups),)
        known = {group.label: group for group in self.groups}
        none = np.zeros(0, dtype=np.int64)
        nothing = PairGroup("", none.astype(np.float64), none.astype(np.float64), none, none)
        rows = [one for one in first if any(f"{one}, {two}" in known for two in second)]
        return tuple(
            PairColumn(two, tuple(replace(known.get(f"{one}, {two}", nothing), label=one) for one in rows))
            for two in second
        )

    @property
    def responses(self) -> tuple[Response, ...]:
        """Each number that is set against the axis, with its pairs in all panels."""
        names = [str(self.statement.what), *self.statement.also]
        if len(names) == 1:
            return (Response(names[0], self.x, self.y),)
        codes = np.concatenate([group.codes for group in self.groups])
        return tuple(Response(name, self.x[codes == code], self.y[codes == code]) for code, name in enumerate(names))

    @property
    def count(self) -> int:
        return sum(group.x.size for group in self.groups)

    @property
    def x(self) -> Floats:
        return np.concatenate([group.x for group in self.groups])

    @property
    def y(self) -> Floats:
        return np.concatenate([group.y for group in self.groups])


def pairs(statement: PlotStatement, table: Table) -> PlottedPairs:
    """The pairs of a plot of one number against another, a date, or the rows."""
    assert statement.what is not None
    what, against = statement.what, statement.against
    if table.column(what).kind is not Kind.NUMBER:
        raise CannotAnswer(
            (f"{what} is not a number column, so it cannot be on this scale. Choose a number column."), "what"
        )
    days = against is not None and table.column(against).kind is Kind.DATE
    if against is None:
        x = np.arange(1, table.rows + 1, dtype=np.float64)
    elif days:
        physical = table.frame[against].to_physical().cast(float)
        x = np.asarray(physical.to_numpy(), dtype=np.float64)
    else:
        x = workable(table, against)
    said = against or f"{'their' if statement.also else 'its'} place among the rows"
    if statement.also:
        group, keys, left_out, used = _several(statement, table, x)
        keys = tinted(statement, keys)
        made = [group]
    else:
        made, keys, left_out = _groups(statement, table, x, workable(table, what), said)
        used = sum(group.x.size for group in made)
    every_x = np.concatenate([group.x for group in made])
    every_y = np.concatenate([group.y for group in made])
    label = table.column(against).label if against else "row"
    names = [what, *statement.also]
    risen = _label(table, names)
    s = statement
    across = axis_for(
        every_x,
        label,
        s.against_log and not days and s.against is not None,
        ("against_log", "low", "high"),
        (s.low, s.high),
        days=days,
        whole_numbers=not days and (against is None or table.decimals(against) == 0),
        column=against or "",
    )
    up = axis_for(
        every_y,
        risen,
        s.what_log,
        ("what_log", "bottom", "top"),
        (s.bottom, s.top),
        whole_numbers=not any(table.decimals(name) for name in names),
        column=what if len(names) == 1 else "",
    )
    return PlottedPairs(statement, table, tuple(made), across, up, keys, (*left_out, *said_unused(table)), said, used)


def _several(statement: PlotStatement, table: Table, x: Floats) -> tuple[PairGroup, tuple[Key, ...], list[str], int]:
    """Several numbers against one: a colour for each."""
    names = [str(statement.what), *statement.also]
    if len(names) > MOST_COLOURS:
        raise CannotAnswer(f"At most {MOST_COLOURS} numbers can have colours of their own. Choose fewer.", "also")
    cases = table.cases
    parts, left_out = [], []
    present = np.zeros(table.rows, dtype=np.bool_)
    for code, name in enumerate(names):
        y = workable(table, name)
        rows = cases[(np.isfinite(x) & np.isfinite(y))[cases]]
        lost = int(cases.size - rows.size)
        if lost:
            left_out.append(f"{counted(lost, unit_of_count(table))} of {name} left out: missing")
        present[rows] = True
        parts.append((x[rows], y[rows], rows, np.full(rows.size, code)))
    joined = [np.concatenate(piece) for piece in zip(*parts, strict=True)]
    if not joined[0].size:
        raise CannotAnswer(f"No row has a value of {listed(names, 'or')} to plot.", "what")
    used = int(present[cases].sum())
    return PairGroup("", *joined), tuple(Key(name) for name in names), left_out, used


def _label(table: Table, names: list[str]) -> str:
    """What an axis is called that several numbers share, with their unit if they share that."""
    if len(names) == 1:
        return table.column(names[0]).label
    units = {table.column(name).unit for name in names}
    unit = units.pop() if len(units) == 1 else ""
    return f"{listed(names)} ({unit})" if unit else listed(names)


def _groups(
    statement: PlotStatement, table: Table, x: Floats, y: Floats, said: str
) -> tuple[list[PairGroup], tuple[Key, ...], list[str]]:
    """One number against another, in the panels of a category."""
    cases, one = table.cases, unit_of_count(table)
    rows = cases[(np.isfinite(x) & np.isfinite(y))[cases]]
    if rows.size == 0:
        raise CannotAnswer(f"No row has both {statement.what} and {said}: nothing to plot.", "against")
    lost = int(cases.size - rows.size)
    left_out = [f"{counted(lost, one)} left out: a value is missing"] if lost else []
    codes, keys, colourless = colours(statement, table)
    keys = tinted(statement, keys)
    left_out += colourless
    shut = [at for at, key in enumerate(keys) if key.label in statement.hidden]
    if codes is not None and shut and len(shut) < len(keys):
        away = np.isin(codes, shut)[rows]
        left_out.append(f"{counted(int(away.sum()), one)} hidden by colour")
        rows = rows[~away]
        keys = tuple(replace(key, hidden=at in shut) for at, key in enumerate(keys))

    def group(label: str, own: Ints) -> PairGroup:
        coloured = codes[own] if codes is not None else np.zeros_like(own)
        return PairGroup(label, x[own], y[own], own, coloured)

    if statement.by is None:
        return [group("", rows)], keys, left_out
    split_by = grouping(table, statement.by, statement.and_by)
    if len(split_by.labels) > MOST_GROUPS // 3:
        raise CannotAnswer(
            f"{split_by.name} makes {len(split_by.labels)} panels, more than can be read. "
            f"Choose another column, or merge levels.",
            "by",
        )
    of = split_by.codes[rows]
    made = [group(label, rows[of == code]) for code, label in enumerate(split_by.labels) if (of == code).any()]
    homeless = int((of < 0).sum())
    if homeless:
        left_out.append(f"{counted(homeless, one)} left out: {split_by.name} is missing")
    if not made:
        raise CannotAnswer(f"Every value of {split_by.name} is missing.", "by")
    return made, keys, left_out

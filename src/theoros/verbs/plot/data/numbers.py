"""What a plot has to show, worked out once for every shape: groups, colours, scale, bins."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from theoros.answer.axis import Axis, span
from theoros.answer.layers.spots import Spots
from theoros.answer.layers.written_words import WrittenWords
from theoros.answer.picture import Frame, Key, Lane, Panel, Rule
from theoros.answer.wording import exact, listed, percent, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.bins import bin_indices, bin_start
from theoros.numeric.summaries import Summary
from theoros.table.table import Column, Table
from theoros.verbs.data.groups import Group, Split, split
from theoros.verbs.data.pictures import box
from theoros.verbs.plot.pictures.axes import axis_for
from theoros.verbs.plot.pictures.colours import colours, tinted, without_hidden
from theoros.verbs.plot.sentence.sentence import automatic_width
from theoros.verbs.plot.statement import PlotStatement

MOST_ACROSS = 6
"""Columns of panels that a second category may make."""


@dataclass(frozen=True)
class PanelColumn:
    """The groups of one level of the second category; all of them where there is none."""

    title: str
    groups: tuple[Group, ...]


@dataclass(frozen=True, eq=False)
class Plotted:
    """A plot of a number: its groups in panels, and what every shape needs of them."""

    statement: PlotStatement
    table: Table
    column: Column
    cases: Split
    across: tuple[PanelColumn, ...]
    codes: Ints | None
    """The colour of every row of the table; None for one colour."""
    keys: tuple[Key, ...]
    label: str = ""
    """Of the axis; empty for that of the column."""
    rows_used: int | None = None
    """Where several numbers are plotted, the cases with a value of any of them."""

    @property
    def values(self) -> Floats:
        return self.cases.all_values

    @property
    def used(self) -> int:
        """Cases that have a mark."""
        return self.cases.used if self.rows_used is None else self.rows_used

    @property
    def groups(self) -> tuple[Group, ...]:
        return tuple(group for column in self.across for group in column.groups)

    @property
    def scale(self) -> str:
        return self.statement.scale

    def has(self, mark: str) -> bool:
        """Whether a mark is to be added."""
        return mark in self.statement.marks

    @cached_property
    def width(self) -> float:
        """Of a bin."""
        found = self.statement.bins or automatic_width(self.table, self.statement.what)
        return found or 1.0

    @cached_property
    def start(self) -> float:
        """Where a bin begins: as told, else where the first one does."""
        told = self.statement.start
        return told if told is not None else bin_start(self.values, self.width)

    @cached_property
    def first_edge(self) -> float:
        """Where the first bin that holds something begins."""
        low = float(self.values.min()) if self.values.size else self.start
        bins = int(bin_indices(np.array([low]), self.width, self.start)[0])
        return self.start + bins * self.width

    @property
    def transposed(self) -> bool:
        """Whether the groups stand side by side over an upright scale."""
        return self.statement.side_by_side and "turn" in self.statement.uses

    def colours(self, rows: Ints) -> Ints:
        """The codes of these rows; all 0 for one colour."""
        return self.codes[rows] if self.codes is not None else np.zeros_like(rows)

    def summary(self, group: Group) -> Summary:
        return group.summary(self.statement.quartiles)

    def axis(self, low: float | None = None, high: float | None = None) -> Axis:
        """The scale of the values, its ends those of the statement where it gives them."""
        s, label = self.statement, self.label or self.column.label
        log = s.what_log and "log" in s.uses
        around = None if low is None or high is None else (low, high)
        return axis_for(
            self.values,
            label,
            log,
            ("what_log", "low", "high"),
            (s.low, s.high),
            around,
            whole_numbers=self.table.decimals(self.column.name) == 0,
            column="" if self.label else self.column.name,
        )

    def whole_bins(self) -> tuple[float, float]:
        """Ends of an axis that holds whole bins, so that no mark stands outside it."""
        low, high = span(self.values)
        if self.values.size:
            first = (self.values.min() - self.start) / self.width
            last = (self.values.max() - self.start) / self.width
            low = min(low, self.start + np.floor(first + 1e-9) * self.width)
            high = max(high, self.start + (np.floor(last + 1e-9) + 1) * self.width)
            if self.values.min() == self.values.max():  # one bin does not fill the picture
                low, high = low - self.width, high + self.width
        return float(low), float(high)

    def frames(
        self,
        lanes: Callable[[Group], Sequence[Lane]],
        axis: Axis,
        *,
        show_y: bool = False,
        boxes: bool = True,
        frame: Frame | None = None,
    ) -> tuple[Frame, ...]:
        """A frame for each column of panels, a panel for each group, on one scale.

        `lanes` gives those of a group; below them stand its box and marks where they are
        wanted. `frame` may carry what is to be on every frame, such as a handle for bins.
        """
        made = []
        labelled = any(group.label for group in self.groups)
        for at, column in enumerate(self.across):
            panels = []
            for group in column.groups:
                own = list(lanes(group)) if group.values.size else [Lane(())]
                if group.values.size:
                    own = [self._with_sides(own[0], group), *own[1:]]
                    own += self._marks(group, boxes=boxes)
                count = f"n = {whole(group.values.size)}"
                named = labelled and (at == 0 or group.label)
                every = at == 0 or len(self.across) == 1 or self.transposed
                if not named:
                    panels.append(Panel(tuple(own)))
                elif every:
                    panels.append(Panel(tuple(own), group.label, count))
                else:
                    panels.append(Panel(tuple(own), "", count))
            base = frame or Frame(axis, ())
            title = column.title or base.title
            made.append(
                replace(
                    base,
                    x=axis,
                    panels=tuple(panels),
                    title=title,
                    show_y=show_y,
                    transposed=self.transposed,
                    rules=(*base.rules, *self._rules()),
                    share=1.25 if at == 0 and len(self.across) > 1 and labelled else 1.0,
                    squares=base.squares if at == 0 else (),
                    ends=("low", "high") if at == 0 and self.statement.framed else ("", ""),
                )
            )
        return tuple(made)

    def _marks(self, group: Group, *, boxes: bool) -> list[Lane]:
        """The box of a group and single marks, as far as they are wanted."""
        if not boxes:
            return []
        lanes: list[Lane] = []
        summary = self.summary(group)
        mean = summary.mean if self.has("mean") else None
        if self.has("boxes") or self.has("plain boxes"):
            drawn = box(group.values, summary)
            if self.has("plain boxes") and not self.has("boxes"):
                drawn = replace(drawn, low=summary.minimum, high=summary.maximum)
            return [Lane((replace(drawn, mean=mean),), share=0.42)]
        spots: list[tuple[float, str, str]] = []
        if mean is not None:
            spots.append((mean, "triangle", "range"))
        if self.has("median"):
            spots.append((summary.median, "bar", "ink"))
        if spots:
            lanes.append(Lane((Spots(tuple(spots)),), share=0.18))
        return lanes

    def _with_sides(self, lane: Lane, group: Group) -> Lane:
        """How many lie on each side of the split lines, written above the group."""
        texts = self.sides(group)
        return replace(lane, layers=(*lane.layers, WrittenWords(texts))) if texts else lane

    @property
    def cuts(self) -> tuple[float, ...]:
        """The split lines, in order."""
        if "cut" not in self.statement.uses:
            return ()
        found = (self.statement.cut, self.statement.cut2)
        return tuple(sorted(cut for cut in found if cut is not None))

    def sides(self, group: Group) -> tuple[tuple[float, str, str], ...]:
        """Count and percent below, between and above the split lines."""
        cuts, n = self.cuts, group.values.size
        if not cuts or not n:
            return ()
        places = np.searchsorted(np.array(cuts), group.values, side="right")
        counts = np.bincount(places, minlength=len(cuts) + 1).tolist()

        def said(count: int) -> str:
            return f"{whole(count)} ({percent(count, n)})"

        texts = [(cuts[0], said(counts[0]), "end"), (cuts[-1], said(counts[-1]), "start")]
        if len(cuts) == 2:
            middle = cuts[0] / 2 + cuts[1] / 2
            texts.append((middle, said(counts[1]), "middle"))
        return tuple(texts)

    def _rules(self) -> tuple[Rule, ...]:
        unit = self.column.unit
        slots = [
            (slot, value)
            for slot, value in (("cut", self.statement.cut), ("cut2", self.statement.cut2))
            if value is not None and "cut" in self.statement.uses
        ]
        return tuple(Rule(value, with_unit(exact(value), unit), "range", slot) for slot, value in slots)


def plotted_number(statement: PlotStatement, table: Table) -> Plotted:
    """What a plot of a number has to show. Raises CannotAnswer."""
    assert statement.what is not None
    column = table.column(statement.what)
    if statement.also:
        return _several(statement, table)
    cases = split(table, statement.what, statement.by, and_by=statement.and_by)
    codes, keys, lost = colours(statement, table)
    keys = tinted(statement, keys)
    keys, cases, hidden = without_hidden(statement, keys, codes, cases)
    lost = (*lost, *hidden)
    across = panel_columns(table, statement, cases)
    cases = replace(cases, left_out=cases.left_out + lost)
    return Plotted(statement, table, column, cases, across, codes, keys)


def _several(statement: PlotStatement, table: Table) -> Plotted:
    """Several numbers, each in a panel of its own on one scale."""
    names = [str(statement.what), *statement.also]
    units = {table.column(name).unit for name in names}
    made, left = [], []
    present = np.zeros(table.rows, dtype=np.bool_)
    for name in names:
        own = split(table, name, None)
        made.append(replace(own.groups[0], label=name, phrase=f"values of {name}"))
        present[own.groups[0].rows] = True
        left += [said for said in own.left_out if said not in left]
    label = listed(names) + (f" ({units.pop()})" if len(units) == 1 and "" not in units else "")
    cases = Split(tuple(made), tuple(left))
    column = replace(table.column(names[0]), unit="" if units else table.column(names[0]).unit)
    across = (PanelColumn("", cases.groups),)
    used = int(present[table.cases].sum())
    return Plotted(statement, table, column, cases, across, None, (), label, used)


def panel_columns(table: Table, statement: PlotStatement, cases: Split) -> tuple[PanelColumn, ...]:
    """One column of panels, or one for each level of the second category if they are few."""
    if not statement.and_by or not statement.by:
        return (PanelColumn("", cases.groups),)
    second = table.levels(statement.and_by)
    if len(second) > MOST_ACROSS:
        return (PanelColumn("", cases.groups),)
    first = table.levels(statement.by)
    by_label = {group.label: group for group in cases.groups}
    made = []
    for level in second:
        groups = []
        for label in first:
            known = by_label.get(f"{label}, {level}")
            if known is None:
                empty = np.zeros(0, dtype=np.int64)
                known = Group(label, label, empty.astype(np.float64), empty, 0)
            groups.append(replace(known, label=label))
        made.append(PanelColumn(level, tuple(groups)))
    return tuple(made)

"""What was observed, as a picture, in words and as a table, whatever it is."""

from __future__ import annotations

import math
from dataclasses import replace

from theoros.answer.axis import Axis, span
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Ticks
from theoros.answer.layers.points import Points
from theoros.answer.layers.spots import Spots
from theoros.answer.nouns import counted
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.picture import Frame, Lane, Panel, Rule
from theoros.answer.result_tables import named_headings
from theoros.answer.wording import exact, listed_briefly, number, significant, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.procedures.counts import ChiSquareTest, chi_square_related
from theoros.numeric.procedures.means import NoSpread
from theoros.numeric.summaries import mean_and_sd
from theoros.verbs.data.number_pairs import Associated, NumberPairs
from theoros.verbs.data.observed_counts import CountsOfLevels, Observation, TwoWayCounts
from theoros.verbs.data.pictures import measured_alt, measured_frame
from theoros.verbs.data.samples import Measured
from theoros.verbs.data.shares import Shares
from theoros.verbs.data.tables import samples_table

PLACES = 4
MOST_DRAWN, MOST_TOLD = 10, 6
"""So many levels of two categories have room above each other, and so many with their n."""

MOST_BOXES = 50
"""Of more cases than this a box for each would be too narrow to be counted."""


def observed_frame(data: Observation, null: float | None = None) -> Frame:
    """The rows, or typed figures; with a line at the value that is claimed, where it is one."""
    if isinstance(data, CountsOfLevels):
        return _counts_frame(data)
    if isinstance(data, TwoWayCounts):
        return _two_way_frame(data)
    if isinstance(data, Associated):
        return _scatter_frame(data)
    if isinstance(data, Shares):
        frame = _shares_frame(data)
    else:
        assert isinstance(data, Measured)
        frame = measured_frame(data)
    if null is None:
        return frame
    x = frame.x
    if not x.low <= null <= x.high:  # no picture is stretched to a claim that is far off
        reach = x.high - x.low
        if not x.low - reach <= null <= x.high + reach:
            return frame
        room = 0.04 * reach
        x = replace(x, low=min(x.low, null - room), high=max(x.high, null + room))
    label = f"H₀: {with_unit(exact(null), data.unit)}"
    return replace(frame, x=x, rules=(Rule(null, label, "mute", knob=False, dashed=True),))


def _scatter_frame(data: Associated) -> Frame:
    """The pairs as points; of typed figures r alone on its scale."""
    if not isinstance(data, NumberPairs):
        mark = Spots(((data.r, "triangle", "data"),))
        axis = Axis(-1.0, 1.0, f"r of {data.names_[1]} and {data.names_[0]}")
        return Frame(axis, (Panel((Lane((mark,)),), "r", f"n = {whole(data.n)}"),), "Observed")
    labels = [f"{name} ({unit})" if unit else name for name, unit in zip(data.names_, data.units, strict=True)]
    points = Points(data.x, data.y, data.rows, np.zeros(data.n, dtype=np.int64))
    lane = Lane((points,), y=Axis(*span(data.y), labels[1]))
    return Frame(Axis(*span(data.x), labels[0]), (Panel((lane,)),), "Observed", show_y=True)


def _shares_frame(data: Shares) -> Frame:
    """A box for each case, those that have it filled; of many cases the share as one bar."""
    panels = []
    for share in data.of:
        many = share.n > MOST_BOXES
        ends = np.array([0.0, share.value]) if many else np.arange(share.n + 1) / share.n
        boxes = ends.size - 1
        bar = Blocks(
            ends[:-1],
            ends[1:],
            np.full(boxes, 0.25),
            np.full(boxes, 0.75),
            np.zeros(boxes, dtype=np.int64),
            hollow=() if many else tuple(at >= share.x for at in range(share.n)),
        )
        lane = Lane((bar,), y=Axis(0.0, 1.0, bare=True))
        panels.append(Panel((lane,), share.label, f"{whole(share.x)} of {whole(share.n)}"))
    axis = Axis(0.0, 1.0, f"proportion of {data.said}")
    one = data.of[0]
    title = "Observed" if len(data.of) > 1 else f"Observed: {whole(one.x)} of {whole(one.n)}"
    return Frame(axis, tuple(panels), title)


def _bars(counts: Ints, expected: Floats | None) -> tuple[Layer, ...]:
    """Counts as bars side by side, with a mark at what is expected of each."""
    at = np.arange(counts.size, dtype=np.float64)
    blocks = Blocks(
        at - 0.36,
        at + 0.36,
        np.zeros(counts.size),
        counts.astype(np.float64),
        np.zeros(counts.size, dtype=np.int64),
        tuple(whole(round(n)) for n in counts.tolist()),
    )
    if expected is None:
        return (blocks,)
    return blocks, Ticks(at - 0.42, at + 0.42, expected)


def _counts_frame(data: CountsOfLevels) -> Frame:
    expected = data.total * np.array(data.claimed) if data.claimed else None
    top = float(max(data.counts.max(), 0 if expected is None else expected.max())) * 1.15 or 1.0
    lane = Lane(_bars(data.counts, expected), y=Axis(0.0, top, "cases"))
    names = tuple((float(at), level) for at, level in enumerate(data.levels))
    axis = Axis(-0.6, data.counts.size - 0.4, data.name, names=names)
    return Frame(axis, (Panel((lane,)),), "Observed; lines: expected under H₀", show_y=True)


def _independent(data: TwoWayCounts) -> ChiSquareTest | None:
    """What independence expects, where that is what is asked about and there is such."""
    try:
        return None if data.matched else chi_square_related(data.counts)
    except NoSpread:
        return None


def _two_way_frame(data: TwoWayCounts) -> Frame:
    found = _independent(data)
    expected = None if found is None else found.expected
    top = float(max(data.counts.max(), 0 if expected is None else expected.max())) * 1.25 or 1.0
    drawn, which = _drawn_rows(data, found)
    panels = tuple(
        Panel(
            (Lane(_bars(data.counts[at], None if expected is None else expected[at]), y=Axis(0.0, top, bare=True)),),
            name,
            f"n = {whole(int(data.counts[at].sum()))}" if len(drawn) <= MOST_TOLD else "",
        )
        for at, name in ((at, data.rows[at]) for at in drawn)
    )
    names = tuple((float(at), level) for at, level in enumerate(data.columns))
    axis = Axis(-0.6, len(data.columns) - 0.4, data.names[1], names=names)
    title = "Observed" if expected is None else "Observed; lines: expected under H₀"
    return Frame(axis, panels, which or title)


def _drawn_rows(data: TwoWayCounts, found: ChiSquareTest | None) -> tuple[list[int], str]:
    """The rows that there is room for, and which these are where there are more."""
    if len(data.rows) <= MOST_DRAWN:
        return list(range(len(data.rows))), ""
    of = f"{MOST_DRAWN} of {len(data.rows)} levels of {data.names[0]}"
    if found is None:
        return list(range(MOST_DRAWN)), f"The first {of}"
    most = np.argsort(-found.parts.sum(axis=1), kind="stable")[:MOST_DRAWN]
    return sorted(most.tolist()), f"The {of} with the largest parts of χ²; lines: expected"


def observed_alt(data: Observation) -> str:
    """The same in words."""
    if isinstance(data, CountsOfLevels):
        pairs = zip(data.levels, data.counts.tolist(), strict=True)
        told = listed_briefly([f"{level} {whole(n)}" for level, n in pairs], 8)
        return f"Bars of the counts of {data.name}: {told}; a line at what is expected of each."
    if isinstance(data, TwoWayCounts):
        rows = [
            f"{name}: " + ", ".join(f"{level} {whole(n)}" for level, n in zip(data.columns, line, strict=True))
            for name, line in zip(data.rows[:MOST_DRAWN], data.counts.tolist(), strict=False)
        ]
        return f"Bars of the counts of {data.names[1]} for each {data.names[0]}. {'; '.join(rows)}."
    if isinstance(data, Associated):
        along, up = data.names_
        return f"{counted(data.n, 'pair')} of {up} and {along}, with r = {number(data.r, 3)}."
    if isinstance(data, Shares):
        said = [f"{share.phrase}: {whole(share.x)} of {whole(share.n)}, {number(share.value, 3)}" for share in data.of]
        return f"Bars of the proportion of {data.said}. {'; '.join(said)}."
    assert isinstance(data, Measured)
    return measured_alt(data)


def observed_table(data: Observation) -> ResultTable:
    """Its figures."""
    if isinstance(data, CountsOfLevels):
        return _counts_table(data)
    if isinstance(data, TwoWayCounts):
        return _two_way_table(data)
    if isinstance(data, Associated):
        return _pairs_table(data)
    if isinstance(data, Shares):
        return _shares_table(data)
    assert isinstance(data, Measured)
    return samples_table(data)


def _counts_table(data: CountsOfLevels) -> ResultTable:
    """For each level what was counted, what is expected, and what it gives to chi-square."""
    expected = (data.total * np.array(data.claimed)).tolist()
    rows = []
    for at, level in enumerate(data.levels):
        o, e = int(data.counts[at]), expected[at]
        part = (o - e) ** 2 / e if e else math.nan
        share = o / data.total if data.total else math.nan
        rows.append(
            FigureRow(
                (
                    Cell(level, level),
                    cell(o, whole(o)),
                    cell(share, number(share, PLACES)),
                    cell(data.claimed[at], number(data.claimed[at], PLACES)),
                    cell(e, number(e, 2)),
                    cell(part, number(part, 3)),
                )
            )
        )
    headings = (
        Heading("level", data.name, numeric=False),
        Heading("observed", "observed O"),
        Heading("share", "share"),
        Heading("claimed", "claimed share"),
        Heading("expected", "expected E"),
        Heading("part", "(O\u00a0−\u00a0E)²/E", help="The part of chi-square from this level"),
    )
    return ResultTable("counts", headings, tuple(rows))


def _two_way_table(data: TwoWayCounts) -> ResultTable:
    """Counts with what is expected of each cell, and what it gives to chi-square."""
    found = _independent(data)
    rows = []
    for at, name in enumerate(data.rows):
        cells = []
        for k in range(len(data.columns)):
            n = int(data.counts[at, k])
            text = whole(n)
            if found is not None:
                e, part = float(found.expected[at, k]), float(found.parts[at, k])
                text += f" ({number(e, 1)}; {number(part, 2)})"
            cells.append(cell(n, text))
        total = int(data.counts[at].sum())
        rows.append(FigureRow((Cell(name, name), *cells, cell(total, whole(total)))))
    sums = data.counts.sum(axis=0).tolist()
    last = [cell(n, whole(n)) for n in [*sums, data.total]]
    rows.append(FigureRow((Cell("all", "all"), *last)))
    headings = (
        Heading("row", data.names[0], numeric=False),
        *named_headings(data.columns, ("row", "all")),
        Heading("all", "all"),
    )
    title = "observed (expected; part of χ²)" if found is not None else "observed"
    return ResultTable("counts", headings, tuple(rows), title)


def _pairs_table(data: Associated) -> ResultTable:
    """n and r; of rows mean and spread of both numbers too."""
    headings = [Heading("name", "", numeric=False), Heading("n", "n")]
    if not isinstance(data, NumberPairs):
        row = (Cell(f"{data.names_[1]} and {data.names_[0]}"), cell(data.n, whole(data.n)), cell(data.r, exact(data.r)))
        return ResultTable("pairs", (*headings, Heading("r", "r")), (FigureRow(row),))
    rows = []
    for name, values in zip(data.names_, (data.x, data.y), strict=True):
        mean, sd = mean_and_sd(values) if data.n > 1 else (float(values.mean()), math.nan)
        rows.append(
            FigureRow(
                (
                    Cell(name, name),
                    cell(data.n, whole(data.n)),
                    cell(mean, significant(mean, 5)),
                    cell(sd, significant(sd, 5)),
                )
            )
        )
    return ResultTable("pairs", (*headings, Heading("mean", "mean"), Heading("sd", "SD")), tuple(rows))


def _shares_table(data: Shares) -> ResultTable:
    rows = [
        FigureRow(
            (
                Cell(share.label or share.phrase, share.label or share.phrase),
                cell(share.x, whole(share.x)),
                cell(share.n, whole(share.n)),
                cell(share.value, number(share.value, PLACES)),
            )
        )
        for share in data.of
    ]
    headings = (
        Heading("group", "Group" if len(data.of) > 1 else "cases", numeric=False),
        Heading("x", data.success),
        Heading("n", "n"),
        Heading("share", "proportion"),
    )
    return ResultTable("shares", headings, tuple(rows))

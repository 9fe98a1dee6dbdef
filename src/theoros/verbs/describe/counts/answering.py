"""Descriptions of categories: counts and percent, two-way tables, grouped data."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.axis import Axis
from theoros.answer.layers.blocks import Blocks
from theoros.answer.nouns import counted
from theoros.answer.parts import Answer, Cell, FigureRow, Heading, Link, Reading, ResultTable, Step, cell
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture
from theoros.answer.wording import number, percent, shortened, with_unit
from theoros.lazy_imports import np
from theoros.table.table import Table
from theoros.verbs import follow_ups
from theoros.verbs.data.count_pictures import bars, side_by_side
from theoros.verbs.data.count_words import count_reading, count_words
from theoros.verbs.data.counted import Counted, count_levels
from theoros.verbs.describe.counts.classes import Limits, NumberClassLimits, classes_of, limits_said, working
from theoros.verbs.describe.statement import DescribeStatement
from theoros.verbs.describe.tables import carried_counts

SHARES = {
    "counts": "counts alone",
    "row percent": "percent of each row",
    "column percent": "percent of each column",
    "total percent": "percent of all",
}


def described_counts(statement: DescribeStatement, table: Table) -> Answer:
    """Counts of one category, or of two in a two-way table."""
    s = statement
    # shares of groups that differ in size are compared by percent, in the picture too
    percents = s.by is not None and s.share == "column percent"
    p = count_levels(table, str(s.what), s.by, order=s.order, percent=percents)
    shape = "bars side by side" if s.by else "bars"
    classes = None
    figures: tuple[ResultTable, ...]
    if statement.by is None:
        classes = classes_of(p.levels, [int(n) for n in p.counts[0].tolist()], s.limits)
        frames = bars(p)
        figures = (_one_way(p),)
    else:
        frames = side_by_side(p)
        figures = (_two_way(p, statement.share),)
    keys = tuple(Key(level) for level in p.levels) if statement.by else ()
    reading = replace(count_reading(p), next=(_plot_link(p), *carried_counts(p)))
    steps: tuple[Step, ...] = ()
    if classes is not None:
        figures = (*figures, _grouped(classes))
        reading = _read_classes(p, classes, reading, s.limits)
        steps = (working(classes, p.column),)
        frames = (_class_frame(p, classes),)
    return Answer(
        "",
        picture=Picture(frames, keys, count_words(p, shape)),
        figures=figures,
        reading=reading,
        working=steps,
        used=int(p.total),
        left_out=p.left_out,
        numbers=_shares(p),
    )


def _shares(p: Counted) -> dict[str, object]:
    """Percents of the whole and, in a two-way table, of its rows and columns."""
    counts = p.counts.T.astype(np.float64)  # (levels, groups)
    with np.errstate(invalid="ignore"):
        kinds = {
            "total_percent": counts / counts.sum(),
            "row_percent": counts / counts.sum(axis=1, keepdims=True),
            "column_percent": counts / counts.sum(axis=0, keepdims=True),
        }
    if p.by is None:
        shares = (100 * kinds["total_percent"][:, 0]).tolist()
        return {"percent": dict(zip(p.levels, shares, strict=True))}
    return {
        kind: {
            level: dict(zip(p.groups, (100 * row).tolist(), strict=True))
            for level, row in zip(p.levels, shares, strict=True)
        }
        for kind, shares in kinds.items()
    }


def _one_way(p: Counted) -> ResultTable:
    """Level, count, percent, and both cumulated in the order shown."""
    total = int(p.total)
    rows, reached = [], 0
    for at, level in enumerate(p.levels):
        count = int(p.counts[0, at])
        reached += count
        own = tuple(dict.fromkeys(p.rows[0][at].tolist())) if count <= 5000 else ()
        rows.append(
            FigureRow(
                (
                    Cell(shortened(level), level),
                    cell(count, rows=own, tone="ink"),
                    cell(100 * count / total, percent(count, total)),
                    cell(reached),
                    cell(100 * reached / total, percent(reached, total)),
                )
            )
        )
    rows.append(FigureRow((Cell("all", "all"), cell(total), cell(100.0, "100 %"), cell(None), cell(None))))
    headings = (
        Heading("level", p.column.name, numeric=False),
        Heading("count", "count"),
        Heading("percent", "percent"),
        Heading("cumulative", "cumulative count"),
        Heading("cumulative_percent", "cumulative percent"),
    )
    return ResultTable("counts", headings, tuple(rows))


def _two_way(p: Counted, share: str) -> ResultTable:
    """Levels of the first category down, of the second across, with margins."""
    counts = p.counts.T  # (levels, groups)
    total = float(counts.sum())
    down, across = counts.sum(axis=1), counts.sum(axis=0)

    def written(count: float, row: float, column: float) -> str:
        of = {"row percent": row, "column percent": column, "total percent": total}.get(share)
        if of is None:
            return str(int(count))
        if not of:
            return f"{int(count)} (—)"
        return f"{int(count)} ({percent(int(count), int(of))})"

    rows = []
    for at, level in enumerate(p.levels):
        cells = [Cell(shortened(level), level)]
        for g in range(len(p.groups)):
            own = tuple(dict.fromkeys(p.rows[g][at].tolist()))
            text = written(counts[at, g], down[at], across[g])
            cells.append(cell(int(counts[at, g]), text, rows=own if len(own) <= 5000 else (), tone="ink"))
        cells.append(cell(int(down[at]), written(down[at], down[at], total)))
        rows.append(FigureRow(tuple(cells)))
    bottom = [Cell("all", "all")]
    bottom += [cell(int(n), written(n, total, n)) for n in across.tolist()]
    bottom.append(cell(int(total), written(total, total, total)))
    rows.append(FigureRow(tuple(bottom)))
    headings = [Heading("level", p.column.name, numeric=False)]
    headings += [Heading(name, shortened(name), help=name) for name in p.groups]
    title = "" if share == "counts" else f"Counts, with {SHARES[share]}"
    return ResultTable("two_way", (*headings, Heading("all", "all")), tuple(rows), title)


def _grouped(classes: NumberClassLimits) -> ResultTable:
    made = classes.figures
    return ResultTable(
        "grouped",
        tuple(Heading(key, label) for key, label in _GROUPED),
        (
            FigureRow(
                (
                    cell(made.n, f"{made.n:g}"),
                    cell(made.mean, number(made.mean, 2)),
                    cell(made.sd, number(made.sd, 2)),
                    cell(made.median, number(made.median, 2)),
                )
            ),
        ),
        "From the classes",
    )


_GROUPED = (("n", "n"), ("mean", "mean"), ("sd", "SD"), ("median", "median"))


def _class_frame(p: Counted, classes: NumberClassLimits) -> Frame:
    """A histogram of the classes: areas are counts, whatever their widths."""
    widths = classes.high - classes.low
    heights = classes.counts / widths
    equal = bool(np.allclose(widths, widths[0]))
    if equal:
        heights = classes.counts
    axis = Axis(float(classes.low[0]), float(classes.high[-1]), p.column.label)
    label = "count" if equal else "count per unit"
    up = Axis(0.0, float(heights.max()) * 1.08 or 1.0, label)
    zero = np.zeros(widths.size)
    codes = np.zeros(widths.size, dtype=np.int64)
    blocks = Blocks(classes.low, classes.high, zero, heights, codes)
    return Frame(axis, (Panel((Lane((blocks,), y=up),)),), show_y=True)


def _read_classes(p: Counted, classes: NumberClassLimits, reading: Reading, limits: Limits) -> Reading:
    made = classes.figures
    mean = with_unit(number(made.mean, 1), p.column.unit)
    median = with_unit(number(made.median, 1), p.column.unit)
    return Reading(
        f"Estimated from the classes, the mean is {mean} and the median is {median}.",
        (
            *reading.paragraphs,
            f"The single values of the {counted(int(made.n), p.table.noun)} are "
            f"not known, so these figures are estimates.",
            *limits_said(classes, limits),
        ),
        next=reading.next,
    )


def _plot_link(p: Counted) -> Link:
    what, each = p.column.name, f" for each {p.by}" if p.by else ""
    shape = "bars stacked to 100 %" if p.by else "bars"
    return Link(f"Plot {what}{each}", statement=follow_ups.plot(p.table.name, what, by=p.by, shape=shape))

"""Several numbers at once: figures for each, correlations, and a small picture for each pair."""

from __future__ import annotations

from theoros.answer.axis import Axis, span
from theoros.answer.cannot import CannotAnswer
from theoros.answer.layers.points import Points, Shades
from theoros.answer.layers.stacks import Stacks
from theoros.answer.nouns import counted
from theoros.answer.parts import Answer, Cell, FigureRow, Heading, Link, Reading, ResultTable
from theoros.answer.parts import cell as figure_cell
from theoros.answer.picture import Frame, Lane, Panel, Picture
from theoros.answer.wording import r_text, sentence_case, statistic
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.correlation import pearson
from theoros.numeric.summaries import summarize
from theoros.table.table import Table
from theoros.verbs import follow_ups
from theoros.verbs.core.cautions import cause_cautions
from theoros.verbs.data.groups import said_unused, split, unit_of_count, workable
from theoros.verbs.data.pictures import fine_width, stacks
from theoros.verbs.describe.statement import DescribeStatement
from theoros.verbs.describe.tables import figures_table, percentile_list

MOST = 8
MOST_MARKS = 1500


def described_several(statement: DescribeStatement, table: Table) -> Answer:
    """Figures for each number, and their correlations over the rows that have all of them."""
    names = [str(statement.what), *statement.also]
    if len(names) > MOST:
        raise CannotAnswer(f"At most {MOST} numbers can be shown at once. Choose fewer.", "also")
    values = {name: workable(table, name) for name in names}
    cases = table.cases
    full = cases[np.all([np.isfinite(values[name]) for name in names], axis=0)[cases]]
    groups = []
    for name in names:
        own = split(table, name, None).groups[0]
        groups.append((name, own, summarize(own.values, statement.quartiles), table.decimals(name)))
    shares = percentile_list(statement.percentiles)
    summary = figures_table(groups, statement.figures, "number", shares, statement.quartiles)
    lost = int(cases.size - full.size)
    lost_words = counted(lost, unit_of_count(table))
    left = [f"{lost_words} left out of the correlations: a value is missing"]
    left_out = (left if lost else []) + said_unused(table)
    figures: tuple[ResultTable, ...] = (summary,)
    reading = Reading("There are too few complete rows for correlations.")
    if full.size >= 3:
        matrix = _matrix(names, values, full)
        figures = (summary, matrix)
        reading = _reading(table, names, values, full)
    pictures = _frames(table, names, values, full)
    alt = f"A small scatter for each pair of {', '.join(names)}."
    return Answer(
        "",
        picture=Picture(pictures, alt=alt) if full.size else None,
        figures=figures,
        reading=reading,
        used=int(full.size),
        left_out=tuple(left_out),
    )


def correlation(a: Floats, b: Floats) -> float | None:
    """Pearson's r, or None where one of the two does not vary."""
    if float(np.ptp(a)) == 0 or float(np.ptp(b)) == 0:
        return None
    return pearson(a, b)


def _matrix(names: list[str], values: dict[str, Floats], rows: Ints) -> ResultTable:
    lines = []
    for one in names:
        cells = [Cell(one, one)]
        for two in names:
            r = correlation(values[one][rows], values[two][rows])  # none for a constant
            cells.append(figure_cell(r, "—" if r is None else statistic(r)))
        lines.append(FigureRow(tuple(cells)))
    headings = (Heading("number", "r", numeric=False), *(Heading(f"r {n}", n) for n in names))
    return ResultTable("correlations", headings, tuple(lines), "Correlations")


def _frames(table: Table, names: list[str], values: dict[str, Floats], rows: Ints) -> tuple[Frame, ...]:
    """Columns of panels: across one number, up another; on the diagonal its own dots."""
    made = []
    for across in names:
        x = values[across][rows]
        axis = Axis(*span(x), table.column(across).label)
        panels = []
        for up in names:
            y = values[up][rows]
            label = up if across == names[0] else ""
            if up == across:
                lane = Lane((_dots(x, rows),))
            elif rows.size > MOST_MARKS:
                lane = Lane((Shades.of(x, y, 40, 30),), y=Axis(*span(y), bare=True))
            else:
                marks = Points(x, y, rows, np.zeros_like(rows), 4.0)
                lane = Lane((marks,), y=Axis(*span(y), bare=True))
            panels.append(Panel((lane,), label))
        share = 1.6 if across == names[0] else 1.0
        made.append(Frame(axis, tuple(panels), share=share))
    return tuple(made)


def _dots(x: Floats, rows: Ints) -> Stacks:
    width = fine_width(x)
    flat = np.zeros(x.size, dtype=np.bool_)
    start = float(np.floor(x.min() / width) * width) if x.size else 0.0
    return stacks(x, rows, np.zeros_like(rows), flat, width, start)


def _reading(table: Table, names: list[str], values: dict[str, Floats], rows: Ints) -> Reading:
    found = []
    for at, one in enumerate(names):
        for two in names[at + 1 :]:
            r = correlation(values[one][rows], values[two][rows])
            if r is not None:
                found.append((abs(r), r, one, two))
    if not found:
        return Reading("There is no correlation, because at least one of these numbers does not vary.")
    found.sort(reverse=True)
    _, r, one, two = found[0]
    if abs(r) < 0.1:
        headline = "No two of these numbers have a clear linear relation."
    else:
        side = "higher" if r > 0 else "lower"
        headline = (
            f"{sentence_case(one)} and {two} have the strongest linear relation (r\u00a0=\u00a0{r_text(r)}): "
            f"where one is higher, the other tends to be {side}."
        )
    caution = "Look at the scatter plots: r describes linear relations only, and one outlier can change it."
    plot = follow_ups.plot(table.name, two, against=one, shape="scatter")
    link = Link(f"Plot {two} against {one}", statement=plot)
    return Reading(headline, (caution, *cause_cautions(table)), next=(link,))

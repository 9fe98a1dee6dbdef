"""The answer where a number is set against another, against time, or against the rows."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.parts import Answer, Reading
from theoros.answer.picture import Picture
from theoros.answer.wording import (
    between_data,
    counted,
    listed,
    number,
    sentence_case,
    with_unit,
)
from theoros.heavy import np
from theoros.numeric.correlation import pearson
from theoros.table.table import Table
from theoros.verbs.plot.pairs import Pairs, pairs
from theoros.verbs.plot.shape import shapes
from theoros.verbs.plot.statement import PlotStatement


def answer_pairs(statement: PlotStatement, table: Table) -> Answer:
    """The picture of a scatter or a line, with what it says."""
    p = pairs(statement, table)
    frames = shapes()[statement.shape].draw(p)
    points = counted(p.count, "point")
    kind = "Scatter" if statement.shape == "scatter" else "Line"
    alt = f"{kind} of {statement.what} against {p.against}, {points}."
    if statement.shape == "scatter":
        reading = _read_scatter(statement, table, p.x, p.y)
        if p.count > 2 and np.ptp(p.x) > 0 and np.ptp(p.y) > 0:
            alt += f" r = {number(pearson(p.x, p.y), 2)}."
    else:
        reading = _read_line(p)
    reading = replace(reading, paragraphs=(*_read_off(p), *reading.paragraphs))
    return Answer(
        "", picture=Picture(frames, p.keys, alt, _beyond(p)), reading=reading, used=p.count,
        left_out=p.left_out,
    )  # fmt: skip


def _beyond(p: Pairs) -> tuple[str, ...]:
    """What is said of points beyond the ends that were given to the axes."""
    if not (p.across.cut or p.up.cut):
        return ()
    inside = (p.x >= p.across.low) & (p.x <= p.across.high)
    inside &= (p.y >= p.up.low) & (p.y <= p.up.high)
    return said_beyond(int((~inside).sum()), "point")


def said_beyond(count: int, noun: str) -> tuple[str, ...]:
    """What is said of cases or points that lie beyond the ends of an axis."""
    if not count:
        return ()
    return (f"{counted(count, noun)} {'lies' if count == 1 else 'lie'} beyond the axis.",)


def _read_off(p: Pairs) -> list[str]:
    """What the reading line says, in words."""
    at = p.read_at
    if at is None:
        return []
    made = []
    where = f"{'On' if p.across.days else 'At'} {p.said_at(at)}"
    for group in p.groups[:4]:
        said = [f"{text} for {name}" if name else text for name, text in p.heights(group, at)]
        whose = f" ({group.label})" if group.label else ""
        measured = bool((group.x == at).any())
        how = "is" if measured else "is, read off between the points on either side,"
        if said:
            made.append(f"{where}{whose}, {p.statement.what} {how} {listed(said)}.")
        else:
            made.append(f"{where}{whose}, there is no value: the line does not reach so far.")
    return made


def _read_line(p: Pairs) -> Reading:
    """Where a line is highest and lowest, and where it ends."""
    column, places = p.table.column(str(p.statement.what)), p.table.decimals(str(p.statement.what))
    x, y = p.x, p.y

    def amount(value: float) -> str:
        return with_unit(between_data(value, places), column.unit)

    def where(at: int) -> str:
        if p.across.days:
            return f"on {np.datetime64(int(x[at]), 'D')}"
        if p.statement.against is None:
            return f"in row {int(x[at])}"
        across = p.table.column(p.statement.against)
        value = between_data(float(x[at]), p.table.decimals(across.name))
        return f"at {with_unit(value, across.unit)}"

    def place(value: float) -> str:
        """Where a value is, and that it is there again where it is."""
        at = np.flatnonzero(y == value)
        at = at[np.argsort(x[at], kind="stable")]
        return f"{'first ' if at.size > 1 else ''}{where(int(at[0]))}"

    top, bottom = int(np.argmax(y)), int(np.argmin(y))
    if y[top] == y[bottom]:
        return Reading(f"{sentence_case(column.name)} is {amount(float(y[0]))} throughout.")
    headline = (
        f"The highest value of {column.name} is {amount(float(y[top]))}, {place(y[top])}; the "
        f"lowest is {amount(float(y[bottom]))}, {place(y[bottom])}."
    )
    order = np.argsort(x, kind="stable")
    first, last = float(y[order[0]]), float(y[order[-1]])
    change = "the same as at the beginning" if first == last else (
        f"{'more' if last > first else 'less'} than the {amount(first)} at the beginning"
    )  # fmt: skip
    if len(p.groups) > 1 or p.keys:
        return Reading(headline)
    return Reading(headline, (f"At the end it is {amount(last)}, {change}.",))


def _read_scatter(statement: PlotStatement, table: Table, x: np.ndarray, y: np.ndarray) -> Reading:
    n = int(x.size)
    what, against = statement.what, statement.against
    paragraphs = [f"Each point is one {table.noun}, {counted(n, 'point')} in all."]
    if n < 3 or np.ptp(x) == 0 or np.ptp(y) == 0:
        flat = what if n and np.ptp(y) == 0 else against
        headline = f"{sentence_case(str(flat))} is the same in every row: nothing can vary with it."
        if n < 3:
            headline = f"{sentence_case(counted(n, 'point'))}: too few to speak of a pattern."
    else:
        # on logarithmic scales the pattern that is seen is that of the logarithms
        s = statement
        axes = ((against, s.against_log), (what, s.what_log))
        logs = s.against_log or s.what_log
        r = pearson(np.log(x) if s.against_log else x, np.log(y) if s.what_log else y)
        scaled = f" of {listed([f'log {n}' if log else str(n) for n, log in axes])}" if logs else ""
        if abs(r) < 0.1:
            headline = (
                f"{sentence_case(str(what))} shows almost no straight-line trend with {against}."
            )
        else:
            way = "higher" if r > 0 else "lower"
            how = "strongly" if abs(r) >= 0.8 else "moderately" if abs(r) >= 0.5 else "weakly"
            headline = f"{sentence_case(str(what))} tends to be {way} where {against} is higher."
            paragraphs.append(
                f"The points follow a straight line {how}{' on these scales' if logs else ''}: "
                f"r{scaled}\u00a0=\u00a0{number(r, 2)}. "
                f"That they go together does not show that one causes the other."
            )
    return Reading(headline, tuple(paragraphs))

"""The answer where a number is set against another, against time, or against the rows."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.nouns import counted
from theoros.answer.parts import Answer, Reading
from theoros.answer.picture import Picture
from theoros.answer.wording import between_data, listed, r_text, sentence_case, shortened, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.correlation import pearson
from theoros.table.table import Table
from theoros.verbs.core.cautions import cause_cautions
from theoros.verbs.plot.data.pairs import PlottedPairs, Response, pairs
from theoros.verbs.plot.shapes.shape import shapes
from theoros.verbs.plot.statement import PlotStatement

WEAK = 0.1
"""An r closer to 0 than this is called no trend."""
MOST_TOLD = 6
"""Panels or colours whose r is told; more would be a list that nobody reads."""


def answer_pairs(statement: PlotStatement, table: Table) -> Answer:
    """The picture of a scatter or a line, with what it says."""
    p = pairs(statement, table)
    frames = shapes()[statement.shape].draw(p)
    points = counted(p.count, "point")
    kind = "Scatter" if statement.shape == "scatter" else "Line"
    names = listed([one.name for one in p.responses])
    alt = f"{kind} of {names} against {p.against}, {points}."
    if statement.shape == "scatter":
        reading = _read_scatter(p)
        found = [(one.name, _straightness(p, one.x, one.y)) for one in p.responses]
        told = [(f" for {name}", r) for name, r in found if r is not None]
        several = len(p.responses) > 1
        if told:
            each = listed([f"{r_text(r)}{name if several else ''}" for name, r in told])
            alt += f" r = {each}."
    else:
        reading = _read_line(p)
    alt = f"{alt} {reading.headline}"
    reading = replace(reading, paragraphs=(*_read_off(p), *reading.paragraphs))
    return Answer(
        "",
        picture=Picture(frames, p.keys, alt, _beyond(p)),
        reading=reading,
        used=p.used,
        left_out=p.left_out,
        numbers={one.name: {"n": int(one.x.size), "r": pearson(one.x, one.y)} for one in p.responses},
    )


def _beyond(p: PlottedPairs) -> tuple[str, ...]:
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
    return (f"{counted(count, noun)} {'lies' if count == 1 else 'lie'} outside the axis.",)


def _read_off(p: PlottedPairs) -> list[str]:
    """What the reading line says, in words."""
    at = p.read_at
    if at is None:
        return []
    made = []
    where = sentence_case(p.when(at)) if p.across.days else f"At {p.said_at(at)}"
    for group in p.groups[:4]:
        heights = p.heights(group, at)
        said = [f"{text} for {name}" if name else text for name, text in heights]
        whose = f" ({group.label})" if group.label else ""
        how = "" if bool((group.x == at).any()) else " (read off between the points on either side)"
        if said and p.statement.also:
            each = listed([f"{name} is {text}" for name, text in heights])
            made.append(f"{where}{how}, {each}.")
        elif said:
            made.append(f"{where}{whose}{how}, {p.statement.what} is {listed(said)}.")
        else:
            made.append(f"{where}{whose}, there is no value, because the line ends before it.")
    return made


def _read_line(p: PlottedPairs) -> Reading:
    """Where each line is highest and lowest, and where a single one ends."""
    said = [_ends_of(p, response) for response in p.responses if response.y.size]
    if len(said) > 1:
        return Reading(said[0], tuple(said[1:]))
    single = p.responses[0]
    if len(p.groups) > 1 or p.keys or np.ptp(single.y) == 0:
        return Reading(said[0])
    order = np.argsort(single.x, kind="stable")
    first, last = float(single.y[order[0]]), float(single.y[order[-1]])
    change = (
        "the same as at the beginning"
        if first == last
        else (f"{'more' if last > first else 'less'} than the {_amount(p, single.name, first)} at the beginning")
    )
    return Reading(said[0], (f"At the end it is {_amount(p, single.name, last)}, {change}.",))


def _amount(p: PlottedPairs, name: str, value: float) -> str:
    column = p.table.column(name)
    return with_unit(between_data(value, p.table.decimals(name)), column.unit)


def _ends_of(p: PlottedPairs, response: Response) -> str:
    """The highest and the lowest value of a response, and where each is first reached."""
    x, y = response.x, response.y

    def where(at: int) -> str:
        if p.across.days:
            return p.when(float(x[at]))
        if p.statement.against is None:
            return f"in row {int(x[at])}"
        return f"at {_amount(p, p.statement.against, float(x[at]))}"

    def reached(value: float) -> str:
        at = np.flatnonzero(y == value)
        at = at[np.argsort(x[at], kind="stable")]
        again = "first " if at.size > 1 else ""
        return f"{_amount(p, response.name, value)}, {again}{where(int(at[0]))}"

    high, low = float(y.max()), float(y.min())
    if high == low:
        return f"{sentence_case(response.name)} is {_amount(p, response.name, high)} throughout."
    return f"The highest value of {response.name} is {reached(high)}; the lowest is {reached(low)}."


def _read_scatter(p: PlottedPairs) -> Reading:
    """How closely the points of one response, or of each of several, follow a straight line."""
    if p.statement.also:
        return _read_responses(p)
    what, against, n = str(p.statement.what), p.against, p.count
    points = [f"Each point is one {p.table.noun}, {counted(n, 'point')} in all."]
    if n < 3:
        few = f"{sentence_case(counted(n, 'point'))}: too few to describe a pattern."
        return Reading(few, tuple(points))
    r = _straightness(p, p.x, p.y)
    if r is None:
        flat = what if np.ptp(p.y) == 0 else against
        same = f"{sentence_case(flat)} is the same in every row, so there is no relation."
        return Reading(same, tuple(points))
    within = _within(p)
    # on logarithmic scales the pattern that is seen is that of the logarithms
    axes = ((against, p.across.log), (what, p.up.log))
    logs = p.across.log or p.up.log
    scaled = f" of {listed([f'log {name}' if log else name for name, log in axes])}" if logs else ""
    scales = " on these scales" if logs else ""
    closely = f"The points follow a straight line {_closely(r)}{scales}"
    no_cause = "".join(f" {said}" for said in cause_cautions(p.table))
    line = f"{closely}: r{scaled}\u00a0=\u00a0{r_text(r)}.{no_cause}"
    if abs(r) < WEAK:
        line = f"Along a straight line{scales}, r{scaled}\u00a0=\u00a0{r_text(r)}."
    return Reading(_trend(what, against, r), (*points, line, *within))


def _read_responses(p: PlottedPairs) -> Reading:
    """The same for several responses, the one that follows a line most closely first."""
    found = [(one.name, _straightness(p, one.x, one.y)) for one in p.responses]
    told = sorted(((name, r) for name, r in found if r is not None), key=lambda each: -abs(each[1]))
    points = (
        f"Each {p.table.noun} has a point for each of {listed([name for name, _ in found])} that "
        f"is known, {counted(p.count, 'point')} in all."
    )
    if not told:
        return Reading("There is too little to describe a pattern.", (points,))
    lines = [f"{r_text(r)} for {name}" for name, r in told]
    scales = " on these scales" if p.across.log or p.up.log else ""
    no_cause = "".join(f" {said}" for said in cause_cautions(p.table))
    line = f"Along a straight line{scales}, r\u00a0=\u00a0{listed(lines)}.{no_cause}"
    name, r = told[0]
    return Reading(_trend(name, p.against, r), (points, line))


def _straightness(p: PlottedPairs, x: Floats, y: Floats) -> float | None:
    """r on the scales shown; None for too few points, or where nothing varies."""
    if x.size < 3 or np.ptp(x) == 0 or np.ptp(y) == 0:
        return None
    return pearson(np.log(x) if p.across.log else x, np.log(y) if p.up.log else y)


def _trend(what: str, against: str, r: float) -> str:
    if abs(r) < WEAK:
        return f"{sentence_case(what)} shows almost no linear relation with {against}."
    way = "higher" if r > 0 else "lower"
    return f"{sentence_case(what)} tends to be {way} where {against} is higher."


def _closely(r: float) -> str:
    return "strongly" if abs(r) >= 0.8 else "moderately" if abs(r) >= 0.5 else "weakly"


def _within(p: PlottedPairs) -> list[str]:
    """r within each panel, or within each colour: it may differ from that of all together."""
    if len(p.groups) > 1:
        where, parts = "panels", [(group.label, group.x, group.y) for group in p.groups]
    else:
        where, one = "colours", p.groups[0]
        shown = [(code, key.label) for code, key in enumerate(p.keys) if not key.hidden]
        parts = [(name, one.x[one.codes == code], one.y[one.codes == code]) for code, name in shown]
    found = [(name, _straightness(p, x, y)) for name, x, y in parts]
    told = [f"{r_text(r)} for {shortened(name)}" for name, r in found if r is not None]
    if not 2 <= len(told) <= MOST_TOLD:
        return []
    return [f"Within the {where}, r\u00a0=\u00a0{listed(told)}."]

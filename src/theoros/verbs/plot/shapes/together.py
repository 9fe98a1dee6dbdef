"""A number against another, or along time: scatter and line."""

from __future__ import annotations

from collections.abc import Callable

from theoros.answer.axis import Axis
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.layers.written_words import WrittenWords
from theoros.answer.picture import Frame, Lane, Panel
from theoros.answer.wording import whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.data.pictures import MOST_POINTS
from theoros.verbs.plot.data.pairs import PairGroup, PlottedPairs
from theoros.verbs.plot.pictures.reading_line import reading_rules
from theoros.verbs.plot.shapes.shape import OVER_TIME, TWO_NUMBERS, Shape

MOST_LINE_POINTS = 4000


def scatter(p: PlottedPairs) -> tuple[Frame, ...]:
    """A point for each row; shaded where they are too many to tell apart."""
    return _frames(p, _points)


def _frames(p: PlottedPairs, layers: Callable[[PlottedPairs, PairGroup], tuple[Layer, ...]]) -> tuple[Frame, ...]:
    """A frame for each level of the second category, a panel for each of the first."""
    s = p.statement
    made = []
    for at, column in enumerate(p.columns):
        panels = []
        for group in column.groups:
            lane = Lane(layers(p, group) if group.x.size else (), y=p.up)
            many = len(p.groups) > 1
            label = group.label if at == 0 else ""
            panels.append(Panel((lane,), label, f"n = {whole(group.x.size)}" if many else ""))
        made.append(
            Frame(
                p.across,
                tuple(panels),
                show_y=True,
                title=column.title or " ",
                share=1.2 if at == 0 and len(p.columns) > 1 else 1.0,
                ends=("low", "high") if at == 0 else ("", ""),
                rise=("bottom", "top") if at == 0 else ("", ""),
                rules=reading_rules(s, p.read_at, p.said_at(p.read_at), labelled=at == 0),
            )
        )
    return tuple(made)


def _points(p: PlottedPairs, group: PairGroup) -> tuple[Layer, ...]:
    if p.count > MOST_POINTS:
        x_edges, y_edges = edges(p.across, 72), edges(p.up, 44)
        counts, _, _ = np.histogram2d(group.x, group.y, bins=(x_edges, y_edges))
        return (Shades(x_edges, y_edges, counts),)
    return (Points(group.x, group.y, group.rows, group.codes),)


def edges(axis: Axis, count: int) -> Floats:
    """Equal steps along an axis, of ratios where it is logarithmic."""
    if axis.log:
        return np.asarray(np.geomspace(axis.low, axis.high, count + 1))
    return np.asarray(np.linspace(axis.low, axis.high, count + 1))


def line(p: PlottedPairs) -> tuple[Frame, ...]:
    """Values joined in the order of time, of a number, or of the rows; a line for each colour."""

    def layers(p: PlottedPairs, group: PairGroup) -> tuple[Layer, ...]:
        made: list[Layer] = []
        codes = group.codes
        for code in np.unique(codes).tolist():
            here = np.flatnonzero(codes == code)
            order = here[np.argsort(group.x[here], kind="stable")]
            if order.size > MOST_LINE_POINTS:
                order = order[:: order.size // MOST_LINE_POINTS + 1]
            role = p.roles[code] if p.keys else "data"
            made.append(Line(group.x[order], group.y[order], role, 1.6))
        if p.count <= MOST_LINE_POINTS:
            size = 6.0 if p.count <= 150 else 4.0
            made.append(Points(group.x, group.y, group.rows, codes, size))
        if p.read_at is not None:
            made.append(WrittenWords(p.readings(group, p.read_at)))
        return tuple(made)

    return _frames(p, layers)


_USUAL = frozenset({"colour", "ends", "log"})
SHAPES = (
    Shape(
        "scatter",
        "A point for each row: one number against another.",
        (TWO_NUMBERS,),
        scatter,
        _USUAL,
        13,
        other_names=("scatterplot", "scatter plot", "trend line", "line of best fit", "correlation"),
    ),
    Shape(
        "line",
        "Values joined in the order of a date, a number, or the rows.",
        (OVER_TIME,),
        line,
        _USUAL | {"read"},
        14,
        other_names=("time series plot",),
    ),
)

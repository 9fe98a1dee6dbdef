"""A number against another, or along time: scatter and line."""

from __future__ import annotations

from theoros.answer.picture import Frame, Lane, Layer, Line, Panel, Points, Shades
from theoros.heavy import np
from theoros.verbs.pictures import MOST_POINTS
from theoros.verbs.plot.pairs import Pairs
from theoros.verbs.plot.shape import OVER_TIME, TWO_NUMBERS, Shape

MOST_LINE_POINTS = 4000


def scatter(p: Pairs) -> tuple[Frame, ...]:
    """A point for each row; shaded where they are too many to tell apart."""
    return _panels(p, _points)


def _panels(p: Pairs, layers) -> tuple[Frame, ...]:  # type: ignore[no-untyped-def]
    across, up = p.across, p.up
    many = len(p.groups) > 1
    panels = []
    for group in p.groups:
        label = group.label
        panels.append(Panel((Lane(layers(p, group), y=up),), label, f"n = {group.x.size}" if many else ""))  # noqa: E501  # fmt: skip
    return (Frame(across, tuple(panels), show_y=True, title=" "),)


def _points(p: Pairs, group) -> tuple[Layer, ...]:  # type: ignore[no-untyped-def]
    if p.count > MOST_POINTS:
        counts, x_edges, y_edges = np.histogram2d(
            group.x, group.y, bins=(72, 44),
            range=((p.across.low, p.across.high), (p.up.low, p.up.high)),
        )  # fmt: skip
        return (Shades(x_edges, y_edges, counts),)
    return (Points(group.x, group.y, group.rows, group.codes),)


def line(p: Pairs) -> tuple[Frame, ...]:
    """Values joined in the order of time, of a number, or of the rows; a line for each colour."""

    def layers(p: Pairs, group) -> tuple[Layer, ...]:  # type: ignore[no-untyped-def]
        made: list[Layer] = []
        codes = group.codes
        for code in np.unique(codes).tolist():
            here = np.flatnonzero(codes == code)
            order = here[np.argsort(group.x[here], kind="stable")]
            if order.size > MOST_LINE_POINTS:
                order = order[:: order.size // MOST_LINE_POINTS + 1]
            role = f"category-{code % 8}" if p.keys else "data"
            made.append(Line(group.x[order], group.y[order], role, 1.6))
        if p.count <= MOST_LINE_POINTS:
            size = 6.0 if p.count <= 150 else 4.0
            made.append(Points(group.x, group.y, group.rows, codes, size))
        return tuple(made)

    return _panels(p, layers)


_USUAL = frozenset({"colour"})
SHAPES = (
    Shape("scatter", "A point for each row: one number against another.", (TWO_NUMBERS,), scatter,
          _USUAL, 13),
    Shape("line", "Values joined in the order of a date, a number, or the rows.", (OVER_TIME,),
          line, _USUAL, 14),
)  # fmt: skip

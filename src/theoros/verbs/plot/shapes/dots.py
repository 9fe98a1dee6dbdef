"""A mark for each row: strewn, gathered in bins, piled, at exact values."""

from __future__ import annotations

from theoros.answer.axis import Axis
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.points import Points
from theoros.answer.layers.stacks import Stacks
from theoros.answer.picture import Frame, Lane, SquareHandle
from theoros.answer.wording import percent, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.bins import bin_indices, order_within, round_step
from theoros.verbs.data.groups import Group
from theoros.verbs.data.pictures import MOST_DOTS, counted_columns, fine_width, stacks
from theoros.verbs.plot.data.numbers import Plotted
from theoros.verbs.plot.shapes.shape import NUMBER, Shape

HIDDEN = Axis(0.0, 1.0, bare=True)


def bins_handle(p: Plotted) -> Frame:
    """The handles that the width of the bins and their beginning hang on."""
    step = round_step(p.width / 40)
    edge = p.first_edge
    wide = SquareHandle("bins", edge + p.width, edge, step)
    begin = SquareHandle("start", edge, 0.0, step, raised=True)
    return Frame(p.axis(), (), squares=(wide, begin))


def stacked(p: Plotted) -> tuple[Frame, ...]:
    """Dots piled in bins; columns where they are too many."""

    def lanes(group: Group) -> list[Lane]:
        return [Lane((_piled(p, group, p.width, p.start),))]

    return p.frames(lanes, p.axis(*p.whole_bins()), frame=bins_handle(p))


def _piled(p: Plotted, group: Group, width: float, start: float) -> Layer:
    codes = p.colours(group.rows)
    if p.values.size > MOST_DOTS:
        return counted_columns(group.values, codes, width, start)
    ringed = p.summary(group).outside(group.values)
    made = stacks(group.values, group.rows, codes, ringed, width, start)
    return _labelled(p, made, group, width, start)


def _labelled(p: Plotted, made: Stacks, group: Group, width: float, start: float) -> Stacks:
    """With counts or percent above the bins, where they are wanted."""
    if not (p.has("counts") or p.has("percent")):
        return made
    from dataclasses import replace

    bins = bin_indices(group.values, width, start)
    found, counts = np.unique(bins, return_counts=True)
    labels = tuple(
        (float(start + (k + 0.5) * width), bin_label(p, int(count), group.values.size))
        for k, count in zip(found.tolist(), counts.tolist(), strict=True)
    )
    return replace(made, labels=labels)


def bin_label(p: Plotted, count: int, n: int) -> str:
    """What stands above a bin: its count, its share, or both."""
    parts = []
    if p.has("counts"):
        parts.append(whole(count))
    if p.has("percent"):
        parts.append(percent(count, n))
    return " · ".join(parts)


def exact_dots(p: Plotted) -> tuple[Frame, ...]:
    """Dots piled at their exact values, equal values on each other."""
    fine = fine_width(p.values) / 4

    def lanes(group: Group) -> list[Lane]:
        if p.values.size > MOST_DOTS:
            return [Lane((_piled(p, group, fine, float(p.values.min())),))]
        values, rows = group.values, group.rows
        codes = p.colours(rows)
        order = np.lexsort((rows, codes))
        _, places = np.unique(values[order], return_inverse=True)
        ringed = p.summary(group).outside(values)
        layer = Stacks(values[order], order_within(places), _dot_room(p), rows[order], codes[order], ringed[order])
        return [Lane((layer,))]

    return p.frames(lanes, p.axis())


def _dot_room(p: Plotted) -> float:
    """The room for one dot, in units: dots at different values may overlap."""
    axis = p.axis()
    return (axis.high - axis.low) / 60


def strewn(p: Plotted) -> tuple[Frame, ...]:
    """Every row at its value, at a height that means nothing."""

    def lanes(group: Group) -> list[Lane]:
        up = heights(group)
        return [Lane((Points(group.values, up, group.rows, p.colours(group.rows)),), y=HIDDEN)]

    return p.frames(lanes, p.axis())


def gathered(p: Plotted) -> tuple[Frame, ...]:
    """Rows gathered in bins, in no order within one: what counts is how many there are."""

    def lanes(group: Group) -> list[Lane]:
        bins = bin_indices(group.values, p.width, p.start)
        place = order_within(bins)
        per_bin = np.bincount(bins - bins.min())[bins - bins.min()]
        aside = (place * 0.6180339887 + 0.5) % 1.0
        x = p.start + (bins + 0.12 + 0.76 * aside) * p.width
        up = np.minimum(0.94, (place + 0.5) / np.maximum(per_bin, 1) * 0.9)
        points = Points(np.asarray(x, dtype=np.float64), np.asarray(up), group.rows, p.colours(group.rows))
        layers: list[Layer] = [points]
        if p.has("counts") or p.has("percent"):
            from theoros.answer.layers.written_words import WrittenWords

            found, counts = np.unique(bins, return_counts=True)
            layers.append(
                WrittenWords(
                    tuple(
                        (p.start + (k + 0.5) * p.width, bin_label(p, c, bins.size), "middle")
                        for k, c in zip(found.tolist(), counts.tolist(), strict=True)
                    )
                )
            )
        return [Lane(tuple(layers), y=HIDDEN)]

    return p.frames(lanes, p.axis(*p.whole_bins()), frame=bins_handle(p))


def heights(group: Group) -> Floats:
    """A height for each row that stays the same however it is shown: spread evenly, no pattern."""
    return np.asarray(0.06 + 0.88 * ((group.rows * 0.6180339887 + 0.31) % 1.0), dtype=np.float64)


_USUAL = frozenset({"marks", "cut", "ends", "colour", "turn"})
SHAPES = (
    Shape(
        "stacked dots",
        "A dot for each row, piled in bins.",
        (NUMBER,),
        stacked,
        _USUAL | {"bins"},
        1,
        other_names=("dot plot", "dotplot"),
    ),
    Shape(
        "dots at exact values",
        "A dot for each row at its exact value, equal ones piled.",
        (NUMBER,),
        exact_dots,
        _USUAL,
        2,
    ),
    Shape(
        "strewn dots",
        "A dot for each row, in no order; its height means nothing.",
        (NUMBER,),
        strewn,
        _USUAL | {"log"},
        3,
    ),
    Shape("gathered dots", "Rows gathered in bins, without order in a bin.", (NUMBER,), gathered, _USUAL | {"bins"}, 4),
)

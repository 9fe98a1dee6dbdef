"""Pictures that several verbs share: dots and boxes for groups, scatter, words for them."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.axis import Axis, span
from theoros.answer.layers.boxes import Box
from theoros.answer.layers.spots import Interval
from theoros.answer.layers.stacks import CountedColumns, Stacks
from theoros.answer.nouns import counted
from theoros.answer.picture import Frame, Lane, Panel
from theoros.answer.wording import between_data, exact, sentence_case, shortened, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.numeric.bins import bin_indices, bin_start, default_width, order_within, round_step
from theoros.numeric.lean_and_peaks import shape_of
from theoros.numeric.summaries import Summary
from theoros.verbs.data.groups import Group, Split
from theoros.verbs.data.samples import Measured

MOST_DOTS = 5000
"""More cases than this are counted in columns instead of having a dot each."""
MOST_POINTS = 5000
"""More points than this in a scatter are drawn as shaded density."""


def stacks(values: Floats, rows: Ints, codes: Ints, ringed: Bools, width: float, start: float) -> Stacks:
    """Dots gathered in bins; in a bin the colours stand together, then the order of the rows."""
    order = np.lexsort((rows, codes))
    bins = bin_indices(values[order], width, start)
    return Stacks(
        centres=np.asarray(start + (bins + 0.5) * width, dtype=np.float64),
        order=order_within(bins),
        width=width,
        rows=rows[order],
        codes=codes[order],
        ringed=ringed[order],
    )


def counted_columns(values: Floats, codes: Ints, width: float, start: float) -> CountedColumns:
    """Cases counted in bins, by colour."""
    bins = bin_indices(values, width, start)
    low = int(bins.min())
    size = int(bins.max()) - low + 1
    keys = int(codes.max(initial=0)) + 1
    counts = np.bincount(codes * size + bins - low, minlength=keys * size).reshape(keys, size)
    centres = start + (np.arange(low, low + size) + 0.5) * width
    return CountedColumns(np.asarray(centres, dtype=np.float64), counts.astype(np.float64), width)


def box(values: Floats, summary: Summary, *, mean: bool = False) -> Box:
    """The box of a group: whiskers to the farthest values within the fences."""
    low, high = summary.whiskers(values)
    centre = summary.mean if mean else None
    return Box(low, summary.q1, summary.median, summary.q3, high, centre)


def dots_frame(split: Split, label: str, *, rule: str = "halves", title: str = "", column: str = "") -> Frame:
    """A panel for each group: stacked dots above a box with its mean, possible outliers as rings.

    The bins are narrow, so that dots stand close to their values. `column` is the one whose name
    the label is, if it is.
    """
    everything = split.all_values
    width = fine_width(everything)
    first = bin_start(everything, width)
    panels = []
    for group in split.groups:
        lanes = [Lane(())]
        if group.values.size:
            summary = group.summary(rule)
            one_colour = np.zeros_like(group.rows)
            many = everything.size > MOST_DOTS
            layer = (
                counted_columns(group.values, one_colour, width, first)
                if many
                else stacks(group.values, group.rows, one_colour, group.beyond(summary), width, first)
            )
            lanes = [Lane((layer,)), Lane((box(group.values, summary, mean=True),), share=0.42)]
        note = f"n = {whole(group.values.size)}" if len(split.groups) > 1 or group.label else ""
        panels.append(Panel(tuple(lanes), group.label, note))
    # the axis holds whole bins, so that no dot stands outside it
    low, high = span(everything)
    if everything.size:
        low = min(low, first + np.floor((everything.min() - first) / width + 1e-9) * width)
        high = max(high, first + (np.floor((everything.max() - first) / width + 1e-9) + 1) * width)
    return Frame(Axis(float(low), float(high), label, column=column), tuple(panels), title=title)


def fine_width(values: Floats) -> float:
    """A narrow bin, for dots that stand near their values in a small picture."""
    if values.size == 0:
        return 1.0
    low, high = float(values.min()), float(values.max())
    spread = high - low
    if spread <= 0 or not np.isfinite(spread):
        return default_width(values)
    return round_step(spread / 30)


def lean_words(values: Floats, summary: Summary) -> str:
    """How values lean, in words before the figures, as the Reading says it; empty for little."""
    shape = shape_of(values, summary)
    if shape is None:
        return ""
    tail = "skewed to the" if shape.clear else "slightly skewed to the"
    return {
        "symmetric": "roughly symmetric, ",
        "right": f"{tail} right, ",
        "left": f"{tail} left, ",
        "peaks": "more than one peak, ",
    }.get(shape.kind, "")


def describe_groups(
    groups: Sequence[Group], what: str, unit: str, decimals: int, shape: str = "dots and boxes", rule: str = "halves"
) -> str:
    """Words for a picture of groups: shape, centre, spread and unusual values of each, by a rule of quartiles."""
    parts = [describe_group(group, unit, decimals, rule) for group in groups]
    return f"{sentence_case(shape)} of {what}. {'; '.join(parts)}."


def describe_group(group: Group, unit: str, decimals: int, rule: str = "halves") -> str:
    """The same for one group, after its name where it has one."""
    name = f"{shortened(group.label)}: " if group.label else ""
    if not group.values.size:
        return f"{name}no values"
    summary = group.summary(rule)
    if summary.minimum == summary.maximum:
        all_ = "all " if summary.n > 1 else ""
        value = with_unit(between_data(summary.median, decimals), unit)
        return f"{name}{counted(summary.n, 'value')}, {all_}{value}"
    middle = with_unit(between_data(summary.median, decimals), unit)
    upper = with_unit(between_data(summary.q3, decimals), unit)
    ends = f"{between_data(summary.q1, decimals)} to {upper}"
    n = int(group.beyond(summary).sum())
    odd = f", {n} outside the fences" if n else ""
    return (
        f"{name}{counted(group.values.size, 'value')}, {lean_words(group.values, summary)}"
        f"median {middle}, middle half {ends}{odd}"
    )


def measured_frame(data: Measured) -> Frame:
    """What was seen: dots and boxes of the samples, or the means of those that were typed."""
    if data.cases is None:
        return _typed_frame(data)
    return dots_frame(data.cases, data.axis, title="Observed", column=data.column)


def measured_alt(data: Measured) -> str:
    """The same in words."""
    if data.cases is None:
        return typed_words(data)
    return describe_groups(data.cases.groups, data.axis, data.unit, data.decimals)


def _typed_frame(data: Measured) -> Frame:
    """The mean of each sample, with one standard deviation on each side."""
    figures = [sample.summary for sample in data.samples]
    low = min(s.mean - s.sd for s in figures)
    high = max(s.mean + s.sd for s in figures)
    room = (high - low) * 0.15 or abs(high) * 0.1 or 1.0
    panels = []
    for sample, s in zip(data.samples, figures, strict=True):
        bar = Interval(s.mean - s.sd, s.mean, s.mean + s.sd, line_role="data")
        panels.append(Panel((Lane((bar,)),), sample.label, f"n = {whole(sample.n)}"))
    axis = Axis(low - room, high + room, data.axis)
    return Frame(axis, tuple(panels), "Mean ± one SD")


def typed_words(data: Measured) -> str:
    """Typed figures in words, for who cannot see the picture."""
    said = [
        f"{s.phrase}: n = {whole(s.n)}, mean {with_unit(exact(s.summary.mean), data.unit)}, "
        f"SD {with_unit(exact(s.summary.sd), data.unit)}"
        for s in data.samples
    ]
    return f"Typed figures. {'; '.join(said)}."

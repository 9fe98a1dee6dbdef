"""Comparing two groups by eye: shaded parts of boxes, and the gap of medians beside the spread.

The rule of thumb for the gap is that of Wild, Pfannkuch, Regan and Horton, "Towards more
accessible conceptions of statistical inference", Journal of the Royal Statistical Society A
174 (2011), 247-295: with groups near 30, a gap of a third of the overall visible spread lets
one make the call that the medians back in the populations differ; near 100, a fifth; near
1000, a tenth.
"""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.layers.boxes import Box, MeasuredBar, Shaded
from theoros.answer.picture import Frame, Lane, Panel
from theoros.answer.wording import between_data, number, with_unit
from theoros.numeric.summaries import Summary
from theoros.verbs.plot.data.numbers import Plotted

LEAST, SMALL, MIDDLING = 20, 60, 400
"""Group sizes: below the first the rule says nothing, below the second it takes a third, below
the third a fifth, above it a tenth."""


def compared(p: Plotted, frames: tuple[Frame, ...]) -> tuple[tuple[Frame, ...], list[str]]:
    """The frames with what helps to compare two groups, and what it says."""
    statement = p.statement
    full = [group for group in p.cases.groups if group.values.size]
    if len(p.cases.groups) != 2 or len(full) != 2 or len(frames) != 1:
        return frames, []
    summaries = [p.summary(group) for group in full]
    frame = frames[0]
    panels = list(frame.panels)
    for at, part in enumerate((statement.first_part, statement.second_part)):
        if part:
            panels[at] = _shade(panels[at], summaries[at], part)
    said: list[str] = []
    if statement.gap:
        panel, said = _gap(p, summaries)
        panels.append(panel)
    return (replace(frame, panels=tuple(panels)),), said


def _shade(panel: Panel, summary: Summary, part: str) -> Panel:
    """Shades a part of the box, behind its lines."""
    low, high = {
        "lower half": (summary.q1, summary.median),
        "upper half": (summary.median, summary.q3),
        "lower three quarters": (summary.minimum, summary.q3),
        "upper three quarters": (summary.q1, summary.maximum),
    }[part]
    lanes: list[Lane] = []
    for lane in panel.lanes:
        boxes = [layer for layer in lane.layers if isinstance(layer, Box)]
        if boxes:
            shown = Shaded(low, high)
            lane = replace(lane, layers=(*lane.layers, shown, _outline(boxes[0])))
        lanes.append(lane)
    return replace(panel, lanes=tuple(lanes))


def _outline(box: Box) -> Box:
    """The box again over its shade, so that its lines are seen: hollow, without the mean."""
    return replace(box, mean=None, hollow=True)


def _gap(p: Plotted, summaries: list[Summary]) -> tuple[Panel, list[str]]:
    column, places = p.column, p.table.decimals(p.column.name)

    def amount(value: float) -> str:
        return with_unit(between_data(value, places), column.unit)

    medians = sorted(summary.median for summary in summaries)
    low = min(summary.q1 for summary in summaries)
    high = max(summary.q3 for summary in summaries)
    gap, spread = medians[1] - medians[0], high - low
    panel = Panel(
        (
            Lane((MeasuredBar(medians[0], medians[1], f"gap of the medians {amount(gap)}", "seen"),)),
            Lane((MeasuredBar(low, high, f"both boxes together {amount(spread)}", "range"),)),
        )
    )
    if spread <= 0:
        return panel, ["Both boxes have no width, so their spread says nothing about the gap."]
    share = gap / spread
    sentence = (
        f"The gap of the medians, {amount(gap)}, is {number(share, 2)} of the overall visible spread, {amount(spread)}."
    )
    return panel, [sentence, rule_of_thumb(share, min(s.n for s in summaries))]


def rule_of_thumb(share: float, n: int) -> str:
    """What a gap of this share of the spread suggests for groups of at least `n`."""
    if n < LEAST:
        return f"With groups as small as {n}, the picture alone cannot decide."
    if n < SMALL:
        words, needed, about = "1/3", 1 / 3, "30"
    elif n < MIDDLING:
        words, needed, about = "1/5", 1 / 5, "100"
    else:
        words, needed, about = "1/10", 1 / 10, "1000"
    if share > needed:
        return (
            f"For random samples of about {about}, more than {words} suggests that the medians of the populations "
            "differ in the same direction. Use a test to check it."
        )
    return (
        f"For random samples of about {about}, a gap of more than {words} is needed: this gap may be chance. It "
        "does not show that the medians are equal."
    )

"""What was observed, as a picture, in words and as a table, whatever it is."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.layers.blocks import Blocks
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.picture import Axis, Frame, Lane, Panel, Rule
from theoros.answer.wording import exact, number, whole, with_unit
from theoros.lazy_imports import np
from theoros.verbs.data.pictures import measured_alt, measured_frame
from theoros.verbs.data.samples import Measured, Observed
from theoros.verbs.data.shares import Shares
from theoros.verbs.data.tables import samples_table

PLACES = 4


def seen_frame(data: Observed, null: float | None = None) -> Frame:
    """The rows, or typed figures; with a line at the value that is claimed, where it is one."""
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


def _shares_frame(data: Shares) -> Frame:
    panels = []
    for share in data.of:
        bar = Blocks(
            np.array([0.0]), np.array([share.value]), np.array([0.2]), np.array([0.8]),
            np.zeros(1, dtype=np.int64), (f"{whole(share.x)} of {whole(share.n)}",),
        )  # fmt: skip
        lane = Lane((bar,), y=Axis(0.0, 1.0, bare=True))
        panels.append(Panel((lane,), share.label))
    axis = Axis(0.0, 1.0, f"proportion of {data.said}")
    return Frame(axis, tuple(panels), "What was seen")


def seen_alt(data: Observed) -> str:
    """The same in words."""
    if isinstance(data, Shares):
        said = [
            f"{share.phrase}: {whole(share.x)} of {whole(share.n)}, {number(share.value, 3)}"
            for share in data.of
        ]
        return f"Bars of the proportion of {data.said}. {'; '.join(said)}."
    assert isinstance(data, Measured)
    return measured_alt(data)


def seen_table(data: Observed) -> ResultTable:
    """Its figures."""
    if isinstance(data, Shares):
        return _shares_table(data)
    assert isinstance(data, Measured)
    return samples_table(data)


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

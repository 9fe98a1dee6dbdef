"""The reading line: a value along the axis, and what every curve says there."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.picture import Rule
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

if TYPE_CHECKING:
    from theoros.verbs.plot.statement import PlotStatement


def reading_rules(s: PlotStatement, at: float | None, said: str, *, labelled: bool = True) -> tuple[Rule, ...]:
    """The line itself, with the slot that dragging it sets."""
    if at is None or "read" not in s.uses:
        return ()
    return (Rule(at, said if labelled else "", "ink", "read", dashed=True),)


def height_at(x: Floats, y: Floats, at: float) -> float | None:
    """The height of a line through points (x ascending) at a value; None beyond its ends.

    Between two points it is interpolated in a straight line; where several points share the
    value, it is their mean.
    """
    if not x.size or at < x[0] or at > x[-1]:
        return None
    here = x == at
    if here.any():
        return float(y[here].mean())
    return float(np.interp(at, x, y))

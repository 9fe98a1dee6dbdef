"""The shape of a distribution in words, with what speaks for it."""

from __future__ import annotations

from theoros.answer.wording import percent
from theoros.heavy import np
from theoros.numeric.arrays import Floats
from theoros.numeric.density import density_curve
from theoros.numeric.summaries import Summary

LEAST = 12
"""Fewer values than this have no shape to speak of."""


def shape_words(name: str, values: Floats, summary: Summary) -> str:
    """What can be said of the shape, and by what; empty for too few values or none."""
    if summary.n < LEAST:
        return ""
    if not summary.sd > 0:
        return ""
    distinct = np.unique(values).size
    if distinct <= 2:
        return (
            f"Only {distinct} different values of {name} occur, so there is no shape to speak of."
        )
    pull = (summary.mean - summary.median) / summary.sd
    lower, upper = summary.median - summary.q1, summary.q3 - summary.median
    halves = (upper - lower) / (upper + lower) if upper + lower > 0 else 0.0
    peaks = count_peaks(values)
    if peaks >= 2:
        words = {2: "two peaks", 3: "three peaks"}.get(peaks, "several peaks")
        return (
            f"A smooth curve of {name} has {words}: there may be different groups among the cases. "
            f"Try it for each level of a category."
        )
    inside = int((np.abs(values - summary.mean) <= summary.sd).sum())
    share = percent(inside, summary.n)
    if abs(pull) < 0.12 and abs(halves) < 0.35:
        return (
            f"The shape of {name} is roughly symmetric with one peak: mean and median lie close "
            f"together, and {share} of the values lie within one standard deviation of the mean."
        )
    if pull * halves < 0 and abs(pull) < 0.2:
        return f"The shape of {name} leans neither way clearly."
    side = "right" if pull > 0 or (pull == 0 and halves > 0) else "left"
    way = "above" if side == "right" else "below"
    box = ""
    if abs(halves) >= 0.2 and (halves > 0) == (side == "right"):
        box = f", and the {'upper' if halves > 0 else 'lower'} part of the box is the wider"
    return f"The shape of {name} is skewed to the {side}: the mean lies {way} the median{box}."


def count_peaks(values: Floats) -> int:
    """Peaks of the density curve that stand out: at least a fifth of the highest, and parted.

    Two peaks are parted where the curve between them falls below three quarters of the lower.
    """
    if values.size < 30:
        return 1
    _, y = density_curve(values)
    top = float(y.max())
    tops = np.flatnonzero((y[1:-1] > y[:-2]) & (y[1:-1] >= y[2:])) + 1
    tops = tops[y[tops] >= 0.2 * top]
    count, last = 1, int(tops[0]) if tops.size else 0
    for at in tops[1:].tolist():
        valley = float(y[last : at + 1].min())
        if valley < 0.75 * min(float(y[last]), float(y[at])):
            count += 1
            last = at
        elif y[at] > y[last]:
            last = at
    return count

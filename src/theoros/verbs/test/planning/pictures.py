"""Both kinds of error as areas under two curves: where H0 holds, and where the true value does."""

from __future__ import annotations

import math

from theoros.answer.axis import Axis, Reads
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line, Under
from theoros.answer.layers.written_words import WrittenWords
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import exact, number, percent, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.procedures.power import FPower, Power
from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim

STEPS = 241


def picture_of_groups(now: FPower, true: float, text: str, slot: str) -> Picture:
    shift = now.shift if math.isfinite(now.shift) else now.critical
    high = max(2.2 * now.critical, 2.0 * shift)
    grid = np.linspace(high / STEPS, high, STEPS)
    under, over = now.null_height(grid), now.height(grid)
    layers = [
        *_errors(now, grid, (now.critical,), "greater"),
        Line(grid, under, "chance", 2.0),
        Line(grid, over, "data", 2.0),
        _shares(now, now.critical, "greater"),
    ]
    top = float(min(max(under.max(), over.max()), 4 * over.max() + under[STEPS // 4])) * 1.1
    # the mean of F grows with the square of what is supposed
    base = now.df2 / (now.df2 - 2) if now.df2 > 2 else 0.0
    values = true * np.arange(1, 41) / 20
    places = base * (1 + now.noncentrality * (values / true) ** 2 / now.df1)
    reads = Reads(tuple(places.tolist()), tuple(values.tolist()))
    rules = (
        Rule(now.critical, "", "tail", knob=False, dashed=True),
        Rule(min(shift, high), f"true: {text}", "data", slot if base else "", reads=reads if base else None),
    )
    axis = Axis(0.0, high, "F; dashed: the critical value")
    alt = (
        f"Two curves of F: under H0, and around {number(shift, 2)} if the true means hold. Shaded "
        f"is what goes wrong: H0 rejected where it holds, beyond the critical value, and not "
        f"rejected where the means differ, before it, {number(1 - now.power, 2)}."
    )
    frame = Frame(axis, (Panel((Lane(tuple(layers), y=Axis(0.0, top)),)),), rules=rules)
    return Picture((frame,), alt=alt)


def picture_of_one(words: ComparisonClaim, now: Power, true: float, step: float, slot: str) -> Picture:
    low, high = min(-4.0, now.shift - 4.0), max(4.0, now.shift + 4.0)
    grid = np.linspace(low, high, STEPS)
    under, over = now.null_height(grid), now.height(grid)
    limits = (now.critical,) if words.alternative != "different" else (-now.critical, now.critical)
    layers = [
        *_errors(now, grid, limits, words.alternative),
        Line(grid, under, "chance", 2.0),
        Line(grid, over, "data", 2.0),
        _shares(now, limits[-1] if now.shift > 0 else limits[0], words.alternative),
    ]
    top = float(max(under.max(), over.max())) * 1.1
    places = (low, high)
    reads = Reads(places, tuple(words.null + at * step for at in places))
    symbol = "z" if math.isinf(now.df) else "t"
    rules = (
        *(Rule(limit, "", "tail", knob=False, dashed=True) for limit in limits),
        Rule(now.shift, f"true: {with_unit(exact(true), words.gap_unit)}", "data", slot, reads=reads),
    )
    axis = Axis(low, high, f"{symbol}; dashed: the critical value")
    frame = Frame(axis, (Panel((Lane(tuple(layers), y=Axis(0.0, top)),)),), rules=rules)
    alt = (
        f"Two curves of {symbol}: under H0 around 0, and around {number(now.shift, 2)} if the true "
        f"value holds. Shaded is what goes wrong: H0 rejected where it holds, beyond the critical "
        f"value, and not rejected where the true value holds, before it, "
        f"{number(1 - now.power, 2)}."
    )
    return Picture((frame,), alt=alt)


def _errors(now: Power | FPower, grid: Floats, limits: tuple[float, ...], alternative: Alternative) -> list[Layer]:
    """Where the curves overlap: both kinds of error as areas."""
    inside = grid
    if alternative != "less":
        inside = np.append(inside[inside < limits[-1]], limits[-1])
    if alternative != "greater":
        inside = np.insert(inside[inside > limits[0]], 0, limits[0])
    missed = Under(inside, now.height(inside), "data", hatched=False, opacity=0.25)
    alarms = _beyond(grid, limits, alternative)
    return [missed, *(Under(part, now.null_height(part)) for part in alarms)]


def _shares(now: Power | FPower, limit: float, alternative: Alternative) -> WrittenWords:
    """How often the true value is found, and missed, on the sides of a critical value."""
    left = alternative == "less" or (alternative == "different" and isinstance(now, Power) and now.shift < 0)
    near, far = sorted((limit, now.shift))  # clear of the line at the true value
    words = (near, "end"), (far, "start")
    (found_at, found), (missed_at, missed) = words if left else words[::-1]
    return WrittenWords(
        (
            (found_at, f"found: {percent(now.power, 1)}", found),
            (missed_at, f"missed: {percent(1 - now.power, 1)}", missed),
        )
    )


def _beyond(grid: Floats, limits: tuple[float, ...], alternative: Alternative) -> list[Floats]:
    """The stretches of the grid in which H0 is rejected."""
    parts = []
    if alternative in ("less", "different"):
        parts.append(np.append(grid[grid < limits[0]], limits[0]))
    if alternative in ("greater", "different"):
        parts.append(np.insert(grid[grid > limits[-1]], 0, limits[-1]))
    return [part for part in parts if part.size > 1]

"""Planning: how often a claim would be found at a true value, and how many cases that takes."""

from __future__ import annotations

import math
from collections.abc import Callable

from theoros.answer.axis import Axis, Reads
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line, Under
from theoros.answer.layers.written import Said
from theoros.answer.parts import Section
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import exact, number, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.procedures.power import FPower, Power, f_power, least_n, t_power, z_power
from theoros.verbs.data.samples import OneSample, Paired, SeveralSamples, TwoSamples
from theoros.verbs.data.shares import Shares
from theoros.verbs.procedures.hypotheses.comparison import Compared

STEPS = 241
_SHADED = (
    "Shaded: where H₀ is rejected although it holds (hatched), and where it is not rejected "
    "although the true value holds."
)


def planning_section(words: Compared, true: float, wanted: float, *, slot: str = "true_value") -> tuple[Section, ...]:
    """Two curves with the critical value: where H0 holds, and where the true value does."""
    found = _found(words, true)
    if found is None:
        return (Section("Planning", note="A true value that is no other than H₀ has no power."),)
    now, at_n, sizes, step = found
    n = least_n(lambda size: at_n(size).power, wanted)
    groups = " in each group" if words.compares else ""
    said = f"no sample up to {number(1e7, 0)} is enough" if n is None else f"{number(n, 0)}{groups} would be needed"
    true_text = with_unit(exact(true), words.gap_unit)
    note = (
        f"If the true {_what(words)} is {true_text}, this test finds it in {_percent(now.power)} "
        f"of samples of this size ({sizes}): its power. For a power of {_percent(wanted)}, {said}. "
        f"{_SHADED}"
    )
    return (Section("Planning", _picture(words, now, true, step, slot), note=note),)


def _what(words: Compared) -> str:
    if words.compares:
        return f"difference of the {words.parameter.plural}"
    mean = isinstance(words.data, Paired)
    return f"{words.parameter.name} difference" if mean else words.parameter.name


def _percent(share: float) -> str:
    return f"{number(100 * share, 0)}\u00a0%"


Found = tuple[Power, Callable[[int], Power], str, float]
"""The power now, that of other sizes, the sizes in words, and what one unit of the axis is."""


def _found(words: Compared, true: float) -> Found | None:
    data, gap = words.data, true - words.null
    if gap == 0:
        return None
    if isinstance(data, OneSample | Paired):
        s = data.single.summary
        if not s.sd > 0:
            return None

        def one(n: int) -> Power:
            return t_power(math.sqrt(n) * gap / s.sd, n - 1, words.alpha, words.alternative)

        return one(s.n), one, f"n = {s.n}", s.sd / math.sqrt(s.n)
    if isinstance(data, TwoSamples):
        x, y = data.first.summary, data.second.summary
        sd = math.sqrt((x.sd**2 + y.sd**2) / 2)
        if not sd > 0:
            return None

        def two(n1: int, n2: int) -> Power:
            error = sd * math.sqrt(1 / n1 + 1 / n2)
            return t_power(gap / error, n1 + n2 - 2, words.alpha, words.alternative)

        step = sd * math.sqrt(1 / x.n + 1 / y.n)
        return two(x.n, y.n), lambda n: two(n, n), f"{x.n} and {y.n}", step
    if isinstance(data, Shares) and len(data.of) == 2 and words.null == 0:
        return _of_two_shares(words, data, gap)
    if isinstance(data, Shares) and len(data.of) == 1 and 0 < true < 1 and 0 < words.null < 1:
        null, n0 = float(words.null), data.of[0].n
        ratio = math.sqrt(null * (1 - null) / (true * (1 - true)))

        def share(n: int) -> Power:
            error = math.sqrt(null * (1 - null) / n)
            return z_power(gap / error, ratio, words.alpha, words.alternative)

        return share(n0), share, f"n = {n0}", math.sqrt(null * (1 - null) / n0)
    return None


def _of_two_shares(words: Compared, data: Shares, gap: float) -> Found | None:
    """The second share as it was seen, the first away from it by the true difference."""
    base = data.of[1].value
    first = base + gap
    if not (0 < first < 1 and 0 < base < 1):
        return None
    middle = (first + base) / 2
    under, over = middle * (1 - middle), first * (1 - first)

    def shares(n1: int, n2: int) -> Power:
        error = math.sqrt(under * (1 / n1 + 1 / n2))
        true_error = math.sqrt(over / n1 + base * (1 - base) / n2)
        return z_power(gap / error, error / true_error, words.alpha, words.alternative)

    n1, n2 = data.of[0].n, data.of[1].n
    step = math.sqrt(under * (1 / n1 + 1 / n2))
    return shares(n1, n2), lambda n: shares(n, n), f"{n1} and {n2}", step


def groups_section(
    data: SeveralSamples, true: float, wanted: float, alpha: float, *, slot: str = "true_value"
) -> tuple[Section, ...]:
    """The same for several means, whose true standard deviation is supposed to be `true`."""
    sizes = [group.n for group in data.groups]
    k, n = len(sizes), sum(sizes)
    within = sum((g.n - 1) * g.summary.sd**2 for g in data.groups if g.n > 1)
    if n <= k or not within > 0 or not true > 0:
        return (Section("Planning", note="The true means need a standard deviation above 0."),)
    ratio = (true / math.sqrt(within / (n - k))) ** 2

    def of(each: float) -> FPower:
        return f_power(k * each * ratio, k - 1, k * each - k, alpha)

    now, needed = f_power(n * ratio, k - 1, n - k, alpha), least_n(lambda m: of(m).power, wanted)
    said = (
        f"no sample up to {number(1e7, 0)} is enough"
        if needed is None
        else f"{number(needed, 0)} in each group would be needed"
    )
    text = with_unit(exact(true), data.unit)
    note = (
        f"If the {k} true means have a standard deviation of {text}, this test finds that they "
        f"differ in {_percent(now.power)} of samples of this size (n = {n} in all): its power. For "
        f"a power of {_percent(wanted)}, {said}. {_SHADED}"
    )
    return (Section("Planning", _f_picture(now, true, text, slot), note=note),)


def _f_picture(now: FPower, true: float, text: str, slot: str) -> Picture:
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


def _picture(words: Compared, now: Power, true: float, step: float, slot: str) -> Picture:
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


def _shares(now: Power | FPower, limit: float, alternative: Alternative) -> Said:
    """How often the true value is found, and missed, on the sides of a critical value."""
    left = alternative == "less" or (alternative == "different" and isinstance(now, Power) and now.shift < 0)
    near, far = sorted((limit, now.shift))  # clear of the line at the true value
    words = (near, "end"), (far, "start")
    (found_at, found), (missed_at, missed) = words if left else words[::-1]
    return Said(
        ((found_at, f"found: {_percent(now.power)}", found), (missed_at, f"missed: {_percent(1 - now.power)}", missed))
    )


def _beyond(grid: Floats, limits: tuple[float, ...], alternative: Alternative) -> list[Floats]:
    """The stretches of the grid in which H0 is rejected."""
    parts = []
    if alternative in ("less", "different"):
        parts.append(np.append(grid[grid < limits[0]], limits[0]))
    if alternative in ("greater", "different"):
        parts.append(np.insert(grid[grid > limits[-1]], 0, limits[-1]))
    return [part for part in parts if part.size > 1]

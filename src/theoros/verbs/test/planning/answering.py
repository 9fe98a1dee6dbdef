"""The section on planning: power now, the sizes that it takes, for one claim and for several groups."""

from __future__ import annotations

import math
from collections.abc import Callable

from theoros.answer.parts import Section
from theoros.answer.wording import exact, number, percent, percent_text, with_unit
from theoros.numeric.procedures.power import FPower, Power, f_power, least_n, t_power, z_power
from theoros.verbs.data.samples import OneSample, Paired, SeveralSamples, TwoSamples
from theoros.verbs.data.shares import Shares
from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim
from theoros.verbs.test.planning.pictures import picture_of_groups, picture_of_one

SLOT = "true_value"
"""What a handle in the picture sets."""
_SHADED = (
    "Shaded: where H₀ is rejected although it holds (hatched), and where it is not rejected "
    "although the true value holds."
)


def planning_section(words: ComparisonClaim, true: float, wanted: float) -> tuple[Section, ...]:
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
        f"If the true {_what(words)} is {true_text}, this test finds it in {percent(now.power, 1)} "
        f"of samples of this size ({sizes}): its power. For a power of {percent_text(wanted)}, {said}. "
        f"{_SHADED}"
    )
    return (Section("Planning", picture_of_one(words, now, true, step, SLOT), note=note),)


def _what(words: ComparisonClaim) -> str:
    if words.compares:
        return f"difference of the {words.parameter.plural}"
    mean = isinstance(words.data, Paired)
    return f"{words.parameter.name} difference" if mean else words.parameter.name


Found = tuple[Power, Callable[[int], Power], str, float]
"""The power now, that of other sizes, the sizes in words, and what one unit of the axis is."""


def _found(words: ComparisonClaim, true: float) -> Found | None:
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


def _of_two_shares(words: ComparisonClaim, data: Shares, gap: float) -> Found | None:
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


def groups_section(data: SeveralSamples, true: float, wanted: float, alpha: float) -> tuple[Section, ...]:
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
        f"differ in {percent(now.power, 1)} of samples of this size (n = {n} in all): its power. For "
        f"a power of {percent_text(wanted)}, {said}. {_SHADED}"
    )
    return (Section("Planning", picture_of_groups(now, true, text, SLOT), note=note),)

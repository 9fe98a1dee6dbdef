"""The power of the method that the statement names, or of the one that stands in for it, which is said."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from theoros.answer.wording import exact
from theoros.numeric.procedures.exact_power import binomial_power, fisher_power
from theoros.numeric.procedures.power import Power, least_n, t_power, z_power
from theoros.verbs.data.samples import OneSample, Paired, TwoSamples
from theoros.verbs.data.shares import Shares
from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim
from theoros.verbs.procedures.procedure import Procedure, Settings

MOST_COUNTED, MOST_TABLES = 20_000, 90_000
"""Up to so many cases, and so many tables of two groups, every count is looked at."""
EVERY_SIZE = 0.75
"""An exact test's power goes up and down with n: from this share of a size on every one is tried."""


@dataclass(frozen=True)
class PlannedPower:
    """What planning tells of a claim and a true value."""

    now: Power
    at: Callable[[int], Power]
    """The power of another size, in each group."""
    sizes: str
    """The sizes now, in words."""
    step: float
    """What one unit of the picture's axis is."""
    of: str = ""
    """The method whose power it is, where that is another than the statement names."""
    saw: bool = False
    """Whether the power does not always grow with n."""

    def needed(self, wanted: float) -> int | None:
        """The smallest size with a power as large; None where there is none."""
        found = least_n(lambda n: self.at(n).power, wanted)
        if found is None or not self.saw:
            return found
        first = max(2, int(EVERY_SIZE * found) - 10)
        return next((n for n in range(first, found) if self.at(n).power >= wanted), found)


def power_of(words: ComparisonClaim, true: float, method: Procedure, known: Settings) -> PlannedPower | str:
    """The power of a claim at a true value, or in words why there is none."""
    data, gap = words.data, true - words.null
    if isinstance(data, OneSample | Paired):
        return _one_mean(words, gap, method, known)
    if isinstance(data, TwoSamples):
        return _two_means(words, gap, method, known)
    if isinstance(data, Shares) and len(data.of) == 2:
        return _two_shares(words, data, true, method)
    assert isinstance(data, Shares)
    return _one_share(words, data, true, method)


def _stands_in(method: Procedure, own: tuple[str, ...], label: str) -> str:
    return "" if method.name in own else label


def _one_mean(words: ComparisonClaim, gap: float, method: Procedure, known: Settings) -> PlannedPower | str:
    data = words.data
    assert isinstance(data, OneSample | Paired)
    s, sigma = data.single.summary, known.sigmas[0]
    if method.name == "z" and sigma is not None:

        def of_z(n: int) -> Power:
            return z_power(math.sqrt(n) * gap / sigma, 1.0, words.alpha, words.alternative)

        return PlannedPower(of_z(s.n), of_z, f"n = {s.n}", sigma / math.sqrt(s.n))
    if not s.sd > 0:
        return "A power needs values that differ."

    def of_t(n: int) -> Power:
        return t_power(math.sqrt(n) * gap / s.sd, n - 1, words.alpha, words.alternative)

    own = _stands_in(method, ("one-sample t", "paired t"), "the t test")
    return PlannedPower(of_t(s.n), of_t, f"n = {s.n}", s.sd / math.sqrt(s.n), own)


def _two_means(words: ComparisonClaim, gap: float, method: Procedure, known: Settings) -> PlannedPower | str:
    data = words.data
    assert isinstance(data, TwoSamples)
    x, y = data.first.summary, data.second.summary
    sizes, (sigma, other) = f"{x.n} and {y.n}", known.sigmas
    if min(x.n, y.n) < 2 and method.name != "two-sample z":
        return "A power needs two values at least in each group, to see how far they spread."
    if method.name == "two-sample z" and sigma is not None and other is not None:
        spreads, df_of, own = (sigma, other), None, ""
    elif method.name == "pooled t":
        pooled = math.sqrt(((x.n - 1) * x.sd**2 + (y.n - 1) * y.sd**2) / (x.n + y.n - 2))
        spreads, df_of, own = (pooled, pooled), _pooled_df, ""
    else:
        spreads, df_of, own = (x.sd, y.sd), _welch_df, _stands_in(method, ("welch t",), "Welch t")
    if not max(spreads) > 0:
        return "A power needs values that differ."

    def error(n1: int, n2: int) -> float:
        return math.sqrt(spreads[0] ** 2 / n1 + spreads[1] ** 2 / n2)

    def of_two(n1: int, n2: int) -> Power:
        shift = gap / error(n1, n2)
        if df_of is None:
            return z_power(shift, 1.0, words.alpha, words.alternative)
        return t_power(shift, df_of(spreads[0] ** 2 / n1, n1, spreads[1] ** 2 / n2, n2), words.alpha, words.alternative)

    return PlannedPower(of_two(x.n, y.n), lambda n: of_two(n, n), sizes, error(x.n, y.n), own)


def _pooled_df(a: float, n1: int, b: float, n2: int) -> float:
    return n1 + n2 - 2


def _welch_df(a: float, n1: int, b: float, n2: int) -> float:
    """By Welch and Satterthwaite, of the squared errors a and b of both means."""
    return (a + b) ** 2 / (a**2 / (n1 - 1) + b**2 / (n2 - 1))


_NOT_BETWEEN = "A proportion lies between 0 and 1: type another true {0}."


def _one_share(words: ComparisonClaim, data: Shares, true: float, method: Procedure) -> PlannedPower | str:
    null, n0 = float(words.null), data.of[0].n
    if not (0 < true < 1 and 0 < null < 1):
        return _NOT_BETWEEN.format("proportion")
    ratio = math.sqrt(null * (1 - null) / (true * (1 - true)))
    exactly = method.name in ("exact binomial", "drawn share")

    def share(n: int) -> Power:
        error = math.sqrt(null * (1 - null) / n)
        made = z_power((true - null) / error, ratio, words.alpha, words.alternative)
        if exactly and n <= MOST_COUNTED:
            return replace(made, power=binomial_power(n, null, true, words.alpha, words.alternative))
        return made

    own = "the exact binomial test" if method.name == "drawn share" else ""
    if method.name == "z of a share, corrected" or (exactly and n0 > MOST_COUNTED):
        own = "the z test"
    return PlannedPower(share(n0), share, f"n = {n0}", math.sqrt(null * (1 - null) / n0), own, saw=exactly)


def _two_shares(words: ComparisonClaim, data: Shares, true: float, method: Procedure) -> PlannedPower | str:
    """The second share as it was observed, the first away from it by the true difference."""
    base, gap = data.of[1].value, true - words.null
    first = base + true
    if not (0 <= first <= 1):
        return (
            f"The second proportion was {exact(round(base, 4))} in the sample: with a true difference of "
            f"{exact(true)} the first would not lie between 0 and 1. Type another true difference."
        )
    middle = (first + base) / 2

    def errors(n1: int, n2: int) -> tuple[float, float]:
        """Of the difference under H0 as the test takes it, and at the true value."""
        true_error = math.sqrt(first * (1 - first) / n1 + base * (1 - base) / n2)
        if words.null:
            return true_error, true_error
        return math.sqrt(middle * (1 - middle) * (1 / n1 + 1 / n2)), true_error

    n1, n2 = data.of[0].n, data.of[1].n
    if not min(errors(n1, n2)) > 0:
        return "A power needs proportions between 0 and 1: of these, nothing varies."
    exactly = method.name == "Fisher exact" and not words.null

    def shares(n1: int, n2: int) -> Power:
        error, true_error = errors(n1, n2)
        made = z_power(gap / error, error / true_error, words.alpha, words.alternative)
        if exactly and (n1 + 1) * (n2 + 1) <= MOST_TABLES:
            return replace(made, power=fisher_power(n1, n2, first, base, words.alpha, words.alternative))
        return made

    own = _stands_in(method, ("z of two shares", "chi-square of two shares", "Fisher exact"), "the z test")
    if method.name == "Fisher exact" and not (exactly and (n1 + 1) * (n2 + 1) <= MOST_TABLES):
        own = "the z test"
    return PlannedPower(shares(n1, n2), lambda n: shares(n, n), f"{n1} and {n2}", errors(n1, n2)[0], own, saw=exactly)

"""Quartiles and other quantiles by the rules that textbooks use.

The nine sample quantiles numbered 1 to 9 are those of Hyndman and Fan, "Sample
Quantiles in Statistical Packages", The American Statistician 50 (1996), 361-365.
The two rules by halves are the ones taught first: the quartiles are the medians of
the lower and of the upper half, where the middle value of an odd number of values
belongs to neither half or to both.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

Quartiles = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class QuartilePlace:
    """Where a quartile stands among the sorted values, the smallest being value 1.

    It is `low`, or so large a share of the way from value `low` to value `high`.
    """

    low: int
    high: int
    share: float

    @property
    def at(self) -> float:
        """The place itself, from 1 on, between two values where it is not whole."""
        return self.low + self.share * (self.high - self.low)

    def of(self, ordered: Floats) -> float:
        """The quartile itself, from sorted values."""
        low, high = float(ordered[self.low - 1]), float(ordered[self.high - 1])
        return low if low == high else low * (1 - self.share) + high * self.share


Places = tuple[QuartilePlace, QuartilePlace]


@dataclass(frozen=True, slots=True)
class QuartileRule:
    """One way to place the quartiles: `of` takes sorted finite values, at least one.

    `places` tells, for so many values, where the lower and the upper quartile stand.
    """

    name: str
    of: Callable[[Floats], Quartiles]
    places: Callable[[int], Places]


RULES: dict[str, QuartileRule] = {}


def register(rule: QuartileRule) -> None:
    """Make a rule available under its name."""
    RULES[rule.name] = rule


def quartiles(values: Floats, rule: str) -> Quartiles:
    """Lower quartile, median and upper quartile of `values` (any order, finite, n >= 1).

    Raises KeyError for an unknown rule and ValueError for no values.
    """
    if values.size == 0:
        raise ValueError("quartiles of no values")
    return RULES[rule].of(np.sort(values))


def median_of_sorted(values: Floats) -> float:
    """The median of already sorted finite values, without overflow near the largest floats.

    The middle value, or midway between the two middle ones. Raises IndexError for none.
    """
    n = values.size
    low, high = float(values[(n - 1) // 2]), float(values[n // 2])
    return low if low == high else low / 2 + high / 2


def half_sizes(n: int, *, middle_in_both: bool) -> int:
    """How many values each half holds when `n` values are cut at the median."""
    return (n + 1) // 2 if middle_in_both else n // 2


_ENDS = {
    "type 4": (0.0, 1.0),
    "type 5": (0.5, 0.5),
    "type 6": (0.0, 0.0),
    "type 7": (1.0, 1.0),
    "type 8": (1 / 3, 1 / 3),
    "type 9": (0.375, 0.375),
}
"""a and b of the interpolating rules: the place is a + (n + 1 - a - b) p (Hyndman and Fan 1996)."""


def quartile_places(rule: str, n: int) -> Places:
    """The places of the lower and the upper quartile among `n` sorted values, n >= 1.

    Raises KeyError for an unknown rule.
    """
    return RULES[rule].places(n)


def _in_halves(middle_in_both: bool) -> Callable[[int], Places]:
    def places(n: int) -> Places:
        k = max(1, half_sizes(n, middle_in_both=middle_in_both))
        low, high = (k + 1) // 2, k // 2 + 1
        share = 0.0 if low == high else 0.5
        return QuartilePlace(low, high, share), QuartilePlace(n + 1 - high, n + 1 - low, share)

    return places


def _at_quarters(name: str) -> Callable[[int], Places]:
    place = _between if name in _ENDS else _on_a_step
    return lambda n: (place(name, n, 0.25), place(name, n, 0.75))


def _between(rule: str, n: int, p: float) -> QuartilePlace:
    """The place of the p-quantile by an interpolating rule."""
    a, b = _ENDS[rule]
    at = min(max(a + (n + 1 - a - b) * p, 1.0), float(n))
    low = min(math.floor(at + 1e-9), n)
    share = at - low
    return QuartilePlace(low, min(low + 1, n), share) if share > 1e-9 else QuartilePlace(low, low, 0.0)


def _on_a_step(rule: str, n: int, p: float) -> QuartilePlace:
    """The same by types 1 to 3, which take single values or average two."""
    reached = n * p  # a multiple of a quarter, so exact
    if rule == "type 2" and reached == math.floor(reached):
        return QuartilePlace(int(reached), min(int(reached) + 1, n), 0.5)
    one = max(1, round(reached) if rule == "type 3" else math.ceil(reached))
    return QuartilePlace(one, one, 0.0)


def _by_halves(middle_in_both: bool) -> Callable[[Floats], Quartiles]:
    def of(ordered: Floats) -> Quartiles:
        k = half_sizes(ordered.size, middle_in_both=middle_in_both)
        if k == 0:  # a single value is its own quartiles
            return (float(ordered[0]),) * 3
        return (median_of_sorted(ordered[:k]), median_of_sorted(ordered), median_of_sorted(ordered[-k:]))

    return of


def _by_numpy(method: str) -> Callable[[Floats], Quartiles]:
    def of(ordered: Floats) -> Quartiles:
        q1, q3 = np.quantile(ordered, [0.25, 0.75], method=method)  # type: ignore[call-overload]
        return float(q1), median_of_sorted(ordered), float(q3)

    return of


for _name, _both in (("halves", False), ("halves with middle", True)):
    register(QuartileRule(_name, _by_halves(_both), _in_halves(_both)))
for _name, _method in (
    ("type 1", "inverted_cdf"),
    ("type 2", "averaged_inverted_cdf"),
    ("type 3", "closest_observation"),
    ("type 4", "interpolated_inverted_cdf"),
    ("type 5", "hazen"),
    ("type 6", "weibull"),
    ("type 7", "linear"),
    ("type 8", "median_unbiased"),
    ("type 9", "normal_unbiased"),
):
    register(QuartileRule(_name, _by_numpy(_method), _at_quarters(_name)))

"""Intervals of proportions, of their difference, and of odds and risk ratios.

All have equal tails: the lower end alone, at confidence 1 - α, is that of the interval at 1 - 2α.
x counts successes among n (0 <= x <= n, n of 1 or more); `confidence` lies between 0 and 1.
"""

from __future__ import annotations

import math

from theoros.numeric.distributions.normal import Normal

Ends = tuple[float, float]


def _z(confidence: float) -> float:
    return Normal().critical(1 - confidence, "different")


def normal_interval(x: int, n: int, confidence: float) -> Ends:
    """p̂ ± z √(p̂ (1 - p̂) / n), as in textbooks (Wald); its ends may lie beyond 0 and 1."""
    share = x / n
    reach = _z(confidence) * math.sqrt(share * (1 - share) / n)
    return share - reach, share + reach


def agresti_coull_interval(x: int, n: int, confidence: float) -> Ends:
    """The normal interval with z²/2 successes and as many failures added (Agresti and Coull
    1998)."""
    z = _z(confidence)
    more = n + z * z
    share = (x + z * z / 2) / more
    reach = z * math.sqrt(share * (1 - share) / more)
    return share - reach, share + reach


def plus_four_interval(x: int, n: int, confidence: float) -> Ends:
    """The normal interval with two successes and two failures added (Agresti and Coull 1998)."""
    return normal_interval(x + 2, n + 4, confidence)


def wilson_interval(x: int, n: int, confidence: float) -> tuple[float, float]:
    """The shares that a z test with p₀ in its error does not reject (Wilson 1927)."""
    z = Normal().critical(1 - confidence, "different")
    share, z2 = x / n, z * z / n
    middle = (share + z2 / 2) / (1 + z2)
    reach = z / (1 + z2) * math.sqrt(share * (1 - share) / n + z2 / (4 * n))
    low = 0.0 if x == 0 else max(0.0, middle - reach)
    return low, 1.0 if x == n else min(1.0, middle + reach)


def exact_interval(x: int, n: int, confidence: float) -> tuple[float, float]:
    """The interval of the shares that neither exact tail rejects (Clopper and Pearson 1934)."""
    from theoros.numeric.distributions.beta import Beta

    tail = (1 - confidence) / 2
    low = 0.0 if x == 0 else float(Beta(x, n - x + 1).quantile(tail))
    high = 1.0 if x == n else Beta(x + 1, n - x).upper_quantile(tail)
    return low, high


def difference_interval(a: int, n1: int, b: int, n2: int, confidence: float) -> tuple[float, float]:
    """p̂₁ − p̂₂ ± z √(p̂₁ (1 − p̂₁)/n₁ + p̂₂ (1 − p̂₂)/n₂), as in textbooks (Wald)."""
    one, two = a / n1, b / n2
    error = math.sqrt(one * (1 - one) / n1 + two * (1 - two) / n2)
    reach = Normal().critical(1 - confidence, "different") * error
    return one - two - reach, one - two + reach


def newcombe_interval(a: int, n1: int, b: int, n2: int, confidence: float) -> Ends:
    """p̂₁ - p̂₂ from the Wilson intervals of both (Newcombe 1998, method 10)."""
    one, two = a / n1, b / n2
    (l1, u1), (l2, u2) = wilson_interval(a, n1, confidence), wilson_interval(b, n2, confidence)
    gap = one - two
    return (gap - math.sqrt((one - l1) ** 2 + (u2 - two) ** 2), gap + math.sqrt((u1 - one) ** 2 + (two - l2) ** 2))


def agresti_caffo_interval(a: int, n1: int, b: int, n2: int, confidence: float) -> Ends:
    """The normal interval with one success and one failure added to each (Agresti and Caffo
    2000)."""
    return difference_interval(a + 1, n1 + 2, b + 1, n2 + 2, confidence)


def log_odds_error(a: int, n1: int, b: int, n2: int) -> float:
    """Standard error of the log odds ratio: √(1/a + 1/(n₁ - a) + 1/b + 1/(n₂ - b)) (Woolf 1955).

    Raises ZeroDivisionError where a cell is empty.
    """
    return math.sqrt(1 / a + 1 / (n1 - a) + 1 / b + 1 / (n2 - b))


def log_risk_error(a: int, n1: int, b: int, n2: int) -> float:
    """Standard error of the log risk ratio: √(1/a - 1/n₁ + 1/b - 1/n₂) (Katz and others 1978).

    Raises ZeroDivisionError where either has no success.
    """
    return math.sqrt(1 / a - 1 / n1 + 1 / b - 1 / n2)

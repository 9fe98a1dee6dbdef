"""How two numbers vary together."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.lattice import Lattice


def pearson(x: Floats, y: Floats) -> float:
    """Pearson's r of finite pairs, shape (n,) each; NaN for n < 2 or where one does not vary.

    r = sum((x - x̄)(y - ȳ)) / √(sum((x - x̄)²) sum((y - ȳ)²)) (Pearson 1896).
    Both are centred and scaled first, so that neither offset nor exponent costs digits.
    """
    if x.size < 2:
        return math.nan
    a, b = _scaled(x), _scaled(y)
    length = math.sqrt(float(a @ a)) * math.sqrt(float(b @ b))
    return max(-1.0, min(1.0, float(a @ b) / length)) if length > 0 else math.nan


def kendall(x: Floats, y: Floats) -> tuple[float, float]:
    """Kendall's tau-b and its z under H0, with ties (Kendall 1970, ch. 4).

    z = S / √var(S), where S is the number of pairs in the same order less that in opposite order.
    NaN where one of them does not vary.
    """
    n = x.size
    place = np.lexsort((y, x))
    a, b = x[place], y[place]
    concordance = 0
    for at in range(n - 1):  # a row of signs at a time keeps the memory small
        concordance += int((np.sign(a[at + 1 :] - a[at]) * np.sign(b[at + 1 :] - b[at])).sum())
    _, t = np.unique(x, return_counts=True)
    _, u = np.unique(y, return_counts=True)
    t, u = t.astype(np.float64), u.astype(np.float64)
    pairs = n * (n - 1) / 2
    free_x, free_y = pairs - (t * (t - 1)).sum() / 2, pairs - (u * (u - 1)).sum() / 2
    if free_x <= 0 or free_y <= 0:
        return math.nan, math.nan
    m = n * (n - 1)
    first = (m * (2 * n + 5) - (t * (t - 1) * (2 * t + 5)).sum() - (u * (u - 1) * (2 * u + 5)).sum()) / 18
    second = (t * (t - 1)).sum() * (u * (u - 1)).sum() / (2 * m)
    third = 0.0
    if n > 2:
        three = (t * (t - 1) * (t - 2)).sum() * (u * (u - 1) * (u - 2)).sum()
        third = three / (9 * m * (n - 2))
    spread = math.sqrt(first + second + third)
    return float(concordance / math.sqrt(free_x * free_y)), float(concordance / spread)


def orders_law(n: int) -> Lattice:
    """S of Kendall's tau under H0 without ties, of n values, where every order is as likely.

    An order with i inversions has S = n (n - 1)/2 - 2 i; they are counted value by value
    (Kendall 1970, section 5.2).
    """
    chances = np.ones(1)
    for k in range(2, n + 1):
        chances = np.convolve(chances, np.full(k, 1 / k))
    pairs = n * (n - 1) / 2
    values = np.asarray(2.0 * np.arange(chances.size) - pairs, dtype=np.float64)
    return Lattice(values, np.asarray(chances, dtype=np.float64))


def _scaled(values: Floats) -> Floats:
    moved = values / 2 - values[0] / 2
    largest = float(np.abs(moved).max())
    moved = moved / largest if largest > 0 else moved
    return np.asarray(moved - moved.mean(), dtype=np.float64)


def even_spread_p(x: Floats, y: Floats) -> float:
    """The p-value of a spread around the line of y on x that changes along x.

    n R² of the squared residuals on x, by chi-square with 1 degree of freedom (Koenker 1981, Journal
    of Econometrics 17). 1 where it cannot be told. `x` and `y` have shape (n,).
    """
    off = x - x.mean()
    size = float(off @ off)
    if not size > 0:
        return 1.0
    residuals = y - y.mean() - off * float(off @ y) / size
    squares = residuals**2
    rho = pearson(x, squares) if np.ptp(squares) > 0 else math.nan
    return 1.0 if math.isnan(rho) else float(ChiSquare(1).sf(x.size * rho**2))

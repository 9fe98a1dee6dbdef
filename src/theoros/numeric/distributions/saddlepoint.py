"""Masses of counting distributions without the loss of digits that factorials of large n bring.

Loader, "Fast and accurate computation of binomial probabilities" (2000): a factorial is Stirling's
approximation and its error, and the rest is a deviance that is small near the mean.
"""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


def stirling_error(n: Floats | float) -> Floats:
    """log n! - log of Stirling's approximation to it, for n > 0 (Loader 2000, eq. 5)."""
    from scipy.special import gammaln

    n = np.asarray(n, dtype=np.float64)
    large = np.maximum(n, 16.0)
    square = large * large
    series = 1 / 1680 - 1 / (1188 * square)
    for term in (1 / 1260, 1 / 360, 1 / 12):
        series = term - series / square
    series = series / large
    small = np.minimum(n, 16.0)
    direct = gammaln(small + 1) - (small + 0.5) * np.log(small) + small - 0.5 * math.log(2 * math.pi)
    return np.where(n >= 16, series, direct)


def deviance(x: Floats | float, mean: Floats | float, more: float = 0.0) -> Floats:
    """x log(x / m) + m - x for x and m above 0, without the loss of digits where they are close.

    m is `mean` + `more`, the latter what rounding took off the mean: with a mean of 10^9 that is
    what the seventh digit of a far tail hangs on. Either may be an array.
    """
    x, mean = np.asarray(x, dtype=np.float64), np.asarray(mean, dtype=np.float64)
    v = (x - mean) / (x + mean)
    near = np.abs(v) < 0.1
    safe = np.where(near, v, 0.0)
    total, term, square = (x - mean) * safe, 2 * x * safe, safe * safe
    for at in range(1, 20):
        term = term * square
        total = total + term / (2 * at + 1)
    with np.errstate(divide="ignore", over="ignore"):
        apart = x * np.log(x / mean) + (mean - x)
    made = np.where(near, total, apart)
    return made + more * (1 - x / mean) if more else made


def product(a: float, b: float) -> tuple[float, float]:
    """a b rounded, and what the rounding took off (Dekker 1971)."""
    made = a * b
    (a1, a2), (b1, b2) = _split(a), _split(b)
    return made, ((a1 * b1 - made) + a1 * b2 + a2 * b1) + a2 * b2


def _split(a: float) -> tuple[float, float]:
    scaled = 134217729.0 * a
    high = scaled - (scaled - a)
    return high, a - high


def binomial_mass(k: Floats | float, n: float, p: float) -> Floats:
    """P(X = k) of n trials of chance p, for whole 0 <= k <= n; 0 elsewhere."""
    k = np.asarray(k, dtype=np.float64)
    inside = (k >= 0) & (k <= n) & (k == np.floor(k))
    if p in (0.0, 1.0) or n == 0:
        return np.where(inside & (k == (n if p == 1 else 0.0)), 1.0, 0.0)
    between = inside & (k > 0) & (k < n)
    x = np.where(between, k, 0.5)
    y = np.where(between, n - k, n - 0.5)
    mean, more = product(n, p)
    rest = n - mean
    lost = ((n - rest) - mean) - more  # of n (1 - p), where n - mean was rounded
    with np.errstate(divide="ignore", invalid="ignore"):
        log = (
            stirling_error(n)
            - stirling_error(x)
            - stirling_error(y)
            - deviance(x, mean, more)
            - deviance(y, rest, lost)
        )
        middle = np.exp(log) * np.sqrt(n / (2 * math.pi * x * y))
    made = np.where(k == 0, math.exp(n * math.log1p(-p)), middle)
    made = np.where(k == n, math.exp(n * math.log(p)), made)
    return np.where(inside, made, 0.0)


def poisson_mass(k: Floats | float, mean: float) -> Floats:
    """P(X = k) of a Poisson distribution, for whole k >= 0; 0 elsewhere."""
    k = np.asarray(k, dtype=np.float64)
    inside = (k >= 0) & (k == np.floor(k)) & np.isfinite(k)
    if mean == 0:
        return np.where(inside & (k == 0), 1.0, 0.0)
    x = np.where(inside & (k > 0), k, 1.0)
    made = np.exp(-stirling_error(x) - deviance(x, mean)) / np.sqrt(2 * math.pi * x)
    return np.where(inside, np.where(k == 0, math.exp(-mean), made), 0.0)


def poisson_mass_at(shape: float, x: Floats) -> Floats:
    """exp(-x) x^shape / Γ(shape + 1) for a real shape above 0 and x above 0."""
    log = -float(stirling_error(shape)) - deviance(shape, x)
    return np.asarray(np.exp(log) / math.sqrt(2 * math.pi * shape))

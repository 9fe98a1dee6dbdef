"""What residuals show: unusual rows, bends, uneven spread, and whether neighbours go together."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import vandermonde


def standardized(residuals: Floats, leverage: Floats, sigma: float) -> Floats:
    """Residuals over their own standard deviation: e / (s √(1 - h))."""
    own = sigma * np.sqrt(np.maximum(1 - leverage, 1e-12))
    return np.asarray(residuals / own if sigma > 0 else np.zeros_like(residuals))


def left_out_residuals(residuals: Floats, leverage: Floats, df: int, sigma: float) -> Floats:
    """Externally studentized residuals: s is that of the fit without the case (Cook and Weisberg).

    They have a t distribution with df - 1 degrees of freedom. Zero where df is below 2.
    """
    r = standardized(residuals, leverage, sigma)
    if df < 2:
        return np.zeros_like(r)
    return np.asarray(r * np.sqrt((df - 1) / np.maximum(df - r * r, 1e-12)))


def cooks_distance(residuals: Floats, leverage: Floats, sigma: float, terms: int) -> Floats:
    """How far all fitted values move without a case, in units of the model (Cook 1977)."""
    r = standardized(residuals, leverage, sigma)
    return np.asarray(r * r * leverage / (np.maximum(1 - leverage, 1e-12) * terms))


def outlying(residuals: Floats, leverage: Floats, df: int, sigma: float, alpha: float = 0.05) -> Floats:
    """Places of cases whose residual is too large for chance, at a level for all of them together.

    Each is compared with t at α / n (Bonferroni; Cook and Weisberg 1982, section 2.2.2).
    """
    if df < 2 or not sigma > 0:
        return np.zeros(0, dtype=np.int64)
    t = np.abs(left_out_residuals(residuals, leverage, df, sigma))
    limit = StudentT(df - 1).critical(alpha / residuals.size, "different")
    return np.asarray(np.flatnonzero(t > limit))


def durbin_watson(residuals: Floats) -> float:
    """Near 2 where neighbours tell nothing of each other, below where they go together (1950)."""
    total = float(residuals @ residuals)
    steps = np.diff(residuals)
    return float(steps @ steps) / total if total > 0 else math.nan


@dataclass(frozen=True)
class Pattern:
    """What is seen of residuals along x or along what is fitted."""

    bend: float
    """The p-value of a bend: cubic terms that take part of the residuals away; NaN where there are too few."""
    spread: float
    """The p-value of a spread that goes with what is fitted; NaN where there are too few cases to tell."""
    grows: bool
    """Whether it grows, rather than shrinks."""


def cubic_basis(x: Floats) -> Floats | None:
    """Orthonormal columns, shape (n, 4), that span the cubics in x; None where x has too few."""
    if x.size < 5 or not np.ptp(x) > 0 or np.unique(x[:50_000]).size < 4:
        return None
    z = (x - x.min()) / np.ptp(x) * 2 - 1
    q, r = np.linalg.qr(vandermonde(z, 3))
    return None if np.abs(np.diagonal(r)).min() < 1e-10 * x.size**0.5 else q


def pattern(x: Floats, fitted: Floats, residuals: Floats, terms: int, basis: Floats | None = None) -> Pattern:
    """Looks for a bend, by a cubic through the residuals, and for uneven spread, by their sizes.

    A bend is tested by the F of a cubic in x with as many degrees of freedom as the model left;
    the spread by the correlation of the sizes of residuals with the fitted values (Glejser 1969),
    near normal with standard error 1/√n; sizes are taken about the median, as skewed errors would
    pass for uneven spread otherwise. `basis` is that of `cubic_basis`, where it is there already.
    """
    n = residuals.size
    total = float(residuals @ residuals)
    bend = math.nan
    if n >= terms + 4 and total > 0:
        basis = cubic_basis(x) if basis is None else basis
        if basis is not None:
            along = basis.T @ residuals
            gain = float(along @ along)
            left = total - gain
            more = max(1, 4 - terms)
            df = max(1, n - terms - more)
            bend = float(FisherF(more, df).sf(gain / more / (left / df))) if left > 0 else 0.0
    spread, grows = math.nan, True
    if n >= 8 and np.ptp(fitted) > 0 and total > 0:
        from theoros.numeric.correlation import pearson

        rho = pearson(np.abs(residuals - np.median(residuals)), fitted)
        if not math.isnan(rho):
            spread = float(2 * Normal().sf(abs(rho) * math.sqrt(n)))
            grows = rho > 0
    return Pattern(bend, spread, grows)


def corrected_aic(rss: float, n: int, terms: int) -> float:
    """AICc of a fit by least squares with so many terms (Hurvich and Tsai 1989).

    n ln(RSS / n) + 2 k + 2 k (k + 1) / (n - k - 1), where k counts the terms and the variance. NaN
    where n is too small for it.
    """
    k = terms + 1
    if n - k - 1 <= 0:
        return math.nan
    if not rss > 0:
        return -math.inf
    return n * math.log(rss / n) + 2 * k + 2 * k * (k + 1) / (n - k - 1)

"""Seasonal ARIMA by exact maximum likelihood.

φ(B) Φ(B^m) (1 - B)^d (1 - B^m)^D y = θ(B) Θ(B^m) e, with B the lag and m the cycle (G. Box &
G. Jenkins, Time Series Analysis, ch. 9). Without differences there is a mean besides.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.series.constant_search import lowest
from theoros.numeric.series.smoothing import TooShort

STARTS = ((0.05, 0.05), (0.4, 0.4), (0.4, 1.5), (-0.4, 0.4), (-0.4, -0.4), (0.9, 0.05), (1.5, 1.5))
"""What the search begins from, for φ and for θ: before they are made stable."""
TRIED, MANY, FARTHEST = 2, 2000, 100.0


@dataclass(frozen=True)
class Orders:
    """How many lags each part has: p, d, q of the values, and P, D, Q of the seasons."""

    p: int = 0
    d: int = 1
    q: int = 1
    seasonal_p: int = 0
    seasonal_d: int = 1
    seasonal_q: int = 1
    cycle: int = 1

    @property
    def coefficients(self) -> int:
        """Number of autoregressive and moving-average coefficients, those of the seasons included."""
        return self.p + self.q + self.seasonal_p + self.seasonal_q

    @property
    def has_mean(self) -> bool:
        return self.d + self.seasonal_d == 0

    @property
    def lost(self) -> int:
        """How many values the differences take."""
        return self.d + self.seasonal_d * self.cycle


@dataclass(frozen=True)
class Arima:
    """A series with a seasonal ARIMA fitted to it."""

    values: Floats
    orders: Orders
    coefficients: Floats
    """φ, Φ, θ, Θ, in that order."""
    mean: float
    errors: Floats
    """Of each value but those that the differences take, on the scale of the first forecasts."""
    variance: float
    log_likelihood: float

    @property
    def n(self) -> int:
        """Number of differenced values, each with its error."""
        return int(self.errors.size)

    @property
    def parameters(self) -> int:
        """Number of parameters for AICc: coefficients, the mean where there is one, and the variance."""
        return self.orders.coefficients + self.orders.has_mean + 1

    @cached_property
    def _polynomials(self) -> tuple[Floats, Floats]:
        return _polynomials(self.coefficients, self.orders)

    @property
    def unbiased(self) -> float:
        """The variance of the errors, by their degrees of freedom."""
        return self.variance * self.n / max(1, self.n - self.parameters + 1)

    def ahead(self, steps: int) -> tuple[Floats, Floats, Floats]:
        """What is expected of the next `steps` values, its standard deviations, and what one error
        adds to each value from its own on.

        By the exact distribution of what comes given the series, for the coefficients found.
        """
        from scipy.linalg.lapack import dtbtrs
        from scipy.signal import lfilter

        ar, ma = self._polynomials
        w = _differenced(self.values, self.orders) - self.mean
        n, reach = w.size, max(ar.size, ma.size) - 1
        lower = _cholesky(ar, ma, n + steps)
        assert lower is not None
        band = lower.shape[0]
        scores, _ = dtbtrs(np.asfortranarray(lower[:, :n]), _turned(w, ar, reach)[:, None], uplo="L")
        rows = np.zeros((steps, band + steps))  # of the last `band` values and what comes
        first = n - band
        for j in range(max(0, first), n + steps):
            for i in range(max(n, j), min(n + steps, j + band)):
                rows[i - n, j - first] = lower[i - j, j]
        known = np.zeros(band + steps)
        there = min(band, n)
        known[band - there : band] = scores[n - there :, 0]
        turned = rows @ known
        made = w.tolist()
        for h in range(steps):
            back = made[::-1][: ar.size - 1]
            made.append(float(turned[h]) - float(np.dot(ar[1 : 1 + len(back)], back)))
        whole = _difference(self.orders)
        y = self.values.tolist()
        for h in range(steps):
            back = y[::-1][: whole.size - 1]
            y.append(made[n + h] + self.mean - float(np.dot(whole[1:], back)))
        both = np.convolve(ar, whole)
        grown = np.asarray(lfilter([1.0], both, rows[:, band:], axis=0))
        deviation = np.sqrt(self.unbiased * (grown**2).sum(axis=1))
        return np.array(y[-steps:]), deviation, _psi(both, ma, steps - 1)


def arima(values: Floats, orders: Orders) -> Arima:
    """The coefficients of the greatest likelihood, from several starts.

    `values` are without gaps. Raises TooShort.
    """
    lags = orders.p + orders.q + orders.cycle * (orders.seasonal_p + orders.seasonal_q)
    if values.size - orders.lost < max(lags + 2, orders.coefficients + 4):
        raise TooShort
    w = _differenced(values, orders)
    size = float(np.sqrt(np.mean(w**2))) or 1.0

    def loss(inner: Floats) -> float:
        return -_likelihood(w / size, _stable(inner, orders), orders)[0]

    best = np.zeros(0)
    if orders.coefficients:
        starts = [_start(orders, *pair) for pair in STARTS]
        best = lowest(loss, starts, TRIED if w.size <= MANY else 1, FARTHEST)
    coefficients = _stable(best, orders)
    likelihood, variance, mean, errors = _likelihood(w / size, coefficients, orders)
    likelihood -= w.size * math.log(size)
    return Arima(values, orders, coefficients, mean * size, errors * size, variance * size**2, likelihood)


def _likelihood(w: Floats, coefficients: Floats, orders: Orders) -> tuple[float, float, float, Floats]:
    """Log-likelihood, variance and mean at their best, and the scaled errors."""
    from scipy.linalg.lapack import dtbtrs

    ar, ma = _polynomials(coefficients, orders)
    n, reach = w.size, max(ar.size, ma.size) - 1
    lower = _cholesky(ar, ma, n)
    if lower is None:
        return -math.inf, 1.0, 0.0, w
    columns = [_turned(w, ar, reach)]
    if orders.has_mean:
        columns.append(_turned(np.ones(n), ar, reach))
    solved, _ = dtbtrs(lower, np.column_stack(columns), uplo="L")
    errors, mean = solved[:, 0], 0.0
    if orders.has_mean:
        ones = solved[:, 1]
        mean = float(ones @ errors) / float(ones @ ones)
        errors = errors - mean * ones
    variance = float(errors @ errors) / n
    if not variance > 0:
        return -math.inf, 1.0, mean, errors
    half = float(np.log(lower[0]).sum())
    return -0.5 * n * (math.log(2 * math.pi * variance) + 1) - half, variance, mean, errors


def _cholesky(ar: Floats, ma: Floats, n: int) -> Floats | None:
    """Of the covariances of the turned series, as bands below the diagonal; None if there is none.

    The series is left as it is up to the longest lag and turned by φ(B) after it, so that
    covariances reach no farther than that lag (C. Ansley, Biometrika 66, 1979).
    """
    from scipy.linalg.lapack import dpbtrf

    q, reach = ma.size - 1, max(ar.size, ma.size) - 1
    within = np.array([float(ma[: q + 1 - d] @ ma[d:]) for d in range(q + 1)])
    bands = np.zeros((reach + 1, n), order="F")
    bands[: q + 1] = within[:, None]
    if ar.size > 1:
        psi = _psi(ar, ma, q)
        across = np.array([float(ma[d:] @ psi[: q + 1 - d]) for d in range(q + 1)])
        own = _autocovariances(ar, ma, psi, reach)
        for j in range(min(reach, n)):
            bands[:, j] = 0.0
            bands[: q + 1, j] = across
            bands[: reach - j, j] = own[: reach - j]
    lower, failed = dpbtrf(bands, lower=1)
    return None if failed or not (lower[0] > 0).all() else lower


def _psi(ar: Floats, ma: Floats, steps: int) -> Floats:
    """What one error adds to the values after it."""
    from scipy.signal import lfilter

    return np.asarray(lfilter(ma, ar, np.eye(1, steps + 1)[0]))


def _autocovariances(ar: Floats, ma: Floats, psi: Floats, most: int) -> Floats:
    """γ_0 to γ_most, relative to the variance of the errors (Yule & Walker)."""
    p, q = ar.size - 1, ma.size - 1
    left, right = np.zeros((p + 1, p + 1)), np.zeros(p + 1)
    for k in range(p + 1):
        for i in range(p + 1):
            left[k, abs(k - i)] += ar[i]
        if k <= q:
            right[k] = float(ma[k:] @ psi[: q + 1 - k])
    made = np.zeros(max(most, p) + 1)
    made[: p + 1] = np.linalg.solve(left, right)
    for k in range(p + 1, most + 1):
        known = float(ma[k:] @ psi[: q + 1 - k]) if k <= q else 0.0
        made[k] = known - float(ar[1:] @ made[k - p : k][::-1])
    return made


def _turned(w: Floats, ar: Floats, reach: int) -> Floats:
    made = w.copy()
    if ar.size > 1:
        made[reach:] = np.convolve(w, ar)[reach : w.size]
    return made


def _differenced(values: Floats, orders: Orders) -> Floats:
    whole = _difference(orders)
    return np.convolve(values, whole, "valid")


def _difference(orders: Orders) -> Floats:
    made, season = np.ones(1), np.zeros(orders.cycle + 1)
    season[0], season[-1] = 1.0, -1.0
    for factor, times in ((np.array([1.0, -1.0]), orders.d), (season, orders.seasonal_d)):
        for _ in range(times):
            made = np.convolve(made, factor)
    return made


def _parted(values: Floats, orders: Orders) -> list[Floats]:
    ends = np.cumsum([orders.p, orders.seasonal_p, orders.q])
    return list(np.split(values, ends))


def _polynomials(coefficients: Floats, orders: Orders) -> tuple[Floats, Floats]:
    """φ(B) Φ(B^m) and θ(B) Θ(B^m) in powers of the lag."""
    phi, seasonal_phi, theta, seasonal_theta = _parted(coefficients, orders)
    return (
        np.convolve(_lags(-phi, 1), _lags(-seasonal_phi, orders.cycle)),
        np.convolve(_lags(theta, 1), _lags(seasonal_theta, orders.cycle)),
    )


def _lags(coefficients: Floats, apart: int) -> Floats:
    made = np.zeros(coefficients.size * apart + 1)
    made[0] = 1.0
    made[apart::apart] = coefficients
    return made


def _stable(inner: Floats, orders: Orders) -> Floats:
    """Coefficients of a stable model from numbers without bounds, by partial autocorrelations.

    J. Monahan, Biometrika 71, 1984.
    """
    phi, seasonal_phi, theta, seasonal_theta = _parted(inner, orders)
    signs: tuple[tuple[Floats, float], ...] = ((phi, 1.0), (seasonal_phi, 1.0), (theta, -1.0), (seasonal_theta, -1.0))
    turn: Callable[[Floats], Floats] = _of_partial
    return np.concatenate([sign * turn(part / np.sqrt(1 + part**2)) for part, sign in signs])


def _start(orders: Orders, ar: float, ma: float) -> Floats:
    ars, mas = orders.p + orders.seasonal_p, orders.q + orders.seasonal_q
    return np.array([ar] * ars + [ma] * mas)


def _of_partial(partial: Floats) -> Floats:
    made = np.zeros(0)
    for r in partial.tolist():
        made = np.append(made - r * made[::-1], r)
    return made

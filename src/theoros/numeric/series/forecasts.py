"""What comes next in a series, by simple ways and by smoothing, and how well it came true."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import LinearFit, fit
from theoros.numeric.series.arima import Arima, Orders, arima
from theoros.numeric.series.scales import PLAIN, SeriesScale
from theoros.numeric.series.smoothing import Smoothed, SmoothingForm, TooShort, smooth

PATHS = 4000
"""Futures that a simulated band is taken of."""
MOST_LAGS = 2_000_000
"""Values of futures that are held at once."""


@dataclass(frozen=True, eq=False)
class ForecastResult:
    """What is expected of the next values, and how far off it may be; all on a scale."""

    expected: Floats
    se: Floats
    """Standard deviation of each value about what is expected of it."""
    df: float
    """Of Student's t, by which the band is taken; infinite for the normal curve."""
    errors: Floats
    """Each value of the series less what the same way would have expected; NaN where it cannot."""
    psi_weights: Floats
    """What one error adds to each value from its own on."""
    sigma: float = math.nan
    """Standard deviation of the errors."""
    fitted: int = 0
    """Smoothing constants or coefficients that took patterns out of the errors."""
    aicc: float = math.nan
    """Akaike's criterion of the values themselves; NaN where the way has no likelihood of all."""
    model: Smoothed | Arima | LinearFit | None = None
    scale: SeriesScale = PLAIN

    @property
    def median(self) -> Floats:
        """What is expected, in the units of the values; of logs and roots the median."""
        return self.scale.back(self.expected)

    def band(self, share: float) -> tuple[Floats, Floats]:
        """The ends between which so many of such values are to be expected, by formula."""
        curve = StudentT(self.df) if math.isfinite(self.df) else Normal()
        reach = curve.critical(1 - share, "different") * self.se
        low, high = self.expected - reach, self.expected + reach
        return self.scale.back(np.asarray(low)), self.scale.back(np.asarray(high))

    def simulated_band(self, share: float, seed: int) -> tuple[Floats, Floats]:
        """The same by simulation: what was left over comes again, in any order.

        Each future adds errors drawn from those of the series, centred, and brought to the
        standard deviation of the errors; what is not known of a fitted line is normal.
        """
        from scipy.signal import lfilter

        steps = self.expected.size
        rng = np.random.default_rng(seed)
        there = self.errors[np.isfinite(self.errors)]
        there = there - there.mean()
        size = float(there.std())
        there = there * (self.sigma / size if size > 0 else 0.0)
        paths = max(200, min(PATHS, MOST_LAGS // steps))
        drawn = rng.choice(there, size=(paths, steps))
        made = lfilter(self.psi_weights[:steps], [1.0], drawn, axis=1)
        formula = self.sigma * np.sqrt(np.cumsum(self.psi_weights[:steps] ** 2))
        unknown = np.sqrt(np.maximum(self.se**2 - formula**2, 0.0))
        made = made + unknown * rng.standard_normal((paths, 1))
        ends = np.quantile(self.expected + made, [(1 - share) / 2, (1 + share) / 2], axis=0)
        return self.scale.back(ends[0]), self.scale.back(ends[1])

    def on(self, scale: SeriesScale, values: Floats) -> ForecastResult:
        """The same, as of values that were put on a scale."""
        return replace(self, scale=scale, aicc=self.aicc - 2 * scale.log_slopes(values))


def naive(values: Floats, steps: int, cycle: int = 1) -> ForecastResult:
    """As the last value, or as the same season of the last cycle; gaps are passed over.

    The band grows with the root of how often the way is gone (R. Hyndman & G. Athanasopoulos,
    Forecasting, table 5.2). Raises TooShort.
    """
    errors = np.concatenate([np.full(cycle, np.nan), values[cycle:] - values[:-cycle]])
    pairs = int(np.isfinite(errors).sum())
    if values.size < cycle + 2 or pairs < 2:
        raise TooShort
    sigma = math.sqrt(float(np.nanmean(errors**2)))
    place = np.arange(steps)
    last = values[values.size - cycle :].copy()
    for at in np.flatnonzero(~np.isfinite(last)).tolist():
        known = values[(values.size - cycle + at) % cycle :: cycle]
        known = known[np.isfinite(known)]
        if not known.size:
            raise TooShort
        last[at] = known[-1]
    carried = 1.0 * (place % cycle == 0)
    return ForecastResult(last[place % cycle], sigma * np.sqrt(place // cycle + 1.0), math.inf, errors, carried, sigma)


def mean(values: Floats, steps: int) -> ForecastResult:
    """The mean of all values, of which each is as far off as any; gaps are left out. Raises TooShort.

    The band is that of a single case: s √(1 + 1/n) by t with n − 1 degrees of freedom.
    """
    there = values[np.isfinite(values)]
    n = int(there.size)
    if n < 4:
        raise TooShort
    middle, sigma = float(there.mean()), float(there.std(ddof=1))
    carried = np.zeros(steps)
    carried[0] = 1.0
    se = np.full(steps, sigma * math.sqrt(1 + 1 / n))
    rss = sigma**2 * (n - 1)
    return ForecastResult(
        np.full(steps, middle), se, n - 1.0, np.asarray(values - middle), carried, sigma, 0, _aicc(rss, n, 2)
    )


def _aicc(rss: float, n: int, k: int) -> float:
    """Of normal errors with k parameters, their variance among them."""
    if n - k - 1 <= 0 or not rss > 0:
        return math.inf
    log_likelihood = -0.5 * n * (math.log(2 * math.pi * rss / n) + 1)
    return -2 * log_likelihood + 2 * k + 2 * k * (k + 1) / (n - k - 1)


def line(values: Floats, steps: int, cycle: int = 1) -> ForecastResult:
    """A straight trend with an effect for each season, by least squares; the line goes on.

    The band is that of a single case of the model; gaps are left out. Raises TooShort.
    """
    n = values.size
    there = np.isfinite(values)
    if there.sum() < cycle + 3 or there[:cycle].size < cycle:
        raise TooShort
    design = line_design(n + steps, cycle)
    if not (np.abs(design[:n][there]).sum(axis=0) > 0).all():
        raise TooShort
    found = fit(design[:n][there], values[there])
    rows = design[n:]
    spread = found.sigma * np.sqrt(1 + found.spread(rows) ** 2)
    errors = np.asarray(values - design[:n] @ found.coefficients)
    carried = np.zeros(steps)
    carried[0] = 1.0
    aicc = _aicc(found.rss, found.n, design.shape[1] + 1)
    return ForecastResult(
        np.asarray(rows @ found.coefficients), spread, float(found.df), errors, carried, found.sigma, 0, aicc, found
    )


def line_design(n: int, cycle: int) -> Floats:
    """Ones, places from 0, and a mark of each season but the first."""
    at = np.arange(n, dtype=np.float64)
    seasons = [(at % cycle == season).astype(np.float64) for season in range(1, cycle)]
    return np.column_stack([np.ones(n), at, *seasons])


def smoothing(values: Floats, steps: int, form: SmoothingForm) -> ForecastResult:
    """By exponential smoothing of a form, the beginning taken as fitted. Raises TooShort."""
    found = smooth(values, form)
    errors = np.where(np.isfinite(values), found.errors, np.nan)
    deviation = np.hypot(found.se(steps), found.unknown(steps))
    df = float(max(1, found.n - form.parameters + 1))
    return ForecastResult(
        found.forecast(steps),
        deviation,
        df,
        errors,
        found.psi_weights(steps),
        math.sqrt(found.unbiased),
        found.moving,
        found.aicc,
        found,
    )


def by_arima(values: Floats, steps: int, orders: Orders) -> ForecastResult:
    """By seasonal ARIMA; `values` are without gaps. Raises TooShort."""
    found = arima(values, orders)
    expected, deviation, carried = found.ahead(steps)
    errors = np.concatenate([np.full(values.size - found.n, np.nan), found.errors])
    return ForecastResult(
        expected, deviation, math.inf, errors, carried, math.sqrt(found.unbiased), orders.coefficients, math.nan, found
    )


@dataclass(frozen=True)
class HoldoutAccuracy:
    """How forecasts compare with the values that were held out."""

    errors: Floats
    """What came less what was expected; NaN where nothing came."""
    n_covered: int
    """How many fell within their band."""
    n: int
    mae: float
    """The mean of how far off it was, either way."""
    mape: float
    """The same in per cent of what came; NaN where a value that came is 0."""


def holdout_accuracy(expected: Floats, band: tuple[Floats, Floats], came: Floats) -> HoldoutAccuracy:
    """What was expected of values that were held back, beside them."""
    there = np.isfinite(came)
    low, high = (end[: came.size] for end in band)
    off = came - expected[: came.size]
    inside = int(((low <= came) & (came <= high))[there].sum())
    relative = math.nan
    if (came[there] > 0).all() and there.any():  # a percentage of what goes below 0 says nothing
        relative = 100 * float(np.mean(np.abs(off[there] / came[there])))
    absolute = float(np.mean(np.abs(off[there]))) if there.any() else math.nan
    return HoldoutAccuracy(np.asarray(off), inside, int(there.sum()), absolute, relative)

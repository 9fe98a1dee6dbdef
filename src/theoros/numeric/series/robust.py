"""The parts of a series by local regression, repeated with less weight for what lies far off.

R. Cleveland, W. Cleveland, J. McRae & I. Terpenning, Journal of Official Statistics 6, 1990. The
seasons repeat: each is the mean of its own values. Lines are local and straight.
"""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.series.decomposition import Decomposition, NotPositive, TooFewCycles

MOST_HELD, LEAST_PLACES = 1_000_000, 60
"""So many weights are held at once, of so many windows at the least."""
ROUNDS, WITHIN, MANY, ROUNDING = 15, 2, 200, 1e-12
"""So often weights are worked out anew, and so often the parts within each."""


def parts_by_local_regression(values: Floats, cycle: int, *, multiplicative: bool = False) -> Decomposition:
    """Decomposition of a series without gaps; products by way of logarithms.

    The trend reaches from the first value to the last. Raises TooFewCycles, NotPositive.
    """
    if values.size < 2 * cycle or cycle < 2:
        raise TooFewCycles
    if multiplicative and not (values > 0).all():
        raise NotPositive
    y = np.log(values) if multiplicative else values
    trend, season = _decomposed(y, cycle)
    effects = np.array([season[at::cycle].mean() for at in range(cycle)])
    shift = float(effects.mean())
    trend, effects = trend + shift, effects - shift
    if multiplicative:
        ratios = np.exp(effects)
        mean = float(ratios.mean())
        return Decomposition(values, cycle, True, np.exp(trend) * mean, ratios / mean)
    return Decomposition(values, cycle, False, trend, effects)


def trend_by_local_regression(values: Floats, width: int) -> Floats:
    """A line through a series without seasons, from one end to the other."""
    weights = np.ones(values.size)
    made = values
    for _ in range(ROUNDS):
        made = _loess(values, weights, width, 1)
        weights = _robust(values - made, values)
    return made


def _decomposed(y: Floats, cycle: int) -> tuple[Floats, Floats]:
    """Trend and season at each value."""
    n = y.size
    whole = 10 * n + 1  # so wide that a season is its mean
    low = cycle + 1 - cycle % 2
    wide = int(np.ceil(1.5 * cycle / (1 - 1.5 / whole)))
    wide += 1 - wide % 2
    weights = np.ones(n)
    trend, season = np.zeros(n), np.zeros(n)
    for _ in range(ROUNDS + 1):
        for _ in range(WITHIN):
            cycles = _seasons(y - trend, weights, cycle, whole)
            passed = _means(_means(_means(cycles, cycle), cycle), 3)
            season = cycles[cycle : cycle + n] - _loess(passed, np.ones(n), low, 1)
            trend = _loess(y - season, weights, wide, 1)
        weights = _robust(y - trend - season, y)
    return trend, season


def _robust(rest: Floats, values: Floats) -> Floats:
    """Bisquare weights: none for what is six medians off; even ones where that is rounding."""
    size = np.abs(rest)
    limit = 6 * float(np.median(size))
    if not limit > ROUNDING * float(np.abs(values).max()):
        return np.ones(rest.size)
    made = (1 - (size / limit) ** 2) ** 2
    made[size <= 0.001 * limit] = 1.0
    made[size > 0.999 * limit] = 0.0
    return made


def _seasons(rest: Floats, weights: Floats, cycle: int, whole: int) -> Floats:
    """The values of each season smoothed, with one cycle more at both ends."""
    made = np.zeros(rest.size + 2 * cycle)
    for at in range(cycle):
        own, weight = rest[at::cycle], weights[at::cycle]
        if own.size > MANY:  # where the weights of a window so wide are as good as even
            made[at::cycle] = np.average(own, weights=weight) if weight.any() else np.median(own)
            continue
        places = np.arange(-1.0, own.size + 1)
        made[at::cycle] = _loess(own, weight, whole, 0, places)
    return made


def _means(values: Floats, width: int) -> Floats:
    return np.convolve(values, np.full(width, 1 / width), "valid")


def _loess(y: Floats, weights: Floats, width: int, degree: int, at: Floats | None = None) -> Floats:
    """Local means (degree 0) or lines (degree 1) at places of a series, by default at its own.

    Each from the `width` nearest values, by tricube weights times those given.
    """
    n = y.size
    places = np.arange(float(n)) if at is None else at
    q = min(width, n)
    if places.size * q > MOST_HELD:  # a curve so smooth is known from fewer of its points
        few = np.linspace(places[0], places[-1], max(MOST_HELD // q, LEAST_PLACES))
        return np.asarray(np.interp(places, few, _loess(y, weights, width, degree, few)))
    first = np.clip(np.floor(places).astype(np.int64) - (q - 1) // 2, 0, n - q)
    index = first[:, None] + np.arange(q)
    apart = np.abs(index - places[:, None])
    reach = np.maximum(places - first, first + q - 1 - places)
    if width > n:
        reach = reach + (width - n) // 2
    ratio = apart / reach[:, None]
    w = (1 - ratio**3) ** 3
    w[ratio > 0.999] = 0.0
    w[ratio <= 0.001] = 1.0
    w = w * weights[index]
    total = w.sum(axis=1)
    made = np.where(total > 0, 0.0, y[np.clip(np.round(places).astype(np.int64), 0, n - 1)])
    w /= np.where(total > 0, total, 1.0)[:, None]
    if degree:
        middle = (w * index).sum(axis=1)
        spread = (w * (index - middle[:, None]) ** 2).sum(axis=1)
        tilted = np.sqrt(spread) > 0.001 * (n - 1)
        slope = (places - middle) / np.where(tilted, spread, 1.0)
        w = w * (1 + np.where(tilted, slope, 0.0)[:, None] * (index - middle[:, None]))
    return np.asarray(made + (w * y[index]).sum(axis=1))

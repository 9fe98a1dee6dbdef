"""Exponential smoothing with additive parts, fitted by maximum likelihood.

The innovations form with additive errors (R. Hyndman, A. Koehler, K. Ord & R. Snyder, Forecasting
with Exponential Smoothing, 2008, ch. 2 to 6): y = l + φb + s + e, where after each value the level
l moves by αe, the slope b by βe and the seasonal effect s by γe.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

STARTS = (
    (0.1, 0.5, 0.05), (0.5, 0.2, 0.1), (0.9, 0.9, 0.05), (0.3, 0.1, 0.5), (0.02, 0.5, 0.02),
    (0.95, 0.05, 0.5),
)  # fmt: skip
"""What the search begins from: α, β as a share of α, and γ as a share of 1 - α."""
LEAST, MOST = 1e-8, 1 - 1e-4
FARTHEST = 16.0
"""The search is on the scale of logits, within these."""
LEAST_DAMPED, MOST_DAMPED = 0.8, 0.98
"""Between these the damping φ is sought, as is usual: below 0.8 a slope is hardly one."""


class TooShort(ValueError):
    """A series with too few values for the parts that are asked of it."""


@dataclass(frozen=True)
class Form:
    """Which parts a series is taken to have."""

    slope: bool = False
    damped: bool = False
    """Whether the slope dies away; then there is one."""
    cycle: int = 0
    """How many values a cycle of seasons has; 0 for no seasons."""

    @property
    def constants(self) -> int:
        """How many smoothing constants are sought."""
        return 1 + self.slope + self.damped + (self.cycle > 0)

    @property
    def parameters(self) -> int:
        """The same with the states that the series begins from, and the variance."""
        return self.constants + 1 + self.slope + max(0, self.cycle - 1) + 1


@dataclass(frozen=True)
class Constants:
    """Smoothing constants; those of parts that there are not are 0, and φ is 1."""

    alpha: float
    beta: float = 0.0
    gamma: float = 0.0
    phi: float = 1.0


@dataclass(frozen=True)
class Smoothed:
    """A series with a form fitted to it."""

    values: Floats
    form: Form
    constants: Constants
    start: Floats
    """Level, slope, and seasonal effects (of the first cycle, summing to 0) before the first."""
    errors: Floats
    """Each value less what was expected of it from those before."""

    @property
    def n(self) -> int:
        return int(self.values.size)

    @cached_property
    def variance(self) -> float:
        """Of the errors, by maximum likelihood."""
        return float(self.errors @ self.errors) / self.n

    @cached_property
    def log_likelihood(self) -> float:
        return -0.5 * self.n * (math.log(2 * math.pi * self.variance) + 1)

    @property
    def aicc(self) -> float:
        """Akaike's criterion, corrected for few values; infinite where they are too few for it."""
        k, n = self.form.parameters, self.n
        if n - k - 1 <= 0:
            return math.inf
        return -2 * self.log_likelihood + 2 * k + 2 * k * (k + 1) / (n - k - 1)

    @cached_property
    def states(self) -> tuple[Floats, Floats, Floats]:
        """Level, slope and seasonal effect after each value."""
        c, cycle = self.constants, self.form.cycle
        levels, slopes, seasons = (np.zeros(self.n) for _ in range(3))
        level, slope = float(self.start[0]), float(self.start[1])
        turning = list(map(float, self.start[2:]))
        for t, error in enumerate(self.errors.tolist()):
            level += c.phi * slope + c.alpha * error
            slope = c.phi * slope + c.beta * error
            levels[t], slopes[t] = level, slope
            if cycle:
                turning[t % cycle] += c.gamma * error
                seasons[t] = turning[t % cycle]
        return levels, slopes, seasons

    def forecast(self, steps: int) -> Floats:
        """What is expected of the next `steps` values."""
        levels, slopes, seasons = self.states
        phi = self.constants.phi
        ahead = np.cumsum(phi ** np.arange(1, steps + 1))
        made = levels[-1] + ahead * slopes[-1]
        cycle = self.form.cycle
        if cycle:
            last = seasons[self.n - cycle :]
            made = made + last[np.arange(steps) % cycle]
        return np.asarray(made)

    def deviation(self, steps: int) -> Floats:
        """The standard deviation of each of the next `steps` values about its forecast.

        Hyndman et al., 2008, table 6.2 (class 1): the errors on the way, each by what it moves.
        """
        c, cycle = self.constants, self.form.cycle
        j = np.arange(1, steps)
        moved = c.alpha + c.beta * np.cumsum(c.phi**j)
        if cycle:
            moved = moved + c.gamma * (j % cycle == 0)
        grown = np.concatenate([[1.0], 1.0 + np.cumsum(moved**2)])
        unbiased = self.variance * self.n / max(1, self.n - self.form.parameters + 1)
        return np.asarray(np.sqrt(unbiased * grown))


def smooth(values: Floats, form: Form) -> Smoothed:
    """The form with the constants and the beginning of the greatest likelihood.

    `values` are a series without gaps. Raises TooShort for fewer values than parameters and two
    more, or than two cycles.
    """
    from scipy.optimize import minimize

    if values.size < max(form.parameters + 2, 2 * form.cycle):
        raise TooShort
    design = _design(values.size, form)
    best: tuple[float, Constants] | None = None

    def loss(inner: Floats) -> float:
        return _errors(values, form, _constants(inner, form), design)[2]

    for start in STARTS:
        first = _inner(start, form)
        found = minimize(
            loss, first, method="L-BFGS-B", bounds=[(-FARTHEST, FARTHEST)] * first.size
        )
        if best is None or found.fun < best[0]:
            best = float(found.fun), _constants(found.x, form)
    assert best is not None
    polished = minimize(
        loss, _outer(best[1], form), method="Nelder-Mead",
        options={"xatol": 1e-6, "fatol": 1e-9, "maxiter": 400},
    )  # fmt: skip
    constants = _constants(polished.x, form) if polished.fun < best[0] else best[1]
    return smoothed_by(values, form, constants)


def smoothed_by(values: Floats, form: Form, constants: Constants) -> Smoothed:
    """The form with given constants, and the beginning that suits them best."""
    errors, start, _ = _errors(values, form, constants, _design(values.size, form))
    return Smoothed(values, form, constants, start, errors)


def _design(n: int, form: Form) -> tuple[Floats, int]:
    """What each state at the beginning adds to the values if nothing ever moves it.

    Columns of ones and of seasonal contrasts; that of the slope depends on φ and is put in later.
    """
    columns = [np.ones(n)]
    if form.cycle:
        place = np.arange(n) % form.cycle
        columns += [
            (place == season) - 1.0 * (place == form.cycle - 1) for season in range(form.cycle - 1)
        ]
    return np.column_stack(columns), n


def _errors(
    values: Floats, form: Form, c: Constants, design: tuple[Floats, int]
) -> tuple[Floats, Floats, float]:
    """One-step errors, the beginning, and n log of their sum of squares.

    Errors are linear in the values and in the beginning: what the beginning alone would have given
    is taken off, and the rest goes through a filter. So the best beginning is a least-squares fit
    of filtered values to filtered columns, and the search is over the constants alone.
    """
    from scipy.signal import lfilter

    columns, n = design
    if form.slope:
        grown = np.cumsum(c.phi ** np.arange(1, n + 1))
        columns = np.column_stack([columns[:, :1], grown, columns[:, 1:]])
    above, below = _filter(form, c)
    filtered = lfilter(above, below, np.column_stack([values, columns]), axis=0)
    fit, *_ = np.linalg.lstsq(filtered[:, 1:], filtered[:, 0], rcond=None)
    errors = filtered[:, 0] - filtered[:, 1:] @ fit
    square = float(errors @ errors)
    start = np.zeros(2 + form.cycle)
    start[0] = fit[0]
    start[1] = fit[1] if form.slope else 0.0
    if form.cycle:
        seasons = fit[1 + form.slope :]
        start[2:] = np.concatenate([seasons, [-seasons.sum()]])
    tiny = np.finfo(float).tiny
    return errors, start, n * math.log(max(square, tiny)) if math.isfinite(square) else math.inf


def _filter(form: Form, c: Constants) -> tuple[Floats, Floats]:
    """Above and below the line of the filter from values to errors, in powers of the lag."""
    lag = np.polynomial.polynomial
    back = np.array([0.0, 1.0])
    once = np.array([1.0, -1.0])
    if not form.cycle:
        damp = np.array([1.0, -c.phi]) if form.slope else np.array([1.0])
        above = lag.polymul(once, damp)
        below = lag.polyadd(above, c.alpha * lag.polymul(back, damp))
        if form.slope:
            below = lag.polyadd(below, c.phi * c.beta * back)
        return above, below
    whole = np.ones(form.cycle)  # 1 + L + … + L^(m-1), so that (1 - L) of it is 1 - L^m
    damp = np.array([1.0, -c.phi]) if form.slope else np.array([1.0])
    above = lag.polymul(lag.polymul(once, whole), damp)
    below = lag.polyadd(above, c.alpha * lag.polymul(lag.polymul(back, damp), whole))
    if form.slope:
        below = lag.polyadd(below, c.phi * c.beta * lag.polymul(back, whole))
    season = np.zeros(form.cycle + 1)
    season[-1] = c.gamma
    return above, lag.polyadd(below, lag.polymul(season, damp))


def _sigmoid(x: float) -> float:
    return 1 / (1 + math.exp(-max(-30.0, min(30.0, x))))


def _logit(p: float) -> float:
    p = min(max(p, 1e-9), 1 - 1e-9)
    return math.log(p / (1 - p))


def _constants(inner: Floats, form: Form) -> Constants:
    """Constants from numbers without bounds: 0 < β < α, 0 < γ < 1 - α, as is usual."""
    given = iter(map(float, inner))
    alpha = LEAST + (MOST - LEAST) * _sigmoid(next(given))
    beta = LEAST + max(0.0, alpha - LEAST) * _sigmoid(next(given)) if form.slope else 0.0
    gamma = LEAST + max(0.0, 1 - alpha - LEAST) * _sigmoid(next(given)) if form.cycle else 0.0
    phi = 1.0
    if form.damped:
        phi = LEAST_DAMPED + (MOST_DAMPED - LEAST_DAMPED) * _sigmoid(next(given))
    return Constants(alpha, beta, gamma, phi)


def _outer(c: Constants, form: Form) -> Floats:
    """The numbers that `_constants` makes these of."""
    made = [_logit((c.alpha - LEAST) / (MOST - LEAST))]
    if form.slope:
        made.append(_logit((c.beta - LEAST) / max(1e-12, c.alpha - LEAST)))
    if form.cycle:
        made.append(_logit((c.gamma - LEAST) / max(1e-12, 1 - c.alpha - LEAST)))
    if form.damped:
        made.append(_logit((c.phi - LEAST_DAMPED) / (MOST_DAMPED - LEAST_DAMPED)))
    return np.asarray(np.clip(np.array(made), -FARTHEST, FARTHEST))


def _inner(start: tuple[float, float, float], form: Form) -> Floats:
    alpha, beta, gamma = start
    return _outer(Constants(alpha, beta * alpha, gamma * (1 - alpha), 0.95), form)

"""Exponential smoothing with additive parts, fitted by maximum likelihood.

The innovations form with additive errors (R. Hyndman, A. Koehler, K. Ord & R. Snyder, Forecasting
with Exponential Smoothing, 2008, ch. 2 to 6): y = l + φb + s + e, where after each value the level
l moves by αe, the slope b by βe and the seasonal effect s by γe.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.series.constant_search import SMALL, least_squares

STARTS = (
    (0.1, 0.5, 0.05),
    (0.5, 0.2, 0.1),
    (0.9, 0.9, 0.05),
    (0.3, 0.1, 0.5),
    (0.02, 0.5, 0.02),
    (0.95, 0.05, 0.5),
    (0.3, 0.02, 0.02),
    (0.001, 0.01, 0.001),
    (0.6, 0.6, 0.3),
)
"""What the search begins from: α, β as a share of α, and γ as a share of 1 - α."""
TRIED, MANY = 2, 2000
"""From so many of them the search sets out; from one where there are more values than these."""
DAMPED = 0.83
LEAST_MOVING = 0.01
ONE = (1.0,)
LEAST, MOST = 1e-8, 1 - 1e-4
LEAST_DAMPED, MOST_DAMPED = 0.8, 0.98
"""Between these the damping φ is sought, as is usual: below 0.8 a slope is hardly one."""


class TooShort(ValueError):
    """A series with too few values for the parts that are asked of it."""


@dataclass(frozen=True)
class SmoothingForm:
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
    form: SmoothingForm
    constants: Constants
    start: Floats
    """Level, slope, and seasonal effects (of the first cycle, summing to 0) before the first."""
    errors: Floats
    """Each value less what was expected of it from those before."""
    n: int
    """How many values are there; a missing one is filled with what suits the others best."""

    @cached_property
    def variance(self) -> float:
        """Of the errors, by maximum likelihood."""
        return float(self.errors @ self.errors) / self.n

    @cached_property
    def log_likelihood(self) -> float:
        """The Gaussian log-likelihood at the variance of maximum likelihood."""
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
        levels, slopes, seasons = (np.zeros(self.values.size) for _ in range(3))
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
            last = seasons[self.values.size - cycle :]
            made = made + last[np.arange(steps) % cycle]
        return np.asarray(made)

    def se(self, steps: int) -> Floats:
        """The standard deviation of each of the next `steps` values about its forecast.

        Hyndman et al., 2008, table 6.2 (class 1): the errors on the way, each by what it moves.
        """
        return np.asarray(np.sqrt(self.unbiased * np.cumsum(self.psi_weights(steps) ** 2)))

    def psi_weights(self, steps: int) -> Floats:
        """What one error adds to each value from its own on."""
        c, cycle = self.constants, self.form.cycle
        j = np.arange(1, steps)
        moved = c.alpha + c.beta * np.cumsum(c.phi**j)
        if cycle:
            moved = moved + c.gamma * (j % cycle == 0)
        return np.concatenate([[1.0], moved])

    def unknown(self, steps: int) -> Floats:
        """The standard deviation that forecasts have as the beginning is not known, but fitted.

        As of any least squares: what the columns of the beginning are in each of the next values,
        passed on by later ones as an error is, by the covariance of its coefficients.
        """
        from scipy.signal import lfilter

        values = np.concatenate([self.values, np.zeros(steps)])
        rows = _Design.of(values, self.form).columns(self.constants)
        seen = rows[:, : self.values.size]
        reach = lfilter(self.psi_weights(steps), [1.0], rows[:, self.values.size :], axis=1)
        solved = np.linalg.lstsq(seen @ seen.T, reach, rcond=None)[0]
        return np.asarray(np.sqrt(self.unbiased * np.maximum((reach * solved).sum(axis=0), 0.0)))

    @property
    def moving(self) -> int:
        """How many of α, β and γ are more than next to nothing, so that they follow the values."""
        c = self.constants
        return sum(one > LEAST_MOVING for one in (c.alpha, c.beta, c.gamma))

    @property
    def unbiased(self) -> float:
        """The variance of the errors, by their degrees of freedom."""
        return self.variance * self.n / max(1, self.n - self.form.parameters + 1)


def smooth(values: Floats, form: SmoothingForm) -> Smoothed:
    """The form with the constants and the beginning of the greatest likelihood.

    `values` are a series, NaN where one is missing; those are found with the beginning. The search
    sets out from those of several starts that are best. Raises TooShort for fewer values than
    parameters and two more, or than two cycles.
    """
    there = int(np.isfinite(values).sum())
    if there < max(form.parameters + 2, 2 * form.cycle):
        raise TooShort
    design = _Design.of(values, form)

    def squares(shares: Floats) -> float:
        return design.squares(_constants(shares, form))

    starts = [_start(start, form) for start in STARTS]
    tried = TRIED if there <= MANY else 1
    best = least_squares(squares, design.with_slopes, starts, tried)
    return design.smoothed(_constants(best, form))


def smoothed_by(values: Floats, form: SmoothingForm, constants: Constants) -> Smoothed:
    """The form with given constants, and the beginning that suits them best."""
    return _Design.of(values, form).smoothed(constants)


@dataclass(frozen=True, eq=False)
class _Design:
    """A series with what each state at its beginning adds to it if nothing ever moves it.

    One-step errors are linear in the values and in the beginning: what the beginning alone would
    have given is taken off, and the rest goes through a filter. So the best beginning is a
    least-squares fit of filtered values to filtered columns, and the search is over the constants
    alone. A missing value is a further unknown of that fit.
    """

    form: SmoothingForm
    values: Floats
    """Less their mean; 0 where one is missing."""
    mean: float
    missing: Ints
    """Places of the missing values."""
    given: Floats
    """What is filtered: ones, the slope, the first season, the last value alone, the values."""
    kept: dict[str, Any]
    """The filter that was made last."""
    rows: Floats
    """Room for what comes out: shape (k + 1, n), k columns, then the values."""

    @classmethod
    def of(cls, values: Floats, form: SmoothingForm) -> _Design:
        n, cycle = values.size, form.cycle
        missing = np.flatnonzero(~np.isfinite(values))
        mean = float(np.nanmean(values))
        centred = np.nan_to_num(values - mean)
        place = np.arange(n)
        rows = [np.ones(n)]
        if form.slope:
            rows.append(np.zeros(n))  # depends on φ and is put in later
        if cycle:
            rows.append(1.0 * (place % cycle == 0))
        if missing.size:
            rows.append(1.0 * (place == 0))
        room = np.zeros((1 + form.slope + max(0, cycle - 1) + missing.size + 1, n))
        return cls(form, centred, mean, missing, np.vstack([*rows, centred]), {}, room)

    @property
    def n(self) -> int:
        return int(self.values.size)

    def _filtered(self, c: Constants) -> Floats:
        """Shape (k + 1, n): k filtered columns, then the filtered values, until the next call.

        A season is the first one some values later, and so it is after the filter; the same holds
        of the marks of missing values.
        """
        from scipy.signal import lfilter

        form, given, rows = self.form, self.given, self.rows
        if form.slope and (form.damped or not given[1, 0]):
            given[1] = np.cumsum(c.phi ** np.arange(1, self.n + 1))
        made = lfilter(*self._line(c), given, axis=-1)
        states = 1 + form.slope
        rows[:states] = made[:states]
        if form.cycle:
            lead = form.cycle - 1
            late = np.zeros(lead + self.n)
            late[lead:] = made[states]
            back = np.lib.stride_tricks.sliding_window_view(late, self.n)[::-1]
            np.subtract(back[:-1], back[-1], out=rows[states : states + lead])
        for at, place in enumerate(self.missing.tolist(), states + max(0, form.cycle - 1)):
            rows[at, :place] = 0.0
            rows[at, place:] = -made[-2, : self.n - place]
        rows[-1] = made[-1]
        return rows

    def _line(self, c: Constants) -> tuple[Floats, Floats]:
        """The filter of these constants, made once for each."""
        if self.kept.get("of") != c:
            self.kept["of"], self.kept["line"] = c, _filter(self.form, c)
        above, below = self.kept["line"]
        return above, below

    def _slopes(self, c: Constants) -> Floats:
        """The derivatives of what is below its line; they change with φ alone."""
        if self.kept.get("phi") != c.phi:
            self.kept["phi"] = c.phi
            self.kept["slopes"] = np.vstack(_filter_slopes(self.form, c))
        return np.asarray(self.kept["slopes"])

    def columns(self, c: Constants) -> Floats:
        """The filtered columns of the beginning, without the values; shape (k, n)."""
        return self._filtered(c)[:-1].copy()

    def squares(self, c: Constants) -> float:
        """The sum of squared errors: what of the last row no other explains."""
        rows, lower = self._factored(c)
        if lower is None:  # columns that are alike but for rounding
            errors, _ = self._solved(rows)
            return float(errors @ errors)
        return float(lower[-1, -1]) ** 2

    def _factored(self, c: Constants) -> tuple[Floats, Floats | None]:
        """The filtered rows, and the triangle of their products; None where there is none."""
        from scipy.linalg.lapack import dpotrf

        rows = self._filtered(c)
        lower, failed = dpotrf(rows @ rows.T, lower=1)
        return rows, None if failed else lower

    def with_slopes(self, shares: Floats) -> tuple[Floats, Floats]:
        """The errors, and their derivatives by the shares that constants are made of, (n, k).

        With A above and B below the line of the filter, errors move by -dB / B times themselves;
        what the beginning makes up for is taken off (L. Kaufman, BIT 15, 1975). φ is in all of
        it, and left to a small step.
        """
        from scipy.signal import lfilter

        form = self.form
        c = _constants(shares, form)
        errors, basis = self._errors(c)
        below = self._line(c)[1]
        late = np.zeros(below.size - 1 + self.n)
        late[below.size - 1 :] = lfilter(ONE, below, errors)
        lags = np.lib.stride_tricks.sliding_window_view(late, self.n)[::-1]
        slopes = _by_shares(shares, form, -(self._slopes(c) @ lags))
        if form.damped:
            moved = shares.copy()
            moved[-1] += SMALL
            other, _ = self._errors(_constants(moved, form))
            slopes = np.vstack([slopes, (other - errors) / SMALL])
        slopes = slopes - (slopes @ basis.T) @ basis
        return errors, slopes.T

    def _errors(self, c: Constants) -> tuple[Floats, Floats]:
        """The errors at the best beginning, and rows of length 1 that span its columns."""
        from scipy.linalg.lapack import dtrtrs

        rows, lower = self._factored(c)
        if lower is None:
            errors, _ = self._solved(rows)
            return errors, np.linalg.qr(rows[:-1].T)[0].T
        basis, _ = dtrtrs(lower[:-1, :-1], rows[:-1], lower=1)
        return rows[-1] - lower[-1, :-1] @ basis, basis

    @staticmethod
    def _solved(rows: Floats) -> tuple[Floats, Floats]:
        """The errors, and the beginning with the missing values."""
        fit, *_ = np.linalg.lstsq(rows[:-1].T, rows[-1], rcond=None)
        return np.asarray(rows[-1] - fit @ rows[:-1]), fit

    def smoothed(self, c: Constants) -> Smoothed:
        form = self.form
        errors, fit = self._solved(self._filtered(c))
        values = self.values + self.mean
        states = 1 + form.slope + max(0, form.cycle - 1)
        values[self.missing] = fit[states:] + self.mean
        start = np.zeros(2 + form.cycle)
        start[0] = fit[0] + self.mean
        start[1] = fit[1] if form.slope else 0.0
        if form.cycle:
            seasons = fit[1 + form.slope : states]
            start[2:] = np.concatenate([seasons, [-seasons.sum()]])
        return Smoothed(values, form, c, start, errors, self.n - self.missing.size)


def _filter(form: SmoothingForm, c: Constants) -> tuple[Floats, Floats]:
    """Above and below the line of the filter from values to errors, in powers of the lag.

    With B the lag, errors are (1 - B)(1 - φB) y over that plus α B (1 - φB) + φβ B, where there is
    no season; with one, 1 - B becomes 1 - B^m, the sums over a cycle stand beside α and β, and
    γ B^m (1 - φB) is added.
    """
    m = form.cycle or 1
    damp = [1.0, -c.phi] if form.slope else [1.0]
    above = np.zeros(m + len(damp))
    above[: len(damp)] = damp
    above[m:] -= damp
    below = above.copy()
    whole = np.ones(m)
    level = np.convolve(damp, whole)
    below[1 : 1 + level.size] += c.alpha * level
    if form.slope:
        below[1 : 1 + m] += c.phi * c.beta
    if form.cycle:
        below[m : m + len(damp)] += c.gamma * np.array(damp)
    return above, below


def _filter_slopes(form: SmoothingForm, c: Constants) -> list[Floats]:
    """The derivatives of what is below the line of the filter, by α, β and γ."""
    m = form.cycle or 1
    damp = np.array([1.0, -c.phi]) if form.slope else np.ones(1)
    blank = np.zeros(m + damp.size)
    level = np.convolve(damp, np.ones(m))
    made = [blank.copy()]
    made[0][1 : 1 + level.size] = level
    if form.slope:
        made.append(blank.copy())
        made[-1][1 : 1 + m] = c.phi
    if form.cycle:
        made.append(blank.copy())
        made[-1][m : m + damp.size] = damp
    return made


def _constants(shares: Floats, form: SmoothingForm) -> Constants:
    """Constants from shares between 0 and 1: 0 < β < α, 0 < γ < 1 - α, as is usual."""
    given = iter(shares.tolist())
    alpha = LEAST + (MOST - LEAST) * next(given)
    beta = LEAST + max(0.0, alpha - LEAST) * next(given) if form.slope else 0.0
    gamma = LEAST + max(0.0, 1 - alpha - LEAST) * next(given) if form.cycle else 0.0
    phi = 1.0
    if form.damped:
        phi = LEAST_DAMPED + (MOST_DAMPED - LEAST_DAMPED) * next(given)
    return Constants(alpha, beta, gamma, phi)


def _by_shares(shares: Floats, form: SmoothingForm, slopes: Floats) -> Floats:
    """Derivatives by α, β and γ (a row each) as those by the shares that they are made of."""
    alpha = _constants(shares, form).alpha
    made, at = slopes.copy(), 1
    if form.slope:
        made[0] += slopes[at] * shares[at]
        made[at] *= max(0.0, alpha - LEAST)
        at += 1
    if form.cycle:
        made[0] -= slopes[at] * shares[at]
        made[at] *= max(0.0, 1 - alpha - LEAST)
    made[0] *= MOST - LEAST
    return made


def _start(start: tuple[float, float, float], form: SmoothingForm) -> Floats:
    alpha, beta, gamma = start
    kept = [alpha, *([beta] * form.slope), *([gamma] * (form.cycle > 0))]
    return np.array([*kept, *([DAMPED] * form.damped)])

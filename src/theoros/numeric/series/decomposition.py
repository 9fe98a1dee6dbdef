"""The parts of a series: its trend, what its seasons add, and what is left over."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.series.moving import moving_average

CLEARLY = 0.95
"""Seasons are said to multiply where that leaves less than this share of the squares over."""


class NotPositive(ValueError):
    """A value of 0 or below, in which a season that multiplies has no meaning."""


class TooFewCycles(ValueError):
    """A series of fewer than two whole cycles, from which no seasons can be told."""


@dataclass(frozen=True)
class Decomposition:
    """A series taken apart: value = trend + season + left over, or their product."""

    values: Floats
    cycle: int
    multiplicative: bool
    trend: Floats
    """NaN where the series does not reach far enough, half a cycle at both ends."""
    effects: Floats
    """Of the seasons of one cycle, that of the first value first; they sum to 0, or average 1."""

    @property
    def season(self) -> Floats:
        """The effect at each value."""
        return np.resize(self.effects, self.values.size)

    @property
    def together(self) -> Floats:
        """Trend with season, as values."""
        return np.asarray(self.trend * self.season if self.multiplicative else self.trend + self.season)

    @property
    def remainder(self) -> Floats:
        """What trend and season leave of each value, in its units, of products too."""
        return np.asarray(self.values - self.together)

    @property
    def left_over(self) -> Floats:
        if self.multiplicative:
            return np.asarray(self.values / (self.trend * self.season))
        return np.asarray(self.values - self.trend - self.season)

    @property
    def adjusted(self) -> Floats:
        """The values without their seasons."""
        return np.asarray(self.values / self.season if self.multiplicative else self.values - self.season)

    @property
    def strengths(self) -> tuple[float, float]:
        """Of the trend and of the seasons, from 0 to 1.

        1 less the variance of what is left over, relative to that with the part put back
        (X. Wang, K. Smith & R. Hyndman, 2006); of products, that of their logarithms.
        """
        trend, season, rest = self.trend, self.season, self.left_over
        if self.multiplicative:
            trend, season, rest = np.log(trend), np.log(season), np.log(rest)
        there = np.isfinite(rest)
        left = float(np.var(rest[there]))
        return _strength(left, (trend + rest)[there]), _strength(left, (season + rest)[there])


def _strength(left: float, with_part: Floats) -> float:
    whole = float(np.var(with_part))
    return max(0.0, 1.0 - left / whole) if whole > 0 else 0.0


def parts_by_means(values: Floats, cycle: int, *, multiplicative: bool = False) -> Decomposition:
    """Decomposition by a moving average over a cycle and the means of each season about it.

    `values` are without gaps. The classical decomposition (W. Persons, 1919; Kendall, ch. 4).
    Raises TooFewCycles, NotPositive.
    """
    if values.size < 2 * cycle:
        raise TooFewCycles
    if multiplicative and not (values > 0).all():
        raise NotPositive
    trend = moving_average(values, cycle)
    rest = values / trend if multiplicative else values - trend
    place = np.arange(values.size) % cycle
    there = np.isfinite(rest)
    sums = np.bincount(place[there], rest[there], cycle)
    effects = sums / np.bincount(place[there], minlength=cycle)
    effects = effects / effects.mean() if multiplicative else effects - effects.mean()
    return Decomposition(values, cycle, multiplicative, trend, effects)


def suggests_multiplicative(values: Floats, cycle: int) -> bool:
    """Whether the seasons grow with the level: by which parts leave less over.

    Compared is what either way leaves over, but for the tenth that is largest, which a few wild
    values would decide; a series with a value of 0 or below has additive seasons.
    """
    if values.size < 2 * cycle or not (values > 0).all():
        return False
    added = parts_by_means(values, cycle)
    times = parts_by_means(values, cycle, multiplicative=True)
    there = np.isfinite(added.trend)
    most = int(np.ceil(0.9 * there.sum()))
    one, other = (np.sort(np.abs(parts.remainder[there]))[:most] for parts in (added, times))
    return bool(other @ other < CLEARLY * (one @ one))

"""The two samples behind a test, and what is checked about them before any way is used."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.heavy import np
from theoros.numeric.arrays import Centre, Floats, Ints
from theoros.numeric.normality import shapiro_wilk
from theoros.numeric.summaries import Summary, summarize
from theoros.numeric.t_tests import Moments, Sampled

NORMAL_LEVEL = 0.05
"""A Shapiro-Wilk p-value below this speaks against a normal shape."""
LARGE = 40
"""From so many values on, t procedures no longer lean on a normal shape."""
SPREAD_RATIO = 2.0
"""Standard deviations farther apart than this speak against pooling."""


@dataclass(frozen=True, eq=False)
class Sample:
    """One sample (finite values) with the rows it came from and its name."""

    label: str
    phrase: str
    """How to speak of its cases: "slow trays"; for a column, the column."""
    values: Floats
    rows: Ints
    many: bool = False
    """Whether its label is a plural."""
    given: Moments | None = None
    """Its figures, where they were typed and there are no values."""

    @property
    def n(self) -> int:
        return self.given.n if self.given else int(self.values.size)

    @property
    def data(self) -> Sampled:
        """What procedures that need no single values work on."""
        return self.given or self.values

    @cached_property
    def summary(self) -> Summary:
        """Its figures; quartiles and ends are NaN where only figures were given."""
        if self.given:
            return Summary(self.given.n, self.given.mean, self.given.sd, *([math.nan] * 5))
        return summarize(self.values)

    @cached_property
    def outliers(self) -> tuple[int, ...]:
        """Positions in `values` beyond the fences."""
        if self.values.size == 0:
            return ()
        return tuple(np.flatnonzero(self.summary.outside(self.values)).tolist())

    @cached_property
    def shapiro(self) -> float | None:
        return None if self.given else shapiro_wilk(self.values)

    @property
    def looks_normal(self) -> bool | None:
        """None where it cannot be told from the values: too few, or all equal."""
        if self.n > 5000:
            return True  # t procedures do not lean on it at that size
        return None if self.shapiro is None else self.shapiro >= NORMAL_LEVEL

    def centre(self, centre: Centre) -> float:
        return self.summary.mean if centre == "mean" else self.summary.median


@dataclass(frozen=True, eq=False)
class Samples:
    """What a test works on: two separate samples, or the differences of matched pairs."""

    first: Sample
    second: Sample
    unit: str
    decimals: int
    pairs: Sample | None = None
    """First minus second in each row; only for matched samples."""

    @property
    def matched(self) -> bool:
        return self.pairs is not None

    @property
    def each(self) -> tuple[Sample, ...]:
        """The samples whose shape matters: the two, or the differences."""
        return (self.pairs,) if self.pairs else (self.first, self.second)

    def difference(self, centre: Centre) -> float:
        """What was seen: centre of the differences, or difference of the centres."""
        if self.pairs:
            return self.pairs.centre(centre)
        return self.first.centre(centre) - self.second.centre(centre)

    @property
    def spread_ratio(self) -> float | None:
        """The larger standard deviation over the smaller; None where one is not there or 0."""
        small, large = sorted((self.first.summary.sd, self.second.summary.sd))
        return large / small if small > 0 else None

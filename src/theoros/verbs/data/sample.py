"""One sample: its values or its figures, and what it is called."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.answer.nouns import spoken
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.measures import skewness
from theoros.numeric.normality import shapiro_wilk
from theoros.numeric.procedures.means import Moments, Sampled
from theoros.numeric.summaries import Summary, summarize


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
    def said(self) -> str:
        """Its name within a sentence."""
        return spoken(self.label)

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

    @cached_property
    def skewness(self) -> float:
        """Adjusted Fisher-Pearson G1; NaN below 3 values or where they do not spread."""
        return skewness(self.values)

    def with_values(self, values: Floats) -> Sample:
        """It with other values in the same rows."""
        return Sample(self.label, self.phrase, values, self.rows, self.many)

    def at(self, places: Ints) -> Sample:
        """It with the cases at these places, as often as they come."""
        return Sample(self.label, self.phrase, self.values[places], self.rows[places], self.many)

    def is_far(self, at: int) -> bool:
        """Whether the value at a position lies more than 3 IQR beyond the box."""
        s, value = self.summary, float(self.values[at])
        return not s.q1 - 3 * s.iqr <= value <= s.q3 + 3 * s.iqr


def _of_all(sample: Sample) -> str:
    """What a sample stands for: "of all slow trays"; of a name that is no word for cases, its
    population."""
    if sample.given and not sample.phrase.lower().endswith("s"):
        return "in the population" if sample.phrase.startswith("the ") else f"in the population of {sample.phrase}"
    return f"of all {sample.phrase}"


def typed_sample(label: str, phrase: str, n: int, mean: float, sd: float) -> Sample:
    """A sample of which only the figures are known."""
    nothing, rows = np.zeros(0, dtype=np.float64), np.zeros(0, dtype=np.int64)
    return Sample(label, phrase, nothing, rows, given=Moments(n, mean, sd))

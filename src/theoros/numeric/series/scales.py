"""Scales on which a series is forecast: as it is, by logarithms, by square roots."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.series.decomposition import NotPositive

ABOVE = 0.375
"""Added below a root: so the roots of counts have even spreads (F. Anscombe, 1948)."""


class Negative(ValueError):
    """A value below 0, which has no square root."""


@dataclass(frozen=True)
class SeriesScale:
    """A way to and fro. By logarithms parts multiply; neither logs nor roots go below 0."""

    name: Literal["plain", "log", "root"] = "plain"

    def forward(self, values: Floats) -> Floats:
        """The values on the scale; NaN stays. Raises NotPositive, Negative."""
        there = values[np.isfinite(values)]
        if self.name == "log":
            if not (there > 0).all():
                raise NotPositive
            return np.asarray(np.log(values))
        if self.name == "root":
            if not (there >= 0).all():
                raise Negative
            return np.asarray(np.sqrt(values + ABOVE))
        return values

    def back(self, values: Floats) -> Floats:
        """Values on the scale of the series again, of any shape; what overflows is infinite."""
        if self.name == "log":
            with np.errstate(over="ignore"):
                return np.asarray(np.exp(values))
        if self.name == "root":
            return np.asarray(np.maximum(np.maximum(values, 0.0) ** 2 - ABOVE, 0.0))
        return values

    def log_slopes(self, values: Floats) -> float:
        """The sum of log |dz/dy|, by which a likelihood on the scale becomes one of the values."""
        there = values[np.isfinite(values)]
        if self.name == "log":
            return -float(np.log(there).sum())
        if self.name == "root":
            return -float((0.5 * np.log(there + ABOVE)).sum()) - there.size * math.log(2)
        return 0.0


PLAIN, LOG, ROOT = SeriesScale(), SeriesScale("log"), SeriesScale("root")

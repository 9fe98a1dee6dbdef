"""What distributions of values above 0 share."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.distributions.distribution import Distribution


class Positive(Distribution):
    """A density over the values from 0 up."""

    discrete = False

    @property
    def support(self) -> tuple[float, float]:
        return 0.0, math.inf

    @staticmethod
    def _above(at: Floats | float) -> tuple[Floats, Bools, Floats]:
        """Values as an array, which lie above 0, and 1 in place of the others."""
        x = np.asarray(at, dtype=np.float64)
        above = x > 0
        return x, above, np.where(above, x, 1.0)

"""One standard deviation of values of any shape, by the logarithm of their variance."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.procedures.means import NoSpread, TooFewValues

LEAST = 5


@dataclass(frozen=True, slots=True)
class LogVariance:
    """The logarithm of a variance, as it varies from sample to sample."""

    n: int
    sd: float
    kurtosis: float
    """n Σ (y − m)⁴ / (Σ (y − ȳ)²)² with m the trimmed mean; 3 for normal values in the long run."""

    def error(self, z: float) -> float:
        """The standard error of the logarithm, corrected for few values, for ends at ± z of them."""
        n = self.n
        return self._factor(z) * math.sqrt(max(self.kurtosis - (n - 3) / n, 0.0) / (n - 1))

    def _factor(self, z: float) -> float:
        return self.n / (self.n - min(z, 0.5 * self.n))

    def end(self, z: float) -> float:
        """The standard deviation z standard errors above (below, where z is negative) the estimate."""
        middle = math.log(self._factor(abs(z)) * self.sd**2)
        return math.exp(0.5 * (middle + z * self.error(abs(z))))

    def score(self, null: float) -> float:
        """z for which an end lies at `null`: how far the estimate lies above it, in standard errors."""
        target, low, high = math.log(null), -40.0, 40.0
        if math.log(self.end(low)) > target:
            return -low
        if math.log(self.end(high)) < target:
            return -high
        while high - low > 1e-11:
            half = (low + high) / 2
            if math.log(self.end(half)) < target:
                low = half
            else:
                high = half
        return -(low + high) / 2


def log_variance(values: Floats) -> LogVariance:
    """Bonett's interval (2006, Computational Statistics & Data Analysis 50, 775-782) for one spread.

    exp(ln(c s²) ± z c √((γ − (n − 3)/n) / (n − 1))) with c = n/(n − z) and γ the kurtosis about the
    mean without a share 1/(2 √(n − 4)) of the values at either end. Raises TooFewValues below
    5 values, NoSpread where all are equal.
    """
    n = int(values.size)
    if n < LEAST:
        raise TooFewValues
    mean, sd = float(values.mean()), float(values.std(ddof=1))
    if not sd > 0:
        raise NoSpread
    cut = int(n / (2 * math.sqrt(n - 4)))
    middle = float(np.sort(values)[cut : n - cut].mean()) if 2 * cut < n else float(np.median(values))
    z = (values - middle) / sd
    kurtosis = n * float((z**4).sum()) / float((((values - mean) / sd) ** 2).sum()) ** 2
    return LogVariance(n, sd, kurtosis)

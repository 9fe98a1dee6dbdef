"""z procedures: a statistic that is standard normal under H0, for means with a known spread."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.means import Moments, Sampled, TooFewValues, sample_size


@dataclass(frozen=True, slots=True)
class ZTest:
    """A z statistic with what it was made of."""

    z: float
    estimate: float
    """What is compared, or its difference; the null value not taken off."""
    standard_error: float
    """Under H0."""
    pooled: float | None = None
    """The share of both groups together, where it was used."""
    corrected: float = 0.0
    """What the continuity correction took off the gap."""

    def p(self, claim: Alternative) -> float:
        """The tail of the standard normal distribution that the claim points to, both for "different"."""
        return Normal().tail(claim, self.z)


def z_mean(sample: Sampled, sigma: float, null: float = 0.0) -> ZTest:
    """z = (x̄ - null) / (σ / √n), with a σ (above 0) that is known. Raises TooFewValues for none."""
    mean, error = _mean(sample), sigma / math.sqrt(max(sample_size(sample), 1))
    return ZTest((mean - null) / error, mean, error)


def z_means(x: Sampled, y: Sampled, sigma_x: float, sigma_y: float, null: float = 0.0) -> ZTest:
    """z = (x̄ - ȳ - null) / √(σ₁²/n₁ + σ₂²/n₂), with both σ known. Raises TooFewValues for none."""
    gap = _mean(x) - _mean(y)
    error = math.hypot(sigma_x / math.sqrt(sample_size(x)), sigma_y / math.sqrt(sample_size(y)))
    return ZTest((gap - null) / error, gap, error)


def _mean(sample: Sampled) -> float:
    if sample_size(sample) < 1:
        raise TooFewValues
    return sample.mean if isinstance(sample, Moments) else float(np.mean(sample))

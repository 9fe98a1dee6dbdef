"""The chances that a distribution gives to classes, and the one that fits counts best."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Distribution

Make = Callable[..., Distribution]
"""A distribution from its parameters. Raises ValueError for those that it cannot have."""


def class_chances(law: Distribution, spans: Sequence[tuple[float, float]]) -> Floats:
    """The chance of each class, shape (classes,).

    Of a density a span reaches from its low end to its high end; of a lattice of whole numbers
    both ends belong to it.
    """
    step = 1.0 if law.discrete else 0.0
    made = []
    for low, high in spans:
        above = low - step if math.isfinite(low) else low
        if low > law.mean:
            made.append(_beyond(law, above) - _beyond(law, high))
        else:
            made.append(_up_to(law, high) - _up_to(law, above))
    return np.asarray(np.maximum(made, 0.0))


def _up_to(law: Distribution, at: float) -> float:
    return float(at > 0) if math.isinf(at) else float(law.cdf(at))


def _beyond(law: Distribution, at: float) -> float:
    return float(at < 0) if math.isinf(at) else float(law.sf(at))


def best_fit(
    make: Make, start: Sequence[float], spans: Sequence[tuple[float, float]], counts: Floats
) -> tuple[float, ...]:
    """The parameters for which counts in classes are the likeliest (Fisher 1922), from a start.

    They are the ones for which χ² loses a degree of freedom for each (Fisher 1924).
    """
    from scipy.optimize import minimize

    scale = np.array([abs(one) or 1.0 for one in start])

    def unlikely(at: Floats) -> float:
        try:
            chances = class_chances(make(*(at * scale).tolist()), spans)
        except ValueError:
            return math.inf
        with np.errstate(divide="ignore"):
            logs = np.where(counts > 0, np.log(chances), 0.0)
        return -float(counts @ logs)

    found = minimize(
        unlikely,
        np.array(start) / scale,
        method="Nelder-Mead",
        options={"xatol": 1e-12, "fatol": 1e-12, "maxiter": 4000, "maxfev": 4000},
    )
    return tuple((found.x * scale).tolist())

"""How two numbers vary together."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


def pearson(x: Floats, y: Floats) -> float:
    """Pearson's r of finite pairs, shape (n,) each; NaN for n < 2 or where one does not vary.

    r = sum((x - x̄)(y - ȳ)) / √(sum((x - x̄)²) sum((y - ȳ)²)) (Pearson 1896).
    Both are centred and scaled first, so that neither offset nor exponent costs digits.
    """
    if x.size < 2:
        return math.nan
    a, b = _scaled(x), _scaled(y)
    length = math.sqrt(float(a @ a)) * math.sqrt(float(b @ b))
    return max(-1.0, min(1.0, float(a @ b) / length)) if length > 0 else math.nan


def _scaled(values: Floats) -> Floats:
    moved = values / 2 - values[0] / 2
    largest = float(np.abs(moved).max())
    moved = moved / largest if largest > 0 else moved
    return np.asarray(moved - moved.mean(), dtype=np.float64)

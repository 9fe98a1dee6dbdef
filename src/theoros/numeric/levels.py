"""A p-value against a level, which is on neither side of it where there is none."""

from __future__ import annotations

import math


def below(p: float, level: float) -> bool:
    """Whether p < level. Raises ValueError where p is NaN: that too few cases give no p-value is told before."""
    return _known(p) < level


def at_most(p: float, level: float) -> bool:
    """Whether p ≤ level, the rule by which H₀ is rejected. Raises ValueError where p is NaN."""
    return _known(p) <= level


def _known(p: float) -> float:
    if math.isnan(p):
        raise ValueError("there is no p-value to set against a level")
    return p

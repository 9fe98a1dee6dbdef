"""The chi-square distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.numeric.distributions.gamma import Gamma


@dataclass(frozen=True, init=False)
class ChiSquare(Gamma):
    """The sum of `df` (above 0) squared standard normal values: gamma of shape df / 2, scale 2."""

    df: float = 1.0

    def __init__(self, df: float) -> None:
        if not 0 < df < math.inf:
            raise ValueError("degrees of freedom must lie above 0")
        object.__setattr__(self, "df", df)
        object.__setattr__(self, "shape", df / 2)
        object.__setattr__(self, "scale", 2.0)

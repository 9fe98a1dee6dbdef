"""The search for what makes a likelihood greatest."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

SMALL, CLOSE = 1e-6, 3e-8


def lowest(
    loss: Callable[[Floats], float], starts: Sequence[Floats], tried: int, within: float
) -> Floats:  # fmt: skip
    """Where a loss is lowest, as found from those `tried` of the starts where it is low already.

    By L-BFGS-B, the slopes by small steps, each coordinate `within` so much of 0.
    """
    from scipy.optimize import minimize

    def with_slopes(at: Floats) -> tuple[float, Floats]:
        here = loss(at)
        slopes = np.zeros(at.size)
        for k in range(at.size):
            moved = at.copy()
            moved[k] += SMALL
            slopes[k] = (loss(moved) - here) / SMALL
        return here, slopes

    found = [
        minimize(
            with_slopes, first, jac=True, method="L-BFGS-B",
            bounds=[(-within, within)] * first.size, options={"ftol": CLOSE},
        )
        for first in sorted(starts, key=loss)[:tried]
    ]  # fmt: skip
    return np.asarray(min(found, key=lambda one: float(one.fun)).x)

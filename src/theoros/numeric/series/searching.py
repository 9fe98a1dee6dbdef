"""The search for what makes a likelihood greatest."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

SMALL, CLOSE = 1e-6, 3e-8


def lowest(
    loss: Callable[[Floats], float],
    with_slopes: Callable[[Floats], tuple[float, Floats]],
    starts: Sequence[Floats],
    tried: int,
    within: float,
) -> Floats:
    """Where a loss is lowest, as found from those `tried` of the starts where it is low already.

    By L-BFGS-B, each coordinate `within` so much of 0; `with_slopes` gives the loss with its
    derivatives.
    """
    from scipy.optimize import minimize

    found = [
        minimize(
            with_slopes, first, jac=True, method="L-BFGS-B",
            bounds=[(-within, within)] * first.size, options={"ftol": CLOSE},
        )
        for first in sorted(starts, key=loss)[:tried]
    ]  # fmt: skip
    return np.asarray(min(found, key=lambda one: float(one.fun)).x)


def by_small_steps(loss: Callable[[Floats], float]) -> Callable[[Floats], tuple[float, Floats]]:
    """A loss with its derivatives by small steps."""

    def both(at: Floats) -> tuple[float, Floats]:
        here = loss(at)
        return here, np.array([step_along(loss, at, here, k) for k in range(at.size)])

    return both


def step_along(loss: Callable[[Floats], float], at: Floats, here: float, k: int) -> float:
    """The derivative along one coordinate, by a small step."""
    moved = at.copy()
    moved[k] += SMALL
    return (loss(moved) - here) / SMALL

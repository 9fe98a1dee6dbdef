"""The search for what makes a likelihood greatest."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

SMALL, CLOSE = 1e-6, 3e-8
MOST_STEPS, MOST_DAMPING, ENOUGH = 60, 1e8, 1e-9


def lowest(loss: Callable[[Floats], float], starts: Sequence[Floats], tried: int, within: float) -> Floats:
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
            with_slopes,
            first,
            jac=True,
            method="L-BFGS-B",
            bounds=[(-within, within)] * first.size,
            options={"ftol": CLOSE},
        )
        for first in sorted(starts, key=loss)[:tried]
    ]
    return np.asarray(min(found, key=lambda one: float(one.fun)).x)


def least_squares(
    squares: Callable[[Floats], float],
    with_slopes: Callable[[Floats], tuple[Floats, Floats]],
    starts: Sequence[Floats],
    tried: int,
) -> Floats:
    """Where a sum of squares is least, each coordinate between 0 and 1.

    Found from those `tried` starts where it is low already; `with_slopes` gives the errors (n) and
    their derivatives (n, k). By steps of Levenberg and Marquardt (D. Marquardt, 1963) among the
    coordinates that are not held at an end, with second derivatives as the steps show them.
    """
    found = [_descended(squares, with_slopes, first) for first in sorted(starts, key=squares)[:tried]]
    return min(found, key=lambda one: one[0])[1]


def _descended(
    squares: Callable[[Floats], float], with_slopes: Callable[[Floats], tuple[Floats, Floats]], first: Floats
) -> tuple[float, Floats]:
    at, damping = first, 1e-3
    errors, slopes = with_slopes(at)
    here, way, curved = float(errors @ errors), slopes.T @ errors, slopes.T @ slopes
    for _ in range(MOST_STEPS):
        free = ~(((at <= 0) & (way > 0)) | ((at >= 1) & (way < 0)))
        if not free.any():
            break
        held = curved[np.ix_(free, free)]
        size = np.diag(held)
        lift = damping * np.maximum(size, 1e-9 * (float(size.max()) or 1.0))
        there = at.copy()
        there[free] -= np.linalg.solve(held + np.diag(lift), way[free])
        there = np.clip(there, 0.0, 1.0)
        value = squares(there)
        if not (math.isfinite(value) and value < here):
            damping *= 6
            if damping > MOST_DAMPING or float(np.abs(there - at).max()) < 1e-10:
                break
            continue
        gain, moved, before = here - value, there - at, way
        at, damping = there, max(damping * 0.2, 1e-9)
        errors, slopes = with_slopes(at)
        here, way = float(errors @ errors), slopes.T @ errors
        if gain < ENOUGH * here:
            break
        curved = _bent(curved, moved, way - before, slopes.T @ slopes)
    return here, at


def _bent(curved: Floats, moved: Floats, turned: Floats, products: Floats) -> Floats:
    """The second derivatives as the last step shows them (Broyden, Fletcher, Goldfarb & Shanno).

    Those of a sum of squares by its first derivatives alone, where the step shows none.
    """
    along = curved @ moved
    bend, before = float(moved @ turned), float(moved @ along)
    if not (bend > 1e-12 * before > 0):
        return products
    return np.asarray(curved + np.outer(turned, turned) / bend - np.outer(along, along) / before)

"""Nonlinear least squares, by SciPy's Levenberg–Marquardt."""

from __future__ import annotations

import math
import warnings
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

Function = Callable[[Floats, Floats], Floats]
"""Of x, shape (n,), and parameters, shape (p,), the curve, shape (n,)."""
Gradient = Callable[[Floats, Floats], Floats]
"""The derivatives of the curve by its parameters, shape (n, p)."""


SETTLED = (1, 2, 3, 4)
"""What MINPACK says when a descent ended at a least sum of squares."""
MOST_STEPS, POLISH = 600, 4
MOST_TRIED, MANY = 5, 20_000
"""So many descents are tried, of more pairs than these one."""
LOOKED_AT, NEAR = 1500, 0.06
"""Pairs that a grid is tried on; and how near, as a part of the grid, two starts lead to the same."""


class DoesNotSettle(ValueError):
    """No start led to a fit."""


@dataclass(frozen=True, eq=False)
class NonlinearFit:
    """What least squares gives for a curve, with the linear picture of it near the fit."""

    coefficients: Floats
    fitted: Floats
    residuals: Floats
    inverse: Floats
    """(J'J)⁻¹ = inverse inverse', for the derivatives J at the fit; shape (p, p)."""
    leverage: Floats

    @property
    def n(self) -> int:
        """Number of cases."""
        return int(self.fitted.size)

    @property
    def df(self) -> int:
        """Degrees of freedom of the residuals: cases less coefficients."""
        return self.n - int(self.coefficients.size)

    @property
    def rss(self) -> float:
        """Residual sum of squares."""
        return float(self.residuals @ self.residuals)

    @property
    def sigma(self) -> float:
        """Residual standard deviation, √(RSS / df), in the unit of y."""
        return math.sqrt(self.rss / self.df)

    @property
    def standard_errors(self) -> Floats:
        """Standard errors by the linear picture."""
        return np.asarray(self.sigma * np.sqrt((self.inverse**2).sum(axis=1)))


def fit_curve(
    function: Function, gradient: Gradient, x: Floats, y: Floats, starts: Sequence[Sequence[float] | Floats]
) -> NonlinearFit:
    """The least of the sums of squares that the starts lead to, the likeliest few of them tried.

    Raises DoesNotSettle where none does: the derivatives depend on each other there, or it runs
    away without an end.
    """
    best: NonlinearFit | None = None
    with np.errstate(all="ignore"):
        able = []
        for start in starts:
            begin = np.asarray(start, dtype=np.float64)
            off = function(x, begin) - y
            cost = float(off @ off)
            if math.isfinite(cost):
                able.append((cost, begin))
        tried = 0
        for _, begin in sorted(able, key=lambda one: one[0]):
            found = _descend(function, gradient, x, y, begin)
            if found is None:
                continue
            if best is None or found.rss < best.rss:
                best = found
            tried += 1
            if tried == (MOST_TRIED if x.size < MANY else 1):
                break
    if best is None:
        raise DoesNotSettle
    return best


def profiled(
    parts: Callable[[Floats, Floats], Floats], x: Floats, y: Floats, grid: Floats, most: int = 4
) -> tuple[list[Floats], bool]:
    """Starts for a curve y = c g(x; θ): of a grid of θ, shape (k, q), those with the least sums of squares.

    For every θ the best c is known, Σ g y / Σ g² (variable projection, Golub and Pereyra 1973).
    `parts` gives g, shape (k, n), of x and the grid. Back come (c, θ) of the best `most` that do not
    lie beside a better one, and whether the best of all lies at the grid's end. Of many pairs some
    are looked at.
    """
    if x.size > LOOKED_AT:
        places = np.linspace(0, x.size - 1, LOOKED_AT).astype(np.int64)
        x, y = x[places], y[places]
    with np.errstate(all="ignore"):
        g = parts(x, grid)
        along, size = g @ y, np.einsum("ij,ij->i", g, g)
        gain = np.where(size > 0, along**2 / size, -np.inf)
    gain = np.where(np.isfinite(gain), gain, -np.inf)
    found: list[Floats] = []
    taken: list[Floats] = []
    reach = np.ptp(grid, axis=0)
    reach[reach == 0] = 1.0
    for at in np.argsort(-gain):
        if len(found) == most or not math.isfinite(gain[at]):
            break
        theta = grid[at]
        if any((np.abs(theta - other) / reach).max() < NEAR for other in taken):
            continue
        taken.append(theta)
        found.append(np.append(along[at] / size[at], theta))
    best = grid[int(np.argmax(gain))]
    at_end = bool(((best == grid.min(axis=0)) | (best == grid.max(axis=0))).any())
    return found, at_end


def _descend(function: Function, gradient: Gradient, x: Floats, y: Floats, begin: Floats) -> NonlinearFit | None:
    """From a start to the least sum of squares near it; None where there is none."""
    from scipy.optimize import leastsq

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            at, _, _, _, status = leastsq(
                lambda b: _finite(function(x, b)) - y,
                begin,
                Dfun=lambda b: _finite(gradient(x, b)),
                full_output=True,
                ftol=1e-14,
                xtol=1e-12,
                gtol=1e-15,
                maxfev=MOST_STEPS,
            )
    except (ValueError, TypeError, np.linalg.LinAlgError):
        return None
    at = np.atleast_1d(at)
    if status not in SETTLED or not np.isfinite(at).all():
        return None
    fitted = function(x, at)
    # a few steps of Gauss and Newton take the last digits, where the descent stops for flatness
    for _ in range(POLISH):
        split = _split(_finite(gradient(x, at)))
        if split is None:
            return None
        tried = at + split[1] @ (split[0].T @ (y - fitted))
        there = function(x, tried)
        if not ((y - there) ** 2).sum() <= ((y - fitted) ** 2).sum() * (1 + 1e-13):
            break
        still = np.abs(tried - at) <= 1e-12 * np.abs(at)
        at, fitted = tried, there
        if still.all():
            break
    split = _split(_finite(gradient(x, at)))
    if split is None:
        return None
    q, inverse = split
    return NonlinearFit(at, fitted, y - fitted, inverse, np.einsum("ij,ij->i", q, q))


def _split(jacobian: Floats) -> tuple[Floats, Floats] | None:
    """J = Q R, as Q and the inverse of R; None where columns depend on each other."""
    lengths = np.sqrt((jacobian**2).sum(axis=0))
    if not ((lengths > 0) & np.isfinite(lengths)).all():
        return None
    q, r = np.linalg.qr(jacobian / lengths)
    if np.abs(np.diagonal(r)).min() < 1e-10:
        return None
    return q, np.linalg.solve(r, np.eye(r.shape[0])) / lengths[:, None]


def _finite(values: Floats) -> Floats:
    """What overflows is very large, so that a step there is taken back."""
    if np.isfinite(values).all():
        return values
    return np.nan_to_num(values, nan=1e150, posinf=1e150, neginf=-1e150)

"""Two straight pieces that meet where they fit best."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.least_squares import Dependent, TooFewCases, fit
from theoros.verbs.model.curves.curve import CannotFit, Curve, Fitted, LinearFitted
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import rounded_place, slope_only, slope_words, x_text


def _basis(x: Floats, joint: float) -> Floats:
    return np.column_stack([np.ones(x.size), x, np.maximum(x - joint, 0.0)])


def _gains(x: Floats, y: Floats) -> Callable[[Floats], Floats]:
    """Of joints, shape (k,), how much the second piece takes from the sum of squares of a line.

    By the part of max(x − joint, 0) that 1 and x do not give (Frisch and Waugh 1933), from running
    sums over x in order: O(n log n) once, and O(k log n) for joints.
    """
    order = np.argsort(x)
    middle, spread = float(x.mean()), float(x.std())
    u = (x[order] - middle) / spread
    v = y[order] - y.mean()
    n = u.size
    left = v - u * float(u @ v) / n  # u has mean 0 and mean square 1

    def tail(values: Floats) -> Floats:
        return np.append(np.cumsum(values[::-1])[::-1], 0.0)

    count, one, two = tail(np.ones(n)), tail(u), tail(u * u)
    off, off_u = tail(left), tail(left * u)

    def gain(joints: Floats) -> Floats:
        c = (joints - middle) / spread
        at = np.searchsorted(u, c, side="right")
        total = one[at] - c * count[at]
        square = two[at] - 2 * c * one[at] + c * c * count[at]
        along = two[at] - c * one[at]
        own = square - total**2 / n - along**2 / n
        with np.errstate(all="ignore"):
            made = (off_u[at] - c * off[at]) ** 2 / own
        return np.where(own > 1e-9 * n, made, -1.0)

    return gain


def _crossings(x: Floats, y: Floats, levels: Floats) -> Floats:
    """Where the lines through all cases below and above each gap of x meet, if that is in the gap.

    The best joint is one of these, or a value of x (Hudson 1966).
    """
    order = np.argsort(x, kind="stable")
    middle, spread = float(x.mean()), float(x.std())
    u, v = (x[order] - middle) / spread, y[order] - y.mean()
    sums = [np.cumsum(one) for one in (np.ones(u.size), u, v, u * u, u * v)]
    ends = np.searchsorted(u, (levels - middle) / spread, side="right")[1:-2]
    if not ends.size:
        return np.empty(0)
    below = [one[ends - 1] for one in sums]
    above = [one[-1] - part for one, part in zip(sums, below, strict=True)]
    with np.errstate(all="ignore"):
        (a, b), (c, d) = _lines(*below), _lines(*above)
        at = (a - c) / (d - b)
    gaps = (levels - middle) / spread
    inside = np.isfinite(at) & (at > gaps[1:-2]) & (at < gaps[2:-1])
    return np.asarray(at[inside] * spread + middle)


def _lines(n: Floats, x: Floats, y: Floats, xx: Floats, xy: Floats) -> tuple[Floats, Floats]:
    """Intercepts and slopes from sums."""
    slope = (xy - x * y / n) / (xx - x * x / n)
    return (y - slope * x) / n, slope


def _settled(x: Floats, y: Floats, joint: float, low: float, high: float) -> float:
    """The joint by a few steps of Gauss and Newton, for the last digits (Muggeo 2003).

    At a case the sum of squares has a corner, which such a step would leave for a worse place.
    """
    if (x == joint).any():
        return joint
    for _ in range(3):
        design = np.column_stack([_basis(x, joint), -(x > joint).astype(np.float64)])
        try:
            b = fit(design, y).coefficients
        except (Dependent, TooFewCases):
            return joint
        moved = joint + float(b[3] / b[2]) if b[2] != 0 else joint
        first, last = min(joint, moved), max(joint, moved)
        if not low <= moved <= high or ((x > first) & (x < last)).any():
            return joint  # past a case it is another curve
        joint = moved
    return joint


@dataclass(frozen=True)
class TwoPieces(Curve):
    """The place of the joint is the fourth coefficient; bands take it as known."""

    def fit(self, x: Floats, y: Floats) -> Fitted:
        self.needs(x, y)
        levels = np.unique(x)
        if levels.size < 5:
            raise CannotFit("needs at least five different values of x")
        low, high = float(levels[1]), float(levels[-2])
        gain = _gains(x, y)
        tried = np.concatenate([levels[1:-1], _crossings(x, y, levels)])
        joint = float(tried[np.argmax(gain(tried))])
        joint = _settled(x, y, joint, low, high)
        try:
            found = fit(_basis(x, joint), y)
        except (Dependent, TooFewCases):
            raise CannotFit("needs more different values of x") from None
        coefficients = np.append(found.coefficients, joint)
        return _Joined(self, x, y, coefficients, found, lambda at: _basis(at, joint))


@dataclass(frozen=True, eq=False)
class _Joined(LinearFitted):
    @property
    def standard_errors(self) -> Floats | None:
        return np.append(self.linear.standard_errors, np.nan)


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """The slope of each piece, and where they meet."""
    low, high = float(f.x.min()), float(f.x.max())
    _, slope, change, joint = (float(c) for c in f.coefficients)
    first = slope_words(pairs, slope, low, high)
    after = slope_only(pairs, slope + change, low, high)
    place = x_text(pairs, rounded_place(f.x, joint))
    return f"Up to about {place}, {first[:1].lower()}{first[1:]}. Above {place}, it is {after}."


CURVES = (
    TwoPieces(
        "two pieces",
        "line of two pieces",
        "Two straight lines that meet.",
        4,
        45,
        "{0} + {1} x + {2} {{max}}(x − {3}, 0)",
        "{0} + {1}*x + {2}*max(x - {3}, 0)",
        ("intercept", "slope before", "change of slope", "where they meet"),
        says=_says,
        overall="approximate",
        how="The place where the pieces meet is the one that fits best. The bands treat it as known.",
    ),
)

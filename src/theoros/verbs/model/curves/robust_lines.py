"""Lines that are not fitted by least squares: Theil and Sen's, and a smooth one for looking."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.smooth import lowess, theil_sen
from theoros.verbs.model.curves.curve import CannotFit, Curve, Fitted
from theoros.verbs.model.curves.straight_lines import slope_says

MOST_PAIRS = 3000
"""Of more pairs the slopes of all pairs of them take too long."""


@dataclass(frozen=True)
class TheilSen(Curve):
    def fit(self, x: Floats, y: Floats) -> Fitted:
        self.needs(x, y)
        if x.size > MOST_PAIRS:
            raise CannotFit(f"can be calculated for up to {MOST_PAIRS} pairs")
        slope, intercept = theil_sen(x, y)
        return _Straight(self, x, y, np.array([intercept, slope]))


@dataclass(frozen=True, eq=False)
class _Straight(Fitted):
    def predict(self, at: Floats) -> Floats:
        return np.asarray(self.coefficients[0] + self.coefficients[1] * at)


@dataclass(frozen=True)
class Smooth(Curve):
    def fit(self, x: Floats, y: Floats) -> Fitted:
        if x.size < 5 or np.unique(x).size < 4:
            raise CannotFit("needs more different values of x")
        places, heights = lowess(x, y)
        return _Followed(self, x, y, np.zeros(0), places, heights)


@dataclass(frozen=True, eq=False)
class _Followed(Fitted):
    places: Floats
    heights: Floats

    def predict(self, at: Floats) -> Floats:
        made = np.interp(at, self.places, self.heights)
        beyond = (at < self.places[0]) | (at > self.places[-1])
        return np.where(beyond, np.nan, made)

    @property
    def terms(self) -> int:
        return 5
        """About what it takes, with two thirds of the cases at a place."""


CURVES = (
    TheilSen(
        "robust", "robust line", "The median slope of all pairs of rows; unusual rows have little influence.",
        2, 70, "{0} + {1} x", "{0} + {1}*x", ("intercept", "slope"), suggests=False,
        says=slope_says, overall="none", least_squares=False,
        how="It is the line of Theil and Sen, not a least-squares line, so unusual rows have little influence. It "
            "has no bands here.",
    ),
    Smooth(
        "smooth", "smooth line", "Follows the data to show their shape; it has no equation.", 0, 80, "",
        "", suggests=False, overall="none", least_squares=False,
        how="It is a local line (lowess, with two thirds of the cases at each place). It shows the shape only: it "
            "has no equation and no predictions outside the data.",
    ),
)  # fmt: skip

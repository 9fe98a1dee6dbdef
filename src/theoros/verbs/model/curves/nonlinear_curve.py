"""Curves that are nonlinear in their coefficients: searched, fitted on a scale of their own, and put back."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from theoros.answer.wording import exact
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.numeric.regression.nonlinear import DoesNotSettle, Gradient, fit_curve
from theoros.numeric.regression.nonlinear import Function as Shape
from theoros.verbs.model.curves.curve import CannotFit, Curve, Fitted, Overall, over_name
from theoros.verbs.model.curves.working_scale import WorkingScale, shifted_scale

PutBack = Callable[["np.ndarray[Any, Any]", WorkingScale], "np.ndarray[Any, Any]"]
"""From coefficients on a working scale to those of x itself (of real or complex numbers)."""
_STEP = 1e-30


def _sensitivity(put_back: PutBack, coefficients: Floats, scale: WorkingScale) -> Floats:
    """The derivatives of what is put back, by steps along the imaginary axis, exact but for rounding."""
    columns = []
    for at in range(coefficients.size):
        moved = coefficients.astype(np.complex128)
        moved[at] += 1j * _STEP
        columns.append(np.imag(put_back(moved, scale)) / _STEP)
    return np.column_stack(columns)


@dataclass(frozen=True, eq=False)
class NonlinearFitted(Fitted):
    """Nonlinear in its coefficients; bands by the linear picture of it near the fit."""

    shape: Shape
    gradient: Gradient
    inverse: Floats
    own_leverage: Floats
    scale: WorkingScale
    working: Floats
    """The coefficients on the working scale, which is what is predicted by."""
    own: Floats
    """The derivatives of the coefficients by those on the working scale."""
    counted_from: float | None = None
    """From where x is counted in the equation, where its coefficients would be beyond all numbers else."""

    @property
    def form(self) -> str:
        return self._moved(self.curve.form)

    @property
    def plain(self) -> str:
        return self._moved(self.curve.plain, plain=True)

    @property
    def meanings(self) -> tuple[str, ...]:
        if self.counted_from is None:
            return self.curve.meanings
        return tuple(re.sub(r"x = \d+", f"x = {exact(self.counted_from)}", one) for one in self.curve.meanings)

    def _moved(self, form: str, *, plain: bool = False) -> str:
        if self.counted_from is None:
            return form
        at = repr(self.counted_from) if plain else exact(self.counted_from)
        minus, over = (" - ", "/") if plain else (" − ", "/")
        said = f"(x{over}{at})" if self.curve.positive_x else f"(x{minus}{at})"  # type: ignore[attr-defined]
        return over_name(form, said)

    def predict(self, at: Floats) -> Floats:
        with np.errstate(all="ignore"):
            return self.shape(self.scale.of(at), self.working)

    def band(self, at: Floats, confidence: float, *, single: bool) -> tuple[Floats, Floats] | None:
        if self.df < 1:
            return None
        with np.errstate(all="ignore"):
            slopes = self.gradient(self.scale.of(at), self.working)
        spread = np.sqrt(((slopes @ self.inverse) ** 2).sum(axis=1))
        if single:
            spread = np.sqrt(1 + spread**2)
        reach = StudentT(self.df).critical(1 - confidence, "different") * self.sigma
        middle = self.predict(at)
        return middle - reach * spread, middle + reach * spread

    @property
    def standard_errors(self) -> Floats | None:
        return np.asarray(self.sigma * np.sqrt(((self.own @ self.inverse) ** 2).sum(axis=1)))

    @property
    def leverage(self) -> Floats | None:
        return self.own_leverage


@dataclass(frozen=True)
class NonlinearCurve(Curve):
    """Fitted by least squares in the scale of y, from starts of its own."""

    shape: Shape = field(default=lambda x, b: x)
    """Of x on its working scale, as `gradient` and `starts`."""
    gradient: Gradient = field(default=lambda x, b: x)
    starts: Callable[[Floats, Floats], tuple[Sequence[Floats], bool]] = field(default=lambda x, y: ((), False))
    """Where descents begin, and whether the best of a search lies at its end, as a curve that runs away does."""
    put_back: PutBack = field(default=lambda b, scale: b)
    scale: Callable[[Floats], WorkingScale] = shifted_scale
    runs_away: str = "does not settle on one curve"
    """What is said where it does not settle: what it comes to."""
    limit: Callable[[Floats, Floats], float] = field(default=lambda x, y: np.inf)
    """The least sum of squares of what it comes to, for x on its working scale; infinity where `starts` tell."""
    flat_limit: bool = True
    """Whether a level line is a limit of it, so that it can be no worse than that."""
    positive_x: bool = False
    overall: Overall = "approximate"
    senseless: Callable[[Floats], str] = field(default=lambda b: "")
    """Why coefficients that were found make no such curve, as a clause; empty where they do."""

    def _least(self, u: Floats, y: Floats, starts: Sequence[Floats]) -> float:
        """The least sum of squares among the starts."""
        with np.errstate(all="ignore"):
            return min(float(((self.shape(u, one) - y) ** 2).sum()) for one in starts)

    def fit(self, x: Floats, y: Floats) -> Fitted:
        self.needs(x, y)
        if self.positive_x and not (x > 0).all():
            raise CannotFit("needs x above 0")
        scale = self.scale(x)
        u = scale.of(x)
        starts, at_end = self.starts(u, y)
        try:
            found = fit_curve(self.shape, self.gradient, u, y, starts)
        except DoesNotSettle:
            at_end = at_end or self.limit(u, y) <= self._least(u, y, starts) * (1 + 1e-6)
            raise CannotFit(self.runs_away if at_end else "was not found by any of many starts") from None
        comes_to = min(self.limit(u, y), self._least(u, y, starts) if at_end else np.inf)
        if found.rss > comes_to * (1 + 1e-6):  # a dip on the way to what it comes to
            raise CannotFit(self.runs_away)
        if self.flat_limit and found.rss > sum_of_squares(y) * (1 + 1e-9):
            raise CannotFit("fits no better than a level line")
        with np.errstate(all="ignore"):
            coefficients, counted_from = self.put_back(found.coefficients, scale), None
        if why := self.senseless(coefficients):
            raise CannotFit(why)
        told = scale
        if not _tellable(coefficients, y):  # as 10⁻⁶⁰⁰ at x = 0, of years: x is counted from its middle
            told = WorkingScale(0.0, scale.unit if scale.middle else 1.0)
            coefficients = self.put_back(found.coefficients, told)
            counted_from = scale.middle or scale.unit
        return NonlinearFitted(
            self,
            x,
            y,
            coefficients,
            self.shape,
            self.gradient,
            found.inverse,
            found.leverage,
            scale,
            found.coefficients,
            _sensitivity(self.put_back, found.coefficients, told),
            counted_from,
        )


def _tellable(coefficients: Floats, y: Floats) -> bool:
    """Whether its first coefficient, a height or a level, is a number that says something beside y."""
    size, height = float(np.abs(y).max()), abs(float(coefficients[0]))
    return bool(np.isfinite(coefficients).all()) and 1e-9 * size < height < 1e9 * size

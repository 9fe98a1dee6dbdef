"""What a curve is: how it is fitted, written, and what it predicts.

A new one is a module of this package that lists it in `CURVES`.
"""

from __future__ import annotations

import math
import re
from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache, cached_property
from typing import Literal

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.nouns import with_article
from theoros.answer.parts import Step
from theoros.answer.wording import significant
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.diagnostics import corrected_aic
from theoros.numeric.regression.least_squares import Dependent, LinearFit, TooFewCases, sum_of_squares
from theoros.numeric.regression.least_squares import fit as least_squares
from theoros.plugins import listed_in
from theoros.verbs.model.curves.working_scale import expanded, shifted_scale
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import share_text


class CannotFit(ValueError):
    """Why a curve cannot go through these pairs, as a clause."""


@dataclass(frozen=True, eq=False)
class Fitted(ABC):
    """A curve through pairs, all in the units of y."""

    curve: Curve
    x: Floats
    y: Floats
    coefficients: Floats

    @abstractmethod
    def predict(self, at: Floats) -> Floats: ...

    def band(self, at: Floats, confidence: float, *, single: bool) -> tuple[Floats, Floats] | None:
        """Ends for the mean at x, or for a single case there; None where there are none."""
        return None

    @property
    def n(self) -> int:
        return int(self.y.size)

    @property
    def form(self) -> str:
        """Its equation with places for the coefficients, in the notation of formulas."""
        return self.curve.form

    @property
    def plain(self) -> str:
        """The same as a formula of a table."""
        return self.curve.plain

    @property
    def meanings(self) -> tuple[str, ...]:
        """What each coefficient is called."""
        return self.curve.meanings

    @property
    def terms(self) -> int:
        return self.curve.terms or int(self.coefficients.size)

    @property
    def df(self) -> int:
        return self.n - self.terms

    @cached_property
    def fitted(self) -> Floats:
        return self.predict(self.x)

    @cached_property
    def residuals(self) -> Floats:
        return np.asarray(self.y - self.fitted)

    @cached_property
    def rss(self) -> float:
        return float(self.residuals @ self.residuals)

    @property
    def sigma(self) -> float:
        """The residual standard deviation."""
        return math.sqrt(self.rss / self.df) if self.df > 0 else math.nan

    @cached_property
    def r_squared(self) -> float:
        """R² in the scale of y: what part of the variation about the mean is taken away."""
        total = sum_of_squares(self.y)
        return 1 - self.rss / total if total > 0 else math.nan

    @cached_property
    def aicc(self) -> float:
        return corrected_aic(self.rss, self.n, self.terms)

    @property
    def standard_errors(self) -> Floats | None:
        """Standard errors of the coefficients."""
        return None

    @property
    def leverage(self) -> Floats | None:
        return None

    def interval(self, at: int, confidence: float) -> tuple[float, float] | None:
        """Of a coefficient."""
        if self.standard_errors is None or self.df < 1:
            return None
        reach = StudentT(self.df).critical(1 - confidence, "different") * float(self.standard_errors[at])
        value = float(self.coefficients[at])
        return value - reach, value + reach

    @property
    def perfect(self) -> bool:
        """Whether the pairs lie on it but for rounding."""
        return self.rss <= 1e-22 * max(float(self.y @ self.y), 1e-300)


@dataclass(frozen=True, eq=False)
class LinearFitted(Fitted):
    """Linear in its coefficients, perhaps for another scale of y (`out` leads back from it)."""

    linear: LinearFit
    """On the working scale, where there is one."""
    basis: Callable[[Floats], Floats]
    """The rows of its design at places along x."""
    out: Callable[[Floats], Floats] | None = None
    put_back: Floats | None = None
    """From coefficients on a working scale to those of x; shape (p, p)."""

    def predict(self, at: Floats) -> Floats:
        with np.errstate(divide="ignore", invalid="ignore"):  # where it has no value, such as a logarithm below 0
            made = self.basis(at) @ self.linear.coefficients
        return self.out(made) if self.out is not None else np.asarray(made)

    def band(self, at: Floats, confidence: float, *, single: bool) -> tuple[Floats, Floats] | None:
        if self.linear.df < 1:
            return None
        rows = self.basis(at)
        spread = self.linear.spread(rows)
        if single:
            spread = np.sqrt(1 + spread**2)
        reach = StudentT(self.linear.df).critical(1 - confidence, "different")
        middle = rows @ self.linear.coefficients
        off = reach * self.linear.sigma * spread
        low, high = middle - off, middle + off
        return (self.out(low), self.out(high)) if self.out is not None else (low, high)

    @property
    def standard_errors(self) -> Floats | None:
        if not self.linear.df > 0:
            return None
        if self.put_back is None:
            return self.linear.standard_errors
        return np.asarray(self.linear.sigma * np.sqrt(((self.put_back @ self.linear.inverse) ** 2).sum(axis=1)))

    @property
    def leverage(self) -> Floats | None:
        return self.linear.leverage


Overall = Literal["exact", "approximate", "none"]
Headline = Callable[[ModelPairs, Fitted], str]


def say_nothing(pairs: ModelPairs, f: Fitted) -> str:
    """Nothing besides how much a curve explains."""
    return ""


@dataclass(frozen=True)
class Curve(ABC):
    """A kind of curve: how it is fitted, written, said and worked out."""

    name: str
    label: str
    """As it stands in the sentence: "straight line"."""
    help: str
    terms: int
    """Coefficients; 0 where that depends."""
    order: int
    form: str
    """Its equation in the notation of formulas, with the coefficients as {0}, {1}."""
    plain: str
    """The same as a formula of a table or a spreadsheet, over x."""
    meanings: tuple[str, ...] = ()
    """What each coefficient is called."""
    how: str = ""
    """How it is fitted, as a sentence, where that must be said."""
    article: str = "a"
    suggests: bool = True
    """Whether it stands beside the others and may be suggested, rather than only chosen."""
    short: str = ""
    """What it is called in the sentence and in lists, where that is not its label."""
    says: Headline = say_nothing
    """What it says in the units of both, as a sentence; empty where there is nothing but how much it explains."""
    overall: Overall = "exact"
    """How well an F of the whole curve against a constant holds."""
    least_squares: bool = True
    """Whether it is fitted by least squares, so that spread and normality of residuals matter."""
    tries_logs: bool = False
    """Whether a curve by logs is worth a try where the spread is uneven."""
    of_degree: Callable[[int], Curve] | None = None
    """The curve of another degree, where there is one to choose."""

    @property
    def listed(self) -> str:
        """In the sentence and in lists: "polynomial"."""
        return self.short or self.label

    @property
    def is_line(self) -> bool:
        """Whether it is a straight line, of whatever fit."""
        return "slope" in self.meanings

    @property
    def has_intercept(self) -> bool:
        """Whether it is a straight line of an intercept and a slope, in that order."""
        return self.meanings == ("intercept", "slope")

    @property
    def regression_line(self) -> bool:
        """Whether r, a test of the slope and a comparison of slopes belong to it."""
        return self.is_line and self.has_intercept and self.least_squares

    @property
    def predicts_median(self) -> bool:
        """Whether what it predicts is a median rather than a mean, being turned back from logs."""
        return False

    def told(self, pairs: ModelPairs, f: Fitted) -> str:
        """What it says, in the units of both."""
        said = self.says(pairs, f)
        if said:
            return said
        article = with_article(self.label)
        explains = f"explains {share_text(f.r_squared)} of the variation of {pairs.response.name}"
        return f"{article[:1].upper()}{article[1:]} in {pairs.predictor.name} {explains}."

    def worked_out(self, pairs: ModelPairs, f: Fitted) -> list[Step]:
        """How its coefficients come about, for the working."""
        text = equation(f)
        if not text:
            return []
        lines: list[str | Formula] = [formula(text)]
        if self.how:
            lines.append(self.how)
        return [Step("Equation", tuple(lines))]

    def test_worked_out(self, f: Fitted) -> list[Formula]:
        """Lines that follow its R² in the working."""
        return []

    def prediction_worked_out(self, pairs: ModelPairs, f: Fitted, at: float, confidence: float) -> list[Step]:
        """How a prediction comes about, where that can be put on a board."""
        return []

    @abstractmethod
    def fit(self, x: Floats, y: Floats) -> Fitted:
        """Through pairs, shape (n,) each, finite, x with two values at least. Raises CannotFit."""

    def needs(self, x: Floats, y: Floats) -> None:
        """Raises CannotFit where there are too few pairs, or they lie where it cannot be."""
        least = max(2, self.terms + 1)
        if x.size < least:
            raise CannotFit(f"needs at least {least} pairs")
        levels = max(2, self.terms)
        if np.ptp(x) == 0 or (levels > 2 and np.unique(x).size < levels):
            raise CannotFit("needs more different values of x")


@dataclass(frozen=True)
class LinearCurve(Curve):
    """Linear in its coefficients."""

    basis: Callable[[Floats], Floats] = field(default=lambda x: np.ones((x.size, 1)))
    positive_x: bool = False
    not_zero: bool = False
    logs: bool = False
    """Whether the logarithm of y is what is fitted."""
    degree: int = 0
    """Of a polynomial, which is fitted about the middle of x and put back; 0 for any other."""
    live: tuple[str, ...] = ()
    """Its terms but the constant as formulas of a table, with the predictor as {x}."""

    @property
    def predicts_median(self) -> bool:
        return self.logs

    def fit(self, x: Floats, y: Floats) -> Fitted:
        self.needs(x, y)
        if self.positive_x and not (x > 0).all():
            raise CannotFit("needs x above 0")
        if self.not_zero and (x == 0).any():
            raise CannotFit("cannot use x = 0")
        if self.logs and not (y > 0).all():
            raise CannotFit("uses the logarithm of y, so y must be above 0")
        if self.degree > 1:
            return self._about_the_middle(x, y)
        try:
            found = least_squares(self.basis(x), np.log(y) if self.logs else y)
        except (Dependent, TooFewCases):
            raise CannotFit("needs more different values of x") from None
        return LinearFitted(self, x, y, found.coefficients, found, self.basis, np.exp if self.logs else None)

    def _about_the_middle(self, x: Floats, y: Floats) -> Fitted:
        """Powers of x − m over half the range do not depend on each other, wherever x lies."""
        scale = shifted_scale(x)

        def rows(at: Floats) -> Floats:
            return self.basis(scale.of(at))

        try:
            found = least_squares(rows(x), y)
        except (Dependent, TooFewCases):
            raise CannotFit("needs more different values of x") from None
        back = expanded(self.degree, scale)
        return LinearFitted(self, x, y, back @ found.coefficients, found, rows, None, back)


@cache
def curves() -> Mapping[str, Curve]:
    """The curves by name, simpler ones first."""
    return {one.name: one for one in listed_in("theoros.verbs.model.curves", "CURVES")}


def coefficient(value: float) -> str:
    """A coefficient with four figures, as it stands in an equation."""
    return significant(value, 4)


def equation(fitted: Fitted, left: str = "ŷ") -> str:
    """In the notation of formulas: "ŷ = −7.9 + 0.418 x"; empty where it has none."""
    form = fitted.form
    if not form:
        return ""
    made = form.format(*(coefficient(float(c)) for c in fitted.coefficients))
    return f"{left} = {tidy(made)}"


def plain_equation(fitted: Fitted, name: str) -> str:
    """As a formula of a table or a spreadsheet, in full digits, over what x is called."""
    form = fitted.plain
    if not form:
        return ""
    made = form.format(*(repr(float(c)) for c in fitted.coefficients))
    made = made.replace("+ -", "- ").replace("- -", "+ ")
    return over_name(made, name)


def over_name(text: str, name: str) -> str:
    """With x by another name, but within words such as max or exp."""
    return re.sub(r"(?<![A-Za-z])x(?![A-Za-z])", lambda _: name, text)


def tidy(text: str) -> str:
    """Signs that follow each other as one, and no term that is 0."""
    text = text.replace("+ −", "− ").replace("− −", "+ ")
    return re.sub(r" [+−] 0 x(?:\^\{\d+\})?", "", text)

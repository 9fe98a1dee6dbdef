"""The fit of a probability, how it classes at a cut-off, and how well it tells cases apart."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.regression.least_squares import Dependent, TooFewCases
from theoros.numeric.regression.logistic import LogisticFit, RocCurve, Separated, fit_logistic, roc_curve
from theoros.verbs.model.multiple.data import Design


@dataclass(frozen=True)
class Classed:
    """Cases classed by a cut-off, against what they are."""

    hits: int
    misses: int
    """Cases with the outcome that are classed as without it."""
    false_alarms: int
    rejections: int

    @property
    def right(self) -> float:
        """The share that is classed rightly."""
        return (self.hits + self.rejections) / self.total

    @property
    def total(self) -> int:
        return self.hits + self.misses + self.false_alarms + self.rejections

    @property
    def sensitivity(self) -> float:
        return self.hits / (self.hits + self.misses)

    @property
    def specificity(self) -> float:
        return self.rejections / (self.rejections + self.false_alarms)


@dataclass(frozen=True, eq=False)
class FittedOutcome:
    """A fitted probability with the cases that it is of."""

    design: Design
    outcome: Bools
    fit: LogisticFit

    @property
    def n(self) -> int:
        return int(self.outcome.size)

    @property
    def events(self) -> int:
        return int(self.outcome.sum())

    @property
    def terms(self) -> int:
        return int(self.fit.coefficients.size)

    @cached_property
    def p(self) -> float:
        """Of the whole model against one probability for all."""
        return float(ChiSquare(self.terms - 1).sf(self.fit.gain))

    @cached_property
    def r_squared(self) -> float:
        """McFadden's R²: 1 - log-likelihood over that of one probability for all."""
        return 1 - self.fit.log_likelihood / self.fit.null

    @cached_property
    def aicc(self) -> float:
        k = self.terms
        if self.n - k - 1 <= 0:
            return math.nan
        return -2 * self.fit.log_likelihood + 2 * k + 2 * k * (k + 1) / (self.n - k - 1)

    @cached_property
    def roc(self) -> RocCurve:
        return roc_curve(self.fit.probabilities, self.outcome)

    def p_of(self, at: int) -> float:
        """Of a coefficient, by its standard error (Wald)."""
        z = float(self.fit.coefficients[at] / self.fit.standard_errors[at])
        return float(2 * Normal().sf(abs(z)))

    def ratio(self, at: int, confidence: float, step: float = 1.0) -> tuple[float, float, float]:
        """The odds ratio for a step of a term, and the ends of its interval."""
        z = Normal().critical(1 - confidence, "different")
        b, error = float(self.fit.coefficients[at]) * step, float(self.fit.standard_errors[at]) * abs(step)
        low, middle, high = (min(700.0, max(-700.0, v)) for v in (b - z * error, b, b + z * error))
        return math.exp(middle), math.exp(low), math.exp(high)

    def probability(self, rows: Floats, confidence: float) -> tuple[Floats, Floats, Floats]:
        """At rows of the design, with the ends of its interval (by the log odds)."""
        from scipy.special import expit

        eta = rows @ self.fit.coefficients
        off = Normal().critical(1 - confidence, "different") * self.fit.spread(rows)
        return np.asarray(expit(eta)), np.asarray(expit(eta - off)), np.asarray(expit(eta + off))

    def classed(self, cut: float) -> Classed:
        """Cases whose probability is at the cut-off or above are classed as having the outcome."""
        said = self.fit.probabilities >= cut
        return Classed(
            int((said & self.outcome).sum()),
            int((~said & self.outcome).sum()),
            int((said & ~self.outcome).sum()),
            int((~said & ~self.outcome).sum()),
        )

    @cached_property
    def bend(self) -> float | None:
        """The p-value of a square of the log odds beside them (Pregibon 1980)."""
        eta = self.design.matrix @ self.fit.coefficients
        spread = float(np.ptp(eta))
        if spread <= 0:
            return None
        z = (eta - eta.mean()) / spread
        try:
            wider = fit_logistic(np.column_stack([np.ones(self.n), z, z**2]), self.outcome)
        except (Dependent, TooFewCases, Separated):
            return None
        return float(ChiSquare(1).sf(max(0.0, 2 * (wider.log_likelihood - self.fit.log_likelihood))))

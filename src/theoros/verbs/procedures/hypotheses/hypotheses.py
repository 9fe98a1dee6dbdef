"""What a claim is in words: hypotheses, decision, conclusion, whatever it is about."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.wording import exact, p_equals, p_value, percent_text, significant
from theoros.numeric.arrays import Alternative
from theoros.numeric.levels import at_most, below

if TYPE_CHECKING:
    from theoros.answer.parts import Symbol
    from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.parameters.parameter import Parameter

SAME = 1e-12
"""p and α closer than this differ by rounding alone."""


@dataclass(frozen=True)
class Evidence:
    """A p-value with how far it can be relied on."""

    p: float
    least: float = 0.0
    """The smallest p-value there could have been: where that is above α, nothing can be decided."""
    too_few: str = "values"
    """What there is too little of then: "100 shuffles"."""
    margin: float = 0.0
    """Of a simulated p-value: in 95 of 100 simulations it lies so close to the p of endlessly many."""
    exact: float | None = None
    """The p of endlessly many, where their law is known: it decides."""

    @property
    def decides(self) -> float:
        """The p-value that is set against α."""
        return self.p if self.exact is None else self.exact

    def out_of_reach(self, alpha: float) -> bool:
        """Whether no p-value could have been as low as α."""
        return self.exact is None and self.least > alpha + SAME

    def too_close(self, alpha: float) -> bool:
        """Whether a simulated p-value lies so close to α that another seed could decide otherwise."""
        return self.exact is None and self.margin > 0 and abs(self.p - alpha) <= self.margin

    def undecided(self, alpha: float) -> bool:
        """Whether more has to be drawn, or seen, before anything can be said."""
        return math.isnan(self.decides) or self.out_of_reach(alpha) or self.too_close(alpha)

    def rejects(self, alpha: float) -> bool:
        """Whether H0 is rejected: the rule taught is that p is at most α."""
        return not self.undecided(alpha) and at_most(self.decides, alpha + SAME)

    def decision(self, alpha: float) -> str:
        """The p-value beside α, and what follows for H0."""
        if math.isnan(self.decides):
            return f"So few {self.too_few} give no p-value: no decision."
        said, level = p_equals(self.decides, apart_from=alpha), exact(alpha)
        if self.exact is not None:
            said += f" by the exact law (simulated: {p_value(self.p)})"
        if self.out_of_reach(alpha):
            reached = p_value(self.least)
            return f"{said}. No decision at α = {level}: with so few {self.too_few} p cannot be below {reached}."
        if self.too_close(alpha):
            return (
                f"{said}, give or take {significant(self.margin, 2)}. No decision at α = {level}: with so few "
                f"{self.too_few} p may lie on either side of it."
            )
        if abs(self.decides - alpha) <= SAME:
            return f"{said} is equal to α = {level}. Reject H_{{0}}."
        if below(self.decides, alpha):
            return f"{said} is below α = {level}. Reject H_{{0}}."
        return f"{said} is above α = {level}. Do not reject H_{{0}}."

    def conclusion(self, alpha: float, claim: str) -> str:
        """What follows for a claim, as a sentence."""
        if self.undecided(alpha):
            return f"It cannot be told yet whether {claim}. More {self.too_few} would be needed."
        enough = "enough" if self.rejects(alpha) else "not enough"
        return f"There is {enough} evidence, at the {percent_text(alpha)} significance level, that {claim}."


@dataclass(frozen=True)
class Claim(ABC):
    """All that is needed to say a claim and what became of it."""

    data: Observation
    """A value of `verbs.data`."""
    parameter: Parameter
    alternative: Alternative
    null: float
    alpha: float
    bounded: bool = False
    """Whether H0 of a one-sided claim is written with ≤ or ≥, as some courses do."""

    def errors(self) -> tuple[str, ...]:
        """What could be wrong with the decision, in the words of the question."""
        claim = self.sentence()
        return (
            f"An error of type I would be to find that {claim}, although H_{{0}} is true. Where it "
            f"is, that happens in at most {self.alpha_text} of such tests.",
            f"An error of type II would be not to find it although {claim}.",
        )

    @property
    def compares(self) -> bool:
        """Whether there are two sides, rather than one that is set against a value."""
        return False

    @property
    def against(self) -> bool:
        """Whether the sample leans against a one-sided claim."""
        return False

    @abstractmethod
    def symbols(self) -> tuple[Symbol, ...]:
        """H0, H1, and what is to be said beside them."""

    @abstractmethod
    def meaning(self) -> str:
        """What the letters of the hypotheses stand for, as a sentence."""

    @abstractmethod
    def sentence(self) -> str:
        """The claim as a clause: "the mean moisture loss of slow trays is greater than …"."""

    @abstractmethod
    def observed(self) -> str:
        """What the sample shows of it: "a mean of 35.2 %"."""

    @abstractmethod
    def not_shown(self) -> str:
        """What a test that does not reject leaves open."""

    @property
    def alpha_text(self) -> str:
        return percent_text(self.alpha)

    def decision(self, found: Evidence) -> str:
        """The p-value beside α, and what follows for H0."""
        return found.decision(self.alpha)

    def shown(self, found: Evidence) -> bool:
        """Whether H0 is rejected."""
        return found.rejects(self.alpha)

    def in_population(self) -> str:
        """What is so where the rows are all there are."""
        return f"The table is the whole population, so there is nothing to test: {self.observed()}."

    def conclusion(self, found: Evidence) -> str:
        """The conclusion in context, in words that claim no more than was shown."""
        return found.conclusion(self.alpha, self.sentence())

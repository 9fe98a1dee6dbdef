"""What a claim is in words: hypotheses, decision, conclusion, whatever it is about."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.wording import exact, p_equals, p_value, percent_text
from theoros.numeric.arrays import Alternative

if TYPE_CHECKING:
    from theoros.answer.parts import Symbol
    from theoros.verbs.data.observed_counts import Observation
    from theoros.verbs.procedures.procedure import Result
from theoros.verbs.parameters.parameter import Parameter

SAME = 1e-12
"""p and α closer than this differ by rounding alone."""


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

    def decision(self, p: float, least: float = 0.0, too_few: str = "values") -> str:
        """The p-value beside α, and what follows for H0.

        `least` is the smallest p-value there could have been: where that is above α, there were
        too few of something to decide.
        """
        said, alpha = p_equals(p, apart_from=self.alpha), exact(self.alpha)
        if self.out_of_reach(least):
            return f"{said}. No decision at α = {alpha}: with so few {too_few} p cannot be below {p_value(least)}."
        if abs(p - self.alpha) <= SAME:
            return f"{said} is equal to α = {alpha}. Reject H_{{0}}."
        if p < self.alpha:
            return f"{said} is below α = {alpha}. Reject H_{{0}}."
        return f"{said} is above α = {alpha}. Do not reject H_{{0}}."

    def out_of_reach(self, least: float) -> bool:
        """Whether no p-value could have been as low as α."""
        return least > self.alpha + SAME

    def rejected(self, p: float) -> bool:
        """The rule taught: reject when p is at most α."""
        return p <= self.alpha + SAME

    def shown(self, result: Result) -> bool:
        """Whether a result rejects H0, where it could have."""
        return self.rejected(result.p or 0.0) and not self.out_of_reach(result.least_p)

    def in_population(self) -> str:
        """What is so where the rows are all there are."""
        return f"The table is the whole population, so there is nothing to test: {self.observed()}."

    def conclusion(self, p: float, least: float = 0.0, too_few: str = "values") -> str:
        """The conclusion in context, in words that claim no more than was shown."""
        if self.out_of_reach(least):
            return f"It cannot be told yet whether {self.sentence()}. More {too_few} would be needed."
        enough = "enough" if self.rejected(p) else "not enough"
        return f"There is {enough} evidence, at the {self.alpha_text} significance level, that {self.sentence()}."

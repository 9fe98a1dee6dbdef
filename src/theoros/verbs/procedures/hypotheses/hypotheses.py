"""What a claim is in words: hypotheses, decision, conclusion, whatever it is about."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.wording import percent_text
from theoros.numeric.arrays import Alternative
from theoros.verbs.core.verdict import Evidence

if TYPE_CHECKING:
    from theoros.answer.parts import Symbol
    from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.parameters.parameter import Parameter


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
            f"A type I error would be to conclude that {claim}, although H_{{0}} is true. If H_{{0}} is true, this "
            f"happens in at most {self.alpha_text} of such tests.",
            f"A type II error would be to miss it although {claim}.",
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

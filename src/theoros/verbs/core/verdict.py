"""What a result comes to, in one place: whether something is shown, how rare it is, what follows for a claim.

Words such as "enough evidence", "not shown" and "rare", and marks beside conditions, come from here, so that no
two sentences of an answer can be at odds.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.wording import exact, p_equals, p_value, percent_text, significant
from theoros.numeric.levels import at_most, below

USUAL_ALPHA = 0.05
"""The significance level where a statement asks for none."""
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
        if "<" in said or ">" in said:  # "p < 0.0001, which is below α"
            said += ", which"
        if below(self.decides, alpha):
            return f"{said} is below α = {level}. Reject H_{{0}}."
        return f"{said} is above α = {level}. Do not reject H_{{0}}."

    def conclusion(self, alpha: float, claim: str) -> str:
        """What follows for a claim, as a sentence."""
        if self.undecided(alpha):
            return f"It cannot be decided yet whether {claim}. More {self.too_few} are needed."
        enough = "enough" if self.rejects(alpha) else "not enough"
        return f"There is {enough} evidence, at the {percent_text(alpha)} significance level, that {claim}."


def shown(p: float, alpha: float = USUAL_ALPHA) -> bool:
    """Whether a p-value shows what was looked for: the rule taught is that p is at most α.

    Raises ValueError where p is NaN: that too few cases give no p-value is said before.
    """
    return at_most(p, alpha + SAME)


def contains(interval: tuple[float, float], value: float) -> bool:
    """Whether a value is plausible beside an interval: its ends are in it."""
    low, high = interval
    return low <= value <= high


def rarity(share: float) -> str:
    """How rare a result with such a probability is, in a word; nothing where a word says no more than the number."""
    if share >= 0.1:
        return "not rare"
    if share >= USUAL_ALPHA:
        return "fairly rare"
    return "rare" if share >= 0.01 else "very rare"

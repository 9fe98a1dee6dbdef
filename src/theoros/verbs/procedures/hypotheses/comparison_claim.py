"""A claim that sets one side against a value, or two sides against each other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.wording import difference_unit, exact, number, with_unit
from theoros.numeric.arrays import Alternative
from theoros.verbs.data.number_pairs import Associated
from theoros.verbs.data.samples import Observed, Paired
from theoros.verbs.procedures.hypotheses.hypotheses import Claim

if TYPE_CHECKING:
    from theoros.answer.parts import Symbol

SIGNS: dict[Alternative, str] = {"less": "<", "greater": ">", "different": "≠"}
WORDS: dict[Alternative, str] = {"less": "less than", "greater": "greater than", "different": "different from"}


@dataclass(frozen=True)
class ComparisonClaim(Claim):
    data: Observed

    @property
    def gap_unit(self) -> str:
        """The unit of a difference: a difference of percentages is in percentage points."""
        if not self.parameter.in_units:
            return ""
        single = not self.compares and not isinstance(self.data, Paired)
        return self.data.unit if single else difference_unit(self.data.unit)

    @property
    def null_text(self) -> str:
        return with_unit(exact(self.null), self.gap_unit)

    @property
    def compares(self) -> bool:
        """Whether there are two sides, rather than one that is set against a value."""
        return len(self.data.letters) == 2

    def hypothesis(self, sign: str) -> str:
        """ "μ_{slow} = μ_{quick}", or with a difference on one side of the sign."""
        letters = self.parameter.letters(self.data)
        if not self.compares:
            return f"{letters[0]} {sign} {exact(self.null)}"
        if self.null == 0:
            return f"{letters[0]} {sign} {letters[1]}"
        return f"{letters[0]} − {letters[1]} {sign} {exact(self.null)}"

    def symbols(self) -> tuple[Symbol, ...]:
        """H0, H1, which way the sample leans, and what the letter stands for."""
        from theoros.answer.parts import Symbol

        of = " of the differences in the population" if isinstance(self.data, Paired) else " of the population"
        if isinstance(self.data, Associated):
            of = " in the population"
        return (
            Symbol(f"H_{{0}}: {self.hypothesis(self._null_sign)}"),
            Symbol(f"H_{{1}}: {self.hypothesis(SIGNS[self.alternative])}"),
            self.lean(),
            Symbol(f"{self.parameter.symbol}: {self.parameter.name}{of}", "mute"),
        )

    @property
    def _null_sign(self) -> str:
        if not self.bounded:
            return "="
        return {"less": "≥", "greater": "≤", "different": "="}[self.alternative]

    def lean(self) -> Symbol:
        """Which way the sample leans, beside which way is claimed."""
        from theoros.answer.parts import Symbol

        gap = self.parameter.estimate(self.data) - self.null
        if abs(gap) <= 1e-12 * max(abs(self.null), self.data.largest, 1e-300):
            return Symbol("the sample shows no difference in either direction", "warn")
        if self.alternative == "different":
            side = "above" if gap > 0 else "below"
            if not self.compares and not isinstance(self.data, Paired):
                said = f"the {self.parameter.name} of the sample lies {side} {self.null_text}"
                return Symbol(said, "mute")
            return Symbol(f"in the sample the difference lies {side} {exact(self.null)}", "mute")
        if (gap > 0) == (self.alternative == "greater"):
            return Symbol("the sample points in the direction you claim ▸", "good")
        ask = ": are the groups in the right order?" if self.compares else ""
        return Symbol(f"◂ the sample points against your claim{ask}", "bad")

    @property
    def against(self) -> bool:
        """Whether the sample leans against a one-sided claim."""
        return self.lean().tone == "bad"

    def sentence(self) -> str:
        """The claim as a clause: "the mean moisture loss of slow trays is greater than …"."""
        words, clauses = WORDS[self.alternative], self.data.clauses(self.parameter.clause)
        if not self.compares:
            return f"{clauses[0]} is {words} {self.null_text if self.null else '0'}"
        if self.null == 0:
            return f"{clauses[0]} is {words} {clauses[1]}"
        return f"{clauses[0]} minus {clauses[1]} is {words} {self.null_text}"

    def not_shown(self) -> str:
        """What a test that does not reject leaves open."""
        return (
            f"This does not show that H_{{0}} is true: a difference may be there that these "
            f"{'pairs' if isinstance(self.data, Paired) else 'data'} cannot show."
        )

    def meaning(self) -> str:
        letters = self.parameter.letters(self.data)
        said = self.data.meanings(self.parameter.clause)
        pairs = zip(letters, said, strict=True)
        return "; ".join(f"{letter} is {meaning}" for letter, meaning in pairs) + "."

    def observed(self) -> str:
        """What the sample shows of it: "a mean of 35.2 %"."""
        name, data = self.parameter.name, self.data
        places = min(6, data.decimals + 1)
        amount = with_unit(number(self.parameter.estimate(data), places), self.gap_unit)
        if self.compares:
            one, two = data.names
            return f"{one} minus {two}, {amount} between the {self.parameter.plural}"
        if isinstance(data, Paired):
            return f"a {name} difference of {amount}"
        return f"a {name} of {amount}"

"""Two events whose probabilities are stated, and what joins them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar, Literal

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.wording import exact, sentence_case
from theoros.lazy_imports import np
from theoros.verbs.core.fields import choice_field, number_field, text_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, Tables, TypeText
from theoros.verbs.laws.law import CHANCE
from theoros.verbs.probability.outcomes.eventful import DRAWN, Drawn, Eventful
from theoros.verbs.probability.outcomes.space import Space, SpaceStage
from theoros.verbs.probability.words import chance_text

if TYPE_CHECKING:
    from theoros.verbs.probability.data import ChanceQuestion

Joined = Literal["both", "either", "B given A", "A given B", "independent", "exclusive"]
_JOINED = (
    Option("both", "P(A and B)", help="The probability that both occur."),
    Option("either", "P(A or B)", help="The probability that at least one of them occurs."),
    Option("B given A", "P(B given A)"),
    Option("A given B", "P(A given B)"),
    Option("independent", "A and B are independent", help="One does not change the probability of the other."),
    Option("exclusive", "A and B exclude each other", help="They cannot both occur."),
)
ROUNDING = 1e-12
NAME = TypeText("What happens, such as “rain”.", longest=60)


@dataclass(frozen=True)
class TwoEvents(Eventful):
    kind: ClassVar[str] = "two events"
    label: ClassVar[str] = "two events"
    help: ClassVar[str] = "From P(A), P(B) and what joins them: both, either, given, not."
    order: ClassVar[int] = 61
    one: str = text_field("event A", NAME, empty="…")
    two: str = text_field("event B", NAME, empty="…")
    p_one: float | None = number_field(None, "P(A)", CHANCE, "P(A).")
    p_two: float | None = number_field(None, "P(B)", CHANCE, "P(B).")
    joined: Joined = choice_field("both", "what joins them", _JOINED)
    value: float | None = number_field(None, "what is stated of both", CHANCE, "The chance that joins them.")
    drawn: Drawn | None = DRAWN

    @property
    def _names(self) -> tuple[str, str]:
        one, two = self.one.strip() or "A", self.two.strip() or "B"
        return one, two if two.lower() != one.lower() else f"{two} (B)"

    @property
    def _states(self) -> bool:
        """Whether what joins them is a number."""
        return self.joined not in ("independent", "exclusive")

    def _range(self) -> tuple[float, float]:
        """From where to where the number that joins them can lie, both chances being known."""
        a, b = float(self.p_one or 0), float(self.p_two or 0)
        low, high = max(0.0, a + b - 1), min(a, b)
        ends = {
            "both": (low, high),
            "either": (a + b - high, a + b - low),
            "B given A": (low / a, high / a) if a else (0.0, 1.0),
            "A given B": (low / b, high / b) if b else (0.0, 1.0),
        }[self.joined]
        return float(f"{ends[0]:.12g}"), float(f"{min(1.0, ends[1]):.12g}")

    def said(self, kind: Slot, each: Slot, place: Place) -> Phrase:
        one, two, joined = (self.field_slot(name, place) for name in ("one", "two", "joined"))
        p_one, p_two = self._chance("p_one", place), self._chance("p_two", place)
        begin: Phrase = ("One ", each, " has ", kind, ": A, ", one, ", with P(A) = ", p_one, "; B, ", two)
        phrase: Phrase = (*begin, ", with P(B) = ", p_two, "; and ", joined)
        return (*phrase, " = ", self._value_slot(place), ".") if self._states else (*phrase, ".")

    def _chance(self, name: str, place: Place) -> Slot:
        slot, missing = self.field_slot(name, place), ""
        if slot.value is None:
            missing = f"Type {slot.label} in the sentence."
        elif name == "p_two" and self.joined == "exclusive" and self._sum > 1 + ROUNDING:
            missing = (
                "Events that exclude each other cannot have chances that sum to more than "
                f"1, and these sum to {exact(float(f'{self._sum:.10g}'))}."
            )
        return replace(slot, missing=missing)

    @property
    def _sum(self) -> float:
        return float(self.p_one or 0) + float(self.p_two or 0)

    def _value_slot(self, place: Place) -> Slot:
        label = next(one.label for one in _JOINED if one.value == self.joined)
        slot = self.field_slot("value", place, label=label)
        if self.value is None:
            return replace(slot, missing=f"Type {label} in the sentence.")
        if self.p_one is None or self.p_two is None:
            return slot
        given = {"B given A": ("A", self.p_one), "A given B": ("B", self.p_two)}.get(self.joined)
        if given and not given[1]:
            return replace(slot, missing=f"P({given[0]}) is 0, so there is no probability given {given[0]}.")
        low, high = self._range()
        if not low - ROUNDING <= self.value <= high + ROUNDING:
            fits = f"be {exact(low)}" if low == high else f"lie from {exact(low)} to {exact(high)}"
            return replace(
                slot,
                missing=f"With P(A) = {exact(self.p_one)} and P(B) = {exact(self.p_two)}, "
                f"{label} must {fits}, and {exact(self.value)} does not.",
            )
        return slot

    def title(self, s: ChanceQuestion) -> str:
        one, two = self._names
        return f"{sentence_case(one)} and {two}"

    @property
    def both(self) -> float:
        """P(A and B)."""
        a, b, value = float(self.p_one or 0), float(self.p_two or 0), float(self.value or 0)
        return {
            "both": value,
            "either": a + b - value,
            "B given A": a * value,
            "A given B": b * value,
            "independent": a * b,
            "exclusive": 0.0,
        }[self.joined]

    def stages(self, place: Place) -> tuple[SpaceStage, ...]:
        one, two = self._names
        return SpaceStage("", (one, f"not {one}"), "A"), SpaceStage("", (two, f"not {two}"), "B")

    def space(self, tables: Tables, table: str) -> Space:
        a, b, both = float(self.p_one or 0), float(self.p_two or 0), self.both
        chances = np.clip(np.array([both, a - both, b - both, 1 - a - b + both]), 0.0, 1.0)
        # what subtraction leaves of nothing is no chance; what is small by itself stays
        size = np.array([both, a, b, 1.0])
        chances[chances < ROUNDING * np.maximum(size, both)] = 0.0
        if self.joined == "independent":
            chances = np.array([a * b, a * (1 - b), (1 - a) * b, (1 - a) * (1 - b)])
        codes = np.array([[0, 0], [0, 1], [1, 0], [1, 1]])
        return Space(self.stages(Place({}, "")), codes, chances, tuple(chance_text(float(p)) for p in chances))

    def first_steps(self) -> tuple[str | Formula, ...]:
        one, two = (f"{{{name}}}" for name in self._names)
        a, b = exact(self.p_one or 0), exact(self.p_two or 0)
        value, both = exact(self.value or 0), exact(float(f"{self.both:.10g}"))
        cap = f"P({one} ∩ {two})"
        lines = {
            "both": f"{cap} = {both}",
            "either": f"{cap} = P({one}) + P({two}) − P({one} ∪ {two}) = {a} + {b} − {value} = {both}",
            "B given A": f"{cap} = P({one}) P({two} | {one}) = {a} × {value} = {both}",
            "A given B": f"{cap} = P({two}) P({one} | {two}) = {b} × {value} = {both}",
            "independent": f"{cap} = P({one}) P({two}) = {a} × {b} = {both}",
            "exclusive": f"{cap} = 0",
        }
        return (formula(lines[self.joined]),)


SITUATIONS = (TwoEvents,)

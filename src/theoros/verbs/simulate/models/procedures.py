"""Models that procedures stand behind: what was seen drawn again, and a claim made true."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.verbs.core.fields import number_field, text_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, TypeNumber, TypeText
from theoros.verbs.parameters.parameter import ONE_SIDED, usual_null
from theoros.verbs.procedures.claimed_shares import CLAIMED, claimed_shares
from theoros.verbs.procedures.procedure import Purpose, compared
from theoros.verbs.simulate.models.model import ChanceModel

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure


@dataclass(frozen=True)
class ResampleModel(ChanceModel):
    kind: ClassVar[str] = "resample"
    label: ClassVar[str] = "the data, resampled"
    help: ClassVar[str] = "Resampling with replacement (bootstrap): how an estimate varies."
    order: ClassVar[int] = 80
    uses: ClassVar[Purpose | None] = "resampling"
    other_names: ClassVar[tuple[str, ...]] = ("bootstrap",)

    varies: ClassVar[tuple[str, ...]] = ()

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        known = compared(None, "resampling")
        parameter = s.parameter_slot("what is taken of each", known)
        sides = s.data.sides(("the ", parameter), s.place(place.tables))
        joined = " over " if s.about.ratio else " minus "
        second = (joined, *sides.second) if sides.second else ()
        return ("Resample the data with replacement and take ", *sides.first, *second)

    def title(self) -> str:
        return "The data, resampled"


@dataclass(frozen=True)
class ClaimModel(ChanceModel):
    kind: ClassVar[str] = "claim"
    label: ClassVar[str] = "a claim assumed to be true"
    help: ClassVar[str] = "Shuffled labels, signs or pairs: the results that occur by chance if H₀ is true."
    order: ClassVar[int] = 90
    uses: ClassVar[Purpose | None] = "claim by chance"
    at_level: ClassVar[bool] = True
    other_names: ClassVar[tuple[str, ...]] = ("permutation test", "randomization test")
    null: float | None = number_field(
        None, "value under H₀", TypeNumber(), "The value that is assumed to be true; null for no difference."
    )
    claimed: str = text_field("the claimed shares", TypeText(CLAIMED, longest=400), empty="equal ones")

    varies: ClassVar[tuple[str, ...]] = ()

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        known = compared(None, "claim by chance")
        parameter = s.parameter_slot("what the claim is about", known)
        at = s.place(place.tables)
        sides = s.data.sides(("the ", parameter), at)
        method: Phrase = (", by ", s.method_slot())
        if s.family == "two-way counts":
            both = s.data.sides((), at).first
            return ("If there were no ", parameter, " between ", *both, *method)
        if s.family == "counts":
            return ("If ", *sides.first, " were ", self._claimed_slot(s, place), *method)
        if s.family == "several samples":
            return ("If ", *sides.first, " did not differ", *method)
        null = self.null_slot(s, place)
        if not sides.second:
            return ("If ", *sides.first, " were ", null, *method)
        if self.null:
            return ("If ", *sides.first, " minus ", *sides.second, " were ", null, *method)
        return ("If ", *sides.first, " were the same as ", *sides.second, *method)

    def null_slot(self, s: ByProcedure, place: Place) -> Slot:
        """The value that is made true."""
        holds = s.null_holds(place.tables)
        one_sided = s.family in ONE_SIDED
        label = "value under H₀" if one_sided else "difference under H₀"
        told = self if self.null is not None else replace(self, null=usual_null(s.family))
        return told.field_slot("null", place, label=label, holds=holds)

    def _claimed_slot(self, s: ByProcedure, place: Place) -> Slot:
        missing = ""
        if self.claimed.strip():
            try:
                claimed_shares(self.claimed, s.data.levels_of(s.place(place.tables)))
            except StatementError as problem:
                missing = str(problem)
        return self.field_slot("claimed", place, missing=missing)

    def title(self) -> str:
        return "A claim assumed to be true"


MODELS = (ResampleModel, ClaimModel)

"""Cases drawn in stages, each of which may depend on the one before."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import exact
from theoros.numeric.chance.draws import Stages, joint
from theoros.verbs.core.fields import word_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, SlotGrid, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.data.data import row_field, with_row
from theoros.verbs.simulate.models.model import ChanceModel, DrawnModel, many, size
from theoros.verbs.simulate.sampling.facts import Facts, Takes, moments_of
from theoros.verbs.simulate.sampling.outcome_list import worth_of
from theoros.verbs.simulate.sampling.stage_plan import CASE, MOST_ROWS, StagePlan, StageRow, plan_of

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure


USUAL = (
    StageRow("blend", "", "Jade", 2.0),
    StageRow("blend", "", "Amber", 1.0),
    StageRow("seal", "Jade", "sound", 0.9),
    StageRow("seal", "Jade", "leaks", 0.1),
    StageRow("seal", "Amber", "sound", 0.8),
    StageRow("seal", "Amber", "leaks", 0.2),
)


@dataclass(frozen=True)
class StagesModel(DrawnModel):
    kind: ClassVar[str] = "stages"
    label: ClassVar[str] = "several stages"
    help: ClassVar[str] = "Several draws for each case; a draw may depend on an earlier one."
    order: ClassVar[int] = 30
    statistic: ClassVar[str] = "number"
    case: str = word_field("one case", "What one case is, such as “jar”.", empty=CASE)
    n: int | None = size()
    rows: tuple[StageRow, ...] = USUAL
    varies: ClassVar[tuple[str, ...]] = ("n",)

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        case = self.field_slot("case", place)
        n = self.field_slot("n", place, label=f"sample size n, how many {many(self.case or CASE)}")
        try:
            stages = " and ".join(plan_of(self.rows).names)
        except StatementError:
            stages = "its stages"
        return ("If each ", case, f" is drawn by {stages} as below, draw ", n, f" {many(self.case.strip() or CASE)}")

    def grid(self, place: Place) -> SlotGrid | None:
        rows = []
        problem = ""
        try:
            plan_of(self.rows)
        except StatementError as wrong:
            problem = str(wrong)
        for at, row in enumerate((*self.rows, StageRow())):
            waits = at == len(self.rows)
            word = TypeText(longest=60)
            stage = text_slot(
                f"rows.{at}.stage", f"stage of row {at + 1}", row.stage, word, empty="one more" if waits else "…"
            )
            after = text_slot(
                f"rows.{at}.after",
                f"after, of row {at + 1}",
                row.after,
                TypeText("An outcome of a stage above; empty for any.", longest=60),
                empty="any",
            )
            outcome = text_slot(
                f"rows.{at}.outcome",
                f"outcome of row {at + 1}",
                row.outcome,
                TypeText("An outcome, or several with equal weights: “1 to 6”.", longest=200),
                empty="…",
            )
            weight = number_slot(
                f"rows.{at}.weight",
                f"weight of row {at + 1}",
                row.weight,
                TypeNumber(0, 1e9, auto=True, help="A chance, or a weight compared with the other outcomes."),
                exact(row.weight) if row.weight is not None else "1" if not waits else "…",
            )
            if at == 0:
                stage = replace(stage, missing=problem)
            rows.append(tuple(place.slot(slot) for slot in (stage, after, outcome, weight)))
        return SlotGrid("stages with their outcomes", ("stage", "after", "outcome", "weight"), tuple(rows))

    def put(self, field: str, value: object, place: Place) -> tuple[ChanceModel, list[str]] | None:
        known = row_field(field, "rows")
        if known is None:
            return None
        at, name = known
        if at >= MOST_ROWS:
            raise StatementError(f"There can be {MOST_ROWS} rows at most.")
        if isinstance(value, str):
            value = " ".join(value.split())
        empty = StageRow()
        rows = self.rows
        if at >= len(rows) and name != "stage" and rows:  # the stage goes on
            empty = StageRow(rows[-1].stage)
            made = with_row(rows, empty, at, name, value, 1)
        else:
            made = with_row(rows, empty, at, name, value, 1)
        return replace(self, rows=made), []

    def _plan(self) -> StagePlan | None:
        try:
            return plan_of(self.rows)
        except StatementError:
            return None

    def outcomes(self, place: Place) -> tuple[str, ...]:
        plan = self._plan()
        return tuple(dict.fromkeys(n for names in plan.outcomes for n in names)) if plan else ()

    def takes_now(self, place: Place) -> tuple[Takes, ...]:
        plan = self._plan()
        numbers = plan is not None and all(worth_of(names) is not None for names in plan.outcomes)
        return ("names", "numbers") if numbers else ("names",)

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        from theoros.verbs.simulate.pictures.stages import tree_frame

        assert self.n is not None
        try:
            plan = plan_of(self.rows)
        except StatementError as problem:
            raise CannotAnswer(str(problem), "model.rows.0.stage") from None
        chances = tuple(joint(plan.stages))
        worth = tuple(w for names in plan.outcomes if (w := worth_of(names)) is not None)
        numeric = len(worth) == len(plan.outcomes)
        made = Facts(
            Stages(plan.stages, self.n),
            ("stages", self.rows, self.n),
            frozenset(self.takes_now(place)),
            self.n,
            case=self.case.strip() or CASE,
            stages=plan.names,
            names=plan.outcomes,
            worth=worth if numeric else (),
            chances=chances,
            population=lambda: tree_frame(plan),
        )
        law = made.law()
        if law is None:
            return made
        return replace(made, moments=moments_of(*law), measure="value")

    def title(self) -> str:
        plan = self._plan()
        return f"By {' and '.join(plan.names)}" if plan else "Several stages"


MODELS = (StagesModel,)

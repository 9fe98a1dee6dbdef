"""Cases drawn in stages, each of which may depend on the one before."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import exact
from theoros.lazy_imports import np
from theoros.numeric.chance.draws import Stage, Stages, joint
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.slots import Grid, Phrase, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.data.data import Place, row_field, with_row
from theoros.verbs.simulate.facts import Facts, moments_of
from theoros.verbs.simulate.listing import MOST_OUTCOMES, outcomes_of, worth_of
from theoros.verbs.simulate.models.model import ChanceModel, many, size_slot, word_slot
from theoros.verbs.simulate.taking import Takes

if TYPE_CHECKING:
    from theoros.verbs.simulate.statement import SimulateStatement

CASE = "case"
MOST_ROWS, MOST_STAGES = 60, 6


@dataclass(frozen=True)
class StageRow:
    """An outcome of a stage, with its weight there after an outcome of a stage before."""

    stage: str = ""
    after: str = ""
    outcome: str = ""
    weight: float | None = None


USUAL = (
    StageRow("blend", "", "Jade", 2.0),
    StageRow("blend", "", "Amber", 1.0),
    StageRow("seal", "Jade", "sound", 0.9),
    StageRow("seal", "Jade", "leaks", 0.1),
    StageRow("seal", "Amber", "sound", 0.8),
    StageRow("seal", "Amber", "leaks", 0.2),
)


@dataclass(frozen=True, eq=False)
class Plan:
    """The stages in order, with the names of their outcomes."""

    names: tuple[str, ...]
    outcomes: tuple[tuple[str, ...], ...]
    stages: tuple[Stage, ...]
    always: tuple[bool, ...]
    """Which of them come about for every case."""


def plan_of(rows: tuple[StageRow, ...]) -> Plan:
    """The stages that rows describe. Raises StatementError with what is wrong."""
    order = list(dict.fromkeys(row.stage.strip() for row in rows if row.outcome.strip()))
    if not order:
        raise StatementError("There is no stage yet. Type a stage, an outcome and its weight.")
    if any(not name for name in order):
        raise StatementError("An outcome has no stage. Type the name of its stage before it.")
    if len(order) > MOST_STAGES:
        raise StatementError(f"There can be {MOST_STAGES} stages at most.")
    names: list[tuple[str, ...]] = []
    stages: list[Stage] = []
    always: list[bool] = []
    for at, stage in enumerate(order):
        own = [row for row in rows if row.stage.strip() == stage and row.outcome.strip()]
        found: dict[str, dict[str, float]] = {}
        for row in own:
            for one in outcomes_of(row.outcome):
                weight = one.weight * (1.0 if row.weight is None else row.weight)
                given = found.setdefault(row.after.strip(), {})
                given[one.name] = given.get(one.name, 0.0) + weight
        outcomes = tuple(dict.fromkeys(name for given in found.values() for name in given))
        if len(outcomes) > MOST_OUTCOMES:
            raise StatementError(f"A stage can have {MOST_OUTCOMES} outcomes at most.")
        parent = _parent(stage, at, [one for one in found if one], order, names, outcomes, rows)
        heads = names[parent] if parent >= 0 else ("",)
        shares = np.zeros((len(heads), len(outcomes)))
        for k, head in enumerate(heads):
            given = found.get(head) or found.get("", {})
            total = sum(given.values())
            if given and not total > 0:
                where = f" after {head}" if head else ""
                raise StatementError(
                    f"All weights of {stage}{where} are 0, so that nothing can come up. Type one above 0."
                )
            for name, weight in given.items():
                shares[k, outcomes.index(name)] = weight / total
        names.append(outcomes)
        stages.append(Stage(parent, shares))
        always.append(bool((shares.sum(axis=1) > 0).all()) and (parent < 0 or always[parent]))
    return Plan(tuple(order), tuple(names), tuple(stages), tuple(always))


def _parent(
    stage: str,
    at: int,
    afters: list[str],
    order: list[str],
    names: list[tuple[str, ...]],
    own: tuple[str, ...],
    rows: tuple[StageRow, ...],
) -> int:
    """The stage whose outcomes these are; -1 for none."""
    found = set()
    for after in afters:
        homes = [k for k, earlier in enumerate(names) if after in earlier]
        if homes:
            found.add(homes[-1])
        elif after in own:
            raise StatementError(
                f"The stage {stage} refers to itself: “{after}” is an outcome of its own. After it "
                f"can stand an outcome of a stage above."
            )
        elif any(after == row.outcome.strip() for row in rows):
            raise StatementError(
                f"The stage {stage} comes after “{after}”, which is an outcome of a later stage. "
                f"Put that stage above it."
            )
        else:
            raise StatementError(f"The stage {stage} comes after “{after}”, which is no outcome of a stage above.")
    if len(found) > 1:
        raise StatementError(f"The stage {stage} depends on outcomes of two stages. It can depend on one.")
    return found.pop() if found else -1


@dataclass(frozen=True)
class StagesModel(ChanceModel):
    kind: ClassVar[str] = "stages"
    label: ClassVar[str] = "several stages"
    help: ClassVar[str] = "Draw after draw for each case, where one may depend on another before."
    order: ClassVar[int] = 30
    statistic: ClassVar[str] = "number"
    case: str = ""
    n: int | None = None
    rows: tuple[StageRow, ...] = USUAL

    def sentence(self, s: SimulateStatement, place: Place) -> Phrase:
        case = word_slot(place, "case", "one case", self.case, CASE, "What one case is, such as “jar”.")
        n = size_slot(place, self.n, f"sample size n, how many {many(self.case or CASE)}")
        try:
            stages = " and ".join(plan_of(self.rows).names)
        except StatementError:
            stages = "its stages"
        return ("If each ", case, f" is drawn by {stages} as below, draw ", n, f" {many(self.case.strip() or CASE)}")

    def grid(self, place: Place) -> Grid | None:
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
                TypeNumber(0, 1e9, auto=True, help="A chance, or how often beside the others."),
                exact(row.weight) if row.weight is not None else "1" if not waits else "…",
            )
            if at == 0:
                stage = replace(stage, missing=problem)
            rows.append(tuple(place.slot(slot) for slot in (stage, after, outcome, weight)))
        return Grid("stages with their outcomes", ("stage", "after", "outcome", "weight"), tuple(rows))

    def put(self, field: str, value: Any, place: Place) -> ChanceModel | None:
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
        return replace(self, rows=made)

    def _plan(self) -> Plan | None:
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

    def facts(self, s: SimulateStatement, place: Place) -> Facts:
        from theoros.verbs.simulate.stage_tree import tree_frame

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

    @property
    def varies(self) -> tuple[str, ...]:
        return ("n",)

    def title(self) -> str:
        plan = self._plan()
        return f"By {' and '.join(plan.names)}" if plan else "Several stages"


MODELS = (StagesModel,)

"""The stages of a case as rows say them: in order, with the chance of every outcome."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.chance.draws import DrawStage
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.simulate.sampling.outcome_list import MOST_OUTCOMES, outcomes_of

CASE = "case"


MOST_ROWS, MOST_STAGES = 60, 6


@dataclass(frozen=True)
class StageRow:
    """An outcome of a stage, with its weight there after an outcome of a stage before."""

    stage: str = ""
    after: str = ""
    outcome: str = ""
    weight: float | None = None


@dataclass(frozen=True, eq=False)
class StagePlan:
    """The stages in order, with the names of their outcomes."""

    names: tuple[str, ...]
    outcomes: tuple[tuple[str, ...], ...]
    stages: tuple[DrawStage, ...]
    always: tuple[bool, ...]
    """Which of them come about for every case."""


def plan_of(rows: tuple[StageRow, ...]) -> StagePlan:
    """The stages that rows describe. Raises StatementError with what is wrong."""
    order = list(dict.fromkeys(row.stage.strip() for row in rows if row.outcome.strip()))
    if not order:
        raise StatementError("There is no stage yet. Type a stage, an outcome and its weight.")
    if any(not name for name in order):
        raise StatementError("An outcome has no stage. Type the name of its stage before it.")
    if len(order) > MOST_STAGES:
        raise StatementError(f"There can be {MOST_STAGES} stages at most.")
    names: list[tuple[str, ...]] = []
    stages: list[DrawStage] = []
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
                    f"All weights of {stage}{where} are 0, so no outcome can occur. Type a weight above 0."
                )
            for name, weight in given.items():
                shares[k, outcomes.index(name)] = weight / total
        names.append(outcomes)
        stages.append(DrawStage(parent, shares))
        always.append(bool((shares.sum(axis=1) > 0).all()) and (parent < 0 or always[parent]))
    return StagePlan(tuple(order), tuple(names), tuple(stages), tuple(always))


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

"""What no data can show and is asked: how groups were picked, independence, how large a part."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import TYPE_CHECKING

from theoros.answer.parts import MARKS, Choice, Condition, Mark
from theoros.answer.wording import plural
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import Paired
from theoros.verbs.procedures.scope import got_check

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import Inference


@dataclass(frozen=True)
class Asked:
    """A question with the answers to choose from, or what was answered."""

    mark: Mark
    text: str
    line: str
    """The same for the steps of a report; without its mark."""
    choices: tuple[Choice, ...] = ()

    def condition(self) -> Condition:
        return Condition(self.mark, self.text, self.choices)

    def told(self) -> str:
        return f"{MARKS[self.mark]} {self.line}"


def asked_of(statement: Inference, data: Observation, sampling: str) -> list[Asked]:
    """The questions, in order; `sampling` says how the rows were got, empty where it is unknown."""
    made = [_design(statement, data)] if _is_designed(statement) else []
    if sampling != "whole population":
        made.append(_independence(statement, data))
        if sampling != "random assignment":
            made.append(_part(statement, data))
    got = got_check(sampling, data.noun)
    return [*made, *([Asked(got.mark, got.text, got.text)] if got else [])]


def _is_designed(statement: Inference) -> bool:
    """Whether it has to be said if samples are matched or separate."""
    names = {field.name for field in fields(statement.data)}  # type: ignore[arg-type]
    return statement.family in ("two samples", "pairs") and "design" in names


def _design(statement: Inference, data: Observation) -> Asked:
    design, one = statement.data.design, data.noun
    text = f"Were the {plural(one)} picked separately for each group, or matched one to one?"
    line = "whether the samples were picked separately has still to be said"
    if design == "separate":
        text = "As you say, the two groups were picked separately."
        line = "the two samples were picked separately"
    elif design == "matched" and isinstance(data, Paired):
        text, line = f"As you say, {data.belonging}.", data.belonging
    elif getattr(data, "columns", False):
        text = f"Do both values of a row belong to one {one} or matched pair, or not?"
    choices = (
        Choice("separately", "data.design", "separate", design == "separate"),
        Choice("matched", "data.design", "matched", design == "matched"),
    )
    return Asked("judge" if design == "not said" else "holds", text, line, choices)


def _independence(statement: Inference, data: Observation) -> Asked:
    said, why = statement.independent, statement.because.strip()
    many = plural(data.noun)
    whole = "pairs" if statement.family == "pairs" else many
    choices = (
        Choice("independent", "independent", "yes", said == "yes"),
        Choice("not", "independent", "no", said == "no"),
    )
    if said == "yes":
        reason = f": {why.rstrip('.')}" if why else ""
        line = f"the {whole} are independent of each other{reason}"
        return Asked("holds", f"As you say, {line}.", line, choices)
    if said == "no":
        line = f"the {whole} depend on each other, which no way here allows for: p can be far too small"
        return Asked("fails", f"As you say, {line}.", line, choices)
    text = f"Does one of the {whole} tell anything about another, beyond what is asked?"
    line = f"whether the {whole} are independent has still to be said"
    return Asked("judge", text, line, choices)


def _part(statement: Inference, data: Observation) -> Asked:
    said, many = statement.part, plural(data.noun)
    choices = (
        Choice("at most 5\u00a0%", "part", "small", said == "small"),
        Choice("more", "part", "large", said == "large"),
    )
    if said == "small":
        line = f"the sample is at most 5\u00a0% of all {many}"
        return Asked("holds", f"As you say, {line}.", line, choices)
    if said == "large":
        line = (
            f"the sample is more than 5\u00a0% of all {many}, so that they vary less from sample "
            f"to sample than is reckoned here: p comes out too large"
        )
        return Asked("judge", f"As you say, {line}.", line, choices)
    text = f"How large a part of all {many} is the sample?"
    line = f"whether the sample is at most 5\u00a0% of all {many} has still to be said"
    return Asked("judge", text, line, choices)

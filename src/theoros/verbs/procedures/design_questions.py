"""What no data can show and is asked: how groups were picked, independence, how large a part."""

from __future__ import annotations

from dataclasses import fields
from typing import TYPE_CHECKING

from theoros.answer.nouns import plural
from theoros.answer.parts import Assumption, Choice
from theoros.verbs.assumptions.independence import independence
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import Paired
from theoros.verbs.procedures.scope import how_they_were_got

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import Inference


def asked_of(statement: Inference, data: Observation, sampling: str) -> list[Assumption]:
    """The questions, in order; `sampling` says how the rows were got, empty where it is unknown."""
    made = [_design(statement, data)] if _is_designed(statement) else []
    if sampling != "whole population":
        made.append(_independence(statement, data))
        if sampling != "random assignment":
            made.append(_part(statement, data))
    got = how_they_were_got(sampling, data.noun, grouped=statement.grouped, verb=statement.verb)
    return [*made, got] if got else made


def _is_designed(statement: Inference) -> bool:
    """Whether it has to be said if samples are matched or separate."""
    names = {field.name for field in fields(statement.data)}  # type: ignore[arg-type]
    return statement.family in ("two samples", "pairs") and "design" in names


def _design(statement: Inference, data: Observation) -> Assumption:
    design, one = statement.data.design, data.noun
    text = f"Were the {plural(one)} picked separately for each group, or matched one to one?"
    line = "it has not been said whether the samples were picked separately"
    if design == "separate":
        text = "As you say, the two groups were picked separately."
        line = "the two samples were picked separately"
    elif design == "matched" and isinstance(data, Paired):
        text, line = f"As you say, {data.belonging}.", data.belonging
    elif getattr(data, "columns", False):
        text = f"Do both values of a row belong to one {one} or matched pair?"
    choices = (
        Choice("separately", "data.design", "separate", design == "separate"),
        Choice("matched", "data.design", "matched", design == "matched"),
    )
    return Assumption("judge" if design == "not said" else "holds", text, choices, line=line)


def _independence(statement: Inference, data: Observation) -> Assumption:
    cases = "pairs" if statement.family == "pairs" else plural(data.noun)
    costs = ", and no method here allows for that: p can be far too small"
    return independence(statement.independent, cases, costs, statement.because)


def _part(statement: Inference, data: Observation) -> Assumption:
    said, many = statement.part, plural(data.noun)
    choices = (
        Choice("at most 5\u00a0%", "part", "small", said == "small"),
        Choice("more", "part", "large", said == "large"),
    )
    if said == "small":
        line = f"the sample is at most 5\u00a0% of all {many}"
        return Assumption("holds", f"As you say, {line}.", choices, line=line)
    if said == "large":
        line = (
            f"the sample is more than 5\u00a0% of all {many}, so samples vary less than is assumed here: p is too large"
        )
        return Assumption("judge", f"As you say, {line}.", choices, line=line)
    text = f"Is the sample at most 5 % of all {many}?"
    line = f"it has not been said whether the sample is at most 5\u00a0% of all {many}"
    return Assumption("judge", text, choices, line=line)

"""A model of several predictors in words."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import (
    exact,
    listed,
    number,
    p_equals,
    percent_text,
    places_of_ends,
    sentence_case,
    significant,
    with_unit,
)
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.core.verdict import shown
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.multiple import words as saying
from theoros.verbs.model.multiple.data import Design, Predictor, Term
from theoros.verbs.model.multiple.fit import Several, TermPart
from theoros.verbs.model.multiple.report import MultipleReport
from theoros.verbs.model.words.amounts import HELD, for_each, higher, round_step, share_text
from theoros.verbs.model.words.assumptions import checks_of

HIGH = 10.0
"""From this variance inflation on a predictor says hardly more than the others do."""


def step_text(one: Predictor) -> tuple[float, str]:
    """A round step along a number: 10, "10 mm"."""
    step = step_of_values(one)
    return step, with_unit(exact(float(f"{step:.3g}")), one.column.unit)


def each_step(one: Predictor, amount: str) -> str:
    """ "For each extra 10 mm of leaf length", "For each increase of 2 in age"."""
    return for_each(one.name, one.column.unit, step_of_values(one), amount)


def step_of_values(one: Predictor) -> float:
    """A round step of which some fit into the values, no finer than these."""
    values = one.values
    decimals = next((at for at in range(7) if np.allclose(values, np.round(values, at), rtol=0, atol=1e-9)), 7)
    step: float = round_step(float(values.min()), float(values.max()), decimals)
    return step


def slopes_of(pairs: ModelPairs, f: Several) -> list[str]:
    """What a step of each predictor changes, with the others held constant; none for those in products or squares."""
    design, made = f.design, list[str]()
    busy = {at for term in design.terms if len(term.parts) > 1 for at in term.parts}
    y = pairs.response.name
    constant = HELD if len(design.predictors) > 1 else ""
    for at, one in enumerate(design.predictors):
        if at in busy:
            continue
        columns = (design.owners == design.terms.index(Term((at,)))).nonzero()[0]
        if one.levels:
            parts = [
                f"{higher(pairs, float(b))} for {level}"
                for level, b in zip(one.levels[1:], f.coefficients[columns], strict=True)
            ]
            made.append(f"Compared with {one.levels[0]} ({one.name}), the predicted {y} is {listed(parts)}{constant}.")
            continue
        step, amount = step_text(one)
        change = float(f.coefficients[columns[0]]) * step
        made.append(f"{each_step(one, amount)}, the predicted {y} is {higher(pairs, change)}{constant}.")
    return made


def headline(pairs: ModelPairs, f: Several, p: float) -> str:
    """How much is explained, or that nothing is shown."""
    names = [one.name for one in f.design.predictors]
    both = names[0] if len(names) == 1 else " and ".join(names) if len(names) == 2 else f"the {len(names)} predictors"
    y = pairs.response.name
    if not shown(p):
        help_ = "helps" if len(names) == 1 else "help"
        return f"These data do not show that {both} {help_} to predict {y} ({p_equals(p)})."
    together = " together" if len(names) > 1 else ""
    return sentence_case(f"{share_text(f.r_squared)} of the variation in {y} is explained by {both}{together}.")


def useless(parts: list[TermPart]) -> str:
    """Which predictors add nothing that is shown."""
    idle = [one for one in parts if not shown(one.p)]
    if not idle:
        return ""
    names = [one.label for one in idle]
    if len(names) == 1:
        return f"{sentence_case(names[0])} does not add significantly to the other predictors ({p_equals(idle[0].p)})."
    if len(names) == 2:
        return (
            f"Neither {names[0]} nor {names[1]} adds significantly once the others are in the model. Both together "
            "may still matter."
        )
    return (
        f"None of {listed(names)} adds significantly once the others are in the model. Together they may still matter."
    )


def held_text(design: Design, row: Floats, unsaid: tuple[str, ...]) -> tuple[str, str]:
    """Values that were typed: "leaf length 70 mm, cultivar Jade"; and what holds of the others."""
    said = []
    for one, v in zip(design.predictors, row.tolist(), strict=True):
        if one.name not in unsaid:
            number_ = with_unit(exact(float(f"{v:.8g}")), one.column.unit)
            said.append(f"{one.name} = {one.levels[int(v)] if one.levels else number_}")
    if not unsaid or not said:
        return ", ".join(said), ""
    return ", ".join(said), f" (and {', '.join(unsaid)} at the mean or the reference level)"


def prediction(
    pairs: ModelPairs,
    f: Several,
    row: Floats,
    ends: dict[str, tuple[float, float]],
    value: float,
    confidence: float,
    unsaid: tuple[str, ...],
) -> str:
    """What is predicted for values that were typed."""
    places = min(8, pairs.decimals[1] + 1)
    unit = pairs.response.unit
    said, rest = held_text(f.design, row, unsaid)
    begin = f"For {said}{rest}" if said else "At the means and reference levels of the predictors"
    low, high = ends["mean"]
    first, last = ends["single"]
    sure = percent_text(confidence)
    places = places_of_ends(low, high, most=places)
    return (
        f"{begin}, the predicted {pairs.response.name} is {with_unit(number(value, places), unit)}. "
        f"The {sure} interval for the mean is {number(low, places)} to {with_unit(number(high, places), unit)}. "
        f"For a single {pairs.noun} it is {number(first, places)} to {with_unit(number(last, places), unit)}."
    )


def equation(f: Several, what: str) -> str:
    """As a line of text: "leaf mass = −7.5 + 0.41 × leaf length + …"."""
    made = f"{what} = {significant(float(f.coefficients[0]), 4)}"
    for name, b in zip(f.design.names[1:], f.coefficients[1:].tolist(), strict=True):
        sign = "−" if b < 0 else "+"
        made += f" {sign} {significant(abs(b), 4)} × {name}"
    return made


def thin_levels(r: MultipleReport) -> list[str]:
    """Levels that have one row only."""
    made = []
    for one in r.fit.design.predictors:
        for code, level in enumerate(one.levels):
            if int((one.values == code).sum()) == 1:
                made.append(f"{level} of {one.name} has only one row, which the model fits exactly.")
    return made


def assumptions_of(r: MultipleReport) -> tuple[Assumption, ...]:
    f = r.fit
    if f.perfect:
        return ()
    made = list(checks_of(r.s, r.pairs, r.judged))
    if not r.plain:
        return tuple(made)  # products go with their parts, and say nothing of the predictors
    high = [name for name, v in zip(f.design.names[1:], f.inflations.tolist(), strict=True) if v >= saying.HIGH]
    if high:
        made.append(
            Assumption(
                "judge",
                f"{listed(high)}: strongly related to the other predictors (multicollinearity), variance inflation "
                f"up to {number(float(f.inflations.max()), 1)}",
            )
        )
    else:
        made.append(Assumption("holds", "no strong relation among the predictors (multicollinearity)"))
    return tuple(made)

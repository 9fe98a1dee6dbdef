"""A model of several predictors in words."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact, listed, number, p_equals, percent_text, sentence_case, significant, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.levels import below
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.multiple import words as saying
from theoros.verbs.model.multiple.data import Design, Predictor, Term
from theoros.verbs.model.multiple.fit import Several, TermPart
from theoros.verbs.model.multiple.report import MultipleReport
from theoros.verbs.model.words.amounts import change_text, more_text, points, round_step, share_text
from theoros.verbs.model.words.assumptions import checks_of

HIGH = 10.0
"""From this variance inflation on a predictor says hardly more than the others do."""


def step_text(one: Predictor) -> tuple[float, str]:
    """A round step along a number: 10, "10 mm"."""
    step = step_of_values(one)
    return step, with_unit(exact(float(f"{step:.3g}")), one.column.unit)


def each_step(one: Predictor, amount: str) -> str:
    """ "Each extra 10 mm of leaf length", "Each step of 2 in age"."""
    if one.column.unit:
        step = step_of_values(one)
        return f"Each extra {points(step, amount, one.column.unit)} of {one.name}"
    return f"Each step of {amount} in {one.name}"


def step_of_values(one: Predictor) -> float:
    """A round step of which some fit into the values, no finer than these."""
    values = one.values
    decimals = next((at for at in range(7) if np.allclose(values, np.round(values, at), rtol=0, atol=1e-9)), 7)
    step: float = round_step(float(values.min()), float(values.max()), decimals)
    return step


def slopes_of(pairs: ModelPairs, f: Several) -> list[str]:
    """What each predictor goes with, the others held; none for those in products or squares."""
    design, made = f.design, list[str]()
    busy = {at for term in design.terms if len(term.parts) > 1 for at in term.parts}
    y = pairs.response.name
    for at, one in enumerate(design.predictors):
        if at in busy:
            continue
        columns = (design.owners == design.terms.index(Term((at,)))).nonzero()[0]
        if one.levels:
            parts = [
                f"about {change_text(pairs, abs(float(b)))} {'more' if b > 0 else 'less'} for {level}"
                for level, b in zip(one.levels[1:], f.coefficients[columns], strict=True)
            ]
            made.append(f"Compared with {one.levels[0]} ({one.name}), the others held, {y} is {listed(parts)}.")
            continue
        step, amount = step_text(one)
        change = float(f.coefficients[columns[0]]) * step
        said = more_text(pairs, f"about {change_text(pairs, abs(change))}", change > 0)
        made.append(f"{each_step(one, amount)} goes with {said}, the others held.")
    return made


def headline(pairs: ModelPairs, f: Several, p: float) -> str:
    """How much is explained, or that nothing is shown."""
    names = [one.name for one in f.design.predictors]
    both = " and ".join(names) if len(names) == 2 else f"The {len(names)} predictors"
    y = pairs.response.name
    if not below(p, 0.05):
        return sentence_case(f"{both} are not shown to tell anything of {y}.")
    together = " together" if len(names) > 1 else ""
    verb = "explain" if len(names) > 1 else "explains"
    return sentence_case(f"{both}{together} {verb} {share_text(f.r_squared)} of the variation of {y}.")


def useless(parts: list[TermPart]) -> str:
    """Which predictors add nothing that is shown."""
    idle = [one for one in parts if not below(one.p, 0.05)]
    if not idle:
        return ""
    names = [one.label for one in idle]
    if len(names) == 1:
        return f"{sentence_case(names[0])} is not shown to add anything to the others ({p_equals(idle[0].p)})."
    if len(names) == 2:
        return (
            f"Neither {names[0]} nor {names[1]} is shown to add anything to all the others; "
            f"that does not say that both can go."
        )
    return (
        f"None of {listed(names)} is shown to add anything to all the others; that does not "
        f"say that all of them can go."
    )


def held_text(design: Design, row: Floats, unsaid: tuple[str, ...]) -> tuple[str, str]:
    """Values that were typed: "leaf length 70 mm, cultivar Jade"; and what holds of the others."""
    said = []
    for one, v in zip(design.predictors, row.tolist(), strict=True):
        if one.name not in unsaid:
            number_ = with_unit(exact(float(f"{v:.8g}")), one.column.unit)
            said.append(f"{one.name} {one.levels[int(v)] if one.levels else number_}")
    if not unsaid or not said:
        return ", ".join(said), ""
    return ", ".join(said), f" (and {', '.join(unsaid)} at the mean or the level compared with)"


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
    begin = f"For {said}{rest}" if said else "For the middle of all"
    low, high = ends["mean"]
    first, last = ends["single"]
    sure = percent_text(confidence)
    return (
        f"{begin} about {with_unit(number(value, places), unit)} is predicted: between "
        f"{number(low, places)} and {with_unit(number(high, places), unit)} for the mean, and "
        f"between {number(first, places)} and {with_unit(number(last, places), unit)} for a single "
        f"{pairs.noun} ({sure})."
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
                made.append(f"{level} of {one.name} has one row only, which the model fits exactly.")
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
                f"{listed(high)} can hardly be told from the others: variance inflation "
                f"up to {number(float(f.inflations.max()), 1)}",
            )
        )
    else:
        made.append(Assumption("holds", "each predictor can be told from the others"))
    return tuple(made)

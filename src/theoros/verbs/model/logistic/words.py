"""A model of two outcomes in words: odds, probabilities, and how cases are classed."""

from __future__ import annotations

from theoros.answer.nouns import counted, plural, with_article
from theoros.answer.parts import Assumption
from theoros.answer.wording import number, p_equals, percent_text, sentence_case, significant, with_unit
from theoros.numeric.arrays import Floats
from theoros.numeric.levels import below
from theoros.verbs.core.verdict import shown
from theoros.verbs.model.logistic import words as saying
from theoros.verbs.model.logistic.fit import Classed, FittedOutcome
from theoros.verbs.model.logistic.report import LogisticReport
from theoros.verbs.model.multiple.data import Term
from theoros.verbs.model.multiple.words import each_step, held_text, step_text
from theoros.verbs.model.words.amounts import HELD
from theoros.verbs.model.words.assumptions import independence_of

AREAS = ((0.9, "outstanding"), (0.8, "excellent"), (0.7, "acceptable"))
"""Words for the area under the curve (Hosmer and Lemeshow 2000, 5.2.4)."""


def percent(share: float, places: int = 1) -> str:
    """A probability; what is not 0 or 1 is not written so."""
    value = 100 * share
    least = 10.0**-places
    if 0 < value < least:
        return f"less than {number(least, places)}\u00a0%"
    if 100 - least < value < 100:
        return f"more than {number(100 - least, places)}\u00a0%"
    return f"{number(value, places)}\u00a0%"


def headline(found: FittedOutcome, what: str, level: str) -> str:
    """What one predictor does to the odds, or whether several tell anything."""
    design = found.design
    names = [one.name for one in design.predictors]
    if not shown(found.p):
        are = "is" if len(names) == 1 else "are"
        said = " and ".join(names) if len(names) <= 2 else f"the {len(names)} predictors"
        return f"These data do not show that {said} {are} related to the probability of {level} ({p_equals(found.p)})."
    if len(design.terms) == 1 and not design.predictors[0].levels:
        step, amount = step_text(design.predictors[0])
        ratio = found.ratio(1, 0.95, step)[0]
        return f"{each_step(design.predictors[0], amount)}, the odds of {level} are {times(ratio)}."
    both = " and ".join(names) if len(names) <= 2 else f"the {len(names)} predictors"
    are = "is" if len(names) == 1 else "together are"
    return sentence_case(f"{both} {are} related to the probability of {level}.")


def times(ratio: float) -> str:
    """ "about 1.4 times as large", "about 12 % smaller"."""
    if 0.995 <= ratio <= 1.005:
        return "about the same"
    if ratio >= 2:
        return f"about {significant(ratio, 2)} times as large"
    change = with_unit(significant(abs(ratio - 1) * 100, 2), "%")
    return f"about {change} {'larger' if ratio > 1 else 'smaller'}"


def ratios(found: FittedOutcome, level: str, confidence: float) -> list[str]:
    """The odds ratio of each predictor in words; none for those in products or squares."""
    design, made = found.design, list[str]()
    busy = {at for term in design.terms if len(term.parts) > 1 for at in term.parts}
    sure = percent_text(confidence)
    others = HELD if len(design.predictors) > 1 else ""
    for at, one in enumerate(design.predictors):
        if at in busy:
            continue
        columns = (design.owners == design.terms.index(Term((at,)))).nonzero()[0].tolist()
        if one.levels:
            for name, column in zip(one.levels[1:], columns, strict=True):
                ratio, low, high = found.ratio(column, confidence)
                made.append(
                    f"For {name} the odds of {level} are {times(ratio)} than for {one.levels[0]}"
                    f"{others} (odds ratio {significant(ratio, 3)}, {sure} interval {significant(low, 3)} "
                    f"to {significant(high, 3)}).".replace("as large than", "as large as").replace(
                        "the same than", "the same as"
                    )
                )
            continue
        step, amount = step_text(one)
        ratio, low, high = found.ratio(columns[0], confidence, step)
        made.append(
            f"{each_step(one, amount)}, the odds of {level} are {times(ratio)}"
            f"{others} (odds ratio {significant(ratio, 3)}, {sure} interval {significant(low, 3)} to "
            f"{significant(high, 3)})."
        )
    return made


def area_words(found: FittedOutcome, level: str, noun: str) -> str:
    """What the area under the ROC curve says."""
    area = found.roc.area
    word = next((word for cut, word in AREAS if area >= cut), "poor")
    return f"The area under the ROC curve is {number(area, 3)}, which is {word} (Hosmer and Lemeshow 2000)."


def classed_words(classed: Classed, cut: float, level: str, noun: str, share: float) -> str:
    """How cases are classed at the cut-off, beside calling all the more frequent."""
    base = max(share, 1 - share)
    return (
        f"With a cut-off of {percent_text(cut)}, {percent(classed.right)} of the {plural(noun)} are classified "
        f"correctly. To call all of them {level if share >= 0.5 else f'not {level}'} would be correct for "
        f"{percent(base)}."
    )


def prediction(
    found: FittedOutcome,
    row: Floats,
    unsaid: tuple[str, ...],
    level: str,
    ends: tuple[float, float, float],
    confidence: float,
    noun: str,
) -> str:
    """The probability for values that were typed."""
    said, rest = held_text(found.design, row, unsaid)
    begin = (
        f"For {with_article(noun)} with {said}{rest}"
        if said
        else f"For {with_article(noun)} at the means and reference levels of the predictors"
    )
    middle, low, high = ends
    sure = percent_text(confidence)
    return (
        f"{begin}, the predicted probability of {level} is {percent(middle)} ({sure} interval {percent(low)} to "
        f"{percent(high)})."
    )


def few(found: FittedOutcome, level: str) -> str:
    """How many cases of the rarer outcome there are for each term (Peduzzi et al. 1996)."""
    rare = min(found.events, found.n - found.events)
    name = level if found.events <= found.n - found.events else f"not {level}"
    return f"{counted(rare, 'case')} of “{name}” for {counted(found.terms - 1, 'term')}"


def bend_words(p: float) -> str:
    return f"the log odds are not linear: there is a bend ({p_equals(p)})"


def assumptions_of(r: LogisticReport) -> tuple[Assumption, ...]:
    found, level = r.found, str(r.s.level)
    made = []
    rare = min(found.events, found.n - found.events)
    enough = rare >= ENOUGH * (found.terms - 1)
    said = f"{saying.few(found, level)}: {'enough' if enough else f'a rule of thumb asks for {ENOUGH} per term'}"
    made.append(Assumption("holds" if enough else "fails", said))
    if found.bend is not None:
        if below(found.bend, 0.01):
            made.append(Assumption("fails", saying.bend_words(found.bend)))
        else:
            made.append(Assumption("holds", f"the log odds are linear ({p_equals(found.bend)})"))
    made.append(independence_of(r.s, r.design.noun))
    return tuple(made)


ENOUGH = 10
"""Cases of the rarer outcome for each term (Peduzzi et al. 1996)."""

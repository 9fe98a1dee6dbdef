"""Answers a model of two outcomes by logistic regression."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Answer, Draft, Link, Reading, Section
from theoros.answer.wording import listed, number, significant
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.least_squares import Dependent, TooFewCases
from theoros.numeric.regression.logistic import Separated, fit_logistic
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.verdict import shown
from theoros.verbs.model.logistic import words as saying
from theoros.verbs.model.logistic.fit import FittedOutcome
from theoros.verbs.model.logistic.pictures import curve_picture, cut_picture, roc_picture
from theoros.verbs.model.logistic.report import LogisticReport
from theoros.verbs.model.logistic.tables import tables_of
from theoros.verbs.model.logistic.words import assumptions_of
from theoros.verbs.model.logistic.working import working_of
from theoros.verbs.model.multiple.data import Design, dependent_words, read_design
from theoros.verbs.model.tables import _keep, design_terms
from theoros.verbs.model.words.amounts import for_each

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement


def drafts(s: ModelStatement, tables: Tables) -> Iterator[Draft]:
    """The probability of a level. Raises CannotAnswer."""
    table, what, level = tables[s.table], str(s.what), str(s.level)
    codes = table.codes(what)
    cases = table.cases
    there = cases[codes[cases] >= 0]
    if not there.size:
        raise CannotAnswer(f"There is no value of {what}. Choose another column.", "what")
    design = read_design(s, tables, there)
    outcome = codes[design.rows] == list(table.levels(what)).index(level)
    count = int(outcome.sum())
    if count in (0, outcome.size):
        all_or_none = "All" if count else "None"
        raise CannotAnswer(
            f"{all_or_none} of the rows have {level} for {what}, but both outcomes are needed. Choose another "
            "level or column.",
            "level",
        )
    alone = len(design.predictors) == 1 and not design.predictors[0].levels
    try:
        found = FittedOutcome(design, outcome, fit_logistic(design.matrix, outcome))
    except Dependent as problem:
        raise CannotAnswer(f"{dependent_words(design, problem.which)}. Leave one of them out.", "also") from None
    except TooFewCases:
        raise CannotAnswer("There must be more rows than terms. Use fewer predictors.", "also") from None
    except Separated:
        names = listed([one.name for one in design.predictors])
        picture = curve_picture(s, None, design, outcome) if alone else None
        yield Draft(
            Answer(
                picture=picture,
                used=int(outcome.size),
                left_out=design.left_out,
                reading=Reading(
                    f"{names} {'separates' if len(design.predictors) == 1 else 'separate'} {level} from the "
                    f"others completely, or nearly so.",
                    (
                        "The curve would be infinitely steep, so no odds ratios can be given.",
                        "Remove a predictor, merge levels with few rows, or collect more cases between them.",
                    ),
                ),
            )
        )
        return
    yield Draft(_answer_of(LogisticReport(s, tables, found, alone, others_of(table.levels(what), level))))


def others_of(levels: tuple[str, ...] | list[str], level: str) -> tuple[str, ...]:
    return tuple(one for one in levels if one != level)


def kept_of_outcome(s: ModelStatement, design: Design, coefficients: Floats) -> tuple[Link, ...]:
    """The probabilities as a column, with the coefficients as they are now."""
    terms = design_terms(design)
    if not terms:
        return ()
    first, *rest = coefficients.tolist()
    odds = f"{first!r}" + "".join(f" + ({b!r}) * {term}" for b, term in zip(rest, terms, strict=True))
    return (
        _keep(
            s,
            design.table.by_name,
            "Keep probabilities as a column, by these coefficients",
            f"probability of {s.level}",
            f"1 / (1 + exp(-({odds})))",
        ),
    )


def _answer_of(r: LogisticReport) -> Answer:
    s, found = r.s, r.found
    cut = cut_picture(s, found)
    picture = curve_picture(s, found, found.design, found.outcome) if r.alone else cut
    sections = [Section("Which cases are classified correctly", cut)] if r.alone else []
    note = f"Area under the curve {number(found.roc.area, 3)}; the mark is this cut-off."
    sections.append(Section("Every cut-off (ROC curve)", roc_picture(s, found), note=note))
    return Answer(
        picture=picture,
        sections=tuple(sections),
        figures=tables_of(r),
        reading=_reading(r),
        working=working_of(r),
        used=found.n,
        left_out=found.design.left_out,
        numbers=_numbers(r),
    )


def _numbers(r: LogisticReport) -> dict[str, object]:
    found = r.found
    made: dict[str, object] = {
        "names": list(r.design.names),
        "coefficients": found.fit.coefficients.tolist(),
        "errors": found.fit.standard_errors.tolist(),
        "log_likelihood": found.fit.log_likelihood,
        "null": found.fit.null,
        "p": found.p,
        "area": found.roc.area,
        "n": found.n,
    }
    if r.predicted is not None:
        made["probability"] = list(r.predicted[2])
    return made


def _reading(r: LogisticReport) -> Reading:
    s, found = r.s, r.found
    what, level, noun = str(s.what), str(s.level), r.design.noun
    said = saying.ratios(found, level, s.confidence)
    if len(r.design.terms) == 1 and shown(found.p) and not r.design.predictors[0].levels:
        ratio, low, high = found.ratio(1, s.confidence)
        one = r.design.predictors[0]
        said = [
            f"{for_each(one.name, one.column.unit, 1.0, one.column.unit)}, the odds ratio is {significant(ratio, 4)} "
            f"({r.sure} interval {significant(low, 4)} to {significant(high, 4)})."
        ]
    worry = []
    if r.predicted is not None:
        row, unsaid, ends = r.predicted
        said.append(saying.prediction(found, row, unsaid, level, ends, s.confidence, noun))
        out = [
            one.name
            for one, v in zip(r.design.predictors, row.tolist(), strict=True)
            if not one.levels and not one.values.min() <= v <= one.values.max()
        ]
        if out:
            worry.append(f"The value of {listed(out)} is outside the data.")
    said.append(saying.area_words(found, level, noun))
    now = found.classed(float(s.cut))
    said.append(saying.classed_words(now, float(s.cut), level, noun, found.events / found.n))
    if len(r.others) > 1:
        worry.append(f"The other levels of {what} are taken together: {listed(r.others)}.")
    return Reading(
        saying.headline(found, what, level),
        tuple(said),
        assumptions=assumptions_of(r),
        cautions=tuple(worry),
        next=_links(r),
    )


def _links(r: LogisticReport) -> tuple[Link, ...]:
    s, made = r.s, list[Link]()
    if r.alone and s.read is None:
        middle = float(f"{float(np.median(r.design.predictors[0].values)):.3g}")
        made.append(Link("Predict a probability", sets=("read", middle)))
    if s.also:
        made.append(Link("Remove the other predictors", sets=("also", ())))
    share = r.found.events / r.found.n
    if abs(share - float(s.cut)) > 0.05:
        made.append(
            Link(
                f"Class from {saying.percent(share)} on, the share of {s.level} here",
                sets=("cut", float(f"{share:.3g}")),
            )
        )
    made += kept_of_outcome(s, r.design, r.found.fit.coefficients)
    return tuple(made)

"""Answers a model of two outcomes by logistic regression."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.parts import (
    Answer,
    Cell,
    Choice,
    Condition,
    FigureRow,
    Heading,
    Link,
    Reading,
    ResultTable,
    Section,
    Step,
    cell,
)
from theoros.answer.wording import exact, listed, number, p_equals, p_value, significant, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.least_squares import Dependent, TooFewCases
from theoros.numeric.regression.logistic import Separated, fit_logistic
from theoros.verbs.core.slots import Tables
from theoros.verbs.model.judging import said_of_independence
from theoros.verbs.model.keeping import kept_of_outcome
from theoros.verbs.model.outcomes import saying
from theoros.verbs.model.outcomes.fitting import Outcome
from theoros.verbs.model.outcomes.pictures import curve_picture, cut_picture, roc_picture
from theoros.verbs.model.several.design import Design, dependent_words, read_design, typed_values

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

ENOUGH = 10
"""Cases of the rarer outcome for each term (Peduzzi et al. 1996)."""


def answer_outcome(s: ModelStatement, tables: Tables) -> Answer:
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
        all_or_none = "Every one" if count else "None"
        raise CannotAnswer(
            f"{all_or_none} of the rows has {level} for {what}: both outcomes are needed. Choose "
            f"another level or column.",
            "level",
        )
    alone = len(design.predictors) == 1 and not design.predictors[0].levels
    try:
        found = Outcome(design, outcome, fit_logistic(design.matrix, outcome))
    except Dependent as problem:
        raise CannotAnswer(f"{dependent_words(design, problem.which)}. Leave one of them out.", "also") from None
    except TooFewCases:
        raise CannotAnswer("There are no more rows than terms. Take fewer predictors.", "also") from None
    except Separated:
        names = listed([one.name for one in design.predictors])
        picture = curve_picture(s, None, design, outcome) if alone else None
        return Answer(
            s.text(tables),
            picture=picture,
            used=int(outcome.size),
            left_out=design.left_out,
            reading=Reading(
                f"{names} {'parts' if len(design.predictors) == 1 else 'part'} {level} from the "
                f"others completely, or nearly so.",
                (
                    "The curve would be infinitely steep, so that no odds ratios can be told.",
                    "Take a predictor out, merge levels with few rows, or collect cases between.",
                ),
            ),
        )
    return _Outcome(s, tables, found, alone, others_of(table.levels(what), level)).answer()


def others_of(levels: tuple[str, ...] | list[str], level: str) -> tuple[str, ...]:
    return tuple(one for one in levels if one != level)


@dataclass
class _Outcome:
    s: ModelStatement
    tables: Tables
    found: Outcome
    alone: bool
    others: tuple[str, ...]

    @property
    def sure(self) -> str:
        return f"{exact(round(100 * self.s.confidence, 10))}\u00a0%"

    @property
    def design(self) -> Design:
        return self.found.design

    def answer(self) -> Answer:
        s, found = self.s, self.found
        cut = cut_picture(s, found)
        picture = curve_picture(s, found, found.design, found.outcome) if self.alone else cut
        sections = [Section("Which cases are classed rightly", cut)] if self.alone else []
        note = f"Area under the curve {number(found.roc.area, 3)}; the mark is this cut-off."
        sections.append(Section("Every cut-off (ROC curve)", roc_picture(s, found), note=note))
        return Answer(
            s.text(self.tables),
            picture=picture,
            sections=tuple(sections),
            figures=self._figures(),
            reading=self._reading(),
            working=self._working(),
            used=found.n,
            left_out=found.design.left_out,
            numbers=self._numbers(),
        )

    def _figures(self) -> tuple[ResultTable, ...]:
        made = [self._coefficients(), self._classes(), self._whole()]
        return tuple(made)

    def _coefficients(self) -> ResultTable:
        found, rows = self.found, []
        for at, name in enumerate(self.design.names):
            b, error = float(found.fit.coefficients[at]), float(found.fit.errors[at])
            p = found.p_of(at)
            ratio, low, high = found.ratio(at, self.s.confidence)
            ends = (ratio, low, high) if at else ()
            rows.append(
                FigureRow(
                    (
                        Cell(name, name),
                        cell(b, significant(b, 5)),
                        cell(error, significant(error, 4)),
                        cell(b / error, number(b / error, 2)),
                        cell(p, p_value(p)),
                        *(cell(v, significant(v, 4)) for v in ends),
                        *(Cell("–") for _ in range(3 - len(ends))),
                    )
                )
            )
        headings = (
            Heading("term", "term", numeric=False),
            Heading("estimate", "log odds"),
            Heading("se", "standard error"),
            Heading("z", "z"),
            Heading("p", "p-value"),
            Heading("ratio", "odds ratio"),
            Heading("low", f"{self.sure} from"),
            Heading("high", "to"),
        )
        return ResultTable("coefficients", headings, tuple(rows), title="Coefficients")

    def _classes(self) -> ResultTable:
        now, level = self.found.classed(float(self.s.cut)), str(self.s.level)
        rows = []
        for name, so, not_so, right in (
            (level, now.hits, now.misses, now.sensitivity),
            (f"not {level}", now.false_alarms, now.rejections, now.specificity),
        ):
            rows.append(
                FigureRow(
                    (
                        Cell(name, name),
                        Cell(whole(so), so),
                        Cell(whole(not_so), not_so),
                        cell(right, saying.percent(right)),
                    )
                )
            )
        headings = (
            Heading("is", "is", numeric=False),
            Heading("so", f"classed as {level}"),
            Heading("not", f"classed as not {level}"),
            Heading("right", "rightly"),
        )
        title = f"Classed from a probability of {exact(round(100 * self.s.cut, 6))}\u00a0%"
        return ResultTable("classes", headings, tuple(rows), title=title)

    def _whole(self) -> ResultTable:
        found = self.found
        fit, df = found.fit, found.terms - 1
        cells = (
            cell(fit.log_likelihood, number(fit.log_likelihood, 3)),
            cell(fit.gain, number(fit.gain, 2)),
            Cell(whole(df), df),
            cell(found.p, p_value(found.p)),
            cell(found.share, number(found.share, 3)),
            cell(found.aicc, number(found.aicc, 1)),
            cell(found.roc.area, number(found.roc.area, 3)),
        )
        headings = (
            Heading("ll", "log-likelihood"),
            Heading("chi2", "χ²"),
            Heading("df", "df"),
            Heading("p", "p-value"),
            Heading("r2", "R² (McFadden)"),
            Heading("aicc", "AICc"),
            Heading("area", "area under ROC"),
        )
        return ResultTable("whole", headings, (FigureRow(cells),), title="The model as a whole")

    @cached_property
    def predicted(self) -> tuple[Floats, tuple[str, ...], tuple[float, float, float]] | None:
        s = self.s
        if self.alone and s.read is not None:
            row, unsaid = np.array([[float(s.read)]]), tuple[str, ...]()
        elif s.values.strip():
            row, unsaid = typed_values(s, self.design)
        else:
            return None
        p, low, high = self.found.probability(self.design.row(row), s.confidence)
        return row[0], unsaid, (float(p[0]), float(low[0]), float(high[0]))

    def _numbers(self) -> dict[str, object]:
        found = self.found
        made: dict[str, object] = {
            "names": list(self.design.names),
            "coefficients": found.fit.coefficients.tolist(),
            "errors": found.fit.errors.tolist(),
            "log_likelihood": found.fit.log_likelihood,
            "null": found.fit.null,
            "p": found.p,
            "area": found.roc.area,
            "n": found.n,
        }
        if self.predicted is not None:
            made["probability"] = list(self.predicted[2])
        return made

    def _reading(self) -> Reading:
        s, found = self.s, self.found
        what, level, noun = str(s.what), str(s.level), self.design.noun
        said = saying.ratios(found, level, s.confidence)
        if len(self.design.terms) == 1 and found.p < 0.05 and not self.design.predictors[0].levels:
            ratio, low, high = found.ratio(1, s.confidence)
            unit = self.design.predictors[0].column.unit or "1"
            said = [
                f"For each extra {unit} the odds ratio is {significant(ratio, 4)} ({self.sure}:"
                f" {significant(low, 4)} to {significant(high, 4)})."
            ]
        worry = []
        if self.predicted is not None:
            row, unsaid, ends = self.predicted
            said.append(saying.prediction(found, row, unsaid, level, ends, s.confidence, noun))
            out = [
                one.name
                for one, v in zip(self.design.predictors, row.tolist(), strict=True)
                if not one.levels and not one.values.min() <= v <= one.values.max()
            ]
            if out:
                worry.append(f"The value of {listed(out)} lies outside the data.")
        said.append(saying.area_words(found, level, noun))
        now = found.classed(float(s.cut))
        said.append(saying.classed_words(now, float(s.cut), level, noun, found.events / found.n))
        worry.append(saying.odds_words(level))
        if len(self.others) > 1:
            worry.append(f"The other levels of {what} are taken together: {listed(self.others)}.")
        worry.append(
            "The same cases that made the model are classed by it, so that it looks better than it is for others."
        )
        return Reading(
            saying.headline(found, what, level),
            tuple(said),
            conditions=self._conditions(),
            cautions=tuple(worry),
            next=self._links(),
        )

    def _links(self) -> tuple[Link, ...]:
        s, made = self.s, list[Link]()
        if self.alone and s.read is None:
            middle = float(f"{float(np.median(self.design.predictors[0].values)):.3g}")
            made.append(Link("Read a probability", sets=("read", middle)))
        if s.also:
            made.append(Link("Leave the further predictors out", sets=("also", ())))
        share = self.found.events / self.found.n
        if abs(share - float(s.cut)) > 0.05:
            made.append(
                Link(
                    f"Class from {saying.percent(share)} on, the share of {s.level} here",
                    sets=("cut", float(f"{share:.3g}")),
                )
            )
        made += kept_of_outcome(s, self.design, self.found.fit.coefficients)
        return tuple(made)

    def _conditions(self) -> tuple[Condition, ...]:
        found, level = self.found, str(self.s.level)
        made = []
        rare = min(found.events, found.n - found.events)
        enough = rare >= ENOUGH * (found.terms - 1)
        said = saying.few(found, level)
        made.append(
            Condition(
                "holds" if enough else "fails", f"{said}: {'enough' if enough else f'{ENOUGH} for each are wanted'}"
            )
        )
        if found.bend is not None:
            if found.bend < 0.01:
                made.append(Condition("fails", saying.bend_words(found.bend)))
            else:
                made.append(Condition("holds", f"log odds are straight ({p_equals(found.bend)})"))
        text, mark = said_of_independence(self.s, self.design.noun)
        choices = (
            Choice("yes", "independent", "yes", self.s.independent == "yes"),
            Choice("no", "independent", "no", self.s.independent == "no"),
        )
        made.append(Condition(mark, text, choices))
        return tuple(made)

    def _working(self) -> tuple[Step, ...]:
        found, level = self.found, str(self.s.level)
        terms = significant(float(found.fit.coefficients[0]), 5)
        for name, b in zip(self.design.names[1:], found.fit.coefficients[1:].tolist(), strict=True):
            terms += f" {'−' if b < 0 else '+'} {significant(abs(b), 5)} × {name}"
        lines: list[str | Formula] = [f"log odds η of {level} = {terms}", formula("{probability} = 1 / (1 + e^{−η})")]
        made = [Step("The probability", tuple(lines))]
        if self.predicted is not None:
            row, _, ends = self.predicted
            eta = float((self.design.row(row[None, :]) @ found.fit.coefficients)[0])
            made.append(
                Step(
                    "The probability asked for",
                    (
                        f"η = {number(eta, 4)}",
                        formula(f"{{probability}} = 1 / (1 + e^{{{number(-eta, 4)}}}) = {number(ends[0], 4)}"),
                    ),
                )
            )
        made.append(
            Step(
                "Against one probability for all",
                (
                    f"χ² = 2 ({number(found.fit.log_likelihood, 3)} − ({number(found.fit.null, 3)})) = "
                    f"{number(found.fit.gain, 3)} with {found.terms - 1} degree"
                    f"{'s' if found.terms > 2 else ''} of freedom",
                    p_equals(found.p),
                ),
            )
        )
        return tuple(made)

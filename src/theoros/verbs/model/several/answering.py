"""Answers a model with several predictors."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import (
    Answer,
    Cell,
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
from theoros.answer.picture import Picture
from theoros.answer.wording import exact, listed, number, p_value, significant, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import Dependent, TooFewCases, sum_of_squares
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.columns import is_number, known_in, squarable
from theoros.verbs.data.groups import workable
from theoros.verbs.model.judging import checks_of
from theoros.verbs.model.keeping import kept_of_several
from theoros.verbs.model.pairs import Group, ModelPairs, read_pairs
from theoros.verbs.model.pictures import STRIPS, Drawn, residual_frame, residual_note, residual_title, scatter_picture
from theoros.verbs.model.several import saying
from theoros.verbs.model.several.design import Design, dependent_words, leave_out, read_design, typed_values
from theoros.verbs.model.several.fitting import JudgedSeveral, Several, best_subsets, fit_several, parts_of, stepwise
from theoros.verbs.model.several.pictures import partial_picture
from theoros.verbs.procedures.anova_table import Source, anova_table

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement


INFLATION = "1 where the others tell nothing of it; from 10 on it is hardly its own."


def answer_several(s: ModelStatement, tables: Tables) -> Answer:
    """A number by several predictors; where there is no model, why, beside the scatter."""
    try:
        return _answer(s, tables)
    except CannotAnswer as found:
        return Answer(s.text(tables), problem=found.problem, picture=_scatter(s, tables))


def _scatter(s: ModelStatement, tables: Tables) -> Picture | None:
    """The response against the first predictor, as it can be seen without a model."""
    alone = replace(s, also=(), by=None, read=None, also_at="")
    if not is_number(tables[s.table], s.against):
        return None
    try:
        pairs = read_pairs(alone, tables)
    except CannotAnswer:
        return None
    drawn = [Drawn(pairs.all, "")]
    return scatter_picture(alone, pairs, drawn, "", "The rows, without a model.")


def _answer(s: ModelStatement, tables: Tables) -> Answer:
    table, what = tables[s.table], str(s.what)
    y = workable(table, what)
    there, _ = known_in(table, what)
    if not there.size:
        raise CannotAnswer(f"There is no value of {what}. Choose another column.", "what")
    design = read_design(s, tables, there)
    values = y[design.rows]
    squarable(values, what, "what")
    if np.ptp(values) == 0:
        raise CannotAnswer(f"{what} is the same in every row: there is nothing to tell. Choose another.", "what")
    try:
        found = fit_several(design, values)
    except Dependent as problem:
        said = f"{dependent_words(design, problem.which)}. Leave one of them out."
        raise CannotAnswer(said, "also", leave_out(s, design, problem.which[0])) from None
    except TooFewCases:
        raise CannotAnswer("There are no more rows than terms. Take fewer predictors.", "also") from None
    return _Several(s, tables, found, _pairs(s, tables, design, values)).answer()


def _pairs(s: ModelStatement, tables: Tables, design: Design, y: Floats) -> ModelPairs:
    """The cases with the first predictor as x, for what is told of any model."""
    table = tables[s.table]
    first = design.predictors[0]
    names = tuple((float(k), level) for k, level in enumerate(first.levels))
    return ModelPairs(
        table,
        table.column(str(s.what)),
        first.column,
        (0, table.decimals(str(s.what))),
        (Group("", "", first.values, y, design.rows),),
        design.left_out,
        names,
    )


@dataclass
class _Several:
    s: ModelStatement
    tables: Tables
    fit: Several
    pairs: ModelPairs

    @cached_property
    def judged(self) -> JudgedSeveral:
        return JudgedSeveral(self.fit)

    @property
    def plain(self) -> bool:
        """Whether each predictor stands by itself, without products and squares."""
        return not (self.s.products or self.s.squares)

    @property
    def sure(self) -> str:
        return f"{exact(round(100 * self.s.confidence, 10))}\u00a0%"

    @cached_property
    def overall(self) -> tuple[float, int, float]:
        """F of the whole model, its degrees of freedom, and p."""
        f, total = self.fit, sum_of_squares(self.fit.y)
        df = f.terms - 1
        ratio = (total - f.rss) / df / f.sigma**2 if f.sigma > 0 else math.inf
        p = float(FisherF(df, f.df).sf(ratio)) if math.isfinite(ratio) else 0.0
        return ratio, df, p

    def answer(self) -> Answer:
        s, f = self.s, self.fit
        return Answer(
            s.text(self.tables),
            picture=partial_picture(f, str(s.what)),
            sections=self._sections(),
            figures=self._figures(),
            reading=self._reading(),
            working=self._working(),
            used=f.n,
            left_out=f.design.left_out,
            numbers=self._numbers(),
        )

    def _sections(self) -> tuple[Section, ...]:
        drawn = [Drawn(self.pairs.all, self.fit)]
        frame = residual_frame(self.s, self.pairs, drawn)
        if frame is None:
            return ()
        title = residual_title(self.s)
        picture = Picture((frame,), alt=f"{title}.", slim=self.s.residuals in STRIPS)
        return (Section(title, picture, note=residual_note(self.s)),)

    # figures

    def _figures(self) -> tuple[ResultTable, ...]:
        made = [self._coefficients(), self._parts(), self._variance()]
        subsets = self._subsets()
        if subsets is not None:
            made.append(subsets)
        if self.s.values.strip():
            made.append(self._prediction())
        return tuple(made)

    def _coefficients(self) -> ResultTable:
        f, rows = self.fit, []
        inflation = [math.nan, *f.inflations.tolist()]
        reach = StudentT(f.df).critical(1 - self.s.confidence, "different")
        for at, (name, b) in enumerate(zip(f.design.names, f.coefficients.tolist(), strict=True)):
            error = float(f.errors[at])
            t = b / error if error > 0 else math.nan
            p = float(2 * StudentT(f.df).sf(abs(t))) if math.isfinite(t) else math.nan
            rows.append(
                FigureRow(
                    (
                        Cell(name, name),
                        cell(b, significant(b, 5)),
                        cell(error, significant(error, 4)),
                        cell(t, number(t, 2)),
                        cell(p, p_value(p)) if math.isfinite(p) else Cell("–"),
                        cell(b - reach * error, significant(b - reach * error, 4)),
                        cell(b + reach * error, significant(b + reach * error, 4)),
                        *(
                            (cell(inflation[at], number(inflation[at], 2), tone=self._tone(inflation[at])),)
                            if self.plain
                            else ()
                        ),
                    )
                )
            )
        headings = (
            Heading("term", "term", numeric=False),
            Heading("estimate", "estimate"),
            Heading("se", "standard error"),
            Heading("t", "t"),
            Heading("p", "p-value"),
            Heading("low", f"{self.sure} from"),
            Heading("high", "to"),
            *((Heading("vif", "variance inflation", help=INFLATION),) if self.plain else ()),
        )
        return ResultTable("coefficients", headings, tuple(rows), title="Coefficients")

    @staticmethod
    def _tone(inflation: float) -> str:
        return "warn" if inflation >= saying.HIGH else ""

    def _parts(self) -> ResultTable:
        rows = []
        for part in parts_of(self.fit):
            rows.append(
                FigureRow(
                    (
                        Cell(part.label, part.label),
                        Cell(whole(part.df), part.df),
                        cell(part.square, significant(part.square, 5)),
                        cell(part.f, number(part.f, 2)),
                        cell(part.p, p_value(part.p)),
                        cell(part.share, number(part.share, 3) if part.share >= 5e-4 else "< 0.001"),
                    )
                )
            )
        headings = (
            Heading("term", "given the others", numeric=False),
            Heading("df", "df"),
            Heading("ss", "sum of squares"),
            Heading("f", "F"),
            Heading("p", "p-value"),
            Heading("share", "adds to R²"),
        )
        return ResultTable("parts", headings, tuple(rows), title="What each adds to all the others")

    def _variance(self) -> ResultTable:
        f = self.fit
        ratio, df, p = self.overall
        total = sum_of_squares(f.y)
        return anova_table(
            (
                Source("model", total - f.rss, df, ratio, p),
                Source("residual", f.rss, f.df),
                Source("total", total, f.n - 1, mean=False),
            )
        )

    def _subsets(self) -> ResultTable | None:
        f = self.fit
        found = best_subsets(f)
        if not found:
            return None
        steps = stepwise(f)
        every = {one.name for one in f.design.predictors}
        lowest = min(found, key=lambda one: one.aicc)
        rows = []
        for one in found:
            said = []
            if one is lowest:
                said.append("lowest AICc")
            if set(one.names) == set(steps):
                said.append("reached by steps")
            rows.append(
                FigureRow(
                    (
                        Cell(listed(list(one.names)), ", ".join(one.names)),
                        cell(one.share, number(one.share, 3)),
                        cell(one.adjusted, number(one.adjusted, 3)),
                        cell(one.sigma, significant(one.sigma, 4)),
                        cell(one.aicc, number(one.aicc, 1)),
                        Cell(" · ".join(said)),
                    ),
                    sets=("subset", one.names),
                    chosen=set(one.names) == every,
                )
            )
        headings = (
            Heading("set", "best set of each size", numeric=False),
            Heading("r2", "R²"),
            Heading("adjusted", "adjusted R²"),
            Heading("sd", "residual SD"),
            Heading("aicc", "AICc", help="Lower is better; less than 2 apart is about as good."),
            Heading("note", "", numeric=False),
        )
        return ResultTable("subsets", headings, tuple(rows), title="Fewer predictors", ways=True)

    @cached_property
    def predicted(self) -> tuple[Floats, float, dict[str, tuple[float, float]], tuple[str, ...]]:
        f = self.fit
        row, unsaid = typed_values(self.s, f.design)
        line = f.design.row(row)
        value = float((line @ f.coefficients)[0])
        spread = float(f.linear.spread(line)[0])
        reach = StudentT(f.df).critical(1 - self.s.confidence, "different") * f.sigma
        wide = reach * math.sqrt(1 + spread**2)
        ends = {"mean": (value - reach * spread, value + reach * spread), "single": (value - wide, value + wide)}
        return row[0], value, ends, unsaid

    def _prediction(self) -> ResultTable:
        _, value, ends, _ = self.predicted
        places = min(8, self.pairs.decimals[1] + 1)
        cells = [cell(value, number(value, places))]
        for name in ("mean", "single"):
            cells += [cell(end, number(end, places)) for end in ends[name]]
        headings = (
            Heading("prediction", "prediction"),
            Heading("mean_low", f"mean, {self.sure} from"),
            Heading("mean_high", "to"),
            Heading("single_low", f"single {self.pairs.noun} from"),
            Heading("single_high", "to"),
        )
        return ResultTable("prediction", headings, (FigureRow(tuple(cells)),), title="Prediction")

    def _numbers(self) -> dict[str, object]:
        f = self.fit
        ratio, df, p = self.overall
        made: dict[str, object] = {
            "names": list(f.design.names),
            "coefficients": f.coefficients.tolist(),
            "errors": f.errors.tolist(),
            "inflations": f.inflations.tolist(),
            "r2": f.share,
            "adjusted": f.adjusted,
            "sigma": f.sigma,
            "aicc": f.aicc,
            "f": ratio,
            "df": [df, f.df],
            "p": p,
            "n": f.n,
        }
        if self.s.values.strip():
            _, value, ends, _ = self.predicted
            made["prediction"] = {"value": value, **{k: list(v) for k, v in ends.items()}}
        return made

    # words

    def _reading(self) -> Reading:
        s, f, pairs = self.s, self.fit, self.pairs
        ratio, df, p = self.overall
        said = [
            f"R² is {number(f.share, 3)}, adjusted for the number of terms {number(f.adjusted, 3)};"
            f" AICc is {number(f.aicc, 1)}. All together: F({df}, {whole(f.df)}) = "
            f"{number(ratio, 2)}, {_p(p)}."
        ]
        said += saying.slopes_of(pairs, f)
        idle = saying.useless(parts_of(f))
        if idle:
            said.append(idle)
        worry = []
        if s.values.strip():
            row, value, ends, unsaid = self.predicted
            said.append(saying.prediction(pairs, f, row, ends, value, s.confidence, unsaid))
            out = [
                one.name
                for one, v in zip(f.design.predictors, row.tolist(), strict=True)
                if not one.levels and not one.values.min() <= v <= one.values.max()
            ]
            if out:
                worry.append(f"The value of {listed(out)} lies outside the data.")
        if not self.plain:
            worry.append(
                "A predictor that is in a product or a square is not judged by itself: what it "
                "adds depends on where the other one is."
            )
        worry += self._thin()
        if f.perfect:
            worry.append("All rows lie on the model exactly, so that no errors can be told.")
        worry.append(
            "A set that is picked out of many by these data looks better than it is: its p-values "
            "are too small and its intervals too narrow. Check it on other data."
        )
        worry.append("That they go together does not say that one causes the other.")
        links = (
            Link("Leave the further predictors out", sets=("also", ())),
            Link(
                "Leave the products out" if s.products else "Try products of two (interactions)",
                sets=("products", not s.products),
            ),
            *kept_of_several(s, f.design),
        )
        return Reading(
            saying.headline(pairs, f, p), tuple(said), conditions=self._conditions(), cautions=tuple(worry), next=links
        )

    def _thin(self) -> list[str]:
        """Levels that have one row only."""
        made = []
        for one in self.fit.design.predictors:
            for code, level in enumerate(one.levels):
                if int((one.values == code).sum()) == 1:
                    made.append(f"{level} of {one.name} has one row only, which the model fits exactly.")
        return made

    def _conditions(self) -> tuple[Condition, ...]:
        f = self.fit
        if f.perfect:
            return ()
        made = list(checks_of(self.s, self.pairs, self.judged))
        if not self.plain:
            return tuple(made)  # products go with their parts, and say nothing of the predictors
        high = [name for name, v in zip(f.design.names[1:], f.inflations.tolist(), strict=True) if v >= saying.HIGH]
        if high:
            made.append(
                Condition(
                    "judge",
                    f"{listed(high)} can hardly be told from the others: variance inflation "
                    f"up to {number(float(f.inflations.max()), 1)}",
                )
            )
        else:
            made.append(Condition("holds", "each predictor can be told from the others"))
        return tuple(made)

    def _working(self) -> tuple[Step, ...]:
        f, s = self.fit, self.s
        rss, total = f.rss, sum_of_squares(f.y)
        lines = [
            "With X for the matrix of the terms, a 1 first, the normal equations are "
            "X′X b = X′y; they are solved by an orthogonal decomposition of X.",
            saying.equation(f, str(s.what)),
        ]
        made = [Step("The coefficients", tuple(lines))]
        if f.terms <= 4:
            made.append(Step("The normal equations", tuple(_normal_equations(f))))
        made.append(
            Step(
                "How well it fits",
                (
                    f"R² = 1 − {significant(rss, 5)} / {significant(total, 5)} = {number(f.share, 4)}",
                    f"adjusted R² = 1 − (1 − R²)(n − 1)/(n − {f.terms}) = {number(f.adjusted, 4)}",
                    f"s = √({significant(rss, 5)} / {whole(f.df)}) = {significant(f.sigma, 4)}",
                ),
            )
        )
        return tuple(made)


def _normal_equations(f: Several) -> list[str]:
    """Each of them with its numbers."""
    x = f.design.matrix
    square, side = x.T @ x, x.T @ f.y
    made = []
    for at in range(x.shape[1]):
        terms = [f"{significant(float(square[at, k]), 6)} b{_SUB[k]}" for k in range(x.shape[1])]
        made.append(f"{' + '.join(terms)} = {significant(float(side[at]), 6)}".replace("+ −", "− "))
    return made


_SUB = "₀₁₂₃₄"


def _p(p: float) -> str:
    text = p_value(p)
    return f"p {text}" if text.startswith(("<", ">")) else f"p = {text}"

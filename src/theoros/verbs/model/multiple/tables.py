"""Tables of a model of several predictors: coefficients, what each adds, variance, fewer predictors, a prediction."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.parts import Heading, ResultTable, Tone
from theoros.answer.result_tables import (
    Coefficient,
    Ends,
    TableColumn,
    aicc,
    coefficients_table,
    figure,
    interval,
    table_of,
    words,
)
from theoros.answer.wording import listed, number, p_value, significant, whole
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.verbs.model.multiple.fit import Subset, TermPart, best_subsets, parts_of, stepwise
from theoros.verbs.model.multiple.report import MultipleReport
from theoros.verbs.model.multiple.words import HIGH
from theoros.verbs.procedures.anova_table import Source, anova_table

INFLATION = "1 if it is unrelated to the other predictors; 10 or more if it is strongly related to them."


def tables_of(r: MultipleReport) -> tuple[ResultTable, ...]:
    """All of them, in the order in which they stand."""
    made = [_coefficients(r), _parts(r), _variance(r)]
    subsets = _subsets(r)
    if subsets is not None:
        made.append(subsets)
    if r.s.values.strip():
        made.append(_prediction(r))
    return tuple(made)


def _coefficients(r: MultipleReport) -> ResultTable:
    f = r.fit
    reach = StudentT(f.df).critical(1 - r.s.confidence, "different")
    rows = []
    for name, b, error in zip(f.design.names, f.coefficients.tolist(), f.standard_errors.tolist(), strict=True):
        t = b / error if error > 0 else math.nan
        p = float(2 * StudentT(f.df).sf(abs(t))) if math.isfinite(t) else None
        rows.append(Coefficient(name, b, error, t, p, (b - reach * error, b + reach * error)))
    if not r.plain:
        return coefficients_table(rows, r.s.confidence, title="Coefficients")
    inflations = dict(zip(f.design.names[1:], f.inflations.tolist(), strict=True))

    def tone(one: Coefficient) -> Tone:
        return "warn" if inflations.get(one.name, 0.0) >= HIGH else ""

    vif: TableColumn[Coefficient] = figure(
        "vif",
        "variance inflation",
        lambda one: inflations.get(one.name),
        lambda v: number(v, 2),
        help=INFLATION,
        tone=tone,
    )
    return coefficients_table(rows, r.s.confidence, (vif,), title="Coefficients")


_PARTS: tuple[TableColumn[TermPart], ...] = (
    words("term", "given the others", lambda one: one.label),
    figure("df", "df", lambda one: one.df, lambda v: whole(round(v))),
    figure("ss", "sum of squares", lambda one: one.square, lambda v: significant(v, 5)),
    figure("f", "F", lambda one: one.f, lambda v: number(v, 2)),
    figure("p", "p-value", lambda one: one.p, p_value),
    figure("share", "adds to R²", lambda one: one.share, lambda v: number(v, 3) if v >= 5e-4 else "< 0.001"),
)


def _parts(r: MultipleReport) -> ResultTable:
    return table_of("parts", _PARTS, parts_of(r.fit), title="What each adds to the others")


def _variance(r: MultipleReport) -> ResultTable:
    f = r.fit
    ratio, df, p = r.overall
    total = sum_of_squares(f.y)
    return anova_table(
        (
            Source("model", total - f.rss, df, ratio, p),
            Source("residual", f.rss, f.df),
            Source("total", total, f.n - 1, mean=False),
        )
    )


def _subsets(r: MultipleReport) -> ResultTable | None:
    """The best set of predictors of each size."""
    f = r.fit
    found = best_subsets(f)
    if not found:
        return None
    steps = set(stepwise(f))
    every = {one.name for one in f.design.predictors}
    lowest = min(found, key=lambda one: one.aicc)

    def note(one: Subset) -> str:
        said = ["lowest AICc"] if one is lowest else []
        return " · ".join([*said, "reached by steps"] if set(one.names) == steps else said)

    columns: tuple[TableColumn[Subset], ...] = (
        words("set", "best set of each size", lambda one: listed(list(one.names))),
        figure("r2", "R²", lambda one: one.r_squared, lambda v: number(v, 3)),
        figure("adjusted", "adjusted R²", lambda one: one.adjusted, lambda v: number(v, 3)),
        figure("sd", "residual SD", lambda one: one.sigma, lambda v: significant(v, 4)),
        aicc(lambda one: one.aicc),
        words("note", "", note),
    )
    return table_of(
        "subsets",
        columns,
        found,
        title="Fewer predictors (a set chosen by the same data looks better than it is)",
        methods=True,
        sets=lambda one: ("subset", one.names),
        chosen=lambda one: set(one.names) == every,
    )


@dataclass(frozen=True)
class _Prediction:
    value: float
    mean: Ends
    single: Ends


def _prediction(r: MultipleReport) -> ResultTable:
    _, value, ends, _ = r.predicted
    places = min(8, r.pairs.decimals[1] + 1)

    def write(v: float) -> str:
        return number(v, places)

    def mean(one: _Prediction) -> Ends:
        return one.mean

    def single(one: _Prediction) -> Ends:
        return one.single

    prediction: TableColumn[_Prediction] = figure("prediction", "prediction", lambda one: one.value, write)
    low, high = interval(r.s.confidence, single, write, key="single")
    low = TableColumn(Heading("single_low", f"single {r.pairs.noun} from"), low.cell)
    columns = (prediction, *interval(r.s.confidence, mean, write, what="mean", key="mean"), low, high)
    rows = (_Prediction(value, ends["mean"], ends["single"]),)
    return table_of("prediction", columns, rows, title="Prediction")

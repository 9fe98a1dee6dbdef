"""Tables of a model of two outcomes: coefficients with odds ratios, cases classed, the model as a whole."""

from __future__ import annotations

from dataclasses import dataclass, replace

from theoros.answer.parts import ResultTable
from theoros.answer.result_tables import (
    Coefficient,
    Ends,
    TableColumn,
    coefficient_columns,
    figure,
    interval,
    table_of,
    words,
)
from theoros.answer.wording import number, p_value, percent_text, significant, whole
from theoros.verbs.model.logistic.fit import FittedOutcome
from theoros.verbs.model.logistic.report import LogisticReport
from theoros.verbs.model.logistic.words import percent


def tables_of(r: LogisticReport) -> tuple[ResultTable, ...]:
    """All of them, in the order in which they stand."""
    return _coefficients(r), _classes(r), table_of("whole", _WHOLE, (r.found,), title="The model as a whole")


@dataclass(frozen=True)
class _Odds(Coefficient):
    """A coefficient with its odds ratio; the constant has none."""

    ratio: float | None = None


def _coefficients(r: LogisticReport) -> ResultTable:
    found, rows = r.found, []
    for at, name in enumerate(r.design.names):
        b, error = float(found.fit.coefficients[at]), float(found.fit.standard_errors[at])
        ratio, low, high = found.ratio(at, r.s.confidence)
        made = _Odds(name, b, error, b / error, found.p_of(at))
        rows.append(replace(made, ends=(low, high), ratio=ratio) if at else made)

    def ends(one: _Odds) -> Ends | None:
        return one.ends

    odds: TableColumn[_Odds] = figure("ratio", "odds ratio", lambda one: one.ratio, lambda v: significant(v, 4))
    columns: tuple[TableColumn[_Odds], ...] = (
        *coefficient_columns("z", "log odds"),
        odds,
        *interval(r.s.confidence, ends, lambda v: significant(v, 4)),
    )
    return table_of("coefficients", columns, rows, title="Coefficients")


@dataclass(frozen=True)
class _Class:
    """The cases that are of a class: how many are classed as the level, how many not, the share that is right."""

    name: str
    so: int
    not_so: int
    right: float


def _classes(r: LogisticReport) -> ResultTable:
    now, level = r.found.classed(float(r.s.cut)), str(r.s.level)
    columns: tuple[TableColumn[_Class], ...] = (
        words("is", "is", lambda one: one.name),
        figure("so", f"classified as {level}", lambda one: one.so, lambda v: whole(round(v))),
        figure("not", f"classified as not {level}", lambda one: one.not_so, lambda v: whole(round(v))),
        figure("right", "correctly", lambda one: one.right, percent),
    )
    rows = (
        _Class(level, now.hits, now.misses, now.sensitivity),
        _Class(f"not {level}", now.false_alarms, now.rejections, now.specificity),
    )
    return table_of("classes", columns, rows, title=f"Classed from a probability of {percent_text(r.s.cut)}")


_WHOLE: tuple[TableColumn[FittedOutcome], ...] = (
    figure("ll", "log-likelihood", lambda one: one.fit.log_likelihood, lambda v: number(v, 3)),
    figure("chi2", "χ²", lambda one: one.fit.gain, lambda v: number(v, 2)),
    figure("df", "df", lambda one: one.terms - 1, lambda v: whole(round(v))),
    figure("p", "p-value", lambda one: one.p, p_value),
    figure("r2", "R² (McFadden)", lambda one: one.r_squared, lambda v: number(v, 3)),
    figure("aicc", "AICc", lambda one: one.aicc, lambda v: number(v, 1)),
    figure("area", "area under ROC", lambda one: one.roc.area, lambda v: number(v, 3)),
)

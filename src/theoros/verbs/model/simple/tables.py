"""Tables of a curve: curves side by side, coefficients, groups, predictions, a line by hand."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.formulas.notation import formula
from theoros.answer.formulas.written import to_line
from theoros.answer.nouns import plural
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.result_tables import (
    Coefficient,
    ComparedRow,
    Ends,
    TableColumn,
    aicc,
    coefficients_table,
    comparison,
    figure,
    interval,
    table_of,
    words,
)
from theoros.answer.wording import number, significant, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.student import StudentT
from theoros.verbs.model.curves.curve import Fitted, equation
from theoros.verbs.model.curves.fits import Diagnosed, curve_of, suggested
from theoros.verbs.model.simple.pictures import hand_ends
from theoros.verbs.model.simple.report import CurveReport
from theoros.verbs.model.simple.words import middle_of
from theoros.verbs.model.words.amounts import x_text


def tables_of(r: CurveReport) -> tuple[ResultTable, ...]:
    """All of them, in the order in which they stand."""
    made = []
    if r.found:
        made.append(curves_table(r))
    if r.s.by_hand and not r.grouped:
        made.append(by_hand_table(r))
    if r.grouped:
        made.append(groups_table(r))
    elif r.fits[0].coefficients.size:
        made.append(_coefficients(r))
    if r.s.reads():
        made.append(predictions_table(r))
    return tuple(made)


def curves_table(r: CurveReport) -> ResultTable:
    """The curves side by side, on the scale of y."""
    best, _ = suggested(r.found)
    unit = r.pairs.response.unit
    places = min(6, r.pairs.decimals[1] + 2)
    columns: tuple[TableColumn[Fitted], ...] = (
        figure("r2", "R²", lambda one: one.r_squared, lambda v: number(v, 3)),
        figure(
            "sd", f"residual SD ({unit})" if unit else "residual SD", lambda one: one.sigma, lambda v: number(v, places)
        ),
        aicc(lambda one: one.aicc),
    )
    rows: list[ComparedRow[Fitted]] = []
    for name in sorted(r.found, key=lambda name: (name != r.s.curve, curve_of(r.s, name).order)):
        one, label, sets = r.found[name], curve_of(r.s, name).label, ("curve", name)
        if isinstance(one, str):
            rows.append(ComparedRow(label, name, None, one, "mute", sets=sets))
            continue
        said, tone = one.shown()
        chosen = name == r.s.curve
        eq = equation(one.fitted).removeprefix("ŷ = ") if chosen else ""
        label = f"{label}: {to_line(formula(eq))}" if eq else label
        said = f"{said} · suggested" if name == best else said
        rows.append(ComparedRow(label, name, one.fitted, said, tone, sets=sets, chosen=chosen))
    name_, shows = Heading("curve", "Curve", numeric=False), Heading("shows", "residuals", numeric=False)
    return comparison("methods", rows, name_, columns, shows)


def _coefficients(r: CurveReport) -> ResultTable:
    """Of the only curve there is, each with its t."""
    f, rows = r.fits[0], []
    for at, value in enumerate(f.coefficients.tolist()):
        name = f.meanings[at] if at < len(f.meanings) else f"b_{at}"
        error = math.nan if f.standard_errors is None else float(f.standard_errors[at])
        if not math.isfinite(error):
            rows.append(Coefficient(name, value))
            continue
        t = value / error if error else math.nan
        p = float(2 * StudentT(f.df).sf(abs(t))) if f.df > 0 and math.isfinite(t) else None
        rows.append(Coefficient(name, value, error, t, p, f.interval(at, r.s.confidence) if error else None))
    return coefficients_table(rows, r.s.confidence)


def groups_table(r: CurveReport) -> ResultTable:
    """A row for each group: its curve and how well it fits."""
    places = min(6, r.pairs.decimals[1] + 2)
    meanings = r.fits[0].curve.meanings
    rows = []
    for one in r.drawn:
        n, f = one.group.x.size, one.curve
        cells = [Cell(one.group.label), Cell(whole(n), n)]
        if f is None:
            cells += [Cell("–")] * (len(meanings) + 2)
            cells.append(Cell(str(one.fitted), tone="mute"))
        else:
            said, tone = Diagnosed(f).shown()
            cells += [cell(float(c), significant(float(c), 4)) for c in f.coefficients]
            cells += [cell(f.r_squared, number(f.r_squared, 3)), cell(f.sigma, number(f.sigma, places))]
            cells.append(Cell(said, tone=tone))
        rows.append(FigureRow(tuple(cells)))
    headings = (
        Heading("group", "group", numeric=False),
        Heading("n", "n"),
        *(Heading(f"b{at}", name) for at, name in enumerate(meanings)),
        Heading("r2", "R²"),
        Heading("sd", "residual SD"),
        Heading("shows", "residuals", numeric=False),
    )
    return ResultTable("groups", headings, tuple(rows))


@dataclass(frozen=True)
class _CurvePrediction:
    """A prediction of one group at one place."""

    at: float
    group: str
    value: float
    mean: tuple[float, float]
    single: tuple[float, float]
    outside: bool


def predictions_table(r: CurveReport) -> ResultTable:
    """What is predicted where the student asks, for the mean and for single cases."""
    s, pairs = r.s, r.pairs
    places = min(8, pairs.decimals[1] + 1)
    rows = [_predicted(f, at, one.group.label, s.confidence) for at in s.reads() for one in r.drawn if (f := one.curve)]

    def write(value: float) -> str:
        return number(value, places)

    x: TableColumn[_CurvePrediction] = TableColumn(
        Heading("x", pairs.predictor.label), lambda one: Cell(x_text(pairs, one.at), one.at)
    )
    group: TableColumn[_CurvePrediction] = words("group", "group", lambda one: one.group)
    prediction: TableColumn[_CurvePrediction] = figure("prediction", "prediction", lambda one: one.value, write)
    where: TableColumn[_CurvePrediction] = words(
        "where",
        "",
        lambda one: "outside the data" if one.outside else "",
        tone=lambda one: "warn" if one.outside else "",
    )

    def of_mean(one: _CurvePrediction) -> Ends:
        return one.mean

    def of_single(one: _CurvePrediction) -> Ends:
        return one.single

    mean = interval(s.confidence, of_mean, write, what=middle_of(r.fits[0]), key="mean")
    low, high = interval(s.confidence, of_single, write, key="single")
    low = TableColumn(Heading("single_low", f"single {plural(pairs.noun)} from"), low.cell)
    columns = (x, *((group,) if r.grouped else ()), prediction, *mean, low, high, where)
    return table_of("predictions", columns, rows, title="Predictions")


def _predicted(f: Fitted, at: float, group: str, confidence: float) -> _CurvePrediction:
    place = np.array([at])
    ends = []
    for single in (False, True):
        band = f.band(place, confidence, single=single)
        ends.append((float(band[0][0]), float(band[1][0])) if band is not None else (math.nan, math.nan))
    outside = not float(f.x.min()) <= at <= float(f.x.max())
    return _CurvePrediction(at, group, float(f.predict(place)[0]), ends[0], ends[1], outside)


@dataclass(frozen=True)
class _GroupPrediction:
    name: str
    intercept: float
    slope: float
    rss: float


def by_hand_table(r: CurveReport) -> ResultTable:
    """The line by hand beside the best one, by their sums of squares."""
    f = r.fits[0]
    left, right = hand_ends(r.s, f)
    low, high = float(f.x.min()), float(f.x.max())
    slope = (right - left) / (high - low)
    intercept = left - slope * low
    off = f.y - (intercept + slope * f.x)
    own = float(f.coefficients[0]) if f.coefficients.size > 1 else 0.0
    rows = (
        _GroupPrediction("by hand", intercept, slope, float(off @ off)),
        _GroupPrediction(f.curve.label, own, float(f.coefficients[-1]), f.rss),
    )
    columns: tuple[TableColumn[_GroupPrediction], ...] = (
        words("line", "line", lambda one: one.name),
        figure("intercept", "intercept", lambda one: one.intercept, lambda v: significant(v, 4)),
        figure("slope", "slope", lambda one: one.slope, lambda v: significant(v, 4)),
        figure("rss", "sum of squared residuals", lambda one: one.rss, lambda v: significant(v, 5)),
    )
    return table_of("by hand", columns, rows)

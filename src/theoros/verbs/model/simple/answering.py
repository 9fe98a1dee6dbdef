"""Answers a model: the chosen curve first, then the others beside it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.formulas.notation import formula
from theoros.answer.formulas.written import to_latex
from theoros.answer.nouns import counted, plural, with_article
from theoros.answer.parts import Answer, Draft, Link, Reading, Section
from theoros.answer.picture import Picture
from theoros.answer.wording import listed, number, p_equals, sentence_case, significant, whole
from theoros.lazy_imports import np
from theoros.table.formula import quoted
from theoros.table.kinds import Kind
from theoros.verbs import follow_ups
from theoros.verbs.core.answering import answer
from theoros.verbs.core.row_links import row_links
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.verdict import shown
from theoros.verbs.data.one_sample import Levels
from theoros.verbs.data.two_numbers import TwoNumbers
from theoros.verbs.model.curves.curve import Fitted, LinearCurve, equation, plain_equation
from theoros.verbs.model.curves.fits import MANY, Diagnosed, curve_of, suggested, through
from theoros.verbs.model.data import ModelPairs, is_numeric
from theoros.verbs.model.pictures import STRIPS, residual_frame, residual_note, residual_title
from theoros.verbs.model.simple.pictures import scatter_picture
from theoros.verbs.model.simple.report import CurveReport
from theoros.verbs.model.simple.tables import tables_of
from theoros.verbs.model.simple.words import (
    at_zero,
    cautions,
    headline,
    not_shown,
    prediction,
    slope_is_not_shown,
    strength,
    without_row,
)
from theoros.verbs.model.simple.working import working_of
from theoros.verbs.model.statement import ModelStatement
from theoros.verbs.model.tables import _keep, is_whole, live_links
from theoros.verbs.model.words.amounts import place_text, y_text
from theoros.verbs.model.words.assumptions import FEW_LEVELS, assumptions_of

if TYPE_CHECKING:
    from theoros.table.table import Table

FITTING = "Fitting curves"
MOST_TOLD = 12
"""Groups of which the Reading tells one by one."""


def drafts(s: ModelStatement, tables: Tables) -> Iterator[Draft]:
    """Of many pairs the chosen curve is shown before the others are worked out."""
    table = tables[s.table]
    column = table.by_name.get(str(s.against))
    if column is not None and column.kind is not Kind.NUMBER and not s.as_numbers:
        yield Draft(_of_levels(s, table, tables))
        return
    kept = through(s, tables)
    pairs = kept.pairs
    report = CurveReport(s, tables, kept)
    if isinstance(report.chosen, str) and len(pairs.groups) == 1:
        yield Draft(_without_curve(report, report.chosen))
        return
    if pairs.used > MANY and s.by is None and not kept.has_all(s):
        yield Draft(_answer(report), 0.5, FITTING)
    if s.by is None and isinstance(report.chosen, Diagnosed):
        report.found.update(kept.all(s))
    yield Draft(_answer(report))


def _of_levels(s: ModelStatement, table: Table, tables: Tables) -> Answer:
    """x is a category: what can be done with it."""
    against, what = str(s.against), str(s.what)
    column, levels = table.column(against), tuple(table.levels(against))
    ordered = column.kind is Kind.ORDERED
    numeric = is_numeric(levels)
    links = []
    said = [
        f"A curve needs numbers, and {against} has levels: {', '.join(levels[:6])}{' …' if len(levels) > 6 else ''}."
    ]
    if numeric:
        links.append(Link(f"Read the levels of {against} as numbers", sets=("as_numbers", True)))
        said.append("Its levels are numbers, so they can be used as numbers here. The table does not change.")
    elif ordered and len(levels) > 2:
        links.append(Link(f"Read {against} by its order, as 1 to {len(levels)}", sets=("as_numbers", True)))
        said.append(
            "Means by level do not use the order of the levels. Read as 1, 2, 3, …, the levels have equal distances."
        )
    analysis = follow_ups.hypothesis_test(Levels(what, against), "mean", "anova", table=s.table)
    links.append(Link(f"Compare the means of {what} by {against} (one-way analysis)", statement=analysis))
    plot = follow_ups.plot(s.table, what, by=against)
    links.append(Link(f"Plot {what} by {against}", statement=plot))
    kind = "an ordered" if ordered else "a"
    drawn = answer(plot, tables)
    return Answer(
        picture=drawn.picture,
        used=drawn.used,
        left_out=drawn.left_out,
        reading=Reading(f"{against} is {kind} category.", tuple(said), next=tuple(links)),
    )


def _without_curve(r: CurveReport, why: str) -> Answer:
    """The scatter alone, and why there is no curve."""
    s, pairs = r.s, r.pairs
    picture = scatter_picture(s, pairs, r.drawn, "", "The pairs, without a curve.")
    curve = curve_of(s)
    return Answer(
        picture=picture,
        reading=Reading(
            f"{sentence_case(with_article(curve.label))} cannot be fitted here: {why}.",
            () if _other_curves(r) else ("Choose another column, or collect more rows.",),
            next=_other_curves(r),
        ),
        used=pairs.used,
        left_out=pairs.left_out,
    )


def _other_curves(r: CurveReport) -> tuple[Link, ...]:
    if curve_of(r.s).regression_line:
        return ()
    return (Link("Fit a straight line instead", sets=("curve", "line")),)


def _answer(r: CurveReport) -> Answer:
    s, pairs = r.s, r.pairs
    if not r.fits:
        raise CannotAnswer(
            f"No curve can be fitted in any group: {r.drawn[0].fitted}. Choose other groups, or none.",
            "by",
            ((f"All {plural(pairs.noun)} together", "by", None),),
        )
    picture = scatter_picture(s, pairs, r.drawn, _read_text(r), _alt(r))
    return Answer(
        picture=picture,
        sections=_sections(r),
        figures=tables_of(r),
        reading=_reading(r),
        working=working_of(s, pairs, r.fits[0]) if not r.grouped else (),
        used=pairs.used,
        left_out=pairs.left_out,
        numbers=_numbers(r),
    )


def _read_text(r: CurveReport) -> str:
    s = r.s
    if s.read is None:
        return ""
    if not r.grouped:
        return prediction(s, r.pairs, r.fits[0], float(s.read), short=True)
    at, where = np.array([float(s.read)]), place_text(r.pairs, float(s.read))
    if s.panels or len(r.drawn) > 2:
        return f"at {where}"  # the table has them all
    said = [
        f"{one.group.label} {y_text(r.pairs, float(one.curve.predict(at)[0]))}"
        for one in r.drawn
        if one.curve is not None
    ]
    return f"at {where}: {', '.join(said)}"


def _alt(r: CurveReport) -> str:
    pairs = r.pairs
    said = f"{counted(pairs.used, 'pair')} of {pairs.response.name} and {pairs.predictor.name}"
    if r.grouped:
        curve = r.fits[0].curve.label
        return f"{said}, with {counted(len(r.fits), curve)}, one for each group."
    curve = with_article(r.fits[0].curve.label)
    return f"{said}, with {curve}. {headline(pairs, r.fits[0])}"


def _sections(r: CurveReport) -> tuple[Section, ...]:
    s, pairs, made = r.s, r.pairs, []
    frame = residual_frame(s, pairs, r.drawn)
    if frame is not None:
        title = residual_title(s)
        picture = Picture((frame,), alt=f"{title}.", slim=s.residuals in STRIPS)
        made.append(Section(title, picture, note=residual_note(s)))
    return tuple(made)


def _numbers(r: CurveReport) -> dict[str, object]:
    made: dict[str, object] = {}
    for one in r.drawn:
        f = one.curve
        if f is None:
            continue
        made[one.group.label or f.curve.name] = {
            "n": f.n,
            "coefficients": f.coefficients.tolist(),
            "errors": None if f.standard_errors is None else f.standard_errors.tolist(),
            "r2": f.r_squared,
            "sigma": f.sigma,
            "rss": f.rss,
            "df": f.df,
            "aicc": f.aicc,
        }
    for name, judged in r.found.items():
        if isinstance(judged, Diagnosed) and name not in made:
            f = judged.fitted
            made[name] = {"coefficients": f.coefficients.tolist(), "r2": f.r_squared, "sigma": f.sigma, "aicc": f.aicc}
    return made


def _reading(r: CurveReport) -> Reading:
    s, pairs = r.s, r.pairs
    if r.grouped:
        return _group_reading(r)
    judged = r.chosen
    assert isinstance(judged, Diagnosed)
    f = judged.fitted
    said = [strength(pairs, f), not_shown(pairs, f), at_zero(pairs, f)]
    if slope_is_not_shown(f):
        told = f.curve.told(pairs, f)
        said.insert(0, f"In the fitted line: {told[:1].lower()}{told[1:]}")
    said += [prediction(s, pairs, f, at) for at in s.reads()[:4]]
    best, why = suggested(r.found) if r.found else ("", "")
    if best and best != s.curve and curve_of(s).suggests:
        said.append(f"Suggested: {with_article(curve_of(s, best).label)}, {why}.")
    elif r.found and not best and not curve_of(s).is_line:
        said.append("No curve fits significantly better than a level line here.")
    worry = cautions(s, pairs, f)
    if judged.outliers.size:
        place = int(judged.outliers[np.argmax(np.abs(f.residuals[judged.outliers]))])
        row, off = int(pairs.all.rows[place]) + 1, float(f.residuals[place])
        side = "above" if off > 0 else "below"
        worry.insert(
            0,
            (
                f"Row {row} is unusual: it lies {y_text(pairs, abs(off))} {side} the curve. "
                f"{without_row(pairs, f, place)}"
            ).strip(),
        )
    if f.perfect:
        worry.insert(0, "All pairs lie exactly on the curve, so no standard errors can be calculated.")
    return Reading(
        headline(pairs, f),
        tuple(text for text in said if text),
        assumptions=assumptions_of(s, pairs, judged, r.tables),
        cautions=tuple(worry),
        next=links_of(s, pairs, judged, best),
    )


def _slopes_said(r: CurveReport) -> list[str]:
    """The slopes of the lines, and whether they are shown to differ."""
    pairs = r.pairs
    unit = pairs.response.unit
    per = f"{unit} per {pairs.predictor.unit}" if unit and pairs.predictor.unit else ""
    slopes = [
        f"{one.group.label} {significant(float(one.curve.coefficients[1]), 3)}"
        for one in r.drawn
        if one.curve is not None
    ][:MOST_TOLD]
    said = [f"Slopes{f' ({per})' if per else ''}: {', '.join(slopes)}."]
    found, common = r.alike
    if found is not None:
        differ = shown(found.p)
        verdict = "differ" if differ else "do not differ significantly"
        one_slope = "" if differ else f" A common slope would be {significant(common, 3)}."
        said.append(
            f"The slopes {verdict}: F({found.df1}, {whole(found.df2)}) = "
            f"{number(found.f, 2)}, {p_equals(found.p)}.{one_slope}"
        )
    return said


def _group_worries(r: CurveReport) -> list[str]:
    """Groups without a curve, values read outside of the data, and two tests that disagree."""
    found, alike = r.separate, r.alike[0]
    worry = [f"{one.group.label}: {one.fitted}." for one in r.drawn if isinstance(one.fitted, str)]
    for at in r.s.reads():
        out = [
            one.group.label
            for one in r.drawn
            if one.curve is not None and not one.group.x.min() <= at <= one.group.x.max()
        ]
        if out:
            where = sentence_case(place_text(r.pairs, at))
            worry.append(f"{where} is outside the data of {listed(out)}.")
    if found is not None and alike is not None and shown(alike.p) and not shown(found.p):
        worry.append(
            "The two tests ask different questions, so they can disagree when the result is close. Look at the "
            "picture and the slopes."
        )
    return worry


def _group_reading(r: CurveReport) -> Reading:
    s, label = r.s, r.fits[0].curve.label
    said = _slopes_said(r) if curve_of(s).regression_line else []
    head = f"{label[:1].upper()}{label[1:]}s were fitted to {counted(len(r.fits), 'group')}."
    found, alike = r.separate, r.alike[0]
    if found is not None:
        fit_better = "fit better" if shown(found.p) else "do not fit significantly better"
        head = f"Separate {label}s for the groups {fit_better} than one common {label}."
        one_each = (
            f"Test of separate against common: F({found.df1}, "
            f"{whole(found.df2)}) = {number(found.f, 2)}, {p_equals(found.p)}."
        )
        said = [one_each, *said]
    if found is not None and alike is not None and shown(found.p) and not shown(alike.p):
        said.append("So the lines differ in height, but not significantly in slope.")
    panels = "Show all in one picture" if s.panels else "Show a panel for each group"
    links = Link("One curve for all groups", sets=("by", None)), Link(panels, sets=("panels", not s.panels))
    return Reading(head, tuple(said), cautions=tuple(_group_worries(r)), next=links)


def kept_of_curve(s: ModelStatement, pairs: ModelPairs, f: Fitted) -> tuple[Link, ...]:
    """Columns of a curve, live where a formula can fit it anew, and its equation."""
    made: list[Link] = []
    if pairs.predictor.kind is Kind.NUMBER and not pairs.names:
        names = pairs.table.by_name
        x, y = quoted(str(s.against), names), quoted(str(s.what), names)
        curve = f.curve
        if isinstance(curve, LinearCurve) and curve.live and is_whole(pairs.table):
            terms = ", ".join(term.replace("{x}", x) for term in curve.live)
            made += live_links(s, names, y, terms, logs=curve.logs)
        elif fixed := plain_equation(f, x):
            made += [
                _keep(s, names, "Keep fitted values as a column", f"fitted {s.what}", fixed),
                _keep(s, names, "Keep residuals as a column", f"residual of {s.what}", f"{y} - ({fixed})"),
            ]
    text = equation(f)
    if text:
        made.append(Link("Copy the equation as LaTeX", copies=to_latex(formula(text))))
        made.append(Link("Copy it as a spreadsheet formula", copies=f"={plain_equation(f, 'A2')}"))
    return tuple(made)


def links_of(s: ModelStatement, pairs: ModelPairs, judged: Diagnosed, best: str) -> tuple[Link, ...]:
    """What to do next."""
    f, made = judged.fitted, list[Link]()
    rows = sorted({int(pairs.all.rows[at]) for at in judged.outliers.tolist()})
    if best and best != s.curve and curve_of(s).suggests:
        made.append(Link(f"Use the {curve_of(s, best).label} (suggested)", sets=("curve", best)))
    if judged.heteroscedastic and curve_of(s).tries_logs and (f.y > 0).all():
        other = "power by logs" if (f.x > 0).all() else "exponential by logs"
        made.append(
            Link(f"Try the {curve_of(s, other).label}, because the spread is not constant", sets=("curve", other))
        )
    made += row_links(pairs.table, rows)
    known = [
        c.name
        for c in pairs.table.of_kind(Kind.CATEGORY, Kind.ORDERED)
        if c.name != s.against and len(pairs.table.levels(c.name)) <= FEW_LEVELS
    ]
    made += [Link(f"One curve for each {name}", sets=("by", name)) for name in known[:2]]
    if s.read is None:
        middle = float(f"{float(np.median(f.x)):.3g}")
        made.append(Link("Predict a value", sets=("read", middle)))
    if curve_of(s).regression_line and pairs.predictor.kind is Kind.NUMBER:
        data = TwoNumbers(s.what, s.against)
        slope_test = follow_ups.hypothesis_test(data, "slope", "t of a slope", table=s.table)
        slope = follow_ups.estimate(data, "slope", "t of a slope", table=s.table)
        made += [Link("Test whether the slope is 0", statement=slope_test), Link("Estimate the slope", statement=slope)]
    made += kept_of_curve(s, pairs, f)
    return tuple(made)

"""Answers a model with several predictors."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Answer, Draft, Link, Reading, Section
from theoros.answer.picture import Picture
from theoros.answer.wording import listed, number, p_equals, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.least_squares import Dependent, TooFewCases
from theoros.table.formula import quoted
from theoros.verbs.core.cautions import cause_cautions
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.verdict import shown
from theoros.verbs.data.columns import is_number, known_in, squarable
from theoros.verbs.data.groups import workable
from theoros.verbs.model.data import ModelPairs, PairsGroup, read_pairs
from theoros.verbs.model.multiple import words as saying
from theoros.verbs.model.multiple.data import Design, dependent_words, leave_out, read_design
from theoros.verbs.model.multiple.fit import fit_several, parts_of
from theoros.verbs.model.multiple.pictures import partial_picture
from theoros.verbs.model.multiple.report import MultipleReport
from theoros.verbs.model.multiple.tables import tables_of
from theoros.verbs.model.multiple.words import assumptions_of, thin_levels
from theoros.verbs.model.multiple.working import working_of
from theoros.verbs.model.pictures import STRIPS, residual_frame, residual_note, residual_title
from theoros.verbs.model.simple.pictures import scatter_picture
from theoros.verbs.model.simple.report import GroupFit
from theoros.verbs.model.tables import design_terms, is_whole, live_links

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement


def drafts(s: ModelStatement, tables: Tables) -> Iterator[Draft]:
    """A number by several predictors; where there is no model, why, beside the scatter."""
    try:
        yield Draft(_answer(s, tables))
    except CannotAnswer as found:
        yield Draft(Answer(problem=found.problem, picture=_scatter(s, tables)))


def _scatter(s: ModelStatement, tables: Tables) -> Picture | None:
    """The response against the first predictor, as it can be seen without a model."""
    alone = replace(s, also=(), by=None, read=None, also_at="")
    if not is_number(tables[s.table], s.against):
        return None
    try:
        pairs = read_pairs(alone.pairs_choice, tables)
    except CannotAnswer:
        return None
    drawn = [GroupFit(pairs.all, "")]
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
        raise CannotAnswer(
            f"{what} is the same in every row, so there is nothing to explain. Choose another column.", "what"
        )
    try:
        found = fit_several(design, values)
    except Dependent as problem:
        said = f"{dependent_words(design, problem.which)}. Leave one of them out."
        raise CannotAnswer(said, "also", leave_out(s, design, problem.which[0])) from None
    except TooFewCases:
        raise CannotAnswer("There must be more rows than terms. Use fewer predictors.", "also") from None
    return _answer_of(MultipleReport(s, tables, found, _pairs(s, tables, design, values)))


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
        (PairsGroup("", "", first.values, y, design.rows),),
        design.left_out,
        names,
    )


def kept_of_several(s: ModelStatement, design: Design) -> tuple[Link, ...]:
    """Live columns of a model with several predictors."""
    terms = design_terms(design)
    if not terms or not is_whole(design.table):
        return ()
    names = design.table.by_name
    return live_links(s, names, quoted(str(s.what), names), ", ".join(terms), logs=False)


def _answer_of(r: MultipleReport) -> Answer:
    s, f = r.s, r.fit
    return Answer(
        picture=partial_picture(f, str(s.what)),
        sections=_sections(r),
        figures=tables_of(r),
        reading=_reading(r),
        working=working_of(r),
        used=f.n,
        left_out=f.design.left_out,
        numbers=_numbers(r),
    )


def _sections(r: MultipleReport) -> tuple[Section, ...]:
    drawn = [GroupFit(r.pairs.all, r.fit)]
    frame = residual_frame(r.s, r.pairs, drawn)
    if frame is None:
        return ()
    title = residual_title(r.s)
    picture = Picture((frame,), alt=f"{title}.", slim=r.s.residuals in STRIPS)
    return (Section(title, picture, note=residual_note(r.s)),)


def _numbers(r: MultipleReport) -> dict[str, object]:
    f = r.fit
    ratio, df, p = r.overall
    made: dict[str, object] = {
        "names": list(f.design.names),
        "coefficients": f.coefficients.tolist(),
        "errors": f.standard_errors.tolist(),
        "inflations": f.inflations.tolist(),
        "r2": f.r_squared,
        "adjusted": f.adjusted,
        "sigma": f.sigma,
        "aicc": f.aicc,
        "f": ratio,
        "df": [df, f.df],
        "p": p,
        "n": f.n,
    }
    if r.s.values.strip():
        _, value, ends, _ = r.predicted
        made["prediction"] = {"value": value, **{k: list(v) for k, v in ends.items()}}
    return made


def _reading(r: MultipleReport) -> Reading:
    s, f, pairs = r.s, r.fit, r.pairs
    ratio, df, p = r.overall
    said = [
        f"Test of all predictors together: F({df}, {whole(f.df)}) = {number(ratio, 2)}, {p_equals(p)}. "
        f"Adjusted R² = {number(f.adjusted, 3)}."
    ]
    said += saying.slopes_of(pairs, f)
    idle = saying.useless(parts_of(f))
    if idle:
        said.append(idle)
    worry = []
    if s.values.strip():
        row, value, ends, unsaid = r.predicted
        said.append(saying.prediction(pairs, f, row, ends, value, s.confidence, unsaid))
        out = [
            one.name
            for one, v in zip(f.design.predictors, row.tolist(), strict=True)
            if not one.levels and not one.values.min() <= v <= one.values.max()
        ]
        if out:
            worry.append(f"The value of {listed(out)} is outside the data.")
    if not r.plain:
        worry.append(
            "A predictor that is part of a product or a square is not tested alone, because its effect depends on "
            "the other one."
        )
    worry += thin_levels(r)
    if f.perfect:
        worry.append("All rows lie exactly on the model, so no standard errors can be calculated.")
    if shown(p):
        worry += cause_cautions(r.pairs.table)
    links = (
        Link("Remove the other predictors", sets=("also", ())),
        Link(
            "Remove the products" if s.products else "Try products of two (interactions)",
            sets=("products", not s.products),
        ),
        *kept_of_several(s, f.design),
    )
    return Reading(
        saying.headline(pairs, f, p), tuple(said), assumptions=assumptions_of(r), cautions=tuple(worry), next=links
    )

"""Answers an estimate: every way that fits, with its ends, pictures and words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from theoros.answer.nouns import with_article
from theoros.answer.parts import Answer, Draft, Link, Reading, Section, Step
from theoros.answer.picture import Picture
from theoros.answer.wording import exact, percent_text, with_unit
from theoros.lazy_imports import np
from theoros.numeric.distributions.lattice import Pile
from theoros.verbs import follow_ups
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.observed import observed_alt, observed_frame, observed_table
from theoros.verbs.estimate.pictures import covering_section, interval_frames, resample_section
from theoros.verbs.estimate.report import DRAWING, EstimateReport
from theoros.verbs.estimate.statement import EstimateStatement
from theoros.verbs.estimate.tables import levels_tables, methods_table
from theoros.verbs.parameters.parameter import usual_null
from theoros.verbs.procedures.drafting import WAITING, Results, cannot_answer, in_drafts
from theoros.verbs.procedures.intervals import kept_possible, level
from theoros.verbs.procedures.procedure import Procedure, Result, default_procedure
from theoros.verbs.procedures.resampled_data import can_draw


def drafts(s: EstimateStatement, tables: Tables) -> Iterator[Draft]:
    """First what formulas give, then the resamples as they come in."""
    data = s.data.read(tables, s.table)
    methods = [
        method
        for method in s.methods(kin=s.about.kin)
        if s.parameter in method.compares and (method.name == s.method or method.offered(s.known))
    ]
    report = EstimateReport(s, tables, data, tuple(methods), s.confidence)
    chosen = s.procedure
    if s.given is not None:
        if chosen.simulated:  # its resamples are drawn before anything can follow from them
            yield from report.drawn(chosen)
        report = replace(report, confidence=report.following())
    results = yield from in_drafts(methods, s.method, report.question, partial(_answer, report), DRAWING, kept_possible)
    yield from report.covered(results, partial(_answer, report))


def _answer(r: EstimateReport, results: Results) -> Answer:
    s, method = r.statement, r.statement.procedure
    held = results[method.name]
    result = held if isinstance(held, Result) else None
    picture, sections = None, tuple[Section, ...]()
    if result is not None and result.sections:
        picture = Picture((observed_frame(r.data),), alt=observed_alt(r.data))
        sections = _sections(r, method, result)
    elif result is not None and (result.interval is not None or result.distribution):
        frames = interval_frames(r.words, result, s.bound)
        alt = f"{observed_alt(r.data)} {r._told(result)}".strip()
        picture = Picture(frames, alt=alt, breaks=True, opens="opened")
        sections = _sections(r, method, result)
    return Answer(
        picture=picture,
        sections=sections,
        figures_first=not (method.simulated or (result is not None and result.sections)),
        figures=(methods_table(r, results), *levels_tables(r, method, result), observed_table(r.data)),
        reading=_reading(r, method, results),
        working=_working(r, result),
        writeup=_writeup(r, method, result),
        used=r.data.used,
        left_out=r.data.left_out,
        seed=s.seed,
        numbers={
            name: dict(one.figures) | {"confidence": r.confidence}
            for name, one in results.items()
            if isinstance(one, Result)
        },
    )


def _sections(r: EstimateReport, method: Procedure, result: Result) -> tuple[Section, ...]:
    s, question = r.statement, r.question(method)
    made = list(result.sections)
    if method.simulated and isinstance(result.distribution, Pile):
        made.append(resample_section(r.words, question, result, s.opened))
    if can_draw(r.data) and result.interval is not None:
        sure = level(r.confidence)
        made.append(covering_section(r.words, sure, result, s.covering, r.found[0] if r.found else np.empty((0, 3))))
    if r._plan is not None:
        made.append(r._planned[0])
    return tuple(made)


def _working(r: EstimateReport, result: Result | None) -> tuple[Step, ...]:
    if result is None:
        return ()
    s, steps = r.statement, result.working
    if r._plan is not None and (s.wanted_margin is not None or s.planned is not None):
        steps = (*steps, Step("Sample size", r._planned[1]))
    return steps


def _writeup(r: EstimateReport, method: Procedure, result: Result | None) -> tuple[Step, ...]:
    """In five steps: what is estimated and leaned on, how large it seems, the ends, and so."""
    if r.known or result is None or (result.interval is None and not result.sections):
        return ()
    first, *rest = result.working
    subject = r.words.subject.rstrip(",")
    return (
        Step("1. What is estimated", (f"{subject[0].upper()}{subject[1:]}, by {method.inline}.",)),
        Step("2. Conditions", tuple(one.told() for one in r.assumptions(method))),
        Step("3. The estimate", first.lines),
        Step("4. The interval", tuple(line for step in rest for line in step.lines)),
        Step("5. Conclusion", (r._told(result), *r.scope(shown=_shown(r, result)))),
    )


def _reading(r: EstimateReport, method: Procedure, results: Results) -> Reading:
    s, words, result = r.statement, r.words, results[method.name]
    assumptions, remedies = r.assumptions(method), r.another(method, results)
    if not isinstance(result, Result) or result.interval is None:
        headline = f"{DRAWING} …"
        if isinstance(result, Result) and result.sections:  # several at once
            headline = result.remarks[0]
        elif isinstance(result, Result):  # there is a pile, but not enough of it
            headline = f"Draw more: {result.remarks[0]}."
        elif result != WAITING:
            headline = cannot_answer(method, str(result))
        return Reading(headline, assumptions=assumptions, next=_links(r, method, remedies))
    if r.known:
        paragraph = "An interval is about random samples. Here all of the population is known."
        headline = words.in_population(result.estimate)
        return Reading(headline, (paragraph,), assumptions=assumptions, next=_links(r, method, remedies))
    paragraphs = []
    if s.given is not None:
        paragraphs.append(_followed(r))
    if s.value is not None:
        paragraphs.append(words.judged(s.value, result.interval))
    paragraphs += r.scope(shown=_shown(r, result))
    return Reading(
        r._told(result),
        tuple(paragraphs),
        assumptions=assumptions,
        cautions=(*r.failed(method, remedies), *result.remarks),
        next=_links(r, method, remedies),
    )


def _shown(r: EstimateReport, result: Result) -> bool:
    """Whether a difference is shown: its interval leaves out none."""
    if result.interval is None or not r.words.compares:
        return False
    low, high = result.interval
    return not low <= (1.0 if r.statement.about.ratio else 0.0) <= high


def _followed(r: EstimateReport) -> str:
    """What follows from what was given."""
    s = r.statement
    assert s.given is not None
    value = with_unit(exact(getattr(s, s.given)), r.words.unit)
    what = {"low": "lower end", "high": "upper end", "margin": "margin"}[s.given]
    return (
        f"With {with_article(what)} of {value} the confidence level is {percent_text(r.confidence, 2)}. An end "
        "that is chosen after a look at the data does not keep this confidence."
    )


def _links(r: EstimateReport, chosen: Procedure, remedies: list[Link]) -> tuple[Link, ...]:
    s = r.statement
    links = [*r.row_links(chosen), *remedies]
    method = default_procedure(s.parameter, s.family, typed=s.data.bare())
    if method:
        test = follow_ups.hypothesis_test(
            s.data, s.parameter, method, table=s.table, null=usual_null(s.family), alpha=round(1 - r.confidence, 10)
        )
        links.append(Link("Test a claim about it", statement=test))
    if s.procedure.simulated:
        of = "percentile of shares" if "share" in s.family else "percentile"
        watched = follow_ups.watch_resamples(
            s.data,
            s.parameter,
            of,
            table=s.table,
            share=s.share,
            middle=r.confidence,
            drawn=follow_ups.ChanceSettings(s.replicates, s.seed),
        )
        links.append(Link("Watch the resamples one by one", statement=watched))
    return (*links, *r.about_links())

"""The answer to a test: what was seen, every way, the conditions, and the conclusion."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from theoros.answer.parts import Answer, Draft, Section, Step
from theoros.answer.picture import Picture
from theoros.answer.wording import exact, sentence_case
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.observed import observed_alt, observed_frame, observed_table
from theoros.verbs.data.samples import SeveralSamples
from theoros.verbs.parameters.parameter import ONE_SIDED
from theoros.verbs.procedures.drafting import Results, in_drafts
from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim
from theoros.verbs.procedures.procedure import Result, procedures, procedures_for
from theoros.verbs.procedures.writeup import evidence_of, writeup_of
from theoros.verbs.test.pictures import MatchingInterval, _null_frame
from theoros.verbs.test.planning.answering import groups_section, planning_section
from theoros.verbs.test.report import SHUFFLING, TestReport
from theoros.verbs.test.statement import TestStatement, plans
from theoros.verbs.test.tables import effects_table, methods_table
from theoros.verbs.test.words import reading_of


def drafts(statement: TestStatement, tables: Tables) -> Iterator[Draft]:
    """First all that formulas give, then the shuffles as they come in."""
    data = statement.prepared(statement.data.read(tables, statement.table))
    kin = statement.about.kin
    methods = [
        method
        for method in procedures_for(statement.family, typed=statement.data.bare(), kin=kin)
        if method.name == statement.method or method.offered(statement.known)
    ]
    report = TestReport(statement, tables, data, tuple(methods))
    yield from in_drafts(methods, statement.method, report.question, partial(_answer, report), SHUFFLING)


def _answer(r: TestReport, results: Results) -> Answer:
    statement, words = r.statement, r.words
    method = procedures()[statement.method]
    held = results[method.name]
    result = held if isinstance(held, Result) else None
    interval = r._interval(result)
    against = statement.family in ONE_SIDED and statement.about.directed
    null = statement.supposed if against else None
    frames, alt = [observed_frame(r.data, null)], observed_alt(r.data)
    working: tuple[Step, ...] = ()
    writeup: tuple[Step, ...] = ()
    if result:
        frames.append(_null_frame(result, rejection=statement.rejection))
        alt += f" Distribution of the statistic if H0 is true, with {result.statistic_text} marked."
        working = result.working
        if result.critical:
            line = f"at α = {exact(statement.alpha)}, {result.critical}"
            working += (Step("By the critical value", (sentence_case(line), *result.lookup)),)
        working += (Step("What could be wrong", words.errors()),)
        if not r.known:
            scope = r.scope(shown=words.shown(evidence_of(result)))
            writeup = writeup_of(words, method, result, r.assumptions(method), scope)
    return Answer(
        symbols=words.symbols(),
        picture=Picture(tuple(frames), alt=alt, breaks=True),
        sections=_sections(r, interval, result) if result else (),
        figures_first=True,
        figures=(
            methods_table(r, results),
            observed_table(r.data),
            *(result.tables if result else ()),
            *effects_table(r, result),
        ),
        reading=reading_of(r, method, results),
        working=working,
        writeup=writeup,
        used=r.data.used,
        left_out=r.data.left_out,
        seed=statement.seed,
        numbers={
            name: {
                "statistic": held.statistic,
                "estimate": held.estimate,
                "standard_error": held.standard_error,
                **held.figures,
            }
            for name, held in results.items()
            if isinstance(held, Result)
        },
    )


def _sections(r: TestReport, interval: MatchingInterval | None, result: Result) -> tuple[Section, ...]:
    if r.known:
        return result.sections
    return (*([interval.section()] if interval else []), *result.sections, *_planned(r))


def _planned(r: TestReport) -> tuple[Section, ...]:
    """How often the claim would be found at the true value that was typed."""
    s, words = r.statement, r.words
    if s.true_value is None or not plans(s):
        return ()
    if type(r.data) is SeveralSamples:
        return groups_section(r.data, s.true_value, s.power, s.alpha, s.procedure)
    if not isinstance(words, ComparisonClaim):
        return ()
    return planning_section(words, s.true_value, s.power, s.procedure, s.known)

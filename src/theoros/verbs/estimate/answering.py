"""Answers an estimate: every way that fits, with its ends, pictures and words."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from theoros.answer.cannot import CannotAnswer
from theoros.answer.formulas.formula import Formula
from theoros.answer.parts import (
    Answer,
    Cell,
    Draft,
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
from theoros.answer.result_tables import TableColumn, table_of
from theoros.answer.wording import exact, number, percent_text, with_unit
from theoros.numeric.distributions.lattice import Pile
from theoros.verbs import follow_ups
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.seen import seen_alt, seen_frame, seen_table
from theoros.verbs.estimate.following import confidence_for
from theoros.verbs.estimate.pictures import interval_frames
from theoros.verbs.estimate.sections import (
    FEW_RESAMPLES,
    Found,
    Plan,
    cover,
    covering_section,
    plan_of,
    planning_section,
    resample_section,
)
from theoros.verbs.estimate.statement import EstimateStatement, plans
from theoros.verbs.estimate.words import Estimated
from theoros.verbs.parameters.parameter import ONE_SIDED
from theoros.verbs.procedures.drafting import WAITING, Results, cannot_answer, in_drafts
from theoros.verbs.procedures.drawing_again import can_draw
from theoros.verbs.procedures.intervals import kept_possible, level
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, default_procedure
from theoros.verbs.procedures.report import ProcedureReport

DRAWING = "Drawing resamples"
FILLS = 0.1
"""After such a part of the samples the picture of them is shown anew."""
LEVELS = (0.8, 0.9, 0.95, 0.98, 0.99)
"""The usual ones, to compare widths."""


def drafts(s: EstimateStatement, tables: Tables) -> Iterator[Draft]:
    """First what formulas give, then the resamples as they come in."""
    if s.family not in s.about.families:
        raise CannotAnswer(
            f"A {s.parameter} cannot be estimated from {s.data.label}. Choose other data, or another parameter.",
            "parameter",
        )
    data = s.data.read(tables, s.table)
    ways = [
        way
        for way in s.ways(kin=s.about.kin)
        if s.parameter in way.compares and (way.name == s.way or way.offered(s.known))
    ]
    report = EstimateReport(s, tables, data, tuple(ways), s.confidence)
    chosen = s.procedure
    if s.given is not None:
        if chosen.simulated:  # its resamples are drawn before anything can follow from them
            yield from report.drawn(chosen)
        report = replace(report, confidence=report.following())
    results = yield from in_drafts(ways, s.way, report.question, report.answer, DRAWING, kept_possible)
    yield from report.covered(results)


@dataclass(frozen=True)
class EstimateReport(ProcedureReport):
    """An estimate with its data, ready to be written up with whatever results are there."""

    statement: EstimateStatement
    confidence: float = 0.95
    found: Found = field(default_factory=list)
    """Of the samples that are drawn to see how often intervals hold."""
    weakened = "the confidence is less than it seems to be"

    def covered(self, results: Results) -> Iterator[Draft]:
        """Draws those samples, once all else is there; the picture fills as they come in."""
        s, result = self.statement, results[self.statement.way]
        if not (s.covering and isinstance(result, Result) and result.interval is not None and can_draw(self.data)):
            return
        ask, shown = self._ask_again(s.procedure), 0.0
        for done in cover(self.data, ask, s.seed, s.covering, self.found):
            fills = done - shown >= FILLS or done == 1
            shown = done if fills else shown
            yield Draft(self.answer(results) if fills else None, done, "Drawing samples")

    def question(self, way: Procedure, confidence: float | None = None) -> Question:
        s, sure = self.statement, confidence or self.confidence
        out = 1 - sure
        tails = {"both": (out / 2, out / 2), "lower": (out, 0.0), "upper": (0.0, out)}[s.bound]
        if s.below is not None and s.bound == "both" and "tails" in way.settings:
            if s.below >= out:
                raise ProcedureFails(
                    f"leaves {level(out)} out in all, which is not more than the {level(s.below)} below"
                )
            tails = (s.below, out - s.below)
        return Question(self.data, s.about, confidence=sure, tails=tails, settings=s.known, in_full=way.name == s.way)

    def drawn(self, way: Procedure) -> Iterator[Draft]:
        """Draws what a simulated way needs, and tells how far it is."""
        try:
            for _, done in way.run(self.question(way)):
                yield Draft(None, done, DRAWING)
        except ProcedureFails:
            return  # the reading says why

    def following(self) -> float:
        """The confidence that goes with what is given."""
        s = self.statement
        assert s.given is not None
        value: float = getattr(s, s.given)
        way = s.procedure
        said = with_unit(exact(value), self.words.unit)
        try:
            return confidence_for(lambda sure: way.found(self.question(way, sure)), s.given, value, said)
        except ProcedureFails as why:
            raise CannotAnswer(cannot_answer(way, str(why)), "way") from None

    @cached_property
    def words(self) -> Estimated:
        return Estimated(self.data, self.statement.about, self.statement.share)

    def answer(self, results: Results) -> Answer:
        s, way = self.statement, self.statement.procedure
        held = results[way.name]
        result = held if isinstance(held, Result) else None
        picture, sections = None, tuple[Section, ...]()
        if result is not None and result.sections:
            picture = Picture((seen_frame(self.data),), alt=seen_alt(self.data))
            sections = self._sections(way, result)
        elif result is not None and (result.interval is not None or result.distribution):
            frames = interval_frames(self.words, result, s.bound)
            alt = f"{seen_alt(self.data)} {self._told(result)}".strip()
            picture = Picture(frames, alt=alt, breaks=True, opens="opened")
            sections = self._sections(way, result)
        return Answer(
            s.text(self.tables),
            picture=picture,
            sections=sections,
            figures_first=not (way.simulated or (result is not None and result.sections)),
            figures=(self._ways_table(results), *self._levels_table(way, result), seen_table(self.data)),
            reading=self._reading(way, results),
            working=self._working(result),
            writeup=self._writeup(way, result),
            used=self.data.used,
            left_out=self.data.left_out,
            seed=s.seed,
            numbers={
                name: dict(one.figures) | {"confidence": self.confidence}
                for name, one in results.items()
                if isinstance(one, Result)
            },
        )

    def _told(self, result: Result) -> str:
        if result.interval is None:
            return result.remarks[0] if result.sections else ""
        return self.words.headline(result.interval, self.confidence, result.estimate, self.statement.bound)

    def _sections(self, way: Procedure, result: Result) -> tuple[Section, ...]:
        s, question = self.statement, self.question(way)
        made = list(result.sections)
        if way.simulated and isinstance(result.distribution, Pile):
            made.append(resample_section(self.words, question, result, s.opened))
        if can_draw(self.data) and result.interval is not None:
            sure = level(self.confidence)
            made.append(covering_section(self.words, sure, result, s.covering, self.found))
        if self._plan is not None:
            made.append(self._planned[0])
        return tuple(made)

    def _ask_again(self, way: Procedure) -> Callable[[Any], Result]:
        """The same of other data; with fewer resamples, as there are many samples."""
        question = self.question(way)
        few = replace(question.settings, shuffles=min(FEW_RESAMPLES, self.statement.resamples))
        question = replace(question, in_full=False, settings=few)
        return lambda data: way.found(replace(question, data=data))

    @cached_property
    def _plan(self) -> Plan | None:
        if not plans(self.statement):
            return None
        return plan_of(self.words, self.question(self.statement.procedure))

    @cached_property
    def _planned(self) -> tuple[Section, tuple[str | Formula, ...]]:
        s, plan, bare = self.statement, self._plan, None
        assert plan is not None
        if s.parameter == "proportion":
            bare = plan_of(self.words, self.question(s.procedure), guess=False)
        return planning_section(self.words, plan, s.wanted_margin, s.planned, bare)

    def _working(self, result: Result | None) -> tuple[Step, ...]:
        if result is None:
            return ()
        s, steps = self.statement, result.working
        if self._plan is not None and (s.wanted_margin is not None or s.planned is not None):
            steps = (*steps, Step("Sample size", self._planned[1]))
        return steps

    def _writeup(self, way: Procedure, result: Result | None) -> tuple[Step, ...]:
        """In five steps: what is estimated and leaned on, how large it seems, the ends, and so."""
        if result is None or (result.interval is None and not result.sections):
            return ()
        first, *rest = result.working
        subject = self.words.subject.rstrip(",")
        return (
            Step("1. What is estimated", (f"{subject[0].upper()}{subject[1:]}, by {way.inline}.",)),
            Step("2. Conditions", tuple(self.told_conditions(way))),
            Step("3. The estimate", first.lines),
            Step("4. The interval", tuple(line for step in rest for line in step.lines)),
            Step("5. Conclusion", (self._told(result), *self.scope)),
        )

    # figures

    def _ways_table(self, results: Results) -> ResultTable:
        best = self.suggested(results)
        rows = tuple(self._way_row(way, results[way.name], best) for way in self.ways)
        headings = (
            Heading("way", "Way", numeric=False),
            Heading("estimate", "estimate"),
            Heading("error", "standard error", help="Of the estimate"),
            Heading("critical", "critical value"),
            Heading("margin", "margin"),
            Heading("low", "from"),
            Heading("high", "to"),
            Heading("width", "width"),
            Heading("conditions", "conditions", numeric=False),
        )
        return ResultTable("ways", headings, rows, ways=True)

    def _way_row(self, way: Procedure, result: Result | str, best: Procedure | None) -> FigureRow:
        blank = Cell("–", None)
        chosen = way.name == self.statement.way
        if not isinstance(result, Result) or result.interval is None:
            told, tone = self.said_of(way, None)
            if not isinstance(result, Result):
                told, tone = result, "" if result == WAITING else "bad"
            elif not result.sections:
                told, tone = result.remarks[0], "bad"
            cells = (Cell(way.label, way.name), *[blank] * 7, Cell(told, told, tone=tone))
            return FigureRow(cells, sets=("way", way.name), chosen=chosen, waits=result == WAITING)
        told, tone = self.said_of(way, best)
        low, high = result.interval
        places = self.words.places(result.interval, result.estimate) + 1
        margin = (high - low) / 2

        def write(value: float | None, decimals: int = places) -> Cell:
            return cell(value, number(value, decimals)) if value is not None else blank

        cells = (
            Cell(way.label, way.name),
            write(result.estimate),
            write(result.standard_error),
            write(result.figures.get("critical"), 3),
            write(margin),
            write(low),
            write(high),
            write(2 * margin),
            Cell(told, told, tone=tone),
        )
        return FigureRow(cells, sets=("way", way.name), chosen=chosen)

    def _levels_table(self, way: Procedure, result: Result | None) -> tuple[ResultTable, ...]:
        """The interval at the usual levels, to compare how wide it is."""
        if result is None:
            return ()
        drawn = result.figures.get("resamples", self.statement.resamples)
        if drawn < self.statement.resamples:
            return ()  # until all resamples are there
        rows = []
        for sure in LEVELS:
            try:
                asked = self.question(way, sure)
                found = kept_possible(asked, way.found(asked))
            except ProcedureFails:
                continue
            if found.interval is not None:
                rows.append((sure, *found.interval, self.words.places(found.interval, found.estimate) + 1))
        if not rows:
            return ()
        columns: tuple[TableColumn[tuple[float, float, float, int]], ...] = (
            TableColumn(Heading("confidence", "confidence"), lambda one: cell(one[0], level(one[0]))),
            TableColumn(Heading("low", "from"), lambda one: cell(one[1], number(one[1], one[3]))),
            TableColumn(Heading("high", "to"), lambda one: cell(one[2], number(one[2], one[3]))),
            TableColumn(Heading("width", "width"), lambda one: cell(one[2] - one[1], number(one[2] - one[1], one[3]))),
        )
        made = table_of(
            "levels",
            columns,
            rows,
            title="more confidence, a wider interval",
            sets=lambda one: ("confidence", one[0]),
            chosen=lambda one: math.isclose(one[0], self.confidence),
        )
        return (made,)

    # words

    def _reading(self, way: Procedure, results: Results) -> Reading:
        s, words, result = self.statement, self.words, results[way.name]
        conditions, remedies = self.conditions(way), self.another(way, results)
        if not isinstance(result, Result) or result.interval is None:
            headline = f"{DRAWING} …"
            if isinstance(result, Result) and result.sections:  # several at once
                headline = result.remarks[0]
            elif isinstance(result, Result):  # there is a pile, but not enough of it
                headline = f"Draw more: {result.remarks[0]}."
            elif result != WAITING:
                headline = cannot_answer(way, str(result))
            return Reading(headline, conditions=conditions, next=self._links(way, remedies))
        paragraphs = []
        if s.given is not None:
            paragraphs.append(self._followed())
        paragraphs += words.not_meant(self.confidence, bound=s.bound != "both")
        if s.value is not None:
            paragraphs.append(words.judged(s.value, result.interval))
        paragraphs += self.scope
        return Reading(
            self._told(result),
            tuple(paragraphs),
            conditions=conditions,
            cautions=(*self.failed(way, remedies), *result.remarks),
            next=self._links(way, remedies),
        )

    def _followed(self) -> str:
        """What follows from what was given."""
        s = self.statement
        assert s.given is not None
        value = with_unit(exact(getattr(s, s.given)), self.words.unit)
        what = {"low": "lower end", "high": "upper end", "margin": "margin"}[s.given]
        return f"With a {what} of {value} the confidence is {percent_text(self.confidence, 2)}."

    def _links(self, chosen: Procedure, remedies: list[Link]) -> tuple[Link, ...]:
        s = self.statement
        links = [*self.row_links(chosen), *remedies]
        way = default_procedure(s.parameter, s.family, typed=s.data.bare())
        if way:
            null = s.about.usual_null if s.family in ONE_SIDED else 0.0
            test = follow_ups.hypothesis_test(
                s.data, s.parameter, way, table=s.table, null=null, alpha=round(1 - self.confidence, 10)
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
                middle=self.confidence,
                repeats=s.resamples,
                seed=s.seed,
            )
            links.append(Link("Watch it happen, resample by resample", statement=watched))
        return (*links, *self.about_links())

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
    MARKS,
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
from theoros.answer.wording import exact, number, percent_text, with_unit
from theoros.numeric.distributions.lattice import Pile
from theoros.verbs.conditions.condition import Check, checks, summed_up
from theoros.verbs.core.registry import make
from theoros.verbs.core.row_links import row_links
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
from theoros.verbs.procedures.asked import asked_of
from theoros.verbs.procedures.drafting import WAITING, Results, cannot_answer, in_drafts
from theoros.verbs.procedures.drawing_again import can_draw
from theoros.verbs.procedures.intervals import kept_possible, level
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, default_procedure, suggested
from theoros.verbs.procedures.scope import scope_of

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
    asked = _Asked(s, tables, data, tuple(ways), s.confidence)
    chosen = s.procedure
    if s.given is not None:
        if chosen.simulated:  # its resamples are drawn before anything can follow from them
            yield from asked.drawn(chosen)
        asked = replace(asked, confidence=asked.following())
    results = yield from in_drafts(ways, s.way, asked.question, asked.answer, DRAWING, kept_possible)
    yield from asked.covered(results)


@dataclass(frozen=True)
class _Asked:
    """An estimate with its data, ready to be written up with whatever results are there."""

    statement: EstimateStatement
    tables: Tables
    data: Any
    ways: tuple[Procedure, ...]
    confidence: float
    found: Found = field(default_factory=list)
    """Of the samples that are drawn to see how often intervals hold."""

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

    def checked(self, way: Procedure) -> list[Check]:
        return checks(way.needs, self.data, self.statement.about)

    def answer(self, results: Results) -> Answer:
        s, way = self.statement, self.statement.procedure
        held = results[way.name]
        result = held if isinstance(held, Result) else None
        found = self.checked(way)
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
            reading=self._reading(way, results, found),
            working=self._working(result),
            writeup=self._writeup(way, result, found),
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

    def _writeup(self, way: Procedure, result: Result | None, found: list[Check]) -> tuple[Step, ...]:
        """In five steps: what is estimated and leaned on, how large it seems, the ends, and so."""
        if result is None or (result.interval is None and not result.sections):
            return ()
        told = [f"{MARKS[check.mark]} {check.text}" for check in found]
        told += [one.told() for one in asked_of(self.statement, self.data, self._sampling)]
        first, *rest = result.working
        subject = self.words.subject.rstrip(",")
        return (
            Step("1. What is estimated", (f"{subject[0].upper()}{subject[1:]}, by {way.inline}.",)),
            Step("2. Conditions", tuple(told)),
            Step("3. The estimate", first.lines),
            Step("4. The interval", tuple(line for step in rest for line in step.lines)),
            Step("5. Conclusion", (self._told(result), *scope_of(self._sampling, self.data))),
        )

    @property
    def _sampling(self) -> str:
        table = self.tables.get(self.statement.table) if self.statement.needs_table else None
        return table.sampling if table is not None else ""

    # figures

    def _ways_table(self, results: Results) -> ResultTable:
        best = suggested(
            [w for w in self.ways if not isinstance(results[w.name], str) or results[w.name] == WAITING],
            self.statement.parameter,
            lambda way: summed_up(self.checked(way))[1] == "fails",
        )
        rows = tuple(
            self._way_row(way, results[way.name], best is not None and way.name == best.name) for way in self.ways
        )
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

    def _way_row(self, way: Procedure, result: Result | str, best: bool) -> FigureRow:
        told, mark = summed_up(self.checked(way))
        tone = {"fails": "bad", "judge": "warn", "holds": "good"}[mark]
        blank = Cell("–", None)
        chosen = way.name == self.statement.way
        if not isinstance(result, Result) or result.interval is None:
            if not isinstance(result, Result):
                told, tone = result, "" if result == WAITING else "bad"
            elif not result.sections:
                told, tone = result.remarks[0], "bad"
            cells = (Cell(way.label, way.name), *[blank] * 7, Cell(told, told, tone=tone))  # type: ignore[arg-type]
            return FigureRow(cells, sets=("way", way.name), chosen=chosen, waits=result == WAITING)
        low, high = result.interval
        places = self.words.places(result.interval, result.estimate) + 1
        error, critical = result.standard_error, result.figures.get("critical")
        finite = math.isfinite(low) and math.isfinite(high)
        margin = (high - low) / 2 if finite else math.nan
        cells = (
            Cell(way.label, way.name),
            cell(result.estimate, number(result.estimate, places)),
            cell(error, number(error, places)) if error is not None else blank,
            cell(critical, number(critical, 3)) if critical is not None else blank,
            cell(margin, number(margin, places)) if finite else blank,
            cell(low, number(low, places)),
            cell(high, number(high, places)),
            cell(2 * margin, number(2 * margin, places)) if finite else blank,
            Cell(f"{told} · suggested" if best else told, told, tone=tone),  # type: ignore[arg-type]
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
            if found.interval is None:
                continue
            low, high = found.interval
            places = self.words.places(found.interval, found.estimate) + 1
            width = high - low
            rows.append(
                FigureRow(
                    (
                        cell(sure, level(sure)),
                        cell(low, number(low, places)),
                        cell(high, number(high, places)),
                        cell(width, number(width, places)) if math.isfinite(width) else Cell("–"),
                    ),
                    sets=("confidence", sure),
                    chosen=math.isclose(sure, self.confidence),
                )
            )
        if not rows:
            return ()
        headings = (
            Heading("confidence", "confidence"),
            Heading("low", "from"),
            Heading("high", "to"),
            Heading("width", "width"),
        )
        return (ResultTable("levels", headings, tuple(rows), "more confidence, a wider interval"),)

    # words

    def _reading(self, way: Procedure, results: Results, found: list[Check]) -> Reading:
        s, words, result = self.statement, self.words, results[way.name]
        asked = asked_of(s, self.data, self._sampling)
        conditions = (*(check.condition() for check in found), *(one.condition() for one in asked))
        if not isinstance(result, Result) or result.interval is None:
            headline = f"{DRAWING} …"
            if isinstance(result, Result) and result.sections:  # several at once
                headline = result.remarks[0]
            elif isinstance(result, Result):  # there is a pile, but not enough of it
                headline = f"Draw more: {result.remarks[0]}."
            elif result != WAITING:
                headline = cannot_answer(way, str(result))
            return Reading(headline, conditions=conditions, next=self._links(found, results))
        paragraphs = []
        if s.given is not None:
            paragraphs.append(self._followed())
        paragraphs += words.not_meant(self.confidence, bound=s.bound != "both")
        if s.value is not None:
            paragraphs.append(words.judged(s.value, result.interval))
        paragraphs += scope_of(self._sampling, self.data)
        cautions = list(result.remarks)
        if any(check.mark == "fails" for check in found):
            cautions.insert(0, f"A condition of {way.inline} fails: see what to do under Next.")
        return Reading(
            self._told(result),
            tuple(paragraphs),
            conditions=conditions,
            cautions=tuple(cautions),
            next=self._links(found, results),
        )

    def _followed(self) -> str:
        """What follows from what was given."""
        s = self.statement
        assert s.given is not None
        value = with_unit(exact(getattr(s, s.given)), self.words.unit)
        what = {"low": "lower end", "high": "upper end", "margin": "margin"}[s.given]
        return f"With a {what} of {value} the confidence is {percent_text(self.confidence, 2)}."

    def _links(self, found: list[Check], results: Results) -> tuple[Link, ...]:
        s = self.statement
        links: list[Link] = []
        rows = sorted({row for check in found for row in check.rows})
        table = self.tables.get(s.table) if s.needs_table else None
        if table is not None:
            links += row_links(table, rows)
        if any(check.mark == "fails" for check in found):
            able = [w for w in self.ways if not isinstance(results[w.name], str)]
            best = suggested(able, s.parameter, lambda way: summed_up(self.checked(way))[1] == "fails")
            if best is not None and best.name != s.way:
                links.append(Link(f"Use {best.inline} instead, which is suggested here", sets=("way", best.name)))
        way = default_procedure(s.parameter, s.family, typed=s.data.bare())
        if way:
            null = s.about.usual_null if s.family in ONE_SIDED else 0.0
            test = make(
                "test",
                table=s.table,
                parameter=s.parameter,
                data=s.to_json()["data"],
                way=way,
                null=null,
                alpha=round(1 - self.confidence, 10),
            )
            links.append(Link("Test a claim about it", statement=test))
        if s.procedure.simulated:
            of = "percentile of shares" if "share" in s.family else "percentile"
            watched = make(
                "simulate",
                table=s.table,
                parameter=s.parameter,
                way=of,
                data=s.to_json()["data"],
                model={"kind": "resample"},
                share=s.share,
                repeats=s.resamples,
                seed=s.seed,
                ask="middle",
                middle=self.confidence,
            )
            links.append(Link("Watch it happen, resample by resample", statement=watched))
        about = {"table": s.table, **s.data.about}
        if "against" in about:
            label = f"See {about['what']} against {about['against']}"
            model = Link(f"Model {about['what']} from {about['against']}", statement=make("model", **about))
            return (*links, Link(label, statement=make("plot", **about, shape="scatter")), model)
        if s.data.about:
            links += [
                Link(f"{verb.capitalize()} {about['what']}", statement=make(verb, **about))
                for verb in ("describe", "plot")
            ]
        return tuple(links)

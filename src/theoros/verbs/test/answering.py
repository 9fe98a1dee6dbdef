"""The answer to a test: what was seen, every way, the conditions, and the conclusion."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from theoros.answer.chance_pictures import chance_frame
from theoros.answer.parts import Answer, Cell, Draft, Heading, Link, Reading, ResultTable, Section, Step
from theoros.answer.picture import Frame, Picture, Rule
from theoros.answer.result_tables import TableColumn, figure, table_of, words
from theoros.answer.wording import exact, number, p_value, sentence_case, statistic
from theoros.verbs import follow_ups
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.samples import SeveralSamples, TwoFactorSamples
from theoros.verbs.data.seen import seen_alt, seen_frame, seen_table
from theoros.verbs.data.typed_from import typed_from
from theoros.verbs.parameters.parameter import ONE_SIDED
from theoros.verbs.procedures.claims.claim import Claim
from theoros.verbs.procedures.claims.compared import Compared
from theoros.verbs.procedures.claims.together import claim_of
from theoros.verbs.procedures.drafting import WAITING, Results, cannot_answer, in_drafts
from theoros.verbs.procedures.procedure import (
    Effect,
    Procedure,
    Question,
    Result,
    default_procedure,
    procedures,
    procedures_for,
)
from theoros.verbs.procedures.report import ProcedureReport
from theoros.verbs.procedures.writeup import writeup_of
from theoros.verbs.test.intervals import MatchingInterval
from theoros.verbs.test.planning import groups_section, planning_section
from theoros.verbs.test.statement import TestStatement, plans

SHUFFLING = "Shuffling"
EFFECTS: tuple[TableColumn[Effect], ...] = (
    words("effect", "how large", lambda one: one.name),
    figure("value", "value", lambda one: one.value, lambda v: number(v, 3)),
    words("word", "size", lambda one: one.word or "–"),
    words("source", "by the rule of", lambda one: one.source if one.word else ""),
)
"""How large something is, with a word for that and whose word it is."""


def drafts(statement: TestStatement, tables: Tables) -> Iterator[Draft]:
    """First all that formulas give, then the shuffles as they come in."""
    data = statement.prepared(statement.data.read(tables, statement.table))
    kin = statement.about.kin
    ways = [
        way
        for way in procedures_for(statement.family, typed=statement.data.bare(), kin=kin)
        if way.name == statement.way or way.offered(statement.known)
    ]
    report = TestReport(statement, tables, data, tuple(ways))
    yield from in_drafts(ways, statement.way, report.question, report.answer, SHUFFLING)


@dataclass(frozen=True)
class TestReport(ProcedureReport):
    """A test with its data, ready to be written up with whatever results are there."""

    statement: TestStatement
    weakened = "p tells less than it seems to"

    def question(self, way: Procedure) -> Question:
        """What a procedure is asked: about its own parameter, where it knows no other."""
        s = self.statement
        return Question(
            self.data,
            self.asked_about(way),
            s.null,
            s.alternative,
            s.alpha,
            confidence=self.confidence,
            settings=s.known,
            in_full=way.name == s.way,
        )

    @property
    def confidence(self) -> float | None:
        """Of the interval that says the same as the test; None where there is none such."""
        s = self.statement
        made = 1 - (s.alpha if s.alternative == "different" else 2 * s.alpha)
        return made if 0 < made < 1 else None

    @cached_property
    def words(self) -> Claim:
        s = self.statement
        return claim_of(self.data, s.about, s.alternative, s.null, s.alpha, s.bounded)

    def answer(self, results: Results) -> Answer:
        statement, words = self.statement, self.words
        way = procedures()[statement.way]
        held = results[way.name]
        result = held if isinstance(held, Result) else None
        interval = self._interval(result)
        against = statement.family in ONE_SIDED and statement.about.directed
        null = statement.null if against else None
        frames, alt = [seen_frame(self.data, null)], seen_alt(self.data)
        working: tuple[Step, ...] = ()
        writeup: tuple[Step, ...] = ()
        if result:
            frames.append(_null_frame(result, rejection=statement.rejection))
            alt += f" What chance gives under H0, with {result.statistic_text} marked."
            working = result.working
            if result.critical:
                line = f"at α = {exact(statement.alpha)}, {result.critical}"
                lookup = (result.lookup,) if result.lookup else ()
                working += (Step("By the critical value", (sentence_case(line), *lookup)),)
            working += (Step("What could be wrong", words.errors()),)
            writeup = writeup_of(words, way, result, self.told_conditions(way), self.scope)
        return Answer(
            statement.text(self.tables),
            symbols=words.symbols(),
            picture=Picture(tuple(frames), alt=alt, breaks=True),
            sections=(
                (*([interval.section()] if interval else []), *result.sections, *self._planning()) if result else ()
            ),
            figures_first=True,
            figures=(
                self._ways_table(results),
                seen_table(self.data),
                *(result.tables if result else ()),
                *self._effects(result),
            ),
            reading=self._reading(way, results),
            working=working,
            writeup=writeup,
            used=self.data.used,
            left_out=self.data.left_out,
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

    def _interval(self, result: Result | None) -> MatchingInterval | None:
        """What matches a result, where there is such an interval."""
        words, confidence = self.words, self.confidence
        if result is None or result.interval is None or confidence is None:
            return None
        if not isinstance(words, Compared):
            return None
        return MatchingInterval(words, result.interval, confidence, self.statement.bound)

    def _ways_table(self, results: Results) -> ResultTable:
        best = self.suggested(results)

        def compares(way: Procedure) -> str:
            return self.asked_about(way).plural

        def label(way: Procedure) -> Cell:
            drawn = f", {number(self.statement.shuffles, 0)}" if way.simulated else ""
            return Cell(f"{way.label}{drawn}", way.name)

        def found(way: Procedure) -> Result | None:
            held = results[way.name]
            return held if isinstance(held, Result) else None

        def statistic_cell(way: Procedure) -> Cell:
            held = found(way)
            if held is None:
                return Cell(WAITING if results[way.name] == WAITING else "–")
            return Cell(held.statistic_text, held.statistic)

        def p_cell(way: Procedure) -> Cell:
            held = found(way)
            return Cell("–") if held is None else Cell(p_value(held.p or 0.0), held.p)

        def conditions(way: Procedure) -> Cell:
            told, tone = self.said_of(way, best)
            if found(way) is None and results[way.name] != WAITING:
                told, tone = str(results[way.name]), "bad"
            return Cell(told, told, tone=tone)

        columns: tuple[TableColumn[Procedure], ...] = (
            TableColumn(Heading("way", "Way", numeric=False), label),
            words("compares", "compares", compares),
            TableColumn(Heading("statistic", "statistic"), statistic_cell),
            TableColumn(Heading("p", "p-value"), p_cell),
            TableColumn(Heading("conditions", "conditions", numeric=False), conditions),
        )
        return table_of(
            "ways",
            columns,
            self.ways,
            ways=True,
            sets=lambda way: ("way", way.name),
            chosen=lambda way: way.name == self.statement.way,
        )

    def _planning(self) -> tuple[Section, ...]:
        """How often the claim would be found at the true value that was typed."""
        s, words = self.statement, self.words
        if s.true_value is None or not plans(s):
            return ()
        if type(self.data) is SeveralSamples:
            return groups_section(self.data, s.true_value, s.power, s.alpha)
        if not isinstance(words, Compared):
            return ()
        return planning_section(words, s.true_value, s.power)

    def _effects(self, result: Result | None) -> tuple[ResultTable, ...]:
        """How large it is, with a word for that and whose word it is."""
        if result is None or not result.effects:
            return ()
        return (table_of("effects", EFFECTS, result.effects),)

    def _reading(self, way: Procedure, results: Results) -> Reading:
        claim, result = self.words, results[way.name]
        conditions, remedies = self.conditions(way), self._remedies(way, results)
        links = self._links(way, remedies)
        if not isinstance(result, Result):
            headline = f"{SHUFFLING} …" if result == WAITING else cannot_answer(way, result)
            return Reading(headline, conditions=conditions, next=links)
        p = result.p or 0.0
        reach = result.least_p, result.too_few
        paragraphs = [claim.conclusion(p, *reach), *self.scope]
        if not claim.rejected(p) and not claim.out_of_reach(result.least_p):
            paragraphs.append(claim.not_shown())
        interval = self._interval(result)
        if interval is not None:
            paragraphs.append(interval.said(rejected=claim.rejected(p)))
        return Reading(
            claim.decision(p, *reach),
            tuple(paragraphs),
            conditions=conditions,
            cautions=tuple(self._cautions(way, result, remedies)),
            next=links,
        )

    def _cautions(self, way: Procedure, result: Result, remedies: list[Link]) -> list[str]:
        words, data = self.words, self.data
        cautions = self.failed(way, remedies)
        if words.against:
            first = " and that the right group comes first" if words.compares else ""
            cautions.append(
                f"The sample leans against the claim, so p is large. Check that the claim points "
                f"the way it was meant{first}. A claim that is turned round after a look at the "
                f"data cannot be tested with them."
            )
        cautions += result.remarks
        if words.parameter.name == "median" and way.name == "rank sum":
            one, two = (sample.summary.median for sample in data.sides)
            if words.rejected(result.p or 0.0) and self.statement.null == 0 and one == two:
                cautions.append(
                    "The sample medians are equal: what the ranks found is a shift of the whole "
                    "group, not of its middle value."
                )
        return cautions

    def _remedies(self, way: Procedure, results: Results) -> list[Link]:
        """What can be done about an assumption that fails."""
        statement, links = self.statement, self.another(way, results)
        if not statement.merge and any(check.remedy == "merge" for check in self.checked(way)):
            links.append(Link("Merge levels until 5 are expected of each", sets=("merge", True)))
        others = dict.fromkeys(name for way in self.ways for name in way.compares)
        other = next((one for one in others if one != statement.parameter), "")
        if other and self.fails(way):
            links.append(Link(f"Ask about the {other}s instead, which is another question", sets=("parameter", other)))
        return links

    def _watched(self) -> Any:
        """The same claim as a simulation, with everything filled in."""
        s = self.statement
        asks: dict[str, follow_ups.Ask] = {"less": "at most", "greater": "at least", "different": "as far"}
        return follow_ups.watch_claim(
            s.data,
            s.parameter,
            s.way,
            table=s.table,
            null=s.null,
            claimed=s.claimed,
            alpha=s.alpha,
            ask=asks[s.alternative] if s.about.points(s.family) else "at least",
            repeats=s.shuffles,
            seed=s.seed,
        )

    def _links(self, chosen: Procedure, remedies: list[Link]) -> tuple[Link, ...]:
        statement = self.statement
        links = self.row_links(chosen)
        if self.words.against and statement.null == 0 and self.words.compares:
            label = "Swap the two groups, if they were entered the wrong way round"
            links.append(Link(label, statement=statement.swapped()))
        links += remedies
        way = default_procedure(statement.parameter, statement.family, typed=statement.data.bare(), purpose="interval")
        if way:
            what = "this difference" if self.words.compares else "it"
            confidence = round(1 - statement.alpha, 10)
            interval = follow_ups.estimate(
                statement.data, statement.parameter, way, table=statement.table, confidence=confidence
            )
            links.append(Link(f"Estimate {what} by an interval", statement=interval))
        if chosen.simulated and not isinstance(self.data, TwoFactorSamples):
            links.append(Link("Watch it happen, shuffle by shuffle", statement=self._watched()))
        typed = typed_from(self.data)
        if typed is not None:
            label = "Carry these figures into a test of typed figures"
            links.append(Link(label, statement=statement.with_figures(typed)))
        about = statement.data.about
        if about and len(about) < 3 and "normal" in chosen.needs:
            shape = follow_ups.plot(statement.table, shape="normal quantiles", **about)
            links.append(Link("See the shape beside a normal one", statement=shape))
        return (*links, *self.about_links())


def _null_frame(result: Result, *, rejection: bool) -> Frame:
    """The picture of what chance gives, with the region shaded whose probability is p.

    With `rejection` it is the region in which H0 is rejected that is shaded, if there is one.
    """
    assert result.distribution is not None
    assert result.region is not None
    region, title = result.region, result.title
    ends: tuple[float, ...] = ()
    if rejection and result.rejection is not None:
        region, title = result.rejection, "Shaded: where H₀ is rejected"
        ends = tuple(e for part in region.parts for e in part if math.isfinite(e))
    frame = chance_frame(
        result.distribution,
        region,
        result.seen,
        axis=result.axis,
        seen_text=result.seen_text,
        title=title,
        bell=result.bell,
    )
    limits = tuple(
        Rule(end, statistic(end, 1), "tail", knob=False, dashed=True)
        for end in ends
        if frame.x.low <= end <= frame.x.high
    )
    return replace(frame, rules=(*limits, *frame.rules))

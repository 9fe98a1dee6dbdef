"""The answer to a test: what was seen, every way, the conditions, and the conclusion."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from theoros.answer.chance_pictures import chance_frame
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
from theoros.answer.picture import Frame, Picture, Rule
from theoros.answer.wording import exact, number, p_value, sentence_case, statistic
from theoros.verbs.conditions.condition import Check, checks, summed_up
from theoros.verbs.core.registry import make
from theoros.verbs.core.row_links import row_links
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.samples import SeveralSamples, TwoFactorSamples
from theoros.verbs.data.seen import seen_alt, seen_frame, seen_table
from theoros.verbs.data.typed_from import typed_from
from theoros.verbs.parameters.parameter import ONE_SIDED, parameters
from theoros.verbs.procedures.asked import asked_of
from theoros.verbs.procedures.claims.claim import Claim
from theoros.verbs.procedures.claims.compared import Compared
from theoros.verbs.procedures.claims.together import claim_of
from theoros.verbs.procedures.drafting import WAITING, Results, cannot_answer, in_drafts
from theoros.verbs.procedures.procedure import (
    Procedure,
    Question,
    Result,
    default_procedure,
    procedures,
    procedures_for,
    suggested,
)
from theoros.verbs.procedures.scope import scope_of
from theoros.verbs.procedures.writeup import writeup_of
from theoros.verbs.test.intervals import MatchingInterval
from theoros.verbs.test.planning import groups_section, planning_section
from theoros.verbs.test.statement import TestStatement, plans

SHUFFLING = "Shuffling"


def drafts(statement: TestStatement, tables: Tables) -> Iterator[Draft]:
    """First all that formulas give, then the shuffles as they come in."""
    data = statement.prepared(statement.data.read(tables, statement.table))
    kin = statement.about.kin
    ways = [
        way
        for way in procedures_for(statement.family, typed=statement.data.bare(), kin=kin)
        if way.name == statement.way or way.offered(statement.known)
    ]
    asked = _Asked(statement, tables, data, tuple(ways))
    yield from in_drafts(ways, statement.way, asked.question, asked.answer, SHUFFLING)


@dataclass(frozen=True)
class _Asked:
    """A test with its data, ready to be written up with whatever results are there."""

    statement: TestStatement
    tables: Tables
    data: Any
    """A value of `verbs.data`."""
    ways: tuple[Procedure, ...]

    def question(self, way: Procedure) -> Question:
        """What a way is asked: about its own parameter, where it knows no other."""
        s = self.statement
        return Question(
            self.data,
            parameters()[way.about(s.parameter)],
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

    def checked(self, way: Procedure) -> list[Check]:
        """The conditions of a way, for what it compares here."""
        about = parameters()[way.about(self.statement.parameter)]
        known: dict[tuple[str, str], list[Check]] = self.__dict__.setdefault("_checked", {})
        for need in way.needs:  # each is checked once, however many ways lean on it
            if (need, about.name) not in known:
                known[need, about.name] = checks((need,), self.data, about)
        return [check for need in way.needs for check in known[need, about.name]]

    def answer(self, results: Results) -> Answer:
        statement, words = self.statement, self.words
        way = procedures()[statement.way]
        held = results[way.name]
        result = held if isinstance(held, Result) else None
        interval = self._interval(result)
        found = self.checked(way)
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
            told = [f"{MARKS[check.mark]} {check.text}" for check in found]
            told += [one.told() for one in asked_of(statement, self.data, self.sampling)]
            scope = scope_of(self.sampling, self.data)
            writeup = writeup_of(words, way, result, told, scope)
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
            reading=self._reading(way, results, found),
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
        best = self._suggested(results)
        rows = [self._way_row(way, results[way.name], way.name == best) for way in self.ways]
        headings = (
            Heading("way", "Way", numeric=False),
            Heading("compares", "compares", numeric=False),
            Heading("statistic", "statistic"),
            Heading("p", "p-value"),
            Heading("conditions", "conditions", numeric=False),
        )
        return ResultTable("ways", headings, tuple(rows), ways=True)

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
        rows = tuple(
            FigureRow(
                (
                    Cell(one.name, one.name),
                    cell(one.value, number(one.value, 3)),
                    Cell(one.word or "–"),
                    Cell(one.source if one.word else ""),
                )
            )
            for one in result.effects
        )
        headings = (
            Heading("effect", "how large", numeric=False),
            Heading("value", "value"),
            Heading("word", "size", numeric=False),
            Heading("source", "by the rule of", numeric=False),
        )
        return (ResultTable("effects", headings, rows),)

    def _way_row(self, way: Procedure, result: Result | str, best: bool) -> FigureRow:
        told, mark = summed_up(self.checked(way))
        tone = {"holds": "good", "fails": "bad", "judge": "warn"}[mark]
        compares = parameters()[way.about(self.statement.parameter)].plural
        if isinstance(result, Result):
            statistic = Cell(result.statistic_text, result.statistic)
            p = Cell(p_value(result.p or 0.0), result.p)
        else:
            statistic, p = Cell(WAITING if result == WAITING else "–"), Cell("–")
            if result != WAITING:
                told, tone = result, "bad"
        label = way.label
        if way.simulated:
            label = f"{way.label}, {number(self.statement.shuffles, 0)}"
        if best:
            told = f"{told} · suggested"
        cells = (
            Cell(label, way.name),
            Cell(compares, compares),
            statistic,
            p,
            Cell(told, told, tone=tone),  # type: ignore[arg-type]
        )
        return FigureRow(cells, sets=("way", way.name), chosen=way.name == self.statement.way)

    def _suggested(self, results: Results) -> str:
        """The name of the way that is advised, of those that have or will have a result."""
        able = [way for way in self.ways if isinstance(results[way.name], Result) or results[way.name] == WAITING]
        best = suggested(able, self.statement.parameter, lambda way: summed_up(self.checked(way))[1] == "fails")
        return best.name if best else ""

    @property
    def sampling(self) -> str:
        """How the rows were got, as the table says; empty where it is not said."""
        table = self.tables.get(self.statement.table) if self.statement.needs_table else None
        return table.sampling if table is not None else ""

    def _reading(self, way: Procedure, results: Results, found: list[Check]) -> Reading:
        words, result = self.words, results[way.name]
        asked = asked_of(self.statement, self.data, self.sampling)
        conditions = (*(check.condition() for check in found), *(one.condition() for one in asked))
        remedies = self._remedies(found, self._suggested(results))
        links = self._links(found, remedies)
        if not isinstance(result, Result):
            waits = result == WAITING
            headline = f"{SHUFFLING} …" if waits else cannot_answer(way, result)
            return Reading(headline, conditions=conditions, next=links)
        p = result.p or 0.0
        reach = result.least_p, result.too_few
        paragraphs = [words.conclusion(p, *reach), *scope_of(self.sampling, self.data)]
        if not words.rejected(p) and not words.out_of_reach(result.least_p):
            paragraphs.append(words.not_shown())
        interval = self._interval(result)
        if interval is not None:
            paragraphs.append(interval.said(rejected=words.rejected(p)))
        return Reading(
            words.decision(p, *reach),
            tuple(paragraphs),
            conditions=conditions,
            cautions=tuple(self._cautions(way, result, found, remedies)),
            next=links,
        )

    def _cautions(self, way: Procedure, result: Result, found: list[Check], remedies: list[Link]) -> list[str]:
        words, data = self.words, self.data
        cautions = []
        if any(check.mark == "fails" for check in found):
            then = (
                ": see what to do under Next"
                if remedies
                else ", and no way here does without it: p tells less than it seems to"
            )
            cautions.append(f"A condition of {way.inline} fails{then}.")
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

    def _remedies(self, found: list[Check], suggested: str) -> list[Link]:
        """What can be done about a condition that fails."""
        statement, links = self.statement, list[Link]()
        failed = any(check.mark == "fails" for check in found)
        if failed and suggested not in ("", statement.way):
            other_way = procedures()[suggested].inline
            links.append(Link(f"Use {other_way} instead, which is suggested here", sets=("way", suggested)))
        if not statement.merge and any(check.remedy == "merge" for check in found):
            links.append(Link("Merge levels until 5 are expected of each", sets=("merge", True)))
        other = next((one for one in self._others() if one != statement.parameter), "")
        if other and failed:
            links.append(Link(f"Ask about the {other}s instead, which is another question", sets=("parameter", other)))
        return links

    def _watched(self) -> Any:
        """The same claim as a simulation, with everything filled in."""
        s = self.statement
        asks = {"less": "at most", "greater": "at least", "different": "as far"}
        directed = s.about.points(s.family)
        return make(
            "simulate",
            table=s.table,
            data=s.to_json()["data"],
            parameter=s.parameter,
            way=s.way,
            model={"kind": "claim", "null": s.null, "claimed": s.claimed},
            repeats=s.shuffles,
            seed=s.seed,
            alpha=s.alpha,
            ask=asks[s.alternative] if directed else "at least",
        )

    def _links(self, found: list[Check], remedies: list[Link]) -> tuple[Link, ...]:
        statement = self.statement
        links: list[Link] = []
        rows = sorted({row for check in found for row in check.rows})
        table = self.tables.get(statement.table) if statement.needs_table else None
        if table is not None:
            links += row_links(table, rows)
        if self.words.against and statement.null == 0 and self.words.compares:
            label = "Swap the two groups, if they were entered the wrong way round"
            links.append(Link(label, statement=statement.swapped()))
        links += remedies
        way = default_procedure(statement.parameter, statement.family, typed=statement.data.bare(), purpose="interval")
        if way:
            what = "this difference" if self.words.compares else "it"
            links.append(
                Link(
                    f"Estimate {what} by an interval",
                    statement=make(
                        "estimate",
                        table=statement.table,
                        parameter=statement.parameter,
                        way=way,
                        data=statement.to_json()["data"],
                        confidence=round(1 - statement.alpha, 10),
                    ),
                )
            )
        if procedures()[statement.way].simulated and not isinstance(self.data, TwoFactorSamples):
            links.append(Link("Watch it happen, shuffle by shuffle", statement=self._watched()))
        typed = typed_from(self.data)
        if typed is not None:
            label = "Carry these figures into a test of typed figures"
            links.append(Link(label, statement=statement.with_figures(typed)))
        about = statement.data.about
        if about:
            made = {"table": statement.table, **about}
            if "normal" in procedures()[statement.way].needs and len(about) < 3:
                shape = make("plot", **made, shape="normal quantiles")
                links.append(Link("See the shape beside a normal one", statement=shape))
            if "against" in made:
                label = f"See {about['what']} against {about['against']}"
                model = Link(f"Model {about['what']} from {about['against']}", statement=make("model", **made))
                return (*links, Link(label, statement=make("plot", **made, shape="scatter")), model)
            links.append(Link(f"Describe {about['what']}", statement=make("describe", **made)))
            links.append(Link(f"Plot {about['what']}", statement=make("plot", **made)))
        return tuple(links)

    def _others(self) -> tuple[str, ...]:
        """The parameters that can be asked about here."""
        return tuple(dict.fromkeys(name for way in self.ways for name in way.compares))


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

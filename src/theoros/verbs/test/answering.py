"""The answer to a test: both samples, every way, the conditions, and the conclusion."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from theoros.answer.parts import (
    Answer,
    CannotAnswer,
    Cell,
    Choice,
    Condition,
    Draft,
    FigureRow,
    Figures,
    Heading,
    Link,
    Reading,
    Step,
    cell,
)
from theoros.answer.picture import Frame, Picture
from theoros.answer.wording import (
    data_decimals,
    exact,
    number,
    p_value,
    plural,
    sentence_case,
    significant,
)
from theoros.numeric.arrays import Centre
from theoros.table.table import Table
from theoros.verbs.core.registry import make
from theoros.verbs.core.row_links import row_links
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.groups import Split
from theoros.verbs.data.pictures import describe_groups, dots_frame
from theoros.verbs.test.claims import ClaimInWords
from theoros.verbs.test.conditions import Check, checks, summed_up
from theoros.verbs.test.samples import Sample, Samples
from theoros.verbs.test.sampling import matched_levels, samples_of
from theoros.verbs.test.statement import TestStatement
from theoros.verbs.test.typed import figures_words, typed_frame, typed_samples
from theoros.verbs.test.way import Outcome, Question, Way, WayFails, ways, ways_for
from theoros.verbs.test.writeup import writeup_of

Results = dict[str, Outcome | str]
"""For each way its outcome, or in words why there is none (yet)."""

WAITING = "…"


def answer_in_drafts(statement: TestStatement, tables: Tables) -> Iterator[Draft]:
    """First all that formulas give, then the shuffles as they come in."""
    asked = _asked(statement, tables)
    results: Results = {}
    simulated: list[Way] = []
    for way in ways_for(statement.matched, statement.typed):
        if way.simulated:
            simulated.append(way)
            results[way.name] = WAITING
            continue
        try:
            results[way.name] = _last(way, asked.question)
        except WayFails as why:
            results[way.name] = str(why)
    if simulated:
        yield Draft(asked.answer(results), 0.0)
    for way in simulated:
        question = replace(asked.question, centre=statement.centre)
        try:
            for outcome, done in way.run(question):
                if outcome is None:
                    yield Draft(None, done)
                    continue
                results[way.name] = outcome
                if done < 1:
                    yield Draft(asked.answer(results), done)
        except WayFails as why:
            results[way.name] = str(why)
    yield Draft(asked.answer(results), 1.0)


def _asked(statement: TestStatement, tables: Tables) -> _Asked:
    if statement.typed:
        return _Asked(statement, None, tables, typed_samples(statement), None)
    table = tables[statement.table]
    if statement.groups == "levels" and statement.design == "matched":
        raise CannotAnswer(matched_levels(statement, table), "groups")
    return _Asked(statement, table, tables, *samples_of(statement, table))


def _last(way: Way, question: Question) -> Outcome:
    outcome: Outcome | None = None
    for found, _ in way.run(question):
        outcome = found or outcome
    assert outcome is not None
    return outcome


@dataclass(frozen=True)
class _Asked:
    """A test with its samples, ready to be written up with whatever results are there."""

    statement: TestStatement
    table: Table | None
    """None where figures were typed; then there are no cases either."""
    tables: Tables
    samples: Samples
    cases: Split | None

    @property
    def noun(self) -> str:
        """What one value belongs to."""
        return self.table.noun if self.table else "value"

    @property
    def measure(self) -> str:
        """What was measured, in words."""
        return self.statement.measure.strip() if self.statement.typed else self.statement.what or ""

    @property
    def question(self) -> Question:
        s = self.statement
        return Question(
            self.samples, s.centre, s.claim, s.null, s.alpha, s.continuity, s.shuffles, s.seed
        )

    @property
    def words(self) -> ClaimInWords:
        s = self.statement
        return ClaimInWords(
            self.samples,
            self.measure,
            s.centre,
            s.claim,
            s.null,
            s.alpha,
            s.groups == "columns",
            s.design,
        )

    def answer(self, results: Results) -> Answer:
        statement, words = self.statement, self.words
        way = ways()[statement.way]
        result = results[way.name]
        outcome = result if isinstance(result, Outcome) else None
        found = checks(way.needs, self.samples, statement.centre)
        frame, alt = self._seen()
        frames = [frame]
        if outcome:
            frames.append(outcome.null_frame())
            alt += f" What chance gives under H0, with {outcome.statistic_text} marked."
        working: tuple[Step, ...] = ()
        writeup: tuple[Step, ...] = ()
        if outcome:
            working = outcome.working
            if outcome.critical:
                line = f"at α = {exact(statement.alpha)}, {outcome.critical}"
                working += (Step("By the critical value", (sentence_case(line),)),)
            writeup = writeup_of(words, way, outcome, found, self.noun)
        return Answer(
            statement.text(self.tables),
            symbols=words.symbols(),
            picture=Picture(tuple(frames), alt=alt, breaks=True),
            figures=(self._ways_table(results), self._sample_table()),
            reading=self._reading(way, result, found),
            working=working,
            writeup=writeup,
            used=self.cases.used if self.cases else 0,
            left_out=self.cases.left_out if self.cases else (),
            seed=statement.seed,
        )

    def _seen(self) -> tuple[Frame, str]:
        """The picture of the samples, and what it shows in words."""
        statement, unit = self.statement, self.samples.unit
        if self.cases is None or self.table is None:
            label = f"{self.measure} ({unit})" if unit else self.measure
            return typed_frame(self.samples, label), figures_words(self.samples)
        label = self.table.column(statement.what or "").label
        if statement.matched:
            label = f"{statement.what} − {statement.other}"
            label += f" ({unit})" if unit else ""
        elif statement.groups == "columns":
            label = unit or f"{statement.what} and {statement.other}"
        frame = dots_frame(self.cases, label, means=True, fine=True, title="What was seen")
        return frame, describe_groups(self.cases.groups, label, unit, self.samples.decimals)

    def _ways_table(self, results: Results) -> Figures:
        statement = self.statement
        best = self._suggested(results)
        rows = []
        for way in ways_for(statement.matched, statement.typed):
            result = results[way.name]
            told, mark = summed_up(checks(way.needs, self.samples, self._centre(way)))
            tone = {"holds": "good", "fails": "bad", "judge": "warn"}[mark]
            compares = f"{self._centre(way)}s"
            if isinstance(result, Outcome):
                statistic = Cell(result.statistic_text, result.statistic)
                p = Cell(result.p_text or p_value(result.p), result.p)
            else:
                statistic, p = Cell(WAITING if result == WAITING else "–"), Cell("–")
                if result != WAITING:
                    told, tone = result, "bad"
            if way.name == best:
                told = f"{told} · suggested"
            rows.append(
                FigureRow(
                    (
                        Cell(self._way_label(way), way.name),
                        Cell(compares, compares),
                        statistic,
                        p,
                        Cell(told, told, tone=tone),  # type: ignore[arg-type]
                    ),
                    sets=("way", way.name),
                    chosen=way.name == statement.way,
                )
            )
        headings = (
            Heading("way", "Way", numeric=False),
            Heading("compares", "compares", numeric=False),
            Heading("statistic", "statistic"),
            Heading("p", "p-value"),
            Heading("conditions", "conditions", numeric=False),
        )
        return Figures("ways", headings, tuple(rows))

    def _way_label(self, way: Way) -> str:
        return f"{way.label}, {number(self.statement.shuffles, 0)}" if way.simulated else way.label

    def _suggested(self, results: Results) -> str:
        """The first way that has a result and whose conditions do not fail."""
        order = {"holds": 0, "judge": 1, "fails": 2}
        able = [
            way
            for way in ways_for(self.statement.matched, self.statement.typed)
            if isinstance(results[way.name], Outcome) or results[way.name] == WAITING
        ]

        def worst(way: Way) -> int:
            return order[summed_up(checks(way.needs, self.samples, self._centre(way)))[1]]

        return min(able, key=worst).name if able else ""

    def _centre(self, way: Way) -> Centre:
        """What a way compares here: a simulation compares whatever the statement does."""
        centre = self.statement.centre
        return centre if centre in way.compares else way.compares[0]

    def _sample_table(self) -> Figures:
        samples = self.samples
        if self.statement.typed:
            return self._typed_table()
        listed = [samples.first, samples.second, *([samples.pairs] if samples.pairs else [])]
        rows = []
        for sample in listed:
            s = sample.summary
            finer = data_decimals(samples.decimals, s.n)
            rows.append(
                FigureRow(
                    (
                        Cell(sample.label, sample.label),
                        cell(s.n),
                        cell(s.mean, number(s.mean, finer)),
                        cell(s.sd, number(s.sd, finer)),
                        cell(s.median, number(s.median, finer)),
                        cell(s.iqr, number(s.iqr, finer)),
                        cell(len(sample.outliers), rows=_rows_of(sample, sample.outliers)),
                    )
                )
            )
        headings = (
            Heading("group", "Group", numeric=False),
            Heading("n", "n"),
            Heading("mean", "mean"),
            Heading("sd", "SD"),
            Heading("median", "median"),
            Heading("iqr", "IQR"),
            Heading("outliers", "outliers", help="Values beyond a fence"),
        )
        return Figures("samples", headings, tuple(rows))

    def _typed_table(self) -> Figures:
        """The figures as they were typed, and what they give."""
        rows = []
        for sample in self.samples.each:
            s = sample.summary
            error = s.sd / math.sqrt(s.n)
            cells = (cell(s.n), cell(s.mean, exact(s.mean)), cell(s.sd, exact(s.sd)))
            last = cell(error, significant(error, 4))
            rows.append(FigureRow((Cell(sample.label, sample.label), *cells, last)))
        headings = (
            Heading("group", "Group", numeric=False),
            Heading("n", "n"),
            Heading("mean", "mean"),
            Heading("sd", "SD"),
            Heading("se", "standard error", help="SD / √n"),
        )
        return Figures("samples", headings, tuple(rows))

    def _reading(self, way: Way, result: Outcome | str, found: list[Check]) -> Reading:
        words, statement = self.words, self.statement
        conditions = tuple(check.condition() for check in found)
        design = self._design_question()
        if design:
            conditions += (design,)
        links = self._links(found)
        if not isinstance(result, Outcome):
            headline = (
                "Shuffling …"
                if result == WAITING
                else f"{way.label} cannot answer this: it {result}."
                if result.startswith("needs")
                else f"{way.label} cannot answer this: {result}."
            )
            return Reading(headline, conditions=conditions, next=links)
        zero = f"p {result.p_text}" if result.p_text else ""
        headline = words.decision(result.p, simulated_zero=zero)
        paragraphs = [words.conclusion(result.p)]
        if not words.rejected(result.p):
            paragraphs.append(words.not_shown())
        cautions = list(result.remarks)
        if words.against:
            cautions.insert(
                0,
                "The sample leans against the claim, so p is large. Check that the claim points "
                "the way it was meant and that the right group comes first.",
            )
        if any(check.mark == "fails" for check in found):
            cautions.insert(0, f"A condition of {way.inline} fails: see the other ways.")
        if statement.centre == "median" and way.name == "rank sum":
            medians = (self.samples.first.summary.median, self.samples.second.summary.median)
            if words.rejected(result.p) and statement.null == 0 and medians[0] == medians[1]:
                cautions.append(
                    "The sample medians are equal: what the ranks found is a shift of the whole "
                    "group, not of its middle value."
                )
        return Reading(
            headline,
            tuple(paragraphs),
            conditions=conditions,
            cautions=tuple(cautions),
            next=links,
        )

    def _design_question(self) -> Condition | None:
        statement, noun = self.statement, plural(self.noun)
        matched = statement.design == "matched"
        one = self.noun
        text = f"Were the {noun} picked separately for each group, or matched one to one?"
        if statement.design == "separate":
            text = "As you say, the two groups were picked separately."
        elif matched:
            text = f"As you say, both values of a row belong to one {one} or one matched pair."
        elif statement.groups == "columns":
            text = f"Do both values of a row belong to one {one} or matched pair, or not?"
        choices = (
            Choice("separately", "design", "separate", statement.design == "separate"),
            Choice("matched", "design", "matched", matched),
        )
        return Condition("judge" if statement.design == "not said" else "holds", text, choices)

    def _links(self, found: list[Check]) -> tuple[Link, ...]:
        statement = self.statement
        links: list[Link] = []
        rows = sorted({row for check in found for row in check.rows})
        if self.table is not None:
            links += row_links(self.table, rows)
        if self.words.against and statement.null == 0:
            links.append(Link("Swap the two groups", statement=statement.swapped()))
        if statement.groups == "levels":
            made = {"table": statement.table, "what": statement.what, "by": statement.by}
            links.append(Link(f"Describe {statement.what}", statement=make("describe", **made)))
            links.append(Link(f"Plot {statement.what}", statement=make("plot", **made)))
        return tuple(links)


def _rows_of(sample: Sample, places: Sequence[int]) -> tuple[int, ...]:
    return tuple(int(sample.rows[at]) for at in places)

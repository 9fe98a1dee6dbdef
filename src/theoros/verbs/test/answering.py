"""The answer to a test: both samples, every way, the conditions, and the conclusion."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from theoros.answer.parts import (
    MARKS,
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
from theoros.answer.picture import Picture
from theoros.answer.wording import (
    counted,
    data_decimals,
    exact,
    listed_briefly,
    number,
    p_equals,
    p_value,
    plural,
    sentence_case,
    with_unit,
)
from theoros.heavy import np
from theoros.numeric.arrays import subtract
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.groups import Group, Split, split
from theoros.verbs.pictures import describe_groups, dots_frame
from theoros.verbs.registry import make
from theoros.verbs.slots import Tables
from theoros.verbs.test.claims import ClaimInWords
from theoros.verbs.test.conditions import Check, checks, summed_up
from theoros.verbs.test.samples import Centre, Sample, Samples
from theoros.verbs.test.statement import TestStatement
from theoros.verbs.test.way import Outcome, Question, Way, WayFails, ways, ways_for

Results = dict[str, Outcome | str]
"""For each way its outcome, or in words why there is none (yet)."""

WAITING = "…"
LARGEST = 1e150
"""Squares of larger values overflow."""


def answer_in_drafts(statement: TestStatement, tables: Tables) -> Iterator[Draft]:
    """First all that formulas give, then the shuffles as they come in."""
    table = tables[statement.table]
    if statement.groups == "levels" and statement.design == "matched":
        raise CannotAnswer(_matched_levels(statement, table), "groups")
    samples, cases = _samples(statement, table)
    asked = _Asked(statement, table, tables, samples, cases)
    results: Results = {}
    simulated: list[Way] = []
    for way in ways_for(statement.matched):
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


def _last(way: Way, question: Question) -> Outcome:
    outcome: Outcome | None = None
    for found, _ in way.run(question):
        outcome = found or outcome
    assert outcome is not None
    return outcome


def _matched_levels(statement: TestStatement, table: Table) -> str:
    number_columns = len(table.of_kind(Kind.NUMBER))
    advice = (
        "Set “the two groups” to two columns"
        if number_columns >= 2
        else "Put the two measurements of each case beside each other, in two columns of one row, "
        "and set “the two groups” to two columns"
    )
    return (
        f"Matched values belong together in one row, and here each {table.noun} has a row of its "
        f"own, so nothing says which {statement.first} value goes with which {statement.second} "
        f"one. {advice}; or answer that the samples were picked separately."
    )


def _samples(statement: TestStatement, table: Table) -> tuple[Samples, Split]:
    assert statement.what is not None
    column, places = table.column(statement.what), table.decimals(statement.what)
    if statement.groups == "levels":
        assert statement.by is not None
        assert statement.first is not None
        assert statement.second is not None
        cases = split(table, statement.what, statement.by, (statement.first, statement.second))
        homes = [Sample(g.label, g.phrase, g.values, g.rows) for g in cases.groups]
        samples = Samples(homes[0], homes[1], column.unit, places)
    else:
        assert statement.other is not None
        samples, cases = _two_columns(statement, table, statement.what, statement.other)
    for sample in (samples.first, samples.second):
        if sample.n == 0:
            raise CannotAnswer(
                f"There is no value of {statement.what} for {sample.label}, so there is nothing to "
                f"compare. Choose another group.",
                "first",
            )
        if float(np.abs(sample.values).max()) > LARGEST:
            raise CannotAnswer(
                f"{sample.label} holds values too large to square. Put the column in a larger "
                f"unit, so that its numbers become smaller.",
                "what",
            )
    return samples, cases


def _two_columns(
    statement: TestStatement, table: Table, what: str, other: str
) -> tuple[Samples, Split]:
    a, b = table.numbers(what), table.numbers(other)
    column, second = table.column(what), table.column(other)
    if column.unit != second.unit:
        raise CannotAnswer(
            f"{what} is in {column.unit or 'no unit'} and {other} in {second.unit or 'no unit'}; "
            f"only values in one unit can be compared. Choose another column, or put the units "
            f"right in the table.",
            "other",
        )
    places = max(table.decimals(what), table.decimals(other))
    left_out: list[str] = []
    pairs: Sample | None = None
    if statement.matched:
        both = np.isfinite(a) & np.isfinite(b)
        rows = np.flatnonzero(both)
        lost = int(table.rows - rows.size)
        if lost:
            left_out.append(f"{counted(lost, 'row')} left out: {what} or {other} is missing")
        if rows.size == 0:
            raise CannotAnswer(f"No row has both {what} and {other}.", "other")
        gaps = subtract(a[rows], b[rows])
        pairs = Sample("the differences", "the differences", gaps, rows, many=True)
        homes = [rows, rows]
    else:
        homes = [np.flatnonzero(np.isfinite(values)) for values in (a, b)]
        for name, rows in zip((what, other), homes, strict=True):
            if rows.size < table.rows:
                lost = int(table.rows - rows.size)
                left_out.append(f"{counted(lost, 'row')} left out: {name} is missing")
    first = Sample(what, what, a[homes[0]], homes[0])
    last = Sample(other, other, b[homes[1]], homes[1])
    if pairs is None:
        groups = tuple(Group(s.label, s.phrase, s.values, s.rows, 0) for s in (first, last))
    else:
        label = "difference"
        groups = (Group(label, plural(table.noun), pairs.values, pairs.rows, 0),)
    return Samples(first, last, column.unit, places, pairs), Split(groups, tuple(left_out))


@dataclass(frozen=True)
class _Asked:
    """A test with its samples, ready to be written up with whatever results are there."""

    statement: TestStatement
    table: Table
    tables: Tables
    samples: Samples
    cases: Split

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
            s.what or "",
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
        column = self.table.column(statement.what or "")
        seen_label = column.label
        if statement.matched:
            seen_label = f"{statement.what} − {statement.other}"
            seen_label += f" ({column.unit})" if column.unit else ""
        elif statement.groups == "columns" and column.unit:
            seen_label = column.unit
        elif statement.groups == "columns":
            seen_label = f"{statement.what} and {statement.other}"
        frames = [dots_frame(self.cases, seen_label, means=True, fine=True, title="What was seen")]
        alt = describe_groups(
            self.cases.groups, seen_label, self.samples.unit, self.samples.decimals
        )
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
            writeup = _writeup(words, way, outcome, found, self.table.noun)
        return Answer(
            statement.text(self.tables),
            symbols=words.symbols(),
            picture=Picture(tuple(frames), alt=alt),
            figures=(self._ways_table(results), self._sample_table()),
            reading=self._reading(way, result, found),
            working=working,
            writeup=writeup,
            used=self.cases.used,
            left_out=self.cases.left_out,
            seed=statement.seed,
        )

    def _ways_table(self, results: Results) -> Figures:
        statement = self.statement
        best = self._suggested(results)
        rows = []
        for way in ways_for(statement.matched):
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
            for way in ways_for(self.statement.matched)
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
        statement, noun = self.statement, plural(self.table.noun)
        matched = statement.design == "matched"
        one = self.table.noun
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
        statement, links = self.statement, []
        rows = sorted({row for check in found for row in check.rows})
        if rows:
            named = listed_briefly([str(row + 1) for row in rows], 4)
            word = "row" if len(rows) == 1 else "rows"
            links.append(Link(f"See {word} {named} in the table", rows=tuple(rows)))
        if self.words.against and statement.null == 0:
            links.append(Link("Swap the two groups", statement=statement.swapped()))
        if statement.groups == "levels":
            made = {"table": self.table.name, "what": statement.what, "by": statement.by}
            links.append(Link(f"Describe {statement.what}", statement=make("describe", **made)))
            links.append(Link(f"Plot {statement.what}", statement=make("plot", **made)))
        return tuple(links)


def _rows_of(sample: Sample, places: Sequence[int]) -> tuple[int, ...]:
    return tuple(int(sample.rows[at]) for at in places)


def _writeup(
    words: ClaimInWords, way: Way, outcome: Outcome, found: list[Check], noun: str
) -> tuple[Step, ...]:
    """The five steps that a marker looks for."""
    samples, centre = words.samples, words.centre
    if samples.matched:
        letter = words.hypothesis("=").split(" ")[0]
        meaning = (
            f"{letter} is the {centre} of the differences {samples.first.phrase} minus "
            f"{samples.second.phrase}, over all {plural(noun)} these were drawn from."
        )
    else:
        one, two = (
            f"the {centre} {sample.phrase}"
            if words.columns
            else f"the {centre} {words.what} of all {sample.phrase}"
            for sample in (samples.first, samples.second)
        )
        meaning = f"{words.parameter(1)} is {one}; {words.parameter(2)} is {two}."
    signs = words.symbols()
    gap = samples.difference(centre)
    places = min(6, samples.decimals + 1)
    amount = with_unit(number(gap, places), words.gap_unit)
    seen = f"a difference of {amount} between the {centre}s"
    if samples.matched:
        seen = f"a {centre} difference of {amount}"
    zero = f"p {outcome.p_text}" if outcome.p_text else ""
    conditions = tuple(f"{MARKS[check.mark]} {check.text}" for check in found)
    design = {
        "separate": "✓ the two samples were picked separately",
        "matched": f"✓ both values of a row belong to one {noun} or one matched pair",
        "not said": "? whether the samples were picked separately has still to be said",
    }[words.design]
    return (
        Step("1. Hypotheses", (meaning, signs[0].text, signs[1].text)),
        Step(
            "2. Level, way and conditions",
            (f"α = {exact(words.alpha)}, by {way.inline}.", *conditions, design),
        ),
        Step(
            "3. Statistic",
            (f"Seen in the sample: {seen}.", outcome.statistic_text),
        ),
        Step(
            "4. p-value and decision",
            (zero or p_equals(outcome.p), words.decision(outcome.p, simulated_zero=zero)),
        ),
        Step("5. Conclusion", (words.conclusion(outcome.p),)),
    )

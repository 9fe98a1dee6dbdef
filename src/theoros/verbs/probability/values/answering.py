"""The answer to a probability statement: picture, table of parts, words, conditions, working."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.nouns import plural, with_article
from theoros.answer.parts import Answer, Cell, FigureRow, Heading, Link, Reading, ResultTable, cell
from theoros.answer.wording import exact, number, trimmed, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Discrete, Distribution, Region
from theoros.numeric.distributions.lattice import Lattice
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.verdict import rarity
from theoros.verbs.laws.law import Approximation, Law
from theoros.verbs.probability.answering import assumptions
from theoros.verbs.probability.data import NotUnderstood
from theoros.verbs.probability.tables import PartRow, check_cell, check_heading, parts_table
from theoros.verbs.probability.values.answered_parts import AnsweredPart, CutValue, places_for, worked_out
from theoros.verbs.probability.values.pictures import part_picture
from theoros.verbs.probability.values.spans import AskedPart, Event, event_words
from theoros.verbs.probability.values.variable import asked
from theoros.verbs.probability.values.working import working_of
from theoros.verbs.probability.words import (
    LETTERS,
    UNUSUAL,
    about,
    chance_text,
    check_words,
    draw_again,
    roughly,
    why_it_fits,
)

if TYPE_CHECKING:
    from theoros.verbs.probability.statement import ProbabilityStatement

MOST_VALUES = 200
RARE = 1e-8
"""Values that are rarer are not listed."""


def answered(s: ProbabilityStatement, tables: Tables) -> Answer:
    """Everything about a value with a distribution. Raises CannotAnswer."""
    x = s.situation
    assert isinstance(x, Law)
    one = x.distribution(tables, s.table)
    words = _Words(s, x, one)
    found = [_part(text, x, one) for text in s.parts]
    parts = [(LETTERS[at % 26], each) for at, each in enumerate(found) if each]
    part = found[min(s.chosen, len(found) - 1)] if found else None
    drawn = one.draws(np.random.default_rng(s.seed), s.replicates) if s.replicates else None
    figures = [_parts_table(s, words, found, drawn)]
    if part and x.near():
        near = _near_table(x, part)
        figures += [near] if near else []
    figures.append(_moments(one))
    if s.values and isinstance(one, Discrete):
        figures.append(_values_table(one))
    laid = [(letter, each) for letter, each in parts if each.event] if s.laid else []
    picture = part_picture(
        one,
        part.event if part else None,
        chance_text(part.probability) if part else "",
        words.axis,
        _alt(words, part),
        movable=bool(part and part.asked.event and not part.asked.given and not s.laid),
        scored=not x.curve,
        drawn=drawn,
        laid=[(letter, each.event, _in_legend(letter, each, words)) for letter, each in laid if each.event],
    )
    return Answer(
        picture=picture,
        figures=tuple(figures),
        reading=_reading(s, words, part, drawn),
        working=working_of(x, one, parts),
        numbers=_numbers(one, parts),
        seed=s.seed if s.replicates else None,
        left_out=x.left_out(tables, s.table),
    )


def _part(text: str, x: Law, one: Distribution) -> AnsweredPart | None:
    """A part worked out; None where it is not understood, as after another kind of X was chosen."""
    try:
        return worked_out(asked(x, text), one)
    except NotUnderstood:
        return None


class _Words:
    """How X is spoken of."""

    def __init__(self, s: ProbabilityStatement, x: Law, one: Distribution) -> None:
        self.x, self.one = x, one
        self.kind = x.counting, x.discrete
        self.counts = s.counts.strip()
        self.each = s.each.strip() or "repetition"
        self.unit = s.unit.strip()
        self.places = places_for(one)

    @property
    def axis(self) -> str:
        if self.x.curve:
            return f"X, {self.x.label}"
        what = self.counts or "X"
        if self.x.counting:
            return f"{what} in one {self.each}" if self.counts else "X"
        return f"{what} ({self.unit})" if self.unit else what

    def value(self, at: float) -> str:
        return with_unit(number(at, self.places), self.unit)

    def cut(self, cut: CutValue) -> str:
        """The value that cuts off; "none" where every value would cut off too much."""
        return self.value(cut.at) if cut.gives > 0 else "none"

    def happens(self, asked: AskedPart) -> str:
        """What such repetitions do: "have from 9 to 11 sound seals"."""
        assert asked.event is not None
        said = event_words(asked.event, *self.kind).replace(", ends included", "")
        if not self.counts or self.x.curve:
            return f"give {asked.symbols()[2:-1].split(' | ')[0]}"
        if self.x.counting:
            one = said in ("exactly 1", "at least 1", "no more than 1", "fewer than 1")
            what = _singular(self.counts) if one else self.counts
            if said.startswith("not "):
                return f"have a number of {self.counts} other than {said.removeprefix('not ')}"
            if said == "exactly 0":
                return f"have no {self.counts}"
            return f"have {said} {what}"
        of = "" if said.startswith("from ") else "of "
        return f"have {with_article(self.counts)} {of}{with_unit(said, self.unit)}"


def _singular(noun: str) -> str:
    return noun[:-1] if noun.endswith("s") and not noun.endswith("ss") else noun


def _in_legend(letter: str, part: AnsweredPart, words: _Words) -> str:
    if part.cuts:
        return f"{letter}: {part.asked.words(*words.kind)}"
    return f"{letter}: {part.asked.symbols()} = {chance_text(part.probability)}"


def _came(part: AnsweredPart, one: Distribution, drawn: Floats) -> tuple[int, int]:
    """In how many of the draws a part came true, and of how many that counts."""
    given = part.asked.given
    within = given.region(one).holds(drawn) if given is not None else np.ones(drawn.size, np.bool_)
    event = part.event.region(one).holds(drawn) if part.event else np.zeros(drawn.size, np.bool_)
    return int((event & within).sum()), int(within.sum())


def _parts_table(
    s: ProbabilityStatement, words: _Words, found: list[AnsweredPart | None], drawn: Floats | None
) -> ResultTable:
    rows: list[PartRow | None] = []
    for text, part in zip(s.parts, found, strict=True):
        if part is None:
            rows.append(None)
            continue
        asked = part.asked
        said, many = _results(part, words, s.per)
        rows.append(
            PartRow(
                text,
                asked.words(*words.kind),
                asked.symbols(),
                part.probability,
                said,
                many,
                () if drawn is None else (check_cell(*_came(part, words.one, drawn)),),
            )
        )
    more = () if drawn is None else (check_heading(s),)
    return parts_table(s, rows, plural(words.each), "“at least 10”", more)


def _results(part: AnsweredPart, words: _Words, per: int) -> tuple[str, str]:
    if not part.cuts:
        return chance_text(part.probability), about(part.probability, per)
    if isinstance(words.one, Discrete):
        said = [" or ".join(f"{words.cut(cut)} ({chance_text(cut.gives)})" for cut in side) for side in part.cuts]
        return chance_text(part.probability), f"x = {' and '.join(said)}"
    return chance_text(part.probability), "x = " + " and ".join(words.value(side[0].at) for side in part.cuts)


def _moments(one: Distribution) -> ResultTable:
    variance = one.sd * one.sd  # infinite where it is too large to be told
    row = FigureRow(tuple(cell(value, trimmed(value)) for value in (one.mean, variance, one.sd)))
    headings = (Heading("mean", "mean"), Heading("variance", "variance"), Heading("sd", "SD"))
    return ResultTable("moments", headings, (row,), "mean, variance and standard deviation")


def _near_table(situation: Law, part: AnsweredPart) -> ResultTable | None:
    """What other distributions give for the chosen part, and how far off that is."""
    if part.asked.event is None or part.asked.given is not None:
        return None
    rows = [
        FigureRow(
            (Cell("exact"), cell(part.probability, chance_text(part.probability)), Cell("–"), Cell(""), Cell("")),
            chosen=True,
        )
    ]
    for near in situation.near():
        found = near.distribution.probability(_widened(part.asked.event, near.half, near))
        off = found - part.probability
        rows.append(
            FigureRow(
                (
                    Cell(near.label),
                    cell(found, chance_text(found)),
                    cell(off, number(off, 4)),
                    Cell(near.rule),
                    Cell("holds" if near.holds else "does not hold", tone="good" if near.holds else "warn"),
                )
            )
        )
    headings = (
        Heading("method", "method", numeric=False),
        Heading("gives", "gives"),
        Heading("error", "error"),
        Heading("rule", "rule of thumb", numeric=False),
        Heading("holds", "which", numeric=False),
    )
    return ResultTable("approximations", headings, tuple(rows), "approximations", methods=True)


def _widened(event: Event, half: float, near: Approximation) -> Region:
    """The event for another distribution; a curve takes in half a unit beyond its whole values."""
    if isinstance(near.distribution, Discrete) or not half:
        return event.region(near.distribution)
    parts = []
    for span in event.spans:
        low, high = span.low, span.high
        if math.isfinite(low):
            low = (math.ceil(low) if span.low_in or low != int(low) else low + 1) - half
        if math.isfinite(high):
            high = (math.floor(high) if span.high_in or high != int(high) else high - 1) + half
        parts.append((low, high))
    return Region(tuple(parts))


def _listed(one: Discrete) -> tuple[Floats, Floats]:
    """The values that a table lists, with their chances: the likeliest, if they are very many."""
    values, chances = one.masses(-math.inf, math.inf)
    likeliest = np.sort(np.argsort(-chances, kind="stable")[:MOST_VALUES])
    kept = likeliest[chances[likeliest] >= RARE]
    return values[kept], chances[kept]


def _left_out(one: Discrete) -> list[str]:
    """What the table of values does not list, in words."""
    values, _ = _listed(one)
    first, last = one.support
    if values.size == (one.values.size if isinstance(one, Lattice) else last - first + 1):
        return []
    rest = 1 - one.probability(Region(((float(values[0]), float(values[-1])),)))
    return [
        f"The table lists the values from {exact(float(values[0]))} to "
        f"{exact(float(values[-1]))}; all others together have a chance of "
        f"{chance_text(max(0.0, rest)) if rest > RARE else 'less than one in a hundred million'}."
    ]


def _values_table(one: Discrete) -> ResultTable:
    """The values with the three probabilities of tables."""
    rows = []
    for value, mass in zip(*(array.tolist() for array in _listed(one)), strict=True):
        below = one.probability(Region(((-math.inf, value),)))
        above = one.probability(Region(((value, math.inf),)))
        rows.append(
            FigureRow(
                (
                    Cell(exact(value), value),
                    cell(mass, chance_text(mass)),
                    cell(below, chance_text(below)),
                    cell(above, chance_text(above)),
                )
            )
        )
    headings = (
        Heading("x", "x"),
        Heading("exactly", "P(X = x)"),
        Heading("at_most", "P(X ≤ x)"),
        Heading("at_least", "P(X ≥ x)"),
    )
    return ResultTable("values", headings, tuple(rows), "table of values")


def _reading(s: ProbabilityStatement, words: _Words, part: AnsweredPart | None, drawn: Floats | None) -> Reading:
    asked_of = assumptions(s)
    label = words.x.label.split(",")[0]
    title = "Does it fit?" if label.startswith(("the ", "given ")) else f"Is it {label}?"
    if part is None:
        return Reading(
            headline="Nothing is asked yet.",
            paragraphs=(
                "Type the parts of the question below the picture, as they are said or as "
                "they are written: “at least 10”, “P(X < 10)”, “top 10 %”.",
            ),
            assumptions=asked_of,
            assumptions_title=title,
        )
    headline, paragraphs = _said(s, words, part)
    cautions = ["A condition does not hold: this distribution does not fit."] if s.denied else []
    if s.values and isinstance(words.one, Discrete):
        cautions += _left_out(words.one)
    links = []
    if part.asked.otherwise is not None:
        other = worked_out(part.asked.otherwise, words.one)
        cautions.insert(
            0,
            f"“Between” leaves open whether the ends count: with them "
            f"{chance_text(part.probability)}, without {chance_text(other.probability)}.",
        )
        for one in (part.asked, part.asked.otherwise):
            said = one.words(*words.kind)
            links.append(Link(f"Take it as “{said}”", sets=(f"parts.{s.chosen}", said)))
    if drawn is not None:
        came = _came(part, words.one, drawn)
        check = check_words(s, part.probability, *came, plural(words.each))
        paragraphs = (*paragraphs, check)
        links.append(draw_again(s))
    if s.values and isinstance(words.one, Discrete):
        links.append(Link("Put the table of values into a table of the study", figures="values"))
    paragraphs = (*paragraphs, *why_it_fits(s))
    return Reading(
        headline=headline,
        paragraphs=paragraphs,
        assumptions=asked_of,
        assumptions_title=title,
        cautions=tuple(cautions),
        next=tuple(links),
    )


def _said(s: ProbabilityStatement, words: _Words, part: AnsweredPart) -> tuple[str, tuple[str, ...]]:
    """The chosen part as a headline, and what it means."""
    asked = part.asked
    if part.cuts:
        return _cut_said(s, words, part)
    p, per = part.probability, whole(s.per)
    if math.isnan(p):
        return f"{asked.symbols()} is not defined.", (
            "The condition cannot happen, or its probability is below 10⁻³⁰⁸, so there is no probability given it.",
        )
    equals = "≈" if 0 < p < 0.00005 else "="
    headline = f"{asked.symbols()} {equals} {chance_text(p)}"
    many = plural(words.each) if s.per != 1 else words.each
    if asked.given is not None:
        under = AskedPart(asked.given)
        text = f"Of {per} such {many} that {words.happens(under)}, {roughly(p, s.per)} also "
        return headline, (f"{text}{words.happens(asked)}.",)
    if p == 0:
        return headline, (
            f"None of {per} such {many} {words.happens(asked)}.".replace(" have ", " has ").replace(
                " give ", " gives "
            ),
        )
    text = f"In {per} such {many}, {roughly(p, s.per)} {words.happens(asked)}."
    if about(p, s.per) == "fewer than 1":
        text = f"In {per} such {many}, fewer than 1 would {words.happens(asked)}: it comes about once in {_once(p)}."
    lines = [text]
    assert asked.event is not None
    rare = len(asked.event.spans) > 1 or any(
        math.isinf(end) for span in asked.event.spans for end in (span.low, span.high)
    )
    if rare and p < UNUSUAL:
        lines.append(f"That is {rarity(p)}: it happens less often than 5 times in 100.")
    return headline, tuple(lines)


def _once(p: float) -> str:
    size = 10 ** math.floor(math.log10(1 / p)) if p > 1e-15 else 0
    return whole(round(1 / p / (size / 10)) * (size // 10)) if size >= 10 else (number(1 / p, 0) if p > 0 else "∞")


def _cut_said(s: ProbabilityStatement, words: _Words, part: AnsweredPart) -> tuple[str, tuple[str, ...]]:
    cut_off = part.asked.cut_off
    assert cut_off is not None
    share = part.asked.words(*words.kind)
    values = [words.cut(side[0]) for side in part.cuts]
    if not isinstance(words.one, Discrete):
        if len(values) == 1:
            side = "at or below" if cut_off.side == "bottom" else "at or above"
            return f"x = {values[0]}", (
                f"{_capital(share)} of {plural(words.counts or 'value')} lie {side} {values[0]}.",
            )
        where = "between" if cut_off.side == "middle" else "outside"
        return f"x₁ = {values[0]}, x₂ = {values[1]}", (
            f"{_capital(share)}: values {where} {values[0]} and {values[1]}.",
        )
    lines = []
    for cuts in part.cuts:
        for cut in cuts:
            sign = "≤" if cut.below else "≥"
            lines.append(f"P(X {sign} {words.value(cut.at)}) = {chance_text(cut.gives)}")
    lines = [line for line in lines if not line.endswith(" = 0")] or lines
    exactly = all(len(cuts) == 1 for cuts in part.cuts)
    note = "" if exactly else " No value cuts off exactly what was asked; both neighbours are given."
    return f"x = {' and '.join(values)}", (f"{'; '.join(lines)}.{note}",)


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _alt(words: _Words, part: AnsweredPart | None) -> str:
    shape = "Bars" if isinstance(words.one, Discrete) else "A curve"
    what = words.axis if words.x.curve else f"{words.axis}, {words.x.label.rstrip(',')}"
    text = f"{shape} of {what}, around "
    text += f"{trimmed(words.one.centre, 2)}."
    if part is not None and part.event is not None and part.asked.event is not None:
        text += f" Hatched: {part.asked.symbols()} = {chance_text(part.probability)}."
    return text


def _numbers(one: Distribution, parts: list[tuple[str, AnsweredPart]]) -> dict[str, object]:
    return {
        "mean": one.mean,
        "sd": one.sd,
        "parts": {
            label: {
                "symbols": part.asked.symbols(),
                "probability": part.probability,
                "values": [[{"value": cut.at, "gives": cut.gives} for cut in side] for side in part.cuts],
            }
            for label, part in parts
        },
    }

"""The answer about events: picture, table of parts, words, joint table, working."""

from __future__ import annotations

import math
from functools import partial
from typing import TYPE_CHECKING

from theoros.answer.nouns import counted, plural
from theoros.answer.parts import Answer, FigureRow, Heading, Link, Reading, ResultTable, Step, cell
from theoros.answer.parts import Cell as FigureCell
from theoros.answer.result_tables import named_headings
from theoros.answer.wording import whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Ints
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Tables
from theoros.verbs.probability.answering import assumptions
from theoros.verbs.probability.data import NotUnderstood
from theoros.verbs.probability.outcomes.asking import example, read_event
from theoros.verbs.probability.outcomes.eventful import Eventful
from theoros.verbs.probability.outcomes.pictures import areas_picture, tree_picture
from theoros.verbs.probability.outcomes.space import AllOf, AnyOf, AskedEvent, EventClaim, Label, Space
from theoros.verbs.probability.outcomes.working import lines_of, same
from theoros.verbs.probability.tables import PartRow, check_cell, check_heading, parts_table
from theoros.verbs.probability.words import LETTERS, about, chance_text, check_words, draw_again, roughly, why_it_fits

if TYPE_CHECKING:
    from theoros.answer.picture import Picture
    from theoros.verbs.probability.statement import ProbabilityStatement

MOST_COLUMNS = 8
"""A joint table of more is not shown."""


def answered(s: ProbabilityStatement, tables: Tables) -> Answer:
    """Everything about a space of outcomes. Raises CannotAnswer."""
    situation = s.situation
    assert isinstance(situation, Eventful)
    space, left_out = situation.space(tables, s.table), situation.left_out(tables, s.table)
    view = _View(s, situation, space, tables)
    wanting = situation.wanting(view.place)
    if wanting is not None:
        return Answer(picture=view.picture(None), problem=wanting, left_out=left_out)
    asked = [view.asked(text) for text in s.parts]
    part = asked[min(s.chosen, len(asked) - 1)] if asked else None
    figures = [view.parts_table(asked)]
    joint = _joint_table(space)
    figures += [joint] if joint else []
    steps = []
    first = situation.first_steps()
    if first:
        steps.append(Step("What both have together", first))
    for at, one in enumerate(asked):
        if one is not None:
            lines = lines_of(space, one, on_tree=situation.usually == "tree")
            steps.append(Step(f"Part {LETTERS[at % 26]}", lines))
    return Answer(
        picture=view.picture(part),
        figures=tuple(figures),
        reading=view.reading(part),
        working=tuple(steps),
        used=space.total,
        seed=s.seed if s.replicates else None,
        numbers=_numbers(space, asked),
        left_out=left_out,
    )


class _View:
    """A space as it is spoken of."""

    def __init__(self, s: ProbabilityStatement, situation: Eventful, space: Space, tables: Tables) -> None:
        self.s, self.situation, self.space, self.tables = s, situation, space, tables
        self.each = situation.each(s, tables)
        self.drawn: Ints | None = None
        """How often each outcome was drawn, for a simulated check."""
        if s.replicates and np.isfinite(space.chances).all():
            shares = space.chances / space.chances.sum()
            self.drawn = np.random.default_rng(s.seed).multinomial(s.replicates, shares)
        self.place = Place(tables, s.table, "situation.")

    def asked(self, text: str) -> AskedEvent | None:
        try:
            return read_event(text, self.space.stages)
        except NotUnderstood:
            return None

    def chance(self, asked: AskedEvent) -> float:
        """Its probability; NaN under a condition that cannot be."""
        if asked.relation:
            return math.nan
        holds = asked.claim.holds(self.space)
        if asked.given is None:
            return self.space.chance(holds)
        within = asked.given.holds(self.space)
        whole_ = self.space.chance(within)
        return self.space.chance(holds & within) / whole_ if whole_ > 0 else math.nan

    def is_so(self, asked: AskedEvent) -> bool:
        """Whether two events are independent, or exclude each other."""
        assert asked.given is not None
        p, a, b = self._three(asked.claim, asked.given)
        return p == 0 if asked.relation == "exclusive" else same(p, a * b)

    def _three(self, one: EventClaim, two: EventClaim) -> tuple[float, float, float]:
        space = self.space
        first, second = one.holds(space), two.holds(space)
        return space.chance(first & second), space.chance(first), space.chance(second)

    def came(self, asked: AskedEvent) -> tuple[int, int]:
        """In how many of the draws a part came true, and of how many that counts."""
        assert self.drawn is not None
        event = asked.claim.holds(self.space)
        within = asked.given.holds(self.space) if asked.given is not None else event | True
        return int(self.drawn[event & within].sum()), int(self.drawn[within].sum())

    def parts_table(self, asked: list[AskedEvent | None]) -> ResultTable:
        rows: list[PartRow | None] = []
        for text, one in zip(self.s.parts, asked, strict=True):
            if one is None:
                rows.append(None)
            elif one.relation:
                said = "yes" if self.is_so(one) else "no"
                blank = () if self.drawn is None else (FigureCell("–"),)
                rows.append(PartRow(text, one.words, one.symbols, None, said, "–", blank))
            else:
                p = self.chance(one)
                many = about(p, self.s.per)
                if one.given is not None and not math.isnan(p):
                    many = f"{many}, of {whole(self.s.per)} “{one.given.words}”"
                more = () if self.drawn is None else (check_cell(*self.came(one)),)
                rows.append(PartRow(text, one.words, one.symbols, p, chance_text(p), many, more))
        hint = f"“{example(self.space.stages)}”"
        more_ = () if self.drawn is None else (check_heading(self.s),)
        return parts_table(self.s, rows, plural(self.each), hint, more_)

    def picture(self, part: AskedEvent | None) -> Picture | None:
        space = self.space
        event: Bools = np.zeros(len(space.chances), dtype=np.bool_)
        given = None
        if part is not None:
            event = part.claim.holds(space)
            if part.given is not None:
                within = part.given.holds(space)
                event = event & within
                given = None if part.relation else within
        drawn = self.situation.drawing(space)
        if drawn == "tree":
            branch = partial(self.situation.branch, space)
            found = tree_picture(space, event, given, self.alt(part, "tree"), branch)
            if found is not None or len(space.stages) != 2:
                return found
        return areas_picture(space, event, given, self.alt(part, "areas"))

    def alt(self, part: AskedEvent | None, drawn: str) -> str:
        stages = self.space.stages
        names = "; ".join(", ".join(stage.labels) for stage in stages)
        what = "A tree of branches" if drawn == "tree" else "A square cut into areas"
        text = f"{what}: {names}."
        if part is not None and not part.relation:
            text += f" Marked: {part.symbols} = {chance_text(self.chance(part))}."
        return text

    # words

    def reading(self, part: AskedEvent | None) -> Reading:
        asked_of = assumptions(self.s)
        cautions = list(self.situation.cautions(self.tables, self.s.table))
        if self.s.denied:
            cautions.append("A condition does not hold, so these probabilities are not right.")
        if part is None:
            say = example(self.space.stages)
            return Reading(
                headline="Nothing is asked yet.",
                paragraphs=(
                    f"Type the parts of the question below the picture: “{say}”, with and, "
                    f"or, not, given between events.",
                ),
                assumptions=asked_of,
                assumptions_title="Does it fit?",
                cautions=tuple(cautions),
            )
        headline, paragraphs = self._relation(part) if part.relation else self._said(part)
        return Reading(
            headline=headline,
            paragraphs=(*paragraphs, *why_it_fits(self.s)),
            assumptions=asked_of,
            assumptions_title="Does it fit?",
            cautions=tuple(cautions),
            next=tuple(self._next(part)),
        )

    def _said(self, part: AskedEvent) -> tuple[str, tuple[str, ...]]:
        p, space = self.chance(part), self.space
        if math.isnan(p):
            assert part.given is not None
            return f"{part.symbols} is not defined.", (
                f"“{part.given.words}” cannot happen, so there is no probability given it.",
            )
        equals = "≈" if 0 < p < 0.00005 else "="
        headline = f"{part.symbols} {equals} {chance_text(p)}"
        per, claim = whole(self.s.per), part.claim.words
        lines = []
        if space.counts is not None:
            lines.append(self._counted(part))
        many = plural(self.each) if self.s.per != 1 else self.each
        if part.given is not None:
            lines.append(f"Of {per} {many} with “{part.given.words}”, {roughly(p, self.s.per)} have “{claim}” too.")
            lines += self._turned(part)
        else:
            lines.append(f"Of {per} such {many}, {roughly(p, self.s.per)} have “{claim}”.")
        lines += self._hanging_together(part)
        if self.drawn is not None:
            lines.append(check_words(self.s, p, *self.came(part), plural(self.each)))
        return headline, tuple(lines)

    def _counted(self, part: AskedEvent) -> str:
        """The cases that there are: "Of the 60 bushes that are “open”, 23 are “fine”"."""
        space, holds = self.space, part.claim.holds(self.space)
        within = part.given.holds(space) if part.given is not None else holds | True
        some, all_ = space.count(holds & within), space.count(within)
        are = "is" if all_ == 1 else "are"
        under = f" that {are} “{part.given.words}”" if part.given is not None else ""
        said = "none is" if some == 0 else f"{whole(some)} {'is' if some == 1 else 'are'}"
        return f"Of the {counted(all_, self.each)}{under}, {said} “{part.claim.words}”."

    def _turned(self, part: AskedEvent) -> list[str]:
        """The other direction, which is often meant or mistaken for it."""
        assert part.given is not None
        back = self.chance(AskedEvent(part.given, part.claim))
        if math.isnan(back) or same(back, self.chance(part)):
            return []
        turned = AskedEvent(part.given, part.claim).symbols
        return [f"The reverse is a different probability: {turned} = {chance_text(back)}."]

    def _hanging_together(self, part: AskedEvent) -> list[str]:
        """Whether one of two events says anything about the other."""
        pair = part.pair
        if pair is None or not all(isinstance(one, Label) for one in pair):
            return []
        one, two = pair
        p, a, b = self._three(one, two)
        if isinstance(part.claim, AnyOf):
            if p == 0:
                return ["They exclude each other, so their probabilities are added."]
            return [f"The probability of both, {chance_text(p)}, is counted only once."]
        if min(a, b) == 0:
            return []
        if p == 0:
            return [f"“{one.words}” and “{two.words}” exclude each other."]
        if same(p, a * b):
            return [
                f"The probability of “{one.words}” is {chance_text(a)} with and without “{two.words}”, so they are "
                "independent."
            ]
        side = "more" if p / b > a else "less"
        return [
            f"Given “{two.words}”, the probability of “{one.words}” is {chance_text(p / b)}, {side} than "
            f"its probability among all, {chance_text(a)}. They are not independent."
        ]

    def _relation(self, part: AskedEvent) -> tuple[str, tuple[str, ...]]:
        assert part.given is not None
        one, two = part.claim, part.given
        p, a, b = self._three(one, two)
        so, both = self.is_so(part), AllOf((one, two)).symbols
        word = "independent" if part.relation == "independent" else "mutually exclusive"
        headline = f"“{one.words}” and “{two.words}” are {'' if so else 'not '}{word}."
        if part.relation == "exclusive":
            text = "They never occur together." if so else f"They can occur together: P({both}) = {chance_text(p)}."
            return headline, (text,)
        sign = "=" if so else "≠"
        lines = [f"P({both}) = {chance_text(p)} {sign} {chance_text(a * b)} = P({one.symbols}) × P({two.symbols})."]
        if b > 0 and not so:
            lines.append(
                f"Given “{two.words}”, the probability of “{one.words}” is {chance_text(p / b)} instead of "
                f"{chance_text(a)}."
            )
        if self.space.counts is not None and not so:
            lines.append(
                "Observed proportions are almost never exactly equal. Use a test to see whether the difference "
                "may be due to chance."
            )
        return headline, tuple(lines)

    def _next(self, part: AskedEvent) -> list[Link]:
        """The same with condition and event in each other's place; whether they are independent."""
        s, slot = self.s, f"parts.{len(self.s.parts)}"
        links = []
        if part.given is not None and not part.relation:
            back = f"{part.given.words} given {part.claim.words}"
            if back not in s.parts:
                links.append(Link(f"Ask the reverse: “{back}”", sets=(slot, back)))
        pair = part.pair
        if pair and not part.relation and all(isinstance(one, Label) for one in pair):
            asks = f"{pair[0].words} and {pair[1].words} independent"
            if asks not in s.parts:
                links.append(Link("Ask whether they are independent", sets=(slot, asks)))
        if self.drawn is not None:
            links.append(draw_again(s))
        return links


def _joint_table(space: Space) -> ResultTable | None:
    """Every combination with its chance, with the sums of rows and columns."""
    if len(space.stages) != 2:
        return None
    first, second = space.stages
    if len(second.labels) > MOST_COLUMNS:
        return None
    headings = (
        Heading("label", first.name or "", numeric=False),
        *named_headings(second.labels, ("label", "all")),
        Heading("all", "all"),
    )
    names = [*enumerate(first.labels), (None, "all")]
    rows = []
    for code, name in names:
        own = np.ones(len(space.chances), dtype=np.bool_) if code is None else np.asarray(space.codes[:, 0] == code)
        holds = [own & (space.codes[:, 1] == at) for at in range(len(second.labels))]
        rows.append(FigureRow((FigureCell(name, name), *(_share(space, one) for one in [*holds, own]))))
    title = "counts, with shares of all" if space.counts is not None else "chances"
    return ResultTable("joint", headings, tuple(rows), title)


def _share(space: Space, holds: Bools) -> FigureCell:
    p = space.chance(holds)
    if space.counts is None:
        return cell(p, chance_text(p))
    return cell(p, f"{whole(space.count(holds))} ({chance_text(p)})")


def _numbers(space: Space, asked: list[AskedEvent | None]) -> dict[str, object]:
    made: dict[str, object] = {}
    for at, one in enumerate(asked):
        if one is None:
            continue
        holds = one.claim.holds(space)
        within = one.given.holds(space) if one.given is not None else None
        p = space.chance(holds if within is None else holds & within)
        found = {"symbols": one.symbols, "joint": p}
        if within is not None and not one.relation:
            whole_ = space.chance(within)
            found["probability"] = p / whole_ if whole_ > 0 else math.nan
        elif not one.relation:
            found["probability"] = p
        made[LETTERS[at % 26]] = found
    return {"parts": made}

"""Events among outcomes: read, said, worked out; against enumeration and exact fractions."""

from __future__ import annotations

import math
from fractions import Fraction
from itertools import permutations, product

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from theoros.answer.layout import lay_out
from theoros.answer.parts import Answer
from theoros.verbs.core.answering import answer
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.probability.data import NotUnderstood
from theoros.verbs.probability.outcomes.asking import read_event
from theoros.verbs.probability.outcomes.draws import mixture
from theoros.verbs.probability.outcomes.space import Space, SpaceStage
from theoros.verbs.probability.outcomes.tree import labels_of
from theoros.verbs.probability.statement import ProbabilityStatement

TREE = {"kind": "tree", "first": "mite, no mite", "second": "spotted, clean", "chances": [0.02, 0.9, 0.15]}
DRAWS = {"kind": "draws", "contents": "8 red, 12 green"}
RAIN = {"kind": "two events", "one": "rain", "two": "late", "p_one": 0.3, "p_two": 0.4, "value": 0.2}
TABLE = {"kind": "two-way table", "data": {"kind": "two categories", "what": "netting", "by": "grade"}}


@pytest.fixture(scope="module")
def tables(demo):
    return demo.by_name


def ask(situation: dict, *parts: str, **more) -> ProbabilityStatement:
    return make("probability", situation=situation, parts=list(parts), **more)


def table(statement: ProbabilityStatement, tables=None) -> list[list[str]]:
    return answer(statement, tables or {}).figures[0].to_lines()[1:]


def chance(situation: dict, part: str, tables=None, **more) -> float:
    found = answer(ask(situation, part, **more), tables or {})
    return found.numbers["parts"]["a"]["probability"]


class TestReading:
    """Words and symbols, as people type them."""

    @pytest.mark.parametrize(
        ("typed", "words", "symbols", "p"),
        [
            ("spotted", "spotted", "P(spotted)", 0.165),
            ("P(spotted)", "spotted", "P(spotted)", 0.165),
            ("Mite and spotted", "mite and spotted", "P(mite ∩ spotted)", 0.018),
            ("mite & spotted", "mite and spotted", "P(mite ∩ spotted)", 0.018),
            ("mite then spotted", "mite then spotted", "P(mite, spotted)", 0.018),
            ("mite or spotted", "mite or spotted", "P(mite ∪ spotted)", 0.167),
            ("P(mite | spotted)", "mite, given spotted", "P(mite | spotted)", 0.018 / 0.165),
            ("mite given that it is spotted", "mite, given spotted", "P(mite | spotted)", 0.018 / 0.165),
            ("mite, if clean", "mite, given clean", "P(mite | clean)", 0.002 / 0.835),
            ("not spotted", "not spotted", "P(not spotted)", 0.835),
            ("spotted'", "not spotted", "P(not spotted)", 0.835),
            ("mite but not spotted", "mite and not spotted", "P(mite ∩ not spotted)", 0.002),
            ("neither mite nor spotted", "neither mite nor spotted", "P(not (mite ∪ spotted))", 0.833),
            ("not (mite or spotted)", "neither mite nor spotted", "P(not (mite ∪ spotted))", 0.833),
            (
                "either mite or spotted but not both",
                "exactly 1 of mite and spotted",
                "P(exactly 1 of mite and spotted)",
                0.002 + 0.147,
            ),
            (
                "exactly one of mite and spotted",
                "exactly 1 of mite and spotted",
                "P(exactly 1 of mite and spotted)",
                0.149,
            ),
            (
                "at least one of mite and spotted",
                "at least 1 of mite and spotted",
                "P(at least 1 of mite and spotted)",
                0.167,
            ),
            ("both mite and spotted", "mite and spotted", "P(mite ∩ spotted)", 0.018),
            ("(mite or no mite) and clean", "(mite or no mite) and clean", "P((mite ∪ no mite) ∩ clean)", 0.835),
        ],
    )
    def test_events_of_a_tree(self, typed: str, words: str, symbols: str, p: float) -> None:
        row = table(ask(TREE, typed))[0]
        assert row[1:3] == [words, symbols]
        assert math.isclose(chance(TREE, typed), p, rel_tol=1e-12)
        # both forms are read back as what they say
        for text in (words, symbols):
            assert math.isclose(chance(TREE, text), p, rel_tol=1e-12)

    @pytest.mark.parametrize(
        ("typed", "words", "wanted"),
        [
            ("both red", "both red", lambda x: x == ("red", "red")),
            ("red then green", "red then green", lambda x: x == ("red", "green")),
            ("exactly one red", "exactly 1 red", lambda x: x.count("red") == 1),
            ("1 red", "exactly 1 red", lambda x: x.count("red") == 1),
            ("at least 1 red", "at least 1 red", lambda x: x.count("red") >= 1),
            ("no more than 1 green", "at most 1 green", lambda x: x.count("green") <= 1),
            ("fewer than 2 green", "at most 1 green", lambda x: x.count("green") < 2),
            ("no red", "no red", lambda x: "red" not in x),
            ("neither red", "no red", lambda x: "red" not in x),
            ("the same", "all the same", lambda x: x[0] == x[1]),
            ("different", "not all the same", lambda x: x[0] != x[1]),
            ("first red", "first red", lambda x: x[0] == "red"),
            ("red on the second draw", "second red", lambda x: x[1] == "red"),
            ("the second is green", "second green", lambda x: x[1] == "green"),
            ("first red and second green", "first red and second green", lambda x: x == ("red", "green")),
        ],
    )
    @pytest.mark.parametrize("back", [False, True])
    def test_draws_against_enumeration(self, typed, words, wanted, back: bool) -> None:
        row = table(ask({**DRAWS, "back": back}, typed))[0]
        assert row[1] == words
        balls = ["red"] * 8 + ["green"] * 12
        pairs = product(balls, repeat=2) if back else permutations(balls, 2)
        hits = [wanted(pair) for pair in pairs]
        assert math.isclose(chance({**DRAWS, "back": back}, typed), sum(hits) / len(hits))
        assert math.isclose(chance({**DRAWS, "back": back}, words), sum(hits) / len(hits))

    def test_three_draws_of_three_kinds(self) -> None:
        balls = ["red"] * 3 + ["green"] * 2 + ["blue"] * 2
        everyone = list(permutations(balls, 3))
        urn = {"kind": "draws", "contents": "3 red, 2 green, 2 blue", "draws": 3}
        for part, holds in {
            "exactly 2 red": lambda x: x.count("red") == 2,
            "red then green then blue": lambda x: x == ("red", "green", "blue"),
        }.items():
            exact = sum(map(holds, everyone)) / len(everyone)
            assert math.isclose(chance(urn, part), exact)
        first = [x for x in everyone if x[0] == "blue"]
        exact = sum(x[2] == "blue" for x in first) / len(first)
        assert math.isclose(chance(urn, "third blue given first blue"), exact)

    @pytest.mark.parametrize(
        ("situation", "typed", "says"),
        [
            (TREE, "wet", "“wet” is not understood here. Events are “mite”, “no mite”, “spotted” and “clean”"),
            (TREE, "mite and", "Something is missing in “mite and”"),
            (TREE, "mite given", "Something is missing"),
            (TREE, "(mite or spotted", "A bracket in “(mite or spotted” is not closed."),
            (TREE, "first spotted", "“spotted” cannot come first."),
            (TREE, "mite then spotted then mite", "names 3 steps, and there are 2"),
            (TREE, "mite independent", "Name the two events"),
            (DRAWS, "red", "Say at which step: “first red”, “second red”"),
            (DRAWS, "blue", "“blue” is not understood here. Events are “red” and “green”"),
            (TREE, "x" * 300, "A part can have 200 letters at most."),
        ],
    )
    def test_what_is_not_understood_is_said(self, situation, typed: str, says: str) -> None:
        before = ask(situation)
        with pytest.raises(StatementError) as found:
            before.with_slot("parts.0", typed, {})
        assert says in str(found.value)
        assert str(found.value).endswith((".", "”."))

    @given(st.text(max_size=30))
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        stages = (SpaceStage("", ("mite", "no mite")), SpaceStage("", ("spotted", "clean")))
        try:
            found = read_event(text, stages)
        except NotUnderstood as problem:
            assert str(problem)
            return
        assert found.words

    def test_levels_of_the_same_name_are_told_apart(self) -> None:
        stages = (SpaceStage("netted", ("yes", "no")), SpaceStage("ripe", ("yes", "no")))
        codes = np.array(list(product(range(2), range(2))))
        space = Space(stages, codes, np.array([0.1, 0.2, 0.3, 0.4]), ("",) * 4)
        for text, words, p in (
            ("netted and ripe", "netted and ripe", 0.1),
            ("not netted", "not netted", 0.7),
            ("ripe given netted no", "ripe, given netted no", 0.3),
        ):
            asked = read_event(text, stages)
            assert asked.words == words
            assert math.isclose(
                space.chance(asked.claim.holds(space) & (asked.given.holds(space) if asked.given else True)), p
            )


class TestLaws:
    chances = st.floats(0.01, 0.99)

    @given(chances, chances, chances)
    def test_bayes_and_total_probability(self, prior: float, hit: float, wrong: float) -> None:
        tree = {**TREE, "chances": [prior, hit, wrong]}
        total = prior * hit + (1 - prior) * wrong
        assert math.isclose(chance(tree, "spotted"), total, rel_tol=1e-9)
        back = chance(tree, "mite given spotted")
        assert math.isclose(back, prior * hit / total, rel_tol=1e-9)
        assert math.isclose(back * total, chance(tree, "mite and spotted"), rel_tol=1e-9)
        rest = chance(tree, "not (mite and spotted)")
        assert math.isclose(rest, 1 - prior * hit, rel_tol=1e-9)

    @given(st.floats(0, 1), st.floats(0, 1), st.floats(0, 1))
    def test_what_two_events_have_together_is_taken_exactly_where_it_can_be(
        self, a: float, b: float, both: float
    ) -> None:
        assume(min(abs(both - min(a, b)), abs(both - max(0, a + b - 1))) > 1e-6)
        events = {"kind": "two events", "p_one": a, "p_two": b, "value": both}
        found = answer(ask(events, "A or B"), {})
        fits = max(0, a + b - 1) <= both <= min(a, b)
        assert (found.problem is None) == fits
        if fits:
            p = found.numbers["parts"]["a"]["probability"]
            assert math.isclose(p, a + b - both, abs_tol=1e-9)
        else:
            assert "must " in found.problem.sentence
            assert found.problem.slot == "situation.value"

    @pytest.mark.parametrize(
        ("joined", "value", "both"),
        [
            ("both", 0.12, 0.12),
            ("either", 0.6, 0.3 + 0.4 - 0.6),
            ("B given A", 0.5, 0.15),
            ("A given B", 0.25, 0.1),
            ("independent", None, 0.12),
            ("exclusive", None, 0.0),
        ],
    )
    def test_what_joins_two_events(self, joined: str, value: float | None, both: float) -> None:
        events = {**RAIN, "joined": joined, "value": value}
        assert math.isclose(chance(events, "rain and late"), both, abs_tol=1e-12)
        assert math.isclose(chance(events, "A ∪ B"), 0.7 - both, abs_tol=1e-12)

    def test_events_that_exclude_each_other_cannot_sum_to_more_than_1(self) -> None:
        found = answer(ask({**RAIN, "joined": "exclusive", "p_two": 0.8}, "A"), {})
        assert "cannot have chances that sum to more than 1" in found.problem.sentence

    @given(st.lists(st.integers(0, 30), min_size=6, max_size=6))
    def test_shares_of_a_typed_table_are_those_of_its_counts(self, counts: list[int]) -> None:
        assume(sum(counts) and sum(counts[:3]))
        typed = {
            "kind": "typed two-way counts",
            "rows": ["netted", "open"],
            "columns": ["fine", "fair", "coarse"],
            "counts": [counts[:3], counts[3:]],
        }
        tables = {"kind": "two-way table", "data": typed}
        total, row = sum(counts), sum(counts[:3])
        assert math.isclose(chance(tables, "netted and fine"), counts[0] / total)
        assert math.isclose(chance(tables, "fine given netted"), counts[0] / row)
        either = Fraction(row + counts[3], total)
        assert math.isclose(chance(tables, "netted or fine"), either)


class TestAnswers:
    def test_shares_of_the_rows_and_their_words(self, tables) -> None:
        own = tables["bushes"].frame
        both = own.filter((own["netting"] == "open") & (own["grade"] == "fine")).height
        open_ = own.filter(own["netting"] == "open").height
        found = answer(ask(TABLE, "fine given open", table="bushes"), tables)
        assert math.isclose(found.numbers["parts"]["a"]["probability"], both / open_)
        first, *rest = found.reading.paragraphs
        assert first == f"Of the {open_} bushes that are “open”, {both} are “fine”."
        assert any("The reverse is a different probability: P(open | fine) = " in line for line in rest)
        assert rest[-1].startswith(f"Given “open”, the probability of “fine” is {both / open_:.4f}, more than ")
        (step,) = found.working
        assert step.to_lines()[1] == f"= {both}/{open_} = 0.4773"

    def test_counts_that_a_column_holds_are_counted(self, tables) -> None:
        own = tables["orders"]
        blend, room, count = (c.name for c in own.columns)
        counted = own.with_(counts=count)
        share = {"kind": "two-way table", "data": {"kind": "two categories", "what": blend, "by": room}}
        first = own.frame[blend][0]
        here = own.frame.filter(own.frame[blend] == first)[count].sum()
        found = answer(ask(share, first, table="orders"), {"orders": counted})
        assert found.used == own.frame[count].sum()
        assert math.isclose(found.numbers["parts"]["a"]["probability"], here / found.used)

    def test_whether_two_events_are_independent(self) -> None:
        apart = ask({**RAIN, "value": 0.12}, "rain and late independent", "rain and late exclusive")
        assert [row[3] for row in table(apart)] == ["yes", "no"]
        found = answer(apart, {})
        assert found.reading.headline == "“rain” and “late” are independent."
        hung = answer(ask(RAIN, "are rain and late independent?"), {})
        assert hung.reading.headline == "“rain” and “late” are not independent."
        assert "0.2000 ≠ 0.1200" in hung.reading.paragraphs[0]

    def test_in_data_a_difference_may_be_chance(self, tables) -> None:
        found = answer(ask(TABLE, "fine and open independent", table="bushes"), tables)
        assert "Use a test to see" in " ".join(found.reading.paragraphs)

    def test_bayes_as_on_a_board(self) -> None:
        (step,) = answer(ask(TREE, "mite given spotted"), {}).working
        assert step.to_lines() == [
            "P(mite | spotted) = (P(mite ∩ spotted)) / (P(spotted))",
            "= (0.02 × 0.9) / (0.02 × 0.9 + 0.98 × 0.15)",
            "= 0.01800 / 0.1650 = 0.1091",
        ]

    def test_what_cannot_be_is_no_condition(self) -> None:
        found = answer(ask({**TREE, "chances": [0, 0.9, 0.15]}, "spotted given mite"), {})
        assert found.reading.headline == "P(spotted | mite) is not defined."
        assert table(ask({**TREE, "chances": [0, 0.9, 0.15]}, "spotted given mite"))[0][3] == "–"

    def test_the_tree_is_drawn_before_its_chances_are_known(self) -> None:
        found = answer(ask({**TREE, "chances": [0.02]}), {})
        assert found.problem.slot == "situation.chances.1"
        assert found.problem.sentence.startswith("Type the chance of spotted, if mite")
        drawing = lay_out(found.picture, 700, 400)
        assert [spot.slot for spot in drawing.figures] == [
            "situation.chances.0",
            "situation.chances.1",
            "situation.chances.2",
        ]
        assert [spot.text for spot in drawing.figures] == ["0.02", "…", "…"]

    def test_paths_of_the_event_stand_out_and_what_is_shut_out_is_faint(self) -> None:
        found = answer(ask(TREE, "mite given spotted"), {})
        bold = [item.text for item in lay_out(found.picture, 700, 400).items if getattr(item, "bold", False)]
        assert bold == ["mite", "spotted", "0.02 × 0.9 = 0.0180"]
        hatched = [item for item in lay_out(found.picture, 700, 400).items if getattr(item, "hatched", False)]
        assert len(hatched) == 1

    def test_areas_are_the_chances(self) -> None:
        found = answer(ask(RAIN, "rain or late", counts=""), {})
        drawing = lay_out(found.picture, 900, 600)
        blocks = [item for item in drawing.items if hasattr(item, "hatched") and item.fill]
        areas = np.array([one.width * one.height for one in blocks])
        hit = np.array([one.hatched for one in blocks])
        assert math.isclose(areas[hit].sum() / areas.sum(), 0.5, abs_tol=0.01)

    def test_a_table_can_be_drawn_as_a_tree_and_a_tree_as_areas(self, tables) -> None:
        for situation, drawn, more in ((TABLE, "tree", {"table": "bushes"}), (TREE, "areas", {})):
            s = ask(situation, **more).with_slot("situation.drawn", drawn, tables).statement
            layers = answer(s, tables).picture.frames[0].panels[0].lanes[0].layers
            assert type(layers[0]).__name__ == {"tree": "Tree", "areas": "Blocks"}[drawn]


class TestTreeSlots:
    def test_what_a_stage_can_give_is_typed_as_people_write_it(self) -> None:
        for text in ("sick, healthy", "sick or healthy", "sick; healthy", "sick / healthy"):
            assert labels_of(text) == ("sick", "healthy")
        assert mixture("8 red, 12 green and 3 blue") == (("red", 8), ("green", 12), ("blue", 3))
        assert mixture("red: 8, green = 12") == (("red", 8), ("green", 12))
        assert mixture("8, 12") == ()

    def test_a_chance_that_does_not_fit_is_refused_with_its_range(self) -> None:
        s = ask({"kind": "tree", "first": "a, b, c", "second": "x, y", "chances": [0.5, 0.3, 0.1, 0.2, 0.3]})
        with pytest.raises(StatementError, match=r"0.6 is out of range. Type a number from 0 to 0"):
            s.with_slot("situation.chances.1", 0.6, {})
        made = s.with_slot("situation.chances.1", 0.5, {}).statement
        assert made.situation.chances[1] == 0.5

    def test_chances_stay_with_their_branches(self) -> None:
        s = ask(TREE)
        more = s.with_slot("situation.first", "mite, beetle, no mite", {}).statement.situation
        assert more.chances == (0.02, None, 0.9, None, 0.15)
        third = s.with_slot("situation.third", "kept, thrown", {}).statement.situation
        assert third.chances == (0.02, 0.9, 0.15, None, None, None, None)
        assert s.with_slot("situation.third", "", {}).statement == s

    def test_a_third_stage(self) -> None:
        s = {**TREE, "third": "kept, thrown", "chances": [0.02, 0.9, 0.15, 0.1, 0.8, 0.3, 0.95]}
        exact = 0.02 * 0.9 * 0.1 + 0.02 * 0.1 * 0.8 + 0.98 * 0.15 * 0.3 + 0.98 * 0.85 * 0.95
        assert math.isclose(chance(s, "kept"), exact)
        assert math.isclose(chance(s, "mite given kept and spotted"), 0.0018 / (0.0018 + 0.98 * 0.15 * 0.3))

    @pytest.mark.parametrize(
        ("change", "says"),
        [
            ({"first": "mite"}, "Type the outcomes of the first stage"),
            ({"first": "mite, Mite"}, "have the same name"),
            ({"second": "a, b, c, d, e, f, g"}, "A stage can have at most 6 outcomes."),
        ],
    )
    def test_stages_that_cannot_be(self, change: dict, says: str) -> None:
        assert says in answer(ask({**TREE, **change}), {}).problem.sentence

    @pytest.mark.parametrize(
        ("change", "says"),
        [
            ({"contents": ""}, "Type the contents"),
            ({"contents": "8 red"}, "Name two kinds at least"),
            ({"contents": "1 red, 1 green", "draws": 3}, "There are 2, fewer than the 3"),
            ({"contents": "1 a, 1 b, 1 c, 1 d, 1 e", "draws": 3}, "more than the 40 ends"),
        ],
    )
    def test_draws_that_cannot_be(self, change: dict, says: str) -> None:
        assert says in answer(ask({**DRAWS, **change}), {}).problem.sentence


class TestSimulatedCheck:
    def test_a_seed_gives_the_same_draws_and_another_gives_others(self) -> None:
        one = ask(TREE, "mite given spotted", replicates=10_000)
        first, again = table(one)[0][-1], table(one)[0][-1]
        other = table(one.with_slot("seed", 2, {}).statement)[0][-1]
        assert first == again != other
        share = float(first.split("(")[1].rstrip(")"))
        assert abs(share - 0.1091) < 0.03  # 5 standard errors of 1650 draws
        assert "beside the exact 0.1091" in " ".join(answer(one, {}).reading.paragraphs)


def test_statements_go_through_json(tables) -> None:
    for one in (ask(TREE, "spotted"), ask(DRAWS, "both red"), ask(RAIN, "A"), ask(TABLE, "fine", table="bushes")):
        assert statement_from_json(one.to_json()) == one
        assert isinstance(answer(one, tables), Answer)

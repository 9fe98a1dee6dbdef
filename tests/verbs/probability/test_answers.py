"""Answers about situations: numbers against SciPy, words, conditions, handles, working."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from theoros.answer.drawing import Block, FilledOutline
from theoros.answer.layout import lay_out
from theoros.answer.parts import Answer, answer_json
from theoros.answer.typed_number import TypedNumber
from theoros.verbs.core.answering import answer
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.core.statement import Statement
from theoros.verbs.probability.data import situations
from theoros.verbs.probability.values.variable import asked


def ask(kind: str = "binomial", parts: tuple[str, ...] = (), **more) -> Statement:
    named = {f: more.pop(f) for f in list(more) if f in situations()[kind].parameters()}
    return statement_from_json(
        {"verb": "probability", "situation": {"kind": kind, **named}, "parts": list(parts), **more}
    )


def chances(found: Answer) -> list[float]:
    assert found.problem is None, found.problem
    return [row.cells[3].value for row in found.figures[0].rows[:-1]]


CRATE = ask(
    n=12,
    p=0.85,
    counts="sound seals",
    each="crate",
    parts=("exactly 11", "no more than 8", "more than 8", "from 9 to 11"),
    chosen=3,
)

FAMILIES = [
    # kind, parameters, SciPy's distribution, and parts with what they are made of
    ("binomial", {"n": 12, "p": 0.85}, stats.binom(12, 0.85)),
    ("poisson", {"rate": 4.5}, stats.poisson(4.5)),
    ("geometric", {"p": 0.3}, stats.geom(0.3)),
    ("geometric failures", {"p": 0.3}, stats.geom(0.3, loc=-1)),
    ("negative binomial", {"r": 3, "p": 0.4}, stats.nbinom(3, 0.4, loc=3)),
    ("negative binomial failures", {"r": 3, "p": 0.4}, stats.nbinom(3, 0.4)),
    ("hypergeometric", {"population": 20, "successes": 8, "drawn": 5}, stats.hypergeom(20, 8, 5)),
    ("discrete uniform", {"low": 1, "high": 6}, stats.randint(1, 7)),
    ("normal", {"mu": 4, "sigma": 2}, stats.norm(4, 2)),
    ("mean of n", {"mu": 4, "sigma": 6, "n": 9}, stats.norm(4, 2)),
    ("total of n", {"mu": 0.04, "sigma": 0.2, "n": 100}, stats.norm(4, 2)),
    ("difference of means", {"mu1": 9, "sigma1": 6, "n1": 12, "mu2": 5, "sigma2": 4, "n2": 16}, stats.norm(4, 2)),
    ("standard normal", {}, stats.norm()),
    ("t", {"df": 5}, stats.t(5)),
    ("chi-square", {"df": 3}, stats.chi2(3)),
    ("F", {"df1": 3, "df2": 20}, stats.f(3, 20)),
    ("uniform", {"low": 1, "high": 8}, stats.uniform(1, 7)),
    ("exponential", {"mean": 4}, stats.expon(scale=4)),
    ("gamma", {"shape": 2, "scale": 1.5}, stats.gamma(2, scale=1.5)),
    ("beta", {"a": 2, "b": 3}, stats.beta(2, 3)),
    ("lognormal", {"mu": 1, "sigma": 0.5}, stats.lognorm(0.5, scale=math.e)),
    ("weibull", {"shape": 1.5, "scale": 4}, stats.weibull_min(1.5, scale=4)),
]


@pytest.mark.parametrize(("kind", "parameters", "reference"), FAMILIES, ids=[f[0] for f in FAMILIES])
def test_every_family_against_scipy(kind: str, parameters: dict, reference) -> None:
    parts = ("at most 3", "more than 3", "from 2 to 5", "fewer than 3", "at least 3", "not 3")
    found = answer(ask(kind, parts, **parameters), {})
    at = reference.pmf if hasattr(reference.dist, "pmf") else lambda x: 0.0
    wanted = [
        reference.cdf(3),
        reference.sf(3),
        reference.cdf(5) - reference.cdf(2) + at(2),
        reference.cdf(3) - at(3),
        reference.sf(3) + at(3),
        1 - at(3),
    ]
    assert chances(found) == pytest.approx([float(w) for w in wanted], rel=1e-9, abs=1e-12)
    assert found.numbers["mean"] == pytest.approx(reference.mean(), rel=1e-9)
    assert found.numbers["sd"] == pytest.approx(reference.std(), rel=1e-9)


@pytest.mark.parametrize(("kind", "parameters", "reference"), FAMILIES, ids=[f[0] for f in FAMILIES])
def test_values_that_cut_off_against_scipy(kind: str, parameters: dict, reference) -> None:
    parts = ("bottom 10 %", "top 5 %", "middle 80 %", "both tails 0.1")
    numbers = answer(ask(kind, parts, **parameters), {}).numbers["parts"]
    if not situations()[kind].counting:
        found = [[side[0]["value"] for side in numbers[label]["values"]] for label in "abcd"]
        wanted = [[0.1], [0.95], [0.1, 0.9], [0.05, 0.95]]
        for values, shares in zip(found, wanted, strict=True):
            assert values == pytest.approx([reference.ppf(s) for s in shares], rel=1e-7)
        return
    for label, tail, lower in (("a", 0.1, True), ("b", 0.05, False)):
        (side,) = numbers[label]["values"]
        small = side[0]
        gives = reference.cdf(small["value"]) if lower else reference.sf(small["value"] - 1)
        assert small["gives"] == pytest.approx(gives, abs=1e-12)
        assert small["gives"] <= tail * (1 + 1e-9) or len(side) == 1
        if len(side) == 2:  # the neighbour is the next value, and gives too much
            assert side[1]["gives"] > tail
            assert abs(side[1]["value"] - small["value"]) == 1


def test_sampling_distributions_of_shares() -> None:
    """Standard errors by their textbook formulas."""
    found = answer(ask("proportion of n", ("more than 0.35",), n=200, p=0.3), {})
    assert found.numbers["sd"] == pytest.approx(math.sqrt(0.3 * 0.7 / 200))
    assert chances(found)[0] == pytest.approx(stats.norm(0.3, math.sqrt(0.21 / 200)).sf(0.35))
    assert (
        _marks(ask("proportion of n", ("more than 0.35",), n=20, p=0.3))[
            "np and n(1 − p) are at least 10: the smaller is 6"
        ]
        == "fails"
    )
    two = ask("difference of proportions", ("less than 0",), n1=50, p1=0.5, n2=80, p2=0.4)
    spread = math.sqrt(0.25 / 50 + 0.24 / 80)
    assert chances(answer(two, {}))[0] == pytest.approx(stats.norm(0.1, spread).cdf(0))


def test_the_printed_critical_values() -> None:
    """Student's t, chi-square and F as in the tables of textbooks (Fisher and Yates 1963)."""
    for kind, named, part, values in (
        ("t", {"df": 14}, "both tails 0.05", "−2.145 and 2.145"),
        ("t", {"df": 9}, "top 1 %", "2.821"),
        ("chi-square", {"df": 7}, "top 5 %", "14.067"),
        ("standard normal", {}, "middle 95 %", "−1.960 and 1.960"),
        ("standard normal", {}, "top 0.01", "2.326"),
        ("F", {"df1": 3, "df2": 20}, "top 5 %", "3.098"),
    ):
        row = answer(ask(kind, (part,), **named), {}).figures[0].rows[0]
        shown = row.cells[4].text.removeprefix("x = ")
        first = [float(one.replace("−", "-")) for one in shown.split(" and ")]
        wanted = [float(one.replace("−", "-")) for one in values.split(" and ")]
        assert first == pytest.approx(wanted, abs=6e-3 if kind == "chi-square" else 6e-4)


def test_the_worksheet_of_the_crates() -> None:
    found = answer(CRATE, {})
    lines = found.figures[0].to_lines()[1:]
    assert lines[0][1:] == ["exactly 11", "P(X = 11)", "0.3012", "301"]
    assert lines[3][1:] == ["from 9 to 11, ends included", "P(9 ≤ X ≤ 11)", "0.7656", "766"]
    assert found.reading.headline == "P(9 ≤ X ≤ 11) = 0.7656"
    assert found.reading.paragraphs[0] == ("In 1000 such crates, about 766 have from 9 to 11 sound seals.")
    marks = {c.text: c.mark for c in found.reading.assumptions}
    assert marks["a fixed number of trials: 12"] == "holds"
    assert list(marks.values()).count("judge") == 2


@pytest.mark.parametrize(
    ("statement", "said"),
    [
        (ask(n=12, p=0.85, counts="sound seals", each="crate", parts=("at least 1",)), "have at least 1 sound seal."),
        (
            ask(n=12, p=0.85, counts="leaks", each="box", parts=("none",)),
            "In 1000 such boxes, fewer than 1 would have no leaks: it comes about once in",
        ),
        (ask(n=12, p=0.85, parts=("at least 4",)), "In 1000 such repetitions, nearly all give X ≥ 4."),
        (
            ask("normal", ("more than 60",), mu=50, sigma=10, counts="leaf length", each="leaf", unit="mm"),
            "In 1000 such leaves, about 159 have a leaf length of more than 60\u00a0mm.",
        ),
        (
            ask(n=12, p=0.5, parts=("at least 4 given at least 2",), counts="heads", each="trial"),
            "such trials that have at least 2 heads, about",
        ),
        (
            ask(n=5, p=0.5, parts=("more than 7",), counts="heads", each="game"),
            "None of 1000 such games has more than 7 heads.",
        ),
        (ask(n=12, p=0.2, parts=("at least 7",), counts="heads", each="game"), "That is very rare"),
    ],
)
def test_what_a_probability_means(statement: Statement, said: str) -> None:
    assert said in " ".join(answer(statement, {}).reading.paragraphs)


def test_between_gives_both_answers_and_a_way_to_say_which() -> None:
    statement = ask(n=12, p=0.85, parts=("between 8 and 10",))
    found = answer(statement, {})
    both = stats.binom(12, 0.85)
    caution = found.reading.cautions[0]
    assert f"{both.cdf(10) - both.cdf(7):.4f}" in caution
    assert f"{both.pmf(9):.4f}" in caution
    closed, opened = found.reading.next
    made = statement.with_slot(*opened.sets, {}).statement
    assert made.parts == ("more than 8 and fewer than 10",)
    assert answer(made, {}).reading.cautions == ()
    assert statement.with_slot(*closed.sets, {}).statement.parts == ("from 8 to 10, ends included",)


class TestConditions:
    def test_they_are_ticked_and_unticked(self) -> None:
        made = CRATE.with_slot("judge", "+independent", {}).statement
        assert _marks(made)["the trials are independent of each other"] == "holds"
        made = made.with_slot("judge", "-independent", {}).statement
        assert _marks(made)["the trials are independent of each other"] == "fails"
        assert "does not fit" in answer(made, {}).reading.cautions[0]

    def test_a_reason_stands_in_the_reading(self) -> None:
        made = CRATE.with_slot("reason", "the jars are sealed one by one", {}).statement
        assert answer(made, {}).reading.paragraphs[-1] == ("Why it fits: the jars are sealed one by one.")


def _marks(statement: Statement) -> dict[str, str]:
    return {c.text: c.mark for c in answer(statement, {}).reading.assumptions}


class TestParts:
    def test_they_are_added_changed_and_taken_out(self) -> None:
        made = ask(n=12, p=0.85).with_slot("parts.0", "at least 10", {}).statement
        made = made.with_slot("parts.1", " P(X < 3) ", {}).statement
        assert (made.parts, made.chosen) == (("at least 10", "P(X < 3)"), 1)
        made = made.with_slot("parts.0", "exactly 2", {}).statement
        assert (made.parts, made.chosen) == (("exactly 2", "P(X < 3)"), 0)
        made = made.with_slot("parts.0", "", {}).statement
        assert (made.parts, made.chosen) == (("P(X < 3)",), 0)

    def test_what_is_not_understood_changes_nothing(self) -> None:
        with pytest.raises(StatementError, match="is not understood"):
            CRATE.with_slot("parts.1", "some of them", {})

    def test_every_part_has_its_row_and_there_is_one_more_to_type(self) -> None:
        rows = answer(CRATE, {}).figures[0].rows
        assert [row.cells[1].edits for row in rows] == [f"parts.{k}" for k in range(5)]
        assert [row.chosen for row in rows] == [False, False, False, True, False]
        assert rows[1].sets == ("chosen", 1)


class TestPicture:
    def test_the_hatched_area_is_the_probability(self) -> None:
        """Bars: the heights of those that are hatched add up to it, by their share of all."""
        drawing = lay_out(answer(CRATE, {}).picture, 740, 320)
        bars = [item for item in drawing.items if isinstance(item, Block)]
        hatched = sum(b.height for b in bars if b.hatched) / sum(b.height for b in bars)
        assert hatched == pytest.approx(0.7656, abs=2e-3)

    @pytest.mark.parametrize(
        "statement",
        [
            ask("normal", ("more than 60",), mu=50, sigma=10),
            ask("gamma", ("from 1 to 4",), shape=2, scale=1.5),
            ask("F", ("more than 2",), df1=5, df2=12),
        ],
    )
    def test_the_area_under_a_curve_is_the_probability(self, statement: Statement) -> None:
        found = answer(statement, {})
        drawing = lay_out(found.picture, 900, 400)
        (region,) = [item for item in drawing.items if isinstance(item, FilledOutline)]
        curve = max(
            (i.points for i in drawing.items if hasattr(i, "points") and not isinstance(i, FilledOutline)), key=len
        )
        base = region.points[:, 1].max()
        whole = np.trapezoid(base - curve[:, 1], curve[:, 0])
        x, y = region.points[:, 0], region.points[:, 1]
        area = abs(np.dot(x, np.roll(y, 1)) - np.dot(y, np.roll(x, 1))) / 2
        assert area / whole == pytest.approx(chances(found)[0], abs=4e-3)

    def test_handles_stand_at_the_ends_and_snap_to_whole_values(self) -> None:
        drawing = lay_out(answer(CRATE, {}).picture, 740, 320)
        low, high = (h for h in drawing.handles)
        assert (low.slot, high.slot) == ("low_end", "high_end")
        at = low.value_at(low.place)
        assert at == 8.5
        assert CRATE.with_slot("low_end", at, {}).statement == CRATE
        made = CRATE.with_slot("low_end", 7.7, {}).statement
        assert asked(made.situation, made.parts[3]).symbols() == "P(8 ≤ X ≤ 11)"
        made = CRATE.with_slot("high_end", 40.0, {}).statement
        assert asked(made.situation, made.parts[3]).symbols() == "P(9 ≤ X ≤ 40)"

    @given(st.floats(-5, 20), st.booleans())
    def test_an_end_never_crosses_the_other(self, value: float, low: bool) -> None:
        for part in ("from 9 to 11", "outside 4 to 9", "at least 3", "exactly 5"):
            statement = ask(n=12, p=0.85, parts=(part,))
            made = statement.with_slot("low_end" if low else "high_end", value, {}).statement
            event = asked(made.situation, made.parts[0]).event
            assert event.spans
            assert len(event.spans) == len(asked(statement.situation, statement.parts[0]).event.spans)

    def test_a_million_trials_are_drawn_with_few_bars(self) -> None:
        found = answer(ask(n=10**6, p=0.2, parts=("more than 200 500",)), {})
        drawing = lay_out(found.picture, 740, 320)
        assert len([i for i in drawing.items if isinstance(i, Block)]) < 250
        assert chances(found)[0] == pytest.approx(stats.binom(10**6, 0.2).sf(200_500), rel=1e-9)


@pytest.mark.parametrize(
    ("kind", "named", "told"),
    [
        ("binomial", {"n": 12, "p": 1.2}, "1.2 is out of range. Type a number from 0 to 1."),
        ("binomial", {"n": 12}, "Type p, the chance of a success in one trial"),
        ("hypergeometric", {"population": 10, "successes": 12, "drawn": 3}, "K is at most N"),
        ("hypergeometric", {"population": 10, "successes": 2, "drawn": 30}, "At most 10"),
        ("uniform", {"low": 3, "high": 3}, "b must lie above a, which is 3."),
        ("discrete uniform", {"low": 3, "high": 2}, "b must be at least a"),
        ("normal", {"mu": 3, "sigma": 0}, "0 is out of range. Type a number above 0."),
        ("poisson", {"rate": -1}, "Type a number from 0"),
        ("t", {"df": 0}, "out of range"),
    ],
)
def test_wrong_parameters_are_refused_in_their_slot(kind: str, named: dict, told: str) -> None:
    found = answer(ask(kind, ("at least 1",), **named), {})
    assert told in found.problem.sentence
    assert found.problem.slot.startswith("situation.")


def test_a_parameter_that_is_not_whole_is_refused() -> None:
    with pytest.raises(StatementError, match="whole number"):
        ask(n=2.5, p=0.5)


def test_parameters_stay_as_they_are_typed_and_go_along() -> None:
    statement = ask(n=12, p="1/6", counts="sixes", each="game", parts=("at least 2",))
    assert "p = 1/6" in statement.text({})
    assert statement.to_json()["situation"]["p"] == "1/6"
    assert chances(answer(statement, {}))[0] == pytest.approx(stats.binom(12, 1 / 6).sf(1))
    turned = statement.with_slot("situation", "geometric", {}).statement
    assert turned.situation.p == TypedNumber("1/6")
    assert turned.parts == statement.parts


class TestWorking:
    def lines(self, statement: Statement) -> str:
        return "\n".join(line for step in answer(statement, {}).working for line in step.to_lines())

    def test_a_sum_of_few_terms(self) -> None:
        text = self.lines(CRATE)
        assert "P(9 ≤ X ≤ 11) = P(X = 9) + P(X = 10) + P(X = 11)" in text
        assert "= 0.1720 + 0.2924 + 0.3012 = 0.7656" in text
        assert "σ = √(n p(1 − p)) = √(12 × 0.85 × (1 − 0.85)) = 1.2369" in text

    def test_the_complement_where_it_is_shorter(self) -> None:
        text = self.lines(ask(n=30, p=0.1, parts=("at least 2",)))
        assert "P(X ≥ 2) = 1 − P(X < 2) = 1 − 0.1837 = 0.8163" in text

    def test_the_z_score_and_the_table(self) -> None:
        text = self.lines(ask("normal", ("less than 45",), mu=50, sigma=10))
        assert "z = (45 − 50) / 10 = −0.50" in text
        assert "Φ(−0.50) = 0.3085" in text

    def test_a_value_that_cuts_off(self) -> None:
        text = self.lines(ask("normal", ("top 10 %",), mu=50, sigma=10))
        assert "x = μ + z σ = 50 + 1.282 × 10 = 62.8" in text


def test_approximations_with_their_rules() -> None:
    found = answer(ask(n=100, p=0.3, parts=("no more than 25",)), {})
    table = next(f for f in found.figures if f.key == "approximations")
    rows = {row.cells[0].text: row.cells for row in table.rows}
    curve = stats.norm(30, math.sqrt(21))
    assert rows["normal curve"][1].value == pytest.approx(curve.cdf(25))
    assert rows["normal curve, continuity correction"][1].value == pytest.approx(curve.cdf(25.5))
    assert rows["Poisson with mean np"][1].value == pytest.approx(stats.poisson(30).cdf(25))
    assert [rows[name][4].text for name in rows][1:] == ["holds", "holds", "does not hold"]


def test_every_value_with_its_three_probabilities() -> None:
    found = answer(ask(n=4, p=0.5, parts=("exactly 2",), values=True), {})
    table = next(f for f in found.figures if f.key == "values")
    values = [[cell.value for cell in row.cells] for row in table.rows]
    assert np.array(values) == pytest.approx(
        np.array(
            [
                [0, 1 / 16, 1 / 16, 1.0],
                [1, 4 / 16, 5 / 16, 15 / 16],
                [2, 6 / 16, 11 / 16, 11 / 16],
                [3, 4 / 16, 15 / 16, 5 / 16],
                [4, 1 / 16, 1.0, 1 / 16],
            ]
        )
    )


def test_it_needs_no_table() -> None:
    assert not make("probability").needs_table
    assert answer(ask(n=2, p=0.5), {}).reading.headline == "Nothing is asked yet."


def test_figures_put_in_have_no_digits_that_mean_nothing() -> None:
    statement = ask("mean of n", ("less than 60",), mu=62, sigma=9.5, n=36, counts="mean length", each="hour")
    text = "\n".join(line for step in answer(statement, {}).working for line in step.to_lines())
    assert "z = (60 − 62) / 1.5833 = −1.26" in text
    assert "333333" not in text
    assert statement.title({}) == "Mean length of an hour"


def test_what_cannot_be_given_is_not_defined_and_goes_to_json() -> None:
    found = answer(ask(n=5, p=0.5, parts=("at least 1 given more than 7",)), {})
    assert found.reading.headline == "P(X ≥ 1 | X > 7) is not defined."
    text = json.dumps(answer_json(found), allow_nan=False)
    assert '"probability": null' in text


def test_a_part_that_is_not_understood_leaves_the_others_in_their_places() -> None:
    found = answer(ask(n=5, p=0.5, parts=("hm", "at least 1", "none"), chosen=1), {})
    assert found.reading.headline == "P(X ≥ 1) = 0.9688"
    assert [row.chosen for row in found.figures[0].rows] == [False, True, False, False]


def test_a_table_says_which_values_it_leaves_out() -> None:
    found = answer(ask("poisson", ("at least 1",), rate=2.0, values=True), {})
    table = next(f for f in found.figures if f.key == "values")
    last = table.rows[-1].cells[0].value
    assert f"from 0 to {last:.0f}; all others" in found.reading.cautions[0]
    assert stats.poisson(2).pmf(last + 1) < 1e-8 <= stats.poisson(2).pmf(last)
    short = answer(ask(n=4, p=0.5, parts=("none",), values=True), {})
    assert short.reading.cautions == ()


def test_the_normal_curve_is_read_at_the_z_score_itself() -> None:
    found = answer(ask("normal", ("more than 75", "from 55 to 70"), mu=62, sigma=9.5), {})
    text = "\n".join(line for step in found.working for line in step.to_lines())
    assert "P(X > 75) = 1 − Φ(z) = 0.0856" in text
    assert "P(55 ≤ X ≤ 70) = Φ(z₂) − Φ(z₁) = 0.5695" in text

"""What people type as a part: read, said in words and symbols, and turned into a region."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.numeric.distributions.binomial import Binomial
from theoros.verbs.probability.data import NotUnderstood
from theoros.verbs.probability.values.asking import read_part
from theoros.verbs.probability.values.spans import CutOff, Event, ValueSpan

READ = [
    ("exactly 11", "exactly 11", "P(X = 11)"),
    ("11", "exactly 11", "P(X = 11)"),
    ("fewer than 10", "fewer than 10", "P(X < 10)"),
    ("less than 10", "fewer than 10", "P(X < 10)"),
    ("under 10 jars", "fewer than 10", "P(X < 10)"),
    ("at least 10", "at least 10", "P(X ≥ 10)"),
    ("10 or more", "at least 10", "P(X ≥ 10)"),
    ("no fewer than 10", "at least 10", "P(X ≥ 10)"),
    ("not less than 10", "at least 10", "P(X ≥ 10)"),
    ("at least one", "at least 1", "P(X ≥ 1)"),
    ("no more than 8", "no more than 8", "P(X ≤ 8)"),
    ("at most 8", "no more than 8", "P(X ≤ 8)"),
    ("up to 8", "no more than 8", "P(X ≤ 8)"),
    ("8 or fewer", "no more than 8", "P(X ≤ 8)"),
    ("8 jars or fewer", "no more than 8", "P(X ≤ 8)"),
    ("not more than 8", "no more than 8", "P(X ≤ 8)"),
    ("more than 8", "more than 8", "P(X > 8)"),
    ("exceeds 8", "more than 8", "P(X > 8)"),
    ("between 8 and 10 inclusive", "from 8 to 10, ends included", "P(8 ≤ X ≤ 10)"),
    ("between 8 and 10, ends included", "from 8 to 10, ends included", "P(8 ≤ X ≤ 10)"),
    ("strictly between 8 and 10", "more than 8 and fewer than 10", "P(8 < X < 10)"),
    ("from 9 to 11", "from 9 to 11, ends included", "P(9 ≤ X ≤ 11)"),
    ("9 to 11", "from 9 to 11, ends included", "P(9 ≤ X ≤ 11)"),
    ("outside 40 to 60", "fewer than 40 or more than 60", "P(X < 40 or X > 60)"),
    ("within 2 of 10", "from 8 to 12, ends included", "P(8 ≤ X ≤ 12)"),
    ("P(X<10)", "fewer than 10", "P(X < 10)"),
    ("p(x >= 3)", "at least 3", "P(X ≥ 3)"),
    ("8<=X<=10", "from 8 to 10, ends included", "P(8 ≤ X ≤ 10)"),
    ("P(2 ≤ X < 5)", "at least 2 and fewer than 5", "P(2 ≤ X < 5)"),
    ("10 > X > 3", "more than 3 and fewer than 10", "P(3 < X < 10)"),
    ("X=3 or X=5", "3 or 5", "P(X = 3 or X = 5)"),
    ("3, 4 or 5", "3, 4 or 5", "P(X = 3 or X = 4 or X = 5)"),
    ("not 3", "not 3", "P(X ≠ 3)"),
    ("P(X != 3)", "not 3", "P(X ≠ 3)"),
    ("none", "exactly 0", "P(X = 0)"),
    ("x<4 or x>8", "fewer than 4 or more than 8", "P(X < 4 or X > 8)"),
    ("at least 3 and at most 5", "from 3 to 5, ends included", "P(3 ≤ X ≤ 5)"),
    ("more than 3 but fewer than 8", "more than 3 and fewer than 8", "P(3 < X < 8)"),
    ("4 or more or exactly 1", "exactly 1 or at least 4", "P(X = 1 or X ≥ 4)"),
    ("P(|X − 50| > 10)", "fewer than 40 or more than 60", "P(X < 40 or X > 60)"),
    ("at least 4 given at least 2", "at least 4, given at least 2", "P(X ≥ 4 | X ≥ 2)"),
    ("P(X>=4 | X>=2)", "at least 4, given at least 2", "P(X ≥ 4 | X ≥ 2)"),
    ("bottom 5 %", "the bottom 5\u00a0%", "P(X ≤ x) = 0.05"),
    ("top 10%", "the top 10\u00a0%", "P(X ≥ x) = 0.1"),
    ("middle 0.95", "the middle 95\u00a0%", "P(x₁ ≤ X ≤ x₂) = 0.95"),
    ("both tails 0.05", "both tails, 5\u00a0% together", "P(X ≤ x₁) = P(X ≥ x₂) = 0.025"),
    ("P(X > c) = 0.1", "the top 10\u00a0%", "P(X ≥ x) = 0.1"),
    ("90th percentile", "the bottom 90\u00a0%", "P(X ≤ x) = 0.9"),
    ("1.30 or more", "at least 1.30", "P(X ≥ 1.30)"),
]


@pytest.mark.parametrize(("typed", "words", "symbols"), READ)
def test_a_part_is_read_and_said_in_both_forms(typed: str, words: str, symbols: str) -> None:
    asked = read_part(typed, apart=True)
    assert (asked.words(True), asked.symbols()) == (words, symbols)


@pytest.mark.parametrize(("typed", "words", "symbols"), READ)
def test_both_forms_are_read_as_the_same_question(typed: str, words: str, symbols: str) -> None:
    asked = read_part(typed, apart=True)
    for text in (words, symbols):
        again = read_part(text, apart=True)
        assert (again.event, again.given, again.cut_off) == (asked.event, asked.given, asked.cut_off)


def test_between_asks_where_it_matters() -> None:
    asked = read_part("between 8 and 10", apart=True)
    assert asked.symbols() == "P(8 ≤ X ≤ 10)"
    assert asked.otherwise is not None
    assert asked.otherwise.symbols() == "P(8 < X < 10)"
    assert read_part("between 8 and 10", apart=False).otherwise is None
    assert read_part("from 8 to 10", apart=True).otherwise is None


@pytest.mark.parametrize(
    "text",
    [
        "", "rubbish", "at least", "10 of them or none of the other 3", "top 120 %", "top 0",
        "P(", "X", "more than ten thousand and a half", "between 3", "bottom", "at least 3 to",
        "x" * 300, "1 < X > 3 <", "given 3", "3 given", "sqrt(-1) or more", "1/0",
    ],
)  # fmt: skip
def test_what_is_not_understood_is_refused_in_words(text: str) -> None:
    with pytest.raises(NotUnderstood, match=r"\.$"):
        read_part(text, apart=True)


@given(st.text(max_size=60))
def test_any_text_is_read_or_refused(text: str) -> None:
    for counting in (True, False):
        try:
            asked = read_part(text, apart=counting)
        except NotUnderstood:
            continue
        assert asked.words(counting)
        assert asked.symbols()


ENDS = st.integers(-3, 15)
SPANS = st.tuples(ENDS, ENDS, st.booleans(), st.booleans()).map(
    lambda t: ValueSpan(float(min(t[:2])), float(max(t[:2])), t[2], t[3])
)
EVENTS = st.lists(SPANS, max_size=4).map(Event.of)


def holds(event: Event, value: float) -> bool:
    """Membership by definition."""
    return any(
        (s.low < value or (s.low == value and s.low_in)) and (value < s.high or (value == s.high and s.high_in))
        for s in event.spans
    )


@given(EVENTS, EVENTS)
def test_events_follow_the_laws_of_sets(a: Event, b: Event) -> None:
    for value in [k / 2 for k in range(-8, 34)]:
        one, two = holds(a, value), holds(b, value)
        assert holds(a.joined(b), value) == (one or two)
        assert holds(a.met(b), value) == (one and two)
        assert holds(a.complement, value) == (not one)
    assert a.complement.complement == a


@given(EVENTS, st.floats(0.05, 0.95))
def test_the_region_holds_what_the_event_holds(event: Event, p: float) -> None:
    """Against the sum of the masses of the values that it holds by definition."""
    one = Binomial(12, p)
    exact = math.fsum(float(one.height(k)) for k in range(13) if holds(event, k))
    assert one.probability(event.region(one)) == pytest.approx(exact, abs=1e-13)


@given(EVENTS)
def test_words_and_symbols_come_back_as_the_event(event: Event) -> None:
    from theoros.verbs.probability.values.spans import AskedPart

    asked = AskedPart(event)
    if not event.spans or any(math.isinf(s.low) and math.isinf(s.high) for s in event.spans):
        return
    for text in (asked.words(True), asked.symbols()):
        assert read_part(text, apart=True).event == event


def test_shares_of_both_tails() -> None:
    assert read_part("two tails 5 %", apart=False).cut_off == CutOff("tails", 0.05)
    assert read_part("both tails, 5 % together", apart=False).cut_off == CutOff("tails", 0.05)

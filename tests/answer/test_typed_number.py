"""Typed numbers: worked out, kept as they were written, equal to what they are."""

from __future__ import annotations

import math
import pickle
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import special

from theoros.answer.typed_number import NotWorkedOut, TypedNumber, worked_out
from theoros.answer.wording import exact
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.core.slots import TypeNumber


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("1.30", 1.3), ("0,5", 0.5), ("85 %", 0.85), ("1/6", 1 / 6), ("0.3+0.05", 0.35),
        ("sqrt(2)", math.sqrt(2)), ("√2", math.sqrt(2)), ("√(2+2)", 2.0), ("2^3^2", 512.0),
        ("-2^2", -4.0), ("−(3 − 5)", 2.0), ("5!", 120.0), ("1 000.5", 1000.5), ("3 × 4 : 6", 2.0),
        ("choose(6, 2)", 15.0), ("choose(6,2)", 15.0), ("choose(6;2)", 15.0),
        ("permutations(5,2)/2", 10.0), ("factorial(4)", 24.0), ("exp(0)", 1.0), ("ln(exp(2))", 2.0),
        ("pi", math.pi), ("1e-3", 0.001), (".5", 0.5), ("choose(3, 5)", 0.0), ("2(3)", None),
    ],
)  # fmt: skip
def test_small_sums_are_worked_out(text: str, value: float | None) -> None:
    if value is None:
        with pytest.raises(NotWorkedOut):
            worked_out(text)
    else:
        assert worked_out(text) == pytest.approx(value, rel=1e-15)


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("", "is not a number"), ("abc", "is not a number"), ("1 +", "is not a number"),
        ("(1", "is not a number"), ("1/0", "divides by 0"), ("sqrt(-1)", "no square root"),
        ("171!", "too large"), ("9^9^9^9", "too large"), ("choose(2000, 1000)", "too large"),
        ("choose(1e9, 5e8)", "too large"), ("choose(2.5, 1)", "whole numbers"),
        ("choose(5)", "two numbers"), ("sqrt(1, 2)", "one number"), ("(-8)^0.5", "no real value"),
        ("(" * 60 + "1" + ")" * 60, "is not a number"), ("1" * 201, "200 letters"),
        ("__import__('os')", "is not a number"), ("ln(0)", "logarithm"), ("-" * 150 + "1", None),
    ],
)  # fmt: skip
def test_what_cannot_be_worked_out_says_why(text: str, told: str | None) -> None:
    if told is None:
        assert worked_out(text) == 1
        return
    with pytest.raises(NotWorkedOut, match=told):
        worked_out(text)


@given(st.integers(0, 400), st.integers(0, 400))
def test_counting_against_scipy(n: int, k: int) -> None:
    # scipy.special.comb and perm with exact=True count in whole numbers
    expected = special.comb(n, k, exact=True)
    assert worked_out(f"choose({n}, {k})") == pytest.approx(float(expected), rel=1e-15)
    ordered = special.perm(n, k, exact=True)
    if ordered < 10**300:
        assert worked_out(f"permutations({n}, {k})") == pytest.approx(float(ordered), rel=1e-15)


SUMS = st.recursive(
    st.integers(1, 50).map(str),
    lambda inner: st.tuples(inner, st.sampled_from("+-*/"), inner).map(lambda t: f"({t[0]}{t[1]}{t[2]})"),
    max_leaves=10,
)


@given(SUMS)
def test_sums_against_fractions(text: str) -> None:
    wrapped = "".join(f"Fraction({p})" if p.isdigit() else p for p in _pieces(text))
    try:
        expected = eval(wrapped, {"Fraction": Fraction})
    except ZeroDivisionError:
        return
    try:
        found = worked_out(text)
    except NotWorkedOut:
        return  # a divisor that rounding made 0
    assert found == pytest.approx(float(expected), rel=1e-9, abs=1e-9)


def _pieces(text: str) -> list[str]:
    made: list[str] = []
    for letter in text:
        if letter.isdigit() and made and made[-1].isdigit():
            made[-1] += letter
        else:
            made.append(letter)
    return made


@given(st.text(max_size=40))
def test_any_text_is_a_number_or_refused(text: str) -> None:
    try:
        value = worked_out(text)
    except NotWorkedOut:
        return
    assert math.isfinite(value)


def test_it_is_a_float_that_remembers() -> None:
    half = TypedNumber("1/2")
    assert half == 0.5
    assert half + 1 == 1.5
    assert hash(half) == hash(0.5)
    assert exact(half) == "1/2"
    assert exact(TypedNumber("1,30")) == "1.30"
    assert exact(TypedNumber("85%")) == "85\u00a0%"
    assert TypedNumber("1.3") != TypedNumber("1.30")
    assert half != "1/2"
    assert half != None  # noqa: E711
    again = pickle.loads(pickle.dumps(half))
    assert (again, again.text) == (half, "1/2")


def test_a_slot_keeps_what_was_typed_and_shows_it_again() -> None:
    holds = TypeNumber(0, 1)
    value, problem = holds.read("1/6")
    assert (value, problem, holds.typed(value)) == (TypedNumber("1/6"), "", "1/6")
    assert holds.read("7/6")[1] == "7/6 is out of range. Type a number from 0 to 1."
    assert "divides by 0" in holds.read("1/0")[1]
    assert TypeNumber(2, 100, whole=True).read("choose(6,2)") == (15, "")
    assert TypeNumber(unit="%").read("5.50 %")[0] == TypedNumber("5.50")


def test_a_statement_goes_to_json_and_back_as_it_was_typed() -> None:
    statement = make("test", table="t", what="v", by="g", null=TypedNumber("1.30"))
    data = statement.to_json()
    assert data["null"] == "1.30"
    back = statement_from_json(data)
    assert back.null == TypedNumber("1.30")
    assert isinstance(back.null, TypedNumber)
    assert make("test", table="t", what="v", by="g", null=TypedNumber("1.3")).to_json()["null"] == 1.3
    with pytest.raises(StatementError, match="must be a number"):
        statement_from_json({**data, "null": "one"})

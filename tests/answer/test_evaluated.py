"""Worked lines compute: what is shown as a result is what the figures before it give, rounded."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.formulas.evaluated import wrong_steps
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.formulas.written import to_line
from theoros.answer.wording import bracketed, number


@pytest.mark.parametrize(
    ("written", "settled"),
    [
        ("z = (12.3 − 10) / 0.71 = 3.2444", "z = (12.3 − 10) / 0.71 = 3.24"),
        ("z = (12.3 − 10) / 0.71 = 3.239", "z = (12.3 − 10) / 0.71 = 3.239"),
        ("SE = 9.178/√24 = 1.874", "SE = 9.178/√24 = 1.87"),
        ("z = (0.3 − 0.5) / 0.07 = −2.851", "z = (0.3 − 0.5) / 0.07 = −2.9"),
        ("N x̄ = 5000 × 64.047 = 320\u202f233", "N x̄ = 5000 × 64.047 ≈ 320 200"),
        ("p = 1.2 × 10⁻³ / 7 = 1.72 × 10⁻⁴", "p = 1.2 × 10⁻³/7 = 1.7 × 10⁻⁴"),
        ("df = (a + b)² / (a²/11) = 12.30", "df = (a + b)² / (a²/11) = 12.30"),
        ("n = 8 / 3 = 2.67 {g}, {rounded up}", "n = 8/3 = 2.67 g, rounded up"),
        ("5! / (2! × 3!) = 10", "5! / (2! × 3!) = 10"),
        ("|2 − 5|^{2} = 9", "|2 − 5|² = 9"),
    ],
)
def test_a_result_keeps_the_digits_that_the_line_gives(written: str, settled: str) -> None:
    assert to_line(formula(written)).replace("\u202f", " ") == settled


@pytest.mark.parametrize("false", ["1 − 0.2 / 1 − 0.5 = 1.6", "2 + 3 × 4 = 20", "√2 = 1.4143", "z = |−3| = −3"])
def test_a_line_that_is_false_is_noticed(false: str) -> None:
    from theoros.answer.formulas.notation import _TOKEN, _NotationReader, _NotationToken

    tokens = [_NotationToken(f.lastgroup or "other", f[0]) for f in _TOKEN.finditer(false) if f.lastgroup != "space"]
    assert wrong_steps(_NotationReader(tokens).row(""))


sizes = st.floats(0.0001, 1e5) | st.floats(-1e5, -0.0001)


@given(a=sizes, b=sizes, c=sizes, decimals=st.integers(0, 5), sign=st.sampled_from("+−×/"))
def test_whatever_is_put_in_the_line_computes(a: float, b: float, c: float, decimals: int, sign: str) -> None:
    exact = {"+": a + b, "−": a - b, "×": a * b, "/": a / b}[sign] - c
    put = [bracketed(number(value, decimals)) for value in (a, b, c)]
    if put[1].strip("()−").replace("0", "").replace(".", "") == "":
        return
    line = formula(f"v = {put[0]} {sign} {put[1]} − {put[2]} = {number(exact, decimals)}")
    assert isinstance(line, Formula)
    for value, told in wrong_steps(line.row):  # what cannot be told in any digit is told as about so much
        assert "≈" in to_line(line), (value, told)
        assert math.isclose(value, told, abs_tol=10.0 * max(abs(value), abs(told)))

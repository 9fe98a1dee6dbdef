"""The studentized range, against t, against SciPy, and against a printed table."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric.distributions.studentized_range import studentized_tail, studentized_value

degrees = st.floats(0.8, 1e6)


@given(st.floats(1e-3, 80), degrees)
def test_of_two_means_it_is_the_root_of_two_times_t(q: float, df: float) -> None:
    exact = 2 * stats.t.sf(q / 2**0.5, df)
    assert studentized_tail(q, 2, df) == pytest.approx(exact, rel=1e-10, abs=1e-290)


@pytest.mark.parametrize("k", [2, 3, 5, 10, 40])
@pytest.mark.parametrize("df", [1, 1.5, 7.3, 20, 100])
def test_the_tail_against_scipy(k: int, df: float) -> None:
    for q in (0.05, 0.5, 2, 3.7, 6):
        expected = stats.studentized_range.sf(q, k, df)
        assert studentized_tail(q, k, df) == pytest.approx(expected, rel=1e-9, abs=1e-13)


@pytest.mark.parametrize(
    ("tail", "k", "df", "printed"),
    # Pearson and Hartley, Biometrika Tables for Statisticians, volume 1 (1954), table 29
    [
        (0.05, 3, 10, "3.88"),
        (0.05, 5, 20, "4.23"),
        (0.05, 10, 60, "4.65"),
        (0.05, 4, 5, "5.22"),
        (0.01, 3, 10, "5.27"),
        (0.01, 6, 24, "5.37"),
        (0.01, 5, 15, "5.56"),
    ],
)
def test_values_against_a_printed_table(tail: float, k: int, df: int, printed: str) -> None:
    assert f"{studentized_value(tail, k, df):.2f}" == printed


@given(st.floats(1e-9, 0.999), st.integers(2, 20), degrees)
def test_a_value_undoes_its_tail(tail: float, k: int, df: float) -> None:
    found = studentized_tail(studentized_value(tail, k, df), k, df)
    assert found == pytest.approx(tail, rel=1e-9)


def test_nothing_is_below_no_gap() -> None:
    assert studentized_tail(0.0, 3, 10) == 1.0

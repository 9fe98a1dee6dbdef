"""Summaries against certified values, published rules and laws."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.numeric.quartiles import RULES, quartile_places, quartiles
from theoros.numeric.summaries import mean_and_sd, summarize

numbers = st.lists(st.floats(-1e9, 1e9), min_size=1, max_size=60).map(np.array)


@pytest.mark.parametrize(("offset", "low", "high"), [(1e6, 0.1, 0.3), (1e7, 0.1, 0.3)], ids=["NumAcc3", "NumAcc4"])
def test_mean_and_sd_keep_the_certified_digits(offset: float, low: float, high: float) -> None:
    # NIST StRD univariate sets NumAcc3 and NumAcc4: 1001 values, certified mean offset + 0.2 and
    # standard deviation exactly 0.1
    values = np.array([offset + 0.2] + [offset + low, offset + high] * 500)
    mean, sd = mean_and_sd(values)
    assert mean == pytest.approx(offset + 0.2, rel=1e-15)
    assert sd == pytest.approx(0.1, rel=2e-8)  # what binary doubles of that offset allow


def test_numacc1_is_exact() -> None:
    # NIST StRD NumAcc1: 10000001, 10000003, 10000002; certified mean 10000002, sd 1
    assert mean_and_sd(np.array([10000001.0, 10000003.0, 10000002.0])) == (10000002.0, 1.0)


def test_huge_values_do_not_overflow() -> None:
    mean, sd = mean_and_sd(np.array([-1.5e308, 1.5e308]))
    assert mean == 0
    assert math.isinf(sd) or sd == pytest.approx(1.5e308 * math.sqrt(2), rel=1e-12)
    s = summarize(np.array([1e300, 2e300, 3e300]))
    assert s.mean == pytest.approx(2e300)
    assert s.sd == pytest.approx(1e300)


# Q1 and Q3 of 1..10 by each rule, worked by hand from the definitions in Hyndman and Fan (1996)
# and, for the halves, from the medians of 1..5 and 6..10
TEN = {
    "halves": (3, 8),
    "halves with middle": (3, 8),
    "type 1": (3, 8),
    "type 2": (3, 8),
    "type 3": (2, 8),
    "type 4": (2.5, 7.5),
    "type 5": (3, 8),
    "type 6": (2.75, 8.25),
    "type 7": (3.25, 7.75),
    "type 8": (35 / 12, 97 / 12),
    "type 9": (47 / 16, 129 / 16),
}


@pytest.mark.parametrize("rule", list(RULES))
def test_quartile_rules_on_one_to_ten(rule: str) -> None:
    q1, median, q3 = quartiles(np.arange(10.0, 0, -1), rule)
    assert (q1, q3) == pytest.approx(TEN[rule])
    assert median == 5.5


def test_halves_differ_for_an_odd_number_of_values() -> None:
    # 1..9: halves 1-4 and 6-9 without the middle 5; 1-5 and 5-9 with it
    values = np.arange(1.0, 10)
    assert quartiles(values, "halves") == (2.5, 5, 7.5)
    assert quartiles(values, "halves with middle") == (3, 5, 7)


def test_fences_by_hand() -> None:
    # 1 2 3 4 5 6 7 30: Q1 = 2.5, Q3 = 6.5, IQR 4, fences -3.5 and 12.5; 30 lies outside
    values = np.array([4.0, 1, 2, 30, 3, 5, 7, 6])
    s = summarize(values)
    assert (s.q1, s.q3, s.iqr, s.lower_fence, s.upper_fence) == (2.5, 6.5, 4, -3.5, 12.5)
    assert s.outside(values).tolist() == [False] * 3 + [True] + [False] * 4
    assert s.whiskers(values) == (1, 7)


@given(numbers)
def test_summary_agrees_with_numpy(values: np.ndarray) -> None:
    s = summarize(values)
    scale = max(1.0, float(np.abs(values).max()))
    assert s.mean == pytest.approx(np.mean(values), abs=1e-9 * scale)
    if values.size > 1:
        assert s.sd == pytest.approx(np.std(values, ddof=1), abs=1e-9 * scale)
    assert s.minimum <= s.q1 <= s.median <= s.q3 <= s.maximum
    assert s.median == pytest.approx(np.median(values))


@given(numbers, st.sampled_from(list(RULES)))
def test_quartiles_do_not_depend_on_order(values: np.ndarray, rule: str) -> None:
    assert quartiles(values, rule) == quartiles(values[::-1], rule)


def test_nothing_and_one_value() -> None:
    assert summarize(np.array([np.nan])).n == 0
    one = summarize(np.array([3.5, np.nan]))
    assert (one.n, one.mean, one.q1, one.median, one.q3) == (1, 3.5, 3.5, 3.5, 3.5)
    assert math.isnan(one.sd)
    with pytest.raises(ValueError, match="no values"):
        quartiles(np.array([]), "halves")


@pytest.mark.parametrize("rule", RULES)
@pytest.mark.parametrize("n", [*range(1, 26), 99, 100, 101, 102, 1000])
def test_the_places_of_quartiles_hold_the_quartiles(rule: str, n: int) -> None:
    """Types 1 to 9 are worked out by numpy.quantile; the places by Hyndman and Fan's formulas."""
    ordered = np.sort(np.random.default_rng(n).normal(size=n))
    q1, _, q3 = quartiles(ordered, rule)
    first, third = quartile_places(rule, n)
    assert first.of(ordered) == pytest.approx(q1, abs=1e-12)
    assert third.of(ordered) == pytest.approx(q3, abs=1e-12)
    for place in (first, third):
        assert 1 <= place.low <= place.high <= n
        assert 0 <= place.share < 1


def test_places_by_hand() -> None:
    """Of ten values: (n + 1)p is 2.75 and 8.25, 1 + (n - 1)p is 3.25 and 7.75."""
    assert [place.at for place in quartile_places("type 6", 10)] == [2.75, 8.25]
    assert [place.at for place in quartile_places("type 7", 10)] == [3.25, 7.75]
    assert [place.at for place in quartile_places("halves", 10)] == [3, 8]
    assert [place.at for place in quartile_places("halves", 8)] == [2.5, 6.5]
    with pytest.raises(KeyError):
        quartile_places("type 10", 4)

"""Measures of shape, density, stems, grouped data: against SciPy, statistics and hand-worked cases."""

from __future__ import annotations

import math
import statistics

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric import measures
from theoros.numeric.density import bandwidth, density_curve, ecdf, normal_scores
from theoros.numeric.grouped import grouped
from theoros.numeric.stems import stems

VALUES = st.lists(st.floats(-1e3, 1e3).map(lambda x: round(x, 3)), min_size=4, max_size=40)


@given(VALUES.filter(lambda v: max(v) - min(v) > 0.5))
def test_shape_agrees_with_scipy(values: list[float]) -> None:
    data = np.array(values)
    assert measures.skewness(data) == pytest.approx(stats.skew(data, bias=False), abs=1e-7, rel=1e-7)
    assert measures.kurtosis(data) == pytest.approx(stats.kurtosis(data, bias=False), abs=1e-6, rel=1e-6)
    assert measures.standard_error(data) == pytest.approx(stats.sem(data))
    assert measures.trimmed_mean(data, 0.1) == pytest.approx(stats.trim_mean(data, 0.1), abs=1e-9)
    assert measures.total(data) == math.fsum(values)
    positive = np.abs(data) + 0.5
    assert measures.geometric_mean(positive) == pytest.approx(stats.gmean(positive))
    assert measures.variation(positive) == pytest.approx(100 * stats.variation(positive, ddof=1))


def test_what_is_not_defined_is_nan() -> None:
    one, flat = np.array([2.0]), np.array([3.0] * 5)
    for of in (measures.skewness, measures.kurtosis, measures.standard_error, measures.variation):
        assert math.isnan(of(one))
    assert math.isnan(measures.skewness(flat))
    assert math.isnan(measures.geometric_mean(np.array([-1.0, 2])))
    assert math.isnan(measures.variation(np.array([-1.0, 2])))


@given(st.lists(st.integers(0, 5).map(float), min_size=1, max_size=20))
def test_modes_agree_with_statistics(values: list[float]) -> None:
    known = sorted(statistics.multimode(values))
    found = measures.modes(np.array(values))
    often = values.count(known[0])
    assert list(found) == (known if often > 1 and len(known) <= 3 else [])


def test_the_density_is_that_of_scipy() -> None:
    """scipy.stats.gaussian_kde with the same bandwidth is the source."""
    data = np.random.default_rng(3).gamma(3, 4, 300)
    x, height = density_curve(data)
    known = stats.gaussian_kde(data, bw_method=bandwidth(data) / data.std(ddof=1))(x)
    assert np.abs(height - known).max() < 0.002 * known.max()
    assert np.trapezoid(height, x) == pytest.approx(1, abs=2e-3)
    flat_x, flat = density_curve(np.array([5.0, 5.0]))
    assert np.trapezoid(flat, flat_x) == pytest.approx(1, abs=4e-3)


def test_normal_scores_are_bloms() -> None:
    """Blom's approximation against the exact expected order statistics of n = 5 (Harter 1961)."""
    assert normal_scores(5).tolist() == pytest.approx([-1.163, -0.495, 0, 0.495, 1.163], abs=0.02)


def test_steps_by_hand() -> None:
    x, share = ecdf(np.array([2.0, 1.0, 2.0, 5.0]))
    assert (x.tolist(), share.tolist()) == ([1, 2, 5], [0.25, 0.75, 1.0])


def test_stems_by_hand() -> None:
    made = stems(np.array([12.0, 15, 21, 23, 23, 38, 40, 41, 58]))
    assert made.unit == 1
    text = {stem: leaves for stem, leaves in made.lines if made.split == 1}
    assert made.split in (1, 2)
    joined = "".join(leaves for _, leaves in made.lines)
    assert joined == "251338018"
    assert not text or text["2"] == "133"
    small = stems(np.array([0.12, 0.15, 0.21]))
    assert small.unit == pytest.approx(0.01) or small.unit == pytest.approx(0.001)
    both = stems(np.array([-12.0, -3, -1, 0, 4, 11]))
    assert [stem for stem, _ in both.lines][:1] == ["−1"]
    assert ("−0") in [stem for stem, _ in both.lines]


@given(VALUES)
def test_every_value_is_a_leaf(values: list[float]) -> None:
    made = stems(np.array(values))
    assert sum(len(leaves) for _, leaves in made.lines) == len(values)
    assert len(made.lines) <= 41


def test_grouped_data_by_hand() -> None:
    """Classes 0-10, 10-20, 20-30 with 5, 8, 7: mean 16, sum f(m - mean)^2 = 605 + 8 + 567."""
    low, high, counts = np.array([0.0, 10, 20]), np.array([10.0, 20, 30]), np.array([5.0, 8, 7])
    made = grouped(low, high, counts)
    assert made.mean == 16
    assert made.sd == pytest.approx(math.sqrt((5 * 121 + 8 * 1 + 7 * 81) / 19))
    assert made.median == pytest.approx(10 + (10 - 5) / 8 * 10)
    for wrong in ((high, low, counts), (low, high, -counts), (low, high, counts * 0)):
        with pytest.raises(ValueError, match="classes must"):
            grouped(*wrong)


def test_a_variance_that_no_float_holds_is_none() -> None:
    assert measures.variance(3.0) == 9.0
    assert measures.variance(0.0) == 0.0
    assert math.isnan(measures.variance(1e200))
    assert math.isnan(measures.variance(1e-200))

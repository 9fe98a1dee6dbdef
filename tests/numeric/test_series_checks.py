"""Local regression, autocorrelations and turns of a series."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric.series.decomposition import NotPositive, TooFewCycles
from theoros.numeric.series.residual_tests import autocorrelations, ljung_box, season_p, turns
from theoros.numeric.series.robust import parts_by_local_regression, trend_by_local_regression
from theoros.study.entries import Study


@pytest.fixture(scope="module")
def visitors(demo: Study) -> np.ndarray:
    return demo.table("visits").numbers("visitors")


REFERENCE = {
    # statsmodels 0.15, STL(period=12, seasonal=10 n + 1, seasonal_deg=0, robust=True),
    # inner_iter=2, outer_iter=15: trend at 0, 1, 20 and the last; left over at 0, 20, the last
    108: (
        [608.438374586183, 611.401363104339, 674.6082335847433, 928.3732833025841],
        [6.927253435582429, -19.408310249359374, -5.909026837780061],
    ),
    30: (
        [610.3804277265134, 613.0301184099452, 678.3786239237755, 705.3786302929478],
        [7.03262899142467, -33.5607194189389, -20.102751066269207],
    ),
}


@pytest.mark.parametrize("n", REFERENCE)
def test_parts_by_local_regression_against_another_library(visitors, n: int) -> None:
    found = parts_by_local_regression(visitors[:n], 12)
    trend, rest = REFERENCE[n]
    # the other leaves the mean of the seasons where it is, here it is in the trend
    shift = found.trend[0] - trend[0]
    assert found.trend[[0, 1, 20, n - 1]] - shift == pytest.approx(trend, rel=1e-9)
    assert abs(shift) < 1
    assert found.effects.sum() == pytest.approx(0, abs=1e-9)
    # nor does it make a season the same in every cycle but for the width of its window
    assert found.left_over[[0, 20, n - 1]] == pytest.approx(rest, abs=0.05)


def test_one_wild_value_changes_little(visitors) -> None:
    wild = visitors.copy()
    wild[50] += 5000
    before, after = (parts_by_local_regression(v, 12).effects for v in (visitors, wild))
    assert np.abs(before - after).max() < 12


def test_products_leave_over_what_they_should(visitors) -> None:
    found = parts_by_local_regression(visitors, 12, multiplicative=True)
    assert found.effects.mean() == pytest.approx(1)
    assert found.trend * found.season * found.left_over == pytest.approx(visitors)
    with pytest.raises(NotPositive):
        parts_by_local_regression(np.append(visitors, 0.0), 12, multiplicative=True)
    with pytest.raises(TooFewCycles):
        parts_by_local_regression(visitors[:20], 12)


@given(st.floats(-5, 5), st.floats(-100, 100), st.integers(8, 60))
def test_a_straight_line_is_its_own_trend(slope: float, start: float, n: int) -> None:
    values = start + slope * np.arange(n)
    assert trend_by_local_regression(values, 7) == pytest.approx(values, abs=1e-6)


def test_autocorrelations_against_another_library(visitors) -> None:
    """statsmodels 0.15: acf and acorr_ljungbox (8 lags of 40 months; 3 of them fitted)."""
    assert autocorrelations(visitors, 3) == pytest.approx(
        [0.8445478672111977, 0.5363072991710977, 0.1855413001189751], rel=1e-12
    )
    assert ljung_box(visitors[:40], 8, 0) == pytest.approx(3.21161635124132e-20, rel=1e-9)
    assert ljung_box(visitors[:40], 8, 3) == pytest.approx(3.439554622641369e-22, rel=1e-9)
    assert math.isnan(ljung_box(visitors[:5], 8, 0))
    assert math.isnan(ljung_box(visitors, 2, 2))


def test_seasons_by_the_means_of_another_library(visitors) -> None:
    """scipy's one-way F, with a degree of freedom less for each cycle of the trend."""
    off = visitors - parts_by_local_regression(visitors, 12).trend
    off[[3, 50]] = np.nan
    noise = np.random.default_rng(3).normal(0, 1, 60)
    for values, cycle in ((off, 12), (noise, 12), (noise, 4)):
        groups = [values[at::cycle] for at in range(cycle)]
        groups = [own[np.isfinite(own)] for own in groups]
        n = sum(own.size for own in groups)
        df = n - cycle - n // cycle
        ratio = stats.f_oneway(*groups).statistic * df / (n - cycle)
        wanted = stats.f.sf(ratio, cycle - 1, df)
        assert season_p(values, cycle) == pytest.approx(wanted, rel=1e-9)
    assert math.isnan(season_p(noise, 1))
    assert math.isnan(season_p(noise[:13], 12))


@pytest.mark.parametrize(
    ("trend", "expected"),
    [
        ([1, 2, 3, 4, 5], []),
        ([5, 4, 3, 2], []),
        ([1, 3, 5, 4, 2], [2]),
        ([5, 3, 1, 2, 4, 6, 5.5], [2]),
        ([1, 4, 1, 4, 1], [1, 2, 3]),
        ([math.nan, 1, 5, 1, math.nan], [2]),
        ([1, 2, 1.5, 3, 2.5, 4], []),
        ([1, math.nan], []),
    ],
)
def test_turns_that_stand_out(trend: list[float], expected: list[int]) -> None:
    assert turns(np.array(trend), 1.0).tolist() == expected

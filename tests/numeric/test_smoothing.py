"""Exponential smoothing: against statsmodels, by hand, and by what must hold of it."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.numeric.series.smoothing import Constants, SmoothingForm, TooShort, smooth, smoothed_by
from theoros.study.entries import Study

REFERENCE = {
    # statsmodels 0.15, ETSModel(error="add"), visitors of the demo: log-likelihood, constants,
    # forecasts 1, 2, 3 and 12 steps ahead, widths of the 95 % band 1, 6 and 12 steps ahead
    SmoothingForm(): (
        -649.7442599315186,
        Constants(0.9999),
        [761.002200590163] * 4,
        [388.8856338925509, 952.4919910494895, 1347.015865211658],
    ),
    SmoothingForm(slope=True): (
        -645.4659574930708,
        Constants(0.9999, 0.8885476622728963),
        [733.6097582034265, 706.2243576057765, 678.8389570081265, 432.3703516292763],
        [373.7814949758729, 3260.1846045438115, 8595.104773579704],
    ),
    SmoothingForm(slope=True, damped=True): (
        -636.5495263877702,
        Constants(0.9999, 0.9142754197577517, 0.0, 0.8),
        [741.3511042572811, 725.6343806639104, 713.0610017892138, 669.5177676738076],
        [344.161781327844, 2150.9167049453713, 4052.060920648162],
    ),
    SmoothingForm(cycle=12): (
        -535.450673754424,
        Constants(0.3189182695113748, 0.0, 6.810817304886252e-05),
        [754.4510428314193, 757.5533392821551, 768.0750334390482, 782.4845790098898],
        [134.9644423886366, 165.76712325294147, 196.45545368426951],
    ),
    SmoothingForm(slope=True, cycle=12): (
        -526.5593108178198,
        Constants(0.0001, 1e-08, 9.999000000000001e-05),
        [794.2512249582976, 799.9218067414097, 813.2456955609289, 852.1314844620389],
        [124.29824998225422, 124.29825309157513, 124.29825682686464],
    ),
    SmoothingForm(slope=True, damped=True, cycle=12): (
        -530.6620940270219,
        Constants(0.14069979039286012, 0.004719670375462859, 8.593002096071398e-05, 0.98),
        [770.083488141514, 768.6211157775764, 779.6492401573041, 803.3618219021837],
        [129.11101980068997, 136.58327718559258, 147.63336078918132],
    ),
}
AHEAD, WIDE = [0, 1, 2, 11], [0, 5, 11]


@pytest.fixture(scope="module")
def visitors(demo: Study) -> np.ndarray:
    return demo.table("visits").numbers("visitors").astype(float)


@pytest.mark.parametrize("form", REFERENCE, ids=str)
def test_the_likelihood_is_not_below_that_of_another_library(visitors, form: SmoothingForm) -> None:
    found = smooth(visitors, form)
    assert found.log_likelihood >= REFERENCE[form][0] - 1e-4
    # and not beyond what the other reaches from there, but for the bounds of its search
    assert found.log_likelihood == pytest.approx(REFERENCE[form][0], abs=0.2)


@pytest.mark.parametrize("form", REFERENCE, ids=str)
def test_forecasts_and_bands_by_the_constants_of_another_library(visitors, form: SmoothingForm) -> None:
    likelihood, constants, forecasts, widths = REFERENCE[form]
    found = smoothed_by(visitors, form, constants)
    # the other stops its search for the beginning a little before the best
    assert likelihood - 1e-4 < found.log_likelihood < likelihood + 0.2
    assert found.forecast(12)[AHEAD] == pytest.approx(forecasts, rel=0.011)
    # it takes the variance by maximum likelihood, which is a little narrow
    narrow = np.sqrt((found.n - form.parameters + 1) / found.n)
    band = 2 * 1.959963984540054 * narrow * found.se(12)[WIDE]
    assert band == pytest.approx(widths, rel=2e-3)


def test_a_level_by_hand() -> None:
    """l0 = 10; errors 2, -2.6, 1.92: each value less the level, which moves by 0.3 of it."""
    values = np.array([12.0, 8.0, 11.74])
    found = smoothed_by(values, SmoothingForm(), Constants(0.3))
    level, errors = found.start[0], []
    for value in values:
        errors.append(value - level)
        level += 0.3 * errors[-1]
    assert found.errors == pytest.approx(errors, rel=1e-12)
    assert found.forecast(2) == pytest.approx([level, level], rel=1e-12)
    grown = found.se(4) / found.se(1)
    assert grown == pytest.approx(np.sqrt(1 + 0.09 * np.arange(4)), rel=1e-12)


@given(
    st.floats(0.05, 0.95),
    st.floats(0.05, 0.9),
    st.floats(0.05, 0.9),
    st.floats(0.8, 1.0),
    st.integers(0, 5),
    st.booleans(),
    st.integers(0, 2**31),
)
def test_the_filter_gives_the_errors_of_the_recursion(
    alpha: float, share: float, rest: float, phi: float, cycle: int, slope: bool, seed: int
) -> None:
    """What a filter gives at once is what the definition gives value by value."""
    cycle = 0 if cycle == 1 else cycle
    form = SmoothingForm(slope, slope and phi < 1, cycle)
    c = Constants(alpha, share * alpha if slope else 0.0, rest * (1 - alpha) if cycle else 0.0, phi if slope else 1.0)
    values = np.random.default_rng(seed).normal(50, 10, 40)
    found = smoothed_by(values, form, c)
    level, trend, seasons = found.start[0], found.start[1], list(found.start[2:])
    for t, value in enumerate(values):
        season = seasons[t % cycle] if cycle else 0.0
        error = value - (level + c.phi * trend + season)
        assert error == pytest.approx(found.errors[t], abs=1e-6)
        level += c.phi * trend + c.alpha * error
        trend = c.phi * trend + c.beta * error
        if cycle:
            seasons[t % cycle] += c.gamma * error
    levels, slopes, _ = found.states
    assert levels[-1] == pytest.approx(level, abs=1e-6)
    assert slopes[-1] == pytest.approx(trend, abs=1e-6)
    # and the beginning is the best there is: moving it a little makes no smaller square
    assert sum(found.start[2:]) == pytest.approx(0, abs=1e-8)


def test_a_line_with_seasons_is_forecast_exactly() -> None:
    t = np.arange(30.0)
    values = 20 + 0.5 * t + np.tile([3.0, -1, -2], 10)
    found = smooth(values, SmoothingForm(slope=True, cycle=3))
    ahead = np.arange(30.0, 36.0)
    assert found.forecast(6) == pytest.approx(20 + 0.5 * ahead + np.tile([3.0, -1, -2], 2), abs=1e-6)


def test_too_few_values_are_refused() -> None:
    with pytest.raises(TooShort):
        smooth(np.arange(20.0), SmoothingForm(slope=True, cycle=12))
    with pytest.raises(TooShort):
        smooth(np.arange(4.0), SmoothingForm())
    assert np.isfinite(smooth(np.array([1.0, 3, 2, 4, 3]), SmoothingForm()).aicc)

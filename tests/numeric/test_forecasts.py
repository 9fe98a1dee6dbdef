"""What comes next: the simple ways against statsmodels and by hand, and their bands by simulation."""

from __future__ import annotations

import math

import numpy as np
import pytest

from theoros.numeric.series.arima import Orders
from theoros.numeric.series.decomposition import NotPositive
from theoros.numeric.series.forecasts import by_arima, holdout_accuracy, line, line_design, naive, smoothing
from theoros.numeric.series.scales import LOG, PLAIN, ROOT, Negative, SeriesScale
from theoros.numeric.series.smoothing import SmoothingForm, TooShort
from theoros.study.entries import Study


@pytest.fixture(scope="module")
def visitors(demo: Study) -> np.ndarray:
    return demo.table("visits").numbers("visitors").astype(float)


def test_a_line_with_seasons_against_another_library(visitors) -> None:
    """statsmodels 0.15, OLS on time and eleven indicators of 96 months; get_prediction of 12 more."""
    found = line(visitors[:96], 12, 12)
    assert found.expected[[0, 6, 11]] == pytest.approx(
        [774.1517857142848, 1196.2767857142844, 832.7767857142849], rel=1e-12
    )
    low, high = found.band(0.95)
    assert low[[0, 6, 11]] == pytest.approx([702.590513043862, 1124.7155130438616, 761.2155130438621], rel=1e-10)
    assert high[[0, 6, 11]] == pytest.approx([845.7130583847076, 1267.8380583847072, 904.3380583847077], rel=1e-10)
    came = holdout_accuracy(found.median, found.band(0.95), visitors[96:])
    assert (came.mae, came.mape, came.n_covered) == (
        pytest.approx(36.397321428570585, rel=1e-10),
        pytest.approx(4.567179978043969, rel=1e-10),
        10,
    )
    assert came.errors == pytest.approx(visitors[96:] - found.expected)


def test_the_last_value_and_the_last_season_by_hand() -> None:
    values = np.array([3.0, 5, 4, 8])
    found = naive(values, 3)
    sigma = math.sqrt((4 + 1 + 16) / 3)
    assert found.expected.tolist() == [8, 8, 8]
    assert found.se == pytest.approx(sigma * np.sqrt([1, 2, 3]))
    quarters = np.array([10.0, 20, 30, 40, 12, 21, 33, 44])
    found = naive(quarters, 6, 4)
    assert found.expected.tolist() == [12, 21, 33, 44, 12, 21]
    sigma = math.sqrt((4 + 1 + 9 + 16) / 4)
    assert found.se == pytest.approx(sigma * np.sqrt([1, 1, 1, 1, 2, 2]))
    low, high = found.band(0.95)
    assert high[0] - low[0] == pytest.approx(2 * 1.959963984540054 * sigma)


def test_how_well_it_came_true() -> None:
    found = naive(np.array([3.0, 5, 4, 8]), 2)
    came = holdout_accuracy(found.median, found.band(0.95), np.array([9.0, 20.0]))
    assert came.errors.tolist() == [1, 12]
    assert (came.mae, came.mape) == (6.5, pytest.approx(100 * (1 / 9 + 12 / 20) / 2))
    assert came.n_covered == 1
    zero = holdout_accuracy(found.median, found.band(0.95), np.array([0.0, 9.0]))
    assert math.isnan(zero.mape)
    gap = holdout_accuracy(found.median, found.band(0.95), np.array([math.nan, 20.0]))
    assert (gap.n, gap.mae) == (1, 12)


@pytest.mark.parametrize("way", ["naive", "line", "smoothing"])
def test_a_band_holds_what_comes_as_often_as_it_says(way: str) -> None:
    """Series made as each way takes them to be: 95 % of what came 1 and 6 ahead lies in the band."""
    chance = np.random.default_rng(11)
    made, held = 150, np.zeros(6)
    for _ in range(made):
        shocks = chance.normal(0, 1, 86)
        if way == "naive":
            series = np.cumsum(shocks)
            found = naive(series[:80], 6)
        elif way == "line":
            series = 0.1 * np.arange(86) + np.resize([3.0, 0, -3, 1], 86) + shocks
            found = line(series[:80], 6, 4)
        else:
            series = np.concatenate([[0.0], 0.4 * np.cumsum(shocks)[:-1]]) + shocks
            found = smoothing(series[:80], 6, SmoothingForm())
        low, high = found.band(0.95)
        held += (low <= series[80:]) & (series[80:] <= high)
    # by the binomial law, 150 of 95 % lie between 135 and 149 in all but 1 of 1000 runs
    assert ((held >= 132) & (held <= 150)).all(), held


def test_smoothing_that_follows_nothing_is_a_line(visitors) -> None:
    """With constants of 0 the beginning is the line with its seasons, and so are the bands."""
    found, by_line = smoothing(visitors, 12, SmoothingForm(slope=True, cycle=12)), line(visitors, 12, 12)
    assert max(found.model.constants.alpha, found.model.constants.gamma) < 1e-5
    assert found.expected == pytest.approx(by_line.expected, rel=1e-4)
    # the line does not count the constants among what is fitted
    ratio = np.sqrt(by_line.df / found.df)
    assert found.se / ratio == pytest.approx(by_line.se, rel=1e-3)


def test_too_few_values_are_refused() -> None:
    for way in (naive, line):
        with pytest.raises(TooShort):
            way(np.arange(5.0), 3, 4)
    with pytest.raises(TooShort):
        by_arima(np.arange(20.0), 3, Orders(cycle=12))


def test_gaps_are_passed_over(visitors) -> None:
    holes = visitors.copy()
    holes[[30, 100]] = np.nan
    found = naive(holes, 12, 12)
    assert found.expected[4] == visitors[88]  # of the May before, as the last is missing
    # a line without two of its rows is the least-squares fit of the others
    at = np.isfinite(holes)
    design = line_design(120, 12)
    fit = np.linalg.lstsq(design[:108][at], holes[at], rcond=None)[0]
    assert line(holes, 12, 12).expected == pytest.approx(design[108:] @ fit)


@pytest.mark.parametrize("scale", [PLAIN, LOG, ROOT], ids=lambda scale: scale.name)
def test_a_scale_goes_to_and_fro(scale: SeriesScale) -> None:
    values = np.array([0.5, 3.0, 800.0])
    assert scale.back(scale.forward(values)) == pytest.approx(values, rel=1e-12)
    # the derivative by small steps
    step = 1e-6
    slope = (scale.forward(values + step) - scale.forward(values - step)) / (2 * step)
    assert scale.log_slopes(values) == pytest.approx(float(np.log(slope).sum()), abs=1e-5)


def test_what_has_no_logarithm_or_root_is_refused() -> None:
    with pytest.raises(NotPositive):
        LOG.forward(np.array([1.0, 0.0]))
    with pytest.raises(Negative):
        ROOT.forward(np.array([1.0, -0.1]))
    assert ROOT.back(np.array([-1.0, 0.3])).tolist() == [0.0, 0.0]


def test_simulated_bands_agree_with_the_formula_where_errors_are_normal(visitors) -> None:
    for found in (
        naive(visitors, 12, 12),
        line(visitors, 12, 12),
        smoothing(visitors, 12, SmoothingForm(cycle=12)),
        by_arima(visitors, 12, Orders(cycle=12)),
    ):
        drawn, formula = found.simulated_band(0.8, 7), found.band(0.8)
        for one, other in zip(drawn, formula, strict=True):
            assert np.abs(one - other).max() < 0.25 * found.se.max()
        again = found.simulated_band(0.8, 7)
        assert np.array_equal(drawn, again)

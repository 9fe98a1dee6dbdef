"""The parts of a series: against statsmodels, by hand, and by what must hold."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.numeric.series.decomposition import NotPositive, TooFewCycles, parts_by_means, suggests_multiplicative
from theoros.study.entries import Study

# statsmodels 0.15, seasonal_decompose: the first season's effects, and three residuals
ADDED = [
    -155.38628472222223,
    -150.49045138888886,
    -139.9644097222222,
    -61.802951388888864,
    76.06163194444449,
    207.5824652777778,
    253.7543402777778,
    224.97829861111114,
    86.44704861111109,
    -78.04253472222224,
    -139.0998263888889,
    -124.0373263888889,
]
TIMES = [
    0.7979944381682571,
    0.8066965122739501,
    0.8202239759901981,
    0.9219336557711393,
    1.0944533128842608,
    1.2626276681996509,
    1.3363872811596658,
    1.2961497012648582,
    1.1135671101007603,
    0.8979787178946778,
    0.8172518260514685,
    0.8347358002411129,
]


@pytest.fixture(scope="module")
def visitors(demo: Study) -> np.ndarray:
    return demo.table("visits").numbers("visitors").astype(float)


@pytest.mark.parametrize(
    ("multiplicative", "effects", "rest"),
    [
        (False, ADDED, [11.203993055555458, 5.672743055555571, 23.1675347222222]),
        (True, TIMES, [1.0654883453840738, 1.0069046192546685, 0.99432825927743]),
    ],
)
def test_against_another_library(visitors, multiplicative: bool, effects: list, rest: list) -> None:
    found = parts_by_means(visitors, 12, multiplicative=multiplicative)
    assert found.effects == pytest.approx(effects, rel=1e-12)
    assert found.left_over[[6, 50, 101]] == pytest.approx(rest, rel=1e-10)


def test_an_odd_cycle_and_a_cycle_that_is_cut(visitors) -> None:
    found = parts_by_means(visitors[:43], 7)
    assert found.effects == pytest.approx(
        [
            -11.853061224489768,
            -3.4530612244897663,
            -16.910204081632656,
            0.5231292517006731,
            15.142176870748264,
            11.089795918367354,
            5.461224489795899,
        ],
        rel=1e-11,
    )
    assert found.left_over[[3, 20, 39]] == pytest.approx(
        [-56.808843537414894, -4.175510204081564, -44.713605442176934], rel=1e-11
    )


def test_four_quarters_by_hand() -> None:
    """Sales 20, 30, 40, 10 and each year 4 more: the trend rises by 1, effects -5, 5, 15, -15."""
    pattern = np.array([20.0, 30, 40, 10])
    values = np.concatenate([pattern + 4 * year for year in range(4)])
    found = parts_by_means(values, 4)
    assert found.trend[2:6] == pytest.approx([25.5, 26.5, 27.5, 28.5])
    # 40 - 25.5 = 14.5 and so on; taken about their mean, which is 0
    assert found.effects == pytest.approx([-3.5, 5.5, 14.5, -16.5])
    assert found.left_over[2:14] == pytest.approx(np.zeros(12), abs=1e-12)
    assert found.strengths == pytest.approx((1.0, 1.0))
    assert not suggests_multiplicative(values, 4)


@given(st.integers(2, 13), st.integers(0, 2**31), st.booleans())
def test_the_parts_make_the_series(cycle: int, seed: int, multiplicative: bool) -> None:
    values = np.random.default_rng(seed).lognormal(3, 0.3, 4 * cycle + 1)
    found = parts_by_means(values, cycle, multiplicative=multiplicative)
    there = np.isfinite(found.trend)
    if multiplicative:
        again = found.trend * found.season * found.left_over
        assert found.effects.mean() == pytest.approx(1)
    else:
        again = found.trend + found.season + found.left_over
        assert found.effects.sum() == pytest.approx(0, abs=1e-9)
    assert again[there] == pytest.approx(values[there], rel=1e-12)
    assert all(0 <= strength <= 1 for strength in found.strengths)


def test_what_is_suggested_follows_how_the_series_was_made() -> None:
    chance = np.random.default_rng(5)
    level = np.linspace(50, 400, 96)
    wave = np.sin(np.arange(96) * np.pi / 6)
    times = level * (1 + 0.4 * wave) * chance.normal(1, 0.03, 96)
    added = level + 60 * wave + chance.normal(0, 8, 96)
    assert suggests_multiplicative(times, 12)
    assert not suggests_multiplicative(added, 12)
    assert not suggests_multiplicative(times - 100, 12)  # a value below 0 has no factor
    assert not suggests_multiplicative(times[:20], 12)


def test_what_cannot_be_taken_apart() -> None:
    with pytest.raises(TooFewCycles):
        parts_by_means(np.arange(23.0) + 1, 12)
    with pytest.raises(NotPositive):
        parts_by_means(np.arange(24.0), 12, multiplicative=True)

"""Moving averages."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.numeric.series.moving import moving_average


def test_a_centred_average_of_four_quarters() -> None:
    """By hand: (1/2·3 + 5 + 8 + 4 + 1/2·7) / 4 = 5.5."""
    found = moving_average(np.array([3.0, 5, 8, 4, 7, 9]), 4)
    assert found[2:4] == pytest.approx([5.5, (2.5 + 8 + 4 + 7 + 4.5) / 4])
    assert np.isnan(found[[0, 1, 4, 5]]).all()


@pytest.mark.parametrize("width", [1, 2, 3, 4, 7, 12, 13])
def test_a_line_is_its_own_average(width: int) -> None:
    line = 3.0 + 0.25 * np.arange(40)
    found = moving_average(line, width)
    half = width // 2
    assert found[half : 40 - half] == pytest.approx(line[half : 40 - half], rel=1e-14)
    assert np.isnan(found).sum() == 2 * half


@given(st.integers(2, 12), st.lists(st.floats(-1e6, 1e6), min_size=2, max_size=60))
def test_a_pattern_that_repeats_is_averaged_away(cycle: int, values: list[float]) -> None:
    pattern = np.resize(np.array(values), cycle)
    found = moving_average(np.tile(pattern, 4), cycle)
    there = found[np.isfinite(found)]
    assert there == pytest.approx(np.full(there.size, pattern.mean()), abs=1e-8)


def test_what_is_missing_or_too_short_gives_nothing() -> None:
    assert np.isnan(moving_average(np.arange(4.0), 5)).all()
    assert np.isnan(moving_average(np.arange(4.0), 4)).all()
    found = moving_average(np.array([1.0, 2, np.nan, 4, 5, 6, 7]), 3)
    assert found.tolist()[4:] == pytest.approx([5, 6, np.nan], nan_ok=True)
    assert np.isnan(found[:4]).all()
    # one value that is too large spoils its own neighbours alone
    large = moving_average(np.array([1e308, 1e308, 1e308, 1.0, 2.0, 3.0]), 3)
    assert large[4] == 2.0

"""Shuffles, replicates, bins and normality."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric.bins import bin_indices, default_width, order_within, round_step, ticks
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.normality import shapiro_wilk
from theoros.numeric.resampling.replicates import block_size, replicates
from theoros.numeric.resampling.shuffles import difference, shuffled_labels, shuffled_signs

X, Y = np.array([5.1, 6.2, 7.3, 4.4]), np.array([3.0, 4.1, 2.2])


def run(make, seed: int, wanted: int, size: int = 100) -> np.ndarray:
    return np.concatenate(list(replicates(make, seed, size, wanted)))


@given(st.integers(1, 900), st.integers(1, 900), st.integers(0, 2**31 - 1))
def test_asking_for_more_never_changes_the_first(a: int, b: int, seed: int) -> None:
    def make(rng: np.random.Generator, size: int) -> np.ndarray:
        return rng.random(size)

    few, many = sorted((a, b))
    assert np.array_equal(run(make, seed, few), run(make, seed, many)[:few])
    assert run(make, seed, few).size == few


@pytest.mark.parametrize("centre", ["mean", "median"])
def test_shuffled_labels_approach_every_arrangement(centre) -> None:
    pooled = np.concatenate([X, Y])
    exact = []
    for first in itertools.combinations(range(7), 4):
        rest = [i for i in range(7) if i not in first]
        exact.append(difference(pooled[list(first)], pooled[rest], centre))
    seen = difference(X, Y, centre)
    made = run(shuffled_labels(X, Y, centre), 11, 20_000, 500)
    for claim in ("less", "greater", "different"):
        p = Pile(np.array(exact)).tail(claim, seen)
        # four standard errors of 20 000 replicates
        assert Pile(made).tail(claim, seen) == pytest.approx(p, abs=4 * 0.5 / 20_000**0.5)
    # every replicate is one of the arrangements there are
    assert np.abs(made[:200, None] - np.array(exact)).min(axis=1).max() < 1e-9


def test_shuffled_signs_approach_every_sign() -> None:
    gaps = np.array([1.0, 2.5, -0.5, 3.0, 1.2])
    exact = [np.mean(gaps * s) for s in itertools.product([-1, 1], repeat=5)]
    made = run(shuffled_signs(gaps, "mean"), 3, 20_000, 500)
    p = Pile(np.array(exact)).tail("greater", gaps.mean())
    assert Pile(made).tail("greater", gaps.mean()) == pytest.approx(p, abs=0.015)


def test_blocks_stay_small() -> None:
    assert block_size(10) == 500
    assert block_size(200_000) == 2
    assert block_size(10_000_000) == 1


def test_shapiro_wilk_is_scipys_where_it_is_defined() -> None:
    values = np.random.default_rng(1).exponential(size=30)
    assert shapiro_wilk(values) == pytest.approx(stats.shapiro(values).pvalue)
    assert shapiro_wilk(values[:2]) is None
    assert shapiro_wilk(np.full(10, 3.3)) is None
    assert shapiro_wilk(np.arange(5001.0)) is None


@given(st.floats(1e-12, 1e12))
def test_round_steps_are_one_two_or_five(rough: float) -> None:
    step = round_step(rough)
    # 1, 2 and 5 serve up to 1.4 times themselves, so that 5 begins at 2.8
    assert 1 / 1.4 - 1e-9 <= step / rough <= 5 / 2.8 * (1 + 1e-9)
    mantissa = float(f"{step:e}".split("e")[0])
    assert mantissa in (1.0, 2.0, 5.0)


@given(st.floats(-1e6, 1e6), st.floats(1e-3, 1e6), st.integers(2, 12))
def test_ticks_lie_within_and_are_even(low: float, width: float, about: int) -> None:
    made = ticks(low, low + width, about)
    assert made.size <= 2.6 * about + 2
    assert np.all((made >= low - 1e-9 * width) & (made <= low + width * (1 + 1e-9)))
    if made.size > 2:
        assert np.allclose(np.diff(made), np.diff(made)[0])


def test_ticks_carry_no_binary_noise() -> None:
    assert ticks(0, 0.8, 8).tolist() == [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8]


@given(st.lists(st.integers(-500, 500), min_size=1, max_size=50), st.sampled_from([0.1, 0.5, 2]))
def test_a_value_lies_in_its_bin(values: list[int], width: float) -> None:
    data = np.array(values) * 0.1
    bins = bin_indices(data, width, -3.0)
    left = -3.0 + bins * width
    assert np.all((data >= left - 1e-6) & (data < left + width + 1e-6))


def test_a_value_on_an_edge_opens_the_next_bin() -> None:
    assert bin_indices(np.array([0.1, 0.2, 0.3, 0.7]), 0.1, 0.0).tolist() == [1, 2, 3, 7]


def test_order_within_groups() -> None:
    assert order_within(np.array([2, 1, 2, 2, 1])).tolist() == [0, 0, 1, 2, 1]
    assert order_within(np.array([], dtype=np.int64)).size == 0


def test_default_width_of_awkward_values() -> None:
    assert default_width(np.array([])) > 0
    assert default_width(np.full(5, 3.0)) > 0
    assert default_width(np.array([1e-300, 2e-300, 3e-300])) > 0
    assert np.isfinite(default_width(np.array([-1e308, 1e308])))

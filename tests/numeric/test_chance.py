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
from theoros.numeric.resampling.replicates import Replicates, block_size
from theoros.numeric.resampling.shuffles import dealt, dealt_places, difference, shuffled_labels, shuffled_signs

X, Y = np.array([5.1, 6.2, 7.3, 4.4]), np.array([3.0, 4.1, 2.2])


def run(make, seed: int, wanted: int, size: int = 100) -> np.ndarray:
    return Replicates(make, seed, size).drawn(wanted)


@given(st.integers(1, 900), st.integers(1, 900), st.integers(0, 2**31 - 1))
def test_asking_for_more_never_changes_the_first(a: int, b: int, seed: int) -> None:
    def make(rng: np.random.Generator, size: int) -> np.ndarray:
        return rng.random(size)

    few, many = sorted((a, b))
    assert np.array_equal(run(make, seed, few), run(make, seed, many)[:few])
    assert run(make, seed, few).size == few


def welch(x: np.ndarray, y: np.ndarray) -> float:
    return float(stats.ttest_ind(x, y, equal_var=False).statistic)


@pytest.mark.parametrize("offset", [0.0, 1e7])
@pytest.mark.parametrize("centre", ["mean", "median"])
def test_shuffled_labels_are_all_arrangements_or_draws_from_them(centre, offset) -> None:
    """Means are compared by the t of Welch (SciPy's), medians by their difference."""
    x, y = X + offset, Y + offset
    pooled = np.concatenate([x, y])
    exact = []
    for first in itertools.combinations(range(7), 4):
        rest = [i for i in range(7) if i not in first]
        one, two = pooled[list(first)], pooled[rest]
        exact.append(welch(one, two) if centre == "mean" else difference(one, two, "median"))
    shuffle = shuffled_labels(x, y, centre)
    every = np.concatenate(list(shuffle.every()))
    assert shuffle.ways == every.size == 35
    assert np.sort(every) == pytest.approx(np.sort(exact), abs=1e-6)
    assert shuffle.observed == pytest.approx(exact[0], abs=1e-6)
    made = run(shuffle.make, 11, 20_000, 500)
    for claim in ("less", "greater", "different"):
        p = Pile(every, resolution=shuffle.resolution).tail(claim, shuffle.observed)
        # five standard errors of 20 000 replicates
        error = 5 * (p * (1 - p) / 20_000) ** 0.5
        drawn = Pile(made, resolution=shuffle.resolution).tail(claim, shuffle.observed)
        assert drawn == pytest.approx(p, abs=error)
    # every replicate is one of the arrangements there are
    assert np.abs(made[:200, None] - every).min(axis=1).max() < 1e-6


def test_ties_hold_at_any_offset() -> None:
    """Values with many ties: the p-value does not change when all are moved."""
    x, y = np.array([1.1, 2.1, 2.1, 3.1]), np.array([1.1, 1.1, 2.1, 4.1])
    for centre in ("mean", "median"):
        found = []
        for offset in (0.0, 1e3, 1e7):
            shuffle = shuffled_labels(x + offset, y + offset, centre)
            pile = Pile(np.concatenate(list(shuffle.every())), resolution=shuffle.resolution)
            found.append(pile.tail("different", shuffle.observed))
        assert found == [found[0]] * 3


def test_groups_that_do_not_spread_are_the_farthest_apart() -> None:
    x, y = np.array([1.0, 1, 1]), np.array([2.0, 2, 2])
    shuffle = shuffled_labels(x, y, "mean")
    every = np.concatenate(list(shuffle.every()))
    assert np.isfinite(every).all()
    assert shuffle.observed == every.min()
    assert Pile(every).tail("different", shuffle.observed) == pytest.approx(2 / 20)


def test_shuffled_signs_are_every_sign_or_draws_from_them() -> None:
    gaps = np.array([1.0, 2.5, -0.5, 3.0, 1.2])
    exact = [np.mean(gaps * s) for s in itertools.product([-1, 1], repeat=5)]
    shuffle = shuffled_signs(gaps, "mean")
    every = np.concatenate(list(shuffle.every()))
    assert np.sort(every) == pytest.approx(np.sort(exact))
    made = run(shuffle.make, 3, 20_000, 500)
    p = Pile(every).tail("greater", shuffle.observed)
    assert p == 2 / 32  # 1.0 + 2.5 ± 0.5 + 3.0 + 1.2
    assert Pile(made).tail("greater", shuffle.observed) == pytest.approx(p, abs=0.009)


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


@given(st.integers(1, 60), st.integers(0, 60), st.integers(0, 1000))
def test_dealt_values_are_all_there_in_another_order(n: int, first: int, seed: int) -> None:
    values = np.arange(n, dtype=float)
    rows = dealt(np.random.default_rng(seed), values, 4)
    assert np.array_equal(np.sort(rows, axis=1), np.tile(values, (4, 1)))
    assert np.array_equal(dealt(np.random.default_rng(seed), values, 4, first), rows[:, :first])


def test_every_order_of_dealt_values_is_as_likely_as_any_other() -> None:
    rows = dealt(np.random.default_rng(5), np.arange(4.0), 24_000)
    _, counts = np.unique(rows @ np.array([64, 16, 4, 1]), return_counts=True)
    assert counts.size == 24
    assert stats.chisquare(counts).pvalue > 0.001


def test_dealing_by_short_keys_gives_orders_alone_and_every_place_as_often() -> None:
    """Of 512 places one row in sixty has equal keys and is drawn anew."""
    for n in (1, 2, 7, 512, 513):
        rows = dealt_places(np.random.default_rng(9), n, 3000)
        assert (np.sort(rows, axis=1) == np.arange(n)).all()
        if n > 2:
            where = (rows == 0).argmax(axis=1)
            seen = np.histogram(where, bins=min(n, 8), range=(0, n))[0]
            expected = np.histogram(np.arange(n), bins=min(n, 8), range=(0, n))[0] * 3000 / n
            assert stats.chisquare(seen, expected).pvalue > 0.001

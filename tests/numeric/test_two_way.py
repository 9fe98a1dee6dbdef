"""Two-way analysis of variance, against a published table and fits to the values themselves."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.two_way import EmptyCell, two_way

TEETH = np.array(
    [
        [4.2, 11.5, 7.3, 5.8, 6.4, 10.0, 11.2, 11.2, 5.2, 7.0],
        [16.5, 16.5, 15.2, 17.3, 22.5, 17.3, 13.6, 14.5, 18.8, 15.5],
        [23.6, 18.5, 33.9, 25.5, 26.4, 32.5, 26.7, 21.5, 23.3, 29.5],
        [15.2, 21.5, 17.6, 9.7, 14.5, 10.0, 8.2, 9.4, 16.5, 9.7],
        [19.7, 23.3, 23.6, 26.4, 20.0, 25.2, 25.8, 21.2, 14.5, 27.3],
        [25.5, 26.4, 22.4, 24.5, 24.8, 30.9, 26.4, 27.3, 29.4, 23.0],
    ]
)
"""Crampton 1947: growth of teeth by two kinds of vitamin C (3 rows each) in three doses."""
FIRST, SECOND = np.repeat([0, 1], 30), np.tile(np.repeat([0, 1, 2], 10), 2)


@pytest.mark.parametrize("sums", ["I", "II", "III"])
def test_a_published_balanced_table(sums) -> None:
    """Sums of squares 205.35, 2426.43, 108.32, 712.11; F 15.572, 92.000, 4.107."""
    found = two_way(TEETH.ravel(), FIRST, SECOND, (2, 3), sums)
    told = [found.first, found.second, found.interaction, found.error]
    assert [round(one.ss, 2) for one in told] == [205.35, 2426.43, 108.32, 712.11]
    assert [one.df for one in told] == [1, 2, 2, 54]
    assert [round(found.f(one), 3) for one in told[:3]] == [15.572, 92.0, 4.107]
    assert round(found.p(found.interaction), 5) == 0.02186
    assert round(found.p(found.first), 7) == 0.0002312
    assert found.balanced


def by_rows(values, *columns) -> float:
    """What a least-squares fit to the values leaves."""
    design = np.column_stack([np.ones(values.size), *columns])
    return float(((values - design @ np.linalg.lstsq(design, values, rcond=None)[0]) ** 2).sum())


def dummies(codes, levels, base=0):
    return np.eye(levels)[codes][:, 1:] - (codes == 0)[:, None] * base


def unbalanced(seed: int, shape=(3, 4)):
    rng = np.random.default_rng(seed)
    first = np.concatenate([np.repeat(np.arange(shape[0]), shape[1]), rng.integers(0, shape[0], 40)])
    second = np.concatenate([np.tile(np.arange(shape[1]), shape[0]), rng.integers(0, shape[1], 40)])
    return rng.normal(10, 2, first.size) + first - second, first, second


@given(st.integers(0, 10_000))
def test_unbalanced_tables_are_differences_of_fits_to_the_values(seed: int) -> None:
    values, first, second = unbalanced(seed)
    a, b = dummies(first, 3), dummies(second, 4)
    ab = (a[:, :, None] * b[:, None, :]).reshape(values.size, -1)
    both, full = by_rows(values, a, b), by_rows(values, a, b, ab)
    two = two_way(values, first, second, (3, 4), "II")
    assert two.first.ss == pytest.approx(by_rows(values, b) - both, rel=1e-8)
    assert two.second.ss == pytest.approx(by_rows(values, a) - both, rel=1e-8)
    assert two.interaction.ss == pytest.approx(both - full, rel=1e-8)
    assert two.error.ss == pytest.approx(full, rel=1e-9)
    one = two_way(values, first, second, (3, 4), "I")
    assert one.first.ss == pytest.approx(by_rows(values) - by_rows(values, a), rel=1e-8)
    between = one.first.ss + one.second.ss + one.interaction.ss
    assert between + one.error.ss == pytest.approx(one.total, rel=1e-10)
    a, b = dummies(first, 3, 1), dummies(second, 4, 1)
    ab = (a[:, :, None] * b[:, None, :]).reshape(values.size, -1)
    three = two_way(values, first, second, (3, 4), "III")
    assert three.first.ss == pytest.approx(by_rows(values, b, ab) - full, rel=1e-7)


def test_two_by_two_interaction_is_a_t_test_of_the_cells() -> None:
    """With as many values in each cell, its F is the square of t of the contrast of means."""
    rng = np.random.default_rng(3)
    cells = rng.normal(5, 1, (4, 8))
    found = two_way(cells.ravel(), np.repeat([0, 1], 16), np.tile(np.repeat([0, 1], 8), 2), (2, 2))
    contrast = cells.mean(axis=1) @ [1, -1, -1, 1]
    t = contrast / np.sqrt(cells.var(axis=1, ddof=1).mean() * 4 / 8)
    assert found.f(found.interaction) == pytest.approx(t**2, rel=1e-10)
    assert found.p(found.interaction) == pytest.approx(2 * stats.t.sf(abs(t), 28), rel=1e-10)


def test_what_cannot_be_worked_out() -> None:
    one, two = np.array([0, 0, 1, 1, 1]), np.array([0, 1, 0, 1, 1])
    with pytest.raises(EmptyCell) as empty:
        two_way(np.arange(3.0), np.array([0, 1, 1]), np.array([0, 0, 1]), (2, 2))
    assert (empty.value.first, empty.value.second) == (0, 1)
    with pytest.raises(TooFewValues):
        two_way(np.arange(4.0), one[:4], two[:4], (2, 2))
    with pytest.raises(NoSpread):
        two_way(np.array([1.0, 2, 3, 4, 4]), one, two, (2, 2))

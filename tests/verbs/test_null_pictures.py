"""Pictures of chance: bars that tell the truth about a distribution and its tail."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.picture import Bars, Line, Under
from theoros.numeric.rank_tests import rank_sum
from theoros.numeric.shuffles import as_far
from theoros.verbs.test.null_pictures import (
    curve_frame,
    density,
    exact_frame,
    lattice_step,
    replicates_frame,
)


def bars(frame) -> Bars:
    (layer,) = frame.panels[0].lanes[0].layers
    return layer


def areas(layer: Bars) -> np.ndarray:
    return layer.heights * (layer.right - layer.left)


def test_the_curve_is_students() -> None:
    from scipy import stats

    at = np.linspace(-5, 5, 41)
    assert density(7.3, at) == pytest.approx(stats.t.pdf(at, 7.3), rel=1e-12)
    assert density(None, at) == pytest.approx(stats.norm.pdf(at), rel=1e-12)


@pytest.mark.parametrize(("claim", "tails"), [("less", 1), ("greater", 1), ("different", 2)])
def test_the_tail_shaded_is_the_one_claimed(claim: str, tails: int) -> None:
    layers = curve_frame("t", 9.0, 1.3, claim, "t = 1.3").panels[0].lanes[0].layers
    shaded = [layer for layer in layers if isinstance(layer, Under)]
    assert len(shaded) == tails
    assert sum(isinstance(layer, Line) for layer in layers) == 1
    for layer in shaded:
        inside = layer.x.max() if claim == "less" else np.abs(layer.x).min()
        assert abs(inside) == pytest.approx(1.3)


@pytest.mark.parametrize("claim", ["less", "greater", "different"])
@pytest.mark.parametrize("ties", [False, True])
def test_exact_bars_hold_the_p_value(claim: str, ties: bool) -> None:
    x = np.array([3.0, 5, 8, 9, 12]) if not ties else np.array([3.0, 5, 5, 9, 12])
    y = np.array([1.0, 2, 4, 6, 7, 10]) if not ties else np.array([1.0, 2, 5, 5, 7, 9])
    found = rank_sum(x, y, 0, claim)
    layer = bars(exact_frame(found.null, "U", found.statistic, claim, "U"))
    assert areas(layer).sum() == pytest.approx(1, abs=1e-3)  # but for ends too small to draw
    if not (ties and claim == "different"):  # two tails of unequal size show the same distance
        assert areas(layer)[layer.counted].sum() == pytest.approx(found.p, abs=1e-3)


@given(st.integers(0, 10_000), st.sampled_from(["less", "greater", "different"]), st.booleans())
def test_replicate_bars_hold_the_share_as_far_out(seed: int, claim: str, whole: bool) -> None:
    rng = np.random.default_rng(seed)
    null = rng.normal(0, 3, 800)
    if whole:
        null = np.round(null) / 12
    seen = float(null[0])
    layer = bars(replicates_frame(null, seen, claim, "d", "", "t"))
    assert areas(layer).sum() == pytest.approx(1, rel=1e-9)
    share = as_far(null, seen, claim).mean()
    assert areas(layer)[layer.counted].sum() == pytest.approx(share, abs=1e-9)


def test_a_grid_of_values_gives_no_comb() -> None:
    """Sums of 24 fair signs over 24 lie on a grid: neighbouring bars near the middle are alike."""
    rng = np.random.default_rng(5)
    null = rng.choice([-1.0, 1.0], size=(40_000, 24)).sum(axis=1) / 24
    assert lattice_step(null) == pytest.approx(2 / 24)
    layer = bars(replicates_frame(null, 0.5, "greater", "d", "", "t"))
    middles = (layer.left + layer.right) / 2
    near = layer.heights[np.abs(middles) < 0.1]
    assert near.min() > 0.75 * near.max()
    assert lattice_step(rng.normal(size=500)) == 0
    assert lattice_step(np.zeros(5)) == 0

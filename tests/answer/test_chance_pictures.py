"""Pictures of chance: what is shaded is the region whose probability is told."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.chance_pictures import chance_frame, lattice_step
from theoros.answer.layers.bars import Bars
from theoros.answer.layers.lines import Line, Under
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.distribution import Distribution
from theoros.numeric.distributions.lattice import Lattice, Pile
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.ranks import rank_sum, signed_rank

CLAIMS = ["less", "greater", "different"]
X = np.array([3.0, 5, 5, 9, 12])
Y = np.array([1.0, 2, 5, 5, 7, 9])
RNG = np.random.default_rng(4)
SHOWN: dict[str, tuple[Distribution, float]] = {
    "normal": (Normal(), 1.3),
    "normal of its own": (Normal(50.0, 4.0), 44.0),
    "t": (StudentT(9.0), -1.7),
    "t with few degrees of freedom": (StudentT(1.0), 2.5),
    "binomial": (Binomial(12, 0.85), 8.0),
    "binomial, large": (Binomial(4000, 0.02), 95.0),
    "rank sum with ties": (rank_sum(X, Y).null, rank_sum(X, Y).statistic),
    "rank sum without": (rank_sum(X + 0.1, Y * 1.01).null, 19.0),
    "signed rank": (signed_rank(X - Y[:5] + 0.3).null, 12.0),
    "lopsided": (Lattice(np.array([0.0, 1, 2, 10]), np.array([0.4, 0.3, 0.2, 0.1])), 10.0),
    "pile": (Pile(RNG.normal(0, 3, 900)), 2.2),
    "pile on a grid": (Pile(np.round(RNG.normal(0, 3, 900)) / 12), 0.25),
}


def shaded(distribution: Distribution, alternative, seen: float) -> tuple[float, float]:
    """The area that is shaded and the whole area that is drawn."""
    region = distribution.region(alternative, seen)
    frame = chance_frame(distribution, region, seen)
    layers = frame.panels[0].lanes[0].layers
    if not distribution.discrete:
        (curve,) = (layer for layer in layers if isinstance(layer, Line))
        parts = [layer for layer in layers if isinstance(layer, Under)]
        return sum(np.trapezoid(p.y, p.x) for p in parts), np.trapezoid(curve.y, curve.x)
    (bars,) = layers
    areas = bars.heights * (bars.right - bars.left)
    return float(areas[bars.counted].sum()), float(areas.sum())


@pytest.mark.parametrize("alternative", CLAIMS)
@pytest.mark.parametrize("name", list(SHOWN))
def test_the_shaded_area_is_p(name: str, alternative) -> None:
    """For every kind of distribution; what lies beyond the picture is left out of both."""
    distribution, seen = SHOWN[name]
    area, whole = shaded(distribution, alternative, seen)
    p = distribution.tail(alternative, seen)
    beyond = 1 - whole  # tails of a curve off the picture, masses that no bar could be seen for
    assert -1e-6 <= beyond < (0.17 if name.startswith("t with few") else 4e-3)
    assert area == pytest.approx(p, abs=beyond + 2e-4)


@given(st.integers(0, 10_000), st.sampled_from(CLAIMS), st.booleans())
def test_the_bars_of_a_pile_hold_exactly_its_share(seed: int, alternative, whole: bool) -> None:
    null = np.random.default_rng(seed).normal(0, 3, 800)
    null = np.round(null) / 12 if whole else null
    pile, seen = Pile(null), float(null[0])
    area, everything = shaded(pile, alternative, seen)
    assert everything == pytest.approx(1, rel=1e-9)
    extreme = {"less": null <= seen, "greater": null >= seen, "different": np.abs(null) >= abs(seen)}
    assert pile.tail(alternative, seen) == extreme[alternative].mean()
    assert area == pytest.approx(extreme[alternative].mean(), abs=1e-9)


def test_a_grid_of_values_gives_no_comb() -> None:
    """Sums of 24 fair signs over 24 lie on a grid: neighbouring bars near the middle are alike."""
    rng = np.random.default_rng(5)
    null = rng.choice([-1.0, 1.0], size=(40_000, 24)).sum(axis=1) / 24
    assert lattice_step(null) == pytest.approx(2 / 24)
    pile = Pile(null)
    frame = chance_frame(pile, pile.region("greater", 0.5), 0.5)
    (layer,) = frame.panels[0].lanes[0].layers
    assert isinstance(layer, Bars)
    middles = (layer.left + layer.right) / 2
    near = layer.heights[np.abs(middles) < 0.1]
    assert near.min() > 0.75 * near.max()
    assert lattice_step(rng.normal(size=500)) == 0
    assert lattice_step(np.zeros(5)) == 0


def test_a_value_far_off_is_marked_at_the_edge() -> None:
    frame = chance_frame(StudentT(9), StudentT(9).region("greater", 40.0), 40.0, observed_text="t = 40")
    assert frame.x.high == 9.0
    assert frame.rules[0].x == 9.0
    assert frame.rules[0].label == "observed: t = 40 →"

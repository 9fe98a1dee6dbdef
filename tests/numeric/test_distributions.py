"""Distributions against SciPy, mpmath-free identities, and the laws that all of them obey."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.lattice import Lattice, Pile
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT

DICE = Lattice(np.arange(1.0, 7), np.full(6, 1 / 6))
PILE = Pile(np.array([3.0, -1, 0, 0, 2, -3, 5]))
EVERY: dict[str, Distribution] = {
    "normal": Normal(3.0, 2.0),
    "t": StudentT(7.5),
    "binomial": Binomial(20, 0.3),
    "lattice": DICE,
    "pile": PILE,
}


@pytest.mark.parametrize(
    ("ours", "ref", "at"),
    [
        (Normal(), stats.norm(), np.linspace(-9, 9, 25)),
        (Normal(50, 4), stats.norm(50, 4), np.linspace(20, 80, 25)),
        (StudentT(1), stats.t(1), np.linspace(-40, 40, 25)),
        (StudentT(12.6), stats.t(12.6), np.linspace(-9, 9, 25)),
        (Binomial(12, 0.85), stats.binom(12, 0.85), np.arange(13.0)),
        (Binomial(10_000, 0.001), stats.binom(10_000, 0.001), np.arange(0.0, 60)),
        (Binomial(5, 0.0), stats.binom(5, 0.0), np.arange(6.0)),
        (Binomial(5, 1.0), stats.binom(5, 1.0), np.arange(6.0)),
    ],
)
def test_against_scipy(ours: Distribution, ref, at: np.ndarray) -> None:
    heights = ref.pmf(at) if ours.discrete else ref.pdf(at)
    assert ours.height(at) == pytest.approx(heights, rel=1e-10, abs=1e-300)
    assert ours.cdf(at) == pytest.approx(ref.cdf(at), rel=1e-10, abs=1e-300)
    assert ours.sf(at) == pytest.approx(ref.sf(at), rel=1e-10, abs=1e-300)
    p = np.array([0.001, 0.3, 0.5, 0.975])
    assert ours.quantile(p) == pytest.approx(ref.ppf(p), rel=1e-9)
    if ours.mean == ours.mean:
        assert ours.mean == pytest.approx(ref.mean())
        assert ours.sd == pytest.approx(ref.std())


def test_the_two_sided_binomial_is_that_of_exact_tests() -> None:
    """`scipy.stats.binomtest` adds up all values at most as likely as the one seen."""
    for n, p in ((12, 0.3), (25, 0.5), (40, 0.85), (7, 0.05)):
        for k in range(n + 1):
            mine = Binomial(n, p).tail("different", k)
            assert mine == pytest.approx(stats.binomtest(k, n, p).pvalue, rel=1e-9), (n, p, k)


@pytest.mark.parametrize("alternative", ["less", "greater", "different"])
@pytest.mark.parametrize("name", list(EVERY))
def test_the_p_value_is_the_probability_of_the_region(name: str, alternative) -> None:
    """Added up over a grid or over all values, by the heights alone."""
    d = EVERY[name]
    for seen in (-1.0, 2.0, 3.0, 5.0):
        region = d.region(alternative, seen)
        if d.discrete:
            values = np.unique(np.concatenate([np.arange(0.0, 21), PILE.replicates]))
            added = float(d.height(values)[region.holds(values)].sum())
        else:
            at = np.linspace(-400, 400, 2_000_001)
            added = float(np.trapezoid(np.where(region.holds(at), d.height(at), 0.0), at))
        assert d.tail(alternative, seen) == pytest.approx(min(1.0, added), abs=1e-3)
        assert d.probability(region) == d.tail(alternative, seen)


@given(st.floats(0.0005, 0.9995), st.sampled_from(list(EVERY)))
def test_a_quantile_undoes_the_cumulative(p: float, name: str) -> None:
    d = EVERY[name]
    value = float(d.quantile(p))
    assert float(d.cdf(value)) >= p - 1e-9
    if d.discrete:
        below = np.nextafter(value, -math.inf)
        assert float(d.cdf(below)) <= p + 1e-9  # no lesser value would do
    else:
        assert float(d.cdf(value)) == pytest.approx(p, rel=1e-8)


@given(st.floats(-20, 40), st.sampled_from(list(EVERY)))
def test_cumulative_and_survival_make_one(at: float, name: str) -> None:
    d = EVERY[name]
    assert float(d.cdf(at)) + float(d.sf(at)) == pytest.approx(1, abs=1e-12)


@pytest.mark.parametrize("name", list(EVERY))
def test_draws_follow_the_distribution(name: str) -> None:
    d = EVERY[name]
    made = d.draws(np.random.default_rng(2), 40_000)
    spread = d.sd if name != "pile" else float(PILE.replicates.std())
    assert made.mean() == pytest.approx(d.mean, abs=5 * spread / 200)
    assert made.std() == pytest.approx(spread, rel=0.05)


def test_small_tails_keep_their_digits() -> None:
    assert Normal().tail("greater", 30.0) == pytest.approx(4.906713927148187e-198, rel=1e-12)
    assert Binomial(1000, 0.5).tail("greater", 1000.0) == pytest.approx(2.0**-1000, rel=1e-10)


def test_regions() -> None:
    assert Normal().region("different", 0.0).parts == ((-math.inf, math.inf),)
    assert Normal(10, 1).region("different", 12.0).parts == ((-math.inf, 8.0), (12.0, math.inf))
    region = Region(((2.0, 3.0), (5.0, math.inf)))
    assert region.holds(np.array([1.0, 2, 3, 4, 5, 9])).tolist() == [False, True, True, False, True, True]
    # decimal ties that differ as binary floats count as equal
    ties = Pile(np.array([0.1 + 0.2, 0.3, -0.3, 0.0]))
    assert ties.counted(ties.region("greater", 0.3)) == 2
    assert ties.counted(ties.region("different", 0.1 + 0.2)) == 3


@pytest.mark.parametrize(
    "make",
    [
        lambda: Normal(0.0, 0.0),
        lambda: Normal(math.inf),
        lambda: StudentT(0.0),
        lambda: Binomial(-1, 0.5),
        lambda: Binomial(3, 1.2),
        lambda: Lattice(np.array([1.0, 1.0]), np.array([0.5, 0.5])),
        lambda: Lattice(np.array([1.0, 2.0]), np.array([0.5, 0.6])),
        lambda: Pile(np.zeros(0)),
    ],
)
def test_parameters_out_of_range_are_refused(make) -> None:
    with pytest.raises(ValueError, match=r"must|needs|cannot"):
        make()

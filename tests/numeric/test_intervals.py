"""Intervals against SciPy, published numbers and exact chances."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy import stats
from scipy.stats._resampling import BootstrapResult

from theoros.numeric.procedures.means import TooFewValues
from theoros.numeric.procedures.order_statistics import highest_level, quantile_interval
from theoros.numeric.procedures.proportion_intervals import (
    agresti_caffo_interval,
    agresti_coull_interval,
    log_odds_error,
    log_risk_error,
    newcombe_interval,
    normal_interval,
    plus_four_interval,
)
from theoros.numeric.resampling.bootstrap import (
    corrected,
    cut_off,
    drawn_places,
    left_out,
    places_of,
    resampled,
    resamples,
    row_means,
    row_variances,
)
from theoros.numeric.resampling.replicates import Replicates, block_size

counts = st.integers(1, 80).flatmap(lambda n: st.tuples(st.integers(0, n), st.just(n)))
levels = st.sampled_from([0.8, 0.9, 0.95, 0.99])


@given(counts, levels)
def test_one_proportion_beside_wilson(of: tuple[int, int], level: float) -> None:
    """Agresti and Coull 1998: the middle is that of Wilson's interval, which lies within."""
    x, n = of
    wilson = stats.binomtest(x, n).proportion_ci(level, method="wilson")
    low, high = agresti_coull_interval(x, n, level)
    inside = low if x == 0 else high if x == n else None  # SciPy cuts Wilson's ends there
    if inside is None:
        assert (low + high) / 2 == pytest.approx((wilson.low + wilson.high) / 2, rel=1e-9)
    assert low <= wilson.low + 1e-9
    assert wilson.high - 1e-9 <= high
    assert plus_four_interval(x, n, level) == normal_interval(x + 2, n + 4, level)


@given(counts, levels)
def test_the_normal_interval_by_its_formula(of: tuple[int, int], level: float) -> None:
    x, n = of
    law = stats.norm(x / n, np.sqrt(x / n * (1 - x / n) / n) or 1e-300)
    assert normal_interval(x, n, level) == pytest.approx(law.interval(level), rel=1e-9, abs=1e-12)


@pytest.mark.parametrize(
    ("cells", "ends"),
    # Newcombe, "Interval estimation for the difference between independent proportions",
    # Statistics in Medicine 17 (1998), table II, method 10
    [
        ((56, 70, 48, 80), (0.0524, 0.3339)),
        ((9, 10, 3, 10), (0.1705, 0.8090)),
        ((6, 7, 2, 7), (0.0582, 0.8062)),
        ((5, 56, 0, 29), (-0.0381, 0.1926)),
        ((0, 10, 0, 20), (-0.1611, 0.2775)),
        ((0, 10, 0, 10), (-0.2775, 0.2775)),
        ((10, 10, 0, 20), (0.6791, 1.0)),
        ((10, 10, 0, 10), (0.6075, 1.0)),
    ],
)
def test_two_proportions_as_newcombe_has_them(cells, ends) -> None:
    assert newcombe_interval(*cells, 0.95) == pytest.approx(ends, abs=5e-5)


@given(counts, counts, levels)
def test_agresti_and_caffo_by_the_formula(one: tuple[int, int], two: tuple[int, int], level: float) -> None:
    (a, n1), (b, n2) = one, two
    p, q = (a + 1) / (n1 + 2), (b + 1) / (n2 + 2)
    law = stats.norm(p - q, np.sqrt(p * (1 - p) / (n1 + 2) + q * (1 - q) / (n2 + 2)))
    found = agresti_caffo_interval(a, n1, b, n2, level)
    assert found == pytest.approx(law.interval(level), rel=1e-9, abs=1e-12)


@given(st.lists(st.integers(1, 60), min_size=4, max_size=4), levels)
def test_ratios_against_scipy(cells: list[int], level: float) -> None:
    a, b, c, d = cells
    reach = stats.norm.isf((1 - level) / 2)
    odds = stats.contingency.odds_ratio([[a, b], [c, d]], kind="sample")
    expected = tuple(odds.confidence_interval(level))
    error = log_odds_error(a, a + b, c, c + d)
    ends = [a * d / (b * c) * np.exp(sign * reach * error) for sign in (-1, 1)]
    assert ends == pytest.approx(expected, rel=1e-9)
    risk = stats.contingency.relative_risk(a, a + b, c, c + d)
    expected = tuple(risk.confidence_interval(level))
    error = log_risk_error(a, a + b, c, c + d)
    ends = [risk.relative_risk * np.exp(sign * reach * error) for sign in (-1, 1)]
    assert ends == pytest.approx(expected, rel=1e-9)


@given(
    st.lists(st.integers(-50, 50), min_size=1, max_size=60, unique=True), levels, st.sampled_from([0.1, 0.25, 0.5, 0.9])
)
def test_quantiles_against_scipy(values: list[int], level: float, share: float) -> None:
    data = np.array(values, dtype=float)
    expected = stats.quantile_test(data, p=share).confidence_interval(level)
    try:
        found = quantile_interval(data, share, level)
    except TooFewValues:
        assert np.isnan([expected.low, expected.high]).any()
        return
    assert (found.low, found.high) == (expected.low, expected.high)
    law = stats.binom(data.size, share)
    exact = law.cdf(found.high_rank - 1) - law.cdf(found.low_rank - 1)
    assert found.level == pytest.approx(exact, abs=1e-12)
    assert level <= found.level <= highest_level(data.size, share) + 1e-12


def test_three_values_have_no_median_at_99_per_cent() -> None:
    with pytest.raises(TooFewValues):
        quantile_interval(np.array([1.0, 2, 3]), 0.5, 0.99)
    assert highest_level(3, 0.5) == 0.75


def spread(drawn: np.ndarray) -> np.ndarray:
    return drawn.std(axis=1, ddof=1)


@given(st.lists(st.floats(-1e3, 1e3), min_size=5, max_size=30), st.integers(0, 99), levels)
@settings(deadline=None, max_examples=40)
@pytest.mark.filterwarnings("ignore::RuntimeWarning", "ignore:The BCa")
def test_bca_against_scipy(values: list[float], seed: int, level: float) -> None:
    """SciPy is handed our replicates, so that only the correction is compared."""
    data = np.array(values)
    assume(np.ptp(data) > 1e-3)
    make = resamples([data], spread)
    pile = np.sort(make(np.random.default_rng(seed), 999))
    estimate = float(data.std(ddof=1))
    tail = (1 - level) / 2
    found = corrected(pile, estimate, left_out([data], spread), tail, tail)
    given_ = BootstrapResult(confidence_interval=None, bootstrap_distribution=pile, standard_error=None)
    theirs = stats.bootstrap(
        (data,),
        lambda x, axis: x.std(axis=axis, ddof=1),
        n_resamples=0,
        bootstrap_result=given_,
        method="BCa",
        confidence_level=level,
    )
    if np.isnan(theirs.confidence_interval.low):
        # SciPy gives none where leaving one out changes nothing; the acceleration is 0 then
        assert found is None or found.acceleration == 0
        return
    cuts = np.quantile(pile, [found.low, found.high])
    assert cuts == pytest.approx(tuple(theirs.confidence_interval), rel=1e-6, abs=1e-9)


def test_bca_of_two_samples_against_scipy() -> None:
    rng = np.random.default_rng(2)
    x, y = rng.exponential(3, 14), rng.exponential(2, 19)

    def gap(a: np.ndarray, b: np.ndarray) -> np.ndarray:
        return a.mean(axis=1) - b.mean(axis=1)

    pile = np.sort(resamples([x, y], gap)(rng, 2999))
    found = corrected(pile, float(x.mean() - y.mean()), left_out([x, y], gap), 0.025, 0.025)
    theirs = stats.bootstrap(
        (x, y),
        lambda a, b, axis: a.mean(axis=axis) - b.mean(axis=axis),
        n_resamples=0,
        bootstrap_result=BootstrapResult(confidence_interval=None, bootstrap_distribution=pile, standard_error=None),
        method="BCa",
    ).confidence_interval
    assert np.quantile(pile, [found.low, found.high]) == pytest.approx(tuple(theirs), rel=1e-9)


@given(st.integers(19, 400), st.floats(0.001, 0.4))
def test_tails_cut_as_many_on_either_side(n: int, tail: float) -> None:
    pile = np.arange(1.0, n + 1)
    low, high = cut_off(pile, tail), cut_off(pile, 1 - tail)
    if low is None or high is None:
        assert (n + 1) * tail < 1
        return
    assert low.rank + high.rank == n + 1
    assert low.rank <= (n + 1) * tail + 1e-6 < low.rank + 1


def test_a_resample_can_be_opened_again() -> None:
    data = np.random.default_rng(4).normal(size=37)
    block = block_size(37)
    made = Replicates(resampled(data, "mean"), 9, block).drawn(1200)
    for number in (1, 2, block, block + 1, 1200):
        (places,) = places_of(number, 9, block, [37])
        assert data[places].mean() == pytest.approx(made[number - 1], rel=1e-12)


def test_pairs_are_drawn_together() -> None:
    x = np.arange(30.0)
    make = resamples([x, 2 * x], lambda a, b: (b - 2 * a).sum(axis=1), together=True)
    assert not make(np.random.default_rng(1), 50).any()


@given(st.lists(st.floats(-1e3, 1e3), min_size=2, max_size=30), st.sampled_from([0.0, 1e6, -1e8]))
def test_quick_sums_of_rows(values: list[float], offset: float) -> None:
    drawn = np.array([values, values[::-1]]) + offset
    size = abs(offset) + 1e3
    assert row_means(drawn) == pytest.approx(drawn.mean(axis=1), abs=1e-12 * size)
    near = 1e-9 + 1e-6 * float(drawn.var(axis=1, ddof=1).max())
    assert row_variances(drawn) == pytest.approx(drawn.var(axis=1, ddof=1), abs=near, rel=1e-6)


@pytest.mark.parametrize("n", [1, 2, 3, 100, 255, 256, 1000, 4096, 4097])
def test_places_are_all_as_likely(n: int) -> None:
    (drawn,) = drawn_places(np.random.default_rng(n), [n], max(1, 400_000 // n))
    counts = np.bincount(drawn.ravel(), minlength=n)
    assert counts.size == n
    assert n == 1 or stats.chisquare(counts).pvalue > 0.001

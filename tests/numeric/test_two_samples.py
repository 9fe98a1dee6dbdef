"""Tests of two samples against SciPy, certified data, published examples and enumeration."""

from __future__ import annotations

import itertools
from importlib import resources

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric.arrays import subtract
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.means import NoSpread, TooFewValues, one_t, pooled_t, welch_t
from theoros.numeric.procedures.ranks import average_ranks, rank_sum, signed_rank

CLAIMS = {"less": "less", "greater": "greater", "different": "two-sided"}
rng = np.random.default_rng(20)
X, Y = rng.normal(10, 2, 14), rng.normal(9, 3, 11)
TIED_X = np.array([3.0, 1, 4, 1, 5, 9, 2])
TIED_Y = np.array([2.0, 7, 1, 8, 2, 8])

samples = st.lists(st.integers(-20, 20), min_size=2, max_size=12).map(lambda v: np.array(v, dtype=float))


@pytest.mark.parametrize("claim", CLAIMS)
@pytest.mark.parametrize("null", [0.0, 1.5])
def test_t_procedures_against_scipy(claim, null) -> None:
    for ours, equal in ((welch_t, False), (pooled_t, True)):
        got = ours(X, Y, null)
        ref = stats.ttest_ind(X - null, Y, equal_var=equal, alternative=CLAIMS[claim])
        assert got.t == pytest.approx(ref.statistic, rel=1e-12)
        assert got.df == pytest.approx(ref.df, rel=1e-12)
        assert got.p(claim) == pytest.approx(ref.pvalue, rel=1e-10)
        two = stats.ttest_ind(X, Y, equal_var=equal).confidence_interval(0.9)
        assert got.interval(0.9) == pytest.approx((two.low, two.high), rel=1e-10)
    got = one_t(X[:11] - Y, null)
    ref = stats.ttest_1samp(X[:11] - Y, null, alternative=CLAIMS[claim])
    assert (got.t, got.p(claim)) == pytest.approx((ref.statistic, ref.pvalue), rel=1e-10)
    both = stats.ttest_1samp(X[:11] - Y, 0).confidence_interval(0.99)
    assert got.interval(0.99) == pytest.approx((both.low, both.high), rel=1e-10)


def test_pooled_t_squared_is_the_certified_f() -> None:
    # NIST StRD one-way ANOVA set AtmWtAg (two instruments, 24 weights each): certified F
    # 1.59467335677930E+01; with two groups t squared is F
    path = resources.files("scipy.stats") / "tests/data/nist_anova/AtmWtAg.dat"
    rows = [line.split() for line in path.read_text().splitlines()[60:] if line.strip()]
    data = np.array(rows, dtype=float)
    first, second = data[data[:, 0] == 1, 1], data[data[:, 0] == 2, 1]
    assert first.size == second.size == 24
    got = pooled_t(first, second)
    assert got.t**2 == pytest.approx(15.9467335677930, rel=1e-7)
    assert got.df == 46


def test_student_sleep_data() -> None:
    # Student (1908), Biometrika 6: extra hours of sleep under two drugs, ten patients; the paired
    # differences have mean 1.58 and t = 4.0621, two-sided p = 0.002833
    one = np.array([0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0.0, 2.0])
    two = np.array([1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4])
    got = one_t(subtract(two, one))
    assert got.difference == pytest.approx(1.58)
    assert got.t == pytest.approx(4.0621, abs=5e-5)
    assert got.p("different") == pytest.approx(0.002833, abs=5e-7)
    # W+ = 45 with one zero dropped; every difference is positive
    signed = signed_rank(subtract(two, one), 0, "greater")
    assert (signed.statistic, signed.dropped) == (45, 1)
    assert signed.p == pytest.approx(1 / 2**9)


def test_tails_against_printed_tables() -> None:
    # t table: 2.228 cuts off 0.025 above with 10 df; normal table: 1.96
    assert StudentT(10).critical(0.05, "different") == pytest.approx(2.228, abs=5e-4)
    assert StudentT(10).critical(0.05, "greater") == pytest.approx(1.812, abs=5e-4)
    assert StudentT(10).critical(0.05, "less") == pytest.approx(-1.812, abs=5e-4)
    assert Normal().tail("different", 1.96) == pytest.approx(0.05, abs=5e-5)


@given(st.floats(0.001, 0.999), st.floats(1, 200))
def test_quantile_undoes_cdf(p: float, df: float) -> None:
    curve = StudentT(df)
    assert curve.cdf(curve.quantile(p)) == pytest.approx(p, rel=1e-8)


def test_what_t_cannot_do() -> None:
    with pytest.raises(TooFewValues):
        welch_t(X, np.array([1.0]))
    with pytest.raises(NoSpread):
        pooled_t(np.full(4, 0.1), np.full(3, 0.3))
    with pytest.raises(NoSpread):
        one_t(subtract(np.array([1.1, 2.1]), np.array([1.0, 2.0])))


@pytest.mark.parametrize("claim", CLAIMS)
def test_rank_sum_against_scipy(claim) -> None:
    exact = rank_sum(X, Y, 0, claim)
    ref = stats.mannwhitneyu(X, Y, alternative=CLAIMS[claim], method="exact")
    assert exact.exact
    assert exact.statistic == ref.statistic
    assert exact.p == pytest.approx(ref.pvalue, rel=1e-12)
    for correct in (True, False):
        normal = rank_sum(TIED_X, TIED_Y, 0, claim, continuity=correct, exact=False)
        ref = stats.mannwhitneyu(TIED_X, TIED_Y, alternative=CLAIMS[claim], method="asymptotic", use_continuity=correct)
        assert normal.statistic == ref.statistic
        assert normal.p == pytest.approx(ref.pvalue, rel=1e-12)


def test_exact_rank_sum_with_ties_counts_every_assignment() -> None:
    pooled = np.concatenate([TIED_X, TIED_Y])
    ranks = average_ranks(pooled)
    assert ranks.tolist() == stats.rankdata(pooled).tolist()
    sums = [ranks[list(c)].sum() for c in itertools.combinations(range(pooled.size), TIED_X.size)]
    seen = ranks[: TIED_X.size].sum()
    got = rank_sum(TIED_X, TIED_Y, 0, "less")
    assert got.tied
    assert got.p == pytest.approx(np.mean([s <= seen for s in sums]), rel=1e-12)
    assert got.null.chances.sum() == pytest.approx(1, rel=1e-12)


@pytest.mark.parametrize("claim", CLAIMS)
def test_signed_rank_against_scipy_and_enumeration(claim) -> None:
    gaps = X[:11] - Y
    ref = stats.wilcoxon(gaps, alternative=CLAIMS[claim], method="exact")
    got = signed_rank(gaps, 0, claim)
    assert got.p == pytest.approx(ref.pvalue, rel=1e-12)
    tied = np.array([1.0, 1, -1, 2, 3, -2, 4, 0, 5])
    kept = tied[tied != 0]
    ranks = stats.rankdata(np.abs(kept))
    seen = ranks[kept > 0].sum()
    sums = np.array([ranks[np.array(s, bool)].sum() for s in itertools.product([0, 1], repeat=kept.size)])
    low, high = np.mean(sums <= seen), np.mean(sums >= seen)
    want = {"less": low, "greater": high, "different": min(1, 2 * min(low, high))}[claim]
    got = signed_rank(tied, 0, claim)
    assert (got.dropped, got.tied) == (1, True)
    assert got.p == pytest.approx(want, rel=1e-12)
    normal = signed_rank(tied, 0, claim, exact=False)
    ref = stats.wilcoxon(tied, alternative=CLAIMS[claim], method="asymptotic", correction=True, zero_method="wilcox")
    assert normal.p == pytest.approx(ref.pvalue, rel=1e-10)


@given(samples, samples)
def test_rank_sum_of_swapped_samples_mirrors(x: np.ndarray, y: np.ndarray) -> None:
    assume(np.ptp(np.concatenate([x, y])) > 0)
    one, two = rank_sum(x, y, 0, "greater"), rank_sum(y, x, 0, "less")
    assert one.statistic + two.statistic == x.size * y.size
    assert one.p == pytest.approx(two.p, rel=1e-9)
    # two sides: every value of U at least as far from its mean as the one seen
    both = rank_sum(x, y, 0, "different")
    far = np.abs(both.null.values - both.mean) >= abs(both.statistic - both.mean) - 1e-9
    assert both.p == pytest.approx(both.null.chances[far].sum(), rel=1e-9)
    if not both.tied:  # then U is symmetric, and that is twice the smaller tail
        less = rank_sum(x, y, 0, "less").p
        assert both.p == pytest.approx(min(1, 2 * min(one.p, less)), rel=1e-9)


@given(samples, samples, st.floats(-3, 3))
def test_welch_is_shift_invariant(x: np.ndarray, y: np.ndarray, shift: float) -> None:
    assume(np.ptp(x) > 0)
    a, b = welch_t(x, y), welch_t(x + shift, y, shift)
    assert a.t == pytest.approx(b.t, abs=1e-8)


def test_decimal_ties_stay_ties() -> None:
    # 1.1 - 1.0 and 2.1 - 2.0 differ as binary floats and are both 0.1
    assert np.unique(subtract(np.array([1.1, 2.1, 1000.3]), np.array([1.0, 2.0, 1000.2]))).size == 1
    with pytest.raises(NoSpread):
        rank_sum(np.array([0.3, 0.3]), np.array([0.2, 0.2]), 0.1, "less")

"""Procedures for shares, counts, spreads and several groups, against SciPy and certified data."""

from __future__ import annotations

import math
from fractions import Fraction
from itertools import product
from typing import ClassVar

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy import stats

from theoros.numeric.procedures.analysis_of_variance import kruskal_wallis, one_way, welch_anova
from theoros.numeric.procedures.counts import chi_square_fit, chi_square_related, exact_fit, likelihood_ratio, mcnemar
from theoros.numeric.procedures.exact_tables import exact_table
from theoros.numeric.procedures.means import Moments, NoSpread, TooFewValues
from theoros.numeric.procedures.pairwise import (
    Pair,
    dunn,
    games_howell,
    letters,
    matched_pairs,
    pooled_pairs,
    ranked_within,
    tukey,
)
from theoros.numeric.procedures.power import Power, f_power, t_power
from theoros.numeric.procedures.proportion_intervals import difference_interval, exact_interval, wilson_interval
from theoros.numeric.procedures.proportions import exact_share, fisher_exact, z_share, z_shares
from theoros.numeric.procedures.ranks import hodges_lehmann, walsh_median
from theoros.numeric.procedures.sign_test import median_counts, sign_test
from theoros.numeric.procedures.spreads import brown_forsythe, chi_square_variance, f_ratio

SCIPY = {"less": "less", "greater": "greater", "different": "two-sided"}
CLAIMS = tuple(SCIPY)
close = math.isclose


class TestShares:
    @given(st.integers(1, 60), st.floats(0.02, 0.98), st.sampled_from(CLAIMS), st.data())
    def test_one_share_against_scipy(self, n: int, null: float, claim: str, data) -> None:
        x = data.draw(st.integers(0, n))
        expected = stats.binomtest(x, n, null, SCIPY[claim]).pvalue
        assert close(exact_share(x, n, null, claim).p, expected, rel_tol=1e-9)

    @given(st.integers(1, 25), st.integers(1, 25), st.sampled_from(CLAIMS), st.data())
    def test_fisher_against_scipy(self, n1: int, n2: int, claim: str, data) -> None:
        a, b = data.draw(st.integers(0, n1)), data.draw(st.integers(0, n2))
        expected = stats.fisher_exact([[a, n1 - a], [b, n2 - b]], SCIPY[claim]).pvalue
        assert close(fisher_exact(a, n1, b, n2, claim).p, expected, rel_tol=1e-9)

    def test_fisher_s_tea_taster(self) -> None:
        """Fisher 1935, "The Design of Experiments", ch. 2: 3 of 4 right, p = 17/70."""
        assert close(fisher_exact(3, 4, 1, 4, "greater").p, 17 / 70)

    def test_z_for_one_share_by_hand(self) -> None:
        """60 of 100 against 0.5: z = 0.1 / 0.05."""
        assert close(z_share(60, 100, 0.5).z, 2.0)
        assert close(z_share(60, 100, 0.5, continuity=True).z, 0.095 / 0.05)
        assert z_share(50, 100, 0.5, continuity=True).z == 0
        with pytest.raises(NoSpread):
            z_share(1, 2, 1.0)

    @given(st.integers(2, 80), st.integers(2, 80), st.data())
    def test_z_squared_is_the_chi_square_of_the_table(self, n1: int, n2: int, data) -> None:
        a, b = data.draw(st.integers(0, n1)), data.draw(st.integers(0, n2))
        assume(0 < a + b < n1 + n2)
        table = [[a, n1 - a], [b, n2 - b]]
        for correction in (False, True):
            found = z_shares(a, n1, b, n2, continuity=correction)
            expected = stats.chi2_contingency(table, correction=correction)
            assert close(found.z**2, expected.statistic, rel_tol=1e-9, abs_tol=1e-18)

    def test_two_alike_have_no_z(self) -> None:
        with pytest.raises(NoSpread):
            z_shares(3, 3, 5, 5)

    @given(st.integers(1, 200), st.floats(0.5, 0.999), st.data())
    def test_intervals_against_scipy(self, n: int, confidence: float, data) -> None:
        x = data.draw(st.integers(0, n))
        result = stats.binomtest(x, n)
        for ours, method in ((wilson_interval, "wilson"), (exact_interval, "exact")):
            expected = result.proportion_ci(confidence, method)
            low, high = ours(x, n, confidence)
            assert close(low, expected.low, abs_tol=1e-9)
            assert close(high, expected.high, abs_tol=1e-9)

    def test_the_interval_of_a_difference_by_hand(self) -> None:
        """40 of 100 against 30 of 100: 0.1 ± 1.959964 √(0.0024 + 0.0021)."""
        low, high = difference_interval(40, 100, 30, 100, 0.95)
        assert close(high - 0.1, 1.959963984540054 * math.sqrt(0.0045), rel_tol=1e-12)
        assert close(low + high, 0.2)


counts_of_kinds = st.lists(st.integers(0, 40), min_size=2, max_size=6)


class TestCounts:
    @given(counts_of_kinds)
    def test_fit_against_scipy(self, counts: list[int]) -> None:
        assume(sum(counts))
        shares = np.arange(1, len(counts) + 1) / sum(range(1, len(counts) + 1))
        found = chi_square_fit(np.array(counts), shares)
        expected = stats.chisquare(counts, sum(counts) * shares)
        assert close(found.statistic, expected.statistic, rel_tol=1e-10, abs_tol=1e-12)
        assert close(found.p, expected.pvalue, rel_tol=1e-9)

    def test_mendel_s_peas(self) -> None:
        """Mendel 1866, 556 peas in 9:3:3:1: χ² = 0.470024 (Fisher 1936)."""
        found = chi_square_fit(np.array([315, 108, 101, 32]), np.array([9, 3, 3, 1]) / 16)
        assert close(found.statistic, 0.470024, rel_tol=1e-5)
        assert found.df == 3

    @given(st.integers(2, 4), st.integers(2, 4), st.data())
    def test_relation_and_g_against_scipy(self, rows: int, columns: int, data) -> None:
        cells = st.integers(1, 30)
        table = np.array([[data.draw(cells) for _ in range(columns)] for _ in range(rows)])
        found = chi_square_related(table)
        expected = stats.chi2_contingency(table, correction=False)
        assert close(found.statistic, expected.statistic, rel_tol=1e-9, abs_tol=1e-10)
        assert found.expected == pytest.approx(expected.expected_freq)
        ratio = likelihood_ratio(table, found.expected, found.df)
        g = stats.chi2_contingency(table, correction=False, lambda_="log-likelihood")
        assert close(ratio.statistic, g.statistic, rel_tol=1e-8, abs_tol=1e-9)

    def test_an_empty_row_has_no_test(self) -> None:
        with pytest.raises(NoSpread):
            chi_square_related(np.array([[0, 0], [3, 4]]))

    @pytest.mark.parametrize(
        ("counts", "shares"), [((3, 1, 0), (0.5, 0.25, 0.25)), ((2, 2), (0.5, 0.5)), ((6, 0), (0.3, 0.7))]
    )
    def test_exact_fit_against_enumeration(self, counts, shares) -> None:
        n, law = sum(counts), stats.multinomial(sum(counts), shares)
        seen = law.pmf(counts)
        ways = [w for w in product(range(n + 1), repeat=len(counts)) if sum(w) == n]
        expected = sum(law.pmf(w) for w in ways if law.pmf(w) <= seen * (1 + 1e-9))
        assert close(exact_fit(np.array(counts), np.array(shares)), expected, rel_tol=1e-9)

    def test_exact_fit_of_two_kinds_is_the_binomial_test(self) -> None:
        expected = stats.binomtest(7, 20, 0.3).pvalue
        assert close(exact_fit(np.array([7, 13]), np.array([0.3, 0.7])), expected, rel_tol=1e-9)

    def test_too_many_ways_are_not_counted(self) -> None:
        assert exact_fit(np.full(8, 50), np.full(8, 1 / 8)) is None

    def test_mcnemar_by_hand(self) -> None:
        """b = 25, c = 10: (|25 − 10| − 1)² / 35 = 5.6; exact 2 P(X ≤ 10), X binomial(35, ½)."""
        found = mcnemar(25, 10)
        assert close(found.statistic, 5.6)
        assert close(mcnemar(25, 10, continuity=False).statistic, 225 / 35)
        assert close(found.exact, 2 * stats.binom(35, 0.5).cdf(10), rel_tol=1e-12)
        with pytest.raises(NoSpread):
            mcnemar(0, 0)


groups_of_values = st.lists(
    st.lists(st.integers(-50, 50).map(lambda n: n / 4), min_size=2, max_size=8), min_size=2, max_size=5
)


def nist(name: str) -> tuple[list[np.ndarray], dict[str, float]]:
    """A one-way data set with its certified table, as SciPy ships them."""
    from importlib.resources import files

    base = files("scipy.stats.tests") / "data/nist_anova" / f"{name}.dat"
    lines = base.read_text().splitlines()
    table = {}
    for line in lines[:60]:
        words = line.split()
        if words[:1] == ["Between"]:
            table |= dict(zip(("df", "ss", "ms", "f"), map(float, words[-4:]), strict=True))
    data = [line.split() for line in lines[60:] if len(line.split()) == 2]
    codes = np.array([float(a) for a, _ in data])
    values = np.array([float(b) for _, b in data])
    return [values[codes == code] for code in np.unique(codes)], table


class TestSeveralGroups:
    @given(groups_of_values)
    def test_one_way_against_scipy(self, values: list[list[float]]) -> None:
        groups = [np.array(one) for one in values]
        assume(any(np.ptp(one) > 0 for one in groups))
        expected = stats.f_oneway(*groups)
        found = one_way(groups)
        assert close(found.f, expected.statistic, rel_tol=1e-8, abs_tol=1e-10)
        figures = [Moments(one.size, float(one.mean()), float(one.std(ddof=1))) for one in groups]
        assert close(one_way(figures).f, found.f, rel_tol=1e-8, abs_tol=1e-10)

    @pytest.mark.parametrize(
        ("name", "digits"),
        [("SiRstv", 9), ("SmLs01", 9), ("SmLs02", 9), ("SmLs03", 9), ("AtmWtAg", 8),
         ("SmLs04", 8), ("SmLs05", 8), ("SmLs06", 7), ("SmLs07", 2), ("SmLs08", 2),
         ("SmLs09", 2)],
    )  # fmt: skip
    def test_nist_s_certified_analyses(self, name: str, digits: int) -> None:
        """SmLs07 to 09 lie at 10¹², where doubles hold no more than 4 digits of what differs."""
        groups, certified = nist(name)
        found = one_way(groups)
        assert found.df_between == certified["df"]
        assert close(found.f, certified["f"], rel_tol=10.0**-digits)

    @given(groups_of_values)
    def test_welch_against_two_groups_and_kruskal_against_scipy(self, values) -> None:
        groups = [np.array(one) for one in values]
        assume(all(np.ptp(one) > 0 for one in groups))
        two = welch_anova(groups[:2])
        t = stats.ttest_ind(groups[0], groups[1], equal_var=False)
        assert close(two.f, t.statistic**2, rel_tol=1e-7, abs_tol=1e-9)
        assert close(two.p, t.pvalue, rel_tol=1e-7)
        expected = stats.kruskal(*groups)
        assert close(kruskal_wallis(groups).h, expected.statistic, rel_tol=1e-8, abs_tol=1e-9)

    def test_welch_s_own_example(self) -> None:
        """Against SciPy's Alexander–Govern sibling there is none; R's oneway.test documents
        InsectSprays: F = 36.065, df = 5 and 30.043 (figures of the six sprays)."""
        sprays = [
            [10, 7, 20, 14, 14, 12, 10, 23, 17, 20, 14, 13],
            [11, 17, 21, 11, 16, 14, 17, 17, 19, 21, 7, 13],
            [0, 1, 7, 2, 3, 1, 2, 1, 3, 0, 1, 4],
            [3, 5, 12, 6, 4, 3, 5, 5, 5, 5, 2, 4],
            [3, 5, 3, 5, 3, 6, 1, 1, 3, 2, 6, 4],
            [11, 9, 15, 22, 15, 16, 13, 10, 26, 26, 24, 13],
        ]
        found = welch_anova([np.array(one, dtype=float) for one in sprays])
        assert close(found.f, 36.065, rel_tol=1e-4)
        assert close(found.df_within, 30.043, rel_tol=1e-4)

    def test_bad_groups(self) -> None:
        with pytest.raises(TooFewValues):
            one_way([np.array([1.0]), np.array([2.0])])
        with pytest.raises(NoSpread):
            one_way([np.array([1.0, 1.0]), np.array([2.0, 2.0])])
        with pytest.raises(NoSpread):
            kruskal_wallis([np.array([1.0, 1.0]), np.array([1.0])])


class TestSpreadsAndSigns:
    def test_one_variance_by_hand(self) -> None:
        """n = 16, s = 3 against σ₀ = 2: χ² = 15 × 9/4."""
        found = chi_square_variance(16, 3.0, 2.0)
        assert (found.statistic, found.df) == (33.75, 15)

    def test_two_variances(self) -> None:
        found = f_ratio(10, 3.0, 12, 2.0)
        assert (found.statistic, found.df, found.df2) == (2.25, 9, 11)
        with pytest.raises(NoSpread):
            f_ratio(3, 1.0, 3, 0.0)

    @given(groups_of_values)
    def test_brown_forsythe_against_scipy(self, values: list[list[float]]) -> None:
        groups = [np.array(one) for one in values]
        with np.errstate(all="ignore"):
            expected = stats.levene(*groups, center="median")
        try:
            found = brown_forsythe(groups)
        except NoSpread:
            return
        assert close(found.f, expected.statistic, rel_tol=1e-7, abs_tol=1e-9)

    @given(st.lists(st.integers(-9, 9).map(float), min_size=1, max_size=20), st.sampled_from(CLAIMS))
    def test_sign_test_is_a_binomial_one(self, values: list[float], claim: str) -> None:
        above, below = sum(v > 1 for v in values), sum(v < 1 for v in values)
        assume(above + below)
        found = sign_test(np.array(values), 1.0, claim)
        assert (found.above, found.below) == (above, below)
        expected = stats.binomtest(above, above + below, 0.5, SCIPY[claim]).pvalue
        assert close(found.found.p, expected, rel_tol=1e-9)

    @given(groups_of_values)
    def test_median_test_against_scipy(self, values: list[list[float]]) -> None:
        groups = [np.array(one) for one in values]
        try:
            found = median_counts(groups)
        except NoSpread:
            return
        expected = stats.median_test(*groups, correction=False)
        assert found.median == expected.median
        assert found.counts.tolist() == expected.table.tolist()
        assert close(chi_square_related(found.counts).statistic, expected.statistic, rel_tol=1e-9, abs_tol=1e-10)


class TestPairs:
    @given(groups_of_values)
    @settings(max_examples=8, deadline=None)
    def test_tukey_and_games_howell_against_scipy(self, values: list[list[float]]) -> None:
        groups = [np.array(one) for one in values]
        assume(all(np.ptp(one) > 0 for one in groups))
        for ours, equal in ((tukey, True), (games_howell, False)):
            expected = stats.tukey_hsd(*groups, equal_var=equal)
            ends = expected.confidence_interval(0.95)
            for pair in ours(groups, 0.95):
                at = pair.first, pair.second
                assert close(pair.p, expected.pvalue[at], rel_tol=1e-8, abs_tol=1e-12)
                assert close(pair.low, ends.low[at], rel_tol=1e-8, abs_tol=1e-9)
                assert close(pair.high, ends.high[at], rel_tol=1e-8, abs_tol=1e-9)

    def test_bonferroni_and_holm_by_hand(self) -> None:
        """Three groups: each p times 3; by Holm the smallest times 3, then 2, then 1."""
        groups = [np.array([1.0, 2, 3]), np.array([2.0, 3, 5]), np.array([6.0, 7, 9])]
        table = one_way(groups)
        plain = []
        for a, b in ((0, 1), (0, 2), (1, 2)):
            t = (groups[a].mean() - groups[b].mean()) / math.sqrt(table.mean_within * 2 / 3)
            plain.append(2 * stats.t(table.df_within).sf(abs(t)))
        got = [pair.p for pair in pooled_pairs(groups, 0.95, holm=False)]
        assert got == pytest.approx([min(1, 3 * p) for p in plain], rel=1e-10)
        order = sorted(range(3), key=lambda at: plain[at])
        holm = [0.0] * 3
        high = 0.0
        for rank, at in enumerate(order):
            high = max(high, min(1, (3 - rank) * plain[at]))
            holm[at] = high
        got = [pair.p for pair in pooled_pairs(groups, 0.95, holm=True)]
        assert got == pytest.approx(holm, rel=1e-10)

    def test_dunn_of_two_groups_is_the_kruskal_wallis_test(self) -> None:
        groups = [np.array([1.0, 2, 2, 4]), np.array([3.0, 5, 6, 6, 7])]
        (pair,) = dunn(groups)
        assert close(pair.p, stats.kruskal(*groups).pvalue, rel_tol=1e-10)

    @given(st.integers(2, 6), st.data())
    def test_letters_say_which_pairs_differ(self, count: int, data) -> None:
        from itertools import combinations

        pairs = [Pair(a, b, 0.0, data.draw(st.sampled_from([0.01, 0.5]))) for a, b in combinations(range(count), 2)]
        found = letters(count, pairs, 0.05)
        for pair in pairs:
            shared = set(found[pair.first]) & set(found[pair.second])
            assert bool(shared) == (pair.p > 0.05)


class TestHodgesLehmann:
    def test_shift_and_middle_by_listing_all_pairs(self) -> None:
        x, y = [3.0, 5.5, 7.0, 1.0], [2.0, 2.5, 6.0]
        gaps = sorted(a - b for a in x for b in y)
        assert hodges_lehmann(np.array(x), np.array(y)) == (gaps[5] + gaps[6]) / 2
        walsh = sorted((x[i] + x[j]) / 2 for i in range(4) for j in range(i, 4))
        assert walsh_median(np.array(x)) == (walsh[4] + walsh[5]) / 2

    def test_too_many_pairs_are_not_listed(self) -> None:
        many = np.arange(3000.0)
        assert hodges_lehmann(many, many) is None
        assert walsh_median(many) is None


class TestMatchedPairs:
    """Three conditions of the same eight cases."""

    VALUES: ClassVar = np.random.default_rng(4).normal([5, 6, 6.4], 1, (8, 3))

    def test_paired_t_by_holm(self) -> None:
        raw = [stats.ttest_rel(self.VALUES[:, a], self.VALUES[:, b]).pvalue for a, b in ((0, 1), (0, 2), (1, 2))]
        order = np.argsort(raw)
        expected, most = np.zeros(3), 0.0
        for place, at in enumerate(order):
            most = max(most, min(1.0, raw[at] * (3 - place)))
            expected[at] = most
        found = matched_pairs(self.VALUES, 0.95)
        assert [pair.p for pair in found] == pytest.approx(expected.tolist(), rel=1e-9)
        low, high = stats.ttest_rel(self.VALUES[:, 0], self.VALUES[:, 1]).confidence_interval(1 - 0.05 / 3)
        assert (found[0].low, found[0].high) == pytest.approx((low, high), rel=1e-9)

    def test_mean_ranks_by_holm(self) -> None:
        ranks = stats.rankdata(self.VALUES, axis=1).mean(axis=0)
        found = ranked_within(ranks.tolist(), 8)
        z = (ranks[0] - ranks[2]) / math.sqrt(3 * 4 / (6 * 8))
        smallest = min(found, key=lambda pair: pair.p)
        assert (smallest.first, smallest.second) == (0, 2)
        assert smallest.p == pytest.approx(min(1, 3 * 2 * stats.norm.sf(abs(z))), rel=1e-10)

    def test_what_does_not_vary(self) -> None:
        values = np.column_stack([np.arange(5.0), np.arange(5.0) + 1, np.arange(5.0) ** 2])
        with pytest.raises(NoSpread):
            matched_pairs(values, 0.95)
        with pytest.raises(TooFewValues):
            matched_pairs(values[:1], 0.95)


class TestFarAway:
    """Noncentral laws where SciPy's own overflow or take long, against it where they do not."""

    def test_t_heights(self) -> None:
        at = np.linspace(-3, 9, 40)
        own = Power(0.5, 2.5, 12, 2.0).height(at)
        assert own == pytest.approx(stats.nct.pdf(at, 12, 2.5), abs=1e-7)
        for df in (499, 1e6):
            grid = np.linspace(-3, 9, 2001)
            assert np.trapezoid(Power(0.5, 2.5, df, 2.0).height(grid), grid) == pytest.approx(1, abs=1e-4)
        assert t_power(31, 40, 0.05, "greater").power == pytest.approx(1)
        assert t_power(31, 40, 0.05, "less").power == pytest.approx(0)

    def test_f_of_a_large_noncentrality(self) -> None:
        found = f_power(310, 2, 177, 0.05)
        at = np.linspace(80, 260, 50)
        told = stats.ncf.pdf(at, 2, 177, 310)
        assert found.height(at) == pytest.approx(told, abs=0.03 * told.max())
        for noncentrality in (1e6, 1e12):
            assert f_power(noncentrality, 2, 177, 0.05).power == pytest.approx(1)


def tables_with(rows: list[int], columns: list[int]):
    """Every table of counts with these sums, one by one."""
    if len(columns) == 1:
        yield [[value] for value in rows]
        return
    for first in product(*(range(value + 1) for value in rows)):
        if sum(first) == columns[0]:
            rest = [value - taken for value, taken in zip(rows, first, strict=True)]
            for other in tables_with(rest, columns[1:]):
                yield [[taken, *line] for taken, line in zip(first, other, strict=True)]


class TestExactTables:
    @given(st.data())
    @settings(max_examples=25, deadline=None)
    def test_against_every_table_one_by_one(self, data) -> None:
        """Weights 1 / ∏ cells!, as whole fractions."""
        shape = data.draw(st.sampled_from([(2, 3), (3, 2), (3, 3), (2, 4)]))
        cells = st.lists(st.integers(0, 3), min_size=shape[1], max_size=shape[1])
        counts = np.array(data.draw(st.lists(cells, min_size=shape[0], max_size=shape[0])))
        assume((counts.sum(axis=0) > 0).all() and (counts.sum(axis=1) > 0).all())

        def weight(table) -> Fraction:
            return Fraction(1, math.prod(math.factorial(int(c)) for line in table for c in line))

        every = [weight(one) for one in tables_with(counts.sum(axis=1).tolist(), counts.sum(axis=0).tolist())]
        seen = weight(counts)
        expected = float(sum(one for one in every if one <= seen) / sum(every))
        found = exact_table(counts)
        assert found.tables == len(every)
        assert close(found.p, expected, rel_tol=1e-10)

    @given(st.lists(st.integers(1, 40), min_size=4, max_size=4))
    def test_of_two_by_two_it_is_the_usual_one(self, cells: list[int]) -> None:
        counts = np.array(cells).reshape(2, 2)
        expected = stats.fisher_exact(counts).pvalue
        assert close(exact_table(counts).p, expected, rel_tol=1e-6)

    def test_too_many_tables_are_not_counted(self) -> None:
        assert exact_table(np.full((6, 6), 50)) is None

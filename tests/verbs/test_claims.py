"""Claims about one mean, one median, spreads and proportions: numbers against SciPy, words."""

from __future__ import annotations

import math
from typing import ClassVar

import numpy as np
import pytest
from scipy import stats

from theoros.verbs.core.answering import answer
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.procedures.procedure import procedures
from theoros.verbs.test.statement import TestStatement

SIDED = {"less": "less", "greater": "greater", "different": "two-sided"}
close = math.isclose


def claim(**slots) -> TestStatement:
    return statement_from_json({"verb": "test", **slots})


def p_of(method: str, tables=None, **slots) -> float:
    """The p-value of a way, as the answer tells it."""
    found = answer(claim(method=method, **slots), tables or {})
    assert found.problem is None, found.problem
    return found.numbers[method]["p"]


@pytest.fixture(scope="module")
def tables(demo):
    return demo.by_name


@pytest.fixture(scope="module")
def pairs(tables):
    own = tables["bushes"]
    x, y = own.numbers("leaf length"), own.numbers("elevation")
    there = np.isfinite(x) & np.isfinite(y)
    return x[there], y[there]


@pytest.fixture(scope="module")
def groups(tables):
    own = tables["bushes"]
    by, x = own.frame["cultivar"].to_numpy(), own.numbers("leaf length")
    return [x[by == level] for level in ("Amber", "Jade", "Mist")]


LENGTH = {"table": "bushes", "data": {"kind": "one column", "what": "leaf length"}}
LOSS = {
    "table": "trays",
    "data": {"kind": "two levels", "what": "moisture loss", "by": "withering", "first": "slow", "second": "quick"},
}
FINE = {"table": "bushes", "parameter": "proportion", "data": {"kind": "level", "what": "grade", "level": "fine"}}
FINER = {
    "table": "bushes",
    "parameter": "proportion",
    "data": {
        "kind": "level in two groups",
        "what": "grade",
        "level": "fine",
        "by": "netting",
        "first": "open",
        "second": "netted",
    },
}


def typed_shares(*groups, kind="typed shares") -> dict:
    names = ("red", "blue")
    held = [{"name": name, "x": x, "n": n} for name, (x, n) in zip(names, groups, strict=False)]
    return {"parameter": "proportion", "data": {"kind": kind, "groups": held}}


@pytest.mark.parametrize("alternative", SIDED)
class TestAgainstSciPy:
    def test_one_mean_and_one_median(self, tables, alternative: str) -> None:
        x, side = tables["bushes"].numbers("leaf length"), SIDED[alternative]
        about = {**LENGTH, "alternative": alternative, "null": 62}
        expected = stats.ttest_1samp(x, 62, alternative=side).pvalue
        assert close(p_of("one-sample t", tables, **about), expected, rel_tol=1e-10)
        about["parameter"] = "median"
        expected = stats.wilcoxon(x - 62, alternative=side, correction=True, method="approx").pvalue
        found = answer(claim(method="signed rank", **about), tables).numbers["signed rank"]
        if not found["exact"]:
            assert close(found["p"], expected, rel_tol=1e-9)
        above = int((x > 62).sum())
        expected = stats.binomtest(above, int((x != 62).sum()), 0.5, side).pvalue
        assert close(p_of("sign test", tables, **about), expected, rel_tol=1e-9)

    def test_z_with_a_known_spread(self, tables, alternative: str) -> None:
        x = tables["bushes"].numbers("leaf length")
        z = (x.mean() - 62) / (9.5 / math.sqrt(x.size))
        tail = {"less": stats.norm.cdf(z), "greater": stats.norm.sf(z), "different": 2 * stats.norm.sf(abs(z))}[
            alternative
        ]
        got = p_of("z", tables, **LENGTH, alternative=alternative, null=62, sigma=9.5)
        assert close(got, tail, rel_tol=1e-10)

    def test_spreads(self, tables, alternative: str) -> None:
        x, side = tables["bushes"].numbers("leaf length"), SIDED[alternative]
        about = {"parameter": "standard deviation", "alternative": alternative}
        law = stats.chi2(x.size - 1)
        seen = (x.size - 1) * x.var(ddof=1) / 10.5**2
        tails = law.cdf(seen), law.sf(seen)
        expected = {"less": tails[0], "greater": tails[1], "two-sided": 2 * min(tails)}[side]
        got = p_of("chi-square of a variance", tables, **LENGTH, **about, null=10.5)
        assert close(got, expected, rel_tol=1e-9)
        own = tables["trays"]
        slow = np.array([g == "slow" for g in own.frame["withering"]])
        a, b = own.numbers("moisture loss")[slow], own.numbers("moisture loss")[~slow]
        law, seen = stats.f(a.size - 1, b.size - 1), a.var(ddof=1) / b.var(ddof=1)
        tails = law.cdf(seen), law.sf(seen)
        expected = {"less": tails[0], "greater": tails[1], "two-sided": 2 * min(tails)}[side]
        assert close(p_of("F ratio", tables, **LOSS, **about), expected, rel_tol=1e-9)
        if alternative == "different":
            expected = stats.levene(a, b, center="median").pvalue
            got = p_of("Brown–Forsythe", tables, **LOSS, **about)
            assert close(got, expected, rel_tol=1e-10)

    def test_one_proportion(self, alternative: str) -> None:
        about = typed_shares((13, 40), kind="typed share") | {"alternative": alternative}
        expected = stats.binomtest(13, 40, 0.2, SIDED[alternative]).pvalue
        assert close(p_of("exact binomial", **about, null=0.2), expected, rel_tol=1e-10)
        drawn = p_of("drawn share", **about, null=0.2)
        assert abs(drawn - expected) < 5 * math.sqrt(expected * (1 - expected) / 10_000) + 2e-4

    def test_one_proportion_by_the_normal_curve(self, alternative: str) -> None:
        """13 of 40 against 0.2: z = (0.325 − 0.2)/√(0.2 × 0.8/40), the half case 1/80 taken off."""
        about = typed_shares((13, 40), kind="typed share") | {"alternative": alternative}
        for method, gap in (("z of a share", 0.125), ("z of a share, corrected", 0.1125)):
            z = gap / math.sqrt(0.2 * 0.8 / 40)
            tail = {"less": stats.norm.cdf(z), "greater": stats.norm.sf(z), "different": 2 * stats.norm.sf(z)}[
                alternative
            ]
            assert close(p_of(method, **about, null=0.2), tail, rel_tol=1e-10)

    def test_two_means_with_known_spreads(self, alternative: str) -> None:
        groups = [{"name": "red", "n": 30, "mean": 12.4, "sd": 2.2}, {"name": "blue", "n": 25, "mean": 11.1, "sd": 2.9}]
        z = 1.3 / math.sqrt(4 / 30 + 9 / 25)
        tail = {"less": stats.norm.cdf(z), "greater": stats.norm.sf(z), "different": 2 * stats.norm.sf(z)}[alternative]
        got = p_of(
            "two-sample z",
            data={"kind": "two typed samples", "groups": groups},
            sigma=2,
            other_sigma=3,
            alternative=alternative,
        )
        assert close(got, tail, rel_tol=1e-10)

    def test_two_proportions(self, alternative: str) -> None:
        about = typed_shares((13, 40), (7, 45)) | {"alternative": alternative}
        table = [[13, 27], [7, 38]]
        expected = stats.fisher_exact(table, SIDED[alternative]).pvalue
        assert close(p_of("Fisher exact", **about), expected, rel_tol=1e-9)
        dealt = p_of("shuffled groups", **about)
        assert abs(dealt - expected) < 5 * math.sqrt(expected * (1 - expected) / 10_000) + 2e-4
        if alternative == "different":
            expected = stats.chi2_contingency(table, correction=False).pvalue
            assert close(p_of("chi-square of two shares", **about), expected, rel_tol=1e-10)
            assert close(p_of("z of two shares", **about), expected, rel_tol=1e-10)

    def test_the_median_test(self, tables, alternative: str) -> None:
        own = tables["trays"]
        slow = np.array([g == "slow" for g in own.frame["withering"]])
        x = own.numbers("moisture loss")
        above = x > np.median(x)
        table = [[(above & slow).sum(), (~above & slow).sum()], [(above & ~slow).sum(), (~above & ~slow).sum()]]
        expected = stats.fisher_exact(table, SIDED[alternative]).pvalue
        got = p_of("median test", tables, **LOSS, parameter="median", alternative=alternative)
        assert close(got, expected, rel_tol=1e-9)


class TestWords:
    def test_a_claim_about_one_mean(self, tables) -> None:
        found = answer(claim(**LENGTH, null=62, alternative="greater", method="one-sample t"), tables)
        assert [s.text for s in found.symbols[:2]] == ["H_{0}: μ = 62", "H_{1}: μ > 62"]
        assert found.reading.paragraphs[0] == (
            "There is enough evidence, at the 5\u00a0% significance level, that the mean leaf "
            "length of all bushes is greater than 62\u00a0mm."
        )
        assert found.writeup[2].to_lines()[0] == "In the sample: a mean of 64.05 mm."
        (rule,) = found.picture.frames[0].rules
        assert (rule.x, rule.label) == (62, "H₀: 62\u00a0mm")

    def test_a_claim_about_two_proportions(self, tables) -> None:
        found = answer(claim(**FINER, alternative="greater", method="z of two shares"), tables)
        assert found.caption == (
            "Test whether the proportion of fine for open is greater than for netted, at α = 0.05, by z."
        )
        assert found.reading.paragraphs[0].endswith(
            "that the proportion of “fine” among open bushes is greater than that among netted bushes."
        )
        assert "p̂ = (42 + 12) / (88 + 92) = 0.3000" in found.working[0].to_lines()

    def test_a_spread_of_a_measure(self, tables) -> None:
        found = answer(claim(**LOSS, parameter="standard deviation", method="F ratio"), tables)
        assert "the standard deviation of moisture loss of slow trays" in (found.reading.paragraphs[0])
        assert "by F ratio." in found.writeup[1].to_lines()[0]

    def test_few_cases_turn_to_the_exact_way(self) -> None:
        found = answer(claim(**typed_shares((9, 60), kind="typed share"), null=0.125, method="z of a share"), {})
        assert "n p₀ = 7.5 and n (1 − p₀) = 52.5: both should be at least 10" in found.reading.assumptions[0].text
        marked = [row.cells[0].text for row in found.figures[0].rows if "suggested" in row.cells[4].text]
        assert marked == ["Exact binomial"]

    def test_unequal_spreads_turn_to_the_median_test(self) -> None:
        rng = np.random.default_rng(1)
        from tests.conftest import make_table

        values = np.concatenate([rng.normal(0, 1, 40), rng.normal(0.5, 4, 30)])
        table = make_table("t", g=["a"] * 40 + ["b"] * 30, v=values.tolist())
        data = {"kind": "two levels", "what": "v", "by": "g", "first": "a", "second": "b"}
        found = answer(claim(table="t", parameter="median", method="rank sum", data=data), {"t": table})
        marked = [row.cells[0].text for row in found.figures[0].rows if "suggested" in row.cells[4].text]
        assert marked == ["Median test"]

    def test_typed_differences(self) -> None:
        held = {
            "kind": "typed differences",
            "one": "after",
            "two": "before",
            "groups": [{"n": 12, "mean": 1.3, "sd": 2.1}],
        }
        found = answer(claim(data=held, method="paired t", alternative="greater"), {})
        t = 1.3 / (2.1 / math.sqrt(12))
        assert close(found.numbers["paired t"]["p"], stats.t(11).sf(t), rel_tol=1e-10)
        assert not any("matched" in c.text for c in found.reading.assumptions)


GRADES = {"table": "bushes", "parameter": "shares", "data": {"kind": "counts of levels", "what": "grade"}}
RELATED = {
    "table": "bushes",
    "parameter": "relation",
    "data": {"kind": "two categories", "what": "netting", "by": "grade"},
}
BY_CULTIVAR = {"table": "bushes", "data": {"kind": "levels", "what": "leaf length", "by": "cultivar"}}


def typed_counts(*counts: int) -> dict:
    levels = [{"name": f"kind {at + 1}", "count": count} for at, count in enumerate(counts)]
    return {"parameter": "shares", "data": {"kind": "typed counts", "levels": levels}}


def grid(*rows: list[int]) -> dict:
    data = {
        "kind": "typed two-way counts",
        "counts": rows,
        "rows": [f"row {at + 1}" for at in range(len(rows))],
        "columns": [f"column {at + 1}" for at in range(len(rows[0]))],
    }
    return {"parameter": "relation", "data": data}


class TestCounts:
    def test_fit_against_scipy(self) -> None:
        counts, shares = [30, 14, 16], np.array([2, 1, 1]) / 4
        expected = stats.chisquare(counts, 60 * shares)
        about = typed_counts(*counts) | {"claimed": "2:1:1"}
        assert close(p_of("chi-square of fit", **about), expected.pvalue, rel_tol=1e-10)
        g = stats.power_divergence(counts, 60 * shares, lambda_="log-likelihood")
        assert close(p_of("G of fit", **about), g.pvalue, rel_tol=1e-10)
        law = stats.multinomial(60, shares)
        seen = law.pmf(counts)
        methods = [(a, b, 60 - a - b) for a in range(61) for b in range(61 - a)]
        chances = law.pmf(np.array(methods))
        exact = chances[chances <= seen * (1 + 1e-9)].sum()
        assert close(p_of("exact multinomial", **about), exact, rel_tol=1e-8)
        drawn = p_of("drawn counts", **about)
        assert abs(drawn - expected.pvalue) < 0.03

    def test_a_relation_against_scipy(self) -> None:
        rows = [[12, 43, 37], [42, 29, 17]]
        about = grid(*rows)
        expected = stats.chi2_contingency(rows, correction=False)
        assert close(p_of("chi-square", **about), expected.pvalue, rel_tol=1e-10)
        g = stats.chi2_contingency(rows, correction=False, lambda_="log-likelihood")
        assert close(p_of("G", **about), g.pvalue, rel_tol=1e-9)
        small = grid([3, 9], [8, 2])
        exact = stats.fisher_exact([[3, 9], [8, 2]]).pvalue
        assert close(p_of("Fisher exact of a table", **small), exact, rel_tol=1e-9)
        shuffled = p_of("shuffled table", **small)
        assert abs(shuffled - exact) < 5 * math.sqrt(exact / 10_000)

    def test_rows_and_their_counts_typed_give_the_same(self, tables) -> None:
        own = tables["bushes"].frame
        cross = [
            [int(((own["netting"] == a) & (own["grade"] == b)).sum()) for b in ("fine", "fair", "coarse")]
            for a in ("netted", "open")
        ]
        typed, rows = p_of("chi-square", **grid(*cross)), p_of("chi-square", tables, **RELATED)
        assert close(typed, rows, rel_tol=1e-12)

    def test_what_is_said_of_counts(self, tables) -> None:
        fit = answer(claim(**GRADES, claimed="1:2:1", method="chi-square of fit"), tables)
        assert fit.caption.startswith("Test whether the shares of grade differ from 1:2:1, at α")
        assert fit.symbols[0].text.startswith("H_{0}: p_{fine} = 0.25, p_{fair} = 0.5")
        assert "the shares of grade are not in the ratio 1:2:1." in fit.reading.paragraphs[0]
        related = answer(claim(**RELATED, method="chi-square"), tables)
        assert related.caption.startswith("Test whether there is a relation between netting and grade, at α")
        assert related.reading.paragraphs[0].endswith("that netting and grade are related.")
        assert related.figures[1].to_lines()[1][1] == "12 (27.6; 8.82)"
        (effect,) = [f for f in related.figures if f.key == "effects"]
        v = stats.contingency.association([[12, 43, 37], [42, 29, 17]], method="cramer")
        assert close(effect.rows[0].cells[1].value, v, rel_tol=1e-9)
        assert not any("cause" in text for text in related.reading.paragraphs[:1])

    def test_low_expected_counts_turn_to_a_way_that_counts(self) -> None:
        found = answer(claim(**grid([1, 5], [6, 1]), method="chi-square"), {})
        check = found.reading.assumptions[0]
        assert check.mark == "fails"
        assert "expected counts below 5: row 1 and column 1 (3.2)" in check.text
        marked = [row.cells[0].text for row in found.figures[0].rows if "suggested" in row.cells[4].text]
        assert marked == ["Fisher exact"]

    @pytest.mark.parametrize(
        ("claimed", "says"),
        [
            ("1:2", "There are 3 levels and 2 numbers: type one for each of kind 1, kind 2, kind 3"),
            ("50 %, 30 %, 30 %", "The claimed shares sum to 1.1 instead of 1."),
            ("1:0:1", "Every claimed share must be above 0."),
            ("a:b:c", "“a” is not a number"),
        ],
    )
    def test_claimed_shares_that_cannot_be(self, claimed: str, says: str) -> None:
        found = answer(claim(**typed_counts(3, 4, 5), claimed=claimed), {})
        assert says in found.problem.sentence
        assert found.problem.slot == "claimed"

    @pytest.mark.parametrize(
        ("about", "method", "says"),
        [
            (typed_counts(0, 0), "chi-square of fit", "all counts are 0"),
            (grid([0, 0], [3, 4]), "chi-square", "“row 1” has no case"),
            (
                grid([90, 80, 70, 60], [70, 80, 90, 50], [60, 90, 80, 90]),
                "Fisher exact of a table",
                "too many tables to count",
            ),
        ],
    )
    def test_counts_that_tell_nothing(self, about, method: str, says: str) -> None:
        found = answer(claim(**about, method=method), {})
        assert says in found.reading.headline


class TestSeveralGroups:
    def test_against_scipy(self, tables, groups) -> None:
        about = BY_CULTIVAR
        assert close(p_of("anova", tables, **about), stats.f_oneway(*groups).pvalue, rel_tol=1e-9)
        assert close(
            p_of("kruskal–wallis", tables, **about, parameter="median"), stats.kruskal(*groups).pvalue, rel_tol=1e-9
        )
        welch = stats.f_oneway(*groups, equal_var=False).pvalue
        assert close(p_of("welch anova", tables, **about), welch, rel_tol=1e-9)

    def test_shuffled_f_against_scipy(self) -> None:
        """Groups that hardly differ, so that p is well above what 10 000 shuffles can tell."""
        from tests.conftest import make_table

        rng = np.random.default_rng(4)
        values = rng.normal(size=30).round(2)
        table = make_table("t", g=["a", "b", "c"] * 10, v=values.tolist())
        data = {"kind": "levels", "what": "v", "by": "g"}
        got = p_of("shuffled groups F", {"t": table}, table="t", data=data)
        own = [values[at::3] for at in range(3)]
        assert abs(got - stats.f_oneway(*own).pvalue) < 0.03

    def test_figures_alone_give_the_same_analysis(self, tables, groups) -> None:
        held = [
            {"name": f"g{at}", "n": one.size, "mean": float(one.mean()), "sd": float(one.std(ddof=1))}
            for at, one in enumerate(groups)
        ]
        typed = {"data": {"kind": "several typed samples", "groups": held}}
        rows = answer(claim(**BY_CULTIVAR, method="anova"), tables).numbers["anova"]
        figures = answer(claim(**typed, method="anova"), {}).numbers["anova"]
        assert close(rows["F"], figures["F"], rel_tol=1e-9)

    def test_which_pairs_differ(self, tables, groups) -> None:
        found = answer(claim(**BY_CULTIVAR, method="anova"), tables)
        (section,) = found.sections
        assert section.title == "Which pairs differ: Tukey"
        expected = stats.tukey_hsd(*groups)
        ends = expected.confidence_interval(0.95)
        pairs, letters = section.figures
        assert pairs.rows[0].cells[0].text == "Amber − Jade"
        assert close(pairs.rows[0].cells[2].value, ends.low[0, 1], rel_tol=1e-5)
        assert [row.cells[2].text for row in letters.rows] == ["a", "b", "c"]
        for pairs_by in ("Bonferroni", "Holm"):
            made = answer(claim(**BY_CULTIVAR, method="anova", pairs=pairs_by), tables)
            assert made.sections[0].title == f"Which pairs differ: {pairs_by}"
        ranks = answer(claim(**BY_CULTIVAR, parameter="median", method="kruskal–wallis"), tables)
        assert ranks.sections[0].title == "Which pairs differ: Dunn, adjusted by Holm"
        unequal = answer(claim(**BY_CULTIVAR, method="welch anova"), tables)
        assert unequal.sections[0].title == "Which pairs differ: Games–Howell"

    def test_its_words(self, tables) -> None:
        found = answer(claim(**BY_CULTIVAR, method="anova"), tables)
        assert [s.text for s in found.symbols[:2]] == [
            "H_{0}: μ_{Amber} = μ_{Jade} = μ_{Mist}",
            "H_{1}: not all means are equal",
        ]
        assert found.reading.paragraphs[0].endswith(
            "that the mean leaf length differs between at least two of Amber, Jade and Mist."
        )
        anova = next(f for f in found.figures if f.key == "anova").to_lines()
        assert anova[1][:3] == ["between groups", "9673.24", "2"]

    @pytest.mark.parametrize(
        ("values", "says"),
        [
            ([1.0, 1.0, 2.0, 2.0, 3.0, 3.0], "all values within each group are equal"),
            ([1.0, None, None, None, 3.0, 4.0], "There is no value of v for b"),
        ],
    )
    def test_groups_that_tell_nothing(self, values, says: str) -> None:
        from tests.conftest import make_table

        table = make_table("t", g=["a", "a", "b", "b", "c", "c"], v=values)
        data = {"kind": "levels", "what": "v", "by": "g"}
        found = answer(claim(table="t", data=data, method="anova"), {"t": table})
        text = found.problem.sentence if found.problem else found.reading.headline
        assert says in text


MASS = {"table": "bushes", "data": {"kind": "two numbers", "what": "leaf mass", "against": "leaf length"}}


@pytest.mark.parametrize("alternative", SIDED)
class TestAssociation:
    def test_against_scipy(self, tables, pairs, alternative: str) -> None:
        (x, y), side = pairs, SIDED[alternative]
        about = {
            "table": "bushes",
            "parameter": "correlation",
            "alternative": alternative,
            "data": {"kind": "two numbers", "what": "elevation", "against": "leaf length"},
        }
        expected = stats.pearsonr(x, y, alternative=side).pvalue
        assert close(p_of("pearson", tables, **about), expected, rel_tol=1e-8)
        ranks = stats.spearmanr(x, y, alternative=side).pvalue
        assert close(p_of("spearman", tables, **about), ranks, rel_tol=1e-8)
        tau = stats.kendalltau(x, y, method="asymptotic", alternative=side)
        found = answer(claim(method="kendall", **about), tables).numbers["kendall"]
        assert close(found["tau"], tau.statistic, rel_tol=1e-9)
        assert close(found["p"], tau.pvalue, rel_tol=1e-8)
        shuffled = p_of("shuffled pairs", tables, **about)
        assert abs(shuffled - expected) < 5 * math.sqrt(expected * (1 - expected) / 10_000) + 2e-3

    def test_few_pairs_by_every_order(self, tables, alternative: str) -> None:
        from tests.conftest import make_table

        x, y = [1.0, 2.5, 3, 4, 5.5, 7, 8], [2.0, 1, 4, 3, 7, 5, 6]
        few = {"t": make_table("t", x=x, y=y)}
        tau = stats.kendalltau(x, y, method="exact", alternative=SIDED[alternative])
        found = answer(
            claim(
                table="t",
                parameter="correlation",
                method="kendall",
                alternative=alternative,
                data={"kind": "two numbers", "what": "x", "against": "y"},
            ),
            few,
        )
        assert close(found.numbers["kendall"]["p"], tau.pvalue, rel_tol=1e-10)
        assert close(found.numbers["kendall"]["tau"], tau.statistic, rel_tol=1e-10)

    def test_the_slope(self, tables, alternative: str) -> None:
        own = tables["bushes"]
        x, y = own.numbers("leaf length"), own.numbers("leaf mass")
        there = np.isfinite(x) & np.isfinite(y)
        line = stats.linregress(x[there], y[there])
        t, df = (line.slope - 0.4) / line.stderr, there.sum() - 2
        tail = {"less": stats.t(df).cdf(t), "greater": stats.t(df).sf(t), "different": 2 * stats.t(df).sf(abs(t))}[
            alternative
        ]
        got = p_of("t of a slope", tables, **MASS, parameter="slope", null=0.4, alternative=alternative)
        assert close(got, tail, rel_tol=1e-8)

    def test_a_typed_correlation(self, alternative: str) -> None:
        """n = 25, r = 0.42: t = 0.42 √(23/(1 − 0.42²)); against 0.2 by Fisher's z."""
        about = {
            "parameter": "correlation",
            "alternative": alternative,
            "data": {"kind": "typed correlation", "n": 25, "r": 0.42},
        }
        t = 0.42 * math.sqrt(23 / (1 - 0.42**2))
        law = stats.t(23)
        tail = {"less": law.cdf(t), "greater": law.sf(t), "different": 2 * law.sf(t)}[alternative]
        assert close(p_of("pearson", **about), tail, rel_tol=1e-10)
        z = (math.atanh(0.42) - math.atanh(0.2)) * math.sqrt(22)
        law = stats.norm
        tail = {"less": law.cdf(z), "greater": law.sf(z), "different": 2 * law.sf(z)}[alternative]
        assert close(p_of("pearson", **about, null=0.2), tail, rel_tol=1e-10)


class TestRepeatedMeasures:
    @staticmethod
    def table(columns: int = 3):
        from tests.conftest import make_table

        rng = np.random.default_rng(8)
        values = rng.normal(10, 2, (14, 1)) + rng.normal([0, 0.6, 1.5][:columns], 1.0, (14, columns))
        values = values.round(1)
        names = ("first", "second", "third")[:columns]
        held = {name: values[:, at].tolist() for at, name in enumerate(names)}
        data = {"kind": "several columns", "columns": list(names)}
        return values, {"t": make_table("t", "taster", **held)}, {"table": "t", "data": data}

    def test_friedman_against_scipy(self) -> None:
        values, tables_, about = self.table()
        expected = stats.friedmanchisquare(*values.T).pvalue
        got = p_of("friedman", tables_, **about, parameter="median")
        assert close(got, expected, rel_tol=1e-9)

    def test_two_columns_are_the_paired_t_test(self) -> None:
        values, tables_, about = self.table(2)
        expected = stats.ttest_rel(values[:, 0], values[:, 1]).pvalue
        assert close(p_of("repeated anova", tables_, **about), expected, rel_tol=1e-9)

    def test_three_columns_against_least_squares(self) -> None:
        """F of the columns in a linear model with a constant for each case, by NumPy."""
        values, tables_, about = self.table()
        n, k = values.shape
        y = values.ravel()
        cases = np.kron(np.eye(n), np.ones((k, 1)))
        both = np.hstack([cases, np.tile(np.eye(k)[:, 1:], (n, 1))])

        def rest(x):
            fit, *_ = np.linalg.lstsq(x, y, rcond=None)
            return float(((y - x @ fit) ** 2).sum())

        error = rest(both)
        f = ((rest(cases) - error) / (k - 1)) / (error / ((n - 1) * (k - 1)))
        found = answer(claim(**about, method="repeated anova"), tables_)
        assert close(found.numbers["repeated anova"]["F"], f, rel_tol=1e-9)
        assert found.reading.paragraphs[0].endswith(
            "the mean value differs between at least two of first, second and third."
        )
        assert any("Greenhouse and Geisser" in text for text in found.reading.cautions)


class TestShapeAndOrder:
    def test_a_normal_shape(self, tables) -> None:
        x = tables["trays"].numbers("moisture loss")
        about = {"table": "trays", "parameter": "shape", "data": {"kind": "one column", "what": "moisture loss"}}
        assert close(p_of("shapiro–wilk", tables, **about), stats.shapiro(x).pvalue, rel_tol=1e-9)
        found = answer(claim(**about, method="anderson–darling"), tables)
        assert found.caption.startswith(
            "Test whether the shape of moisture loss (%) is not that of a normal distribution, at"
        )
        assert found.reading.paragraphs[0].endswith("that moisture loss departs from a normal distribution.")

    def test_anderson_darling_against_the_table(self) -> None:
        """A² as SciPy has it; p where SciPy's table has its critical values (Stephens 1974)."""
        from theoros.numeric.procedures.shape_and_order import anderson_darling

        rng = np.random.default_rng(3)
        for n in (10, 40, 200):
            values = rng.normal(5, 2, n)
            expected = stats.anderson(values, "norm", method="interpolate")
            found = anderson_darling(values)
            assert close(found.a_squared, expected.statistic, rel_tol=1e-9)
            # the table goes from 15 % to 1 %; between these both are interpolations
            if 0.011 < expected.pvalue < 0.149:
                assert abs(found.p - expected.pvalue) < 0.01

    def test_runs_by_hand(self) -> None:
        """++−−−+++−− has 4 runs of 5 and 5: μ = 6, σ² = 2·25·40/(100·9)."""
        from tests.conftest import make_table

        values = [9.0, 8, 1, 2, 3, 7, 8, 9, 1, 2]
        table = make_table("t", v=values)
        about = {"table": "t", "parameter": "order", "data": {"kind": "one column", "what": "v"}}
        z = (4 - 6) / math.sqrt(2000 / 900)
        found = answer(claim(**about, method="runs"), {"t": table})
        assert close(found.numbers["runs"]["p"], 2 * stats.norm.sf(abs(z)), rel_tol=1e-10)
        assert "the values of v are not in random order" in found.reading.paragraphs[0]


class TestIntervalsAndEffects:
    def test_the_interval_that_says_the_same(self, tables) -> None:
        own = tables["bushes"].numbers("leaf length")
        found = answer(claim(**LENGTH, null=62, method="one-sample t"), tables)
        expected = stats.ttest_1samp(own, 62).confidence_interval(0.95)
        text = found.reading.paragraphs[-1]
        assert text == (
            f"The 95\u00a0% confidence interval for the mean runs from {expected.low:.1f} to "
            f"{expected.high:.1f}\u00a0mm: it does not contain 62\u00a0mm, the value under H_{{0}}."
        )
        sided = answer(claim(**LENGTH, null=62, alternative="greater", method="one-sample t"), tables)
        assert sided.sections[0].title == "The 90\u00a0% interval"

    def test_intervals_of_shares_and_spreads(self, tables) -> None:
        about = typed_shares((13, 40), kind="typed share")
        low, high = stats.binomtest(13, 40).proportion_ci(0.95, "wilson")
        found = answer(claim(**about, null=0.2, method="z of a share"), {})
        assert f"runs from {low:.3f} to {high:.3f}: it does not contain 0.2" in found.reading.paragraphs[-1]
        spread = answer(
            claim(**LENGTH, parameter="standard deviation", null=10.5, method="chi-square of a variance"), tables
        )
        x = tables["bushes"].numbers("leaf length")
        law, ss = stats.chi2(x.size - 1), (x.size - 1) * x.var(ddof=1)
        ends = [math.sqrt(ss / law.ppf(q)) for q in (0.975, 0.025)]
        assert f"runs from {ends[0]:.1f} to {ends[1]:.1f}" in spread.reading.paragraphs[-1]

    def test_how_large_it_is(self, tables) -> None:
        """d = (x̄ − 62)/s; ratios by their definition; r of ranks from the share of pairs."""
        x = tables["bushes"].numbers("leaf length")

        def effects(**slots) -> dict[str, float]:
            found = answer(claim(**slots), tables)
            table = next(f for f in found.figures if f.key == "effects")
            return {row.cells[0].text: row.cells[1].value for row in table.rows}

        one = effects(**LENGTH, null=62, method="one-sample t")
        assert close(
            next(value for name, value in one.items() if name.startswith("Cohen’s d")), (x.mean() - 62) / x.std(ddof=1)
        )
        two = effects(**FINER, method="z of two shares")
        assert close(two["risk ratio"], (42 / 88) / (12 / 92))
        assert close(two["odds ratio"], (42 * 80) / (46 * 12))
        ranks = effects(**LOSS, parameter="median", method="rank sum")
        assert close(ranks["rank-biserial r"], 2 * 112 / 120 - 1)


class TestPlanning:
    @pytest.mark.parametrize(
        ("n", "d", "alternative", "power"),
        [(64, 0.5, "different", 0.8015), (26, 0.8, "different", 0.8075), (20, 0.5, "greater", 0.4634)],
    )
    def test_power_of_two_means_as_cohen_has_it(self, n, d, alternative, power) -> None:
        """Cohen 1988, tables 2.3.5 and 2.3.2 to two digits; four digits by the noncentral t."""
        from theoros.numeric.procedures.power import t_power

        found = t_power(d * math.sqrt(n / 2), 2 * n - 2, 0.05, alternative)
        assert close(found.power, power, abs_tol=5e-4)

    def test_power_by_drawing(self) -> None:
        """The share of 4000 samples in which SciPy's t test rejects."""
        from theoros.numeric.procedures.power import t_power

        rng = np.random.default_rng(5)
        x = rng.normal(0.6, 1, (4000, 15))
        seen = (stats.ttest_1samp(x, 0, axis=1).pvalue <= 0.05).mean()
        told = t_power(math.sqrt(15) * 0.6, 14, 0.05, "different").power
        assert abs(seen - told) < 4 * math.sqrt(told * (1 - told) / 4000)

    def test_the_sample_that_a_power_takes(self) -> None:
        """64 in each group for d = 0.5 and 0.8 (Cohen 1988, table 2.4.1)."""
        groups = [{"name": "a", "n": 20, "mean": 5, "sd": 2}, {"name": "b", "n": 20, "mean": 4, "sd": 2}]
        about = {"data": {"kind": "two typed samples", "groups": groups}, "true_value": 1}
        found = answer(claim(**about), {})
        section = found.sections[-1]
        assert section.title == "Planning"
        assert "For a power of 80\u00a0%, 64 in each group would be needed." in section.note
        assert "not rejected where the true value holds, before it, 0.66" in section.picture.alt
        (handle,) = [r for r in section.picture.frames[0].rules if r.slot == "true_value"]
        assert close(handle.reads(handle.x), 1.0, rel_tol=1e-9)

    @pytest.mark.parametrize(("true", "told"), [(0.01, "5"), (2.5, "97"), (4, "over 99"), (40, "100")])
    def test_a_power_is_not_told_as_certain_before_it_is(self, true: float, told: str) -> None:
        """The power of 20 and 20 cases of SD 2, by the noncentral t of SciPy."""
        groups = [{"name": "a", "n": 20, "mean": 5, "sd": 2}, {"name": "b", "n": 20, "mean": 4, "sd": 2}]
        section = answer(claim(data={"kind": "two typed samples", "groups": groups}, true_value=true), {}).sections[-1]
        critical, shift = stats.t(38).isf(0.025), true / (2 * math.sqrt(2 / 20))
        law = stats.nct(38, shift)
        power = law.sf(critical) + law.cdf(-critical) if true < 40 else 1.0
        assert told == ("over 99" if 0.995 <= power < 1 else f"{100 * power:.0f}")
        assert f"finds it in {told}\u00a0% of samples" in section.note

    @pytest.mark.parametrize("shift", [-9.0, -6.32, 0.5, 6.32, 9.0])
    def test_the_curve_of_a_true_value_is_drawn_throughout(self, shift: float) -> None:
        """The density by SciPy's own series, which hold at 38 degrees of freedom."""
        from theoros.numeric.procedures.power import t_power

        grid = np.linspace(min(-4, shift - 4), max(4, shift + 4), 241)
        found = t_power(shift, 38, 0.05, "different").height(grid)
        np.testing.assert_allclose(found, stats.nct(38, shift).pdf(grid), atol=1e-6)

    def test_power_of_a_share_by_enumeration(self) -> None:
        """The z test of 0.5 with n = 200: the exact chance of its rejection at 0.6."""
        about = typed_shares((100, 200), kind="typed share")
        found = answer(claim(**about, null=0.5, alternative="greater", method="z of a share", true_value=0.6), {})
        counts = np.arange(201)
        z = (counts / 200 - 0.5) / math.sqrt(0.25 / 200)
        exact = stats.binom(200, 0.6).pmf(counts)[z >= stats.norm.ppf(0.95)].sum()
        told = float(found.sections[-1].note.split("finds it in ")[1].split("\u00a0%")[0]) / 100
        assert abs(told - exact) < 0.03

    def test_power_of_two_shares_by_the_textbook_formula(self) -> None:
        """n = (z √(2 p̄ q̄) + z' √(p₁ q₁ + p₂ q₂))² / (p₁ − p₂)² (Fleiss 1981, section 3.2)."""
        about = typed_shares((55, 100), (50, 100))
        found = answer(claim(**about, method="z of two shares", true_value=0.1), {})
        one, two, z, power = 0.6, 0.5, stats.norm.ppf(0.975), stats.norm.ppf(0.8)
        middle = (one + two) / 2
        top = z * math.sqrt(2 * middle * (1 - middle)) + power * math.sqrt(one * (1 - one) + two * (1 - two))
        n = math.ceil(top**2 / 0.01)
        assert n == 388
        assert f"{n} in each group would be needed" in found.sections[-1].note

    def test_power_of_several_means_as_cohen_has_it(self) -> None:
        """f = 0.25, four groups: 45 in each for 0.8 (Cohen 1988, table 8.4.4)."""
        held = [{"name": name, "n": 20, "mean": mean, "sd": 4} for name, mean in zip("abcd", (5, 6, 7, 8), strict=True)]
        about = {"data": {"kind": "several typed samples", "groups": held}, "method": "anova"}
        found = answer(claim(**about, true_value=1), {})
        note = found.sections[-1].note
        assert "45 in each group would be needed" in note
        rng = np.random.default_rng(3)  # the share of samples in which SciPy's test rejects
        means = np.repeat(np.array([-1.0, -1, 1, 1]), 20).reshape(4, 20, 1)
        drawn = rng.normal(means, 4, (4, 20, 4000))
        seen = (stats.f_oneway(*drawn, axis=0).pvalue <= 0.05).mean()
        told = float(note.split("differ in ")[1].split("\u00a0%")[0]) / 100
        assert abs(seen - told) < 0.03
        (handle,) = [r for r in found.sections[-1].picture.frames[0].rules if r.slot]
        assert close(handle.reads(handle.x), 1.0, rel_tol=1e-9)

    def test_no_difference_has_no_power(self) -> None:
        about = typed_shares((9, 60), kind="typed share")
        found = answer(claim(**about, null=0.5, method="exact binomial", true_value=0.5), {})
        assert "there is no difference to detect" in found.sections[-1].note


class TestTableRows:
    """Where a printed table has the critical value; the values in brackets stand in such tables."""

    def looked_up(self, tables, **about) -> str:
        steps = {step.title: step.lines for step in answer(claim(**about), tables).working}
        return str(steps["By the critical value"][-1])

    def test_rows_and_columns(self, tables) -> None:
        one = {**LENGTH, "null": 62, "method": "one-sample t"}
        assert self.looked_up(tables, **one) == ("In a t table: row df = 179, column 0.025 in one tail, 0.05 in both.")
        up = self.looked_up(tables, **one, alternative="greater", alpha=0.01)
        assert up == "In a t table: row df = 179, column 0.01 in one tail."
        welch = self.looked_up(tables, **LOSS, method="welch t")
        assert "row df = 12 (12.3 rounded down)" in welch
        share = self.looked_up(tables, **typed_shares((58, 100), kind="typed share"), null=0.5, method="z of a share")
        assert share.endswith("The area for z = 1.60 in a z table: row 1.6, column 0.00.")
        groups = {
            "table": "bushes",
            "method": "anova",
            "data": {"kind": "levels", "what": "leaf length", "by": "cultivar"},
        }
        assert self.looked_up(tables, **groups) == ("In the F table for 0.05: column df = 2, row df = 177.")
        spread = {**LENGTH, "parameter": "standard deviation", "null": 9, "method": "chi-square of a variance"}
        assert self.looked_up(tables, **spread) == ("In a chi-square table: row df = 179, columns 0.975 and 0.025.")


class TestBound:
    @pytest.mark.parametrize(
        ("alternative", "words", "end"), [("greater", "is at least", 0), ("less", "is at most", 1)]
    )
    def test_a_one_sided_bound_is_scipys(self, tables, alternative, words, end) -> None:
        about = {**LENGTH, "null": 62, "method": "one-sample t", "alternative": alternative}
        found = answer(claim(**about, bound=True), tables)
        x = tables["bushes"].numbers("leaf length")
        ends = stats.ttest_1samp(x, 62, alternative=alternative).confidence_interval(0.95)
        said = " ".join(found.reading.paragraphs)
        assert f"With 95\u00a0% confidence the mean {words} {ends[end]:.1f} mm".replace(" mm", "\u00a0mm") in said
        assert found.sections[0].title == "The 95\u00a0% bound"
        two = answer(claim(**about), tables)
        assert two.sections[0].title == "The 90\u00a0% interval"
        assert claim(**{**about, "alternative": "different"}).slot("bound", tables) is None


class TestHowItIsWritten:
    def test_h0_with_a_bound(self, tables) -> None:
        about = {**LENGTH, "null": 62, "method": "one-sample t", "bounded": True}
        for alternative, sign in (("less", "≥"), ("greater", "≤"), ("different", "=")):
            found = answer(claim(**about, alternative=alternative), tables)
            assert found.symbols[0].text == f"H_{{0}}: μ {sign} 62"

    def test_the_rejection_region_is_shaded_when_asked(self, tables) -> None:
        from theoros.answer.layout import lay_out

        about = {**LENGTH, "null": 62, "method": "one-sample t", "rejection": True}
        found = answer(claim(**about), tables)
        frame = found.picture.frames[1]
        limit = stats.t(179).ppf(0.975)
        assert [rule.x for rule in frame.rules[:2]] == pytest.approx([-limit, limit])
        hatched = [item for item in lay_out(found.picture, 900, 300).items if getattr(item, "hatched", False)]
        assert len(hatched) == 2
        skew = answer(
            claim(
                **LENGTH, parameter="standard deviation", null=10.5, rejection=True, method="chi-square of a variance"
            ),
            tables,
        )
        ends = [rule.x for rule in skew.picture.frames[1].rules[:2]]
        assert ends == pytest.approx([stats.chi2(179).ppf(0.025), stats.chi2(179).ppf(0.975)])

    def test_what_could_be_wrong(self, tables) -> None:
        found = answer(claim(**FINER, alternative="greater", method="z of two shares"), tables)
        step = found.working[-1]
        assert step.title == "What could be wrong"
        assert step.to_lines()[0].startswith(
            "A type I error would be to conclude that the proportion of “fine” among open bushes is"
        )


class TestChanging:
    def test_another_parameter_brings_data_that_fit(self, tables) -> None:
        data = {"kind": "two levels", "what": "leaf mass", "by": "netting", "first": "open", "second": "netted"}
        s = claim(table="bushes", data=data)
        for parameter, kind, method in (
            ("proportion", "level in two groups", "z of two shares"),
            ("mean", "two levels", "welch t"),
            ("standard deviation", "two levels", "F ratio"),
        ):
            s = s.with_slot("parameter", parameter, tables).statement
            assert (s.data.kind, s.method) == (kind, method)
            assert answer(s, tables).problem is None

    def test_the_value_under_h0_follows_what_it_is_of(self, tables) -> None:
        s = claim(**LENGTH, null=62, method="one-sample t")
        assert s.with_slot("parameter", "median", tables).statement.null == 62
        spread = s.with_slot("parameter", "standard deviation", tables).statement
        assert spread.null is None  # no spread is usual: it is asked for
        share = s.with_slot("parameter", "proportion", tables).statement
        problem = answer(share, tables).problem
        assert problem is not None
        assert (problem.slot, problem.sentence) == ("null", "Type the value under H₀.")
        assert "is different from …," in share.text(tables)
        assert share.with_slot("parameter", "mean", tables).statement.null is None
        with pytest.raises(StatementError, match="from 0 to 1"):
            share.with_slot("null", 1.5, tables)

    def test_z_is_offered_once_a_spread_is_known(self, tables) -> None:
        def methods(s):
            return [row.sets[1] for row in answer(s, tables).figures[0].rows]

        s = claim(**LENGTH, null=62, method="one-sample t")
        assert "z" not in methods(s)
        assert "z" in methods(s.with_slot("sigma", 9.5, tables).statement)

    @pytest.mark.parametrize(
        ("data", "says"),
        [
            ({"kind": "typed share", "groups": [{"x": 9, "n": 6}]}, "There cannot be 9 of 6."),
            ({"kind": "typed share", "groups": [{"x": 3}]}, "Type n, how many cases there are."),
            (
                {"kind": "typed shares", "groups": [{"x": 1, "n": 2}, {"x": 1}]},
                "Type n of group 2, how many cases it has.",
            ),
            ({"kind": "level", "what": "gone", "level": "fine"}, "There is no column “gone”"),
        ],
    )
    def test_figures_that_cannot_be(self, tables, data: dict, says: str) -> None:
        table = "" if "typed" in data["kind"] else "bushes"
        found = answer(claim(table=table, parameter="proportion", data=data), tables)
        assert says in found.problem.sentence

    def test_what_no_way_can_tell_is_said(self) -> None:
        alike = answer(claim(**typed_shares((5, 5), (7, 7)), method="z of two shares"), {})
        assert alike.reading.headline == "z cannot be used here: all cases are equal. Choose another method."
        sided = answer(
            claim(**typed_shares((13, 40), (7, 45)), alternative="less", method="chi-square of two shares"), {}
        )
        assert "can only ask whether they differ" in sided.reading.headline


def test_every_way_is_tested_here_or_beside() -> None:
    """So that a new way cannot come without numbers from outside."""
    import re
    from pathlib import Path

    said = "".join(path.read_text(encoding="utf-8") for path in Path(__file__).parent.glob("test_*.py"))
    missing = [name for name in procedures() if not re.search(rf'"{re.escape(name)}"', said)]
    assert missing == []


class TestChange:
    """The same cases asked twice."""

    MOOD: ClassVar = {
        "parameter": "change",
        "data": {
            "kind": "typed two-way counts",
            "one": "first tasting",
            "two": "second tasting",
            "rows": ["liked", "not liked"],
            "columns": ["liked", "not liked"],
            "counts": [[794, 150], [86, 570]],
        },
    }
    """The counts of Agresti, Categorical Data Analysis (2nd ed., 2002), table 10.1."""

    def test_against_the_published_table_and_the_binomial(self) -> None:
        found = answer(claim(method="mcnemar", continuity=False, **self.MOOD), {})
        # Agresti, section 10.1.1: z² = 17.36
        assert round(found.numbers["mcnemar"]["chi_square"], 2) == 17.36
        exact = stats.binomtest(150, 236).pvalue
        assert close(found.numbers["exact mcnemar"]["p"], exact, rel_tol=1e-10)
        corrected = answer(claim(method="mcnemar", **self.MOOD), {}).numbers["mcnemar"]
        assert close(corrected["chi_square"], 63**2 / 236, rel_tol=1e-12)
        assert close(corrected["p"], stats.chi2.sf(63**2 / 236, 1), rel_tol=1e-10)

    def test_words(self) -> None:
        found = answer(claim(method="exact mcnemar", **self.MOOD), {})
        assert found.caption.startswith("Test whether there is a change between first tasting and second tasting")
        assert "the share of “liked” in second tasting differs from that in first tasting" in (
            " ".join(found.reading.paragraphs)
        )
        assert "expected" not in found.figures[1].title

    @pytest.mark.parametrize(
        ("slots", "why"),
        [
            ({"counts": [[5, 0], [0, 7]]}, "no case changed"),
            ({"columns": ["sweet", "bitter"]}, "needs the same two levels in first tasting"),
        ],
    )
    def test_what_cannot_be_answered_is_said(self, slots, why: str) -> None:
        data = {**self.MOOD["data"], **slots}
        found = answer(claim(method="exact mcnemar", parameter="change", data=data), {})
        assert why in found.reading.headline

    def test_columns_may_stand_the_other_way_round(self) -> None:
        data = {**self.MOOD["data"], "columns": ["not liked", "liked"], "counts": [[150, 794], [570, 86]]}
        turned = answer(claim(method="exact mcnemar", parameter="change", data=data), {}).numbers
        assert turned == answer(claim(method="exact mcnemar", **self.MOOD), {}).numbers

"""Claims about one mean, one median, spreads and proportions: numbers against SciPy, words."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy import stats

from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.core.statement import answer
from theoros.verbs.procedures.procedure import procedures
from theoros.verbs.test.statement import TestStatement

SIDED = {"less": "less", "greater": "greater", "different": "two-sided"}
close = math.isclose


def claim(**slots) -> TestStatement:
    return statement_from_json({"verb": "test", **slots})


def p_of(way: str, tables=None, **slots) -> float:
    """The p-value of a way, as the answer tells it."""
    found = answer(claim(way=way, **slots), tables or {})
    assert found.problem is None, found.problem
    return found.numbers[way]["p"]


@pytest.fixture(scope="module")
def tables(demo):
    return demo.by_name


LENGTH = {"table": "bushes", "data": {"kind": "one column", "what": "leaf length"}}
LOSS = {"table": "trays", "data": {"kind": "two levels", "what": "moisture loss",
                                   "by": "withering", "first": "slow", "second": "quick"}}  # fmt: skip
FINE = {"table": "bushes", "parameter": "proportion",
        "data": {"kind": "level", "what": "grade", "level": "fine"}}  # fmt: skip
FINER = {"table": "bushes", "parameter": "proportion",
         "data": {"kind": "level in two groups", "what": "grade", "level": "fine",
                  "by": "netting", "first": "open", "second": "netted"}}  # fmt: skip


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
        expected = stats.wilcoxon(x - 62, alternative=side, correction=True,
                                  method="approx").pvalue  # fmt: skip
        found = answer(claim(way="signed rank", **about), tables).numbers["signed rank"]
        if not found["exact"]:
            assert close(found["p"], expected, rel_tol=1e-9)
        above = int((x > 62).sum())
        expected = stats.binomtest(above, int((x != 62).sum()), 0.5, side).pvalue
        assert close(p_of("sign test", tables, **about), expected, rel_tol=1e-9)

    def test_z_with_a_known_spread(self, tables, alternative: str) -> None:
        x = tables["bushes"].numbers("leaf length")
        z = (x.mean() - 62) / (9.5 / math.sqrt(x.size))
        tail = {"less": stats.norm.cdf(z), "greater": stats.norm.sf(z),
                "different": 2 * stats.norm.sf(abs(z))}[alternative]  # fmt: skip
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
        for way, gap in (("z of a share", 0.125), ("z of a share, corrected", 0.1125)):
            z = gap / math.sqrt(0.2 * 0.8 / 40)
            tail = {"less": stats.norm.cdf(z), "greater": stats.norm.sf(z),
                    "different": 2 * stats.norm.sf(z)}[alternative]  # fmt: skip
            assert close(p_of(way, **about, null=0.2), tail, rel_tol=1e-10)

    def test_two_means_with_known_spreads(self, alternative: str) -> None:
        groups = [{"name": "red", "n": 30, "mean": 12.4, "sd": 2.2},
                  {"name": "blue", "n": 25, "mean": 11.1, "sd": 2.9}]  # fmt: skip
        z = 1.3 / math.sqrt(4 / 30 + 9 / 25)
        tail = {"less": stats.norm.cdf(z), "greater": stats.norm.sf(z),
                "different": 2 * stats.norm.sf(z)}[alternative]  # fmt: skip
        got = p_of("two-sample z", data={"kind": "two typed samples", "groups": groups},
                   sigma=2, other_sigma=3, alternative=alternative)  # fmt: skip
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
        table = [[(above & slow).sum(), (~above & slow).sum()],
                 [(above & ~slow).sum(), (~above & ~slow).sum()]]  # fmt: skip
        expected = stats.fisher_exact(table, SIDED[alternative]).pvalue
        got = p_of("median test", tables, **LOSS, parameter="median", alternative=alternative)
        assert close(got, expected, rel_tol=1e-9)


class TestWords:
    def test_a_claim_about_one_mean(self, tables) -> None:
        found = answer(claim(**LENGTH, null=62, alternative="greater", way="one-sample t"), tables)
        assert [s.text for s in found.symbols[:2]] == ["H_{0}: μ = 62", "H_{1}: μ > 62"]
        assert found.reading.paragraphs[0] == (
            "There is enough evidence, at the 5\u00a0% significance level, that the mean leaf "
            "length of bushes is greater than 62\u00a0mm."
        )
        assert found.writeup[2].to_lines()[0] == "Seen in the sample: a mean of 64.05 mm."
        (rule,) = found.picture.frames[0].rules
        assert (rule.x, rule.label) == (62, "H₀: 62\u00a0mm")

    def test_a_claim_about_two_proportions(self, tables) -> None:
        found = answer(claim(**FINER, alternative="greater", way="z of two shares"), tables)
        assert found.caption == (
            "Test whether the proportion of fine for open is greater than for netted, at α = 0.05, "
            "by z."
        )
        assert found.reading.paragraphs[0].endswith(
            "that the proportion of “fine” among open bushes is greater than that among netted "
            "bushes."
        )
        assert "p̂ = (42 + 12) / (88 + 92) = 0.3000" in found.working[0].to_lines()

    def test_a_spread_of_a_measure(self, tables) -> None:
        found = answer(claim(**LOSS, parameter="standard deviation", way="F ratio"), tables)
        assert (
            "the standard deviation of moisture loss of slow trays" in (found.reading.paragraphs[0])
        )
        assert "by F ratio." in found.writeup[1].to_lines()[0]

    def test_few_cases_turn_to_the_exact_way(self) -> None:
        found = answer(claim(**typed_shares((9, 60), kind="typed share"), null=0.125,
                             way="z of a share"), {})  # fmt: skip
        assert "at least 10 of each are asked for" in found.reading.conditions[0].text
        marked = [row.cells[0].text for row in found.figures[0].rows
                  if "suggested" in row.cells[4].text]  # fmt: skip
        assert marked == ["Exact binomial"]

    def test_unequal_spreads_turn_to_the_median_test(self) -> None:
        rng = np.random.default_rng(1)
        from tests.conftest import make_table

        values = np.concatenate([rng.normal(0, 1, 40), rng.normal(0.5, 4, 30)])
        table = make_table("t", g=["a"] * 40 + ["b"] * 30, v=values.tolist())
        data = {"kind": "two levels", "what": "v", "by": "g", "first": "a", "second": "b"}
        found = answer(
            claim(table="t", parameter="median", way="rank sum", data=data), {"t": table}
        )
        marked = [row.cells[0].text for row in found.figures[0].rows
                  if "suggested" in row.cells[4].text]  # fmt: skip
        assert marked == ["Median test"]

    def test_typed_differences(self) -> None:
        held = {"kind": "typed differences", "one": "after", "two": "before",
                "groups": [{"n": 12, "mean": 1.3, "sd": 2.1}]}  # fmt: skip
        found = answer(claim(data=held, way="paired t", alternative="greater"), {})
        t = 1.3 / (2.1 / math.sqrt(12))
        assert close(found.numbers["paired t"]["p"], stats.t(11).sf(t), rel_tol=1e-10)
        assert not any("matched" in c.text for c in found.reading.conditions)


class TestChanging:
    def test_another_parameter_brings_data_that_fit(self, tables) -> None:
        data = {"kind": "two levels", "what": "leaf mass", "by": "netting", "first": "open",
                "second": "netted"}  # fmt: skip
        s = claim(table="bushes", data=data)
        for parameter, kind, way in (
            ("proportion", "level in two groups", "z of two shares"),
            ("mean", "two levels", "welch t"),
            ("standard deviation", "two levels", "F ratio"),
        ):
            s = s.with_slot("parameter", parameter, tables).statement
            assert (s.data.kind, s.way) == (kind, way)
            assert answer(s, tables).problem is None

    def test_the_value_under_h0_follows_what_it_is_of(self, tables) -> None:
        s = claim(**LENGTH, null=62, way="one-sample t")
        assert s.with_slot("parameter", "median", tables).statement.null == 62
        spread = s.with_slot("parameter", "standard deviation", tables).statement
        assert spread.null == 1
        share = s.with_slot("parameter", "proportion", tables).statement
        assert share.null == 0.5
        with pytest.raises(StatementError, match="from 0 to 1"):
            share.with_slot("null", 1.5, tables)

    def test_z_is_offered_once_a_spread_is_known(self, tables) -> None:
        def ways(s):
            return [row.sets[1] for row in answer(s, tables).figures[0].rows]

        s = claim(**LENGTH, null=62, way="one-sample t")
        assert "z" not in ways(s)
        assert "z" in ways(s.with_slot("sigma", 9.5, tables).statement)

    @pytest.mark.parametrize(
        ("data", "says"),
        [
            ({"kind": "typed share", "groups": [{"x": 9, "n": 6}]}, "There cannot be 9 of 6."),
            ({"kind": "typed share", "groups": [{"x": 3}]}, "Type the n."),
            ({"kind": "typed shares", "groups": [{"x": 1, "n": 2}, {"x": 1}]},
             "Type the n of group 2."),
            ({"kind": "level", "what": "gone", "level": "fine"}, "There is no column “gone”"),
        ],
    )  # fmt: skip
    def test_figures_that_cannot_be(self, tables, data: dict, says: str) -> None:
        table = "" if "typed" in data["kind"] else "bushes"
        found = answer(claim(table=table, parameter="proportion", data=data), tables)
        assert says in found.problem.sentence

    def test_what_no_way_can_tell_is_said(self) -> None:
        alike = answer(claim(**typed_shares((5, 5), (7, 7)), way="z of two shares"), {})
        assert alike.reading.headline == "z cannot answer this: all cases are alike."
        sided = answer(claim(**typed_shares((13, 40), (7, 45)), alternative="less",
                             way="chi-square of two shares"), {})  # fmt: skip
        assert "has no direction" in sided.reading.headline


def test_every_way_is_tested_here_or_beside() -> None:
    """So that a new way cannot come without numbers from outside."""
    import re
    from pathlib import Path

    said = "".join(
        path.read_text(encoding="utf-8") for path in Path(__file__).parent.glob("test_*.py")
    )
    missing = [name for name in procedures() if not re.search(rf'"{re.escape(name)}"', said)]
    assert missing == []

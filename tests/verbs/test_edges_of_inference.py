"""Test, Estimate and Probability at their edges: beyond a formula's range, without variation, the other way round."""

from __future__ import annotations

import math
from itertools import product

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import Answer, answer_json
from theoros.answer.wording import to_plain
from theoros.numeric.procedures.exact_power import binomial_power, fisher_power
from theoros.numeric.procedures.shape_and_order import anderson_darling
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json

RNG = np.random.default_rng(8)


def ask(verb: str, tables=None, **slots) -> Answer:
    tables = tables or {}
    return answer(statement_from_json({"verb": verb, "table": next(iter(tables), ""), **slots}), tables)


def planning(found: Answer) -> str:
    return next(section.note for section in found.sections if section.title == "Planning")


def text(found: Answer) -> str:
    r = found.reading
    return to_plain(" ".join([r.headline, *r.paragraphs, *r.cautions, *(c.text for c in r.assumptions)]))


def shares(*pairs: tuple[int, int]) -> dict:
    if len(pairs) == 1:
        return {"kind": "typed share", "success": "s", "groups": [{"x": pairs[0][0], "n": pairs[0][1]}]}
    groups = [{"name": name, "x": x, "n": n} for name, (x, n) in zip("ab", pairs, strict=True)]
    return {"kind": "typed shares", "success": "s", "groups": groups}


# Anderson-Darling beyond its published table


def test_a_shape_far_from_normal_has_no_p_of_one() -> None:
    values = RNG.exponential(size=8000)
    assert anderson_darling(values).a_squared > 300
    found = ask("test", {"t": make_table("t", v=values.tolist())}, parameter="shape", method="anderson–darling",
                data={"kind": "one column", "what": "v"})  # fmt: skip
    assert found.numbers["anderson–darling"]["p"] == 0.0
    assert found.reading.headline.startswith("p\u00a0<\u00a00.0001, which is below")


@pytest.mark.parametrize("n", [20, 50, 100, 300, 1000, 3000, 20_000])
def test_p_of_anderson_darling_falls_as_the_shape_gets_worse(n: int) -> None:
    yes_no = np.repeat([0.0, 1.0], n // 2)
    p = [anderson_darling(np.concatenate([yes_no, RNG.normal(0.5, 0.5, k * n)])).p for k in (0, 1, 50)]
    assert p[0] <= p[1] <= p[2]
    assert p[0] < 1e-4


# quantiles that their confidence cannot be reached for


@pytest.mark.parametrize(("n", "share", "ends"), [(10, 0.9, False), (35, 0.9, False), (36, 0.9, True),
                                                  (50, 0.95, False), (5, 0.5, False), (6, 0.5, True)])  # fmt: skip
def test_no_interval_of_a_quantile_beyond_the_outermost_values(n: int, share: float, ends: bool) -> None:
    """All n values lie below the quantile with chance share^n, and all above with (1 - share)^n."""
    assert ends == (max(share, 1 - share) ** n <= 0.025)
    values = np.round(RNG.normal(12, 2, n), 2).tolist()
    for method in ("percentile", "basic", "bca", "order statistics"):
        found = ask("estimate", {"t": make_table("t", v=values)}, parameter="quantile", share=share, method=method,
                    replicates=2000, data={"kind": "one column", "what": "v"})  # fmt: skip
        assert ("confidence at most with" in found.reading.headline) != ends
        assert ("low" in found.numbers.get(method, {})) == ends


# power is that of the method that is named


def _typed(first: tuple[int, float], second: tuple[int, float]) -> dict:
    groups = [
        {"name": name, "n": n, "mean": 0.0, "sd": sd} for name, (n, sd) in zip("AB", (first, second), strict=True)
    ]
    return {"kind": "two typed samples", "measure": "v", "groups": groups}


@pytest.mark.parametrize(("first", "second", "true"), [((10, 10.0), (100, 1.0), 8), ((100, 10.0), (10, 1.0), 3)])
def test_power_of_welch_t_by_drawing(first, second, true: float) -> None:
    """Against the share of 20 000 samples in which SciPy's Welch t rejects."""
    found = ask("test", data=_typed(first, second), method="welch t", true_value=true)
    x = RNG.normal(true, first[1], (20_000, first[0]))
    y = RNG.normal(0.0, second[1], (20_000, second[0]))
    seen = (stats.ttest_ind(x, y, axis=1, equal_var=False).pvalue <= 0.05).mean()
    told = float(planning(found).split("finds it in ")[1].split("\u00a0%")[0]) / 100
    assert told == pytest.approx(seen, abs=0.015)


def test_power_with_a_known_sigma_has_no_part_of_the_sample_in_it() -> None:
    """Normal: 1 − Φ(z − √12 2/2) + Φ(−z − √12 2/2); 8 cases give 80.7 %."""
    data = {"kind": "typed values", "measure": "m", "values": "1 9 2 8 3 9 1 7 5 12 3 10"}
    found = ask("test", data=data, method="z", null=0, sigma=2, true_value=2)
    shift, z = math.sqrt(12), stats.norm.ppf(0.975)
    assert f"finds it in {100 * (stats.norm.sf(z - shift) + stats.norm.cdf(-z - shift)):.0f}\u00a0%" in planning(found)
    assert "80\u00a0%, 8 would be needed" in planning(found)


@pytest.mark.parametrize(("n", "null", "true", "claim"), [(10, 0.5, 0.8, "two-sided"), (25, 0.3, 0.1, "less"),
                                                          (40, 0.2, 0.4, "greater")])  # fmt: skip
def test_power_of_an_exact_binomial_test_by_enumeration(n: int, null: float, true: float, claim: str) -> None:
    counts = np.arange(n + 1)
    rejected = [stats.binomtest(int(x), n, null, claim).pvalue <= 0.05 for x in counts]
    right = stats.binom(n, true).pmf(counts)[rejected].sum()
    ours = "different" if claim == "two-sided" else claim
    assert binomial_power(n, null, true, 0.05, ours) == pytest.approx(right, abs=1e-12)
    found = ask("test", parameter="proportion", data=shares((n // 2, n)), method="exact binomial", null=null,
                true_value=true, alternative=ours)  # fmt: skip
    assert f"this test finds it in {100 * right:.0f}\u00a0%" in planning(found)
    needed = int(planning(found).split("80\u00a0%, ")[1].split()[0])
    assert binomial_power(needed, null, true, 0.05, ours) >= 0.8
    assert all(binomial_power(k, null, true, 0.05, ours) < 0.8 for k in range(max(2, int(0.8 * needed)), needed))


def test_power_of_fisher_exact_by_enumeration() -> None:
    right, (one, two) = 0.0, (stats.binom(9, 0.8), stats.binom(11, 0.2))
    for x, y in product(range(10), range(12)):
        if stats.fisher_exact([[x, 9 - x], [y, 11 - y]]).pvalue <= 0.05:
            right += one.pmf(x) * two.pmf(y)
    assert fisher_power(9, 11, 0.8, 0.2, 0.05, "different") == pytest.approx(right, abs=1e-12)


def test_a_method_without_a_power_of_its_own_says_whose_it_is() -> None:
    data = {"kind": "two levels", "what": "v", "by": "g", "first": "a", "second": "b"}
    table = {"t": make_table("t", v=RNG.normal(size=20).tolist(), g=["a", "b"] * 10)}
    found = ask("test", table, data=data, method="shuffled labels", replicates=200, true_value=1)
    assert "Welch t finds it in" in planning(found)
    assert "That of shuffled labels has no formula" in planning(found)


def test_a_group_of_one_value_has_no_power_and_an_answer_all_the_same() -> None:
    data = {"kind": "two levels", "what": "v", "by": "g", "first": "a", "second": "b"}
    table = {"t": make_table("t", v=[1.0, 2, 3, 4, 5.5, 7], g=["a"] + ["b"] * 5)}
    found = ask("test", table, data=data, method="shuffled labels", parameter="median", replicates=200, true_value=1)
    assert found.problem is None
    found = ask("test", table, data=data, method="shuffled labels", replicates=200, true_value=1)
    assert found.problem is None
    said = [section.note for section in found.sections if section.title == "Planning"]
    assert all("two values at least in each group" in note for note in said)


@pytest.mark.parametrize("true", [0.1, 0.3, -0.1])
def test_a_second_proportion_of_nought_has_a_power(true: float) -> None:
    found = ask(
        "test", parameter="proportion", data=shares((20, 100), (0, 100)), method="z of two shares", true_value=true
    )
    assert ("finds it in" in planning(found)) == (true > 0)
    assert ("would not lie between 0 and 1" in planning(found)) == (true < 0)


@pytest.mark.parametrize(("claim", "true", "turned"), [("greater", -1, True), ("less", 1, True), ("greater", 1, False),
                                                       ("less", -1, False), ("different", -1, False)])  # fmt: skip
def test_a_true_value_on_the_side_of_h0_is_noticed(claim: str, true: float, turned: bool) -> None:
    found = ask("test", data=_typed((20, 2.0), (20, 2.0)), alternative=claim, true_value=true)
    assert ("is on the side of H₀" in planning(found)) == turned


# chances that are small are no noughts


def test_independent_events_stay_independent_however_rare() -> None:
    situation = {"kind": "two events", "one": "a", "two": "b", "p_one": 1e-7, "p_two": 1e-7, "joined": "independent"}
    found = ask("probability", situation=situation, parts=["a and b", "a given b"], chosen=1)
    parts = found.numbers["parts"]
    assert parts["a"]["probability"] == pytest.approx(1e-14, rel=1e-12)
    assert parts["b"]["probability"] == pytest.approx(1e-7, rel=1e-12)
    assert "independent" in text(found)
    assert "exclude" not in text(found)
    situation |= {"p_one": 0.999999, "p_two": 0.999999}
    found = ask("probability", situation=situation, parts=["not a and not b"])
    assert found.numbers["parts"]["a"]["probability"] == pytest.approx(1e-12, rel=1e-9)


@pytest.mark.parametrize(("asked", "right"), [("P(Z > 1.96)", stats.norm.sf(1.96)), ("z < 2", stats.norm.cdf(2)),
                                              ("P(T ≥ 2)", stats.norm.sf(2)), ("|Z| > 1", 2 * stats.norm.sf(1)),
                                              ("P(−1 < Y < 2)", stats.norm.cdf(2) - stats.norm.cdf(-1)),
                                              ("P(Z > 2 | Z > 1)", stats.norm.sf(2) / stats.norm.sf(1))])  # fmt: skip
def test_a_variable_may_have_any_letter(asked: str, right: float) -> None:
    found = ask("probability", situation={"kind": "standard normal"}, parts=[asked])
    assert found.numbers["parts"]["a"]["probability"] == pytest.approx(right, rel=1e-12)


def test_what_is_not_understood_is_refused_where_nobody_looks() -> None:
    one = {"verb": "probability", "situation": {"kind": "standard normal"}}
    assert statement_from_json({**one, "parts": ["P(Z > 1)"]}).misread({}) == ""
    assert "is not understood" in statement_from_json({**one, "parts": ["P(Z > 1)", "soon"]}).misread({})


# how far a conclusion reaches

GROUPS = {"kind": "two levels", "what": "v", "by": "g", "first": "a", "second": "b"}
CAUSE = "because of what was done to them"


@pytest.mark.parametrize("gap", [0.0, 50.0])
def test_a_cause_is_named_only_for_groups_that_were_assigned_and_differ(gap: float) -> None:
    values = [*RNG.normal(0, 1, 20), *RNG.normal(gap, 1, 20)]
    table = make_table("t", v=values, w=RNG.normal(size=40).tolist(), g=["b"] * 20 + ["a"] * 20)
    tables = {"t": table.with_(sampling="random assignment")}
    for verb in ("test", "estimate"):
        assert (CAUSE in text(ask(verb, tables, data=GROUPS, parameter="mean"))) == (gap > 0)
        for data in ({"kind": "one column", "what": "v"}, {"kind": "two numbers", "what": "v", "against": "w"}):
            found = text(ask(verb, tables, data=data))
            assert CAUSE not in found
            assert "to their groups" not in found
    observed = {"t": table.with_(sampling="observed")}
    data = {"kind": "two numbers", "what": "v", "against": "w"}
    assert "may not represent other" in text(ask("test", observed, data=data))


def test_the_mean_of_a_whole_population_is_known() -> None:
    values = RNG.normal(50, 3, 40).tolist()
    tables = {"t": make_table("t", v=values).with_(sampling="whole population")}
    found = ask("estimate", tables, data={"kind": "one column", "what": "v"})
    assert found.reading.headline.startswith("The mean v of all rows is ")
    assert found.reading.headline.endswith("so there is nothing to estimate.")
    assert "confident" not in text(found)
    assert "nothing to estimate" in found.reading.assumptions[-1].text
    assert found.writeup == ()


# without variation in a group


def test_an_interval_of_two_shares_has_a_width_where_nothing_varies_in_a_group() -> None:
    """Newcombe's, as statsmodels has it: −1 to −0.6323."""
    found = ask("test", parameter="proportion", data=shares((0, 10), (12, 12)), method="z of two shares")
    said = next(one for one in found.reading.paragraphs if "confidence interval" in one)
    assert "from −1.00000 to −1.00000" not in said
    assert "−0.63" in said


# what a program reads


def test_words_of_tables_are_in_the_json() -> None:
    table = make_table("t", v=RNG.normal(size=30).tolist(), g=["a", "b", "c"] * 10, h=["x", "y"] * 15)
    joint = ask("probability", situation={"kind": "two events", "one": "a", "two": "b", "p_one": 0.2, "p_two": 0.3,
                                          "joined": "independent"}, parts=["a and b"])  # fmt: skip
    made = answer_json(joint)["figures"]["joint"]
    assert [row["label"] for row in made] == ["a", "not a", "all"]
    assert set(made[0]) == {"label", "b", "not b", "all"}
    found = answer_json(ask("test", {"t": table}, data={"kind": "levels", "what": "v", "by": "g"}))
    assert {row["word"] for row in found["figures"]["effects"]} <= {"very small", "small", "medium", "large"}
    assert all(row["source"] for row in found["figures"]["effects"])
    assert any("suggested" in row["conditions"] for row in found["figures"]["methods"])
    assert found["reading"]["next"]
    data = {"kind": "two factors", "what": "v", "by": "g", "and_by": "h"}
    cells = answer_json(ask("test", {"t": table}, data=data))["sections"][0]["figures"]["cells"]
    assert set(cells[0]) == {"level", "x", "y"}
    for step in found["working"]:
        assert len(step.get("latex", step["lines"])) == len(step["lines"])

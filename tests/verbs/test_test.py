"""The verb Test: figures against SciPy, sentences read as a strict lecturer would."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import answer_json
from theoros.answer.wording import to_plain
from theoros.numeric.density import normal_scores
from theoros.table.table import GOT
from theoros.verbs.assumptions.assumption import assumption_checks, checked, summed_up
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import TwoSamples
from theoros.verbs.parameters.mean import MEAN
from theoros.verbs.parameters.median import MEDIAN
from theoros.verbs.parameters.parameter import parameters
from theoros.verbs.procedures.procedure import procedures
from theoros.verbs.test.statement import TestStatement

SLOW = [35.1, 36.2, 34.0, 37.3, 35.8, 33.9, 36.6, 35.0]
QUICK = [32.0, 33.1, 31.2, 34.4, 32.5, 33.3]
TRAYS = {
    "trays": make_table(
        "trays", "tray", withering=["slow"] * 8 + ["quick"] * 6, loss=SLOW + QUICK, shelf=["top", "low"] * 7
    ),
    "pairs": make_table(
        "pairs", "taster", before=[60.0, 71, 55, 64, 68, None, 59], after=[64.0, 75, 54, 70, 69, 70, 66]
    ),
}


def ask(**slots) -> TestStatement:
    start = {
        "table": "trays",
        "what": "loss",
        "by": "withering",
        "first": "slow",
        "second": "quick",
        "claim": "greater",
        "replicates": 2000,
    }
    return make("test", **{**start, **slots})


def way_figures(statement: TestStatement) -> dict[str, dict]:
    made = answer_json(answer(statement, TRAYS))
    return {row["method"]: row for row in made["figures"]["methods"]}


@pytest.mark.parametrize(
    ("claim", "alternative"), [("greater", "greater"), ("less", "less"), ("different", "two-sided")]
)
@pytest.mark.parametrize("null", [0.0, 1.2])
def test_every_way_against_scipy(claim: str, alternative: str, null: float) -> None:
    rows = way_figures(ask(claim=claim, null=null))
    x, y = np.array(SLOW) - null, np.array(QUICK)
    for name, equal in (("welch t", False), ("pooled t", True)):
        ref = stats.ttest_ind(x, y, equal_var=equal, alternative=alternative)
        assert rows[name]["p"] == pytest.approx(ref.pvalue, rel=1e-9)
        assert rows[name]["statistic"] == pytest.approx(ref.statistic, rel=1e-9)
    shifted = np.round(x, 10)
    if np.unique(np.concatenate([shifted, y])).size == 14:
        ref = stats.mannwhitneyu(shifted, y, alternative=alternative, method="exact")
        assert rows["rank sum"]["p"] == pytest.approx(ref.pvalue, rel=1e-9)
    ref = stats.permutation_test(
        (x, y),
        lambda a, b, axis: a.mean(axis) - b.mean(axis),
        vectorized=True,
        n_resamples=np.inf,
        alternative=alternative,
    )
    # every one of the 3003 arrangements against 2000 shuffles: four standard errors
    assert rows["shuffled labels"]["p"] == pytest.approx(ref.pvalue, abs=0.045)


def test_matched_pairs_against_scipy() -> None:
    statement = ask(
        table="pairs",
        groups="columns",
        what="after",
        other="before",
        by=None,
        first=None,
        second=None,
        design="matched",
        method="paired t",
    )
    gaps = np.array([4.0, 4, -1, 6, 1, 7])
    rows = way_figures(statement)
    ref = stats.ttest_1samp(gaps, 0, alternative="greater")
    assert rows["paired t"]["p"] == pytest.approx(ref.pvalue, rel=1e-9)
    found = answer(statement, TRAYS)
    assert found.used == 6
    assert found.left_out == ("1 row left out: after or before is missing",)
    assert "the mean of the differences, after minus before, is greater than 0" in str(found.reading.paragraphs)
    assert to_plain(found.symbols[0].text) == "H₀: μd = 0"


def test_two_columns_as_separate_samples() -> None:
    statement = ask(table="pairs", groups="columns", what="after", other="before", design="separate")
    rows = way_figures(statement)
    ref = stats.ttest_ind(
        [64.0, 75, 54, 70, 69, 70, 66], [60.0, 71, 55, 64, 68, 59], equal_var=False, alternative="greater"
    )
    assert rows["welch t"]["p"] == pytest.approx(ref.pvalue, rel=1e-9)
    text = answer(statement, TRAYS).reading.paragraphs[0]
    assert "the mean after is greater than the mean before" in text


def test_the_conclusion_when_rejected() -> None:
    reading = answer(ask(), TRAYS).reading
    assert to_plain(reading.headline) == "p = 0.0005 is below α = 0.05. Reject H₀."
    conclusion, interval = reading.paragraphs
    assert conclusion == (
        "There is enough evidence, at the 5\u00a0% significance level, that the mean loss of slow trays "
        "is greater than that of quick trays."
    )
    assert interval.startswith("The 90\u00a0% confidence interval for the difference of the means ")


def test_the_conclusion_when_not_rejected() -> None:
    statement = ask(by="shelf", first="top", second="low", claim="different", alpha=0.01)
    reading = answer(statement, TRAYS).reading
    assert "Do not reject" in reading.headline
    assert reading.paragraphs[0].startswith("There is not enough evidence, at the 1\u00a0%")
    assert "is different from that of low trays" in reading.paragraphs[0]
    assert "does not show that H_{0} is true" in reading.paragraphs[1]


@pytest.mark.parametrize("claim", ["less", "greater", "different"])
@pytest.mark.parametrize("null", [0.0, -2.5])
@pytest.mark.parametrize("centre", ["mean", "median"])
def test_nothing_is_ever_accepted_or_the_same(claim: str, null: float, centre: str) -> None:
    for first, second in (("slow", "quick"), ("quick", "slow")):
        found = answer(
            ask(
                claim=claim,
                null=null,
                centre=centre,
                first=first,
                second=second,
                method="welch t" if centre == "mean" else "rank sum",
            ),
            TRAYS,
        )
        reading = found.reading
        words = " ".join((reading.headline, *reading.paragraphs, *reading.cautions)).lower()
        words += " ".join(line for step in found.writeup for line in step.to_lines()).lower()
        for never in ("accept", "the same", "cause", "prove", "no difference between"):
            assert never not in words
        other = "median" if centre == "mean" else "mean"
        assert f"the {other} " not in reading.paragraphs[0]
        assert found.symbols[0].text.startswith("H_{0}: " + ("μ" if centre == "mean" else "η"))


def test_a_difference_under_h0_is_said_with_its_unit() -> None:
    table = TRAYS["trays"]
    column = replace(table.column("loss"), unit="%")
    tables = {"trays": table.with_(columns=(table.columns[0], column, table.columns[2]))}
    statement = ask(null=2.0)
    assert statement.text(tables) == (
        "Test whether the mean of loss (%) for slow minus that for quick is greater than "
        "2\u00a0percentage points, at α = 0.05, by Welch t."
    )
    conclusion = answer(statement, tables).reading.paragraphs[0]
    assert "minus that of quick trays is greater than 2\u00a0percentage points" in conclusion
    assert to_plain(answer(statement, tables).symbols[1].text) == "H₁: μ slow − μ quick > 2"


def test_the_lean_warns_of_a_claim_that_points_the_wrong_way() -> None:
    with_claim = answer(ask(), TRAYS)
    assert with_claim.symbols[2].tone == "good"
    wrong = answer(ask(claim="less"), TRAYS)
    assert wrong.symbols[2].tone == "bad"
    assert "are the groups in the right order?" in wrong.symbols[2].text
    swap = next(link for link in wrong.reading.next if link.label.startswith("Swap the two groups, if"))
    assert (swap.statement.data.first, swap.statement.data.second) == ("quick", "slow")
    assert any("points against the claim" in text for text in wrong.reading.cautions)
    interval = next(text for text in wrong.reading.paragraphs if "interval" in text)
    assert interval.endswith("it lies above 0, the value under H_{0}, on the side opposite to the claim.")
    same = {"t": make_table("t", g=["a", "a", "b", "b"], v=[1.0, 2, 1, 2])}
    level = answer(make("test", table="t", what="v", by="g", first="a", second="b"), same)
    assert level.symbols[2].text == "the sample shows no difference in either direction"


def test_ways_and_what_they_compare_follow_each_other() -> None:
    to_ranks = ask().with_slot("method", "rank sum", TRAYS)
    assert to_ranks.statement.parameter == "median"
    assert to_ranks.notes == ("Rank sum compares medians, so “mean” became “median”.",)
    to_mean = to_ranks.statement.with_slot("parameter", "mean", TRAYS)
    assert to_mean.statement.method == "welch t"
    assert "the method is now Welch t" in to_mean.notes[0]
    shuffled = to_ranks.statement.with_slot("method", "shuffled labels", TRAYS)
    assert (shuffled.statement.parameter, shuffled.notes) == ("median", ())


def test_choosing_the_other_group_swaps_them() -> None:
    swapped = ask().with_slot("data.first", "quick", TRAYS)
    assert (swapped.statement.data.first, swapped.statement.data.second) == ("quick", "slow")
    assert swapped.notes == ("The two groups were swapped.",)
    moved = ask().with_slot("data.first", "shelf\x1ftop", TRAYS).statement.data
    assert (moved.by, moved.first, moved.second) == ("shelf", "top", "low")


def test_matched_rows_of_a_long_table_are_explained() -> None:
    found = answer(ask(design="matched"), TRAYS)
    assert found.problem is not None
    assert "Matched values belong together in one row" in found.problem.sentence
    assert "the pairs of slow and quick values are not known" in found.problem.sentence


def test_matched_columns_take_paired_ways() -> None:
    separate = ask(table="pairs", groups="columns", what="after", other="before", by=None)
    matched = separate.with_slot("data.design", "matched", TRAYS)
    assert matched.statement.method == "paired t"
    assert matched.notes == ("The method is now paired t.",)
    back = matched.statement.with_slot("data.design", "separate", TRAYS).statement
    assert back.method == "welch t"


def test_units_must_agree_between_columns() -> None:
    table = TRAYS["pairs"]
    columns = (replace(table.columns[0], unit="g"), table.columns[1])
    tables = {"pairs": table.with_(columns=columns)}
    found = answer(ask(table="pairs", groups="columns", what="after", other="before"), tables)
    assert "after is in no unit and before in g" in found.problem.sentence


def sample(values: list[float], label: str = "slow") -> Sample:
    return Sample(label, f"{label} trays", np.array(values, dtype=float), np.arange(len(values)))


def two(first: Sample, second: Sample, unit: str, decimals: int) -> TwoSamples:
    return TwoSamples(measure="loss", unit=unit, decimals=decimals, first=first, second=second)


def test_conditions_in_words() -> None:
    odd = sample([*SLOW, 61.5])
    samples = two(odd, sample(QUICK, "quick"), "%", 1)
    found = checked(("normal", "outliers", "spreads"), samples, MEAN)
    assert [check.mark for check in found] == ["fails", "judge", "judge", "holds", "fails"]
    assert found[0].text.startswith("slow does not look normal (Shapiro–Wilk p\u00a0")
    assert found[1].text.startswith("quick: 6 values are too few to judge the shape; there is no clear sign")
    assert found[2].text == "slow: 1 value far outside the fences: row 9 (61.5)"
    assert found[2].rows == (8,)
    assert "slow has the larger spread: SD" in found[4].text
    told, mark = summed_up(found)
    assert (told, mark) == ("fail: slow not normal, spreads differ", "fails")
    assert checked(("pull", "alike"), samples, MEAN)[0].text == "1 outlier moves the mean"
    assert checked(("pull",), samples, MEDIAN) == []


def skewed(n: int, power: float) -> list[float]:
    """So many values of a shape without chance: quantiles of a normal curve, bent."""
    return [math.exp(power * z) for z in normal_scores(n).tolist()]


@pytest.mark.parametrize(
    ("n", "power", "mark", "told"),
    [
        (10, 0.2, "judge", "10 values are too few to judge the shape"),
        (10, 2.0, "fails", "which matters with 10 values"),
        (20, 0.1, "holds", "no strong skewness (skewness 0.2)"),
        (20, 0.5, "judge", "slow is skewed to the right (skewness 1.1): about the most that 20 values"),
        (20, 1.0, "fails", "slow is strongly skewed to the right: skewness 2.1, strong for 20 values"),
        (100, 0.4, "holds", "with 100 values the sample mean is nearly normal"),
        (100, 0.6, "judge", "about the most that 100 values allow"),
        (100, 1.0, "fails", "too strong for 100 values"),
        (500, 0.75, "holds", "with 500 values the sample mean is nearly normal"),
    ],
)
def test_the_larger_a_sample_the_more_of_its_shape_is_borne(n, power, mark, told) -> None:
    samples = two(sample(skewed(n, power)), sample(QUICK, "quick"), "%", 1)
    found = checked(("normal",), samples, MEAN)[0]
    assert (found.mark, told in found.text) == (mark, True), found.text


@pytest.mark.parametrize(("wide", "mark"), [(1.2, "holds"), (1.7, "judge"), (3.0, "fails")])
def test_spreads_must_be_alike_for_medians(wide: float, mark: str) -> None:
    scores = normal_scores(20)
    samples = two(sample(scores.tolist()), sample((scores * wide).tolist(), "quick"), "%", 1)
    (check,) = checked(("alike",), samples, MEDIAN)
    assert check.mark == mark
    assert checked(("alike",), samples, MEAN) == []


def test_the_suggestion_keeps_to_the_question_that_was_asked() -> None:
    odd = {"trays": make_table("trays", "tray", v=[*skewed(20, 1.4), *skewed(20, 1.4)], g=["a"] * 20 + ["b"] * 20)}
    for parameter, suggested in (("mean", "shuffled labels"), ("median", "rank sum")):
        asked = make(
            "test", table="trays", what="v", by="g", first="a", second="b", parameter=parameter, replicates=200
        )
        methods = answer(asked, odd).figures[0]
        best = [row for row in methods.rows if "suggested" in row.cells[-1].text]
        assert [row.cells[0].value for row in best] == [suggested]
    found = answer(make("test", table="trays", what="v", by="g", first="a", second="b"), odd)
    links = {link.label: link for link in found.reading.next}
    other = links["Ask about the medians instead (another question)"]
    assert other.sets == ("parameter", "median")
    assert "A condition of Welch t fails: see what to do under Next." in found.reading.cautions
    instead = links["Use shuffled labels instead, which is suggested here"]
    assert instead.sets == ("method", "shuffled labels")
    assert links["Compare the shape with a normal distribution"].statement.shape == "normal quantiles"


def test_no_decision_where_no_p_could_reach_alpha() -> None:
    few = {"t": make_table("t", "tray", g=["a"] + ["b"] * 4, v=[1.0, 5, 6, 7, 8])}
    asked = make("test", table="t", what="v", by="g", first="a", second="b", parameter="median",
                 method="rank sum", alternative="less")  # fmt: skip
    reading = answer(asked, few).reading
    assert reading.headline == (
        "p\u00a0=\u00a00.2000. No decision at α = 0.05: with so few values p cannot be below 0.2000."
    )
    assert reading.paragraphs[0].startswith("It cannot be decided yet whether the median v of ")
    assert reading.paragraphs[0].endswith("More values are needed.")


def test_few_shuffles_decide_nothing_below_what_they_can_show() -> None:
    """Exact p 0.0159, α 0.01: with all 126 arrangements no seed can reject."""
    table = {"t": make_table("t", "tray", g=list("aaaabbbbb"), v=[1.0, 2, 3, 5, 4, 6, 7, 8, 9])}
    for seed in range(20):
        asked = make("test", table="t", what="v", by="g", first="a", second="b",
                     parameter="median", method="shuffled labels", alternative="less", alpha=0.01,
                     replicates=100, seed=seed)  # fmt: skip
        assert "Reject" not in answer(asked, table).reading.headline
    every = answer(asked, table)
    assert every.picture.frames[1].title == "If H₀ is true: all 126 arrangements"
    p = next(row for row in every.figures[0].rows if row.chosen).cells[3].value
    x, y = np.array([1.0, 2, 3, 5]), np.array([4.0, 6, 7, 8, 9])
    by_scipy = stats.permutation_test(
        (x, y),
        lambda a, b, axis: np.median(a, axis=axis) - np.median(b, axis=axis),
        alternative="less",
        n_resamples=np.inf,
        vectorized=True,
    )
    assert p == pytest.approx(by_scipy.pvalue)


@pytest.mark.parametrize("sampling", sorted(set(GOT) - {"whole population"}))
def test_how_the_rows_were_got_says_how_far_a_conclusion_reaches(sampling: str) -> None:
    tables = {"trays": TRAYS["trays"].with_(sampling=sampling)}
    found = answer(ask(), tables)
    text = " ".join(c.text for c in found.reading.assumptions)
    last = " ".join(found.writeup[-1].to_lines())  # the suggested test rejects
    told = {
        "": ("", ""),
        "random sample": ("the trays are a random sample", "applies to the population they were drawn from"),
        "random assignment": ("assigned to their groups at random", "differ because of what was done to them"),
        "observed": ("not chosen at random", "so the difference may have another cause"),
    }[sampling]
    assert told[0] in text
    assert told[1] in last
    assert (len(found.writeup[-1].to_lines()) == 2) == bool(sampling)


def test_where_the_rows_are_all_there_are_nothing_is_tested() -> None:
    found = answer(ask(), {"trays": TRAYS["trays"].with_(sampling="whole population")})
    assert found.reading.headline.startswith("The table is the whole population, so there is nothing to test: ")
    assert "reject" not in " ".join((found.reading.headline, *found.reading.paragraphs)).lower()
    assert found.writeup == ()
    assert [s for s in found.sections if "confidence" in (s.title + s.note)] == []


def test_fences_by_hand_for_the_outlier_above() -> None:
    # slow with 61.5: halves 33.9 34.0 35.0 35.1 | 35.8 | 36.2 36.6 37.3 61.5
    # Q1 34.5, Q3 36.95, IQR 2.45, upper fence 40.625 by halves
    s = sample([*SLOW, 61.5]).summary
    assert (s.q1, s.q3) == pytest.approx((34.5, 36.95))
    assert s.upper_fence == pytest.approx(40.625)


def test_large_samples_do_not_fail_for_their_shape() -> None:
    values = np.random.default_rng(0).exponential(size=200)
    many = two(sample(values.tolist()), sample(values.tolist(), "quick"), "", 3)
    marks = {check.mark for check in checked(("normal",), many, MEAN)}
    assert marks == {"holds"}


def test_small_samples_are_left_to_judgement() -> None:
    few = two(sample([1.0, 2.0]), sample([3.0, 3.0, 3.0], "quick"), "", 0)
    marks = [check.mark for check in checked(("normal",), few, MEAN)]
    assert marks == ["judge", "fails"]


def test_a_simulation_keeps_its_seed_and_first_shuffles() -> None:
    one = ask(method="shuffled labels", seed=5)
    assert way_figures(one) == way_figures(one)
    other = way_figures(replace(one, seed=6))["shuffled labels"]["p"]
    assert abs(other - way_figures(one)["shuffled labels"]["p"]) < 0.03


def test_a_p_of_nought_is_said_honestly() -> None:
    far = {"t": make_table("t", g=["a"] * 9 + ["b"] * 9, v=[*range(9), *range(100, 109)])}
    statement = make("test", table="t", what="v", by="g", first="b", second="a", claim="greater",
                     method="shuffled labels", replicates=1000)  # fmt: skip
    reading = answer(statement, far).reading
    assert "p = 0.0010 is below" in to_plain(reading.headline)  # 1 in 1001
    assert any("None of 1000 shuffles was as extreme" in text for text in reading.cautions)


def test_the_five_steps() -> None:
    steps = answer(ask(design="separate"), TRAYS).writeup
    assert [step.title[:2] for step in steps] == ["1.", "2.", "3.", "4.", "5."]
    text = to_plain("\n".join(line for step in steps for line in step.to_lines()))
    assert "μ slow is the mean loss of all slow trays" in text
    assert "✓ the two samples were picked separately" in text
    assert "α = 0.05, by Welch t." in text


def test_every_way_has_words() -> None:
    for method in procedures().values():
        assert method.help.endswith(".")
        assert set(method.compares) <= set(parameters())
        assert set(method.needs) <= set(assumption_checks())


def test_a_parameter_without_a_procedure_is_not_offered(monkeypatch) -> None:
    from dataclasses import replace as changed

    from theoros.verbs.parameters import parameter

    known = dict(parameter.parameters())
    known["midhinge"] = changed(known["median"], name="midhinge")
    monkeypatch.setattr(parameter, "parameters", lambda: known)
    statement = make("test", table="trays", what="loss", by="shed")
    slot = next(s for s in statement.slots({}) if s.name == "parameter")
    offered = [option.value for option in slot.holds.options]
    assert offered[:2] == ["mean", "median"]
    assert "midhinge" not in offered

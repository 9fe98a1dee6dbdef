"""The verb Estimate: every way against a source outside, what follows from what, and the words."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from tests.conftest import make_table
from theoros.answer.glossary import term_of
from theoros.answer.parts import Answer
from theoros.verbs.core.answering import answer, drafts
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.estimate.statement import EstimateStatement
from theoros.verbs.procedures.bootstrap_intervals import drawn_of
from theoros.verbs.procedures.procedure import Question, procedures
from theoros.verbs.procedures.resampled_data import resample_of

RNG = np.random.default_rng(8)
X, Y = RNG.gamma(4, 2, 40).round(2), RNG.gamma(3, 2, 33).round(2)
ALONG = RNG.normal(20, 4, 36).round(2)
UP = (0.6 * ALONG + RNG.normal(0, 3, 36)).round(2)
TABLES = {
    "t": make_table("t", "tray", loss=[*X, *Y], shed=["north"] * 40 + ["south"] * 33, one=["all"] * 73),
    "pairs": make_table("pairs", "bush", along=ALONG.tolist(), up=UP.tolist()),
    "line": make_table("line", "bush", along=[1.0, 2, 3, 4, 5, 6], up=[2.0, 4, 6, 8, 10, 12]),
    "three": make_table("three", "tray", loss=[1.0, 2.0, 4.0], one=[5.0, 5.0, 5.0]),
}
ONE = {"table": "t", "data": {"kind": "two levels", "what": "loss", "by": "shed", "first": "north", "second": "south"}}
JADE = {"kind": "typed share", "success": "Jade", "cases": "guests", "groups": [{"x": 33, "n": 60}]}


def one(values: np.ndarray, **more) -> dict:
    """An estimate from one column of its own."""
    TABLES["own"] = make_table("own", "tray", loss=np.asarray(values).tolist())
    return {"table": "own", "data": {"kind": "one column", "what": "loss"}, **more}


def ask(**slots) -> Answer:
    return answer(statement_from_json({"verb": "estimate", **slots}), TABLES)


def ends(method: str, **slots) -> tuple[float, float]:
    found = ask(method=method, **slots)
    assert found.problem is None, found.problem
    assert method in found.numbers, found.reading.headline
    return found.numbers[method]["low"], found.numbers[method]["high"]


LEVELS = (0.8, 0.95, 0.99)


@pytest.mark.parametrize("level", LEVELS)
class TestAgainstScipy:
    def test_one_mean(self, level: float) -> None:
        expected = stats.ttest_1samp(X, 0).confidence_interval(level)
        assert ends("one-sample t", **one(X, confidence=level)) == pytest.approx(tuple(expected), rel=1e-10)
        law = stats.norm(X.mean(), 3.5 / math.sqrt(X.size))
        got = ends("z", **one(X, confidence=level, sigma=3.5))
        assert got == pytest.approx(law.interval(level), rel=1e-10)

    def test_two_means(self, level: float) -> None:
        for method, equal in (("welch t", False), ("pooled t", True)):
            expected = stats.ttest_ind(X, Y, equal_var=equal).confidence_interval(level)
            got = ends(method, **ONE, confidence=level)
            assert got == pytest.approx(tuple(expected), rel=1e-9)
        law = stats.norm(X.mean() - Y.mean(), math.sqrt(9 / X.size + 16 / Y.size))
        got = ends("two-sample z", **ONE, confidence=level, sigma=3, other_sigma=4)
        assert got == pytest.approx(law.interval(level), rel=1e-9)

    def test_pairs(self, level: float) -> None:
        expected = stats.ttest_rel(ALONG, UP).confidence_interval(level)
        data = {"kind": "pairs", "what": "along", "other": "up"}
        got = ends("paired t", table="pairs", data=data, confidence=level)
        assert got == pytest.approx(tuple(expected), rel=1e-10)

    def test_medians_and_quantiles(self, level: float) -> None:
        for parameter, share in (("median", 0.5), ("quantile", 0.8)):
            expected = stats.quantile_test(X, p=share).confidence_interval(level)
            got = ends("order statistics", **one(X, confidence=level, parameter=parameter, share=share))
            assert got == tuple(expected)

    def test_one_proportion(self, level: float) -> None:
        for method, theirs in (("wilson", "wilson"), ("clopper–pearson", "exact")):
            expected = stats.binomtest(33, 60).proportion_ci(level, method=theirs)
            got = ends(method, parameter="proportion", data=JADE, confidence=level)
            assert got == pytest.approx((expected.low, expected.high), rel=1e-8)

    def test_ratios(self, level: float) -> None:
        data = {"kind": "typed shares", "groups": [{"x": 33, "n": 60}, {"x": 20, "n": 50}]}
        odds = stats.contingency.odds_ratio([[33, 27], [20, 30]], kind="sample")
        got = ends("log ratio", parameter="odds ratio", data=data, confidence=level)
        assert got == pytest.approx(tuple(odds.confidence_interval(level)), rel=1e-9)
        risk = stats.contingency.relative_risk(33, 60, 20, 50)
        got = ends("log ratio", parameter="risk ratio", data=data, confidence=level)
        assert got == pytest.approx(tuple(risk.confidence_interval(level)), rel=1e-9)

    def test_spreads(self, level: float) -> None:
        df, tails = X.size - 1, np.array([(1 + level) / 2, (1 - level) / 2])
        squares = df * X.var(ddof=1) / stats.chi2(df).ppf(tails)
        got = ends("chi-square of a variance", **one(X, confidence=level, parameter="variance"))
        assert got == pytest.approx(tuple(squares), rel=1e-10)
        got = ends("chi-square of a variance", **one(X, confidence=level, parameter="standard deviation"))
        assert got == pytest.approx(tuple(np.sqrt(squares)), rel=1e-10)
        ratio = X.std(ddof=1) / Y.std(ddof=1)
        law = stats.f(X.size - 1, Y.size - 1)
        got = ends("F ratio", **ONE, confidence=level, parameter="ratio of standard deviations")
        assert got == pytest.approx(tuple(ratio / np.sqrt(law.ppf(tails))), rel=1e-9)

    def test_associations(self, level: float) -> None:
        data = {"kind": "two numbers", "what": "up", "against": "along"}
        expected = stats.pearsonr(ALONG, UP).confidence_interval(level)
        got = ends("fisher z", table="pairs", data=data, parameter="correlation", confidence=level)
        assert got == pytest.approx(tuple(expected), rel=1e-9)
        typed = {"kind": "typed correlation", "n": 36, "r": float(stats.pearsonr(ALONG, UP)[0])}
        again = ends("fisher z", data=typed, parameter="correlation", confidence=level)
        assert again == pytest.approx(got, rel=1e-9)
        line = stats.linregress(ALONG, UP)
        reach = stats.t(34).isf((1 - level) / 2) * line.stderr
        got = ends("t of a slope", table="pairs", data=data, parameter="slope", confidence=level)
        assert got == pytest.approx((line.slope - reach, line.slope + reach), rel=1e-9)

    def test_resampling(self, level: float) -> None:
        """Another 100 000 resamples, SciPy's; the ends differ by what chance does to a pile."""
        for method, theirs in (("percentile", "percentile"), ("basic", "basic"), ("bca", "BCa")):
            expected = stats.bootstrap((X,), np.mean, n_resamples=100_000, method=theirs, confidence_level=level, rng=1)
            got = ends(method, **one(X, confidence=level, replicates=100_000))
            near = 0.06 * float(expected.standard_error)
            assert got == pytest.approx(tuple(expected.confidence_interval), abs=near)

    def test_two_samples_resampled(self, level: float) -> None:
        expected = stats.bootstrap(
            (X, Y),
            lambda a, b, axis: a.std(axis=axis, ddof=1) / b.std(axis=axis, ddof=1),
            n_resamples=50_000,
            method="BCa",
            confidence_level=level,
            rng=1,
        )
        got = ends("bca", **ONE, parameter="ratio of standard deviations", confidence=level, replicates=50_000)
        near = 0.08 * float(expected.standard_error)
        assert got == pytest.approx(tuple(expected.confidence_interval), abs=near)


def test_the_bootstrap_t_as_efron_and_tibshirani_have_it() -> None:
    """θ̂ − t* SE with t* from 200 000 draws of our own formula, worked out apart."""
    rng = np.random.default_rng(4)
    drawn = X[rng.integers(0, X.size, (200_000, X.size))]
    t = (drawn.mean(axis=1) - X.mean()) / (drawn.std(axis=1, ddof=1) / math.sqrt(X.size))
    error = X.std(ddof=1) / math.sqrt(X.size)
    expected = X.mean() - np.quantile(t, [0.975, 0.025]) * error
    got = ends("bootstrap t", **one(X, replicates=100_000))
    assert got == pytest.approx(tuple(expected), abs=0.05 * error)


@pytest.mark.parametrize("method", ["one-sample t", "percentile", "bca"])
def test_a_bound_is_the_end_of_a_wider_interval(method: str) -> None:
    low, high = ends(method, **one(X, confidence=0.9))
    assert ends(method, **one(X, confidence=0.95, bound="lower")) == (pytest.approx(low), math.inf)
    assert ends(method, **one(X, confidence=0.95, bound="upper")) == (-math.inf, pytest.approx(high))


def test_a_bound_against_scipy() -> None:
    expected = stats.ttest_1samp(X, 0, alternative="greater").confidence_interval(0.9)
    assert ends("one-sample t", **one(X, confidence=0.9, bound="lower"))[0] == pytest.approx(expected.low)
    share = stats.binomtest(33, 60, alternative="less").proportion_ci(0.95, method="exact")
    got = ends("clopper–pearson", parameter="proportion", data=JADE, bound="upper")
    assert got == (0.0, pytest.approx(share.high))


def test_every_way_has_words_and_a_name_of_its_own() -> None:
    for method in procedures("interval").values():
        assert method.help.endswith(".")
        assert method.compares
        assert method.families


class TestWhatFollows:
    @pytest.mark.parametrize("method", ["one-sample t", "z", "percentile", "basic", "bca"])
    @pytest.mark.parametrize("given", ["low", "high", "margin"])
    def test_the_confidence_follows(self, method: str, given: str) -> None:
        mean, error = float(X.mean()), float(X.std(ddof=1) / math.sqrt(X.size))
        value = {"low": mean - 1.3 * error, "high": mean + 1.3 * error, "margin": 1.3 * error}[given]
        found = ask(method=method, **one(X, sigma=3.5, **{given: round(value, 4)}))
        low, high = found.numbers[method]["low"], found.numbers[method]["high"]
        got = {"low": low, "high": high, "margin": (high - low) / 2}[given]
        assert got == pytest.approx(value, abs=0.01 * error)
        assert 0.7 < found.numbers[method]["confidence"] < 0.95
        assert "the confidence level is" in found.reading.paragraphs[0]

    @given(st.floats(0.02, 4))
    @settings(max_examples=25, deadline=None)
    def test_it_is_that_of_t(self, off: float) -> None:
        error = float(X.std(ddof=1) / math.sqrt(X.size))
        found = ask(method="one-sample t", **one(X, margin=off * error))
        told = found.numbers["one-sample t"]["confidence"]
        assert told == pytest.approx(1 - 2 * stats.t(X.size - 1).sf(off), abs=1e-9)

    def test_what_cannot_be_is_said_in_place(self) -> None:
        for slot, value in (("low", 99.0), ("high", 0.5)):
            problem = ask(method="one-sample t", **one(X, **{slot: value})).problem
            assert problem.slot == slot
            assert problem.sentence.startswith("The lower" if slot == "low" else "The upper")
        far = ask(method="percentile", **one(X, replicates=200, low=0.001)).problem
        assert "even the widest interval" in far.sentence

    def test_setting_one_lets_the_others_go(self) -> None:
        s = statement_from_json({"verb": "estimate", **one(X)})
        lower = s.with_slot("low", 6.0, TABLES).statement
        assert (lower.given, lower.low) == ("low", 6.0)
        margin = lower.with_slot("margin", 1.0, TABLES).statement
        assert (margin.given, margin.low) == ("margin", None)
        sure = margin.with_slot("confidence", 0.9, TABLES).statement
        assert (sure.given, sure.confidence) == (None, 0.9)
        assert lower.with_slot("low", None, TABLES).statement.given is None
        dragged = lower.with_slots({"high": 9.0})
        assert (dragged.given, dragged.low) == ("high", None)

    def test_confidence_is_typed_in_any_way(self) -> None:
        s = statement_from_json({"verb": "estimate", **one(X)})
        holds = s.slot("confidence", TABLES).holds
        for text in ("90 %", "0.9", "90", "90%", "9/10"):
            value, problem = holds.read(text)
            assert (float(value), problem) == (0.9, "")
        assert holds.typed(0.95) == "95 %"
        for text in ("0", "100", "100 %", "1", "-5", "much"):
            assert holds.read(text)[1], text

    def test_tails_set_apart(self) -> None:
        low, high = ends("percentile", **one(X, confidence=0.9, below=0.02))
        pile = ask(method="percentile", **one(X, confidence=0.96)).numbers["percentile"]
        assert low == pile["low"]  # 2 % are left out below either way
        other = ask(method="percentile", **one(X, confidence=0.84)).numbers["percentile"]
        assert high == other["high"]
        said = ask(method="percentile", **one(X, confidence=0.9, below=0.2)).reading.headline
        assert "not more than the 20\u00a0% below" in said


class TestBadInput:
    @pytest.mark.parametrize(
        ("slots", "says"),
        [
            ({"parameter": "median", "method": "order statistics", "confidence": 0.99},
             "it reaches 75\u00a0% confidence at most with 3 values"),
            ({"parameter": "median", "method": "order statistics",
              "data": {"kind": "one column", "what": "one"}}, "all values are equal"),
            ({"table": "line", "parameter": "correlation", "method": "percentile",
              "data": {"kind": "two numbers", "what": "up", "against": "along"}},
             "every resample gives the same estimate"),
            ({"table": "t", "method": "bonferroni t", "data": {
                "kind": "levels", "what": "loss", "by": "one"}}, "needs at least two groups"),
            ({"method": "percentile"}, "it needs at least 5 values"),
            ({"data": {"kind": "one column", "what": "one"}}, "all values are equal"),
            ({"data": {"kind": "one column", "what": "one"}, "parameter": "variance",
              "method": "chi-square of a variance"}, "all values are equal"),
        ],
    )  # fmt: skip
    def test_few_or_equal_values(self, slots, says: str) -> None:
        about = {"table": "three", "data": {"kind": "one column", "what": "loss"}, "method": "one-sample t"}
        assert says in ask(**{**about, **slots}).reading.headline

    @pytest.mark.parametrize(
        ("x", "method", "says"),
        [
            (0, "normal share", "all cases are equal"),
            (60, "normal share", "all cases are equal"),
            (0, "percentile of shares", "every resample is the same"),
        ],
    )
    def test_none_or_all(self, x: int, method: str, says: str) -> None:
        data = {**JADE, "groups": [{"x": x, "n": 60}]}
        found = ask(parameter="proportion", data=data, method=method)
        assert says in found.reading.headline
        assert 0 <= found.numbers["wilson"]["low"] < found.numbers["wilson"]["high"] <= 1

    def test_ends_keep_to_what_is_possible(self) -> None:
        data = {**JADE, "groups": [{"x": 1, "n": 60}]}
        found = ask(parameter="proportion", data=data, method="normal share")
        assert found.numbers["normal share"]["low"] == 0.0
        assert "gives an impossible value, so the lower end" in " ".join(found.reading.cautions)
        assert "lies between 0.000 and 0.049" in found.reading.headline

    def test_a_parameter_that_data_do_not_have(self) -> None:
        data = {"kind": "two numbers", "what": "up", "against": "along"}
        problem = ask(table="pairs", parameter="mean", method="percentile", data=data).problem
        assert problem.slot in ("parameter", "method")

    def test_counts_are_not_negative(self) -> None:
        mites = np.array([0, 0, 1, 0, 5, 0, 0, 2], dtype=float)
        found = ask(method="one-sample t", **one(mites, confidence=0.99))
        assert found.numbers["one-sample t"]["low"] == 0.0
        assert "Counts cannot be negative" in " ".join(found.reading.cautions)
        below = ask(method="one-sample t", **one(mites - 1, confidence=0.99))
        assert below.numbers["one-sample t"]["low"] < 0

    def test_slots_refuse_what_cannot_be(self) -> None:
        s = statement_from_json({"verb": "estimate", **one(X), "method": "percentile"})
        for slot, value in (
            ("confidence", 0.0),
            ("confidence", 1.0),
            ("margin", 0.0),
            ("sigma", 0.0),
            ("replicates", 0),
            ("planned", 1),
        ):
            with pytest.raises(StatementError):
                s.with_slot(slot, value, TABLES)

    def test_too_few_resamples_ask_for_more(self) -> None:
        found = ask(method="percentile", **one(X, replicates=5))
        assert found.reading.headline == "Draw more: 5 resamples are too few for such tails."
        assert found.picture is not None


def test_a_total_is_as_many_means() -> None:
    low, high = ends("one-sample t", **one(X))
    got = ends("total t", **one(X, parameter="total", population=500))
    assert got == pytest.approx((500 * low, 500 * high), rel=1e-10)
    problem = ask(method="total t", **one(X, parameter="total")).problem
    assert (problem.slot, problem.sentence) == ("population", "Type the size of the population.")


def test_several_means_together() -> None:
    """Each at 1 − α/k, by SciPy."""
    data = {"kind": "levels", "what": "loss", "by": "shed"}
    found = ask(table="t", data=data, method="bonferroni t")
    table = next(s for s in found.sections if s.title == "The intervals").figures[0]
    for row, values in zip(table.rows, (X, Y), strict=True):
        expected = stats.ttest_1samp(values, 0).confidence_interval(0.975)
        assert (row.cells[5].value, row.cells[6].value) == pytest.approx(tuple(expected))
    assert "all 2 means lie in their intervals" in found.reading.headline


class TestWords:
    def test_the_interpretation_is_in_context(self) -> None:
        found = ask(method="one-sample t", **one(X))
        low, high = ends("one-sample t", **one(X))
        assert found.reading.headline == (
            f"We are 95\u00a0% confident that the mean loss of all trays lies between {low:.2f} and {high:.2f}."
        )
        confident = term_of("confident")
        assert "95 % of the intervals would contain the true value" in confident.meaning
        assert "does not mean that 95 % of the cases are in the interval" in confident.meaning

    def test_the_five_steps(self) -> None:
        for method in ("one-sample t", "percentile", "bca"):
            titles = [step.title for step in ask(method=method, **one(X)).writeup]
            assert titles == [
                "1. What is estimated",
                "2. Conditions",
                "3. The estimate",
                "4. The interval",
                "5. Conclusion",
            ]
        assert all(step.lines for step in ask(method="one-sample t", **one(X)).writeup)

    def test_differences_and_bounds(self) -> None:
        found = ask(method="welch t", **ONE, bound="lower")
        assert "is at least" in found.reading.headline
        assert "the mean loss of all north trays minus" in found.reading.headline
        assert "is at most" not in found.reading.headline

    def test_a_value_that_is_named(self) -> None:
        low, high = ends("one-sample t", **one(X))
        inside = ask(method="one-sample t", **one(X, value=round((low + high) / 2, 3))).reading.paragraphs
        assert any("does not show that it is the true value" in text for text in inside)
        below = ask(method="one-sample t", **one(X, value=0.1)).reading.paragraphs
        assert any("0.1 is below the interval" in text for text in below)

    def test_the_matching_test_says_the_same(self) -> None:
        low, high = ends("one-sample t", **one(X, confidence=0.9))
        link = next(
            one_
            for one_ in ask(method="one-sample t", **one(X, confidence=0.9)).reading.next
            if one_.label == "Test a claim about it"
        )
        assert (link.statement.verb, link.statement.alpha) == ("test", 0.1)
        for null, p in ((low, 0.1), (high, 0.1)):
            made = link.statement.with_slots({"null": float(null)})
            assert answer(made, TABLES).numbers["one-sample t"]["p"] == pytest.approx(p)

    def test_levels_beside_each_other(self) -> None:
        table = next(t for t in ask(method="one-sample t", **one(X)).figures if t.key == "levels")
        assert [row.cells[0].text for row in table.rows] == [
            "80\u00a0%",
            "90\u00a0%",
            "95\u00a0%",
            "98\u00a0%",
            "99\u00a0%",
        ]
        widths = [row.cells[3].value for row in table.rows]
        assert widths == sorted(widths)
        assert table.rows[3].sets == ("confidence", 0.98)


class TestResamples:
    def test_the_same_seed_gives_the_same_pile_and_more_only_adds(self) -> None:
        few = ask(method="percentile", **one(X, replicates=300)).picture.frames[1]
        again = ask(method="percentile", **one(X, replicates=300)).picture.frames[1]
        assert few.rules == again.rules
        other = ask(method="percentile", **one(X, replicates=300, seed=2)).picture.frames[1]
        assert few.rules != other.rules

    @pytest.mark.parametrize("number", [1, 7, 300])
    def test_one_can_be_opened(self, number: int) -> None:
        found = ask(method="percentile", **one(X, replicates=300, opened=number))
        section = next(s for s in found.sections if s.title == "A resample")
        frame = section.picture.frames[1]
        assert frame.title.startswith(f"Resample number {number}: ")
        shown = float(frame.title.split(": ")[1])
        assert abs(shown - X.mean()) < 2
        assert section.controls[0].label == "One more"
        assert section.controls[0].sets == ("replicates", 301)

    @pytest.mark.parametrize(
        "slots",
        [
            one(X, method="percentile"),
            {"parameter": "proportion", "method": "percentile of shares", "data": JADE},
            {**ONE, "method": "percentile"},
            {
                "table": "pairs",
                "parameter": "correlation",
                "method": "percentile",
                "data": {"kind": "two numbers", "what": "up", "against": "along"},
            },
        ],
    )
    def test_what_is_opened_is_what_the_pile_has(self, slots) -> None:
        """The estimate worked out of the data of a resample is the replicate of its number."""
        s = statement_from_json({"verb": "estimate", "replicates": 700, **slots})
        data = s.data.read(TABLES | {"own": make_table("own", "tray", loss=X.tolist())}, s.table)
        asked = Question(data, s.about, confidence=0.9, settings=s.known)
        pile = s.procedure.found(asked).distribution.replicates
        for number in (1, 2, 499, 500, 501, 700):
            again = resample_of(data, drawn_of(asked), number, s.seed)
            assert s.about.estimate(again) == pytest.approx(pile[number - 1], rel=1e-12)

    def test_levels_wait_until_all_resamples_are_there(self) -> None:
        s = statement_from_json({"verb": "estimate", **one(X, method="percentile", replicates=3000)})
        made = [draft.answer for draft in drafts(s, TABLES) if draft.answer]
        there = [any(t.key == "levels" for t in one_.figures) for one_ in made]
        assert there[0] is False
        assert there[-1] is True


class TestCovering:
    @pytest.mark.parametrize("method", ["one-sample t", "percentile"])
    def test_about_as_many_hold_as_is_said(self, method: str) -> None:
        found = ask(method=method, **one(RNG.normal(50, 6, 60), covering=400, confidence=0.9))
        note = next(s.note for s in found.sections if s.title.startswith("What 90"))
        share = float(note.split(": ")[1].split("\u00a0%")[0]) / 100
        assert abs(share - 0.9) < 5 * math.sqrt(0.09 / 400) + 0.02

    def test_typed_figures_stand_for_a_normal_population(self) -> None:
        data = {"kind": "typed sample", "groups": [{"n": 12, "mean": 7.2, "sd": 1.1}]}
        found = ask(method="one-sample t", data=data, covering=400)
        note = next(s.note for s in found.sections if s.title.startswith("What 95"))
        assert abs(float(note.split(": ")[1].split("\u00a0%")[0]) - 95) < 5.5


def test_samples_fill_the_picture_and_can_be_stopped_between() -> None:
    s = statement_from_json({"verb": "estimate", **one(X, method="one-sample t", covering=50)})
    made = list(drafts(s, TABLES))
    steps = [draft for draft in made if draft.doing == "Drawing samples"]
    assert len(steps) == 50
    shown = [draft.answer for draft in steps if draft.answer]
    assert 5 <= len(shown) <= 11
    many = [next(t.note for t in found.sections if t.title.startswith("What")) for found in shown]
    assert "of 5 intervals hold" in many[0]
    assert "of 50 intervals hold" in many[-1]


class TestPlanning:
    @pytest.mark.parametrize(
        ("slots", "takes"),
        [
            # (1.96 × 15 / 2)² = 216.09, and (1.96 / 0.03)² / 4 = 1067.07, as textbooks have them
            ({"method": "one-sample t", "data": {"kind": "typed sample", "groups": [
                {"n": 20, "mean": 100, "sd": 15}]}, "wanted_margin": 2}, "217 values"),
            ({"method": "wilson", "parameter": "proportion", "data": {
                "kind": "typed share", "groups": [{"x": 30, "n": 60}]}, "wanted_margin": 0.03},
             "1068 cases"),
            # (1.645 / 1)² (9 + 16) = 67.6 in each group
            ({"method": "welch t", "confidence": 0.9, "wanted_margin": 1, "data": {
                "kind": "two typed samples", "groups": [
                    {"n": 20, "mean": 9, "sd": 3}, {"n": 20, "mean": 8, "sd": 4}]}},
             "68 values in each group"),
        ],
    )  # fmt: skip
    def test_sizes_as_textbooks_have_them(self, slots, takes: str) -> None:
        found = ask(**slots)
        note = next(s.note for s in found.sections if s.title == "Planning")
        assert f"{takes} are needed (rounded up)" in note
        assert found.working[-1].title == "Sample size"

    def test_a_guess_or_none(self) -> None:
        """(1.96 / 0.05)² × 0.2 × 0.8 = 245.9, and 384.1 without a guess."""
        data = {"kind": "typed share", "groups": [{"x": 12, "n": 60}]}
        found = ask(method="wilson", parameter="proportion", data=data, wanted_margin=0.05)
        note = next(s.note for s in found.sections if s.title == "Planning")
        assert "246 cases are needed (rounded up)" in note
        assert "Without a guess, at 0.5, 385 are needed." in note

    @given(st.floats(0.01, 3))
    @settings(max_examples=20, deadline=None)
    def test_the_size_is_the_least_that_is_enough(self, margin: float) -> None:
        z, sd = stats.norm.isf(0.025), X.std(ddof=1)
        found = ask(method="one-sample t", **one(X, wanted_margin=margin))
        frame = next(s.picture.frames[0] for s in found.sections if s.title == "Planning")
        n = frame.rules[0].x
        assert z * sd / math.sqrt(n) <= margin * (1 + 1e-9)
        assert n == 1 or z * sd / math.sqrt(n - 1) > margin * (1 - 1e-9)


@pytest.mark.parametrize(
    ("held", "method"),
    [
        ({"method": "t", "data": {"kind": "pairs"}}, "paired t"),
        ({"method": "t", "data": {"kind": "one column", "what": "x"}}, "one-sample t"),
        ({"method": "t"}, "one-sample t"),
        ({"method": "F", "data": {"kind": "two levels"}}, "F ratio"),
        ({"method": "chi-square", "data": {"kind": "one column"}}, "chi-square of a variance"),
        ({"method": "Welch t", "data": {"kind": "two levels"}}, "Welch t"),
    ],
)
def test_a_way_with_a_name_of_before_is_the_one_it_became(held: dict, method: str) -> None:
    assert EstimateStatement.upgraded(held)["method"] == method


@pytest.mark.parametrize("held", [{"data": "a\nb", "method": "t"}, {"data": 3, "method": ["t"]}, {"method": {}}])
def test_what_is_damaged_is_refused_in_words(held: dict) -> None:
    with pytest.raises(StatementError, match="estimate") as refused:
        statement_from_json({"verb": "estimate", **held})
    assert "Error" not in str(refused.value)

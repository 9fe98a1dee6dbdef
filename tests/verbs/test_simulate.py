"""Simulate: what is drawn, what is counted, what is said; against exact laws and other verbs."""

from __future__ import annotations

import json
import math
from dataclasses import replace

import numpy as np
import polars as pl
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import Answer, answer_json
from theoros.numeric.distributions.lattice import Pile
from theoros.study.file import demo_study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.answering import answer, drafts, drawn_table
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import make, statement_from_json, verbs
from theoros.verbs.simulate.sampling.procedure_sampler import ProcedureSampler, sampler_for
from theoros.verbs.simulate.sampling.sampler import ModelSampler
from theoros.verbs.simulate.statement import SimulateStatement

TABLES = demo_study().by_name
JARS = {"kind": "share", "case": "jar", "success": "leaks", "p": "1/8", "n": 25}
SLOW = {
    "kind": "two levels",
    "what": "moisture loss",
    "by": "withering",
    "first": "slow",
    "second": "quick",
    "design": "separate",
}
EXAMPLES = [s for s in verbs()["simulate"].examples if isinstance(s, SimulateStatement)]


def simulated(**slots) -> SimulateStatement:
    made = statement_from_json({"verb": "simulate", **slots})
    assert isinstance(made, SimulateStatement)
    return made


def answered(statement: SimulateStatement) -> Answer:
    found = answer(statement, TABLES)
    assert found.problem is None, found.problem
    return found


def method(found: Answer, name: str, key: str) -> object:
    for row in answer_json(found)["figures"]["methods"]:
        if str(row["method"]).startswith(name):
            return row[key]
    raise AssertionError(f"no way {name}")


# what is counted


def test_a_share_beside_its_exact_law_and_the_normal_curve() -> None:
    found = answered(simulated(model=JARS, ask="at most", value=1, replicates=50_000))
    exact = stats.binom(25, 1 / 8).cdf(1)
    assert method(found, "Exact", "chance") == pytest.approx(exact, rel=1e-12)
    assert method(found, "Simulated", "chance") == pytest.approx(exact, abs=4 * 0.0017)
    curve = stats.norm(25 / 8, math.sqrt(25 * 7 / 64)).cdf(1)
    assert method(found, "Normal", "chance") == pytest.approx(curve, rel=1e-9)
    assert "is below 10" in str(method(found, "Normal", "sure"))


def test_both_tails_are_counted_and_added() -> None:
    s = simulated(model=JARS, ask="as far", value=6, replicates=2000)
    found = answered(s)
    ready = sampler_for(s, TABLES)
    values = ready.replicates.first(2000)[:, 0]
    far = np.abs(values - 25 / 8) >= 6 - 25 / 8 - 1e-9
    assert method(found, "Simulated", "chance") == pytest.approx(far.mean(), abs=1e-15)
    assert "at least as far from 3.1 as 6 is (0 or less, or 6 or more)" in found.reading.headline
    both = stats.binom(25, 1 / 8).pmf(0) + stats.binom(25, 1 / 8).sf(5)
    assert method(found, "Exact", "chance") == pytest.approx(both, rel=1e-12)


def test_between_has_both_ends_whichever_comes_first() -> None:
    for low, high in ((2, 5), (5, 2)):
        found = answered(simulated(model=JARS, ask="between", value=low, high=high))
        law = stats.binom(25, 1 / 8)
        assert method(found, "Exact", "chance") == pytest.approx(law.cdf(5) - law.cdf(1), rel=1e-12)
        assert "is from 2 to 5" in found.reading.headline


def test_the_middle_lies_between_ranks_of_the_pile() -> None:
    s = simulated(
        table="bushes",
        model={"kind": "resample"},
        parameter="mean",
        method="percentile",
        data={"kind": "one column", "what": "leaf mass"},
        ask="middle",
        replicates=2000,
        seed=5,
    )
    found = answered(s)
    estimated = answer(
        make(
            "estimate",
            table="bushes",
            data={"kind": "one column", "what": "leaf mass"},
            method="percentile",
            replicates=2000,
            seed=5,
        ),
        TABLES,
    )
    row = next(r for r in answer_json(estimated)["figures"]["methods"] if r["method"] == "percentile")
    assert method(found, "Simulated", "low") == pytest.approx(row["low"], rel=1e-15)
    assert method(found, "Simulated", "high") == pytest.approx(row["high"], rel=1e-15)


@pytest.mark.parametrize(
    ("parameter", "data", "name"),
    [
        ("mean", SLOW, "shuffled labels"),
        ("median", SLOW, "shuffled labels"),
        ("standard deviation", SLOW, "shuffled distances"),
        ("mean", {"kind": "pairs", "what": "score after", "other": "score before"}, "shuffled signs"),
        ("correlation", {"kind": "two numbers", "what": "leaf mass", "against": "leaf length"}, "shuffled pairs"),
        ("relation", {"kind": "two categories", "what": "netting", "by": "grade"}, ""),
        ("mean", {"kind": "levels", "what": "leaf mass", "by": "cultivar"}, "shuffled groups F"),
        ("proportion", {"kind": "typed shares", "groups": [{"x": 12, "n": 40}, {"x": 5, "n": 38}]}, "shuffled groups"),
        ("proportion", {"kind": "typed share", "groups": [{"x": 12, "n": 40}]}, "drawn share"),
    ],
)
def test_a_claim_made_true_gives_the_p_of_the_test(parameter, data, name) -> None:
    """The same procedure from the same seed: the same shuffles, and so the same p."""
    table = {"score after": "tasters", "moisture loss": "trays"}.get(data.get("what", ""), "bushes")
    base = {"table": table, "data": data, "parameter": parameter, "seed": 3}
    null = 0.25 if name == "drawn share" else 0.0
    undirected = parameter == "relation" or data["kind"] == "levels"
    ask = "at least" if undirected else "as far"
    model = {"kind": "claim", "null": null}
    s = simulated(**base, model=model, ask=ask, replicates=2000, method=name)
    if name == "":
        from theoros.verbs.procedures.procedure import procedures_for

        name = next(w.name for w in procedures_for("two-way counts", purpose="claim by chance"))
        s = replace(s, method=name)
    found = answered(s)
    tested = answer(make("test", **base, method=name, replicates=2000, null=null, alternative="different"), TABLES)
    assert tested.problem is None, tested.problem
    numbers = tested.numbers[name]
    if numbers["all_arrangements"]:
        assert method(found, "All", "chance") == pytest.approx(numbers["p"], rel=1e-12)
    else:
        assert found.numbers["p"] == pytest.approx(numbers["p"], rel=1e-12)
    # and back: the link asks the same test
    link = next(one.statement for one in found.reading.next if one.label == "Test this claim")
    again = answer(link, TABLES)
    assert again.problem is None
    assert again.numbers[name]["p"] == pytest.approx(numbers["p"], rel=1e-12)


def test_a_test_is_watched_with_everything_filled_in() -> None:
    made = make(
        "test",
        table="trays",
        data=SLOW,
        parameter="mean",
        method="shuffled labels",
        alternative="greater",
        replicates=2000,
        seed=4,
    )
    found = answer(made, TABLES)
    link = next(one.statement for one in found.reading.next if one.label.startswith("Watch"))
    procedure_sampler = answer(link, TABLES)
    assert procedure_sampler.problem is None
    assert procedure_sampler.numbers["p"] == pytest.approx(found.numbers["shuffled labels"]["p"], rel=1e-12)


# replicates


@pytest.mark.parametrize("statement", EXAMPLES, ids=lambda s: s.model.kind)
def test_a_sample_that_is_opened_is_the_one_in_the_pile(statement: SimulateStatement) -> None:
    ready = sampler_for(statement, TABLES)
    for _ in ready.replicates.grow(1200):
        pass
    pile = ready.replicates.first(1200)
    for number in (1, 2, 500, 501, 777, 1200):
        if isinstance(ready, ModelSampler):
            for at, one in enumerate(ready.statistics):
                value = one.compute(ready.sample(number), ready.facts, statement)[0]
                assert value == pytest.approx(pile[number - 1, at], rel=1e-12)
        else:
            assert isinstance(ready, ProcedureSampler)
            data = ready.again(number)
            if statement.model.kind == "resample":
                assert np.median(data.sample.values) == pytest.approx(pile[number - 1, 0])
            else:
                x, y = data.first.values, data.second.values
                t = stats.ttest_ind(x, y, equal_var=False).statistic
                assert t == pytest.approx(pile[number - 1, 0], rel=1e-9)


def test_the_first_of_more_are_the_same_whatever_is_asked_in_between() -> None:
    s = simulated(model=JARS, replicates=300, seed=11)
    few = sampler_for(s, TABLES).replicates
    for _ in few.grow(300):
        pass
    first = few.first(300).copy()
    more = sampler_for(replace(s, replicates=5000), TABLES).replicates
    for _ in more.grow(5000):
        pass
    assert (more.first(5000)[:300] == first).all()
    other = sampler_for(replace(s, seed=12), TABLES).replicates
    for _ in other.grow(300):
        pass
    assert (other.first(300) != first).any()


def test_a_study_that_is_opened_again_gives_the_same_replicates() -> None:
    from theoros.numeric.resampling import replicates

    for statement in EXAMPLES:
        pile = sampler_for(statement, TABLES).replicates
        for _ in pile.grow(600):
            pass
        first = pile.first(600).copy()
        replicates._KEPT.clear()  # as another process has it
        again = statement_from_json(json.loads(json.dumps(statement.to_json())))
        assert isinstance(again, SimulateStatement)
        fresh = sampler_for(again, demo_study().by_name).replicates
        assert fresh is not pile
        for _ in fresh.grow(600):
            pass
        assert np.array_equal(fresh.first(600), first, equal_nan=True)


def test_one_sample_becomes_a_table() -> None:
    s = simulated(model=JARS, replicates=40, opened=7, each="crate")
    table, _ = drawn_table(s, "sample", TABLES)
    assert table.name == "crate 7 by chance"
    assert table.rows == 25
    pile = sampler_for(s, TABLES).replicates
    for _ in pile.grow(7):
        pass
    assert (table.frame.to_series(1) == "leaks").sum() == pile.first(7)[6, 0]


def test_samples_become_a_table_and_give_the_same_statistics() -> None:
    for s in (
        simulated(model=JARS, replicates=40),
        simulated(
            table="bushes", model={"kind": "column", "what": "leaf mass", "n": 6}, statistic="mean", replicates=40
        ),
        simulated(model={"kind": "stages", "n": 8}, outcome="leaks", replicates=40),
        simulated(model={"kind": "walk", "n": 9}, statistic="end", replicates=40),
    ):
        pile, _ = drawn_table(s, "statistics", TABLES)
        cases, said = drawn_table(s, "samples", TABLES)
        assert said == ""
        assert pile.rows == 40
        values = pile.frame.to_series(1).to_numpy()
        grouped = cases.frame.partition_by(cases.columns[0].name, maintain_order=True)
        last = cases.columns[-1].name
        last_columns = [one[last] for one in grouped]
        if s.model.kind in ("share", "stages"):
            found = [(column == "leaks").sum() for column in last_columns]
        elif s.model.kind == "column":
            found = [column.mean() for column in last_columns]
        else:
            found = [column[-1] for column in last_columns]
        assert found == pytest.approx(values.tolist())


def test_a_table_of_too_many_cases_says_which_it_holds() -> None:
    s = simulated(model={**JARS, "n": 10_000}, replicates=1000)
    cases, said = drawn_table(s, "samples", TABLES)
    assert cases.rows == 200_000
    assert said.startswith("It holds the first 20 samples of 1000")


# statistics


def test_a_formula_is_worked_out_of_every_sample() -> None:
    s = simulated(
        table="bushes",
        model={"kind": "column", "what": "leaf mass", "n": 8},
        replicates=200,
        statistic="formula",
        formula="(max(x) - min(x)) / sd(x)",
    )
    answered(s)
    ready = sampler_for(s, TABLES)
    assert isinstance(ready, ModelSampler)
    for number in (1, 77, 200):
        values = ready.sample(number).values[0][0]
        expected = np.ptp(values) / values.std(ddof=1)
        assert ready.replicates.first(200)[number - 1, 0] == pytest.approx(expected, rel=1e-12)


def test_a_formula_that_fails_on_some_samples_says_how_many() -> None:
    s = simulated(
        model={"kind": "outcomes", "listed": "0 to 2", "n": 3},
        replicates=500,
        statistic="formula",
        formula="max(x) / min(x)",
    )
    found = answered(s)
    ready = sampler_for(s, TABLES)
    lost = int(np.isnan(ready.replicates.first(500)[:, 0]).sum())
    assert 0 < lost < 500
    assert any(f"{lost} samples of 500, which are left out" in c for c in found.reading.cautions)


def test_a_formula_that_is_not_one_number_is_refused_in_place() -> None:
    s = simulated(model={"kind": "outcomes", "n": 3}, statistic="formula", formula="x * 2")
    problem = answer(s, TABLES).problem
    assert problem is not None
    assert problem.slot == "formula"
    assert "a value for every case" in problem.sentence
    wrong = answer(replace(s, formula="mean(y)"), TABLES).problem
    assert wrong is not None
    assert wrong.slot == "formula"


def test_several_statistics_have_a_pile_each_and_a_scatter() -> None:
    s = simulated(
        table="bushes",
        model={"kind": "column", "what": "leaf mass", "n": 10},
        statistic="mean",
        also=["median", "range"],
    )
    titles = [section.title for section in answered(s).sections]
    assert titles == ["The same samples: the median", "The same samples: the range", "Scatter plot of the two"]


def test_outcomes_of_two_stages_are_counted_together() -> None:
    s = simulated(model={"kind": "stages", "n": 30}, outcome="Amber and leaks", ask="at least", value=4)
    assert method(answered(s), "Exact", "chance") == pytest.approx(stats.binom(30, 1 / 15).sf(3), rel=1e-9)


def test_two_dice_in_stages_have_the_sum_of_two_dice() -> None:
    rows = [{"stage": "first", "outcome": "1 to 6"}, {"stage": "second", "outcome": "1 to 6"}]
    s = simulated(model={"kind": "stages", "n": 1, "rows": rows}, statistic="total", ask="at least", value=10)
    assert method(answered(s), "Every outcome", "chance") == pytest.approx(6 / 36, rel=1e-12)


# what was seen


def test_what_was_seen_can_be_in_a_column() -> None:
    rows = {"seal": ["leaks"] * 2 + ["sound"] * 23}
    table = Table("jars", (Column("seal", Kind.CATEGORY),), pl.DataFrame(rows))
    s = simulated(table="jars", model=JARS, ask="at most", observed_in="seal", observed_level="leaks")
    found = answer(s, {"jars": table})
    assert method(found, "Exact", "chance") == pytest.approx(stats.binom(25, 1 / 8).cdf(2), rel=1e-12)
    assert "the observed value of seal" in s.text({"jars": table})
    numbers = Table("leaves", (Column("mass"),), pl.DataFrame({"mass": [1.0, 2.0, 6.0]}))
    shape = {"kind": "shape", "mean": 2, "sd": 1, "n": 4}
    s = simulated(table="leaves", model=shape, statistic="mean", ask="at least", observed_in="mass")
    found = answer(s, {"leaves": numbers})
    exact = stats.norm(2, 0.5).sf(3)
    assert method(found, "Exact normal", "chance") == pytest.approx(exact, rel=1e-9)
    assert any("has 3 values, and samples here have 4" in c for c in found.reading.cautions)


# bad input


@pytest.mark.parametrize(
    ("slots", "slot", "said"),
    [
        ({"model": {**JARS, "p": 1.5}}, "model.p", "from 0 to 1"),
        ({"model": {**JARS, "p": None}}, "model.p", "Type the chance"),
        ({"model": {**JARS, "n": 0}}, "model.n", "1 to 1\u202f000\u202f000"),
        ({"model": {"kind": "outcomes", "listed": "red: 3, blue: 2", "n": 6, "replace": False}},
         "model.n", "5 draws in all, so 6 cannot be drawn"),
        ({"model": {"kind": "outcomes", "listed": "red: 0, blue: 0", "n": 6}}, "model.listed",
         "All weights are 0"),
        ({"model": {"kind": "outcomes", "listed": "red: x", "n": 6}}, "model.listed", "red: 3"),
        ({"model": {"kind": "stages", "n": 3, "rows": [
            {"stage": "seal", "outcome": "sound", "after": "leaks"},
            {"stage": "seal", "outcome": "leaks"}]}}, "model.rows.0.stage", "refers to itself"),
        ({"model": {"kind": "stages", "n": 3, "rows": [
            {"stage": "seal", "outcome": "sound", "after": "Jade"},
            {"stage": "blend", "outcome": "Jade"}]}}, "model.rows.0.stage", "a later stage"),
        ({"model": {"kind": "stages", "n": 3, "rows": [
            {"stage": "seal", "outcome": "sound", "weight": 0}]}}, "model.rows.0.stage",
         "All weights of seal are 0"),
        ({"table": "bushes", "model": {"kind": "column", "what": "leaf mass", "n": 500},
          "statistic": "mean"}, "model.n", "cannot be drawn without replacement"),
        ({"model": {"kind": "shape", "mean": 1, "sd": 0, "n": 3}, "statistic": "mean"}, "model.sd",
         "above 0"),
        ({"model": {"kind": "waiting", "p": 0}, "statistic": "wait"}, "model.p", "would not end"),
        ({"model": {"kind": "waiting", "until": "all kinds", "listed": "a, b: 0"},
          "statistic": "wait"}, "model.listed", "never occurs"),
        ({"model": {"kind": "outcomes", "n": 2}, "outcome": "7"}, "outcome", "not one of the outcomes"),
    ],
)  # fmt: skip
def test_bad_input_gets_a_sentence_in_place(slots, slot, said) -> None:
    found = answer(simulated(**slots), TABLES)
    assert found.problem is not None
    assert found.problem.slot == slot
    assert said in found.problem.sentence, found.problem.sentence
    assert found.problem.sentence.endswith(".")


def test_more_samples_than_can_be_drawn_are_no_statement() -> None:
    with pytest.raises(StatementError, match="replicates cannot be 2000000"):
        simulated(model=JARS, replicates=2_000_000)


def test_waiting_that_does_not_end_counts_as_longer() -> None:
    """P(T >= 15) = 0.98^14 and P(T > 20) = 0.98^20 of a geometric law."""
    model = {"kind": "waiting", "p": 0.02, "most": 20}
    found = answered(simulated(model=model, statistic="wait", ask="at least", value=15, replicates=4000))
    assert found.numbers["left_out"] == 0
    assert math.isnan(found.numbers["mean"])
    assert abs(found.numbers["share"] - 0.98**14) < 0.04
    (said,) = [c for c in found.reading.cautions if "did not come to an end within 20 draws" in c]
    assert abs(int(said.split(" ")[0]) / 4000 - 0.98**20) < 0.04
    few = answered(simulated(model=model, statistic="wait", ask="at most", value=10, replicates=4000))
    assert abs(few.numbers["share"] - (1 - 0.98**10)) < 0.04
    beyond = answer(simulated(model=model, statistic="wait", ask="at most", value=21, replicates=40), TABLES)
    assert beyond.problem is not None
    none = answered(simulated(model={**model, "p": 1e-9}, statistic="wait", replicates=400))
    assert none.reading.headline == "In none of 400 samples did the waiting end within 20 draws."


def test_a_category_column_drawn_without_replacement_is_hypergeometric() -> None:
    grades = {"g": make_table("g", grade=["fine"] * 54 + ["fair"] * 126)}
    law = stats.hypergeom(180, 54, 100)
    s = simulated(table="g", model={"kind": "column", "what": "grade", "n": 100}, outcome="fine", ask="at least",
                  value=33, replicates=4000)  # fmt: skip
    found = answer(s, grades)
    assert found.numbers["theory_se"] == pytest.approx(law.std(), rel=1e-12)
    exact = next(row for row in found.figures[0].rows if "hypergeometric" in row.cells[0].text)
    assert any(cell.value == pytest.approx(law.sf(32), rel=1e-9) for cell in exact.cells if cell.value)
    assert abs(found.numbers["share"] - law.sf(32)) < 0.03
    whole = answer(simulated(table="g", model={"kind": "column", "what": "grade", "n": 180}, outcome="fine"), grades)
    assert whole.reading.headline.startswith("Each sample is the whole population")


@pytest.mark.parametrize(("replicates", "seed"), [(1, 1), (10, 2), (1000, 3), (1000, 4), (1000, 5)])
@pytest.mark.parametrize(("n", "x"), [(25, 11), (20, 14), (25, 4), (20, 15)])
def test_where_the_exact_law_is_known_it_decides_whatever_the_seed(replicates: int, seed: int, n: int, x: int) -> None:
    ask, p = ("at least", stats.binom(n, 0.5).sf(x - 1)) if x > n / 2 else ("at most", stats.binom(n, 0.5).cdf(x))
    s = simulated(model={**JARS, "p": 0.5, "n": n}, ask=ask, value=x, replicates=replicates, seed=seed)
    found = answered(s)
    text = " ".join(found.reading.paragraphs)
    assert ("not enough evidence" in text) == (p > 0.05)
    assert ("There is enough evidence" in text) == (p <= 0.05)
    assert f"= {p:.4f} by the exact law".replace("= 0.0000", "< 0.0001") in text.replace("\u00a0", " ")
    hits = round(found.numbers["share"] * replicates)
    assert found.numbers["p"] == pytest.approx((hits + 1) / (replicates + 1))


@pytest.mark.parametrize(("value", "fits"), [(30, False), (-3, False), (2.5, False), (25, True), (0, True)])
def test_a_count_that_cannot_be_is_refused_in_its_slot(value: float, fits: bool) -> None:
    found = answer(simulated(model={**JARS, "n": 25}, ask="at least", value=value, replicates=10), TABLES)
    assert (found.problem is None) == fits
    assert found.problem is None or found.problem.slot == "value"


def test_a_long_run_is_no_evidence_about_the_chance_alone() -> None:
    s = simulated(model={**JARS, "p": 0.5, "n": 50}, statistic="longest run", ask="at least", value=12)
    found = answered(s)
    assert found.symbols == ()
    assert found.writeup == ()
    assert "significance level" not in " ".join(found.reading.paragraphs)


def test_resamples_say_what_they_are_about() -> None:
    data = {"kind": "two levels", "what": "moisture loss", "by": "withering", "first": "slow", "second": "quick"}
    one = {"verb": "simulate", "table": "trays", "parameter": "mean", "data": data, "method": "percentile",
           "model": {"kind": "resample"}, "replicates": 400}  # fmt: skip
    trays = {table.name: table for table in demo_study().tables}
    middle = answer(statement_from_json({**one, "ask": "middle"}), trays)
    assert "for the difference of the two means." in middle.reading.paragraphs[0]
    low = answer(statement_from_json({**one, "ask": "at most", "value": 0}), trays)
    assert "speaks against it" not in " ".join(low.reading.paragraphs)
    for ask, value in (("at least", None), ("as far", 3)):
        refused = answer(statement_from_json({**one, "ask": ask, "value": value}), trays)
        assert refused.problem is not None


def test_a_long_run_says_beforehand_how_long_it_takes() -> None:
    s = simulated(model={**JARS, "n": 10_000}, replicates=1_000_000)
    first = next(iter(drafts(s, TABLES)))
    assert first.answer is not None
    (said, *_) = first.answer.reading.cautions
    assert said.startswith("This takes about ")
    assert "8 MB" in said
    assert "only the statistics are kept" in said


def test_cells_of_outcomes_are_typed_into_the_list() -> None:
    s = simulated(model={"kind": "outcomes", "n": 2})
    one = s.with_slot("model.grid.6.name", "7", TABLES).statement
    assert one.model.listed == "1 to 7"
    two = one.with_slot("model.grid.0.weight", 3.0, TABLES).statement
    assert two.model.listed.startswith("1: 3, 2: 1")
    gone = two.with_slot("model.grid.0.name", "", TABLES).statement
    assert gone.model.listed == "2 to 7"
    with pytest.raises(StatementError, match="is listed more than once"):
        gone.with_slot("model.listed", "red, blue, red", TABLES)


# comparisons


def test_several_n_are_compared_on_one_scale() -> None:
    s = simulated(
        model={"kind": "shape", "shape": "skewed right", "mean": 10, "sd": 4, "n": 5},
        statistic="mean",
        varies="n",
        values="4, 16, 64",
        replicates=4000,
    )
    (section,) = answered(s).sections
    table = answer_json(answered(s))["sections"][1]["figures"]["compared"]
    assert [row["theory_se"] for row in table] == pytest.approx([2, 1, 0.5])
    assert [row["se"] for row in table] == pytest.approx([2, 1, 0.5], rel=0.06)
    assert section.picture is not None
    assert len(section.picture.frames[0].panels) == 3
    wrong = answer(replace(s, values="4, x"), TABLES).problem
    assert wrong is not None
    assert wrong.slot == "values"


def test_the_running_share_ends_at_the_share_of_the_sample() -> None:
    s = simulated(model=JARS, running=True, opened=3)
    found = answered(s)
    ready = sampler_for(s, TABLES)
    share = ready.replicates.first(3)[2, 0] / 25
    note = found.sections[0].note
    assert f"After 25 cases it is {share:.4f}" in note
    assert "settles near 0.1250" in note


def test_intervals_of_samples_hold_the_true_value_as_often_as_they_should() -> None:
    hold = 0
    for seed in range(12):
        s = simulated(
            model={"kind": "shape", "mean": 5, "sd": 2, "n": 10},
            statistic="mean",
            intervals=True,
            seed=seed,
            replicates=100,
        )
        note = answered(s).sections[0].note
        hold += int(note.partition("samples, ")[2].partition(" ")[0])
    assert hold / 1200 == pytest.approx(0.95, abs=4 * math.sqrt(0.95 * 0.05 / 1200))


# words


def test_five_steps_for_a_share_that_is_claimed() -> None:
    found = answered(simulated(model=JARS, ask="at most", value=0, each="crate", replicates=2000))
    steps = [step.title for step in found.writeup]
    assert [title[:2] for title in steps] == ["1.", "2.", "3.", "4.", "5."]
    assert [symbol.text for symbol in found.symbols] == ["H_{0}: p = 1/8", "H_{1}: p < 1/8"]
    assert any("There is enough evidence" in str(line) for line in found.writeup[-1].lines)


def test_nothing_is_said_to_be_accepted_and_no_cause_is_named() -> None:
    for statement in EXAMPLES:
        found = answered(statement)
        text = json.dumps(answer_json(found), ensure_ascii=False)
        for word in ("accept", "proves", "proved", "causes"):
            assert word not in text.lower()


def test_a_single_replicate_is_told_in_the_singular() -> None:
    found = answered(simulated(model=JARS, ask="at most", value=25, replicates=1))
    assert "the only sample" in found.reading.headline
    text = json.dumps(answer_json(found), ensure_ascii=False)
    assert "1 samples" not in text
    assert "1 times" not in simulated(model=JARS, replicates=1).text(TABLES)


def test_piles_of_a_million_are_told_with_their_uncertainty() -> None:
    pile = Pile(np.repeat([0.0, 1.0], [999, 1]))
    assert pile.ordered[-1] == 1
    from theoros.verbs.simulate.report import margin_text, often

    assert often(1, 1000, "crate", "crates") == "1 of 1000 crates"
    assert often(0, 1000, "crate", "crates") == "none of 1000 crates"
    assert often(163, 1000, "crate", "crates") == "about 16 of 100 crates"
    assert often(12, 100_000, "crate", "crates") == "about 1 of 10\u202f000 crates"
    assert often(99_999, 100_000, "crate", "crates") == "99\u202f999 of 100\u202f000 crates"
    assert margin_text(0, 1000) == "below 0.0030 with 95\u00a0% confidence"

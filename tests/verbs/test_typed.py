"""Tests of typed figures: results against SciPy, and what is said where figures are all there is."""

from __future__ import annotations

from dataclasses import replace

import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.wording import to_plain
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.data.two_numbers import TwoNumbers
from theoros.verbs.data.typed import short_names
from theoros.verbs.data.typed_from import typed_from

SLOW = make(
    "test", groups="figures", measure="moisture loss", unit="%", claim="greater",
    first_name="slow trays", first_n=11, first_mean=64.3, first_sd=2.1,
    second_name="quick trays", second_n=14, second_mean=61.9, second_sd=2.6,
)  # fmt: skip


def put(statement, figures: dict):
    """With other figures of its groups, by "group.figure"."""
    return statement.with_slots({f"data.groups.{name}": v for name, v in figures.items()})


@pytest.mark.parametrize("claim", ["less", "greater", "different"])
@pytest.mark.parametrize(("method", "equal"), [("welch t", False), ("pooled t", True)])
def test_agree_with_scipy(claim, method, equal):
    """`scipy.stats.ttest_ind_from_stats` is the independent source."""
    found = answer(replace(SLOW, alternative=claim, method=method), {})
    two = {"different": "two-sided"}.get(claim, claim)
    wanted = stats.ttest_ind_from_stats(64.3, 2.1, 11, 61.9, 2.6, 14, equal, two)
    row = next(row for row in found.figures[0].rows if row.sets == ("method", method))
    assert row.cells[2].value == pytest.approx(wanted.statistic, rel=1e-12)
    assert row.cells[3].value == pytest.approx(wanted.pvalue, rel=1e-10)


def test_say_the_same_as_the_rows_they_came_from():
    loss = [64.0, 66.5, 62.5, 65.0, 63.5, 61.0, 60.5, 63.0]
    table = make_table("trays", loss=loss, method=list("sssssqqq"))
    rows = make("test", table="trays", what="loss", by="method", first="s", second="q")
    described = answer(make("describe", table="trays", what="loss", by="method"), {"trays": table})
    (link,) = [link for link in described.reading.next if "by these figures" in link.label]
    typed = replace(link.statement, alternative="different")
    assert not typed.needs_table
    typed_p = answer(typed, {}).figures[0].rows[0].cells[3].value
    rows_p = answer(rows, {"trays": table}).figures[0].rows[0].cells[3].value
    # the figures are carried with five digits; the two groups may stand the other way round
    assert typed_p == pytest.approx(rows_p, rel=1e-3)
    assert described.figures[0].rows[1].links[0].statement.data.groups[0].name == typed.data.groups[1].name


def test_only_ways_that_need_no_rows_are_offered():
    found = answer(SLOW, {})
    assert [row.sets[1] for row in found.figures[0].rows] == ["welch t", "pooled t"]
    marks = {condition.mark for condition in found.reading.assumptions}
    assert marks == {"judge"}
    assert "summary figures cannot show" in found.reading.assumptions[0].text
    large = answer(put(SLOW, {"0.n": 60, "1.n": 60}), {})
    assert large.reading.assumptions[0].mark == "holds"


def test_every_figure_that_is_missing_is_asked_for():
    for name in ("groups.1.n", "groups.0.mean", "groups.1.sd"):
        problem = answer(SLOW.with_slots({f"data.{name}": None}), {}).problem
        assert problem is not None
        assert problem.slot == f"data.{name}"
        assert problem.sentence.startswith("Type ")


def test_names_need_not_be_typed_before_anything_is_shown():
    bare = SLOW.with_slots({"data.measure": "", "data.groups.0.name": "", "data.groups.1.name": ""})
    found = answer(bare, {})
    assert found.problem is None
    assert "the mean value of group 1 is greater than that of group 2" in found.reading.paragraphs[0]
    assert "the mean value of group 1 (n = " in bare.text({})
    first = to_plain(found.writeup[0].lines[0])
    assert first.startswith("μ group 1 is the mean value in the population of group 1;")
    red = answer(SLOW.with_slots({"data.groups.0.name": "red"}), {})
    assert "of “red” is" in red.reading.paragraphs[0]


def test_what_cannot_be_is_refused_in_words():
    assert "two columns" in answer(SLOW.with_slots({"data.design": "matched"}), {}).problem.sentence
    same = put(SLOW, {"1.name": "slow trays"})
    assert "same name" in answer(same, {}).problem.sentence
    assert "1 or more" not in answer(put(SLOW, {"0.n": 1}), {}).problem.sentence
    assert answer(put(SLOW, {"0.n": 1}), {}).problem.slot == "data.groups.0.n"
    flat = answer(put(SLOW, {"0.sd": 0.0, "1.sd": 0.0}), {})
    assert "all values within each group are equal" in flat.reading.headline


def test_taking_figures_keeps_what_is_measured_and_compares_means():
    table = make_table("trays", loss=[1.0, 2.0, 3.0, 4.0], method=list("ssqq"))
    before = make("test", table="trays", what="loss", by="method", first="s", second="q")
    before = replace(before, parameter="median", method="rank sum")
    made = before.with_slot("data", "two typed samples", {"trays": table})
    assert made.statement.data.measure == "loss"
    assert (made.statement.parameter, made.statement.method) == ("mean", "welch t")
    assert len(made.notes) == 2


def test_swapping_the_groups_swaps_their_figures():
    back = SLOW.swapped()
    assert back.swapped() == SLOW
    assert answer(back, {}).figures[0].rows[0].cells[2].value == pytest.approx(
        -answer(SLOW, {}).figures[0].rows[0].cells[2].value
    )
    assert "points against" in answer(back, {}).symbols[2].text


@pytest.mark.parametrize(
    ("first", "second", "short"),
    [
        ("slow trays", "quick trays", ("slow", "quick")),
        ("Amber", "Jade", ("Amber", "Jade")),
        ("trays", "slow trays", ("trays", "slow trays")),
    ],
)
def test_names_lose_the_words_that_both_share(first, second, short):
    assert short_names((first, second)) == short


def test_figures_stay_as_they_were_typed() -> None:
    data = {
        "kind": "two typed samples",
        "measure": "loss",
        "groups": [
            {"name": "slow", "n": 11, "mean": "7.20", "sd": "1.30"},
            {"name": "quick", "n": 10, "mean": "6.1", "sd": "0.90"},
        ],
    }
    statement = statement_from_json({"verb": "test", "data": data, "method": "welch t"})
    text = statement.text({})
    assert "n = 11, mean 7.20, SD 1.30" in text
    found = answer(statement, {})
    line = found.working[0].to_lines()[1]
    assert line.startswith("t = (7.20 − 6.1) / √(1.30²/11 + 0.90²/10)")


def test_no_figures_are_carried_where_there_is_no_correlation() -> None:
    for x, y in (([1.0], [2.0]), ([1.0, 2.0, 3.0], [5.0, 5.0, 5.0])):
        table = make_table("t", x=x, y=y)
        assert typed_from(TwoNumbers("x", "y").read({"t": table}, "t")) is None

"""Figures carried from rows into typed data: by Test itself, and by Describe."""

from __future__ import annotations

import pytest

from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, statement_from_json

LOSS = {"kind": "two levels", "what": "moisture loss", "by": "withering", "first": "slow", "second": "quick"}
SHAPES = (
    ("one-sample t", "mean", {"kind": "one column", "what": "leaf length"}, "typed sample"),
    ("anova", "mean", {"kind": "levels", "what": "leaf length", "by": "cultivar"},
     "several typed samples"),
    ("chi-square of fit", "shares", {"kind": "counts of levels", "what": "grade"}, "typed counts"),
    ("chi-square", "relation", {"kind": "two categories", "what": "netting", "by": "grade"},
     "typed two-way counts"),
    ("z of a share", "proportion", {"kind": "level", "what": "grade", "level": "fine"},
     "typed share"),
    ("z of two shares", "proportion",
     {"kind": "level in two groups", "what": "grade", "level": "fine", "by": "netting",
      "first": "open", "second": "netted"}, "typed shares"),
    ("pearson", "correlation", {"kind": "two numbers", "what": "leaf length",
                                "against": "elevation"}, "typed correlation"),
)  # fmt: skip


@pytest.fixture(scope="module")
def tables(demo):
    return demo.by_name


@pytest.mark.parametrize(("method", "parameter", "data", "kind"), SHAPES)
def test_a_test_of_rows_carries_its_figures(tables, method, parameter, data, kind) -> None:
    null = 62 if method == "one-sample t" else 0.5 if method == "z of a share" else 0
    asked = statement_from_json(
        {"verb": "test", "table": "bushes", "method": method, "data": data, "parameter": parameter, "null": null}
    )
    found = answer(asked, tables)
    assert found.problem is None, found.problem
    label = "Carry these figures into a test of typed figures"
    link = next(one for one in found.reading.next if one.label == label)
    assert link.statement.data.kind == kind
    carried = answer(link.statement, {})
    assert carried.problem is None, carried.problem
    assert carried.numbers[method]["p"] == pytest.approx(found.numbers[method]["p"], rel=5e-3, abs=1e-6)
    # the same figures come along when other data are chosen in the entry itself
    turned = asked.with_slot("data", kind, tables).statement
    assert turned.data == link.statement.data


def test_two_samples_and_pairs(tables) -> None:
    for table, method, data, kind in (
        ("trays", "welch t", LOSS, "two typed samples"),
        ("tasters", "paired t", {"kind": "pairs", "what": "score after", "other": "score before"}, "typed differences"),
    ):
        asked = statement_from_json({"verb": "test", "table": table, "method": method, "data": data})
        found = answer(asked, tables)
        carried = next(
            one.statement for one in found.reading.next if one.statement is not None and one.statement.verb == "test"
        )
        assert carried.data.kind == kind
        assert answer(carried, {}).numbers[method]["p"] == pytest.approx(found.numbers[method]["p"], rel=5e-3)


@pytest.mark.parametrize(
    ("slots", "label", "method"),
    [
        ({"what": "leaf length", "by": "cultivar"}, "Test these 3 means by their figures", "anova"),
        ({"what": "grade"}, "Test the shares by these counts", "chi-square of fit"),
        ({"what": "netting", "by": "grade"}, "Test netting against grade by these counts", "chi-square"),
    ],
)
def test_describe_carries_its_figures(tables, slots, label: str, method: str) -> None:
    found = answer(make("describe", table="bushes", **slots), tables)
    link = next(one for one in found.reading.next if one.label == label)
    made = answer(link.statement, {})
    assert made.problem is None, made.problem
    assert "p" in made.numbers[method]


def test_rows_that_make_no_figures_leave_the_grid_empty(tables) -> None:
    data = {**LOSS, "first": None}
    asked = statement_from_json({"verb": "test", "table": "trays", "data": data})
    turned = asked.with_slot("data", "two typed samples", tables).statement
    assert turned.data.groups[0].n is None

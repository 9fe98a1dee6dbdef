"""What Test suggests for the columns that are selected, and for a method found by name."""

from __future__ import annotations

import pytest

from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import verbs
from theoros.verbs.procedures.procedure import procedures

SELECTED = (
    (("withering",), "trays", "two levels", "welch t"),
    (("moisture loss", "withering"), "trays", "two levels", "welch t"),
    (("cultivar",), "bushes", "levels", "anova"),
    (("leaf length", "cultivar"), "bushes", "levels", "anova"),
    (("leaf length", "cultivar", "netting"), "bushes", "two factors", "interaction"),
    (("netting", "grade"), "bushes", "two categories", "chi-square"),
    (("score before", "score after"), "tasters", "two columns", "welch t"),
    ((), "trays", "two levels", "welch t"),
)


@pytest.fixture(scope="module")
def tables(demo):
    return demo.by_name


@pytest.mark.parametrize(("columns", "table", "kind", "method"), SELECTED)
def test_selected_columns(tables, columns, table: str, kind: str, method: str) -> None:
    made = verbs()["test"].suggest(tables, table, columns)
    assert (made.data.kind, made.method) == (kind, method)
    assert answer(made, tables).problem is None


@pytest.mark.parametrize("method", sorted(procedures()))
@pytest.mark.parametrize("table", ["bushes", ""])
def test_a_method_by_name_brings_data_that_fit_it(tables, method: str, table: str) -> None:
    made = verbs()["test"].suggest(tables, table, ())
    told = made.with_slot("method", method, tables).statement
    assert told.method == method
    assert told.parameter in procedures()[method].compares
    assert told.family in procedures()[method].families
    assert next(slot for slot in told.slots(tables) if slot.name == "method").problem == ""

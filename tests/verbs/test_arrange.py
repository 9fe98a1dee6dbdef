"""Arrangements: each says itself, makes a table, and leaves a line and an edit that replays."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.conftest import make_table
from theoros.study.edits import Arrange, SetCells, SetKeep
from theoros.study.entries import Study
from theoros.study.history import History
from theoros.table.table import TableError
from theoros.verbs.arrange.answering import arranged
from theoros.verbs.arrange.arrangement import arrangements
from theoros.verbs.arrange.examples import EXAMPLES
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.core.slots import PickSeveral
from theoros.verbs.core.statement import StatementError


@pytest.mark.parametrize("example", EXAMPLES, ids=lambda e: e["verb"])
def test_every_example_makes_a_table(example: dict, demo: Study) -> None:
    statement = statement_from_json(example)
    assert type(statement).from_json(statement.to_json()) == statement
    made = arranged(statement, demo.by_name)
    assert made.table.provenance[-1].endswith(statement.line)
    assert made.new == (made.table.name not in demo.by_name)
    text = statement.text(demo.by_name)
    assert text.endswith(".")
    assert "  " not in text
    after = Arrange(statement).apply(demo)
    assert after.table(made.table.name) == made.table
    assert all(note.endswith(".") for note in made.notes)
    assert answer(statement, demo.by_name).reading.headline.endswith(".")


def test_there_is_an_example_of_each() -> None:
    assert {example["verb"] for example in EXAMPLES} == set(arrangements())


@pytest.mark.parametrize("name", arrangements())
def test_a_suggestion_fits_or_says_what_to_choose(name: str, demo: Study) -> None:
    for table in (*demo.tables, make_table("bare"), make_table("one", x=[1.0])):
        tables = {**demo.by_name, table.name: table}
        for columns in ((), tuple(c.name for c in table.columns)):
            statement = arrangements()[name].suggest(table, columns)
            assert statement.table == table.name
            for slot in statement.slots(tables):
                if isinstance(slot.holds, PickSeveral):
                    assert all(one in [o.value for o in slot.holds.options] for one in slot.value)
            try:
                arranged(statement, tables)
            except TableError as problem:
                assert str(problem).endswith((".", "?"))


@pytest.mark.parametrize("name", arrangements())
def test_slots_take_what_they_offer(name: str, demo: Study) -> None:
    """Every option of every slot gives a statement that can be said."""
    statement = arrangements()[name].suggest(demo.table("bushes"), ())
    for slot in statement.slots(demo.by_name):
        for option in getattr(slot.holds, "options", ())[:6]:
            value = (option.value,) if isinstance(slot.holds, PickSeveral) else option.value
            try:
                made = statement.with_slot(slot.name, value, demo.by_name).statement
            except StatementError as problem:
                assert "Choose two or more" in str(problem)
                continue
            assert made.text(demo.by_name).endswith(".")


CUPS = make_table("cups", "cup", tea=["a", "b", "a", None], heat=[3.0, 1.0, None, 2.0])
TABLES = {"cups": CUPS}


def keep(**slots: object):
    return make("keep rows", table="cups", **slots)


@pytest.mark.parametrize(
    ("slots", "formula", "kept"),
    [
        ({"column1": "heat", "relation1": "above", "value1": "1"}, "heat > 1", [0, 3]),
        ({"column1": "heat", "relation1": "at most", "value1": "2,0"}, "heat <= 2", [1, 3]),
        ({"column1": "tea", "relation1": "is not", "value1": "a"}, 'tea <> "a"', [1]),
        ({"column1": "tea", "relation1": "is missing"}, "tea is missing", [3]),
        ({"column1": "tea", "relation1": "contains", "value1": "a"}, 'contains(tea, "a")', [0, 2]),
        (
            {
                "column1": "tea",
                "value1": "b",
                "joiner": "or",
                "column2": "heat",
                "relation2": "is there",
                "joiner2": "and",
                "column3": "heat",
                "relation3": "below",
                "value3": "3",
            },
            '(tea = "b" or heat is not missing) and heat < 3',
            [1, 3],
        ),
        ({"by": "a formula", "formula": "heat + 1 > 2"}, "heat + 1 > 2", [0, 3]),
    ],
)
def test_conditions_become_a_formula(slots: dict, formula: str, kept: list[int]) -> None:
    made = arranged(keep(**slots), TABLES).table
    assert made.keep == formula
    assert made.cases.tolist() == kept


@pytest.mark.parametrize(
    ("slots", "words"),
    [
        ({"column1": "heat", "value1": "warm"}, "“warm” is not a number"),
        ({"column1": "tea", "value1": "z"}, "tea has no level “z”"),
        ({"column1": "tea"}, "a value to compare with"),
        ({"column1": "heat", "relation1": "above", "value1": "9"}, "No row meets this condition"),
        ({"by": "a formula", "formula": "heat >"}, "missing at the end"),
        ({"by": "a formula", "formula": "heat"}, "true or false"),
    ],
)
def test_conditions_that_cannot_be(slots: dict, words: str) -> None:
    with pytest.raises(TableError, match=words):
        arranged(keep(**slots), TABLES)


def test_every_verb_says_which_rows_it_used() -> None:
    study = SetKeep("cups", "heat > 1").apply(Study("s", (CUPS,)))
    found = answer(make("describe", table="cups", what="heat"), study.by_name)
    assert found.used == 2
    assert "2 rows not kept, only those where heat is above 1" in found.left_out


def test_a_live_column_follows_and_undo_goes_back() -> None:
    history = History(Study("s", (CUPS,)))
    history.do(Arrange(make("new column", table="cups", name="twice", formula="heat * 2")))
    history.do(SetCells("cups", 2, 1, (("4",),)))
    assert history.study.table("cups").frame["twice"].to_list() == [6, 2, 8, 4]
    history.undo()
    history.undo()
    assert history.study.table("cups") == CUPS


def test_the_rows_of_a_new_table_are_those_in_use() -> None:
    table = replace(CUPS, aside=frozenset({0}))
    made = arranged(make("count up", table="cups", by="tea"), {"cups": table})
    assert made.table.frame.rows() == [("a", 1), ("b", 1)]
    assert any("1 row of cups is not in use" in note for note in made.notes)


def test_a_sample_is_the_same_for_the_same_seed_and_fits() -> None:
    one = arranged(make("random sample", table="cups", size=2, seed=3), TABLES).table
    two = arranged(make("random sample", table="cups", size=2, seed=3), TABLES).table
    assert one == two
    with pytest.raises(TableError, match="has 4 rows in use, so 9 cannot"):
        arranged(make("random sample", table="cups", size=9), TABLES)


def test_renaming_a_column_reaches_lists_of_columns() -> None:
    statement = make("make long", table="cups", columns=["tea", "heat"])
    assert statement.renamed_column("cups", "heat", "warmth").columns == ("tea", "warmth")
    assert statement.renamed_column("other", "heat", "warmth") == statement


def test_a_list_in_json_must_hold_texts() -> None:
    with pytest.raises(StatementError, match=r"columns.0 must be text, and 1 is not"):
        statement_from_json({"verb": "make long", "table": "cups", "columns": [1]})

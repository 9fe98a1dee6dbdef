"""Whether a column can be below 0, in a table's schema: by the standard's constraint, or our word."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.conftest import make_table
from theoros.files.table_schema import column_from, column_json


@pytest.mark.parametrize("said", ["", "no", "yes"])
def test_what_was_said_goes_to_and_fro(said: str) -> None:
    table = make_table("t", "row", x=[1.0, 2.0])
    column = replace(table.columns[0], below_zero=said)
    made = column_json(table, column)
    assert made.get("constraints") == ({"minimum": 0} if said == "no" else None)
    assert column_from(made) == column


@pytest.mark.parametrize(
    ("constraints", "said"),
    [
        ({"minimum": 0}, "no"),
        ({"minimum": 2.5}, "no"),
        ({"minimum": -5}, ""),
        ({}, ""),
        ({"minimum": "0"}, ""),
        ([], ""),
        (None, ""),
    ],
)
def test_constraints_of_other_programs(constraints: object, said: str) -> None:
    field = {"name": "x", "type": "number", "constraints": constraints}
    assert column_from(field).below_zero == said
    assert column_from({**field, "type": "string"}).below_zero == ""

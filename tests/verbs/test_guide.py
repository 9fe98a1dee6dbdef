"""The guide to a test: what columns answer already, and where answers lead."""

from __future__ import annotations

from itertools import product

import pytest

from theoros.verbs.core.answering import answer
from theoros.verbs.test.verb import preset, questions, statement_of


@pytest.fixture(scope="module")
def tables(demo):
    return demo.by_name


@pytest.mark.parametrize(
    ("table", "columns", "kind", "parameter"),
    [
        ("bushes", ["leaf length", "netting"], "two levels", "mean"),
        ("bushes", ["leaf length", "cultivar"], "levels", "mean"),
        ("bushes", ["netting", "grade"], "two categories", "relation"),
        ("bushes", ["netting"], "level", "proportion"),
        ("bushes", ["grade"], "counts of levels", "shares"),
        ("bushes", ["leaf length"], "one column", "mean"),
        ("bushes", ["leaf mass", "leaf length"], "two numbers", "correlation"),
        ("tasters", ["score after", "score before"], "pairs", "mean"),
        ("bushes", ["leaf length", "netting", "grade"], "two factors", "mean"),
    ],
)
def test_selected_columns_answer_what_they_can(tables, table, columns, kind, parameter) -> None:
    answers = preset(tables[table], columns)
    made = statement_of(answers, tables, table, columns)
    assert (made.data.kind, made.parameter) == (kind, parameter)
    held = [getattr(made.data, name, None) for name in ("what", "by", "and_by", "other", "against")]
    assert set(columns) <= set(held)
    problem = answer(made, tables).problem
    assert problem is None or (problem.slot == "null" and len(columns) == 1)


def test_every_way_through_leads_to_a_statement_that_can_be_asked(tables) -> None:
    own = tables["bushes"]
    about = [o.value for o in questions({}, own)[0].options]
    for what, groups, matched, figures, twice in product(
        about, ("one", "two", "several"), ("separate", "matched"), ("rows", "figures"), ("once", "twice")
    ):
        answers = {"about": what, "groups": groups, "matched": matched, "figures": figures, "twice": twice}
        made = statement_of(answers, tables, "bushes", [])
        found = answer(made, tables)
        assert made.text(tables).startswith("Test whether ")
        if made.parameter == "change" and figures == "rows":
            assert "it needs exactly two levels" in found.reading.headline
            continue
        figures = {one.key: one.given for one in questions(answers, own)}["figures"]
        if figures == "rows" and found.problem is not None:
            assert (groups, found.problem.slot) == ("one", "null")  # nothing is usual there
            found = answer(made.with_slot("null", 0.5, tables).statement, tables)
        # with figures there is something to be typed; with rows there is an answer
        assert found.problem is None or figures == "figures", (answers, found.problem)
        if figures == "figures":
            assert found.problem.sentence.startswith(("Type ", "There is no value"))


def test_questions_follow_from_answers(tables) -> None:
    own = tables["trays"]
    asked = [one.key for one in questions({"about": "mean", "groups": "two"}, own)]
    assert asked == ["about", "groups", "matched", "figures"]
    matched = questions({"about": "mean", "groups": "two"}, own)[2]
    assert "the first row of quick belongs to the first row of slow" in matched.help
    assert "Equal group sizes do not show" in matched.help
    related = [one.key for one in questions({"about": "relation"}, own)]
    assert related == ["about", "twice", "figures"]
    alone = questions({"about": "mean"}, None)[-1]
    assert [option.value for option in alone.options] == ["figures"]
    shape = questions({"about": "shape", "figures": "figures"}, own)[-1]
    assert ([option.value for option in shape.options], shape.given) == (["rows"], "rows")

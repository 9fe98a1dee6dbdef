"""Every verb's statement: slots, mending, JSON, and what awkward tables get."""

from __future__ import annotations

import itertools
import json
import re
from dataclasses import fields, replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.answer.layout import lay_out
from theoros.answer.parts import Answer, answer_json
from theoros.answer.svg import to_svg
from theoros.study.file import demo_study
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import arrangements
from theoros.verbs.core.answering import answer, drafts
from theoros.verbs.core.fields import declared
from theoros.verbs.core.registry import make, statement_from_json, verbs
from theoros.verbs.core.slots import Pick, PickSeveral, Slot, TypeNumber, TypeText, joined, phrase_text
from theoros.verbs.core.statement import Statement, StatementError
from theoros.verbs.data.data import data_kinds
from theoros.verbs.manual import manual

DEMO = demo_study()
TABLES = DEMO.by_name
EXAMPLES = [example for verb in verbs().values() for example in verb.examples]
names = [f"{example.verb}-{k}" for k, example in enumerate(EXAMPLES)]


@pytest.mark.parametrize("statement", EXAMPLES, ids=names)
def test_every_example_is_answered(statement: Statement) -> None:
    found = answer(statement, TABLES)
    assert found.problem is None
    assert found.caption == statement.text(TABLES)
    assert found.reading.headline
    json.dumps(answer_json(found))
    if found.picture is not None:
        assert found.picture.alt
        drawing = lay_out(found.picture, 760, 380)
        assert "<svg" in to_svg(drawing, found.picture.alt)


@pytest.mark.parametrize("statement", EXAMPLES, ids=names)
def test_a_statement_survives_json(statement: Statement) -> None:
    text = json.dumps(statement.to_json())
    assert statement_from_json(json.loads(text)) == statement


@pytest.mark.parametrize("statement", EXAMPLES, ids=names)
def test_an_answer_is_the_same_every_time(statement: Statement) -> None:
    assert answer_json(answer(statement, TABLES)) == answer_json(answer(statement, TABLES))


@pytest.mark.parametrize("verb", verbs().values(), ids=list(verbs()))
def test_every_field_says_what_it_holds(verb) -> None:
    told = declared(verb.statement)
    assert not [f.name for f in fields(verb.statement) if f.name != "table" and not told[f.name].meaning]


def test_the_manual_is_up_to_date_and_complete() -> None:
    path = Path(__file__).parents[2] / "docs/statements.md"
    assert path.read_text(encoding="utf-8") == manual(TABLES), "run ./run docs"
    for verb in verbs().values():
        for field in fields(verb.statement):
            assert f"`{field.name}`" in path.read_text(encoding="utf-8")
    for kind in data_kinds():
        assert f"`{kind}`" in path.read_text(encoding="utf-8")


def test_every_example_of_the_manual_is_answered() -> None:
    blocks = manual(TABLES).split("```json\n")[1:]
    assert len(blocks) == len(EXAMPLES) + len(arrangements())
    for block in blocks:
        statement = statement_from_json(json.loads(block.split("```")[0]))
        assert answer(statement, TABLES).problem is None


def options_of(slot: Slot) -> list[object]:
    if isinstance(slot.holds, Pick):
        return [option.value for option in slot.holds.options]
    if isinstance(slot.holds, PickSeveral):
        values = [option.value for option in slot.holds.options]
        return [tuple(values[:k]) for k in range(slot.holds.least, len(values) + 1)]
    if isinstance(slot.holds, TypeText):
        return ["", "A title"]
    assert isinstance(slot.holds, TypeNumber)
    low = slot.holds.low if slot.holds.low > -1e9 else -5
    high = slot.holds.high if slot.holds.high < 1e9 else 50
    middle = (low + high) / 2
    return [int(middle) if slot.holds.whole else middle]


@given(st.data())
def test_any_walk_through_the_slots_stays_answerable(data: st.DataObject) -> None:
    """From any example, any options chosen in any order: no crash, JSON holds, slots have words."""
    statement = data.draw(st.sampled_from(EXAMPLES))
    assert_fit_to_show(answer(walked(statement, TABLES, data), TABLES))


def walked(statement: Statement, tables: dict[str, Table], data: st.DataObject) -> Statement:
    """The statement after some slots were set to any of their options."""
    for _ in range(data.draw(st.integers(1, 5))):
        slots = statement.slots(tables)
        if not slots:
            break  # a verb may ask for nothing
        slot = data.draw(st.sampled_from(slots))
        choices = options_of(slot)
        if not choices:
            continue
        value = data.draw(st.sampled_from(choices))
        if slot.name in ("replicates", "replicates", "replicates"):
            value = 200
        try:
            mended = statement.with_slot(slot.name, value, tables)
        except StatementError as refused:
            assert str(refused).endswith(".")
            continue
        statement = mended.statement
        assert all(note.endswith(".") for note in mended.notes)
        assert statement_from_json(json.loads(json.dumps(statement.to_json()))) == statement
        text = statement.text(tables)
        assert text.endswith(".")
        assert "  " not in text
        assert "None" not in text
    return with_few(statement)


def with_few(statement: Statement) -> Statement:
    """The statement with few replicates, for tests to take no longer than they need."""
    for name in ("replicates", "replicates", "replicates"):
        if getattr(statement, name, 0) > 200:
            statement = replace(statement, **{name: 200})
    return statement


def awkward_tables() -> dict[str, Table]:
    long = "x" * 300
    return {
        "empty": make_table(value=[], other=[], group=[]),
        "no columns": make_table(),
        "one row": make_table(value=[1.0], other=[2.0], group=["a"]),
        "two rows": make_table(value=[1.0, 2.0], other=[2.0, 2.0], group=["a", "b"]),
        "all missing": make_table(value=[None, None], other=[1.0, None], group=["a", "b"]),
        "constant": make_table(value=[3.3] * 8, other=[3.3] * 8, group=list("aabbaabb")),
        "identical groups": make_table(value=[1.0, 2, 3, 1, 2, 3], other=[1.0, 2, 3, 1, 2, 3], group=list("aaabbb")),
        "group of one": make_table(value=[1.0, 2, 3, 9], other=[1.0, 2, 3, 4], group=list("aaab")),
        "group empty": make_table(value=[1.0, 2, None], other=[1.0, 2, 3], group=list("aab")),
        "group missing": make_table(value=[1.0, 2, 3], other=[1.0, 2, 3], group=["a", None, None]),
        "tiny": make_table(value=[1e-300, 2e-300], other=[1.0, 2], group=["a", "b"]),
        "huge": make_table(value=[1e300, -1e300, 5e299, 0], other=[1.0, 2, 3, 4], group=list("abab")),
        "largest": make_table(value=[1.7e308, -1.7e308], other=[1.0, 2], group=["a", "b"]),
        "long names": make_table(value=[1.0, 2, 3], other=[3.0, 2, 1], group=[long, long, "{}_"]),
        "right to left": make_table(value=[1.0, 2, 3], other=[1.0, 5, 3], group=["שלום", "سلام", "שלום"]),
        "many levels": make_table(
            value=[float(k) for k in range(500)], other=[0.5] * 500, group=[f"level {k}" for k in range(500)]
        ),
        "all text": make_table(value=["a", "b"], other=["c", "d"], group=["e", "f"]),
    }


@pytest.mark.parametrize("name", list(awkward_tables()))
@pytest.mark.parametrize("verb", list(verbs()))
def test_awkward_tables_get_an_answer_or_a_sentence(name: str, verb: str) -> None:
    """Every verb, suggested and by hand: an answer that can be drawn, or one clear sentence."""
    table = awkward_tables()[name]
    tables = {"t": table}
    tried = [
        verbs()[verb].suggest(tables, "t", []),
        verbs()[verb].suggest(tables, "t", list(table.by_name)[:2]),
        verbs()[verb].suggest(tables, "t", [c for c in ("value", "group") if c in table.by_name]),
    ]
    common = {"table": "t", "what": "value"}
    if verb in ("plot", "describe", "test"):
        tried.append(make(verb, **common))
    if verb == "test":
        for method in ("welch t", "pooled t", "rank sum", "shuffled labels"):
            centre = "median" if method == "rank sum" else "mean"
            tried.append(
                make("test", **common, by="group", first="a", second="b", method=method, centre=centre, replicates=200)
            )
        for method, centre in (("paired t", "mean"), ("signed rank", "median"), ("shuffled signs", "mean")):
            tried.append(make("test", **common, other="other", groups="columns", design="matched",
                              method=method, centre=centre, replicates=200))  # fmt: skip
    for statement in tried:
        found = answer(with_few(statement), tables)
        assert_fit_to_show(found)


@given(st.data())
def test_any_walk_over_awkward_tables_gets_an_answer_or_a_sentence(data: st.DataObject) -> None:
    table = data.draw(st.sampled_from(list(AWKWARD.values())))
    verb = data.draw(st.sampled_from(list(verbs())))
    tables = {"t": table}
    columns = data.draw(st.permutations(list(table.by_name)))[: data.draw(st.integers(0, 3))]
    statement = verbs()[verb].suggest(tables, "t", columns)
    assert_fit_to_show(answer(walked(statement, tables, data), tables))


AWKWARD = awkward_tables()
UGLY = re.compile(r"\b1 (rows|values|points|cases|groups)\b|  | [,.;]|\(\)|“”|\binf\b|(?<!\d)-\d")
"""A plural of one, spaces gone wrong, empty brackets, a hyphen for a minus."""


def assert_fit_to_show(found: Answer) -> None:
    if found.problem:
        assert found.problem.sentence.endswith(".")
        assert len(found.problem.sentence) > 20
        return
    if found.picture is not None:
        to_svg(lay_out(found.picture, 700, 300), found.picture.alt)
        assert not UGLY.search(found.picture.alt), found.picture.alt
    made = answer_json(found)
    text = json.dumps(made, allow_nan=False)
    for ugly in ("nan", "NaN", "None", "inf ", "array("):
        assert ugly not in text.replace("None of", "")
    headline = found.reading.headline
    assert headline.endswith((".", "…")) or re.search(" [=≈] ", headline), headline
    for paragraph in (*found.reading.paragraphs, *found.reading.cautions):
        assert paragraph.endswith((".", "…")), paragraph
        assert not UGLY.search(paragraph.replace("in 1 ", "")), paragraph


@pytest.mark.parametrize(
    ("data", "told"),
    [
        ([], "A statement is a JSON object"),
        ({"verb": "guess"}, "There is no verb “guess”. Verbs: plot, describe, probability, test"),
        ({"verb": "test", "alfa": 1}, "test has no slot called “alfa”"),
        ({"verb": "test", "alpha": "x"}, "alpha must be a number, and “x” is not"),
        ({"verb": "test", "alpha": True}, "alpha must be a number"),
        ({"verb": "test", "claim": "more"}, "alternative cannot be “more”. It can be: less, greater"),
        ({"verb": "plot", "what": 3}, "what must be text"),
        ({"verb": "test", "replicates": 1.5}, "replicates must be a whole number"),
        ({"verb": "test", "continuity": 1}, "continuity must be true or false"),
    ],
)
def test_bad_statements_are_refused_in_words(data: object, told: str) -> None:
    with pytest.raises(StatementError) as caught:
        statement_from_json(data)
    assert told in str(caught.value)


@pytest.mark.parametrize(
    ("slots", "told"),
    [
        ({"table": "bushels"}, "There is no table called “bushels” in this study. Tables: bushes"),
        ({"what": "weight"}, "There is no column “weight” in bushes"),
        ({"what": "netting", "by": None}, "It cannot be “stacked dots” here. It can be: bars"),
        ({"what": "netting", "shape": "mosaic"}, "netting is used elsewhere"),
        ({"by": "elevation"}, "elevation is a number column, and the groups must be"),
        ({"what": None}, "Choose what to plot: a number, category or ordered column"),
        ({"bins": -1.0}, "−1 is out of range. Type a number above 0."),
        ({"bins": 1e-9}, "would make more than 2000 of them. Choose a width of"),
        ({"colour": "grades"}, "There is no column “grades”"),
    ],
)
def test_slots_that_do_not_fit_say_why(slots: dict, told: str) -> None:
    start = {"table": "bushes", "what": "pluck mass", "by": "netting"}
    found = answer(make("plot", **{**start, **slots}), TABLES)
    assert found.problem is not None
    assert told in found.problem.sentence


def test_refused_values_leave_the_statement() -> None:
    statement = EXAMPLES[0]
    with pytest.raises(StatementError, match="out of range"):
        statement.with_slot("bins", -4.0, TABLES)
    with pytest.raises(StatementError, match="It cannot be “nothing here”"):
        statement.with_slot("what", "nothing here", TABLES)
    with pytest.raises(StatementError, match="no slot called"):
        statement.with_slot("colours", "grade", TABLES)


def test_slots_mend_what_depends_on_them() -> None:
    plot = make("plot", table="bushes", what="pluck mass", by="netting", bins=4.0)
    other = plot.with_slot("what", "elevation", TABLES)
    assert other.statement.bins is None
    assert "bins were chosen again" in other.notes[0]
    scatter = plot.with_slot("shape", "scatter", TABLES).statement
    assert scatter.against == "elevation"
    away = plot.with_slot("what", ("trays", "moisture loss"), TABLES)
    assert (away.statement.table, away.statement.by) == ("trays", None)
    assert "trays has no column “netting”" in away.notes[0]


def test_statements_follow_renaming() -> None:
    test = make("test", table="trays", what="moisture loss", by="withering", first="slow", second="quick")
    renamed = test.renamed_column("trays", "moisture loss", "loss")
    assert (renamed.data.what, renamed.data.by) == ("loss", "withering")
    levels = test.renamed_levels("trays", "withering", {"slow": "gentle"})
    assert (levels.data.first, levels.data.second) == ("gentle", "quick")
    assert test.renamed_levels("trays", "shelf", {"slow": "gentle"}) == test
    assert test.renamed_column("bushes", "moisture loss", "loss") == test
    assert test.renamed_table("trays", "racks").table == "racks"


def test_number_slots_say_their_range() -> None:
    assert TypeNumber(0, 1, low_open=True, high_open=True).range_words == "Type a number between 0 and 1."
    assert TypeNumber(100, 10_000, whole=True).problem(1.5).endswith("Type a whole number from 100 to 10\u202f000.")
    assert TypeNumber(low=2).problem(1) == "1 is out of range. Type a number of at least 2."
    assert TypeNumber().problem(float("nan")).startswith("It must be a finite number.")
    assert TypeNumber().problem("x") == "“x” is not a number. Type a number."
    assert TypeNumber(auto=True).problem(None) == ""


def test_drafts_end_with_the_answer() -> None:
    example = next(one for one in EXAMPLES if getattr(one, "method", "") == "paired t")
    statement = replace(example, method="shuffled signs", replicates=5000)
    seen = list(drafts(statement, TABLES))
    assert seen[-1].done == 1
    assert [d.done for d in seen] == sorted(d.done for d in seen)
    assert sum(d.answer is not None for d in seen) >= 3
    assert answer_json(seen[-1].answer) == answer_json(answer(statement, TABLES))


def test_pieces_of_text_are_joined_and_slots_stay() -> None:
    phrase = EXAMPLES[0].phrase(TABLES)
    pieces: list = []
    for part in phrase:
        pieces += [part[:2], part[2:]] if isinstance(part, str) else [part]
    assert joined(tuple(pieces)) == joined(phrase)
    kinds = [isinstance(part, str) for part in joined(phrase)]
    assert not any(a and b for a, b in itertools.pairwise(kinds))


def test_phrases_are_text_and_slots() -> None:
    phrase = EXAMPLES[0].phrase(TABLES)
    assert phrase_text(phrase).startswith("Plot pluck mass (g) for each netting, coloured by grade")
    assert [p.name for p in phrase if isinstance(p, Slot)] == ["what", "by", "colour", "shape", "bins", "marks"]

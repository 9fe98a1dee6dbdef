"""Formulas: what they give, where they are wrong, and that they always end."""

from __future__ import annotations

import math
import statistics
import time
from datetime import date

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.table.formula import FormulaError, columns_in, evaluate, in_words, quoted, renamed, truth
from theoros.table.formula.known_functions import FUNCTIONS
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table

LEAVES = make_table(
    "leaves", "leaf", leaf_mass=[20.0, 23.4, None, 14.0], leaf=[1.0, 2.0, 3.0, 4.0], tea=["Amber", None, "Mist", "Jade"]
)


def values(formula: str, table: Table = LEAVES) -> list:
    return evaluate(formula, table).values.to_list()


@pytest.mark.parametrize(
    ("formula", "expected"),
    [
        ("leaf mass / leaf", [20, 11.7, None, 3.5]),
        ("'leaf mass' / leaf", [20, 11.7, None, 3.5]),
        ("-2 ^ 2", [-4] * 4),
        ("2 ^ 3 ^ 2", [512] * 4),
        ("2 ^ -1", [0.5] * 4),
        ("7 mod 3 + -7 mod 3", [3] * 4),
        ("1 - 2 - 3", [-4] * 4),
        ("leaf × 2 ÷ 4 − 1", [-0.5, 0, 0.5, 1]),
        ("1 / (leaf - 1)", [None, 1, 0.5, pytest.approx(1 / 3)]),
        ("sqrt(0 - leaf)", [None] * 4),
        ("10 ^ 400", [None] * 4),
        ("round(leaf / 2)", [1, 1, 2, 2]),
        ("round(-2.5) + round(1.005, 1)", [-2] * 4),
        ("max(leaf, 3)", [3, 3, 3, 4]),
        ("max(leaf mass, leaf)", [20, 23.4, None, 14]),
        ("min(leaf)", [1] * 4),
        ("if leaf mass > 15 then 1 else 0", [1, 1, None, 0]),
        ("if leaf = 1 then 10 else if leaf = 2 then 20 else missing", [10, 20, None, None]),
        ("lag(leaf)", [None, 1, 2, 3]),
        ("lag(leaf, -1)", [2, 3, 4, None]),
        ("row()", [1, 2, 3, 4]),
        ("running(leaf)", [1, 3, 6, 10]),
        ("rank(0 - leaf)", [4, 3, 2, 1]),
        ("total(leaf mass)", [57.4] * 4),
        ("count(leaf mass)", [3] * 4),
        ("length(tea)", [5, None, 4, 4]),
        ('number("2,5") + number("x")', [None] * 4),
        ("year(date(2024, 2, 29)) + weekday(date(2024, 2, 29))", [2028] * 4),
        ("month(date(2023, 2, 29))", [None] * 4),
        ("date(2024, 3, 1) - date(2024, 2, 1)", [29] * 4),
    ],
)
def test_numbers(formula: str, expected: list) -> None:
    assert values(formula) == pytest.approx(expected)


@pytest.mark.parametrize(
    ("formula", "expected"),
    [
        ('tea & " " & leaf', ["Amber 1", None, "Mist 3", "Jade 4"]),
        ("upper(part(tea, 1, 2))", ["AM", None, "MI", "JA"]),
        ("text(leaf / 2)", ["0.5", "1", "1.5", "2"]),
        ('tea in ("Amber", "Mist")', [True, None, True, False]),
        ('leaf < 3 and tea = "Amber"', [True, None, False, False]),
        ("tea is missing or leaf ≥ 4", [False, True, False, True]),
        ("not tea is not missing", [False, True, False, False]),
        ("leaf <> 2", [True, False, True, True]),
        ('contains(lower(tea), "m")', [True, None, True, False]),
        ("date(2026, 11, leaf) + 1", [date(2026, 11, d) for d in (2, 3, 4, 5)]),
    ],
)
def test_texts_truths_and_dates(formula: str, expected: list) -> None:
    assert values(formula) == expected


def test_functions_agree_with_pythons_own() -> None:
    """math and statistics are the sources."""
    for x in (0.3, 1.0, 7.25, 1e6):
        table = make_table(x=[x, x + 1, x + 3])
        for name, known in (
            ("ln", math.log),
            ("exp", math.exp),
            ("sqrt", math.sqrt),
            ("abs", abs),
            ("log", math.log10),
            ("floor", math.floor),
            ("ceiling", math.ceil),
        ):
            if name == "exp" and x > 700:
                continue
            assert values(f"{name}(x)", table)[0] == pytest.approx(known(x), rel=1e-14)
        assert values("log(x, 3)", table)[0] == pytest.approx(math.log(x, 3), rel=1e-13, abs=1e-15)
    data = [2.0, 3.5, 3.5, 9.0, -1.0, 4.25]
    table = make_table(x=[*data, None])
    for formula, known in (
        ("mean(x)", statistics.mean(data)),
        ("sd(x)", statistics.stdev(data)),
        ("median(x)", statistics.median(data)),
        ("quantile(x, 0.25)", statistics.quantiles(data, n=4, method="inclusive")[0]),
    ):
        assert values(formula, table)[0] == pytest.approx(known, rel=1e-14)
    z = values("zscore(x)", table)
    assert z[-1] is None
    assert statistics.mean(z[:-1]) == pytest.approx(0, abs=1e-15)
    assert statistics.stdev(z[:-1]) == pytest.approx(1)


def test_statistics_count_rows_as_often_as_they_count() -> None:
    table = make_table(x=[1.0, 2.0, 6.0], n=[3, 0, 1]).with_(counts="n")
    spread = [1, 1, 1, 6]
    assert values("mean(x)", table)[0] == statistics.mean(spread)
    assert values("sd(x)", table)[0] == pytest.approx(statistics.stdev(spread))
    assert values("median(x) + count(x) + total(x)", table)[0] == 1 + 4 + 9


def test_an_ordered_column_compares_by_its_levels() -> None:
    column = Column("grade", Kind.ORDERED, levels=("coarse", "fair", "fine"))
    table = Table("t", (column,), pl.DataFrame({"grade": ["fine", "coarse", None, "fair"]}))
    assert truth('grade >= "fair"', table).to_list() == [True, False, False, True]
    with pytest.raises(FormulaError, match="not one of the levels: coarse, fair, fine"):
        truth('grade >= "good"', table)


@pytest.mark.parametrize(
    ("formula", "words", "at"),
    [
        ("", "Type a formula", 0),
        ("leaf mass +", "missing at the end", 11),
        ("leaf leaf", "operator", 5),
        ("(leaf", "close the bracket", 5),
        ("leaf)", "closes none", 4),
        ("leef + 1", "Did you mean leaf", 0),
        ("Amber", "double quotes", 0),
        ("leaf + tea", "tea is text", 7),
        ('"leaf" * 2', "without double quotes", 0),
        ("1 < leaf < 3", "“and” between", 9),
        ("leaf = missing", "is missing", 7),
        ('tea < "b"', "ordered column", 0),
        ("tea = 3", "cannot be compared", 0),
        ("if leaf > 1 then 2", "“else” is missing", 18),
        ("if leaf then 1 else 2", "leaf is a number", 3),
        ("3,5", "Decimals take a point", 1),
        ("sd()", "sd is written sd(x)", 0),
        ("sd", "needs brackets", 0),
        ("foo(1)", "no function “foo”", 0),
        ("lag(leaf, leaf)", "whole number", 10),
        ("'no such' + 1", "no column “no such”", 0),
        ('"open', "not closed", 0),
        ("leaf # 2", "no meaning", 5),
        ("missing", "Every value", 0),
        ("date(2024, 1, 1) + date(2024, 1, 2)", "", 0),
        ("leaf is", "after “is”", 7),
    ],
)
def test_errors_say_what_and_where(formula: str, words: str, at: int) -> None:
    with pytest.raises(FormulaError) as found:
        evaluate(formula, LEAVES)
    assert words in str(found.value)
    if words:
        assert found.value.at == at
    assert found.value.at <= found.value.end
    assert str(found.value).endswith((".", "?"))


def test_a_condition_must_be_true_or_false() -> None:
    with pytest.raises(FormulaError, match="true or false"):
        truth("leaf + 1", LEAVES)


def test_long_and_deep_formulas_are_refused() -> None:
    with pytest.raises(FormulaError, match="2000 are the most"):
        evaluate("1" + "+1" * 2000, LEAVES)
    for deep in ("(" * 500 + "1" + ")" * 500, "-" * 500 + "1", "not " * 300 + "true", "2^" * 300 + "1"):
        with pytest.raises(FormulaError, match="nested more than 40"):
            evaluate(deep, LEAVES)
    with pytest.raises(FormulaError, match="10000 are the most"):
        evaluate("big & big", make_table(big=["x" * 6000]))


NAMES = st.lists(
    st.text(st.characters(codec="utf-8", exclude_categories=["C"]), min_size=1, max_size=8)
    .map(lambda text: " ".join(text.split()))
    .filter(bool),
    min_size=1,
    max_size=5,
    unique=True,
)


@given(NAMES)
def test_any_name_can_be_written(names: list[str]) -> None:
    """A name as `quoted` writes it is read as that column and no other."""
    table = make_table().with_(
        columns=tuple(Column(name) for name in names),
        frame=pl.DataFrame([pl.Series(name, [float(at)]) for at, name in enumerate(names)]),
    )
    for at, name in enumerate(names):
        written = quoted(name, names)
        assert columns_in(written, names) == (name,)
        assert values(f"{written} + 0", table) == [at]


@given(NAMES, st.data())
def test_renaming_keeps_the_meaning(names: list[str], data: st.DataObject) -> None:
    old = data.draw(st.sampled_from(names))
    new = data.draw(NAMES)[0]
    if new in names:
        return
    formula = " + ".join(quoted(name, names) for name in names)
    after = [new if name == old else name for name in names]
    assert columns_in(renamed(formula, old, new, names), after) == tuple(after)


@given(st.text("leaf mas.1+-*/^()<>=,'\"& andorifthenlsi", max_size=60))
def test_any_text_gives_values_or_a_sentence(text: str) -> None:
    try:
        assert evaluate(text, LEAVES).values.len() == LEAVES.rows
    except FormulaError as problem:
        assert str(problem).endswith((".", "?"))
        assert 0 <= problem.at <= len(text)


def test_every_function_has_help_and_a_form() -> None:
    for name, function in FUNCTIONS.items():
        assert function.form.startswith(f"{name}(")
        assert function.help.endswith(".")


@pytest.mark.parametrize(
    ("condition", "said"),
    [
        ('tea = "Amber"', "tea is Amber"),
        ("leaf mass >= 20 and leaf < -3", "leaf mass is at least 20\u00a0g and leaf is below −3"),
        (
            'tea is missing or tea <> "a" or leaf is not missing',
            "tea is missing or tea is not a or leaf is not missing",
        ),
        ('contains(tea, "am") and leaf = 2', "tea contains “am” and leaf is 2"),
        ("(leaf > 1 or leaf < 0) and leaf > 0", "(leaf > 1 or leaf < 0) and leaf > 0"),
        ("leaf + 1 > 2", "leaf + 1 > 2"),
        ("leaf >", "leaf >"),
    ],
)
def test_simple_conditions_are_said_in_words(condition: str, said: str) -> None:
    columns = (Column("leaf mass", unit="g"), *LEAVES.columns[1:])
    assert in_words(condition, LEAVES.with_(columns=columns)) == said


LONG = {
    "a sum": (" + ".join(["x"] * 300), 600.0),
    "a chain of remainders": (" mod ".join(["x", *["7"] * 200]), 2.0),
    "nested sizes": ("abs(" * 30 + "x" + ")" * 30, 2.0),
    "nested scores": ("abs(" * 8 + "zscore(" * 12 + "x" + ")" * 20, 0.0),
    "powers": ("^".join(["x", *["1"] * 30]), 2.0),
    "nested conditions": ("if x > 1 then " * 30 + "x" + " else 0" * 30, 2.0),
    "a long list": (f"if x in ({', '.join(['2'] * 500)}) then 1 else 0", 1.0),
    "a list of columns": (f"if x in ({', '.join(['x'] * 200)}) then 1 else 0", 1.0),
}


@pytest.mark.parametrize("name", list(LONG))
def test_a_formula_takes_time_by_its_length_not_by_its_depth(name: str) -> None:
    """Each part is worked out once: these took minutes and all the memory when it was not."""
    text, wanted = LONG[name]
    begun = time.monotonic()
    values = evaluate(text, make_table(x=[1.0, 2.0, 3.0])).values
    assert values[1] == pytest.approx(wanted)
    assert time.monotonic() - begun < 10


def test_no_number_of_a_formula_is_infinite() -> None:
    table = make_table(x=[1e308, 1e308])
    for text in ("mean(x)", "total(x)", "sd(x)", "x * 10", "x - x / 0", "exp(x)", "running(x)"):
        values = evaluate(text, table).values
        assert values.is_finite().fill_null(value=True).all(), text


def test_texts_made_of_numbers_have_an_end_too() -> None:
    table = make_table(x=[float(k) for k in range(300_000)])
    with pytest.raises(FormulaError, match="too long to be worked with so often"):
        evaluate("&".join(["x"] * 60), table)

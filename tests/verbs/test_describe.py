"""The verb Describe: figures, working and words."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import answer_json
from theoros.answer.wording import to_plain
from theoros.study.file import demo_study
from theoros.verbs.registry import make
from theoros.verbs.statement import answer

DEMO = demo_study().by_name
ODD = {"t": make_table("t", "cup", v=[4.0, 1, 2, 30, 3, 5, 7, 6, None], g=["a"] * 4 + ["b"] * 5)}


def rows_of(statement, tables) -> list[dict]:
    return answer_json(answer(statement, tables))["figures"]["summary"]


def test_figures_of_the_demo_against_scipy_and_numpy() -> None:
    table = DEMO["bushes"]
    rows = rows_of(make("describe", table="bushes", what="leaf mass", by="cultivar"), DEMO)
    values, codes = table.numbers("leaf mass"), table.codes("cultivar")
    for code, row in enumerate(rows):
        mine = values[(codes == code) & np.isfinite(values)]
        ref = stats.describe(mine)
        assert row["n"] == ref.nobs
        assert row["mean"] == pytest.approx(ref.mean, rel=1e-12)
        assert row["sd"] == pytest.approx(np.sqrt(ref.variance), rel=1e-12)
        assert (row["minimum"], row["maximum"]) == ref.minmax
        assert row["median"] == pytest.approx(np.median(mine))
    assert sum(row["n"] + row["missing"] for row in rows) == 180


def test_figures_by_hand() -> None:
    # 1 2 3 4 | 5 6 7 30: Q1 2.5, Q3 6.5, IQR 4, fences -3.5 and 12.5
    (row,) = rows_of(make("describe", table="t", what="v"), ODD)
    assert (row["q1"], row["median"], row["q3"], row["iqr"]) == (2.5, 4.5, 6.5, 4)
    assert (row["lower_fence"], row["upper_fence"], row["outside"]) == (-3.5, 12.5, 1)
    assert (row["missing"], row["rows"]) == (1, [4])


def test_the_quartile_rule_is_a_slot_and_changes_the_figures() -> None:
    statement = make("describe", table="t", what="v")
    other = statement.with_slot("quartiles", "type 7", ODD).statement
    (row,) = rows_of(other, ODD)
    assert (row["q1"], row["q3"]) == (2.75, 6.25)  # as numpy.quantile has it
    assert "type 7, interpolated at 1 + (n − 1)p" in other.text(ODD)


def test_the_working_of_the_fences() -> None:
    (step,) = answer(make("describe", table="t", what="v"), ODD).working
    lines = [to_plain(line) for line in step.lines]
    assert lines[0].endswith(
        "each half has 4 values; Q₁ is values 2 and 3, averaged, from the smallest, and Q₃ the same from the largest."
    )
    assert lines[2] == "IQR = Q₃ − Q₁ = 6.5 − 2.5 = 4"
    assert lines[4] == "upper fence = Q₃ + 1.5 × IQR = 6.5 + 1.5 × 4 = 12.5"
    assert lines[5] == "Beyond a fence: 30 in row 4, z = 2.4."


def test_negative_quartiles_are_bracketed_in_the_working() -> None:
    tables = {"t": make_table("t", v=[-4.0, -3, -2, -1, 0, 1])}
    (step,) = answer(make("describe", table="t", what="v"), tables).working
    assert to_plain(step.lines[2]) == "IQR = Q₃ − Q₁ = 0 − (−3) = 3"


def test_outlying_rows_are_named_and_selectable() -> None:
    reading = answer(make("describe", table="t", what="v"), ODD).reading
    assert reading.cautions[0].startswith(
        "Row 4 (30, above 12.5) lies beyond the fences. Look at it;"
    )
    assert [link.label for link in reading.next[:2]] == [
        "See row 4 in the table",
        "Try it without row 4",
    ]
    assert reading.next[0].rows == (3,)


def test_words_for_all_and_for_groups() -> None:
    one = answer(make("describe", table="t", what="v"), ODD).reading
    assert one.headline == "The 8 cups have a mean v of 7.2 and a median of 4.5."
    assert "high values pull it that way" in one.paragraphs[1]
    groups = answer(
        make("describe", table="bushes", what="leaf length", by="cultivar"), DEMO
    ).reading
    assert groups.headline == (
        "The mean leaf length is highest for Jade bushes, 72.82\u00a0mm, and lowest for Amber "
        "bushes, 55.11\u00a0mm."
    )


def test_one_decimal_down_a_column() -> None:
    figures = answer(
        make("describe", table="bushes", what="leaf length", by="cultivar"), DEMO
    ).figures[0]
    for at in range(3, len(figures.headings) - 1):
        decimals = {len(row.cells[at].text.partition(".")[2]) for row in figures.rows}
        assert len(decimals) == 1, figures.headings[at].key


def test_figures_copy_as_they_read() -> None:
    lines = answer(make("describe", table="t", what="v", by="g"), ODD).figures[0].to_lines()
    assert lines[0][:4] == ["g", "n", "missing", "mean"]
    assert lines[1][:3] == ["a", "4", "0"]
    assert lines[2][:3] == ["b", "4", "1"]

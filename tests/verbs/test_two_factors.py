"""A number by two categories: the answer, its words, and what it cannot do."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import make_table
from tests.numeric.test_two_way import FIRST, SECOND, TEETH, by_rows, dummies
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json

DATA = {"kind": "two factors", "what": "growth", "by": "tea", "and_by": "dose"}


def asked(table, method: str = "interaction", **slots):
    held = {"verb": "test", "table": "t", "method": method, "data": DATA, **slots}
    return answer(statement_from_json(held), {"t": table})


@pytest.fixture(scope="module")
def teeth():
    return make_table(
        growth=TEETH.ravel().tolist(),
        tea=["Mist" if one else "Amber" for one in FIRST],
        dose=[("half", "one", "two")[two] for two in SECOND],
    )


def test_the_published_table_is_the_answers(teeth) -> None:
    """Crampton 1947: F 15.572, 92.000 and 4.107."""
    found = asked(teeth)
    assert found.problem is None, found.problem
    told = [found.numbers[method]["F"] for method in ("first factor", "second factor", "interaction")]
    assert [round(f, 3) for f in told] == [15.572, 92.0, 4.107]
    table = next(one for one in found.figures if one.key == "anova")
    names = [row.cells[0].text for row in table.rows]
    assert names == ["tea", "dose", "tea × dose", "error", "total"]
    assert "type" not in table.title


def test_words_of_each_effect(teeth) -> None:
    said = " ".join(asked(teeth).reading.paragraphs)
    assert "the difference in the mean growth between levels of tea depends on dose" in said
    main = asked(teeth, "second factor")
    said = " ".join(main.reading.paragraphs)
    assert "the mean growth differs between levels of dose, allowing for tea" in said
    assert any("look at the cell means" in one for one in main.reading.cautions)


def test_cell_means_are_a_line_for_each_level(teeth) -> None:
    section = next(one for one in asked(teeth).sections if one.title.startswith("Cell means"))
    assert section.picture is not None
    assert [key.label for key in section.picture.keys] == ["half", "one", "two"]
    cells = [cell.text for cell in section.figures[0].rows[0].cells]
    assert cells == ["Amber", "7.98 (n = 10)", "16.77 (n = 10)", "26.14 (n = 10)"]


@pytest.mark.parametrize("sums", ["I", "II", "III"])
def test_unbalanced_sums_are_of_the_type_that_is_chosen(teeth, sums: str) -> None:
    rows = np.setdiff1d(np.arange(60), [0, 1, 2, 15, 33, 34, 59])
    short = make_table(
        growth=TEETH.ravel()[rows].tolist(),
        tea=["Mist" if one else "Amber" for one in FIRST[rows]],
        dose=[("half", "one", "two")[two] for two in SECOND[rows]],
    )
    values, base = TEETH.ravel()[rows], 1 if sums == "III" else 0
    a, b = dummies(FIRST[rows], 2, base), dummies(SECOND[rows], 3, base)
    ab = (a[:, :, None] * b[:, None, :]).reshape(values.size, -1)
    expected = {
        "I": by_rows(values) - by_rows(values, a),
        "II": by_rows(values, b) - by_rows(values, a, b),
        "III": by_rows(values, b, ab) - by_rows(values, a, b, ab),
    }[sums]
    found = asked(short, "first factor", sums=sums)
    assert found.numbers["first factor"]["ss"] == pytest.approx(expected, rel=1e-9)
    table = next(one for one in found.figures if one.key == "anova")
    assert table.title.endswith(f"type {sums}")


@pytest.mark.parametrize(
    ("columns", "why"),
    [
        ({"growth": [1, 2, 3, 4, 5], "tea": list("aabbb"), "dose": list("xxxyy")}, "and a and y has none"),
        ({"growth": [1, 2, 3, 4], "tea": list("aabb"), "dose": list("xyxy")}, "needs two values"),
        (
            {"growth": [1, 1, 2, 2, 3, 3, 4, 4], "tea": list("aaaabbbb"), "dose": list("xxyyxxyy")},
            "all values of each pair of levels are equal",
        ),
        ({"growth": [1, 2, 3, 4], "tea": list("aabb"), "dose": list("xxxx")}, "needs at least two levels of dose"),
    ],
)
def test_what_cannot_be_answered_is_said(columns, why: str) -> None:
    found = asked(make_table(**columns))
    assert why in found.reading.headline

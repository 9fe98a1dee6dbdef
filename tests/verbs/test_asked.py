"""What no data can show and is asked: independence, and how large a part the sample is."""

from __future__ import annotations

import pytest

from tests.conftest import make_table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, statement_from_json

LENGTH = {
    "verb": "test",
    "table": "bushes",
    "method": "one-sample t",
    "null": 62,
    "data": {"kind": "one column", "what": "leaf length"},
}
LOSS = {
    "verb": "test",
    "table": "trays",
    "data": {"kind": "two levels", "what": "moisture loss", "by": "withering", "first": "slow", "second": "quick"},
}


@pytest.fixture(scope="module")
def tables(demo):
    return demo.by_name


def conditions(tables, **slots) -> dict[str, str]:
    found = answer(statement_from_json(slots), tables)
    return {one.text: one.mark for one in found.reading.assumptions}


def steps(tables, **slots) -> str:
    found = answer(statement_from_json(slots), tables)
    return "\n".join(str(line) for line in found.writeup[1].lines)


def test_they_are_asked_until_they_are_answered(tables) -> None:
    told = conditions(tables, **LENGTH)
    question = "Are the bushes independent: does the value of one have no influence on the value of another?"
    assert told[question] == "judge"
    assert told["Is the sample at most 5 % of all bushes?"] == "judge"
    assert "? it has not been said whether the bushes are independent" in steps(tables, **LENGTH)


def test_the_reason_stands_in_the_report(tables) -> None:
    slots = {**LENGTH, "independent": "yes", "because": "one leaf of each bush.", "part": "small"}
    lines = steps(tables, **slots)
    assert "✓ the bushes are independent of each other: one leaf of each bush" in lines
    assert "✓ the sample is at most 5\u00a0% of all bushes" in lines
    slot = statement_from_json(slots).slot("because", tables)
    assert slot is not None
    assert slot.value == "one leaf of each bush."
    assert statement_from_json(LENGTH).slot("because", tables) is None


def test_what_fails_says_what_it_means(tables) -> None:
    told = conditions(tables, **LENGTH, independent="no", part="large")
    assert any(mark == "fails" and "p can be far too small" in text for text, mark in told.items())
    assert any("p is too large" in text for text in told)


def test_what_was_assigned_is_no_part_of_a_population(tables) -> None:
    assert not any("at most 5" in text for text in conditions(tables, **LOSS))


def test_pairs_are_what_has_to_be_independent(tables) -> None:
    told = conditions(
        tables,
        verb="test",
        table="tasters",
        method="paired t",
        data={"kind": "pairs", "what": "score after", "other": "score before"},
    )
    assert any(text.startswith("Are the pairs independent") for text in told)


@pytest.mark.parametrize("slots", [{}, {"also": ("y",)}, {"what": "grade", "level": "fine"}])
def test_a_model_asks_in_the_same_words_and_says_what_depending_costs(slots: dict) -> None:
    """Whatever is modelled: one number by another or by several, or a level."""
    x = [float(one) for one in range(1, 25)]
    grades = ["fine" if one % 3 else "coarse" for one in range(24)]
    y = [one * 1.7 + (one % 5) for one in x]
    table = make_table("t", "bush", x=x, y=[(one * 7) % 11 for one in x], z=y, grade=grades)
    asked = {"what": "z", "against": "x", **slots}

    def stands(said: str) -> tuple[str, str]:
        found = answer(make("model", table="t", independent=said, **asked), {"t": table}).reading.assumptions
        (one,) = [a for a in found if any(choice.slot == "independent" for choice in a.choices)]
        return one.mark, one.text

    assert stands("yes") == ("holds", "As you say, the bushes are independent of each other.")
    mark, text = stands("no")
    assert (mark, text) == ("fails", "As you say, the bushes depend on each other: errors and bands are too small.")
    mark, text = stands("not said")
    assert mark == "judge"
    assert text.startswith(
        "Are the bushes independent: does the value of one have no influence on the value of another?"
    )

"""How numbers and words are written."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.nouns import counted, group_phrase, pair_phrase, plural, singular, with_article
from theoros.answer.wording import (
    between_data,
    exact,
    listed,
    listed_briefly,
    number,
    p_equals,
    p_value,
    percent,
    sentence_case,
    shortened,
    significant,
    to_html,
    to_plain,
    with_unit,
)


@pytest.mark.parametrize(
    ("value", "decimals", "text"),
    [
        (3.14159, 2, "3.14"),
        (-2.5, 1, "−2.5"),
        (1234.5, 1, "1234.5"),
        (1234, 0, "1234"),
        (12345.678, 1, "12\u202f345.7"),
        (1e12, 0, "1.00 × 10¹²"),
        (2.5e-9, 2, "2.50 × 10⁻⁹"),
        (0.0, 2, "0.00"),
        (-0.001, 2, "0.00"),
        (math.nan, 2, "–"),
        (math.inf, 1, "∞"),
        (-math.inf, 1, "−∞"),
    ],
)
def test_numbers(value: float, decimals: int, text: str) -> None:
    assert number(value, decimals) == text


@pytest.mark.parametrize(
    ("p", "text"),
    [
        (0.0312, "0.0312"),
        (0.00004, "< 0.0001"),
        (0.00005, "0.0001"),
        (1.0, "1.0000"),
        (0, "< 0.0001"),
        (0.99996, "> 0.9999"),
        (0.99994, "0.9999"),
    ],
)
def test_p_values(p: float, text: str) -> None:
    assert p_value(p) == text
    assert to_plain(p_equals(p)) == (f"p {text}" if text[0] in "<>" else f"p = {text}")


def test_exact_keeps_what_was_typed() -> None:
    assert exact(0.05) == "0.05"
    assert exact(2.0) == "2"
    assert exact(-0.125) == "−0.125"
    assert exact(1e-9) == "1.00 × 10⁻⁹"


@given(st.floats(-1e8, 1e8).filter(lambda v: abs(v) > 1e-3))
def test_three_figures_are_within_half_a_unit_of_the_third(value: float) -> None:
    text = significant(value, 3).replace("\u202f", "").replace("−", "-")
    assert float(text) == pytest.approx(value, rel=0.006)


def test_percentages_never_round_to_what_is_untrue() -> None:
    assert percent(1, 1000) == "under 1\u00a0%"
    assert percent(999, 1000) == "over 99\u00a0%"
    assert percent(0, 7) == "0\u00a0%"
    assert percent(7, 7) == "100\u00a0%"
    assert percent(3, 7) == "43\u00a0%"
    assert percent(1, 0) == "–"


@pytest.mark.parametrize(
    ("one", "many"),
    [
        ("bush", "bushes"),
        ("tray", "trays"),
        ("taster", "tasters"),
        ("city", "cities"),
        ("person", "people"),
        ("kind of order", "kinds of order"),
        ("box", "boxes"),
        ("day", "days"),
        ("tea leaf", "tea leaves"),
        ("Child", "Children"),
        *(
            pair.rsplit(" ", 1)
            for pair in [
                "wolf wolves",
                "larva larvae",
                "criterion criteria",
                "ox oxen",
                "cactus cacti",
                "fungus fungi",
                "index indices",
                "radius radii",
                "stimulus stimuli",
                "phenomenon phenomena",
                "axis axes",
                "crisis crises",
                "hypothesis hypotheses",
                "diagnosis diagnoses",
                "basis bases",
                "bacterium bacteria",
                "alga algae",
                "nucleus nuclei",
                "appendix appendices",
                "quiz quizzes",
                "hero heroes",
                "photo photos",
                "piano pianos",
                "echo echoes",
                "roof roofs",
                "chief chiefs",
                "thief thieves",
                "calf calves",
                "hoof hooves",
                "deer deer",
                "salmon salmon",
                "aircraft aircraft",
                "moose moose",
                "swine swine",
                "passer-by passers-by",
                "mother-in-law mothers-in-law",
                "louse lice",
                "gentleman gentlemen",
                "German Germans",
                "human humans",
                "toy toys",
                "cherry cherries",
                "stomach stomachs",
                "bus buses",
                "lens lenses",
                "virus viruses",
                "11-year-old 11-year-olds",
                "staff staff",
                "species species",
                "series series",
                "tomato tomatoes",
                "half halves",
                "medium media",
                "foot feet",
                "goose geese",
                "sheep sheep",
                "die dice",
                "offspring offspring",
                "salesperson salespeople",
            ]
        ),
    ],
)
def test_plurals(one: str, many: str) -> None:
    assert plural(one) == many
    assert counted(1, one) == f"1 {one}"
    assert counted(2, one) == f"2 {many}"
    assert counted(0, one) == f"0 {many}"
    assert counted(10_000, one) == f"10\u202f000 {many}"


def test_figures_between_the_data_are_not_rounded_away() -> None:
    assert between_data(4.5, 0) == "4.5"
    assert between_data(4.0, 0) == "4"
    assert between_data(66.45, 1) == "66.45"
    assert between_data(72.2, 1) == "72.2"
    assert between_data(92.575, 1, 2) == "92.575"
    assert between_data(1 / 3, 0) == "0.3"


def test_lists() -> None:
    assert listed([]) == ""
    assert listed(["a"]) == "a"
    assert listed(["a", "b", "c"]) == "a, b and c"
    assert listed_briefly([str(k) for k in range(9)], 3) == "0, 1, 2 and 6 more"
    assert shortened("a  long\nname indeed", 8) == "a long…"


@pytest.mark.parametrize(
    ("level", "phrase"),
    [
        ("slow", "slow trays"),
        ("very slow", "very slow trays"),
        ("3", "trays whose w is “3”"),
        ("yes", "trays whose w is “yes”"),
        ("A", "trays whose w is “A”"),
        ("No", "trays whose w is “No”"),
        ("αργό", "αργό trays"),
        ("x" * 300, None),
        ("<b>", "trays whose w is “<b>”"),
    ],
)
def test_groups_are_spoken_of_in_english(level: str, phrase: str | None) -> None:
    if phrase:
        assert group_phrase(level, "w", "tray") == phrase
    assert "tray" in group_phrase(level, "w", "tray")


def test_marks_in_text() -> None:
    text = "μ_{slow} < 3 × 10^{−4} & H_{0}"
    assert to_html(text) == "μ<sub>slow</sub> &lt; 3 × 10<sup>−4</sup> &amp; H<sub>0</sub>"
    assert to_plain(text) == "μ slow < 3 × 10^−4 & H₀"


@given(st.text())
def test_no_text_becomes_markup(text: str) -> None:
    made = to_html(text)
    assert "<script" not in made.lower()
    for piece in ("<sub>", "</sub>", "<sup>", "</sup>"):
        made = made.replace(piece, "")
    assert "<" not in made


def test_units_do_not_break_off() -> None:
    assert with_unit("3", "g") == "3\u00a0g"
    assert with_unit("3", "") == "3"


@pytest.mark.parametrize(
    ("levels", "said"),
    [
        (("open", "Jade"), "open Jade bushes"),
        (("open", "3"), "open bushes whose plot is “3”"),
        (("2", "Jade"), "Jade bushes whose plot is “2”"),
        (("1", "2"), "bushes whose plot is “1” and plot is “2”"),
    ],
)
def test_two_levels_at_once(levels: tuple[str, str], said: str) -> None:
    assert pair_phrase(levels, ("plot", "plot"), "bush") == said


@pytest.mark.parametrize(
    ("many", "one"),
    [("children", "child"), ("visitors", "visitor"), ("leaves", "leaf"), ("mice", "mouse"), ("people", "person"),
     ("leaf mass", ""), ("loss", ""), ("moisture", ""), ("bus", ""), ("species", ""), ("is", "")],
)  # fmt: skip
def test_what_a_column_counts(many: str, one: str) -> None:
    assert singular(many) == one


@pytest.mark.parametrize(
    "said",
    ["an elevation", "an hour", "an x", "an n of trials", "a unit", "a unimodal shape", "a union",
     "an unimportant thing", "an uneven row", "a use", "a y", "a leaf mass", "a one-off", "an 11-year-old",
     "an 8-hour day", "an 18 mm bin", "an 80 % interval", "a 1", "a 12", "an SD", "a URL", "an α of 0.05", "a ewe",
     "an heir", "a European", "an honest man", "an F value", "a t value", "an r of 0.9"],
)  # fmt: skip
def test_articles_follow_the_sound(said: str) -> None:
    assert with_article(said.partition(" ")[2]) == said


@pytest.mark.parametrize(
    ("text", "begun"),
    [
        ("leaf mass", "Leaf mass"),
        ("a row", "A row"),
        ("x by g", "x by g"),
        ("pH", "pH"),
        ("mRNA of leaves", "mRNA of leaves"),
        ("élan", "Élan"),
        ("", ""),
    ],
)
def test_symbols_keep_their_letters_at_the_beginning_of_a_sentence(text: str, begun: str) -> None:
    assert sentence_case(text) == begun

"""Formulas: read, written in four ways, and drawn within their room."""

from __future__ import annotations

import ast
import math
import xml.etree.ElementTree as ET

import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.drawing import Stroke, Words
from theoros.answer.formulas.formula import Brackets, FormulaRow, Fraction, Letters, Root
from theoros.answer.formulas.notation import formula, words
from theoros.answer.formulas.placing import place
from theoros.answer.formulas.written import to_latex, to_line, to_mathml, to_words
from theoros.answer.wording import put_in, unmarked

WELCH = "t = (x̄_{slow} − x̄_{quick}) / √(s_{slow}^{2}/n_{slow} + s_{quick}^{2}/n_{quick})"

CASES = {
    # the notation: LaTeX, one line, and as it is read out
    "p̂ = x/n": (r"\hat{p} = \frac{x}{n}", "p̂ = x/n", "p hat equals x over n"),
    "a × (b + c) / 2": (
        r"a \times \frac{b + c}{2}",
        "a × (b + c) / 2",
        "a times the fraction b plus c over 2, end of fraction",
    ),
    "√n": (r"\sqrt{n}", "√n", "the square root of n"),
    "√(a + b)": (r"\sqrt{a + b}", "√(a + b)", "the square root of a plus b, end of root"),
    "−3 − (−0.7)": (r"- 3 - \left( - 0.7 \right)", "−3 − (−0.7)", "minus 3 minus open bracket minus 0.7 close bracket"),
    "(4.53 × 10⁻¹³)^{2}": (
        r"{\left( 4.53 \times 10^{- 13} \right)}^{2}",
        "(4.53 × 10⁻¹³)²",
        "open bracket 4.53 times 10 to the power minus 13 close bracket squared",
    ),
    "P(|z| ≥ 2) ≈ 0.05": (
        r"P \left( \left| z \right| \ge 2 \right) \approx 0.05",
        "P(|z| ≥ 2) ≈ 0.05",
        "the probability of open bracket the absolute value of z, end of absolute value, is at "
        "least 2 close bracket is about 0.05",
    ),
    "upper fence = Q_{3} + 1.5 × IQR": (
        r"\text{ upper fence } = Q_{3} + 1.5 \times \text{ IQR }",
        "upper fence = Q₃ + 1.5 × IQR",
        "upper fence equals Q 3 plus 1.5 times IQR",
    ),
}


@pytest.mark.parametrize("text", CASES)
def test_a_formula_is_written_in_three_ways(text: str) -> None:
    made = formula(text)
    assert (to_latex(made), to_line(made), to_words(made)) == CASES[text]


def test_the_tree_has_what_a_board_shows() -> None:
    parts = formula(WELCH).row.parts
    assert parts[:2] == (Letters("t", "variable"), Letters("=", "relation"))
    fraction = parts[2]
    assert isinstance(fraction, Fraction)
    assert not any(isinstance(part, Brackets) for part in fraction.over.parts)
    (root,) = fraction.under.parts
    assert isinstance(root, Root)
    assert [type(part) for part in root.inside.parts] == [Fraction, Letters, Fraction]


def test_mathml_has_the_elements_of_the_standard() -> None:
    space = "{http://www.w3.org/1998/Math/MathML}"
    tree = ET.fromstring(to_mathml(formula(WELCH)))
    assert tree.tag == f"{space}math"
    assert len(list(tree.iter(f"{space}mfrac"))) == 3
    assert len(list(tree.iter(f"{space}msqrt"))) == 1
    assert len(list(tree.iter(f"{space}msubsup"))) == 2  # s with its group and its square
    for tag, children in (("mfrac", 2), ("msub", 2), ("msubsup", 3), ("mover", 2)):
        assert all(len(element) == children for element in tree.iter(space + tag))


NUMBERS = st.integers(1, 99).map(str)
SUMS = st.recursive(
    NUMBERS,
    lambda inner: st.one_of(
        st.tuples(inner, st.sampled_from("+−×"), inner).map(lambda t: f"({t[0]} {t[1]} {t[2]})"),
        st.tuples(inner, inner).map(lambda t: f"({t[0]})/({t[1]})"),
        inner.map(lambda text: f"√({text})"),
        inner.map(lambda text: f"({text})^{{2}}"),
    ),
    max_leaves=8,
)


def _worked_out(line: str) -> float:
    """The value of one line of text, by the rules of arithmetic (Python's own)."""
    text = line.replace("−", "-").replace("×", "*").replace("²", "**2")
    made = ""
    for at, letter in enumerate(text):
        made += "sqrt" if letter == "√" else letter
        if letter == "√" and text[at + 1 : at + 2] != "(":
            return math.nan  # a root of one number is written without brackets: tried elsewhere
    tree = ast.parse(made, mode="eval")
    try:
        found = eval(compile(tree, "", "eval"), {"sqrt": math.sqrt})
    except (ValueError, ZeroDivisionError, OverflowError):
        return math.nan
    return float(found) if not isinstance(found, complex) else math.nan


@given(SUMS)
def test_one_line_of_text_means_what_the_notation_meant(text: str) -> None:
    meant = _worked_out(text.replace("^{2}", "²"))
    said = _worked_out(to_line(formula(text)))
    assert math.isnan(said) or math.isnan(meant) or said == pytest.approx(meant, rel=1e-9)


@given(SUMS)
def test_a_line_read_again_is_the_same_formula(text: str) -> None:
    once = to_line(formula(text))
    assert to_line(formula(once)) == once


@given(st.text(max_size=30))
def test_any_text_is_taken_and_written(text: str) -> None:
    made = formula(text)
    to_latex(made)
    to_line(made)
    to_words(made)
    place(made, 17, 300)


@given(st.text(st.characters(exclude_categories=["Cc", "Cs"]), min_size=1, max_size=12))
def test_names_from_data_stay_words(name: str) -> None:
    made = formula(f"n_{{{unmarked(name)}}} = 5 {words(name)}")
    assert isinstance(made.row.parts[-1], Letters)
    assert made.row.parts[-1].text == unmarked(name)
    latex = to_latex(made)
    plain = latex.replace(r"\{", "").replace(r"\}", "")
    assert plain.count("{") == plain.count("}")


class TestPlacing:
    def test_a_fraction_has_its_line_between_its_parts(self) -> None:
        drawing = place(formula("7/8"), 20, 500)
        over, under = [item for item in drawing.items if isinstance(item, Words)]
        (line,) = [item for item in drawing.items if isinstance(item, Stroke)]
        assert (over.text, under.text) == ("7", "8")
        height = line.points[0, 1]
        assert over.y < height < under.y - 20 * 0.66
        assert over.x == pytest.approx(under.x, abs=0.5)

    def test_an_index_stands_low_and_small_a_power_high(self) -> None:
        drawing = place(formula("s_{p}^{2}"), 20, 500)
        base, low, high = [item for item in drawing.items if isinstance(item, Words)]
        assert max(low.size, high.size) < base.size
        assert high.y < base.y < low.y

    @pytest.mark.parametrize("size", [15, 17, 25])
    @pytest.mark.parametrize("width", [160, 300, 700])
    def test_nothing_stands_outside_its_room(self, size: int, width: int) -> None:
        long = "s = √((12 × (3.5 − 12.34)^{2} + 8 × (7.5 − 12.34)^{2}) / 19) = 4.2"
        for text in (WELCH, long, "x̄ = (1 + 2 + 3 + 4 + 5) / 5 = 3 and then 4 = 2 + 2 = 1 + 3"):
            drawing = place(formula(text), size, width)
            assert drawing.width <= width or size > 15 or width < 300
            for item in drawing.items:
                if isinstance(item, Words):
                    assert -0.01 <= item.x <= drawing.width
                    assert 0 < item.y < drawing.height
                elif isinstance(item, Stroke):
                    assert item.points[:, 0].min() >= -size * 0.1
                    assert item.points[:, 1].min() >= -1
                    assert item.points[:, 1].max() <= drawing.height + 1

    def test_a_long_line_is_broken_before_a_relation(self) -> None:
        drawing = place(formula("aaaa = bbbbbbbbbb = cccccccccc"), 17, 200)
        heights = {item.text: item.y for item in drawing.items if isinstance(item, Words)}
        assert heights["cccccccccc"] > heights["bbbbbbbbbb"]

    def test_variables_are_slanted_numbers_and_words_upright(self) -> None:
        drawing = place(formula("df = 2 x"), 17, 500)
        faces = {item.text: item.face for item in drawing.items if isinstance(item, Words)}
        assert faces == {"df": "serif", "=": "serif", "2": "serif", "x": "italic"}


@pytest.mark.parametrize(
    ("value", "decimals", "text"),
    [
        (7.53619, 1, "7.536"),
        (0.97, 2, "0.97"),
        (12.0, 1, "12"),
        (10038.0583, 1, "10\u202f038.058"),
        (0.00012345, 0, "0.0001235"),
        (0.0, 1, "0"),
        (-3.25, 0, "−3.25"),
    ],
)
def test_figures_put_in_have_no_digits_that_mean_nothing(value: float, decimals: int, text: str) -> None:
    assert put_in(value, decimals) == text


def test_an_empty_formula_is_nothing() -> None:
    assert formula("").row == FormulaRow(())
    assert place(formula(""), 17, 100).items == ()


@pytest.mark.parametrize(
    ("text", "line"),
    [
        ("t^{*} = 1.973", "t* = 1.973"),
        ("A* = A^{2} (1 + 0.75/n)", "A* = A²(1 + 0.75/n)"),
        ("x_{(77)} = 61", "x₍₇₇₎ = 61"),
        ("p̃_{men} = 0.5", "p̃_men = 0.5"),
        ("−0.9779 {to} −0.8984", "−0.9779 to −0.8984"),
        ("λ^{k} / (k!)", "λ^k/(k!)"),
    ],
)
def test_signs_stay_with_their_letter_on_a_plain_line(text: str, line: str) -> None:
    assert to_line(formula(text)) == line

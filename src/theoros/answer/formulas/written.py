"""A formula in other writings: LaTeX, MathML, one line of text, and words to be read out."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.formulas.formula import (
    Accent,
    Brackets,
    Formula,
    FormulaRow,
    Fraction,
    Letters,
    Node,
    Root,
    Scripts,
)
from theoros.answer.markup import escaped

_GREEK = {
    "α": "alpha", "β": "beta", "γ": "gamma", "δ": "delta", "η": "eta", "θ": "theta",
    "λ": "lambda", "μ": "mu", "ν": "nu", "π": "pi", "ρ": "rho", "σ": "sigma", "τ": "tau",
    "φ": "phi", "χ": "chi", "ω": "omega", "Γ": "Gamma", "Δ": "Delta", "Φ": "Phi",
}  # fmt: skip
_LATEX = {
    "−": "-", "×": r"\times ", "·": r"\cdot ", "≤": r"\le ", "≥": r"\ge ", "≠": r"\ne ",
    "≈": r"\approx ", "∓": r"\mp ", "±": r"\pm ", "Σ": r"\sum ", "∞": r"\infty ",
    "…": r"\dots ", "∩": r"\cap ", "∪": r"\cup ", "\u202f": r"\,", "Π": r"\prod ",
    "|": r"\mid ", "ŷ": r"\hat{y}",
} | {letter: f"\\{name} " for letter, name in _GREEK.items()}  # fmt: skip
_ESCAPED = {
    "\\": r"\textbackslash{}",
    "{": r"\{",
    "}": r"\}",
    "$": r"\$",
    "&": r"\&",
    "%": r"\%",
    "#": r"\#",
    "_": r"\_",
    "^": r"\textasciicircum{}",
    "~": r"\textasciitilde{}",
}
_SAID = {
    "=": "equals", "−": "minus", "-": "minus", "+": "plus", "×": "times", "·": "times",
    "<": "is below", ">": "is above", "≤": "is at most", "≥": "is at least",
    "≠": "is not equal to", "≈": "is about", "∓": "minus or plus", "±": "plus or minus",
    "Σ": "the sum of", "Π": "the product of", "∞": "infinity", "…": "and so on",
    "∩": "and", "∪": "or", "|": "given",
} | _GREEK  # fmt: skip


def to_latex(formula: Formula) -> str:
    """For a document: `t = \\frac{\\bar{x}}{s}`, to stand between dollar signs."""
    return " ".join(_latex(formula.row).split())


def to_mathml(formula: Formula) -> str:
    """An element for a web page (MathML Core), set in display style."""
    return f'<math xmlns="http://www.w3.org/1998/Math/MathML" display="block">{_mathml(formula.row)}</math>'


def to_line(formula: Formula) -> str:
    """One line of text, with brackets where a line or a root has said what belongs together."""
    return _line(formula.row)


def to_words(formula: Formula) -> str:
    """As it is read out: "t equals the fraction x bar over s, end of fraction"."""
    return " ".join(_words(formula.row).split())


def _latex(node: Node) -> str:
    match node:
        case FormulaRow(parts):
            return " ".join(_latex(part) for part in parts)
        case Letters(text, "words"):
            plain = "".join(_ESCAPED.get(letter, letter) for letter in text)
            return rf"\text{{ {plain} }}"
        case Letters(text, _):
            return "".join(_LATEX.get(letter, letter) for letter in text)
        case Fraction(over, under):
            return rf"\frac{{{_latex(over)}}}{{{_latex(under)}}}"
        case Root(inside):
            return rf"\sqrt{{{_latex(inside)}}}"
        case Accent(letter, mark):
            return rf"\{mark}{{{_LATEX.get(letter, letter).strip()}}}"
        case Scripts(base, below, above):
            made = _latex(base).rstrip()
            if isinstance(base, Brackets | FormulaRow):
                made = f"{{{made}}}"
            if below:
                made += f"_{{{_latex_script(below)}}}"
            return made + (f"^{{{_latex_script(above)}}}" if above else "")
        case Brackets(inside, bars):
            left, right = ("|", "|") if bars else ("(", ")")
            return rf"\left{left} {_latex(inside)} \right{right}"


def _latex_script(row: FormulaRow) -> str:
    return _latex(row).replace(r"\text{ ", r"\text{").replace(" }", "}").strip()


def _mathml(node: Node) -> str:
    match node:
        case FormulaRow((Letters(text, "words"),)):
            return f"<mtext>{escaped(text)}</mtext>"
        case FormulaRow(parts):
            return f"<mrow>{''.join(_mathml(part) for part in parts)}</mrow>"
        case Letters(text, kind):
            return _mathml_letters(text, kind)
        case Fraction(over, under):
            return f"<mfrac>{_mathml(over)}{_mathml(under)}</mfrac>"
        case Root(inside):
            return f"<msqrt>{_mathml(inside)}</msqrt>"
        case Accent(letter, mark):
            sign = "¯" if mark == "bar" else "^"
            return f'<mover accent="true"><mi>{escaped(letter)}</mi><mo>{sign}</mo></mover>'
        case Scripts(base, below, above):
            made = _mathml(base)
            if below and above:
                return f"<msubsup>{made}{_mathml(below)}{_mathml(above)}</msubsup>"
            tag, part = ("msub", below) if below else ("msup", above)
            assert part is not None
            return f"<{tag}>{made}{_mathml(part)}</{tag}>"
        case Brackets(inside, bars):
            left, right = ("|", "|") if bars else ("(", ")")
            return f"<mrow><mo>{left}</mo>{_mathml(inside)}<mo>{right}</mo></mrow>"


def _mathml_letters(text: str, kind: str) -> str:
    plain = escaped(text)
    if kind == "number":
        return f"<mn>{plain}</mn>"
    if kind == "words":
        return f"<mtext>\u00a0{plain}\u00a0</mtext>"
    if kind == "variable" and text not in ("Σ", "Π"):
        return f"<mi>{plain}</mi>"
    return f"<mo>{plain}</mo>"


def _line(node: Node) -> str:
    match node:
        case FormulaRow(parts):
            return _joined(parts)
        case Letters(text, _):
            return text
        case Fraction(over, under):
            first, second = _one_factor(over), _one_factor(under)
            short = len(first) + len(second) <= 8 and " " not in first + second
            return f"{first}/{second}" if short else f"{first} / {second}"
        case Root(inside):
            return f"√{_one_factor(inside)}"
        case Accent(letter, mark):
            return letter + ("\u0304" if mark == "bar" else "\u0302")
        case Scripts(base, below, above):
            made = _line(base)
            if below:
                made += _low(_line(below))
            return made + (_high(_line(above)) if above else "")
        case Brackets(inside, bars):
            return f"|{_line(inside)}|" if bars else f"({_line(inside)})"


def _joined(parts: Sequence[Node]) -> str:
    made, before = "", ""
    for part in parts:
        text = _line(part)
        kind = part.kind if isinstance(part, Letters) else "factor"
        alone = before in ("", "relation", "sign", "comma") or (before == "words" and text in ("−", "+"))
        first = alone and kind == "sign" and text not in _BEHIND
        tight = not made or kind == "comma" or before == "first sign" or text[:1] in _BEHIND
        if isinstance(part, Brackets) and before in ("variable", "name"):
            tight = True  # P(…), n₁(n₁ + 1)
        made += text if tight else f" {text}"
        before = "name" if text in _BEHIND else "first sign" if first else kind
        if isinstance(part, Scripts):
            before = "name"
    return made


def _one_factor(row: FormulaRow) -> str:
    """A row as one factor of a line: in brackets unless it is one already."""
    text = _line(row)
    if len(row.parts) == 1 and not isinstance(row.parts[0], Fraction):
        return text
    return f"({text})"


_BEHIND = frozenset("*!\u0303")
"""What belongs to the letter before it: A*, k!, p̃."""
_SMALL_LOW = str.maketrans("0123456789()", "₀₁₂₃₄₅₆₇₈₉₍₎")
_SMALL_HIGH = str.maketrans("0123456789−+", "⁰¹²³⁴⁵⁶⁷⁸⁹⁻⁺")


def _low(text: str) -> str:
    if text.strip("()").isdigit():
        return text.translate(_SMALL_LOW)
    return f"_{text}" if text.isalnum() else f"_({text})"


def _high(text: str) -> str:
    if text == "*":
        return text
    if all(letter in "0123456789−+" for letter in text):
        return text.translate(_SMALL_HIGH)
    return f"^{text}" if text.isalnum() else f"^({text})"


def _words(node: Node) -> str:
    match node:
        case FormulaRow(parts):
            return _row_words(parts)
        case Letters(text, "words"):
            return text
        case Letters(text, _):
            return _SAID.get(text, text)
        case Fraction(over, under):
            if _short(over) and _short(under):
                return f"{_words(over)} over {_words(under)}"
            return f"the fraction {_words(over)} over {_words(under)}, end of fraction,"
        case Root(inside):
            if _short(inside):
                return f"the square root of {_words(inside)}"
            return f"the square root of {_words(inside)}, end of root,"
        case Accent(letter, mark):
            return f"{_SAID.get(letter, letter)} {mark}"
        case Scripts(base, below, above):
            made = _words(base) + (f" {_words(below)}" if below else "")
            if above is None:
                return made
            power = _words(above)
            named = {"2": "squared", "3": "cubed", "plus": "plus"}
            return f"{made} {named.get(power, f'to the power {power}')}"
        case Brackets(inside, bars):
            if bars:
                return f"the absolute value of {_words(inside)}, end of absolute value,"
            return f"open bracket {_words(inside)} close bracket"


def _row_words(parts: Sequence[Node]) -> str:
    made: list[str] = []
    for at, part in enumerate(parts):
        follows = at + 1 < len(parts) and isinstance(parts[at + 1], Brackets)
        if isinstance(part, Letters) and part == Letters("P", "variable") and follows:
            made.append("the probability of")
        else:
            made.append(_words(part))
    text = " ".join(made)
    return text.removesuffix(",").replace(", close bracket", " close bracket")


def _short(row: FormulaRow) -> bool:
    return len(row.parts) == 1 and not isinstance(row.parts[0], Fraction | Root | Brackets)

"""What a formula is made of: rows of letters, signs, fractions, roots, raised and lowered parts."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Kind = Literal["variable", "number", "words", "sign", "relation", "comma"]


@dataclass(frozen=True)
class Letters:
    """What is set in one run: a variable slanted, a number or words upright, or a sign."""

    text: str
    kind: Kind


@dataclass(frozen=True)
class FormulaRow:
    """Parts side by side; what is no sign or relation is multiplied, or belongs together."""

    parts: tuple[Node, ...]


@dataclass(frozen=True)
class Fraction:
    over: FormulaRow
    under: FormulaRow


@dataclass(frozen=True)
class Root:
    """A square root."""

    inside: FormulaRow


@dataclass(frozen=True)
class Scripts:
    """A base with a part below it (an index), above it (a power), or both."""

    base: Node
    below: FormulaRow | None = None
    above: FormulaRow | None = None


@dataclass(frozen=True)
class Accent:
    """A letter below a bar (a mean) or a hat (an estimate)."""

    letter: str
    mark: Literal["bar", "hat"]


@dataclass(frozen=True)
class Brackets:
    """Round brackets, or the bars of an absolute value, that grow with what they hold."""

    inside: FormulaRow
    bars: bool = False


Node = Letters | FormulaRow | Fraction | Root | Scripts | Accent | Brackets


@dataclass(frozen=True)
class Formula:
    """One line of a working: "t = x̄ / s" and the like."""

    row: FormulaRow

"""How a formula is written down in the code: on one line, as it is typed.

    formula("t = (x̄_{slow} − x̄_{quick}) / √(s_{slow}^{2}/n_{slow} + s_{quick}^{2}/n_{quick})")

`/` makes a fraction of the one factor before and the one behind it, `√` a root of the factor that
follows; brackets around these are not drawn. `_{…}` lowers and `^{…}` raises, `{…}` alone holds
words. A letter alone is a variable, several are words, a letter below a combining bar or hat has
that mark. A bar with a space on both sides means "given", others enclose. Names from data stand
within braces only, so that nothing in them is read as a sign. What is shown as a result is settled:
it has the digits that the line gives (`evaluated`).
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from theoros.answer.formulas.evaluated import settled
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
from theoros.answer.wording import RAISED, unmarked

_TOKEN = re.compile(
    r"(?P<space>[ \u00a0]+)|(?P<mark>[_^]?\{[^{}]*\})|(?P<raised>[⁰¹²³⁴⁵⁶⁷⁸⁹⁻⁺]+)"
    r"|(?P<number>\d[\d\u202f]*(\.\d+)?|∞|…|!)|(?P<accent>[^\W\d_][\u0302\u0304])"
    r"|(?P<words>[^\W\d_]{2,})|(?P<variable>[^\W\d_])|(?P<sign>[+−×·∓±∩∪-])"
    r"|(?P<relation>[=<>≤≥≠≈]|(?<= )\|(?= ))|(?P<comma>[,;:])"
    r"|(?P<open>\()|(?P<close>\))|(?P<bar>\|)|(?P<root>√)|(?P<over>/)|(?P<other>.)",
    re.DOTALL,
)
_LOWERED = {chr(raised): chr(plain) for plain, raised in RAISED.items()} | {"⁺": "+"}
_ACCENTS: dict[str, Literal["bar", "hat"]] = {"\u0304": "bar", "\u0302": "hat"}


def formula(text: str) -> Formula:
    """The formula that a line of the notation above means. Takes any text."""
    tokens = [
        _NotationToken(found.lastgroup or "other", found[0])
        for found in _TOKEN.finditer(text)
        if found.lastgroup != "space"
    ]
    return Formula(settled(_NotationReader(tokens).row("")))


def formulas(*lines: str) -> tuple[Formula, ...]:
    """Several lines at once."""
    return tuple(map(formula, lines))


def words(text: str) -> str:
    """Text from data, such as a unit, to stand upright in a formula as it is."""
    return f"{{{unmarked(text)}}}" if text else ""


@dataclass(frozen=True)
class _NotationToken:
    kind: str
    text: str


class _NotationReader:
    """Reads tokens from left to right; `row` ends at the bracket that it was opened with."""

    def __init__(self, tokens: list[_NotationToken]) -> None:
        self._tokens = tokens
        self._at = 0

    def row(self, ends_at: str) -> FormulaRow:
        parts: list[Node] = []
        while self._at < len(self._tokens):
            kind = self._tokens[self._at].kind
            if kind == ends_at:
                self._at += 1
                break
            if kind == "over" and parts and self._at + 1 < len(self._tokens):
                self._at += 1
                parts.append(Fraction(_bare(parts.pop()), _bare(self._factor())))
            else:
                _append(parts, self._factor())
        return FormulaRow(tuple(parts))

    def _factor(self) -> Node:
        node = self._primary()
        below = above = None
        while self._at < len(self._tokens):
            token = self._tokens[self._at]
            if token.kind == "raised":
                above = _read("".join(_LOWERED[letter] for letter in token.text))
            elif token.kind == "mark" and token.text[0] == "^":
                above = _script(token.text[2:-1])
            elif token.kind == "mark" and token.text[0] == "_":
                below = _script(token.text[2:-1])
            else:
                break
            self._at += 1
        return Scripts(node, below, above) if below or above else node

    def _primary(self) -> Node:
        token = self._tokens[self._at]
        self._at += 1
        more = self._at < len(self._tokens)
        match token.kind:
            case "open":
                return Brackets(self.row("close"))
            case "bar" if more:
                return Brackets(self.row("bar"), bars=True)
            case "root" if more:
                return Root(_bare(self._factor()))
            case "accent":
                return Accent(token.text[0], _ACCENTS[token.text[1]])
            case "mark":
                return Letters(token.text.lstrip("_^")[1:-1], "words")
            case "variable" | "number" | "words" | "sign" | "relation" | "comma":
                return Letters(token.text, token.kind)
            case _:
                return Letters(token.text, "words")


def _append(parts: list[Node], node: Node) -> None:
    """Adds a part; words that follow words are one run."""
    last = parts[-1] if parts else None
    if isinstance(node, Letters) and isinstance(last, Letters) and last.kind == node.kind == "words":
        parts[-1] = Letters(f"{last.text} {node.text}", "words")
    else:
        parts.append(node)


def _bare(node: Node) -> FormulaRow:
    """What stands over or under a line, or below a root, needs no brackets of its own."""
    if isinstance(node, Brackets) and not node.bars:
        return node.inside
    return node if isinstance(node, FormulaRow) else FormulaRow((node,))


def _script(text: str) -> FormulaRow:
    """An index or a power: read as a formula if it is numbers and signs, as words if it is not."""
    if re.fullmatch(r"[^\W\d_][\u0302\u0304]?|[\d+−./ ]*", text) or re.fullmatch(r"[\w −+/]{1,5}", text):
        return _read(text)
    return FormulaRow((Letters(text, "words"),))


def _read(text: str) -> FormulaRow:
    return formula(text).row

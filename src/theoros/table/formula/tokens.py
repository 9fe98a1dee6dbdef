"""The words of a formula: numbers, texts, names of columns, operators.

The names of the table's columns are known beforehand, so a name with spaces is written as it
is: `leaf mass / leaf length`. Where that could be taken for something else, 'single quotes'
stand around it. "Double quotes" stand around text.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator
from dataclasses import dataclass

from theoros.table.formula.known_functions import FUNCTIONS
from theoros.table.plain_text import storable
from theoros.table.table import TableError

LONGEST = 2000
"""Letters a formula can have."""

KEYWORDS = frozenset({"and", "or", "not", "if", "then", "else", "is", "in", "missing", "mod", "true", "false"})
OPERATORS = ("<=", ">=", "<>", "!=", *"+-*/^&=<>(),")
_ALIKE = str.maketrans("×·÷−≤≥≠‘’“”„", '**/-≤≥≠\'\'"""')
_TWO = {"≤": "<=", "≥": ">=", "≠": "<>"}
_NUMBER = re.compile(r"(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?", re.ASCII)
_WORD = re.compile(r"[^\W\d]\w*")


class FormulaError(TableError):
    """What is wrong with a formula, and where: letters `at` to `end`."""

    def __init__(self, message: str, at: int, end: int | None = None) -> None:
        super().__init__(message)
        self.at, self.end = at, at + 1 if end is None else end

    def __reduce__(self) -> tuple[type, tuple[str, int, int]]:
        return FormulaError, (str(self), self.at, self.end)  # from one process to another


@dataclass(frozen=True, slots=True)
class Token:
    """A word of a formula. `kind` is number, text, name, word, operator or end."""

    kind: str
    text: str
    at: int
    end: int


def tokens(text: str, names: Collection[str]) -> list[Token]:
    """The words of a formula, with an end token last. Raises FormulaError."""
    if len(text) > LONGEST:
        raise FormulaError(
            f"The formula has {len(text)} letters, and {LONGEST} are the most. Make two columns of it.",
            LONGEST,
            len(text),
        )
    return [*_scan(storable(text), names), Token("end", "", len(text), len(text))]


def _scan(text: str, names: Collection[str]) -> Iterator[Token]:
    plain = text.translate(_ALIKE)
    longest_first = sorted(names, key=len, reverse=True)
    at = 0
    while at < len(plain):
        if plain[at].isspace():
            at += 1
            continue
        token = _next(text, plain, at, longest_first, names)
        yield token
        at = token.end


def _next(text: str, plain: str, at: int, longest_first: list[str], names: Collection[str]) -> Token:
    mark = plain[at]
    if mark in "'\"":
        return _quoted(text, plain, at, names)
    word = _WORD.match(plain, at)
    for name in longest_first:
        if text.startswith(name, at) and _ends_there(text, at + len(name), name):
            end = at + len(name)
            if _NUMBER.fullmatch(name) or name.lower() in KEYWORDS:
                break
            called = word is not None and word.end() == end and plain[end:].lstrip()[:1] == "("
            if called and _is_function(name):
                break
            if not (name[0].isalnum() or name[0] == "_"):
                break  # what begins like an operator needs quotes
            return Token("name", name, at, end)
    number = _NUMBER.match(plain, at)
    if number:
        return Token("number", number.group(), at, number.end())
    if word:
        return Token("word", word.group(), at, word.end())
    for sign in OPERATORS:
        if plain.startswith(sign, at):
            return Token("operator", "<>" if sign == "!=" else sign, at, at + len(sign))
    if mark in _TWO:
        return Token("operator", _TWO[mark], at, at + 1)
    if mark == ";":
        return Token("operator", ",", at, at + 1)
    raise FormulaError(f"“{mark}” has no meaning in a formula.", at)


def _ends_there(text: str, end: int, name: str) -> bool:
    """A name ends where a word ends: mass is not the beginning of masses."""
    return end >= len(text) or not (
        (text[end].isalnum() or text[end] == "_") and (name[-1].isalnum() or name[-1] == "_")
    )


def _is_function(name: str) -> bool:
    return name.lower() in FUNCTIONS


def _quoted(text: str, plain: str, at: int, names: Collection[str]) -> Token:
    mark, end = plain[at], at + 1
    # between straight quotes a curly one is a letter like any other
    where = text if text[at] == mark else plain
    while True:
        close = where.find(mark, end)
        if close < 0:
            raise FormulaError("A quotation mark is opened here and not closed.", at, len(text))
        if where[close + 1 : close + 2] != mark:
            break
        end = close + 2
    held = text[at + 1 : close].replace(mark * 2, mark)
    if mark == '"':
        return Token("text", held, at, close + 1)
    if held not in names:
        raise FormulaError(
            f"There is no column “{held}”. Single quotes stand around the name of a column; text "
            f"stands in double quotes.",
            at,
            close + 1,
        )
    return Token("name", held, at, close + 1)


def quoted(name: str, names: Collection[str]) -> str:
    """A column's name as it is written in a formula: bare where that is clear, else in quotes."""
    try:
        read = tokens(name, {*names, name})
    except FormulaError:
        read = []
    if len(read) == 2 and (read[0].kind, read[0].text) == ("name", name) == ("name", name.strip()):
        return name
    return "'" + name.replace("'", "''") + "'"


def columns_in(text: str, names: Collection[str]) -> tuple[str, ...]:
    """The columns that a formula uses, in order, each once. Raises FormulaError."""
    found = (token.text for token in tokens(text, names) if token.kind == "name")
    return tuple(dict.fromkeys(found))


def renamed(text: str, old: str, new: str, names: Collection[str]) -> str:
    """The formula after a column was renamed; `names` are those from before."""
    made, last = [], 0
    after = {new if name == old else name for name in names}
    for token in tokens(text, names):
        if token.kind == "name":
            # every name is written anew: the new name may have made another one unclear
            written = quoted(new if token.text == old else token.text, after)
            made += [text[last : token.at], written]
            last = token.end
    return "".join([*made, text[last:]])

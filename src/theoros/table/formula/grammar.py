"""The grammar of formulas: from words to a tree.

From weakest to strongest: `if … then … else …`, `or`, `and`, `not`, comparisons (`= <> < <= >
>=`, `is missing`, `is not missing`, `in (…)`), `+ - &`, `* / mod`, minus sign, `^`.
"""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import dataclass

from theoros.table.formula.known_functions import FUNCTIONS
from theoros.table.formula.tokens import FormulaError, Token, tokens

DEEPEST = 40


@dataclass(frozen=True)
class Node:
    """A part of a formula, from letter `at` to letter `end`."""

    at: int
    end: int


@dataclass(frozen=True)
class Number(Node):
    value: float


@dataclass(frozen=True)
class Text(Node):
    value: str


@dataclass(frozen=True)
class Truth(Node):
    value: bool


@dataclass(frozen=True)
class Missing(Node):
    pass


@dataclass(frozen=True)
class Name(Node):
    column: str


@dataclass(frozen=True)
class Unary(Node):
    sign: str
    held: Node


@dataclass(frozen=True)
class Binary(Node):
    sign: str
    left: Node
    right: Node


@dataclass(frozen=True)
class IsMissing(Node):
    held: Node


@dataclass(frozen=True)
class OneOf(Node):
    held: Node
    among: tuple[Node, ...]


@dataclass(frozen=True)
class If(Node):
    condition: Node
    then: Node
    otherwise: Node


@dataclass(frozen=True)
class Call(Node):
    function: str
    given: tuple[Node, ...]


def parse(text: str, names: Collection[str]) -> Node:
    """The tree of a formula over columns of these names. Raises FormulaError with the place."""
    reader = _Reader(tokens(text, names), names)
    if reader.now.kind == "end":
        raise FormulaError("Type a formula, such as leaf mass / 10.", 0, 0)
    tree = reader.choice()
    left = reader.now
    if left.kind != "end":
        raise FormulaError(_unexpected(left), left.at, left.end)
    return tree


_COMPARISONS = ("=", "<>", "<", "<=", ">", ">=")


class _Reader:
    def __init__(self, words: list[Token], names: Collection[str]) -> None:
        self.words, self.place, self.depth = words, 0, 0
        self.names = names

    @property
    def now(self) -> Token:
        return self.words[self.place]

    def is_word(self, *words: str) -> bool:
        return self.now.kind == "word" and self.now.text.lower() in words

    def is_sign(self, *signs: str) -> bool:
        return self.now.kind == "operator" and self.now.text in signs

    def step(self) -> Token:
        token = self.now
        self.place += 1
        return token

    def need(self, text: str, why: str) -> Token:
        if self.now.text.lower() != text or self.now.kind not in ("word", "operator"):
            raise FormulaError(f"“{text}” is missing {why}.", self.now.at, self.now.end)
        return self.step()

    def deeper(self) -> None:
        self.depth += 1
        if self.depth > DEEPEST:
            raise FormulaError(f"The formula is nested more than {DEEPEST} deep. Make two columns of it.", self.now.at)

    def choice(self) -> Node:
        self.deeper()
        if self.is_word("if"):
            at = self.step().at
            condition = self.either()
            self.need("then", "after the condition of “if”: if … then … else …")
            then = self.choice()
            self.need("else", "of “if”: if … then … else …")
            otherwise = self.choice()
            made: Node = If(at, otherwise.end, condition, then, otherwise)
        else:
            made = self.either()
        self.depth -= 1
        return made

    def chain(self, lower: Callable[[], Node], words: tuple[str, ...], signs: str = "") -> Node:
        left = lower()
        while self.is_word(*words) or (signs and self.is_sign(*signs)):
            sign = self.step().text.lower()
            right = lower()
            left = Binary(left.at, right.end, sign, left, right)
        return left

    def either(self) -> Node:
        return self.chain(self.both, ("or",))

    def both(self) -> Node:
        return self.chain(self.denial, ("and",))

    def denial(self) -> Node:
        if self.is_word("not"):
            self.deeper()
            at = self.step().at
            held = self.denial()
            self.depth -= 1
            return Unary(at, held.end, "not", held)
        return self.comparison()

    def comparison(self) -> Node:
        left = self.total()
        if self.is_sign(*_COMPARISONS):
            sign = self.step().text
            right = self.total()
            left = Binary(left.at, right.end, sign, left, right)
            if self.is_sign(*_COMPARISONS):
                raise FormulaError(
                    "Two comparisons need “and” between them: 1 < x and x < 5.", self.now.at, self.now.end
                )
        elif self.is_word("is"):
            self.step()
            negated = self.is_word("not")
            if negated:
                self.step()
            end = self.need("missing", "after “is”: is missing, is not missing").end
            left = IsMissing(left.at, end, left)
            if negated:
                left = Unary(left.at, end, "not", left)
        elif self.is_word("in"):
            self.step()
            self.need("(", "after “in”: in (1, 2, 3)")
            among = self.list()
            left = OneOf(left.at, self.words[self.place - 1].end, left, among)
        return left

    def total(self) -> Node:
        return self.chain(self.product, (), "+-&")

    def product(self) -> Node:
        return self.chain(self.signed, ("mod",), "*/")

    def signed(self) -> Node:
        if self.is_sign("-", "+"):
            self.deeper()
            sign = self.step()
            held = self.signed()
            self.depth -= 1
            return Unary(sign.at, held.end, sign.text, held)
        return self.power()

    def power(self) -> Node:
        base = self.single()
        if self.is_sign("^"):
            self.deeper()
            self.step()
            by = self.signed()
            self.depth -= 1
            return Binary(base.at, by.end, "^", base, by)
        return base

    def list(self) -> tuple[Node, ...]:
        """What stands between brackets, the opening one read already."""
        given: list[Node] = []
        if self.is_sign(")"):
            self.step()
            return ()
        while True:
            given.append(self.choice())
            if self.is_sign(","):
                self.step()
                continue
            self.need(")", "to close the bracket")
            return tuple(given)

    def single(self) -> Node:
        token = self.step()
        if token.kind == "number":
            value = float(token.text)
            if value == float("inf"):
                raise FormulaError("This number is too large.", token.at, token.end)
            return Number(token.at, token.end, value)
        if token.kind == "text":
            return Text(token.at, token.end, token.text)
        if token.kind == "name":
            return Name(token.at, token.end, token.text)
        if token.kind == "word":
            return self.word(token)
        if token.kind == "operator" and token.text == "(":
            held = self.choice()
            self.need(")", "to close the bracket")
            return held
        self.place -= 1
        raise FormulaError(_unexpected(token), token.at, token.end)

    def word(self, token: Token) -> Node:
        word = token.text.lower()
        if word == "missing":
            return Missing(token.at, token.end)
        if word in ("true", "false"):
            return Truth(token.at, token.end, word == "true")
        if self.is_sign("(") and word in FUNCTIONS:
            self.step()
            given = self.list()
            return Call(token.at, self.words[self.place - 1].end, word, given)
        if word in FUNCTIONS:
            raise FormulaError(f"{word} needs brackets: {FUNCTIONS[word].form}.", token.at, token.end)
        if self.is_sign("("):
            raise FormulaError(f"There is no function “{token.text}”.", token.at, token.end)
        near = _near(token.text, self.names)
        hint = f" Did you mean {near}?" if near else " Text stands in double quotes."
        raise FormulaError(f"There is no column “{token.text}”.{hint}", token.at, token.end)


def _near(word: str, names: Collection[str]) -> str:
    """A column that may have been meant."""
    import difflib

    for name in names:
        if name.lower() == word.lower() or name.lower().startswith(word.lower()):
            return name
    return next(iter(difflib.get_close_matches(word, list(names), 1)), "")


def _unexpected(token: Token) -> str:
    if token.kind == "end":
        return "Something is missing at the end of the formula."
    if token.text == ",":
        return "A comma only parts what a function is given: max(a, b). Decimals take a point: 3.5."
    if token.text == ")":
        return "This bracket closes none that was opened."
    if token.kind in ("name", "number", "text", "word"):
        return f"An operator such as + or “and” is missing before “{token.text}”."
    return f"“{token.text}” cannot stand here."

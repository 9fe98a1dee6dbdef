"""Numbers that were typed: kept as they were written, and worked out where they are small sums.

"1.30" stays 1.30, "85 %" is 0.85 and "1/6" a sixth. Allowed are + − × / ^ ! % and brackets,
sqrt(x), exp(x), ln(x), pi, choose(n, k), permutations(n, k) and factorial(n).
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable

LONGEST, DEEPEST = 200, 30
_TOKEN = re.compile(
    r"\s*(?:(?P<number>\d+(?:[ \u00a0\u202f]\d{3})*(?:[.,]\d+)?(?:[eE][+\-−]?\d+)?|\.\d+)"
    r"|(?P<name>[a-zA-Z]+|π|√)|(?P<sign>[-+−–×*·/:÷^!%(),;]))\s*"
)
_MINUS = "-−–"


class NotWorkedOut(ValueError):
    """Text that is no number and no sum of numbers, said in a sentence."""


class TypedNumber(float):
    """A number with the text that it was typed as; in every other way a float.

    Two of them are equal if they are written alike, too: 1.30 typed over 1.3 is a change.
    """

    text: str

    def __new__(cls, text: str) -> TypedNumber:
        """Raises NotWorkedOut."""
        made = super().__new__(cls, worked_out(text))
        made.text = _tidied(text)
        return made

    def __reduce__(self) -> tuple[type[TypedNumber], tuple[str]]:
        return TypedNumber, (self.text,)

    def __eq__(self, other: object) -> bool:
        if isinstance(other, TypedNumber) and other.text != self.text:
            return False
        return isinstance(other, int | float) and float(self) == other

    def __ne__(self, other: object) -> bool:
        return not self == other

    __hash__ = float.__hash__


def worked_out(text: str) -> float:
    """The value of a number or a small sum of numbers. Raises NotWorkedOut."""
    if len(text) > LONGEST:
        raise NotWorkedOut(f"A number can have {LONGEST} letters at most.")
    try:
        value = _NumberReader(text).whole_text()
    except (OverflowError, RecursionError):
        raise NotWorkedOut(f"“{text}” is too large for the calculation.") from None
    except ZeroDivisionError:
        raise NotWorkedOut(f"“{text}” divides by 0.") from None
    if not math.isfinite(value):
        raise NotWorkedOut(f"“{text}” is too large for the calculation.")
    return value


def _tidied(text: str) -> str:
    """The text as it is shown: a true minus, a point for the decimals, single spaces."""
    text = " ".join(text.replace("\u00a0", " ").split())
    if "(" not in text:
        text = text.replace(",", ".")
    for sign in "-–":
        text = text.replace(sign, "−")
    text = text.replace("*", "×").replace(":", "/").replace("÷", "/")
    return re.sub(r"(?<=\d)\s*%", "\u00a0%", text)


class _NumberReader:
    """From weakest to strongest: + −, × /, a minus before, ^, ! and %."""

    def __init__(self, text: str) -> None:
        self._text, self._at, self._depth, self._calls = text, 0, 0, 0
        self._tokens: list[tuple[str, str]] = []
        place = 0
        while place < len(text):
            found = _TOKEN.match(text, place)
            if found is None or found.end() == place:
                raise self._unfit()
            self._tokens.append((found.lastgroup or "", found[found.lastgroup or 0]))
            place = found.end()

    def _unfit(self) -> NotWorkedOut:
        return NotWorkedOut(f"“{' '.join(self._text[:60].split())}” is not a number, such as 2.5, 85 % or 1/6")

    def _next(self, signs: str) -> str:
        """The next sign, if it is one of these; it is then read."""
        if self._at < len(self._tokens):
            kind, text = self._tokens[self._at]
            if kind == "sign" and text in signs:
                self._at += 1
                return text
        return ""

    def whole_text(self) -> float:
        value = self._sum()
        if self._at < len(self._tokens):
            raise self._unfit()
        return value

    def _sum(self) -> float:
        self._depth += 1
        if self._depth > DEEPEST:
            raise self._unfit()
        value = self._product()
        while sign := self._next("+" + _MINUS):
            value = value + self._product() if sign == "+" else value - self._product()
        self._depth -= 1
        return value

    def _product(self) -> float:
        value = self._signed()
        while sign := self._next("×*·/:÷"):
            other = self._signed()
            value = value * other if sign in "×*·" else value / other
        return value

    def _signed(self) -> float:
        minus = False
        while sign := self._next("+" + _MINUS):
            minus ^= sign != "+"
        value = self._power()
        return -value if minus else value

    def _power(self) -> float:
        value = self._finished()
        if self._next("^"):
            raised = value ** self._signed()
            if isinstance(raised, complex):
                raise NotWorkedOut(f"“{self._text}” has no real value.")
            return float(raised)
        return value

    def _finished(self) -> float:
        value = self._atom()
        while sign := self._next("!%"):
            value = value / 100 if sign == "%" else self._called("factorial", [value])
        return value

    def _atom(self) -> float:
        if self._at >= len(self._tokens):
            raise self._unfit()
        kind, text = self._tokens[self._at]
        self._at += 1
        if kind == "number":
            whole, comma, tail = text.partition(",")
            if comma and self._calls:  # within brackets of a function it parts two numbers
                self._tokens[self._at - 1 : self._at] = [("number", whole), ("sign", ","), ("number", tail)]
                text = whole
            plain = re.sub(r"[ \u00a0\u202f]", "", text).replace(",", ".").replace("−", "-")
            return float(plain)
        if text == "(":
            return self._closed(self._sum())
        if kind == "name":
            return self._named(text.lower())
        raise self._unfit()

    def _closed(self, value: float) -> float:
        if not self._next(")"):
            raise self._unfit()
        return value

    def _named(self, name: str) -> float:
        if name in ("pi", "π"):
            return math.pi
        if name == "√" and self._tokens[self._at : self._at + 1] != [("sign", "(")]:
            return self._called("sqrt", [self._atom()])
        name = "sqrt" if name == "√" else name
        if name not in _FUNCTIONS or not self._next("("):
            raise self._unfit()
        self._calls += 1
        given = [self._sum()]
        while self._next(",;"):
            given.append(self._sum())
        self._calls -= 1
        return self._closed(self._called(name, given))

    def _called(self, name: str, given: list[float]) -> float:
        wanted, function = _FUNCTIONS[name]
        if len(given) != wanted:
            numbers = "one number" if wanted == 1 else "two numbers"
            raise NotWorkedOut(f"{name} takes {numbers} in brackets.")
        return function(*given)


def _of_whole(name: str, n: float, k: float) -> tuple[int, int]:
    """Two whole numbers of which one can be chosen from the other."""
    if n != int(n) or k != int(k) or not k >= 0 or n < 0:
        raise NotWorkedOut(f"{name} needs whole numbers of 0 or more.")
    return int(n), int(k)


def _choose(n: float, k: float) -> float:
    """Ways to choose k of n without order: n! / (k! (n − k)!)."""
    a, b = _of_whole("choose", n, k)
    if b > a:
        return 0.0
    if math.lgamma(a + 1) - math.lgamma(b + 1) - math.lgamma(a - b + 1) > 709.7:
        raise OverflowError
    return float(math.comb(a, b))


def _permutations(n: float, k: float) -> float:
    """Ways to choose k of n in order: n! / (n − k)!."""
    a, b = _of_whole("permutations", n, k)
    if b > a:
        return 0.0
    if math.lgamma(a + 1) - math.lgamma(a - b + 1) > 709.7:
        raise OverflowError
    return float(math.perm(a, b))


def _factorial(n: float) -> float:
    a, _ = _of_whole("factorial", n, 0)
    if a > 170:
        raise OverflowError
    return float(math.factorial(a))


def _root(x: float) -> float:
    if x < 0:
        raise NotWorkedOut("A number below 0 has no square root.")
    return math.sqrt(x)


def _log(x: float) -> float:
    if x <= 0:
        raise NotWorkedOut("Only a number above 0 has a logarithm.")
    return math.log(x)


_FUNCTIONS: dict[str, tuple[int, Callable[..., float]]] = {
    "sqrt": (1, _root),
    "exp": (1, math.exp),
    "ln": (1, _log),
    "choose": (2, _choose),
    "permutations": (2, _permutations),
    "factorial": (1, _factorial),
}

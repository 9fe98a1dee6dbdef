"""Worked lines that compute: each result is what comes of the figures before it, to the digits shown.

A working rounds what it puts in, and a result that was worked out from all digits need not be what a
reader gets who works the line through. `settled` takes from such a result the digits in which both
differ: "(12.3 − 10) / 0.71 = 3.244" becomes "= 3.24".
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from theoros.answer.formulas.formula import Brackets, FormulaRow, Fraction, Letters, Node, Root, Scripts
from theoros.answer.wording import number

_BEHIND = "words", "comma"


class _NoNumber(Exception):
    """A part that is no arithmetic of numbers."""


def settled(row: FormulaRow) -> FormulaRow:
    """A line whose results can be worked out from what stands before them."""
    for _, told, at in _wrong(row):
        row = _rounded(row, at, told)
    return row


def wrong_steps(row: FormulaRow) -> list[tuple[float, float]]:
    """Where a side of numbers is followed by a number that it does not come to: its value, and that number.

    A number is right where it is what the side before it is rounded to, in the digits that it has.
    """
    return [(value, told.value) for value, told, _ in _wrong(row)]


def _wrong(row: FormulaRow) -> list[tuple[float, _Told, int]]:
    sides = _sides(row.parts)
    found = []
    for one, two in pairwise(sides):
        told = _told(two.parts)
        if told is None or two.sign not in ("=", "≈") or _told(one.parts) is not None:
            continue
        try:
            value = _value(one.parts)
        except (_NoNumber, ArithmeticError, ValueError):
            continue
        if not told.is_right(value, about=two.sign == "≈"):
            found.append((value, replace(told, computed=value), two.begins))
    return found


@dataclass(frozen=True)
class _Told:
    """A number as it is written: its value is digits × 10^-decimals × scale."""

    value: float
    decimals: int
    scale: float = 1.0
    at: int = 0
    """Where among the parts of its side the digits stand."""
    computed: float = 0.0
    """What the side before it comes to."""

    def is_right(self, value: float, *, about: bool) -> bool:
        step = 10.0**-self.decimals * self.scale
        if about and self.decimals == 0:  # noughts at the end are none of its digits
            while self.value and round(self.value / step) % 10 == 0:
                step *= 10
        return abs(value - self.value) <= 0.5 * step * (1 + 1e-9) + 1e-12 * abs(value)


@dataclass(frozen=True)
class _Side:
    parts: tuple[Node, ...]
    sign: str
    """The relation before it."""
    begins: int
    """Where in the row it does."""


def _rounded(row: FormulaRow, begins: int, told: _Told) -> FormulaRow:
    """With a number in as many digits as it and what was computed agree in."""
    parts = list(row.parts)
    at, one, two = begins + told.at, told.value / told.scale, told.computed / told.scale
    for decimals in range(told.decimals - 1, -1, -1):
        if round(one, decimals) == round(two, decimals):
            parts[at] = Letters(number(abs(round(one, decimals)), decimals), "number")
            return FormulaRow(tuple(parts))
    for tens in range(1, len(str(int(abs(one))))):
        if round(one, -tens) == round(two, -tens) != 0:
            parts[at] = Letters(number(abs(round(one, -tens)), 0), "number")
            break
    sign = parts[begins - 1]
    if isinstance(sign, Letters) and sign.text == "=":
        parts[begins - 1] = Letters("≈", "relation")
    return FormulaRow(tuple(parts))


def _sides(parts: Sequence[Node]) -> list[_Side]:
    """What stands between relations; a comma ends what can be compared."""
    sides, begins, sign = list[_Side](), 0, ""
    for at, part in enumerate(parts):
        if isinstance(part, Letters) and part.kind in ("relation", "comma"):
            sides.append(_Side(tuple(parts[begins:at]), sign, begins))
            begins, sign = at + 1, part.text if part.kind == "relation" else ","
    return [*sides, _Side(tuple(parts[begins:]), sign, begins)]


def _without_words(parts: Sequence[Node]) -> list[Node]:
    """Without the unit, or what else is said behind the numbers."""
    made = list(parts)
    while made and isinstance(made[-1], Letters) and made[-1].kind in _BEHIND:
        made.pop()
    return made


def _told(parts: Sequence[Node]) -> _Told | None:
    """A number alone; None for anything else."""
    made = _without_words(parts)
    minus = bool(made) and isinstance(made[0], Letters) and made[0].text in "−-"
    rest = made[1:] if minus else made
    if not rest or not (isinstance(rest[0], Letters) and rest[0].kind == "number"):
        return None
    text = rest[0].text.replace("\u202f", "")
    if not re.fullmatch(r"[\d.]+", text):
        return None
    scale = 1.0
    if len(rest) == 3:
        times, power = rest[1], rest[2]
        ten = isinstance(power, Scripts) and isinstance(power.base, Letters) and power.base.text == "10"
        if not (isinstance(times, Letters) and times.text == "×" and ten):
            return None
        scale = _value((power,))
    elif len(rest) != 1:
        return None
    decimals = len(text.partition(".")[2])
    return _Told((-1 if minus else 1) * float(text) * scale, decimals, scale, int(minus))


def _value(parts: Sequence[Node]) -> float:
    """The value of a row of numbers, signs, fractions, roots and powers. Raises _NoNumber."""
    made = _without_words(parts)
    if not made:
        raise _NoNumber
    total, at = 0.0, 0
    sign = 1.0
    while at < len(made):
        node = made[at]
        if isinstance(node, Letters) and node.text in "+−-" and node.kind == "sign":
            sign = -1.0 if node.text in "−-" else 1.0
            at += 1
        product, at = _product(made, at)
        total += sign * product
        sign = 1.0
    return total


def _product(made: Sequence[Node], at: int) -> tuple[float, int]:
    value, at = _factor(made, at)
    while at < len(made):
        node = made[at]
        if isinstance(node, Letters) and node.text in "+−-" and node.kind == "sign":
            break
        if isinstance(node, Letters) and node.kind == "sign":
            if node.text not in "×·":
                raise _NoNumber
            at += 1
            factor, at = _factor(made, at)
        else:
            factor, at = _factor(made, at)
        value *= factor
    return value, at


def _factor(made: Sequence[Node], at: int) -> tuple[float, int]:
    if at >= len(made):
        raise _NoNumber
    node = made[at]
    if isinstance(node, Letters) and node.kind == "sign" and node.text in "−-":
        value, at = _factor(made, at + 1)
        return -value, at
    value = _of(node)
    follows = made[at + 1] if at + 1 < len(made) else None
    if isinstance(follows, Letters) and follows.text == "!":
        return math.gamma(value + 1), at + 2
    return value, at + 1


def _of(node: Node) -> float:
    match node:
        case Letters(text, "number"):
            plain = text.replace("\u202f", "")
            if not re.fullmatch(r"[\d.]+", plain):
                raise _NoNumber
            return float(plain)
        case Letters("e", _):
            return math.e
        case Brackets(inside, bars):
            value = _value(inside.parts)
            return abs(value) if bars else value
        case FormulaRow(parts):
            return _value(parts)
        case Fraction(over, under):
            return _value(over.parts) / _value(under.parts)
        case Root(inside):
            return math.sqrt(_value(inside.parts))
        case Scripts(base, None, above) if above is not None:
            return float(_of(base) ** _value(above.parts))
        case _:
            raise _NoNumber

"""Grouped data: levels that name classes of a number, such as "10 to under 20" or "10-19"."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Literal

from theoros.answer.formulas.notation import formulas, words
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.grouped import Grouped, grouped
from theoros.table.kinds import NotAValue, parse_number
from theoros.table.table import Column

_NUMBER = r"([-−]?[\d.,]*\d)"
_CLASS = re.compile(
    rf"\s*[\[\](]?\s*{_NUMBER}\s*(?:to under|to|–|-|\.\.|bis|…|,(?=\s)|;)\s*{_NUMBER}\s*"
    rf"[\])\[]?\s*\D*"
)
_SIGNED = r"\s*([-−]?\d+(?:\.\d+)?)\s*"
_BRACKETED = re.compile(rf"\s*[\[\](]{_SIGNED},{_SIGNED}[\])\[]\s*")
_UNDER = re.compile(rf"\s*(?:under|below|less than|up to|<|≤)\s*{_NUMBER}\s*\D*", re.IGNORECASE)
_OVER = re.compile(
    rf"\s*(?:(?:over|above|more than|at least|from|>|≥)\s*{_NUMBER}|"
    rf"{_NUMBER}\s*(?:and|or)\s*(?:over|more|above|older|higher)|{_NUMBER}\s*\+)\s*\D*",
    re.IGNORECASE,
)
Limits = Literal["halfway", "next"]


@dataclass(frozen=True, eq=False)
class NumberClassLimits:
    """The limits of classes in order, with how many cases each holds."""

    low: Floats
    high: Floats
    counts: Floats
    figures: Grouped
    gaps: bool
    """Whether the limits as written leave gaps, such as that between 9 and 10."""
    opened: bool
    """Whether the first or the last had only one limit, and took the width of its neighbour."""


def class_limits(level: str) -> tuple[float, float] | None:
    """The limits that a level names, infinite where it has only one; None if it names none."""
    found = _BRACKETED.fullmatch(level) or _CLASS.fullmatch(level)
    texts: list[str | None]
    if found:
        texts = [found[1], found[2]]
    elif under := _UNDER.fullmatch(level):
        texts = [None, under[1]]
    elif over := _OVER.fullmatch(level):
        texts = [over[1] or over[2] or over[3], None]
    else:
        return None
    try:
        low = -math.inf if texts[0] is None else parse_number(texts[0])
        high = math.inf if texts[1] is None else parse_number(texts[1])
    except NotAValue:
        return None
    return (low, high) if low < high else None


def classes_of(levels: tuple[str, ...], counts: list[int], limits: Limits = "halfway") -> NumberClassLimits | None:
    """Levels as classes, if every one names limits and they do not overlap.

    Where limits leave gaps of one (10-19, 20-29), each class reaches halfway to the next, or by
    "next" up to where the next begins, as for ages in full years. An open class at an end is as
    wide as its neighbour.
    """
    named = [class_limits(level) for level in levels]
    if len(levels) < 2 or any(found is None for found in named):
        return None
    pairs = sorted((found, count) for found, count in zip(named, counts, strict=True) if found is not None)
    low = np.array([pair[0][0] for pair in pairs])
    high = np.array([pair[0][1] for pair in pairs])
    held = np.array([pair[1] for pair in pairs], dtype=np.float64)
    opened = not np.isfinite(np.concatenate([low, high])).all()
    if opened and len(pairs) < 3:
        return None
    if np.isinf(low[0]):
        low[0] = high[0] - (high[1] - low[1])
    if np.isinf(high[-1]):
        high[-1] = low[-1] + (high[-2] - low[-2])
    if not np.isfinite(np.concatenate([low, high])).all():
        return None
    between = low[1:] - high[:-1]
    gaps = bool(between.size and np.allclose(between, between[0]) and 0 < between[0] < (high - low).min())
    if gaps and limits == "next":
        high = np.append(low[1:], high[-1] + float(between[0]))
    elif gaps:
        half = float(between[0]) / 2
        low, high = low - half, high + half
    try:
        return NumberClassLimits(low, high, held, grouped(low, high, held), gaps, opened)
    except ValueError:
        return None


def limits_said(classes: NumberClassLimits, limits: Limits) -> list[str]:
    """What was taken of the limits where they leave it open."""
    said = []
    if classes.gaps:
        first = f"{exact(float(classes.low[0]))} to {exact(float(classes.high[0]))}"
        how = "halfway to the next" if limits == "halfway" else "up to where the next begins"
        said.append(
            f"Each class is assumed to go {how}, the first from {first}. Ages in full years go up to the next "
            "class, rounded numbers go halfway. Choose this under “class limits”."
        )
    if classes.opened:
        said.append("A class with only one limit is assumed to be as wide as its neighbour.")
    return said


def working(classes: NumberClassLimits, column: Column) -> Step:
    """How mean, standard deviation and median are worked out from classes."""
    f, middle = classes.counts, classes.low + (classes.high - classes.low) / 2
    made = classes.figures

    def say(value: float) -> str:
        return number(value, 2) if value != int(value) else exact(value)

    some = list(zip(f.tolist(), middle.tolist(), strict=True))
    shown = some[:4]
    products = " + ".join(f"{say(c)} × {say(m)}" for c, m in shown)
    squares = " + ".join(f"{say(c)} × ({say(m)} − {say(made.mean)})^{{2}}" for c, m in shown)
    more = " + …" if len(some) > 4 else ""
    at = made.median_class
    width = float(classes.high[at] - classes.low[at])
    unit = column.unit
    return Step(
        "From classes, with each value at the middle of its class",
        formulas(
            f"x̄ = (Σ f m) / n = ({products}{more}) / {say(made.n)} = {number(made.mean, 2)} {words(unit)}",
            f"s = √((Σ f (m − x̄)^{{2}}) / (n − 1)) = √(({squares}{more}) / {say(made.n - 1)}) "
            f"= {number(made.sd, 2)} {words(unit)}",
            f"median = L + (n/2 − F) / f × w = {say(float(classes.low[at]))} + "
            f"({say(made.n / 2)} − {say(made.below)}) / {say(float(f[at]))} × {say(width)} "
            f"= {number(made.median, 2)} {words(unit)}",
        ),
    )

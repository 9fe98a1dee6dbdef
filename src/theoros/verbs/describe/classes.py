"""Grouped data: levels that name classes of a number, such as "10 to under 20" or "10-19"."""

from __future__ import annotations

import re
from dataclasses import dataclass

from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.grouped import Grouped, grouped
from theoros.table.kinds import NotAValue, parse_number
from theoros.table.table import Column

_CLASS = re.compile(r"\s*([-−]?[\d.,]+)\s*(?:to under|to|–|-|\.\.|bis|…)\s*([-−]?[\d.,]+)\s*\D*")


@dataclass(frozen=True, eq=False)
class Classes:
    """The limits of classes in order, with how many cases each holds."""

    low: Floats
    high: Floats
    counts: Floats
    figures: Grouped


def class_limits(level: str) -> tuple[float, float] | None:
    """The limits that a level names, or None if it names none."""
    found = _CLASS.fullmatch(level)
    if not found:
        return None
    try:
        low, high = parse_number(found[1]), parse_number(found[2])
    except NotAValue:
        return None
    return (low, high) if low < high else None


def classes_of(levels: tuple[str, ...], counts: list[int]) -> Classes | None:
    """Levels as classes, if every one names limits and they do not overlap.

    Where whole limits leave gaps of one (10-19, 20-29), each class reaches halfway to the next.
    """
    limits = [class_limits(level) for level in levels]
    if len(levels) < 2 or any(found is None for found in limits):
        return None
    pairs = sorted(
        (found, count) for found, count in zip(limits, counts, strict=True) if found is not None
    )
    low = np.array([pair[0][0] for pair in pairs])
    high = np.array([pair[0][1] for pair in pairs])
    held = np.array([pair[1] for pair in pairs], dtype=np.float64)
    gaps = low[1:] - high[:-1]
    if gaps.size and np.allclose(gaps, gaps[0]) and 0 < gaps[0] < (high - low).min():
        half = float(gaps[0]) / 2
        low, high = low - half, high + half
    try:
        return Classes(low, high, held, grouped(low, high, held))
    except ValueError:
        return None


def working(classes: Classes, column: Column) -> Step:
    """How mean, standard deviation and median are worked out from classes."""
    f, middle = classes.counts, classes.low + (classes.high - classes.low) / 2
    made = classes.figures

    def say(value: float) -> str:
        return number(value, 2) if value != int(value) else exact(value)

    some = list(zip(f.tolist(), middle.tolist(), strict=True))
    shown = some[:6]
    products = " + ".join(f"{say(c)} × {say(m)}" for c, m in shown)
    squares = " + ".join(f"{say(c)} × ({say(m)} − {say(made.mean)})^{{2}}" for c, m in shown)
    more = " + …" if len(some) > 6 else ""
    at = made.median_class
    width = float(classes.high[at] - classes.low[at])
    unit = column.unit
    return Step(
        "From classes, each value taken to stand at its middle",
        (
            f"mean = Σ f m / n = ({products}{more}) / {say(made.n)} "
            f"= {with_unit(number(made.mean, 2), unit)}",
            f"s = √(Σ f (m − mean)^{{2}} / (n − 1)) = √(({squares}{more}) / {say(made.n - 1)}) "
            f"= {with_unit(number(made.sd, 2), unit)}",
            f"median = L + (n/2 − F) / f × w = {say(float(classes.low[at]))} + "
            f"({say(made.n / 2)} − {say(made.below)}) / {say(float(f[at]))} × {say(width)} "
            f"= {with_unit(number(made.median, 2), unit)}",
        ),
    )

"""Stem and leaf: values written as stems with one digit each as a leaf."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

MOST_LINES = 24


@dataclass(frozen=True)
class Stems:
    """Lines of a display, lowest first: stems as text, leaves as digits in order."""

    lines: tuple[tuple[str, str], ...]
    unit: float
    """What one leaf is worth: with 0.1, the stem 4 and the leaf 2 are 4.2."""
    split: int
    """How many lines a stem has: 1, 2 (leaves 0-4, 5-9) or 5."""


def stems(values: Floats, most: int = MOST_LINES) -> Stems:
    """The display of finite values (n >= 1) in at most about `most` lines (Tukey 1977, ch. 1).

    Values are rounded to whole leaves, a half away from 0. A stem of 0 is written twice where
    there are values on both sides of it: -0 holds those from -9 leaves up to 0.
    """
    spread = float(values.max() - values.min())
    scale = spread if spread > 0 else abs(float(values[0])) or 1.0
    unit = 10.0 ** (math.floor(math.log10(scale)) - 1)
    while True:
        leaves = _whole(values / unit)
        for split in (2, 1) if values.size < 60 else (5, 2, 1):
            lines = _lines(leaves, split)
            if len(lines) <= most:
                return Stems(tuple(lines), unit, split)
        unit *= 10


def _whole(shares: Floats) -> list[int]:
    rounded = np.sign(shares) * np.floor(np.abs(shares) + 0.5 + 1e-9)
    return sorted(int(value) for value in rounded.tolist())


def _lines(leaves: list[int], split: int) -> list[tuple[str, str]]:
    per = 10 // split
    places = [_line(value, per) for value in leaves]
    if max(places) - min(places) > 400:
        return [("", "")] * 401
    held: dict[int, list[str]] = {place: [] for place in range(min(places), max(places) + 1)}
    for value, place in zip(leaves, places, strict=True):
        held[place].append(str(abs(value) % 10))
    made = []
    for place, digits in held.items():
        first = place * per if place >= 0 else (place + 1) * per
        stem = ("−" if place < 0 else "") + str(abs(first) // 10)
        made.append((stem, "".join(digits)))
    return made


def _line(value: int, per: int) -> int:
    """Which line a value stands on: 0 up for those from 0, -1 down for those below."""
    return value // per if value >= 0 else -((-value) // per) - 1

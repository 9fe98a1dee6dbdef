"""A simulated check: so many repetitions drawn from a seed, and how often a part came true."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.parts import Cell, Heading, Link
from theoros.answer.wording import exact, number, rounded, whole
from theoros.verbs.core.slots import Option, Slot, TypeNumber, choice_slot, number_slot

if TYPE_CHECKING:
    from theoros.verbs.probability.statement import ProbabilityStatement

SIZES = (0, 100, 1_000, 10_000, 100_000)
MOST_SEED = 2**31 - 1


def check_slots(s: ProbabilityStatement) -> tuple[Slot, ...]:
    """How many are drawn, and from which seed."""
    options = [
        Option(
            size,
            f"draw {whole(size)}" if size else "none",
            help="Repetitions are drawn, and those counted in which a part comes true.",
        )
        for size in SIZES
    ]
    made = [choice_slot("simulated", "simulated check", s.simulated, options)]
    if s.simulated:
        holds = TypeNumber(0, MOST_SEED, whole=True, help="The same seed, the same draws.")
        made.append(number_slot("seed", "seed", s.seed, holds, str(s.seed)))
    return tuple(made)


def check_heading(s: ProbabilityStatement) -> Heading:
    return Heading(
        "drawn", f"of {whole(s.simulated)} drawn", numeric=False, help="In so many simulated repetitions it came true."
    )


def check_cell(some: int, of: int) -> Cell:
    """How often a part came true among those that count."""
    if of == 0:
        return Cell("–")
    return Cell(f"{whole(some)} ({rounded(some / of, 4)})", some)


def check_words(s: ProbabilityStatement, p: float, some: int, of: int, each: str) -> str:
    """What the draws say of the chosen part."""
    if of == 0:
        return "In none of the draws did what it is under come true."
    drawn = f"{whole(of)} {each} drawn by chance (seed {exact(s.seed)})"
    came = "it came true in none" if some == 0 else f"it came true in {whole(some)}"
    text = f"In {drawn}, {came}: a share of {rounded(some / of, 4)}"
    spread = 1.96 * math.sqrt(max(p * (1 - p), 0.0) / of)
    if math.isnan(p) or not 0 < p < 1:
        return f"{text}."
    places = max(2, min(6, 1 - math.floor(math.log10(spread)))) if spread > 0 else 4
    return (
        f"{text}, beside the exact {number(p, 4)}. In 95 of 100 such sets of draws it lies within "
        f"{number(spread, places)} of the exact value."
    )


def draw_again(s: ProbabilityStatement) -> Link:
    """The same with other draws."""
    label = f"Draw another {whole(s.simulated)}"
    return Link(label, sets=("seed", (s.seed + 1) % MOST_SEED))

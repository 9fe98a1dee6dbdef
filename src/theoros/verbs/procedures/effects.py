"""How large a difference is, whatever n: standardized differences and shares of pairs."""

from __future__ import annotations

import math
from collections.abc import Sequence

from theoros.verbs.procedures.procedure import EffectSize

WORDS = ("very small", "small", "medium", "large")


def word(value: float, cuts: Sequence[float]) -> str:
    """The word for a size, by where a small, a medium and a large one begin."""
    return WORDS[sum(abs(value) >= cut for cut in cuts)]


def standardized(difference: float, sd: float, df: float, *, of: str = "") -> tuple[EffectSize, ...]:
    """Cohen's d, and Hedges' g, which is d less its bias: g = d (1 − 3 / (4 df − 1)).

    `of` says what the spread is of, where that is not the spread of cases within groups, for which
    the words are made.
    """
    if not sd > 0:
        return ()
    d = difference / sd
    g = d * (1 - 3 / (4 * df - 1)) if df > 1 else math.nan
    cuts = (0.2, 0.5, 0.8)
    names, source = ("Cohen’s d", "Hedges’ g"), "Cohen 1988"
    if of:
        names, source = (f"Cohen’s d_{{z}}, {of}", f"Hedges’ g_{{z}}, {of}"), "words made for two groups"
    made = [EffectSize(names[0], d, word(d, cuts), source)]
    if math.isfinite(g):
        made.append(EffectSize(names[1], g, word(g, cuts), source))
    return tuple(made)


def rank_biserial(u: float, pairs: int) -> tuple[EffectSize, ...]:
    """The share of pairs in which the first is larger, less that in which it is smaller."""
    r = 2 * u / pairs - 1
    return (EffectSize("rank-biserial r", r, word(r, (0.1, 0.3, 0.5))),)


def ratios(a: int, n1: int, b: int, n2: int) -> tuple[EffectSize, ...]:
    """Risk ratio and odds ratio of a among n1 to b among n2, where they are defined."""
    made = []
    if b:
        made.append(EffectSize("risk ratio", (a / n1) / (b / n2)))
    if b and n1 - a:
        made.append(EffectSize("odds ratio", a * (n2 - b) / (b * (n1 - a))))
    return tuple(made)

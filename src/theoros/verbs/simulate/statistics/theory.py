"""What theory says of a statistic: its mean, its standard error, and its law where it is known."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.formulas.formula import Formula
from theoros.answer.wording import number
from theoros.numeric.distributions.distribution import Discrete, Distribution
from theoros.numeric.distributions.lattice import Lattice
from theoros.numeric.distributions.normal import Normal


@dataclass(frozen=True)
class Theory:
    """Of the statistic over all samples that the model can give."""

    mean: float
    error: float
    """Its standard deviation over samples, which is the standard error."""
    lines: tuple[str | Formula, ...] = ()
    law: Distribution | None = None
    """Its exact distribution."""
    law_name: str = ""
    """ "Exact binomial"."""
    fits: tuple[bool, str] | None = None
    """Whether a normal curve does by the rule of thumb, and the rule with its figures."""


MOST_MASSES = 50_000
"""A law is put on another scale up to so many values."""
ENOUGH = 10
"""Expected successes, and failures, from which on a normal curve does."""
PLENTY = 30
"""Cases from which on the mean of most populations varies nearly normally."""


def scaled(law: Distribution | None, by: float) -> Distribution | None:
    """A law on another scale, where it has few values or is normal."""
    if isinstance(law, Normal):
        return Normal(law.mu * by, law.sigma * by)
    if not isinstance(law, Discrete):
        return None
    low, high = law.support
    if not high - low <= MOST_MASSES:
        return None
    values, chances = law.masses(low, high)
    there = chances > 0
    return Lattice(values[there] * by, chances[there] / chances.sum())


def few_words(n: int, p: float) -> str:
    return f"n p = {number(n * p, 1)}" if p <= 0.5 else f"n (1 − p) = {number(n * (1 - p), 1)}"

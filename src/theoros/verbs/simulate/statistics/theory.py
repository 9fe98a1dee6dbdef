"""What theory says of a statistic: its mean, its standard error, and its law where it is known."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.formulas.formula import Formula
from theoros.numeric.distributions.distribution import Distribution


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

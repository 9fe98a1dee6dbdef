"""The confidence that follows where an end, or the margin, is given."""

from __future__ import annotations

import math
from collections.abc import Callable

from theoros.answer.cannot import CannotAnswer
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.procedures.procedure import ProcedureFails, Result

LEAST, MOST = 1e-4, 8.0
"""Of the normal value that stands for a confidence: from nearly nothing to all but 1e-15."""
Ask = Callable[[float], Result]


def confidence_for(ask: Ask, given: str, value: float, said: str) -> float:
    """The confidence at which an interval has the end or the margin that is given.

    `ask` gives the result at a confidence. `said` is the value in words. Raises CannotAnswer
    where no confidence gives it.
    """
    from scipy.optimize import brentq

    estimate = ask(0.5).estimate
    if given == "low" and value >= estimate:
        raise CannotAnswer(f"The lower end lies below the estimate, and {said} does not. Type a lower one.", given)
    if given == "high" and value <= estimate:
        raise CannotAnswer(f"The upper end lies above the estimate, and {said} does not. Type a higher one.", given)
    curve = Normal()

    def confidence(at: float) -> float:
        return 1 - 2 * float(curve.sf(at))

    def gap(at: float) -> float:
        """How much wider than asked for; as wide as can be where the way gives up."""
        try:
            low, high = _ends(ask(confidence(at)))
        except ProcedureFails:
            return math.inf
        found = {"low": value - low, "high": high - value, "margin": (high - low) / 2 - value}
        return found[given]

    least, most = gap(LEAST), gap(MOST)
    if least > 0:
        raise CannotAnswer(
            f"No confidence gives {said}: even the narrowest interval of this way goes beyond it. Type another value.",
            given,
        )
    widest = CannotAnswer(
        f"No confidence gives {said}: even the widest interval of this way ends before it. Type another value.", given
    )
    if most < 0:
        raise widest
    low, high = LEAST, MOST
    if math.isinf(most) or not math.isfinite(gap((low + high) / 2)):
        for _ in range(60):  # the way gives up somewhere, which no secant can bear
            middle = (low + high) / 2
            low, high = (middle, high) if gap(middle) <= 0 else (low, middle)
        if math.isinf(gap(high)):
            raise widest
        return confidence(low)
    return confidence(brentq(gap, low, high, xtol=1e-12, rtol=1e-13))


def _ends(result: Result) -> tuple[float, float]:
    if result.interval is None:
        raise ProcedureFails(result.remarks[0])
    return result.interval

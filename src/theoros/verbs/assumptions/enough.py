"""Whether there are enough cases of both kinds for the normal curve to stand in for counts."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import number, whole
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.shares import Shares
from theoros.verbs.parameters.parameter import Parameter

LEAST = 10
"""As many with and without it are asked for by most textbooks."""


def _enough(data: Shares, parameter: Parameter) -> list[Assumption]:
    made = []
    if data.null is not None and len(data.of) == 1 and 0 < data.null < 1:
        return [_expected(data.of[0].n, float(data.null))]
    for share in data.of:
        name = f"{share.label}: " if share.label else ""
        counts = share.x, share.n - share.x
        said = f"{whole(counts[0])} with and {whole(counts[1])} without it"
        if min(counts) >= LEAST:
            made.append(Assumption("holds", f"{name}{said}, at least {LEAST} of each"))
        else:
            text = f"{name}{said}: at least {LEAST} of each are asked for"
            made.append(Assumption("fails", text, brief=f"fewer than {number(LEAST, 0)} of a kind"))
    return made


def _expected(n: int, null: float) -> Assumption:
    """Under H0, which is what p is worked out for."""
    yes, no = n * null, n * (1 - null)
    said = f"n p₀ = {number(yes, 1)} and n (1 − p₀) = {number(no, 1)}"
    if min(yes, no) >= LEAST:
        return Assumption("holds", f"{said}, both at least {LEAST}")
    return Assumption(
        "fails", f"{said}: both should be at least {LEAST}", brief=f"fewer than {LEAST} of a kind expected"
    )


CHECKS = (AssumptionCheck("enough", _enough),)

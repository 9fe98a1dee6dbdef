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


CHECKS = (AssumptionCheck("enough", _enough),)

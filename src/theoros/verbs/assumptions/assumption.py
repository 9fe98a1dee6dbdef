"""What the check of an assumption is: it looks at data, and says in words how the assumption stands."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from theoros.answer.parts import Assumption, Mark
from theoros.plugins import listed_in
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.parameters.parameter import Parameter

FEW, LARGE = 15, 40
"""Below the first, few values; from the second on, means vary nearly normally unless the data
are very skewed."""


@dataclass(frozen=True)
class AssumptionCheck:
    """How an assumption is checked on data. A new one is a module of this package with `CHECKS`."""

    name: str
    check: Callable[..., list[Assumption]]
    """Of data (a value of `verbs.data.samples`) for a procedure about a parameter."""
    order: int = 0


@cache
def assumption_checks() -> Mapping[str, AssumptionCheck]:
    """The checks by name."""
    return {one.name: one for one in listed_in("theoros.verbs.assumptions", "CHECKS")}


def checked(needs: Sequence[str], data: Observation, parameter: Parameter) -> list[Assumption]:
    """How the named assumptions stand, in order."""
    return [one for need in needs for one in assumption_checks()[need].check(data, parameter)]


def summed_up(found: list[Assumption]) -> tuple[str, Mark]:
    """What the table of ways says: "hold", or which fail, in a few words."""
    fails = [check.brief for check in found if check.mark == "fails"]
    judge = [check.brief for check in found if check.mark == "judge" and check.brief]
    if fails:
        return f"fail: {', '.join(dict.fromkeys(fails))}", "fails"
    if judge:
        return ", ".join(dict.fromkeys(judge)), "judge"
    return "hold", "holds"

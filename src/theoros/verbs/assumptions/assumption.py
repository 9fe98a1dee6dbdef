"""What a condition is: a check of data, said in words, in full and in a few."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from theoros.answer import parts
from theoros.answer.parts import Mark
from theoros.plugins import listed_in
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.parameters.parameter import Parameter

FEW, LARGE = 15, 40
"""Below the first, few values; from the second on, means vary nearly normally unless the data
are very skewed."""


@dataclass(frozen=True)
class Check:
    """One condition checked on one sample or on all: in full, and in a few words."""

    mark: Mark
    text: str
    brief: str = ""
    """What the table of ways says of it where it does not hold."""
    rows: tuple[int, ...] = ()
    remedy: str = ""
    """What would help, where that is more than another way: "merge"."""

    def condition(self) -> parts.Condition:
        return parts.Condition(self.mark, self.text, rows=self.rows)


@dataclass(frozen=True)
class Condition:
    """A condition by its name. A new one is a module of this package with `CONDITIONS`."""

    name: str
    check: Callable[..., list[Check]]
    """Of data (a value of `verbs.data.samples`) for a procedure about a parameter."""
    order: int = 0


@cache
def conditions() -> Mapping[str, Condition]:
    """The conditions by name."""
    return {one.name: one for one in listed_in("theoros.verbs.assumptions", "CONDITIONS")}


def checks(needs: Sequence[str], data: Observation, parameter: Parameter) -> list[Check]:
    """The checks for the named conditions, in order."""
    return [check for need in needs for check in conditions()[need].check(data, parameter)]


def summed_up(found: list[Check]) -> tuple[str, Mark]:
    """What the table of ways says: "hold", or which fail, in a few words."""
    fails = [check.brief for check in found if check.mark == "fails"]
    judge = [check.brief for check in found if check.mark == "judge" and check.brief]
    if fails:
        return f"fail: {', '.join(dict.fromkeys(fails))}", "fails"
    if judge:
        return ", ".join(dict.fromkeys(judge)), "judge"
    return "hold", "holds"

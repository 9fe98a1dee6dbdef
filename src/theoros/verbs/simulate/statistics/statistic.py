"""The statistics that can be taken of a sample: each with its words, how it is worked out, what theory says.

A new one is a module of this package that lists it in `STATISTICS`.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import TYPE_CHECKING, Literal, Protocol

from theoros.plugins import listed_in
from theoros.verbs.core.slots import Option, TypeNumber

if TYPE_CHECKING:
    from theoros.numeric.arrays import Alternative, Floats
    from theoros.numeric.chance.samples import Samples
    from theoros.verbs.simulate.sampling.facts import Facts, Takes
    from theoros.verbs.simulate.statistics.theory import Theory

TAILS: dict[str, Alternative] = {"at most": "less", "at least": "greater", "as far": "different"}
"""What asks about a tail, or both, and the claim that this goes with."""
Ask = Literal["distribution", "at most", "at least", "as far", "between", "middle"]
ASKS = (
    Option("distribution", "the distribution", help="How the statistic varies."),
    Option("at most", "at most", help="How often it is at most this small: the lower tail."),
    Option("at least", "at least", help="How often it is at least this large: the upper tail."),
    Option(
        "as far",
        "at least as extreme as",
        help="How often it is at least this far from the expected value: both tails, added.",
    ),
    Option("between", "between", help="How often it is between two ends, both included."),
    Option("middle", "the middle", help="The two ends of the middle part."),
)


class AsksStatistic(Protocol):
    """What a statistic is taken by: a statement, as far as that matters here."""

    @property
    def outcome(self) -> str: ...
    @property
    def share(self) -> float: ...
    @property
    def formula(self) -> str: ...
    @property
    def model(self) -> object: ...


@dataclass(frozen=True)
class Statistic:
    """A statistic: how it is chosen, worked out and spoken of, and what theory says of it."""

    name: str
    label: str
    """Where it is chosen: "the mean"."""
    takes: Takes
    compute: Callable[[Samples, Facts, AsksStatistic], Floats]
    """Its value for each sample, shape (samples,)."""
    said: Callable[[Facts, AsksStatistic], str]
    """Its name without an article: "number of jars that leak"."""
    theory: Callable[[Facts, AsksStatistic], Theory | None] = lambda facts, s: None
    asks: tuple[str, ...] = ()
    """The slots that it needs: "outcome", "share" or "formula"."""
    whole: bool = False
    """Whether it is a count."""
    in_units: bool = False
    share: bool = False
    """Whether it is a share of cases."""
    order: int = 0

    def possible(self, holds: TypeNumber, model: object) -> TypeNumber:
        """What it can be: a count is whole, and of no more than all cases, or of all that is drawn at the most."""
        if self.takes not in ("names", "waits"):
            return holds
        if self.share:
            return replace(holds, low=0, high=1)
        most = getattr(model, "n" if self.takes == "names" else "most", None)
        return replace(holds, low=0, high=math.inf if most is None else most, whole=self.whole)

    def places(self, facts: Facts) -> int:
        """Decimals with which it is written."""
        if self.whole:
            return 0
        return 3 if not self.in_units else min(6, facts.decimals + 2)


def plain(text: str) -> Callable[[Facts, AsksStatistic], str]:
    """A statistic that is always called the same."""
    return lambda facts, s: text


@cache
def statistics() -> Mapping[str, Statistic]:
    """The statistics by name, in their order."""
    found = listed_in("theoros.verbs.simulate.statistics", "STATISTICS")
    return {one.name: one for one in sorted(found, key=lambda one: one.order)}


def fitting(takes: frozenset[Takes]) -> list[Statistic]:
    """The statistics that can be taken where cases have such."""
    return [one for one in statistics().values() if one.takes in takes]

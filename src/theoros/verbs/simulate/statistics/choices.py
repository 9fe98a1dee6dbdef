"""The statistics that can be taken of a sample: what the sentence needs to know of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from theoros.numeric.arrays import Alternative

Takes = Literal["names", "numbers", "waits", "walks"]
"""What the cases of a sample have: names, numbers, an end that is waited for, places of a walk."""


TAILS: dict[str, Alternative] = {"at most": "less", "at least": "greater", "as far": "different"}
"""What asks about a tail, or both, and the claim that this goes with."""


@dataclass(frozen=True)
class Taken:
    """A statistic; how it is worked out, and what theory says of it, is in `statistics`."""

    name: str
    label: str
    """Where it is chosen: "the mean"."""
    takes: Takes
    asks: tuple[str, ...] = ()
    """The slots that it needs: "outcome", "share" or "formula"."""
    whole: bool = False
    """Whether it is a count."""
    in_units: bool = False
    share: bool = False
    """Whether it is a share of cases."""


TAKEN: dict[str, Taken] = {
    one.name: one
    for one in (
        Taken("number", "the number", "names", ("outcome",), whole=True),
        Taken("share", "the share", "names", ("outcome",), share=True),
        Taken("longest run", "the longest run", "names", ("outcome",), whole=True),
        Taken("mean", "the mean", "numbers", in_units=True),
        Taken("median", "the median", "numbers", in_units=True),
        Taken("total", "the total", "numbers", in_units=True),
        Taken("standard deviation", "the standard deviation", "numbers", in_units=True),
        Taken("range", "the range", "numbers", in_units=True),
        Taken("least", "the least", "numbers", in_units=True),
        Taken("greatest", "the greatest", "numbers", in_units=True),
        Taken("quantile", "a quantile", "numbers", ("share",), in_units=True),
        Taken("formula", "a formula", "numbers", ("formula",)),
        Taken("wait", "the number of draws", "waits", whole=True),
        Taken("end", "where it ends", "walks", whole=True),
        Taken("highest", "how high it comes", "walks", whole=True),
        Taken("returns", "how often it comes back", "walks", whole=True),
        Taken("above", "the share of time above the start", "walks", share=True),
    )
}


def fitting(takes: frozenset[Takes]) -> list[Taken]:
    """The statistics that can be taken where cases have such."""
    return [one for one in TAKEN.values() if one.takes in takes]

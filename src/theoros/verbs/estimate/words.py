"""An estimate in words: what is estimated, between which ends, and what that means."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.answer.wording import difference_unit, exact, listed_briefly, located, number, with_unit
from theoros.verbs.data.samples import Observed, Paired, SeveralSamples
from theoros.verbs.data.shares import Shares
from theoros.verbs.parameters.parameter import Parameter
from theoros.verbs.procedures.intervals import level, places_of_interval

Ends = tuple[float, float]


@dataclass(frozen=True)
class Estimated:
    """All that is needed to say what was estimated."""

    data: Observed
    """A value of `verbs.data`."""
    parameter: Parameter
    share: float = 0.9
    """Below the quantile, where one is asked about."""

    @property
    def compares(self) -> bool:
        """Whether there are two sides."""
        return len(self.data.letters) == 2 and not isinstance(self.data, SeveralSamples)

    @property
    def unit(self) -> str:
        if not self.parameter.in_units:
            return ""
        unit: str = self.data.unit
        if self.parameter.squared:
            return f"{unit}²" if unit and " " not in unit else ""
        return difference_unit(unit) if self.compares or isinstance(self.data, Paired) else unit

    @cached_property
    def called(self) -> str:
        """The parameter before what was measured: "mean", "90th percentile of"."""
        if self.parameter.asks != "share":
            return self.parameter.clause
        percent = round(100 * self.share, 8)
        if percent == int(percent):
            return f"{_ordinal(int(percent))} percentile of"
        return f"{exact(percent)}\u00a0% quantile of"

    @cached_property
    def subject(self) -> str:
        """What is estimated, of all there are: "the mean leaf mass of all bushes"."""
        data, name = self.data, self.parameter.name
        if isinstance(data, SeveralSamples):
            groups = listed_briefly([group.phrase for group in data.groups], 6)
            return f"the {data.measured(self.called)} of {groups}, each"
        if isinstance(data, Shares) and self.parameter.ratio:
            one, two = data.of
            return f"the {name} of {data.said}, {one.phrase} against {two.phrase},"
        clause = "standard deviation of" if self.parameter.ratio else self.called
        said = data.meanings(clause)
        if len(said) < 2:
            return f"{said[0]}," if "," in said[0] else str(said[0])
        return f"{said[0]} {'over' if self.parameter.ratio else 'minus'} {said[1]}"

    @property
    def short(self) -> str:
        """The same for an axis."""
        if self.compares:
            gap = f"difference of the {self.parameter.plural}"
            what = self.parameter.name if self.parameter.ratio else gap
        else:
            what = self.called.removesuffix(" of")
        return f"{what} ({self.unit})" if self.unit else what

    def places(self, ends: Ends, estimate: float) -> int:
        """Decimals of the ends."""
        return places_of_interval(self.data, self.parameter, ends, estimate)

    def amount(self, value: float, places: int) -> str:
        return with_unit(number(value, places), self.unit)

    def headline(self, ends: Ends, confidence: float, estimate: float, bound: str) -> str:
        """The interval in context."""
        places, sure = self.places(ends, estimate), f"We are {level(confidence)} confident that"
        low, high = ends
        if bound == "upper":
            return f"{sure} {self.subject} is at most {self.amount(high, places)}."
        if bound == "lower":
            return f"{sure} {self.subject} is at least {self.amount(low, places)}."
        first, last = (located(end, places, high - low) for end in (low, high))
        return f"{sure} {self.subject} lies between {first} and {with_unit(last, self.unit)}."

    def in_population(self, estimate: float) -> str:
        """What is so where the rows are all there are."""
        subject = self.subject.rstrip(",")
        places = min(6, int(self.data.decimals) + 1)
        return (
            f"{subject[0].upper()}{subject[1:]} is {self.amount(estimate, places)}. The table is the whole "
            f"population, so there is nothing to estimate."
        )

    def judged(self, value: float, ends: Ends) -> str:
        """What the interval says of a value that somebody names."""
        low, high = ends
        said = with_unit(exact(value), self.unit)
        if low <= value <= high:
            return (
                f"{said} is in the interval, so it is a plausible value. All values in the interval are plausible, "
                "so this does not show that it is the true value."
            )
        side = "below" if value < low else "above"
        what = "interval" if math.isfinite(low) and math.isfinite(high) else "bound"
        return f"{said} is {side} the {what}, so it is not a plausible value at this confidence level."


def _ordinal(n: int) -> str:
    ending = "th" if 10 <= n % 100 <= 20 else {1: "st", 2: "nd", 3: "rd"}.get(n % 10, "th")
    return f"{n}{ending}"

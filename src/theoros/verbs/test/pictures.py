"""Pictures of a test: what chance gives under H0, and the interval that says the same."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property

from theoros.answer.axis import Axis, span
from theoros.answer.chance_pictures import chance_frame
from theoros.answer.layers.spots import Interval
from theoros.answer.parts import Section
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import exact, located, number, percent_text, statistic, with_unit
from theoros.lazy_imports import np
from theoros.verbs.data.samples import Paired
from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim
from theoros.verbs.procedures.intervals import places_of_interval
from theoros.verbs.procedures.procedure import Result


@dataclass(frozen=True)
class MatchingInterval:
    """An interval whose ends are the values that a test at the same level would just not reject."""

    words: ComparisonClaim
    ends: tuple[float, float]
    confidence: float
    bound: bool = False
    """Whether it is open on the side that a one-sided claim points to."""

    @property
    def is_bound(self) -> bool:
        return self.bound and self.words.alternative != "different"

    @property
    def level(self) -> str:
        """A bound leaves out one tail, where the interval of the same end leaves out two."""
        share = (1 + self.confidence) / 2 if self.is_bound else self.confidence
        return percent_text(share)

    @property
    def about(self) -> str:
        """What it is of."""
        words, name = self.words, self.words.parameter.name
        if words.compares:
            return f"the difference of the {words.parameter.plural}"
        return f"the {name} difference" if isinstance(words.data, Paired) else f"the {name}"

    @cached_property
    def _places(self) -> int:
        """Decimals as in Estimate, and enough to keep both ends apart from the value under H0."""
        words = self.words
        ends = [end for end in self.ends if math.isfinite(end)]
        places = places_of_interval(words.data, words.parameter, self.ends, words.parameter.estimate(words.data))
        while places < 8 and any(
            end != words.null and number(end, places) == number(words.null, places) for end in ends
        ):
            places += 1
        return places

    def _written(self, end: float) -> str:
        low, high = self.ends
        return located(end, self._places, high - low)

    def said(self, *, rejected: bool) -> str:
        """Where it lies, and whether the value under H0 is in it."""
        words, (low, high) = self.words, self.ends
        null = words.null_text if words.null else "0"
        if self.is_bound:
            up = words.alternative == "greater"
            end, side = (low, "above") if up else (high, "below")
            beyond = end > words.null if up else end < words.null
            return (
                f"With {self.level} confidence {self.about} is {'at least' if up else 'at most'} "
                f"{with_unit(self._written(end), words.gap_unit)}: that bound "
                f"{'lies' if beyond else 'does not lie'} {side} {null}, the value under H_{{0}}."
            )
        inside = low <= words.null <= high
        above = low > words.null
        outside_claimed = not inside and (words.alternative == "different" or above == (words.alternative == "greater"))
        where = f"{'contains' if inside else 'does not contain'} {null}, the value under H_{{0}}"
        if not inside and not outside_claimed:
            where = (
                f"lies {'above' if above else 'below'} {null}, the value under H_{{0}}, on the side opposite to "
                "the claim"
            )
        text = (
            f"The {self.level} confidence interval for {self.about} runs from "
            f"{self._written(low)} to {with_unit(self._written(high), words.gap_unit)}: it {where}."
        )
        if rejected != outside_claimed and (rejected or not words.against):
            text += (
                " The interval and the p-value use different methods, so they can disagree when the result is close."
            )
        return text

    def section(self) -> Section:
        """The interval with a line at the value under H0."""
        words, (first, last) = self.words, self.ends
        low, high = span(np.array([first, last, words.null]), 0.08)
        name = "interval"
        alpha = exact(round(1 - self.confidence, 10))
        note = f"It contains the values that a two-sided test at α = {alpha} would not reject."
        if self.is_bound:  # drawn to the edge on its open side
            name = "bound"
            first, last = (first, high) if words.alternative == "greater" else (low, last)
            note = "Beyond its end lie the values that a test of this claim would reject."
        bar = Interval(first, words.parameter.estimate(words.data), last, line_role="data")
        unit = f" ({words.gap_unit})" if words.gap_unit else ""
        axis = Axis(low, high, f"{self.about.removeprefix('the ')}{unit}")
        null = words.null_text if words.null else "0"
        rule = Rule(words.null, f"H₀: {null}", "mute", knob=False, dashed=True)
        ends = " to ".join(self._written(end) for end in (first, last))
        alt = f"The {self.level} {name} for {self.about}: {ends}."
        frame = Frame(axis, (Panel((Lane((bar,)),)),), rules=(rule,))
        title = f"The {self.level} {name}"
        return Section(title, Picture((frame,), alt=alt, slim=True), note=note)


def _null_frame(result: Result, *, rejection: bool) -> Frame:
    """The picture of what chance gives, with the region shaded whose probability is p.

    With `rejection` it is the region in which H0 is rejected that is shaded, if there is one.
    """
    assert result.distribution is not None
    assert result.region is not None
    region, title = result.region, result.title
    ends: tuple[float, ...] = ()
    if rejection and result.rejection is not None:
        region, title = result.rejection, "Shaded: where H₀ is rejected"
        ends = tuple(e for part in region.parts for e in part if math.isfinite(e))
    frame = chance_frame(
        result.distribution,
        region,
        result.observed,
        axis=result.axis,
        observed_text=result.observed_text,
        title=title,
        bell=result.bell,
    )
    limits = tuple(
        Rule(end, statistic(end, 1), "tail", knob=False, dashed=True)
        for end in ends
        if frame.x.low <= end <= frame.x.high
    )
    return replace(frame, rules=(*limits, *frame.rules))

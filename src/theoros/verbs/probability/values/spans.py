"""Events as values: parts of the line of X, joined, met, and under a condition.

An event says itself in words and in symbols, and becomes the region that is shaded.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from theoros.answer.wording import exact
from theoros.numeric.distributions.distribution import Discrete, Distribution, Region


@dataclass(frozen=True)
class ValueSpan:
    """Values from low to high, each end in it or not; infinite ends are open."""

    low: float = -math.inf
    high: float = math.inf
    low_in: bool = True
    high_in: bool = True

    @property
    def is_point(self) -> bool:
        return self.low == self.high and self.low_in and self.high_in

    @property
    def is_empty(self) -> bool:
        return self.low > self.high or (self.low == self.high and not self.is_point)

    def met(self, other: ValueSpan) -> ValueSpan:
        """What lies in both."""
        low = max((self.low, not self.low_in), (other.low, not other.low_in))
        high = min((self.high, self.high_in), (other.high, other.high_in))
        return ValueSpan(low[0], high[0], not low[1], high[1])


@dataclass(frozen=True)
class Event:
    """Spans that do not meet, ascending; none for what cannot be."""

    spans: tuple[ValueSpan, ...]

    @classmethod
    def of(cls, spans: Iterable[ValueSpan]) -> Event:
        """Spans put in order, those that meet made one."""
        made: list[ValueSpan] = []
        for span in sorted((s for s in spans if not s.is_empty), key=lambda s: (s.low, not s.low_in, s.high)):
            last = made[-1] if made else None
            touches = last is not None and (
                last.high > span.low or (last.high == span.low and (last.high_in or span.low_in))
            )
            if touches and last is not None:
                high = max((last.high, last.high_in), (span.high, span.high_in))
                made[-1] = ValueSpan(last.low, high[0], last.low_in, high[1])
            else:
                made.append(span)
        return cls(tuple(made))

    def met(self, other: Event) -> Event:
        return Event.of(a.met(b) for a in self.spans for b in other.spans)

    def joined(self, other: Event) -> Event:
        return Event.of((*self.spans, *other.spans))

    @property
    def complement(self) -> Event:
        """All other values."""
        rest = [ValueSpan()]
        for span in self.spans:
            rest = [
                part
                for one in rest
                for part in (
                    one.met(ValueSpan(-math.inf, span.low, True, not span.low_in)),
                    one.met(ValueSpan(span.high, math.inf, not span.high_in, True)),
                )
                if not part.is_empty
            ]
        return Event.of(one for one in rest if not (math.isinf(one.low) and one.low == one.high))

    def region(self, distribution: Distribution) -> Region:
        """As closed intervals: of counts, an open end is the next whole number."""
        parts = []
        for span in self.spans:
            low, high = span.low, span.high
            if isinstance(distribution, Discrete):
                if not span.low_in and math.isfinite(low):
                    low = math.nextafter(low, math.inf)
                if not span.high_in and math.isfinite(high):
                    high = math.nextafter(high, -math.inf)
            parts.append((low, high))
        return Region(tuple(parts))


Side = Literal["bottom", "top", "middle", "tails"]


@dataclass(frozen=True)
class CutOff:
    """The value, or the two, that cut a share of the probability off: a question turned round."""

    side: Side
    share: float


@dataclass(frozen=True)
class AskedPart:
    """One part: an event, perhaps under a condition; or a share to be cut off.

    Where words can be read in two ways, `otherwise` is the other.
    """

    event: Event | None = None
    given: Event | None = None
    cut_off: CutOff | None = None
    otherwise: AskedPart | None = None

    def words(self, counting: bool, apart: bool | None = None) -> str:
        """In words: "no more than 8", "from 9 to 11, ends included".

        `counting` says whether X is a number of things, and `apart` whether its values lie apart.
        """
        if self.cut_off is not None:
            share = share_text(self.cut_off.share)
            return {
                "bottom": f"the bottom {share}",
                "top": f"the top {share}",
                "middle": f"the middle {share}",
                "tails": f"both tails, {share} together",
            }[self.cut_off.side]
        assert self.event is not None
        said = event_words(self.event, counting, apart)
        if self.given is None:
            return said
        return f"{said}, given {event_words(self.given, counting, apart)}"

    def symbols(self) -> str:
        """As it is written: "P(9 ≤ X ≤ 11)"."""
        if self.cut_off is not None:
            share = float(self.cut_off.share)
            return {
                "bottom": f"P(X ≤ x) = {exact(share)}",
                "top": f"P(X ≥ x) = {exact(share)}",
                "middle": f"P(x₁ ≤ X ≤ x₂) = {exact(share)}",
                "tails": f"P(X ≤ x₁) = P(X ≥ x₂) = {exact(_halved(share))}",
            }[self.cut_off.side]
        assert self.event is not None
        inside = event_symbols(self.event)
        return f"P({inside} | {event_symbols(self.given)})" if self.given else f"P({inside})"


def _halved(share: float) -> float:
    return float(f"{float(share) / 2:.12g}")


def share_text(share: float) -> str:
    """ "5 %", "0.1 %"."""
    return f"{exact(float(f'{100 * float(share):.12g}'))}\u00a0%"


def event_words(event: Event, counting: bool, apart: bool | None = None) -> str:
    apart = counting if apart is None else apart
    if not event.spans:
        return "nothing that can be"
    if len(event.spans) > 1 and all(span.is_point for span in event.spans):
        values = [exact(span.low) for span in event.spans]
        return f"{', '.join(values[:-1])} or {values[-1]}"
    if len(event.spans) == 2:
        one, two = event.spans
        if one.low == -math.inf and two.high == math.inf and one.high == two.low:
            return f"not {exact(one.high)}"
    said = " or ".join(_span_words(span, counting, apart) for span in event.spans)
    return said.replace(", ends included", "") if len(event.spans) > 1 else said


def _span_words(span: ValueSpan, counting: bool, apart: bool) -> str:
    fewer = "fewer than" if counting else "less than"
    low, high = exact(span.low), exact(span.high)
    if span.low == -math.inf and span.high == math.inf:
        return "any value"
    if span.is_point:
        return f"exactly {low}"
    if span.low == -math.inf:
        return f"no more than {high}" if span.high_in else f"{fewer} {high}"
    if span.high == math.inf:
        return f"at least {low}" if span.low_in else f"more than {low}"
    if span.low_in and span.high_in:
        return f"from {low} to {high}, ends included" if apart else f"from {low} to {high}"
    first = f"at least {low}" if span.low_in else f"more than {low}"
    last = f"no more than {high}" if span.high_in else f"{fewer} {high}"
    return f"{first} and {last}"


def event_symbols(event: Event) -> str:
    if not event.spans:
        return "∅"
    if len(event.spans) == 2:
        one, two = event.spans
        if one.low == -math.inf and two.high == math.inf and one.high == two.low:
            return f"X ≠ {exact(one.high)}"
    return " or ".join(map(_span_symbols, event.spans))


def _span_symbols(span: ValueSpan) -> str:
    if span.low == -math.inf and span.high == math.inf:
        return "any X"
    if span.is_point:
        return f"X = {exact(span.low)}"
    left = "" if span.low == -math.inf else f"{exact(span.low)} {'≤' if span.low_in else '<'} "
    right = "" if span.high == math.inf else f" {'≤' if span.high_in else '<'} {exact(span.high)}"
    if not right:
        return f"X {'≥' if span.low_in else '>'} {exact(span.low)}"
    return f"{left}X{right}"

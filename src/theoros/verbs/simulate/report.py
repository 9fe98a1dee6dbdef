"""What is asked of a pile: the part that counts, how large it is, and how that is said."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.wording import exact, number, rounded, telling_apart, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.procedures.proportion_intervals import wilson_interval
from theoros.numeric.resampling.bootstrap import cut_off
from theoros.verbs.simulate.pictures.replicate_piles import Marked

if TYPE_CHECKING:
    from theoros.verbs.simulate.sampling.sampler import Sampler

SURE = 1.96
"""Standard errors within which a simulated share lies in 95 of 100 simulations."""


@dataclass(frozen=True)
class AskedOfReplicates:
    """What is asked, with the values that it needs; `region` is None where nothing is counted."""

    ready: Sampler
    around: float
    """What "as far either way" lies around."""
    low: float | None
    high: float | None = None

    @property
    def ask(self) -> str:
        return self.ready.s.ask

    def _text(self, value: float) -> str:
        """A value as it was typed, or as fine as the statistic is told."""
        if self.ready.s.value is None:
            return self.ready.said(value)
        return with_unit(exact(value) if value == round(value, 6) else number(value, 6), self.ready.unit)

    def region(self, law: Distribution) -> Region | None:
        """The part that counts; `law` says how close values are equal."""
        if self.low is None:
            return None
        slack = max(law.slack(self.low), self.ready.resolution)
        if self.ask == "at most":
            return Region(((-math.inf, self.low),), slack)
        if self.ask == "at least":
            return Region(((self.low, math.inf),), slack)
        if self.ask == "as far":
            far = abs(self.low - self.around)
            if far <= slack:
                return Region(((-math.inf, math.inf),), slack)
            return Region(((-math.inf, self.around - far), (self.around + far, math.inf)), slack)
        if self.ask == "between" and self.high is not None:
            low, high = sorted((self.low, self.high))
            return Region(((low, high),), slack)
        return None

    @property
    def opposite(self) -> float:
        """The value as far on the other side."""
        assert self.low is not None
        return 2 * self.around - self.low

    def words(self) -> str:
        """Behind "the number of jars that leak": "is at most 1"."""
        assert self.low is not None
        low = self._text(self.low)
        if self.ask in ("at most", "at least"):
            return f"is {self.ask} {low}"
        if self.ask == "as far":
            centre = self._text(float(f"{self.around:.6g}"))
            if self.ready.places == 0 and self.around != round(self.around):  # of counts: between two of them
                centre = with_unit(number(self.around, 1), self.ready.unit)
            first, last = sorted((float(f"{self.low:.6g}"), float(f"{self.opposite:.6g}")))
            if self.ready.places == 0:  # counts: whole numbers, and none below 0
                first, last = float(math.floor(first)), float(math.ceil(last))
            above = f"{self._text(last)} or more"
            ends = f"{self._text(first)} or less, or {above}" if self._reaches(first) else above
            return f"is at least as far from {centre} as {low} is ({ends})"
        assert self.high is not None
        first, last = sorted((self.low, self.high))
        return f"is from {self._text(first)} to {self._text(last)}"

    def _reaches(self, value: float) -> bool:
        """Whether the statistic can be so small: no count is below 0."""
        return value >= 0 or self.ready.places > 0 or self.ready.s.model.kind == "walk"

    def short(self) -> str:
        """In the head of a column: "at most 1"."""
        if self.low is None:
            return ""
        if self.ask == "as far":
            return f"as extreme as {self._text(self.low)}"
        if self.ask == "between" and self.high is not None:
            first, last = sorted((self.low, self.high))
            return f"from {self._text(first)} to {self._text(last)}"
        return f"{self.ask} {self._text(self.low)}"

    def marks(self, hits: int, n: int, *, fixed: bool) -> tuple[Marked, ...]:
        """Lines on the pile. `fixed` values come from what was seen and cannot be dragged."""
        if self.low is None:
            return ()
        each = self.ready.each
        slot = "" if fixed else "value"
        of = f"{whole(hits)} of {whole(n)}"
        if self.ask == "between" and self.high is not None:
            ends = sorted(((self.low, "value"), (self.high, "high")))
            return (
                Marked(ends[0][0], self._text(ends[0][0]), ends[0][1], -1),
                Marked(ends[1][0], f"{self._text(ends[1][0])} · {of} {each}s between", ends[1][1], 1),
            )
        observed = f"observed: {self._text(self.low)}"
        if self.ask == "at most":
            return (Marked(self.low, f"{observed} · {of} at most that", slot, 1),)
        if self.ask == "at least":
            return (Marked(self.low, f"{observed} · {of} at least that", slot, -1),)
        if self.ask == "as far":
            side = -1 if self.low >= self.around else 1
            other = Marked(self.opposite, "equally far", "", -side)
            if abs(self.low - self.around) < 1e-12:
                return (Marked(self.low, f"{observed} · all are as extreme", slot, 0),)
            return (Marked(self.low, f"{observed} · {of} at least as extreme", slot, side), other)
        return (Marked(self.low, observed, slot, 0),)


def middle_of(pile: Pile, share: float, beyond: int = 0) -> tuple[float, float] | None:
    """The ends between which that share of the replicates lies; None where they are too few.

    `beyond` more lie above all of the pile.
    """
    ordered = np.append(pile.ordered, np.full(beyond, np.inf)) if beyond else pile.ordered
    out = (1 - share) / 2
    low, high = cut_off(ordered, out), cut_off(ordered, 1 - out)
    if low is None or high is None or not math.isfinite(high.value):
        return None
    return low.value, high.value


def share_text(hits: int, n: int) -> str:
    """A share of replicates, and how far another seed may take it."""
    p = hits / n
    return rounded(p, places_of(n))


def places_of(n: int) -> int:
    """Decimals that a share of n replicates is worth."""
    return max(2, min(6, math.ceil(math.log10(n)))) if n > 1 else 2


def margin(hits: int, n: int) -> float:
    """In 95 of 100 simulations the share lies within this of what it comes to in the long run.

    For no hits at all, or nothing but hits, the end of the exact interval (about 3 / n).
    """
    p = hits / n
    if hits in (0, n):
        return 1 - float(0.05 ** (1 / n))
    return SURE * math.sqrt(p * (1 - p) / n)


def margin_text(hits: int, n: int) -> str:
    """Between which ends the share comes to lie in the long run, by Wilson's interval."""
    if hits in (0, n):
        gap = margin(hits, n)
        places = max(2, min(6, 1 - math.floor(math.log10(gap))))
        end = f"below {rounded(gap, places)}" if hits == 0 else f"above {rounded(1 - gap, places)}"
        return f"{end} with 95\u00a0% confidence"
    low, high = telling_apart(wilson_interval(hits, n, 0.95), places_of(n))
    return f"95\u00a0% interval of the simulation {low} to {high}"


def often(hits: int, n: int, each: str, many: str) -> str:
    """ "about 16 of 100 crates", in numbers that can be pictured."""
    if hits == 0:
        return f"none of {whole(n)} {many if n != 1 else each}"
    if hits == n:
        return f"all {whole(n)} {many}" if n != 1 else f"the only {each}"
    if n <= 100:
        return f"{whole(hits)} of {whole(n)} {many}"
    per = 100
    while per < n and hits / n * per < 0.95:
        per *= 10
    if per >= n:
        return f"{whole(hits)} of {whole(n)} {many}"
    about = rounded(hits / n * per, 0).replace(",", "")
    if int(about) >= per:
        return f"{whole(hits)} of {whole(n)} {many}"
    return f"about {about} of {whole(per)} {many}"


def fine_decimals(error: float, otherwise: int = 2) -> int:
    """Decimals that show three figures of a standard error."""
    if not (math.isfinite(error) and error > 0):
        return otherwise
    return max(0, min(8, 2 - math.floor(math.log10(error))))

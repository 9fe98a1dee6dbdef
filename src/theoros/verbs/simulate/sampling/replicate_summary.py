"""What was found in a pile of replicates: its numbers, what counts, and how it is drawn."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.answer.nouns import counted, plural
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.core.verdict import Evidence
from theoros.verbs.simulate.pictures.replicate_piles import MOST_DOTS, Heap, Marked
from theoros.verbs.simulate.report import SURE, AskedOfReplicates, fine_decimals, middle_of
from theoros.verbs.simulate.sampling.procedure_sampler import NullSampler, ProcedureSampler
from theoros.verbs.simulate.sampling.sampler import Sampler
from theoros.verbs.simulate.statistics.statistic import TAILS

ROOM = 4.2
"""So many standard errors to both sides of what theory expects are always in view."""


@dataclass(frozen=True, eq=False)
class ReplicateSummary:
    """The first `count` replicates, and `observed`, the value they are set against."""

    ready: Sampler
    count: int
    observed: float | None
    fixed: bool
    """Whether that value follows from data, and so cannot be dragged."""

    @cached_property
    def rows(self) -> Floats:
        """A row for each replicate, a column for each statistic."""
        return self.ready.replicates.first(self.count)

    @cached_property
    def good(self) -> Floats:
        return np.isfinite(self.rows[:, 0])

    @cached_property
    def beyond(self) -> int:
        """Replicates whose value is only known to be larger than any that could be counted."""
        return int(np.count_nonzero(self.rows[:, 0] == np.inf))

    @cached_property
    def lost(self) -> int:
        """Replicates without a value."""
        return int(self.count - self.good.sum()) - self.beyond

    @cached_property
    def values(self) -> Floats:
        first = self.rows[:, 0]
        return np.asarray(first[self.good] if self.lost or self.beyond else first, dtype=np.float64)

    @cached_property
    def numbers(self) -> Floats:
        """Which replicates these are the values of, from 1."""
        return np.asarray(np.flatnonzero(self.good) + 1, dtype=np.float64)

    @property
    def n(self) -> int:
        """Replicates that count, those beyond what could be counted among them."""
        return int(self.values.size) + self.beyond

    @property
    def opened(self) -> int:
        """The replicate that is looked at."""
        return min(self.ready.s.opened or self.count, self.count)

    @cached_property
    def mean(self) -> float:
        """NaN where some lie beyond what could be counted."""
        return math.nan if self.beyond else float(self.values.mean())

    @property
    def error(self) -> float:
        """The standard deviation of the pile: the simulated standard error; NaN as the mean."""
        if self.beyond:
            return math.nan
        sd = self.pile.sd  # what rounding leaves of samples that are all the same is none
        return sd if sd > 1e-12 * abs(self.mean) else 0.0

    @cached_property
    def fine(self) -> int:
        """Decimals for means and standard errors: three figures of a standard error."""
        theory, error = self.ready.theory, self.error
        if theory is not None and math.isfinite(theory.error) and theory.error > 0:
            error = theory.error
        return fine_decimals(error, self.ready.places + 1)

    @cached_property
    def pile(self) -> Pile:
        return Pile(self.values, around=self.around, resolution=self.ready.resolution)

    @cached_property
    def around(self) -> float:
        """What both tails lie around."""
        ready = self.ready
        if isinstance(ready, NullSampler):
            return ready.drawn.around
        if isinstance(ready, ProcedureSampler):
            return float(ready.observed or 0.0)
        theory = ready.theory
        return theory.mean if theory is not None else self.mean if not self.beyond else float(np.median(self.values))

    @property
    def tails(self) -> bool:
        """Whether a tail, or both, is asked about."""
        return self.ready.s.ask in TAILS

    @cached_property
    def asked(self) -> AskedOfReplicates:
        s = self.ready.s
        high = None if s.high is None else float(s.high)
        low = self.observed if self.tails else None if s.value is None else float(s.value)
        if s.ask == "between" and (low is None or high is None):
            low = high = None
        return AskedOfReplicates(self.ready, self.around, low, high)

    def region_of(self, law: Distribution) -> Region | None:
        """The part of a law that counts."""
        if self.ready.s.ask in ("distribution", "middle"):
            return None
        ready = self.ready
        if isinstance(ready, NullSampler) and self.by_data and ready.drawn.region is not None:
            return ready.drawn.region
        return self.asked.region(law)

    @property
    def by_data(self) -> bool:
        """Whether the value of a claim's own data is asked about."""
        return isinstance(self.ready, NullSampler) and self.ready.s.value is None and self.tails

    @cached_property
    def region(self) -> Region | None:
        return self.region_of(self.pile)

    @cached_property
    def hits(self) -> int:
        """How many replicates count."""
        if self.region is None:
            return 0
        upwards = any(high == math.inf for _, high in self.region.parts)
        return self.pile.counted(self.region) + (self.beyond if upwards else 0)

    @property
    def p(self) -> float:
        """The p-value of a claim, in which what was seen counts, too; else the share."""
        return (self.hits + 1) / (self.n + 1) if self.is_claim else self.hits / self.n

    @property
    def is_claim(self) -> bool:
        """Whether what is asked is how well a claim goes with what was seen."""
        return self.by_data or (self.region is not None and self.ready.claims)

    @cached_property
    def exact(self) -> float | None:
        """The chance of what is asked about by the exact law, where that is known."""
        theory = self.ready.theory
        if theory is None or theory.law is None or self.region is None:
            return None
        region = self.region_of(theory.law)
        return None if region is None else theory.law.probability(region)

    @property
    def evidence(self) -> Evidence:
        """The p-value of a claim, with how far it can be relied on."""
        p, n = self.p, self.n
        margin = SURE * math.sqrt(p * (1 - p) / n)
        return Evidence(p, 1 / (n + 1), plural(self.ready.each), margin, self.exact)

    @cached_property
    def middle(self) -> tuple[float, float] | None:
        return middle_of(self.pile, self.ready.s.middle, self.beyond)

    @cached_property
    def bell(self) -> Normal | None:
        """The normal curve with the mean and standard error of theory, or else of the pile."""
        ready = self.ready
        if (
            self.n < 2
            or (not self.beyond and not 0 < self.error < math.inf)
            or (isinstance(ready, NullSampler) and ready.drawn.upper)
        ):
            return None
        theory = ready.theory
        if theory is not None and theory.error > 0:
            return Normal(theory.mean, theory.error)
        if self.beyond:
            return None
        middle = self.around if isinstance(ready, ProcedureSampler) else self.mean
        return Normal(middle, self.error)

    def _room(self) -> tuple[float, float] | None:
        theory = self.ready.theory
        if theory is None or not math.isfinite(theory.error):
            return None
        low, high = theory.mean - ROOM * theory.error, theory.mean + ROOM * theory.error
        if theory.law is not None:
            first, last = theory.law.support
            low, high = max(low, first), min(high, last)
        return (low, high) if low < high else None

    @cached_property
    def heap(self) -> Heap:
        """The pile as it is drawn."""
        s, ready = self.ready.s, self.ready
        marks: tuple[Marked, ...] = ()
        if s.ask == "middle" and self.middle is not None:
            marks = tuple(Marked(end, ready.said(end)) for end in self.middle)
        elif self.asked.low is not None and self.region is not None:
            marks = self.asked.marks(self.hits, self.n, fixed=self.fixed)
        curve = self.bell is not None and self.n > MOST_DOTS
        title = f"{counted(self.count, ready.each)}; a click on one opens it"
        if curve:
            title = f"{counted(self.count, ready.each)} and the normal curve; a click opens one"
        return Heap(
            self.values,
            self.numbers,
            self.pile,
            self.region,
            ready.whole,
            ready.axis,
            self.opened,
            self.bell,
            self._room(),
            marks,
            title,
        )

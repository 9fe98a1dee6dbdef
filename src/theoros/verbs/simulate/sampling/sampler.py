"""A model of chance made ready: what is drawn of it, and one sample to be looked at."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Hashable
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.axis import Axis
from theoros.answer.picture import Frame
from theoros.answer.wording import number, whole, with_unit
from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.numeric.chance.samples import Samples
from theoros.numeric.resampling.replicates import Replicates, block_size, generator, kept
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.verbs.simulate.pictures.samples import numbers_frame, tiles_frame, walk_frame
from theoros.verbs.simulate.sampling.facts import Facts
from theoros.verbs.simulate.statistics.statistic import TAILS, Statistic, statistics
from theoros.verbs.simulate.statistics.theory import Theory

if TYPE_CHECKING:
    from theoros.verbs.simulate.statement import SimulateStatement

MOST_NAMED = 60
"""Up to so many cases have their names written in their tiles."""


@dataclass(frozen=True, eq=False)
class Sampler(ABC):
    """What is drawn; `s` is the statement it was made from."""

    s: SimulateStatement

    @property
    @abstractmethod
    def key(self) -> Hashable: ...
    @property
    @abstractmethod
    def block(self) -> int:
        """How many samples are drawn at a time."""

    @abstractmethod
    def rows(self, rng: np.random.Generator, size: int) -> Floats:
        """A block of replicates, a column for each statistic."""

    @property
    @abstractmethod
    def labels(self) -> tuple[str, ...]:
        """What each statistic is called, without an article."""

    @property
    @abstractmethod
    def unit(self) -> str: ...
    @property
    @abstractmethod
    def places(self) -> int:
        """Decimals of the first statistic."""

    @property
    def theory(self) -> Theory | None:
        return None

    @property
    def observed(self) -> float | None:
        """The value that was seen, where the model knows of one."""
        return None

    @property
    def whole(self) -> bool:
        """Whether the first statistic is a count."""
        return False

    resolution = 0.0

    @property
    def claims(self) -> bool:
        """Whether a tail of its pile is the p-value of a claim about the model itself."""
        return False

    @property
    @abstractmethod
    def each(self) -> str:
        """What one replicate is called: "sample", "shuffle"."""

    @abstractmethod
    def frame(self, number_: int, value: float) -> Frame:
        """The sample of a replicate (from 1), whose statistic has that value."""

    @abstractmethod
    def columns(self, numbers: range) -> list[tuple[Column, pl.Series]]:
        """The cases of these samples as columns of a table."""

    @property
    def notes(self) -> tuple[str, ...]:
        """What of the rows is not used, and why."""
        return ()

    @property
    def used(self) -> int:
        """Rows in use; 0 where there are none."""
        return 0

    @property
    def values_in_one(self) -> int:
        """How many values are drawn for one replicate."""
        return 1

    def said(self, value: float, places: int | None = None) -> str:
        """A value of the first statistic with its unit."""
        return with_unit(number(value, self.places if places is None else places), self.unit)

    @property
    def axis(self) -> str:
        label = self.labels[0]
        return f"{label} ({self.unit})" if self.unit else label

    @property
    def replicates(self) -> Replicates:
        return kept(self.key, self.rows, self.s.seed, self.block)


@dataclass(frozen=True, eq=False)
class ModelSampler(Sampler):
    """Samples of a model, and statistics of them."""

    facts: Facts
    statistics: tuple[Statistic, ...]

    @property
    def first(self) -> Statistic:
        return self.statistics[0]

    @property
    def key(self) -> Hashable:
        s = self.s
        taken = tuple(one.name for one in self.statistics)
        return self.facts.key, taken, s.outcome, float(s.share), s.formula

    @property
    def block(self) -> int:
        return block_size(self.facts.model.size)

    @property
    def values_in_one(self) -> int:
        return self.facts.model.size

    def rows(self, rng: np.random.Generator, size: int) -> Floats:
        drawn = self.facts.model.draw(rng, size)
        made = [one.compute(drawn, self.facts, self.s) for one in self.statistics]
        return np.stack(made, axis=1) if len(made) > 1 else np.asarray(made[0])[:, None]

    @property
    def labels(self) -> tuple[str, ...]:
        return tuple(one.said(self.facts, self.s) for one in self.statistics)

    @property
    def unit(self) -> str:
        return self.facts.unit if self.first.in_units else ""

    @property
    def places(self) -> int:
        return self.first.places(self.facts)

    @cached_property
    def theory(self) -> Theory | None:
        return self.first.theory(self.facts, self.s)

    @property
    def whole(self) -> bool:
        return self.first.whole

    @property
    def claims(self) -> bool:
        """A chance is claimed, and a count or a share of cases speaks of it; a run speaks of more than that."""
        model, first = self.s.model, self.first.name
        p = getattr(model, "p", None)
        claimed = model.at_level and p is not None and 0 < p < 1  # nothing is beyond a chance of 0 or 1
        return claimed and first in ("number", "share") and self.s.ask in TAILS

    @property
    def each(self) -> str:
        return self.s.each.strip() or ("walk" if "walks" in self.facts.takes else "sample")

    @property
    def notes(self) -> tuple[str, ...]:
        return self.facts.notes

    @property
    def used(self) -> int:
        return self.facts.used

    # one sample

    def sample(self, number_: int) -> Samples:
        """The sample of a replicate, from 1."""
        at, size = number_ - 1, self.block
        drawn = self.facts.model.draw(generator(self.s.seed, at // size), size)
        return drawn.one(at % size)

    def _case_names(self, sample: Samples) -> tuple[str, ...]:
        names, facts = [], self.facts
        for at in range(sample.values[0].shape[1]):
            said = [
                own[int(codes[0, at])]
                for own, codes in zip(facts.names, sample.values, strict=True)
                if codes[0, at] >= 0
            ]
            names.append(" · ".join(said))
        return tuple(names)

    def _counted(self, sample: Samples):  # type: ignore[no-untyped-def]
        """Which cases are those that the statistic counts."""
        facts, s = self.facts, self.s
        if facts.success:
            return facts.hits(sample, ((0, 0),))[0]
        if self.first.takes == "names":
            return facts.hits(sample, facts.target(s.outcome or facts.names[0][0]))[0]
        return np.zeros(sample.values[0].shape[1], dtype=np.bool_)

    def frame(self, number_: int, value: float) -> Frame:
        sample, facts = self.sample(number_), self.facts
        title = f"{self.each.capitalize()} {whole(number_)}: {self.told(value)}"
        if "walks" in facts.takes:
            return walk_frame(np.asarray(sample.values[0][0], dtype=np.float64), title)
        if facts.names:
            n = sample.values[0].shape[1]
            named = not facts.success and n <= MOST_NAMED
            names = self._case_names(sample) if named else ()
            return tiles_frame(self._counted(sample), names, title)
        values = facts.values(sample)[0]
        mark = value if self.first.in_units and self.first.name not in ("total", "range") else None
        if self.first.name == "standard deviation":
            mark = None
        return numbers_frame(values, title, self._scale(), mark)

    def told(self, value: float) -> str:
        """A value with what it is: "4 of 25 leak", "mean 62.3 mm"."""
        facts, one = self.facts, self.first
        if value != value:
            return "not ended" if "waits" in facts.takes else "no value"
        if one.name == "number":
            return f"{number(value, 0)} of {whole(facts.n)}"
        return f"{self.labels[0]} {self.said(value)}"

    def _scale(self) -> Axis:
        """The scale that every sample is drawn on: that of the population."""
        facts = self.facts
        if facts.population is not None:
            x = facts.population().x
            return Axis(x.low, x.high, x.label)
        ends = np.concatenate(facts.worth)
        return Axis(float(ends.min()) - 0.5, float(ends.max()) + 0.5, facts.measure)

    def population(self) -> Frame | None:
        return self.facts.population() if self.facts.population is not None else None

    def columns(self, numbers: range) -> list[tuple[Column, pl.Series]]:
        facts = self.facts
        which: list[int] = []
        cells: list[list[float | str | None]] = [[] for _ in (facts.names or ("",))]
        size, block = self.block, -1
        drawn = None
        for number_ in numbers:
            at = number_ - 1
            if at // size != block:
                block = at // size
                drawn = facts.model.draw(generator(self.s.seed, block), size)
            assert drawn is not None
            one = drawn.one(at % size)
            n = one.values[0].shape[1]
            which += [number_] * n
            if not facts.names:
                cells[0] += np.asarray(one.values[0][0], dtype=np.float64).tolist()
                continue
            for k, own in enumerate(facts.names):
                cells[k] += [own[c] if c >= 0 else None for c in one.values[k][0].astype(int)]
        kind = Kind.CATEGORY if facts.names else Kind.NUMBER
        labels = facts.stages if len(facts.stages) > 1 else (self._case_column(),)
        made = [(Column(self.each, Kind.NUMBER), pl.Series(self.each, which, dtype=pl.Float64))]
        numeric = bool(facts.worth)
        for label, column in zip(labels, cells, strict=True):
            held = [None if c is None else float(c) for c in column] if numeric else column
            own_kind = Kind.NUMBER if numeric else kind
            series = pl.Series(label, held, dtype=own_kind.dtype, strict=False)
            made.append((Column(label, own_kind, unit=facts.unit), series))
        return made

    def _case_column(self) -> str:
        facts = self.facts
        if "walks" in facts.takes:
            return "place"
        return facts.case if facts.names else facts.measure


def model_sampler(s: SimulateStatement, facts: Facts) -> ModelSampler:
    """The chosen statistic first, then the others that are taken beside it."""
    also = [statistics()[name] for name in s.also if name != s.statistic and name in statistics()]
    fit = [one for one in also if one.takes in facts.takes]
    return ModelSampler(s, facts, (statistics()[s.statistic], *fit))

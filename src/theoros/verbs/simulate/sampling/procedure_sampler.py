"""Procedures that draw by chance, made ready to be watched."""

from __future__ import annotations

import hashlib
import math
from abc import abstractmethod
from collections.abc import Hashable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.picture import Frame
from theoros.answer.wording import number, whole
from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.resampling.replicates import block_size, generator
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.observed import observed_frame
from theoros.verbs.data.observed_counts import CountsOfLevels, Observation, TwoWayCounts
from theoros.verbs.data.samples import Measured, Observed
from theoros.verbs.procedures.bootstrap_intervals import Drawn, drawn_of
from theoros.verbs.procedures.by_chance import ByChance, Simulated
from theoros.verbs.procedures.claimed_shares import claimed_shares
from theoros.verbs.procedures.drafting import cannot_answer
from theoros.verbs.procedures.hypotheses.hypotheses import Claim
from theoros.verbs.procedures.hypotheses.omnibus import claim_of
from theoros.verbs.procedures.procedure import ProcedureFails, Question, Settings
from theoros.verbs.procedures.resampled_data import resample_of
from theoros.verbs.simulate.models.model import DrawnModel
from theoros.verbs.simulate.sampling.sampler import Sampler, model_sampler
from theoros.verbs.simulate.statement import SimulateStatement
from theoros.verbs.simulate.statistics.theory import Theory

MOST_ARRANGEMENTS = 200_000
"""All arrangements are counted up to so many."""


def _digest(data: Observation) -> bytes:
    """What tells data from others."""
    made = hashlib.blake2b(digest_size=16)
    for one in data.arrays:
        made.update(np.ascontiguousarray(one).tobytes() + repr(one.shape).encode())
    return made.digest()


@dataclass(frozen=True, eq=False)
class ProcedureSampler(Sampler):
    """What a procedure draws about data."""

    data: Observation
    question: Question

    @property
    def key(self) -> Hashable:
        s, q = self.s, self.question
        return (s.model.kind, s.method, q.parameter.name, q.null, q.settings.share, _digest(self.data))

    @property
    def unit(self) -> str:
        return ""

    @property
    def notes(self) -> tuple[str, ...]:
        return tuple(self.data.left_out)

    @property
    def used(self) -> int:
        return int(self.data.used)

    @abstractmethod
    def again(self, number_: int) -> Observation:
        """The data of a replicate."""

    def frame(self, number_: int, value: float) -> Frame:
        shown = observed_frame(self.again(number_))
        first = observed_frame(self.data)
        title = f"{self.each.capitalize()} {whole(number_)}: {self.said(value)}"
        if first.x.names or first.x.bare:
            return replace(shown, title=title)
        low, high = min(first.x.low, shown.x.low), max(first.x.high, shown.x.high)
        return replace(shown, x=replace(first.x, low=low, high=high), title=title)

    def columns(self, numbers: range) -> list[tuple[Column, pl.Series]]:
        which: list[float] = []
        cells: dict[str, list[str | float]] = {}
        for number_ in numbers:
            for cell in self.again(number_).cells():
                which.append(float(number_))
                for name, value in cell.items():
                    cells.setdefault(name, []).append(value)
        made = [(Column(self.each, Kind.NUMBER), pl.Series(self.each, which, dtype=pl.Float64))]
        for name, held in cells.items():
            kind = Kind.NUMBER if all(isinstance(v, float) for v in held) else Kind.CATEGORY
            made.append((Column(name, kind), pl.Series(name, held, dtype=kind.dtype)))
        return made


@dataclass(frozen=True, eq=False)
class ResampleSampler(ProcedureSampler):
    """What was seen, drawn again with replacement."""

    data: Observed
    each: ClassVar[str] = "resample"

    @cached_property
    def drawn(self) -> Drawn:
        try:
            return drawn_of(self.question)
        except ProcedureFails as why:
            raise CannotAnswer(cannot_answer(self.s.procedure, str(why)), "data") from None

    @property
    def block(self) -> int:
        return block_size(self.drawn.size)

    @property
    def values_in_one(self) -> int:
        return self.drawn.size

    def rows(self, rng: np.random.Generator, size: int) -> Floats:
        return self.drawn.block(rng, size)[:, None]

    @property
    def labels(self) -> tuple[str, ...]:
        name = self.question.parameter.name
        if self.question.parameter.ratio or len(self.data.letters) < 2:
            if isinstance(self.data, Measured) and not self.question.parameter.ratio:
                name = self.data.measured(self.question.parameter.clause)
            return (f"{name} of a resample",)
        one, two = self.data.names or self.data.letters
        return (f"difference of the {self.question.parameter.plural}, {one} − {two}",)

    @property
    def unit(self) -> str:
        parameter = self.question.parameter
        unit = getattr(self.data, "unit", "")
        if not parameter.in_units or parameter.ratio:
            return ""
        return "percentage points" if unit == "%" and len(self.data.letters) > 1 else str(unit)

    @property
    def places(self) -> int:
        return min(6, self.drawn.decimals + 2)

    @property
    def observed(self) -> float | None:
        return self.drawn.estimate

    @property
    def theory(self) -> Theory | None:
        """σ/√n with the spread of what was seen, for a mean; nothing where no formula is taught."""
        data, name = self.data, self.question.parameter.name
        if name != "mean" or not isinstance(data, Measured) or len(data.samples) > 1:
            return None
        sample = data.samples[0]
        spread = float(sample.values.std())  # that of what is drawn from
        error = spread / math.sqrt(sample.n)
        line = (
            f"The mean of the data, {self.said(self.drawn.estimate)}, and their standard deviation (divisor n) "
            f"divided by √n: {number(error, self.places + 1)}."
        )
        return Theory(self.drawn.estimate, error, (line,))

    def again(self, number_: int) -> Observation:
        return resample_of(self.data, self.drawn, number_, self.s.seed)


@dataclass(frozen=True, eq=False)
class NullSampler(ProcedureSampler):
    """What chance gives where a claim is true."""

    @cached_property
    def drawn(self) -> Simulated:
        method = self.s.procedure
        assert isinstance(method.test, ByChance)
        try:
            return method.test.of(self.question)
        except ProcedureFails as why:
            raise CannotAnswer(cannot_answer(method, str(why)), "data") from None

    @property
    def words(self) -> Claim:
        q = self.question
        return claim_of(self.data, q.parameter, q.alternative or "different", q.null, q.alpha)

    @property
    def block(self) -> int:
        return block_size(self.drawn.size)

    @property
    def values_in_one(self) -> int:
        return self.drawn.size

    def rows(self, rng: np.random.Generator, size: int) -> Floats:
        return self.drawn.make(rng, size)[:, None]

    @property
    def labels(self) -> tuple[str, ...]:
        return (self.drawn.axis,)

    @property
    def places(self) -> int:
        return self.drawn.places

    @property
    def resolution(self) -> float:  # type: ignore[override]
        return self.drawn.resolution

    @property
    def whole(self) -> bool:
        return self.drawn.places == 0

    @property
    def observed(self) -> float | None:
        return self.drawn.observed

    @property
    def each(self) -> str:
        return self.drawn.noun

    @cached_property
    def theory(self) -> Theory | None:
        """The exact law, or that of all arrangements, where they are few."""
        one = self.drawn
        if one.exact is not None:
            name = "Exact binomial" if len(self.data.sides) == 1 else "Exact hypergeometric"
            return Theory(one.exact.mean, one.exact.sd, (), one.exact, name)
        if one.every is not None and one.arrangements <= MOST_ARRANGEMENTS:
            pile = Pile(np.concatenate(list(one.every())), around=one.around, resolution=one.resolution)
            error = float(pile.replicates.std())
            mean = pile.mean if abs(pile.mean) > 1e-12 * error else 0.0  # but for rounding
            return Theory(
                mean,
                error,
                (f"All {whole(one.arrangements)} {one.ways_words} were counted.",),
                pile,
                f"All {counted(one.arrangements, 'arrangement')}",
            )
        return None

    def again(self, number_: int) -> Observation:
        at, size = number_ - 1, self.block
        assert self.drawn.again is not None
        return self.drawn.again(generator(self.s.seed, at // size), size, at % size)


def procedure_sampler(s: SimulateStatement, data: Observation) -> ProcedureSampler:
    """The data of a statement with what is drawn of them."""
    settings = Settings(replicates=s.replicates, seed=s.seed, share=s.share)
    if isinstance(data, Observed) and s.model.uses == "resampling":
        return ResampleSampler(s, data, Question(data, s.about, settings=settings))
    null = getattr(s.model, "null", None) or 0.0
    question = Question(data, s.about, null, s.alternative, s.alpha, settings=settings, in_full=False)
    return NullSampler(s, data, question)


def prepared(s: SimulateStatement, data: Observation) -> Observation:
    """Data with what is claimed of them."""
    if isinstance(data, CountsOfLevels):
        text = getattr(s.model, "claimed", "").strip()
        k = len(data.levels)
        shares = claimed_shares(text, data.levels) if text else (1 / k,) * k
        return replace(data, claimed=shares, claimed_text=text)
    if isinstance(data, TwoWayCounts):
        return replace(data, matched=s.parameter == "change")
    return data


def sampler_for(s: SimulateStatement, tables: Tables) -> Sampler:
    """What is drawn. Raises CannotAnswer."""
    if isinstance(s.model, DrawnModel):
        return model_sampler(s, s.model.facts(s, s.model_place(tables)))
    if s.family not in s.about.families or not s.method:
        raise CannotAnswer(
            f"A {s.parameter} of {s.data.label} cannot be simulated here. Choose other data, or another parameter.",
            "parameter",
        )
    return procedure_sampler(s, prepared(s, s.data.read(tables, s.table)))

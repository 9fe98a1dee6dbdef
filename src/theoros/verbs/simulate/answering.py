"""Answers a simulation: the pile as it grows, written up with as many replicates as there are."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.parts import Answer, Draft, Reading
from theoros.answer.picture import Picture
from theoros.lazy_imports import np
from theoros.numeric.chance.samples import Samples
from theoros.numeric.chance.statistics import longest_run
from theoros.verbs.core.slots import Tables
from theoros.verbs.simulate.pictures.compared_models import ComparedModels
from theoros.verbs.simulate.pictures.replicate_piles import pile_frame
from theoros.verbs.simulate.pictures.sections import alt_of, sample_section, sections_of
from theoros.verbs.simulate.sampling.procedure_sampler import sampler_for
from theoros.verbs.simulate.sampling.replicate_summary import ReplicateSummary
from theoros.verbs.simulate.sampling.sampler import ModelSampler, Sampler
from theoros.verbs.simulate.statement import SimulateStatement
from theoros.verbs.simulate.tables import drawn_table, methods_table, numbers_of, working_of
from theoros.verbs.simulate.words.reading import reading_of, steps_of, symbols_of, without_values

__all__ = ["drafts", "drawn_table"]

DRAWING = "Drawing samples"
LOOKS = 1.3
"""After each such growth the pile is shown again."""
NANOSECONDS = 9.0
"""What it takes to draw one value, about, to tell beforehand how long it will take."""
LONG = 2.0


def drafts(s: SimulateStatement, tables: Tables) -> Iterator[Draft]:
    """The pile as it grows, then what is compared with it."""
    ready = sampler_for(s, tables)
    made = _Shown(ready, tables, ComparedModels(s, tables))
    replicates = ready.replicates
    cost = s.replicates * ready.values_in_one * NANOSECONDS * 1e-9
    if replicates.count < s.replicates and cost > LONG:
        some = max(1, min(ready.block, s.replicates))
        replicates.drawn(some)
        yield Draft(made.answer(some, _beforehand(cost, s)), 0.0, DRAWING)
    for count, look in replicates.looks(s.replicates, LOOKS):
        if count < s.replicates:
            yield Draft(made.answer(count) if look else None, count / s.replicates, DRAWING)
    if made.compared.made and not made.compared.there:
        yield Draft(made.answer(s.replicates), 0.0, DRAWING)
        for done in made.compared.draw():
            yield Draft(None, done, DRAWING)
    yield Draft(made.answer(s.replicates))


def _beforehand(seconds: float, s: SimulateStatement) -> str:
    if seconds < 90:
        about = counted(max(2, round(seconds)), "second")
    else:
        about = counted(max(2, round(seconds / 60)), "minute")
    space = max(1, round(s.replicates * 8 * (1 + len(s.also)) / 1e6))
    return (
        f"This takes about {about} on a usual computer, and {space} MB: only the statistics are kept, and a sample "
        "that you open is drawn again from its seed. You can stop it."
    )


@dataclass
class _Shown:
    """An answer written up with as many replicates as there are."""

    ready: Sampler
    tables: Tables
    compared: ComparedModels

    def answer(self, count: int, beforehand: str = "") -> Answer:
        ready, s = self.ready, self.ready.s
        fixed = s.value is None and self.observed is not None
        f = ReplicateSummary(ready, count, self.observed, fixed)
        if not f.values.size:
            return Answer(reading=Reading(without_values(f)), seed=s.seed)
        return Answer(
            symbols=symbols_of(ready),
            picture=Picture((pile_frame(f.heap),), alt=alt_of(f), opens="opened"),
            above=(sample_section(f),),
            sections=sections_of(f, self.compared),
            figures=(methods_table(f),),
            reading=reading_of(f, self.tables, beforehand),
            working=working_of(f),
            writeup=steps_of(f),
            used=ready.used,
            left_out=ready.notes,
            seed=s.seed,
            numbers=numbers_of(f),
        )

    @cached_property
    def observed(self) -> float | None:
        """What was seen: typed, or in a column, or known to the model."""
        s, ready = self.ready.s, self.ready
        if s.value is not None:
            return float(s.value)
        if ready.observed is not None:
            return ready.observed
        if s.observed_in and isinstance(ready, ModelSampler):
            return seen_in_column(ready, self.tables)
        return None


def seen_in_column(ready: ModelSampler, tables: Tables) -> float:
    """The statistic of the rows of a column. Raises CannotAnswer."""
    s, one = ready.s, ready.first
    table, name = tables[s.table], str(s.observed_in)
    cases = table.cases
    if one.takes == "names":
        codes = table.codes(name)[cases]
        codes = codes[codes >= 0]
        level = table.levels(name).index(str(s.observed_level))
        hits, n = int((codes == level).sum()), int(codes.size)
        if n == 0:
            raise CannotAnswer(f"{name} has no values yet.", "observed_in")
        if one.name == "longest run":
            return float(longest_run((codes == level)[None, :])[0])
        return hits / n if one.share else float(hits)
    values = table.numbers(name)[cases]
    values = values[np.isfinite(values)]
    if values.size == 0:
        raise CannotAnswer(f"{name} has no values yet.", "observed_in")
    bare = replace(ready.facts, worth=(), names=())
    return float(one.compute(Samples((values[None, :],)), bare, s)[0])

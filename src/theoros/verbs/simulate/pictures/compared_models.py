"""Comparisons: the same for several n or p, cases as they come in, intervals of many samples."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.axis import Axis, span
from theoros.answer.layers.ladders import Ladder
from theoros.answer.nouns import counted
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, Section, cell
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import exact, number, rounded, significant, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.proportion_intervals import wilson_interval
from theoros.verbs.core.slots import Tables
from theoros.verbs.simulate.models.model import DrawnModel
from theoros.verbs.simulate.pictures.replicate_piles import Heap, panels_frame
from theoros.verbs.simulate.pictures.samples import running_frame
from theoros.verbs.simulate.report import fine_decimals
from theoros.verbs.simulate.sampling.compared_values import compared_values
from theoros.verbs.simulate.sampling.sampler import ModelSampler, model_sampler

if TYPE_CHECKING:
    from theoros.verbs.simulate.statement import SimulateStatement

MOST_INTERVALS = 100
MOST_COMPARED_REPEATS = 20_000
"""Of each of the models that are compared; more would not be seen."""
RUNNING = ("number", "share", "mean", "total")
CONFIDENCE = 0.95


class ComparedModels:
    """The same model with other values of n or p, drawn one after the other."""

    def __init__(self, s: SimulateStatement, tables: Tables) -> None:
        self.s = s
        self.made: list[tuple[float, ModelSampler]] = []
        if s.varies == "nothing":
            return
        for value in compared_values(s.values, s.varies):
            held = int(value) if s.varies == "n" else float(value)
            assert isinstance(s.model, DrawnModel)
            model = replace(s.model, **{s.varies: held})  # type: ignore[type-var]
            other = replace(s, model=model)
            facts = model.facts(other, other.model_place(tables))
            self.made.append((value, model_sampler(replace(other, also=()), facts)))

    @property
    def wanted(self) -> int:
        return min(self.s.replicates, MOST_COMPARED_REPEATS)

    def draw(self) -> Iterator[float]:
        """Draws them; tells how much of the work is done."""
        for at, (_, ready) in enumerate(self.made):
            for count in ready.replicates.grow(self.wanted):
                yield (at + count / self.wanted) / len(self.made)

    @property
    def there(self) -> bool:
        return bool(self.made) and all(one.replicates.count >= self.wanted for _, one in self.made)

    def section(self) -> Section:
        """Their piles above each other on one scale, with mean and SE beside theory."""
        letter = self.s.varies
        piles, rows = [], []
        first = self.made[0][1]
        for value, ready in self.made:
            values = ready.replicates.first(self.wanted)[:, 0]
            values = values[np.isfinite(values)]
            if not values.size:
                continue
            heap = Heap(values, np.arange(1.0, values.size + 1), Pile(values), None, ready.whole, ready.axis)
            sd = float(values.std(ddof=1)) if values.size > 1 else math.nan
            name = f"{letter} = {exact(value)}"
            piles.append((name, f"SE {significant(sd, 3)}", heap))
            theory = ready.theory
            places = fine_decimals(theory.error if theory is not None else sd)
            rows.append(
                FigureRow(
                    (
                        Cell(name, float(value)),
                        cell(float(values.mean()), number(values.mean(), places)),
                        cell(theory.mean, number(theory.mean, places)) if theory else Cell("–"),
                        cell(sd, significant(sd, 3)),
                        cell(theory.error, significant(theory.error, 3)) if theory else Cell("–"),
                    )
                )
            )
        if not piles:
            return Section("Compared", note="No sample has a value to compare.")
        title = f"The same for several {letter}"
        frame = panels_frame(piles, first.axis)
        alt = f"Simulated distributions of {first.labels[0]} for several {letter}, one above the other on one scale."
        headings = (
            Heading("value", letter, numeric=False),
            Heading("mean", "mean"),
            Heading("theory_mean", "by theory"),
            Heading("se", "standard error"),
            Heading("theory_se", "by theory"),
        )
        table = ResultTable("compared", headings, tuple(rows))
        note = (
            "The distributions become narrower as n grows: the standard error is proportional to 1/√n."
            if letter == "n" and self.s.taken.name in ("mean", "share")
            else f"{counted(self.wanted, first.each)} for each."
        )
        return Section(title, Picture((frame,), alt=alt), note=note, figures=(table,))


def running_section(ready: ModelSampler, number_: int) -> Section | None:
    """The statistic of the sample that is looked at, after one case, after two, and so on."""
    one, facts = ready.first, ready.facts
    if one.name not in RUNNING:
        return None
    sample = ready.sample(number_)
    counts = one.takes == "names"
    if counts:
        target = ((0, 0),) if facts.success else facts.target(ready.s.outcome or facts.names[0][0])
        values = facts.hits(sample, target)[0].astype(np.float64)
        true: float | None = facts.chance_of(target)
        label = f"share of {ready.labels[0].partition(' of ')[2]}"
    else:
        values = facts.values(sample)[0]
        true = facts.moments[0] if facts.moments else None
        label = f"mean {facts.measure}" if facts.measure != "value" else "mean"
    running = np.cumsum(values) / np.arange(1, values.size + 1)
    last = number(float(running[-1]), 4)
    side = f" settles near {number(true, 4)}" if true is not None else " settles"
    note = (
        f"After {counted(values.size, 'case')} it is {last}. With more cases, one more case changes it less: "
        f"it{side} (law of large numbers)."
    )
    frame = running_frame(running, true, label, f"{ready.each.capitalize()} {whole(number_)}")
    alt = f"The {label} as cases come in; {note}"
    return Section("As cases come in", Picture((frame,), alt=alt), note=note)


def intervals_section(ready: ModelSampler, count: int) -> Section | None:
    """The 95 % intervals of the first samples, and how many hold the true value."""
    facts, one = ready.facts, ready.first
    many = min(count, MOST_INTERVALS)
    of_shares = one.takes == "names" and one.name != "longest run"
    if not of_shares and (facts.moments is None or not facts.numbers or facts.n < 2):
        return None
    ends: list[tuple[float, float, float]] = []
    if of_shares:
        target = ((0, 0),) if facts.success else facts.target(ready.s.outcome or facts.names[0][0])
        true, what = facts.chance_of(target), f"share of {ready.labels[0].partition(' of ')[2]}"
        for at in range(1, many + 1):
            x = int(facts.hits(ready.sample(at), target).sum())
            low, high = wilson_interval(x, facts.n, CONFIDENCE)
            ends.append((low, x / facts.n, high))
    else:
        assert facts.moments is not None
        true = facts.moments[0]
        what = f"mean {facts.measure}" if facts.measure != "value" else "mean"
        t = StudentT(facts.n - 1).critical(1 - CONFIDENCE, "different")
        for at in range(1, many + 1):
            values: Floats = facts.values(ready.sample(at))[0]
            mean = float(values.mean())
            reach = t * float(values.std(ddof=1)) / math.sqrt(facts.n)
            ends.append((mean - reach, mean, mean + reach))
    table = np.array(ends)
    holds = (table[:, 0] <= true) & (true <= table[:, 2])
    caught = int(holds.sum())
    low, high = span(np.append(table, true), 0.03)
    ladder = Ladder(table[:, 0], table[:, 1], table[:, 2], holds, max(many, 20))
    rule = Rule(true, f"true: {number(true, 4)}", "data", knob=False)
    frame = Frame(Axis(low, high, what), (Panel((Lane((ladder,)),)),), rules=(rule,))
    method = "Wilson" if of_shares else "t"
    each = ready.each if many == 1 else f"first {many} {ready.each}s"
    note = (
        f"Of the 95\u00a0% intervals (by {method}) of the {each}, {whole(caught)} "
        f"{'holds' if caught == 1 else 'hold'} the true value"
        + (f", {rounded(100 * caught / many, 0)}\u00a0%." if many > 1 else ".")
    )
    return Section("Intervals of samples", Picture((frame,), alt=note), note=note)

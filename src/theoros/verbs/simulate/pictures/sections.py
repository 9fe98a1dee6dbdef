"""The sample that is looked at, with what there is to do, and what stands below the pile."""

from __future__ import annotations

import math
from dataclasses import replace

from theoros.answer.nouns import counted
from theoros.answer.parts import Control, Section
from theoros.answer.picture import Frame, Picture
from theoros.answer.wording import number, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.lattice import Pile
from theoros.verbs.data.observed import observed_frame
from theoros.verbs.simulate.pictures.compared_models import ComparedModels, intervals_section, running_section
from theoros.verbs.simulate.pictures.replicate_piles import Heap, bar_of, pile_frame, scatter_frame
from theoros.verbs.simulate.pictures.samples import tiles_frame
from theoros.verbs.simulate.report import fine_decimals
from theoros.verbs.simulate.sampling.procedure_sampler import ProcedureSampler
from theoros.verbs.simulate.sampling.replicate_summary import ReplicateSummary
from theoros.verbs.simulate.sampling.sampler import ModelSampler


def sample_section(f: ReplicateSummary) -> Section:
    """The sample that is looked at, beside what was seen or where it comes from."""
    ready, at = f.ready, f.opened
    frames: list[Frame] = []
    if isinstance(ready, ProcedureSampler):
        frames.append(replace(observed_frame(ready.data), title=f"Observed: {ready.said(ready.observed or 0.0)}"))
    elif isinstance(ready, ModelSampler):
        before = _seen_share(f) or ready.population()
        frames += [before] if before is not None else []
    value = float(f.rows[at - 1, 0])
    frames.append(ready.frame(at, value))
    picture = Picture(tuple(frames), alt=frames[-1].title, breaks=False, slim=all(_flat(one) for one in frames))
    same = [k for k in bar_of(f.heap) if k <= f.count]
    place = same.index(at) if at in same else -1
    controls = [
        Control("One more", ("replicates", min(f.count + 1, 1_000_000)), main=True, adds=1),
        *(Control(f"Run to {whole(n)}", ("replicates", n)) for n in _runs(f.count)),
        Control("Start over", ("replicates", 1)),
    ]
    if len(same) > 1 and place >= 0:
        controls.append(Control("Next like it", ("opened", same[(place + 1) % len(same)])))
    return Section("", picture, tuple(controls), note_of(f))


def _runs(count: int) -> tuple[int, ...]:
    """How many one can run to: the next powers of ten, and no fewer than there are."""
    steps = [n for n in (100, 1000, 10_000, 100_000, 1_000_000) if n > count]
    return tuple(steps[:2])


def _seen_share(f: ReplicateSummary) -> Frame | None:
    """What was seen, as cases, where that is known."""

    ready, value = f.ready, f.observed
    if not isinstance(ready, ModelSampler) or not ready.facts.success or value is None:
        return None
    facts, one = ready.facts, ready.first
    if "names" not in facts.takes or not f.tails or one.name == "longest run":
        return None
    hits = value * facts.n if one.share else value
    if not 0 <= hits <= facts.n or abs(hits - round(hits)) > 1e-6:
        return None
    counts = np.arange(facts.n) < round(hits)
    return tiles_frame(counts, (), f"Observed: {ready.told(value)}")


def note_of(f: ReplicateSummary) -> str:
    theory, places = f.ready.theory, f.fine
    mean = number(f.mean, places)
    sd = f" · SD {number(f.error, places)}" if f.n > 1 else ""
    beside = ""
    if theory is not None and math.isfinite(theory.mean) and math.isfinite(theory.error):
        beside = f" · theory {number(theory.mean, places)} and {number(theory.error, places)}"
    return f"mean {mean}{sd}{beside}"


def alt_of(f: ReplicateSummary) -> str:
    ready = f.ready
    said = f"Simulated distribution of {ready.labels[0]} in {counted(f.n, ready.each)}: {note_of(f)}."
    if f.region is not None and f.asked.low is not None:
        said += f" {whole(f.hits)} count: {f.asked.short()}."
    return said


def sections_of(f: ReplicateSummary, compared: ComparedModels) -> tuple[Section, ...]:
    ready = f.ready
    made: list[Section | None] = []
    if isinstance(ready, ModelSampler):
        if len(ready.statistics) > 1:
            made += _others(f, ready)
        if compared.there:
            made.append(compared.section())
        if f.ready.s.running:
            made.append(running_section(ready, f.opened))
        if f.ready.s.intervals:
            made.append(intervals_section(ready, f.count))
    return tuple(one for one in made if one is not None)


def _others(f: ReplicateSummary, ready: ModelSampler) -> list[Section | None]:
    """A pile for each further statistic, and the first two against each other."""
    made: list[Section | None] = []
    for at, one in enumerate(ready.statistics[1:], 1):
        column = f.rows[:, at]
        good = np.isfinite(column)
        values = column[good]
        numbers = np.asarray(np.flatnonzero(good) + 1, dtype=np.float64)
        if not values.size:
            continue
        unit = ready.facts.unit if one.in_units else ""
        label = one.said(ready.facts, ready.s)
        axis = f"{label} ({unit})" if unit else label
        heap = Heap(values, numbers, Pile(values), None, one.whole, axis, f.opened, title="")
        sd = float(values.std(ddof=1)) if values.size > 1 else math.nan
        places = fine_decimals(sd)
        note = f"mean {number(float(values.mean()), places)} · SD {number(sd, places)}"
        picture = Picture((pile_frame(heap),), alt=f"Simulated distribution of {label}; {note}.", opens="opened")
        made.append(Section(f"The same samples: {one.label}", picture, note=note))
    pair = f.rows[:, :2]
    pair = pair[np.isfinite(pair).all(axis=1)]
    if pair.shape[0] > 1:
        x, y = pair[:, 0], pair[:, 1]
        labels = ready.labels[0], ready.labels[1]
        frame = scatter_frame(x, y, labels, f.opened)
        alt = f"{labels[1]} against {labels[0]}, a mark for each {ready.each}."
        made.append(Section("Scatter plot of the two", Picture((frame,), alt=alt, opens="opened")))
    return made


def _flat(frame: Frame) -> bool:
    """Whether a strip of paper is enough for a frame: tiles, or one bar."""
    return frame.x.bare or (
        all(
            not panel.sublabel and len(panel.lanes) == 1 and panel.lanes[0].y is not None and panel.lanes[0].y.bare
            for panel in frame.panels
        )
        and len(frame.panels) == 1
        and not frame.rules
    )

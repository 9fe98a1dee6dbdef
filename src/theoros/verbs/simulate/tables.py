"""The simulation beside what is exact and what the normal curve gives; and the working."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import partial

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.nouns import counted
from theoros.answer.parts import Cell, Heading, ResultTable, Step, Tone, cell
from theoros.answer.result_tables import TableColumn, figure, table_of, words
from theoros.answer.wording import bracketed, number, p_value, put_in, significant, statistic, whole
from theoros.lazy_imports import np, pl
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.normal import Normal
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, free_name
from theoros.verbs.core.slots import Tables
from theoros.verbs.simulate.report import margin_text, share_text
from theoros.verbs.simulate.sampling.procedure_sampler import NullSampler
from theoros.verbs.simulate.sampling.replicate_summary import ReplicateSummary
from theoros.verbs.simulate.sampling.sampler import Sampler
from theoros.verbs.simulate.statement import SimulateStatement
from theoros.verbs.simulate.statistics.statistic import TAILS


@dataclass(frozen=True)
class _Way:
    """One way to the mean, the standard error and the chance: by simulation, exactly, by a curve."""

    name: str
    mean: float
    error: float
    sure: str
    chance: float | None = None
    said: str = ""
    """The chance as it is written."""
    ends: tuple[float, float] = (math.nan, math.nan)
    tone: Tone = ""
    chosen: bool = False


def methods_table(f: ReplicateSummary) -> ResultTable:
    """The simulation beside what is known exactly and what the normal curve gives."""
    s, places = f.ready.s, f.fine
    columns: list[TableColumn[_Way]] = [
        words("method", "Method", lambda one: one.name),
        figure("mean", "mean", lambda one: one.mean, partial(number, decimals=places)),
        figure("se", "standard error", lambda one: one.error, partial(number, decimals=places)),
    ]
    if f.region is not None:
        short = f.asked.short().replace(" ", "\u00a0")
        chance = Heading("chance", f"chance of {short}")
        columns.append(TableColumn(chance, lambda w: Cell("–") if w.chance is None else cell(w.chance, w.said)))
    if s.ask == "middle":
        write = partial(number, decimals=f.ready.places)
        columns.append(figure("low", "from", lambda one: one.ends[0], write))
        columns.append(figure("high", "to", lambda one: one.ends[1], write))
    columns.append(words("sure", "simulation error", lambda one: one.sure, tone=lambda one: one.tone))
    found = [*_simulated(f), _by_theory(f), _by_curve(f)]
    ways = [one for one in found if one is not None]
    return table_of("methods", columns, ways, chosen=lambda one: one.chosen)


def _simulated(f: ReplicateSummary) -> list[_Way]:
    """What the samples say; of a claim about data, what was seen is counted as one of them, too."""
    ready, n, asks = f.ready, f.n, f.region is not None
    middle = f.middle if ready.s.ask == "middle" else None
    sure = margin_text(f.hits, n) if asks else ""
    if ready.s.ask == "middle" and middle is None:
        sure = f"{counted(n, ready.each)} are too few for such ends"
    name, ends = f"Simulated, {counted(n, ready.each)}", middle or (math.nan, math.nan)
    made = [_Way(name, f.mean, f.error, sure, f.hits / n, share_text(f.hits, n), ends, chosen=True)]
    if asks and f.is_claim:
        sure = f"({whole(f.hits)} + 1) / ({whole(n)} + 1)"
        made.append(_Way("The same, with the observed result counted", f.mean, f.error, sure, f.p, p_value(f.p)))
    return made


def _read_off(way: _Way, f: ReplicateSummary, law: Distribution, region: Region | None) -> _Way:
    """With the chance of a region by a law, and the two ends of its middle, where they are asked for."""
    if region is not None:
        chance = law.probability(region)
        way = replace(way, chance=chance, said=p_value(chance))
    if f.ready.s.ask == "middle":
        out = (1 - f.ready.s.middle) / 2
        way = replace(way, ends=(float(law.quantile(out)), law.upper_quantile(out)))
    return way


def _by_theory(f: ReplicateSummary) -> _Way | None:
    theory = f.ready.theory
    if theory is None:
        return None
    if theory.law is None:
        return _Way("Theory", theory.mean, theory.error, "mean and standard error by formula")
    way = _Way(theory.law_name, theory.mean, theory.error, "exact", tone="good")
    return _read_off(way, f, theory.law, f.region_of(theory.law))


def _by_curve(f: ReplicateSummary) -> _Way | None:
    """By the normal curve, with the standard error that theory or the pile gives."""
    s, bell, theory = f.ready.s, f.bell, f.ready.theory
    if bell is None or (theory is not None and isinstance(theory.law, Normal)):
        return None
    said, fits = "with the standard error of the simulation", True
    if theory is not None and theory.fits is not None:
        said, fits = theory.fits[1], theory.fits[0]
    elif theory is not None:
        said = "with the standard error of theory"
    if f.asked.low is not None and s.ask in TAILS:
        said = f"z = {statistic((f.asked.low - bell.mu) / bell.sigma)}; {said}"
    way = _Way("Normal curve", bell.mu, bell.sigma, said, tone="" if fits else "bad")
    return _read_off(way, f, bell, f.asked.region(bell) if f.region is not None else None)


def numbers_of(f: ReplicateSummary) -> dict[str, object]:
    made: dict[str, object] = {"replicates": f.n, "mean": f.mean, "se": f.error, "left_out": f.lost}
    if f.region is not None:
        made |= {"count": f.hits, "share": f.hits / f.n, "p": f.p}
    theory = f.ready.theory
    if theory is not None:
        made |= {"theory_mean": theory.mean, "theory_se": theory.error}
    return made


def working_of(f: ReplicateSummary) -> tuple[Step, ...]:
    ready, n = f.ready, f.n
    steps = []
    if isinstance(ready, NullSampler):
        steps.append(Step("Observed", ready.drawn.lines))
    lines: list[str | Formula] = [
        (
            f"{counted(f.count, ready.each)} drawn from seed {f.ready.s.seed}; from each, the "
            f"{ready.labels[0]} is calculated."
        )
    ]
    if f.region is not None and f.asked.low is not None:
        lines += formulas(f"{{share}} = {whole(f.hits)}/{whole(n)} = {share_text(f.hits, n)}")
        p = f.hits / n
        if 0 < p < 1:
            lines += formulas(
                f"{{give or take}} 1.96 √({share_text(f.hits, n)} × "
                f"(1 − {share_text(f.hits, n)}) / {whole(n)}) = "
                f"{significant(1.96 * math.sqrt(p * (1 - p) / n), 2)}"
            )
        if f.is_claim:
            lines += formulas(f"p = ({whole(f.hits)} + 1)/({whole(n)} + 1) = {p_value(f.p)}")
    steps.append(Step("The simulated distribution", tuple(lines)))
    theory = ready.theory
    if theory is not None and theory.lines:
        steps.append(Step("Theory", theory.lines))
    bell = f.bell
    if (
        bell is not None
        and f.asked.low is not None
        and f.ready.s.ask in TAILS
        and not (isinstance(ready, NullSampler) and ready.drawn.upper)
    ):
        places = f.fine
        z = (f.asked.low - bell.mu) / bell.sigma
        observed = put_in(f.asked.low, places)
        if abs(bell.mu) > 1e-12 * bell.sigma:
            observed = f"({observed} − {bracketed(put_in(bell.mu, places))})"
        steps.append(
            Step(
                "Standardized",
                (
                    formula(f"z = {observed} / {significant(bell.sigma, 5)} = {statistic(z, 1)}"),
                    "Use the tail of the normal curve only if the simulated distribution has the shape of that curve.",
                ),
            )
        )
    return tuple(steps)


MOST_STATISTICS, MOST_CASES = 1_000_000, 200_000


def drawn_table(s: SimulateStatement, what: str, tables: Tables) -> tuple[Table, str]:
    """The table, and what is to be said of it. Raises CannotAnswer."""
    from theoros.verbs.simulate.sampling.procedure_sampler import sampler_for

    ready = sampler_for(s, tables)
    if what == "statistics":
        return _statistics(ready)
    if what == "sample":
        at = min(s.opened or s.replicates, s.replicates)
        return _cases(ready, range(at, at + 1), f"{ready.each} {at} by chance"), ""
    return _samples(ready)


def _told(ready: Sampler) -> str:
    s = ready.s
    return f"simulated from seed {s.seed}: {s.model.title()}"


def _statistics(ready: Sampler) -> tuple[Table, str]:
    s = ready.s
    ready.replicates.drawn(s.replicates)
    rows = ready.replicates.first(s.replicates)
    columns = [Column(ready.each, Kind.NUMBER)]
    series = [pl.Series(ready.each, np.arange(1.0, s.replicates + 1))]
    for at, label in enumerate(ready.labels):
        name = free_name(label, [c.name for c in columns])
        unit = ready.unit if at == 0 else ""
        columns.append(Column(name, Kind.NUMBER, unit=unit))
        held = pl.Series(name, np.ascontiguousarray(rows[:, at])).fill_nan(None)
        series.append(held)
    name = f"{ready.each}s by chance"
    made = Table(name, tuple(columns), pl.DataFrame(series), noun=ready.each, provenance=(_told(ready),))
    return made, ""


def _samples(ready: Sampler) -> tuple[Table, str]:
    s = ready.s
    per = max(1, ready.values_in_one)
    many = max(1, min(s.replicates, MOST_CASES // per))
    note = ""
    if many < s.replicates:
        note = (
            f"It holds the first {counted(many, ready.each)} of {whole(s.replicates)}, as a table of "
            f"all cases would have more than {whole(MOST_CASES)} rows."
        )
    return _cases(ready, range(1, many + 1), f"cases of {ready.each}s by chance"), note


def _cases(ready: Sampler, numbers: range, name: str) -> Table:
    """A row for each case of these samples."""
    found = ready.columns(numbers)
    names: list[str] = []
    columns, series = [], []
    for column, held in found:
        called = free_name(column.name, names)
        names.append(called)
        columns.append(Column(called, column.kind, unit=column.unit))
        series.append(held.alias(called))
    return Table(name, tuple(columns), pl.DataFrame(series), provenance=(_told(ready),))

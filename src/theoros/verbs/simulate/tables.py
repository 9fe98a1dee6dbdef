"""The simulation beside what is exact and what the normal curve gives; and the working."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, Step, cell
from theoros.answer.wording import bracketed, counted, number, p_value, significant, statistic, whole
from theoros.lazy_imports import np, pl
from theoros.numeric.distributions.normal import Normal
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, free_name
from theoros.verbs.core.slots import Tables
from theoros.verbs.simulate.report import margin_text, share_text
from theoros.verbs.simulate.sampling.procedure_sampler import Claimed
from theoros.verbs.simulate.sampling.replicate_summary import Found
from theoros.verbs.simulate.sampling.sampler import Ready
from theoros.verbs.simulate.statement import SimulateStatement
from theoros.verbs.simulate.statistics.statistic import TAILS


def methods_table(f: Found) -> ResultTable:
    """The simulation beside what is known exactly and what the normal curve gives."""
    s, ready, n = f.ready.s, f.ready, f.n
    asks, ends = f.region is not None, s.ask == "middle"
    places = f.fine
    headings = [Heading("method", "Way", numeric=False), Heading("mean", "mean"), Heading("se", "standard error")]
    if asks:
        short = f.asked.short().replace(" ", "\u00a0")
        headings.append(Heading("chance", f"chance of {short}"))
    if ends:
        headings += [Heading("low", "from"), Heading("high", "to")]
    headings.append(Heading("sure", "how sure", numeric=False))

    def row(
        method: str,
        mean: float,
        error: float,
        chance: float | None,
        said: str,
        ends_: tuple[float, float] | None,
        sure: str,
        tone: str = "",
        chosen: bool = False,
    ) -> FigureRow:
        cells = [Cell(method, method), cell(mean, number(mean, places)), cell(error, number(error, places))]
        if asks:
            cells.append(Cell("–") if chance is None else cell(chance, said))
        if ends:
            cells += [Cell("–")] * 2 if ends_ is None else [cell(end, number(end, ready.places)) for end in ends_]
        cells.append(Cell(sure, sure, tone=tone))  # type: ignore[arg-type]
        return FigureRow(tuple(cells), chosen=chosen)

    mean = f.mean
    middle = f.middle if ends else None
    sure = margin_text(f.hits, n) if asks else ""
    if ends and middle is None:
        sure = f"{counted(n, ready.each)} are too few for such ends"
    rows = [
        row(
            f"Simulated, {counted(n, ready.each)}",
            mean,
            f.error,
            f.hits / n,
            share_text(f.hits, n),
            middle,
            sure,
            chosen=True,
        )
    ]
    if asks and f.by_data:
        p = f.p
        rows.append(
            row(
                "The same, what was seen counted, too",
                mean,
                f.error,
                p,
                p_value(p),
                None,
                f"({whole(f.hits)} + 1) / ({whole(n)} + 1)",
                chosen=False,
            )
        )
    theory = ready.theory
    if theory is not None and theory.law is not None:
        region = f.region_of(theory.law)
        chance = theory.law.probability(region) if region is not None else None
        both = None
        if ends:
            out = (1 - s.middle) / 2
            both = (float(theory.law.quantile(out)), theory.law.upper_quantile(out))
        rows.append(
            row(
                theory.law_name,
                theory.mean,
                theory.error,
                chance,
                p_value(chance) if chance is not None else "",
                both,
                "exact",
                "good",
            )
        )
    elif theory is not None:
        rows.append(row("Theory", theory.mean, theory.error, None, "", None, "mean and standard error by formula"))
    curve = _curve_row(f, row)
    return ResultTable("ways", tuple(headings), (*rows, *([curve] if curve else [])))


def _curve_row(f: Found, row: Callable[..., FigureRow]) -> FigureRow | None:
    """By the normal curve, with the standard error that theory or the pile gives."""
    s, ready = f.ready.s, f.ready
    bell, theory = f.bell, ready.theory
    if bell is None or (theory is not None and isinstance(theory.law, Normal)):
        return None
    region = f.asked.region(bell) if f.region is not None else None
    chance = bell.probability(region) if region is not None else None
    both = None
    if s.ask == "middle":
        out = (1 - s.middle) / 2
        both = (float(bell.quantile(out)), bell.upper_quantile(out))
    said, tone = "with the standard error of the pile", ""
    if theory is not None and theory.fits is not None:
        said, tone = theory.fits[1], "" if theory.fits[0] else "bad"
    elif theory is not None:
        said = "with the standard error of theory"
    if f.asked.low is not None and s.ask in TAILS:
        said = f"z = {statistic((f.asked.low - bell.mu) / bell.sigma)}; {said}"
    return row(
        "Normal curve", bell.mu, bell.sigma, chance, p_value(chance) if chance is not None else "", both, said, tone
    )


def numbers_of(f: Found) -> dict[str, Any]:
    made: dict[str, Any] = {"replicates": f.n, "mean": f.mean, "se": f.error, "left_out": f.lost}
    if f.region is not None:
        made |= {"count": f.hits, "share": f.hits / f.n, "p": f.p}
    theory = f.ready.theory
    if theory is not None:
        made |= {"theory_mean": theory.mean, "theory_se": theory.error}
    return made


def working_of(f: Found) -> tuple[Step, ...]:
    ready, n = f.ready, f.n
    steps = []
    if isinstance(ready, Claimed):
        steps.append(Step("What was seen", ready.drawn.lines))
    lines: list[str | Formula] = [
        f"{counted(f.count, ready.each)} drawn from seed {f.ready.s.seed}; in each, {ready.labels[0]} is worked out."
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
        if f.by_data:
            lines += formulas(f"p = ({whole(f.hits)} + 1)/({whole(n)} + 1) = {p_value(f.p)}")
    steps.append(Step("The pile", tuple(lines)))
    theory = ready.theory
    if theory is not None and theory.lines:
        steps.append(Step("Theory", theory.lines))
    bell = f.bell
    if (
        bell is not None
        and f.asked.low is not None
        and f.ready.s.ask in TAILS
        and not (isinstance(ready, Claimed) and ready.drawn.upper)
    ):
        places = f.fine
        z = (f.asked.low - bell.mu) / bell.sigma
        seen = number(f.asked.low, places)
        if abs(bell.mu) > 1e-12 * bell.sigma:
            seen = f"({seen} − {bracketed(number(bell.mu, places))})"
        steps.append(
            Step(
                "Standardized",
                (
                    formula(f"z = {seen} / {number(bell.sigma, places)} = {statistic(z, 1)}"),
                    "The tail of the normal curve at z is good where the pile has the shape of the "
                    "curve drawn over it.",
                ),
            )
        )
    return tuple(steps)


MOST_STATISTICS, MOST_CASES = 1_000_000, 200_000


def drawn_table(s: SimulateStatement, what: str, tables: Tables) -> tuple[Table, str]:
    """The table, and what is to be said of it. Raises CannotAnswer."""
    from theoros.verbs.simulate.sampling.procedure_sampler import ready_for

    ready = ready_for(s, tables)
    if what == "statistics":
        return _statistics(ready)
    if what == "sample":
        at = min(s.opened or s.replicates, s.replicates)
        return _cases(ready, range(at, at + 1), f"{ready.each} {at} by chance"), ""
    return _samples(ready)


def _told(ready: Ready) -> str:
    s = ready.s
    return f"simulated from seed {s.seed}: {s.model.title()}"


def _statistics(ready: Ready) -> tuple[Table, str]:
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


def _samples(ready: Ready) -> tuple[Table, str]:
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


def _cases(ready: Ready, numbers: range, name: str) -> Table:
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

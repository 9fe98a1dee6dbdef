"""Reading a series from a table: one value for each step of time, and what had to be done for that."""

from __future__ import annotations

from dataclasses import dataclass, replace

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted, plural
from theoros.answer.wording import listed, listed_briefly, sentence_case, shortened, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.table.times import COARSER, CYCLES, NOWHERE, Step, Times, by_rows, find_times, times_of
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.columns import squarable
from theoros.verbs.data.groups import said_unused
from theoros.verbs.forecast.series.series import Series

LEAST = 6
"""Fewer values than these are no series."""
OF_SEASONS = 8
"""Besides a cycle, so many values are needed for a trend and seasons by smoothing."""
MOST_STEPS = 1_000_000
WHOLE = 0.9
"""A step at either end with fewer rows than this share of the usual count is no whole one."""
HALF = 0.5
"""Where more than this share of the times between the first and the last is missing, the steps are
taken to be irregular."""
NAMED = 4


@dataclass(frozen=True)
class SeriesChoice:
    """Which series is read, and how: all that changes it, so that one that was read can be kept."""

    table: str
    what: str | None
    when: str | None
    step: str
    joined: str
    gaps: str
    cycle: int | None


_KEPT: list[tuple[Table, SeriesChoice, Series | CannotAnswer]] = []
MOST_KEPT = 4


def series_of(s: SeriesChoice, tables: Tables) -> Series:
    """The series of a statement, kept for the next time it is asked for. Raises CannotAnswer."""
    table = tables.get(s.table)
    if table is None or s.what not in table.by_name:
        raise CannotAnswer("There is no such column.", "what")
    found: Series | CannotAnswer | None = next(
        (one for held, known, one in _KEPT if held is table and known == s), None
    )
    if found is None:
        try:
            found = _read(s, table)
        except CannotAnswer as why:
            found = why
        _KEPT.insert(0, (table, s, found))
        del _KEPT[MOST_KEPT:]
    if isinstance(found, CannotAnswer):
        raise found
    return found


_STEPS: list[tuple[Table, tuple[object, ...], Step]] = []


def step_found(s: SeriesChoice, tables: Tables) -> Step:
    """The step by which the rows of a table were, before any are joined; "row" for none."""
    table = tables.get(s.table)
    if table is None:
        return "row"
    for held, when, step in _STEPS:
        if held is table and when == (s.when,):
            return step
    try:
        made = _times(replace(s, step="found"), table)[0].step
    except CannotAnswer:
        made = "row"
    _STEPS.insert(0, (table, (s.when,), made))
    del _STEPS[MOST_KEPT:]
    return made


def _read(s: SeriesChoice, table: Table) -> Series:
    what = str(s.what)
    column = table.column(what)
    if column.kind is not Kind.NUMBER:
        raise CannotAnswer(f"{what} is not a number column. Choose a number column.", "what")
    values = np.asarray(table.numbers(what), dtype=np.float64)
    times, when = _times(s, table)
    notes: list[str] = []
    cases = np.unique(table.cases)
    places = times.places[cases]
    known = (places != NOWHERE) & np.isfinite(values[cases])
    left_out = list(said_unused(table))
    timeless = int((places == NOWHERE).sum())
    if timeless:
        one = counted(timeless, table.noun)
        left_out.append(f"{one} left out: {listed(list(when)) or 'the time'} is missing")
    rows, places = cases[known], places[known]
    if rows.size < LEAST:
        raise CannotAnswer(
            f"A series needs at least {LEAST} values in time order, and {what} has "
            f"{counted(int(rows.size), 'value')} in use. Choose another column, or add rows.",
            "what",
        )
    order = np.argsort(places, kind="stable")
    if not (order == np.arange(order.size)).all():
        notes.append(f"The rows were sorted by {listed(list(when))}.")
    rows, places = rows[order], places[order]
    if places[-1] - places[0] >= MOST_STEPS:
        raise _irregular(s, times, when, int(places[-1] - places[0]), int(rows.size))
    held = values[rows]
    found, at, counts = np.unique(places, return_index=True, return_counts=True)
    if (counts > 1).any():
        held, kept, said = _joined(s, table, times, held, at, counts, found)
        rows, found = rows[at][kept], found[kept]
        notes += said
    first, n = int(found[0]), int(found[-1] - found[0] + 1)
    missing = n - found.size
    if missing > HALF * n:
        raise _irregular(s, times, when, n, int(found.size))
    raw = np.full(n, np.nan)
    raw[found - first] = held
    places_of = np.full(n, -1)
    places_of[found - first] = rows
    squarable(held, what, "what")
    cycle, wanted = _cycle(s, times, table, n)
    return Series(
        table,
        column,
        times,
        when,
        first,
        raw,
        places_of,
        tuple(notes),
        tuple(left_out),
        cycle,
        wanted,
        s.gaps == "filled",
    )


def _cycle(s: SeriesChoice, times: Times, table: Table, n: int) -> tuple[int, int]:
    """The cycle of n values in time, and the usual one where there are too few for it. Raises CannotAnswer."""
    usual = CYCLES[times.step]
    cycle = usual if s.cycle is None else int(s.cycle)
    if n < 2 * cycle and s.cycle is not None and s.cycle > 1:
        step = table.noun if times.step == "row" else times.step
        raise CannotAnswer(
            f"A cycle of {counted(cycle, step)} needs at least two of them, {2 * cycle} "
            f"{plural(step)}, and there {'is' if n == 1 else 'are'} {n}. Choose a shorter "
            f"cycle, or none.",
            "cycle",
            (("No seasons", "cycle", 1),),
        )
    if n < 2 * cycle or (s.cycle is None and cycle > 1 and n < cycle + OF_SEASONS):
        return 1, usual
    return cycle, 0


def _times(s: SeriesChoice, table: Table) -> tuple[Times, tuple[str, ...]]:
    """The times of all rows, and the columns they are from."""
    if s.step == "row":
        return by_rows(table), ()
    if s.when is None:
        name, also, found = find_times(table)
        when = tuple(one for one in (name, also) if one)
    elif s.when not in table.by_name:
        raise CannotAnswer(
            f"There is no column “{shortened(s.when)}” in {table.name}. Choose another column for the times.",
            "when",
            (("Find the times", "when", None),),
        )
    else:
        name = s.when
        guess = find_times(table)
        if name in guess[:2]:  # a year with a month beside it
            when, found = tuple(one for one in guess[:2] if one), guess[2]
        else:
            alone = times_of(table, name)
            if alone is None:
                raise CannotAnswer(
                    f"Not every value of {shortened(name)} can be read as a time. Times are dates, "
                    f"years, or texts such as 2017M06, 2017-Q3 or Jan 2020, all of one kind.",
                    "when",
                    (("By the order of the rows", "step", "row"),),
                )
            when, found = (name,), alone
    if s.step != "found" and s.step != found.step:
        if s.step not in COARSER.get(found.step, ()):
            raise CannotAnswer(
                f"The times of {listed(list(when)) or 'the rows'} have the step {found.step}, which cannot be "
                f"changed to {s.step}. Choose another step.",
                "step",
                ((f"By {found.step}", "step", "found"),),
            )
        found = found.coarser(s.step)
    return found, when


def _joined(
    s: SeriesChoice, table: Table, times: Times, held: Floats, at: Ints, counts: Ints, found: Ints
) -> tuple[Floats, slice, list[str]]:
    """One value for each time, by the mean or the sum of its rows, and what is said of it.

    The sum of a first or last step that has fewer rows than usual would be too small: it is left
    out. The slice says which steps are kept.
    """
    doubled = found[counts > 1]
    if not s.joined:
        named = listed_briefly([times.named(int(one)) for one in doubled[:NAMED]], NAMED, int(doubled.size))
        if s.step == "found":
            has = "has" if doubled.size == 1 else "have"
            said = f"{named} {has} more than one row."
        else:
            said = f"Some {plural(times.step)} have more than one row."
        raise CannotAnswer(
            f"{said} A series has one value for each {times.step}. Choose their mean or their sum, or keep only "
            "the rows of one series.",
            "joined",
            (("Take their mean", "joined", "mean"), ("Take their sum", "joined", "sum")),
        )
    sums = np.add.reduceat(held, at)
    made = sums if s.joined == "sum" else sums / counts
    how, notes = "sum" if s.joined == "sum" else "mean", []
    if doubled.size > HALF * found.size:
        notes.append(f"The value of each {times.step} is the {how} of its rows.")
    else:
        many, have = counted(int(doubled.size), times.step), "has" if doubled.size == 1 else "have"
        its = "its" if doubled.size == 1 else "their"
        notes.append(f"{many} {have} more than one row; {its} {how} is used.")
    kept, usual = slice(0, found.size), float(np.median(counts))
    if s.joined == "sum" and found.size > LEAST:
        for end in (0, -1):
            if counts[end] < WHOLE * usual:
                kept = slice(kept.start + (end == 0), kept.stop - (end == -1))
                edge, many = times.named(int(found[end])), counted(int(counts[end]), table.noun)
                notes.append(
                    f"{sentence_case(edge)} is left out: it has {many}, where others have {whole(round(usual))}."
                )
    return made[kept], kept, notes


def _irregular(s: SeriesChoice, times: Times, when: tuple[str, ...], n: int, there: int) -> CannotAnswer:
    longer = []
    for one in COARSER.get(times.step, ()):
        found = np.unique(times.coarser(one).places[times.there])
        if found.size >= max(LEAST, HALF * (found[-1] - found[0] + 1)):
            longer.append((f"By {one}, the mean of each", "step", one))
    said = listed(list(when)) or "the times"
    return CannotAnswer(
        f"The steps of {said} are irregular: only {there} of {n} {plural(times.step)} from the first to the last "
        "have a value. Choose a longer step, or use the order of the rows.",
        "step",
        (*longer, ("By the order of the rows", "step", "row")),
    )

"""Values at even steps of time, as they are used."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.table import Column, Table
from theoros.table.times import Times


@dataclass(frozen=True, eq=False)
class Series:
    """Values at even steps of time, as they are used."""

    table: Table
    column: Column
    times: Times
    """Of the rows in use."""
    when: tuple[str, ...]
    """The columns that say when; empty where it is the order of the rows."""
    first: int
    """The time of the first value."""
    raw: Floats
    """A value for each step; NaN where there is none."""
    rows: Ints
    """The row of each step, one of them where several are joined; -1 where there is none."""
    notes: tuple[str, ...]
    """What was done to the rows, in sentences."""
    left_out: tuple[str, ...]
    cycle: int
    """How many steps a cycle of seasons has; 1 for none."""
    wanted: int
    """The cycle that its steps usually have, where it is too short for that."""
    filled: bool
    """Whether gaps are filled."""

    @property
    def n(self) -> int:
        return int(self.raw.size)

    @cached_property
    def largest(self) -> float:
        """The size of the value farthest from 0."""
        return float(np.nanmax(np.abs(self.raw))) if self.n else 0.0

    @property
    def step(self) -> str:
        """What a step is, as a noun: "month"; of the order of rows, what a row is."""
        return self.table.noun if self.times.step == "row" else self.times.step

    @cached_property
    def gaps(self) -> Ints:
        """Steps without a value, counted from the first."""
        return np.flatnonzero(~np.isfinite(self.raw))

    @cached_property
    def values(self) -> Floats:
        """The values that are worked with: gaps filled, or left as NaN."""
        return filled(self.raw, self.cycle) if self.filled and self.gaps.size else self.raw

    @cached_property
    def decimals(self) -> int:
        return self.table.decimals(self.column.name)

    @cached_property
    def counts(self) -> bool:
        """Whether all values are whole numbers of 0 or more."""
        there = self.raw[np.isfinite(self.raw)]
        return bool((there >= 0).all() and (there == np.round(there)).all())

    @cached_property
    def positive(self) -> bool:
        there = self.raw[np.isfinite(self.raw)]
        return bool((there > 0).all())

    @cached_property
    def below_zero(self) -> bool:
        """Whether there is a value below 0."""
        return bool((self.raw[np.isfinite(self.raw)] < 0).any())

    def along(self, steps: Ints | Floats) -> Floats:
        """Where steps (counted from the first) stand on the axis of time."""
        return self.times.along(np.asarray(steps, dtype=np.int64) + self.first)

    def step_at(self, along: float) -> int:
        """The step (counted from the first) whose beginning is nearest to a place on the axis."""
        if not self.times.on_calendar:
            return round(along) - self.first - (1 if self.times.step == "row" else 0)
        about = {"day": 1.0, "week": 7.0, "month": 30.436875, "quarter": 91.310625}
        size = about[self.times.step]
        guess = round((along - float(self.along(np.array([0]))[0])) / size)
        near = np.arange(guess - 2, guess + 3)
        return int(near[np.argmin(np.abs(self.along(near) - along))])

    def named(self, step: int) -> str:
        """A step in a sentence: "June 2026", "row 7"."""
        if self.times.step == "row":
            return f"{self.table.noun} {self.first + step + 1}"
        return self.times.named(self.first + step)

    def short(self, step: int) -> str:
        """The same in a table."""
        return self.times.short(self.first + step)

    def when_in(self, step: int) -> str:
        """The same with the word before it: "in June 2026", "on 4 May 2026", "at row 7"."""
        word = {"day": "on", "row": "at"}.get(self.times.step, "in")
        return f"{word} {self.named(step)}"

    def season(self, step: int) -> str:
        """The season of a step by its name: "June"; without a name, "month 3 of 5"."""
        if self.times.step == "row":
            return f"{self.step} {step % self.cycle + 1} of {self.cycle}"
        return self.times.season(self.first + step, self.cycle)

    def season_short(self, step: int) -> str:
        if self.times.step == "row":
            return str(step % self.cycle + 1)
        return self.times.season_short(self.first + step, self.cycle)

    @property
    def years(self) -> float:
        """How many steps a year has; 0 where they are of no calendar."""
        known = {"day": 365.2425, "week": 52.1775, "month": 12.0, "quarter": 4.0, "year": 1.0}
        return known.get(self.times.step, 0.0)


def filled(raw: Floats, cycle: int) -> Floats:
    """Gaps filled: on the straight line between the neighbours, their seasons taken off and put
    back where there are two cycles to tell them from."""
    there = np.isfinite(raw)
    seasons = np.zeros(raw.size)
    if cycle > 1 and raw.size >= 2 * cycle:
        at = np.arange(raw.size)
        rough = raw - np.interp(at, at[there], _level(raw, cycle)[there])
        sums = np.bincount(at[there] % cycle, rough[there], cycle)
        own = np.bincount(at[there] % cycle, minlength=cycle)
        effects = np.where(own > 0, sums / np.maximum(own, 1), 0.0)
        seasons = np.resize(effects - effects.mean(), raw.size)
    at = np.arange(raw.size)
    level = np.interp(at, at[there], (raw - seasons)[there])
    return np.where(there, raw, level + seasons)


def _level(raw: Floats, cycle: int) -> Floats:
    """The mean of what is there within a cycle around each value."""
    there = np.isfinite(raw)
    window = np.ones(cycle + 1 - cycle % 2)
    sums = np.convolve(np.where(there, raw, 0.0), window, "same")
    return np.asarray(sums / np.maximum(np.convolve(1.0 * there, window, "same"), 1.0))

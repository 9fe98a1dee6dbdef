"""The statement of a forecast: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted, plural
from theoros.answer.wording import listed, sentence_case
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.table.times import COARSER
from theoros.verbs.core.fields import (
    LARGEST_SEED,
    bare_field,
    choice_field,
    choices_field,
    column_field,
    number_column,
    number_field,
    seed_field,
    text_field,
)
from theoros.verbs.core.json_values import Json, check_named
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    percent_inside,
)
from theoros.verbs.core.statement import Statement
from theoros.verbs.forecast.methods.method import BEST, SEASONAL, Parts, forecast_methods
from theoros.verbs.forecast.series.reading_series import OF_SEASONS, SeriesChoice, series_of, step_found
from theoros.verbs.forecast.series.series import Series

Seasons = Literal["suggested", "added", "multiplied"]
WITHOUT_SEASONS: dict[str, Parts] = {
    "level with seasons": "level",
    "trend with seasons": "trend",
    "damped trend with seasons": "damped trend",
}
SHOWN = (
    Option("trend", "the trend"),
    Option("season", "the trend with its season"),
    Option("effects", "the seasonal effects"),
    Option("remainder", "the remainder"),
    Option("cycles", "the cycles on top of each other"),
)
CONFIDENCE = percent_inside("The level of the prediction interval.")
TIMED = (Kind.DATE, Kind.NUMBER, Kind.TEXT, Kind.CATEGORY, Kind.ORDERED)
MOST_HELD_OUT = 1_000_000
AHEAD = TypeNumber(1, 10_000, whole=True, auto=True, help="How far ahead.")
CYCLE = TypeNumber(1, 1000, whole=True, auto=True, help="How long a cycle of seasons is; 1 for no seasons.")
BACK = TypeNumber(
    0,
    MOST_HELD_OUT,
    whole=True,
    auto=True,
    help=("The last values are forecast as if they were not known; 0 for none."),
)
SEASONS = (
    Option("suggested", "as suggested"),
    Option("added", "added to the trend"),
    Option("multiplied", "multiplied with it"),
)
DECOMPOSED = (Option("means", "moving averages"), Option("local regression", "local regression"))
JOINED = (Option("", "one row each"), Option("mean", "the mean of its rows"), Option("sum", "the sum of its rows"))
GAPS = (Option("filled", "filled by interpolation"), Option("left", "left as gaps"))
BANDS = (Option("formula", "by formula"), Option("simulation", "by simulation"))
BELOW_ZERO = (Option("", "not said"), Option("no", "no, never"), Option("yes", "yes, at times"))
ORDERS = TypeText("Orders p d q, then those of the seasons: 0 1 1, 0 1 1.", longest=40)
REASON = TypeText("What you know about the largest remainders.", longest=400)
AFRESH = ("what", "when", "step")
"""Slots after which other times are looked at."""


@dataclass(frozen=True)
class ForecastStatement(Statement):
    """Take a series apart and say what comes next."""

    verb: ClassVar[str] = "forecast"
    answered_by: ClassVar[str] = "theoros.verbs.forecast.answering"
    before: ClassVar[Mapping[str, str]] = {
        "way": "method",
        "held": "holdout",
        "taken": "decomposition",
        "level": "confidence",
    }
    what: str | None = number_column("the series", "The number that is forecast.")
    steps: int | None = number_field(
        None,
        "how far",
        AHEAD,
        "How many steps ahead; null for one cycle, or a fifth of the values up to 12 where that is more.",
        reset_by=("when", "step"),
    )
    parts: Parts = bare_field(
        "trend with seasons", "The parts of the series: level, trend or damped trend, each alone or “with seasons”."
    )
    cycle: int | None = number_field(
        None,
        "the cycle",
        CYCLE,
        "How many steps a cycle of seasons has; 1 for no seasons, null for the usual number.",
        reset_by=("when", "step"),
    )
    method: str = bare_field("smoothing", lambda: f"{', '.join(forecast_methods())}, or {BEST} (the lowest AICc).")
    holdout: int | None = number_field(
        None,
        "held back",
        BACK,
        "How many of the last steps are held back for a check; null for one cycle where enough is left.",
        reset_by=("when", "step"),
    )
    seasons: Seasons = choice_field(
        "suggested",
        "seasons are",
        SEASONS,
        "Whether seasons are added, multiplied, or as the data suggest (suggested).",
    )
    decomposition: Literal["means", "local regression"] = choice_field(
        "means", "parts by", DECOMPOSED, "How trend and seasons are found: means or local regression."
    )
    when: str | None = column_field(
        "times", TIMED, "The column that says when each row was; null to find it.", none="found", other_than=("what",)
    )
    step: Literal["found", "day", "week", "month", "quarter", "year", "row"] = choice_field(
        "found",
        "step",
        (),
        "A longer step into which rows are joined (week, month, quarter, year), row for the order of the rows, or "
        "found.",
    )
    joined: Literal["", "mean", "sum"] = choice_field(
        "", "a step is", JOINED, "How several rows in one step are joined: by their mean or their sum."
    )
    gaps: Literal["filled", "left"] = choice_field(
        "filled", "gaps", GAPS, "Steps without a value: filled by interpolation, or left."
    )
    confidence: float = number_field(
        0.95, "band of", CONFIDENCE, "The level of the prediction interval, between 0 and 1."
    )
    bands: Literal["formula", "simulation"] = choice_field(
        "formula", "bands", BANDS, "Prediction intervals by formula, or by simulation from the errors."
    )
    seed: int = seed_field("band", "Of the simulation.", most=LARGEST_SEED)
    below_zero: Literal["", "no", "yes"] = choice_field(
        "", "below 0", BELOW_ZERO, "Whether values below 0 are possible: no, yes, or as set in the column (empty)."
    )
    orders: str = text_field("orders", ORDERS, "Of ARIMA: p d q, then those of the seasons.", default="0 1 1, 0 1 1")
    read: float | None = number_field(
        None,
        "read at",
        TypeNumber(auto=True, help="A time at which the series, its trend and the forecast are read."),
        "A time that is read, as its days since 1970-01-01, a year, or a row; null for none.",
        empty="not read",
        reset_by=AFRESH,
    )
    low: float | None = number_field(
        None,
        "shown from",
        TypeNumber(auto=True, help="Where the axis of time begins."),
        "Where the axis of time begins, in the same unit.",
        empty="automatic",
        reset_by=AFRESH,
    )
    high: float | None = number_field(
        None, "to", TypeNumber(auto=True, help="Where it ends."), "Where it ends.", empty="automatic", reset_by=AFRESH
    )
    shown: tuple[str, ...] = choices_field(
        ("trend", "effects", "remainder"),
        "shown",
        SHOWN,
        "What is drawn besides: trend, season, effects, remainder, cycles.",
        what="parts",
    )
    reason: str = text_field(
        "your reason", REASON, "The student’s reason for the largest remainders.", empty="none given"
    )

    @property
    def series_choice(self) -> SeriesChoice:
        """Which series it is about, and how it is read."""
        return SeriesChoice(self.table, self.what, self.when, self.step, self.joined, self.gaps, self.cycle)

    def series(self, tables: Tables) -> Series | None:
        """Its series; None where there is none."""
        try:
            return series_of(self.series_choice, tables)
        except CannotAnswer:
            return None

    @property
    def able(self) -> tuple[Parts, ...]:
        """The parts that its method can be chosen to have."""
        return () if self.method == BEST else forecast_methods()[self.method].parts

    def effective(self, series: Series | None) -> Parts:
        """The parts, without seasons where the series has none."""
        if series is not None and series.cycle == 1 and self.parts.endswith(SEASONAL):
            return WITHOUT_SEASONS[self.parts]
        return self.parts

    def steps_of(self, series: Series) -> int:
        """How many steps are forecast: a cycle, where that is not said."""
        return self.steps if self.steps is not None else max(series.cycle, min(12, series.n // 5))

    def holdout_of(self, series: Series) -> int:
        """How many steps are held back: a cycle, where that is not said and enough is left."""
        if self.holdout is not None:
            return self.holdout
        if series.cycle > 1:
            left = series.n - series.cycle
            return series.cycle if left >= max(2 * series.cycle, series.cycle + OF_SEASONS) else 0
        return min(12, series.n // 5) if series.n >= 15 else 0

    @classmethod
    def upgraded(cls, data: Json) -> Json:
        """Fields and choices had names of our own before they had those of the field."""
        made = {**super().upgraded(data)}
        if made.get("method") == "again":
            made["method"] = "naive"
        if isinstance(made.get("shown"), list):
            made["shown"] = ["remainder" if one == "left over" else one for one in made["shown"]]
        return made

    def phrase(self, tables: Tables) -> Phrase:
        series, here = self.series(tables), self.here(tables)
        noun = series.step if series else here.own.noun if here.own else "step"
        steps = self.steps if series is None else self.steps_of(series)
        ahead = self.field_slot(
            "steps",
            here,
            holds=replace(AHEAD, unit=plural(noun)),
            shown=counted(steps, noun) if steps is not None else "cycle",
        )
        made: Phrase = ("Forecast ", self.field_slot("what", here), " for the next ", ahead)
        parts = self.effective(series)
        cycled = series is None or series.cycle > 1
        if self.able:
            made += (" from ", self._parts_slot(parts))
            if parts.endswith(SEASONAL):
                made += (" of ", self._cycle_slot(series, here, noun))
        elif cycled and (self.method == BEST or forecast_methods()[self.method].own_seasons):
            made += (", with seasons of ", self._cycle_slot(series, here, noun))
        made += (", by ", choice_slot("method", "method", self.method, _method_options()))
        if self.method != BEST and "orders" in forecast_methods()[self.method].uses:
            made += (" of orders ", self.field_slot("orders", here))
        held = self.holdout if series is None else self.holdout_of(series)
        most = max(0, (series.n if series else MOST_HELD_OUT) - 3)
        last = f"the last {counted(held, noun)}" if held and held > 1 else f"the last {noun}"
        slot = self.field_slot(
            "holdout", here, holds=replace(BACK, high=most, unit=plural(noun)), shown=last if held else "nothing"
        )
        return (*made, ", checked on ", slot, ", held back.") if held else (*made, ", with ", slot, " held back.")

    def _parts_slot(self, parts: Parts) -> Slot:
        able, method = self.able, forecast_methods()[self.method]
        options = [Option(one, method.parts_label(one)) for one in able]
        return choice_slot("parts", "the parts", parts if parts in able else able[-1], options)

    def _cycle_slot(self, series: Series | None, here: Place, noun: str) -> Slot:
        cycle = series.cycle if series else self.cycle
        shown = counted(cycle, noun) if cycle else "the usual length"
        return self.field_slot("cycle", here, holds=replace(CYCLE, unit=plural(noun)), shown=shown)

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        series, here = self.series(tables), self.here(tables)
        found = "found"
        if series:
            found = f"found: {listed(list(series.when)) if series.when else 'the order of the rows'}"
        now = step_found(self.series_choice, tables)
        steps = (
            Option("found", "as found" if now == "row" else f"by {now}"),
            *(Option(one, f"by {one}") for one in COARSER.get(now, ())),
            Option("row", "by the order of the rows"),
        )
        made = [self.field_slot("when", here, none=found), self.field_slot("step", here, options=steps)]
        if self.joined or self.step not in ("found", "row") or series is None:
            made.append(self.field_slot("joined", here))
        if series is None or series.gaps.size:
            made.append(self.field_slot("gaps", here))
        if series is None or series.cycle > 1:
            made.append(self.field_slot("seasons", here))
        elif series.wanted == 0:  # a cycle that is not in the sentence can be given here
            made.append(self._cycle_slot(series, here, series.step))
        drawn = f"{len(self.shown)} of {len(SHOWN)} parts" if self.shown else "no parts"
        made += [self.field_slot("decomposition", here), self.field_slot("shown", here, shown=drawn)]
        made += [self.field_slot("confidence", here), self.field_slot("bands", here)]
        if self.bands == "simulation":
            made.append(self.field_slot("seed", here))
        said = self.below_zero or (series.column.below_zero if series else "")
        below = self.field_slot("below_zero", here, label=f"{self.what or 'the series'} below 0")
        label = next(one.label for one in BELOW_ZERO if one.value == said)
        made.append(replace(below, value=said, shown=label))
        made += [self._time_slot(name, series, here) for name in ("read", "low", "high")]
        made.append(self.field_slot("reason", here))
        return tuple(made)

    def _time_slot(self, name: str, series: Series | None, here: Place) -> Slot:
        """Where it is read, or an end of the axis."""
        slot = self.field_slot(name, here)
        assert isinstance(slot.holds, TypeNumber)
        holds, value = replace(slot.holds, days=series is not None and series.times.on_calendar), slot.value
        shown = slot.shown if value is None else holds.typed(value)
        if value is not None and series is not None and name == "read":
            shown = series.short(series.step_at(value))
        return replace(slot, holds=holds, shown=shown)

    def put(self, name: str, value: object, slot: Slot | None, tables: Tables) -> Mended:
        if name == "candidate":  # a method that is chosen as a whole, in the table of methods
            method, _, rest = str(value).partition(": ")
            parts, _, seasons = rest.partition(", ")
            made = self.with_slot("method", method, tables).statement
            if parts:
                made = replace(made, parts=parts)
            if seasons:
                made = replace(made, seasons=seasons)
            return Mended(made)
        if name == "axis":  # all of it again
            return Mended(replace(self, low=None, high=None))
        if name == "holdout" and isinstance(value, float):
            value = round(value)
        return super().put(name, value, slot, tables)

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        if table is None:
            return Mended(self)
        made, notes = self.put_back(slot), list[str]()
        known = table.by_name
        if made.what not in known or known[str(made.what)].kind is not Kind.NUMBER:
            made = replace(made, what=_first(table.columns, made.when))
        if made.when is not None and (made.when not in known or made.when == made.what):
            made = replace(made, when=None)
        if slot == "what" and made.joined and made.series(tables) is None:
            made = replace(made, joined="")
        if slot == "step" and made.step not in ("found", "row") and not made.joined:
            made = replace(made, joined="mean")
            notes.append("The value of each step is the mean of its rows.")
        if slot == "step" and made.step in ("found", "row"):
            made = replace(made, joined="")
        if slot == "method" and made.able and made.parts not in made.able:
            seasonal = made.parts.endswith(SEASONAL)
            able = [p for p in made.able if p.endswith(SEASONAL) == seasonal]
            made = replace(made, parts=(able or made.able)[0])
        return Mended(made, tuple(notes))

    def check_values(self) -> None:
        super().check_values()
        check_named(self.method, (BEST, *forecast_methods()), "forecast", "method")

    def told_column(self, slot: str, value: object, tables: Tables) -> Column | None:
        table = tables.get(self.table)
        column = table.by_name.get(self.what or "") if table else None
        if slot != "below_zero" or self.below_zero or column is None:
            return None
        return replace(column, below_zero=value) if value in ("", "no", "yes") else None

    def slot_for_drop(self, zone: str, column: Column) -> str:
        return "what" if column.kind is Kind.NUMBER else "when"

    def title(self, tables: Tables) -> str:
        return sentence_case(f"{self.what} to come") if self.what else "Forecast"


def _first(columns: tuple[Column, ...], but: str | None) -> str | None:
    return next((c.name for c in columns if c.kind is Kind.NUMBER and c.name != but), None)


def _method_options() -> list[Option]:
    """The methods, the usual one first, and after it the choice of the one that suits best."""
    usual = ForecastStatement.method
    methods = sorted(forecast_methods().values(), key=lambda one: one.name != usual)
    made = [Option(one.name, one.label, one.help) for one in methods]
    best = Option(BEST, "the best method", "The method and the parts with the lowest AICc.")
    return [made[0], best, *made[1:]]

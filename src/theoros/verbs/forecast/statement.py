"""The statement of a forecast: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import counted, listed, percent_text, plural, sentence_case
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.table.times import COARSER
from theoros.verbs.core.reading import StatementError, check_named
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    PickSeveral,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    column_slot,
    number_slot,
    seed_slot,
    text_slot,
)
from theoros.verbs.core.statement import Statement, column_field
from theoros.verbs.forecast.methods.method import BEST, SEASONAL, Parts, forecast_methods
from theoros.verbs.forecast.series.reading import OF_SEASONS, SeriesChoice, series_of, step_found
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
    Option("remainder", "what is left over"),
    Option("cycles", "the cycles laid over each other"),
)
CONFIDENCE = TypeNumber(
    0, 1, low_open=True, high_open=True, percent=True, help="How much of what comes the band should hold."
)
TIMED = (Kind.DATE, Kind.NUMBER, Kind.TEXT, Kind.CATEGORY, Kind.ORDERED)
MOST_AHEAD, MOST_CYCLE = 10_000, 1000


@dataclass(frozen=True)
class ForecastStatement(Statement):
    """Take a series apart and say what comes next."""

    verb: ClassVar[str] = "forecast"
    answered_by: ClassVar[str] = "theoros.verbs.forecast.answering"
    what: str | None = column_field()
    steps: int | None = None
    parts: Parts = "trend with seasons"
    cycle: int | None = None
    method: str = "smoothing"
    holdout: int | None = None
    seasons: Seasons = "suggested"
    decomposition: Literal["means", "local regression"] = "means"
    when: str | None = column_field()
    step: Literal["found", "day", "week", "month", "quarter", "year", "row"] = "found"
    joined: Literal["", "mean", "sum"] = ""
    gaps: Literal["filled", "left"] = "filled"
    confidence: float = 0.95
    bands: Literal["formula", "simulation"] = "formula"
    seed: int = 1
    below_zero: Literal["", "no", "yes"] = ""
    orders: str = "0 1 1, 0 1 1"
    read: float | None = None
    low: float | None = None
    high: float | None = None
    shown: tuple[str, ...] = ("trend", "effects", "remainder")
    reason: str = ""

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
    def upgraded(cls, data: Mapping[str, Any]) -> Mapping[str, Any]:
        """Fields and choices had names of our own before they had those of the field."""
        made = {_FIELDS_BEFORE.get(name, name): value for name, value in data.items()}
        if made.get("method") == "again":
            made["method"] = "naive"
        if isinstance(made.get("shown"), list):
            made["shown"] = ["remainder" if one == "left over" else one for one in made["shown"]]
        return made

    def phrase(self, tables: Tables) -> Phrase:
        series = self.series(tables)
        table = tables.get(self.table)
        noun = series.step if series else table.noun if table else "step"
        what = column_slot("what", "the series", self.what, tables, self.table, (Kind.NUMBER,), elsewhere=True)
        steps = self.steps if series is None else self.steps_of(series)
        said = counted(steps, noun) if steps is not None else "cycle"
        ahead = TypeNumber(1, MOST_AHEAD, whole=True, auto=True, unit=plural(noun), help="How far ahead.")
        made: Phrase = ("Forecast ", what, " for the next ", number_slot("steps", "how far", self.steps, ahead, said))
        parts = self.effective(series)
        cycled = series is None or series.cycle > 1
        if self.able:
            made += (" from ", self._parts_slot(parts))
            if parts.endswith(SEASONAL):
                made += (" of ", self._cycle_slot(series, noun))
        elif cycled and (self.method == BEST or forecast_methods()[self.method].own_seasons):
            made += (", with seasons of ", self._cycle_slot(series, noun))
        made += (", by ", choice_slot("method", "the way", self.method, _method_options()))
        if self.method != BEST and "orders" in forecast_methods()[self.method].uses:
            holds = TypeText("Orders p d q, then those of the seasons: 0 1 1, 0 1 1.", longest=40)
            made += (" of orders ", text_slot("orders", "orders", self.orders, holds))
        held = self.holdout if series is None else self.holdout_of(series)
        most = max(0, (series.n if series else MOST_HELD_OUT) - 3)
        back = TypeNumber(
            0, most, whole=True, auto=True, unit=plural(noun), help="Forecast as if they had not come yet; 0 for none."
        )
        if held:
            shown = f"the last {counted(held, noun)}" if held > 1 else f"the last {noun}"
            slot = number_slot("holdout", "held back", self.holdout, back, shown)
            return (*made, ", checked on ", slot, ", held back.")
        slot = number_slot("holdout", "held back", self.holdout, back, "nothing")
        return (*made, ", with ", slot, " held back.")

    def _parts_slot(self, parts: Parts) -> Slot:
        able, method = self.able, forecast_methods()[self.method]
        options = [Option(one, method.parts_label(one)) for one in able]
        return choice_slot("parts", "the parts", parts if parts in able else able[-1], options)

    def _cycle_slot(self, series: Series | None, noun: str) -> Slot:
        cycle = series.cycle if series else self.cycle
        holds = TypeNumber(
            1,
            MOST_CYCLE,
            whole=True,
            auto=True,
            unit=plural(noun),
            help="How long a cycle of seasons is; 1 for no seasons.",
        )
        shown = counted(cycle, noun) if cycle else "the usual length"
        return number_slot("cycle", "the cycle", self.cycle, holds, shown)

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        series = self.series(tables)
        found = f"found: {listed(list(series.when))}" if series and series.when else "found"
        if series and not series.when:
            found = "found: the order of the rows"
        made: list[Slot] = [
            column_slot(
                "when",
                "times",
                self.when,
                tables,
                self.table,
                TIMED,
                none=found,
                exclude=[self.what] if self.what else (),
            )
        ]
        now = step_found(self.series_choice, tables)
        steps = [Option("found", "as found" if now == "row" else f"by {now}")]
        steps += [Option(one, f"by {one}") for one in COARSER.get(now, ())]
        steps.append(Option("row", "by the order of the rows"))
        made.append(choice_slot("step", "step", self.step, steps))
        if self.joined or self.step not in ("found", "row") or series is None:
            joined = (
                Option("", "one row each"),
                Option("mean", "the mean of its rows"),
                Option("sum", "the sum of its rows"),
            )
            made.append(choice_slot("joined", "a step is", self.joined, joined))
        if series is None or series.gaps.size:
            gaps = (Option("filled", "filled by interpolation"), Option("left", "left as gaps"))
            made.append(choice_slot("gaps", "gaps", self.gaps, gaps))
        if series is None or series.cycle > 1:
            how = (
                Option("suggested", "as suggested"),
                Option("added", "added to the trend"),
                Option("multiplied", "multiplied with it"),
            )
            made.append(choice_slot("seasons", "seasons are", self.seasons, how))
        elif series.wanted == 0:  # a cycle that is not in the sentence can be given here
            made.append(self._cycle_slot(series, series.step))
        taken = (Option("means", "moving averages"), Option("local regression", "local regression"))
        made.append(choice_slot("decomposition", "parts by", self.decomposition, taken))
        shown = f"{len(self.shown)} of {len(SHOWN)} parts" if self.shown else "no parts"
        made.append(Slot("shown", "shown", shown, self.shown, PickSeveral(SHOWN, 0, "parts")))
        sure = percent_text(self.confidence)
        made.append(number_slot("confidence", "band of", self.confidence, CONFIDENCE, sure))
        bands = (Option("formula", "by formula"), Option("simulation", "by simulation"))
        made.append(choice_slot("bands", "bands", self.bands, bands))
        if self.bands == "simulation":
            made.append(seed_slot(self.seed, "band", most=2**63 - 1))
        name = self.what or "the series"
        known = series.column.below_zero if series else ""
        below = (Option("", "not said"), Option("no", "no, never"), Option("yes", "yes, at times"))
        said = self.below_zero or known
        made.append(choice_slot("below_zero", f"{name} below 0", said, below))
        made += self._places(series)
        why = TypeText("What you know about the largest left-overs.", longest=400)
        made.append(text_slot("reason", "your reason", self.reason, why, empty="none given"))
        return tuple(made)

    def _places(self, series: Series | None) -> list[Slot]:
        """Where it is read, and the ends of the axis."""
        days = series is not None and series.times.on_calendar
        made = []
        for name, label, value, empty, help_text in (
            ("read", "read at", self.read, "not read", "What the series, its trend and the forecast are then."),
            ("low", "shown from", self.low, "automatic", "Where the axis of time begins."),
            ("high", "to", self.high, "automatic", "Where it ends."),
        ):
            holds = TypeNumber(auto=True, days=days, help=help_text)
            shown = empty
            if value is not None:
                shown = holds.typed(value)
                if series is not None and name == "read":
                    shown = series.short(series.step_at(value))
            made.append(number_slot(name, label, value, holds, shown))
        return made

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        if name == "candidate":  # a method that is chosen as a whole, in the table of methods
            method, _, rest = str(value).partition(": ")
            parts, _, seasons = rest.partition(", ")
            made = super().with_slot("method", method, tables).statement
            if parts:
                made = replace(made, parts=parts)
            if seasons:
                made = replace(made, seasons=seasons)
            return Mended(made)
        if name == "axis":  # all of it again
            return Mended(replace(self, low=None, high=None))
        if name == "holdout" and isinstance(value, float):
            value = round(value)
        return super().with_slot(name, value, tables)

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        if table is None:
            return Mended(self)
        made, notes = self, list[str]()
        known = table.by_name
        if made.what not in known or known[str(made.what)].kind is not Kind.NUMBER:
            made = replace(made, what=_first(table.columns, made.when))
        if made.when is not None and (made.when not in known or made.when == made.what):
            made = replace(made, when=None)
        if slot == "what" and made.joined and made.series(tables) is None:
            made = replace(made, joined="")
        if slot in ("what", "when", "step"):
            made = replace(made, read=None, low=None, high=None)
        if slot in ("when", "step"):
            made = replace(made, cycle=None, steps=None, holdout=None)
        if slot == "step" and made.step not in ("found", "row") and not made.joined:
            made = replace(made, joined="mean")
            notes.append("Each step stands for the mean of its rows.")
        if slot == "step" and made.step in ("found", "row"):
            made = replace(made, joined="")
        if slot == "method" and made.able and made.parts not in made.able:
            seasonal = made.parts.endswith(SEASONAL)
            able = [p for p in made.able if p.endswith(SEASONAL) == seasonal]
            made = replace(made, parts=able[0])
        return Mended(made, tuple(notes))

    def check_values(self) -> None:
        super().check_values()
        check_named(self.method, (BEST, *forecast_methods()), "forecast", "method")
        for name, low, high in (("steps", 1, MOST_AHEAD), ("cycle", 1, MOST_CYCLE), ("holdout", 0, MOST_HELD_OUT)):
            value = getattr(self, name)
            if value is not None and not low <= value <= high:
                raise StatementError(f"forecast: {name} is a whole number from {low} to {high}, and {value} is not.")

    def told_column(self, slot: str, value: Any, tables: Tables) -> Column | None:
        table = tables.get(self.table)
        column = table.by_name.get(self.what or "") if table else None
        if slot != "below_zero" or self.below_zero or column is None:
            return None
        return replace(column, below_zero=value) if value in ("", "no", "yes") else None

    def slot_for_drop(self, zone: str, column: Column) -> str:
        return "what" if column.kind is Kind.NUMBER else "when"

    def title(self, tables: Tables) -> str:
        return sentence_case(f"{self.what} to come") if self.what else "Forecast"


MOST_HELD_OUT = 1_000_000


def _first(columns: tuple[Column, ...], but: str | None) -> str | None:
    return next((c.name for c in columns if c.kind is Kind.NUMBER and c.name != but), None)


_FIELDS_BEFORE = {"way": "method", "held": "holdout", "taken": "decomposition", "level": "confidence"}


def _method_options() -> list[Option]:
    """The methods, the usual one first, and after it the choice of the one that suits best."""
    usual = ForecastStatement.method
    methods = sorted(forecast_methods().values(), key=lambda one: one.name != usual)
    made = [Option(one.name, one.label, one.help) for one in methods]
    best = Option(BEST, "the way that suits best", "The way and the parts whose AICc is the lowest.")
    return [made[0], best, *made[1:]]

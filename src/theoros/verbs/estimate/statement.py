"""The statement of an estimate: its fields, its sentence, and what follows from what is given."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar, Literal, Self

from theoros.answer.wording import exact, percent_text, whole, with_unit
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    Slot,
    Tables,
    TypeNumber,
    choice_slot,
    number_slot,
    seed_slot,
)
from theoros.verbs.data.data import Data, data_kinds, kind_slot
from theoros.verbs.data.one_sample import OneColumn
from theoros.verbs.parameters.parameter import parameter_slot
from theoros.verbs.procedures.design_questions import because_slot
from theoros.verbs.procedures.known_spreads import known_spreads
from theoros.verbs.procedures.procedure import Purpose, Settings, compared, kinds_for, procedures
from theoros.verbs.procedures.statement import ByProcedure

if TYPE_CHECKING:
    pass

Given = Literal["low", "high", "margin"]
GIVEN: tuple[Given, ...] = ("low", "high", "margin")
"""What can be given instead of the confidence, which then follows."""
CONFIDENCE = TypeNumber(0, 1, low_open=True, high_open=True, percent=True, help="Often 95 %, also 90 or 99 %.")


@dataclass(frozen=True)
class EstimateStatement(ByProcedure):
    """Estimate a parameter by an interval."""

    verb: ClassVar[str] = "estimate"
    answered_by: ClassVar[str] = "theoros.verbs.estimate.answering"
    purpose: ClassVar[Purpose] = "interval"
    said_of_ways: ClassVar[str] = "is for"
    data: Data = field(default_factory=OneColumn)
    way: str = "one-sample t"
    confidence: float = 0.95
    bound: Literal["both", "lower", "upper"] = "both"
    low: float | None = None
    high: float | None = None
    margin: float | None = None
    below: float | None = None
    """Of resamples: the share that is left out below; half of what is left out, if None."""
    share: float = 0.9
    """Of the population below the quantile that is asked about."""
    population: int | None = None
    """How many cases there are in all, where a total is asked about."""
    value: float | None = None
    """A value that the student names, to be told what the interval says of it."""
    resamples: int = 10_000
    opened: int | None = None
    """The resample that is looked at; the latest, if None."""
    covering: int = 0
    """So many samples are drawn to see how often such intervals cover."""
    wanted_margin: float | None = None
    planned: int | None = None
    """A sample size whose margin is asked for."""

    @classmethod
    def upgraded(cls, data: Mapping[str, Any]) -> Mapping[str, Any]:
        """Ways had names of their own before a test and its interval became one."""
        way, held = data.get("way"), data.get("data")
        if way == "t":
            kind = data_kinds().get(held.get("kind", "")) if isinstance(held, Mapping) else None
            return {**data, "way": "paired t" if kind and kind.family == "pairs" else "one-sample t"}
        renamed = {"chi-square": "chi-square of a variance", "F": "F ratio"}
        return {**data, "way": renamed[way]} if isinstance(way, str) and way in renamed else data

    @property
    def given(self) -> Given | None:
        """What was given instead of the confidence."""
        return next((name for name in GIVEN if getattr(self, name) is not None), None)

    @property
    def known(self) -> Settings:
        """What is set of procedures."""
        return Settings(
            shuffles=self.resamples,
            seed=self.seed,
            sigmas=(self.sigma, self.other_sigma),
            share=self.share,
            population=self.population,
        )

    def phrase(self, tables: Tables) -> Phrase:
        known = compared(None, self.purpose)
        parameter = parameter_slot("parameter", "what is estimated", self.parameter, known)
        sides = self.data.sides(("the ", parameter), self.place(tables))
        joined = " over " if self.about.ratio else " minus "
        second = (joined, *sides.second) if sides.second else ()
        side = {"both": "", "lower": ", from below", "upper": ", from above"}[self.bound]
        return ("Estimate ", *sides.first, *second, side, *self._level(tables), ", by ", self.way_slot(), ".")

    def _level(self, tables: Tables) -> Phrase:
        """What is given: how sure, or an end, or the margin."""
        given = self.given
        if given is None:
            return (", with ", self.confidence_slot(), " confidence")
        words = {"low": "a lower end of ", "high": "an upper end of ", "margin": "a margin of "}
        return (", with ", words[given], self.end_slot(given, tables))

    def confidence_slot(self) -> Slot:
        shown = percent_text(self.confidence)
        if self.given is not None:
            shown = "follows"
        return number_slot("confidence", "confidence", self.confidence, CONFIDENCE, shown)

    def end_slot(self, name: Given, tables: Tables) -> Slot:
        """An end, or the margin: a number that may be given."""
        unit = self.unit(tables)
        label = {"low": "lower end", "high": "upper end", "margin": "margin"}[name]
        help_ = "The confidence follows from it; empty to go by the confidence again."
        margin = name == "margin"
        holds = TypeNumber(
            0 if margin else self.about.low if self.about.ratio else -1e300,
            1e300,
            low_open=margin,
            auto=True,
            unit=unit,
            help=help_,
        )
        value: float | None = getattr(self, name)
        shown = with_unit(exact(value), unit) if value is not None else "follows"
        return number_slot(name, label, value, holds, shown)

    def unit(self, tables: Tables) -> str:
        """Of the parameter."""
        if not self.about.in_units or self.parameter == "variance":
            return ""
        table = tables.get(self.table)
        column = table.by_name.get(getattr(self.data, "what", None) or "") if table else None
        unit = str(getattr(self.data, "unit", "")).strip() or (column.unit if column else "")
        two = self.family in ("two samples", "pairs")
        return "percentage points" if unit == "%" and two else unit

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        return settings_of(self, tables)

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        """As for every statement; of confidence, ends and margin one is given at a time."""
        if name == "confidence" or (name in GIVEN and value is not None):
            bare = replace(self, low=None, high=None, margin=None)
            if name in GIVEN:
                slot = self.end_slot(name, tables)
                problem = slot.holds.problem(value)
                if problem:
                    return super().with_slot(name, value, tables)  # which says so
                return Mended(replace(bare, **{name: value}))
            return super(EstimateStatement, bare).with_slot(name, value, tables)
        return super().with_slot(name, value, tables)

    def with_slots(self, values: Mapping[str, Any]) -> Self:
        """An end that is dragged is what is given from then on."""
        moved = [name for name in values if name in GIVEN]
        bare = replace(self, low=None, high=None, margin=None) if moved else self
        return super(EstimateStatement, bare).with_slots(values)

    def turned_from(self, before: Self) -> Self:
        """What was given of another parameter is no longer."""
        return replace(self, low=None, high=None, margin=None, value=None, wanted_margin=None, planned=None)

    def mend(self, slot: str, tables: Tables) -> Mended:
        found = super().mend(slot, tables)
        made = found.statement
        if made.bound != "both" and (made.margin is not None or made.below is not None):
            made = replace(made, margin=None, below=None)
        if slot == "bound":
            made = replace(made, low=None, high=None)
        if slot in ("resamples", "seed") or slot.startswith("data."):
            made = replace(made, opened=None)
        return Mended(made, found.notes)

    def title(self, tables: Tables) -> str:
        title = self.data.title
        return f"{self.parameter.capitalize()}: {title}" if title else "Estimate"


MOST_RESAMPLES = 1_000_000


BOUND = (
    Option("both", "with two ends"),
    Option("lower", "a lower bound", help="At least so much, with that confidence."),
    Option("upper", "an upper bound", help="At most so much, with that confidence."),
)


_SHARE = TypeNumber(0, 1, low_open=True, high_open=True, percent=True, help="The share of all that lies below it.")


def settings_of(s: EstimateStatement, tables: Tables) -> tuple[Slot, ...]:
    made = [kind_slot(s.data, kinds_for(s.about, s.purpose), "the data")]
    if s.parameter == "quantile":
        shown = percent_text(s.share)
        made.append(number_slot("share", "lies above", s.share, _SHARE, shown))
    if s.parameter == "total":
        cases = TypeNumber(1, 1e12, whole=True, help="The size of the population.")
        shown = whole(s.population) if s.population is not None else "…"
        slot = number_slot("population", "cases in all", s.population, cases, shown)
        missing = "" if s.population is not None else "Type how many cases there are in all."
        made.append(replace(slot, missing=missing))
    made += s.data.settings(s.place(tables))
    if s.given is not None:
        made.append(s.confidence_slot())
    if s.family == "several samples":
        return tuple(made)
    two = s.bound == "both"
    if s.given != "low" and s.bound != "upper":
        made.append(s.end_slot("low", tables))
    if s.given != "high" and s.bound != "lower":
        made.append(s.end_slot("high", tables))
    if s.given != "margin" and two and not s.about.ratio:
        made.append(s.end_slot("margin", tables))
    made.append(choice_slot("bound", "interval", s.bound, BOUND))
    made.append(_value_slot(s, tables))
    if s.parameter == "mean" and s.family in ("one sample", "two samples"):
        made += known_spreads(s)
    way = procedures(s.purpose).get(s.way)
    uses = way.settings if way else ()
    if "shuffles" in uses:
        holds = TypeNumber(1, MOST_RESAMPLES, whole=True, help="More give steadier ends.")
        made.append(number_slot("resamples", "resamples", s.resamples, holds))
        made.append(seed_slot(s.seed, "resamples"))
        which = TypeNumber(1, s.resamples, whole=True, auto=True, help="The number of a resample to be looked at.")
        shown = "the latest" if s.opened is None else whole(s.opened)
        made.append(number_slot("opened", "resample shown", s.opened, which, shown))
    if "tails" in uses and two and s.given is None:
        made.append(_below_slot(s))
    made += _planning(s, tables)
    if s.independent == "yes":
        made.append(because_slot(s.because))
    return tuple(made)


def _value_slot(s: EstimateStatement, tables: Tables) -> Slot:
    unit = s.unit(tables)
    holds = TypeNumber(auto=True, unit=unit, help="A value to be told what the interval says of.")
    shown = with_unit(exact(s.value), unit) if s.value is not None else "none"
    return number_slot("value", "a value to judge", s.value, holds, shown)


def _below_slot(s: EstimateStatement) -> Slot:
    """The part of what is left out that lies below."""
    holds = TypeNumber(
        0,
        1,
        percent=True,
        auto=True,
        help="The share of resamples left out below; the rest of what is left out lies above.",
    )
    shown = "half" if s.below is None else percent_text(s.below)
    return number_slot("below", "left out below", s.below, holds, shown)


def plans(s: EstimateStatement) -> bool:
    """Whether the sample size for a margin can be told."""
    centre = s.parameter == "mean" and s.family in ("one sample", "pairs", "two samples")
    return centre or (s.parameter == "proportion")


def _planning(s: EstimateStatement, tables: Tables) -> list[Slot]:
    if not plans(s):
        return []
    unit = s.unit(tables)
    margin = TypeNumber(0, low_open=True, auto=True, unit=unit, help="How many cases it takes.")
    shown = with_unit(exact(s.wanted_margin), unit) if s.wanted_margin is not None else "none"
    size = TypeNumber(2, 1e9, whole=True, auto=True, help="What margin so many cases give.")
    made = [
        number_slot("wanted_margin", "margin wanted", s.wanted_margin, margin, shown),
        number_slot(
            "planned", "or a sample size", s.planned, size, exact(s.planned) if s.planned is not None else "none"
        ),
    ]
    return [replace(slot, group="planning", changed=True) for slot in made]

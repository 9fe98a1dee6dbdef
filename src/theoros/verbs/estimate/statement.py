"""The statement of an estimate: its fields, its sentence, and what follows from what is given."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from theoros.verbs.core.fields import bare_field, choice_field, nested_field, number_field, seed_field
from theoros.verbs.core.json_values import Json
from theoros.verbs.core.slots import Mended, Option, Phrase, Slot, Tables, TypeNumber, percent_inside
from theoros.verbs.data.data import Data, data_kinds, kind_slot
from theoros.verbs.data.one_sample import OneColumn
from theoros.verbs.procedures.procedure import Purpose, Settings, compared, kinds_for, procedures
from theoros.verbs.procedures.statement import Inference

Given = Literal["low", "high", "margin"]
GIVEN: tuple[Given, ...] = ("low", "high", "margin")
"""What can be given instead of the confidence, which then follows."""
CONFIDENCE = percent_inside("Often 95 %, also 90 or 99 %.")
FOLLOWS = "The confidence follows from it; empty to go by the confidence again."
BELOW = TypeNumber(
    0, 1, percent=True, auto=True, help="The share of resamples left out below; the rest is left out above."
)
SHARE = percent_inside("The share of all values below it.")
CASES = TypeNumber(1, 1e12, whole=True, help="The size of the population.")
JUDGED = TypeNumber(auto=True, help="A value to compare with the interval.")
RESAMPLES = TypeNumber(1, 1_000_000, whole=True, help="With more, the ends depend less on chance.")
OPENED = TypeNumber(1, 1_000_000, whole=True, auto=True, help="The number of the resample to look at.")
COVERING = TypeNumber(0, 1_000_000, whole=True)
MARGIN = TypeNumber(0, low_open=True, auto=True, help="How many cases it takes.")
PLANNED = TypeNumber(2, 1e9, whole=True, auto=True, help="What margin so many cases give.")
BOUND = (
    Option("both", "with two ends"),
    Option("lower", "a lower bound", help="A lower limit with this confidence."),
    Option("upper", "an upper bound", help="An upper limit with this confidence."),
)


@dataclass(frozen=True)
class EstimateStatement(Inference):
    """Estimate a parameter by an interval."""

    verb: ClassVar[str] = "estimate"
    answered_by: ClassVar[str] = "theoros.verbs.estimate.answering"
    purpose: ClassVar[Purpose] = "interval"
    before: ClassVar[Mapping[str, str]] = {"way": "method", "resamples": "replicates"}
    said_of_methods: ClassVar[str] = "is for"
    data: Data = nested_field(OneColumn, "The kind of data; see “Data” below.")
    method: str = bare_field("one-sample t", "How the ends are calculated; the other methods are calculated too.")
    confidence: float = number_field(0.95, "confidence", CONFIDENCE, "Level of the interval, between 0 and 1.")
    bound: Literal["both", "lower", "upper"] = choice_field(
        "both", "interval", BOUND, "Whether there are two ends, or one: a lower or an upper bound."
    )
    low: float | None = number_field(
        None,
        "lower end",
        TypeNumber(auto=True),
        "A lower end that is given, whose confidence follows; null for none.",
        empty="follows",
        reset_by=("bound",),
    )
    high: float | None = number_field(
        None, "upper end", TypeNumber(auto=True), "An upper end that is given.", empty="follows", reset_by=("bound",)
    )
    margin: float | None = number_field(
        None, "margin", TypeNumber(auto=True), "A margin that is given.", empty="follows"
    )
    below: float | None = number_field(
        None,
        "left out below",
        BELOW,
        "Of resamples, the share left out below; null for half of what is left out.",
        empty="half",
    )
    share: float = number_field(
        0.9, "lies above", SHARE, "The share of the population below the quantile that is asked about."
    )
    population: int | None = number_field(
        None, "cases in all", CASES, "How many cases there are in all, where a total is asked about."
    )
    value: float | None = number_field(
        None, "a value to judge", JUDGED, "A value to compare with the interval; null for none.", empty="none"
    )
    replicates: int = number_field(10_000, "resamples", RESAMPLES, "How many resamples are drawn, 1 to 1 000 000.")
    seed: int = seed_field("resamples", "Seed of the resamples.")
    opened: int | None = number_field(
        None,
        "resample shown",
        OPENED,
        "The resample that is looked at; null for the latest.",
        empty="the latest",
        reset_by=("replicates", "seed", "data."),
    )
    covering: int = number_field(
        0,
        "samples drawn",
        COVERING,
        "How many samples are drawn to see how often such intervals contain the true value.",
    )
    wanted_margin: float | None = number_field(
        None, "margin wanted", MARGIN, "A margin for which the sample size is calculated; null for none.", empty="none"
    )
    planned: int | None = number_field(
        None,
        "or a sample size",
        PLANNED,
        "A sample size for which the margin is calculated; null for none.",
        empty="none",
    )

    @classmethod
    def upgraded(cls, data: Json) -> Json:
        """Methods had names of their own before a test and its interval became one."""
        data = super().upgraded(data)
        method, held = data.get("method"), data.get("data")
        if method == "t":
            kind = data_kinds().get(held.get("kind", "")) if isinstance(held, Mapping) else None
            return {**data, "method": "paired t" if kind and kind.family == "pairs" else "one-sample t"}
        renamed = {"chi-square": "chi-square of a variance", "F": "F ratio"}
        return {**data, "method": renamed[method]} if isinstance(method, str) and method in renamed else data

    @property
    def given(self) -> Given | None:
        """What was given instead of the confidence."""
        return next((name for name in GIVEN if getattr(self, name) is not None), None)

    @property
    def known(self) -> Settings:
        """What is set of procedures."""
        return Settings(
            replicates=self.replicates,
            seed=self.seed,
            sigmas=(self.sigma, self.other_sigma),
            share=self.share,
            population=self.population,
        )

    def phrase(self, tables: Tables) -> Phrase:
        known = compared(None, self.purpose)
        parameter = self.parameter_slot("what is estimated", known)
        sides = self.data.sides(("the ", parameter), self.place(tables))
        joined = " over " if self.about.ratio else " minus "
        second = (joined, *sides.second) if sides.second else ()
        side = {"both": "", "lower": ", as a lower bound", "upper": ", as an upper bound"}[self.bound]
        return ("Estimate ", *sides.first, *second, side, *self._level(tables), ", by ", self.method_slot(), ".")

    def _level(self, tables: Tables) -> Phrase:
        """What is given: how sure, or an end, or the margin."""
        given = self.given
        if given is None:
            return (", with ", self.confidence_slot(tables), " confidence")
        words = {"low": "a lower end of ", "high": "an upper end of ", "margin": "a margin of "}
        return (", with ", words[given], self.end_slot(given, tables))

    def confidence_slot(self, tables: Tables) -> Slot:
        return self.field_slot("confidence", self.here(tables), shown="follows" if self.given is not None else "")

    def end_slot(self, name: Given, tables: Tables) -> Slot:
        """An end, or the margin: a number that may be given."""
        margin = name == "margin"
        low = 0 if margin else self.about.low if self.about.ratio else -1e300
        holds = TypeNumber(low, 1e300, low_open=margin, auto=True, unit=self.unit(tables), help=FOLLOWS)
        return self.field_slot(name, self.here(tables), holds=holds)

    def unit(self, tables: Tables) -> str:
        """Of the parameter."""
        if not self.about.in_units or self.about.squared:
            return ""
        unit, two = self.measured_unit(tables), self.family in ("two samples", "pairs")
        return "percentage points" if unit == "%" and two else unit

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        here = self.here(tables)
        made = [kind_slot(self.data, kinds_for(self.about, self.purpose), "the data")]
        if self.about.asks == "share":
            made.append(self.field_slot("share", here))
        if self.about.asks == "population":
            missing = "" if self.population is not None else "Type the size of the population."
            made.append(self.field_slot("population", here, missing=missing))
        made += self.data.settings(self.place(tables))
        if self.given is not None:
            made.append(self.confidence_slot(tables))
        if self.family == "several samples":
            return tuple(made)
        made += [self.end_slot(name, tables) for name in self._ends_aside()]
        made += [self.field_slot("bound", here), self._in_units("value", JUDGED, tables)]
        if self.parameter == "mean" and self.family in ("one sample", "two samples"):
            made += self.known_spreads(tables)
        method = procedures(self.purpose).get(self.method)
        uses = method.settings if method else ()
        if "replicates" in uses:
            which = replace(OPENED, high=self.replicates)
            made += [self.field_slot(name, here) for name in ("replicates", "seed")]
            made.append(self.field_slot("opened", here, holds=which))
        if "tails" in uses and self.bound == "both" and self.given is None:
            made.append(self.field_slot("below", here))
        if plans(self):
            planning = (self._in_units("wanted_margin", MARGIN, tables), self.field_slot("planned", here))
            made += [replace(slot, group="planning", changed=True) for slot in planning]
        if self.independent == "yes":
            made.append(self.field_slot("because", here))
        return tuple(made)

    def _ends_aside(self) -> list[Given]:
        """The ends that can be given, and are not in the sentence."""
        there: dict[Given, bool] = {
            "low": self.bound != "upper",
            "high": self.bound != "lower",
            "margin": self.bound == "both" and not self.about.ratio,
        }
        return [name for name, fits in there.items() if fits and name != self.given]

    def _in_units(self, name: str, holds: TypeNumber, tables: Tables) -> Slot:
        return self.field_slot(name, self.here(tables), holds=replace(holds, unit=self.unit(tables)))

    def put(self, name: str, value: object, slot: Slot | None, tables: Tables) -> Mended:
        """As for every statement; of confidence, ends and margin one is given at a time."""
        if name in GIVEN and value is not None:
            given: Given = name
            slot = self.end_slot(given, tables)
            if not slot.holds.problem(value):
                return Mended(replace(replace(self, low=None, high=None, margin=None), **{name: value}))  # type: ignore[arg-type]
        if name == "confidence":
            bare_ = replace(self, low=None, high=None, margin=None)
            return super(EstimateStatement, bare_).put(name, value, slot, tables)
        return super().put(name, value, slot, tables)

    def with_slots(self, values: Mapping[str, object]) -> Self:
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
        return Mended(made, found.notes)

    def title(self, tables: Tables) -> str:
        title = self.data.title
        return f"{self.parameter.capitalize()}: {title}" if title else "Estimate"


def plans(s: EstimateStatement) -> bool:
    """Whether the sample size for a margin can be told."""
    centre = s.parameter == "mean" and s.family in ("one sample", "pairs", "two samples")
    return centre or (s.parameter == "proportion")

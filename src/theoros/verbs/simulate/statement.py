"""The statement of a simulation: the model, the statistic, how often, and what is asked of it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from theoros.numeric.arrays import Alternative
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.verbs.core.fields import (
    GROUPING,
    bare_field,
    choice_field,
    choices_field,
    column_field,
    level_field,
    nested_field,
    number_field,
    seed_field,
    text_field,
    word_field,
)
from theoros.verbs.core.json_values import Json, StatementError
from theoros.verbs.core.nested import kind_options, turned_into
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    Slot,
    SlotGrid,
    Tables,
    TypeFormula,
    TypeNumber,
    TypeText,
    choice_slot,
    percent_inside,
)
from theoros.verbs.data.data import Data, kind_slot
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.procedures.procedure import Procedure, Purpose, kinds_for, procedures
from theoros.verbs.procedures.statement import ALPHA, ByProcedure
from theoros.verbs.simulate.models.model import ChanceModel, models
from theoros.verbs.simulate.models.share import SUCCEEDS, ShareModel
from theoros.verbs.simulate.sampling.compared_values import compared_values
from theoros.verbs.simulate.statistics.statistic import ASKS, TAILS, Ask, Statistic, fitting, statistics
from theoros.verbs.simulate.words.nouns import plural_verb

REPEATS = TypeNumber(1, 1_000_000, whole=True, help="With more, the simulated distribution depends less on chance.")
OPENED = TypeNumber(1, 1_000_000, whole=True, auto=True, help="The number of a sample.")
OUTCOME = TypeText("An outcome, or several of different stages: “Jade and leaks”.", longest=200)
FORMULA = TypeFormula(
    "One number for each sample, whose values are x: (max(x) − min(x)) / sd(x).", columns=("x",), longest=300
)
VALUES = TypeText("Values, separated by commas, such as 5, 20, 80.", longest=200)
VALUE = TypeNumber(auto=True, help="Empty for none yet.")
MIDDLE = percent_inside()
SHARE = percent_inside("The share of the values below it.")
YES_NO = (Option(False, "not shown"), Option(True, "shown"))
AFRESH = ("model", "statistic", "data", "data.", "parameter", "method")
"""Slots after which another value is asked about."""


@dataclass(frozen=True)
class SimulateStatement(ByProcedure):
    """Draw samples of a model of chance, and look at the pile of their statistics."""

    verb: ClassVar[str] = "simulate"
    before: ClassVar[Mapping[str, str]] = {
        "way": "method",
        "repeats": "replicates",
        "seen_in": "observed_in",
        "seen_level": "observed_level",
    }
    answered_by: ClassVar[str] = "theoros.verbs.simulate.answering"
    said_of_methods: ClassVar[str] = "is for"
    data: Data = nested_field(
        TwoLevels,
        ("The kind of data, for models that resample the data or assume that a claim is true; see “Data” below."),
    )
    parameter: str = bare_field("mean", "What such models are about.")
    method: str = bare_field("", "How the data are shuffled or drawn, for a claim that is assumed to be true.")
    model: ChanceModel = nested_field(
        ShareModel,
        'The model of chance, as {"kind": "share", "p": 0.125, "n": 25}. Kinds: see “Models of chance” below.',
    )
    statistic: str = bare_field("number", "The statistic that is calculated from each sample.")
    outcome: str = text_field(
        "the outcome that is counted",
        OUTCOME,
        "The outcome that is counted, or several of different stages: “Jade and leaks”.",
    )
    share: float = number_field(0.9, "lies above", SHARE, "The share below a quantile.")
    formula: str = text_field(
        "the formula", FORMULA, "A formula over x, the values of a sample, that gives one number.", empty="…"
    )
    also: tuple[str, ...] = choices_field(
        (), "besides", (), "Further statistics of the same samples.", what="statistics"
    )
    replicates: int = number_field(1000, "how many samples", REPEATS, "How many samples are drawn, 1 to 1 000 000.")
    ask: Ask = choice_field(
        "distribution",
        "what is asked",
        ASKS,
        "What is asked of the simulated distribution: distribution, at most, at least, as far, between or middle.",
    )
    value: float | None = number_field(
        None,
        "observed value",
        VALUE,
        "The observed value, or the lower end; null for none, or for the value in the data.",
        reset_by=AFRESH,
    )
    high: float | None = number_field(None, "the upper end", VALUE, "The upper end.", reset_by=AFRESH)
    middle: float = number_field(0.95, "the middle share", MIDDLE, "The share in the middle.")
    each: str = word_field("one sample", "What one sample is, such as “crate”.", empty="sample")
    seed: int = seed_field("samples", "Seed of the samples.")
    opened: int | None = number_field(
        None,
        "sample shown",
        OPENED,
        "The sample that is shown; null for the latest.",
        empty="the latest",
        reset_by=("model.", "data.", "outcome", "seed", "formula", *AFRESH),
    )
    alpha: float = number_field(0.05, "level α", ALPHA, "Significance level of a claim.")
    observed_in: str | None = column_field(
        "observed value",
        (Kind.NUMBER, *GROUPING),
        "The column that gives the observed value; null for none.",
        none="typed",
        reset_by=("model",),
    )
    observed_level: str | None = level_field("observed_in", "counted there", "The level that is counted there.")
    varies: Literal["nothing", "n", "p"] = choice_field(
        "nothing", "compared", (), "What is compared for several values: n or p."
    )
    values: str = text_field("values", VALUES, "These values, as text: “5, 20, 80”.", empty="…")
    running: bool = choice_field(False, "as cases come in", YES_NO, "Whether the statistic is shown as cases come in.")
    intervals: bool = choice_field(False, "intervals of samples", YES_NO, "Whether the intervals of samples are shown.")

    @classmethod
    def upgraded(cls, data: Json) -> Json:
        """It had fields of other verbs once, which it never used."""
        never = ("sigma", "other_sigma", "independent", "because", "part")
        made = {name: value for name, value in data.items() if name not in never}
        if made.get("ask") == "pile":  # what the simulated distribution was called once
            made["ask"] = "distribution"
        return super().upgraded(made)

    @property
    def purpose(self) -> Purpose:  # type: ignore[override]
        return self.model.uses or "claim by chance"

    @property
    def by_procedure(self) -> bool:
        """Whether a procedure stands behind the model, with parameter, data and way."""
        return self.model.uses is not None

    @property
    def needs_table(self) -> bool:
        if self.by_procedure:
            return not self.data.typed
        return self.model.needs_table or self.observed_in is not None

    @property
    def taken(self) -> Statistic:
        """The statistic that is asked about."""
        return statistics().get(self.statistic) or statistics()["number"]

    @property
    def alternative(self) -> Alternative:
        """Which way what is asked about points, of a claim."""
        return TAILS.get(self.ask, "different")

    @property
    def needs_method(self) -> bool:
        return self.by_procedure and bool(self.method)

    @property
    def procedure(self) -> Procedure:
        return procedures(self.purpose)[self.method]

    def model_place(self, tables: Tables) -> Place:
        """Where the model stands."""
        return self.place_of("model", tables)

    # the sentence

    def phrase(self, tables: Tables) -> Phrase:
        place = self.model_place(tables)
        kind = choice_slot("model", "the model of chance", self.model.kind, kind_options(models().values()))
        times = self.field_slot("replicates", self.here(tables))
        return (
            "Simulate ",
            kind,
            ": ",
            *_small(self.model.sentence(self, place)),
            *self._taken_phrase(place, self.here(tables)),
            "; repeat ",
            times,
            f" time{'' if self.replicates == 1 else 's'}, and ",
            *self._asked(tables),
            ".",
        )

    def _taken_phrase(self, place: Place, here: Place) -> Phrase:
        if self.by_procedure:
            return ()
        options = [Option(one.name, self._label(one)) for one in fitting(frozenset(self.model.takes_now(place)))]
        taken = choice_slot("statistic", "the statistic", self.statistic, options)
        made: Phrase = (" and take ", taken)
        asks = self.taken.asks
        if "outcome" in asks and not isinstance(self.model, ShareModel):
            made += (" of ", self._outcome_slot(place, here))
        if "formula" in asks:
            made += (": ", self._formula_slot(here))
        return made

    def _label(self, one: Statistic) -> str:
        """ "the number that leak", "the mean"."""
        if isinstance(self.model, ShareModel) and one.takes == "names":
            return f"{one.label} that {plural_verb(self.model.success.strip() or SUCCEEDS)}"
        return one.label

    def _outcome_slot(self, place: Place, here: Place) -> Slot:
        known = self.model.outcomes(place)
        shown = self.outcome or (known[0] if known else "")
        pieces = [one for one in re.split(r"\s+and\s+", shown.strip()) if one]
        wrong = next((one for one in pieces if one not in known), None)
        missing = ""
        if wrong is not None:
            missing = f"“{wrong}” is not one of the outcomes. They are: {', '.join(known[:20])}."
        slot = self.field_slot("outcome", here, holds=replace(OUTCOME, suggestions=known), missing=missing)
        return replace(slot, shown=shown or slot.shown, value=shown)

    def _formula_slot(self, here: Place) -> Slot:
        missing = "" if self.formula.strip() else "Type a formula over x, such as mean(x) / sd(x)."
        return self.field_slot("formula", here, missing=missing)

    def _asked(self, tables: Tables) -> Phrase:
        here = self.here(tables)
        ask = self.field_slot("ask", here, options=self._asks)
        if self.ask == "distribution":
            return ("look at ", ask)
        if self.ask == "middle":
            return ("find ", ask, " ", self.field_slot("middle", here))
        often, value = "ask how often it is ", self.value_slot("value", tables)
        if self.ask == "between":
            return (often, ask, " ", value, " and ", self.value_slot("high", tables))
        if self.by_procedure and self.value is None:
            return (often, ask, " ", replace(value, shown="the observed value"))
        return (often, ask, " ", value)

    @property
    def _asks(self) -> tuple[Option, ...]:
        """What can be asked: of a claim without a direction, and of resamples around it, not everything."""
        if self.model.uses == "resampling":
            return tuple(one for one in ASKS if one.value != "as far")
        if self.model.uses != "claim by chance" or self.about.points(self.family):
            return ASKS
        return tuple(one for one in ASKS if one.value in ("distribution", "at least", "between"))

    def value_slot(self, name: str, tables: Tables) -> Slot:
        """What was seen, or an end."""
        label = "the observed value" if name == "value" else "the upper end"
        if self.ask == "between" and name == "value":
            label = "the lower end"
        empty = "…"
        if name == "value" and self.observed_in and self.ask in TAILS:
            empty = f"the observed value of {self.observed_in}"
        holds = replace(VALUE, unit=self.unit(tables))
        if not self.by_procedure and self.varies == "nothing":
            holds = self.taken.possible(holds, self.model)
        missing = ""
        if name == "value" and self.value is None and self.model.uses == "resampling" and self.ask in TAILS:
            missing = "Type a value. The estimate of the sample itself is in the middle of its resamples."
        return self.field_slot(name, self.here(tables), label=label, holds=holds, empty=empty, missing=missing)

    def unit(self, tables: Tables) -> str:
        """Of the statistic."""
        if self.by_procedure or not self.taken.in_units:
            return ""
        typed = getattr(self.model, "unit", "").strip()
        own = tables.get(self.table)
        column = own.by_name.get(getattr(self.model, "what", None) or "") if own else None
        return typed or (column.unit if column and self.model.needs_table else "")

    def grid(self, tables: Tables) -> SlotGrid | None:
        if self.by_procedure:
            return super().grid(tables)
        return self.model.grid(self.model_place(tables))

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        here, place = self.here(tables), self.model_place(tables)
        made: list[Slot] = []
        if self.by_procedure:
            made.append(kind_slot(self.data, kinds_for(self.about, self.purpose), "the data"))
            made += self.data.settings(self.place(tables))
        if (self.by_procedure and self.about.asks == "share") or "share" in self.taken.asks:
            made.append(self.field_slot("share", here))
        made += self.model.settings(place)
        if not self.by_procedure:
            made += self._of_samples(tables)
        if self.model.at_level:
            made.append(self.field_slot("alpha", here))
        made.append(self.field_slot("seed", here))
        made.append(self.field_slot("opened", here, holds=replace(OPENED, high=self.replicates)))
        made += self._compared(here)
        return tuple(made)

    def _of_samples(self, tables: Tables) -> list[Slot]:
        """What else is taken of samples that a model draws, and where it was seen."""
        here = self.here(tables)
        made = [self.field_slot("each", here)]
        takes = frozenset(self.model.takes_now(self.model_place(tables)))
        others = [one for one in fitting(takes) if one.name not in (self.statistic, "formula")]
        if others:
            options = tuple(Option(one.name, one.label) for one in others)
            made.append(self.field_slot("also", here, options=options))
        if self.taken.takes not in ("names", "numbers") or self.ask not in TAILS or not (here.own or self.observed_in):
            return made
        kinds = (Kind.NUMBER,) if self.taken.takes == "numbers" else GROUPING
        made.append(self.field_slot("observed_in", here, kinds=kinds))
        if self.observed_in and self.taken.takes == "names" and here.column(self.observed_in) is not None:
            made.append(self.field_slot("observed_level", here))
        return made

    def _compared(self, here: Place) -> list[Slot]:
        can = self.model.varies
        if not can:
            return []
        options = (Option("nothing", "nothing"), *(Option(one, f"several {one}") for one in can))
        made = [self.field_slot("varies", here, options=options)]
        if self.varies != "nothing":
            missing = ""
            try:
                compared_values(self.values, self.varies)
            except StatementError as problem:
                missing = str(problem)
            made.append(self.field_slot("values", here, label=f"values of {self.varies}", missing=missing))
        if "waits" not in self.model.takes and "walks" not in self.model.takes:
            made += [self.field_slot(name, here) for name in ("running", "intervals")]
        changed = self.varies != "nothing" or self.running or self.intervals
        return [replace(slot, group="comparisons", changed=changed) for slot in made]

    # changing

    def of_kind(self, field: str, kind: str, tables: Tables) -> Mended:
        if field != "model":
            return super().of_kind(field, kind, tables)
        if kind not in models():
            raise StatementError(f"There is no model of chance “{kind}”.")
        if kind == self.model.kind:
            return Mended(self)
        model = turned_into(self.model, models()[kind], self.model_place(tables))
        return replace(self, model=model).mend("model", tables)

    def mend(self, slot: str, tables: Tables) -> Mended:
        made = self
        if slot == "model":
            ask = "distribution" if made.ask == "between" else made.ask
            made = replace(made, observed_level=None, also=(), varies="nothing", outcome="", ask=ask)
            own = tables.get(made.table)
            if made.by_procedure and own is not None:
                made = replace(made, data=made.data.filled(own))
        found = super(SimulateStatement, made).mend(slot, tables)
        made, notes = found.statement, [*found.notes]
        if made.by_procedure:
            if made.ask not in [one.value for one in made._asks]:
                made = replace(made, ask="at least")
        else:
            made, said = made._fitting_model(slot, tables)
            notes += said
        if made.opened is not None and made.opened > made.replicates:
            made = replace(made, opened=None)
        if slot == "observed_in":
            made = made._observed_somewhere(tables)
        if slot in ("varies", "model"):
            made = replace(made, values="" if made.varies == "nothing" else made.usual_values())
        return Mended(made, tuple(notes))

    def fitting(self, slot: str) -> tuple[Self, list[str]]:
        """With a way that fits, where a procedure stands behind the model; a new model is not asked about."""
        if not self.by_procedure:
            return self, []
        made, notes = super().fitting("data" if slot == "model" else slot)
        return made, [] if slot == "model" else notes

    def _fitting_model(self, slot: str, tables: Tables) -> tuple[Self, list[str]]:
        """With a statistic that the model can be asked for, and an outcome that it has."""
        place, notes = self.model_place(tables), []
        takes = self.model.takes_now(place)
        fit = [one.name for one in fitting(frozenset(takes))]
        made = self
        if made.statistic not in fit and fit:
            usual = made.model.statistic if made.model.statistic in fit else fit[0]
            if slot != "model":
                notes.append(f"The statistic is {statistics()[usual].label} now.")
            made = replace(made, statistic=usual, value=None, high=None)
        known = made.model.outcomes(place)
        pieces = re.split(r"\s+and\s+", made.outcome.strip()) if made.outcome.strip() else []
        if known and any(one not in known for one in pieces) and slot != "outcome":
            made = replace(made, outcome="")
        also = tuple(one for one in made.also if one in fit and one != made.statistic)
        made = replace(made, also=also)
        if made.varies not in ("nothing", *made.model.varies):
            made = replace(made, varies="nothing", values="")
        return made, notes

    def _observed_somewhere(self, tables: Tables) -> Self:
        """What was seen is in a column now, and no longer typed."""
        own = tables.get(self.table)
        made = replace(self, value=None) if self.observed_in else self
        if own is None or self.observed_in is None or self.observed_in not in own.by_name:
            return replace(made, observed_level=None)
        levels = own.levels(self.observed_in) if own.column(self.observed_in).kind.is_grouping else ()
        level = self.observed_level if self.observed_level in levels else next(iter(levels), None)
        return replace(made, observed_level=level)

    def usual_values(self) -> str:
        """Values to compare, around the one that there is."""
        if self.varies == "p":
            return "0.1, 0.3, 0.5"
        n = getattr(self.model, "n", None) or 10
        return f"{n}, {4 * n}, {16 * n}"

    def with_figures(self, data: Data) -> Self:
        made, _ = replace(self, table="", data=data).fitting("data")
        return made

    def slot_for_drop(self, zone: str, column: Column) -> str:
        if self.by_procedure:
            return super().slot_for_drop(zone, column)
        return "model.what" if hasattr(self.model, "what") else ""

    def title(self, tables: Tables) -> str:
        if self.by_procedure and self.data.title:
            return f"{self.data.title}, by chance"
        return self.model.title()


def _small(phrase: Phrase) -> Phrase:
    """A sentence that goes on behind a colon."""
    first, *rest = phrase
    return (first[:1].lower() + first[1:], *rest) if isinstance(first, str) else phrase

"""The statement of a simulation: the model, the statistic, how often, and what is asked of it."""

from __future__ import annotations

import re
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar, Literal, Self

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, percent_text, whole, with_unit
from theoros.numeric.arrays import Alternative
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.slots import (
    Grid,
    Mended,
    Option,
    Phrase,
    PickSeveral,
    Slot,
    Tables,
    TypeFormula,
    TypeNumber,
    TypeText,
    choice_slot,
    column_slot,
    number_slot,
    seed_slot,
    text_slot,
)
from theoros.verbs.core.statement import column_field, level_field
from theoros.verbs.data.columns import GROUPING
from theoros.verbs.data.data import Data, Place, kind_slot
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.procedures.procedure import Procedure, Purpose, kinds_for, procedures
from theoros.verbs.procedures.statement import ByProcedure
from theoros.verbs.simulate.models.model import ChanceModel, models, turned_into
from theoros.verbs.simulate.models.share import SUCCEEDS, ShareModel
from theoros.verbs.simulate.statistics.choices import TAILS, TAKEN, Taken, fitting
from theoros.verbs.simulate.words.nouns import plural_verb

if TYPE_CHECKING:
    pass

MOST_REPEATS = 1_000_000
REPEATS = TypeNumber(1, MOST_REPEATS, whole=True, help="More give a steadier pile.")
Ask = Literal["pile", "at most", "at least", "as far", "between", "middle"]
ASKS = (
    Option("pile", "the pile", help="How the statistic varies."),
    Option("at most", "at most", help="How often it is so small: the lower tail."),
    Option("at least", "at least", help="How often it is so large: the upper tail."),
    Option("as far", "as far either way as", help="How often it is so far off: both tails, added."),
    Option("between", "between", help="How often it lies between two ends, both included."),
    Option("middle", "the middle", help="The two ends between which so many lie."),
)


@dataclass(frozen=True)
class SimulateStatement(ByProcedure):
    """Draw samples of a model of chance, and look at the pile of their statistics."""

    verb: ClassVar[str] = "simulate"
    answered_by: ClassVar[str] = "theoros.verbs.simulate.answering"
    said_of_ways: ClassVar[str] = "is for"
    data: Data = field(default_factory=TwoLevels)
    model: ChanceModel = field(default_factory=ShareModel)
    statistic: str = "number"
    outcome: str = ""
    share: float = 0.9
    formula: str = ""
    also: tuple[str, ...] = ()
    repeats: int = 1000
    ask: Ask = "pile"
    value: float | None = None
    high: float | None = None
    middle: float = 0.95
    each: str = ""
    opened: int | None = None
    alpha: float = 0.05
    seen_in: str | None = column_field()
    seen_level: str | None = level_field("seen_in")
    varies: Literal["nothing", "n", "p"] = "nothing"
    values: str = ""
    running: bool = False
    intervals: bool = False

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
        return self.model.needs_table or self.seen_in is not None

    @property
    def taken(self) -> Taken:
        """The statistic that is asked about."""
        return TAKEN.get(self.statistic) or TAKEN["number"]

    @property
    def alternative(self) -> Alternative:
        """Which way what is asked about points, of a claim."""
        return TAILS.get(self.ask, "different")

    @property
    def needs_way(self) -> bool:
        return self.by_procedure and bool(self.way)

    @property
    def procedure(self) -> Procedure:
        return procedures(self.purpose)[self.way]

    def model_place(self, tables: Tables) -> Place:
        """Where the model stands."""
        return Place(tables, self.table, "model.")

    # the sentence

    def phrase(self, tables: Tables) -> Phrase:
        place = self.model_place(tables)
        kinds = [Option(kind, cls.label, help=cls.help) for kind, cls in models().items()]
        kind = choice_slot("model", "the model of chance", self.model.kind, kinds)
        times = number_slot("repeats", "how many samples", self.repeats, REPEATS)
        return (
            "Simulate ",
            kind,
            ": ",
            *_small(self.model.sentence(self, place)),
            *self._taken_phrase(place),
            "; repeat ",
            times,
            f" time{'' if self.repeats == 1 else 's'}, and ",
            *self._asked(tables),
            ".",
        )

    def _taken_phrase(self, place: Place) -> Phrase:
        if self.by_procedure:
            return ()
        options = [Option(one.name, self._label(one)) for one in fitting(frozenset(self.model.takes_now(place)))]
        taken = choice_slot("statistic", "the statistic", self.statistic, options)
        made: Phrase = (" and take ", taken)
        asks = self.taken.asks
        if "outcome" in asks and not isinstance(self.model, ShareModel):
            made += (" of ", self._outcome_slot(place))
        if "formula" in asks:
            made += (": ", self._formula_slot())
        return made

    def _label(self, one: Taken) -> str:
        """ "the number that leak", "the mean"."""
        if isinstance(self.model, ShareModel) and one.takes == "names":
            return f"{one.label} that {plural_verb(self.model.success.strip() or SUCCEEDS)}"
        return one.label

    def _outcome_slot(self, place: Place) -> Slot:
        known = self.model.outcomes(place)
        holds = TypeText("An outcome, or several of different stages: “Jade and leaks”.", known, longest=200)
        shown = self.outcome or (known[0] if known else "")
        slot = text_slot("outcome", "the outcome that is counted", shown, holds)
        pieces = [one for one in re.split(r"\s+and\s+", shown.strip()) if one]
        wrong = next((one for one in pieces if one not in known), None)
        if wrong is not None:
            have = ", ".join(known[:20])
            slot = replace(slot, missing=f"“{wrong}” is none of the outcomes. They are: {have}.")
        return slot

    def _formula_slot(self) -> Slot:
        holds = TypeFormula(
            "One number for each sample, whose values are x: (max(x) − min(x)) / sd(x).", columns=("x",), longest=300
        )
        slot = text_slot("formula", "the formula", self.formula, holds, empty="type a formula")
        if not self.formula.strip():
            return replace(slot, missing="Type a formula over x, such as mean(x) / sd(x).")
        return slot

    def _asked(self, tables: Tables) -> Phrase:
        ask = choice_slot("ask", "what is asked of the pile", self.ask, self._asks)
        if self.ask == "pile":
            return ("look at ", ask)
        if self.ask == "middle":
            holds = TypeNumber(0, 1, low_open=True, high_open=True, percent=True)
            shown = percent_text(self.middle)
            share = number_slot("middle", "the middle share", self.middle, holds, shown)
            return ("find ", ask, " ", share)
        often, value = "ask how often it is ", self.value_slot("value", tables)
        if self.ask == "between":
            return (often, ask, " ", value, " and ", self.value_slot("high", tables))
        if self.by_procedure and self.value is None:
            return (often, ask, " ", replace(value, shown="what was seen"))
        return (often, ask, " ", value)

    @property
    def _asks(self) -> tuple[Option, ...]:
        """What can be asked: of a claim without a direction not everything."""
        if self.model.kind != "claim" or self.about.points(self.family):
            return ASKS
        return tuple(one for one in ASKS if one.value in ("pile", "at least", "between"))

    def value_slot(self, name: str, tables: Tables) -> Slot:
        """What was seen, or an end."""
        unit = self.unit(tables)
        value = getattr(self, name)
        label = "what was seen" if name == "value" else "the upper end"
        if self.ask == "between" and name == "value":
            label = "the lower end"
        help_ = "Empty for none yet."
        shown = with_unit(exact(value), unit) if value is not None else "…"
        if name == "value" and value is None and self.seen_in and self.ask in TAILS:
            shown = f"what was seen in {self.seen_in}"
        return number_slot(name, label, value, TypeNumber(auto=True, unit=unit, help=help_), shown)

    def unit(self, tables: Tables) -> str:
        """Of the statistic."""
        if self.by_procedure or not self.taken.in_units:
            return ""
        typed = getattr(self.model, "unit", "").strip()
        own = tables.get(self.table)
        column = own.by_name.get(getattr(self.model, "what", None) or "") if own else None
        return typed or (column.unit if column and self.model.needs_table else "")

    def grid(self, tables: Tables) -> Grid | None:
        if self.by_procedure:
            return super().grid(tables)
        return self.model.grid(self.model_place(tables))

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        return settings_of(self, tables)

    # changing

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        place = self.model_place(tables)
        if name == "model" and isinstance(value, str):
            if value not in models():
                raise StatementError(f"There is no model of chance “{value}”.")
            return self._modelled(value, tables)
        if name.startswith("model."):
            slot = self.slot(name, tables)
            if slot is not None and slot.holds.problem(value):
                raise StatementError(slot.holds.problem(value))
            put = self.model.put(name.removeprefix("model."), value, place)
            if put is not None:
                return replace(self, model=put).mend(name, tables)
        return super().with_slot(name, value, tables)

    def _modelled(self, kind: str, tables: Tables) -> Mended:
        if kind == self.model.kind:
            return Mended(self)
        model = turned_into(self.model, kind, self.model_place(tables))
        return replace(self, model=model).mend("model", tables)

    def mend(self, slot: str, tables: Tables) -> Mended:
        made, notes = self, list[str]()
        if slot == "model":
            made = replace(
                made,
                value=None,
                high=None,
                seen_in=None,
                seen_level=None,
                also=(),
                varies="nothing",
                outcome="",
                ask="pile" if made.ask == "between" else made.ask,
            )
            own = tables.get(made.table)
            if made.by_procedure and own is not None:
                made = replace(made, data=made.data.filled(own))
        if made.by_procedure:
            found = super(SimulateStatement, made).mend("data" if slot == "model" else slot, tables)
            made = found.statement
            notes += () if slot == "model" else found.notes
            allowed = [one.value for one in made._asks]
            if made.ask not in allowed:
                made = replace(made, ask="at least")
            if slot.startswith(("data", "parameter", "way")):
                made = replace(made, value=None, high=None)
        else:
            made, said = made._fitting_model(slot, tables)
            notes += said
        if slot.startswith(("model", "data", "statistic", "outcome")) or slot in (
            "seed",
            "parameter",
            "way",
            "formula",
        ):
            made = replace(made, opened=None)
        if made.opened is not None and made.opened > made.repeats:
            made = replace(made, opened=None)
        if slot == "seen_in":
            made = made._seen_somewhere(tables)
        if slot in ("varies", "model"):
            made = replace(made, values="" if made.varies == "nothing" else made.usual_values())
        return Mended(made, tuple(notes))

    def _fitting_model(self, slot: str, tables: Tables) -> tuple[Self, list[str]]:
        """With a statistic that the model can be asked for, and an outcome that it has."""
        place, notes = self.model_place(tables), []
        takes = self.model.takes_now(place)
        fit = [one.name for one in fitting(frozenset(takes))]
        made = self
        if made.statistic not in fit and fit:
            usual = made.model.statistic if made.model.statistic in fit else fit[0]
            if slot != "model":
                notes.append(f"The statistic is {TAKEN[usual].label} now.")
            made = replace(made, statistic=usual, value=None, high=None)
        known = made.model.outcomes(place)
        pieces = re.split(r"\s+and\s+", made.outcome.strip()) if made.outcome.strip() else []
        if known and any(one not in known for one in pieces) and slot != "outcome":
            made = replace(made, outcome="")
        also = tuple(one for one in made.also if one in fit and one != made.statistic)
        made = replace(made, also=also)
        if slot == "statistic":
            made = replace(made, value=None, high=None)
        if made.varies not in ("nothing", *made.model.varies):
            made = replace(made, varies="nothing", values="")
        return made, notes

    def _seen_somewhere(self, tables: Tables) -> Self:
        """What was seen is in a column now, and no longer typed."""
        own = tables.get(self.table)
        made = replace(self, value=None) if self.seen_in else self
        if own is None or self.seen_in is None or self.seen_in not in own.by_name:
            return replace(made, seen_level=None)
        levels = own.levels(self.seen_in) if own.column(self.seen_in).kind.is_grouping else ()
        level = self.seen_level if self.seen_level in levels else next(iter(levels), None)
        return replace(made, seen_level=level)

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


MOST_COMPARED = 6


MOST_N = 100_000


_ALPHA = TypeNumber(0, 1, low_open=True, high_open=True, help="Often 0.05 or 0.01.")


_SHARE = TypeNumber(
    0, 1, low_open=True, high_open=True, percent=True, help="The share of the values that lies below it."
)


YES_NO = (Option(False, "not shown"), Option(True, "shown"))


def settings_of(s: SimulateStatement, tables: Tables) -> tuple[Slot, ...]:
    made: list[Slot] = []
    place = s.model_place(tables)
    takes = frozenset(s.model.takes_now(place))
    if s.by_procedure:
        made.append(kind_slot(s.data, kinds_for(s.about, s.purpose), "the data"))
        made += s.data.settings(s.place(tables))
    if (s.by_procedure and s.parameter == "quantile") or "share" in s.taken.asks:
        shown = percent_text(s.share)
        made.append(number_slot("share", "lies above", s.share, _SHARE, shown))
    made += s.model.settings(place)
    if not s.by_procedure:
        holds = TypeText("What one sample is, such as “crate”.", longest=60)
        made.append(text_slot("each", "one sample", s.each, holds, empty="sample"))
        others = tuple(
            Option(one.name, one.label) for one in fitting(takes) if one.name not in (s.statistic, "formula")
        )
        if others:
            shown = ", ".join(s.also) or "none"
            made.append(Slot("also", "besides", shown, s.also, PickSeveral(others, 0, "statistics")))
        made += _seen_slots(s, tables)
    if s.model.kind in ("share", "claim"):
        made.append(number_slot("alpha", "level α", s.alpha, _ALPHA))
    made.append(seed_slot(s.seed, "samples"))
    which = TypeNumber(1, s.repeats, whole=True, auto=True, help="The number of a sample.")
    shown = "the latest" if s.opened is None else whole(s.opened)
    made.append(number_slot("opened", "sample shown", s.opened, which, shown))
    made += _compared(s)
    return tuple(made)


def _seen_slots(s: SimulateStatement, tables: Tables) -> list[Slot]:
    """A column in which was seen what is asked about."""
    own = tables.get(s.table)
    if s.taken.takes not in ("names", "numbers") or s.ask not in TAILS or not (own or s.seen_in):
        return []
    kinds = (Kind.NUMBER,) if s.taken.takes == "numbers" else GROUPING
    made = [column_slot("seen_in", "what was seen", s.seen_in, tables, s.table, kinds, none="typed")]
    if s.seen_in and s.taken.takes == "names" and own is not None and s.seen_in in own.by_name:
        levels = own.levels(s.seen_in) if own.column(s.seen_in).kind.is_grouping else ()
        slot = choice_slot("seen_level", "counted there", s.seen_level, [Option(level, level) for level in levels])
        missing = "" if s.seen_level in levels else f"Choose a level of {s.seen_in}."
        made.append(replace(slot, missing=missing))
    return made


def compared_values(s: SimulateStatement) -> tuple[float, ...]:
    """The values of n or p that are compared. Raises StatementError."""
    pieces = [one for one in s.values.replace(";", ",").split(",") if one.strip()]
    made = []
    for piece in pieces:
        try:
            made.append(TypedNumber(piece.strip()))
        except NotWorkedOut as problem:
            raise StatementError(f"{problem}. Type values with commas between them.") from None
    if not 2 <= len(made) <= MOST_COMPARED:
        raise StatementError(f"Type two to {MOST_COMPARED} values with commas between them.")
    for value in made:
        if s.varies == "p" and not 0 < value < 1:
            raise StatementError(f"A chance lies between 0 and 1, and {exact(value)} does not.")
        if s.varies == "n" and (value != int(value) or not 1 <= value <= MOST_N):
            raise StatementError(
                f"A sample size is a whole number from 1 to {whole(MOST_N)}, and {exact(value)} is not."
            )
    return tuple(dict.fromkeys(made))


def _compared(s: SimulateStatement) -> list[Slot]:
    can = s.model.varies
    if not can:
        return []
    words = {"n": "several n", "p": "several p"}
    options = [Option("nothing", "nothing"), *(Option(one, words[one]) for one in can)]
    made = [choice_slot("varies", "compared", s.varies, options)]
    if s.varies != "nothing":
        holds = TypeText("Values with commas between them, such as 5, 20, 80.", longest=200)
        slot = text_slot("values", f"values of {s.varies}", s.values, holds, empty="type them")
        try:
            compared_values(s)
        except StatementError as problem:
            slot = replace(slot, missing=str(problem))
        made.append(slot)
    if "waits" not in s.model.takes and "walks" not in s.model.takes:
        made.append(choice_slot("running", "as cases come in", s.running, YES_NO))
        made.append(choice_slot("intervals", "intervals of samples", s.intervals, YES_NO))
    changed = s.varies != "nothing" or s.running or s.intervals
    return [replace(slot, group="comparisons", changed=changed) for slot in made]

"""The settings of an estimate: what may be given, and what its ways use."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.wording import exact, whole, with_unit
from theoros.verbs.core.slots import Option, Slot, Tables, TypeNumber, choice_slot, number_slot
from theoros.verbs.data.data import kind_slot
from theoros.verbs.procedures.asked import because_slot
from theoros.verbs.procedures.known_spreads import known_spreads
from theoros.verbs.procedures.procedure import kinds_for, procedures

if TYPE_CHECKING:
    from theoros.verbs.estimate.statement import EstimateStatement

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
        shown = f"{exact(round(100 * s.share, 10))}\u00a0%"
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
        seed = TypeNumber(0, 2**31 - 1, whole=True, help="The same seed, the same resamples.")
        made.append(number_slot("seed", "seed", s.seed, seed, str(s.seed)))
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
    shown = "half" if s.below is None else f"{exact(round(100 * s.below, 10))}\u00a0%"
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

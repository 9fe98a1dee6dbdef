"""The settings of a test: slots beside its sentence, those that matter for what is asked."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.wording import exact
from theoros.verbs.core.slots import Option, Slot, Tables, TypeNumber, choice_slot, number_slot
from theoros.verbs.data.data import kind_slot
from theoros.verbs.parameters.parameter import ONE_SIDED
from theoros.verbs.procedures.asked import because_slot
from theoros.verbs.procedures.known_spreads import known_spreads
from theoros.verbs.procedures.procedure import kinds_for, procedures

if TYPE_CHECKING:
    from theoros.verbs.test.statement import TestStatement

MOST_SHUFFLES = 1_000_000


def settings_of(s: TestStatement, tables: Tables) -> tuple[Slot, ...]:
    made = [kind_slot(s.data, kinds_for(s.about), "the data")]
    made += s.data.settings(s.place(tables))
    if not s.null and s.family in ("two samples", "two shares") and s.about.shift:
        made.append(s.null_slot(tables))
    if s.about.name == "mean" and s.family in ("one sample", "two samples"):
        made += known_spreads(s)
    way = procedures().get(s.way)
    uses = way.settings if way else ()
    if "shuffles" in uses:
        shuffles = TypeNumber(100, MOST_SHUFFLES, whole=True, help="More give a steadier p.")
        made.append(number_slot("shuffles", "shuffles", s.shuffles, shuffles))
    if "seed" in uses:
        seed = TypeNumber(0, 2**31 - 1, whole=True, help="The same seed, the same shuffles.")
        made.append(number_slot("seed", "seed", s.seed, seed, str(s.seed)))
    if plans(s):
        made += _planning(s)
    made.append(choice_slot("rejection", "shaded", s.rejection, _SHADED))
    if s.alternative != "different":
        made.append(choice_slot("bounded", "H₀ written with", s.bounded, _BOUNDED))
        if s.about.points(s.family):
            made.append(choice_slot("bound", "interval", s.bound, _BOUND))
    if "pairs" in uses:
        made.append(choice_slot("pairs", "pairs compared by", s.pairs, _PAIRS))
    if s.independent == "yes":
        made.append(because_slot(s.because))
    if "sums" in uses:
        made.append(choice_slot("sums", "sums of squares", s.sums, _SUMS))
    if s.about.name in ("shares", "relation"):
        made.append(choice_slot("merge", "levels", s.merge, _MERGED))
    if "continuity" in uses:
        made.append(choice_slot("continuity", "continuity correction", s.continuity, _CONTINUITY))
    return tuple(made)


def plans(s: TestStatement) -> bool:
    """Whether the power of the claim can be told."""
    if s.family in ("one share", "two shares"):
        return True
    centre = s.about.name == "mean"
    return centre and s.family in ("one sample", "two samples", "pairs", "several samples")


def _planning(s: TestStatement) -> list[Slot]:
    """The true value that is supposed, and the power that is wanted."""
    one, several = s.family in ONE_SIDED, s.family == "several samples"
    what = "SD of the means" if several else s.parameter if one else "difference"
    help_ = f"The true {what} to be found; empty for none."
    low, high = (s.about.low, s.about.high) if one else (0.0 if several else -math.inf, math.inf)
    true = TypeNumber(low, high, low_open=several, auto=True, help=help_)
    shown = exact(s.true_value) if s.true_value is not None else "none"
    wanted = TypeNumber(0, 1, low_open=True, high_open=True, help="Often 0.8 or 0.9.")
    made = [
        number_slot("true_value", f"true {what}", s.true_value, true, shown),
        number_slot("power", "power wanted", s.power, wanted),
    ]
    changed = s.true_value is not None
    return [replace(slot, group="planning", changed=changed) for slot in made]


_SHADED = (
    Option(False, "p", help="What chance gives as far out as what was seen."),
    Option(True, "where H₀ is rejected", help="Beyond the critical value; for curves."),
)
_SUMS = (
    Option("II", "type II", help="Each category beside the other."),
    Option("III", "type III", help="Each category beside the other and the interaction."),
    Option("I", "type I", help="The first category alone, then the second beside it."),
)
_MERGED = (
    Option(False, "as they are", help="Every level for itself."),
    Option(
        True,
        "merged where few are expected",
        help="Ordered levels with a neighbour, others the rarest, until 5 are expected.",
    ),
)
_BOUNDED = (
    Option(False, "=", help="The value that the p-value is worked out for."),
    Option(True, "≤ or ≥", help="As courses do that let H₀ hold all that H₁ leaves."),
)
_BOUND = (
    Option(False, "with two ends", help="At 1 − 2α, whose ends are those of the one-sided test."),
    Option(True, "as a bound", help="At 1 − α, open on the side that the claim points to."),
)
_PAIRS = (
    Option("Tukey", "Tukey", help="For all pairs of means; the usual one."),
    Option("Bonferroni", "Bonferroni", help="Each p times the number of pairs."),
    Option("Holm", "Holm", help="The smallest p times the number of pairs, the next times less."),
)
_CONTINUITY = (
    Option(True, "with", help="Half a unit towards the mean, when the normal curve stands in."),
    Option(False, "without", help="The statistic as it is."),
)

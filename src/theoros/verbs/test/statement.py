"""The statement of a test: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.nouns import with_article
from theoros.numeric.arrays import Alternative
from theoros.verbs.core.fields import bare_field, choice_field, number_field, seed_field, text_field
from theoros.verbs.core.json_values import Json, StatementError
from theoros.verbs.core.slots import Option, Phrase, Slot, Tables, TypeNumber, TypeText
from theoros.verbs.data.data import kind_slot
from theoros.verbs.data.merging import merged
from theoros.verbs.data.observed_counts import CountsOfLevels, Observation, TwoWayCounts
from theoros.verbs.data.samples import TwoFactorSamples
from theoros.verbs.data.shares import Shares
from theoros.verbs.data.two_factors import TwoFactors
from theoros.verbs.parameters.parameter import ONE_SIDED, usual_null
from theoros.verbs.procedures.claimed_shares import CLAIMED, claimed_shares
from theoros.verbs.procedures.hypotheses.comparison_claim import WORDS
from theoros.verbs.procedures.procedure import Purpose, Settings, compared, kinds_for, procedures
from theoros.verbs.procedures.statement import ALPHA, Inference
from theoros.verbs.test.data import called, fitted_law, law_named, phrase

_CLAIMS = tuple(
    Option(claim, words, help=help_)
    for (claim, words), help_ in zip(
        WORDS.items(),
        ("One tail: small values count.", "One tail: large values count.", "Two tails: both directions count."),
        strict=True,
    )
)
_SHADED = (
    Option(False, "p", help="Results at least as extreme as the observed one."),
    Option(True, "where H₀ is rejected", help="Beyond the critical value; for curves."),
)
_SUMS = (
    Option("II", "type II", help="Each category, allowing for the other."),
    Option("III", "type III", help="Each category, allowing for the other and for the interaction."),
    Option("I", "type I", help="The first category alone, then the second, allowing for the first."),
)
_MERGED = (
    Option(False, "as they are", help="Every level for itself."),
    Option(
        True,
        "merged where few are expected",
        help="Neighbouring levels are merged if they have an order, otherwise the rarest, until 5 are expected.",
    ),
)
_BOUNDED = (
    Option(False, "=", help="The value for which the p-value is calculated."),
    Option(True, "≤ or ≥", help="H₀ covers all values that H₁ does not."),
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
    Option(True, "with", help="Half a unit towards the mean, when the normal curve is used as an approximation."),
    Option(False, "without", help="The statistic as it is."),
)

SHUFFLES = TypeNumber(100, 1_000_000, whole=True, help="More give a steadier p.")
POWER = TypeNumber(0, 1, low_open=True, high_open=True, help="Often 0.8 or 0.9.")
CLAIMS_SHARES = TypeText(f"{CLAIMED} Or a distribution: Poisson, binomial(4), normal(62, 9).", longest=400)


@dataclass(frozen=True)
class TestStatement(Inference):
    """Test whether a parameter is greater, less or different in one group than another."""

    __test__ = False  # its name must not make pytest collect it

    verb: ClassVar[str] = "test"
    answered_by: ClassVar[str] = "theoros.verbs.test.answering"
    purpose: ClassVar[Purpose] = "test"
    before: ClassVar[Mapping[str, str]] = {"way": "method", "shuffles": "replicates"}
    method: str = bare_field("welch t", "How the p-value is calculated; the other methods are calculated too.")
    alternative: Alternative = choice_field(
        "different", "direction", _CLAIMS, "Which way H₁ points, first against second."
    )
    null: float | None = number_field(
        None,
        "value under H₀",
        TypeNumber(),
        "The value that is claimed of one side, which has to be given, or the difference, first minus second, if H₀ "
        "is true; null for no difference.",
    )
    alpha: float = number_field(0.05, "significance level α", ALPHA, "Significance level, between 0 and 1.")
    continuity: bool = choice_field(
        True, "continuity correction", _CONTINUITY, "Continuity correction, where ranks are read off the normal curve."
    )
    replicates: int = number_field(
        10_000, "shuffles", SHUFFLES, "How often labels or signs are shuffled, 100 to 1 000 000."
    )
    seed: int = seed_field("shuffles", "Seed of the simulation.")
    claimed: str = text_field(
        "the claimed shares",
        CLAIMS_SHARES,
        "Claimed shares of the levels: a ratio 9:3:3:1, per cent, or a distribution such as Poisson or "
        "normal(62, 9); empty for equal.",
        empty="equal ones",
    )
    true_value: float | None = number_field(
        None,
        "true value",
        TypeNumber(auto=True),
        "The true value that is assumed for planning; null for none.",
        empty="none",
    )
    power: float = number_field(0.8, "power wanted", POWER, "The power that is wanted, between 0 and 1.")
    rejection: bool = choice_field(False, "shaded", _SHADED, "Whether the rejection region is shaded rather than p.")
    bounded: bool = choice_field(
        False, "H₀ written with", _BOUNDED, "Whether H₀ of a one-sided claim is written with ≤ or ≥."
    )
    bound: bool = choice_field(
        False, "interval", _BOUND, "Whether the interval of a one-sided claim is a one-sided bound."
    )
    merge: bool = choice_field(
        False, "levels", _MERGED, "Whether levels are merged until 5 cases are expected of each."
    )
    sums: Literal["II", "III", "I"] = choice_field(
        "II",
        "sums of squares",
        _SUMS,
        "The type of sums of squares where pairs of levels differ in how many they have.",
    )
    pairs: Literal["Tukey", "Bonferroni", "Holm"] = choice_field(
        "Tukey", "pairs compared by", _PAIRS, "How pairs of several means are compared."
    )

    @classmethod
    def upgraded(cls, data: Json) -> Json:
        """Before data were a nested value, every way of having them had fields of its own."""
        return super().upgraded(data if "data" in data else from_flat(data))

    def phrase(self, tables: Tables) -> Phrase:
        parameter = self.parameter_slot("what is compared", compared())
        here = self.here(tables)
        claim, alpha = self.field_slot("alternative", here), self.field_slot("alpha", here)
        sides = self.data.sides(("the ", parameter), self.place(tables))
        ending: Phrase = (", at α = ", alpha, ", by ", self.method_slot(), ".")
        if not self.about.points(self.family):
            return ("Test whether ", *self._undirected(parameter, sides.first, tables), *ending)
        null = self.null_slot(tables)
        if sides.second and not self.null:
            than = sides.than if sides.than and self.alternative != "different" else sides.second
            middle: Phrase = (*sides.first, " is ", claim, " ", *than)
        elif sides.second:
            middle = (*sides.first, " minus ", *sides.second, " is ", claim, " ", null)
        else:
            middle = (*sides.first, " is ", claim, " ", null)
        return ("Test whether ", *middle, *ending)

    def _undirected(self, parameter: Slot, side: Phrase, tables: Tables) -> Phrase:
        """What is claimed where there is no direction."""
        if self.family == "two-way counts":
            both = self.data.sides((), self.place(tables)).first
            return ("there is a ", parameter, " between ", *both)
        if isinstance(self.data, TwoFactors) and self.method in EFFECTS:
            what, one, two = self.data.slots(self.place(tables))
            if self.method == "interaction":
                return ("the difference in the ", parameter, " ", what, " between levels of ", one, " depends on ", two)
            by, other = (one, two) if self.method == "first factor" else (two, one)
            return ("the ", parameter, " ", what, " differs between levels of ", by, ", allowing for ", other)
        if self.family == "counts":
            return (*side, " differ from ", self._claimed_slot(tables))
        ends = {"shape": " is not that of a normal distribution", "order": " is not random"}
        return (*side, ends.get(self.parameter, " differs"))

    def _claimed_slot(self, tables: Tables) -> Slot:
        slot = self.field_slot("claimed", self.here(tables))
        if not self.claimed.strip():
            return slot
        try:
            levels = self.data.levels_of(self.place(tables))
            named = law_named(self.claimed)
            if named is not None:
                law, given = named
                values = f" with {phrase(law, given)}" if given else ""
                slot = replace(slot, shown=f"those of {with_article(called(law))} distribution{values}")
                fitted_law(self.claimed, levels, None)
            else:
                claimed_shares(self.claimed, levels)
        except StatementError as problem:
            return replace(slot, missing=str(problem))
        return slot

    def prepared(self, data: Observation) -> Observation:
        """Data with what is claimed of them, where that is more than a number."""
        if isinstance(data, Shares):
            return replace(data, null=self.supposed)
        if isinstance(data, TwoFactorSamples):
            return replace(data, effect=self.method.partition(" ")[0])
        if isinstance(data, TwoWayCounts):
            data = replace(data, matched=self.parameter == "change")
            return merged(data) if self.merge and not data.matched else data
        if not isinstance(data, CountsOfLevels):
            return data
        data = self._with_shares(data)
        return merged(data) if self.merge else data

    def _with_shares(self, data: CountsOfLevels) -> CountsOfLevels:
        levels, text = data.levels, self.claimed.strip()
        if not text:
            return replace(data, claimed=(1 / len(levels),) * len(levels))
        law = fitted_law(text, levels, data.counts)
        if law is not None:
            return replace(
                data,
                claimed=law.shares,
                law=law.said,
                law_values=law.values,
                law_how=law.how,
                estimated=len(law.estimated),
                ordered=True,
            )
        return replace(data, claimed=claimed_shares(text, levels), claimed_text=text)

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        method, about = procedures().get(self.method), self.about
        uses = method.settings if method else ()
        made = [kind_slot(self.data, kinds_for(about), "the data"), *self.data.settings(self.place(tables))]
        if not self.null and self.family in ("two samples", "two shares") and about.shift:
            made.append(self.null_slot(tables))
        if about.name == "mean" and self.family in ("one sample", "two samples"):
            made += self.known_spreads(tables)
        wanted = [name for name in ("replicates", "seed") if name in uses]
        made += [self.field_slot(name, self.here(tables)) for name in wanted]
        if plans(self):
            made += self._planning(tables)
        shown = {
            "rejection": True,
            "bounded": self.direction != "different",
            "bound": self.direction != "different",
            "pairs": "pairs" in uses,
            "because": self.independent == "yes",
            "sums": "sums" in uses,
            "merge": about.name in ("shares", "relation"),
            "continuity": "continuity" in uses,
        }
        return (*made, *(self.field_slot(name, self.here(tables)) for name, there in shown.items() if there))

    def _planning(self, tables: Tables) -> list[Slot]:
        """The true value that is supposed, and the power that is wanted."""
        one, several = self.family in ONE_SIDED, self.family == "several samples"
        what = "SD of the means" if several else self.parameter if one else "difference"
        help_ = f"The true {what} to be found; empty for none."
        low, high = (self.about.low, self.about.high) if one else (0.0 if several else -math.inf, math.inf)
        holds = TypeNumber(low, high, low_open=several, auto=True, help=help_)
        here, changed = self.here(tables), self.true_value is not None
        true = self.field_slot("true_value", here, label=f"true {what}", holds=holds)
        return [replace(one, group="planning", changed=changed) for one in (true, self.field_slot("power", here))]

    @property
    def known(self) -> Settings:
        """What is set of procedures."""
        return Settings(
            self.continuity, self.replicates, self.seed, (self.sigma, self.other_sigma), self.pairs, self.sums
        )

    def turned_from(self, before: TestStatement) -> TestStatement:
        """With the usual value under H0, where the claim is about something else than before."""
        one_sided = self.family in ONE_SIDED
        same = self.about.kin == before.about.kin and one_sided == (before.family in ONE_SIDED)
        if same:
            return self
        return replace(self, null=usual_null(self.family))

    def fitting(self, slot: str) -> tuple[TestStatement, list[str]]:
        """Without a direction, where what is claimed has none."""
        made, notes = super().fitting(slot)
        if not made.about.points(made.family) and made.alternative != "different":
            made = replace(made, alternative="different")
        return made, notes

    @property
    def supposed(self) -> float:
        """The value under H0."""
        return self.null if self.null is not None else 0.0

    @property
    def direction(self) -> Alternative:
        """Which way the claim points; a claim without a direction has two sides, whatever is set."""
        return self.alternative if self.about.points(self.family) else "different"

    def title(self, tables: Tables) -> str:
        return self.data.title or "Test"

    # slots

    def null_slot(self, tables: Tables) -> Slot:
        """The slot of the value under H0."""
        one_sided, holds = self.family in ONE_SIDED, self.null_holds(tables)
        label = "value under H₀" if one_sided else "difference under H₀"
        shown = "" if self.null or one_sided else "0"
        told = self if self.null is not None else replace(self, null=usual_null(self.family))
        return told.field_slot("null", self.here(tables), label=label, holds=holds, shown=shown)


def plans(s: TestStatement) -> bool:
    """Whether the power of the claim can be told."""
    if s.family in ("one share", "two shares"):
        return True
    centre = s.about.name == "mean"
    return centre and s.family in ("one sample", "two samples", "pairs", "several samples")


EFFECTS = ("interaction", "first factor", "second factor")
"""What a two-way analysis can ask about: whether it depends, or one category beside the other."""
_SAME = ("verb", "table", "null", "alpha", "way", "continuity", "shuffles", "seed")


_RENAMED = {"centre": "parameter", "claim": "alternative"}


_LEVELS = ("what", "by", "and_by", "first", "second", "design")


_COLUMNS = ("what", "other")


def from_flat(data: Json) -> Json:
    """The same test with its data as a nested value. Fields it never had stay, to be refused."""
    taken = {*_SAME, *_RENAMED, *_LEVELS, *_COLUMNS, "groups", "measure", "unit"}
    taken |= {f"{which}_{what}" for which in ("first", "second") for what in _FIGURES}
    made = {name: value for name, value in data.items() if name not in taken}
    made |= {name: data[name] for name in _SAME if name in data}
    made |= {new: data[old] for old, new in _RENAMED.items() if old in data}
    had = data.get("groups", "levels")
    if had == "figures":
        made["data"] = _figures(data)
    elif had == "columns":
        design = data.get("design", "not said")
        kind = "pairs" if design == "matched" else "two columns"
        own = {name: data[name] for name in _COLUMNS if name in data}
        made["data"] = {"kind": kind, **own, "design": design}
    elif had == "levels":
        made["data"] = {"kind": "two levels", **{n: data[n] for n in _LEVELS if n in data}}
    else:
        made["data"] = {"kind": had}
    return made


_FIGURES = ("name", "n", "mean", "sd")


def _figures(data: Json) -> Json:
    groups = [
        {what: data[f"{which}_{what}"] for what in _FIGURES if f"{which}_{what}" in data}
        for which in ("first", "second")
    ]
    own = {name: data[name] for name in ("measure", "unit", "design") if name in data}
    return {"kind": "two typed samples", **own, "groups": groups}

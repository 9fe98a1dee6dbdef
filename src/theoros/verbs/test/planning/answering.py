"""The section on planning: power now, the sizes that it takes, for one claim and for several groups."""

from __future__ import annotations

import math

from theoros.answer.parts import Section
from theoros.answer.wording import exact, number, percent, percent_text, with_unit
from theoros.numeric.procedures.power import FPower, f_power, least_n
from theoros.verbs.data.samples import Paired, SeveralSamples
from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim
from theoros.verbs.procedures.procedure import Procedure, Settings
from theoros.verbs.test.planning.pictures import picture_of_groups, picture_of_one
from theoros.verbs.test.planning.power_of_method import power_of

SLOT = "true_value"
"""What a handle in the picture sets."""
_SHADED = "Hatched: H₀ is rejected although it is true. Shaded: H₀ is not rejected although it is false."


def planning_section(
    words: ComparisonClaim, true: float, wanted: float, method: Procedure, known: Settings
) -> tuple[Section, ...]:
    """Two curves with the critical value: where H0 holds, and where the true value does."""
    gap = true - words.null
    if gap == 0:
        return (
            Section(
                "Planning",
                note=(
                    "The true value equals the value under H₀, so there is no difference to detect. Type another "
                    "true value."
                ),
            ),
        )
    found = power_of(words, true, method, known)
    if isinstance(found, str):
        return (Section("Planning", note=found),)
    now, true_text = found.now, with_unit(exact(true), words.gap_unit)
    if words.alternative != "different" and (gap > 0) != (words.alternative == "greater"):
        note = (
            f"{true_text} is on the side of H₀, so this test should not detect it. Type a true value on the side "
            "of H₁, or reverse the claim."
        )
        return (Section("Planning", picture_of_one(words, now, true, found.step, SLOT), note=note),)
    n = found.needed(wanted)
    groups = " in each group" if words.compares else ""
    said = f"no sample up to {number(1e7, 0)} is enough" if n is None else f"{number(n, 0)}{groups} would be needed"
    finds, its = "this test", "its power"
    if found.of:
        finds, its = found.of, f"its power. That of {method.inline} has no formula and should be much the same"
    note = (
        f"If the true {_what(words)} is {true_text}, {finds} finds it in {percent(now.power, 1)} "
        f"of samples of this size ({found.sizes}): {its}. For a power of {percent_text(wanted)}, {said}. "
        f"{_SHADED}"
    )
    return (Section("Planning", picture_of_one(words, now, true, found.step, SLOT), note=note),)


def _what(words: ComparisonClaim) -> str:
    if words.compares:
        return f"difference of the {words.parameter.plural}"
    mean = isinstance(words.data, Paired)
    return f"{words.parameter.name} difference" if mean else words.parameter.name


def groups_section(
    data: SeveralSamples, true: float, wanted: float, alpha: float, method: Procedure
) -> tuple[Section, ...]:
    """The same for several means, whose true standard deviation is supposed to be `true`."""
    sizes = [group.n for group in data.groups]
    k, n = len(sizes), sum(sizes)
    within = sum((g.n - 1) * g.summary.sd**2 for g in data.groups if g.n > 1)
    if n <= k or not within > 0 or not true > 0:
        return (Section("Planning", note="The true means need a standard deviation above 0."),)
    ratio = (true / math.sqrt(within / (n - k))) ** 2

    def of(each: float) -> FPower:
        return f_power(k * each * ratio, k - 1, k * each - k, alpha)

    now, needed = f_power(n * ratio, k - 1, n - k, alpha), least_n(lambda m: of(m).power, wanted)
    said = (
        f"no sample up to {number(1e7, 0)} is enough"
        if needed is None
        else f"{number(needed, 0)} in each group would be needed"
    )
    text = with_unit(exact(true), data.unit)
    own = method.name == "anova"
    finds = "this test" if own else "the analysis of variance"
    its = "its power" if own else f"its power. That of {method.inline} has no formula and should be much the same"
    note = (
        f"If the {k} true means have a standard deviation of {text}, {finds} finds that they "
        f"differ in {percent(now.power, 1)} of samples of this size (n = {n} in all): {its}. For "
        f"a power of {percent_text(wanted)}, {said}. {_SHADED}"
    )
    return (Section("Planning", picture_of_groups(now, true, text, SLOT), note=note),)

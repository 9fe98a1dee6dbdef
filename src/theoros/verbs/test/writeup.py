"""A test written up in the five steps that a marker looks for."""

from __future__ import annotations

from theoros.answer.parts import MARKS, Step
from theoros.answer.wording import exact, number, p_equals, plural, with_unit
from theoros.verbs.test.claims import ClaimInWords
from theoros.verbs.test.conditions import Check
from theoros.verbs.test.way import Outcome, Way


def writeup_of(
    words: ClaimInWords, way: Way, outcome: Outcome, found: list[Check], noun: str
) -> tuple[Step, ...]:
    """The five steps that a marker looks for."""
    samples, centre = words.samples, words.centre
    if samples.matched:
        letter = words.hypothesis("=").split(" ")[0]
        meaning = (
            f"{letter} is the {centre} of the differences {samples.first.phrase} minus "
            f"{samples.second.phrase}, over all {plural(noun)} these were drawn from."
        )
    else:
        one, two = (
            f"the {centre} {sample.phrase}"
            if words.columns
            else f"the {centre} {words.what} of all {sample.phrase}"
            for sample in (samples.first, samples.second)
        )
        meaning = f"{words.parameter(1)} is {one}; {words.parameter(2)} is {two}."
    signs = words.symbols()
    gap = samples.difference(centre)
    places = min(6, samples.decimals + 1)
    amount = with_unit(number(gap, places), words.gap_unit)
    seen = f"a difference of {amount} between the {centre}s"
    if samples.matched:
        seen = f"a {centre} difference of {amount}"
    zero = f"p {outcome.p_text}" if outcome.p_text else ""
    conditions = tuple(f"{MARKS[check.mark]} {check.text}" for check in found)
    design = {
        "separate": "✓ the two samples were picked separately",
        "matched": f"✓ both values of a row belong to one {noun} or one matched pair",
        "not said": "? whether the samples were picked separately has still to be said",
    }[words.design]
    return (
        Step("1. Hypotheses", (meaning, signs[0].text, signs[1].text)),
        Step(
            "2. Level, way and conditions",
            (f"α = {exact(words.alpha)}, by {way.inline}.", *conditions, design),
        ),
        Step(
            "3. Statistic",
            (f"Seen in the sample: {seen}.", outcome.statistic_text),
        ),
        Step(
            "4. p-value and decision",
            (zero or p_equals(outcome.p), words.decision(outcome.p, simulated_zero=zero)),
        ),
        Step("5. Conclusion", (words.conclusion(outcome.p),)),
    )

"""The interval that says the same as a test: in words, and drawn."""

from __future__ import annotations

from theoros.answer.layers.spots import Interval
from theoros.answer.parts import Section
from theoros.answer.picture import Axis, Frame, Lane, Panel, Picture, Rule, span
from theoros.answer.wording import exact, number, with_unit
from theoros.lazy_imports import np
from theoros.verbs.data.samples import Paired
from theoros.verbs.test.claims.claim import Claim
from theoros.verbs.test.claims.compared import Compared


def _about(words: Compared) -> str:
    """What the interval is of."""
    name = words.parameter.name
    if words.compares:
        return f"the difference of the {words.parameter.plural}"
    return f"the {name} difference" if isinstance(words.data, Paired) else f"the {name}"


def _level(confidence: float) -> str:
    return f"{exact(round(100 * confidence, 8))}\u00a0%"


def interval_words(
    words: Claim, interval: tuple[float, float], confidence: float, rejected: bool
) -> str:
    """Where it lies, and whether the value under H0 is in it."""
    assert isinstance(words, Compared)
    places = min(6, words.data.decimals + 2)
    low, high = (number(end, places) for end in interval)
    inside = interval[0] <= words.null <= interval[1]
    text = (
        f"The {_level(confidence)} confidence interval for {_about(words)} runs from {low} to "
        f"{with_unit(high, words.gap_unit)}: it {'contains' if inside else 'does not contain'} "
        f"{words.null_text if words.null else '0'}, the value under H_{{0}}."
    )
    outside_claimed = not inside and (
        words.alternative == "different"
        or (interval[0] > words.null) == (words.alternative == "greater")
    )
    if rejected != outside_claimed and (rejected or not words.against):
        text += " It is worked out in another way than p, and parts from it in so close a case."
    return text


def interval_section(
    words: Claim, interval: tuple[float, float] | None, confidence: float | None
) -> tuple[Section, ...]:
    """The interval with a line at the value under H0."""
    if interval is None or confidence is None or not isinstance(words, Compared):
        return ()
    at = words.parameter.estimate(words.data)
    low, high = span(np.array([*interval, words.null]), 0.08)
    bar = Interval(interval[0], at, interval[1], line_role="data")
    unit = f" ({words.gap_unit})" if words.gap_unit else ""
    axis = Axis(low, high, f"{_about(words).removeprefix('the ')}{unit}")
    rule = Rule(words.null, f"H₀: {words.null_text if words.null else '0'}", "mute", knob=False,
                dashed=True)  # fmt: skip
    places = min(6, words.data.decimals + 2)
    ends = " to ".join(number(end, places) for end in interval)
    alt = f"The {_level(confidence)} interval for {_about(words)}: {ends}."
    frame = Frame(axis, (Panel((Lane((bar,)),)),), rules=(rule,))
    note = "It holds the values that a two-sided test at the same level would not reject."
    return (
        Section(
            f"The {_level(confidence)} interval", Picture((frame,), alt=alt, slim=True), note=note
        ),
    )

"""How a probability was worked out, as on a board."""

from __future__ import annotations

import math

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, exact, number, put_in, rounded, trimmed
from theoros.numeric.distributions.distribution import Discrete, Distribution, Region
from theoros.numeric.distributions.lattice import Lattice
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.laws.law import Law
from theoros.verbs.probability.values.answered_parts import AnsweredPart, places_for
from theoros.verbs.probability.values.spans import Event, ValueSpan, event_symbols
from theoros.verbs.probability.values.steps import inner_end, steps_of
from theoros.verbs.probability.words import chance_put_in, chance_text

FEW = 6
"""As many terms of a sum are written out."""


def working_of(situation: Law, distribution: Distribution, parts: list[tuple[str, AnsweredPart]]) -> tuple[Step, ...]:
    """The law, mean and standard deviation, and each part."""
    steps = []
    if situation.law:
        steps.append(Step("The distribution", (formula(situation.law),)))
    moments = [
        formula(f"{text} = {trimmed(value)}" if _adds(text, value) else text)
        for text, value in ((situation.mean_formula, distribution.mean), (situation.sd_formula, distribution.sd))
        if text
    ]
    if moments:
        steps.append(Step("Mean and standard deviation", tuple(moments)))
    for label, part in parts:
        lines = _lines(situation, distribution, part)
        if lines:
            steps.append(Step(f"Part {label}", lines))
    return tuple(steps)


def _given(value: float) -> str:
    """A parameter put in: as it was typed, or to four figures where it was worked out."""
    text = exact(value)
    return text if len(text) <= 8 else put_in(value, 2)


def _adds(text: str, value: float) -> bool:
    """Whether a formula says its value only behind one more equals sign."""
    return math.isfinite(value) and not text.endswith(f"= {exact(value)}")


def _lines(situation: Law, distribution: Distribution, part: AnsweredPart) -> tuple[str | Formula, ...]:
    asked = part.asked
    if asked.cut_off is not None:
        return _cut_lines(distribution, part)
    assert asked.event is not None
    if asked.given is not None:
        both, given = part.event or Event(()), asked.given
        one = distribution.probability(both.region(distribution))
        two = distribution.probability(given.region(distribution))
        return (
            formula(f"{asked.symbols()} = (P({event_symbols(both)})) / (P({event_symbols(given)}))"),
            formula(f"= {chance_put_in(one)} / {chance_put_in(two)} = {chance_text(part.probability)}"),
        )
    if isinstance(distribution, Discrete):
        return _sum_lines(situation, distribution, asked.event, part.probability)
    return _curve_lines(situation, distribution, asked.event, part.probability)


def _sum_lines(situation: Law, distribution: Discrete, event: Event, p: float) -> tuple[str | Formula, ...]:
    """A sum of masses, or 1 less the sum of the others where those are fewer."""
    said, total = event_symbols(event), chance_text(p)
    values = _values(distribution, event)
    if values is not None:
        return _terms(situation, distribution, f"P({said})", values, total)
    others = _values(distribution, event.complement)
    if others:
        rest = event_symbols(event.complement)
        q = distribution.probability(event.complement.region(distribution))
        return (
            formula(f"P({said}) = 1 − P({rest}) = 1 − {chance_put_in(q)} = {total}"),
            *_terms(situation, distribution, f"P({rest})", others, chance_text(q)),
        )
    if len(event.spans) == 1:
        (one,) = event.spans
        low, high = one.low, one.high
        if math.isfinite(low) and math.isfinite(high):
            steps = steps_of(distribution)
            below = steps.before(inner_end(low, is_in=one.low_in, low=True, steps=steps))
            high = inner_end(high, is_in=one.high_in, low=False, steps=steps)
            upper = distribution.probability(Region(((-math.inf, high),)))
            lower = distribution.probability(Region(((-math.inf, below),)))
            return (
                formula(f"P({said}) = P(X ≤ {exact(high)}) − P(X ≤ {exact(below)})"),
                formula(f"= {chance_put_in(upper, 6)} − {chance_put_in(lower, 6)} = {total}"),
            )
    return (formula(f"P({said}) = {total}"),)


def _values(distribution: Discrete, event: Event) -> list[float] | None:
    """The possible values of an event; None where they are more than a few."""
    made: list[float] = []
    for span in event.spans:
        first, last = distribution.support
        low, high = max(span.low, first), min(span.high, last)
        if not math.isfinite(high - low):
            return None
        if high - low > FEW and not isinstance(distribution, Lattice):
            return None
        region = Event((ValueSpan(low, high, span.low_in or low > span.low, span.high_in or high < span.high),)).region(
            distribution
        )
        made += distribution.masses(*region.parts[0])[0].tolist()
    return made if len(made) <= FEW else None


def _terms(
    situation: Law, distribution: Discrete, said: str, values: list[float], total: str
) -> tuple[str | Formula, ...]:
    if not values:
        return ("It contains no value of X.",)
    masses = [float(distribution.height(value)) for value in values]
    lines: list[str | Formula] = []
    if len(values) > 1:
        sums = " + ".join(f"P(X = {exact(value)})" for value in values)
        shown = " + ".join(chance_put_in(mass) for mass in masses)
        lines += [formula(f"{said} = {sums}"), formula(f"= {shown} = {total}")]
    if len(values) <= 3:
        for value, mass in zip(values, masses, strict=True):
            law = situation.law_at(value)
            if law or len(values) == 1:
                text = f"P(X = {exact(value)}) = {law + ' = ' if law else ''}{chance_text(mass)}"
                lines.append(formula(text))
    return tuple(lines)


def _curve_lines(situation: Law, distribution: Distribution, event: Event, p: float) -> tuple[str | Formula, ...]:
    said, total = event_symbols(event), chance_text(p)
    if event.spans and all(span.is_point for span in event.spans):
        return (formula(f"P({said}) = 0"), "For a continuous variable, a single value has probability 0.")
    if isinstance(distribution, Normal) and event.spans:
        return _normal_lines(distribution, event, said, total, scored=not situation.curve)
    if len(event.spans) == 1:
        (one,) = event.spans
        if math.isfinite(one.low) and math.isfinite(one.high):
            upper, lower = float(distribution.cdf(one.high)), float(distribution.cdf(one.low))
            return (
                formula(f"P({said}) = P(X ≤ {exact(one.high)}) − P(X ≤ {exact(one.low)})"),
                formula(f"= {chance_put_in(upper, 6)} − {chance_put_in(lower, 6)} = {total}"),
            )
    return (formula(f"P({said}) = {total}"),)


def _normal_lines(one: Normal, event: Event, said: str, total: str, *, scored: bool) -> tuple[str | Formula, ...]:
    """The z-scores, and what the table of the standard normal curve says at them."""
    ends = [end for span in event.spans for end in (span.low, span.high) if math.isfinite(end)]
    lines: list[str | Formula] = []
    scores = [(end - one.mu) / one.sigma for end in ends]
    if scored:
        for at, (end, z) in enumerate(zip(ends, scores, strict=True)):
            index = f"_{{{at + 1}}}" if len(ends) > 1 else ""
            lines.append(
                formula(
                    f"z{index} = ({exact(end)} − {bracketed(_given(one.mu))}) / ({_given(one.sigma)}) = {number(z, 2)}"
                )
            )
    table = Normal()
    # with letters: Φ of a rounded z is not what stands behind the equals sign
    letters = ["z"] if len(ends) == 1 else [f"z_{{{at + 1}}}" for at in range(len(ends))]
    names = iter(letters if scored else [exact(end) for end in ends])
    pieces = []
    for span in event.spans:
        low = next(names) if math.isfinite(span.low) else ""
        high = next(names) if math.isfinite(span.high) else ""
        pieces.append(f"Φ({high}) − Φ({low})" if low and high else f"1 − Φ({low})" if low else f"Φ({high})")
    lines.append(formula(f"P({said}) = {' + '.join(pieces)} = {total}"))
    told = "; ".join(f"Φ({number(z, 2)}) = {rounded(float(table.cdf(round(z, 2))), 4)}" for z in scores)
    return (*lines, f"A table of the standard normal curve, with z to two decimals: {told}.")


def _cut_lines(distribution: Distribution, part: AnsweredPart) -> tuple[str | Formula, ...]:
    lines: list[str | Formula] = []
    places = places_for(distribution)
    for side in part.cuts:
        for cut in side:
            sign = "≤" if cut.below else "≥"
            at = number(cut.at, places)
            lines.append(formula(f"P(X {sign} {at}) = {chance_text(cut.gives)}"))
            if isinstance(distribution, Normal) and (distribution.mu, distribution.sigma) != (0, 1):
                z = (cut.at - distribution.mu) / distribution.sigma
                mu, sigma = _given(distribution.mu), _given(distribution.sigma)
                lines.append(formula(f"x = μ + z σ = {mu} + {bracketed(number(z, 3))} × {sigma} = {at}"))
    return tuple(lines)

"""How quartiles and fences are worked out, with the values beyond."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.formulas.notation import formulas
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, decimals_needed, exact, listed_briefly, number, sentence_case, significant
from theoros.numeric.quartiles import QuartilePlace, half_sizes, quartile_places
from theoros.numeric.summaries import Summary
from theoros.table.table import Column
from theoros.verbs.core.quartile_rules import rule_words
from theoros.verbs.data.groups import Group, Split
from theoros.verbs.describe.statement import DescribeStatement

MOST_SHOWN = 8
"""Values beyond a fence that are written out; the rest are counted."""


def working_of(
    statement: DescribeStatement, column: Column, cases: Split, summaries: Sequence[Summary], places: int
) -> tuple[Step, ...]:
    steps = []
    finer = min(6, places + 2)
    for group, s in zip(cases.groups, summaries, strict=True):
        if s.n == 0:
            continue
        title = f"Quartiles and fences{f' for {group.label}' if group.label else ''}"

        def say(value: float) -> str:
            return number(value, max(min(places, finer), decimals_needed(value, finer)))

        steps.append(
            Step(
                title,
                (
                    _quartile_line(statement.quartiles, s.n),
                    *formulas(
                        f"Q_{{1}} = {say(s.q1)}; Q_{{3}} = {say(s.q3)}",
                        f"IQR = Q_{{3}} − Q_{{1}} = {say(s.q3)} − {bracketed(say(s.q1))} = {say(s.iqr)}",
                        f"lower fence = Q_{{1}} − 1.5 × IQR = {say(s.q1)} − 1.5 × {say(s.iqr)} = {say(s.lower_fence)}",
                        f"upper fence = Q_{{3}} + 1.5 × IQR = {say(s.q3)} + 1.5 × {say(s.iqr)} = {say(s.upper_fence)}",
                    ),
                    _outside_line(group, s, column),
                ),
            )
        )
    return tuple(steps)


def _quartile_line(rule: str, n: int) -> str:
    """Which places in the sorted values the quartiles were taken from."""
    words = sentence_case(rule_words(rule))
    if n == 1:
        return f"{words}, n = 1: both quartiles are the one value."
    if rule in ("halves", "halves with middle"):
        k = half_sizes(n, middle_in_both=rule != "halves")
        place = _placed(quartile_places(rule, n)[0])
        return (
            f"{words}: n = {n}, so each half has {counted(k, 'value')}; Q_{{1}} is {place} counted "
            f"from the smallest, and Q_{{3}} the same counted from the largest."
        )
    first, third = (_placed(place) for place in quartile_places(rule, n))
    return f"{words}: n = {n}; counted from the smallest, Q_{{1}} is {first}, and Q_{{3}} is {third}."


def _placed(place: QuartilePlace) -> str:
    """A place among the sorted values, in words."""
    if place.share == 0:
        return f"value {place.low}"
    if place.share == 0.5:
        return f"the mean of values {place.low} and {place.high}"
    share = significant(place.share, 3).rstrip("0")
    at = number(place.at, decimals_needed(place.at, 3))
    return f"at place {at}, {share} of the way from value {place.low} to value {place.high}"


def _outside_line(group: Group, s: Summary, column: Column) -> str:
    outside = group.beyond(s)
    if not outside.any():
        return "No value lies outside a fence."
    named = [
        f"{exact(float(value))} in row {row + 1}, z = {number((value - s.mean) / s.sd, 1)}"
        for row, value in zip(group.rows[outside][:MOST_SHOWN], group.values[outside][:MOST_SHOWN], strict=True)
    ]
    return f"Outside a fence: {listed_briefly(named, MOST_SHOWN, int(outside.sum()))}."

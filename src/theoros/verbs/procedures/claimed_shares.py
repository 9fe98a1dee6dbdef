"""Claimed shares as they are typed: "9:3:3:1", "50 %, 30 %, 20 %", "1/2 1/4 1/4"."""

from __future__ import annotations

import math
import re

from theoros.answer.nouns import counted
from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact
from theoros.verbs.core.json_values import StatementError

CLAIMED = "Empty for equal shares; else a number for each level, in their order: 9:3:3:1, or 50 %, 30 %, 20 %."
"""What is typed, for a slot of such shares."""
ROUNDING = 0.0011
"""What rounding to three decimals may leave of a sum of shares."""


def claimed_shares(text: str, levels: tuple[str, ...]) -> tuple[float, ...]:
    """The shares of the levels, which sum to 1. Raises StatementError."""
    pieces = [one for one in re.split(r"\s*[:;]\s*|,\s+|\s+(?!%)", text.strip()) if one]
    if len(pieces) == 1 and len(levels) > 1:
        pieces = [one for one in text.strip().split(",") if one.strip()]
    try:
        values = [float(TypedNumber(piece)) for piece in pieces]
    except NotWorkedOut as problem:
        raise StatementError(f"{problem}.") from None
    if len(values) != len(levels):
        raise StatementError(
            f"There are {counted(len(levels), 'level')} and {counted(len(values), 'number')}: type "
            f"one for each of {', '.join(levels[:6])}{' …' if len(levels) > 6 else ''}, in this "
            f"order."
        )
    if min(values) <= 0:
        raise StatementError("Every claimed share must be above 0. Leave out what cannot occur.")
    total = math.fsum(values)
    shares = "%" in text or all(value < 1 for value in values)
    if shares and abs(total - 1) > ROUNDING:
        raise StatementError(
            f"The claimed shares sum to {exact(float(f'{total:.6g}'))} instead of 1. Correct them, or type a ratio "
            "such as 9:3:3:1."
        )
    return tuple(value / total for value in values)

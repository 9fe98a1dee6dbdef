"""Outcomes as they are typed: "1 to 6", "heads, tails", "red: 3, blue: 2"."""

from __future__ import annotations

import re
from dataclasses import dataclass

from theoros.answer.nouns import plural
from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.table.kinds import NotAValue, parse_number
from theoros.verbs.core.json_values import StatementError

MOST_OUTCOMES = 60


@dataclass(frozen=True)
class Outcome:
    name: str
    weight: float


def outcomes_of(text: str) -> tuple[Outcome, ...]:
    """The outcomes that a text lists, each once. Raises StatementError with what is wrong."""
    made: list[Outcome] = []
    for piece in re.split(r"\s*[,;\n]\s*", text.strip()):
        if not piece:
            continue
        name, colon, weight = piece.rpartition(":")
        if not colon:
            name, weight = piece, "1"
        span = re.fullmatch(r"\s*(-?\d+)\s*(?:to|–|\.\.)\s*(-?\d+)\s*", name)
        number = _weight(weight, name.strip())
        if span:
            low, high = int(span[1]), int(span[2])
            if high < low or high - low >= MOST_OUTCOMES:
                raise StatementError(
                    f"“{name.strip()}” has more than {MOST_OUTCOMES} numbers, or counts down. Type a shorter range "
                    "that counts up."
                )
            made += [Outcome(str(at), number) for at in range(low, high + 1)]
        else:
            made.append(Outcome(" ".join(name.split())[:60], number))
    names = [one.name for one in made]
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice is not None:
        raise StatementError(f"“{twice}” is listed more than once. List it once, with one weight.")
    if not made:
        raise StatementError("Type the outcomes, such as “heads, tails” or “1 to 6”.")
    if len(made) > MOST_OUTCOMES:
        raise StatementError(f"There can be {MOST_OUTCOMES} outcomes at most.")
    if any(not name for name in names):
        raise StatementError("An outcome has no name. Type it before its weight: “red: 3”.")
    if not sum(one.weight for one in made) > 0:
        raise StatementError("All weights are 0, so no outcome can occur. Type a weight above 0.")
    return tuple(made)


def _weight(text: str, name: str) -> float:
    try:
        made = float(TypedNumber(text.strip()))
    except NotWorkedOut as problem:
        raise StatementError(
            f"The weight of “{name}” cannot be read. {problem}. Type for example “{name}: 3”."
        ) from None
    if not 0 <= made < 1e9:
        raise StatementError(f"The weight of “{name}” must be 0 or more, and below 10⁹.")
    return made


def listed_text(outcomes: tuple[Outcome, ...]) -> str:
    """The text that lists these outcomes."""
    if all(one.weight == 1 for one in outcomes):
        names = [one.name for one in outcomes]
        if len(names) > 2 and all(re.fullmatch(r"-?\d+", name) for name in names):
            numbers = [int(name) for name in names]
            if numbers == list(range(numbers[0], numbers[0] + len(numbers))):
                return f"{numbers[0]} to {numbers[-1]}"
        return ", ".join(names)
    return ", ".join(f"{one.name}: {exact(one.weight)}" for one in outcomes)


def worth_of(names: tuple[str, ...]) -> Floats | None:
    """Names as numbers, where all of them are."""
    try:
        return np.array([parse_number(name) for name in names], dtype=np.float64)
    except NotAValue:
        return None


def whole_weights(outcomes: tuple[Outcome, ...], n: int, thing: str) -> None:
    """Raises StatementError unless the weights count things, n of which can be drawn."""
    if any(one.weight != int(one.weight) for one in outcomes):
        raise StatementError("Without replacement the weights are how many there are of each: whole numbers.")
    total = int(sum(one.weight for one in outcomes))
    if n > total:
        raise StatementError(
            f"There are {total} {plural(thing)} in all, so {n} cannot be drawn without replacement. Draw fewer, or "
            "draw with replacement."
        )

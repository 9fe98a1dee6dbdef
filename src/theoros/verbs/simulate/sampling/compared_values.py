"""The values of n or p whose models are compared."""

from __future__ import annotations

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, whole
from theoros.verbs.core.json_values import StatementError

MOST_COMPARED = 6


MOST_N = 100_000


def compared_values(text: str, varies: str) -> tuple[float, ...]:
    """The values of n or p that are compared. Raises StatementError."""
    pieces = [one for one in text.replace(";", ",").split(",") if one.strip()]
    made = []
    for piece in pieces:
        try:
            made.append(TypedNumber(piece.strip()))
        except NotWorkedOut as problem:
            raise StatementError(f"{problem}. Type values, separated by commas.") from None
    if not 2 <= len(made) <= MOST_COMPARED:
        raise StatementError(f"Type two to {MOST_COMPARED} values, separated by commas.")
    for value in made:
        if varies == "p" and not 0 < value < 1:
            raise StatementError(f"A chance lies between 0 and 1, and {exact(value)} does not.")
        if varies == "n" and (value != int(value) or not 1 <= value <= MOST_N):
            raise StatementError(
                f"A sample size is a whole number from 1 to {whole(MOST_N)}, and {exact(value)} is not."
            )
    return tuple(dict.fromkeys(made))

"""Classes of a number: the cuts between them and the names they get."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.table import TableError

MOST_CLASSES = 200


def equal_width(values: Floats, count: int) -> list[float]:
    """`count` + 1 cuts from the least to the greatest value (finite values).

    Fewer where the values lie so close that no number stands between two cuts.
    """
    low, high = float(values.min()), float(values.max())
    if low == high:
        raise TableError("Every value is the same, so there is nothing to part into classes.")
    return sorted({*(low + (high - low) * k / count for k in range(count)), high})


def equal_count(values: Floats, count: int) -> list[float]:
    """Cuts between classes that hold as nearly equal numbers of values as ties allow.

    Each inner cut lies halfway between two neighbouring values in order, at the place nearest
    to an equal share, so that no value lies on a cut.
    """
    ordered = np.sort(values)
    if ordered[0] == ordered[-1]:
        raise TableError("Every value is the same, so there is nothing to part into classes.")
    steps = np.flatnonzero(np.diff(ordered) > 0) + 1
    cuts = [float(ordered[0])]
    for k in range(1, count):
        wanted = ordered.size * k / count
        at = int(steps[np.argmin(np.abs(steps - wanted))])
        cut = float(ordered[at - 1] + (ordered[at] - ordered[at - 1]) / 2)
        if cut > cuts[-1]:
            cuts.append(cut)
    return [*cuts, float(ordered[-1])]


def given_cuts(text: str) -> list[float]:
    """Typed cuts in order, such as "10, 20, 30". Raises TableError with what is wrong."""
    from theoros.table.kinds import NotAValue, parse_number

    pieces = text.replace(";", " ").replace(", ", " ").split()
    if len(pieces) == 1 and "," in text:
        pieces = text.split(",")
    try:
        cuts = [parse_number(piece) for piece in pieces if piece.strip()]
    except NotAValue as problem:
        raise TableError(f"{problem}. Type the cuts with spaces between: 10 20 30.") from None
    if not cuts:
        raise TableError("Type the cuts between classes, such as 10 20 30.")
    if len(cuts) > MOST_CLASSES:
        raise TableError(f"{len(cuts)} cuts are more than the {MOST_CLASSES} that can be made.")
    if any(a >= b for a, b in pairwise(cuts)):
        raise TableError("The cuts must rise: each greater than the one before.")
    return cuts


def class_of(values: Floats, cuts: Sequence[float], *, open_ends: bool) -> Ints:
    """The class of each value, from 0; -1 where the value is missing.

    A value on a cut belongs to the class above it. Without open ends the first and last cuts
    are the ends of the data, and the greatest value belongs to the last class.
    """
    inner = list(cuts) if open_ends else list(cuts[1:-1])
    found = np.searchsorted(np.array(inner, dtype=np.float64), values, side="right")
    return np.where(np.isfinite(values), found, -1)


def class_names(cuts: Sequence[float], *, open_ends: bool) -> tuple[str, ...]:
    """ "10 to under 20"; the last of closed classes "30 to 40"; open ones "under 10"."""
    texts = _told_apart(cuts)
    names = [f"{low} to under {high}" for low, high in pairwise(texts)]
    if not open_ends:
        names[-1] = f"{texts[-2]} to {texts[-1]}"
        return tuple(names)
    return (f"under {texts[0]}", *names, f"{texts[-1]} or more")


def _told_apart(cuts: Sequence[float]) -> list[str]:
    """Cuts with the fewest digits, 4 or more, that keep neighbours apart and are nearly exact."""
    for digits in range(4, 17):
        texts = [f"{cut:.{digits}g}" for cut in cuts]
        near = all(abs(float(t) - c) <= 1e-3 * _gap(cuts) for t, c in zip(texts, cuts, strict=True))
        if near and len(set(texts)) == len(texts):
            break
    return [text.replace("-", "−") for text in texts]


def _gap(cuts: Sequence[float]) -> float:
    return min((b - a for a, b in pairwise(cuts)), default=1.0)

"""Procedures that look at which side of a value others lie, and no further."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats, Ints, subtract
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.proportions import ExactShare, exact_share


@dataclass(frozen=True, slots=True)
class SignTest:
    """How many values lie above the null value, among those that do not equal it."""

    above: int
    below: int
    dropped: int
    found: ExactShare


def sign_test(values: Floats, null: float, claim: Alternative) -> SignTest:
    """The sign test of a median (Arbuthnot 1710): above it lies each value with chance 1/2.

    Values equal to it are left out. Raises NoSpread where all are.
    """
    moved = subtract(values, null)
    above, below = int((moved > 0).sum()), int((moved < 0).sum())
    if above + below == 0:
        raise NoSpread
    found = exact_share(above, above + below, 0.5, claim)
    return SignTest(above, below, int(values.size) - above - below, found)


@dataclass(frozen=True, slots=True, eq=False)
class MedianTest:
    """Counts above the common median and not above it, for each group; shape (2, groups)."""

    median: float
    counts: Ints


def median_counts(groups: list[Floats]) -> MedianTest:
    """How many of each group lie above the median of all values together (Mood 1950).

    Raises TooFewValues for an empty group, NoSpread where none or all lie above it.
    """
    if min(group.size for group in groups) < 1:
        raise TooFewValues
    middle = float(np.median(np.concatenate(groups)))
    above = np.array([int((group > middle).sum()) for group in groups])
    rest = np.array([group.size for group in groups]) - above
    if above.sum() == 0 or rest.sum() == 0:
        raise NoSpread
    return MedianTest(middle, np.stack([above, rest]))

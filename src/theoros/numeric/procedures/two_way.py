"""Two-way analysis of variance with interaction, for any numbers of values in the cells."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.procedures.means import NoSpread, TooFewValues

Sums = Literal["II", "III", "I"]


class EmptyCell(Exception):
    """A pair of levels without a value: its places, first and second."""

    def __init__(self, first: int, second: int) -> None:
        super().__init__(first, second)
        self.first, self.second = first, second


@dataclass(frozen=True, slots=True)
class AnovaLine:
    """A line of the table: its sum of squares in squared data units, and degrees of freedom."""

    ss: float
    df: int


@dataclass(frozen=True, slots=True)
class TwoWay:
    """The table of a two-way analysis of variance."""

    first: AnovaLine
    second: AnovaLine
    interaction: AnovaLine
    error: AnovaLine
    total: float
    cells: Ints
    """How many values each cell has, shape (first levels, second levels)."""
    means: Floats
    """The mean of each cell, of the same shape."""

    @property
    def mean_error(self) -> float:
        """Mean square of error: what cells leave over, by its degrees of freedom."""
        return self.error.ss / self.error.df

    @property
    def balanced(self) -> bool:
        """Whether all cells have as many values; then all types of sums of squares agree."""
        return bool((self.cells == self.cells.flat[0]).all())

    def f(self, effect: AnovaLine) -> float:
        """F of an effect: its mean square over that of error."""
        return effect.ss / effect.df / self.mean_error

    def p(self, effect: AnovaLine) -> float:
        """P(F >= f) of an effect."""
        return float(FisherF(effect.df, self.error.df).sf(self.f(effect)))


def two_way(values: Floats, first: Ints, second: Ints, shape: tuple[int, int], sums: Sums = "II") -> TwoWay:
    """Two-way analysis of variance of `values` (finite, shape (n,)) with two codes for each.

    `first` and `second` are the levels, below the two sizes of `shape`, 2 or more each. Sums of
    squares of type I take the first category before the second, those of type II each main effect
    beside the other (Yates 1934), those of type III each beside all else with contrasts that sum
    to 0. All are weighted fits to the means of the cells, which have the same sums of squares as
    fits to the values. Raises EmptyCell; TooFewValues where no cell has two values; NoSpread where
    all values of each cell are equal.
    """
    rows, columns = shape
    flat = first * columns + second
    counts = np.bincount(flat, minlength=rows * columns)
    if (counts == 0).any():
        at = int((counts == 0).argmax())
        raise EmptyCell(at // columns, at % columns)
    n, k = int(values.size), rows * columns
    if n <= k:
        raise TooFewValues
    centred = values - values.mean()
    means = np.bincount(flat, weights=centred, minlength=k) / counts
    rest = centred - means[flat]
    error = float(rest @ rest)
    whole = float(centred @ centred)
    if not whole or error <= 1e-28 * whole:
        raise NoSpread
    weights = np.sqrt(counts.astype(np.float64))
    one, two, both = _contrasts(rows, columns)
    constant = np.ones((k, 1))

    def left(*parts: Floats) -> float:
        """The sum of squares between cells that a model leaves."""
        design = np.hstack([constant, *parts]) * weights[:, None]
        aim = means * weights
        found, *_ = np.linalg.lstsq(design, aim, rcond=None)
        gap = aim - design @ found
        return float(gap @ gap)

    main = left(one, two)
    if sums == "III":
        first_ss, second_ss = left(two, both), left(one, both)
    elif sums == "II":
        first_ss, second_ss = left(two) - main, left(one) - main
    else:
        first_ss, second_ss = left() - left(one), left(one) - main
    return TwoWay(
        AnovaLine(max(first_ss, 0.0), rows - 1),
        AnovaLine(max(second_ss, 0.0), columns - 1),
        AnovaLine(max(main, 0.0), (rows - 1) * (columns - 1)),
        AnovaLine(error, n - k),
        whole,
        counts.reshape(shape),
        np.asarray(means + values.mean()).reshape(shape),
    )


def _contrasts(rows: int, columns: int) -> tuple[Floats, Floats, Floats]:
    """Columns that sum to 0 for the first category, the second, and their interaction."""

    def sum_to_none(levels: int) -> Floats:
        return np.vstack([np.eye(levels - 1), -np.ones((1, levels - 1))])

    one = np.repeat(sum_to_none(rows), columns, axis=0)
    two = np.tile(sum_to_none(columns), (rows, 1))
    both = (one[:, :, None] * two[:, None, :]).reshape(rows * columns, -1)
    return one, two, np.asarray(both)

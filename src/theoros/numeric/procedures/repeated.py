"""The same cases under several conditions: analysis of variance and Friedman's ranks."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.ranks import average_ranks


@dataclass(frozen=True, slots=True)
class Repeated:
    """The table of an analysis of variance with repeated measures."""

    conditions: float
    cases: float
    error: float
    df_conditions: int
    df_error: int
    epsilon: float
    """Greenhouse and Geisser's: 1 where differences between conditions vary alike."""

    @property
    def f(self) -> float:
        """F = MS of conditions / MS of error."""
        return (self.conditions / self.df_conditions) / (self.error / self.df_error)

    @property
    def p(self) -> float:
        """P(F >= f) with (k − 1, (k − 1)(n − 1)) degrees of freedom."""
        return float(FisherF(self.df_conditions, self.df_error).sf(self.f))

    @property
    def corrected_p(self) -> float:
        """With both degrees of freedom times epsilon (Greenhouse and Geisser 1959)."""
        one, two = self.df_conditions * self.epsilon, self.df_error * self.epsilon
        return float(FisherF(one, two).sf(self.f))


def repeated_measures(values: Floats) -> Repeated:
    """Cases in rows, conditions in columns, shape (n, k), finite.

    SS_error = SS_total − SS_conditions − SS_cases with (n − 1)(k − 1) degrees of freedom. Raises
    TooFewValues below two cases or conditions, NoSpread where nothing is left over as error.
    """
    n, k = values.shape
    if n < 2 or k < 2:
        raise TooFewValues
    moved = values - values.mean()
    columns, rows = moved.mean(axis=0), moved.mean(axis=1)
    between, cases = n * float(columns @ columns), k * float(rows @ rows)
    rest = moved - columns[None, :] - rows[:, None]
    error = float((rest * rest).sum())
    if error <= 1e-26 * float((moved * moved).sum()) or error == 0:
        raise NoSpread
    spread = np.cov(values, rowvar=False)
    centred = spread - spread.mean(axis=0) - spread.mean(axis=1)[:, None] + spread.mean()
    top = float(np.trace(centred)) ** 2
    epsilon = top / ((k - 1) * float((centred * centred).sum()))
    return Repeated(between, cases, error, k - 1, (n - 1) * (k - 1), min(1.0, epsilon))


@dataclass(frozen=True, slots=True)
class Friedman:
    """Friedman's statistic, corrected for ties, and the mean rank of each condition."""

    statistic: float
    df: int
    mean_ranks: tuple[float, ...]

    @property
    def p(self) -> float:
        """P(χ² >= Q) with k − 1 degrees of freedom."""
        return float(ChiSquare(self.df).sf(self.statistic))


def friedman(values: Floats) -> Friedman:
    """Ranks within each case (Friedman 1937), cases in rows, conditions in columns.

    χ² = 12 n/(k (k + 1)) Σ (R̄ − (k + 1)/2)² over 1 − Σ(t³ − t)/(n k (k² − 1)). Raises TooFewValues
    below two cases or conditions, NoSpread where every case has equal values throughout.
    """
    n, k = values.shape
    if n < 2 or k < 2:
        raise TooFewValues
    ranks = np.array([average_ranks(row) for row in values])
    ties = 0.0
    for row in values:
        _, times = np.unique(row, return_counts=True)
        ties += float((times.astype(np.float64) ** 3 - times).sum())
    correction = 1 - ties / (n * k * (k * k - 1))
    if correction <= 0:
        raise NoSpread
    means = ranks.mean(axis=0)
    gap = means - (k + 1) / 2
    statistic = 12 * n / (k * (k + 1)) * float(gap @ gap) / correction
    return Friedman(statistic, k - 1, tuple(means.tolist()))

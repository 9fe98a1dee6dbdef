"""Logistic regression: the probability of one of two outcomes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.regression.least_squares import DEPENDENT, Dependent, TooFewCases

MOST_STEPS = 40
"""Where the outcomes are separated, coefficients go on growing for ever: about 1 at each step."""


class Separated(ValueError):
    """A plane parts the outcomes but for ties, so that no finite coefficients are likeliest."""


@dataclass(frozen=True, eq=False)
class LogisticFit:
    """The most likely coefficients for a design of shape (n, p)."""

    coefficients: Floats
    probabilities: Floats
    """Of the outcome for each case."""
    inverse: Floats
    """The covariance of the coefficients is inverse inverse'."""
    log_likelihood: float
    null: float
    """The log-likelihood of one probability for all cases."""

    @cached_property
    def standard_errors(self) -> Floats:
        """Standard errors of the coefficients."""
        return np.asarray(np.sqrt((self.inverse**2).sum(axis=1)))

    @property
    def gain(self) -> float:
        """Twice the gain in log-likelihood over one probability for all: chi-square if useless."""
        return max(0.0, 2 * (self.log_likelihood - self.null))

    def spread(self, design: Floats) -> Floats:
        """The standard error of the log odds at new rows of the design."""
        return np.asarray(np.sqrt(((design @ self.inverse) ** 2).sum(axis=1)))


def fit_logistic(design: Floats, outcome: Bools) -> LogisticFit:
    """Maximum likelihood by iterated weighted least squares (McCullagh and Nelder 1989, 2.5).

    `outcome`, shape (n,), holds both outcomes. Raises TooFewCases, Dependent as `fit` does, and
    Separated where no finite coefficients are likeliest.
    """
    n, p = design.shape
    if n <= p:
        raise TooFewCases
    y = outcome.astype(np.float64)
    lengths = np.sqrt(np.einsum("ij,ij->j", design, design))
    empty = np.flatnonzero(~(lengths > 0))
    if empty.size:
        raise Dependent(tuple(empty.tolist()))
    scaled = design / lengths
    own = np.abs(np.diagonal(np.linalg.qr(scaled, mode="r")))
    poor = np.flatnonzero(own < DEPENDENT)
    if poor.size:
        raise Dependent(tuple(poor.tolist()))
    b = np.zeros(p)
    share = float(y.mean())
    null = n * (share * math.log(share) + (1 - share) * math.log(1 - share))
    eta = np.zeros(n)
    likelihood = -n * math.log(2.0)
    for _ in range(MOST_STEPS):
        mu = _probability(eta)
        weight = np.maximum(mu * (1 - mu), 1e-300)
        root = np.sqrt(weight)
        q, r = np.linalg.qr(scaled * root[:, None])
        if np.abs(np.diagonal(r)).min() < 1e-13 * np.abs(np.diagonal(r)).max():
            raise Separated
        step = np.linalg.solve(r, q.T @ ((y - mu) / root))
        tried, size = b + step, 1.0
        there = _log_likelihood(scaled @ tried, y)
        while not there >= likelihood - 1e-9 * abs(likelihood) and size > 1e-4:
            size /= 2
            tried = b + size * step
            there = _log_likelihood(scaled @ tried, y)
        moved = float(np.abs(scaled @ tried - eta).max())
        b, likelihood = tried, there
        eta = scaled @ b
        if moved < 1e-9 * max(1.0, float(np.abs(eta).max())):
            inverse = np.linalg.solve(r, np.eye(p)) / lengths[:, None]
            return LogisticFit(b / lengths, _probability(eta), inverse, likelihood, null)
    raise Separated


def _probability(eta: Floats) -> Floats:
    from scipy.special import expit

    return np.asarray(expit(eta), dtype=np.float64)


def _log_likelihood(eta: Floats, y: Floats) -> float:
    return float((y * eta - np.logaddexp(0.0, eta)).sum())


@dataclass(frozen=True, eq=False)
class RocCurve:
    """For each cut-off, from above all down to below all, which shares are found."""

    cuts: Floats
    false_shares: Floats
    """Of cases without the outcome, those at or above the cut-off."""
    true_shares: Floats
    """Of cases with the outcome, those at or above it (the sensitivity)."""

    @property
    def area(self) -> float:
        """The chance that a case with the outcome has the higher value, a tie counting one half."""
        return float(np.trapezoid(self.true_shares, self.false_shares))


def roc_curve(values: Floats, outcome: Bools) -> RocCurve:
    """The receiver operating characteristic of values, shape (n,), that should tell the outcome."""
    order = np.argsort(-values, kind="stable")
    ordered, hits = values[order], outcome[order].astype(np.float64)
    last = np.append(np.flatnonzero(np.diff(ordered)), ordered.size - 1)
    found = np.cumsum(hits)[last]
    wrong = np.cumsum(1 - hits)[last]
    return RocCurve(
        np.append(np.inf, ordered[last]), np.append(0.0, wrong / wrong[-1]), np.append(0.0, found / found[-1])
    )

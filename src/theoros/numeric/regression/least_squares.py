"""Linear least squares by an orthogonal method, and what follows from it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

DEPENDENT = 1e-11
"""A column of unit length of which less than this is its own depends on those before it."""


MANY, APART = 5000, 1e6
"""From so many cases on, products of columns are used if they are no worse conditioned."""


class Dependent(ValueError):
    """Columns that others give already; `which` are their places."""

    def __init__(self, which: tuple[int, ...]) -> None:
        super().__init__("the columns of the design depend on each other")
        self.which = which


class TooFewCases(ValueError):
    """No more cases than terms, so that nothing is left to tell errors from."""


@dataclass(frozen=True, eq=False)
class LinearFit:
    """What least squares gives for a design of shape (n, p), n above p."""

    coefficients: Floats
    fitted: Floats
    residuals: Floats
    inverse: Floats
    """The inverse of the triangle of the decomposition, scaled back: (X'X)⁻¹ = inverse inverse'."""
    design: Floats

    @property
    def n(self) -> int:
        """Number of cases."""
        return int(self.fitted.size)

    @property
    def df(self) -> int:
        """Degrees of freedom of the residuals."""
        return self.n - int(self.coefficients.size)

    @cached_property
    def leverage(self) -> Floats:
        """The diagonal of X (X'X)⁻¹ X'."""
        rows = self.design @ self.inverse
        return np.asarray(np.einsum("ij,ij->i", rows, rows))

    @cached_property
    def rss(self) -> float:
        """The sum of squared residuals."""
        return float(self.residuals @ self.residuals)

    @property
    def sigma(self) -> float:
        """The residual standard deviation."""
        return math.sqrt(self.rss / self.df)

    @cached_property
    def standard_errors(self) -> Floats:
        """Standard errors of the coefficients."""
        return np.asarray(self.sigma * np.sqrt((self.inverse**2).sum(axis=1)))

    def spread(self, design: Floats) -> Floats:
        """Of the mean at new rows of the design, its error in residual SDs: √(x'(X'X)⁻¹x)."""
        return np.asarray(np.sqrt(((design @ self.inverse) ** 2).sum(axis=1)))


def fit(design: Floats, y: Floats) -> LinearFit:
    """Least squares of y, shape (n,), on the columns of a design, shape (n, p).

    By a QR decomposition (Householder) of the columns scaled to unit length, with the coefficients
    refined twice by their residuals (Björck 1967). Of many cases whose columns are far from
    depending on each other the triangle comes from the products of the columns, which takes a
    quarter of the time; the refinement makes up for it. Raises TooFewCases where n is not above p,
    and Dependent where a column follows from those before it.
    """
    n, p = design.shape
    if n <= p:
        raise TooFewCases
    products = design.T @ design
    lengths = np.sqrt(np.diagonal(products))
    empty = np.flatnonzero(~(lengths > 0))
    if empty.size:
        raise Dependent(tuple(empty.tolist()))
    if n >= MANY and np.linalg.cond(products / np.outer(lengths, lengths)) < APART:
        return _by_products(design, y, products, lengths)
    scaled = design / lengths
    q, r = np.linalg.qr(scaled)
    own = np.abs(np.diagonal(r))
    poor = np.flatnonzero(own < DEPENDENT)
    if poor.size:
        raise Dependent(tuple(poor.tolist()))
    inverse = np.linalg.solve(r, np.eye(p))
    coefficients = inverse @ (q.T @ y)
    for _ in range(2):
        coefficients = coefficients + inverse @ (q.T @ (y - scaled @ coefficients))
    # by the orthogonal columns: products with large coefficients would lose what is small
    residuals = y - q @ (q.T @ y)
    residuals = residuals - q @ (q.T @ residuals)
    return LinearFit(coefficients / lengths, y - residuals, residuals, inverse / lengths[:, None], design)


def _by_products(design: Floats, y: Floats, products: Floats, lengths: Floats) -> LinearFit:
    """By the triangle of X'X (Cholesky), refined by the residuals; columns of unit length."""
    triangle = np.linalg.cholesky(products / np.outer(lengths, lengths)).T
    inverse = np.linalg.solve(triangle, np.eye(lengths.size)) / lengths[:, None]
    coefficients = inverse @ (inverse.T @ (design.T @ y))
    residuals = y - design @ coefficients
    for _ in range(2):
        coefficients = coefficients + inverse @ (inverse.T @ (design.T @ residuals))
        residuals = y - design @ coefficients
    return LinearFit(coefficients, y - residuals, residuals, inverse, design)


def vandermonde(x: Floats, degree: int) -> Floats:
    """Columns 1, x, x², …; shape (n, degree + 1)."""
    return np.asarray(np.vander(x, degree + 1, increasing=True), dtype=np.float64)


def sum_of_squares(y: Floats) -> float:
    """About the mean."""
    off = y - y.mean()
    return float(off @ off)


def extra_f(rss_small: float, df_small: int, rss_large: float, df_large: int) -> tuple[float, int, int]:
    """F of the terms that a larger model has beyond a smaller one, with its degrees of freedom."""
    more = df_small - df_large
    return (rss_small - rss_large) / more / (rss_large / df_large), more, df_large


def lack_of_fit(x: Floats, residuals: Floats, terms: int) -> tuple[float, int, int] | None:
    """F of lack of fit against pure error, where values of x repeat (Draper and Smith 1998, 2.1).

    None where none repeats, or nothing is left to test.
    """
    levels, which = np.unique(x, return_inverse=True)
    groups = levels.size
    n = x.size
    if groups == n or groups <= terms:
        return None
    counts = np.bincount(which)
    means = np.bincount(which, residuals) / counts
    pure = float(((residuals - means[which]) ** 2).sum())
    if not pure > 0:
        return None
    lack = float((residuals**2).sum()) - pure
    df1, df2 = groups - terms, n - groups
    return (lack / df1) / (pure / df2), df1, df2

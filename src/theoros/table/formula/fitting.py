"""What formulas say of a least-squares model: fitted values, residuals, leverage, bands."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import Dependent, LinearFit, TooFewCases, fit
from theoros.table.formula import grammar
from theoros.table.formula.evaluate import FormulaColumns, Typed
from theoros.table.formula.tokens import FormulaError

Of = Callable[[LinearFit, "Floats", "Floats"], "Floats"]
"""Of a fit, rows of its design, and y for them, what is wanted for each row."""


def model(of: Of, given: list[Typed], columns: FormulaColumns) -> pl.Expr:
    """For each row what a model of the first by the others says of it; missing where it cannot.

    A row without y takes no part in the fit, but has a fitted value if its predictors are there.
    Rows count as often as the table says they do.
    """
    if not any(one.expr.meta.root_names() for one in given):
        raise FormulaError(
            "A model needs columns: y and x, such as fitted(mass, length).", given[0].node.at, given[-1].node.end
        )
    weights = columns.weights
    exprs = [one.expr.cast(pl.Float64) for one in given]
    if weights is not None:
        exprs.append(weights.cast(pl.Float64))

    def work(series: Sequence[pl.Series]) -> pl.Series:
        values = [one.cast(pl.Float64).fill_null(np.nan).to_numpy() for one in series]
        rows = max(one.size for one in values)  # a number alone comes once
        values = [np.broadcast_to(one, rows) for one in values]
        counts = values.pop() if weights is not None else np.ones(rows)
        made = _worked(of, values[0], values[1:], counts)
        return pl.Series(made, dtype=pl.Float64).fill_nan(None)

    return pl.map_batches(exprs, work, return_dtype=pl.Float64)


def _worked(of: Of, y: Floats, predictors: list[Floats], counts: Floats) -> Floats:
    made = np.full(y.size, np.nan)
    design = np.column_stack([np.ones(y.size), *predictors])
    there = np.isfinite(design).all(axis=1)
    used = there & np.isfinite(y) & (counts > 0)
    times = counts[used].astype(np.int64)
    try:
        found = fit(np.repeat(design[used], times, axis=0), np.repeat(y[used], times))
    except (Dependent, TooFewCases):
        return made
    made[there] = of(found, design[there], y[there])
    return made


def fitted(found: LinearFit, rows: Floats, y: Floats) -> Floats:
    return np.asarray(rows @ found.coefficients)


def residual(found: LinearFit, rows: Floats, y: Floats) -> Floats:
    return np.asarray(y - rows @ found.coefficients)


def leverage(found: LinearFit, rows: Floats, y: Floats) -> Floats:
    return np.where(np.isfinite(y), found.spread(rows) ** 2, np.nan)


def band(given: list[Typed], columns: FormulaColumns, *, single: bool) -> pl.Expr:
    """Half the width of a band for the mean, or for single cases; the confidence comes first."""
    node = given[0].node
    if not isinstance(node, grammar.Number) or not 0 < node.value < 1:
        raise FormulaError("The confidence must be a number between 0 and 1.", node.at, node.end)
    confidence = node.value

    def half(found: LinearFit, rows: Floats, y: Floats) -> Floats:
        reach = StudentT(found.df).critical(1 - confidence, "different") * found.sigma
        spread = found.spread(rows)
        return np.asarray(reach * (np.sqrt(1 + spread**2) if single else spread))

    return model(half, given[1:], columns)

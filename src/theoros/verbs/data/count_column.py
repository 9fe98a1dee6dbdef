"""Cases counted by a column that says how many each row stands for."""

from __future__ import annotations

from theoros.answer.cannot import CannotAnswer
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.table.table import Table

MOST = 2**52


def counts_in_rows(table: Table, column: str, field: str) -> Ints:
    """How many cases each row in use stands for, 0 where that is missing; shape (rows,).

    Raises CannotAnswer for a negative or broken count.
    """
    values = table.numbers(column)
    known = np.isfinite(values) & table.in_use
    odd = known & ((values < 0) | (values != np.floor(values)) | (values > MOST))
    if odd.any():
        row = int(odd.argmax())
        raise CannotAnswer(
            f"Row {row + 1} has {table.cell_text(row, column)} in {column}: a count must be a whole number, 0 or more.",
            field,
        )
    return np.where(known, np.nan_to_num(values), 0).astype(np.int64)

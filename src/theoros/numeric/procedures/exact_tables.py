"""Fisher's exact test of a table of any size: every table with the same sums is counted.

Tables are filled column by column. Those that are filled so far and leave the same cases to the
rows go on alike, so that they are kept together, by how likely they are and how many there are.
"""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints

MOST_PARTIAL = 200_000
"""So many different tables, filled in part, are followed at once."""
MOST_FOLLOWED = 500_000
"""And so many of them over all columns."""
_DIGITS = 9
"""Of log chances; tables that agree in so many are equally likely but for rounding."""


@dataclass(frozen=True, slots=True)
class ExactTable:
    """The p-value, and how many tables with the same sums there are."""

    p: float
    tables: float


@dataclass(frozen=True, slots=True)
class _Filled:
    """Tables filled in part: what is left for each row, log chances, and how many are alike."""

    left: Ints
    logs: Floats
    times: Floats


def exact_table(counts: Ints) -> ExactTable | None:
    """All tables with these sums that are no likelier under H0, added up (Freeman and Halton 1951).

    A table has the chance ∏ r! ∏ c! / (n! ∏ cells!). `counts` has the shape (rows, columns) and
    no empty row or column. None where there are too many tables to count.
    """
    from scipy.special import gammaln, logsumexp

    table = counts if counts.shape[0] <= counts.shape[1] else counts.T
    rows, columns = table.sum(axis=1), np.sort(table.sum(axis=0))[::-1]
    filled = _Filled(rows[None, :].astype(np.int64), np.zeros(1), np.ones(1))
    followed = 0
    for column in columns[:-1].tolist():
        made = _with_column(filled, int(column))
        followed += made.logs.size if made else 0
        if made is None or followed > MOST_FOLLOWED:
            return None
        filled = _merged(made)
    logs = filled.logs - gammaln(filled.left + 1.0).sum(axis=1)
    observed = -float(gammaln(table + 1.0).sum())
    weighed = logs + np.log(filled.times)
    counted = weighed[logs <= observed + 10.0 ** (1 - _DIGITS) * columns.size]
    p = float(np.exp(logsumexp(counted) - logsumexp(weighed)))
    return ExactTable(min(1.0, p), float(filled.times.sum()))


def _with_column(filled: _Filled, column: int) -> _Filled | None:
    """Every way to share a column out over the rows, which can hold no more than is left."""
    from scipy.special import gammaln

    left, logs, times = filled.left, filled.logs, filled.times
    rest = np.full(logs.size, column, dtype=np.int64)
    for row in range(left.shape[1]):
        room = left[:, row + 1 :].sum(axis=1)
        low, high = np.maximum(rest - room, 0), np.minimum(left[:, row], rest)
        ways = high - low + 1
        if int(ways.sum()) > MOST_PARTIAL:
            return None
        which = np.repeat(np.arange(ways.size), ways)
        first = np.repeat(np.cumsum(ways) - ways, ways)
        cell = low[which] + np.arange(which.size) - first
        left, logs, times = left[which], logs[which] - gammaln(cell + 1.0), times[which]
        left[:, row] -= cell
        rest = rest[which] - cell
    return _Filled(left, logs, times)


def _merged(filled: _Filled) -> _Filled:
    """Those that leave the same, in whatever order, and are as likely, as one."""
    left = np.sort(filled.left, axis=1)
    key = np.column_stack([left, np.round(filled.logs, _DIGITS)])
    order = np.lexsort(key.T)
    new = np.append(True, (key[order[1:]] != key[order[:-1]]).any(axis=1))
    starts = np.flatnonzero(new)
    return _Filled(left[order[starts]], filled.logs[order[starts]], np.add.reduceat(filled.times[order], starts))

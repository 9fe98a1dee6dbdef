"""With how many decimals p-values and statistics are written: by rule, or as a course asks."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

P_DECIMALS = (2, 3, 4, 5, 6)
STATISTIC_DECIMALS = (1, 2, 3, 4)


@dataclass(frozen=True)
class Digits:
    """Decimals of p-values and of statistics such as t, z and r; a working has one more."""

    p: int = 4
    statistic: int = 2

    def __post_init__(self) -> None:
        """Raises ValueError for numbers of decimals that are not offered."""
        if self.p not in P_DECIMALS or self.statistic not in STATISTIC_DECIMALS:
            raise ValueError(f"decimals out of range: {self}")


BY_RULE = Digits()
_in_force: ContextVar[Digits] = ContextVar("digits", default=BY_RULE)


def digits() -> Digits:
    """Those in force where an answer is being worded."""
    return _in_force.get()


@contextmanager
def using(wanted: Digits) -> Iterator[None]:
    """Words what is answered within with these decimals, as `decimal.localcontext` does."""
    token = _in_force.set(wanted)
    try:
        yield
    finally:
        _in_force.reset(token)

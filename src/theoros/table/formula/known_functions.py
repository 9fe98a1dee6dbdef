"""What functions of formulas are, and those there are: `functions` fills the list."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from theoros.lazy_imports import pl

Type = Literal["number", "truth", "text", "date", "missing"]


@dataclass(frozen=True)
class Function:
    """A function: what it is given, what it gives, and how."""

    name: str
    form: str
    """As it is written, with names for what it is given: "round(x, digits)"."""
    help: str
    given: tuple[Type | None, ...]
    """The type of each; None for any."""
    gives: Type | None
    """The type of its values; None for that of the first it is given."""
    build: Callable[..., pl.Expr]
    """From what it is given, typed, and the columns."""
    least: int | None = None
    """How many it must be given, where some may be left out."""
    more: bool = False
    """Whether the last may be repeated."""
    group: str = "numbers"


FUNCTIONS: dict[str, Function] = {}

"""What a way is: a procedure with its conditions, its null distribution and its working."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING

from theoros.answer.parts import Step
from theoros.numeric.arrays import Centre, Claim

if TYPE_CHECKING:
    from theoros.answer.picture import Frame
    from theoros.verbs.test.samples import Samples


class WayFails(Exception):
    """A way that is not defined for these samples, with the reason in words."""


@dataclass(frozen=True)
class Question:
    """What a way is asked: the samples, and how the claim points."""

    samples: Samples
    centre: Centre
    claim: Claim
    null: float
    alpha: float
    continuity: bool
    shuffles: int
    seed: int


@dataclass(frozen=True)
class Outcome:
    """What a way found."""

    p: float
    statistic: float
    statistic_text: str
    """The statistic with its symbol: "t = 2.31, df = 12.6"."""
    figures: Mapping[str, float]
    """Every number of the result by name, for machine-read output."""
    null_frame: Callable[[], Frame]
    """The picture of what chance gives under H0, made when it is wanted."""
    working: tuple[Step, ...]
    critical: str = ""
    """The critical value in symbols, where the way has one."""
    p_text: str = ""
    """How the p-value is written where it is not the plain number."""
    remarks: tuple[str, ...] = ()
    """What must be said of the method: exact or normal, ties, pairs dropped."""


@dataclass(frozen=True)
class Way:
    """A procedure. `run` yields (outcome so far or None, share done); the last is the result."""

    name: str
    label: str
    compares: tuple[Centre, ...]
    matched: bool
    help: str
    needs: tuple[str, ...]
    """Which conditions it leans on: normal, outliers, spreads, shapes, symmetry."""
    run: Callable[[Question], Iterator[tuple[Outcome | None, float]]]
    simulated: bool = False
    from_figures: bool = False
    """Whether n, mean and standard deviation are all it needs of a sample."""
    order: int = 0

    @property
    def inline(self) -> str:
        """Its name within a sentence: only names of people keep their capital."""
        return self.label if self.label.startswith("Welch") else self.label.lower()


@cache
def ways() -> Mapping[str, Way]:
    """The ways by name, in the order they are shown."""
    import theoros.verbs.test.ways as room

    found: list[Way] = []
    for module in pkgutil.iter_modules(room.__path__):
        found += importlib.import_module(f"{room.__name__}.{module.name}").WAYS
    return {way.name: way for way in sorted(found, key=lambda way: way.order)}


def ways_for(matched: bool, figures: bool = False) -> list[Way]:
    """The ways that fit the design, and typed figures where there are no rows."""
    return [
        way
        for way in ways().values()
        if way.matched == matched and (way.from_figures or not figures)
    ]

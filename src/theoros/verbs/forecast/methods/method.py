"""What a method of forecasting is: how it is fitted, called and worked out on paper, in one place.

A new one is a module of this package with a `ForecastMethod`, an instance of it listed in `METHODS`.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import TYPE_CHECKING, ClassVar, Literal

from theoros.answer.formulas.formula import Formula
from theoros.answer.parts import Step
from theoros.numeric.arrays import Floats
from theoros.plugins import listed_in
from theoros.verbs.forecast.series.series import Series

if TYPE_CHECKING:
    from theoros.numeric.series.forecasts import ForecastResult

Parts = Literal[
    "level", "trend", "damped trend", "level with seasons", "trend with seasons", "damped trend with seasons"
]
SEASONAL = " with seasons"
BEST = "best"
"""In place of a method: the one whose AICc is the lowest."""


class TooLong(ValueError):
    """A cycle too long for the method, or a forecast too far ahead."""


@dataclass(frozen=True)
class Candidate:
    """A method with the parts it takes a series to have: one line of the table of methods."""

    method: str
    parts: str = ""
    multiplied: bool = False

    @property
    def seasonal(self) -> bool:
        return self.parts.endswith(SEASONAL)

    @property
    def of(self) -> ForecastMethod:
        return forecast_methods()[self.method]

    @property
    def label(self) -> str:
        """What it is called in a table."""
        return self.of.title(self)

    @property
    def how(self) -> str:
        """The same in a sentence, after "by"."""
        return self.of.how(self)

    @property
    def key(self) -> str:
        """What choosing it sets."""
        if not self.parts:
            return self.method
        if not (self.seasonal and self.of.multiplies):
            return f"{self.method}: {self.parts}"
        return f"{self.method}: {self.parts}, {self.seasons}"

    @property
    def seasons(self) -> str:
        """ "added" or "multiplied"."""
        return "multiplied" if self.multiplied else "added"


@dataclass(frozen=True, eq=False)
class FitRequest:
    """What a method is fitted to."""

    values: Floats
    """Shape (n,), on the scale that is worked with; NaN where there is a gap."""
    steps: int
    """How many values are forecast."""
    cycle: int
    """How many steps a cycle of seasons has; 1 for none."""
    candidate: Candidate
    settings: Mapping[str, str] = field(default_factory=dict)
    """The fields of the statement that the method `uses`, and no others."""

    @property
    def season_length(self) -> int:
        """The cycle, where the candidate has seasons; else 1."""
        return self.cycle if self.candidate.seasonal else 1


@dataclass(frozen=True, eq=False)
class Shown:
    """A forecast that is written out in the working."""

    series: Series
    candidate: Candidate
    result: ForecastResult
    at: int
    """Which of the steps ahead, from 0."""
    put: Callable[[float], str]
    """Writes a number into a formula."""
    total: str
    """What is expected, on the scale that is worked with."""

    @property
    def step(self) -> int:
        """The same step, counted from the first value of the series."""
        return self.series.n + self.at


class ForecastMethod(ABC):
    """A way to forecast a series."""

    name: ClassVar[str]
    """In the statement and in its JSON."""
    label: ClassVar[str]
    """In the sentence, after "by"."""
    help: ClassVar[str]
    order: ClassVar[int]
    other_names: ClassVar[tuple[tuple[str, str], ...]] = ()
    """What it can be found by, each with a line of help."""
    parts: ClassVar[tuple[Parts, ...]] = ()
    """The parts it can be chosen to have; empty where there is nothing to choose."""
    own_seasons: ClassVar[bool] = False
    """Whether it has seasons without being chosen to."""
    multiplies: ClassVar[bool] = False
    """Whether its seasons can be added or multiplied."""
    simple: ClassVar[bool] = False
    """Whether it only carries values on: what others are measured by."""
    uses: ClassVar[tuple[str, ...]] = ()
    """The fields of the statement that change its fit."""

    def parts_label(self, parts: Parts) -> str:
        """The parts in the sentence, after "from"."""
        return f"a {parts}"

    @abstractmethod
    def title(self, candidate: Candidate) -> str:
        """What the candidate is called in a table."""

    @abstractmethod
    def how(self, candidate: Candidate) -> str:
        """The same in a sentence, after "by"."""

    def complexity(self, candidate: Candidate) -> int:
        """How much it takes to describe: of two candidates that are as good, the simpler is suggested."""
        return len(candidate.parts.split()) + candidate.multiplied

    def candidates(self, *, seasonal: bool, positive: bool) -> Sequence[Candidate]:
        """All that a series allows, with seasons or without, of values above 0 or any."""
        if not self.parts:
            return (Candidate(self.name),)
        kinds = (False, True) if positive and self.multiplies else (False,)
        made = []
        for parts in (one for one in self.parts if not one.endswith(SEASONAL)):
            made.append(Candidate(self.name, parts))
            if seasonal and parts + SEASONAL in self.parts:
                made += [Candidate(self.name, parts + SEASONAL, products) for products in kinds]
        return made

    def check(self, settings: Mapping[str, str], cycle: int) -> None:  # noqa: B027 - most need none
        """Raises CannotAnswer where a field of the statement that it uses cannot be worked with."""

    @abstractmethod
    def fit(self, asked: FitRequest) -> ForecastResult:
        """Forecasts of the next values.

        Raises TooShort, TooLong, TooFewCases, Dependent or NotPositive.
        """

    def coefficients(self, result: ForecastResult) -> list[Step]:
        """What was fitted, as steps of the working."""
        return []

    @abstractmethod
    def worked_out(self, shown: Shown) -> list[str | Formula]:
        """How one forecast comes about, as lines of the working; they end with its total."""


@cache
def forecast_methods() -> Mapping[str, ForecastMethod]:
    """The methods by name, in their order."""
    return {one.name: one for one in listed_in("theoros.verbs.forecast.methods", "METHODS")}

"""What is known of a model of chance once its slots are filled: for drawing, pictures and words."""

from __future__ import annotations

import itertools
import re
from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import plural
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.chance.samples import Model, Samples

if TYPE_CHECKING:
    from theoros.answer.picture import Frame

MOST_WAYS = 5000
Takes = Literal["names", "numbers", "waits", "walks"]
"""What the cases of a sample have: names, numbers, an end that is waited for, places of a walk."""


@dataclass(frozen=True, eq=False)
class Facts:
    """A model with its words. `takes` says which statistics fit it."""

    model: Model
    key: Hashable
    """What tells this model from any other, data and all."""
    takes: frozenset[Takes]
    n: int
    case: str = "case"
    measure: str = "value"
    unit: str = ""
    decimals: int = 0
    stages: tuple[str, ...] = ("",)
    """Names of the stages a case is drawn in; one without a name where there is one."""
    names: tuple[tuple[str, ...], ...] = ()
    """For each stage the names of its outcomes."""
    worth: tuple[Floats, ...] = ()
    """The same as numbers, where all names are."""
    success: str = ""
    """What a success does, in the singular: "leaks"; empty where outcomes have names."""
    chances: tuple[tuple[tuple[int, ...], float], ...] = ()
    """Every way a case can come out (a place for each stage) with its chance."""
    moments: tuple[float, float] | None = None
    """Mean and standard deviation of one case."""
    normal: bool = False
    """Whether single cases are normal."""
    finite: int | None = None
    """How many there are in all, where none is drawn twice."""
    population: Callable[[], Frame] | None = None
    """A picture of where cases come from."""
    used: int = 0
    """Rows of a table in use."""
    notes: tuple[str, ...] = field(default=())
    """What must be said of the model."""

    @property
    def cases(self) -> str:
        return plural(self.case)

    @property
    def numbers(self) -> bool:
        return "numbers" in self.takes

    def values(self, samples: Samples) -> Floats:
        """The number that each case has, of several stages their sum."""
        if not self.worth:
            return np.asarray(samples.values[0], dtype=np.float64)
        total: Floats | None = None
        for codes, worth in zip(samples.values, self.worth, strict=True):
            own: Floats = np.append(worth, 0.0)[codes]  # a stage that did not come about adds nothing
            total = own if total is None else total + own
        assert total is not None
        return total

    def target(self, text: str) -> tuple[tuple[int, int], ...]:
        """The stage and place of each outcome named in "Jade and leaks". Raises CannotAnswer."""
        found = []
        for piece in re.split(r"\s+and\s+", text.strip()) if text.strip() else []:
            at = next(((stage, names.index(piece)) for stage, names in enumerate(self.names) if piece in names), None)
            if at is None:
                have = ", ".join(dict.fromkeys(itertools.chain(*self.names)))
                raise CannotAnswer(f"“{piece}” is not one of the outcomes. They are: {have}.", "outcome")
            found.append(at)
        if not found:
            raise CannotAnswer("Choose the outcome that is counted.", "outcome")
        return tuple(found)

    def hits(self, samples: Samples, target: Sequence[tuple[int, int]]) -> Bools:
        """Which cases have all of the outcomes."""
        made: Bools | None = None
        for stage, place in target:
            here: Bools = samples.values[stage] == place
            made = here if made is None else made & here
        assert made is not None
        return made

    def chance_of(self, target: Sequence[tuple[int, int]]) -> float:
        """The chance that a case has all of the outcomes."""
        return float(
            sum(chance for path, chance in self.chances if all(path[stage] == place for stage, place in target))
        )

    def law(self) -> tuple[Floats, Floats] | None:
        """The values that a case can have and their chances, where they are few."""
        if not self.worth or not self.chances or len(self.chances) > MOST_WAYS:
            return None
        sums: dict[float, float] = {}
        for path, chance in self.chances:
            value = sum(float(worth[place]) for worth, place in zip(self.worth, path, strict=True) if place >= 0)
            sums[round(value, 9)] = sums.get(round(value, 9), 0.0) + chance
        return np.array(list(sums)), np.array(list(sums.values()))


def moments_of(values: Floats, shares: Floats) -> tuple[float, float]:
    """Mean and standard deviation of values with these shares."""
    mean = float(values @ shares)
    return mean, float(np.sqrt(max(float(((values - mean) ** 2) @ shares), 0.0)))

"""What a parameter is: its word, its symbol, and what it is in a sample."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING

from theoros.answer.wording import unmarked
from theoros.verbs.core.listing import listed_in
from theoros.verbs.core.slots import Option, Slot, choice_slot
from theoros.verbs.data.data import Family

if TYPE_CHECKING:
    from theoros.verbs.data.samples import Measured, Sample


@dataclass(frozen=True)
class Parameter:
    """A number that a population has, of which a sample gives an estimate.

    A new one is a module of this package that lists it in `PARAMETERS`.
    """

    name: str
    """ "mean"; also its word in sentences."""
    symbol: str
    """The letter of textbooks for that of a population."""
    help: str
    families: tuple[Family, ...]
    """The data it can be asked of; of two samples it is a difference that is asked about."""
    value: Callable[[Sample], float]
    """Of one sample."""
    from_figures: bool = False
    """Whether n, mean and standard deviation tell it."""
    order: int = 0

    @property
    def plural(self) -> str:
        return f"{self.name}s"

    def estimate(self, data: Measured) -> float:
        """What was seen: of one sample its value, of two the first minus the second."""
        values = [self.value(sample) for sample in data.samples]
        return values[0] - values[1] if len(values) == 2 else values[0]

    def letters(self, data: Measured) -> tuple[str, ...]:
        """Its symbol for each side: "μ_{slow}", "μ_{quick}"."""
        return tuple(
            f"{self.symbol}_{{{unmarked(label)}}}" if label else self.symbol
            for label in data.letters
        )


@cache
def parameters() -> Mapping[str, Parameter]:
    """The parameters by name, in their order."""
    return {one.name: one for one in listed_in("theoros.verbs.parameters", "PARAMETERS")}


def parameters_for(family: Family, *, typed: bool = False) -> list[Parameter]:
    """Those that can be asked of a family of data, from rows or from typed figures."""
    return [
        one
        for one in parameters().values()
        if family in one.families and (one.from_figures or not typed)
    ]


def parameter_slot(name: str, label: str, value: str, choices: Sequence[str]) -> Slot:
    """The slot for what a statement is about, of those that its verb can deal with."""
    options = [
        Option(one.name, one.name, help=one.help)
        for one in parameters().values()
        if one.name in choices
    ]
    return choice_slot(name, label, value, options)

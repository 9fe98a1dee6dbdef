"""What is read from rows or from typed figures: samples, counts, pairs of numbers.

Each family of data comes to one of these values, wherever it was had from; parameters,
conditions and procedures know only these.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Self

from theoros.answer.nouns import plural
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.table import Table
from theoros.verbs.data.groups import Group, Split
from theoros.verbs.data.sample import Sample, _of_all

NOTHING = ()
ANY_VALUE = "value"
"""What was measured, as long as it is not typed."""
Cells = list[dict[str, str | float]]
"""Rows of a table: what stands in each column."""


@dataclass(frozen=True, eq=False, kw_only=True)
class Observed(ABC):
    """What a claim is about: one side that is set against a value, or two that are compared."""

    noun: str = "value"
    """What one value belongs to."""
    decimals: int = 0
    unit: str = ""

    @property
    @abstractmethod
    def sides(self) -> tuple[object, ...]:
        """What a parameter has a value of."""

    @property
    @abstractmethod
    def size(self) -> int:
        """How many cases there are, on all sides."""

    @property
    @abstractmethod
    def arrays(self) -> tuple[Floats | Ints, ...]:
        """The values or counts, which tell these data from others."""

    @abstractmethod
    def cells(self) -> Cells:
        """The cases as rows of a table."""

    @property
    @abstractmethod
    def letters(self) -> tuple[str, ...]:
        """What stands below the symbol of a parameter on each side."""

    @abstractmethod
    def clauses(self, parameter: str) -> tuple[str, ...]:
        """A parameter of each side, within a sentence: "the mean loss of slow trays"."""

    @abstractmethod
    def meanings(self, parameter: str) -> tuple[str, ...]:
        """What the parameter of each side stands for, of all cases there are."""

    @property
    def names(self) -> tuple[str, ...]:
        """What the sides are called, in a sentence."""
        return ()

    @property
    def used(self) -> int:
        """Rows in use; 0 where figures were typed."""
        return 0

    @property
    def left_out(self) -> tuple[str, ...]:
        return NOTHING

    @property
    def typed(self) -> bool:
        return True

    @property
    def largest(self) -> float:
        """The largest size among the values, to tell what rounding leaves of equal ones."""
        return 1.0


@dataclass(frozen=True, eq=False, kw_only=True)
class Measured(Observed):
    """A number that was measured, in one sample or in several."""

    measure: str
    """What was measured, in words."""
    axis: str = ""
    """What an axis of its values is called."""
    column: str = ""
    """The column whose name that is; empty where it is of no single one."""
    cases: Split | None = None
    """The same cases as groups, for pictures; None where figures were typed."""

    @classmethod
    def of_column(cls, table: Table, what: str, cases: Split, **own: object) -> Self:
        """The values of a number column, split into cases; `own` is what a subclass adds."""
        column = table.column(what)
        return cls(
            measure=what,
            unit=column.unit,
            decimals=table.decimals(what),
            noun=table.noun,
            axis=column.label,
            column=what,
            cases=cases,
            **own,
        )

    def measured(self, parameter: str) -> str:
        """ "mean moisture loss", "standard deviation of the values"."""
        plural_ = self.measure == ANY_VALUE and parameter.endswith(" of")
        return f"{parameter} {'the values' if plural_ else self.measure}"

    @property
    def sides(self) -> tuple[Sample, ...]:
        return self.samples

    @property
    def size(self) -> int:
        return sum(one.n for one in self.samples)

    @property
    def arrays(self) -> tuple[Floats | Ints, ...]:
        figures = [(one.summary.n, one.summary.mean, one.summary.sd) for one in self.listed if one.given]
        return *(one.values for one in self.listed if not one.given), np.array(figures)

    def cells(self) -> Cells:
        several = len(self.samples) > 1
        return [
            {**({"group": one.label} if several else {}), self.measure: value}
            for one in self.samples
            for value in one.values.tolist()
        ]

    def drawn_again(self, made: Sequence[Sample]) -> Self:
        """It with these samples in place of `samples`, as if they had been read from rows."""
        groups = tuple(Group(one.label if len(made) > 1 else "", one.phrase, one.values, one.rows, 0) for one in made)
        return replace(self.with_samples(made), cases=None if self.typed else Split(groups, ()))

    @abstractmethod
    def with_samples(self, made: Sequence[Sample]) -> Self:
        """It with these in place of `samples`."""

    def with_values(self, values: Sequence[Floats]) -> Self:
        """It with other values in its samples, as many as there were."""
        return self.drawn_again([one.with_values(new) for one, new in zip(self.samples, values, strict=True)])

    @property
    def names(self) -> tuple[str, ...]:
        return tuple(sample.said for sample in self.samples)

    @property
    def used(self) -> int:
        return self.cases.used if self.cases else 0

    @property
    def left_out(self) -> tuple[str, ...]:
        return self.cases.left_out if self.cases else NOTHING

    @property
    @abstractmethod
    def samples(self) -> tuple[Sample, ...]:
        """The samples whose shape matters."""

    @property
    def listed(self) -> tuple[Sample, ...]:
        """The samples whose figures are listed."""
        return self.samples

    @property
    def typed(self) -> bool:
        return self.cases is None

    @property
    def largest(self) -> float:
        ends = [abs(end) for s in self.samples for end in (s.summary.minimum, s.summary.maximum)]
        return max((end for end in ends if end == end), default=0.0)

    @property
    def letters(self) -> tuple[str, ...]:
        return tuple(sample.label for sample in self.samples)


@dataclass(frozen=True, eq=False, kw_only=True)
class OneSided(Measured):
    """What a procedure for one sample works on: a sample, or the differences of pairs."""

    @property
    @abstractmethod
    def single(self) -> Sample:
        """Its values."""


def samples_of(cases: Split) -> tuple[Sample, ...]:
    """The groups of a split as samples."""
    return tuple(Sample(group.label, group.phrase, group.values, group.rows) for group in cases.groups)


@dataclass(frozen=True, eq=False, kw_only=True)
class OneSample(OneSided):
    """One sample of a number."""

    sample: Sample
    letters: ClassVar[tuple[str, ...]] = ("",)

    def with_samples(self, made: Sequence[Sample]) -> Self:
        (sample,) = made
        return replace(self, sample=sample)

    @property
    def samples(self) -> tuple[Sample, ...]:
        return (self.sample,)

    @property
    def single(self) -> Sample:
        return self.sample

    def clauses(self, parameter: str) -> tuple[str, ...]:
        return self.meanings(parameter)

    def meanings(self, parameter: str) -> tuple[str, ...]:
        return (f"the {self.measured(parameter)} {_of_all(self.sample)}",)


@dataclass(frozen=True, eq=False, kw_only=True)
class TwoSamples(Measured):
    """Two separate samples of a number."""

    first: Sample
    second: Sample
    columns: bool = False
    """Whether each has a column of its own, whose name is what was measured."""

    def with_samples(self, made: Sequence[Sample]) -> Self:
        first, second = made
        return replace(self, first=first, second=second)

    @property
    def samples(self) -> tuple[Sample, ...]:
        return self.first, self.second

    def clauses(self, parameter: str) -> tuple[str, ...]:
        one, two = self.first.phrase, self.second.phrase
        if self.columns:
            return f"the {parameter} {one}", f"the {parameter} {two}"
        return f"the {self.measured(parameter)} of {one}", f"that of {two}"

    def meanings(self, parameter: str) -> tuple[str, ...]:
        if self.columns:
            return tuple(f"{clause} of all {plural(self.noun)}" for clause in self.clauses(parameter))
        return tuple(f"the {self.measured(parameter)} {_of_all(s)}" for s in self.samples)


@dataclass(frozen=True, eq=False, kw_only=True)
class Paired(OneSided):
    """Pairs of values that belong together; what is worked on are their differences."""

    first: Sample
    second: Sample
    differences: Sample
    """First minus second in each pair."""
    matched_by: str = ""
    """The column that names what both values of a pair belong to; empty where it is the row."""
    letters: ClassVar[tuple[str, ...]] = ("d",)

    def with_samples(self, made: Sequence[Sample]) -> Self:
        (differences,) = made
        return replace(self, differences=differences)

    @property
    def belonging(self) -> str:
        """How it is told which values are a pair."""
        if self.matched_by:
            return f"both values with the same {self.matched_by} belong together"
        return f"both values of a row belong to one {self.noun} or one matched pair"

    @property
    def samples(self) -> tuple[Sample, ...]:
        return (self.differences,)

    @property
    def listed(self) -> tuple[Sample, ...]:
        if self.typed:
            return (self.differences,)
        return self.first, self.second, self.differences

    @property
    def single(self) -> Sample:
        return self.differences

    @property
    def largest(self) -> float:
        ends = [abs(end) for s in self.listed for end in (s.summary.minimum, s.summary.maximum)]
        return max((end for end in ends if end == end), default=0.0)

    def clauses(self, parameter: str) -> tuple[str, ...]:
        one, two = self.first.phrase, self.second.phrase
        return (f"the {parameter} of the differences, {one} minus {two},",)

    def meanings(self, parameter: str) -> tuple[str, ...]:
        one, two = self.first.phrase, self.second.phrase
        return (f"the {parameter} of the differences ({one} minus {two}) in the population of {plural(self.noun)}",)


@dataclass(frozen=True, eq=False, kw_only=True)
class SeveralSamples(Measured):
    """Separate samples of a number, two or more."""

    groups: tuple[Sample, ...]

    def with_samples(self, made: Sequence[Sample]) -> Self:
        return replace(self, groups=tuple(made))

    @property
    def samples(self) -> tuple[Sample, ...]:
        return self.groups

    def clauses(self, parameter: str) -> tuple[str, ...]:
        return tuple(f"the {self.measured(parameter)} of {s.phrase}" for s in self.groups)

    def meanings(self, parameter: str) -> tuple[str, ...]:
        return tuple(f"the {self.measured(parameter)} {_of_all(s)}" for s in self.groups)


@dataclass(frozen=True, eq=False, kw_only=True)
class RepeatedSamples(SeveralSamples):
    """The same cases under several conditions; a sample for each."""

    matrix: Floats
    """Cases in rows, conditions in columns."""

    @property
    def used(self) -> int:
        return int(self.matrix.shape[0])

    def meanings(self, parameter: str) -> tuple[str, ...]:
        many = plural(self.noun)
        return tuple(f"the {parameter} {s.label} of all {many}" for s in self.groups)


@dataclass(frozen=True, eq=False, kw_only=True)
class TwoFactorSamples(SeveralSamples):
    """A number by two categories; a sample for each pair of levels that occurs."""

    factors: tuple[str, str]
    levels: tuple[tuple[str, ...], tuple[str, ...]]
    """Those that have values."""
    values: Floats
    codes: tuple[Ints, Ints]
    """For each value the place of its level, of both categories."""
    effect: str = "interaction"
    """What is claimed: that, or the effect of the "first" or the "second" category."""

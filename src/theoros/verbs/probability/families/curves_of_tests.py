"""The curves of tests: t, chi-square and F."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.student import StudentT
from theoros.verbs.core.slots import TypeNumber
from theoros.verbs.probability.values.variable import Parameter, Variable

DF = TypeNumber(0, 1e9, low_open=True, help="Degrees of freedom.")


@dataclass(frozen=True)
class StudentCurve(Variable):
    kind: ClassVar[str] = "t"
    label: ClassVar[str] = "t"
    help: ClassVar[str] = "Student’s t, for means whose spread is estimated."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 22
    parameters: ClassVar[tuple[Parameter, ...]] = (Parameter("df", "df", "the degrees of freedom", DF),)
    df: float | None = None

    def made(self) -> StudentT:
        assert self.df is not None
        return StudentT(float(self.df))


@dataclass(frozen=True)
class ChiSquareCurve(Variable):
    kind: ClassVar[str] = "chi-square"
    label: ClassVar[str] = "chi-square"
    help: ClassVar[str] = "Chi-square, for counts and for variances."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 23
    parameters: ClassVar[tuple[Parameter, ...]] = StudentCurve.parameters
    df: float | None = None

    def made(self) -> ChiSquare:
        assert self.df is not None
        return ChiSquare(float(self.df))


@dataclass(frozen=True)
class FisherCurve(Variable):
    kind: ClassVar[str] = "F"
    label: ClassVar[str] = "F"
    help: ClassVar[str] = "Fisher’s F, for the ratio of two variances."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 24
    parameters: ClassVar[tuple[Parameter, ...]] = (
        Parameter("df1", "df1", "the degrees of freedom of the upper variance", DF),
        Parameter("df2", "df2", "the degrees of freedom of the lower variance", DF),
    )
    df1: float | None = None
    df2: float | None = None

    def made(self) -> FisherF:
        assert self.df1 is not None
        assert self.df2 is not None
        return FisherF(float(self.df1), float(self.df2))


SITUATIONS = (StudentCurve, ChiSquareCurve, FisherCurve)

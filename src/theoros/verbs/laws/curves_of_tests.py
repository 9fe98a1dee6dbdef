"""The curves of tests: t, chi-square and F."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.student import StudentT
from theoros.verbs.core.slots import TypeNumber
from theoros.verbs.laws.law import Law, parameter

DF = TypeNumber(0, 1e9, low_open=True, help="Degrees of freedom.")


@dataclass(frozen=True)
class StudentCurve(Law):
    kind: ClassVar[str] = "t"
    label: ClassVar[str] = "t"
    help: ClassVar[str] = "Student’s t, for means whose spread is estimated."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 22
    usual: ClassVar[tuple[float, ...]] = (10.0,)
    df: float | None = parameter("df", "the degrees of freedom", DF)

    def made(self) -> StudentT:
        return StudentT(*self.given)


@dataclass(frozen=True)
class ChiSquareCurve(Law):
    kind: ClassVar[str] = "chi-square"
    label: ClassVar[str] = "chi-square"
    help: ClassVar[str] = "Chi-square, for counts and for variances."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 23
    usual: ClassVar[tuple[float, ...]] = (5.0,)
    df: float | None = parameter("df", "the degrees of freedom", DF)

    def made(self) -> ChiSquare:
        return ChiSquare(*self.given)


@dataclass(frozen=True)
class FisherCurve(Law):
    kind: ClassVar[str] = "F"
    label: ClassVar[str] = "F"
    help: ClassVar[str] = "Fisher’s F, for the ratio of two variances."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 24
    usual: ClassVar[tuple[float, ...]] = (5.0, 10.0)
    df1: float | None = parameter("df1", "the degrees of freedom of the upper variance", DF)
    df2: float | None = parameter("df2", "the degrees of freedom of the lower variance", DF)

    def made(self) -> FisherF:
        return FisherF(*self.given)


LAWS = (StudentCurve, ChiSquareCurve, FisherCurve)

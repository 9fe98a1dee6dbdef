"""Pivots: (estimate − parameter) / standard error, whose distribution is known.

One pivot gives the test of a claim and the interval, so that they cannot part from each other.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from theoros.answer.formulas.formula import Formula
from theoros.numeric.distributions.distribution import Distribution
from theoros.verbs.procedures.intervals import HowWorked, by_curve
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import EffectSize, Question, Run, Steps

Lines = tuple[Formula, ...]


@dataclass(frozen=True)
class Pivot:
    """An estimate with its standard error, and how both are worked out."""

    curve: Distribution
    """Of (estimate − parameter) / standard error."""
    symbol: str
    estimate: float
    """In the units of the parameter; the value under H0 is not taken off."""
    standard_error: float
    lines: Lines = ()
    """The statistic of a test, in letters and with the numbers put in."""
    point: Lines = ()
    """The estimate."""
    error: Lines = ()
    """The standard error."""
    df: Lines = ()
    """The degrees of freedom, where there are any."""
    df_said: str = ""
    """A sentence before them in a test."""
    axis: str = ""
    text: str = ""
    """The statistic with its symbol and degrees of freedom, if that is more than the symbol."""
    with_df: str = ""
    figures: Mapping[str, float] = field(default_factory=dict)
    effects: tuple[EffectSize, ...] = ()
    observed: float | None = None
    """The statistic at the value under H0 that was asked about, where it is worked out already."""

    def statistic(self, null: float) -> float:
        return self.observed if self.observed is not None else (self.estimate - null) / self.standard_error

    def ends(self, confidence: float) -> tuple[float, float]:
        """estimate ± critical value × standard error; `confidence` is between 0 and 1."""
        reach = self.curve.critical(1 - confidence, "different") * self.standard_error
        return self.estimate - reach, self.estimate + reach


def test_of(pivot: Callable[[Question], Pivot]) -> Run:
    """The half of a procedure that tests a claim, with the interval that says the same."""

    def run(question: Question) -> Steps:
        p = pivot(question)
        lines = (*p.lines, *((p.df_said,) if p.df_said else ()), *p.df)
        result = result_of(
            question,
            p.curve,
            p.statistic(question.null),
            p.symbol,
            lines,
            estimate=p.estimate,
            axis=p.axis,
            text=p.text,
            figures=p.figures,
            with_df=p.with_df,
            standard_error=p.standard_error,
            interval=None if question.confidence is None else p.ends(question.confidence),
            effects=p.effects,
        )
        yield result, 1.0

    return run


def interval_of(pivot: Callable[[Question], Pivot]) -> Run:
    """The half of a procedure that gives an interval, with all steps of its working."""

    def run(question: Question) -> Steps:
        p = pivot(question)
        decimals = int(getattr(question.data, "decimals", 4)) if question.parameter.in_units else 4
        yield (
            by_curve(
                question,
                p.curve,
                p.symbol,
                p.estimate,
                p.standard_error,
                how=HowWorked(p.point, p.error, p.df),
                decimals=decimals,
            ),
            1.0,
        )

    return run

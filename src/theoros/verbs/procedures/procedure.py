"""What a procedure is: a question about data in, a result out.

Test reads the p-value of a result, Estimate the interval, from the same module. What a result's
distribution gives for its region is its p-value, and the region is what a picture shades.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cache
from typing import TYPE_CHECKING, Literal, TypeVar

from theoros.numeric.arrays import Alternative
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.plugins import listed_in
from theoros.verbs.data.data import Family, data_kinds
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.parameters.parameter import Parameter, parameters

if TYPE_CHECKING:
    from theoros.answer.parts import ResultTable, Section, Step


class ProcedureFails(Exception):
    """A procedure that is not defined for these data, with the reason in words."""


D = TypeVar("D")


@dataclass(frozen=True)
class Settings:
    """What can be set of procedures; each uses what it knows."""

    continuity: bool = True
    replicates: int = 10_000
    seed: int = 1
    sigmas: tuple[float | None, float | None] = (None, None)
    """Standard deviations of the populations, where they are known."""
    pairs: str = "Tukey"
    """How pairs of several means are compared: Tukey, Bonferroni or Holm."""
    sums: Literal["II", "III", "I"] = "II"
    """The type of sums of squares, where pairs of levels have different numbers of values."""
    share: float = 0.9
    """Of the population below the quantile that is asked about."""
    population: int | None = None
    """How many cases there are in all, where a total is asked about."""


@dataclass(frozen=True)
class Question:
    """What a procedure is asked: a parameter of data, and a claim about it or how sure to be."""

    data: Observation
    parameter: Parameter
    null: float = 0.0
    """The value of the parameter under H0."""
    alternative: Alternative | None = None
    """Which way H1 points; None where no p-value is asked for."""
    alpha: float = 0.05
    confidence: float | None = None
    """Level of the interval, between 0 and 1; None where none is asked for."""
    tails: tuple[float, float] | None = None
    """What an interval leaves out below and above; halves of what the confidence leaves, if
    None."""
    settings: Settings = field(default_factory=Settings)
    in_full: bool = True
    """Whether what follows from the result is wanted too, such as which pairs differ."""

    @property
    def level(self) -> float:
        """Of intervals that go with the test: 1 − α, and below 1 however small α is."""
        return min(1 - self.alpha, 1 - 1e-12)

    def of(self, *kinds: type[D]) -> D:
        """The data, which are of one of these kinds: the families that a procedure takes say so."""
        assert isinstance(self.data, kinds)
        return self.data


@dataclass(frozen=True)
class EffectSize:
    """How large it is, whatever n: a measure with a word for its size."""

    name: str
    value: float
    word: str = ""
    """ "small", "medium" or "large" by the rule that `source` names; empty for none."""
    source: str = "Cohen 1988"


@dataclass(frozen=True)
class Result:
    """What a procedure found."""

    estimate: float
    """Of the parameter, in data units; the null value is not taken off."""
    statistic: float
    statistic_text: str
    """The statistic with its symbol: "t = 2.31, df = 12.6"."""
    standard_error: float | None = None
    distribution: Distribution | None = None
    """Of the statistic under H0; None where no claim was asked about."""
    observed: float = 0.0
    """Where on the axis of that distribution the data lie."""
    observed_text: str = ""
    region: Region | None = None
    """The part of that axis that counts: its probability is p."""
    p: float | None = None
    interval: tuple[float, float] | None = None
    figures: Mapping[str, float] = field(default_factory=dict)
    """Every number of the result by name, for machine-read output."""
    working: tuple[Step, ...] = ()
    critical: str = ""
    """The critical value in symbols, where there is one."""
    lookup: tuple[str, ...] = ()
    """Where a printed table has it, as a sentence."""
    rejection: Region | None = None
    """The part of the axis in which H0 is rejected, where there is a critical value."""
    least_p: float = 0.0
    """The smallest p-value that this procedure could have given with so many values."""
    too_few: str = ""
    """What there is too little of where that is not below α: "100 shuffles"."""
    margin: float = 0.0
    """Of a simulated p-value: how far, in 95 of 100 simulations, it lies at most from that of all."""
    exact_p: float | None = None
    """The p-value by the exact law of what was simulated, where that is known."""
    remarks: tuple[str, ...] = ()
    """What must be said of the method: exact or normal, ties, pairs dropped."""
    effects: tuple[EffectSize, ...] = ()
    tables: tuple[ResultTable, ...] = ()
    """Figures of its own, such as the table of an analysis of variance."""
    sections: tuple[Section, ...] = ()
    """What follows from it, such as which pairs differ."""
    bell: Distribution | None = None
    """A curve to compare a pile of replicates with, drawn over it."""
    axis: str = ""
    """What the axis of the distribution is called."""
    title: str = "Distribution of the statistic, if H₀ is true"
    """Above its picture."""


CAPITALS = frozenset(
    ("Welch", "Bonett", "F", "Fisher", "McNemar", "Brown–Forsythe", "Kruskal–Wallis", "G", "Pearson",
     "Spearman", "Kendall", "Friedman", "Shapiro–Wilk", "Anderson–Darling", "Wilson",
     "Clopper–Pearson", "Agresti–Coull", "Agresti–Caffo", "Newcombe", "BCa")
)  # fmt: skip
"""First words of labels that are names, or letters."""
Steps = Iterator[tuple[Result | None, float]]
"""What is known so far (or nothing new), and the share of the work that is done."""


Run = Callable[[Question], Steps]
"""Yields steps; the last holds the result. Raises ProcedureFails."""


@dataclass(frozen=True)
class AsInterval:
    """The half of a procedure that gives an interval, with what is another there than in a test."""

    run: Run
    label: str = ""
    help: str = ""
    compares: tuple[str, ...] = ()


@dataclass(frozen=True)
class Procedure:
    """A procedure: a test, an interval, or both from the same estimate and error.

    A new one is a module of this package that lists it in `PROCEDURES`.
    """

    name: str
    label: str
    help: str
    families: tuple[Family, ...]
    """The data it takes."""
    compares: tuple[str, ...]
    """The names of the parameters it is about, the usual one first."""
    needs: tuple[str, ...]
    """The conditions it leans on, by name."""
    test: Run | None = None
    """What tests a claim; None where it gives intervals alone."""
    order: int = 0
    simulated: bool = False
    from_figures: bool = False
    """Whether n, mean and standard deviation are all it needs of a sample."""
    settings: tuple[str, ...] = ()
    """The fields of Settings that it uses."""
    watched: bool = False
    """Whether its replicates are what is shown where resampling itself is asked about."""
    interval: AsInterval | None = None
    """What gives an interval; None where it tests claims alone."""
    asks: str = ""
    """A field of Settings without which it is not offered; empty for none."""
    own_parameter: tuple[str, ...] = ()
    """The symbol and the name of what it tests where that is only of the kind that was asked about."""
    other_names: tuple[str, ...] = ()
    """What courses and other books call it, to be found by."""

    def offered(self, settings: Settings) -> bool:
        """Whether what it cannot do without is known."""
        return not self.asks or None not in getattr(settings, self.asks)[: self.counts]

    @property
    def counts(self) -> int:
        """How many sides its data have."""
        return 2 if any("two" in family for family in self.families) else 1

    @property
    def inline(self) -> str:
        """Its name within a sentence: only names of people keep their capital."""
        first = self.label.split()[0].rstrip(",")
        return self.label if first in CAPITALS else self.label[:1].lower() + self.label[1:]

    def about(self, wanted: str) -> str:
        """The parameter it compares where another was asked for: its own usual one."""
        return wanted if wanted in self.compares else self.compares[0]

    def run(self, question: Question) -> Steps:
        """Tests the claim of the question, or gives an interval where it has none."""
        if question.alternative is not None:
            assert self.test is not None, self.name
            return self.test(question)
        assert self.interval is not None, self.name
        return self.interval.run(question)

    @property
    def for_intervals(self) -> Procedure:
        """The same as it is called where intervals are asked for."""
        assert self.interval is not None
        one = self.interval
        return replace(
            self, label=one.label or self.label, help=one.help or self.help, compares=one.compares or self.compares
        )

    def found(self, question: Question) -> Result:
        """The result itself, without the steps to it. Raises ProcedureFails."""
        result: Result | None = None
        for made, _ in self.run(question):
            result = made or result
        assert result is not None
        return result


Purpose = Literal["test", "interval", "claim by chance", "resampling"]
"""What procedures are for: tests, intervals, and those of either that draw by chance."""


@cache
def procedures(purpose: Purpose = "test") -> Mapping[str, Procedure]:
    """The procedures by name, in the order they are shown."""
    if purpose == "claim by chance":
        return {name: one for name, one in procedures("test").items() if one.simulated}
    if purpose == "resampling":  # the others cut the same pile in another way
        return {name: one for name, one in procedures("interval").items() if one.watched}
    every = listed_in("theoros.verbs.procedures", "PROCEDURES")
    if purpose == "interval":
        return {one.name: one.for_intervals for one in every if one.interval is not None}
    return {one.name: one for one in every if one.test is not None}


def procedures_for(family: Family, *, typed: bool = False, kin: str = "", purpose: Purpose = "test") -> list[Procedure]:
    """Those that fit the data, and typed figures where there are no rows.

    With `kin`, only those about parameters of that kin.
    """
    return [
        one
        for one in procedures(purpose).values()
        if family in one.families
        and (one.from_figures or not typed)
        and (not kin or any(parameters()[name].kin == kin for name in one.compares))
    ]


def suggested(methods: Sequence[Procedure], parameter: str, fails: Callable[[Procedure], bool]) -> Procedure | None:
    """The first procedure for the question that was asked whose assumptions do not fail; None for none.

    What is for judgement is no reason to turn to another: the larger a sample, the less a t
    procedure needs of it, and of a small one nothing can be seen that would tell. How good this
    advice is, `benchmarks/advice.py` measures.
    """
    return next((method for method in methods if parameter in method.compares and not fails(method)), None)


@cache
def compared(family: Family | None = None, purpose: Purpose = "test") -> tuple[str, ...]:
    """The parameters that some procedure, or some for these data, is about, by name."""
    found = [one for one in procedures(purpose).values() if family is None or family in one.families]
    names = dict.fromkeys(name for one in found for name in one.compares)
    return tuple(name for name in names if family is None or family in parameters()[name].families)


def default_procedure(parameter: str, family: Family, *, typed: bool = False, purpose: Purpose = "test") -> str:
    """The first that is about this parameter; empty where there is none."""
    if parameter not in compared(family, purpose):
        return ""
    fitting = procedures_for(family, typed=typed, purpose=purpose)
    return next((one.name for one in fitting if parameter in one.compares), "")


def kinds_for(parameter: Parameter, purpose: Purpose = "test") -> list[str]:
    """The ways of having data on which a procedure can be asked about a parameter."""
    return [
        kind
        for kind, cls in data_kinds().items()
        if procedures_for(cls.family, typed=cls.bare(), kin=parameter.kin, purpose=purpose) and not cls.stands_for
    ]

"""An estimate as far as it is worked out: its question, its confidence, what it plans."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property

from theoros.answer.cannot import CannotAnswer
from theoros.answer.formulas.formula import Formula
from theoros.answer.parts import Answer, Draft, Section
from theoros.answer.wording import exact, with_unit
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import Observed
from theoros.verbs.estimate.pictures import FEW_RESAMPLES, SampleSizePlan, coverage, plan_of, planning_section
from theoros.verbs.estimate.statement import EstimateStatement, plans
from theoros.verbs.estimate.words import Estimated
from theoros.verbs.procedures.drafting import Results, cannot_answer
from theoros.verbs.procedures.intervals import level
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result
from theoros.verbs.procedures.report import ProcedureReport
from theoros.verbs.procedures.resampled_data import can_draw


@dataclass(frozen=True)
class EstimateReport(ProcedureReport):
    """An estimate with its data, ready to be written up with whatever results are there."""

    statement: EstimateStatement
    confidence: float = 0.95
    found: list[Floats] = field(default_factory=list)
    """Of the samples that are drawn to see how often intervals hold."""
    weakened = "the true confidence is lower than it looks"

    def covered(self, results: Results, write: Callable[[Results], Answer]) -> Iterator[Draft]:
        """Draws those samples, once all else is there; the picture fills as they come in."""
        s, result = self.statement, results[self.statement.method]
        if not (s.covering and isinstance(result, Result) and result.interval is not None and can_draw(self.data)):
            return
        drawn = coverage(self.data, self._ask_again(s.procedure), s.seed)
        every = max(1, round(FILLS * s.covering))
        for count in drawn.grow(s.covering):
            fills = count % every == 0 or count == s.covering
            self.found[:] = [drawn.first(count)] if fills else self.found
            yield Draft(write(results) if fills else None, count / s.covering, "Drawing samples")

    def question(self, method: Procedure, confidence: float | None = None) -> Question:
        s, sure = self.statement, confidence or self.confidence
        out = 1 - sure
        tails = {"both": (out / 2, out / 2), "lower": (out, 0.0), "upper": (0.0, out)}[s.bound]
        if s.below is not None and s.bound == "both" and "tails" in method.settings:
            if s.below >= out:
                raise ProcedureFails(
                    f"leaves {level(out)} out in all, which is not more than the {level(s.below)} below"
                )
            tails = (s.below, out - s.below)
        return Question(
            self.data, s.about, confidence=sure, tails=tails, settings=s.known, in_full=method.name == s.method
        )

    def drawn(self, method: Procedure) -> Iterator[Draft]:
        """Draws what a simulated way needs, and tells how far it is."""
        try:
            for _, done in method.run(self.question(method)):
                yield Draft(None, done, DRAWING)
        except ProcedureFails:
            return  # the reading says why

    def following(self) -> float:
        """The confidence that goes with what is given."""
        s = self.statement
        assert s.given is not None
        value: float = getattr(s, s.given)
        method = s.procedure
        said = with_unit(exact(value), self.words.unit)
        try:
            return confidence_for(lambda sure: method.found(self.question(method, sure)), s.given, value, said)
        except ProcedureFails as why:
            raise CannotAnswer(cannot_answer(method, str(why)), "method") from None

    @cached_property
    def words(self) -> Estimated:
        assert isinstance(self.data, Observed)
        return Estimated(self.data, self.statement.about, self.statement.share)

    def _told(self, result: Result) -> str:
        if result.interval is None:
            return result.remarks[0] if result.sections else ""
        return self.words.headline(result.interval, self.confidence, result.estimate, self.statement.bound)

    def _ask_again(self, method: Procedure) -> Callable[[Observation], Result]:
        """The same of other data; with fewer resamples, as there are many samples."""
        question = self.question(method)
        few = replace(question.settings, replicates=min(FEW_RESAMPLES, self.statement.replicates))
        question = replace(question, in_full=False, settings=few)
        return lambda data: method.found(replace(question, data=data))

    @cached_property
    def _plan(self) -> SampleSizePlan | None:
        if not plans(self.statement):
            return None
        return plan_of(self.words, self.question(self.statement.procedure))

    @cached_property
    def _planned(self) -> tuple[Section, tuple[str | Formula, ...]]:
        s, plan, bare = self.statement, self._plan, None
        assert plan is not None
        if s.parameter == "proportion":
            bare = plan_of(self.words, self.question(s.procedure), guess=False)
        return planning_section(self.words, plan, s.wanted_margin, s.planned, bare)


LEAST, MOST = 1e-4, 8.0
"""Of the normal value that stands for a confidence: from nearly nothing to all but 1e-15."""


Ask = Callable[[float], Result]


def confidence_for(ask: Ask, given: str, value: float, said: str) -> float:
    """The confidence at which an interval has the end or the margin that is given.

    `ask` gives the result at a confidence. `said` is the value in words. Raises CannotAnswer
    where no confidence gives it.
    """
    from scipy.optimize import brentq

    estimate = ask(0.5).estimate
    if given == "low" and value >= estimate:
        raise CannotAnswer(f"The lower end lies below the estimate, and {said} does not. Type a lower one.", given)
    if given == "high" and value <= estimate:
        raise CannotAnswer(f"The upper end lies above the estimate, and {said} does not. Type a higher one.", given)
    curve = Normal()

    def confidence(at: float) -> float:
        return 1 - 2 * float(curve.sf(at))

    def gap(at: float) -> float:
        """How much wider than asked for; as wide as can be where the way gives up."""
        try:
            low, high = _ends(ask(confidence(at)))
        except ProcedureFails:
            return math.inf
        found = {"low": value - low, "high": high - value, "margin": (high - low) / 2 - value}
        return found[given]

    least, most = gap(LEAST), gap(MOST)
    if least > 0:
        raise CannotAnswer(
            (
                f"No confidence level gives {said}: even the narrowest interval of this method is wider. Type "
                "another value."
            ),
            given,
        )
    widest = CannotAnswer(
        (f"No confidence level gives {said}: even the widest interval of this method is narrower. Type another value."),
        given,
    )
    if most < 0:
        raise widest
    low, high = LEAST, MOST
    if math.isinf(most) or not math.isfinite(gap((low + high) / 2)):
        for _ in range(60):  # the way gives up somewhere, which no secant can bear
            middle = (low + high) / 2
            low, high = (middle, high) if gap(middle) <= 0 else (low, middle)
        if math.isinf(gap(high)):
            raise widest
        return confidence(low)
    return confidence(brentq(gap, low, high, xtol=1e-12, rtol=1e-13))


def _ends(result: Result) -> tuple[float, float]:
    if result.interval is None:
        raise ProcedureFails(result.remarks[0])
    return result.interval


DRAWING = "Drawing resamples"


FILLS = 0.1
"""After such a part of the samples the picture of them is shown anew."""

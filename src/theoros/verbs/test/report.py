"""A test as far as it is worked out: its question, its hypotheses, the interval that says the same."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim
from theoros.verbs.procedures.hypotheses.hypotheses import Claim
from theoros.verbs.procedures.hypotheses.omnibus import claim_of
from theoros.verbs.procedures.procedure import Procedure, Question, Result
from theoros.verbs.procedures.report import ProcedureReport
from theoros.verbs.test.pictures import MatchingInterval
from theoros.verbs.test.statement import TestStatement


@dataclass(frozen=True)
class TestReport(ProcedureReport):
    """A test with its data, ready to be written up with whatever results are there."""

    statement: TestStatement
    weakened = "p tells less than it seems to"

    def question(self, method: Procedure) -> Question:
        """What a procedure is asked: about its own parameter, where it knows no other."""
        s = self.statement
        return Question(
            self.data,
            self.asked_about(method),
            s.supposed,
            s.direction,
            s.alpha,
            confidence=self.confidence,
            settings=s.known,
            in_full=method.name == s.method,
        )

    @property
    def confidence(self) -> float | None:
        """Of the interval that says the same as the test; None where there is none such."""
        s = self.statement
        made = 1 - (s.alpha if s.direction == "different" else 2 * s.alpha)
        return made if 0 < made < 1 else None

    @cached_property
    def words(self) -> Claim:
        s, about = self.statement, self.statement.about
        if own := s.procedure.own_parameter:
            about = replace(about, symbol=own[0], name=own[1])
        return claim_of(self.data, about, s.direction, s.supposed, s.alpha, s.bounded)

    def _interval(self, result: Result | None) -> MatchingInterval | None:
        """What matches a result, where there is such an interval."""
        words, confidence = self.words, self.confidence
        if result is None or result.interval is None or confidence is None:
            return None
        if not isinstance(words, ComparisonClaim):
            return None
        return MatchingInterval(words, result.interval, confidence, self.statement.bound)


SHUFFLING = "Shuffling"

"""The verb of probabilities: how its statements are made, and what is said of it."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.verbs.core.registry import Findable, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.counts import TwoCategories
from theoros.verbs.laws.binomial import BinomialCount
from theoros.verbs.laws.curves_of_tests import StudentCurve
from theoros.verbs.laws.normal import NormalMeasure
from theoros.verbs.probability.data import situations
from theoros.verbs.probability.outcomes.tree import TreeOfStages
from theoros.verbs.probability.outcomes.two_way import TwoWayTable
from theoros.verbs.probability.statement import ProbabilityStatement


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """An empty binomial question: no table is needed."""
    return ProbabilityStatement(table=table if table in tables else "")


VERB = Verb(
    ProbabilityStatement,
    "Probability",
    "Find the probability of an event, or the value that belongs to a probability.",
    suggest,
    order=30,
    examples=(
        ProbabilityStatement(
            situation=BinomialCount(12, 0.85),
            counts="sound seals",
            each="crate",
            parts=("exactly 11", "no more than 8", "more than 8", "from 9 to 11"),
            chosen=3,
        ),
        ProbabilityStatement(
            situation=NormalMeasure(62.0, 9.5),
            counts="leaf length",
            each="leaf",
            unit="mm",
            parts=("more than 75", "between 55 and 70", "top 10 %"),
        ),
        ProbabilityStatement(situation=StudentCurve(14.0), parts=("both tails 0.05", "X > 2.31")),
        ProbabilityStatement(
            table="bushes",
            parts=("netted and fine", "fine given open"),
            situation=TwoWayTable(data=TwoCategories(what="netting", by="grade")),
        ),
        ProbabilityStatement(
            situation=TreeOfStages("mite, no mite", "spotted, clean", chances=(0.02, 0.9, 0.15)),
            each="leaf",
            parts=("spotted", "mite given spotted"),
        ),
    ),
    methods=lambda: [
        Findable(one.label.split(",")[0], one.help, "situation", kind) for kind, one in situations().items()
    ],
)

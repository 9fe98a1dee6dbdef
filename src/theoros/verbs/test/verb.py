"""Test as a verb: what it suggests and offers, its examples, and what its slots are for."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import numbers_and_groups
from theoros.verbs.data.data import Data
from theoros.verbs.data.one_sample import Levels
from theoros.verbs.data.two_columns import Pairs, TwoColumns
from theoros.verbs.data.two_factors import TwoFactors
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.data.typed import TypedGroup, TypedSamples
from theoros.verbs.procedures.procedure import procedures
from theoros.verbs.test.guide import GUIDE
from theoros.verbs.test.statement import TestStatement


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """What the selected columns can be asked; two means, as long as none is selected."""
    own = tables.get(table)
    if own is None:
        return TestStatement(table=table, data=TypedSamples())
    numbers, grouping = numbers_and_groups(own, columns)
    if len(numbers) == 1 and len(grouping) == 2:
        factors = TwoFactors(numbers[0], *grouping)
        return TestStatement(table=table, data=factors.filled(own), way="interaction")
    if not numbers and (len(grouping) > 1 or (grouping and not own.of_kind(Kind.NUMBER))):
        return GUIDE.statement(GUIDE.preset(own, columns), tables, table, columns)
    if len(numbers) < 2 and grouping and len(own.levels(grouping[0])) > 2:
        levels = Levels(numbers[0] if numbers else None, grouping[0])
        return TestStatement(table=table, data=levels.filled(own), way="anova")
    what = numbers[0] if numbers else None
    categories = own.of_kind(Kind.CATEGORY, Kind.ORDERED)
    data: Data = TwoLevels(what, grouping[0] if grouping else None)
    if len(numbers) >= 2 or (not categories and len(own.of_kind(Kind.NUMBER)) >= 2):
        data = TwoColumns(what, numbers[1] if len(numbers) > 1 else None)
    return TestStatement(table=table, data=data.filled(own))


def offers(table: Table, column: Column) -> list[Offer]:
    """Whether the two levels of a category differ in the first number there is."""
    if not column.kind.is_grouping or len(table.levels(column.name)) != 2:
        return []
    numbers = [c for c in table.of_kind(Kind.NUMBER) if c.name != table.counts]
    if not numbers:
        return []
    (one, two), what = table.levels(column.name), numbers[0].name
    made = TestStatement(table=table.name, data=TwoLevels(what, column.name, None, one, two))
    return [Offer(f"Test whether {one} and {two} differ in {what}", made, 30)]


VERB = Verb(
    TestStatement,
    "Test",
    "Put a claim about two means or medians to the test.",
    suggest,
    order=40,
    offers=offers,
    guide=GUIDE,
    examples=(
        TestStatement(
            table="trays",
            data=TwoLevels("moisture loss", "withering", first="slow", second="quick", design="separate"),
            parameter="median",
            alternative="greater",
            alpha=0.01,
            way="rank sum",
        ),
        TestStatement(
            table="tasters", data=Pairs("score after", "score before"), alternative="greater", way="paired t"
        ),
        TestStatement(
            data=TypedSamples(
                "moisture loss",
                "%",
                (TypedGroup("slow trays", 11, 64.3, 2.1), TypedGroup("quick trays", 11, 61.9, 2.6)),
            ),
            alternative="greater",
        ),
    ),
    methods=lambda: [(way.label, way.help, "way", way.name) for way in procedures().values()],
    slot_help={
        "parameter": "What is compared.",
        "data": "How the data are had; see “Data” below.",
        "alternative": "Which way H₁ points, first against second.",
        "null": "The value that is claimed of one side, or the difference, first minus second, if H₀ is true.",
        "alpha": "Significance level, between 0 and 1.",
        "way": "How the p-value is found; the other ways are worked out too.",
        "continuity": "Continuity correction, where ranks are read off the normal curve.",
        "shuffles": "How often labels or signs are dealt out again, 100 to 1 000 000.",
        "seed": "Seed of the simulation.",
        "sigma": "Standard deviation of the first population, where it is known.",
        "true_value": "The true value that is supposed, to plan with; null for none.",
        "power": "The power that is wanted, between 0 and 1.",
        "rejection": "Whether the rejection region is shaded rather than p.",
        "bounded": "Whether H₀ of a one-sided claim is written with ≤ or ≥.",
        "bound": "Whether the interval of a one-sided claim is a one-sided bound.",
        "pairs": "How pairs of several means are compared.",
        "claimed": "Claimed shares of the levels: a ratio 9:3:3:1, per cent, or a distribution "
        "such as Poisson or normal(62, 9); empty for equal.",
        "independent": "Whether cases tell nothing about each other.",
        "because": "Why they do not, for the report.",
        "part": "Whether the sample is at most 5 % of the population (small), or more (large).",
        "sums": "The type of sums of squares where pairs of levels differ in how many they have.",
        "merge": "Whether levels are merged until 5 cases are expected of each.",
        "other_sigma": "Standard deviation of the second population, where it is known.",
    },
)

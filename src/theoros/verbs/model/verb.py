"""Model as a verb: what it suggests and offers, its examples, and what its slots are for."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.fields import GROUPING
from theoros.verbs.core.registry import Findable, Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import numbers_and_groups
from theoros.verbs.model.statement import ModelStatement, curves

MOST_LEVELS = 20
"""Of a category with more levels the probability of one is not offered."""


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """The first number selected from the second; with a category, a line for each of its levels."""
    own = tables.get(table)
    if own is None:
        return ModelStatement(table=table)
    numbers, groups = numbers_and_groups(own, columns)
    rest = [c.name for c in own.of_kind(Kind.NUMBER) if c.name not in numbers]
    rest.sort(key=lambda name: name == own.counts)
    what, against = (*numbers, *rest, None, None)[:2]
    groups = [name for name in groups if name in columns and len(columns) > 1]
    by = groups[0] if groups and len(numbers) != 1 else None
    if len(numbers) == 1 and groups:  # a number and a category: what goes with the levels
        against = groups[0]
    return ModelStatement(table=table, what=what, against=against, by=by)


def offers(table: Table, column: Column) -> list[Offer]:
    """A line from the next number; of a category, the probability of its first level."""
    if column.kind in GROUPING:
        number = next((c.name for c in table.of_kind(Kind.NUMBER) if c.name != table.counts), None)
        levels = tuple(table.levels(column.name))
        if number is None or not 2 <= len(levels) <= MOST_LEVELS:
            return []
        odds = ModelStatement(table=table.name, what=column.name, level=levels[0], against=number)
        said = f"Model whether {column.name} is {levels[0]} from {number}"
        return [Offer(said, odds, 80)]
    if column.kind is not Kind.NUMBER or column.name == table.counts:
        return []
    other = next((c.name for c in table.of_kind(Kind.NUMBER) if c.name != column.name), None)
    if other is None:
        return []
    made = ModelStatement(table=table.name, what=column.name, against=other)
    return [Offer(f"Model {column.name} from {other}", made, 50)]


VERB = Verb(
    ModelStatement,
    "Model",
    "Fit a line, a curve, several predictors, or the odds of an outcome.",
    suggest,
    order=70,
    offers=offers,
    examples=(
        ModelStatement(table="bushes", what="leaf mass", against="leaf length", read=72.0),
        ModelStatement(
            table="ovens", what="moisture left", against="temperature", curve="quadratic", residuals="along"
        ),
        ModelStatement(table="bushes", what="leaf mass", against="leaf length", by="cultivar"),
        ModelStatement(table="bushes", what="pluck mass", against="leaf length", by="netting"),
        ModelStatement(table="bushes", what="leaf mass", against="leaf length", also=("elevation", "cultivar")),
        ModelStatement(table="bushes", what="cultivar", level="Jade", against="leaf length", read=70.0),
    ),
    other_names=("regression", "trend line", "line of best fit"),
    methods=lambda: [
        *(
            Findable(f"{one.listed}: model", "One number predicted from another.", "curve", name)
            for name, one in curves().items()
        ),
        Findable("multiple regression, several predictors", "A number predicted from several columns."),
        Findable("logistic regression, odds ratios, ROC curve", "The probability of a level."),
    ],
)

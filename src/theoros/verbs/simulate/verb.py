"""Simulate as a verb: what it suggests and offers, its examples, and what its slots are for."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import Findable, Later, Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import numbers_and_groups
from theoros.verbs.data.data import Data
from theoros.verbs.data.one_sample import OneColumn
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.data.two_numbers import TwoNumbers
from theoros.verbs.procedures.procedure import default_procedure
from theoros.verbs.simulate.models.model import models
from theoros.verbs.simulate.statement import SimulateStatement


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """A share, for which no table is needed; of selected columns, what was seen drawn again."""
    from theoros.verbs.simulate.models.population import ColumnModel

    own = tables.get(table)
    if own is None or not columns:
        return SimulateStatement(table=table if own else "")
    numbers, groups = numbers_and_groups(own, columns)
    data: Data
    if len(numbers) >= 2:
        data = TwoNumbers(numbers[0], numbers[1]).filled(own)
        return _claim(table, data, "correlation")
    if numbers and groups:
        return _claim(table, TwoLevels(numbers[0], groups[0]).filled(own), "mean")
    if numbers:
        return SimulateStatement(
            table=table, model=ColumnModel(numbers[0], 10), statistic="mean", data=OneColumn(numbers[0])
        )
    return SimulateStatement(table=table, model=ColumnModel(groups[0] if groups else None, 10), statistic="number")


def _claim(table: str, data: Data, parameter: str) -> Statement:
    from theoros.verbs.simulate.models.procedures import ClaimModel

    method = default_procedure(parameter, data.family, purpose="claim by chance")
    return SimulateStatement(
        table=table, data=data, parameter=parameter, method=method, model=ClaimModel(), ask="as far"
    )


def offers(table: Table, column: Column) -> list[Offer]:
    """Samples of a number column."""
    if column.kind is Kind.NUMBER and column.name != table.counts:
        from theoros.verbs.simulate.models.population import ColumnModel

        made = SimulateStatement(
            table=table.name, model=ColumnModel(column.name, 10), statistic="mean", data=OneColumn(column.name)
        )
        return [Offer(f"Draw samples of {column.name}", made, 60)]
    return []


def _examples() -> Sequence[Statement]:
    """With the models that they are of, which are imported only here."""
    from theoros.answer.typed_number import TypedNumber
    from theoros.verbs.simulate.models.bag import BagModel
    from theoros.verbs.simulate.models.population import ColumnModel, ShapeModel
    from theoros.verbs.simulate.models.procedures import ClaimModel, ResampleModel
    from theoros.verbs.simulate.models.share import ShareModel
    from theoros.verbs.simulate.models.stages import StagesModel
    from theoros.verbs.simulate.models.waiting import WaitModel

    return (
        SimulateStatement(
            model=ShareModel("jar", "leaks", TypedNumber("1/8"), 25), ask="at most", value=1.0, each="crate"
        ),
        SimulateStatement(
            table="trays",
            parameter="mean",
            method="shuffled labels",
            ask="at least",
            model=ClaimModel(),
            data=TwoLevels(what="moisture loss", by="withering", first="slow", second="quick", design="separate"),
        ),
        SimulateStatement(table="bushes", model=ColumnModel("leaf mass", 12), statistic="mean", also=("median",)),
        SimulateStatement(
            model=ShapeModel("leaf length", "mm", "skewed right", 62.0, 9.5, 20),
            statistic="mean",
            ask="at least",
            value=66.0,
        ),
        SimulateStatement(model=BagModel("die", "1 to 6", 2), statistic="total", ask="at least", value=10.0),
        SimulateStatement(model=StagesModel("jar", 25), statistic="number", outcome="leaks", ask="at least", value=6.0),
        SimulateStatement(
            model=WaitModel("packet", until="all kinds", listed="1 to 6"), statistic="wait", ask="at most", value=10.0
        ),
        SimulateStatement(
            table="bushes",
            model=ResampleModel(),
            data=OneColumn("leaf mass"),
            parameter="median",
            method="percentile",
            ask="middle",
        ),
    )


VERB = Verb(
    SimulateStatement,
    "Simulate",
    "Draw samples from a model of chance, and see how often they give a result like the observed one.",
    suggest,
    order=60,
    offers=offers,
    examples=Later(_examples),
    methods=lambda: [
        Findable(f"Simulate {one.label}", one.help, "model", kind, one.other_names) for kind, one in models().items()
    ],
)

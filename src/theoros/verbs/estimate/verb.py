"""Estimate as a verb: what it suggests and offers, its examples, and what its slots are for."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import Findable, Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import numbers_and_groups
from theoros.verbs.data.data import Data
from theoros.verbs.data.one_sample import OneColumn
from theoros.verbs.data.shares import LevelShare, TypedShare, TypedSuccesses
from theoros.verbs.data.two_columns import PairedColumns
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.data.two_numbers import TwoNumbers
from theoros.verbs.data.typed import TypedGroup, TypedSample
from theoros.verbs.estimate.statement import EstimateStatement
from theoros.verbs.procedures.procedure import Procedure, default_procedure, procedures


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """What the selected columns can be asked; the mean of the first number, if none is."""
    own = tables.get(table)
    if own is None:
        return EstimateStatement(table=table, data=TypedSample())
    numbers, groups = numbers_and_groups(own, columns)
    data: Data = OneColumn(numbers[0] if numbers else None)
    parameter = "mean"
    if len(numbers) >= 2:
        one, two = numbers[:2]
        data, parameter = TwoNumbers(one, two), "correlation"
        if own.column(one).unit and own.column(one).unit == own.column(two).unit:
            data, parameter = PairedColumns(one, two), "mean"  # the same thing, measured twice
    elif numbers and groups:
        data = TwoLevels(numbers[0], groups[0])
    elif (groups and not numbers) or not own.of_kind(Kind.NUMBER):
        data, parameter = LevelShare(groups[0] if groups else None), "proportion"
    data = data.filled(own)
    method = default_procedure(parameter, data.family, purpose="interval")
    return EstimateStatement(table=table, parameter=parameter, data=data, method=method)


def offers(table: Table, column: Column) -> list[Offer]:
    """The mean of a number, or the share of a level."""
    if column.kind is Kind.NUMBER and column.name != table.counts:
        made = EstimateStatement(table=table.name, data=OneColumn(column.name))
        return [Offer(f"Estimate the mean of {column.name}", made, 40)]
    return []


_SIDES = {
    "one sample": "one group",
    "pairs": "pairs",
    "two samples": "two groups",
    "one share": "one group",
    "two shares": "two groups",
    "several samples": "several groups",
}


def _of(method: Procedure) -> str:
    """What a way is for, to be found by: "mean of one group or pairs"."""
    if len(method.compares) > 2:
        return "any parameter of rows"
    sides = dict.fromkeys(_SIDES[one] for one in method.families if one in _SIDES)
    of = f" of {' or '.join(sides)}" if sides else ""
    return f"{' or '.join(method.compares)}{of}"


VERB = Verb(
    EstimateStatement,
    "Estimate",
    "Estimate how large something is, with a confidence interval.",
    suggest,
    order=50,
    offers=offers,
    examples=(
        EstimateStatement(table="bushes", data=OneColumn("leaf mass")),
        EstimateStatement(
            data=TypedShare("Jade", "guests", (TypedSuccesses("", 33, 60),)),
            parameter="proportion",
            method="percentile of shares",
            replicates=1000,
        ),
        EstimateStatement(
            data=TypedSample("moisture loss", "%", (TypedGroup("slow trays", 11, 64.3, 2.1),)), margin=1.0
        ),
    ),
    methods=lambda: [
        Findable(f"{one.label} interval: {_of(one)}", one.help, "method", one.name, one.other_names)
        for one in procedures("interval").values()
    ],
    other_names=("confidence interval", "margin of error"),
)

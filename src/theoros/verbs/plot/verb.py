"""The verb of plots: how its statements are made, and what is said of it."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import Findable, Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import number_to_ask_about, numbers_and_groups
from theoros.verbs.plot.sentence.fields import kind_of
from theoros.verbs.plot.shapes.shape import shapes
from theoros.verbs.plot.statement import PlotStatement


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """Dots for a number and the category beside it, a scatter of two numbers, bars of levels."""
    own = tables.get(table)
    if own is None:
        return PlotStatement(table=table)
    numbers, groups = numbers_and_groups(own, columns)
    dates = [name for name in columns if kind_of(own, name) is Kind.DATE]
    if dates:
        number = numbers[0] if numbers else number_to_ask_about(own, ())
        return PlotStatement(table=table, what=number, against=dates[0], shape="line")
    if groups and not numbers:
        other = groups[1] if len(groups) > 1 else None
        shape = "bars side by side" if other else "bars"
        return PlotStatement(table=table, what=groups[0], by=other, shape=shape)
    what = number_to_ask_about(own, numbers)
    if len(numbers) > 1:
        # the first selected goes along the axis, as the thing that is varied
        return PlotStatement(
            table=table, what=numbers[1], against=numbers[0], shape="scatter", colour=groups[0] if groups else None
        )
    return PlotStatement(
        table=table, what=what, by=groups[0] if groups else None, colour=groups[1] if len(groups) > 1 else None
    )


def offers(table: Table, column: Column) -> list[Offer]:
    """A number by itself and against another; for a category, numbers in its levels."""
    name = column.name
    numbers = [c.name for c in table.of_kind(Kind.NUMBER) if c.name not in (name, table.counts)]
    if column.kind is Kind.NUMBER:
        made = [Offer(f"Plot {name}", PlotStatement(table=table.name, what=name))]
        if numbers:
            against = PlotStatement(table.name, name, against=numbers[0], shape="scatter")
            made.append(Offer(f"Plot {name} against {numbers[0]}", against, 20))
        return made
    if not column.kind.is_grouping:
        return []
    return [Offer(f"Plot {other} for each {name}", PlotStatement(table.name, other, by=name)) for other in numbers[:2]]


VERB = Verb(
    PlotStatement,
    "Plot",
    "Draw graphs: dots, bins, boxes, bars, one number against another.",
    suggest,
    order=10,
    offers=offers,
    examples=(
        PlotStatement(table="bushes", what="pluck mass", by="netting", colour="grade", bins=4.0),
        PlotStatement(table="bushes", what="leaf mass", against="leaf length", shape="scatter", colour="cultivar"),
        PlotStatement(
            table="bushes",
            what="leaf length",
            by="cultivar",
            shape="histogram",
            scale="percent",
            cut=60.0,
            marks=("boxes", "mean"),
        ),
        PlotStatement(table="bushes", what="grade", by="netting", shape="bars stacked to 100 %"),
        PlotStatement(table="visits", what="visitors", against="month", shape="line"),
    ),
    methods=lambda: (
        *(Findable(one.name, one.help, "shape", one.name, one.other_names) for one in shapes().values()),
        Findable("boxes", "Quartiles and whiskers for each group", "marks", ("boxes",)),
    ),
)

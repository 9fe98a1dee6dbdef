"""The verb of plots: how its statements are made, and what is said of it."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.palette import CATEGORY_NAMES
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import number_to_ask_about, numbers_and_groups
from theoros.verbs.plot.sentence.fields import kind_of
from theoros.verbs.plot.sentence.sentence import MARKS
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
    "Look at the rows themselves: dots, bins, boxes, bars, one number against another.",
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
        *((shape.name, shape.help, "shape", shape.name) for shape in shapes().values()),
        ("boxes", "Quartiles and whiskers for each group", "marks", ("boxes",)),
    ),
    slot_help={
        "what": "The column to plot: a number or a category.",
        "also": "Further number columns, each with a panel or a colour of its own.",
        "hidden": "Levels of the colour that are left out of the picture.",
        "tints": "Colours picked for entries of the legend, such as “blue: fine”; colours: "
        + ", ".join(CATEGORY_NAMES)
        + ".",
        "against": "With “scatter” and “line”: what goes along the horizontal axis.",
        "by": "A category column: a panel, or a bar, for each level. None for all together.",
        "and_by": "A second category: a column of panels for each level.",
        "colour": "A category column that gives marks their colour and shape. None for one colour.",
        "bins": "Width of a bin, above 0. None has one chosen.",
        "start": "Where a bin begins; the others follow. None for a multiple of the width.",
        "scale": "What the height of bars and bins says.",
        "order": "The order of levels; of row bars “levels” is that of the table.",
        "marks": "What is added: " + ", ".join(MARKS) + ".",
        "quartiles": "The quartile rule of the boxes.",
        "cut": "A split line: how many cases lie on each side is said. None for none.",
        "cut2": "A second one, for a range.",
        "low": "Where the axis begins. None shows every case.",
        "high": "Where the axis ends.",
        "bottom": "With “scatter” and “line”: where the vertical axis begins.",
        "top": "With “scatter” and “line”: where the vertical axis ends.",
        "what_log": "Whether the scale of the column plotted is logarithmic.",
        "against_log": "With “scatter” and “line”: whether the horizontal scale is logarithmic.",
        "read": "A reading line: the value of every curve there is said. None for none.",
        "side_by_side": "Whether the groups stand side by side over an upright scale.",
        "first_part": "Of two groups, the part of the first box that is shaded.",
        "second_part": "The same for the second.",
        "gap": "Whether the gap between two medians is drawn beside the spread of both boxes.",
        "heading": "A title above the picture.",
        "shape": "How rows are shown; which fit depends on the kinds of the columns.",
    },
)

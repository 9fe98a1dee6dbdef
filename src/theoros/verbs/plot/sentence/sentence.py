"""How a plot says itself: its sentence, and the slots beside it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from theoros.answer.wording import exact, listed, with_unit
from theoros.lazy_imports import np
from theoros.numeric.bins import default_width
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.quartile_rules import rule_slot
from theoros.verbs.core.slots import (
    Option,
    Phrase,
    PickSeveral,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    column_slot,
    columns_slot,
    number_slot,
    text_slot,
)
from theoros.verbs.core.splitting import and_by_aside, for_each
from theoros.verbs.plot.sentence.fields import GROUPING, PlotFields, kind_of
from theoros.verbs.plot.shapes.shape import Subject, shapes, shapes_for


def phrase(s: PlotFields, tables: Tables) -> Phrase:
    table = tables.get(s.table)
    subject = s.subject(table)
    what = column_slot("what", "what to plot", s.what, tables, s.table, (Kind.NUMBER, *GROUPING), elsewhere=True)
    known = shapes().get(s.shape)
    slot = choice_slot("shape", "shape", s.shape, shape_options(subject))
    shape: Phrase = (f", as {known.article if known else ''}", slot)
    ending = _ending(s, tables)
    if subject in ("category", "two categories"):
        order = choice_slot("order", "order of levels", s.order, _ORDERS)
        scale: Phrase = (" by ", _scale_slot(s, subject)) if "scale" in s.uses else ()
        levels: Phrase = (", levels ", order) if "order" in s.uses else ()
        return ("Plot ", what, *for_each(s, tables, [s.what] if s.what else []), *shape, *scale, *levels, *ending)
    coloured = _coloured(s, tables)
    if subject in ("two numbers", "over time"):
        none = "the order of the rows" if subject == "over time" else ""
        kinds = (Kind.NUMBER, Kind.DATE) if subject == "over time" else (Kind.NUMBER,)
        against = column_slot(
            "against",
            "what to plot against",
            s.against,
            tables,
            s.table,
            kinds,
            none=none,
            exclude=[s.what] if s.what else [],
        )
        each = for_each(s, tables) if s.by else ()
        return ("Plot ", what, *_beside(s, tables), " against ", against, *each, *coloured, *shape, *ending)
    together: Phrase = _beside(s, tables) or for_each(s, tables)
    made: Phrase = ("Plot ", what, *together, *coloured, *shape)
    if "scale" in s.uses:
        made = (*made, " by ", _scale_slot(s, subject))
    if "bins" in s.uses:
        made = (*made, " in bins of ", _bins_slot(s, table))
    if "rows" in s.uses:
        made = (*made, " ", choice_slot("order", "order of the bars", s.order, _ROW_ORDERS))
    if "marks" in s.uses and not _boxes_alone(s):
        made = (*made, ", with ", _marks_slot(s))
    return (*made, *ending)


def _beside(s: PlotFields, tables: Tables) -> Phrase:
    """Further numbers, where there are some."""
    return (" beside ", _also_slot(s, tables)) if s.also else ()


def _also_slot(s: PlotFields, tables: Tables) -> Slot:
    slot = columns_slot("also", "further numbers", s.also, tables, s.table, (Kind.NUMBER,), none="no other number")
    assert isinstance(slot.holds, PickSeveral)
    shut = {s.what, s.against}
    options = tuple(option for option in slot.holds.options if option.value not in shut)
    return replace(slot, holds=replace(slot.holds, options=options, least=0))


def _ending(s: PlotFields, tables: Tables) -> Phrase:
    """Split lines and a title, where they are set."""
    made: Phrase = ()
    if s.cut is not None and "cut" in s.uses:
        made = (", split at ", _cut_slot(s, "cut", tables))
        if s.cut2 is not None:
            made = (*made, " and ", _cut_slot(s, "cut2", tables))
    return (*made, ".")


def _coloured(s: PlotFields, tables: Tables) -> Phrase:
    """What the marks are coloured by; one colour says nothing, and stands in the settings."""
    return (", coloured by ", *_colour_slot(s, tables)) if s.colour and _can_colour(s) else ()


def _can_colour(s: PlotFields) -> bool:
    shape = shapes().get(s.shape)
    return (shape is None or "colour" in shape.uses) and not s.also


def _colour_slot(s: PlotFields, tables: Tables) -> tuple[Slot, ...]:
    none = "one colour"
    return (column_slot("colour", "colour", s.colour, tables, s.table, GROUPING, none=none),)


def shape_options(subject: Subject) -> list[Option]:
    fitting = shapes_for(subject)
    if subject in ("number", "two numbers", "over time"):
        everything = [*shapes_for("number"), *shapes_for("two numbers"), *shapes_for("over time")]
        fitting = list(dict.fromkeys(everything))
    return [Option(shape.name, shape.name, help=shape.help) for shape in fitting]


def _scale_slot(s: PlotFields, subject: Subject) -> Slot:
    options = _SCALES if subject == "number" else _SCALES[:2]
    return choice_slot("scale", "height", s.scale, options)


def _bins_slot(s: PlotFields, table: Table | None) -> Slot:
    unit = _unit(table, s.what)
    holds = TypeNumber(
        low=0, low_open=True, unit=unit, auto=True, help="The width of a bin. Leave it empty to have one chosen."
    )
    shown = ""
    if s.bins is None:
        width = automatic_width(table, s.what)
        shown = with_unit(number_text(width), unit) if width else "automatic width"
    return number_slot("bins", "bin width", s.bins, holds, shown)


def _boxes_alone(s: PlotFields) -> bool:
    """A box plot with boxes says so by itself; what else it may have stands in the settings."""
    return s.shape == "box plot" and s.marks == BOXES[:1]


def _marks_slot(s: PlotFields) -> Slot:
    options = tuple(Option(name, name, help=text) for name, text in MARKS.items())
    shown = listed(list(s.marks)) if s.marks else "nothing added"
    holds = PickSeveral(options, 0, "marks")
    return Slot("marks", "marks to add", shown, s.marks, holds)


def _cut_slot(s: PlotFields, name: Literal["cut", "cut2"], tables: Tables) -> Slot:
    unit = _unit(tables.get(s.table), s.what)
    value = getattr(s, name)
    label = "split line" if name == "cut" else "second split line"
    holds = TypeNumber(unit=unit, auto=True, help="Cases on each side are counted. Leave it empty for none.")
    shown = with_unit(exact(value), unit) if value is not None else "none"
    return number_slot(name, label, value, holds, shown)


def settings(s: PlotFields, tables: Tables) -> tuple[Slot, ...]:
    table = tables.get(s.table)
    unit = _unit(table, s.what)
    subject = s.subject(table)
    numbers = subject not in ("category", "two categories")
    made = list(and_by_aside(s, tables)) if numbers else []
    lines: list[Slot] = []
    boxes: list[Slot] = []
    if numbers and not s.colour and _can_colour(s):
        made += _colour_slot(s, tables)
    if subject in ("number", "two numbers", "over time") and not (s.by or s.also):
        made.append(_also_slot(s, tables))
    if "bins" in s.uses:
        holds = TypeNumber(
            unit=unit,
            auto=True,
            help="Where a bin begins; the others follow on both sides. Leave it empty for a multiple of the width.",
        )
        lines.append(number_slot("start", "a bin begins at", s.start, holds))
    if "marks" in s.uses and _boxes_alone(s):
        made.append(_marks_slot(s))
    if "turn" in s.uses and (s.by or s.also):
        made.append(choice_slot("side_by_side", "the groups", s.side_by_side, _GROUPS))
    if "cut" in s.uses:
        if s.cut is None:
            lines.append(_cut_slot(s, "cut", tables))
        elif s.cut2 is None:
            lines.append(_cut_slot(s, "cut2", tables))
    if "read" in s.uses:
        lines.append(_read_slot(s, table))
    if "marks" in s.uses and set(BOXES) & set(s.marks):
        boxes = [rule_slot(s.quartiles), *_comparing(s, table)]
    if subject in ("two numbers", "over time") and not (s.by or s.also):
        made.append(for_each(s, tables)[1])  # type: ignore[arg-type]
    title = TypeText("A title above the picture.", longest=200)
    made.append(text_slot("heading", "title", s.heading, title, empty="none"))
    made += _folded("bins and lines", lines, s)
    made += _folded("axes", _axis_slots(s, table), s)
    made += _folded("boxes", boxes, s)
    return tuple(made)


def _folded(group: str, slots: Sequence[Slot], s: PlotFields) -> list[Slot]:
    """Settings that are rarely used, under a heading; a single one needs none."""
    if len(slots) < 2:
        return list(slots)
    usual = type(s)()
    return [replace(slot, group=group, changed=getattr(s, slot.name) != getattr(usual, slot.name)) for slot in slots]


def _read_slot(s: PlotFields, table: Table | None) -> Slot:
    along = s.against if s.subject(table) == "over time" else s.what
    if kind_of(table, along) is Kind.DATE:
        holds = TypeNumber(auto=True, help="Says the value of every curve then.", days=True)
        day = "none" if s.read is None else holds.typed(s.read)
        return number_slot("read", "reading line", s.read, holds, day)
    holds = TypeNumber(
        unit=_unit(table, along), auto=True, help="Says the value of every curve there. Leave it empty for none."
    )
    shown = "none" if s.read is None else with_unit(exact(s.read), holds.unit)
    return number_slot("read", "reading line", s.read, holds, shown)


def _axis_slots(s: PlotFields, table: Table | None) -> list[Slot]:
    """Kinds and ends of the axes."""
    pairs = s.subject(table) in ("two numbers", "over time")
    along = s.against if pairs else s.what
    made = []
    if "log" in s.uses:
        made.append(choice_slot("what_log", f"scale of {s.what}", s.what_log, _STEPS))
        if pairs and kind_of(table, along) is Kind.NUMBER:
            made.append(choice_slot("against_log", f"scale of {along}", s.against_log, _STEPS))
    names = ["low", "high", "bottom", "top"] if pairs else ["low", "high"]
    names = names if "ends" in s.uses else []
    labels = {"low": "axis from", "high": "axis to"}
    if pairs:
        labels = {
            "low": f"{along or 'rows'} from",
            "high": f"{along or 'rows'} to",
            "bottom": f"{s.what} from",
            "top": f"{s.what} to",
        }
    for name in names:
        column, value = s.what if name in ("bottom", "top") else along, getattr(s, name)
        days = kind_of(table, column) is Kind.DATE
        holds = TypeNumber(unit=_unit(table, column), auto=True, help="Leave it empty to show every case.", days=days)
        shown = holds.typed(value) if days and value is not None else ""
        made.append(number_slot(name, labels[name], value, holds, shown))
    return made


def _comparing(s: PlotFields, table: Table | None) -> list[Slot]:
    """What helps to compare two groups by eye."""
    if table is None or kind_of(table, s.by) not in GROUPING or s.and_by:
        return []
    levels = table.levels(str(s.by))
    if len(levels) != 2:
        return []
    return [
        choice_slot("first_part", f"shade of {levels[0]}", s.first_part, _PARTS),
        choice_slot("second_part", f"shade of {levels[1]}", s.second_part, _PARTS),
        choice_slot("gap", "gap of the medians", s.gap, _GAPS),
    ]


BOXES = ("boxes", "plain boxes")
"""The two ways to draw a box."""
MARKS = {
    "boxes": "Quartiles, median and whiskers; outliers as rings.",
    "plain boxes": "Boxes with whiskers to the ends.",
    "mean": "A triangle at the mean.",
    "median": "A stroke at the median.",
    "counts": "How many stand in each bin.",
    "percent": "What share stands in each bin.",
}
_ORDERS = (
    Option("levels", "in their order", help="The order that the column gives them."),
    Option("by count", "by count", help="The most frequent first."),
    Option("as they come", "as they come", help="In the order of the rows."),
)
_ROW_ORDERS = (
    Option("levels", "in the order of the table"),
    Option("by count", "by length", help="The longest first."),
)
_SCALES = (
    Option("count", "count"),
    Option("percent", "percent", help="Of the cases of each group."),
    Option("density", "density", help="Share per unit, so that areas are shares."),
)
_STEPS = (
    Option(False, "even", help="Equal differences are equally long."),
    Option(True, "logarithmic", help="Equal ratios are equally long; only for values above 0."),
)
_GROUPS = (
    Option(False, "one above another", help="Over one level scale."),
    Option(True, "side by side", help="Beside one upright scale."),
)
_PARTS = (
    Option("", "nothing"),
    Option("lower half", "the lower half of the box"),
    Option("upper half", "the upper half of the box"),
    Option("lower three quarters", "the lower three quarters", help="From the least value to Q3."),
    Option("upper three quarters", "the upper three quarters", help="From Q1 to the greatest."),
)
_GAPS = (
    Option(False, "not drawn"),
    Option(True, "drawn", help="The gap between the medians beside the spread of both boxes."),
)


def _unit(table: Table | None, name: str | None) -> str:
    column = table.by_name.get(name or "") if table else None
    return column.unit if column else ""


def number_text(value: float) -> str:
    """A bin width without trailing zeros."""
    return f"{value:.10g}"


def automatic_width(table: Table | None, what: str | None) -> float | None:
    if table is None or what is None or what not in table.by_name:
        return None
    if table.column(what).kind is not Kind.NUMBER:
        return None
    values = table.numbers(what)

    def find() -> float | None:
        present = values[np.isfinite(values)]
        return default_width(present) if present.size else None

    return table.remembered("bin width", what, find)

"""How a plot says itself: its sentence, and the slots beside it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from theoros.answer.wording import listed, with_unit
from theoros.lazy_imports import np
from theoros.numeric.bins import default_width
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import GROUPING
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, Tables, TypeNumber, choice_slot
from theoros.verbs.plot.sentence.fields import BOXES, SCALES, PlotFields, kind_of
from theoros.verbs.plot.shapes.shape import Subject, shapes, shapes_for

_ROW_ORDERS = (
    Option("levels", "in the order of the table"),
    Option("by count", "by length", help="The longest first."),
)


def phrase(s: PlotFields, tables: Tables) -> Phrase:
    here = s.here(tables)
    subject, what = s.subject(here.own), s.field_slot("what", here)
    known = shapes().get(s.shape)
    slot = choice_slot("shape", "shape", s.shape, shape_options(subject))
    shape: Phrase = (f", as {known.article if known else ''}", slot)
    ending = _ending(s, here)
    if subject in ("category", "two categories"):
        scale: Phrase = (" by ", _scale_slot(s, subject, here)) if "scale" in s.uses else ()
        levels: Phrase = (", levels ", s.field_slot("order", here)) if "order" in s.uses else ()
        return ("Plot ", what, *s.for_each(tables, ("what",)), *shape, *scale, *levels, *ending)
    beside: Phrase = (" beside ", s.field_slot("also", here)) if s.also else ()
    # what the marks are coloured by; one colour says nothing, and stands in the settings
    coloured: Phrase = (", coloured by ", s.field_slot("colour", here)) if s.colour and _can_colour(s) else ()
    if subject in ("two numbers", "over time"):
        over: dict[str, object] = {"kinds": (Kind.NUMBER, Kind.DATE), "none": "the order of the rows"}
        against = s.field_slot("against", here, **(over if subject == "over time" else {}))
        each = s.for_each(tables) if s.by else ()
        return ("Plot ", what, *beside, " against ", against, *each, *coloured, *shape, *ending)
    made: Phrase = ("Plot ", what, *(beside or s.for_each(tables)), *coloured, *shape)
    if "scale" in s.uses:
        made = (*made, " by ", _scale_slot(s, subject, here))
    if "bins" in s.uses:
        made = (*made, " in bins of ", _bins_slot(s, here))
    if "rows" in s.uses:
        made = (*made, " ", s.field_slot("order", here, label="order of the bars", options=_ROW_ORDERS))
    if "marks" in s.uses and not _boxes_alone(s):
        made = (*made, ", with ", _marks_slot(s, here))
    return (*made, *ending)


def _ending(s: PlotFields, here: Place) -> Phrase:
    """Split lines, where they are set."""
    made: Phrase = ()
    if s.cut is not None and "cut" in s.uses:
        made = (", split at ", _in_units(s, "cut", here))
        if s.cut2 is not None:
            made = (*made, " and ", _in_units(s, "cut2", here))
    return (*made, ".")


def _can_colour(s: PlotFields) -> bool:
    shape = shapes().get(s.shape)
    return (shape is None or "colour" in shape.uses) and not s.also


def shape_options(subject: Subject) -> list[Option]:
    fitting = shapes_for(subject)
    if subject in ("number", "two numbers", "over time"):
        everything = [*shapes_for("number"), *shapes_for("two numbers"), *shapes_for("over time")]
        fitting = list(dict.fromkeys(everything))
    return [Option(shape.name, shape.name, help=shape.help) for shape in fitting]


def _scale_slot(s: PlotFields, subject: Subject, here: Place) -> Slot:
    return s.field_slot("scale", here, options=SCALES if subject == "number" else SCALES[:2])


def _bins_slot(s: PlotFields, here: Place) -> Slot:
    slot, width = _in_units(s, "bins", here), automatic_width(here.own, s.what)
    if s.bins is not None or not width:
        return slot
    return replace(slot, shown=with_unit(number_text(width), _unit(here, s.what)))


def _boxes_alone(s: PlotFields) -> bool:
    """A box plot with boxes says so by itself; what else it may have stands in the settings."""
    return s.shape == "box plot" and s.marks == BOXES[:1]


def _marks_slot(s: PlotFields, here: Place) -> Slot:
    return s.field_slot("marks", here, shown=listed(list(s.marks)))


def settings(s: PlotFields, tables: Tables) -> tuple[Slot, ...]:
    here = s.here(tables)
    subject = s.subject(here.own)
    numbers = subject not in ("category", "two categories")
    paired = subject in ("two numbers", "over time")
    made = list(s.and_by_aside(tables)) if numbers else []
    if numbers and not s.colour and _can_colour(s):
        made.append(s.field_slot("colour", here))
    if numbers and not (s.by or s.also):
        made.append(s.field_slot("also", here))
    lines = [_in_units(s, "start", here)] if "bins" in s.uses else []
    if "marks" in s.uses and _boxes_alone(s):
        made.append(_marks_slot(s, here))
    if "turn" in s.uses and (s.by or s.also):
        made.append(s.field_slot("side_by_side", here))
    if "cut" in s.uses and (s.cut is None or s.cut2 is None):
        lines.append(_in_units(s, "cut" if s.cut is None else "cut2", here))
    if "read" in s.uses:
        lines.append(_read_slot(s, here))
    boxes: list[Slot] = []
    if "marks" in s.uses and set(BOXES) & set(s.marks):
        boxes = [s.field_slot("quartiles", here), *_comparing(s, here)]
    if paired and not (s.by or s.also):
        made.append(s.by_slot(tables))
    made.append(s.field_slot("heading", here))
    made += _folded("bins and lines", lines, s)
    made += _folded("axes", _axis_slots(s, here), s)
    made += _folded("boxes", boxes, s)
    return tuple(made)


def _folded(group: str, slots: Sequence[Slot], s: PlotFields) -> list[Slot]:
    """Settings that are rarely used, under a heading; a single one needs none."""
    if len(slots) < 2:
        return list(slots)
    usual = type(s)()
    return [replace(slot, group=group, changed=getattr(s, slot.name) != getattr(usual, slot.name)) for slot in slots]


def _in_units(s: PlotFields, name: str, here: Place, *, of: str | None = None, label: str = "") -> Slot:
    """The slot of a number on the axis of a column: in its unit, or a day."""
    of = s.what if of is None else of
    slot = s.field_slot(name, here)
    assert isinstance(slot.holds, TypeNumber)
    holds = replace(slot.holds, unit=_unit(here, of), days=kind_of(here.own, of) is Kind.DATE)
    return s.field_slot(name, here, holds=holds, label=label or slot.label)


def _read_slot(s: PlotFields, here: Place) -> Slot:
    along = s.against if s.subject(here.own) == "over time" else s.what
    slot = _in_units(s, "read", here, of=along)
    if not isinstance(slot.holds, TypeNumber) or not slot.holds.days:
        return slot
    return replace(slot, holds=replace(slot.holds, help="Says the value of every curve then."))


def _axis_slots(s: PlotFields, here: Place) -> list[Slot]:
    """Kinds and ends of the axes."""
    pairs = s.subject(here.own) in ("two numbers", "over time")
    along = s.against if pairs else s.what
    made = []
    if "log" in s.uses:
        made.append(s.field_slot("what_log", here, label=f"scale of {s.what or 'the values'}"))
        if pairs and kind_of(here.own, along) is Kind.NUMBER:
            made.append(s.field_slot("against_log", here, label=f"scale of {along}"))
    if "ends" not in s.uses:
        return made
    if not pairs:
        return [*made, *(_in_units(s, name, here) for name in ("low", "high"))]
    ends = (("low", along, "from"), ("high", along, "to"), ("bottom", s.what, "from"), ("top", s.what, "to"))
    return [*made, *(_in_units(s, n, here, of=of or "", label=f"{of or 'rows'} {word}") for n, of, word in ends)]


def _comparing(s: PlotFields, here: Place) -> list[Slot]:
    """What helps to compare two groups by eye."""
    table = here.own
    if table is None or kind_of(table, s.by) not in GROUPING or s.and_by:
        return []
    levels = table.levels(str(s.by))
    if len(levels) != 2:
        return []
    shaded = zip(("first_part", "second_part"), levels, strict=True)
    return [*(s.field_slot(name, here, label=f"shade of {level}") for name, level in shaded), s.field_slot("gap", here)]


def _unit(here: Place, name: str | None) -> str:
    column = here.column(name)
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

"""What a table and its columns are, besides the values, as JSON for a data package.

Standard properties of Table Schema where there are some; what is ours bears the prefix
`theoros:`, as the standard asks.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from theoros.files.errors import ReadError, brief
from theoros.lazy_imports import pl
from theoros.table.kinds import Kind
from theoros.table.plain_text import held_name
from theoros.table.table import GOT, Column, Table


def about_json(table: Table) -> dict[str, Any]:
    """The fields of a table besides name, columns and values."""
    made: dict[str, Any] = {"theoros:noun": table.noun, "theoros:setAside": [row + 1 for row in sorted(table.aside)]}
    for key, value in (
        ("theoros:got", table.sampling),
        ("theoros:counts", table.counts),
        ("theoros:keep", table.keep),
        ("theoros:story", list(table.provenance)),
    ):
        if value:
            made[key] = value
    if table.origin is not None:
        made["theoros:order"] = table.origin.to_list()
    return made


def about_from(resource: Mapping[str, Any]) -> dict[str, Any]:
    """The fields that `about_json` wrote. Raises ReadError for what cannot be one."""
    got = str(resource.get("theoros:got", ""))
    if got not in GOT:
        raise ReadError("How the rows were got is not one of the ways there are.")
    made: dict[str, Any] = {
        "noun": str(resource.get("theoros:noun", "row")),
        "aside": _aside(resource.get("theoros:setAside", ())),
        "sampling": got,
        "counts": str(resource.get("theoros:counts", "")),
        "keep": str(resource.get("theoros:keep", "")),
        "provenance": tuple(str(line) for line in resource.get("theoros:story", ())),
    }
    if "theoros:order" in resource:
        try:
            made["origin"] = pl.Series(resource["theoros:order"], dtype=pl.UInt32)
        except (pl.exceptions.PolarsError, OverflowError):
            raise ReadError("The order of the rows is damaged.") from None
    return made


def _aside(rows: Any) -> frozenset[int]:
    try:
        return frozenset(int(row) - 1 for row in rows)
    except (TypeError, ValueError, OverflowError):
        raise ReadError("Which rows are set aside is damaged.") from None


def column_json(table: Table, column: Column) -> dict[str, Any]:
    """A column as a field of Table Schema."""
    made: dict[str, Any] = {"name": column.name, "theoros:kind": str(column.kind)}
    made["type"] = {Kind.NUMBER: "number", Kind.DATE: "date"}.get(column.kind, "string")
    if column.unit:
        made["unit"] = column.unit
    if column.meaning:
        made["description"] = column.meaning
    if column.levels or column.kind is Kind.ORDERED:
        made["categories"] = list(column.levels or table.levels(column.name))
        made["categoriesOrdered"] = column.kind is Kind.ORDERED
    if column.formula:
        made["theoros:formula"] = column.formula
    if column.checked:
        made["theoros:checked"] = True
    if column.below_zero == "no":
        made["constraints"] = {"minimum": 0}
    elif column.below_zero == "yes":
        made["theoros:belowZero"] = True
    return made


def column_from(field: Mapping[str, Any]) -> Column:
    """The column that a field of Table Schema describes, ours or another program's."""
    default = {"number": "number", "integer": "number", "year": "number", "date": "date", "boolean": "category"}.get(
        str(field.get("type")), "text"
    )
    categories = field.get("categories", ())
    if default == "text" and categories:
        default = "ordered" if field.get("categoriesOrdered") else "category"
    try:
        kind = Kind(str(field.get("theoros:kind", default)))
    except ValueError:
        raise ReadError(
            f"A column is of a kind this version does not know: "
            f"{brief(' '.join(str(field.get('theoros:kind')).split()))}."
        ) from None
    levels = tuple(str(level.get("value") if isinstance(level, Mapping) else level) for level in categories)
    return Column(
        held_name(str(field["name"])),
        kind,
        str(field.get("unit", "")),
        str(field.get("description", "")),
        levels,
        str(field.get("theoros:formula", "")),
        bool(field.get("theoros:checked", False)),
        _below_zero(kind, field),
    )


def _below_zero(kind: Kind, field: Mapping[str, Any]) -> str:
    """Whether numbers can be below 0, by the constraint of the standard or by our own word."""
    limits = field.get("constraints")
    least = limits.get("minimum") if isinstance(limits, Mapping) else None
    if kind is Kind.NUMBER and isinstance(least, int | float) and least >= 0:
        return "no"
    return "yes" if field.get("theoros:belowZero") is True else ""

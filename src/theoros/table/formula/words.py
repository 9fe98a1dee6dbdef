"""A condition in the words of a sentence, where it is simple enough to be said."""

from __future__ import annotations

from theoros.table.formula import grammar
from theoros.table.formula.tokens import FormulaError
from theoros.table.kinds import Kind, show
from theoros.table.table import Table

_RELATIONS = {"=": "is", "<>": "is not", "<": "is below", "<=": "is at most", ">": "is above", ">=": "is at least"}


def in_words(condition: str, table: Table) -> str:
    """ "netting is netted and elevation is at least 400 m"; else the formula as it is."""
    try:
        said = _words(grammar.parse(condition, table.by_name), table)
    except FormulaError:
        said = None
    return said or condition


def _words(node: grammar.Node, table: Table, *, inside: str = "") -> str | None:
    match node:
        case grammar.Binary(sign="and" | "or" as sign, left=left, right=right):
            parts = _words(left, table, inside=sign), _words(right, table, inside=sign)
            if parts[0] is None or parts[1] is None or (inside == "and" and sign == "or"):
                return None
            return f"{parts[0]} {sign} {parts[1]}"
        case grammar.Binary(sign=sign, left=grammar.Name(column=name), right=right):
            value = _value(right, name, table)
            relation = _RELATIONS.get(sign)
            return f"{name} {relation} {value}" if relation and value is not None else None
        case grammar.IsMissing(held=grammar.Name(column=name)):
            return f"{name} is missing"
        case grammar.Unary(sign="not", held=grammar.IsMissing(held=grammar.Name(column=name))):
            return f"{name} is not missing"
        case grammar.Call(function="contains", given=(grammar.Name(column=name), grammar.Text(value=text))):
            return f"{name} contains “{text}”"
    return None


def _value(node: grammar.Node, name: str, table: Table) -> str | None:
    """What a column is compared with, as it would be said."""
    about = table.column(name)
    match node:
        case grammar.Text(value=text):
            return text
        case grammar.Unary(sign="-", held=grammar.Number(value=number)):
            return _with_unit(-number, about.unit)
        case grammar.Number(value=number) if about.kind is Kind.NUMBER:
            return _with_unit(number, about.unit)
        case grammar.Call(
            function="date", given=(grammar.Number(value=y), grammar.Number(value=m), grammar.Number(value=d))
        ):
            return f"{y:04.0f}-{m:02.0f}-{d:02.0f}"
        case grammar.Name(column=other):
            return other
    return None


def _with_unit(number: float, unit: str) -> str:
    text = show(number).replace("-", "−")
    return f"{text}\u00a0{unit}" if unit else text

"""The manual of statements, written from the code so that it cannot drift."""

from __future__ import annotations

import dataclasses
import json
import typing
from typing import Any, Literal

from theoros.verbs.core.fields import declared
from theoros.verbs.core.json_values import field_types
from theoros.verbs.core.registry import Verb, verbs
from theoros.verbs.core.slots import Tables


def manual(tables: Tables) -> str:
    """docs/statements.md: every verb's slots, with examples on the demo tables."""
    parts = [
        "# Statements",
        "",
        "Everything asked of Theoros is a statement: a verb, a table, and slots. On the desk it "
        "is a sentence; for `theoros answer` and in a study file it is a JSON object with the "
        "fields below. Fields that are left out take the default.",
        "",
        "This page is written by `./run docs`; a test answers every example in it.",
    ]
    for verb in verbs().values():
        parts += _of(verb, tables)
    parts += _data()
    parts += _situations()
    parts += _models()
    parts += _arrangements(tables)
    parts += _formulas()
    return "\n".join(parts) + "\n"


def _of(verb: Verb, tables: Tables) -> list[str]:
    lines = ["", f"## {verb.label}", "", verb.help, ""]
    lines += ["| slot | holds | default | meaning |", "| --- | --- | --- | --- |"]
    hints, told = field_types(verb.statement), declared(verb.statement)
    for field in dataclasses.fields(verb.statement):
        meaning = "The table asked about." if field.name == "table" else told[field.name].meaning
        default = json.dumps(_lean(_default(field)), ensure_ascii=False)
        lines.append(f"| `{field.name}` | {_holds(hints[field.name])} | `{default}` | {meaning} |")
    methods = [(one.label, one.help) for one in verb.methods() if one.slot and one.value]
    if methods:
        lines += ["", "Among its choices:", ""]
        lines += [f"- **{label}**: {text}" for label, text in methods]
    for example in verb.examples:
        data = {"verb": example.verb, "table": example.table, **_lean(example)}
        written = json.dumps(data, indent=2, ensure_ascii=False)
        lines += ["", f"> {example.text(tables)}", "", "```json", written, "```"]
    return lines


def _data() -> list[str]:
    from theoros.verbs.data.data import data_kinds

    lines = [
        "",
        "## Data",
        "",
        "Where a slot holds data, it is an object with a `kind`. Slots within it have paths, such "
        "as `data.what` or `data.groups.1.n` (places in a list count from 0). A list holds "
        "objects or texts of its own; columns are named, figures typed.",
        "",
        "| kind | slots | what it is |",
        "| --- | --- | --- |",
    ]
    for kind, cls in data_kinds().items():
        hints = field_types(cls)
        slots = ", ".join(f"`{name}` ({_holds(hint)})" for name, hint in hints.items())
        said = f"{cls.label}: {cls.help}"
        lines.append(f"| `{kind}` | {slots} | {said[:1].upper()}{said[1:]} |")
    return lines


def _situations() -> list[str]:
    from theoros.verbs.laws.law import Law
    from theoros.verbs.probability.data import situations

    lines = [
        "",
        "## Situations",
        "",
        "What is asked by Probability is an object with a `kind`: a distribution with its "
        "parameters, or what events come from. Numbers may be texts as they are typed, such as "
        '`"1/6"` or `"85 %"`.',
        "",
        "| kind | slots | what it is |",
        "| --- | --- | --- |",
    ]
    for kind, cls in situations().items():
        named = {name: told.label for name, told in cls.parameters().items()} if issubclass(cls, Law) else {}
        hints = field_types(cls)
        held = [f"`{name}` ({named.get(name) or _holds(hint)})" for name, hint in hints.items()]
        lines.append(f"| `{kind}` | {', '.join(held) or 'none'} | {cls.help} |")
    return lines


def _models() -> list[str]:
    from theoros.verbs.simulate.models.model import models

    lines = [
        "",
        "## Models of chance",
        "",
        "What Simulate draws is an object with a `kind`. Models that resample the data, or assume that a "
        "claim is true, use `parameter`, `data` and `method` of the statement.",
        "",
        "| kind | slots | what it is |",
        "| --- | --- | --- |",
    ]
    for kind, cls in models().items():
        held = [f"`{name}` ({_holds(hint)})" for name, hint in field_types(cls).items()]
        lines.append(f"| `{kind}` | {', '.join(held) or 'none'} | {cls.help} |")
    return lines


def _default(field: dataclasses.Field[object]) -> object:
    if field.default is not dataclasses.MISSING:
        return field.default
    assert field.default_factory is not dataclasses.MISSING
    return field.default_factory()


def _lean(value: object) -> Any:
    """JSON of a value without the fields that hold their defaults."""
    if not dataclasses.is_dataclass(value) or isinstance(value, type):
        if isinstance(value, tuple):
            return [_lean(one) for one in value]
        return value
    kind = {"kind": value.kind} if hasattr(value, "kind") else {}
    rest = {
        field.name: _lean(getattr(value, field.name))
        for field in dataclasses.fields(value)
        if getattr(value, field.name) != _default(field)
    }
    return {**kind, **rest}


def _arrangements(tables: Tables) -> list[str]:
    from theoros.verbs.arrange.arrangement import arrangements
    from theoros.verbs.arrange.examples import EXAMPLES

    lines = ["", "## Arrange", "", "What puts a table in shape is a statement too; its answer is a table."]
    examples = {str(example["verb"]): example for example in EXAMPLES}
    for name, made in arrangements().items():
        lines += ["", f"### {made.label}", "", made.help, ""]
        hints = typing.get_type_hints(made)
        fields = [f"`{f.name}` ({_holds(hints[f.name])})" for f in dataclasses.fields(made) if f.name != "table"]
        lines.append(f"Slots: {', '.join(fields)}.")
        example = made.from_json(examples[name])
        written = json.dumps(dict(examples[name]), indent=2, ensure_ascii=False)
        lines += ["", f"> {example.text(tables)}", "", "```json", written, "```"]
    return lines


def _formulas() -> list[str]:
    from theoros.table.formula.known_functions import FUNCTIONS

    lines = [
        "",
        "## Formulas",
        "",
        "Operators, from the strongest: `^`, minus sign, `* / mod`, `+ - &` (`&` joins text), `= <> < <= > >=`, "
        "`is missing`, `is not missing`, `in (…)`, `not`, `and`, `or`, and `if … then … else …`. Names of columns "
        "are written as they are, with spaces too; where a name could be taken for something else, 'single "
        "quotes' stand around it. \"Double "
        'quotes" stand around text. What is calculated from a missing value is missing.',
        "",
        "| function | gives |",
        "| --- | --- |",
    ]
    return [*lines, *(f"| `{one.form}` | {one.help} |" for one in FUNCTIONS.values())]


def _holds(hint: object) -> str:
    """The type of a field in words."""
    if typing.get_origin(hint) is Literal:
        return " or ".join(f"`{json.dumps(choice)}`" for choice in typing.get_args(hint))
    names = {str: "text", float: "number", int: "whole number", bool: "true or false"}
    if hint in names:
        return names[hint]
    if typing.get_origin(hint) is tuple:
        inner = typing.get_args(hint)[0]
        plain = {str: "list of texts", float: "list of numbers"}
        if type(None) in typing.get_args(inner):  # numbers that may be missing
            return f"list of {_holds(inner)}"
        return plain.get(inner) or f"list of {_holds_several(inner)}"
    if isinstance(hint, type):
        nested = {
            "Data": "data, as below",
            "Situation": "a situation, as below",
            "Law": "a distribution, as under Situations",
            "ChanceModel": "a model of chance, as below",
        }
        return nested.get(hint.__name__) or f"object: {_fields_of(hint)}"
    return " or ".join("`null`" if a is type(None) else _holds(a) for a in typing.get_args(hint))


def _holds_several(inner: object) -> str:
    if typing.get_origin(inner) is tuple:
        return f"lists of {_holds(typing.get_args(inner)[0])}"
    return f"objects: {_fields_of(inner)}" if isinstance(inner, type) else _holds(inner)


def _fields_of(cls: type) -> str:
    return ", ".join(f"`{name}` ({_holds(hint)})" for name, hint in field_types(cls).items())

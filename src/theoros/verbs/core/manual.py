"""The manual of statements, written from the code so that it cannot drift."""

from __future__ import annotations

import dataclasses
import json
import typing
from typing import Any, Literal

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
    parts += _arrangements(tables)
    parts += _formulas()
    return "\n".join(parts) + "\n"


def _of(verb: Verb, tables: Tables) -> list[str]:
    lines = ["", f"## {verb.label}", "", verb.help, ""]
    lines += ["| slot | holds | default | meaning |", "| --- | --- | --- | --- |"]
    hints = typing.get_type_hints(verb.statement)
    for field in dataclasses.fields(verb.statement):
        meaning = "The table asked about." if field.name == "table" else verb.slot_help[field.name]
        default = json.dumps(field.default, ensure_ascii=False)
        lines.append(f"| `{field.name}` | {_holds(hints[field.name])} | `{default}` | {meaning} |")
    methods = [(label, text) for label, text, slot, value in verb.methods() if slot and value]
    if methods:
        lines += ["", "Among its choices:", ""]
        lines += [f"- **{label}**: {text}" for label, text in methods]
    for example in verb.examples:
        data = {
            name: value
            for name, value in example.to_json().items()
            if name in ("verb", "table") or value != _default(verb, name)
        }
        written = json.dumps(data, indent=2, ensure_ascii=False)
        lines += ["", f"> {example.text(tables)}", "", "```json", written, "```"]
    return lines


def _arrangements(tables: Tables) -> list[str]:
    from theoros.verbs.arrange.arrangement import arrangements
    from theoros.verbs.arrange.examples import EXAMPLES

    lines = [
        "",
        "## Arrange",
        "",
        "What puts a table in shape is a statement too; its answer is a table.",
    ]
    examples = {str(example["verb"]): example for example in EXAMPLES}
    for name, made in arrangements().items():
        lines += ["", f"### {made.label}", "", made.help, ""]
        hints = typing.get_type_hints(made)
        fields = [
            f"`{f.name}` ({_holds(hints[f.name])})"
            for f in dataclasses.fields(made)
            if f.name != "table"
        ]
        lines.append(f"Slots: {', '.join(fields)}.")
        example = made.from_json(examples[name])
        written = json.dumps(dict(examples[name]), indent=2, ensure_ascii=False)
        lines += ["", f"> {example.text(tables)}", "", "```json", written, "```"]
    return lines


def _formulas() -> list[str]:
    from theoros.table.formula.functions import FUNCTIONS

    lines = [
        "",
        "## Formulas",
        "",
        "Operators, from the strongest: `^`, minus sign, `* / mod`, `+ - &` (`&` joins text), "
        "`= <> < <= > >=`, `is missing`, `is not missing`, `in (…)`, `not`, `and`, `or`, and "
        "`if … then … else …`. Names of columns are written as they are, with spaces too; where a "
        "name could be taken for something else, 'single quotes' stand around it. \"Double "
        'quotes" stand around text. What is worked out from a missing value is missing.',
        "",
        "| function | gives |",
        "| --- | --- |",
    ]
    return [*lines, *(f"| `{one.form}` | {one.help} |" for one in FUNCTIONS.values())]


def _default(verb: Verb, name: str) -> Any:
    return next(f.default for f in dataclasses.fields(verb.statement) if f.name == name)


def _holds(hint: Any) -> str:
    """The type of a field in words."""
    if typing.get_origin(hint) is Literal:
        return " or ".join(f"`{json.dumps(choice)}`" for choice in typing.get_args(hint))
    names = {str: "text", float: "number", int: "whole number", bool: "true or false"}
    if hint in names:
        return names[hint]
    if typing.get_origin(hint) is tuple:
        return "list of texts"
    return " or ".join("`null`" if a is type(None) else names[a] for a in typing.get_args(hint))

"""Places in a value made of frozen dataclasses and tuples, named by paths: "data.groups.1.n"."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any, TypeVar

from theoros.verbs.core.json_values import StatementError, fitted

T = TypeVar("T")
Renames = Callable[[object, dataclasses.Field[object]], Mapping[str, str]]
"""Of a value and a field of it, the new names by the old."""


def put_at(value: T, path: str, new: object, name: str) -> T:
    """A copy with another value at a path, checked against the type of its place.

    Raises StatementError; `name` is what the sentence calls the whole.
    """
    head, _, rest = path.partition(".")
    if isinstance(value, tuple):
        at = _place(value, head, path)
        inner = put_at(value[at], rest, new, name) if rest else new
        return (*value[:at], inner, *value[at + 1 :])  # type: ignore[return-value]
    if not dataclasses.is_dataclass(value) or isinstance(value, type):
        raise StatementError(f"{name} has no slot called “{path}”.")
    held = _inner(value, head, path) if rest else None
    if rest and not isinstance(held, tuple):
        changed = put_at(held, rest, new, name)
    else:  # of a tuple the whole is checked, whatever of it is new
        changed = fitted(type(value), head, put_at(held, rest, new, name) if rest else new, name)
    return replace(value, **{head: changed})


def _inner(value: object, step: str, path: str) -> object:
    if isinstance(value, tuple):
        return value[_place(value, step, path)]
    if dataclasses.is_dataclass(value) and step in {f.name for f in dataclasses.fields(value)}:
        return getattr(value, step)
    raise StatementError(f"There is no slot called “{path}”.")


def _place(value: tuple[object, ...], step: str, path: str) -> int:
    if step.isdigit() and int(step) < len(value):
        return int(step)
    raise StatementError(f"There is no slot called “{path}”.")


@dataclass(frozen=True)
class HeldField:
    """A field of a value, or of one nested in it."""

    holder: object
    field: dataclasses.Field[object]
    value: Any


def places(value: object) -> Iterator[HeldField]:
    """Every field of a value, and of the values nested in it."""
    for field in dataclasses.fields(value):  # type: ignore[arg-type]
        held = getattr(value, field.name)
        yield HeldField(value, field, held)
        for one in held if isinstance(held, tuple) else (held,):
            if dataclasses.is_dataclass(one) and not isinstance(one, type):
                yield from places(one)


def renamed(value: T, of: Renames) -> T:
    """A copy in which names are others: `of` gives, for each field, the new names by the old.

    The same value where none of them occurs.
    """
    changes: dict[str, object] = {}
    for field in dataclasses.fields(value):  # type: ignore[arg-type]
        held = getattr(value, field.name)
        new = of(value, field)
        made = _replaced(held, new) if new else _nested(held, of)
        if made is not held and made != held:
            changes[field.name] = made
    return replace(value, **changes) if changes else value  # type: ignore[type-var]


def _nested(held: object, of: Renames) -> object:
    if isinstance(held, tuple):
        return tuple(_nested(one, of) for one in held)
    if dataclasses.is_dataclass(held) and not isinstance(held, type):
        return renamed(held, of)
    return held


def _replaced(held: object, new: Mapping[str, str]) -> object:
    """A name, or each of several, as it is called now."""
    if isinstance(held, tuple):
        return tuple(dict.fromkeys(new.get(one, one) for one in held))
    return new.get(held, held) if isinstance(held, str) else held

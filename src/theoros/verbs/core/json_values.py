"""Statements to and from plain JSON values, checked against the types of their fields.

There is no schema beside the dataclasses: whatever comes from a file, the command line or a
slot is structured by their annotations (by cattrs), nested values and all. A value of the
wrong type is refused in a sentence that says where it stands.
"""

from __future__ import annotations

import dataclasses
import json
import math
import typing
from collections.abc import Callable, Iterable, Mapping
from functools import cache
from typing import TYPE_CHECKING, Any, Literal, TypeVar

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, shortened
from theoros.table.plain_text import storable

if TYPE_CHECKING:
    from types import UnionType

    from cattrs import Converter

MOST_SHOWN = 80
"""Letters of a value that cannot be read, in the sentence about it."""
T = TypeVar("T")
Json = Mapping[str, Any]
"""A value as JSON has it: names with what they hold."""
Hook = Callable[[object, object], object]
"""From a value and the type of its place, what stands there."""
_KINDS: dict[type, Callable[[], Mapping[str, type]]] = {}
"""Families of nested values: their common base, and its members by kind."""


class StatementError(ValueError):
    """A statement that cannot be read, said in a sentence."""


class _Unfit(ValueError):
    """What a value should have been."""


def family(base: type[T], members: Callable[[], Mapping[str, type[T]]]) -> None:
    """Makes a base known whose subclasses are told apart by a "kind" in JSON.

    `members` finds them when they are first asked for.
    """
    _KINDS[base] = members


def to_plain_values(value: object) -> Any:
    """A value of a statement as JSON has it; a member of a family says its kind first."""
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        made = {f.name: to_plain_values(getattr(value, f.name)) for f in dataclasses.fields(value)}
        kind = _kind_of(type(value))
        return {"kind": kind, **made} if kind else made
    if isinstance(value, tuple | list):
        return [to_plain_values(one) for one in value]
    if isinstance(value, TypedNumber):  # as it was typed, where a number would not say that
        plain = float(value)
        return value.text if value.text != exact(plain) else plain
    return value


def structured(cls: type[T], data: Json, name: str) -> T:
    """A value of a class from JSON; missing fields take their defaults.

    Raises StatementError for an unknown field or a value of the wrong type; `name` is what the
    sentence calls it.
    """
    try:
        return _converter().structure(data, cls)
    except Exception as problem:
        raise _said(problem, name) from None


def check_named(value: str, known: Iterable[str], name: str, field: str) -> None:
    """Raises StatementError where a field names something that there is not."""
    names = list(known)
    if value not in names:
        raise StatementError(f"{name}: {field} cannot be {_shown(value)}. It can be: {', '.join(names)}.")


def fitted(cls: type, field: str, value: object, name: str) -> Any:
    """A value for one field of a class, checked against its type.

    Raises StatementError where it is of another type, or there is no such field.
    """
    hints = field_types(cls)
    if field not in hints:
        raise StatementError(f"{name} has no slot called “{field}”.")
    try:
        return _converter().structure(to_plain_values(value), hints[field])
    except Exception as problem:
        raise _said(problem, name, field) from None


def trusted(cls: type[T], data: Json) -> T:
    """The same as `structured` without a check, for what ships with Theoros and is known sound."""
    hints: dict[str, Any] = field_types(cls)  # type: ignore[arg-type]
    return cls(**{name: _trusted(hints[name], held) for name, held in data.items()})


def _trusted(hint: Any, held: object) -> object:
    if isinstance(held, Mapping):
        rest = {name: one for name, one in held.items() if name != "kind"}
        return trusted(_of_kind(hint, str(held.get("kind"))) if hint in _KINDS else hint, rest)
    if isinstance(held, list):
        inner = typing.get_args(hint)
        return tuple(_trusted(inner[0] if inner else Any, one) for one in held)
    return held


def _of_kind(base: type, kind: str) -> type:
    """The member of a family; one that is imported is found without importing all the others."""
    near: list[type] = list(base.__subclasses__())
    for one in near:
        near += one.__subclasses__()
        if one.__dict__.get("kind") == kind:
            return one
    return _KINDS[base]()[kind]


@cache
def field_types(cls: Any) -> dict[str, Any]:
    """The types of the fields, which take a while to find out."""
    hints = typing.get_type_hints(cls)
    return {f.name: hints[f.name] for f in dataclasses.fields(cls)}


def _kind_of(cls: type) -> str:
    for base in _KINDS:
        if issubclass(cls, base):
            return str(getattr(cls, "kind"))  # noqa: B009 - a member of a family has one
    return ""


@cache
def _converter() -> Converter:
    """Built when it is first used: the library is slow to import."""
    from cattrs import Converter

    made = Converter(forbid_extra_keys=True)
    for kind, words, accepted in ((bool, "true or false", bool), (int, "a whole number", int)):
        made.register_structure_hook(kind, _strict(kind, words, accepted))
    text = _strict(str, "text", str)
    made.register_structure_hook(str, lambda value, hint: storable(str(text(value, hint))))
    made.register_structure_hook(float, _number)
    made.register_structure_hook_func(_is_literal, _one_of)
    made.register_structure_hook_func(_is_sequence, lambda value, hint: _several(made, value, hint))
    for base, members in _KINDS.items():
        made.register_structure_hook_func(_is(base), _members_of(made, members))
    return made


def _is(base: type) -> Callable[[object], bool]:
    """Whether a type is the base of a family itself, and not one of its members."""
    return lambda hint: hint is base


def _is_literal(hint: object) -> bool:
    return bool(typing.get_origin(hint) == Literal)


def _is_sequence(hint: object) -> bool:
    origin = typing.get_origin(hint)
    return origin is tuple and typing.get_args(hint)[1:] == (...,)


def _members_of(converter: Converter, members: Callable[[], Mapping[str, type]]) -> Hook:
    return lambda value, _: _member(converter, value, members())


def _strict(kind: type, words: str, accepted: type | UnionType) -> Hook:
    def check(value: object, _: object) -> object:
        truth = isinstance(value, bool)
        if not isinstance(value, accepted) or (truth and kind is not bool):
            raise _Unfit(f"must be {words}, and {_shown(value)} is not")
        return value

    return check


def _number(value: object, _: object) -> float:
    """A number, or text as it was typed: "1.30", "1/6"."""
    if isinstance(value, str):
        try:
            return TypedNumber(value)
        except NotWorkedOut:
            pass
    if isinstance(value, TypedNumber):
        return value
    number = float(_strict(float, "a number", int | float)(value, _))  # type: ignore[arg-type]
    if not math.isfinite(number):
        raise _Unfit(f"must be a finite number, and {_shown(value)} is not")
    return number


def _one_of(value: object, hint: object) -> object:
    allowed = typing.get_args(hint)
    if any(value is one or (value == one and type(value) is type(one)) for one in allowed):
        return value
    raise _Unfit(f"cannot be {_shown(value)}. It can be: {', '.join(map(str, allowed))}")


def _several(converter: Converter, value: object, hint: object) -> object:
    of = typing.get_args(hint)[0]
    if not isinstance(value, list | tuple):
        words = "a list of texts" if of is str else "a list"
        raise _Unfit(f"must be {words}, and {_shown(value)} is not")
    return tuple(converter.structure(list(value), list[of]))  # type: ignore[valid-type]


def _member(converter: Converter, value: object, members: Mapping[str, type]) -> object:
    if not isinstance(value, Mapping):
        raise _Unfit(f"must be an object with a kind, and {_shown(value)} is not")
    kind = value.get("kind")
    if not isinstance(kind, str) or kind not in members:
        raise _Unfit(f"cannot be of the kind {_shown(kind)}. It can be: {', '.join(members)}")
    rest = {name: held for name, held in value.items() if name != "kind"}
    made: Any = converter.structure(rest, members[kind])
    wrong = made.wrong() if hasattr(made, "wrong") else ""
    if wrong:
        raise _Unfit(wrong)
    return made


def _shown(value: object) -> str:
    """A value as it can stand in a sentence."""
    if isinstance(value, str):
        return f"“{shortened(value, MOST_SHOWN)}”"
    return shortened(json.dumps(value, ensure_ascii=False, default=str), MOST_SHOWN)


def _said(problem: BaseException, name: str, field: str = "") -> StatementError:
    """The first thing that is wrong, with the path to it."""
    from cattrs.errors import ForbiddenExtraKeysError

    path = [field] if field else []
    while isinstance(problem, BaseExceptionGroup):
        # a name that is unknown says more than a value that does not fit
        inner = sorted(problem.exceptions, key=lambda e: not _unknown(e))
        problem = inner[0]
        for note in getattr(problem, "__notes__", ()):
            step = getattr(note, "name", None)
            step = getattr(note, "index", None) if step is None else step
            if step is not None:
                path.append(str(step))
    where = ".".join(path)
    if isinstance(problem, ForbiddenExtraKeysError):
        extra = sorted(problem.extra_fields)[0]
        have = ", ".join(field_types(problem.cl))
        inside = f"{name} ({where})" if where else name
        extra = shortened(extra, MOST_SHOWN)
        return StatementError(f"{inside} has no slot called “{extra}”. It has: {have}.")
    if isinstance(problem, _Unfit):
        return StatementError(f"{name}: {where} {problem}.")
    return StatementError(f"{name}: {where or 'it'} cannot be read.")


def _unknown(problem: BaseException) -> bool:
    from cattrs.errors import ForbiddenExtraKeysError

    return isinstance(problem, ForbiddenExtraKeysError)

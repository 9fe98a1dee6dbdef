"""A statement: the sentence with slots that stands for everything a student asks."""

from __future__ import annotations

import dataclasses
import types
import typing
from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, fields, replace
from functools import cache
from typing import Any, ClassVar, Literal, Self

from theoros.answer.parts import Answer, CannotAnswer, Draft, Problem
from theoros.table.table import TableError
from theoros.verbs.core.slots import Mended, Phrase, Pick, Slot, Tables, phrase_text


class StatementError(ValueError):
    """A statement that cannot be read, said in a sentence."""


def column_field(default: str | tuple[str, ...] | None = None) -> Any:
    """A field that names a column or several, so that it can follow when one is renamed."""
    return field(default=default, metadata={"column": True})


def level_field(column: str, default: Any = None) -> Any:
    """A field that names a level (or several) of the column in the field `column`."""
    return field(default=default, metadata={"level_of": column})


@dataclass(frozen=True)
class Statement(ABC):
    """Base of every verb's statement: a value with typed fields.

    A subclass is a frozen dataclass that says itself as a phrase, mends what depends on a
    changed slot, and answers itself in drafts.
    """

    verb: ClassVar[str]
    table: str = ""

    @property
    def needs_table(self) -> bool:
        """Whether there must be rows: not where figures are typed into the sentence."""
        return True

    @abstractmethod
    def phrase(self, tables: Tables) -> Phrase:
        """Text and slots, in order. Must not raise, whatever the fields hold."""

    def asides(self, tables: Tables) -> tuple[Slot, ...]:
        """Slots that are not part of the sentence: settings shown beside the answer."""
        return ()

    @abstractmethod
    def drafts(self, tables: Tables) -> Iterator[Draft]:
        """The answer, perhaps in several steps; every slot holds what it may when called."""

    def mend(self, slot: str, tables: Tables) -> Mended:
        """This statement after `slot` was set, with what depends on it put right."""
        return Mended(self)

    def title(self, tables: Tables) -> str:
        """A short name for an entry that nobody has named yet."""
        return self.text(tables)

    # what follows is the same for every verb

    def text(self, tables: Tables) -> str:
        """The sentence as plain text; also the caption of its picture."""
        return phrase_text(self.phrase(tables))

    def slots(self, tables: Tables) -> tuple[Slot, ...]:
        """Every slot, those of the sentence first."""
        said = tuple(part for part in self.phrase(tables) if isinstance(part, Slot))
        return said + self.asides(tables)

    def slot(self, name: str, tables: Tables) -> Slot | None:
        return next((slot for slot in self.slots(tables) if slot.name == name), None)

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        """A copy with one slot changed, and what depends on it mended.

        Raises StatementError if the slot cannot hold the value; the statement is unchanged.
        """
        slot = self.slot(name, tables)
        if slot is not None:
            problem = slot.holds.problem(value)
            if problem:
                raise StatementError(problem)
        if name not in {f.name for f in fields(self)}:
            raise StatementError(f"{self.verb} has no slot called “{name}”.")
        changes: dict[str, Any] = {name: value}
        if isinstance(value, tuple) and slot is not None and isinstance(slot.holds, Pick):
            # a column of another table
            changes = {"table": value[0], name: value[1]}
        return replace(self, **changes).mend(name, tables)

    def renamed_column(self, table: str, old: str, new: str) -> Self:
        """This statement after a column was renamed."""
        if table != self.table:
            return self
        changes: dict[str, Any] = {}
        for known in fields(self):
            held = getattr(self, known.name)
            if known.metadata.get("column"):
                changes[known.name] = _replaced(held, {old: new})
        return replace(self, **changes) if changes else self

    def renamed_levels(self, table: str, column: str, new: Mapping[str, str]) -> Self:
        """This statement after levels of a column got other names."""
        if table != self.table:
            return self
        changes = {
            known.name: _replaced(getattr(self, known.name), new)
            for known in fields(self)
            if getattr(self, known.metadata.get("level_of", ""), None) == column
        }
        return replace(self, **changes) if changes else self

    def renamed_table(self, old: str, new: str) -> Self:
        """This statement after a table was renamed."""
        return replace(self, table=new) if self.table == old else self

    def to_json(self) -> dict[str, Any]:
        """Plain JSON values: the verb and every field."""
        return {"verb": self.verb, **dataclasses.asdict(self)}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> Self:
        """The statement that `to_json` gave, or that somebody wrote; missing fields take defaults.

        Raises StatementError for an unknown field or a value of the wrong type.
        """
        hints = _hints(cls)
        known = {f.name: f for f in fields(cls)}
        values = {}
        for name, value in data.items():
            if name == "verb":
                continue
            if name not in known:
                have = ", ".join(known)
                raise StatementError(f"{cls.verb} has no slot called “{name}”. It has: {have}.")
            values[name] = _checked(cls.verb, name, value, hints[name])
        return cls(**values)


@cache
def _hints(cls: type) -> dict[str, Any]:
    """The types of the fields, which take a while to find out."""
    return typing.get_type_hints(cls)


def _replaced(held: Any, new: Mapping[str, str]) -> Any:
    """A name, or each of several, as it is called now."""
    if isinstance(held, tuple):
        return tuple(dict.fromkeys(new.get(one, one) for one in held))
    return new.get(held, held)


def _checked(verb: str, name: str, value: Any, hint: Any) -> Any:
    """The value if it is of the hinted type (a whole number also serves as a number)."""
    if typing.get_origin(hint) in (typing.Union, types.UnionType):
        choices = typing.get_args(hint)
    else:
        choices = (hint,)
    for choice in choices:
        if choice is type(None) and value is None:
            return None
        if typing.get_origin(choice) is Literal:
            allowed = typing.get_args(choice)
            if value in allowed:
                return value
            raise StatementError(
                f"{verb}: {name} cannot be “{value}”. It can be: {', '.join(map(str, allowed))}."
            )
        if typing.get_origin(choice) is tuple and isinstance(value, list | tuple):
            if all(isinstance(one, str) for one in value):
                return tuple(value)
            continue
        if choice is bool and isinstance(value, bool):
            return value
        if isinstance(value, bool):
            continue
        if choice is float and isinstance(value, int | float):
            return float(value)
        if choice in (int, str) and isinstance(value, choice):
            return value
    words = {"str": "text", "float": "a number", "int": "a whole number", "bool": "true or false"}
    wanted = " or ".join(
        "a list of texts"
        if typing.get_origin(choice) is tuple
        else words.get(choice.__name__, choice.__name__)
        for choice in choices
        if choice is not type(None)
    )
    raise StatementError(f"{verb}: {name} must be {wanted}, and {value!r} is not.")


def check(statement: Statement, tables: Tables) -> None:
    """Raises CannotAnswer if the table is not there or a slot holds what it may not."""
    if statement.needs_table and statement.table not in tables:
        have = ", ".join(tables) or "none yet"
        raise CannotAnswer(
            f"There is no table called “{statement.table}” in this study. Tables: {have}."
        )
    for slot in statement.slots(tables):
        if slot.problem:
            raise CannotAnswer(slot.problem, slot.name)


def drafts(statement: Statement, tables: Tables) -> Iterator[Draft]:
    """The answer in drafts, the last of which is the answer. Never raises for bad input."""
    try:
        check(statement, tables)
        yield from statement.drafts(tables)
    except CannotAnswer as found:
        yield Draft(Answer(statement.text(tables), problem=found.problem))
    except TableError as found:
        yield Draft(Answer(statement.text(tables), problem=Problem(str(found))))


def answer(statement: Statement, tables: Tables) -> Answer:
    """The answer to a statement: a pure function of it and the tables."""
    last = None
    for draft in drafts(statement, tables):
        last = draft.answer or last
    assert last is not None
    return last

"""The verbs that there are. Each package in this one that holds a `VERB` adds itself."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import overload

import theoros.verbs
from theoros.answer.wording import shortened
from theoros.table.table import Column, Table
from theoros.verbs.core.guiding import Guide
from theoros.verbs.core.json_values import Json, StatementError, trusted
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement


@dataclass(frozen=True)
class Offer:
    """Something to ask about a column, as a link beside the table."""

    text: str
    statement: Statement
    rank: int = 0
    """Offers of all verbs stand in the order of their ranks."""


@dataclass(frozen=True)
class Findable:
    """A method that can be found by name, with what courses and other books call it."""

    label: str
    help: str
    slot: str = ""
    """The slot it is a value of; empty for one that is part of every answer."""
    value: object = None
    other_names: tuple[str, ...] = ()


class Later(Sequence[Statement]):
    """Statements that are made when they are first looked at, as of a verb with many rooms."""

    def __init__(self, make: Callable[[], Sequence[Statement]]) -> None:
        self._make = make

    @overload
    def __getitem__(self, at: int) -> Statement: ...
    @overload
    def __getitem__(self, at: slice) -> Sequence[Statement]: ...
    def __getitem__(self, at: int | slice) -> Statement | Sequence[Statement]:
        return self._make()[at]

    def __len__(self) -> int:
        return len(self._make())


def _none(table: Table, column: Column) -> Sequence[Offer]:
    return ()


@dataclass(frozen=True)
class Verb:
    """A verb: how its statements are made, and what is said of it."""

    statement: type[Statement]
    label: str
    help: str
    suggest: Callable[[Tables, str, Sequence[str]], Statement]
    """A statement filled in from a table and the columns selected in it."""
    examples: Sequence[Statement]
    """On the demo tables; shown in docs/statements.md and answered in a test."""
    methods: Callable[[], Sequence[Findable]] = tuple
    """What can be found by name."""
    other_names: tuple[str, ...] = ()
    """What the verb itself is found by, too."""
    order: int = 100
    """Its place in the order of the work, in which the verbs are shown."""
    offers: Callable[[Table, Column], Sequence[Offer]] = _none
    """What it can be asked about a column that is looked at."""
    guide: Guide | None = None
    """Questions that lead to the right statement; None for a verb that needs none."""

    @property
    def name(self) -> str:
        return self.statement.verb


@cache
def verbs() -> Mapping[str, Verb]:
    """The verbs by name, in the order of the work."""
    found: list[Verb] = []
    for module in pkgutil.iter_modules(theoros.verbs.__path__):
        if not module.ispkg:
            continue
        room = importlib.import_module(f"theoros.verbs.{module.name}")
        verb = getattr(room, "VERB", None)
        if isinstance(verb, Verb):
            found.append(verb)
    return {verb.name: verb for verb in sorted(found, key=lambda one: one.order)}


def offers(table: Table, column: Column) -> list[Offer]:
    """What all verbs can be asked about a column."""
    made = [offer for verb in verbs().values() for offer in verb.offers(table, column)]
    return sorted(made, key=lambda offer: offer.rank)


def arrangements() -> Mapping[str, type[Statement]]:
    """The arrangements of a table by name; they are statements too, beside the verbs."""
    room = importlib.import_module("theoros.verbs.arrange.arrangement")
    return dict(room.arrangements())


def statement_from_json(data: object) -> Statement:
    """A statement of any verb from JSON values; raises StatementError with what is wrong."""
    if not isinstance(data, Mapping):
        raise StatementError("A statement is a JSON object with a verb, a table and slots.")
    return _class_of(data.get("verb")).from_json(data)


def make(verb: str, **slots: object) -> Statement:
    """A statement of a verb that another room need not import; for slots known to be sound."""
    return known_statement({"verb": verb, **slots})


def known_statement(data: Json) -> Statement:
    """A statement from JSON that ships with Theoros or was made here: taken without a check."""
    cls = _class_of(data["verb"])
    held = {name: value for name, value in cls.upgraded(data).items() if name != "verb"}
    return trusted(cls, held).completed(frozenset(held))


def _class_of(name: object) -> type[Statement]:
    known = verbs().get(name) if isinstance(name, str) else None
    if known is not None:
        return known.statement
    if isinstance(name, str) and name in arrangements():
        return arrangements()[name]
    if not isinstance(name, str):
        raise StatementError(f"A statement begins with its verb. Verbs: {', '.join(verbs())}.")
    shown = shortened(name, 80)
    raise StatementError(f"There is no verb “{shown}”. Verbs: {', '.join(verbs())}.")

"""The verbs that there are. Each package in this one that holds a `VERB` adds itself."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

import theoros.verbs
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement, StatementError

ORDER = ("plot", "describe", "probability", "test", "estimate", "simulate", "model", "forecast")
"""The order of the work, in which the verbs are shown."""


@dataclass(frozen=True)
class Verb:
    """A verb: how its statements are made, and what is said of it."""

    statement: type[Statement]
    label: str
    help: str
    suggest: Callable[[Tables, str, Sequence[str]], Statement]
    """A statement filled in from a table and the columns selected in it."""
    examples: tuple[Statement, ...]
    """On the demo tables; shown in docs/statements.md and answered in a test."""
    methods: Callable[[], Sequence[tuple[str, str, str, Any]]] = tuple
    """What can be found by name: label, help, slot and the value it puts there."""
    slot_help: Mapping[str, str] = None  # type: ignore[assignment]
    """What each field holds, for docs/statements.md."""

    @property
    def name(self) -> str:
        return self.statement.verb


@cache
def verbs() -> Mapping[str, Verb]:
    """The verbs by name, in the order of the work."""
    found: dict[str, Verb] = {}
    for module in pkgutil.iter_modules(theoros.verbs.__path__):
        if not module.ispkg:
            continue
        room = importlib.import_module(f"theoros.verbs.{module.name}")
        verb = getattr(room, "VERB", None)
        if isinstance(verb, Verb):
            found[verb.name] = verb
    return {name: found[name] for name in ORDER if name in found}


def arrangements() -> Mapping[str, type[Statement]]:
    """The arrangements of a table by name; they are statements too, beside the verbs."""
    from theoros.verbs.arrange import arrangement

    return arrangement.arrangements()


def statement_from_json(data: object) -> Statement:
    """A statement of any verb from JSON values; raises StatementError with what is wrong."""
    if not isinstance(data, Mapping):
        raise StatementError("A statement is a JSON object with a verb, a table and slots.")
    name = data.get("verb")
    if name not in verbs() and name in arrangements():
        return arrangements()[str(name)].from_json(data)
    if name not in verbs():
        have = ", ".join(verbs())
        raise StatementError(f"There is no verb “{name}”. Verbs: {have}.")
    return verbs()[str(name)].statement.from_json(data)


def make(verb: str, **slots: object) -> Statement:
    """A statement of a verb that another room need not import."""
    return statement_from_json({"verb": verb, **slots})

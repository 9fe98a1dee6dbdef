"""A value nested in a statement: data, a situation, a model of chance.

It has a kind, by which it is chosen and told apart in JSON; it says its slots, which stand under
the path of the field that holds it, and puts right what hangs on one that was set.
"""

from __future__ import annotations

from abc import ABC
from collections.abc import Iterable
from dataclasses import replace
from typing import ClassVar, Self, TypeVar

from theoros.table.table import Table
from theoros.verbs.core.fields import Fielded, slotted
from theoros.verbs.core.json_values import StatementError, field_types
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Slot, SlotGrid

N = TypeVar("N", bound="Nested")


class Nested(Fielded, ABC):
    """Base of such values; subclasses are frozen dataclasses. A field that is None is not yet typed."""

    kind: ClassVar[str]
    """What it is called in JSON."""
    label: ClassVar[str]
    """As it stands where kinds are chosen."""
    help: ClassVar[str]
    detail: ClassVar[str] = ""
    """What is said beside the label there."""
    group: ClassVar[str] = ""
    """Under which heading it stands there."""
    order: ClassVar[int] = 0

    @property
    def needs_table(self) -> bool:
        """Whether it is about rows."""
        return False

    def slots(self, place: Place) -> tuple[Slot, ...]:
        """Its slots in the sentence, in order: those of all fields that carry one."""
        return tuple(self.field_slot(name, place) for name in slotted(type(self)))

    def grid(self, place: Place) -> SlotGrid | None:
        """Slots in a grid below the sentence."""
        return None

    def put(self, field: str, value: object, place: Place) -> tuple[Nested, list[str]] | None:
        """What setting a field comes to where it is not that alone, and what is said of it; None where it is.

        Raises StatementError.
        """
        head, _, rest = field.partition(".")
        held = getattr(self, head, None)
        if not isinstance(held, Nested):
            return None
        inner = replace(place, path=f"{place.path}{head}.")
        if not rest and isinstance(value, str):
            found: tuple[Nested, list[str]] | None = (self.of_kind(head, value, inner), [])
        else:
            found = held.put(rest, value, inner)
        changed: dict[str, object] = {head: found[0]} if found else {}
        return (replace(self, **changed), found[1]) if found else None  # type: ignore[type-var]

    def of_kind(self, field: str, kind: str, place: Place) -> Nested:
        """A value nested in it, of another kind. Raises StatementError where there is no such kind."""
        raise StatementError(f"{self.kind}: {field} has one kind alone.")

    def mended(self, field: str, place: Place) -> tuple[Nested, list[str]]:
        """It after a field was set, with what hangs on it put right, and what is said of that."""
        made = self.put_back(field)
        return (made.filled(place.own) if place.own is not None else made), []

    def filled(self, table: Table) -> Self:
        """With columns chosen where it names none that the table has."""
        return self.with_columns_of(table)

    def wrong(self) -> str:
        """Why it cannot be what was written in a file; empty if it can."""
        return ""


def turned_into(value: N, cls: type[N], place: Place, *, but: tuple[str, ...] = ()) -> N:
    """A value of another kind, with the fields of the same name and type taken along, `but` for some."""
    have, want = field_types(type(value)), field_types(cls)
    kept = {name: getattr(value, name) for name, hint in want.items() if have.get(name) == hint and name not in but}
    made = cls(**kept)
    return made.filled(place.own) if place.own is not None else made


def kind_options(kinds: Iterable[type[Nested]]) -> tuple[Option, ...]:
    """Kinds to choose from."""
    return tuple(Option(one.kind, one.label, one.detail, one.help, one.group) for one in kinds)

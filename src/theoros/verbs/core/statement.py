"""A statement: the sentence with slots that stands for everything a student asks."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import Field, dataclass, replace
from functools import cached_property
from typing import ClassVar, Self

from theoros.table.table import Column
from theoros.verbs.core.fields import Fielded, NamesColumn, NamesColumns, NamesLevel
from theoros.verbs.core.json_values import Json, StatementError, structured, to_plain_values
from theoros.verbs.core.nested import Nested
from theoros.verbs.core.paths import places, put_at, renamed
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Mended, Phrase, Pick, Slot, SlotGrid, Tables, phrase_text


@dataclass(frozen=True)
class Said:
    """A statement as it is said, worked out once for a change and handed on: its sentence and all its slots."""

    phrase: Phrase
    grid: SlotGrid | None = None
    """A small table of slots below the sentence, where they are too many to stand in it."""
    settings: tuple[Slot, ...] = ()
    """Slots that are not part of the sentence: shown beside the answer."""

    @cached_property
    def slots(self) -> tuple[Slot, ...]:
        """Every slot, those of the sentence first."""
        said = tuple(part for part in self.phrase if isinstance(part, Slot))
        return said + (self.grid.slots if self.grid else ()) + self.settings

    @cached_property
    def by_name(self) -> Mapping[str, Slot]:
        """The slots by name; where two have one, the first."""
        return {slot.name: slot for slot in reversed(self.slots)}

    @property
    def text(self) -> str:
        """The sentence as plain text; also the caption of its picture."""
        return phrase_text(self.phrase)


@dataclass(frozen=True)
class Statement(Fielded, ABC):
    """Base of every verb's statement: a value with typed fields.

    A subclass is a frozen dataclass that says itself as a phrase and mends what depends on a
    changed slot. Its fields carry their slots (`core.fields`). What answers it imports it, and not
    the other way round.
    """

    verb: ClassVar[str]
    answered_by: ClassVar[str]
    """The module that answers it: `drafts`, and `drawn_table` where something of it becomes a table.

    Named as text, and imported where answers are worked out alone.
    """
    remembers: ClassVar[tuple[str, ...]] = ()
    """Slots with several choices in which a new statement begins with those made last."""
    before: ClassVar[Mapping[str, str]] = {}
    """Names that its fields had in earlier versions, with those that they have."""
    table: str = ""

    @property
    def needs_table(self) -> bool:
        """Whether there must be rows: not where figures are typed into the sentence."""
        return True

    @abstractmethod
    def phrase(self, tables: Tables) -> Phrase:
        """Text and slots, in order. Must not raise, whatever the fields hold."""

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        """Slots that are not part of the sentence: settings shown beside the answer."""
        return ()

    def grid(self, tables: Tables) -> SlotGrid | None:
        """A small table of slots below the sentence, where they are too many to stand in it."""
        return None

    def put(self, name: str, value: object, slot: Slot | None, tables: Tables) -> Mended:
        """What setting a slot comes to; `slot` is it as it is shown, None where it is not.

        Raises StatementError if it cannot hold the value.
        """
        head, _, rest = name.partition(".")
        held = getattr(self, head, None)
        if isinstance(held, Nested) and (rest or isinstance(value, str)):
            if slot is not None and (problem := slot.holds.problem(value)):
                raise StatementError(problem)
            if not rest:
                return self.of_kind(head, str(value), tables)
            found = held.put(rest, value, self.place_of(head, tables))
            if found is not None:
                changed = self._holding(head, found[0]).mend(name, tables)
                return Mended(changed.statement, (*found[1], *changed.notes))
        elif slot is not None and (problem := slot.holds.problem(value)):
            raise StatementError(problem)
        made = self
        if isinstance(value, tuple) and slot is not None and isinstance(slot.holds, Pick):
            # a column of another table
            table, value = value
            made = replace(made, table=table)
        return put_at(made, name, value, self.verb).mend(name, tables)

    def _holding(self, field: str, value: Nested) -> Self:
        """It with another value nested in a field."""
        return replace(self, **{field: value})  # type: ignore[arg-type]

    def of_kind(self, field: str, kind: str, tables: Tables) -> Mended:
        """It with a nested value of another kind. Raises StatementError where there is no such kind."""
        raise StatementError(f"{self.verb}: {field} has one kind alone.")

    def mend(self, slot: str, tables: Tables) -> Mended:
        """This statement after `slot` was set, with what depends on it put right."""
        head, _, rest = slot.partition(".")
        made, notes = self.put_back(slot), list[str]()
        held = getattr(made, head, None)
        if rest and isinstance(held, Nested):
            value, notes = held.mended(rest, self.place_of(head, tables))
            made = made._holding(head, value)
        return Mended(made, tuple(notes))

    def title(self, tables: Tables) -> str:
        """A short name for an entry that nobody has named yet."""
        return self.text(tables)

    def told_column(self, slot: str, value: object, tables: Tables) -> Column | None:
        """The column as it is known after a slot was set that says something of it, whoever asks.

        So that it is asked once; None for every slot that is about this statement alone.
        """
        return None

    # what follows is the same for every verb

    def here(self, tables: Tables) -> Place:
        """Where it stands itself, for the slots of its fields."""
        return Place(tables, self.table)

    def place_of(self, field: str, tables: Tables) -> Place:
        """Where the value in a field stands."""
        return Place(tables, self.table, f"{field}.")

    def said(self, tables: Tables) -> Said:
        """It as it is said. Never raises."""
        return Said(self.phrase(tables), self.grid(tables), self.settings(tables))

    def slots(self, tables: Tables) -> tuple[Slot, ...]:
        """Every slot, those of the sentence first."""
        return self.said(tables).slots

    def slot(self, name: str, tables: Tables) -> Slot | None:
        return self.said(tables).by_name.get(name)

    def text(self, tables: Tables) -> str:
        """The sentence as plain text."""
        return phrase_text(self.phrase(tables))

    def with_slot(self, name: str, value: object, tables: Tables, said: Said | None = None) -> Mended:
        """A copy with one slot changed, and what depends on it mended.

        `name` is the path of a field, of this value or of one nested in it, whether it is shown
        as a slot or not; `said` is the statement as it is shown, where somebody has it at hand.
        Raises StatementError if it cannot hold the value; the statement is unchanged.
        """
        return self.put(name, value, (said or self.said(tables)).by_name.get(name), tables)

    def with_slots(self, values: Mapping[str, object]) -> Self:
        """A copy with several slots changed at once, nothing mended: the ends of two axes.

        Raises StatementError if one cannot hold its value; the statement is unchanged.
        """
        made = self
        for name, value in values.items():
            made = put_at(made, name, value, self.verb)
        return made

    def slot_for_drop(self, zone: str, column: Column) -> str:
        """The slot that takes a column dropped on the picture; empty for none.

        Zones are the axis, the panels, the key and the middle.
        """
        wanted = "by" if column.kind.is_grouping else "what"
        return wanted if hasattr(self, wanted) else ""

    @property
    def asked_columns(self) -> tuple[str, ...]:
        """The columns it is about, for the next statement to begin with: what, and by what."""
        found = {p.field.name: p.value for p in places(self) if p.field.name in ("what", "by")}
        return tuple(name for name in (found.get("what"), found.get("by")) if name)

    def renamed_column(self, table: str, old: str, new: str) -> Self:
        """This statement after a column was renamed."""
        if table != self.table:
            return self
        names = {old: new}
        return renamed(self, lambda _, known: names if isinstance(_declared(known), NamesColumn | NamesColumns) else {})

    def renamed_levels(self, table: str, column: str, new: Mapping[str, str]) -> Self:
        """This statement after levels of a column got other names."""
        if table != self.table:
            return self

        def of(holder: object, known: Field[object]) -> Mapping[str, str]:
            slot = _declared(known)
            return new if isinstance(slot, NamesLevel) and getattr(holder, slot.of) == column else {}

        return renamed(self, of)

    def renamed_table(self, old: str, new: str) -> Self:
        """This statement after a table was renamed."""
        return replace(self, table=new) if self.table == old else self

    def to_json(self) -> Json:
        """Plain JSON values: the verb and every field."""
        return {"verb": self.verb, **to_plain_values(self)}

    @classmethod
    def from_json(cls, data: Json) -> Self:
        """The statement that `to_json` gave, or that somebody wrote; missing fields take defaults.

        Raises StatementError for an unknown field, a value of the wrong type, or the name of
        something that there is not.
        """
        try:
            held = {name: value for name, value in cls.upgraded(data).items() if name != "verb"}
        except (LookupError, TypeError, AttributeError) as problem:
            raise StatementError(
                f"{cls.verb}: a statement of an earlier version that is damaged ({problem!r})."
            ) from None
        made = structured(cls, held, cls.verb).completed(frozenset(held))
        made.check_values()
        return made

    def completed(self, given: frozenset[str]) -> Self:
        """It with what nobody gave chosen by what was, where one default does not suit everything."""
        return self

    def misread(self, tables: Tables) -> str:
        """What of it cannot be understood, in words; empty for nothing.

        The desk shows that beside what can; where nobody looks, it is refused.
        """
        return ""

    def check_values(self) -> None:
        """Raises StatementError where a field holds what no slot would take."""
        wrong = self.misfit()
        if wrong:
            raise StatementError(f"{self.verb}: {wrong}")

    @classmethod
    def upgraded(cls, data: Json) -> Json:
        """JSON of an earlier version as that of this one."""
        return {cls.before.get(name, name): value for name, value in data.items()} if cls.before else data


def _declared(known: Field[object]) -> object:
    """What a field says of its slot; None where it says nothing."""
    return known.metadata.get("slot")

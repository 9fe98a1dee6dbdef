"""A statement: the sentence with slots that stands for everything a student asks."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar, Self

from theoros.answer.wording import shortened
from theoros.table.table import Column
from theoros.verbs.core.paths import places, put_at, renamed
from theoros.verbs.core.reading import StatementError, structured, to_plain_values
from theoros.verbs.core.slots import Grid, Mended, Phrase, Pick, Slot, Tables, phrase_text

if TYPE_CHECKING:
    pass


def column_field(default: str | tuple[str, ...] | None = None) -> Any:
    """A field that names a column or several, so that it can follow when one is renamed."""
    return field(default=default, metadata={"column": True})


def level_field(column: str, default: Any = None) -> Any:
    """A field that names a level (or several) of the column in the field `column`."""
    return field(default=default, metadata={"level_of": column})


MOST_DRAWN = 2_000_000
"""Beyond the bounds of any slot."""
RANGES = {
    "seed": (0, 2**63 - 1),
    "repeats": (1, MOST_DRAWN),
    "resamples": (1, MOST_DRAWN),
    "shuffles": (1, MOST_DRAWN),
    "simulated": (0, MOST_DRAWN),
    "covering": (0, MOST_DRAWN),
    "opened": (-MOST_DRAWN, MOST_DRAWN),
}
"""What fields of these names may hold, whatever statement has them."""


@dataclass(frozen=True)
class Statement(ABC):
    """Base of every verb's statement: a value with typed fields.

    A subclass is a frozen dataclass that says itself as a phrase and mends what depends on a
    changed slot. What answers it imports it, and not the other way round.
    """

    verb: ClassVar[str]
    answered_by: ClassVar[str]
    """The module that answers it: `drafts`, and `drawn_table` where something of it becomes a table.

    Named as text, and imported where answers are worked out alone.
    """
    remembers: ClassVar[tuple[str, ...]] = ()
    """Slots with several choices in which a new statement begins with those made last."""
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

    def grid(self, tables: Tables) -> Grid | None:
        """A small table of slots below the sentence, where they are too many to stand in it."""
        return None

    def mend(self, slot: str, tables: Tables) -> Mended:
        """This statement after `slot` was set, with what depends on it put right."""
        return Mended(self)

    def title(self, tables: Tables) -> str:
        """A short name for an entry that nobody has named yet."""
        return self.text(tables)

    def told_column(self, slot: str, value: Any, tables: Tables) -> Column | None:
        """The column as it is known after a slot was set that says something of it, whoever asks.

        So that it is asked once; None for every slot that is about this statement alone.
        """
        return None

    # what follows is the same for every verb

    def text(self, tables: Tables) -> str:
        """The sentence as plain text; also the caption of its picture."""
        return phrase_text(self.phrase(tables))

    def slots(self, tables: Tables) -> tuple[Slot, ...]:
        """Every slot, those of the sentence first."""
        said = tuple(part for part in self.phrase(tables) if isinstance(part, Slot))
        grid = self.grid(tables)
        return said + (grid.slots if grid else ()) + self.settings(tables)

    def slot(self, name: str, tables: Tables) -> Slot | None:
        return next((slot for slot in self.slots(tables) if slot.name == name), None)

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        """A copy with one slot changed, and what depends on it mended.

        `name` is the path of a field, of this value or of one nested in it, whether it is shown
        as a slot or not. Raises StatementError if it cannot hold the value; the statement is
        unchanged.
        """
        slot = self.slot(name, tables)
        if slot is not None:
            problem = slot.holds.problem(value)
            if problem:
                raise StatementError(problem)
        made = self
        if isinstance(value, tuple) and slot is not None and isinstance(slot.holds, Pick):
            # a column of another table
            table, value = value
            made = replace(made, table=table)
        return put_at(made, name, value, self.verb).mend(name, tables)

    def with_slots(self, values: Mapping[str, Any]) -> Self:
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
        return renamed(self, lambda _, known: names if known.metadata.get("column") else {})

    def renamed_levels(self, table: str, column: str, new: Mapping[str, str]) -> Self:
        """This statement after levels of a column got other names."""
        if table != self.table:
            return self

        def of(holder: Any, known: Any) -> Mapping[str, str]:
            home = known.metadata.get("level_of")
            return new if home and getattr(holder, home) == column else {}

        return renamed(self, of)

    def renamed_table(self, old: str, new: str) -> Self:
        """This statement after a table was renamed."""
        return replace(self, table=new) if self.table == old else self

    def to_json(self) -> dict[str, Any]:
        """Plain JSON values: the verb and every field."""
        return {"verb": self.verb, **to_plain_values(self)}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> Self:
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
        made = structured(cls, held, cls.verb)
        made.check_values()
        return made

    def check_values(self) -> None:
        """Raises StatementError where a field holds what no slot would take.

        Such as a count of samples beyond all bounds, or the name of a way that there is not.
        """
        for name, (low, high) in RANGES.items():
            value = getattr(self, name, None)
            if value is not None and not low <= value <= high:
                raise StatementError(
                    f"{self.verb}: {name} is a whole number from {low} to {high}, and {shortened(str(value))} is not."
                )

    @classmethod
    def upgraded(cls, data: Mapping[str, Any]) -> Mapping[str, Any]:
        """JSON of an earlier version as that of this one."""
        return data

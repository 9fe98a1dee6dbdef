"""Where a value stands in a statement."""

from __future__ import annotations

from dataclasses import dataclass, replace

from theoros.table.table import Column, Table
from theoros.verbs.core.slots import Slot, Tables


@dataclass(frozen=True)
class Place:
    """Where a value stands: the tables, the one that is asked about, and its path in the statement."""

    tables: Tables
    table: str
    path: str = ""
    """ "data." of what is nested in the field `data`; empty for the statement itself."""

    @property
    def own(self) -> Table | None:
        return self.tables.get(self.table)

    def slot(self, slot: Slot) -> Slot:
        """A slot of the value under its path in the statement."""
        return replace(slot, name=self.path + slot.name) if self.path else slot

    def column(self, name: str | None) -> Column | None:
        """A column of the table that is asked about; None where it has none of that name."""
        own = self.own
        return own.by_name.get(name or "") if own else None

"""Events in a two-way table: the levels of two categories, from rows or typed counts."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.lazy_imports import np
from theoros.table.table import Table, TableError
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.nested import Nested
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, SlotGrid, Tables
from theoros.verbs.data.counts import TwoCategories
from theoros.verbs.data.data import Data, kind_slot, with_data_of
from theoros.verbs.data.observed_counts import TwoWayCounts
from theoros.verbs.probability.outcomes.eventful import DRAWN, Drawn, Eventful, not_too_many
from theoros.verbs.probability.outcomes.space import Space, SpaceStage

if TYPE_CHECKING:
    from theoros.verbs.probability.data import ChanceQuestion

KINDS = ("two categories", "typed two-way counts")


@dataclass(frozen=True)
class TwoWayTable(Eventful):
    kind: ClassVar[str] = "two-way table"
    label: ClassVar[str] = "a two-way table"
    help: ClassVar[str] = "Shares of cases by two categories: and, or, given, not."
    order: ClassVar[int] = 60
    data: Data = field(default_factory=TwoCategories)
    drawn: Drawn | None = DRAWN

    @property
    def needs_table(self) -> bool:
        return not self.data.typed

    def each(self, s: ChanceQuestion, tables: Tables) -> str:
        own = tables.get(s.table)
        noun = own.noun if own is not None and not self.data.typed else "case"
        return s.each.strip() or noun

    def said(self, kind: Slot, each: Slot, place: Place) -> Phrase:
        sides = self.data.sides((), self._inside(place))
        return ("The events of one ", each, " come from ", kind, " of ", *sides.first, ".")

    def _inside(self, place: Place) -> Place:
        """Where its data stand."""
        return replace(place, path=f"{place.path}data.")

    def own_settings(self, place: Place) -> tuple[Slot, ...]:
        inner = self._inside(place)
        kind = kind_slot(self.data, KINDS, "the table", "situation.data")
        return (kind, *self.data.settings(inner))

    def grid(self, place: Place) -> SlotGrid | None:
        return self.data.grid(self._inside(place))

    def of_kind(self, field: str, kind: str, place: Place) -> Nested:
        if kind not in KINDS:
            raise StatementError(f"The table cannot be “{kind}”.")
        return with_data_of(self.data, kind, place)

    def filled(self, table: Table) -> TwoWayTable:
        return replace(self, data=self.data.filled(table))

    def title(self, s: ChanceQuestion) -> str:
        return f"Chances by {self.data.title[:1].lower()}{self.data.title[1:]}"

    def _counts(self, tables: Tables, table: str) -> TwoWayCounts:
        counts = self.data.read(tables, table)
        assert isinstance(counts, TwoWayCounts)
        if counts.total == 0:
            raise CannotAnswer("All counts are 0, so there is no case to take a share of.")
        not_too_many(counts.counts.size, "situation.data.what")
        return counts

    def stages(self, place: Place) -> tuple[SpaceStage, ...]:
        if place.own is None and not self.data.typed:
            return ()
        try:
            return _stages(self._counts(place.tables, place.table))
        except (CannotAnswer, TableError):  # no columns yet, or none of that name any more
            return ()

    def space(self, tables: Tables, table: str) -> Space:
        found = self._counts(tables, table)
        stages = _stages(found)
        rows, columns = found.counts.shape
        codes = np.stack([np.repeat(np.arange(rows), columns), np.tile(np.arange(columns), rows)])
        counts = found.counts.reshape(-1)
        terms = tuple(str(count) for count in counts.tolist())
        return Space(stages, codes.T, counts / counts.sum(), terms, counts)

    def left_out(self, tables: Tables, table: str) -> tuple[str, ...]:
        return tuple(self._counts(tables, table).left_out)


def _stages(counts: TwoWayCounts) -> tuple[SpaceStage, SpaceStage]:
    one, two = counts.names
    return SpaceStage(one, counts.rows), SpaceStage(two, counts.columns)


SITUATIONS = (TwoWayTable,)

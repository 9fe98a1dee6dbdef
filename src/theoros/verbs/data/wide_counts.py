"""A two-way table of counts that stands in a table: a column of labels, a column for each level."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.wording import listed_briefly, sentence_case
from theoros.lazy_imports import np
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import column_field, columns_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Tables
from theoros.verbs.data.count_column import counts_in_rows
from theoros.verbs.data.data import Data, Family, Sides
from theoros.verbs.data.groups import said_unused
from theoros.verbs.data.observed_counts import TwoWayCounts

LABELS = (Kind.CATEGORY, Kind.ORDERED, Kind.TEXT)


@dataclass(frozen=True)
class WideCounts(Data):
    """A label in each row, and number columns that count the cases of each level beside it."""

    kind: ClassVar[str] = "count columns"
    label: ClassVar[str] = "columns of counts"
    help: ClassVar[str] = "One column has the labels of the rows, the others count cases."
    family: ClassVar[Family] = "two-way counts"
    order: ClassVar[int] = 42
    labels: str | None = column_field("the labels of the rows", LABELS)
    columns: tuple[str, ...] = columns_field("the columns of counts", (Kind.NUMBER,), least=2)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        labels, columns = self.slots(place)
        return Sides((labels, " and the columns ", columns))

    def filled(self, table: Table) -> WideCounts:
        made = self.with_columns_of(table)
        numbers = tuple(c.name for c in table.of_kind(Kind.NUMBER))
        return made if len(made.columns) >= 2 else replace(made, columns=numbers)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.labels or 'rows')} and {listed_briefly(self.columns, 3)}"

    def read(self, tables: Tables, table: str) -> TwoWayCounts:
        own, labels = tables[table], str(self.labels)
        held = np.column_stack([counts_in_rows(own, n, "data.columns") for n in self.columns])
        names = own.frame[labels].cast(str).to_list()
        rows = [row for row in np.flatnonzero(own.in_use).tolist() if names[row] is not None]
        lost = int(own.in_use.sum()) - len(rows)
        if not rows:
            raise CannotAnswer(f"No row has a label in {labels}.", "data.labels")
        order = list(dict.fromkeys(names[row] for row in rows))  # rows of one label are added up
        counts = np.zeros((len(order), len(self.columns)), dtype=np.int64)
        for row in rows:
            counts[order.index(names[row])] += held[row]
        if not counts.sum():
            raise CannotAnswer("All counts are 0, so there are no cases.", "data.columns")
        said = [f"{counted(lost, 'row')} left out: {labels} is missing"] if lost else []
        return TwoWayCounts(
            names=(labels, "column"),
            rows=tuple(order),
            columns=tuple(self.columns),
            counts=counts,
            left_out=(*said, *said_unused(own)),
            from_rows=True,
        )


DATA = (WideCounts,)

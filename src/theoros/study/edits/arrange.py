"""The edit that applies an arrangement: the statement itself is what is written down."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

from theoros.study.edits.edit import Edit
from theoros.study.entries import Study
from theoros.table.recalculation import settled

if TYPE_CHECKING:
    from theoros.verbs.arrange.arrangement import Arrangement


@dataclass(frozen=True)
class Arrange(Edit):
    """Does what an arrangement says: changes its table, or adds one."""

    kind: ClassVar[str] = "arrange"
    statement: Arrangement

    def apply(self, study: Study) -> Study:
        from theoros.verbs.arrange.answering import arranged

        result = arranged(self.statement, study.by_name)
        before = study.by_name.get(self.statement.table)
        if result.new:
            return study.with_(tables=(*study.tables, settled(result.table)))
        return study.with_table(self.statement.table, settled(result.table, before))

    def note(self, before: Study) -> str:
        from theoros.verbs.arrange.answering import arranged

        return " ".join(arranged(self.statement, before.by_name).notes)

    @property
    def label(self) -> str:
        return self.statement.doing

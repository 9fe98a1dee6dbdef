"""Every change of a study as a value: it can be applied, undone and written down.

One room for each kind of thing that is changed; all are registered by their `kind`.
"""

from theoros.study.edits.arrange import Arrange
from theoros.study.edits.columns import (
    AddColumn,
    ChangeColumn,
    DeleteColumns,
    DuplicateColumns,
    MoveColumns,
    OrderLevels,
    RecodeLevels,
)
from theoros.study.edits.edit import EDITS, Edit, TableStore, edit_from_json
from theoros.study.edits.entries import AddEntry, ChangeEntry, RemoveEntry
from theoros.study.edits.report import AddBlock, MoveBlock, RemoveBlock, SetText, SetTitle
from theoros.study.edits.rows import (
    DeleteRows,
    DuplicateRows,
    FillDown,
    InsertRows,
    MoveRows,
    OriginalOrder,
    PasteTable,
    SetAside,
    SetCells,
)
from theoros.study.edits.tables import (
    AddTable,
    ChangeTable,
    RemoveTable,
    SetCounts,
    SetGot,
    SetKeep,
    TableEdit,
)

__all__ = [
    "EDITS",
    "AddBlock",
    "AddColumn",
    "AddEntry",
    "AddTable",
    "Arrange",
    "ChangeColumn",
    "ChangeEntry",
    "ChangeTable",
    "DeleteColumns",
    "DeleteRows",
    "DuplicateColumns",
    "DuplicateRows",
    "Edit",
    "FillDown",
    "InsertRows",
    "MoveBlock",
    "MoveColumns",
    "MoveRows",
    "OrderLevels",
    "OriginalOrder",
    "PasteTable",
    "RecodeLevels",
    "RemoveBlock",
    "RemoveEntry",
    "RemoveTable",
    "SetAside",
    "SetCells",
    "SetCounts",
    "SetGot",
    "SetKeep",
    "SetText",
    "SetTitle",
    "TableEdit",
    "TableStore",
    "edit_from_json",
]

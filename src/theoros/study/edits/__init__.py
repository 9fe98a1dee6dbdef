"""Every change of a study as a value: it can be applied, undone and written down.

One room for each kind of thing that is changed; all are registered by their `kind`. A room is
imported when one of its edits is first used, so that the window need not wait for all of them.
"""

import importlib
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
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
    from theoros.study.edits.edit import Edit, TableStore, edit_from_json, edit_kinds
    from theoros.study.edits.entries import AddEntry, ChangeEntry, RemoveEntry
    from theoros.study.edits.report import AddBlock, MoveBlock, RemoveBlock, SetDigits, SetText, SetTitle, ShowParts
    from theoros.study.edits.rows import (
        DeleteRows,
        DuplicateRows,
        FillDown,
        InsertRows,
        MoveRows,
        NamesFromFirstRow,
        OriginalOrder,
        PasteTable,
        ReplaceText,
        SetAside,
        SetCells,
    )
    from theoros.study.edits.tables import (
        AddTable,
        ChangeTable,
        RemoveTable,
        RenewTable,
        SetCounts,
        SetGot,
        SetKeep,
        TableEdit,
    )

_ROOMS = {
    "arrange": ("Arrange",),
    "columns": (
        "AddColumn",
        "ChangeColumn",
        "DeleteColumns",
        "DuplicateColumns",
        "MoveColumns",
        "OrderLevels",
        "RecodeLevels",
    ),
    "edit": ("Edit", "TableStore", "edit_from_json", "edit_kinds"),
    "entries": ("AddEntry", "ChangeEntry", "RemoveEntry"),
    "report": ("AddBlock", "MoveBlock", "RemoveBlock", "SetDigits", "SetText", "SetTitle", "ShowParts"),
    "rows": (
        "DeleteRows",
        "DuplicateRows",
        "FillDown",
        "InsertRows",
        "MoveRows",
        "NamesFromFirstRow",
        "OriginalOrder",
        "PasteTable",
        "ReplaceText",
        "SetAside",
        "SetCells",
    ),
    "tables": ("AddTable", "ChangeTable", "RemoveTable", "RenewTable", "SetCounts", "SetGot", "SetKeep", "TableEdit"),
}
_ROOM_OF = {name: room for room, names in _ROOMS.items() for name in names}


def __getattr__(name: str) -> Any:
    """An edit from its room."""
    if name not in _ROOM_OF:
        raise AttributeError(name)
    found = getattr(importlib.import_module(f"{__name__}.{_ROOM_OF[name]}"), name)
    globals()[name] = found
    return found


__all__ = [
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
    "NamesFromFirstRow",
    "OrderLevels",
    "OriginalOrder",
    "PasteTable",
    "RecodeLevels",
    "RemoveBlock",
    "RemoveEntry",
    "RemoveTable",
    "RenewTable",
    "ReplaceText",
    "SetAside",
    "SetCells",
    "SetCounts",
    "SetDigits",
    "SetGot",
    "SetKeep",
    "SetText",
    "SetTitle",
    "ShowParts",
    "TableEdit",
    "TableStore",
    "edit_from_json",
    "edit_kinds",
]

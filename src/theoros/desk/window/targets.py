"""What can be shown in the middle of the window, and what is shown after an edit."""

from __future__ import annotations

from theoros.desk.window.side_list import Target
from theoros.study import edits
from theoros.study.entries import Entry, Study


def still_there(study: Study, shown: Target | None, edit: edits.Edit | None, beside: Entry | None) -> Target | None:
    """What to show after an edit: what was shown if it is there, the entry beside it, or a table."""
    names = [table.name for table in study.tables]
    if edit and shown and shown[0] == "table" and isinstance(edit, edits.ChangeTable):
        for old, new in ((edit.name, edit.new_name), (edit.new_name, edit.name)):
            if shown[1] == old and old not in names:
                shown = ("table", " ".join(new.split()))
    if shown is not None:
        what, key = shown
        there = {
            "table": key in names,
            "arrange": key in names,
            "entry": any(entry.id == key for entry in study.entries),
            "report": True,
            "start": not names,
        }
        if there[what]:
            return shown
        if what == "entry" and beside is not None and beside in study.entries:
            return ("entry", beside.id)
    return ("table", names[0]) if names else ("start", "")

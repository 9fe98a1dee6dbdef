"""Tables beside the journal: each state that an edit needs, written once."""

from __future__ import annotations

import contextlib
import json
import os
from pathlib import Path

from theoros.files.errors import reason
from theoros.files.table_schema import about_from, about_json, column_from, column_json
from theoros.lazy_imports import pl
from theoros.study.atomic import sync, sync_folder
from theoros.study.package import settled_table
from theoros.study.prints import sum_of
from theoros.table.table import Table


class TableFiles:
    """Tables kept in a folder as Arrow files: exact, and written without a second copy.

    They are on the disk before anything names them.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._ready: dict[int, tuple[Table, str]] = {}

    def prepare(self, table: Table) -> None:
        """Writes a table that is about to come in, so that `put` need not; on any thread.

        Raises OSError, as `put` does.
        """
        self._ready[id(table)] = table, self._write(table)

    def put(self, table: Table) -> str:
        ready = self._ready.pop(id(table), None)
        return ready[1] if ready is not None else self._write(table)

    def _write(self, table: Table) -> str:
        key = os.urandom(16).hex()
        cells, about = self.folder / f"{key}.arrow", self.folder / f"{key}.json"
        try:
            described = {
                "name": table.name,
                **about_json(table),
                "fields": [column_json(table, column) for column in table.columns],
            }
            if table.columns:
                table.frame.write_ipc(cells)
                sync(cells)
                described["sum"] = sum_of(cells)
            about.write_text(json.dumps(described))
            sync(about)
            sync_folder(self.folder)
        except (OSError, pl.exceptions.PolarsError) as problem:
            for file in (cells, about):
                with contextlib.suppress(OSError):
                    file.unlink()
            raise OSError(reason(problem)) from None
        return key

    def get(self, key: str) -> Table:
        """A table that was put there. Raises OSError, ValueError for one that is damaged."""
        about = json.loads((self.folder / f"{key}.json").read_text())
        columns = tuple(column_from(field) for field in about["fields"])
        cells = self.folder / f"{key}.arrow"
        if columns and sum_of(cells) != about.get("sum"):
            raise ValueError(f"the table {about['name']} is damaged")
        frame = pl.read_ipc(cells) if columns else pl.DataFrame()
        return settled_table(about["name"], columns, frame, about_from(about))

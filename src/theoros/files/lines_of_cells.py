"""Lines of cells as text, and text as lines of cells."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence


def table_text(rows: Sequence[Sequence[str]], delimiter: str = "\t") -> str:
    """Rows of cells as delimited text, quoted where needed; an empty cell is nothing at all."""
    special = (delimiter, '"', "\n", "\r")

    def written(cell: str) -> str:
        if any(mark in cell for mark in special):
            return '"' + cell.replace('"', '""') + '"'
        return cell

    return "".join(delimiter.join(map(written, row)) + "\n" for row in rows)


def cell_reader(text: str, delimiter: str, quote: str = '"', *, strict: bool = False):  # type: ignore[no-untyped-def]
    """The lines of a text, as cells; `line_num` tells how far it has come."""
    lines = io.StringIO(text, newline="")
    if not quote:
        return csv.reader(lines, delimiter=delimiter, quoting=csv.QUOTE_NONE, strict=strict)
    return csv.reader(lines, delimiter=delimiter, quotechar=quote, strict=strict)


def lines_of_cells(text: str, delimiter: str, quote: str = '"') -> list[list[str]]:
    try:
        return list(cell_reader(text, delimiter, quote))
    except csv.Error:
        return [line.split(delimiter) for line in text.splitlines()]

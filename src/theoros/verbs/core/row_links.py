"""Links to rows worth a look: see them, try without them, take them back."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.nouns import counted
from theoros.answer.parts import Link
from theoros.answer.wording import listed_briefly
from theoros.table.table import Table

MOST_NAMED = 4


def row_links(table: Table, outlying: Sequence[int]) -> list[Link]:
    """What can be done about outlying rows, and about those that are set aside already."""
    links = []
    if outlying:
        rows = tuple(sorted(outlying))
        links.append(Link(f"See {_named(rows)} in the table", rows=rows))
        links.append(Link(f"Try it without {_named(rows)}", rows=rows, aside=True))
    if table.aside:
        rows = tuple(sorted(table.aside))
        links.append(Link(f"Use {_named(rows)} again", rows=rows, aside=False))
    return links


def _named(rows: Sequence[int]) -> str:
    """ "row 11", "rows 3, 4 and 9", "12 rows"."""
    if len(rows) > MOST_NAMED:
        return counted(len(rows), "row")
    word = "row" if len(rows) == 1 else "rows"
    return f"{word} {listed_briefly([str(row + 1) for row in rows])}"

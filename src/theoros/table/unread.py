"""A table whose values are read when they are first needed, so that a window is up at once."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import fields
from functools import cached_property

from theoros.lazy_imports import pl
from theoros.table.table import ABOUT, Column, Table


class UnreadTable(Table):
    """Knows its columns and the text of its cells; `read` gives the frame when it is asked for.

    Only for text that is known to be sound, such as the demo that ships with Theoros: what is
    wrong with it would come up late.
    """

    def __init__(
        self,
        name: str,
        columns: tuple[Column, ...],
        cells: Sequence[Sequence[str]],
        read: Callable[[], Table],
        **about: object,
    ) -> None:
        """`about` gives the fields of the table besides its name and columns, as in ABOUT."""
        held = {"name": name, "columns": columns, **about}
        for known in fields(Table):
            if known.name != "frame":
                default = {} if known.name == "_cache" else known.default
                object.__setattr__(self, known.name, held.get(known.name, default))
        object.__setattr__(self, "_cells", cells)
        object.__setattr__(self, "_read", read)

    @cached_property
    def frame(self) -> pl.DataFrame:
        return self._read().frame  # type: ignore[attr-defined, no-any-return]

    @property
    def rows(self) -> int:
        return len(self._cells)  # type: ignore[attr-defined]

    @property
    def ready(self) -> bool:
        return "frame" in self.__dict__

    def cell_texts(self, name: str, first: int, count: int) -> list[str]:
        if self.ready:
            return super().cell_texts(name, first, count)
        place = self.place(name)
        rows = self._cells[first : first + count]  # type: ignore[attr-defined]
        return [str(row[place]) for row in rows]

    def with_(self, **changes: object) -> Table:
        return self._as_read().with_(**changes)

    def with_values(self, touched: Collection[str], **changes: object) -> Table:
        return self._as_read().with_values(touched, **changes)

    def _as_read(self) -> Table:
        held = {name: getattr(self, name) for name in (*ABOUT, "kept", "origin")}
        return Table(frame=self.frame, **held)

"""A table whose values are read when they are first needed, so that a window is up at once."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import cached_property

from theoros.heavy import pl
from theoros.table.table import Column, Table


class UnreadTable(Table):
    """Knows its columns and the text of its cells; `read` gives the frame when it is asked for.

    Only for text that is known to be sound, such as the demo that ships with Theoros: what is
    wrong with it would come up late.
    """

    def __init__(
        self,
        name: str,
        columns: tuple[Column, ...],
        noun: str,
        cells: Sequence[Sequence[str]],
        read: Callable[[], pl.DataFrame],
        aside: frozenset[int] = frozenset(),
    ) -> None:
        for key, value in (
            ("name", name),
            ("columns", columns),
            ("noun", noun),
            ("aside", aside),
            ("_cache", {}),
            ("_cells", cells),
            ("_read", read),
        ):
            object.__setattr__(self, key, value)

    @cached_property
    def frame(self) -> pl.DataFrame:
        return self._read()  # type: ignore[attr-defined, no-any-return]

    @property
    def rows(self) -> int:
        return len(self._cells)  # type: ignore[attr-defined]

    @property
    def ready(self) -> bool:
        return "frame" in self.__dict__

    def cell_text(self, row: int, name: str) -> str:
        if self.ready:
            return super().cell_text(row, name)
        return str(self._cells[row][self.place(name)])  # type: ignore[attr-defined]

    def with_(self, **changes: object) -> Table:
        made = Table(self.name, self.columns, self.frame, self.noun, self.aside)
        return made.with_(**changes)

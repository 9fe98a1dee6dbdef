"""The history of a study: edits done, undone and done again."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from theoros.study.entries import Study

if TYPE_CHECKING:
    from theoros.study.edits import Edit


@dataclass
class History:
    """A study with the way it came. `undo` goes back to exactly the study before."""

    study: Study
    _past: list[tuple[Edit, Study]] = field(default_factory=list)
    _future: list[tuple[Edit, Study]] = field(default_factory=list)

    def do(self, edit: Edit) -> Study:
        """Applies an edit; raises what it raises, and then nothing has changed."""
        after = edit.apply(self.study)
        self._past.append((edit, self.study))
        self._future.clear()
        self.study = after
        return after

    def took(self, edit: Edit, before: Study, after: Study) -> bool:
        """Takes over what an edit made of `before`, worked out elsewhere.

        False, and nothing has changed, if the study is another one by now.
        """
        if self.study is not before:
            return False
        self._past.append((edit, before))
        self._future.clear()
        self.study = after
        return True

    def undo(self) -> Edit | None:
        """Takes the last edit back; None if there is none."""
        if not self._past:
            return None
        edit, before = self._past.pop()
        self._future.append((edit, self.study))
        self.study = before
        return edit

    def redo(self) -> Edit | None:
        """Does the last edit taken back again; None if there is none."""
        if not self._future:
            return None
        edit, after = self._future.pop()
        self._past.append((edit, self.study))
        self.study = after
        return edit

    @property
    def origin(self) -> Study:
        """The study before the first edit that can be undone."""
        return self._past[0][1] if self._past else self.study

    @property
    def done(self) -> tuple[Edit, ...]:
        """The edits that led from there to the study."""
        return tuple(edit for edit, _ in self._past)

    @property
    def to_undo(self) -> str:
        """What the next undo takes back, in words; empty for nothing."""
        return self._past[-1][0].label if self._past else ""

    @property
    def to_redo(self) -> str:
        return self._future[-1][0].label if self._future else ""

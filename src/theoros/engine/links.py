"""The engines of one program: one that answers, and one for files, begun when it is needed."""

from __future__ import annotations

from pathlib import Path

from theoros.engine.link import Link


class Links:
    """A file that hangs its reader holds up no answer, since it is read in another process."""

    def __init__(self, home: Path | None = None) -> None:
        self._home = home
        self.answers = Link("engine", home)
        self.answers.start()
        self._files: Link | None = None

    def files(self) -> Link:
        """The engine for files, started if it is not yet."""
        if self._files is None:
            self._files = Link("file engine", self._home)
            self._files.start()
        return self._files

    def end(self) -> None:
        self.answers.end()
        if self._files is not None:
            self._files.end()

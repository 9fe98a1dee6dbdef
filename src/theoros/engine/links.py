"""The engines of one program: one that answers, and others for files, begun when needed."""

from __future__ import annotations

from pathlib import Path

from theoros.engine.link import BACKGROUND, EngineLink


class Links:
    """Files are read in another process than they are written in, or statements answered.

    So a file that hangs its reader holds up neither an answer nor an export.
    """

    def __init__(self, home: Path | None = None) -> None:
        self._home = home
        self.answers = EngineLink("engine", home)
        self.answers.start()
        self._others: dict[str, EngineLink] = {}

    def writer(self) -> EngineLink:
        """The engine that writes files, started if it is not yet; nobody waits for it."""
        return self._other("writer", BACKGROUND)

    def reader(self) -> EngineLink:
        """The engine that reads files, started if it is not yet."""
        return self._other("reader")

    def _other(self, name: str, nice: int = 0) -> EngineLink:
        if name not in self._others:
            self._others[name] = EngineLink(name, self._home, nice)
            self._others[name].start()
        return self._others[name]

    def end(self) -> None:
        for link in (self.answers, *self._others.values()):
            link.end()

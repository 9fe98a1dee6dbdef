"""Files that are dragged onto the window."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QMimeData


def dropped_files(data: QMimeData) -> list[Path]:
    """The files of this machine that are being dragged."""
    return [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()]

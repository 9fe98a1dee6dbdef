"""Short help, found by typing and in the Help menu; its texts stand in help.md."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from PySide6.QtWidgets import QMessageBox, QWidget


@cache
def topics() -> dict[str, str]:
    """The texts by their titles, in the order in which they are listed."""
    text = Path(__file__).with_name("help.md").read_text(encoding="utf-8")
    parts = (part.partition("\n") for part in text.removeprefix("## ").split("\n## "))
    return {title: said.replace("\n", " ").strip() for title, _, said in parts}


def show_topic(window: QWidget, topic: str) -> None:
    """Help on a topic, in a box of its own before the window."""
    box = QMessageBox(window)
    box.setWindowTitle("Help")
    box.setText(f"<b>{topic}</b>")
    box.setInformativeText(topics()[topic])
    box.open()

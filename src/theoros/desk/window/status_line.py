"""The line at the foot of the window: rows in use, what was left out, seed, selection."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QHBoxLayout, QWidget

from theoros.answer.nouns import counted
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel

if TYPE_CHECKING:
    from theoros.desk.window.interfaces import Stage


class StatusLine(QWidget):
    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("status")
        self.setAccessibleName("status")
        self.theme = theme
        self._layout = QHBoxLayout(self)
        self._layout.setContentsMargins(14, 0, 14, 0)
        self._layout.setSpacing(22)
        self._layout.addStretch()
        self._labels: list[PlainLabel] = []
        self._shown: tuple[str, ...] = ()
        theme.changed.connect(self._retheme)
        self._retheme()

    def _retheme(self) -> None:
        self.setFixedHeight(self.theme.px(24))
        for label in self._labels:
            label.setFont(self.theme.font(12))

    def show_texts(self, texts: Sequence[str]) -> None:
        """Shows these texts beside each other."""
        if tuple(texts) == self._shown:
            return
        self._shown = tuple(texts)
        while len(self._labels) < len(texts):
            label = PlainLabel()
            label.setFont(self.theme.font(12))
            label.setProperty("tone", "mute")
            self._layout.insertWidget(len(self._labels), label)
            self._labels.append(label)
        for at, label in enumerate(self._labels):
            label.setVisible(at < len(texts))
            label.setText(texts[at] if at < len(texts) else "")
        self.setAccessibleDescription("; ".join(texts))

    @property
    def texts(self) -> tuple[str, ...]:
        return self._shown


def status_texts(stage: Stage) -> list[str]:
    """What there is to say about what is shown."""
    if not stage.shown:
        return []
    what, key = stage.shown
    if what == "start":
        return ["no table yet"]
    if what == "report":
        return [counted(len(stage.session.study.report), "block")]
    name = key
    made: list[str] = []
    if what == "arrange":
        return [f"{key} does not change until you arrange it"]
    if what == "entry":
        answer, entry = stage.entry_page.answer, stage.entry_page.entry
        name = entry.statement.table if entry else ""
        if answer and not answer.problem:
            table = stage.session.study.by_name.get(name)
            one = "case" if table is not None and table.counts else "row"
            if entry and not entry.statement.needs_table:
                made.append("calculated from typed figures")
            else:
                made.append(f"{name}: {counted(answer.used, one)} in use")
                made += list(answer.left_out) or ["none left out"]
            if answer.seed is not None:
                made.append(f"seed {answer.seed}")
    else:
        table = stage.session.study.by_name.get(key)
        if table is not None:
            made.append(f"{key}: {counted(table.rows, 'row')}, {counted(len(table.columns), 'column')}")
            if table.ready and (table.aside or table.keep):
                made.append(f"{counted(int(table.in_use.sum()), 'row')} in use")
            if table.ready and table.counts:
                made.append(f"{counted(int(table.weights.sum()), 'case')}")
            column = stage.table_page.sheet.current_column()
            if column and table.ready:
                missing = table.missing(column)
                made.append(f"{column}: {counted(missing, 'value')} missing")
    n = stage.session.selected_count(name)
    made.append(f"{counted(n, 'row')} selected" if n else "no rows selected")
    return made

"""What goes out of the program: the clipboard, pictures, the exported report."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QApplication, QFileDialog

from theoros.answer.wording import to_plain
from theoros.desk.parts.engine import Engine
from theoros.study.entries import StudyError

if TYPE_CHECKING:
    from theoros.desk.window.interfaces import Stage

CAPTIONED = "pictures/caption"
"""The setting that says whether pictures go out with their statement below them."""


class Outgoing:
    def __init__(self, stage: Stage, engine: Engine) -> None:
        self.stage, self.engine = stage, engine
        engine.stepped.connect(self._worked)

    def copy(self) -> None:
        """Copies what has the focus: cells, figures, or the picture."""
        at = QApplication.focusWidget()
        if at is not None and hasattr(at, "copy"):  # sheets, figures and fields each know how
            at.copy()
        elif self.stage.current_entry():
            self.copy_picture()

    def cut(self) -> None:
        """Copies what has the focus, and takes it away."""
        at = QApplication.focusWidget()
        if at is not None and hasattr(at, "cut"):
            at.cut()

    def print_shown(self) -> None:
        from theoros.desk.window.printing import print_shown

        self.stage.keep_text()
        print_shown(self.stage)

    def paste(self) -> None:
        at = QApplication.focusWidget()
        if at is not None and hasattr(at, "paste"):
            at.paste()

    def copy_picture(self) -> None:
        shown = self.stage.entry_page.answer
        if self.stage.current_entry() and shown and shown.picture:
            from theoros.desk.parts.clipboard import copy_picture

            copy_picture(shown.picture, self.caption())
            self.stage.banner.say("The picture is on the clipboard, as PNG and SVG.", "mute", brief=True)

    def caption(self) -> str:
        """The statement, to stand below a picture that goes out; empty where that is not wanted."""
        shown = self.stage.entry_page.answer
        return shown.caption if shown and self.captioned else ""

    @property
    def captioned(self) -> bool:
        return bool(self.stage.session.settings.value(CAPTIONED, True, type=bool))

    def set_captioned(self, wanted: bool) -> None:
        self.stage.session.settings.setValue(CAPTIONED, wanted)

    def copy_words(self) -> None:
        """Caption and description as text: for a document that asks for them by themselves."""
        shown = self.stage.entry_page.answer
        if self.stage.current_entry() and shown and shown.picture:
            QApplication.clipboard().setText(f"{shown.caption}\n\n{to_plain(shown.picture.alt)}")
            self.stage.banner.say("The caption and the description are on the clipboard, as text.", "mute", brief=True)

    def copy_figures(self) -> None:
        shown = self.stage.entry_page.answer
        if self.stage.current_entry() and shown and shown.figures:
            from theoros.desk.parts.clipboard import copy_figures

            copy_figures(shown.figures[0])
            self.stage.banner.say("The table is on the clipboard.", "mute", brief=True)

    def save_picture(self) -> None:
        shown, entry = self.stage.entry_page.answer, self.stage.current_entry()
        if not entry or not shown or not shown.picture:
            return
        name, _ = QFileDialog.getSaveFileName(
            self.stage.frame,
            "Save picture",
            f"{entry.name(self.stage.session.study.by_name)}.png",
            "Pictures (*.png *.svg *.pdf)",
        )
        if name:
            from theoros.desk.parts.clipboard import picture_svg
            from theoros.desk.parts.paint import save_picture

            try:
                said = self.caption()
                save_picture(shown.picture, Path(name), picture_svg(shown.picture, said), said)
            except StudyError as problem:
                self.stage.banner.say(str(problem), "bad")

    def export_report(self, path: Path | None = None) -> None:
        """Writes the report as one HTML file."""
        self.stage.keep_text()
        if path is None:
            title = self.stage.session.study.title or "report"
            name, _ = QFileDialog.getSaveFileName(
                self.stage.frame, "Export report", f"{title}.html", "Web pages (*.html)"
            )
            if not name:
                return
            path = Path(name)
        study = self.stage.session.study
        answers = self.stage.entry_pages.known
        found = {entry.id: answers.find(entry, study) for entry in study.entries}
        known = {key: answer for key, answer in found.items() if answer is not None}
        from theoros.engine.tasks.writing import WriteReport

        task = WriteReport(study.with_(tables=()), known, path)
        self.engine.run("export", task, study.by_name)

    def _worked(self, key: str, step: Any, _: object) -> None:
        if key == "export":
            self.stage.banner.say(*step)

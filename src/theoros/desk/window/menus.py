"""The menu bar: everything can be reached from here and by keyboard."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QActionGroup, QKeySequence
from PySide6.QtWidgets import QApplication, QMenu, QMessageBox

from theoros import __version__
from theoros.answer.digits import BY_RULE, P_DECIMALS, STATISTIC_DECIMALS, Digits
from theoros.desk.parts.theme import MODES, SCALES
from theoros.study import edits
from theoros.verbs.core.registry import verbs

if TYPE_CHECKING:
    from theoros.desk.window.window import Window

Actions = dict[str, QAction]
SEPARATOR = ("", "", None, "")


def build(window: Window) -> Actions:
    """Builds the menus and gives their actions by name."""
    menus = _Menus(window)
    for one in (menus.study, menus.edit, menus.table, menus.ask, menus.report, menus.view, menus.help):
        one()
    return menus.made


class _Menus:
    """The menus of a window, built one after another; `made` has the actions by name."""

    def __init__(self, window: Window) -> None:
        self.window = window
        self.made: Actions = {}

    def _fill(self, title: str, rows: list[tuple]) -> QMenu:
        menu = self.window.menuBar().addMenu(title)
        for name, text, action, keys in rows:
            if not name:
                menu.addSeparator()
                continue
            one = QAction(text, self.window)
            if isinstance(keys, tuple):
                one.setShortcuts([QKeySequence(one_of) for one_of in keys])
            elif keys:
                one.setShortcut(QKeySequence(keys))
            one.triggered.connect(lambda _=False, do=action: do())
            menu.addAction(one)
            self.made[name] = one
        return menu

    def study(self) -> None:
        window = self.window
        study = self._fill(
            "&Study",
            [
                ("new study", "&New study", window.files.new_study, "Ctrl+N"),
                ("open study", "&Open study…", window.files.open_any, "Ctrl+O"),
                ("open table", "Open &table…", window.files.open_table, "Ctrl+Shift+O"),
                SEPARATOR,
                ("save", "&Save", window.files.save, "Ctrl+S"),
                ("save as", "Save &as…", window.files.save_as, "Ctrl+Shift+S"),
                ("name study", "Na&me the study…", lambda: window.asking.rename(("report", "")), ""),
                SEPARATOR,
                ("print", "&Print…", window.outgoing.print_shown, "Ctrl+P"),
                ("demo", "Open the &demo study", window.files.open_demo, ""),
                ("quit", "&Quit", window.close, ("Ctrl+Q", "Ctrl+W")),
            ],
        )
        for title, kept, offered, setting in (
            ("Decimals of p-val&ues", "p", P_DECIMALS, lambda d, n: replace(d, p=n)),
            ("Decimals of s&tatistics", "statistic", STATISTIC_DECIMALS, lambda d, n: replace(d, statistic=n)),
        ):
            sub = QMenu(title, window)
            study.insertMenu(self.made["print"], sub)
            sub.aboutToShow.connect(partial(_fill_decimals, window, sub, kept, offered, setting))
        study.insertSeparator(self.made["print"])
        recent = QMenu("Open &recent", window)
        study.insertMenu(self.made["save"], recent)
        study.aboutToShow.connect(lambda: _fill_recent(window, recent))

    def edit(self) -> None:
        window = self.window
        page, sheet = self.window.table_page, self.window.table_page.sheet
        self._fill(
            "&Edit",
            [
                ("undo", "&Undo", window.session.undo, "Ctrl+Z"),
                ("redo", "&Redo", window.session.redo, ("Ctrl+Shift+Z", "Ctrl+Y")),
                SEPARATOR,
                ("cut", "Cu&t", window.outgoing.cut, "Ctrl+X"),
                ("copy", "&Copy", window.outgoing.copy, "Ctrl+C"),
                ("paste", "&Paste", window.outgoing.paste, "Ctrl+V"),
                ("paste values", "Paste as &values", lambda: sheet.paste(headed=False), "Ctrl+Shift+V"),
                ("select all", "Select &all", sheet.keys.select_all, "Ctrl+A"),
                SEPARATOR,
                ("find cells", "F&ind in the table…", page.find_bar.open_bar, "Ctrl+F"),
                ("replace", "R&eplace in the table…", partial(page.find_bar.open_bar, replacing=True), "Ctrl+H"),
                ("find", "&Find a verb, column or method…", window.find_box.setFocus, "Ctrl+K"),
            ],
        )

    def table(self) -> None:
        window = self.window
        page, hand = self.window.table_page, self.window.table_page.sheet.controller
        table = self._fill(
            "&Table",
            [
                ("new table", "&New table", window.files.new_table, "Ctrl+T"),
                ("new column", "New &column", window.table_page.add_column, "Ctrl+Shift+K"),
                ("insert row", "&Insert rows above", hand.insert_rows, "Ctrl+I"),
                ("duplicate rows", "D&uplicate rows", hand.duplicate_rows, ""),
                ("fill down", "&Fill down", hand.fill_down, "Ctrl+D"),
                ("move up", "Move rows u&p", partial(hand.move_selected, "rows", -1), ""),
                ("move down", "Move rows d&own", partial(hand.move_selected, "rows", 1), ""),
                ("aside", "Set rows &aside", lambda: window.asking.set_selection_aside(True), "Ctrl+L"),
                ("back", "Ta&ke rows back", lambda: window.asking.set_selection_aside(False), ""),
                ("delete rows", "Delete &rows", hand.delete_rows, "Ctrl+-"),
                ("duplicate columns", "Duplicate columns", hand.duplicate_columns, ""),
                ("move left", "Move columns &left", partial(hand.move_selected, "columns", -1), ""),
                ("move right", "Move columns ri&ght", partial(hand.move_selected, "columns", 1), ""),
                ("delete columns", "Delete colum&ns", hand.delete_columns, ""),
                SEPARATOR,
                ("first row", "Use the first row as na&mes", page.names_from_first_row, ""),
                ("row by row", "Row &by row", window.show_row_by_row, "F7"),
                ("original order", "Original or&der", window.table_page.original_order, ""),
                ("got", "&How the rows were got…", window.table_page.words.choose_got, ""),
                ("counts", "How rows coun&t…", window.table_page.words.choose_counts, ""),
                ("save table", "&Save table as…", window.files.save_table, ""),
                SEPARATOR,
                ("rename table", "Rena&me the table…", window.table_page.rename, ""),
                ("name rows", "&What is one row?…", window.table_page.name_rows, ""),
                ("remove table", "Remove the ta&ble", window.asking.remove, ""),
            ],
        )
        arrange = QMenu("&Arrange", window)
        table.insertMenu(self.made["row by row"], arrange)
        arrange.aboutToShow.connect(lambda: _fill_arrange(window, arrange))

    def ask(self) -> None:
        window = self.window
        asks = [
            (f"ask {name}", verb.label, partial(window.asking.ask, name), f"Ctrl+{at}")
            for at, (name, verb) in enumerate(verbs().items(), 1)
        ]
        guides = [
            (f"guide {name}", f"&{verb.guide.label}", partial(window.asking.guide, name), "")
            for name, verb in verbs().items()
            if verb.guide is not None
        ]
        self._fill(
            "&Ask",
            [
                *asks,
                SEPARATOR,
                *guides,
                ("question", "The &question as it was set…", window.asking.set_question, ""),
                ("working", "&Working", lambda: window.entry_page.toggle_working(), "F8"),
                ("draw anew", "&Draw again, from another seed", lambda: window.entry_page.draw_anew(), "F9"),
                ("rename entry", "&Rename the entry…", window.asking.rename, "F2"),
                ("duplicate", "D&uplicate the entry", window.asking.duplicate, "Ctrl+Shift+D"),
                ("remove entry", "Re&move the entry", window.asking.remove, ""),
                SEPARATOR,
                ("copy picture", "&Copy picture", window.outgoing.copy_picture, "Ctrl+Shift+C"),
                ("copy words", "Copy caption and descri&ption", window.outgoing.copy_words, ""),
                ("copy figures", "Copy &figures", window.outgoing.copy_figures, ""),
                ("save picture", "&Save picture…", window.outgoing.save_picture, ""),
            ],
        )

    def report(self) -> None:
        window = self.window
        self._fill(
            "&Report",
            [
                ("place", "&Place in report", window.asking.place, "Ctrl+R"),
                ("show report", "&Show the report", lambda: window.show_target(("report", "")), ""),
                ("add text", "&Add text", lambda: _add_text(window), ""),
                ("export", "&Export…", window.outgoing.export_report, "Ctrl+E"),
            ],
        )

    def view(self) -> None:
        window = self.window
        view = self._fill(
            "&View",
            [
                ("rows", "&Rows behind the entry", lambda: window.entry_page.toggle_rows(), "F6"),
                ("beside", "&Another entry beside this one", window.put_beside, "Ctrl+B"),
            ],
        )
        caption = view.addAction("&Caption below pictures that are copied or saved")
        caption.setCheckable(True)
        caption.setChecked(window.outgoing.captioned)
        caption.toggled.connect(window.outgoing.set_captioned)
        self.made["caption"] = caption
        view.addSeparator()
        _choices(view, "Light or dark", MODES, window.theme.mode, window.theme.set_mode)
        _choices(view, "Text size", tuple(SCALES), window.theme.scale_name, window.theme.set_scale)

    def help(self) -> None:
        window = self.window
        helps = window.menuBar().addMenu("&Help")
        helps.aboutToShow.connect(lambda: _fill_help(window, helps))


def update(window: Window) -> None:
    """Says what undo and redo would do, and shuts what does not fit what is shown."""
    made, history = window.actions_by_name, window.session.history
    for name, label in (("undo", history.to_undo), ("redo", history.to_redo)):
        made[name].setText(f"&{name.capitalize()} {label}".rstrip())
        made[name].setEnabled(bool(label))
    what = window.shown[0] if window.shown else ""
    on_table, on_entry = what == "table", what == "entry"
    for name in ("aside", "back"):
        made[name].setEnabled(on_table or on_entry)
    for name in (
        "new column", "insert row", "duplicate rows", "fill down", "move up", "move down",
        "delete rows", "duplicate columns", "move left", "move right", "delete columns",
        "row by row", "original order", "got", "counts", "save table", "rename table", "name rows",
        "remove table", "paste values", "first row", "select all", "find cells", "replace",
    ):  # fmt: skip
        made[name].setEnabled(on_table)
    for name in (
        "question",
        "working",
        "draw anew",
        "rename entry",
        "duplicate",
        "remove entry",
        "copy picture",
        "copy words",
        "copy figures",
        "save picture",
        "place",
        "rows",
        "beside",
    ):
        made[name].setEnabled(on_entry)
    paired = on_entry and window.entry_pages.paired
    made["beside"].setText("&One entry alone" if paired else "&Another entry beside this one")


def _choices(menu: QMenu, title: str, names: tuple[str, ...], now: str, chosen) -> None:
    sub = menu.addMenu(title)
    group = QActionGroup(sub)
    for name in names:
        one = sub.addAction(name.capitalize())
        one.setCheckable(True)
        one.setChecked(name == now)
        one.triggered.connect(lambda _=False, n=name: chosen(n))
        group.addAction(one)


def _fill_recent(window: Window, menu: QMenu) -> None:
    menu.clear()
    for path in window.session.recent():
        menu.addAction(path.name, partial(window.files.open_any, path)).setToolTip(str(path))
    menu.setEnabled(bool(menu.actions()))


def _fill_decimals(window: Window, menu: QMenu, kept: str, offered, setting) -> None:
    menu.clear()
    now = window.session.study.digits
    for decimals in offered:
        mark = " (by rule)" if decimals == getattr(BY_RULE, kept) else ""
        one = menu.addAction(f"&{decimals}{mark}")
        one.setCheckable(True)
        one.setChecked(decimals == getattr(now, kept))
        wanted = setting(now, decimals)
        one.triggered.connect(partial(_set_digits, window, wanted))


def _set_digits(window: Window, wanted: Digits, _: bool = False) -> None:
    if wanted != window.session.study.digits:
        window.session.do(edits.SetDigits(wanted.p, wanted.statistic))


def _fill_arrange(window: Window, menu: QMenu) -> None:
    menu.clear()
    window.table_page.arrange_menu(menu)


def _fill_help(window: Window, menu: QMenu) -> None:
    from theoros.desk.window.glossary_dialog import show_glossary
    from theoros.desk.window.help_topics import topics

    menu.clear()
    for topic in topics():
        menu.addAction(topic, partial(window.show_help, topic))
    menu.addSeparator()
    menu.addAction("Glossary…", partial(show_glossary, window))
    menu.addAction("About Theoros", partial(_about, window))


def _add_text(window: Window) -> None:
    window.show_target(("report", ""))
    window.report_page.add_text()


def _about(window: Window) -> None:
    box = QMessageBox(window)
    box.setWindowTitle("About Theoros")
    box.setText(f"<b>Theoros {__version__}</b>")
    box.setInformativeText(
        "Ask questions of your data in sentences. MIT licence. The fonts Source Sans 3 and Source "
        "Serif 4 are under the SIL Open Font License; their texts lie beside them."
    )
    box.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    box.open()
    QApplication.processEvents()

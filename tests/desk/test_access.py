"""What everybody can use: names for screen readers, the Tab key, contrast, in both looks."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator

import pytest
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractScrollArea,
    QApplication,
    QComboBox,
    QLabel,
    QLineEdit,
    QSplitter,
    QWidget,
)

from theoros.answer.palette import contrast
from theoros.desk.parts.input_fields import PickField
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.window.window import Window

CONTROLS = (QAbstractButton, QLineEdit, QComboBox, QAbstractItemView, PictureView)
Place = Callable[[Window], None]


def entry(key: str) -> Place:
    return lambda window: window.show_target(("entry", key))


def working(window: Window) -> None:
    window.show_target(("entry", "e1"))
    window.entry_page.toggle_working()


def rows(window: Window) -> None:
    window.show_target(("entry", "e1"))
    window.entry_page.toggle_rows()


def finding(window: Window) -> None:
    window.show_target(("table", "bushes"))
    window.table_page.find_bar.open_bar(replacing=True)


def beside(window: Window) -> None:
    window.show_target(("entry", "e1"))
    window.put_beside("e2")


PLACES: dict[str, Place] = {
    "a table": lambda window: window.show_target(("table", "bushes")),
    "row by row": lambda window: (window.show_target(("table", "bushes")), window.show_row_by_row()),
    "finding": finding,
    "a test": entry("e1"),
    "its working": working,
    "its rows": rows,
    "a plot": entry("e2"),
    "a description": entry("e3"),
    "a scatter": entry("e5"),
    "two beside each other": beside,
    "an arrangement": lambda window: (window.show_target(("table", "trays")), window.asking.arrange("make long")),
    "the report": lambda window: window.show_target(("report", "")),
    "nothing yet": lambda window: window.session.new(),
}


def seen(window: QWidget, kind: type | tuple[type, ...]) -> Iterator[QWidget]:
    for widget in window.findChildren(QWidget):
        if isinstance(widget, kind) and widget.isVisible() and widget.width() > 1:
            yield widget


def said(widget: QWidget) -> str:
    """What a screen reader would say of it."""
    if widget.accessibleName():
        return widget.accessibleName()
    return widget.text() if isinstance(widget, QAbstractButton) else ""


def walked(window: Window, settle) -> Iterator[str]:
    """Goes from place to place in one window; the name of each."""
    for name, place in PLACES.items():
        place(window)
        settle(window)
        yield name


def test_every_control_has_a_name(window: Window, settle) -> None:
    for place in walked(window, settle):
        for widget in seen(window, CONTROLS):
            by_mouse = isinstance(widget, QAbstractButton)
            if widget.focusPolicy() == Qt.FocusPolicy.NoFocus and not by_mouse:
                continue
            if type(widget).__name__ in ("QTableCornerButton", "QHeaderView", "QAbstractButton"):
                continue  # parts of Qt's own tables
            name = said(widget).strip()
            about = place, type(widget).__name__, widget.objectName(), type(widget.parent())
            assert name, about
            assert len(name) > 2 or not by_mouse, (*about, name)


def test_tab_reaches_every_control_and_leaves_it(window: Window, settle) -> None:
    """Going round with Tab comes to all that can be reached by Tab, and back."""
    for place in walked(window, settle):
        chain: list[QWidget] = []
        widget = window.nextInFocusChain()
        while widget is not window and len(chain) < 3000:
            chain.append(widget)
            widget = widget.nextInFocusChain()
        assert widget is window, f"{place}: the chain does not close"
        wanted = [
            one for one in seen(window, CONTROLS) if one.focusPolicy() & Qt.FocusPolicy.TabFocus and one.isEnabled()
        ]
        assert wanted, place
        for one in wanted:
            assert one in chain, (place, said(one))


def test_tab_leaves_a_sheet_of_figures_a_picture_and_a_field(window: Window, settle) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    for widget in (window.entry_page.figure_views[0], window.entry_page.picture):
        widget.setFocus()
        QTest.keyClick(widget, Qt.Key.Key_Tab)
        assert QApplication.focusWidget() is not widget
    field = next(iter(seen(window.reading, PickField)))
    field.setFocus()
    QTest.keyClick(field, Qt.Key.Key_Tab)
    assert QApplication.focusWidget() is not field


def ground_of(widget: QWidget, image: QImage) -> str:
    """The colour that a widget stands on: the most frequent one where it is."""
    corner = widget.mapTo(widget.window(), QPoint(0, 0))
    places = [
        (corner.x() + round(widget.width() * x / 12), corner.y() + round(widget.height() * y / 6))
        for x in range(1, 12)
        for y in range(1, 6)
    ]
    inside = [(x, y) for x, y in places if image.rect().contains(x, y)]
    found = Counter(image.pixelColor(x, y).name() for x, y in inside)
    return found.most_common(1)[0][0] if found else ""


def is_uncovered(widget: QWidget) -> bool:
    """Whether nothing lies over its middle, as where it is scrolled out of view."""
    window, middle = widget.window(), widget.rect().center()
    top = window.childAt(widget.mapTo(window, middle))
    return top is widget or (top is not None and widget.isAncestorOf(top))


@pytest.mark.parametrize("mode", ["light", "dark"])
def test_text_stands_out_in_both_looks(mode: str, window: Window, settle) -> None:
    if mode != window.theme.mode:
        window.theme.set_mode(mode)
    for place in walked(window, settle):
        _stands_out(window, place)
    if mode != "light":
        window.theme.set_mode("light")


def _stands_out(window: Window, place: str) -> None:
    image, checked = window.grab().toImage(), 0
    for widget in seen(window, (QLabel, QAbstractButton)):
        if not widget.isEnabled() or not widget.text() or not is_uncovered(widget):
            continue
        ink = widget.palette().color(widget.foregroundRole()).name()
        ground = ground_of(widget, image)
        if ground == ink:  # a letter as large as its room
            continue
        assert contrast(ink, ground) >= 4.5, (place, widget.text(), ink, ground)
        checked += 1
    assert checked > 5, place


def test_pictures_tell_what_they_show(window: Window, settle) -> None:
    for key in ("e1", "e2", "e3", "e5"):
        window.show_target(("entry", key))
        settle(window)
        picture = window.entry_page.picture
        assert picture.accessibleName() == "picture"
        assert len(picture.accessibleDescription()) > 40


def test_nothing_that_scrolls_takes_the_focus_for_itself(window: Window, settle) -> None:
    for place in walked(window, settle):
        for area in seen(window, QAbstractScrollArea):
            if type(area).__name__ == "Scrolled":
                assert area.focusPolicy() == Qt.FocusPolicy.NoFocus, place
        for splitter in seen(window, QSplitter):
            assert splitter.focusPolicy() == Qt.FocusPolicy.NoFocus, place


def test_a_file_let_go_on_the_window_is_opened(empty: Window, tmp_path, settle, qtbot) -> None:
    path = tmp_path / "cups.csv"
    path.write_text("tea,heat\nMist,71.5\nJade,68\n")
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    buttons, held = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    drop = QDropEvent(QPointF(300, 300), Qt.DropAction.CopyAction, data, buttons, held, QEvent.Type.Drop)
    empty.dropEvent(drop)
    from theoros.desk.window.import_dialog import ImportDialog

    qtbot.waitUntil(lambda: any(d.isVisible() for d in empty.findChildren(ImportDialog)))
    dialog = next(d for d in empty.findChildren(ImportDialog) if d.isVisible())
    qtbot.waitUntil(dialog.open_button.isEnabled)
    dialog.open_button.click()
    settle(empty)
    assert empty.session.study.table("cups").rows == 2


def test_marks_are_walked_and_selected_by_keys(window: Window, settle) -> None:
    window.show_target(("entry", "e5"))
    settle(window)
    view = window.entry_page.picture
    view.setFocus(Qt.FocusReason.TabFocusReason)
    whole = view.accessibleDescription()
    assert "scatter" in whole.lower() or "points" in whole.lower()
    QTest.keyClick(view, Qt.Key.Key_Home)
    first = view.accessibleDescription()
    assert first != whole
    QTest.keyClick(view, Qt.Key.Key_Right)
    second = view.accessibleDescription()
    assert second not in (first, whole)
    assert "leaf length" in second
    QTest.keyClick(view, Qt.Key.Key_Left)
    assert view.accessibleDescription() == first
    QTest.keyClick(view, Qt.Key.Key_Space)
    assert window.session.selection("bushes").size == 1
    QTest.keyClick(view, Qt.Key.Key_End)
    QTest.keyClick(view, Qt.Key.Key_Space)
    assert window.session.selection("bushes").size == 2
    # from left to right: leaf lengths do not fall along the walk
    QTest.keyClick(view, Qt.Key.Key_Home)
    lengths = window.session.study.table("bushes").numbers("leaf length")
    seen = []
    for _ in range(30):
        seen.append(lengths[view._walk.row])
        QTest.keyClick(view, Qt.Key.Key_Right)
    assert seen == sorted(seen)
    view.clearFocus()
    assert view.accessibleDescription() == whole

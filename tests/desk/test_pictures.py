"""Pictures on the desk: zooming, keeping what is selected, naming, choosing figures."""

from __future__ import annotations

import numpy as np
import polars as pl
import pytest
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QTimer
from PySide6.QtGui import QContextMenuEvent, QDragEnterEvent, QDropEvent, QMouseEvent, QWheelEvent
from PySide6.QtWidgets import QApplication, QInputDialog, QLineEdit, QPushButton

from theoros.desk.parts.column_mime import COLUMN_MIME, column_of
from theoros.desk.parts.pickers import PickMany
from theoros.desk.window.window import Window
from theoros.study.edits import AddTable
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import make

KEY = Qt.Key


@pytest.fixture
def asked(window: Window, settle):
    """A plot of the demo, shown."""
    window.asking.add_entry(make("plot", table="bushes", what="leaf mass", by="netting"))
    settle(window)
    return window


def test_the_axis_is_drawn_nearer_and_shown_whole_again(asked: Window, settle, qtbot) -> None:
    page = asked.entry_page
    page.picture.setFocus()
    qtbot.keyClicks(page.picture, "+")
    settle(asked)
    low, high = page.entry.statement.low, page.entry.statement.high
    assert low is not None
    axis = page.answer.picture.frames[0].x
    assert (axis.low, axis.high) == (low, high)
    assert any("outside the axis" in note for note in page.answer.picture.notes)
    qtbot.keyClicks(page.picture, "0")
    settle(asked)
    assert (page.entry.statement.low, page.entry.statement.high) == (None, None)
    wheel = QWheelEvent(
        QPointF(300, 100),
        QPointF(300, 100),
        QPoint(),
        QPoint(0, 120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.ControlModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(page.picture, wheel)
    settle(asked)
    near = page.entry.statement
    assert near.low is not None
    assert near.high - near.low < axis.high - axis.low + 20
    asked.session.undo()
    settle(asked)
    assert page.entry.statement.low is None


def test_an_end_of_the_axis_is_a_handle(asked: Window, settle) -> None:
    page = asked.entry_page
    handle = next(h for h in page.picture.drawing.handles if h.slot == "high")
    page.handle_moved("high", handle.value_at(handle.x - 60), True)
    settle(asked)
    assert page.entry.statement.high < 36


def test_a_split_line_is_dragged(asked: Window, settle) -> None:
    page = asked.entry_page
    page.set_slot("cut", 20.0)
    settle(asked)
    handle = next(h for h in page.picture.drawing.handles if h.slot == "cut")
    page.handle_moved("cut", handle.value_at(handle.x + 40), False)
    settle(asked)
    assert page.entry.statement.cut == 20.0  # not before the hand lets go
    page.handle_moved("cut", handle.value_at(handle.x + 40), True)
    settle(asked)
    moved = next(h for h in page.picture.drawing.handles if h.slot == "cut")
    assert page.entry.statement.cut == handle.value_at(handle.x + 40) > 20
    assert moved.x == pytest.approx(handle.x + 40, abs=6)  # it goes by a round step


def test_only_what_is_selected_is_kept(asked: Window, settle) -> None:
    page = asked.entry_page
    asked.session.select("bushes", np.array([1, 2, 5]))
    page.picture.only_wanted.emit(asked.session.selection("bushes"))
    settle(asked)
    table = asked.session.study.table("bushes")
    assert table.in_use.sum() == 3
    assert page.answer.used == 3
    asked.session.undo()
    page.picture.aside_wanted.emit(np.array([1, 2]))
    assert asked.session.study.table("bushes").aside == {1, 2}


def test_titles_and_axis_names_are_changed_by_a_double_click(asked: Window, settle, qtbot, monkeypatch) -> None:
    page = asked.entry_page
    page.set_slot("heading", "Leaves")
    settle(asked)
    answers = iter([("Leaves by netting", True), ("leaf weight (mg)", True)])
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: next(answers))
    left = Qt.MouseButton.LeftButton
    qtbot.mouseDClick(page.picture, left, pos=QPoint(20, 10))
    settle(asked)
    assert page.entry.statement.heading == "Leaves by netting"
    (axis,) = (one for one in page.picture.drawing.words if one.column)
    at = QPoint(round(axis.x + axis.width / 2), round(axis.y + axis.height / 2))
    qtbot.mouseDClick(page.picture, left, pos=at)
    settle(asked)
    column = asked.session.study.table("bushes").column("leaf weight")
    assert column.unit == "mg"
    assert page.entry.statement.what == "leaf weight"


def test_figures_are_chosen_ordered_and_remembered(window: Window, settle, qtbot) -> None:
    window.show_target(("entry", "e3"))
    settle(window)
    field = window.reading.findChild(QPushButton, "setting-figures")
    field.click()
    many = next(p for p in window.findChildren(PickMany) if p.isVisible())
    assert [many.list.item(k).text() for k in range(2)] == ["n", "missing"]
    next(b for b in many.findChildren(QPushButton) if b.text() == "None").click()
    many.list.setCurrentRow(3)
    qtbot.keyClick(many.list, KEY.Key_Space)
    many.list.setCurrentRow(0)
    qtbot.keyClick(many.list, KEY.Key_Space)
    many.list.setCurrentRow(3)
    for _ in range(3):
        qtbot.keyClick(many.list, KEY.Key_Up, Qt.KeyboardModifier.AltModifier)
    many.close()
    settle(window)
    assert window.entry_page.entry.statement.figures == ("sd", "n")
    headings = [h.label for h in window.entry_page.answer.figures[0].headings]
    assert headings == ["cultivar", "SD", "n"]
    window.show_target(("table", "trays"))
    window.asking.ask("describe")
    assert window.entry_page.entry.statement.figures == ("sd", "n")


def test_percentiles_are_typed_in_the_settings(window: Window, settle, qtbot) -> None:
    window.show_target(("entry", "e3"))
    settle(window)
    field = window.reading.findChild(QLineEdit, "setting-percentiles")
    field.setFocus()
    qtbot.keyClicks(field, "10 90")
    qtbot.keyClick(field, KEY.Key_Return)
    settle(window)
    assert [h.label for h in window.entry_page.answer.figures[0].headings][-2:] == ["P10", "P90"]


@pytest.mark.parametrize("shape", ["strewn dots", "histogram", "box plot", "stem and leaf", "scatter", "line"])
def test_a_shape_is_picked_in_the_sentence(asked: Window, settle, shape: str) -> None:
    asked.entry_page.set_slot("shape", shape)
    settle(asked)
    assert asked.entry_page.answer.problem is None
    assert shape in asked.entry_page.bar.accessibleDescription()


def test_columns_picked_in_the_table_suggest_a_picture(window: Window, settle) -> None:
    sheet = window.table_page.sheet
    sheet.selectColumn(6)
    window.asking.ask("plot")
    settle(window)
    statement = window.entry_page.entry.statement
    assert (statement.what, statement.shape) == ("grade", "bars")
    window.show_target(("table", "visits"))
    window.table_page.sheet.selectColumn(0)
    window.asking.ask("plot")
    settle(window)
    statement = window.entry_page.entry.statement
    assert (statement.what, statement.against, statement.shape) == ("visitors", "month", "line")


def test_a_click_on_the_key_hides_a_colour_and_shows_it_again(window: Window, settle, qtbot) -> None:
    window.show_target(("entry", "e2"))
    settle(window)
    page = window.entry_page
    for hidden in (("fair",), ()):
        spot = next(s for s in page.picture.drawing.keys if s.label == "fair")
        at = QPoint(int(spot.x + 10), int(spot.y + 6))
        qtbot.mouseClick(page.picture, Qt.MouseButton.LeftButton, pos=at)
        settle(window)
        assert page.entry.statement.hidden == hidden


def drop(window: Window, x: float, y: float, table: str, column: str) -> None:
    """Lets a column go over the picture, as a hand would."""
    picture = window.entry_page.picture
    data = QMimeData()
    data.setData(COLUMN_MIME, f"{table}\n{column}".encode())
    at = QPointF(picture.width() * x, picture.height() * y)
    both = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    QApplication.sendEvent(picture, QDragEnterEvent(at.toPoint(), Qt.DropAction.CopyAction, data, *both))
    QApplication.sendEvent(picture, QDropEvent(at, Qt.DropAction.CopyAction, data, *both))


def test_columns_are_dropped_on_axis_panels_and_key(asked: Window, settle) -> None:
    for x, y, column, slot in (
        (0.5, 0.95, "pluck mass", "what"),
        (0.05, 0.5, "cultivar", "by"),
        (0.5, 0.05, "grade", "colour"),
        (0.5, 0.5, "netting", "by"),
        (0.5, 0.5, "elevation", "what"),
    ):
        drop(asked, x, y, "bushes", column)
        settle(asked)
        assert getattr(asked.entry_page.entry.statement, slot) == column
    drop(asked, 0.05, 0.5, "bushes", "leaf mass")  # a number makes no panels
    assert "cannot be" in asked.entry_page.bar.message.text()
    drop(asked, 0.5, 0.5, "trays", "withering")
    assert "is a column of trays" in asked.entry_page.bar.message.text()


def test_a_column_is_carried_out_of_its_header(asked: Window, settle, qtbot, monkeypatch) -> None:
    asked.entry_page.toggle_rows()
    header = asked.entry_page.rows.header
    carried = []
    monkeypatch.setattr(header, "carry", lambda *names: carried.append(names))
    left = Qt.MouseButton.LeftButton
    at = QPoint(header.sectionViewportPosition(2) + 20, 12)
    qtbot.mousePress(header.viewport(), left, pos=at)
    move = QMouseEvent(
        QEvent.Type.MouseMove,
        QPointF(at.x(), -60),
        header.viewport().mapToGlobal(QPointF(at.x(), -60)),
        Qt.MouseButton.NoButton,
        left,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(header.viewport(), move)
    qtbot.mouseRelease(header.viewport(), left, pos=at)
    assert carried == [("bushes", "elevation")]


def test_a_scatter_is_drawn_nearer_along_both_axes(window: Window, settle, qtbot) -> None:
    made = make("plot", table="bushes", what="leaf mass", against="leaf length", shape="scatter")
    window.asking.add_entry(made)
    settle(window)
    page = window.entry_page
    page.picture.setFocus()
    qtbot.keyClicks(page.picture, "+")
    settle(window)
    near = page.entry.statement
    assert None not in (near.low, near.high, near.bottom, near.top)
    frame = page.answer.picture.frames[0]
    assert (frame.panels[0].lanes[0].y.low, frame.x.high) == (near.bottom, near.high)
    upright = next(h for h in page.picture.drawing.handles if h.slot == "top")
    assert upright.upright
    spot = QPointF(upright.x, upright.y)
    press(page.picture, QEvent.Type.MouseButtonPress, spot)
    press(page.picture, QEvent.Type.MouseMove, spot + QPointF(0, 40))
    press(page.picture, QEvent.Type.MouseButtonRelease, spot + QPointF(0, 40))
    settle(window)
    assert page.entry.statement.top < near.top
    qtbot.keyClicks(page.picture, "0")
    settle(window)
    assert page.entry.statement == made


def press(picture, kind: QEvent.Type, at: QPointF) -> None:
    """The left button at a place of the picture."""
    left = Qt.MouseButton.LeftButton
    buttons = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseButtonRelease else left
    event = QMouseEvent(
        kind,
        at,
        QPointF(picture.mapToGlobal(at.toPoint())),
        Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else left,
        buttons,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(picture, event)


def menu_of(widget, at: QPoint, choose: str) -> list[str]:
    """Opens the context menu at a place and chooses an entry; what it offered."""
    offered: list[str] = []

    def pick() -> None:
        menu = QApplication.activePopupWidget()
        offered.extend(action.text() for action in menu.actions())
        menu.close()
        next(action for action in menu.actions() if action.text() == choose).trigger()

    QTimer.singleShot(50, pick)
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, widget.mapToGlobal(at))
    QApplication.sendEvent(widget, event)
    return offered


def test_the_colour_of_a_key_is_picked(window: Window, settle) -> None:
    window.asking.add_entry(make("plot", table="bushes", what="pluck mass", colour="grade"))
    settle(window)
    page = window.entry_page
    spot = page.picture.drawing.keys[1]
    menu_of(page.picture, QPoint(int(spot.x + 6), int(spot.y + 6)), "crimson")
    settle(window)
    assert page.entry.statement.picked == (("fair", 4),)
    assert page.answer.picture.roles == ("category-0", "category-4", "category-2")
    offered = menu_of(page.picture, QPoint(int(spot.x + 6), int(spot.y + 6)), "teal")
    assert "crimson  ✓" in offered
    settle(window)
    # teal was that of “fine”, which takes the one that is free now
    assert page.answer.picture.roles == ("category-1", "category-0", "category-2")
    menu_of(page.picture, QPoint(int(spot.x + 6), int(spot.y + 6)), "The colour of its place")
    settle(window)
    assert page.answer.picture.roles == ("category-0", "category-1", "category-2")
    window.session.undo()
    settle(window)
    assert page.entry.statement.picked == (("fair", 0),)


def test_columns_are_taken_from_the_left_list_and_the_find_box(asked: Window, settle) -> None:
    side, page = asked.side, asked.entry_page
    assert {"cultivar", "leaf length"} <= set(rows_of(side))
    data = side.mime_of(rows_of(side)["cultivar"])
    where = QPointF(page.picture.width() / 2, 5)
    move, left = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    none = Qt.KeyboardModifier.NoModifier
    QApplication.sendEvent(page.picture, QDragEnterEvent(where.toPoint(), move, data, left, none))
    QApplication.sendEvent(page.picture, QDropEvent(where, move, data, left, none))
    settle(asked)
    assert page.entry.statement.colour == "cultivar"
    side.column_wanted.emit("panels", "bushes", "grade")
    settle(asked)
    assert page.entry.statement.by == "grade"
    asked.find_box.setFocus()
    asked.find_box.setText("elevation")
    found = asked.find_box.list
    assert found.found[0].column == ("bushes", "elevation")
    data = found.mimeData([found.item(0)])
    assert column_of(data) == ("bushes", "elevation")
    asked.find_box.setText("")
    side.activated.emit(rows_of(side)["leaf mass"])
    settle(asked)
    assert asked.shown == ("table", "bushes")
    assert asked.table_page.sheet.current_column() == "leaf mass"
    settle(asked)
    assert "cultivar" not in rows_of(side)  # the sheet shows them


def rows_of(side) -> dict:
    return {line[1]: side.lines.index(at) for at, line in enumerate(side.lines.lines)}


def test_figures_are_carried_into_a_test(window: Window, settle) -> None:
    window.asking.add_entry(make("describe", table="bushes", what="leaf mass", by="cultivar"))
    settle(window)
    view = window.entry_page.figure_views[0]
    at = view.visualRect(view.model().index(1, 1)).center()
    offered = menu_of(view.viewport(), at, "Test Jade against Mist by these figures")
    assert offered[-2:] == ["Copy the figures", "Put them into a new table"]
    settle(window)
    groups = window.entry_page.entry.statement.data.groups
    assert [group.name for group in groups] == ["Jade bushes", "Mist bushes"]
    assert window.entry_page.answer.problem is None
    assert "typed figures" in " ".join(window.status.texts)


def test_figures_are_typed_where_there_is_no_table(empty: Window, settle) -> None:
    empty.asking.ask("test")
    settle(empty)
    page = empty.entry_page
    assert page.answer.problem.slot == "data.groups.0.n"
    for slot, value in (
        ("measure", "cup heat"),
        ("groups.0.name", "old pots"),
        ("groups.0.n", 12),
        ("groups.0.mean", 71.0),
        ("groups.0.sd", 2.0),
        ("groups.1.name", "new pots"),
        ("groups.1.n", 12),
        ("groups.1.mean", 74.5),
        ("groups.1.sd", 2.5),
    ):
        page.set_slot(f"data.{slot}", value)
    settle(empty)
    assert page.answer.problem is None
    assert "cup heat of old pots" in page.answer.reading.paragraphs[0]


def test_the_left_list_does_not_drown_in_columns(window: Window, settle) -> None:
    names = [f"c{k}" for k in range(45)]
    frame = pl.DataFrame({name: [1.0, 2.0, 4.0] for name in names})
    wide = Table("wide", tuple(Column(name, Kind.NUMBER) for name in names), frame)
    window.session.do(AddTable(wide))
    window.asking.add_entry(make("plot", table="wide", what="c3"))
    settle(window)
    side = window.side
    columns = [line for line in side.lines.lines if (line[0] or ("",))[0] == "column"]
    assert [title for _, title, _ in columns] == names[:20]
    side.setCurrentIndex(rows_of(side)["and 25 columns more"])
    settle(window)
    assert window.shown == ("table", "wide")


def test_the_words_on_an_axis_are_typed_over_in_the_real_dialog(window: Window, settle) -> None:
    window.show_target(("entry", "e5"))
    settle(window)
    page = window.entry_page
    spot = next(w for w in page.picture.drawing.words if w.column == "leaf mass")
    shown: list[str] = []

    def type_over() -> None:
        dialog = window.findChild(QInputDialog)
        if dialog is None or not dialog.isVisible():
            return  # not there yet: looked for again
        looking.stop()
        shown.append(dialog.textValue())
        dialog.setTextValue("fresh mass (g)")
        dialog.accept()

    looking = QTimer(window, interval=20)
    looking.timeout.connect(type_over)
    looking.start()
    page.picture.words_wanted.emit(spot)
    assert shown == ["leaf mass (g)"]
    assert window.session.study.table("bushes").column("fresh mass").unit == "g"

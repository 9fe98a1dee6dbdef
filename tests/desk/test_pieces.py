"""Pieces of the desk on their own: worker, statement bar, find box, start-up."""

from __future__ import annotations

import itertools
import os
import re
import subprocess
import sys
import threading
import time
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import QSettings, Qt
from PySide6.QtWidgets import QLabel, QWidget

import theoros.desk
from theoros.desk.parts.flow import Flow
from theoros.desk.parts.slot_button import SlotButton
from theoros.desk.parts.statement_bar import StatementBar
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.worker import Worker
from theoros.desk.window.find_box import Found, rank
from theoros.desk.window.finding import everything
from theoros.desk.window.window import Window
from theoros.verbs.core.slots import Option, Pick, Slot, TypeNumber


@pytest.fixture
def theme(qapp, tmp_path) -> Theme:
    return Theme(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))


@pytest.fixture
def worker(qapp):
    made = Worker("test")
    yield made
    made.end()


def test_a_long_job_lets_a_short_one_pass(qapp, qtbot) -> None:
    worker = Worker("turns", in_turns=True)
    told: list[tuple[str, object]] = []
    worker.stepped.connect(lambda key, step: told.append((key, step)))
    ended: list[str] = []
    worker.finished.connect(ended.append)
    begun = threading.Event()

    def long():
        for k in range(12):
            begun.set()
            time.sleep(0.01)
            yield k

    worker.run("long", long)
    qtbot.waitUntil(begun.is_set)
    worker.run("short", lambda: iter(["a", "b"]))
    qtbot.waitUntil(lambda: len(ended) == 2, timeout=5000)
    assert ended == ["short", "long"]
    assert [step for key, step in told if key == "long"] == list(range(12))  # none lost, in order
    assert [step for key, step in told if key == "short"] == ["a", "b"]
    assert worker.idle
    worker.end()


def test_steps_arrive_in_order_on_the_interface_thread(worker: Worker, qtbot) -> None:
    told: list[tuple[object, bool]] = []
    here = threading.get_ident()
    worker.stepped.connect(lambda key, step: told.append((step, threading.get_ident() == here)))
    with qtbot.waitSignal(worker.finished):
        worker.run("a", lambda: iter([1, 2, 3]))
    assert told == [(1, True), (2, True), (3, True)]
    qtbot.waitUntil(lambda: worker.idle)


def test_the_newest_request_wins_and_the_older_is_silent(worker: Worker, qtbot) -> None:
    told: list[object] = []
    worker.stepped.connect(lambda key, step: told.append(step))
    going = threading.Event()

    def slow():
        yield "old 1"
        going.wait(5)
        yield "old 2"
        yield "old 3"

    worker.run("a", slow)
    qtbot.waitUntil(lambda: told == ["old 1"])
    worker.run("a", lambda: iter(["new"]))
    going.set()
    qtbot.waitUntil(lambda: "new" in told)
    assert told == ["old 1", "new"]


def test_a_cancelled_job_is_silent_and_others_go_on(worker: Worker, qtbot) -> None:
    told: list[object] = []
    worker.stepped.connect(lambda key, step: told.append(step))
    going = threading.Event()

    def slow():
        going.wait(5)
        yield "never"

    worker.run("a", slow)
    worker.run("b", lambda: iter(["b"]))
    worker.cancel("a")
    going.set()
    qtbot.waitUntil(lambda: told == ["b"])


def test_a_failure_is_told_once_and_work_goes_on(worker: Worker, qtbot) -> None:
    def broken():
        yield 1
        raise ValueError("worn out")

    with qtbot.waitSignal(worker.failed) as signal:
        worker.run("a", broken)
    assert signal.args == ["a", "ValueError: worn out"]
    with qtbot.waitSignal(worker.finished):
        worker.run("a", lambda: iter([2]))


def test_held_work_waits_until_it_is_released(qapp, qtbot) -> None:
    worker = Worker("held", held=True)
    told: list[object] = []
    worker.stepped.connect(lambda key, step: told.append(step))
    worker.run("a", lambda: iter([1]))
    qtbot.wait(50)
    assert told == []
    worker.release()
    qtbot.waitUntil(lambda: told == [1])
    worker.end()


words = st.text(st.characters(exclude_categories=["Cs", "Cc", "Zl", "Zp"]), min_size=1, max_size=30)


@st.composite
def phrases(draw):
    """Any phrase: text and slots in any order, with any text in them."""
    parts = []
    for at in range(draw(st.integers(0, 6))):
        parts.append(draw(st.sampled_from([" and ", ", ", ".", " for each ", "Ask "])))
        holds = draw(st.sampled_from([Pick((Option("a", "a"),)), TypeNumber(0, 1)]))
        value = "a" if isinstance(holds, Pick) else 0.5
        parts.append(Slot(f"s{at}", draw(words), draw(words), value, holds))
    return tuple(parts)


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(phrase=phrases(), width=st.integers(220, 1200))
def test_any_phrase_is_laid_out_without_overlap(theme: Theme, phrase, width: int) -> None:
    bar = StatementBar(theme)
    bar.resize(width, 100)
    bar.show_phrase(phrase)
    bar.resize(width, bar.heightForWidth(width))
    slots = [part for part in phrase if isinstance(part, Slot)]
    buttons = bar.slots_shown()
    assert [button.slot for button in buttons] == slots
    boxes = [b.geometry() for b in buttons]
    boxes += [box for box, _ in bar.words_shown()]
    for one in range(len(boxes)):
        assert boxes[one].left() >= 0
        assert boxes[one].width() <= width
        for other in range(one):
            inner = boxes[one].adjusted(1, 1, -1, -4)
            assert not inner.intersects(boxes[other].adjusted(1, 1, -1, -4))
    bar.deleteLater()


def test_a_slot_that_does_not_fit_shows_it(theme: Theme, qtbot) -> None:
    bar = StatementBar(theme)
    qtbot.addWidget(bar)
    bar.resize(600, 60)
    slot = Slot("alpha", "level", "2", 2.0, TypeNumber(0, 1))
    bar.show_phrase(("At ", slot, "."))
    assert bar.message.text() == "Level: 2 is out of range. Type a number from 0 to 1."
    button = bar.slots_shown()[0]
    assert isinstance(button, SlotButton)
    assert button.accessibleName() == "level: 2"
    assert button.accessibleDescription() == bar.message.text()


def test_a_typed_unit_is_understood(theme: Theme, qtbot) -> None:
    bar = StatementBar(theme)
    qtbot.addWidget(bar)
    bar.resize(600, 60)
    bar.show_phrase(("Bins of ", Slot("bins", "bin width", "4 g", 4.0, TypeNumber(0, unit="g"))))
    told: list[tuple[str, object]] = []
    bar.slot_set.connect(lambda name, value: told.append((name, value)))
    bar.open_slot("bins")
    bar.editor.setText("2,5 g")
    qtbot.keyClick(bar.editor, Qt.Key.Key_Return)
    assert told == [("bins", 2.5)]


@given(st.floats(allow_nan=False, allow_infinity=False))
def test_numbers_are_offered_as_one_would_type_them(value: float) -> None:
    assert float(TypeNumber().typed(value)) == value


def test_ranking_what_is_found() -> None:
    def found(label: str, help_: str = "") -> Found:
        return Found(label, "column", help_, lambda: None)

    assert rank("leaf", found("leaf mass")) < rank("leaf", found("third leaf"))
    assert rank("leaf", found("third leaf")) < rank("leaf", found("grade", "of the leaf"))
    assert rank("mass leaf", found("leaf mass")) is not None
    assert rank("column gra", found("grade")) is not None
    assert rank("x", found("grade")) is None


WORDS = [
    ("t-test", "Welch t"), ("mann whitney", "Rank sum"), ("wilcoxon signed", "Signed rank"), ("levene", "Brown–Forsythe"),
    ("one-way anova", "Analysis of variance"), ("goodness of fit", "Chi-square"), ("permutation", "Shuffled labels"),
    ("score interval", "Wilson interval"), ("exact interval", "Clopper–Pearson interval"), ("wald", "Normal interval"),
    ("boxplot", "box plot"), ("bar chart", "bars"), ("pie chart", "pie"), ("scatterplot", "scatter"),
    ("dot plot", "stacked dots"), ("qq plot", "normal quantiles"), ("stem", "stem and leaf"), ("average", "mean, median"),
    ("crosstab", "two-way table"), ("regression", "Model"), ("confidence interval", "Estimate"), ("bootstrap", "Simulate"),
    ("filter", "Keep rows"), ("merge", "Join"), ("reshape", "Make long"), ("pivot", "Make wide"), ("compute", "New column"),
    ("remove rows", "Delete rows"), ("import table", "Open table"),
]  # fmt: skip


@pytest.mark.parametrize(("query", "label"), WORDS)
def test_words_that_courses_use_find_what_is_meant(window, query: str, label: str) -> None:
    """The first that is found begins so, or one of the first three where several are called that."""
    ranked = [(one, rank(query, one)) for one in everything(window)]
    best = sorted(((place, one.label) for one, place in ranked if place is not None))[:8]
    assert any(found.startswith(label) for _, found in best), best


FIRST = """
import sys
from PySide6.QtCore import QSettings
from pathlib import Path
from theoros.desk.application import make_application, make_window
app = make_application()
where = Path(sys.argv[1])
window = make_window(QSettings(str(where / "s.ini"), QSettings.Format.IniFormat), where / "j")
window.session.open_demo()
window.start()
window.show()
def up():
    text = window.table_page.sheet.sheet_model.text(0, 3)
    heavy = [m for m in ("numpy", "polars", "scipy") if m in sys.modules]
    print(text, heavy, flush=True)
    app.quit()
window.first_painted.connect(up)
app.exec()
"""


def test_the_window_is_up_before_anything_heavy_is_imported(tmp_path) -> None:
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [sys.executable, "-c", FIRST, str(tmp_path)], capture_output=True, text=True, env=env, timeout=60, check=False
    )
    assert done.stdout.splitlines()[0] == "58.8 []", done.stderr


def test_ending_a_worker_does_not_wait_for_long_work(qapp) -> None:
    worker = Worker("long")
    worker.run("a", lambda: (time.sleep(0.2) or k for k in range(100)))
    time.sleep(0.05)
    begun = time.monotonic()
    worker.end()
    assert time.monotonic() - begun < 2.5


@pytest.mark.parametrize("wide", [90, 130, 250, 900])
def test_words_flow_in_as_many_lines_as_they_need(qtbot, wide: int) -> None:
    holder = QWidget()
    qtbot.addWidget(holder)
    flow = Flow(holder, gap=4, line_gap=3)
    pieces = [QLabel(text) for text in ("each row is one", "bush", "counts", "once", "180 rows")]
    for piece in pieces:
        flow.addWidget(piece)
    pieces[2].hide()
    high = flow.heightForWidth(wide)
    holder.resize(wide, high)
    holder.show()
    qtbot.waitExposed(holder)
    shown = [piece.geometry() for piece in pieces if piece.isVisible()]
    assert len(shown) == 4
    for before, after in itertools.pairwise(shown):
        beside = after.left() == before.right() + 5
        below = after.left() == 0 and after.top() >= before.bottom()
        assert beside or below
    assert all(box.bottom() < high and box.right() < wide for box in shown)
    lines = len({box.top() for box in shown})
    assert high == lines * shown[0].height() + (lines - 1) * 3
    assert (lines == 1) == (flow.sizeHint().width() <= wide)


def test_nothing_nameless_listens_to_what_outlives_it() -> None:
    """A function without a receiver stays connected when its widget is gone, and reaches for it then."""
    lasting = r"\b(?:session|theme|engine|worker|answers|writer|reader)\.\w+\.connect\(\s*(?:lambda|partial)"
    for module in Path(theoros.desk.__file__).parent.rglob("*.py"):
        assert not re.findall(lasting, module.read_text(encoding="utf-8")), module.name


def test_a_pane_that_is_gone_is_not_told_of_a_selection(window: Window, settle, qtbot) -> None:
    """Another size of letters builds the pane of a column anew; the old one has its picture no more."""
    window.show_column("bushes", "leaf length")
    settle(window)
    window.theme.set_scale("larger")
    settle(window)
    qtbot.wait(50)
    window.session.select("bushes", np.array([1, 2, 3]))
    assert window.session.selection("bushes").size == 3


def test_no_layout_is_asked_for_its_items() -> None:
    """What stands for an item in Python outlives the item, and whatever is given its place in
    memory next is freed with it: the window crashed so, now and then."""
    for module in Path(theoros.desk.__file__).parent.rglob("*.py"):
        asks = re.findall(r"\.itemAt(?:Position)?\(", module.read_text(encoding="utf-8"))
        assert not asks, module

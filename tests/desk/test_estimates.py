"""Estimates in the window: textbook problems by keyboard, ends that are dragged, resamples."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton
from scipy import stats

from tests.desk.hands import Hands, Problem
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.window.window import Window
from theoros.verbs.core.registry import statement_from_json

PROBLEMS = (
    # 33 of 60 guests choose Jade. How large is the share of all guests, with 90 % confidence?
    Problem("a proportion by resampling", "percentile interval: proportion", (
        ("number of successes", "33"), ("n", "60"), ("confidence", "90"),
    ), "We are 90 % confident that the proportion of successes among all cases lies between", 5),
    # 25 jars hold 250.4 g on average, SD 2.1 g. The mean of all jars, with 99 % confidence?
    Problem("a mean from figures", "t interval: mean of one group", (
        ("n of the group", "25"), ("mean of the group", "250.4"), ("SD of the group", "2.1"),
        ("confidence", "99 %"),
    ), "lies between 249.2 and 251.6.", 5),
    # How long are the leaves of all bushes, on average? And is 60 mm a value that goes with that?
    Problem("a value to judge", "t interval: mean of one group", (
        ("the number", "> leaf length"), ("a value to judge", "60"),
    ), "60 mm is below the interval", 4, "bushes"),
    # How much did training raise the scores? Their columns are selected before.
    Problem("pairs", "t interval: mean of pairs", (), "the mean of the differences", 4, "tasters"),
    # The median leaf length, by ranks.
    Problem("a median", "order statistics", (("the number", "> leaf length"),),
            "the median leaf length of all bushes lies between", 4, "bushes"),
    # 42 of 120 netted bushes and 30 of 125 open ones are spotted. How far apart are the shares?
    Problem("two proportions", "newcombe", (
        ("number of successes of group 1", "42"), ("n of group 1", "120"),
        ("number of successes of group 2", "30"), ("n of group 2", "125"),
    ), "lies between −0.004 and 0.221", 6),
    # How closely do rain and yield go together in 28 gardens, where r = 0.42?
    Problem("a correlation", "fisher z", (("n", "28"), ("r", "0.42")),
            "the correlation of x and y in the population lies between 0.06 and 0.69.", 4),
    # How many must be asked for a margin of 3 points, as long as nothing is known?
    Problem("a sample size", "wilson", (
        ("number of successes", "30"), ("n", "60"), ("margin wanted", "0.03"),
    ), "1068 cases are needed (rounded up)", 5),
)  # fmt: skip


def expected(demo) -> dict[str, tuple[float, float]]:
    """Both ends, by SciPy."""
    length = demo.by_name["bushes"].numbers("leaf length")
    length = length[np.isfinite(length)]
    tasters = demo.by_name["tasters"]
    one, two = (tasters.numbers(f"score {when}") for when in ("before", "after"))
    reach = stats.t(24).isf(0.005) * 2.1 / 5
    z = np.arctanh(0.42) + np.array([-1, 1]) * stats.norm.isf(0.025) / 5
    return {
        "a mean from figures": (250.4 - reach, 250.4 + reach),
        "a value to judge": tuple(stats.ttest_1samp(length, 0).confidence_interval()),
        "pairs": tuple(stats.ttest_rel(one, two).confidence_interval()),
        "a median": tuple(stats.quantile_test(length, p=0.5).confidence_interval()),
        "a correlation": tuple(np.tanh(z)),
    }


@pytest.mark.parametrize("problem", PROBLEMS, ids=lambda one: one.name)
def test_a_textbook_problem(empty: Window, settle, qtbot, demo, problem: Problem) -> None:
    window = empty
    if problem.table:
        window.session.open_demo()
        window.show_target(("table", problem.table))
        if problem.name == "pairs":
            sheet = window.table_page.sheet
            names = list(demo.by_name["tasters"].by_name)
            sheet.selectColumn(names.index("score before"))
            mode = sheet.selectionModel().SelectionFlag
            after = sheet.sheet_model.index(0, names.index("score after"))
            sheet.selectionModel().select(after, mode.Select | mode.Columns)
    settle(window)
    hands = Hands(window, settle)
    hands.find(problem.finds)
    for label, text in problem.steps:
        hands.put(label, text)
    page = window.entry_page
    assert page.entry.statement.verb == "estimate", page.entry.statement
    answer = page.answer
    assert answer.problem is None, answer.problem
    found = answer.numbers[page.entry.statement.method]
    if problem.name in expected(demo):
        assert (found["low"], found["high"]) == pytest.approx(expected(demo)[problem.name])
    notes = [section.note for section in answer.sections]
    text = " ".join((answer.reading.headline, *answer.reading.paragraphs, *notes))
    assert problem.says in text.replace("\u00a0", " ")
    assert hands.entered + 1 <= problem.most  # what was found by its name counts, too


@pytest.fixture
def asked(window: Window, settle) -> Window:
    made = {"verb": "estimate", "table": "bushes", "data": {"kind": "one column", "what": "leaf mass"}}
    window.asking.add_entry(statement_from_json(made))
    settle(window)
    return window


def handle(view: PictureView, slot: str):
    return next(one for one in view.drawing.handles if one.slot == slot)


def test_an_end_is_dragged_and_the_confidence_follows(asked: Window, settle) -> None:
    page = asked.entry_page
    view = page.findChild(PictureView)
    one = handle(view, "low")
    before = page.answer.numbers["one-sample t"]
    at = view.mapFromGlobal(view.mapToGlobal(view.rect().topLeft()))
    start = at + type(at)(round(one.x), round(one.y))
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(view, start + type(at)(12, 0))
    QTest.mouseMove(view, start + type(at)(20, 0))
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start + type(at)(20, 0))
    settle(asked)
    statement, found = page.entry.statement, page.answer.numbers["one-sample t"]
    assert statement.given == "low"
    assert found["low"] == pytest.approx(statement.low)
    assert found["low"] > before["low"]
    assert found["confidence"] < 0.95
    assert "the confidence level is" in page.answer.reading.paragraphs[0]
    asked.session.undo()
    settle(asked)
    assert page.answer.numbers["one-sample t"] == before


def test_one_more_resample_and_a_hundred_samples(asked: Window, settle) -> None:
    page = asked.entry_page
    page.set_slot("method", "percentile")
    settle(asked)

    def press(label: str) -> None:
        button = next(b for b in page.findChildren(QPushButton) if b.text() == label and b.isVisibleTo(page))
        button.click()
        settle(asked)

    press("Start over")
    assert page.entry.statement.replicates == 1
    assert page.answer.reading.headline.startswith("Draw more")
    press("One more")
    assert page.entry.statement.replicates == 2
    press("Run to 1000")
    assert "lies between" in page.answer.reading.headline
    press("100 samples")
    note = next(s.note for s in page.answer.sections if s.title.startswith("What 95"))
    assert "of 100 intervals hold the value" in note
    for _ in range(5):
        asked.session.undo()
    settle(asked)
    assert page.entry.statement.method == "one-sample t"


def test_it_is_offered_beside_a_column_and_leads_to_a_test(asked: Window, settle) -> None:
    link = next(one for one in asked.entry_page.answer.reading.next if one.label == "Test a claim about it")
    asked.asking.add_entry(link.statement)
    settle(asked)
    assert asked.entry_page.answer.problem.slot == "null"  # what is claimed is not known yet: it is asked for
    asked.entry_page.set_slot("null", 20.0)
    settle(asked)
    assert asked.entry_page.answer.problem is None
    labels = [one.label for one in asked.entry_page.answer.reading.next]
    assert "Estimate it by an interval" in labels


def test_a_click_on_a_dot_opens_its_resample(asked: Window, settle, qtbot) -> None:
    page = asked.entry_page
    page.set_slot("method", "percentile")
    page.set_slot("replicates", 60)
    settle(asked)
    view = page.picture
    (marks,) = view.drawing.marks("replicate")[:1]
    at = int(np.argmin(marks.x))
    number = int(marks.rows[at])
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(round(marks.x[at]), round(marks.y[at])))
    settle(asked)
    assert page.entry.statement.opened == number
    section = next(s for s in page.answer.sections if s.title == "A resample")
    assert section.picture.frames[1].title.startswith(f"Resample number {number}: ")

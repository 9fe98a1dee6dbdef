"""Models in the window: problems by keyboard, handles that are dragged, what is kept."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QApplication
from scipy import stats

from tests.desk.hands import Hands, Problem, drag, words
from theoros.desk.entry.reading_pane import ReadingPane
from theoros.desk.window.window import Window
from theoros.verbs.core.registry import statement_from_json

PROBLEMS = (
    # Leaf mass from leaf length by a line: are the residuals normal, and what weighs a leaf of
    # 72 mm, on average and for one bush? And the same for each cultivar.
    Problem("a line with a prediction", "straight line: model", (
        ("the response", "> leaf mass"), ("the predictor", "> leaf length"),
        ("predict at", "72"), ("residuals", "> beside normal"),
    ), "At 72 mm, the predicted leaf mass is 22.32 g. The 95 % interval for the mean of all such bushes is "
       "21.86 to 22.78 g. For a single bush it is 17.32 to 27.33 g.", 6),
    Problem("the same by levels", "straight line: model", (
        ("the response", "> leaf mass"), ("the predictor", "> leaf length"),
        ("groups", "> cultivar"), ("predict at", "72"), ("residuals", "> beside normal"),
    ), "Test of separate against common: F(4, 172) = 1.41", 10),
    # A line, then a cubic, by one category and by two.
    Problem("a cubic by two categories", "cubic curve: model", (
        ("the response", "> leaf mass"), ("the predictor", "> leaf length"),
        ("groups", "> cultivar"), ("and by", "> netting"),
    ), "Separate cubic curves for the groups do not fit significantly better", 8),
    # Does moisture left fall along a line with the temperature of the oven?
    Problem("a line that is not right", "straight line: model", (
        ("the response", "> moisture left"),
    ), "the relation is not linear: the residuals show a bend (p < 0.0001)", 4, "ovens"),
    # What do length, elevation and cultivar tell together of the leaf mass?
    Problem("several predictors", "straight line: model", (
        ("the response", "> leaf mass"), ("the predictor", "> leaf length"),
        ("and from", "> elevation"), ("predict for", "leaf length 70, elevation 400"),
    ), "For leaf length = 70 mm, elevation = 400 m", 6),
    # How likely is it that a bush with leaves of 70 mm is a Jade?
    Problem("the odds of an outcome", "straight line: model", (
        ("the response", "> cultivar"), ("the level", "> Jade"),
        ("the predictor", "> leaf length"), ("predict at", "70"),
    ), "For a bush with leaf length = 70 mm, the predicted probability of Jade is 53.7 %", 6),
)  # fmt: skip


@pytest.mark.parametrize("problem", PROBLEMS, ids=lambda one: one.name)
def test_a_problem_by_keyboard(empty: Window, settle, problem: Problem) -> None:
    window = empty
    window.session.open_demo()
    window.show_target(("table", problem.table or "bushes"))
    settle(window)
    hands = Hands(window, settle)
    hands.find(problem.finds)
    for label, text in problem.steps:
        hands.put(label, text)
    page = window.entry_page
    assert page.entry.statement.verb == "model"
    assert page.answer.problem is None, page.answer.problem
    assert problem.says in words(window)
    assert hands.entered + 1 <= problem.most


@pytest.fixture
def asked(window: Window, settle) -> Window:
    made = {"verb": "model", "table": "bushes", "what": "leaf mass", "against": "leaf length", "read": 70.0}
    window.asking.add_entry(statement_from_json(made))
    settle(window)
    return window


def test_the_reading_line_is_dragged_and_undone(asked: Window, settle) -> None:
    page = asked.entry_page
    before = page.answer.figures[-1].rows[0].cells[1].value
    drag(asked, page.picture, "read", QPoint(60, 0), settle)
    s = page.entry.statement
    assert s.read > 70
    bushes = asked.session.study.by_name["bushes"]
    x, y = bushes.numbers("leaf length"), bushes.numbers("leaf mass")
    there = np.isfinite(x) & np.isfinite(y)
    line = stats.linregress(x[there], y[there])
    now = page.answer.figures[-1].rows[0].cells[1].value
    assert now == pytest.approx(line.intercept + line.slope * s.read)
    asked.session.undo()
    settle(asked)
    assert page.answer.figures[-1].rows[0].cells[1].value == before


def test_a_line_by_hand_is_dragged_beside_the_best(asked: Window, settle) -> None:
    page = asked.entry_page
    page.set_slot("by_hand", True)
    settle(asked)
    table = next(one for one in page.answer.figures if one.key == "by hand")
    level = table.rows[0].cells[3].value
    drag(asked, page.picture, "hand_left", QPoint(0, 50), settle)
    drag(asked, page.picture, "hand_right", QPoint(0, -50), settle)
    table = next(one for one in page.answer.figures if one.key == "by hand")
    mine, best = (row.cells[3].value for row in table.rows)
    assert best < mine < level
    assert page.entry.statement.hand_right is not None


def test_the_cut_off_is_dragged_and_cases_change_their_class(window: Window, settle) -> None:
    made = {"verb": "model", "table": "bushes", "what": "cultivar", "level": "Jade", "against": "leaf length"}
    window.asking.add_entry(statement_from_json(made))
    settle(window)
    page = window.entry_page
    before = next(one for one in page.answer.figures if one.key == "classes").rows[0].cells[1].value
    view = next(one.picture for one in page.section_views if any(h.slot == "cut" for h in one.picture.drawing.handles))
    drag(window, view, "cut", QPoint(-120, 0), settle)
    assert page.entry.statement.cut < 0.45
    after = next(one for one in page.answer.figures if one.key == "classes").rows[0].cells[1].value
    assert after > before


def test_a_curve_is_chosen_from_the_table_of_curves(asked: Window, settle) -> None:
    page = asked.entry_page
    methods = next(one for one in page.answer.figures if one.key == "methods")
    row = next(row for row in methods.rows if row.cells[0].value == "quadratic")
    page.set_slot(*row.sets)
    settle(asked)
    assert page.entry.statement.curve == "quadratic"
    assert "explains" in words(asked)


def test_a_best_set_of_predictors_is_chosen(asked: Window, settle) -> None:
    page = asked.entry_page
    page.set_slot("also", ("elevation", "cultivar"))
    settle(asked)
    subsets = next(one for one in page.answer.figures if one.key == "subsets")
    page.set_slot(*subsets.rows[1].sets)
    settle(asked)
    s = page.entry.statement
    assert (s.against, *s.also) == subsets.rows[1].sets[1]
    asked.session.undo()
    settle(asked)
    assert page.entry.statement.also == ("elevation", "cultivar")


def link(window: Window, label: str):
    return next(one for one in window.entry_page.answer.reading.next if one.label == label)


def test_the_equation_is_copied(asked: Window, settle) -> None:
    asked.findChild(ReadingPane)._follow(link(asked, "Copy the equation as LaTeX"))
    text = QApplication.clipboard().text()
    assert text.startswith(r"\hat{y} = - 7.535 + 0.4147")


def test_residuals_are_kept_as_a_live_column(asked: Window, settle) -> None:
    asked.findChild(ReadingPane)._follow(link(asked, "Keep residuals as a column"))
    settle(asked)
    page = asked.arrange_page
    assert page.statement.formula.startswith("residual(")
    page.apply_button.click()
    settle(asked)
    bushes = asked.session.study.by_name["bushes"]
    values = bushes.numbers("residual of leaf mass")
    assert np.nansum(values) == pytest.approx(0, abs=1e-6)
    assert bushes.column("residual of leaf mass").formula


def test_groups_far_apart_have_panels_of_their_own(asked: Window, settle) -> None:
    page = asked.entry_page
    page.set_slot("by", "cultivar")
    page.set_slot("panels", True)
    settle(asked)
    assert len(page.picture.drawing.marks("row")) >= 1
    assert page.picture.minimumHeight() >= 3 * 80  # a panel for each cultivar has room
    assert page.answer.picture.scales == 3
    assert "Separate straight lines for the groups" in words(asked)

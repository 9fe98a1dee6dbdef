"""Forecasts in the window: problems by keyboard, handles that are dragged, what is kept."""

from __future__ import annotations

from datetime import date

import numpy as np
import polars as pl
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from tests.desk.hands import Hands, Problem, drag, words
from theoros.desk.entry.reading_pane import ConditionView, ReadingPane
from theoros.desk.window.window import Window
from theoros.study.edits import AddTable
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import statement_from_json

QUARTERS = Table(
    "harvests",
    (Column("quarter", Kind.TEXT), Column("leaf", unit="t")),
    pl.DataFrame(
        {
            "quarter": [f"{2014 + k // 4}-Q{k % 4 + 1}" for k in range(44)],
            "leaf": np.round(
                12
                + 0.15 * np.arange(44)
                + np.resize([3.0, 6.5, 1.0, -8.0], 44)
                + np.random.default_rng(9).normal(0, 0.5, 44),
                1,
            ),
        }
    ),
    noun="quarter",
)
YEARS = Table(
    "rain",
    (Column("year"), Column("rainfall", unit="mm")),
    pl.DataFrame(
        {
            "year": [1985.0 + k for k in range(40)],
            "rainfall": [float(900 - 4 * k + (k * 37 % 23 - 11) * 6) for k in range(40)],
        }
    ),
    noun="year",
)
POTS = Table(
    "pots",
    (Column("month", Kind.DATE), Column("breakages")),
    pl.DataFrame(
        {
            "month": pl.Series([date(2019 + k // 12, k % 12 + 1, 1) for k in range(72)], dtype=pl.Date),
            "breakages": np.random.default_rng(6)
            .poisson(1.6 + 1.2 * (1 + np.sin(np.arange(72) * np.pi / 6)))
            .astype(float),
        }
    ),
    noun="month",
)
PROBLEMS = (
    # Describe trend and seasons of the visitors, forecast the year to come, say how far it can be
    # trusted, with the last year held back and its table.
    Problem("parts, forecast, one sentence, hold-back", "smoothing, Holt", (
        ("the series", "> visitors"), ("how far", "12"), ("held back", "12"),
    ), "The forecast for January 2026 is 790 visitors, with a 95 % prediction interval from 720 to 870. "
       "The trend of visitors rises by about 35 a year", 4, "visits"),
    # What are they to be in June 2026, by whichever way suits best?
    Problem("one month, by the best way", "smoothing, Holt", (
        ("the series", "> visitors"), ("method", "> the best method"),
        ("read at", "2026-06-01"),
    ), "The forecast for June 2026 is 1170 visitors, with a 95 % prediction interval from 1100 to 1240.",
       4, "visits"),
    # The harvests of two years by quarter, the seasons with their sizes.
    Problem("quarters of two years ahead", "smoothing, Holt", (
        ("the series", "> leaf"), ("how far", "8"),
    ), "Quarter 2 is highest, about 6.0 t above the trend, and quarter 4 is lowest, about 8.4 t below it.", 3,
       "harvests"),
    # Rain by the year: is there a trend, and what is to be expected in the next five years?
    Problem("years along a straight line", "smoothing, Holt", (
        ("the series", "> rainfall"), ("how far", "5"), ("method", "> a straight line"),
    ), "The forecast of rainfall for 2025 is 740 mm, with a 95 % prediction interval from", 4, "rain"),
    # Breakages cannot be below 0: the band must not go there.
    Problem("a count near 0 with a band of 90 %", "smoothing, Holt", (
        ("the series", "> breakages"), ("held back", "12"), ("band of", "90"),
    ), "can breakages be below 0? All values are whole numbers of 0 or more, so the interval was calculated "
       "from square roots and ends at 0", 4, "pots"),
)  # fmt: skip


def figures(window: Window, key: str):
    return next(one for one in window.entry_page.answer.figures if one.key == key)


@pytest.mark.parametrize("problem", PROBLEMS, ids=lambda one: one.name)
def test_a_problem_by_keyboard(empty: Window, settle, problem: Problem) -> None:
    window = empty
    window.session.open_demo()
    for table in (QUARTERS, YEARS, POTS):
        window.session.do(AddTable(table))
    window.show_target(("table", problem.table))
    settle(window)
    hands = Hands(window, settle)
    hands.find(problem.finds)
    for label, text in problem.steps:
        hands.put(label, text)
    page = window.entry_page
    assert page.entry.statement.verb == "forecast"
    assert page.answer.problem is None, page.answer.problem
    assert problem.says in words(window)
    assert hands.entered + 1 <= problem.most <= 6
    if page.entry.statement.holdout:
        rows = figures(window, "forecasts").rows
        assert [row.cells[4].text for row in rows].count("–") == len(rows) - 12
        assert "held back are inside their prediction interval" in words(window)


@pytest.fixture
def asked(window: Window, settle) -> Window:
    made = {"verb": "forecast", "table": "visits", "what": "visitors", "holdout": 12}
    window.asking.add_entry(statement_from_json(made))
    settle(window)
    return window


def test_the_handle_holds_back_more_and_is_undone(asked: Window, settle) -> None:
    page = asked.entry_page
    view = page.picture
    one = next(one for one in view.drawing.handles if one.slot == "holdout")
    year = (one.right - one.left) / (view.picture.frames[0].x.high - view.picture.frames[0].x.low)
    drag(asked, view, "holdout", QPoint(-round(365 * year), 0), settle)
    assert page.entry.statement.holdout == pytest.approx(24, abs=1)
    held = page.entry.statement.holdout
    assert isinstance(held, int)
    rows = figures(asked, "forecasts").rows
    assert sum(row.cells[4].text != "–" for row in rows) == held
    assert f"the last {held} months" in page.entry.statement.text(page.tables)
    drag(asked, view, "holdout", QPoint(500, 0), settle)
    assert page.entry.statement.holdout == 0
    assert "drag to hold back" in [rule.label for rule in view.picture.frames[0].rules]
    asked.session.undo()
    asked.session.undo()
    settle(asked)
    assert page.entry.statement.holdout == 12


def test_the_reading_line_tells_any_month(asked: Window, settle) -> None:
    page = asked.entry_page
    page.set_slot("read", float((date(2020, 7, 1) - date(1970, 1, 1)).days))
    settle(asked)
    assert page.answer.reading.paragraphs[0].startswith("July 2020: ")
    drag(asked, page.picture, "read", QPoint(60, 0), settle)
    assert not page.answer.reading.paragraphs[0].startswith("July 2020: ")
    assert ", trend " in page.answer.reading.paragraphs[0]
    row = figures(asked, "forecasts").rows[0]
    page.set_slot(*row.sets)  # a click on a row of the forecasts reads it
    settle(asked)
    assert page.answer.reading.paragraphs[0].startswith("January 2025: ")
    assert figures(asked, "forecasts").rows[0].chosen


def test_time_is_drawn_nearer(asked: Window, settle) -> None:
    page = asked.entry_page
    slots = {one.slot for one in page.picture.drawing.handles}
    assert {"low", "high", "holdout"} <= slots
    page.set_slot("low", float((date(2023, 1, 1) - date(1970, 1, 1)).days))
    settle(asked)
    axis = page.picture.picture.frames[0].x
    assert axis.cut
    assert axis.low == (date(2023, 1, 1) - date(1970, 1, 1)).days


def test_a_way_is_chosen_from_the_table_of_ways(asked: Window, settle) -> None:
    page = asked.entry_page
    row = next(r for r in figures(asked, "methods").rows if r.cells[0].value == "naive: level")
    page.set_slot(*row.sets)
    settle(asked)
    assert page.entry.statement.text(page.tables).startswith(
        "Forecast visitors for the next 12 months from the last value, by carrying it on"
    )
    assert next(row for row in figures(asked, "methods").rows if row.chosen).cells[0].value == ("naive: level")


def test_whether_it_can_be_below_zero_is_asked_once(empty: Window, settle) -> None:
    window = empty
    window.session.do(AddTable(POTS))
    made = statement_from_json({"verb": "forecast", "table": "pots", "what": "breakages"})
    window.asking.add_entry(made)
    settle(window)
    pane = window.findChild(ReadingPane)
    view = next(
        one
        for one in pane.findChildren(ConditionView)
        if any("never" in b.text() for b in one.findChildren(type(pane._working)))
    )
    button = next(b for b in view.findChildren(type(pane._working)) if "never" in b.text())
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    settle(window)
    assert window.session.study.table("pots").column("breakages").below_zero == "no"
    assert "cannot be below 0" in words(window)
    window.asking.add_entry(made)  # another entry about it
    settle(window)
    assert "can breakages be below 0?" not in words(window)
    window.session.undo()  # the entry
    window.session.undo()  # what was said of the column
    settle(window)
    assert window.session.study.table("pots").column("breakages").below_zero == ""


def test_figures_and_parts_become_tables(asked: Window, settle) -> None:
    page = asked.entry_page
    page.table_wanted.emit(figures(asked, "forecasts"))
    settle(asked)
    made = asked.session.study.tables[-1]
    assert made.rows == 24
    assert made.column("forecast").kind is Kind.NUMBER
    link = next(link for link in page.answer.reading.next if link.draws == "parts")
    pane = asked.findChild(ReadingPane)
    pane.draws_wanted.emit(link.draws)
    settle(asked)
    parts = asked.session.study.tables[-1]
    assert parts.rows == 108
    assert {"trend", "season", "left over", "smoothed"} <= set(parts.by_name)

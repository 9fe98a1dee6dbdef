"""What is added as a module of its own is found, answers with all its words, and has numbers from outside."""

from __future__ import annotations

import itertools
import math
import re
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import make_table
from theoros.answer.layers.blocks import Blocks
from theoros.answer.parts import Answer
from theoros.answer.wording import to_plain
from theoros.study.file import demo_study
from theoros.table.formula.evaluate import evaluate
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.core.slots import TypeNumber
from theoros.verbs.core.statement import Statement
from theoros.verbs.forecast.methods.fits import fits_of
from theoros.verbs.forecast.methods.method import forecast_methods
from theoros.verbs.forecast.statement import ForecastStatement
from theoros.verbs.model.curves.curve import curves
from theoros.verbs.model.statement import ModelStatement
from theoros.verbs.plot.shapes.shape import shapes
from theoros.verbs.procedures.procedure import procedures
from theoros.verbs.simulate.models.model import models
from theoros.verbs.simulate.statement import SimulateStatement
from theoros.verbs.simulate.statistics.statistic import statistics

DEMO = demo_study().by_name
X = np.linspace(0.5, 9, 30)
RISING = {"t": make_table("t", x=X.tolist(), y=(2 + 1.5 * np.sqrt(X) + 0.2 * np.sin(9 * X)).tolist())}
GROWN = {
    "curve": curves, "method of forecasting": forecast_methods, "model of chance": models,
    "procedure": procedures, "shape": shapes, "statistic": statistics,
}  # fmt: skip


@pytest.mark.parametrize("family", GROWN)
def test_what_is_added_is_asked_about_in_some_test(family: str) -> None:
    """By its name, so that it cannot come without numbers from outside."""
    texts = "".join(path.read_text(encoding="utf-8") for path in Path(__file__).parents[1].rglob("test_*.py"))
    unnamed = [name for name in GROWN[family]() if not re.search(rf'"{re.escape(name)}"', texts)]
    assert unnamed == []


@pytest.mark.parametrize("family", GROWN)
def test_it_says_what_it_is(family: str) -> None:
    for name, one in GROWN[family]().items():
        assert getattr(one, "label", name).strip(), name
        if family != "statistic":
            assert one.help.endswith("."), name
            assert one.help.split()[0][0].isupper() or len(one.help.split()[0]) == 1, name  # r, a symbol


def _whole(found: Answer, name: str) -> None:
    """An answer with its words, its working and nothing unsaid."""
    assert found.problem is None, name
    assert found.reading.headline, name
    assert found.working, name
    said = " ".join([found.reading.headline, *found.reading.paragraphs, *(step.title for step in found.working)])
    assert not re.search(r"None|nan|\{|\}\}", to_plain(said)), name


@pytest.mark.parametrize("name", curves())
def test_a_curve_says_works_out_and_copies_itself(name: str) -> None:
    s = ModelStatement(table="t", what="y", against="x", curve=name)
    found = answer(s, RISING)
    _whole(found, name)
    rows = [row for one in found.figures if one.key == "methods" for row in one.rows]
    assert any(row.chosen and curves()[name].label in to_plain(row.cells[0].text) for row in rows)
    if curves()[name].plain:  # as a formula of the table it gives what the curve predicts
        copied = [link.copies for link in found.reading.next if link.copies.startswith("=")]
        assert len(copied) == 1
        plain = re.sub(r"\bA2\b", "x", copied[0].removeprefix("="))
        at = evaluate(plain, RISING["t"]).values.to_numpy()
        read = answer(s.with_slot("read", float(X[7]), RISING).statement, RISING)
        shown = [row for one in read.figures if one.key == "predictions" for row in one.rows]
        assert shown[0].cells[1].value == pytest.approx(at[7], rel=1e-6), name


@pytest.mark.parametrize("name", forecast_methods())
def test_a_method_of_forecasting_says_and_works_itself_out(name: str) -> None:
    s = ForecastStatement(table="visits", what="visitors")
    own = [one for one in fits_of(s, DEMO).candidates() if one.method == name]
    assert own, name
    for candidate in own:
        made = s.with_slot("candidate", candidate.key, DEMO).statement
        _whole(answer(made, DEMO), candidate.key)
    chosen = s.with_slot("method", name, DEMO).statement  # whatever parts it has
    assert answer(chosen, DEMO).problem is None


def _filled(s: Statement) -> Statement:
    """With numbers in the slots that wait for one."""
    for slot in s.slots(DEMO):
        if slot.missing and isinstance(slot.holds, TypeNumber):
            most = slot.holds.high if slot.holds.high is not None else 1e9
            s = s.with_slot(slot.name, 0.25 if most <= 1 else 5, DEMO).statement
    return s


@pytest.mark.parametrize("name", models())
def test_a_model_of_chance_draws_and_says_itself(name: str) -> None:
    s = _filled(SimulateStatement(table="bushes").with_slot("model", name, DEMO).statement)
    s = _filled(s.with_slot("replicates", 200, DEMO).statement)
    found = answer(s, DEMO)
    _whole(found, name)
    assert found.numbers["replicates"] == 200
    assert models()[name].label in " ".join(slot.shown for slot in s.slots(DEMO)), name


WALKS = np.cumsum(np.array(list(itertools.product((-1, 1), repeat=6))), axis=1)
COUNTED = {  # by counting all 64 ways, each as likely
    "highest": np.maximum(WALKS.max(axis=1), 0).mean(),
    "returns": (WALKS == 0).sum(axis=1).mean(),
    "above": (WALKS > 0).mean(),
    "end": WALKS[:, -1].mean(),
}


@pytest.mark.parametrize("name", COUNTED)
def test_statistics_of_walks_are_near_those_of_all_walks(name: str) -> None:
    made = make("simulate", model={"kind": "walk", "n": 6}, statistic=name, replicates=20_000)
    found = answer(made, DEMO).numbers
    assert abs(found["mean"] - COUNTED[name]) < 5 * found["se"] / math.sqrt(20_000)


def test_the_longest_run_is_near_that_of_all_runs() -> None:
    runs = [max(len(run) for run in "".join(one).split("0")) for one in itertools.product("01", repeat=7)]
    model = {"kind": "outcomes", "listed": "heads, tails", "n": 7}
    made = make("simulate", model=model, statistic="longest run", outcome="heads", replicates=20_000)
    found = answer(made, DEMO).numbers
    assert abs(found["mean"] - np.mean(runs)) < 5 * found["se"] / math.sqrt(20_000)


def test_a_bar_for_each_row_is_as_long_as_its_value() -> None:
    made = make("plot", table="ovens", what="moisture left", shape="row bars")
    found = answer(made, DEMO)
    assert found.picture is not None
    bars = found.picture.frames[0].panels[0].lanes[0].layers[0]
    assert isinstance(bars, Blocks)
    assert (bars.right - bars.left).tolist() == DEMO["ovens"].numbers("moisture left").tolist()


@pytest.mark.parametrize(("name", "expected"), [("least", 91 / 36), ("greatest", 161 / 36)])
def test_the_least_and_the_greatest_of_two_dice(name: str, expected: float) -> None:
    """By counting all 36 ways two dice fall."""
    model = {"kind": "outcomes", "listed": "1 to 6", "n": 2}
    found = answer(make("simulate", model=model, statistic=name, replicates=20_000), DEMO).numbers
    assert abs(found["mean"] - expected) < 5 * found["se"] / math.sqrt(20_000)

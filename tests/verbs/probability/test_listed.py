"""Values with their probabilities: typed or in two columns, and other lists than whole numbers."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.answer.layout import lay_out
from theoros.answer.typed_number import TypedNumber
from theoros.numeric.distributions.lattice import Lattice
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.probability.values.answered_parts import worked_out
from theoros.verbs.probability.values.asking import read_part
from theoros.verbs.probability.values.steps import ListedSteps, WholeSteps, handle_places, moved

PRIZES = [(-2, 0.5), (0, 0.2), (5, TypedNumber("1/4")), (20, 0.05)]


def listed(pairs=PRIZES, *parts: str, held: str = "probabilities", **more):
    rows = [{"value": value, "weight": weight} for value, weight in pairs]
    return make(
        "probability",
        counts="prize",
        each="ticket",
        parts=list(parts),
        situation={"kind": "typed values", "rows": rows, "held": held},
        **more,
    )


def test_mean_and_sd_by_their_sums() -> None:
    """Worked by hand: μ = −1 + 0 + 1.25 + 1, σ² = Σ x² p − μ²."""
    found = answer(listed(PRIZES, "at least 5"), {})
    assert math.isclose(found.numbers["mean"], 1.25)
    assert math.isclose(found.numbers["sd"], math.sqrt(2 + 6.25 + 20 - 1.25**2))
    assert found.reading.paragraphs == ("In 1000 such tickets, about 300 have a prize of at least 5.",)
    lines = found.working[0].to_lines()
    assert lines[0] == "μ = Σ x P(x) = (−2) × 0.5 + 0 × 0.2 + 5 × 1/4 + 20 × 0.05 = 1.25"


def test_a_sum_that_is_not_1_is_said_and_rescaling_offered() -> None:
    short = answer(listed([(0, 0.5), (1, 0.45)], "at least 1"), {})
    assert short.problem.sentence == ("The probabilities sum to 0.95, which is 0.05 short of 1.")
    (label, slot, value) = short.problem.offers[0]
    assert label == "Divide each by their sum"
    mended = listed([(0, 0.5), (1, 0.45)], "at least 1").with_slot(slot, value, {}).statement
    assert math.isclose(answer(mended, {}).numbers["parts"]["a"]["probability"], 0.45 / 0.95)
    over = answer(listed([(0, 0.5), (1, 0.75)]), {})
    assert over.problem.sentence == "The probabilities sum to 1.25, which is 0.25 more than 1."


@pytest.mark.parametrize(
    ("pairs", "says"),
    [
        ([], "There is no value with a probability yet."),
        ([(1, 0.5), (1, 0.5)], "The value 1 is listed more than once."),
        ([(1, 0.0), (2, 0.0)], "All of them are 0"),
        ([(1, 0.5), (None, 0.5)], "Type the value that has this probability."),
        ([(1, 0.5), (2, None)], "Type the probability of 2."),
    ],
)
def test_lists_that_cannot_be(pairs, says: str) -> None:
    assert says in answer(listed(pairs), {}).problem.sentence


def test_a_row_is_added_by_typing_and_taken_out_by_emptying_it() -> None:
    s = listed([])
    for at, (value, weight) in enumerate([(1, 0.25), (2, 0.75)]):
        s = s.with_slot(f"situation.rows.{at}.value", value, {}).statement
        s = s.with_slot(f"situation.rows.{at}.weight", weight, {}).statement
    assert answer(s, {}).problem is None
    assert len(s.grid({}).rows) == 3  # the last waits to be typed
    s = s.with_slot("situation.rows.0.value", None, {}).statement
    s = s.with_slot("situation.rows.0.weight", None, {}).statement
    assert [row.value for row in s.situation.rows] == [2]


def test_two_columns_hold_the_values_and_their_counts() -> None:
    own = make_table("leaves", grade=[1.0, 2.0, 3.0, None], times=[2.0, 5.0, 3.0, 4.0])
    s = make(
        "probability",
        table="leaves",
        parts=["at least 2"],
        situation={"kind": "values in two columns", "what": "grade", "weights": "times", "held": "counts"},
    )
    found = answer(s, {"leaves": own})
    assert math.isclose(found.numbers["parts"]["a"]["probability"], 0.8)
    assert found.left_out == ("1 row left out: grade or times is missing",)
    renamed = s.renamed_column("leaves", "times", "count")
    assert renamed.situation.weights == "count"
    asked = s.with_slot("situation.held", "probabilities", {"leaves": own}).statement
    assert "which is 9 more than 1" in answer(asked, {"leaves": own}).problem.sentence


values = st.lists(st.integers(-40, 40).map(lambda n: n / 4), min_size=1, max_size=9, unique=True)


@given(values, st.data())
def test_cut_offs_against_enumeration(found: list[float], data) -> None:
    """Of all values, the largest tail that keeps to the share, and the next that does not."""
    at = np.array(sorted(found))
    weights = np.array(data.draw(st.lists(st.integers(1, 9), min_size=at.size, max_size=at.size)))
    one = Lattice(at, weights / weights.sum())
    share = data.draw(st.sampled_from([0.05, 0.1, 0.25, 0.5]))
    for side in ("bottom", "top"):
        part = worked_out(read_part(f"{side} {share}", apart=True), one)
        tails = np.cumsum(one.chances if side == "bottom" else one.chances[::-1])
        within = tails[tails <= share * (1 + 1e-12)]
        best = within.max() if within.size else 0.0
        assert math.isclose(part.cuts[0][0].gives, best, abs_tol=1e-12)
        if len(part.cuts[0]) == 2:
            over = tails[tails > share * (1 + 1e-12)].min()
            assert math.isclose(part.cuts[0][1].gives, over, abs_tol=1e-12)


@given(values, st.floats(-12, 12), st.booleans())
def test_handles_stand_between_values_and_take_the_nearest(found, place, low: bool) -> None:
    steps = ListedSteps(np.array(sorted(found)))
    event = read_part(f"from {min(found)} to {max(found)}", apart=True).event
    ends = {name: at for name, at, _ in handle_places(event, steps)}
    assert ends["low_end"] < min(found) <= max(found) < ends["high_end"]
    after = moved(event, "low_end" if low else "high_end", place, steps)
    for span in after.spans:
        assert {span.low, span.high} <= set(found)


def test_whole_numbers_step_by_one() -> None:
    steps = WholeSteps()
    event = read_part("outside 4 to 9", apart=True).event
    assert [at for _, at, _ in handle_places(event, steps)] == [3.5, 9.5]
    assert moved(event, "low_end", 2.2, steps).spans[0].high == 2


def test_bars_stand_at_the_values_however_they_lie() -> None:
    found = answer(listed([(-2, 0.5), (0.5, 0.2), (1000, 0.3)], "at least 0.5"), {})
    drawing = lay_out(found.picture, 800, 300)
    bars = [item for item in drawing.items if hasattr(item, "hatched") and item.fill]
    assert [bar.hatched for bar in bars] == [False, True, True]
    assert all(bar.width >= 3 for bar in bars)
    assert found.picture.frames[0].x.whole is False

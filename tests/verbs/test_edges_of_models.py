"""Model, Describe and Arrange at their edges: years and millions, few rows, unrelated columns, categories among sets."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from scipy import optimize

from tests.conftest import make_table
from theoros.answer.parts import Answer
from theoros.answer.wording import to_plain
from theoros.numeric.regression.diagnostics import pattern
from theoros.study.file import demo_study
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.model.curves.curve import CannotFit, curves
from theoros.verbs.model.curves.logistic_growth import _least_step

SCALES = [(0.0, 1.0), (1990.0, 2.0), (45_000.0, 5.0), (1e6, 10.0)]


def model(x, y, **slots) -> Answer:
    tables = {"t": make_table("t", x=list(x), y=list(y))}
    return answer(statement_from_json({"verb": "model", "table": "t", "what": "y", "against": "x", **slots}), tables)


def text(found: Answer) -> str:
    r = found.reading
    return to_plain(" ".join([r.headline, *r.paragraphs, *r.cautions, *(c.text for c in r.assumptions)]))


def test_cases_that_double_each_year() -> None:
    """Least squares by SciPy of years counted from 2015."""
    years, cases = np.arange(2015.0, 2021), np.array([10.0, 21, 39, 82, 158, 321])
    (a, b), _ = optimize.curve_fit(lambda u, a, b: a * np.exp(b * u), years - 2015, cases, p0=(10, 0.7))
    found = curves()["exponential"].fit(years, cases)
    assert float(found.predict(np.array([2020.0]))[0]) == pytest.approx(a * math.exp(5 * b), rel=1e-7)
    assert float(found.coefficients[1]) == pytest.approx(b, rel=1e-7)
    assert found.r_squared > 0.999
    assert "(x − 2018)" in found.form
    assert found.meanings[0] == "height at x = 2018"
    assert "times as high" in text(model(years, cases, curve="exponential"))


@pytest.mark.parametrize("name", ["exponential", "logistic growth", "two pieces"])
@pytest.mark.parametrize("noise", [0.03, 0.3])
def test_where_x_is_counted_from_changes_no_fit(name: str, noise: float) -> None:
    u = np.linspace(0.5, 15, 24)
    for at, shape in enumerate([np.exp(0.3 * u), 20 * np.exp(-0.4 * u), 10 / (1 + np.exp(6 - 0.8 * u)), u, np.sin(u)]):
        y = shape + np.random.default_rng(at).normal(size=24) * noise * np.ptp(shape)
        told = []
        for offset, step in SCALES:
            try:
                found = curves()[name].fit(offset + step * u, y)
                told.append(round(found.rss / float(((y - y.mean()) ** 2).sum()), 7))
            except CannotFit as why:
                told.append(str(why))
        assert len(set(told)) == 1, told
        assert not isinstance(told[0], float) or told[0] <= 1


@pytest.mark.parametrize("offset", [0.0, 1990.0, 1e6])
def test_power_and_saturation_against_a_search_of_their_own(offset: float) -> None:
    x = offset + np.linspace(1, 20, 25)
    rng = np.random.default_rng(2)
    for y in (x / x.mean() + rng.normal(0, 0.02, 25), np.linspace(1, 4, 25) + rng.normal(0, 0.2, 25)):
        for name, part in (("power", lambda b: np.exp(b / np.ptp(np.log(x)) * np.log(x / x.mean()))),
                           ("saturation", lambda b: x / (np.exp(b) * x.mean() + x))):  # fmt: skip

            def rss(b: float, part=part, y=y) -> float:
                g = part(b)
                return float(y @ y) - float(g @ y) ** 2 / float(g @ g)

            tried = np.linspace(-60 if name == "power" else -11, 60 if name == "power" else 11, 4000)
            least = min(tried, key=rss)
            best = optimize.minimize_scalar(rss, bracket=(least - 0.01, least + 0.01)).fun
            try:
                found = curves()[name].fit(x, y).rss
            except CannotFit:
                assert least in (tried[0], tried[-1]) or abs(least) > 10.5
                continue
            assert found <= best * (1 + 1e-7)


@pytest.mark.parametrize("degree", [2, 3])
@pytest.mark.parametrize("offset", [0.0, 1e5, 1e6])
def test_polynomials_wherever_x_lies(degree: int, offset: float) -> None:
    """Against NumPy's fit about the middle; standard errors do not depend on the beginning of x for the last term."""
    u = np.arange(40.0)
    y = 3 + 0.5 * u - 0.02 * u**2 + np.random.default_rng(1).normal(0, 1, 40)
    found = curves()[{2: "quadratic", 3: "cubic"}[degree]].fit(offset + u, y)
    right = np.polyval(np.polyfit(u - 20, y, degree), u - 20)
    np.testing.assert_allclose(found.fitted, right, rtol=1e-9, atol=1e-9)
    near = curves()[{2: "quadratic", 3: "cubic"}[degree]].fit(u, y)
    assert found.coefficients[-1] == pytest.approx(near.coefficients[-1], rel=1e-6)
    assert found.standard_errors[-1] == pytest.approx(near.standard_errors[-1], rel=1e-6)


def test_places_are_rounded_by_the_spread_of_x() -> None:
    years = np.arange(1990.0, 2020)
    quadratic = text(model(years, (years - 2006) ** 2 / 2 + np.resize([0, 1, 2], 30), curve="quadratic"))
    assert "lowest at about 2006, where" in quadratic
    pieces = text(model(years, 2 * (years - 1990) - 3.5 * np.maximum(years - 2006, 0) + np.resize([0, 0.2], 30),
                        curve="two pieces"))  # fmt: skip
    assert "Up to about 2006, for each increase of 1 in x, the predicted y is 2.0 higher" in pieces
    assert "Above 2006, it is 1.5 lower." in pieces
    days = 45_000 + np.arange(0.0, 366, 5)
    low = text(model(days, (days - 45_201) ** 2, curve="quadratic", read=45_123))
    assert "45\u202f201" in low.replace("45 201", "45\u202f201")


def test_three_rows_tick_nothing_that_was_not_tested() -> None:
    found = model([1, 2, 3], [3, 5, 6.5])
    marks = {to_plain(one.text): one.mark for one in found.reading.assumptions}
    for about in ("the relation is linear", "constant spread", "normal residuals"):
        ((said, mark),) = [(said, mark) for said, mark in marks.items() if about in said]
        assert mark == "judge"
        assert "too few rows to judge" in said
    x = np.arange(4.0)
    told = pattern(x, x, np.array([0.1, -0.2, 0.1, 0.0]), 2)
    assert math.isnan(told.bend)
    assert math.isnan(told.spread)


def test_children_come_whole() -> None:
    found = text(model([1, 2, 3, 4, 5], [3.1, 4.8, 7.1, 8.9, 10.8]))
    assert "For each increase of 1 in x, the predicted y is " in found


@pytest.mark.parametrize("n", [8, 12, 20, 60])
def test_no_curve_is_suggested_for_columns_that_have_nothing_to_do_with_each_other(n: int) -> None:
    curved = 0
    for seed in range(12):
        rng = np.random.default_rng([n, seed])
        found = text(model(rng.uniform(0, 10, n), rng.normal(0, 1, n)))
        curved += "Suggested: " in found
    assert curved <= 2


@pytest.mark.parametrize("n", [8, 12, 20, 60])
def test_a_true_line_keeps_its_place(n: int) -> None:
    kept = 0
    for seed in range(12):
        rng = np.random.default_rng([n, seed, 1])
        x = rng.uniform(0.5, 20, n)
        kept += "Suggested: " not in text(model(x, 3 + 2 * x + rng.normal(0, 3, n)))
    assert kept >= 10


def test_a_far_row_makes_no_curve() -> None:
    x = [*range(1, 11), 60]
    assert "Suggested: a quadratic" not in text(model(x, [2.1, 3.9, 6.2, 7.8, 10.1, 12.0, 13.8, 16.2, 18.1, 19.8, 60]))


def test_the_best_set_of_a_size_has_the_lowest_aicc_though_a_category_has_more_terms() -> None:
    rng = np.random.default_rng(6)
    n = 30
    g = np.resize(["a", "b", "c", "d"], n)
    a, b = rng.normal(size=n), rng.normal(size=n)
    y = a + np.where(g == "a", 0.7, 0) + rng.normal(0, 1, n)
    tables = {"t": make_table("t", y=y.tolist(), a=a.tolist(), b=b.tolist(), g=g.tolist())}
    asked = {"verb": "model", "table": "t", "what": "y", "against": "a", "also": ["b", "g"]}
    found = answer(statement_from_json(asked), tables)
    rows = next(f for f in found.figures if f.key == "subsets").rows
    columns = {"a": a[:, None], "b": b[:, None], "g": np.column_stack([(g == level) * 1.0 for level in "bcd"])}

    def aicc(names: tuple[str, ...]) -> float:
        design = np.column_stack([np.ones(n), *(columns[name] for name in names)])
        rss = float(((y - design @ np.linalg.lstsq(design, y, rcond=None)[0]) ** 2).sum())
        k = design.shape[1] + 1
        return n * math.log(rss / n) + 2 * k + 2 * k * (k + 1) / (n - k - 1)

    for size, row in enumerate(rows, 1):
        best = min(itertools.combinations("abg", size), key=aicc)
        assert set(row.cells[0].text.replace(" and ", ", ").split(", ")) == set(best)


@pytest.mark.parametrize("rule", ["halves", "type 7", "type 6"])
def test_a_picture_is_described_by_the_rule_of_quartiles_that_was_chosen(rule: str) -> None:
    values = [1.0, 2, 3, 4, 5, 6, 7, 8, 9, 20]
    tables = {"t": make_table("t", v=values)}
    for asked in ({"verb": "describe", "what": "v"}, {"verb": "plot", "what": "v", "marks": ["boxes"]}):
        found = answer(statement_from_json({**asked, "table": "t", "quartiles": rule}), tables)
        q1, q3 = {"halves": (3, 8), "type 7": (3.3, 7.8), "type 6": (2.8, 8.3)}[rule]  # to a decimal more than the data
        assert f"middle half {q1:g} to {q3:g}" in to_plain(found.picture.alt)


@pytest.mark.parametrize("rows", ["all", "matched"])
def test_rows_without_a_key_are_told_of(rows: str) -> None:
    from theoros.verbs.core.registry import arrangements

    one = make_table("one", k=["a", "b", None, "c"], v=[1.0, 2, 3, 4])
    two = make_table("two", k=["a", "c"], w=[5.0, 6])
    made = arrangements()["join"](table="one", key="k", other_table="two", other_key="k", rows=rows)
    notes = made.reshape(one, {"one": one, "two": two})[1]
    assert any(note.startswith("1 row of one has no k: ") for note in notes)


def test_a_slot_that_is_emptied_says_what_to_do() -> None:
    from theoros.verbs.core.slots import Option, Pick, TypeNumber

    assert TypeNumber(0, 1).problem(None) == "Type a number from 0 to 1."
    assert Pick((Option("a", "a"), Option(None, "none"))).problem("") == "Choose one: a, none."
    assert "None" not in Pick((Option("a", "a"), Option(None, "none"))).problem("b")


def test_no_curve_is_suggested_for_two_columns_of_the_demo_that_do_not_go_together() -> None:
    """A line of two pieces had the lowest AICc, with R² = 0.05: the best of a dozen looks better than it is."""
    tables = demo_study().by_name
    made = statement_from_json({"verb": "model", "table": "bushes", "what": "pluck mass", "against": "elevation"})
    found = text(answer(made, tables))
    assert "These data do not show a linear relation between pluck mass and elevation" in found
    assert "Suggested: " not in found
    rng = np.random.default_rng(3)
    x = rng.uniform(-3, 3, 60)
    assert "Suggested: a quadratic" in text(model(x + 4, 5 + x**2 + rng.normal(0, 1, 60)))  # no line, and yet a curve


@pytest.mark.parametrize("seed", range(12))
def test_a_joint_at_a_case_is_not_left_for_a_worse_place(seed: int) -> None:
    """Against least squares at every case and in every gap, by NumPy and SciPy (Hudson 1966)."""
    rng = np.random.default_rng(seed)
    x = np.linspace(0.5, 15, 8)
    y = 1 + 1.2 * x - 1.5 * np.maximum(x - 7, 0) + rng.normal(0, 2, 8)

    def rss(joint: float) -> float:
        design = np.column_stack([np.ones(8), x, np.maximum(x - joint, 0)])
        return float(((y - design @ np.linalg.lstsq(design, y, rcond=None)[0]) ** 2).sum())

    gaps = [optimize.minimize_scalar(rss, bounds=gap, method="bounded").fun for gap in itertools.pairwise(x[1:-1])]
    assert curves()["two pieces"].fit(x, y).rss <= min(*gaps, *(rss(at) for at in x[1:-1])) * (1 + 1e-6)


@pytest.mark.parametrize("seed", range(12))
def test_growth_without_a_level_comes_to_the_best_of_all_steps(seed: int) -> None:
    """0 on one side and the mean on the other, one value of x between them left free: all of them, one by one."""
    rng = np.random.default_rng(seed)
    x = np.sort(rng.integers(0, 9, 12)).astype(float)
    y = rng.normal(1, 2, 12)
    found = []
    for at in np.unique(x):
        zero, level, own = y[x < at], y[x > at], y[x == at]
        found.append(float((zero**2).sum() + ((y[x >= at] - y[x >= at].mean()) ** 2).sum()))
        if level.size and own.mean() * (own.mean() - level.mean()) < 0:
            spread = ((own - own.mean()) ** 2).sum() + ((level - level.mean()) ** 2).sum()
            found.append(float((zero**2).sum() + spread))
    assert _least_step(x, y) == pytest.approx(min(found), rel=1e-9)


def test_growth_through_a_parabola_says_what_it_comes_to() -> None:
    x = np.linspace(0.5, 15, 8)
    with pytest.raises(CannotFit, match="look like an exponential curve, or a step"):
        curves()["logistic growth"].fit(x, 1 + (x - 8) ** 2 / 8)

"""Counts against a named distribution, a number in classes, and levels merged."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import optimize, stats

from tests.conftest import make_table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.data.merging import merged
from theoros.verbs.data.observed_counts import CountsOfLevels, TwoWayCounts
from theoros.verbs.test.data import fitted_law, span_of

KICKS = [109, 65, 22, 3, 1]
"""Deaths by horse kick in 200 corps-years (Bortkiewicz 1898), whose mean is 0.61."""


def fit(claimed: str, levels, counts, **slots):
    held = [{"name": str(n), "count": int(c)} for n, c in zip(levels, counts, strict=True)]
    data = {"kind": "typed counts", "name": "deaths", "levels": held}
    return answer(statement_from_json({
        "verb": "test", "parameter": "shares", "method": "chi-square of fit", "claimed": claimed,
        "data": data, **slots,
    }), {})  # fmt: skip


def figures(found) -> dict[str, float]:
    assert found.problem is None, found.problem
    return found.numbers["chi-square of fit"]


class TestNamedDistributions:
    def test_poisson_with_its_mean_estimated(self) -> None:
        chances = [*stats.poisson.pmf(range(4), 0.61), stats.poisson.sf(3, 0.61)]
        expected = stats.chisquare(KICKS, 200 * np.array(chances), ddof=1)
        found = figures(fit("Poisson", range(5), KICKS))
        assert found["chi_square"] == pytest.approx(expected.statistic, rel=1e-10)
        assert found["p"] == pytest.approx(expected.pvalue, rel=1e-10)
        assert found["df"] == 3

    @pytest.mark.parametrize("text", ["Poisson(0.5)", "poisson 0.5", "Poisson(λ = 0.5)"])
    def test_a_parameter_that_is_given_costs_no_degree_of_freedom(self, text: str) -> None:
        chances = [*stats.poisson.pmf(range(4), 0.5), stats.poisson.sf(3, 0.5)]
        expected = stats.chisquare(KICKS, 200 * np.array(chances))
        found = figures(fit(text, [0, 1, 2, 3, "4 or more"], KICKS))
        assert found["p"] == pytest.approx(expected.pvalue, rel=1e-10)
        assert found["df"] == 4

    def test_binomial(self) -> None:
        counts = [3, 14, 36, 30, 17]
        p = np.average(range(5), weights=counts) / 4
        expected = stats.chisquare(counts, 100 * stats.binom.pmf(range(5), 4, p), ddof=1)
        assert figures(fit("binomial(4)", range(5), counts))["p"] == pytest.approx(expected.pvalue, rel=1e-10)

    def test_normal_in_classes_is_the_likeliest_one(self) -> None:
        counts, edges = np.array([9, 28, 41, 17, 5]), [50.0, 60.0, 70.0, 80.0]
        levels = ["under 50", "50 to 60", "60 to 70", "70–80", "80 or more"]

        def chances(mu: float, sigma: float):
            return np.diff(np.concatenate([[0], stats.norm.cdf(edges, mu, sigma), [1]]))

        best = optimize.minimize(
            lambda at: -counts @ np.log(chances(at[0], math.exp(at[1]))),
            [62.0, 2.0],
            method="BFGS",
            options={"gtol": 1e-9},
        )
        own = fitted_law("normal", levels, counts)
        assert own is not None
        assert own.shares == pytest.approx(chances(best.x[0], math.exp(best.x[1])), rel=1e-5)
        found = figures(fit("normal", levels, counts))
        expected = stats.chisquare(counts, counts.sum() * np.array(own.shares), ddof=2)
        assert found["p"] == pytest.approx(expected.pvalue, rel=1e-9)
        assert found["df"] == 2

    def test_words(self) -> None:
        found = fit("Poisson", range(5), KICKS)
        assert "differ from those of a Poisson distribution" in found.caption
        assert found.symbols[0].text == "H_{0}: deaths has a Poisson distribution"
        assert "λ = 0.6100" in found.symbols[2].text
        assert any("λ is estimated from the counts" in str(line) for line in found.working[0].lines)
        given = fit("Poisson(0.5)", range(5), KICKS)
        assert "the Poisson distribution with λ = 0.5" in given.symbols[0].text

    def test_ways_that_count_exactly_need_given_shares(self) -> None:
        told = fit("Poisson", range(5), KICKS, method="exact multinomial").reading.headline
        assert "not estimated from the counts" in told
        assert (
            "p" in fit("Poisson(0.6)", range(4), [9, 6, 2, 1], method="exact multinomial").numbers["exact multinomial"]
        )

    @pytest.mark.parametrize(
        ("text", "levels", "why"),
        [
            ("Gumbel", [0, 1], "cannot be claimed as a distribution"),
            ("Poisson(1, 2)", [0, 1], "Poisson(λ)"),
            ("binomial", [0, 1], "n has to be given"),
            ("binomial(2.5)", [0, 1], "whole number"),
            ("Poisson", [0, 2], "leave a gap"),
            ("normal", ["10 to 20", "15 to 30"], "overlap"),
            ("Poisson", ["red", "blue"], "is not a range of values"),
            ("normal", [1, 2], "is not a range of values"),
            ("normal(5, -1)", ["under 5", "5 or more"], "above 0"),
            ("binomial(2)", [0, 1, 2, 3], "is not possible under this distribution"),
            ("Poisson(x)", [0, 1], ""),
        ],
    )
    def test_what_cannot_be_claimed_is_said(self, text: str, levels, why: str) -> None:
        with pytest.raises(StatementError) as said:
            fitted_law(text, [str(level) for level in levels], None)
        assert why in str(said.value)
        found = fit(text, levels, [5] * len(levels))
        assert found.problem is not None

    def test_too_few_levels_for_the_parameters(self) -> None:
        found = fit("normal", ["under 5", "5 to 6", "6 or more"], [5, 9, 6])
        assert "no degrees of freedom" in found.reading.headline

    @pytest.mark.parametrize(("level", "span"), [
        ("3", (3, 3)), ("3 or more", (3, math.inf)), ("3+", (3, math.inf)), ("≥ 3", (3, math.inf)),
        ("more than 3", (4, math.inf)), ("under 3", (-math.inf, 2)), ("up to 3", (-math.inf, 3)),
        ("2 to 3", (2, 3)), ("2–3", (2, 3)), ("2 to under 4", (2, 3)),
    ])  # fmt: skip
    def test_levels_are_read_as_people_write_them(self, level: str, span) -> None:
        assert span_of(level, whole=True) == span


class TestNumberInClasses:
    def test_rows_are_counted(self) -> None:
        table = {"t": make_table(spots=[0, 1, 1, 2, 4, 4, 4, 0, 1, 2])}
        found = answer(statement_from_json({
            "verb": "test", "parameter": "shares", "table": "t", "method": "chi-square of fit",
            "claimed": "Poisson", "data": {"kind": "classes of a number", "what": "spots"},
        }), table)  # fmt: skip
        assert found.problem is None, found.problem
        rows = [[cell.text for cell in row.cells[:2]] for row in found.figures[1].rows]
        assert rows == [["0", "2"], ["1", "3"], ["2", "2"], ["3", "0"], ["4", "3"]]

    def test_a_width_gives_classes(self) -> None:
        values = [1.0, 2.5, 3.9, 4.0, 9.5]
        found = answer(
            statement_from_json(
                {
                    "verb": "test",
                    "parameter": "shares",
                    "table": "t",
                    "claimed": "normal(4, 2)",
                    "method": "chi-square of fit",
                    "data": {"kind": "classes of a number", "what": "mass", "width": 2},
                }
            ),
            {"t": make_table(mass=values)},
        )
        rows = [[cell.text for cell in row.cells[:2]] for row in found.figures[1].rows]
        assert rows[0] == ["0 to under 2", "1"]
        assert rows[2] == ["4 to under 6", "1"]
        assert rows[-1] == ["8 to under 10", "1"]

    def test_too_many_classes_are_refused(self) -> None:
        found = answer(
            statement_from_json(
                {
                    "verb": "test",
                    "parameter": "shares",
                    "table": "t",
                    "method": "chi-square of fit",
                    "data": {"kind": "classes of a number", "what": "mass", "width": 0.01},
                }
            ),
            {"t": make_table(mass=[1.0, 200.0])},
        )
        assert "greater width" in str(found.problem)


class TestMergedLevels:
    def test_neighbours_of_an_order_and_one_click(self) -> None:
        found = fit("Poisson", range(5), KICKS)
        link = next(one for one in found.reading.next if one.sets == ("merge", True))
        assert link.label.startswith("Merge levels")
        made = fit("Poisson", range(5), KICKS, merge=True)
        names = [row.cells[0].text for row in made.figures[1].rows]
        assert names == ["0", "1", "2, 3 or 4"]
        assert figures(made)["df"] == 1
        assert "every expected count is 5 or more" in [c.text for c in made.reading.assumptions]

    @given(
        counts=st.lists(st.integers(0, 40), min_size=2, max_size=8).filter(lambda c: sum(c) > 0), ordered=st.booleans()
    )
    def test_nothing_is_lost(self, counts: list[int], ordered: bool) -> None:
        k = len(counts)
        data = CountsOfLevels(
            name="x",
            levels=tuple("abcdefgh"[:k]),
            counts=np.array(counts),
            ordered=ordered,
            claimed=tuple(np.arange(1, k + 1) / (k * (k + 1) / 2)),
        )
        made = merged(data)
        assert made.total == data.total
        assert math.isclose(sum(made.claimed), 1)
        assert len(made.levels) == made.counts.size >= 2
        enough = made.total * np.array(made.claimed)
        assert len(made.levels) == 2 or enough.min() >= 5

    @given(st.lists(st.lists(st.integers(1, 30), min_size=4, max_size=4), min_size=3, max_size=5))
    def test_tables_keep_their_sum(self, counts: list[list[int]]) -> None:
        data = TwoWayCounts(
            names=("x", "y"),
            rows=tuple("abcde"[: len(counts)]),
            columns=tuple("pqrs"),
            counts=np.array(counts),
            ordered=(True, False),
        )
        made = merged(data)
        assert made.total == data.total
        assert made.counts.shape == (len(made.rows), len(made.columns))
        least = np.outer(made.counts.sum(axis=1), made.counts.sum(axis=0)).min() / made.total
        assert least >= 5 or made.counts.shape == (2, 2)

    def test_classes_that_follow_each_other_become_one(self) -> None:
        data = CountsOfLevels(
            name="x",
            levels=("0 to under 5", "5 to under 10", "10 to under 15"),
            counts=np.array([2, 20, 20]),
            claimed=(0.05, 0.45, 0.5),
            ordered=True,
        )
        assert merged(data).levels == ("0 to under 10", "10 to under 15")

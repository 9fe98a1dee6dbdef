"""The verb Model: figures against another library, the words, what cannot be told, and its laws."""

from __future__ import annotations

import json
import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.testing import assert_allclose
from scipy import stats

from tests.conftest import make_table
from theoros.answer.glossary import term_of
from theoros.answer.parts import Answer, answer_json
from theoros.table.kinds import Kind
from theoros.verbs.arrange.answering import arranged
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.model.curves.curve import curves
from theoros.verbs.model.curves.fits import curve_of, fit_group
from theoros.verbs.model.data import read_pairs
from theoros.verbs.model.statement import ModelStatement

X = [1.0, 2.5, 3.0, 4.2, 5.5, 6.1, 7.7, 8.0, 9.4, 12.0]
Y = [2.1, 4.4, 5.2, 7.9, 9.1, 13.0, 12.2, 14.9, 15.8, 21.5]
Z = [3.1, 2.2, 5.7, 4.4, 6.0, 8.8, 7.1, 9.9, 8.2, 13.0]
G = list("abbaabacbc")
WON = ["no", "no", "yes", "no", "no", "yes", "no", "yes", "yes", "yes"]
RNG = np.random.default_rng(15)
LONG = np.sort(RNG.uniform(1, 20, 90)).round(2)
SIDE = np.repeat(["low", "high"], 45)
TABLES = {
    "t": make_table("t", "tray", x=X, y=Y, z=Z, g=G, won=WON, late=["no"] * 6 + ["yes"] * 4,
                    pair=["b" if one == "c" else one for one in G]),
    "long": make_table(
        "long", "bush", x=LONG.tolist(), line=(3 + 2 * LONG + RNG.normal(0, 1, 90)).tolist(),
        bent=(3 + 0.4 * LONG**2 + RNG.normal(0, 1, 90)).tolist(),
        wide=(3 + 2 * LONG + RNG.normal(0, 1, 90) * LONG * 0.6).tolist(),
        split=np.where(SIDE == "low", 2 * LONG, 40 - LONG + RNG.normal(0, 1, 90)).tolist(),
        side=SIDE.tolist(), dose=np.tile(["10", "20", "40"], 30).tolist(),
        twice=(2 * LONG + 1).tolist(), one=[5.0] * 90, exact=(3 + 2 * LONG).tolist(),
    ),
    "few": make_table("few", "tray", x=[1.0, 2.0], y=[1.0, 5.0], g=["a", "b"]),
}  # fmt: skip


def ask(table: str = "t", tables=TABLES, **slots) -> Answer:
    if isinstance(slots.get("also"), tuple):
        slots["also"] = list(slots["also"])
    return answer(statement_from_json({"verb": "model", "table": table, **slots}), tables)


def said(found: Answer) -> str:
    reading = found.reading
    parts = [reading.headline, *reading.paragraphs, *reading.cautions]
    parts += [condition.text for condition in reading.assumptions]
    return " ".join(parts).replace("\u00a0", " ")


def table_of(found: Answer, key: str):
    return next(one for one in found.figures if one.key == key)


class TestLine:
    def test_coefficients_and_predictions_of_another_library(self) -> None:
        # statsmodels 0.15: OLS(y, [1, x]) and its prediction at 5, α = 0.10
        found = ask(what="y", against="x", read=5.0, confidence=0.9)
        assert_allclose(found.numbers["line"]["coefficients"], [0.30800853, 1.734342], rtol=1e-7)
        assert_allclose(found.numbers["line"]["errors"], [0.69191737, 0.10235195], rtol=1e-7)
        cells = table_of(found, "predictions").rows[0].cells
        assert_allclose(
            [one.value for one in cells[1:6]],
            [8.979718520794133, 8.33992069648935, 9.619516345098916, 6.934560656816383, 11.024876384771883],
            rtol=1e-9,
        )

    def test_slope_test_agrees_with_the_verb_test(self) -> None:
        found = ask(what="y", against="x")
        known = stats.linregress(X, Y)
        rows = table_of(found, "coefficients").rows
        assert rows[1].cells[4].value == pytest.approx(known.pvalue)
        link = next(one for one in found.reading.next if one.label == "Test whether the slope is 0")
        other = answer(link.statement, TABLES)
        assert other.numbers["t of a slope"]["p"] == pytest.approx(known.pvalue)

    def test_it_says_what_the_slope_and_the_intercept_mean(self) -> None:
        text = said(ask("long", what="line", against="x"))
        assert text.startswith("For each increase of 1 in x, the predicted line is 2.0 higher, on average.")
        assert "(r = 0.99" in text
        assert ", a strong relation)" in text
        assert "does not show that one causes the other" in text

    def test_a_prediction_outside_the_data_is_cautioned(self) -> None:
        text = said(ask("long", what="line", against="x", read=50.0, also_at="10; 12"))
        assert "x 50 lies outside the data" in text
        assert "At x 10, the predicted line is " in text
        assert re.search(r"95 % interval for the mean of all such bushes is .* For a single bush it is", text)

    def test_r_is_told_of_lines_only(self) -> None:
        assert "r = " not in said(ask("long", what="bent", against="x", curve="quadratic"))
        assert "is explained by the quadratic curve" in said(ask("long", what="bent", against="x", curve="quadratic"))

    def test_a_line_by_hand_beside_the_best(self) -> None:
        found = ask(what="y", against="x", by_hand=True, hand_left=2.0, hand_right=20.0)
        mine, best = table_of(found, "by hand").rows
        slope = 18 / 11
        off = np.array(Y) - (2.0 + slope * (np.array(X) - 1))
        assert mine.cells[3].value == pytest.approx(float(off @ off))
        assert best.cells[3].value < mine.cells[3].value


class TestCurves:
    def test_a_bend_fails_the_line_and_a_curve_is_suggested(self) -> None:
        found = ask("long", what="bent", against="x")
        assert "the relation is not linear: the residuals show a bend" in said(found)
        links = [one for one in found.reading.next if one.label.startswith("Use the")]
        assert links
        name = links[0].sets[1]
        better = ask("long", what="bent", against="x", curve=name)
        assert better.numbers[name]["r2"] > found.numbers["line"]["r2"]
        assert "no bend in the residuals" in said(better)

    def test_a_line_that_is_right_stays(self) -> None:
        found = ask("long", what="line", against="x")
        assert not [one for one in found.reading.next if one.label.startswith("Use the")]
        assert "suggested" in table_of(found, "methods").rows[0].cells[-1].text

    def test_all_are_compared_in_the_scale_of_y(self) -> None:
        found = ask("long", what="bent", against="x", curve="exponential by logs")
        y = TABLES["long"].numbers("bent")
        log_fit = np.polyfit(LONG, np.log(y), 1)
        rss = float(((y - np.exp(np.polyval(log_fit, LONG))) ** 2).sum())
        share = 1 - rss / float(((y - y.mean()) ** 2).sum())
        assert found.numbers["exponential by logs"]["r2"] == pytest.approx(share)
        assert "logarithm" in said(found)

    def test_uneven_spread_is_seen(self) -> None:
        assert "the spread is not constant: it grows" in said(ask("long", what="wide", against="x"))

    def test_what_does_not_fit_says_why_and_the_others_stand(self) -> None:
        minus = make_table("minus", "tray", x=[-2.0, -1, 0, 1, 2, 3], y=[-4.0, -2, 1, 2, 4, 7])
        found = ask("minus", {"minus": minus}, what="y", against="x")
        rows = {row.cells[0].value: row.cells[-1].text for row in table_of(found, "methods").rows}
        assert rows["logarithmic"] == "it needs x above 0"
        assert rows["exponential by logs"] == "it uses the logarithm of y, so y must be above 0"
        alone = ask("minus", {"minus": minus}, what="y", against="x", curve="logarithmic")
        assert alone.problem is None
        assert alone.picture is not None
        assert alone.reading.headline.startswith("A logarithmic curve cannot be fitted here")
        assert any(one.sets == ("curve", "line") for one in alone.reading.next)

    def test_a_perfect_line(self) -> None:
        text = said(ask("long", what="exact", against="x"))
        assert "All pairs lie exactly on the curve" in text

    def test_x_all_alike_and_too_few_pairs(self) -> None:
        text = said(ask("long", what="line", against="one"))
        assert "all values of x are equal" in text
        text = said(ask("few", what="y", against="x"))
        assert "needs at least 3 pairs" in text

    def test_without_the_unusual_row(self) -> None:
        y = [*Y[:-1], 60.0]
        off = make_table("off", "tray", x=X, y=y)
        text = said(ask("off", {"off": off}, what="y", against="x"))
        slope = stats.linregress(X[:-1], y[:-1]).slope
        assert "Row 10 is unusual" in text
        assert f"the slope would be {slope:.2f}" in text

    @pytest.mark.parametrize(
        "curve", ["line", "quadratic", "exponential", "power by logs", "two pieces", "logarithmic"]
    )
    def test_kept_columns_hold_what_is_fitted_and_left(self, curve) -> None:
        found = ask(what="y", against="x", curve=curve)
        s = ModelStatement(table="t", what="y", against="x", curve=curve)
        fit = fit_group(curve_of(s), read_pairs(s, TABLES).all)
        assert not isinstance(fit, str)
        for begin, values in (("Keep fitted", fit.fitted), ("Keep residuals", fit.residuals)):
            link = next(one for one in found.reading.next if one.label.startswith(begin))
            made = arranged(link.statement, TABLES).table
            name = link.statement.name
            assert_allclose(made.numbers(name), values, rtol=1e-9, atol=1e-9)


class TestGroups:
    def test_lines_of_each_group_by_another_library(self) -> None:
        found = ask("long", what="split", against="x", by="side")
        y = TABLES["long"].numbers("split")
        for side in ("low", "high"):
            known = stats.linregress(LONG[side == SIDE], y[side == SIDE])
            b = found.numbers[side]["coefficients"]
            assert_allclose(b, [known.intercept, known.slope], rtol=1e-8, atol=1e-8)
        assert "The slopes differ" in said(found)
        assert found.reading.headline.startswith("Separate straight lines for the groups fit better")

    def test_groups_that_matter_are_found_unasked(self) -> None:
        text = said(ask("long", what="split", against="x"))
        assert "levels of side may differ" in text

    def test_a_group_too_small_is_said(self) -> None:
        small = make_table("small", "tray", x=[*X, 3.0], y=[*Y, 3.0], g=[*(["a"] * 10), "b"])
        text = said(ask("small", {"small": small}, what="y", against="x", by="g"))
        assert "b: there is one pair only." in text

    def test_two_categories_make_a_curve_for_each_pair_of_levels(self) -> None:
        found = ask("long", what="line", against="x", by="side", and_by="dose")
        assert len(table_of(found, "groups").rows) == 6

    def test_slopes_alike_by_the_f_of_extra_terms(self) -> None:
        found = ask(what="y", against="x", by="pair")
        x, y, codes = np.array(X), np.array(Y), np.array(["ab".find(c) % 2 for c in G])
        marks = (codes[:, None] == np.arange(2)) * 1.0
        rss = [
            float(np.linalg.lstsq(design, y, rcond=None)[1][0])
            for design in (np.column_stack([marks, x]), np.hstack([marks, marks * x[:, None]]))
        ]
        f = (rss[0] - rss[1]) / (rss[1] / 6)
        assert f"F(1, 6) = {f:.2f}" in said(found)


class TestLevels:
    def test_a_category_is_named_and_means_are_offered(self) -> None:
        found = ask("long", what="line", against="side")
        assert found.reading.headline == "side is a category."
        assert found.picture is not None
        link = next(one for one in found.reading.next if "one-way analysis" in one.label)
        assert answer(link.statement, TABLES).problem is None

    def test_levels_that_are_numbers_can_be_read_so(self) -> None:
        found = ask("long", what="line", against="dose")
        link = next(one for one in found.reading.next if "as numbers" in one.label)
        assert link.sets == ("as_numbers", True)
        found = ask("long", what="line", against="dose", as_numbers=True)
        dose = np.tile([10.0, 20, 40], 30)
        slope = stats.linregress(dose, TABLES["long"].numbers("line")).slope
        assert found.numbers["line"]["coefficients"][1] == pytest.approx(slope)


class TestSeveral:
    def test_two_numbers_and_a_category_by_another_library(self) -> None:
        # statsmodels 0.15: y ~ x + z + C(g), typ 3 sums of squares, prediction at (5, 6, b)
        found = ask(what="y", against="x", also=("z", "g"), values="x 5, z 6, g b")
        n = found.numbers
        assert n["names"] == ["intercept", "x", "z", "g b", "g c"]
        assert_allclose(
            n["coefficients"],
            [-0.587389070976152, 1.3044520761536351, 0.4683319457610555, 0.4236493088070028, 0.38046753047572635],
            rtol=1e-9,
        )
        assert_allclose(
            n["errors"],
            [0.8755212474534081, 0.22305422496704774, 0.2741934647661142, 0.6660647832522884, 1.2165813010102922],
            rtol=1e-9,
        )
        assert_allclose(
            [n["r2"], n["adjusted"], n["f"], n["p"]],
            [0.9872991678462318, 0.9771385021232173, 97.1687480683415, 6.305079634742041e-05],
            rtol=1e-9,
        )
        assert_allclose(n["prediction"]["mean"], [8.00312747901633, 10.33389710731439], rtol=1e-9)
        assert_allclose(n["prediction"]["single"], [6.5677892728995015, 11.769235313431219], rtol=1e-9)
        rows = table_of(found, "parts").rows
        parts = {row.cells[0].text: [cell.value for cell in row.cells[2:5]] for row in rows}
        assert_allclose(parts["x"], [27.978181, 34.200728, 0.002070], rtol=2e-4)
        assert_allclose(parts["z"], [2.386588, 2.917382, 0.148332], rtol=1e-5)
        assert_allclose(parts["g"], [0.331497, 0.202612, 0.822983], rtol=1e-5)

    def test_products_and_a_level_to_compare_with(self) -> None:
        # statsmodels 0.15: y ~ x * C(g, Treatment('b'))
        found = ask(what="y", against="x", also=("g",), products=True, references=["g: b"])
        made = dict(zip(found.numbers["names"], found.numbers["coefficients"], strict=True))
        known = {
            "intercept": 0.5288518155053898,
            "g a": 0.4000564257860324,
            "g c": 1.171148184494612,
            "x": 1.7278377494275454,
            "x × g a": -0.22868736709959192,
            "x × g c": -0.07783774942754462,
        }
        assert made == pytest.approx(known, rel=1e-8)
        assert "x" not in [row.cells[0].text for row in table_of(found, "parts").rows]

    def test_variance_inflation_of_another_library(self) -> None:
        level = ["one" if v else "none" for v in (1, 0, 0, 1, 1, 0, 1, 0, 0, 1)]
        other = make_table("o", "tray", x=X, y=Y, z=Z, k=level)
        found = ask("o", {"o": other}, what="y", against="x", also=("z", "k"))
        known = [6.210184713478511, 6.207758499900644, 1.0399962280031905]
        assert_allclose(found.numbers["inflations"], known, rtol=1e-9)

    def test_the_best_sets_are_the_best_of_all(self) -> None:
        found = ask(what="y", against="x", also=("z", "g"))
        rows = table_of(found, "subsets").rows
        assert rows[0].sets[1] == ("x",)
        for row in rows:
            names = row.sets[1]
            one = ask(what="y", against=names[0], also=names[1:]) if len(names) > 1 else ask(what="y", against=names[0])
            share = one.numbers["r2"] if "r2" in one.numbers else one.numbers["line"]["r2"]
            assert row.cells[1].value == pytest.approx(share)
        assert "a set chosen by the same data looks better than it is" in table_of(found, "subsets").title

    def test_choosing_a_set_sets_the_predictors(self) -> None:
        s = ModelStatement(table="t", what="y", against="x", also=("z", "g"))
        made = s.with_slot("subset", ("z", "g"), TABLES).statement
        assert (made.against, made.also) == ("z", ("g",))

    def test_squares_and_typed_values_in_order(self) -> None:
        found = ask(what="y", against="x", also=("z",), squares=True, values="5, 6")
        b = found.numbers["coefficients"]
        assert found.numbers["names"] == ["intercept", "x", "z", "x²", "z²"]
        value = b[0] + 5 * b[1] + 6 * b[2] + 25 * b[3] + 36 * b[4]
        assert found.numbers["prediction"]["value"] == pytest.approx(value)

    @pytest.mark.parametrize(
        ("slots", "words"),
        [
            ({"what": "line", "against": "x", "also": ("twice",)}, "twice is determined by x"),
            ({"what": "line", "against": "x", "also": ("one",)}, "one is the same in every row"),
            ({"what": "one", "against": "x", "also": ("twice",)}, "one is the same in every row"),
            ({"what": "line", "against": "x", "also": ("bent",), "values": "x 3, 4, 5"}, "“5” is one value too many"),
            (
                {"what": "line", "against": "x", "also": ("side",), "values": "side medium"},
                "side has no level “medium”; it has high or low",
            ),
        ],
    )
    def test_what_cannot_be_told_is_said(self, slots, words) -> None:
        found = ask("long", **slots)
        assert found.problem is not None
        sentence = found.problem.sentence
        assert words in sentence or words.replace("high or low", "low or high") in sentence

    def test_more_terms_than_rows(self) -> None:
        found = ask("few", what="y", against="x", also=("g",))
        assert "3 terms cannot be estimated from 2 trays" in found.problem.sentence

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10_000), st.booleans(), st.booleans())
    def test_values_of_a_row_give_what_is_fitted_for_it(self, seed, products, squares) -> None:
        random = np.random.default_rng(seed)
        made = make_table(
            "r",
            "tray",
            a=random.normal(size=40).tolist(),
            b=random.normal(size=40).tolist(),
            c=random.choice(["u", "v", "w"], 40).tolist(),
            y=random.normal(size=40).tolist(),
        )
        at = int(random.integers(40))
        a, b = (float(made.numbers(name)[at]) for name in "ab")
        c = made.levels("c")[made.codes("c")[at]]
        slots = {"what": "y", "against": "a", "also": ("b", "c"), "products": products, "squares": squares}
        found = ask("r", {"r": made}, **slots, values=f"a {a!r}, b {b!r}, c {c}")
        low, high = found.numbers["prediction"]["mean"]
        value = found.numbers["prediction"]["value"]
        assert low <= value <= high
        turned = ask("r", {"r": made}, **slots, references=[f"c: {c}"], values=f"a {a!r}, b {b!r}")
        assert turned.numbers["prediction"]["value"] == pytest.approx(value, rel=1e-7, abs=1e-9)


class TestOutcomes:
    def test_a_logistic_curve_by_another_library(self) -> None:
        # statsmodels 0.15: Logit(won, [1, x]), and the prediction of its GLM at 5
        found = ask(what="won", level="yes", against="x", read=5.0)
        n = found.numbers
        assert_allclose(n["coefficients"], [-2.6063328544238016, 0.4449530738661643], rtol=1e-9)
        assert_allclose(n["errors"], [1.8626424220937594, 0.29501049771303733], rtol=1e-7)
        assert_allclose(
            [n["log_likelihood"], n["null"], n["p"]],
            [-5.240267321218752, -6.931471805599453, 0.06589567518855753],
            rtol=1e-9,
        )
        assert_allclose(n["probability"], [0.40574889441967243, 0.12659630588961, 0.7628302808550776], rtol=1e-7)
        x, won = np.array(X), np.array(WON) == "yes"
        u = stats.mannwhitneyu(x[won], x[~won]).statistic
        assert n["area"] == pytest.approx(u / (won.sum() * (~won).sum()))

    def test_classes_at_a_cut_off_by_counting(self) -> None:
        found = ask(what="won", level="yes", against="x", cut=0.4)
        b = found.numbers["coefficients"]
        p = 1 / (1 + np.exp(-(b[0] + b[1] * np.array(X))))
        won = np.array(WON) == "yes"
        yes, no = table_of(found, "classes").rows
        assert [yes.cells[1].value, yes.cells[2].value] == [int((won & (p >= 0.4)).sum()), int((won & (p < 0.4)).sum())]
        assert [no.cells[1].value, no.cells[2].value] == [int((~won & (p >= 0.4)).sum()), int((~won & (p < 0.4)).sum())]

    def test_the_other_level_turns_the_odds(self) -> None:
        one = ask(what="won", level="yes", against="x").numbers
        other = ask(what="won", level="no", against="x").numbers
        assert_allclose(one["coefficients"], [-b for b in other["coefficients"]], rtol=1e-8)
        assert one["area"] == pytest.approx(other["area"])

    def test_outcomes_that_are_parted_completely(self) -> None:
        found = ask(what="late", level="yes", against="x")
        assert found.problem is None
        assert found.reading.headline == "x separates yes from the others completely, or nearly so."
        assert found.picture is not None
        found = ask(what="won", level="yes", against="x", also=("z",))
        assert "separate yes from the others completely" in found.reading.headline

    def test_words(self) -> None:
        text = said(ask(what="won", level="yes", against="x"))
        assert "These data do not show that x is related to the probability of yes (p = " in text
        odds = term_of("odds")
        assert "not a probability that is twice as large" in odds.meaning

    def test_one_outcome_only(self) -> None:
        sure = make_table("sure", "tray", x=X, won=["yes"] * 10)
        found = ask("sure", {"sure": sure}, what="won", level="yes", against="x")
        assert "both outcomes are needed" in found.problem.sentence

    def test_levels_taken_together_are_named(self) -> None:
        text = said(ask(what="g", level="a", against="x"))
        assert "The other levels of g are taken together: b and c." in text


class TestStatement:
    @settings(max_examples=50, deadline=None)
    @given(st.data())
    def test_any_answer_can_be_written_and_read_again(self, data) -> None:
        s = ModelStatement(
            table="t",
            what=data.draw(st.sampled_from(["y", "x", "won", "g"])),
            against="z",
            curve=data.draw(st.sampled_from(["line", "cubic", "power", "smooth", "robust"])),
            also=data.draw(st.sampled_from([(), ("g",), ("x",)])),
            bands=data.draw(st.sampled_from(["none", "mean", "single", "both"])),
            residuals=data.draw(
                st.sampled_from(["none", "fitted", "along", "normal", "histogram", "order", "leverage"])
            ),
            drawn=data.draw(st.sampled_from(["none", "segments", "squares"])),
        )
        s = s.mend("what", TABLES).statement
        found = answer(s, TABLES)
        json.dumps(answer_json(found))
        for word in ("nan", "None", "  ", "inf "):
            assert word not in said(found)

    def test_mending_keeps_what_fits(self) -> None:
        s = ModelStatement(table="t", what="y", against="x", also=("z", "g"))
        made = s.with_slot("what", "z", TABLES).statement
        assert made.also == ("g",)
        made = s.with_slot("against", "g", TABLES).statement
        assert made.also == ("z",)
        made = replace(s, also=()).with_slot("what", "won", TABLES).statement
        assert (made.what, made.level) == ("won", "no")
        assert TABLES["t"].column("won").kind is Kind.CATEGORY

    def test_swapping_the_axes(self) -> None:
        s = ModelStatement(table="t", what="y", against="x", read=3.0)
        assert (s.swapped().what, s.swapped().against, s.swapped().read) == ("x", "y", None)


def kept(found: Answer, begin: str) -> np.ndarray:
    """The values of a column that a link keeps."""
    link = next(one for one in found.reading.next if one.label.startswith(begin))
    return arranged(link.statement, TABLES).table.numbers(link.statement.name)


class TestKept:
    def test_bands_and_leverage_as_columns(self) -> None:
        # statsmodels 0.15: the hat matrix of OLS(y, [1, x]), and its prediction at 5 (α = 0.10)
        found = ask(what="y", against="x", confidence=0.9)
        assert kept(found, "Keep leverage")[:2] == pytest.approx([0.33428055758227404, 0.21360546829998817])
        line = curve_of(ModelStatement(curve="line")).fit(np.array(X), np.array(Y))
        low, high = line.band(np.array(X), 0.9, single=True)
        assert_allclose(kept(found, "Keep the low end"), low, rtol=1e-9)
        assert_allclose(kept(found, "Keep the high end"), high, rtol=1e-9)

    def test_columns_of_several_predictors(self) -> None:
        found = ask(what="y", against="x", also=("g",), products=True)
        x, g = np.array(X), np.array(G)
        marks = [(g == level) * 1.0 for level in "bc"]
        design = np.column_stack([np.ones(10), x, *marks, *(x * mark for mark in marks)])
        fitted = design @ np.array(found.numbers["coefficients"])
        assert_allclose(kept(found, "Keep fitted"), fitted, rtol=1e-6)
        one = ask(what="y", against="x", also=("g",))
        fitted = kept(one, "Keep fitted")
        assert_allclose(kept(one, "Keep residuals"), np.array(Y) - fitted, atol=1e-9)
        assert float((np.array(Y) - fitted).sum()) == pytest.approx(0, abs=1e-8)

    def test_a_kept_column_follows_the_data(self) -> None:
        from theoros.table.formula.evaluate import evaluate

        changed = make_table("t", "tray", x=X, y=[*Y[:-1], 40.0])
        values = evaluate("fitted(y, x)", changed).values.to_numpy()
        line = stats.linregress(X, [*Y[:-1], 40.0])
        assert_allclose(values, line.intercept + line.slope * np.array(X))

    def test_probabilities_as_a_column(self) -> None:
        found = ask(what="won", level="yes", against="x")
        b = found.numbers["coefficients"]
        made = kept(found, "Keep probabilities")
        assert_allclose(made, 1 / (1 + np.exp(-(b[0] + b[1] * np.array(X)))), rtol=1e-9)

    def test_equations_to_be_copied(self) -> None:
        found = ask(what="y", against="x", curve="quadratic")
        made = {one.label: one.copies for one in found.reading.next if one.copies}
        assert made["Copy the equation as LaTeX"].startswith(r"\hat{y} =")
        assert made["Copy it as a spreadsheet formula"].startswith("=")
        assert "A2^2" in made["Copy it as a spreadsheet formula"]


@pytest.mark.parametrize(
    ("text", "words"), [("meanband(2, y, x)", "between 0 and 1"), ("fitted(y)", "fitted(y, x, …)")]
)
def test_formulas_of_a_model_say_what_is_wrong(text, words) -> None:
    from theoros.table.formula import FormulaError
    from theoros.table.formula.evaluate import evaluate

    with pytest.raises(FormulaError, match=re.escape(words)):
        evaluate(text, TABLES["t"])


def test_a_model_in_a_formula_leaves_out_what_is_missing_and_counts_rows() -> None:
    from theoros.table.formula.evaluate import evaluate

    holed = make_table("h", "tray", x=[1.0, 2, 3, 4, None], y=[2.0, 4, 7, None, 9])
    line = stats.linregress([1, 2, 3], [2, 4, 7])
    values = evaluate("fitted(y, x)", holed).values
    assert values.to_list()[4] is None
    assert_allclose(values.to_numpy()[:4], line.intercept + line.slope * np.arange(1.0, 5))
    assert evaluate("residual(y, x)", holed).values.to_list()[3] is None
    assert evaluate("fitted(y, x, 2 * x)", holed).values.null_count() == 5


def test_the_list_of_the_slot_has_every_curve() -> None:
    slot = ModelStatement(table="t", what="y", against="x").slot("curve", {"t": make_table("t", x=[1.0], y=[2.0])})
    assert {option.value: option.label for option in slot.holds.options} == {
        name: curve.label if curve.of_degree is None else "polynomial" for name, curve in curves().items()
    }

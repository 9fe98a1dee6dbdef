"""Sentences against the data they speak of: each kind with a predicate of its own for sign, side and size.

The numbers are worked out here anew, by NumPy and SciPy alone; a sentence that said the contrary
fails.
"""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.formulas.written import to_line
from theoros.answer.parts import Answer, answer_json
from theoros.answer.wording import to_plain
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.forecast.words.assumptions import pattern_of

RNG = np.random.default_rng(20)
X = np.round(np.linspace(1.0, 9.0, 41), 2)


def ask(verb: str, tables, **slots) -> Answer:
    made = {"verb": verb, "table": next(iter(tables)), **slots}
    return answer(statement_from_json(made), tables)


def reading(found: Answer) -> str:
    r = found.reading
    parts = [r.headline, *r.paragraphs, *r.cautions, *(c.text for c in r.assumptions)]
    return to_plain(" ".join(parts))


def working(found: Answer) -> str:
    return " ".join(line if isinstance(line, str) else to_line(line) for step in found.working for line in step.lines)


def numbers(text: str) -> list[float]:
    return [float(n.replace("−", "-")) for n in re.findall(r"−?\d+(?:\.\d+)?", text)]


def figures(found: Answer, key: str) -> list[dict]:
    return answer_json(found)["figures"][key]


# Model: what each curve says, up and down


def _pairs(y) -> dict:
    return {"t": make_table("t", "tray", x=X.tolist(), y=np.asarray(y).tolist())}


@pytest.mark.parametrize("up", [True, False])
@pytest.mark.parametrize(
    ("curve", "law", "said"),
    [
        ("line", lambda s: 20 + s * 2 * X, lambda s: 2.0),
        ("robust", lambda s: 20 + s * 2 * X, lambda s: 2.0),
        ("logarithmic", lambda s: 20 + s * 3 * np.log(X), lambda s: 3 * np.log(2)),
        ("exponential", lambda s: 5 * np.exp(s * 0.1 * X), lambda s: 100 * abs(np.exp(s * 0.1) - 1)),
        ("exponential by logs", lambda s: 5 * np.exp(s * 0.1 * X), lambda s: 100 * abs(np.exp(s * 0.1) - 1)),
        ("power", lambda s: 5 * X ** (s * 0.4), lambda s: 100 * abs(2 ** (s * 0.4) - 1)),
        ("power by logs", lambda s: 5 * X ** (s * 0.4), lambda s: 100 * abs(2 ** (s * 0.4) - 1)),
    ],
)
def test_a_curve_says_how_much_and_which_way(curve: str, law, said, up: bool) -> None:
    sign = 1 if up else -1
    y = law(sign) * (1 + 1e-4 * RNG.standard_normal(X.size))
    text = to_plain(ask("model", _pairs(y), what="y", against="x", curve=curve).reading.headline)
    assert ("higher" in text, "lower" in text) == (up, not up)
    amounts = numbers(text.partition(", the predicted y is ")[2])
    assert amounts[0] == pytest.approx(said(sign), rel=0.05)  # two figures
    doubling = curve in ("logarithmic", "power", "power by logs")
    assert text.startswith("For each doubling of x") is doubling


def test_a_factor_is_that_of_the_step_that_is_named() -> None:
    """Over 400 a step is 10: what 1 multiplies by would be told as 0.2 %."""
    x = np.linspace(10, 410, 41)
    y = 5 * np.exp(0.002 * x) * (1 + 1e-5 * RNG.standard_normal(41))
    tables = {"t": make_table("t", "tray", x=x.tolist(), y=y.tolist())}
    text = to_plain(ask("model", tables, what="y", against="x", curve="exponential").reading.headline)
    step, change = numbers(text)[:2]
    assert step > 1
    assert change == pytest.approx(100 * (np.exp(0.002 * step) - 1), rel=0.05)


@pytest.mark.parametrize(("slope", "word"), [(2.0, "higher"), (-2.0, "lower")])
def test_with_units_it_is_higher_or_lower(slope: float, word: str) -> None:
    table = make_table("t", "tray", x=X.tolist(), y=(40 + slope * X + 0.01 * np.sin(9 * X)).tolist())
    columns = tuple(replace(c, unit="g" if c.name == "y" else "mm") for c in table.columns)
    found = ask("model", {"t": table.with_(columns=columns)}, what="y", against="x")
    assert to_plain(found.reading.headline) == (f"For each extra mm of x, the predicted y is 2.0 g {word}, on average.")


@pytest.mark.parametrize("side", ["lowest", "highest"])
def test_a_parabola_says_where_it_turns(side: str) -> None:
    sign = 1 if side == "lowest" else -1
    y = 10 + sign * (X - 4) ** 2 + 0.001 * RNG.standard_normal(X.size)
    text = ask("model", _pairs(y), what="y", against="x", curve="quadratic").reading.headline
    assert f"The curve is {side}" in text
    assert numbers(text) == pytest.approx([4.0, 10.0], abs=0.05)


def test_curves_towards_a_level_say_level_and_half_way() -> None:
    noise = 0.001 * RNG.standard_normal(X.size)
    for curve, y, half in (("saturation", 12 * X / (3 + X), 3.0), ("logistic growth", 12 / (1 + np.exp(4 - X)), 4.0)):
        text = ask("model", _pairs(y + noise), what="y", against="x", curve=curve).reading.headline
        assert "approaches a level of about" in text
        assert numbers(text) == pytest.approx([12.0, half], rel=0.01), curve


def test_two_pieces_say_both_slopes_in_order() -> None:
    y = np.where(X < 5, 2 * X, 10 - 0.5 * (X - 5)) + 0.001 * RNG.standard_normal(X.size)
    text = ask("model", _pairs(y), what="y", against="x", curve="two pieces").reading.headline
    first, _, then = text.partition(" Above 5")
    assert "higher" in first
    assert "lower" in then
    assert numbers(first)[0] == pytest.approx(5.0, abs=0.05)
    assert numbers(first)[-1] == pytest.approx(2.0, rel=0.02)
    assert numbers(then)[-1] == pytest.approx(0.5, rel=0.02)


@pytest.mark.parametrize("side", ["above", "below"])
def test_an_unusual_row_lies_on_its_own_side(side: str) -> None:
    y = 3 + 2 * X + 0.1 * RNG.standard_normal(X.size)
    y[5] += 5 if side == "above" else -5
    found = ask("model", _pairs(y), what="y", against="x")
    (said,) = [text for text in found.reading.cautions if text.startswith("Row 6 is unusual")]
    assert f"{side} the curve" in said
    line = stats.linregress(X, y)
    assert numbers(said)[1] == pytest.approx(abs(y[5] - line.intercept - line.slope * X[5]), rel=0.01)
    rest = np.arange(X.size) != 5
    then = stats.linregress(X[rest], y[rest]).slope
    assert numbers(said.partition("would be")[2]) == pytest.approx([then, line.slope], abs=0.006)


@pytest.mark.parametrize(("confidence", "head"), [(0.95, "95 %"), (0.975, "97.5 %"), (0.995, "99.5 %")])
def test_an_interval_is_headed_by_its_own_confidence(confidence: float, head: str) -> None:
    y = 3 + 2 * X + RNG.standard_normal(X.size)
    tables = {"t": make_table("t", "tray", x=X.tolist(), y=y.tolist(), z=np.sin(X).tolist())}
    for slots in ({"read": 5.0}, {"also": ["z"], "values": "x 5, z 0.2"}):
        found = ask("model", tables, what="y", against="x", confidence=confidence, **slots)
        headings = {
            table.key: [to_plain(h.label) for h in table.headings if h.key in ("low", "mean_low")]
            for table in found.figures
        }
        assert headings["coefficients"] == [f"{head} from"]
        assert headings["prediction" if "also" in slots else "predictions"] == [f"mean, {head} from"]


def test_the_classes_of_a_cut_off_are_counted_right() -> None:
    won = RNG.random(X.size) < 1 / (1 + np.exp(4 - X))
    tables = {"t": make_table("t", "tray", x=X.tolist(), won=np.where(won, "yes", "no").tolist())}
    found = ask("model", tables, what="won", against="x", level="yes", cut=0.3, read=5.0)
    p = 1 / (1 + np.exp(-np.polyval(found.numbers["coefficients"][::-1], X)))
    yes, no = figures(found, "classes")
    assert (yes["so"], yes["not"]) == (int((won & (p >= 0.3)).sum()), int((won & (p < 0.3)).sum()))
    assert (no["so"], no["not"]) == (int((~won & (p >= 0.3)).sum()), int((~won & (p < 0.3)).sum()))
    assert yes["right"] == pytest.approx(yes["so"] / won.sum())  # sensitivity
    assert no["right"] == pytest.approx(no["not"] / (~won).sum())  # specificity
    assert yes["right"] != pytest.approx(no["right"])


# Describe and Plot


@pytest.mark.parametrize("side", ["right", "left"])
def test_skew_and_the_place_of_the_mean_go_together(side: str) -> None:
    values = np.round(np.random.default_rng(3).exponential(10.0, 200), 1)
    values = values if side == "right" else 100 - values
    above = values.mean() > np.median(values)
    assert above is np.bool_(side == "right")
    text = reading(ask("describe", {"t": make_table("t", "tray", loss=values.tolist())}, what="loss"))
    assert f"skewed to the {side}: the mean lies {'above' if above else 'below'} the median" in text
    groups = make_table("t", "tray", loss=[*values, *values], g=["a"] * 200 + ["b"] * 200)
    text = reading(ask("describe", {"t": groups}, what="loss", by="g"))
    assert f"to the {side} (mean {'above' if above else 'below'} median)" in text


@pytest.mark.parametrize(
    ("ends", "beyond"),
    [
        ({"low": 2.5}, X < 2.5),
        ({"high": 8.0}, X > 8.0),
        ({"bottom": 7.0}, 2 * X < 7.0),
        ({"top": 15.0}, 2 * X > 15.0),
        ({"low": 2.5, "high": 8.0}, (X < 2.5) | (X > 8.0)),
    ],
)
def test_points_beyond_every_end_of_an_axis_are_counted(ends: dict, beyond) -> None:
    found = ask("plot", _pairs(2 * X), what="y", against="x", shape="scatter", **ends)
    assert f"{int(beyond.sum())} points lie outside the axis." in found.picture.notes


# Test and Estimate


@pytest.mark.parametrize("alternative", ["greater", "less", "different"])
@pytest.mark.parametrize("gap", [-1.2, 0.0, 1.2])
def test_a_decision_goes_with_its_p_and_the_claim_with_its_side(alternative: str, gap: float) -> None:
    one, two = RNG.normal(5 + gap, 1, 30), RNG.normal(5, 1, 30)
    table = make_table("t", "tray", loss=[*one, *two], g=["slow"] * 30 + ["quick"] * 30)
    data = {"kind": "two levels", "what": "loss", "by": "g", "first": "slow", "second": "quick"}
    found = ask("test", {"t": table}, data=data, alternative=alternative, alpha=0.05, method="welch t")
    scipy_side = {"different": "two-sided"}.get(alternative, alternative)
    p = stats.ttest_ind(one, two, equal_var=False, alternative=scipy_side).pvalue
    assert found.numbers["welch t"]["p"] == pytest.approx(p, rel=1e-9)
    text = reading(found)
    assert ("There is enough evidence" in text) is bool(p < 0.05)
    assert ("not enough evidence" in text) is bool(p >= 0.05)
    assert {"greater": "greater than", "less": "less than", "different": "different from"}[alternative] in text
    assert ("points against the claim" in text) is bool(
        alternative != "different" and (one.mean() > two.mean()) != (alternative == "greater")
    )


def test_the_rank_sum_of_the_working_is_that_of_the_first_group() -> None:
    one, two = [1.0, 4.0, 7.5, 9.0], [2.0, 3.0, 5.0, 6.0, 8.0, 10.0]
    table = make_table("t", "tray", loss=[*one, *two], g=["slow"] * 4 + ["quick"] * 6)
    data = {"kind": "two levels", "what": "loss", "by": "g", "first": "slow", "second": "quick"}
    found = ask("test", {"t": table}, parameter="median", data=data, method="rank sum")
    w = float(stats.rankdata([*one, *two])[:4].sum())
    u = float(stats.mannwhitneyu(one, two).statistic)
    text = working(found)
    assert f"= {w:g}" in text.partition("sum of the ranks of slow")[2][:12]
    assert re.search(rf"{w:g} − .*4 × 5.*/ ?2 = {u:g}", text)


def test_omega_squared_takes_off_what_chance_gives() -> None:
    """Hays 1963: (SS between − df MS within) / (SS whole + MS within)."""
    groups = [RNG.normal(m, 1, 12) for m in (5, 5.6, 6.4)]
    table = make_table("t", "tray", loss=np.concatenate(groups).tolist(), g=["a"] * 12 + ["b"] * 12 + ["c"] * 12)
    found = ask("test", {"t": table}, data={"kind": "levels", "what": "loss", "by": "g"}, method="anova")
    every = np.concatenate(groups)
    between = sum(12 * (g.mean() - every.mean()) ** 2 for g in groups)
    within = sum(((g - g.mean()) ** 2).sum() for g in groups)
    ms = within / 33
    told = {row["effect"]: row["value"] for row in figures(found, "effects")}
    assert told["ω²"] == pytest.approx((between - 2 * ms) / (between + within + ms))
    assert told["η²"] == pytest.approx(between / (between + within))


@pytest.mark.parametrize(("counted", "low"), [(True, 0.0), (False, None)])
def test_only_what_is_counted_is_kept_from_going_below_zero(counted: bool, low: float | None) -> None:
    values = np.array([0, 0, 0, 0, 0, 0, 0, 9.0] if counted else [0, 0, 0, 0, 0, 0, 0, 8.7])
    table = make_table("t", "leaf", mites=values.tolist())
    data = {"kind": "one column", "what": "mites"}
    found = ask("estimate", {"t": table}, parameter="mean", data=data, method="one-sample t")
    expected = stats.t.interval(0.95, 7, values.mean(), stats.sem(values))
    assert expected[0] < 0
    assert found.numbers["one-sample t"]["low"] == pytest.approx(expected[0] if low is None else low)
    assert found.numbers["one-sample t"]["high"] == pytest.approx(expected[1])
    assert ("kept to 0" in reading(found)) is counted


def test_where_no_way_fits_none_is_suggested_and_nothing_is_promised() -> None:
    """A total has one way, which a very skewed sample does not fit."""
    values = [*[1.0] * 9, *[2.0] * 5, 400.0]
    data = {"kind": "one column", "what": "mass"}
    found = ask(
        "estimate", {"t": make_table("t", "leaf", mass=values)}, parameter="total", data=data, method="total t",
        population=900,
    )  # fmt: skip
    text = reading(found)
    assert "fails, and every method here needs it: the true confidence is lower than it looks." in text
    assert "see what to do under Next" not in text
    (row,) = next(table for table in found.figures if table.key == "methods").rows
    assert "fail" in row.cells[-1].text
    assert "suggested" not in row.cells[-1].text


def _evaluated(line: str) -> tuple[float, float]:
    """Both sides of the last equation of a line of a working, worked out."""
    left, _, right = line.rpartition(" = ")
    text = left.rpartition(" = ")[2]
    text = text.replace("−", "-").replace("×", "*").replace("²", "**2").replace("^2", "**2").replace("\u202f", "")
    text = re.sub(r"√\(", "np.sqrt(", text)
    text = re.sub(r"√(\d+(?:\.\d+)?)", r"np.sqrt(\1)", text)
    return float(eval(text, {"np": np})), numbers(right)[0]


@pytest.mark.parametrize("method", ["welch t", "pooled t", "one-sample t", "paired t"])
def test_a_statistic_with_its_numbers_put_in_comes_to_what_is_said(method: str) -> None:
    one, two = np.round(RNG.normal(5.4, 1.1, 14), 2), np.round(RNG.normal(4.6, 2.3, 14), 2)
    tables = {"t": make_table("t", "tray", a=one.tolist(), b=two.tolist())}
    data = {"kind": {"one-sample t": "one column", "paired t": "pairs"}.get(method, "two columns"), "what": "a"}
    if data["kind"] != "one column":
        data["other"] = "b"
    found = ask("test", tables, data=data, method=method, null=4.0 if method == "one-sample t" else 0.0)
    expected = {
        "welch t": lambda: stats.ttest_ind(one, two, equal_var=False),
        "pooled t": lambda: stats.ttest_ind(one, two),
        "one-sample t": lambda: stats.ttest_1samp(one, 4.0),
        "paired t": lambda: stats.ttest_rel(one, two),
    }[method]()
    (line,) = [
        text
        for step in found.working
        for text in (line if isinstance(line, str) else to_line(line) for line in step.lines)
        if re.match(r"t = \(?−?\d", text)
    ]
    put_in, said = _evaluated(line)
    assert (put_in, said) == pytest.approx((expected.statistic, expected.statistic), rel=2e-3)
    letters = " ".join(to_line(x) for s in found.working for x in s.lines if not isinstance(x, str))
    if method == "welch t":
        assert re.search(r"s_?b\S*/n_?b|s.b.?\^?2/n.b", letters.replace(" ", "")) or "n_b" in letters
    low, high = (
        found.reading.paragraphs[-1].split("runs from")[1].split(" to ")[:2]
        if "runs from" in str(found.reading.paragraphs)
        else ("0", "0")
    )
    ends = expected.confidence_interval(0.95)
    assert (numbers(low)[0], numbers(high)[0]) == pytest.approx(tuple(ends), abs=0.01)
    estimated = ask("estimate", tables, data=data, method=method).reading.headline
    assert low.split()[-1] in estimated  # with the same digits
    assert high.split(":")[0].replace("runs from", "").strip() in estimated


# Probability and Simulate


@pytest.mark.parametrize(("rate", "holds"), [(7.0, False), (9.9, False), (10.0, True), (14.0, True)])
def test_the_rule_of_a_normal_curve_for_poisson_is_checked_as_it_is_said(rate: float, holds: bool) -> None:
    situation = {"kind": "Poisson", "rate": rate}
    from theoros.verbs.probability.data import situations

    kind = next(kind for kind in situations() if kind.lower() == "poisson")
    made = {"verb": "probability", "situation": {**situation, "kind": kind}, "parts": ["at most 5"]}
    found = answer(statement_from_json(made), {})
    table = next(table for table in found.figures if any("rule" in h.label.lower() for h in table.headings))
    text = " ".join(cell.text for row in table.rows for cell in row.cells)
    assert "λ of at least 10" in text
    tones = {cell.tone for row in table.rows for cell in row.cells if cell.tone}
    assert tones == ({"good"} if holds else {"warn"})


@pytest.mark.parametrize(("asks", "side"), [("at most", 1), ("at least", -1)])
def test_the_line_at_a_count_leaves_its_bar_within_the_tail(asks: str, side: int) -> None:
    """At most 6 shades the bar of 6, so the line stands above it; at least 6 as well, so below."""
    model = {"kind": "share", "n": 20, "p": 0.4}
    made = {"verb": "simulate", "model": model, "ask": asks, "value": 6.0, "replicates": 200, "seed": 3}
    found = answer(statement_from_json(made), {})
    (rule,) = [rule for rule in found.picture.frames[-1].rules if rule.slot == "value"]
    assert np.sign(rule.x - 6.0) == side
    draws = found.numbers
    assert draws is not None
    words = "at most that" if asks == "at most" else "at least that"
    assert words in rule.label


# Forecast


def _series(confidence: float) -> Answer:
    from tests.verbs.test_forecast import dated, months, plain

    return ask("forecast", {"t": dated(months(72), plain())}, what="guests", confidence=confidence)


def test_a_narrow_band_is_not_told_finer() -> None:
    wide, narrow = _series(0.95), _series(0.5)
    first = wide.numbers["low"][0], wide.numbers["high"][0]
    second = narrow.numbers["low"][0], narrow.numbers["high"][0]
    assert first[0] < second[0] < second[1] < first[1]
    about = [re.search(r"January 2024 is ([\d ]+)", reading(found))[1] for found in (wide, narrow)]
    assert about[0] == about[1]  # the same forecast, as uncertain as before
    assert "with a 95\u00a0% prediction interval from" in wide.reading.headline
    assert "with a 50\u00a0% prediction interval from" in narrow.reading.headline


def test_figures_are_no_finer_for_a_narrow_band(demo) -> None:
    """The demo's visitors: 790 at 95 %, and not 794 at 50 %."""
    text = {}
    for confidence in (0.95, 0.5):
        made = {"verb": "forecast", "table": "visits", "what": "visitors", "confidence": confidence}
        found = answer(statement_from_json(made), demo.by_name)
        text[confidence] = re.search(r"is (\d+) visitors", to_plain(found.reading.headline))[1]
    assert text[0.5] == text[0.95]
    assert text[0.5].endswith("0")


@pytest.mark.parametrize(
    ("method", "parts"), [("naive", "level with seasons"), ("naive", "level"), ("line", "trend with seasons")]
)
def test_a_forecast_is_worked_out_from_what_it_says(method: str, parts: str) -> None:
    from tests.verbs.test_forecast import dated, months, plain

    values = plain()
    found = ask("forecast", {"t": dated(months(72), values)}, what="guests", method=method, parts=parts, read=19844.0)
    (step,) = [one for one in found.working if one.title.startswith("The forecast in")]
    lines = [line if isinstance(line, str) else to_line(line) for line in step.lines]
    assert step.title == "The forecast in May 2024"
    ahead = 4  # from January 2024, the first to come
    expected = found.numbers["forecast"][ahead]
    if method == "naive":
        place = 71 if parts == "level" else 72 - 12 + ahead % 12
        (line,) = [text for text in lines if "is repeated" in text]
        named = "December 2023" if parts == "level" else "May 2023"  # the same month of the last year
        assert f"value of {named} is repeated" in line
        assert f"{values[place]:g}" in line.replace("\u202f", "").replace(".00", "")
        assert expected == values[place]
    else:
        put_in, said = _evaluated(lines[-1])
        assert (put_in, said) == pytest.approx((expected, expected), rel=2e-3)


def test_the_pattern_of_errors_counts_what_was_fitted() -> None:
    """Ljung and Box (1978) by hand: the chi-square has a degree less for each constant."""
    errors = np.random.default_rng(8).standard_normal(120)
    n, lags = errors.size, 8
    centred = errors - errors.mean()
    r = np.array([(centred[k:] * centred[: n - k]).sum() for k in range(1, lags + 1)]) / (centred**2).sum()
    q = n * (n + 2) * (r**2 / (n - np.arange(1, lags + 1))).sum()
    for fitted in (0, 2, 3):
        assert pattern_of(errors, 1, fitted) == pytest.approx(stats.chi2.sf(q, lags - fitted), rel=0.03)


@pytest.mark.parametrize("slope", [-2.0, 2.0])
def test_a_trend_and_its_seasons_are_said_by_their_sides(slope: float) -> None:
    from tests.verbs.test_forecast import SEASON, dated, months, plain

    values = plain(slope=slope)
    values[40] += 90
    text = reading(ask("forecast", {"t": dated(months(72), values)}, what="guests"))
    assert ("The trend of guests rises" in text, "The trend of guests falls" in text) == (slope > 0, slope < 0)
    assert numbers(text.partition("by about")[2])[0] == pytest.approx(24, abs=2)
    names = [
        "January",
        "February",
        "March",
        "April",
        "May",
        "June",
        "July",
        "August",
        "September",
        "October",
        "November",
        "December",
    ]
    assert f"{names[int(np.argmax(SEASON))]} is highest, about" in text
    assert f"{names[int(np.argmin(SEASON))]} is lowest, about" in text
    assert re.search(r"May 2021 \(\d+ above\)", text)

"""The verb Forecast: figures against another library, the words, what cannot be told, its laws."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import polars as pl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import Answer, answer_json
from theoros.study.entries import Study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.answering import answer, drafts, drawn_table
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.forecast.methods.fits import fits_of
from theoros.verbs.forecast.methods.method import Candidate
from theoros.verbs.forecast.series.reading_series import series_of
from theoros.verbs.forecast.series.series import filled
from theoros.verbs.forecast.statement import ForecastStatement

RNG = np.random.default_rng(17)
SEASON = np.array([-40.0, -30, -10, 5, 30, 45, 50, 40, 10, -20, -35, -45])


def months(n: int, first: int = 2018 * 12) -> list[date]:
    return [date((first + k) // 12, (first + k) % 12 + 1, 1) for k in range(n)]


def dated(days: list[date], values, name: str = "guests", unit: str = "") -> Table:
    columns = (Column("when", Kind.DATE), Column(name, Kind.NUMBER, unit=unit))
    frame = pl.DataFrame(
        {
            "when": pl.Series(days, dtype=pl.Date),
            name: pl.Series([None if np.isnan(v) else float(v) for v in values], dtype=pl.Float64),
        }
    )
    return Table("t", columns, frame)


def plain(n: int = 72, noise: float = 8.0, slope: float = 2.0) -> np.ndarray:
    """A straight trend with seasons, whole numbers."""
    rng = np.random.default_rng(n)
    return np.round(300 + slope * np.arange(n) + np.resize(SEASON, n) + rng.normal(0, noise, n))


def ask(table: Table, **slots) -> Answer:
    made = {"verb": "forecast", "table": "t", "what": table.columns[-1].name, **slots}
    return answer(statement_from_json(made), {"t": table})


def said(found: Answer) -> str:
    reading = found.reading
    parts = [reading.headline, *reading.paragraphs, *reading.cautions]
    parts += [condition.text for condition in reading.assumptions]
    return " ".join(parts).replace("\u00a0", " ")


def figures(found: Answer, key: str) -> list[dict]:
    return answer_json(found)["figures"][key]


@pytest.fixture(scope="module")
def found(demo: Study) -> Answer:
    made = {"verb": "forecast", "table": "visits", "what": "visitors"}
    return answer(statement_from_json(made), demo.by_name)


class TestTheDemo:
    def test_the_seasonal_effects_of_another_library(self, found: Answer) -> None:
        """statsmodels 0.15, seasonal_decompose(period=12) of the visitors: January and July."""
        effects = {row["season"]: row["effect"] for row in figures(found, "effects")}
        assert effects["January"] == pytest.approx(-155.38628472222237, rel=1e-9)
        assert effects["July"] == pytest.approx(253.75434027777774, rel=1e-9)

    def test_the_line_of_another_library(self, demo: Study) -> None:
        """statsmodels 0.15, OLS on time and indicators of months, the last 12 held back."""
        made = {"verb": "forecast", "table": "visits", "what": "visitors", "method": "line", "holdout": 12}
        rows = figures(answer(statement_from_json(made), demo.by_name), "forecasts")
        assert rows[0]["when"] == "January 2025"
        assert (rows[0]["forecast"], rows[0]["low"], rows[0]["high"]) == pytest.approx(
            (774.1517857142848, 702.590513043862, 845.7130583847076)
        )

    def test_what_is_said(self, found: Answer) -> None:
        text = said(found)
        assert found.reading.headline == (
            "The forecast for January 2026 is 790 visitors, with a 95\u00a0% prediction interval from 720 to 870."
        )
        assert "The trend of visitors rises by about 35 a year" in text
        assert "July is highest, about 254 above the trend, and January is lowest, about 155 below it." in text
        assert (
            "11 of the 12 months held back are inside their prediction interval; the mean error is 40 visitors" in text
        )

    def test_the_working_has_the_numbers_put_in(self, found: Answer) -> None:
        lines = [line for step in found.working for line in step.to_lines()]
        assert any("/ 12 = 788.50" in line for line in lines)
        titles = [step.title for step in found.working]
        assert titles[0] == "The trend by a moving average"
        assert "Smoothing constants" in titles
        assert "The forecast in January 2026" in titles


# what the rows are


def test_the_same_series_by_any_times() -> None:
    """Dates, texts of months, and a year beside a month; the rows in any order."""
    values = plain(48)
    days = months(48)
    wanted = ask(dated(days, values)).numbers["forecast"]
    texts = make_table("t", "row", when=[f"{d.year}M{d.month:02}" for d in days], guests=values.tolist())
    assert ask(texts).numbers["forecast"] == pytest.approx(wanted)
    two = make_table(
        "t", "row", year=[float(d.year) for d in days], month=[float(d.month) for d in days], guests=values.tolist()
    )
    assert ask(two).numbers["forecast"] == pytest.approx(wanted)
    order = np.random.default_rng(1).permutation(48)
    mixed = dated([days[k] for k in order], values[order])
    found = ask(mixed)
    assert found.numbers["forecast"] == pytest.approx(wanted)
    assert "The rows were sorted by when." in said(found)


@pytest.mark.parametrize(
    ("first", "step", "cycle", "next_one"),
    [
        ([f"{2010 + k // 4}-Q{k % 4 + 1}" for k in range(40)], "quarter", 4, "2020 Q1"),
        ([f"{1980 + k}" for k in range(40)], "year", 1, "2020"),
        ([f"week {k + 1}" for k in range(40)], "row", 1, "41"),
    ],
)
def test_steps_and_cycles_are_worked_out(first, step: str, cycle: int, next_one: str) -> None:
    values = np.round(RNG.normal(50, 3, 40), 1).tolist()
    found = ask(make_table("t", "row", when=first, guests=values), holdout=0)
    assert (found.numbers["step"], found.numbers["cycle"]) == (step, cycle)
    assert figures(found, "forecasts")[0]["when"] == next_one


def test_gaps_are_named_and_filled_or_left() -> None:
    values = plain(60, 0.0)
    values[[7, 30]] = np.nan
    found = ask(dated(months(60), values))
    assert (
        "August 2018 and July 2020 have no value: they were interpolated between the neighbours, with the season "
        "put back." in said(found)
    )
    left = ask(dated(months(60), values), gaps="left")
    assert "they were left open" in said(left)
    assert left.numbers["forecast"] == pytest.approx(found.numbers["forecast"], rel=0.02)
    for method in ("naive", "line", "arima", "best"):
        parts = {"line": "trend with seasons", "naive": "level with seasons"}.get(method, "trend")
        assert ask(dated(months(60), values), gaps="left", method=method, parts=parts).problem is None


def test_a_season_is_put_back_into_a_gap() -> None:
    whole = 300 + 2.0 * np.arange(60) + np.resize(SEASON, 60)
    holes = whole.copy()
    holes[[7, 30, 31]] = np.nan
    assert filled(holes, 12) == pytest.approx(whole, abs=4)
    assert filled(np.array([1.0, np.nan, 3.0]), 1).tolist() == [1, 2, 3]


def test_doubled_times_are_asked_about() -> None:
    days, values = months(48), plain(48)
    days[10] = days[9]
    found = ask(dated(days, values))
    assert found.problem is not None
    assert found.problem.sentence.startswith("October 2018 has more than one row.")
    for _, slot, value in found.problem.offers:
        again = ask(dated(days, values), **{slot: value})
        assert again.problem is None
        assert f"1 month has more than one row; its {value} is used." in said(again)
    table = dated(days, values)
    s = ForecastStatement(table="t", what="guests", joined="mean")
    assert series_of(s, {"t": table}).raw[9] == pytest.approx(values[9:11].mean())
    assert series_of(replace(s, joined="sum"), {"t": table}).raw[9] == values[9:11].sum()


def test_days_are_joined_into_months() -> None:
    days = [date(2020, 1, 1) + timedelta(days=k) for k in range(1000)]
    values = np.arange(1000.0)
    s = ForecastStatement(table="t", what="guests", step="month", joined="mean")
    series = series_of(s, {"t": dated(days, values)})
    assert (series.n, series.raw[0], series.raw[1]) == (33, 15.0, 45.0)
    whole = series_of(replace(s, joined="sum"), {"t": dated(days[:-5], values[:-5])})
    assert (whole.n, whole.raw[0]) == (32, 31 * 15.0)
    assert whole.notes == (
        "The value of each month is the sum of its rows.",
        "September 2022 is left out: it has 21 rows, where others have 31.",
    )
    mended = ForecastStatement(table="t", what="guests").with_slot("step", "month", {"t": dated(days, values)})
    assert mended.statement.joined == "mean"


# bad input


def test_what_cannot_be_forecast_gets_a_sentence_and_a_way_on() -> None:
    days, values = months(48), plain(48)
    rng = np.random.default_rng(2)
    odd = [date(2020, 1, 1) + timedelta(days=int(d)) for d in np.cumsum(rng.integers(1, 40, 50))]
    zeros = values.copy()
    zeros[3] = 0
    cases = (
        (dated(days, np.full(48, 7.0)), {}, "are equal"),
        (dated(days[:5], values[:5]), {}, "at least 6 values"),
        (dated(days[:20], values[:20]), {"cycle": 12}, "needs at least two of them"),
        (dated(odd, values[:1].repeat(50) + np.arange(50)), {}, "are irregular"),
        (dated(days, zeros), {"seasons": "multiplied"}, "need values above 0"),
        (dated(days, values), {"holdout": 46}, "out of range"),
        (dated(days, values), {"holdout": 45}, "too few values for a forecast"),
        (dated(days, values), {"holdout": 30}, "too few values for it"),
        (dated(days, values), {"method": "arima", "orders": "1 x"}, "three whole numbers"),
        (dated(days, values), {"low": 20000.0, "high": 10000.0}, "end before it begins"),
        (dated(days, values), {"when": "nowhere"}, "There is no column “nowhere”"),
        (dated(days, values), {"step": "day"}, "It cannot be “day” here"),
    )
    for table, slots, text in cases:
        found = ask(table, **slots)
        assert found.problem is not None, slots
        assert text in found.problem.sentence, found.problem.sentence
        made = {"verb": "forecast", "table": "t", "what": "guests", **slots}
        s, tables = statement_from_json(made), {"t": table}
        for _, slot, value in found.problem.offers:
            assert answer(s.with_slot(slot, value, tables).statement, tables).problem is None
    few = ask(dated(days[:20], values[:20]))
    assert "too few values for a cycle of 12 months" in said(few)
    words = make_table("t", "row", when=[f"x{k}" for k in range(30)], guests=values[:30].tolist())
    assert "can be read as a time" in str(ask(words, when="when").problem)
    assert "No column has times, so the order of the rows is used as time" in said(ask(words))


@pytest.mark.parametrize(
    ("slots", "text"),
    [
        ({"steps": 0}, "steps cannot be 0. Type a whole number from 1"),
        ({"holdout": -1}, "holdout cannot be -1. Type a whole number from 0"),
        ({"cycle": 5000}, "cycle cannot be 5000. Type a whole number from 1 to 1000"),
        ({"method": "magic"}, "method cannot be “magic”"),
        ({"shown": ["x"]}, ""),
    ],
)
def test_statements_that_are_none(slots, text: str) -> None:
    made = {"verb": "forecast", "table": "t", "what": "guests", **slots}
    if not text:
        assert answer(statement_from_json(made), {"t": dated(months(40), plain(40))}).problem
        return
    with pytest.raises(StatementError, match=text):
        statement_from_json(made)


# ways and bands


def test_each_way_is_chosen_as_a_whole() -> None:
    table = dated(months(72), plain())
    s = ForecastStatement(table="t", what="guests")
    tables = {"t": table}
    fits = fits_of(s, tables)
    for candidate in fits.candidates():
        made = s.with_slot("candidate", candidate.key, tables).statement
        assert fits.chosen(made) == candidate
        assert answer(made, tables).problem is None


def test_ways_stand_side_by_side_and_one_is_suggested() -> None:
    found = ask(dated(months(72), plain()))
    rows = figures(found, "methods")
    assert len(rows) >= 15
    assert [row["method"] for row in rows if row["note"]] == ["line: trend with seasons, added"]
    sizes = [row["absolute"] for row in rows]
    assert sizes == sorted(sizes)
    best = ask(dated(months(72), plain()), method="best")
    assert best.numbers["forecast"] == pytest.approx(ask(dated(months(72), plain()), method="line").numbers["forecast"])


def test_a_simple_way_that_came_closer_is_told(found: Answer) -> None:
    """The last cycle again is off by 28.1 over what was held back, and smoothing by 36.4."""
    assert "For the values held back, the last cycle repeated had a smaller error." in said(found)
    near = ask(dated(months(72), plain()))
    assert "had a smaller error" not in said(near)


def test_seasons_that_grow_are_multiplied() -> None:
    rng = np.random.default_rng(3)
    at = np.arange(72)
    values = np.round((200 + 4 * at) * (1 + np.resize(SEASON, 72) / 120) * np.exp(rng.normal(0, 0.03, 72)))
    found = ask(dated(months(72), values))
    assert "seasons multiplied" in said(found)
    factors = [row["effect"] for row in figures(found, "effects")]
    assert np.mean(factors) == pytest.approx(1)
    assert min(found.numbers["low"]) > 0


def test_a_band_of_counts_ends_at_zero() -> None:
    rng = np.random.default_rng(4)
    counts = rng.poisson(2 + 1.5 * (1 + np.sin(np.arange(96) * np.pi / 6))).astype(float)
    table = dated(months(96), counts, "breakages")
    found = ask(table)
    assert min(found.numbers["low"]) >= 0
    assert "can breakages be below 0?" in said(found)
    assert min(ask(table, below_zero="yes").numbers["low"]) < 0
    never = ask(table, below_zero="no")
    assert "cannot be below 0" in said(never)
    # what the column says counts where the statement says nothing
    told = replace(table, columns=(table.columns[0], replace(table.columns[1], below_zero="yes")))
    assert min(ask(told).numbers["low"]) < 0
    statement = ForecastStatement(table="t", what="breakages")
    column = statement.told_column("below_zero", "no", {"t": table})
    assert column is not None
    assert column.below_zero == "no"
    assert statement.told_column("steps", 3, {"t": table}) is None


def test_measures_near_zero_are_asked_about_and_balances_are_not() -> None:
    rng = np.random.default_rng(5)
    rain = np.abs(np.round(rng.normal(1, 0.8, 60), 2))
    found = ask(dated(months(60), rain, "rain", "mm"))
    assert "can rain be below 0? The prediction interval reaches below 0" in said(found)
    balance = np.round(np.cumsum(rng.normal(0, 3, 60)), 1) - 2
    assert "below 0" not in said(ask(dated(months(60), balance, "balance")))


def test_bands_by_simulation_are_the_same_for_a_seed() -> None:
    table = dated(months(72), plain())
    one, same, other = (ask(table, bands="simulation", seed=seed).numbers["low"] for seed in (1, 1, 2))
    assert one == same != other
    assert one == pytest.approx(ask(table).numbers["low"], rel=0.05)


def test_held_back_is_as_if_it_had_not_come() -> None:
    values = plain(72)
    held = figures(ask(dated(months(72), values), holdout=12), "forecasts")[:12]
    short = ask(dated(months(60), values[:60]), holdout=0, steps=12).numbers["forecast"]
    assert [row["forecast"] for row in held] == pytest.approx(short)
    assert [row["came"] for row in held] == values[60:].tolist()
    for row in held:
        assert row["inside"] == ("inside" if row["low"] <= row["came"] <= row["high"] else "outside")
        assert row["off"] == pytest.approx(row["came"] - row["forecast"])


# words


@pytest.mark.parametrize(
    ("values", "slots", "text"),
    [
        (
            np.round(800 + np.where(np.arange(40) < 20, 15.0 * np.arange(40), 600 - 15.0 * np.arange(40))),
            {},
            "rises to about 1",
        ),
        (np.round(800 + np.random.default_rng(1).normal(0, 60, 40)), {}, "hardly changes"),
        (2.0 + 0.05 * np.arange(40), {"method": "line", "parts": "trend"}, "all values follow it exactly"),
        (plain(40), {"steps": 100}, "This is far ahead"),
    ],
)
def test_sentences_about_years(values, slots, text: str) -> None:
    years = [f"{1980 + k}" for k in range(40)]
    found = ask(make_table("t", "row", when=years, rain=np.round(values, 2).tolist()), **slots)
    assert text in said(found)


def test_a_series_without_errors_has_no_band_in_words() -> None:
    values = 100 + 3.0 * np.arange(40) + np.resize(SEASON, 40)
    headline = ask(dated(months(40), values)).reading.headline
    assert headline == ("The forecast for May 2021 is 250 guests. All values so far follow trend and season exactly.")


def test_what_stands_out_is_named_with_its_reason() -> None:
    values = plain(72)
    values[40] += 300
    found = ask(dated(months(72), values), decomposition="local regression", reason="a feast.")
    assert "May 2021 (" in said(found)
    assert "differs strongly from trend and season. Your reason: a feast." in said(found)
    assert "What happened then?" in said(ask(dated(months(72), values), decomposition="local regression"))


def test_seasons_that_are_none_are_not_told() -> None:
    rng = np.random.default_rng(8)
    found = ask(dated(months(72), np.round(500 + rng.normal(0, 20, 72))))
    assert "These data do not show seasons" in said(found)


def test_any_month_is_read() -> None:
    table = dated(months(72), plain())
    day = (date(2020, 3, 1) - date(1970, 1, 1)).days
    found = ask(table, read=float(day))
    assert "March 2020: " in said(found)
    assert ", trend " in said(found)
    later = ask(table, read=float((date(2024, 3, 1) - date(1970, 1, 1)).days))
    assert later.reading.headline.startswith("The forecast for March 2024 is ")
    assert [row.get("chosen") for row in figures(later, "forecasts")].count(True) == 1


# what is kept


def test_the_parts_become_a_table() -> None:
    table = dated(months(72), plain())
    s = ForecastStatement(table="t", what="guests")
    made, _ = drawn_table(s, "parts", {"t": table})
    frame = made.frame
    assert made.rows == 72
    total = frame["trend"] + frame["season"] + frame["left over"]
    there = total.is_not_null()
    assert total.filter(there).to_numpy() == pytest.approx(frame["guests"].filter(there).to_numpy())
    assert "smoothed" in frame.columns


def test_the_trend_is_kept_as_a_live_column() -> None:
    from theoros.verbs.arrange.answering import arranged

    table = dated(months(72), plain())
    found = ask(table)
    link = next(link for link in found.reading.next if link.label == "Keep the trend as a column")
    made = arranged(link.statement, {"t": table}).table
    assert made.numbers("trend of guests")[6:66] == pytest.approx(found.numbers["trend"][6:66])


# laws


def test_a_statement_says_itself_whatever_it_holds() -> None:
    for slots in ({}, {"what": None}, {"what": "nothing"}, {"when": "guests"}, {"cycle": 900}):
        s = ForecastStatement(table="t", **{"what": "guests", **slots})
        assert s.text({"t": dated(months(40), plain(40))}).startswith("Forecast ")
        assert s.text({}).startswith("Forecast ")
        assert statement_from_json(json.loads(json.dumps(s.to_json()))) == s


@settings(max_examples=25, deadline=None)
@given(
    st.integers(20, 60),
    st.sampled_from([0, 3, 12]),
    st.integers(1, 15),
    st.sampled_from(["smoothing", "best", "line", "naive", "arima"]),
    st.integers(0, 2**31),
    st.sampled_from([1.0, 1e-6, 1e9]),
)
def test_any_series_gets_an_answer_with_an_ordered_band(
    n: int, held: int, steps: int, method: str, seed: int, size: float
) -> None:
    rng = np.random.default_rng(seed)
    values = rng.normal(rng.choice([0, 20]), 3, n) * size
    parts = {"line": "trend", "naive": "level"}.get(method, "damped trend")
    found = ask(dated(months(n), values), holdout=held, steps=steps, method=method, parts=parts)
    if found.problem is not None:
        assert "too few" in found.problem.sentence
        return
    low, middle, high = (np.array(found.numbers[name]) for name in ("low", "forecast", "high"))
    assert middle.size == steps
    assert (low <= middle + 1e-9 * size).all()
    assert (middle <= high + 1e-9 * size).all()


def test_the_parts_are_there_first() -> None:
    s = ForecastStatement(table="t", what="guests")
    first, *rest = drafts(s, {"t": dated(months(50), plain(50))})
    assert first.answer is not None
    assert first.answer.picture is not None
    assert not first.answer.figures
    assert rest[0].answer is not None
    assert rest[-1].done == 1
    assert Candidate("arima").label == "seasonal ARIMA"


class TestFewAndHeldBack:
    """What two cycles cannot tell, and what is held back must not tell."""

    def test_seasons_measured_once_are_not_told(self) -> None:
        rng = np.random.default_rng(3)
        for n in (24, 25, 30, 35):
            for _ in range(4):
                text = said(ask(dated(months(n), np.round(rng.normal(50, 5, n), 1)), holdout=0))
                assert "too few to separate a trend from seasons" in text
                assert "strength of" not in text
                assert "differ strongly" not in text
                assert "above the trend" not in text

    def test_noise_without_trend_and_seasons_is_forecast_by_its_mean(self) -> None:
        rng, means = np.random.default_rng(4), 0
        for _ in range(10):
            table = dated(months(60), np.round(rng.normal(50, 5, 60), 1))
            means += "by the mean of all values" in said(ask(table, method="best"))
        assert means >= 6

    def test_the_mean_against_its_formula(self) -> None:
        """x̄ ± t* s √(1 + 1/n), by SciPy."""
        values = np.round(np.random.default_rng(5).normal(50, 5, 40), 1)
        found = ask(dated(months(40), values), method="mean", holdout=0, steps=3)
        reach = stats.t(39).ppf(0.975) * values.std(ddof=1) * math.sqrt(1 + 1 / 40)
        row = answer_json(found)["figures"]["forecasts"][0]
        numbers = [value for value in row.values() if isinstance(value, float)]
        for wanted in (values.mean(), values.mean() - reach, values.mean() + reach):
            assert any(abs(one - wanted) < 1e-9 for one in numbers)

    @pytest.mark.parametrize("method", ["naive", "line", "smoothing", "mean"])
    def test_a_gap_is_filled_without_what_is_held_back(self, method: str) -> None:
        values = plain(60)
        values[47] = np.nan
        moved = values.copy()
        moved[48:] += 50
        made = []
        for v in (values, moved):
            table = dated(months(60), v)
            s = make("forecast", table="t", what=table.columns[1].name, method=method, holdout=12)
            fits = fits_of(s, {"t": table})
            candidate = fits.chosen(s)
            made.append(fits.fit(s, candidate, 12, 12).result.expected)
        np.testing.assert_allclose(made[0], made[1], rtol=1e-12)

    def test_seasons_do_not_multiply_because_of_what_is_held_back(self) -> None:
        values = plain(72)
        moved = values.copy()
        moved[60:] = 100 + (values[60:] - values[60:].mean()) * 40
        for v in (values, moved):
            table = dated(months(72), np.abs(v) + 1)
            s = make("forecast", table="t", what=table.columns[1].name, holdout=12)
            assert fits_of(s, {"t": table}).suggests_products(s) is False

    def test_seasons_of_three_years_are_found_by_default(self) -> None:
        found = 0
        for seed in range(8):
            rng = np.random.default_rng([9, seed])
            season = np.resize(rng.normal(0, 10, 12), 36)
            text = said(ask(dated(months(36), np.round(100 + season + rng.normal(0, 4, 36), 1)), method="best"))
            found += "seasons" in text.split("Forecast by ")[1].split("from all")[0]
        assert found >= 6

    def test_no_percentage_of_values_around_nought(self) -> None:
        text = said(ask(dated(months(60), np.round(3 * np.sin(np.arange(60)), 2)), holdout=12))
        assert "mean error is" in text
        assert "\u00a0%" not in text.split("mean error is")[1].split(".")[0].split("(")[0][:40]

"""When rows were: dates, texts, a year and a month, and the order of the rows."""

from __future__ import annotations

from datetime import date, timedelta

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.study.entries import Study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.table.times import CYCLES, NOWHERE, by_rows, find_times, times_of


def dated(days: list[date | None]) -> Table:
    return Table("t", (Column("when", Kind.DATE),), pl.DataFrame({"when": pl.Series(days, dtype=pl.Date)}))


@pytest.mark.parametrize(
    ("texts", "step", "first", "last"),
    [
        (["2017M06", "2017M07", "2017M08"], "month", "June 2017", "August 2017"),
        (["2017-11", "2017-12", "2018-01"], "month", "November 2017", "January 2018"),
        (["06/2017", "07/2017", "08/2017"], "month", "June 2017", "August 2017"),
        (["Jan 2020", "Feb 2020", "Mar 2020"], "month", "January 2020", "March 2020"),
        (["2020 January", "2020 Sept", "2020 Oct."], "month", "January 2020", "October 2020"),
        (["2017-Q3", "2017-Q4", "2018-Q1"], "quarter", "the third quarter of 2017", "the first quarter of 2018"),
        (["Q3 2017", "Q4 2017", "Q1 2018"], "quarter", "the third quarter of 2017", "the first quarter of 2018"),
        # ISO 8601: the first week of 2020 begins on 30 December 2019
        (["2020W01", "2020W02", "2020-W03"], "week", "the week of 30 December 2019", "the week of 13 January 2020"),
        (["week 14", "week 15", "Week 16"], "row", "row 14", "row 16"),
        (["2019", "2020", "2021"], "year", "2019", "2021"),
    ],
)
def test_texts_that_are_times(texts: list[str], step: str, first: str, last: str) -> None:
    found = times_of(make_table(when=texts), "when")
    assert found is not None
    assert (found.step, found.named(int(found.places[0])), found.named(int(found.places[-1]))) == (step, first, last)
    assert not found.doubled.size


@pytest.mark.parametrize("texts", [["2017M13"], ["2017-Q5"], ["Foo 2020"], ["2020W60"], ["a", "2017M06"]])
def test_texts_that_are_none(texts: list[str]) -> None:
    assert times_of(make_table(when=texts), "when") is None


@pytest.mark.parametrize(
    ("days", "step"),
    [
        ([date(2026, 1, d) for d in (1, 2, 3, 5)], "day"),
        ([date(2026, 1, 5) + timedelta(weeks=k) for k in range(5)], "week"),
        ([date(2026, m, 1) for m in (1, 2, 3, 5)], "month"),
        ([date(2026, 1, 31), date(2026, 2, 28), date(2026, 3, 31), date(2026, 4, 30)], "month"),
        ([date(2025, 10, 1), date(2026, 1, 1), date(2026, 4, 1)], "quarter"),
        ([date(2024, 6, 30), date(2025, 6, 30), date(2026, 6, 30)], "year"),
        ([date(1, 1, 1), date(9999, 12, 31)], "day"),
    ],
)
def test_the_step_of_dates(days: list[date], step: str) -> None:
    found = times_of(dated([*days, None]), "when")
    assert found is not None
    assert found.step == step
    assert found.places[-1] == NOWHERE
    assert found.there.size == len(days)


def test_gaps_doubled_times_and_disorder() -> None:
    days = [date(2026, 5, 1), date(2026, 1, 1), date(2026, 2, 1), date(2026, 2, 1)]
    found = times_of(dated(days), "when")
    assert found is not None
    assert [found.named(int(place)) for place in found.gaps] == ["March 2026", "April 2026"]
    assert [found.named(int(place)) for place in found.doubled] == ["February 2026"]


@given(st.integers(1, 9990), st.integers(1, 12), st.integers(2, 40))
def test_months_in_a_row_have_no_gaps(year: int, month: int, count: int) -> None:
    texts = [f"{year + (month - 1 + k) // 12:04d}M{(month - 1 + k) % 12 + 1:02d}" for k in range(count)]
    found = times_of(make_table(when=texts), "when")
    assert found is not None
    assert not found.gaps.size
    assert (found.places - found.places[0]).tolist() == list(range(count))


def test_a_year_beside_a_month_or_a_quarter() -> None:
    years = [2019.0] * 2 + [2020.0] * 3
    for part, step, named in (
        ([11.0, 12, 1, 2, 3], "month", "November 2019"),
        (["Nov", "Dec", "Jan", "Feb", "March"], "month", "November 2019"),
        (["Q3", "Q4", "Q1", "Q2", "Q3"], "quarter", "the third quarter of 2019"),
        ([3.0, 4, 1, 2, 3], "quarter", "the third quarter of 2019"),
    ):
        table = make_table(sold=[5.0, 6, 7, 8, 9], year=years, part=part)
        column, also, found = find_times(table)
        assert (column, also, found.step) == ("year", "part", step)
        assert found.named(int(found.places[0])) == named
        assert not found.gaps.size


def test_what_is_found_in_a_table(demo: Study) -> None:
    column, also, found = find_times(demo.table("visits"))
    assert (column, also, found.step, found.there.size) == ("month", "", "month", 108)
    assert found.season(int(found.places[6]), CYCLES["month"]) == "July"
    for name in ("bushes", "trays", "tasters", "ovens"):  # which have no time in them
        assert find_times(demo.table(name))[2].step == "row"
    assert find_times(make_table(year=[2001.0, 2002, 2004], x=[1.0, 2, 3]))[0] == "year"
    assert find_times(make_table(height=[1200.0, 1500, 2900], x=[1.0, 2, 3]))[2].step == "row"
    assert by_rows(make_table(x=[1.0, 2.0])).named(1) == "row 2"


def test_seasons_by_their_names() -> None:
    days = times_of(dated([date(2026, 11, 26), date(2026, 11, 27), date(2026, 11, 28)]), "when")
    assert days is not None
    assert days.season(int(days.places[0]), 7) == "Thursday"
    quarters = times_of(make_table(when=["2017-Q3", "2017-Q4"]), "when")
    assert quarters is not None
    assert quarters.season(int(quarters.places[0]), 4) == "quarter 3"
    assert by_rows(make_table(x=[1.0] * 9)).season(7, 3) == "row 2 of 3"


def test_times_stand_on_an_axis_of_days() -> None:
    months = times_of(make_table(when=["2020M01", "2020M03"]), "when")
    assert months is not None
    assert months.along(months.places).tolist() == [float((date(2020, m, 1) - date(1970, 1, 1)).days) for m in (1, 3)]
    assert (months.short(int(months.places[1])), months.season_short(int(months.places[1]), 12)) == (
        "March 2020",
        "Mar",
    )
    quarters = times_of(make_table(when=["2020Q1", "2020Q4"]), "when")
    assert quarters is not None
    assert quarters.day(quarters.places)[1].item() == date(2020, 10, 1)
    assert quarters.short(int(quarters.places[1])) == "2020 Q4"
    years = times_of(make_table(when=["2019", "2020", "2021"]), "when")
    assert years is not None
    assert years.along(years.places).tolist() == [2019.0, 2020.0, 2021.0]
    assert by_rows(make_table(x=[5.0, 6.0])).along(by_rows(make_table(x=[5.0, 6.0])).places)[0] == pytest.approx(1)


@given(st.dates(date(1900, 1, 1), date(2200, 12, 31)), st.sampled_from(["week", "month", "quarter", "year"]))
def test_a_longer_step_holds_its_days(day: date, step: str) -> None:
    days = times_of(dated([day, day + timedelta(days=1), day + timedelta(days=3)]), "when")
    assert days is not None
    longer = days.coarser(step)
    if longer.on_calendar:
        first = longer.day(longer.places[:1])[0].item()
        following = longer.day(longer.places[:1] + 1)[0].item()
        assert first <= day < following
    else:
        assert longer.places[0] == day.year
    with pytest.raises(ValueError, match="not longer"):
        longer.coarser("day")

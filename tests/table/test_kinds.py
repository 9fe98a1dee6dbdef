"""Typed text becomes values, and nothing is quietly made a number."""

from __future__ import annotations

from datetime import date

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.table.kinds import MISSING_CODES, Kind, NotAValue, guess_kind, parse, parse_series, show, unfit


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("12", 12), ("12.5", 12.5), ("12,5", 12.5), ("-3", -3), ("−3", -3), ("+4", 4),
        ("1 234,5", 1234.5), ("1\u202f234", 1234), ("12 345 678", 12345678), (".5", 0.5),
        ("5.", 5), ("1e3", 1000), ("2,5E-2", 0.025),
    ],
)  # fmt: skip
def test_numbers_as_people_type_them(text: str, value: float) -> None:
    assert parse(text, Kind.NUMBER) == value
    assert parse(f"  {text} ", Kind.NUMBER) == value


@pytest.mark.parametrize(
    "text", ["abc", "12 g", "1.2.3", "1,2,3", "12 34", "0x10", "inf", "1e999", "--3", "1_000", "١٢"]
)
def test_what_is_not_a_number_is_refused(text: str) -> None:
    with pytest.raises(NotAValue, match="is not a number") as caught:
        parse(text, Kind.NUMBER)
    assert text in str(caught.value)


@pytest.mark.parametrize("code", sorted(MISSING_CODES))
def test_codes_for_missing(code: str) -> None:
    for kind in Kind:
        assert parse(code, kind) is None


@pytest.mark.parametrize("text", ["2026-04-30", "30.04.2026", "30/04/2026", "30 Apr 2026"])
def test_dates(text: str) -> None:
    assert parse(text, Kind.DATE) == date(2026, 4, 30)


def test_levels_lose_their_spaces_and_text_keeps_them() -> None:
    assert parse("  slow ", Kind.CATEGORY) == "slow"
    assert parse("  a remark ", Kind.TEXT) == "  a remark "


@given(st.floats(allow_nan=False, allow_infinity=False))
def test_a_shown_number_reads_back(value: float) -> None:
    assert parse(show(value), Kind.NUMBER) == value


texts = st.lists(
    st.one_of(
        st.sampled_from(["", "NA", "1,5", "2.5", "x", "2026-01-02", "1 000", " 3 ", "-", "7e2"]),
        st.text(max_size=5),
        st.floats(-1e6, 1e6).map(str),
    ),
    min_size=1,
    max_size=20,
)


@given(texts, st.sampled_from(list(Kind)))
def test_a_column_reads_like_its_cells(cells: list[str], kind: Kind) -> None:
    """The fast road over whole columns gives what cell by cell parsing gives."""
    series = pl.Series("v", cells, dtype=pl.String)
    made = parse_series(series, kind)
    wrong = unfit(series, made)
    for cell, value, bad in zip(cells, made, wrong, strict=True):
        try:
            assert value == parse(cell, kind)
            assert not bad
        except NotAValue:
            assert value is None
            assert bad


def guess(*cells: str | None) -> Kind:
    return guess_kind(pl.Series(list(cells), dtype=pl.String))


def test_guessing_kinds() -> None:
    assert guess("1", "2,5", "NA") is Kind.NUMBER
    assert guess("2026-01-01", None) is Kind.DATE
    assert guess("slow", "quick", "slow") is Kind.CATEGORY
    assert guess(*[f"remark {k}" for k in range(100)]) is Kind.TEXT
    assert guess("1", "2", "oops") is Kind.CATEGORY
    assert guess(None, "") is Kind.NUMBER
    assert guess(*(["1"] * 2500 + ["late surprise"])) is Kind.CATEGORY

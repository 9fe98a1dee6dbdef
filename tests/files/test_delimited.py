"""Delimited text: what is guessed, what is said of awkward files, what never happens."""

from __future__ import annotations

import re
from pathlib import Path

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.files import delimited
from theoros.files.delimited import decode, guess_form, open_delimited, parse_text, table_bytes
from theoros.files.errors import ReadError
from theoros.files.form import Form
from theoros.files.lines_of_cells import table_text
from theoros.files.pasting import block_has_header, paste_block
from theoros.table.kinds import Kind, parse
from theoros.table.table import Column, Table


def read(text: str, form: Form | None = None):
    return parse_text(text, form or guess_form(text), "file")


def test_a_plain_file() -> None:
    opened = read("cultivar,leaf mass (g),picked\nAmber,20.5,2026-04-30\nJade,NA,2026-05-01\n")
    assert [(c.name, c.kind, c.unit) for c in opened.table.columns] == [
        ("cultivar", Kind.CATEGORY, ""),
        ("leaf mass", Kind.NUMBER, "g"),
        ("picked", Kind.DATE, ""),
    ]
    assert opened.table.frame["leaf mass"].to_list() == [20.5, None]
    assert opened.notes == ()


@pytest.mark.parametrize(
    ("text", "delimiter", "lines", "comma"),
    [
        ("a,b\n1,2\n3,4\n", ",", (0, 1), False),
        ("a;b\n1,5;2\n3,25;4\n", ";", (0, 1), True),
        ("a\tb\n1.5\t2\n", "\t", (0, 1), False),
        ("1,2\n3,4\n", ",", (0, 0), False),
        ("a|b\nx|y\n", "|", (0, 1), False),
        ("x;y\n1.5;a, b\n2.5;c, d\n", ";", (0, 1), False),
        ("height\n1\n2\n", ",", (0, 1), False),
        ("mass;length\ng;mm\n1,5;2\n3;4\n5;6\n7;8\n", ";", (0, 2), True),
        ("Spring picking\n\nmass,tea\n1,a\n2,b\n3,a\n4,b\n", ",", (2, 1), False),
        ("1,2\n3,4\n5,6\n7,8\n9,0\n", ",", (0, 0), False),
        ("x,y\n,2\n,4\n3,5\n4,6\n5,7\n", ",", (0, 1), False),
    ],
)
def test_the_form_is_guessed(text: str, delimiter: str, lines: tuple[int, int], comma: bool) -> None:
    form = guess_form(text)
    assert (form.delimiter, (form.skip, form.header), form.decimal_comma) == (delimiter, lines, comma)


def test_two_lines_of_names() -> None:
    table = read("mass;length\ng;mm\n1,5;2\n3;4\n5;6\n7;8\n").table
    assert [(c.name, c.unit) for c in table.columns] == [("mass", "g"), ("length", "mm")]
    assert table.rows == 4
    groups = read(",spring,,autumn,\nplot,mass,height,mass,height\na,1,2,3,4\nb,5,6,7,8\nc,1,1,1,1\n")
    assert [c.name for c in groups.table.columns] == [
        "plot",
        "spring mass",
        "spring height",
        "autumn mass",
        "autumn height",
    ]
    above = read("Spring picking\n\nmass,tea\n1,a\n2,b\n3,a\n4,b\n").table
    assert [c.name for c in above.columns] == ["mass", "tea"]
    assert above.rows == 4


def test_values_in_single_quotes_and_in_none() -> None:
    opened = read("tea,x\n'a, b',1\n'c, d',2\n'e, f',3\n")
    assert opened.form.quote == "'"
    assert opened.table.frame["tea"].to_list() == ["a, b", "c, d", "e, f"]
    plain = read('height,x\n5" pot,1\n6" pot,2\n', Form(quote=""))
    assert plain.table.frame["height"].to_list() == ['5" pot', '6" pot']


def test_dates_are_read_the_way_that_fits_or_is_chosen() -> None:
    days = read("day,x\n3/31/2026,1\n4/1/2026,2\n")
    assert days.form.month_first
    assert [str(d) for d in days.table.frame["day"]] == ["2026-03-31", "2026-04-01"]
    text = "day,x\n1/2/2026,1\n3/2/2026,2\n"
    assert str(read(text).table.frame["day"][0]) == "2026-02-01"
    turned = read(text, Form(month_first=True)).table
    assert str(turned.frame["day"][0]) == "2026-01-02"


def test_codes_for_missing_values_can_be_told() -> None:
    text = "x,g\n1,a\n999,b\n.,n/a\n3,-\n"
    assert read(text).table.frame["x"].to_list() == [1, 999, None, 3]
    opened = read(text, Form(missing=("999", "b")))
    assert opened.table.frame.rows() == [(1, "a"), (None, None), (None, None), (3, None)]


def test_a_number_column_with_a_few_words_is_pointed_out() -> None:
    lines = "".join(f"{k},x\n" for k in range(30))
    opened = read(f"mass,tea\n{lines}broken,x\n")
    assert opened.table.column("mass").kind is Kind.TEXT
    assert "mass is numbers but for line 32 (“broken”)" in opened.notes[0]
    source = delimited.Delimited(f"mass,tea\n{lines}broken,x\n".encode(), "utf-8")
    chosen = delimited.read(source, opened.form, "t", {0: Kind.NUMBER})
    assert [(m.line, m.column, m.text) for m in chosen.misfits] == [(32, "mass", "broken")]
    assert chosen.misfit_count == 1
    assert chosen.table.frame["mass"][30] is None


def test_decimal_commas_and_quotes() -> None:
    table = read('name;x\n"Ridge; north";1,5\n"a ""b""";-2\n').table
    assert table.frame["x"].to_list() == [1.5, -2]
    assert table.frame["name"].to_list() == ["Ridge; north", 'a "b"']


def test_a_long_line_makes_a_column_and_is_named() -> None:
    opened = read("a,b\n1,2\n3,4,5\n")
    assert "Line 3 has 3 values, and the first line 2" in opened.notes[0]
    assert opened.table.frame["column 3"].to_list() == [None, 5]


def test_short_lines_are_filled_and_told() -> None:
    opened = read("a,b,c\n1,2,3\n4,5\n6\n")
    assert opened.table.frame["c"].to_list() == [3, None, None]
    assert "2 lines are shorter than the first (line 3)" in opened.notes[0]


def test_an_open_quote_is_told() -> None:
    with pytest.raises(ReadError, match=r"quotation mark is opened|has \d+ values"):
        read('a,b\n"1,2\n3,4\n5,6,7\n')


def test_nul_bytes_and_empty_files(tmp_path: Path) -> None:
    with pytest.raises(ReadError, match="NUL bytes"):
        decode(b"a,b\n1,\x002\n")
    for content in ("", " \n\n"):
        with pytest.raises(ReadError, match="is empty"):
            read(content)
    with pytest.raises(ReadError, match="could not be opened"):
        open_delimited(tmp_path / "gone.csv")
    with pytest.raises(ReadError, match="is a folder, not a file"):
        open_delimited(tmp_path)


def test_encodings(tmp_path: Path) -> None:
    text = "Größe;Sorte\n1,5;Grün\n"
    for encoding, told in (("utf-8", 0), ("utf-8-sig", 0), ("cp1252", 1), ("utf-16", 0)):
        path = tmp_path / f"{encoding}.csv"
        path.write_bytes(text.encode(encoding))
        opened = open_delimited(path)
        assert opened.table.columns[0].name == "Größe", encoding
        assert opened.table.frame["Sorte"].to_list() == ["Grün"]
        assert len(opened.notes) == told
    with pytest.raises(ReadError, match="UTF-16 text but is broken"):
        decode(b"\xff\xfea")


def test_header_trouble_is_told() -> None:
    opened = read("x,x,\n1,2,3\n", Form(","))
    assert [c.name for c in opened.table.columns] == ["x", "x 2", "column 3"]
    assert len(opened.notes) == 2
    assert read("1,2\n", Form(",", header=0)).table.columns[0].name == "column 1"


def test_blank_lines_are_not_rows() -> None:
    assert read("\n\na,b\n1,2\n\n3,4\n\n").table.frame["a"].to_list() == [1, 3]


def test_kinds_chosen_read_the_text_anew() -> None:
    text = "code,x\n01,1\n02,2\n"
    opened = read(text)
    assert opened.table.frame["code"].to_list() == [1, 2]
    source = delimited.Delimited(text.encode(), "utf-8")
    made = delimited.read(source, opened.form, "t", {0: Kind.CATEGORY}).table
    assert made.frame["code"].to_list() == ["01", "02"]


def test_too_many_columns_are_refused() -> None:
    with pytest.raises(ReadError, match="6000 columns"):
        read(",".join(f"c{k}" for k in range(6000)) + "\n" + "1," * 5999 + "1\n")


@given(st.text(max_size=200))
def test_any_text_gives_a_table_or_a_sentence(text: str) -> None:
    try:
        opened = read(text)
    except ReadError as problem:
        assert str(problem).endswith(".")
        return
    assert opened.table.rows >= 0
    assert opened.table.columns


@given(st.binary(max_size=200))
def test_any_bytes_give_text_or_a_sentence(data: bytes) -> None:
    try:
        text, _ = decode(data)
    except ReadError as problem:
        assert str(problem).endswith(".")
        return
    assert isinstance(text, str)


cells = st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=8)


@given(st.lists(st.lists(cells, min_size=2, max_size=2), min_size=1, max_size=6))
def test_a_copied_block_pastes_back(rows: list[list[str]]) -> None:
    assert [list(line) for line in paste_block(table_text(rows))] == [
        [re.sub(r"^'('*[=+\-@])", r"\1", cell) for cell in line] for line in rows
    ]


def test_pasted_blocks() -> None:
    assert paste_block("") == ()
    assert paste_block("1\t2\r\n3\t4\r\n") == (("1", "2"), ("3", "4"))
    assert paste_block('"two\nlines"\tb') == (("two\nlines", "b"),)
    assert block_has_header((("tray", "loss"), ("1", "2")))
    assert not block_has_header((("1", "2"), ("3", "4")))


def test_commas_that_part_thousands_are_not_decimal_commas() -> None:
    opened = read('shed,mass\nnorth,"1,234"\nsouth,"12,345.5"\nwest,900\n')
    assert not opened.form.decimal_comma
    assert opened.table.frame["mass"].to_list() == [1234, 12345.5, 900]
    opened = read('shed,mass\nnorth,"1,5"\nsouth,"2,25"\n')
    assert opened.form.decimal_comma
    assert opened.table.frame["mass"].to_list() == [1.5, 2.25]
    odd = read('shed,mass\nnorth,"1,5"\nsouth,2.25\nwest,3.5\n').table
    assert odd.column("mass").kind is Kind.CATEGORY  # shown as it is, never quietly made a number


def test_pasted_commas_are_told_apart_by_what_stands_beside_them() -> None:
    assert paste_block("1,234\n2,500.5\n") == (("1234",), ("2500.5",))
    assert paste_block("1,234,567\n1,234\n") == (("1234567",), ("1234",))
    assert paste_block("1,234\n2,5\n") == (("1,234",), ("2,5",))  # decimal commas
    assert paste_block("1,234\n") == (("1,234",),)


@given(
    st.lists(
        st.tuples(st.none() | st.floats(allow_nan=False, allow_infinity=False), st.none() | cells),
        min_size=1,
        max_size=6,
    )
)
def test_what_is_written_is_read_back(lines: list[tuple]) -> None:
    """Numbers exactly; text but for surrounding spaces and codes for missing values."""
    frame = pl.DataFrame(
        {"x": [x for x, _ in lines], "g": [g for _, g in lines]}, schema={"x": pl.Float64, "g": pl.String}
    )
    table = Table("t", (Column("x", Kind.NUMBER, "g"), Column("g", Kind.CATEGORY)), frame)
    source = delimited.Delimited(table_bytes(table), "utf-8")
    kinds = {0: Kind.NUMBER, 1: Kind.CATEGORY}
    back = delimited.read(source, Form(), "t", kinds).table
    assert back.columns == table.columns
    known = [(x, parse(g, Kind.CATEGORY) if g is not None else None) for x, g in lines]
    # a line of nothing, or of a code for nothing, may be no row
    assert [row for row in back.frame.rows() if row != (None, None)] == [pair for pair in known if pair != (None, None)]


def test_text_that_a_spreadsheet_would_run_is_guarded_and_comes_back() -> None:
    texts = ["=1+1", "+cmd", "-x", "@sum", "'=quoted", "-5", "plain", "'kept'"]
    frame = pl.DataFrame({"=name": texts})
    table = Table("t", (Column("=name", Kind.CATEGORY),), frame)
    written = table_bytes(table).decode().splitlines()
    assert written == ["'=name", "'=1+1", "'+cmd", "'-x", "'@sum", "''=quoted", "-5", "plain", "'kept'"]
    back = delimited.read(delimited.Delimited(table_bytes(table), "utf-8"), Form(), "t", {0: Kind.CATEGORY})
    assert back.table.frame.to_series().to_list() == texts


def test_large_and_odd_files_are_refused_at_once(tmp_path: Path) -> None:
    path = tmp_path / "one-line.csv"
    with open(path, "wb") as file:
        file.truncate(1)
        file.write(b"x" * 17_000_000)
    with pytest.raises(ReadError, match=r"16 million letters|NUL bytes"):
        open_delimited(path)
    path.write_bytes(b"a,b\n" + b"x" * 17_000_000)
    with pytest.raises(ReadError, match="16 million letters"):
        open_delimited(path)
    path.write_bytes(b"," * 1_000_000 + b"\n1\n")
    with pytest.raises(ReadError, match="more than the 5000"):
        open_delimited(path)


def test_only_a_number_gives_up_its_brackets_as_a_unit() -> None:
    table = read("tea (first flush),mass (g)\nAmber,3\nJade,4\n").table
    assert [(c.name, c.unit) for c in table.columns] == [("tea (first flush)", ""), ("mass", "g")]

"""Delimited text: what is guessed, what is said of awkward files, what never happens."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.files.delimited import (
    Form,
    ReadError,
    block_has_header,
    decode,
    guess_form,
    open_delimited,
    parse_text,
    paste_block,
    table_text,
    with_kinds,
)
from theoros.table.kinds import Kind


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
    ("text", "delimiter", "header", "comma"),
    [
        ("a,b\n1,2\n3,4\n", ",", True, False),
        ("a;b\n1,5;2\n3,25;4\n", ";", True, True),
        ("a\tb\n1.5\t2\n", "\t", True, False),
        ("1,2\n3,4\n", ",", False, False),
        ("a|b\nx|y\n", "|", True, False),
        ("x;y\n1.5;a, b\n2.5;c, d\n", ";", True, False),
        ("height\n1\n2\n", ",", True, False),
    ],
)
def test_the_form_is_guessed(text: str, delimiter: str, header: bool, comma: bool) -> None:
    form = guess_form(text)
    assert (form.delimiter, form.header, form.decimal_comma) == (delimiter, header, comma)


def test_decimal_commas_and_quotes() -> None:
    table = read('name;x\n"Ridge; north";1,5\n"a ""b""";-2\n').table
    assert table.frame["x"].to_list() == [1.5, -2]
    assert table.frame["name"].to_list() == ["Ridge; north", 'a "b"']


def test_a_long_line_is_named() -> None:
    with pytest.raises(ReadError, match=r"Line 3 of file has 3 values, but the first line has 2"):
        read("a,b\n1,2\n3,4,5\n")


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
    with pytest.raises(ReadError, match="could not be opened"):
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
    assert read("1,2\n", Form(",", header=False)).table.columns[0].name == "column 1"


def test_blank_lines_are_not_rows() -> None:
    assert read("\n\na,b\n1,2\n\n3,4\n\n").table.frame["a"].to_list() == [1, 3]


def test_kinds_chosen_read_the_text_anew() -> None:
    text = "code,x\n01,1\n02,2\n"
    opened = read(text)
    assert opened.table.frame["code"].to_list() == [1, 2]
    made = with_kinds(opened, text, {"code": Kind.CATEGORY})
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
    assert [list(line) for line in paste_block(table_text(rows))] == rows


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


def test_only_a_number_gives_up_its_brackets_as_a_unit() -> None:
    table = read("tea (first flush),mass (g)\nAmber,3\nJade,4\n").table
    assert [(c.name, c.unit) for c in table.columns] == [("tea (first flush)", ""), ("mass", "g")]

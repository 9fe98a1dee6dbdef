"""Every format there and back; awkward and hostile files give a table or a sentence."""

from __future__ import annotations

import csv
import io
import json
import math
import random
import zipfile
from dataclasses import replace
from datetime import date
from pathlib import Path

import polars as pl
import pytest

from theoros.files import spreadsheet
from theoros.files.errors import ReadError
from theoros.files.form import Form
from theoros.files.formats import format_of, formats, not_held, open_table, write_table
from theoros.study.entries import Study
from theoros.study.file import open_study, save_study
from theoros.table.kinds import Kind
from theoros.table.recalculation import settled
from theoros.table.table import Column, Table

LEAVES = settled(
    Table(
        "leaves",
        (
            Column("tea", Kind.CATEGORY, levels=("Mist", "Amber")),
            Column("leaf mass", Kind.NUMBER, "g", "fresh mass"),
            Column("grade", Kind.ORDERED, levels=("coarse", "fine")),
            Column("picked", Kind.DATE),
            Column("remark", Kind.TEXT),
            Column("twice", Kind.NUMBER, "g", formula="leaf mass * 2"),
            Column("n", Kind.NUMBER),
        ),
        pl.DataFrame(
            {
                "tea": ["Amber", "Mist", None, "Amber"],
                "leaf mass": [20.25, None, 1e-300, -3.0],
                "grade": ["fine", "coarse", "fine", None],
                "picked": [date(2026, 4, 30), None, date(1899, 1, 2), date(2026, 5, 1)],
                "remark": ["=1+1", " two  spaces ", 'a "quote"; and\ttab', "line\nbreak"],
                "twice": [40.5, None, 2e-300, -6.0],
                "n": [1.0, 2.0, 0.0, 3.0],
            }
        ),
        noun="leaf",
        aside=frozenset({3}),
        sampling="observed",
        counts="n",
        keep="leaf mass > 0 or leaf mass is missing",
        provenance=("typed by hand",),
    )
)


@pytest.mark.parametrize("suffix", [".parquet", ".zip"])
def test_formats_that_hold_everything_give_the_table_back(tmp_path: Path, suffix: str) -> None:
    path = tmp_path / f"leaves{suffix}"
    assert write_table(LEAVES, path) == ""
    assert open_table(path).table == LEAVES


@pytest.mark.parametrize("suffix", [".csv", ".tsv", ".xlsx", ".ods", ".json"])
def test_formats_that_hold_values_give_the_values_back(tmp_path: Path, suffix: str) -> None:
    path = tmp_path / f"leaves{suffix}"
    said = write_table(LEAVES, path)
    assert "the order of levels" in said
    assert said.endswith("the study keeps them.")
    one = format_of(path)
    source = one.load(path)
    kinds = {at: column.kind for at, column in enumerate(LEAVES.columns)}
    back = one.read(source, one.guess(source), "leaves", kinds).table
    for at, column in enumerate(LEAVES.columns):
        assert back.columns[at].kind is column.kind
        expected = LEAVES.frame.to_series(at).to_list()
        if suffix == ".ods":  # the reader of ODS knows no tabs within a cell
            expected = [v.replace("	", "") if isinstance(v, str) else v for v in expected]
        assert back.frame.to_series(at).to_list() == expected, column.name
        if "units" in one.holds:
            assert (back.columns[at].name, back.columns[at].unit) == (column.name, column.unit)


@pytest.mark.parametrize("suffix", [".csv", ".xlsx", ".ods", ".json", ".parquet", ".zip"])
def test_kinds_are_guessed_alike_from_every_format(tmp_path: Path, suffix: str) -> None:
    table = LEAVES.with_(
        columns=LEAVES.columns[:2],
        frame=LEAVES.frame.select(pl.nth(0, 1)),
        aside=frozenset(),
        counts="",
        keep="",
        kept=None,
    )
    path = tmp_path / f"t{suffix}"
    write_table(table, path)
    assert [c.kind for c in open_table(path).table.columns] == [Kind.CATEGORY, Kind.NUMBER]


def test_an_ending_that_none_has_is_refused(tmp_path: Path) -> None:
    with pytest.raises(ReadError, match=r"Choose one of: .*\.csv"):
        write_table(LEAVES, tmp_path / "leaves.pdf")


def test_what_is_not_held_is_named() -> None:
    csv = next(one for one in formats() if one.name == "CSV")
    assert not_held(LEAVES, csv) == [
        "kinds of columns",
        "the order of levels",
        "meanings",
        "formulas",
        "what a row is",
        "which rows are in use",
        "how rows count",
    ]


def book(path: Path, cells: dict[str, list[list]]) -> Path:
    import xlsxwriter

    made = xlsxwriter.Workbook(str(path))
    for name, rows in cells.items():
        sheet = made.add_worksheet(name)
        for at, row in enumerate(rows):
            for column, value in enumerate(row):
                if value is not None:
                    sheet.write(at, column, value)
    made.close()
    return path


MESSY = [
    ["Spring picking, north slope", None, None, None],
    [None, None, None, None],
    ["plot", "leaf mass", "leaf length", "tea"],
    [None, "g", "mm", None],
    ["a", "12,5", 60, "Amber"],
    ["b", "n/a", 62.5, "Mist"],
    ["c", "14", "n/a", "Amber"],
    ["d", 15.25, 70, "Mist"],
    ["e", "16,75", 71, "Amber"],
]


def test_a_messy_spreadsheet_is_made_sense_of(tmp_path: Path) -> None:
    """A title, two lines of names, decimal commas as text, n/a."""
    opened = open_table(book(tmp_path / "messy.xlsx", {"notes": [], "north": MESSY}))
    assert (opened.form.sheet, opened.form.skip, opened.form.header) == ("north", 2, 2)
    assert opened.form.decimal_comma
    assert [(c.name, c.unit, c.kind) for c in opened.table.columns] == [
        ("plot", "", Kind.CATEGORY),
        ("leaf mass", "g", Kind.NUMBER),
        ("leaf length", "mm", Kind.NUMBER),
        ("tea", "", Kind.CATEGORY),
    ]
    assert opened.table.frame["leaf mass"].to_list() == [12.5, None, 14, 15.25, 16.75]
    assert opened.first_line == 5


def test_sheets_and_ranges_can_be_chosen(tmp_path: Path) -> None:
    path = book(
        tmp_path / "b.xlsx", {"one": [["x"], [1], [2]], "two": [[None], [None, "y", "z"], [None, 3, 4], [None, 5, 6]]}
    )
    source = spreadsheet.load(path)
    assert source.sheets == ("one", "two")
    form = spreadsheet.guess_sheet(source, Form(sheet="two"))
    assert spreadsheet.read(source, form, "t").table.frame.rows() == [(3, 4), (5, 6)]
    part = spreadsheet.guess_sheet(source, Form(sheet="two", cells="C2:C4"))
    table = spreadsheet.read(source, part, "t").table
    assert table.frame.to_dict(as_series=False) == {"z": [4, 6]}
    with pytest.raises(ReadError, match="no sheet “three”"):
        spreadsheet.read(source, Form(sheet="three"), "t")
    with pytest.raises(ReadError, match="Choose another sheet or range"):
        spreadsheet.read(source, Form(sheet="two", cells="H9:J12"), "t")


@pytest.mark.parametrize("text", ["", "B", "4", "B4:A1", "hello", "A0"])
def test_ranges_that_are_none(text: str) -> None:
    with pytest.raises(ReadError, match="range"):
        spreadsheet.parse_range(text)


def test_json_in_its_usual_shapes(tmp_path: Path) -> None:
    path = tmp_path / "t.json"
    for text in (
        '[{"tea": "Amber", "x": 1}, {"x": 2.5, "tea": null}]',
        '{"data": [{"tea": "Amber", "x": 1}, {"x": 2.5}]}',
        '{"tea": ["Amber", null], "x": [1, 2.5]}',
        '{"note": "hi", "rows": [{"tea": "Amber", "x": 1}, {"x": 2.5}]}',
    ):
        path.write_text(text)
        table = open_table(path).table
        assert table.frame.select(pl.col("tea"), pl.col("x")).rows() == [("Amber", 1), (None, 2.5)]
    path.write_text('[{"code": "01", "list": [1, 2], "on": true}]')
    opened = open_table(path)
    assert opened.table.frame.row(0) == ("01", "[1, 2]", "true")
    assert "lists or objects" in opened.notes[0]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("[1, 2]", "does not hold a table"),
        ("{", "not valid JSON"),
        ("[{}]", "no record"),
        ("[" * 100_000, "not valid JSON|nested"),
        ("", "not valid JSON"),
    ],
)
def test_json_that_is_no_table(tmp_path: Path, text: str, words: str) -> None:
    path = tmp_path / "t.json"
    path.write_text(text)
    with pytest.raises(ReadError, match=words):
        open_table(path)


def test_a_package_cannot_reach_outside(tmp_path: Path) -> None:
    (tmp_path / "secret.csv").write_text("x\n1\n")
    inner = tmp_path / "package"
    inner.mkdir()
    for where in ("../secret.csv", "/etc/passwd", "http://example.org/x.csv"):
        (inner / "datapackage.json").write_text(json.dumps({"resources": [{"path": where}]}))
        with pytest.raises(ReadError, match="outside of it"):
            open_table(inner / "datapackage.json")


def test_a_package_of_another_program(tmp_path: Path) -> None:
    (tmp_path / "d.csv").write_text("plot;mass;good\n1;2,5;true\n2;-99;false\n")
    fields = [
        {"name": "plot", "type": "integer"},
        {"name": "mass", "type": "number", "decimalChar": ","},
        {"name": "good", "type": "boolean"},
    ]
    schema = {"fields": fields, "missingValues": ["", "-99"]}
    resource = {"name": "d", "path": "d.csv", "dialect": {"delimiter": ";"}, "schema": schema}
    (tmp_path / "datapackage.json").write_text(json.dumps({"resources": [resource]}))
    table = open_table(tmp_path / "datapackage.json").table
    assert table.frame.rows() == [(1, 2.5, "true"), (2, None, "false")]


MADE = [".csv", ".xlsx", ".ods", ".json", ".parquet", ".zip"]


@pytest.mark.parametrize("suffix", MADE)
def test_damaged_files_give_a_table_or_a_sentence(tmp_path: Path, suffix: str) -> None:
    """Bytes changed, cut off, doubled: never a crash of the reader, never a hang.

    That even what a reader cannot help costs no more than its process is tested with the engine.
    """
    whole = tmp_path / f"whole{suffix}"
    write_table(LEAVES.with_(keep="", kept=None), whole)
    data = whole.read_bytes()
    chance = random.Random(4127)
    path = tmp_path / f"damaged{suffix}"
    for _ in range(40):
        damaged = bytearray(data)
        for _ in range(chance.choice([1, 2, 20])):
            method, at = chance.randrange(4), chance.randrange(max(1, len(damaged)))
            if method == 0 and damaged:
                damaged[at] = chance.randrange(256)
            elif method == 1:
                del damaged[at : at + chance.randrange(1, 40)]
            elif method == 2:
                damaged[at:at] = damaged[at : at + chance.randrange(1, 60)]
            elif chance.random() < 0.2:
                del damaged[at:]
        path.write_bytes(bytes(damaged))
        try:
            opened = open_table(path)
        except ReadError as problem:
            assert str(problem).endswith(".")
        except BaseException as fault:  # a panic inside a reader: the child would contain it
            if not suffix == ".parquet" and "Panic" not in type(fault).__name__:
                raise
        else:
            assert opened.table.rows >= 0


@pytest.mark.parametrize("suffix", [".xlsx", ".ods", ".parquet", ".json"])
def test_junk_is_refused_in_words(tmp_path: Path, suffix: str) -> None:
    path = tmp_path / f"junk{suffix}"
    for junk in (b"", b"PK\x03\x04junk", b"PAR1" * 40, random.Random(1).randbytes(3000)):
        path.write_bytes(junk)
        with pytest.raises(ReadError, match=r"\.$"):
            open_table(path)
    with pytest.raises(ReadError, match=r"could not be opened|cannot be read|not a spreadsheet"):
        open_table(tmp_path / f"gone{suffix}")


def test_old_dates_and_odd_characters_survive_spreadsheets(tmp_path: Path) -> None:
    texts = ["a\x01b", "ünï ☕", "<&>\"'", "  lead"]
    table = Table("t", (Column("t", Kind.TEXT),), pl.DataFrame({"t": texts}))
    write_table(table, tmp_path / "t.ods")
    one = format_of(tmp_path / "t.ods")
    back = one.read(one.load(tmp_path / "t.ods"), Form(), "t", {0: Kind.TEXT}).table
    assert back.frame["t"].to_list() == ["ab", *texts[1:]]


def test_a_table_too_long_for_a_sheet_is_refused(tmp_path: Path) -> None:
    long = Table("t", (Column("x"),), pl.DataFrame({"x": pl.repeat(1.0, 1_048_576, eager=True)}))
    with pytest.raises(ReadError, match="Save it as CSV or Parquet"):
        write_table(long, tmp_path / "t.xlsx")
    wide = Table("t", (Column("x", Kind.TEXT),), pl.DataFrame({"x": ["y" * 40_000]}))
    with pytest.raises(ReadError, match="a cell holds"):
        write_table(wide, tmp_path / "t.ods")


def test_sheet_names_are_made_to_fit() -> None:
    assert spreadsheet.sheet_name("a/b[c]:*" + "x" * 40) == "a b c   " + "x" * 23
    assert spreadsheet.sheet_name("??") == "table"


def test_zip_is_read_through_its_descriptor_only(tmp_path: Path) -> None:
    path = tmp_path / "p.zip"
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("run.py", "raise SystemExit")
    path.write_bytes(buffer.getvalue())
    with pytest.raises(ReadError, match="not a data package"):
        open_table(path)


def test_replacing_kinds_in_a_typed_format(tmp_path: Path) -> None:
    path = tmp_path / "t.parquet"
    pl.DataFrame({"code": [1, 2, 2], "on": [True, None, False]}).write_parquet(path)
    one = format_of(path)
    source = one.load(path)
    table = one.read(source, Form(), "t", {0: Kind.CATEGORY}).table
    assert table.frame.rows() == [("1", "true"), ("2", None), ("2", "false")]
    assert replace(table.columns[0], kind=Kind.NUMBER).name == "code"


def test_a_small_parquet_file_of_very_many_cells_is_refused_before_they_are_read(tmp_path: Path) -> None:
    path = tmp_path / "equal.parquet"
    pl.DataFrame({"x": pl.repeat(1, 18_000_000, dtype=pl.Int8, eager=True)}).write_parquet(path)
    with pytest.raises(ReadError, match=r"^equal\.parquet has 18000000 rows and 1 columns, more than .* of its size"):
        open_table(path)


def test_numbers_that_are_none_or_infinite_come_in_as_missing(tmp_path: Path) -> None:
    values = [1.0, math.nan, math.inf, None, -math.inf]
    pl.DataFrame({"x": values, "cup": [1.0, 2.0, 3.0, 4.0, 5.0]}).write_parquet(tmp_path / "cups.parquet")
    opened = open_table(tmp_path / "cups.parquet")
    assert opened.table.frame["x"].to_list() == [1.0, None, None, None, None]
    assert any("2 infinite values are read as missing" in note for note in opened.notes)
    study = Study(tables=(opened.table,))
    save_study(study, tmp_path / "s.theoros")
    assert open_study(tmp_path / "s.theoros") == study
    for ending in ("xlsx", "ods", "csv", "json", "parquet"):
        write_table(opened.table, tmp_path / f"again.{ending}")
        again = open_table(tmp_path / f"again.{ending}").table
        assert again.frame["x"].to_list() == opened.table.frame["x"].to_list(), ending


@pytest.mark.parametrize("schema", [{"missingValues": 5}, 7, {"fields": 3}, {"fields": [{"name": 3}]}])
def test_a_package_that_is_odd_inside_gives_its_table(tmp_path: Path, schema) -> None:
    (tmp_path / "d.csv").write_text("a,b\n1,2\n")
    resource = {"path": "d.csv", "schema": schema, "dialect": []}
    (tmp_path / "datapackage.json").write_text(json.dumps({"resources": [resource]}))
    assert open_table(tmp_path / "datapackage.json").table.frame.rows() == [(1.0, 2.0)]


def test_text_that_begins_like_packed_data_is_text(tmp_path: Path) -> None:
    (tmp_path / "x.csv").write_bytes(b"x\x01,b\n1,2\n")
    assert open_table(tmp_path / "x.csv").table.frame.rows() == [(1.0, 2.0)]
    assert open_table(tmp_path / "x.csv").table.columns[0].name == "x"


@pytest.mark.parametrize("data", [b"a,b\r1,2\r3,4\r", b"a,b\r\n1,2\r3,4\n", b"a,b\n1,2\r\n3,4\r"])
def test_lines_end_as_they_like(tmp_path: Path, data: bytes) -> None:
    (tmp_path / "x.csv").write_bytes(data)
    assert open_table(tmp_path / "x.csv").table.frame.rows() == [(1.0, 2.0), (3.0, 4.0)]


def test_whole_numbers_that_would_be_rounded_are_kept_as_text_and_said(tmp_path: Path) -> None:
    keys = ["9007199254740993", "12345678901234567", "3"]
    (tmp_path / "k.csv").write_text("key,x\n" + "".join(f"{key},1\n" for key in keys))
    (tmp_path / "k.json").write_text("[" + ",".join(f'{{"key": {k}, "x": 1}}' for k in keys) + "]")
    pl.DataFrame({"key": [int(key) for key in keys], "x": [1, 1, 1]}).write_parquet(tmp_path / "k.parquet")
    for ending in ("csv", "json", "parquet"):
        opened = open_table(tmp_path / f"k.{ending}")
        assert opened.table.frame["key"].to_list() == keys, ending
        assert "would be rounded as numbers" in " ".join(opened.notes), ending
    (tmp_path / "k.csv").write_text("key\n9007199254740992\n1e300\n3.0000000000000001\n")
    assert open_table(tmp_path / "k.csv").table.columns[0].kind is Kind.NUMBER


def test_days_beyond_the_calendar_are_missing_and_said(tmp_path: Path) -> None:
    days = pl.Series([0, 2**31 - 1, -(2**31)], dtype=pl.Int32).cast(pl.Date)
    pl.DataFrame({"day": days, "x": [1, 2, 3]}).write_parquet(tmp_path / "d.parquet")
    opened = open_table(tmp_path / "d.parquet")
    assert opened.table.frame["day"].null_count() == 2
    assert "2 dates are beyond the years 1 to 9999" in opened.notes[0]


def test_no_cell_runs_in_a_spreadsheet(tmp_path: Path) -> None:
    run = ["=1+1", "+x", "-x", "@x", "\t=x", "\n=x", "\r=x", "＝1", "＋1", "－1", "＠x"]
    texts = [*run, "-3.5", "ok"]
    table = Table("t", (Column("=name", Kind.TEXT),), pl.DataFrame({"=name": texts}))
    write_table(table, tmp_path / "t.csv")
    with open(tmp_path / "t.csv", newline="") as file:
        cells = [row[0] for row in csv.reader(file)]
    assert cells[0] == "'=name"
    assert cells[1:-2] == [f"'{text}" for text in run]
    assert cells[-2:] == ["-3.5", "ok"]
    one = format_of(tmp_path / "t.csv")
    back = one.read(one.load(tmp_path / "t.csv"), Form(), "t", {0: Kind.TEXT}).table
    assert [t.replace("\r", "\n") for t in texts] == back.frame.to_series().to_list()


def test_a_package_with_a_name_in_no_encoding_is_damaged(tmp_path: Path) -> None:
    path = tmp_path / "leaves.zip"
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr("datapackage.json", "{}")
        archive.writestr("é.csv", "a\n1\n")
    path.write_bytes(path.read_bytes().replace("é.csv".encode(), b"\xff\xff.csv"))
    with pytest.raises(ReadError, match="damaged or was not fully copied"):
        open_table(path)

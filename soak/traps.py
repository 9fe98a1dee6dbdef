"""Files made to freeze, fill or fool a reader; each is small, and must be refused or harmless."""

from __future__ import annotations

import gzip
import json
import zipfile
import zlib
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path

import polars as pl

from theoros.files.spreadsheet import write_ods, write_xlsx
from theoros.study.entries import Study
from theoros.study.file import save_study
from theoros.study.package import write_parts
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table

MB = 1_000_000
LEAVES = Table(
    "leaves",
    (Column("tea", Kind.CATEGORY), Column("mass")),
    pl.DataFrame({"tea": ["Amber", "Ridge", "Amber"], "mass": [2.5, 3.5, 2.0]}),
)


def traps(folder: Path) -> Iterator[Path]:
    """All of them, each made when it is asked for; the ending says which reader takes it."""
    for name, make in TRAPS.items():
        path = folder / name
        make(path)
        yield path


def _parts(write: Callable[[Table, Path], None], path: Path) -> dict[str, bytes]:
    write(LEAVES, path)
    with zipfile.ZipFile(path) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def _zip(path: Path, parts: Mapping[str, bytes]) -> None:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in parts.items():
            archive.writestr(name, data)


def _xlsx(change: Callable[[bytes], bytes], part: str = "xl/worksheets/sheet1.xml"):  # type: ignore[no-untyped-def]
    def make(path: Path) -> None:
        parts = _parts(write_xlsx, path)
        _zip(path, {**parts, part: change(parts.get(part, b""))})

    return make


def _row(cells: bytes) -> Callable[[bytes], bytes]:
    return lambda sheet: sheet.replace(b"</sheetData>", cells + b"</sheetData>")


def _ods(rows: bytes) -> Callable[[Path], None]:
    def make(path: Path) -> None:
        parts = _parts(write_ods, path)
        content = parts["content.xml"].replace(b"<table:table-row>", rows + b"<table:table-row>", 1)
        _zip(path, {**parts, "content.xml": content})

    return make


_CELL = b'<table:table-cell table:number-columns-repeated="%d" office:value-type="float" office:value="1"/>'


def _repeated(rows: int, columns: int) -> bytes:
    begin = b'<table:table-row table:number-rows-repeated="%d">' % rows
    return begin + _CELL % columns + b"</table:table-row>"


def _entities(sheet: bytes) -> bytes:
    chain = b"".join(f'<!ENTITY {chr(98 + k)} "{f"&{chr(97 + k)};" * 50}">'.encode() for k in range(8))
    head = b'<!DOCTYPE x [<!ENTITY a "' + b"a" * 1000 + b'">' + chain + b"]>"
    return sheet.replace(b"?>", b"?>" + head, 1).replace(b"<v>", b"<v>&i;", 1)


def _study(change: Callable[[dict[str, bytes]], dict[str, bytes]]) -> Callable[[Path], None]:
    def make(path: Path) -> None:
        _zip(path, change(dict(write_parts(Study("s", (LEAVES,))))))

    return make


def _csv_of(parts: dict[str, bytes]) -> str:
    return next(name for name in parts if name.endswith(".csv"))


def _study_csv(data: Callable[[], bytes]) -> Callable[[Path], None]:
    return _study(lambda parts: {**parts, _csv_of(parts): data()})


def _study_json(data: Callable[[], bytes], name: str = "study.json") -> Callable[[Path], None]:
    return _study(lambda parts: {**parts, name: data()})


def _written(data: Callable[[], bytes]) -> Callable[[Path], None]:
    return lambda path: path.write_bytes(data()) and None


def _gzip_bomb() -> bytes:
    """13 KB that unpack to gigabytes, packed twice."""
    packed = gzip.compress(b"1\n" * (20 * MB))
    return gzip.compress(packed * 50)


def _lying_zip(path: Path) -> None:
    """Its directory says that a part is small, and the part is not."""
    _study_csv(lambda: b'"tea","mass"\n' + b'"Amber","1"\n' * 2_000_000)(path)
    data = bytearray(path.read_bytes())
    size = (13 + 12 * 2_000_000).to_bytes(4, "little")
    at = data.rfind(size)
    while at >= 0:
        data[at : at + 4] = (30).to_bytes(4, "little")
        at = data.rfind(size)
    path.write_bytes(bytes(data))


def _package(data: Callable[[], bytes]) -> Callable[[Path], None]:
    schema = {"fields": [{"name": "x", "type": "number"}]}
    described = {"resources": [{"name": "x", "path": "x.csv", "schema": schema}]}
    return lambda path: _zip(path, {"datapackage.json": json.dumps(described).encode(), "x.csv": data()})


def _parquet(make: Callable[[], pl.DataFrame]) -> Callable[[Path], None]:
    return lambda path: make().write_parquet(path, compression="zstd", row_group_size=50 * MB)


def _quine(path: Path) -> None:
    """A zip that holds two hundred thousand names."""
    with zipfile.ZipFile(path, "w") as archive:
        for at in range(60_000):
            archive.writestr(f"{at}", b"")


TRAPS: dict[str, Callable[[Path], None]] = {
    "far-corner.xlsx": _xlsx(_row(b'<row r="1048576"><c r="XFD1048576"><v>1</v></c></row>')),
    "far-row.xlsx": _xlsx(_row(b'<row r="1048576"><c r="AZ1048576"><v>1</v></c></row>')),
    "entities.xlsx": _xlsx(_entities),
    "blanks.xlsx": _xlsx(lambda book: book + b" " * (60 * MB), "xl/workbook.xml"),
    "blank-sheet.xlsx": _xlsx(lambda sheet: sheet + b" " * (40 * MB)),
    "many-cells.xlsx": _xlsx(_row(b'<row r="9">' + b'<c t="inlineStr"><is><t>a</t></is></c>' * 400_000 + b"</row>")),
    "deep.xlsx": _xlsx(_row(b"<row>" * 200_000)),
    "shared.xlsx": _xlsx(lambda _: b"<sst>" + b"<si><t>a</t></si>" * 1_500_000 + b"</sst>", "xl/sharedStrings.xml"),
    "repeat.ods": _ods(_repeated(1_048_576, 16_384)),
    "repeat-rows.ods": _ods(_repeated(1_048_576, 50)),
    "repeat-both.ods": _ods(_repeated(20_000, 3000)),
    "repeat-endless.ods": _ods(_repeated(4_000_000_000, 1)),
    "nested.ods": _ods(b"<table:table-row>" * 100_000),
    "gzip.theoros": _study_csv(_gzip_bomb),
    "zlib.theoros": _study_csv(lambda: zlib.compress(b"1\n" * (100 * MB))),
    "long.theoros": _study_csv(lambda: b'"tea","mass"\n' + b'"Amber","1"\n' * (6 * MB)),
    "lying.theoros": _lying_zip,
    "deep.theoros": _study_json(lambda: b"[" * (8 * MB)),
    "endless.theoros": _study_json(lambda: b"[" + b"[]," * (8 * MB) + b"0]"),
    "entries.theoros": _study_json(lambda: b'{"theoros":3,"entries":[' + b'{"id":"e"},' * (2 * MB) + b"0]}"),
    "names.theoros": _study_json(lambda: b'{"theoros":3,"title":"' + b"a" * (18 * MB) + b'"}'),
    "columns.theoros": _study_json(
        lambda: (
            b'{"resources":[{"title":"leaves","path":"x","schema":{"fields":[' + b'{"name":"a"},' * (1 * MB) + b"0]}}]}"
        ),
        "datapackage.json",
    ),
    "members.theoros": _quine,
    "wide-line.csv": _written(lambda: b"x\n1\n" + b",".join([b"1"] * 4999) + b"\n1" * 202_000),
    "spaced.csv": _written(lambda: b"x\n" + b"\n".join(b"1 %03d %03d" % (k // 1000, k % 1000) for k in range(10**6))),
    "one-line.csv": _written(lambda: b"a" * (17 * MB)),
    "quote.csv": _written(lambda: b'x,y\n"' + b"1,2\n" * 500_000),
    "quotes.csv": _written(lambda: b"x,y\n" + b'"' * 2_000_000),
    "delimiters.csv": _written(lambda: b"," * 2_000_000),
    "packed.csv": _written(lambda: gzip.compress(b"x\n" + b"1\n" * (200 * MB // 2))),
    "zlib.csv": _written(lambda: zlib.compress(b"x\n" + b"1\n" * (100 * MB))),
    "nul.csv": _written(lambda: b"x\n" + b"\x00" * MB),
    "dates.csv": _written(
        lambda: b"d\n" + b"\n".join(b"%d.%d.%d" % (k % 40, k % 17, k % 9999) for k in range(400_000))
    ),
    "texts.csv": _written(lambda: b"t\n" + b"\n".join(b"=%d" % k for k in range(600_000))),
    "header.csv": _written(lambda: b",".join(b"c%d" % k for k in range(300_000)) + b"\n"),
    "deep.json": _written(lambda: b"[" * 400_000),
    "sparse.json": _written(lambda: b"[" + b",".join(b'{"c%d":1}' % (k % 4900) for k in range(40_000)) + b"]"),
    "numbers.json": _written(lambda: b'[{"x": ' + b"9" * 400_000 + b"}]"),
    "empties.json": _written(lambda: b"[" + b'{"a":{}},' * 40_000 + b'{"a":1}]'),
    "equal.parquet": _parquet(lambda: pl.DataFrame({"x": pl.repeat(1.0, 230 * MB, eager=True)})),
    "texts.parquet": _parquet(lambda: pl.DataFrame({"x": pl.repeat("a" * 200, 20 * MB, eager=True)})),
    "blank.zip": _package(lambda: b"x\n" + b"1\n" * (30 * MB)),
    "gzip.zip": _package(_gzip_bomb),
}


def good_study(path: Path) -> None:
    """A study that packs far better than any trap, and must open all the same."""
    equal = pl.DataFrame({"x": pl.repeat(3.0, 8 * MB, eager=True)})
    save_study(Study("equal", (Table("equal", (Column("x"),), equal),)), path)

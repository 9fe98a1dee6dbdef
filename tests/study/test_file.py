"""Study files: round trips, open formats, damage, and the exported report."""

from __future__ import annotations

import base64
import io
import json
import math
import os
import re
import zipfile
from datetime import date
from html.parser import HTMLParser
from pathlib import Path

import polars as pl
import pytest
from fontTools.ttLib import TTFont
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.fonts import FONTS
from theoros.study.atomic import write_atomically
from theoros.study.entries import Entry, EntryBlock, Study, StudyError, TextBlock
from theoros.study.file import open_study, save_study
from theoros.study.package import read_parts, write_parts
from theoros.study.report_html import report_html, text_html
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, statement_from_json

words = st.text(st.characters(exclude_categories=["Cs"], exclude_characters="\x00"), max_size=12)
levels = words.filter(lambda text: text != "")


@st.composite
def tables(draw) -> Table:
    rows = draw(st.integers(0, 6))

    def column(values):
        return draw(st.lists(st.none() | values, min_size=rows, max_size=rows))

    names = draw(st.lists(levels, min_size=1, max_size=4, unique=True))
    columns, series = [], []
    for name in names:
        kind = draw(st.sampled_from(list(Kind)))
        values = {
            Kind.NUMBER: st.floats(allow_nan=False, allow_infinity=False),
            Kind.DATE: st.dates(date(1000, 1, 1), date(2999, 1, 1)),
        }.get(kind, levels)
        ordered = tuple(draw(st.lists(levels, max_size=2, unique=True))) if kind.is_grouping else ()
        columns.append(Column(name, kind, draw(words).strip(), draw(words).strip(), ordered))
        series.append(pl.Series(name, column(values), dtype=kind.dtype))
    return Table("t", tuple(columns), pl.DataFrame(series), "bush")


@given(tables(), words, words)
def test_a_study_comes_back_exactly(table: Table, title: str, text: str) -> None:
    entry = Entry("e1", make("plot", table="t", what=table.columns[0].name), title, text)
    study = Study(title, (table,), (entry,), (TextBlock("r1", text), EntryBlock("r2", "e1")))
    again = read_parts(write_parts(study))
    got = again.tables[0]
    assert got.frame.equals(table.frame)
    for one, two in zip(got.columns, table.columns, strict=True):
        assert (one.name, one.kind, one.unit, one.meaning) == (two.name, two.kind, two.unit, two.meaning)
    assert (again.title, again.entries, again.report) == (study.title, study.entries, study.report)


def test_the_demo_comes_back_from_a_file(demo: Study, tmp_path: Path) -> None:
    path = tmp_path / "demo.theoros"
    save_study(demo, path)
    again = open_study(path)
    assert again.tables == demo.tables
    assert again == demo


def test_a_study_file_is_an_open_package(demo: Study, tmp_path: Path) -> None:
    """Any program can read it: a zip with Frictionless metadata and plain CSV."""
    save_study(demo, tmp_path / "s.theoros")
    with zipfile.ZipFile(tmp_path / "s.theoros") as archive:
        package = json.loads(archive.read("datapackage.json"))
        bushes = package["resources"][0]
        frame = pl.read_csv(io.BytesIO(archive.read(bushes["path"])))
    assert bushes["title"] == "bushes"
    assert frame.shape == (180, 7)
    fields = {field["name"]: field for field in bushes["schema"]["fields"]}
    assert fields["pluck mass"]["type"] == "number"
    assert fields["pluck mass"]["unit"] == "g"
    assert fields["grade"]["categories"] == ["fine", "fair", "coarse"]
    assert fields["grade"]["categoriesOrdered"] is True


def broken(tmp_path: Path, demo: Study, how: str) -> Path:
    path = tmp_path / "s.theoros"
    save_study(demo, path)
    data = path.read_bytes()
    parts = write_parts(demo)
    if how == "truncated":
        path.write_bytes(data[: len(data) // 2])
    elif how == "empty":
        path.write_bytes(b"")
    elif how == "text":
        path.write_text("a,b\n1,2\n")
    elif how == "bytes":
        path.write_bytes(data[:200] + bytes(400) + data[600:])
    elif how == "other zip":
        with zipfile.ZipFile(path, "w") as archive:
            archive.writestr("letter.txt", "hello")
    else:
        about = json.loads(parts["study.json"])
        if how == "newer":
            about["theoros"] = 99
        elif how == "not json":
            about = None
        if how == "cells":
            name = next(n for n in parts if "trays" in n)
            parts[name] = parts[name].replace(b'"35', b'"x35', 1)
        if how == "no table":
            parts.pop(next(n for n in parts if "trays" in n))
        parts["study.json"] = b"{" if about is None else json.dumps(about).encode()
        with zipfile.ZipFile(path, "w") as archive:
            for name, content in parts.items():
                archive.writestr(name, content)
    return path


@pytest.mark.parametrize(
    ("how", "told"),
    [
        ("truncated", "damaged or was not fully copied"),
        ("empty", "is empty"),
        ("text", "is not a study of Theoros. To bring in a table"),
        ("bytes", "damaged"),
        ("other zip", "it has no study.json"),
        ("newer", "saved by a newer Theoros (format 99"),
        ("not json", "study.json cannot be read"),
        ("cells", "a value in table trays does not fit its column"),
        ("no table", "its table trays is missing"),
    ],
)
def test_damaged_files_get_a_sentence(tmp_path: Path, demo: Study, how: str, told: str) -> None:
    with pytest.raises(StudyError) as caught:
        open_study(broken(tmp_path, demo, how))
    assert told in str(caught.value)
    assert str(caught.value).endswith((".", ")."))


@given(data=st.data())
def test_mutated_files_never_crash(data: st.DataObject, tmp_path_factory, demo: Study) -> None:
    path = tmp_path_factory.mktemp("mutated") / "s.theoros"
    save_study(demo, path)
    raw = bytearray(path.read_bytes())
    for _ in range(data.draw(st.integers(1, 8))):
        raw[data.draw(st.integers(0, len(raw) - 1))] = data.draw(st.integers(0, 255))
    path.write_bytes(bytes(raw))
    try:
        open_study(path)
    except StudyError as problem:
        assert "." in str(problem)


def test_a_file_within_the_study_without_a_name(tmp_path: Path, demo: Study) -> None:
    path = tmp_path / "s.theoros"
    save_study(demo, path)
    raw = path.read_bytes()
    at = raw.rindex(b"study.json")  # in the directory at the end of the archive
    path.write_bytes(raw[:at] + b"\0" + raw[at + 1 :])
    with pytest.raises(StudyError, match="damaged"):
        open_study(path)


def test_saving_is_all_or_nothing(tmp_path: Path, demo: Study) -> None:
    path = tmp_path / "s.theoros"
    save_study(demo, path)
    before = path.read_bytes()

    def fails(target: Path) -> None:
        target.write_bytes(b"half")
        raise OSError(28, "No space left on device")

    with pytest.raises(StudyError, match="no space left on device"):
        write_atomically(path, fails)
    assert path.read_bytes() == before
    assert os.listdir(tmp_path) == ["s.theoros"]
    with pytest.raises(StudyError, match="could not be written there"):
        save_study(demo, tmp_path / "no" / "such" / "s.theoros")
    with pytest.raises(StudyError, match="could not be opened"):
        open_study(tmp_path / "gone.theoros")


class Strict(HTMLParser):
    """Collects text and checks that tags close in order."""

    def __init__(self) -> None:
        super().__init__()
        self.stack: list[str] = []
        self.text = ""
        self.links: list[str] = []

    def handle_starttag(self, tag, attrs) -> None:
        if tag not in ("meta", "br", "line", "rect", "circle", "polyline", "polygon"):
            self.stack.append(tag)
        self.links += [value for name, value in attrs if name in ("src", "href")]

    def handle_endtag(self, tag) -> None:
        if tag in self.stack:
            assert self.stack.pop() == tag

    def handle_data(self, data) -> None:
        self.text += data


def test_the_report_is_one_self_contained_page(demo: Study) -> None:
    page = report_html(demo)
    parser = Strict()
    parser.feed(page)
    assert parser.stack == []
    assert parser.links == []
    assert "<script" not in page
    for said in (
        "Withering and water",
        "Does slow withering lose more?",
        "Worksheet 6, part b.",
        "There is enough evidence, at the 1\u00a0% significance level",
        "1. Hypotheses",
        "by rank sum",
    ):
        assert said in parser.text
    assert page.count("<svg") == 2


def test_names_from_data_cannot_become_markup() -> None:
    evil = "<script>alert(1)</script>"
    table = make_table("t", evil, v=[1.0, 2, 3, 4], g=[evil, evil, "b", "b"])
    statement = make("test", table="t", what="v", by="g", first=evil, second="b", replicates=200)
    study = Study(
        evil, (table,), (Entry("e1", statement, evil, evil),), (EntryBlock("r1", "e1"), TextBlock("r2", evil))
    )
    assert "<script" not in report_html(study)


def test_an_entry_without_an_answer_says_why_and_others_go_on(demo: Study) -> None:
    lost = Entry("e9", make("plot", table="gone"), "Lost")
    study = demo.with_(entries=(*demo.entries, lost), report=(EntryBlock("a", "e9"), EntryBlock("b", "e2")))
    page = report_html(study)
    assert "There is no table called “gone”" in page
    assert page.count("<svg") == 1


def test_text_becomes_paragraphs_and_headings() -> None:
    made = text_html("A heading\n\nFirst line\nsecond & line.\n\nEnd.")
    assert made == "<h2>A heading</h2>\n<p>First line<br>second &amp; line.</p>\n<p>End.</p>"
    assert "Nothing has been placed" in report_html(Study("s"))


def test_a_study_file_keeps_all_that_a_table_is(tmp_path: Path) -> None:
    from tests.files.test_formats import LEAVES
    from theoros.table.rows import sort_rows

    table = sort_rows(LEAVES, [("leaf mass", True)])
    save_study(Study("s", (table,)), tmp_path / "s.theoros")
    back = open_study(tmp_path / "s.theoros").table("leaves")
    assert back == table
    assert back.cases.tolist() == table.cases.tolist()


def test_a_study_from_before_data_were_nested_values_opens_and_answers_the_same() -> None:
    """Saved by an earlier version; beside it the sentences of its entries, with the figures of that version."""
    folder = Path(__file__).parent / "data"
    study = open_study(folder / "flat-tests.theoros")
    told = json.loads((folder / "flat-tests.json").read_text(encoding="utf-8"))
    assert [entry.id for entry in study.entries] == list(told)
    for entry in study.entries:
        found = answer(entry.statement, study.by_name)
        said = found.problem.sentence if found.problem else found.reading.headline
        text, before = told[entry.id].values()
        assert entry.statement.text(study.by_name) == text
        if "shuffled" in text and said != before:  # shuffles are dealt in another way since
            one, two = (float(re.search(r"0\.\d+", sentence).group()) for sentence in (said, before))
            error = math.sqrt(2 * two * (1 - two) / entry.statement.replicates)
            assert abs(one - two) < 4 * error
            said = said.replace(f"{one:.4f}", f"{two:.4f}")
        assert said == before


@pytest.mark.parametrize("kept", ["own-names", "ways-and-shuffles"])
def test_a_study_from_before_fields_had_the_names_of_the_field_says_the_same(kept: str) -> None:
    """Every example as it was saved, with its sentence and its first line."""
    folder = Path(__file__).parent / "data"
    study = open_study(folder / f"{kept}.theoros")
    told = json.loads((folder / f"{kept}.json").read_text(encoding="utf-8"))
    assert [entry.id for entry in study.entries] == list(told)
    for entry in study.entries:
        found = answer(entry.statement, study.by_name)
        said = found.problem.sentence if found.problem else found.reading.headline
        assert {"text": entry.statement.text(study.by_name), "said": said} == told[entry.id]
        assert statement_from_json(entry.statement.to_json()) == entry.statement


def test_damaged_statements_are_named_and_kept_and_the_others_live(tmp_path: Path, demo: Study) -> None:
    parts = write_parts(demo)
    about = json.loads(parts["study.json"])
    about["entries"].append({**about["entries"][0], "id": "sound"})
    damaged = [
        {"verb": "prophesy", "table": "trays"},
        {"verb": "test", "table": "trays", "data": {"kind": "two levels", "what": 3}},
        {"verb": "test", "data": {"kind": "entrails"}},
        {"verb": ["plot"]},
        "no statement at all",
    ]
    for entry, held in zip(about["entries"], damaged, strict=False):
        entry["statement"] = held
    parts["study.json"] = json.dumps(about).encode()
    study = read_parts(parts)
    sentences = []
    for entry, held in zip(study.entries, damaged, strict=False):
        problem = answer(entry.statement, study.by_name).problem
        assert problem is not None
        sentences.append(problem.sentence)
        assert entry.statement.to_json() == held
    assert "There is no verb “prophesy”" in sentences[0]
    assert "test: data.what must be text" in sentences[1]
    assert "test: data cannot be of the kind “entrails”" in sentences[2]
    for entry in study.entries[len(damaged) :]:
        assert answer(entry.statement, study.by_name).problem is None
    # saved again, they are still what they were
    path = tmp_path / "again.theoros"
    save_study(study, path)
    again = open_study(path)
    assert [e.statement.to_json() for e in again.entries[:5]] == damaged


def test_a_name_in_no_encoding_gets_a_sentence(tmp_path: Path, demo: Study) -> None:
    path = tmp_path / "bent.theoros"
    save_study(demo, path)
    data = path.read_bytes().replace(b"study.json", b"stu\xff\xfe.json"[:10])
    # the flag that says names are UTF-8, in local and central headers
    raw = bytearray(data)
    for mark, at in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
        place = raw.find(mark)
        while place >= 0:
            raw[place + at + 1] |= 0x08
            place = raw.find(mark, place + 4)
    path.write_bytes(bytes(raw))
    with pytest.raises(StudyError, match="damaged"):
        open_study(path)


def test_a_report_brings_its_fonts_with_every_letter_that_it_has() -> None:
    study = Study("Öfen – η̂", report=(TextBlock("r1", "Žluť, 10⁻⁵, χ²."),))
    page = report_html(study)
    faces = re.findall(r"font-family: '([^']+)'; [^}]*base64,([A-Za-z0-9+/=]+)\)", page)
    assert [family for family, _ in faces].count("Source Sans 3") == 2
    shown = set(re.sub(r"<style>.*?</style>|<[^>]*>", "", page, flags=re.DOTALL)) - {"\n"}
    for family, data in faces:
        raw = base64.b64decode(data)
        assert raw[:4] == b"wOFF"
        whole = TTFont(FONTS / f"{family.replace(' ', '')}-Regular.ttf").getBestCmap()
        cut = TTFont(io.BytesIO(raw)).getBestCmap()
        assert all(ord(letter) in cut for letter in shown if ord(letter) in whole)
    assert len(page) < 250_000
    assert "http" not in page.replace("http://www.w3.org", "")


@pytest.mark.parametrize(
    ("change", "told"),
    [
        (lambda s, p: p["resources"][0].update({"theoros:setAside": ["N"]}), "set aside is damaged"),
        (lambda s, p: p["resources"][0].pop("title"), "a part of it is missing"),
        (lambda s, p: p["resources"][0]["schema"]["fields"][0].pop("name"), "a part of it is missing"),
        (lambda s, p: p.update(resources={"a": 1}), "not listed as they should be"),
        (lambda s, p: s.update(entries=[{}] * 6000), "5000 are the most"),
        (lambda s, p: s.update(title="a" * 6000), "longer than any title"),
    ],
)
def test_a_study_that_is_odd_inside_is_refused_in_words(demo: Study, change, told: str) -> None:
    with pytest.raises(StudyError, match=told):
        read_parts(changed(demo, change))


def test_what_can_be_made_good_is(demo: Study) -> None:
    """Half a surrogate pair, a block of an entry that is gone, codes that are no list."""

    def change(study: dict, package: dict) -> None:
        study["title"] = "a\ud800b"
        study["report"].append({"id": "r99", "entry": "e99"})
        package["resources"][0]["schema"]["missingValues"] = 5

    found = read_parts(changed(demo, change))
    assert found.title == "a\ufffdb"
    assert found.report == demo.report
    assert found.tables == demo.tables
    assert read_parts(write_parts(found)) == found


def changed(demo: Study, change) -> dict[str, bytes]:  # type: ignore[no-untyped-def]
    parts = write_parts(demo)
    study, package = (json.loads(parts[name]) for name in ("study.json", "datapackage.json"))
    change(study, package)
    return {**parts, "study.json": json.dumps(study).encode(), "datapackage.json": json.dumps(package).encode()}

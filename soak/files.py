"""Files changed by chance, through every reader: a table, or a sentence, and never anything else.

Most are read in this process, which is quick; that a process with limits contains even what a
reader cannot help is tried with the same files, one in forty.
"""

from __future__ import annotations

import resource
import tempfile
import time
from pathlib import Path

import polars as pl

from soak.mutations import mutated, mutated_zip
from soak.tally import Budget, Tally
from soak.watched import watched
from theoros.engine.link import EngineLink
from theoros.engine.tasks.reading_files import ReadStudy, ReadTable, Unforeseen
from theoros.files.errors import ReadError
from theoros.files.formats import open_table, write_table
from theoros.study.entries import Study, StudyError
from theoros.study.file import demo_study, open_study, save_study
from theoros.study.package import write_parts
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table

ENDINGS = (".csv", ".tsv", ".xlsx", ".ods", ".json", ".parquet", ".zip", ".theoros")
ZIPS = (".xlsx", ".ods", ".zip", ".theoros")
MOST_SECONDS, MOST_MEMORY = 10.0, 1_000_000_000

SAMPLE = Table(
    "leaves",
    (
        Column("tea", Kind.CATEGORY, meaning="which"),
        Column("mass", unit="g"),
        Column("picked", Kind.DATE),
        Column("grade", Kind.ORDERED, levels=("low", "high")),
        Column("note", Kind.TEXT),
    ),
    pl.DataFrame(
        {
            "tea": ["Amber", "Ridge", None, "=1+1"] * 5,
            "mass": [2.5, None, -3.25, 1e-7] * 5,
            "picked": pl.Series(["2026-01-31", None, "2026-03-01", "1999-12-31"] * 5).str.to_date(),
            "grade": ["low", "high", "high", None] * 5,
            "note": ["a, b", 'say "x"', "two\nlines", ""] * 5,
        }
    ),
    aside=frozenset({2}),
)


def run(budget: Budget) -> Tally:
    tally = Tally("mutated files, each reader", "10 000: 0 crashes, hangs, tracebacks, losses")
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder)
        whole = {}
        for ending in ENDINGS:
            path = home / f"whole{ending}"
            if ending == ".theoros":
                save_study(demo_study().with_(tables=demo_study().tables[:2]), path)
            else:
                write_table(SAMPLE, path)
            whole[ending] = path.read_bytes()
        before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        link = EngineLink("reader", home)
        link.start()
        for at in budget.rounds(tally):
            ending = ENDINGS[at % len(ENDINGS)]
            inside = ending in ZIPS and budget.chance.random() < 0.7
            data = (mutated_zip if inside else mutated)(whole[ending], budget.chance)
            path = home / f"damaged{ending}"
            path.write_bytes(data)
            try:
                # a reader in another language that falls over would take this process with it
                apart = at % 40 == 0 or ending in (".parquet", ".xlsx", ".ods")
                (_apart if apart else _here)(path, link, tally)
            except Exception as problem:
                tally.fault(f"{ending} (round {at}, seed {budget.seed})", problem)
        tally.notes.append(f"the reader was begun {link.starts} times")
        link.end()
    grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) * 1024
    if grown > MOST_MEMORY:
        tally.fail(f"{grown / 1e6:.0f} MB")
    tally.notes.append(f"{grown / 1e6:.0f} MB more at most")
    return tally


def _here(path: Path, link: EngineLink, tally: Tally) -> None:
    began = time.monotonic()
    try:
        if path.suffix == ".theoros":
            study = open_study(path)
            with tempfile.TemporaryDirectory() as folder:  # what opens can be saved again
                save_study(study, Path(folder) / "again.theoros")
                again = open_study(Path(folder) / "again.theoros")
                if write_parts(again) != write_parts(study):
                    tally.fail(f"opened and saved, another study: {_difference(study, again)}")
            for entry in study.entries:
                answer_json_of(entry, study)
        else:
            _check(open_table(path).table, tally)
    except (ReadError, StudyError) as problem:
        _check_sentence(str(problem), tally)
    if time.monotonic() - began > MOST_SECONDS:
        tally.fail(f"{path.suffix}: over {MOST_SECONDS} s")


def _difference(one: Study, two: Study) -> str:
    parts, others = write_parts(one), write_parts(two)
    for name, data in parts.items():
        if others.get(name) != data:
            lines = zip(data.splitlines(), others.get(name, b"").splitlines(), strict=False)
            return next((f"{name}: {a!r} / {b!r}" for a, b in lines if a != b), name)
    return "another number of parts"


def answer_json_of(entry: object, study: object) -> None:
    """The title and phrase of an entry, which must never raise."""
    entry.name(study.by_name)  # type: ignore[attr-defined]
    entry.statement.phrase(study.by_name)  # type: ignore[attr-defined]


def _apart(path: Path, link: EngineLink, tally: Tally) -> None:
    task = ReadStudy(path) if path.suffix == ".theoros" else ReadTable(path, None)
    found = watched(link, task)
    if isinstance(found.value, Unforeseen):
        tally.fail(f"unforeseen: {found.value}")
    if isinstance(found.value, str | ValueError):
        _check_sentence(str(found.value), tally)
    if found.seconds > MOST_SECONDS or found.memory > MOST_MEMORY:
        tally.fail(f"{path.suffix}: {found.seconds:.1f} s, {found.memory / 1e6:.0f} MB")


def _check(table: Table, tally: Tally) -> None:
    """A table that came in can be shown and written."""
    for column in table.columns:
        values = table.frame[column.name]
        if values.dtype == pl.Float64 and not values.drop_nulls().is_finite().all():
            tally.fail("a value that is no finite number came in")
        for row in range(min(3, table.rows)):
            table.cell_text(row, column.name)


def _check_sentence(text: str, tally: Tally) -> None:
    if not text.endswith(".") or "\n" in text or len(text) > 900:
        tally.fail(f"no sentence: {text[:300]!r} … ({len(text)} letters)")

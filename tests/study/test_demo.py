"""The demo: made by its script, stored as plain files, with effects to be found."""

from __future__ import annotations

import runpy
from pathlib import Path

from theoros.study.entries import Study
from theoros.study.file import open_folder
from theoros.study.package import write_parts
from theoros.table.unread import UnreadTable
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make

ROOT = Path(__file__).parents[2]


def test_the_files_are_what_the_script_makes() -> None:
    made = runpy.run_path(str(ROOT / "scripts/make_demo.py"))["study"]()
    folder = ROOT / "src/theoros/demo"
    for name, data in write_parts(made).items():
        assert (folder / name).read_bytes() == data, name


def test_a_table_shows_its_cells_before_it_is_read() -> None:
    lazy = open_folder(ROOT / "src/theoros/demo", lazily=True)
    read = open_folder(ROOT / "src/theoros/demo")
    for one, other in zip(lazy.tables, read.tables, strict=True):
        assert isinstance(one, UnreadTable)
        assert not one.ready
        assert one.rows == other.rows
        for row in range(one.rows):
            for column in one.columns:
                assert one.cell_text(row, column.name) == other.cell_text(row, column.name)
        assert not one.ready
        assert one == other
        assert one.ready
        assert one.with_(noun="x").frame.equals(other.frame)


def test_the_demo_holds_what_the_verbs_are_there_to_find(demo: Study) -> None:
    def p(**slots) -> float:
        found = answer(make("test", **slots), demo.by_name)
        row = next(r for r in found.figures[0].rows if r.chosen)
        return float(row.cells[3].value)

    assert p(table="trays", what="moisture loss", by="withering", first="slow", second="quick",
             method="rank sum", centre="median", claim="greater", replicates=200) < 0.01  # fmt: skip
    assert (
        p(
            table="bushes",
            what="pluck mass",
            by="netting",
            first="open",
            second="netted",
            claim="greater",
            replicates=200,
        )
        < 0.001
    )
    # and one that is not there
    assert p(table="bushes", what="elevation", by="netting", first="open", second="netted", replicates=200) > 0.05
    assert demo.table("bushes").missing("leaf mass") == 2
    assert demo.table("visits").rows == 108

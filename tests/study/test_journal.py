"""The journal where it is hardest: damage, a full disk, no room at all, a clock set back."""

from __future__ import annotations

import json
import os
import resource
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from soak.edits_by_chance import ENTRY, TRAYS

from theoros.study import edits, journal, table_files
from theoros.study.entries import Study, StudyError
from theoros.study.file import save_study
from theoros.study.history import History
from theoros.study.journal import Journal, is_open_elsewhere, unsaved
from theoros.study.prints import sum_of
from theoros.study.table_files import TableFiles

BEGUN = Study("s", (TRAYS,), (ENTRY,))
THREE = [
    edits.SetTitle("one"),
    edits.AddTable(TRAYS.with_(name="racks")),
    edits.SetCells("racks", 0, 1, (("12",),)),
    edits.SetTitle("four"),
]


@pytest.fixture
def kept(tmp_path: Path) -> Journal:
    """A journal with four edits, as a killed program leaves it, begun from a file."""
    save_study(BEGUN, tmp_path / "s.theoros")
    made = Journal(tmp_path / "journals", tmp_path / "s.theoros")
    for edit in THREE:
        made.wrote(edit)
    made.close(discard=False)
    return made


def states() -> list[Study]:
    """The study before the edits, and after each."""
    history = History(BEGUN)
    return [BEGUN, *(history.do(edit) for edit in THREE)]


def recovered(folder: Path) -> tuple[Study, int]:
    (left,) = unsaved(folder)
    found = left.recover()
    return found.study, found.unread


def change_line(made: Journal, at: int, change) -> None:  # type: ignore[no-untyped-def]
    file = made.folder / "edits.jsonl"
    lines = file.read_bytes().splitlines(keepends=True)
    lines[at : at + 1] = change(lines[at])
    file.write_bytes(b"".join(lines))


@pytest.mark.parametrize("at", range(4))
@pytest.mark.parametrize(
    "change",
    [
        lambda line: [line.replace(b'{"edit":', b'{"edit" :')],
        lambda line: [],
        lambda line: [line, line],
        lambda line: [b"\n"],
        lambda line: [line[: len(line) // 2] + b"\n"],
        lambda line: [b'{"edit": "undo"}\n'],
    ],
    ids=["changed", "left out", "twice", "empty", "cut", "another"],
)
def test_a_damaged_line_stops_recovery_there(kept: Journal, tmp_path: Path, at: int, change) -> None:
    """Damage that leaves valid JSON is seen, too, and a line that is missing or doubled."""
    change_line(kept, at, change)
    study, unread = recovered(tmp_path / "journals")
    # a line that stands twice is good the first time; without the last line nothing is missing
    doubled = change(b"x") == [b"x", b"x"]
    good = at + 1 if doubled else at
    assert study == states()[good]
    assert unread == 0 if change(b"x") == [] and at == 3 else unread > 0


def test_what_was_read_is_gone_on_with_and_the_rest_is_kept(kept: Journal, tmp_path: Path) -> None:
    change_line(kept, 2, lambda line: [line.replace(b"12", b"13")])
    (left,) = unsaved(tmp_path / "journals")
    found = left.recover()
    assert (found.lines, found.unread) == (4, 2)
    on = Journal.going_on(found)
    on.wrote(edits.SetTitle("after"))
    on.close(discard=False)
    (left,) = unsaved(tmp_path / "journals")  # what is kept aside is not offered
    again = left.recover()
    assert (again.study.title, again.unread) == ("after", 0)
    assert b'"12"' not in (found.kept_aside / "edits.jsonl").read_bytes()
    assert b'"13"' in (found.kept_aside / "edits.jsonl").read_bytes()


@pytest.mark.parametrize("how", ["cut", "gone", "changed"])
def test_a_damaged_table_costs_what_came_after_it_and_no_more(kept: Journal, tmp_path: Path, how: str) -> None:
    (cells,) = kept.folder.glob("*.arrow")
    data = bytearray(cells.read_bytes())
    if how == "gone":
        cells.unlink()
    else:
        data[len(data) // 2] ^= 1
        cells.write_bytes(data[: len(data) // 2] if how == "cut" else data)
    study, unread = recovered(tmp_path / "journals")
    assert (study, unread) == (states()[1], 3)


def test_a_damaged_copy_is_replaced_by_the_file_it_was_made_of(kept: Journal, tmp_path: Path) -> None:
    (kept.folder / "base.theoros").write_bytes(b"PK")
    assert recovered(tmp_path / "journals") == (states()[-1], 0)
    save_study(BEGUN.with_(title="another"), tmp_path / "s.theoros")  # no longer that file
    with pytest.raises(StudyError, match="is damaged"):
        recovered(tmp_path / "journals")
    assert unsaved(tmp_path / "journals")  # and is still there, for another day


@contextmanager
def full(extra: int) -> Iterator[None]:
    """No file can grow beyond `extra` bytes: writing fails in the system itself, in mid-line."""
    before = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (extra, before[1]))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, before)


@pytest.mark.parametrize("room", [0, 10, 45, 60, 90, 200, 400])
def test_what_a_full_disk_refuses_waits_and_is_written_later(tmp_path: Path, room: int) -> None:
    made = Journal(tmp_path / "journals", None)
    made.wrote(edits.AddTable(TRAYS))
    size = (made.folder / "edits.jsonl").stat().st_size
    with full(size + room):
        for edit in THREE:
            made.wrote(edit)
        assert made.trouble
        assert made.waiting
        # a kill now: what is in the file is sound, and what waits is lost, no more
        before, unread = recovered_from(made)
        assert unread == 0
    made.catch_up()
    assert (made.trouble, made.waiting) == ("", 0)
    after, unread = recovered_from(made)
    history = History(Study())
    steps = [history.do(edit) for edit in (edits.AddTable(TRAYS), *THREE)]
    assert before in steps
    assert (after, unread) == (steps[-1], 0)
    made.close(discard=True)


def recovered_from(made: Journal) -> tuple[Study, int]:
    """What the files of a journal give as they lie there, while it is still open."""
    found = journal.Unsaved(made.folder, None, 1, 0.0).recover()
    return found.study, found.unread


def test_what_a_line_names_is_on_the_disk_before_it(tmp_path: Path, monkeypatch) -> None:
    done: list[str] = []
    made = Journal(tmp_path / "journals", None)
    sync, write = table_files.sync, os.write
    monkeypatch.setattr(table_files, "sync", lambda path: (done.append(path.name), sync(path)))

    def wrote(handle: int, data: bytes) -> int:
        done.append("line")
        return write(handle, data)

    monkeypatch.setattr(os, "write", wrote)
    made.wrote(edits.AddTable(TRAYS))
    monkeypatch.undo()
    key = json.loads((made.folder / "edits.jsonl").read_bytes().rpartition(b"\t")[0])["table"]["$table"]
    assert done.index(f"{key}.arrow") < done.index(f"{key}.json") < done.index("line")
    made.close(discard=True)


def test_where_no_journal_can_be_kept_it_is_said(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("in the way")
    with pytest.raises(StudyError, match=r"No journal can be kept in .*file.* Save often\.$"):
        Journal(tmp_path / "file" / "journals", None)


def test_a_clock_set_back_changes_the_order_alone(kept: Journal, tmp_path: Path) -> None:
    other = Journal(tmp_path / "journals", None)
    other.wrote(edits.SetTitle("of tomorrow"))
    other.close(discard=False)
    os.utime(other.folder / "edits.jsonl", (4e9, 4e9))
    os.utime(kept.folder / "edits.jsonl", (-1e6, -1e6))
    newest, oldest = unsaved(tmp_path / "journals")
    assert newest.recover().study.title == "of tomorrow"
    assert oldest.recover().study == states()[-1]


@pytest.mark.parametrize("what", ["", "{", "[]", "7"])
def test_a_damaged_note_about_it_is_no_reason_to_lose_the_work(kept: Journal, tmp_path: Path, what: str) -> None:
    (kept.folder / "about.json").write_text(what)
    study, unread = recovered(tmp_path / "journals")
    assert (study, unread) == (states()[-1], 0)


def test_what_was_cut_short_before_its_first_edit_is_cleared(tmp_path: Path) -> None:
    folder = tmp_path / "journals" / "20261126-000000-abcd"
    folder.mkdir(parents=True)
    (folder / "lock").touch()
    assert unsaved(tmp_path / "journals") == []
    assert not folder.exists()


def test_a_study_is_known_to_be_open_by_the_journal_that_is_held(tmp_path: Path) -> None:
    file, link = tmp_path / "s.theoros", tmp_path / "link.theoros"
    save_study(BEGUN, file)
    link.symlink_to(file)
    home = tmp_path / "journals"
    held = Journal(home, file)
    assert is_open_elsewhere(home, file, None)
    assert is_open_elsewhere(home, link, None)
    assert not is_open_elsewhere(home, file, held.folder)
    assert not is_open_elsewhere(home, tmp_path / "other.theoros", None)
    held.saved(tmp_path / "other.theoros", whole=True)  # saved as another: that one is open now
    assert is_open_elsewhere(home, tmp_path / "other.theoros", None)
    assert not is_open_elsewhere(home, file, None)
    held.close(discard=False)
    assert not is_open_elsewhere(home, tmp_path / "other.theoros", None)


def test_tables_come_back_exactly_or_not_at_all(tmp_path: Path) -> None:
    files = TableFiles(tmp_path)
    key = files.put(TRAYS)
    assert files.get(key) == TRAYS
    with full(0), pytest.raises(OSError, match=r"."):
        files.put(TRAYS)
    assert sorted(path.suffix for path in tmp_path.iterdir()) == [".arrow", ".json"]


@pytest.mark.parametrize("whole", [True, False])
def test_a_saving_that_missed_the_last_edits_is_not_the_end_of_them(tmp_path: Path, whole: bool) -> None:
    """Edits made while a file was written are in the journal alone: it must not be cleared."""
    home, file = tmp_path / "journals", tmp_path / "s.theoros"
    save_study(BEGUN, file)
    made = Journal(home, file)
    for edit in THREE:
        made.wrote(edit)
    made.saved(file, whole=whole)
    made.close(discard=False)
    left = unsaved(home)
    assert [one.edits for one in left] == ([] if whole else [len(THREE)])
    assert made.folder.exists() is not whole
    if not whole:
        assert left[0].recover().study == states()[-1]


def test_edits_after_a_whole_saving_alone_are_unsaved(tmp_path: Path) -> None:
    home, file = tmp_path / "journals", tmp_path / "s.theoros"
    save_study(BEGUN, file)
    made = Journal(home, file)
    for edit in THREE:
        made.wrote(edit)
    made.saved(file, whole=True)
    made.wrote(edits.SetTitle("five"))
    made.close(discard=False)
    (left,) = unsaved(home)
    assert left.edits == 1
    assert left.recover().study.title == "five"


def test_a_file_that_another_program_changed_is_not_taken_for_ours(tmp_path: Path) -> None:
    """The print of the file is kept only where it holds what it held when it was written last."""
    home, file = tmp_path / "journals", tmp_path / "s.theoros"
    save_study(BEGUN, file)
    made = Journal(home, file)
    made.wrote(THREE[0])
    made.saved(file, whole=False, sum_=sum_of(file))
    made.close(discard=False)
    assert unsaved(home)[0].recover().seen is not None
    save_study(Study("by somebody else"), file)
    assert unsaved(home)[0].recover().seen is None

"""What is told of a change: every table and entry that became another, and no other."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.study import edits
from theoros.study.entries import Entry, EntryBlock, Study, StudyError
from theoros.study.study_change import Change, change_between
from theoros.verbs.core.registry import make

STUDY = Study(
    tables=(make_table("one", x=[1.0, 2.0]), make_table("two", x=[3.0])),
    entries=(
        Entry("e1", make("describe", table="one")),
        Entry("e2", make("describe", table="two")),
        Entry("e3", make("probability", situation={"kind": "binomial", "n": 12, "p": 0.5})),
    ),
)
EDITS = {
    "cell": edits.SetCells("one", 0, 0, (("9",),)),
    "aside": edits.SetAside("two", (0,), True),
    "gone": edits.RemoveTable("one"),
    "deleted": edits.RemoveEntry("e2"),
    "asked": edits.AddEntry(Entry("e4", make("describe", table="two"))),
    "placed": edits.AddBlock(EntryBlock("r1", "e1")),
    "title": edits.SetTitle("Tea"),
}


def test_a_cell_concerns_the_entries_of_its_table_alone() -> None:
    change = done(EDITS["cell"])
    assert change.tables == {"one"}
    assert not change.entries
    assert not change.throughout
    assert [change.concerns(one) for one in STUDY.entries] == [True, False, False]


def test_decimals_and_another_study_concern_every_entry() -> None:
    for change in (done(edits.SetDigits(2, 2)), change_between(STUDY, STUDY, None)):
        assert all(change.concerns(one) for one in STUDY.entries)


@given(st.lists(st.sampled_from(sorted(EDITS)), max_size=5, unique=True))
def test_what_is_not_told_is_the_same(names: list[str]) -> None:
    study = STUDY
    for name in names:
        before, study = study, _applied(study, EDITS[name])
        change = change_between(before, study, EDITS[name])
        for told, was, now in (
            (change.tables, before.by_name, study.by_name),
            (change.entries, {one.id: one for one in before.entries}, {one.id: one for one in study.entries}),
        ):
            assert all((was.get(key) is now.get(key)) == (key not in told) for key in {*was, *now})


def done(edit: edits.Edit) -> Change:
    return change_between(STUDY, edit.apply(STUDY), edit)


def _applied(study: Study, edit: edits.Edit) -> Study:
    try:
        return edit.apply(study)
    except StudyError:  # an edit of what an earlier one renamed or deleted
        return study

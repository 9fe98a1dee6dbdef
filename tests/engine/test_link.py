"""The link and its process: turns, cancelling, hanging calls, crashes, what is left behind."""

from __future__ import annotations

import os
import signal
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import polars as pl
import pytest

from tests.conftest import make_table
from tests.engine.odd_tasks import Count, Die, Fail, Hang, HangWithin, Total
from theoros.answer.parts import answer_json
from theoros.engine import limits
from theoros.engine import link as link_module
from theoros.engine.folder import PREFIX, RuntimeFolder, sweep
from theoros.engine.link import MOST_CRASHES, EngineLink
from theoros.engine.tasks.answers import AnswerStatement, WarmUp
from theoros.study.edits import SetCells
from theoros.study.entries import Study
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, verbs


class Heard:
    """What a link tells of one task."""

    def __init__(self) -> None:
        self.steps: list[Any] = []
        self.ended: tuple[str, Any] | None = None

    def __call__(self, how: str, value: Any) -> None:
        if how == "step":
            self.steps.append(value)
        else:
            self.ended = how, value


def wait(condition, seconds: float = 20.0) -> None:
    end = time.monotonic() + seconds
    while not condition():
        assert time.monotonic() < end, "it did not happen"
        time.sleep(0.005)


@pytest.fixture
def link(tmp_path: Path) -> Iterator[EngineLink]:
    made = EngineLink("test engine", tmp_path)
    made.start()
    yield made
    made.end()


def done(link: EngineLink, task, tables=None) -> Heard:
    heard = Heard()
    link.run(task, tables or {}, heard)
    wait(lambda: heard.ended)
    return heard


def test_steps_come_in_order_and_the_end_is_told(link: EngineLink) -> None:
    heard = done(link, Count(5))
    assert (heard.steps, heard.ended) == ([0, 1, 2, 3, 4], ("end", None))


def test_a_long_task_does_not_hold_up_a_short_one(link: EngineLink) -> None:
    long, short = Heard(), Heard()
    link.run(Count(2000, 0.002), {}, long)
    wait(lambda: long.steps)
    link.run(Count(3), {}, short)
    wait(lambda: short.ended)
    assert long.ended is None


def test_a_cancelled_task_is_not_heard_of_again(link: EngineLink, monkeypatch) -> None:
    monkeypatch.setattr(link_module, "PATIENCE", 60.0)  # a busy machine may keep the process from its turn
    heard = Heard()
    number = link.run(Count(5000, 0.002), {}, heard)
    wait(lambda: heard.steps)
    link.cancel(number)
    seen = len(heard.steps)
    done(link, Count(3))
    time.sleep(0.1)
    assert len(heard.steps) <= seen + 1
    assert heard.ended is None
    assert link.starts == 1


def test_a_call_that_does_not_return_ends_its_process(link: EngineLink, monkeypatch) -> None:
    monkeypatch.setattr(link_module, "PATIENCE", 0.2)
    hung, other = Heard(), Heard()
    number = link.run(Hang(), {}, hung)
    wait(lambda: hung.steps)
    link.run(Count(3), {}, other)  # waits behind the call, and is asked again afterwards
    link.cancel(number)
    wait(lambda: other.ended, 60)
    assert other.ended == ("end", None)
    assert link.starts == 2
    assert hung.ended is None


def test_waiting_long_behind_another_is_no_reason_to_end_it(link: EngineLink) -> None:
    slow, behind = Heard(), Heard()
    link.run(Hang(2.0), {}, slow)
    wait(lambda: slow.steps)
    link.cancel(link.run(Count(3), {}, behind))
    wait(lambda: slow.ended)
    assert slow.steps == ["begun", "done"]
    assert link.starts == 1


def test_a_failure_is_told_and_the_process_goes_on(link: EngineLink) -> None:
    assert done(link, Fail()).ended == ("fail", "RuntimeError: the abacus broke")
    assert done(link, Count(1)).steps == [0]
    assert link.starts == 1


def test_a_crash_costs_one_answer_which_is_asked_again(link: EngineLink, tmp_path: Path) -> None:
    heard = done(link, Die(tmp_path / "died once"))
    assert heard.ended == ("end", None)
    assert heard.steps[-1] == "survived"
    assert heard.steps[0] != heard.steps[1]  # another process
    assert link.starts == 2


def test_a_second_crash_is_told(link: EngineLink) -> None:
    heard = done(link, Die())
    assert heard.ended is not None
    how, message = heard.ended
    assert (how, "ended twice without a word" in message) == ("fail", True)
    assert done(link, Count(2)).steps == [0, 1]


def test_a_process_killed_from_outside_while_it_works_is_begun_anew(link: EngineLink) -> None:
    table = make_table("t", loss=[float(k % 37) for k in range(4000)], method=["s", "q"] * 2000)
    statement = make(
        "test", table="t", what="loss", by="method", first="s", second="q", method="shuffled labels", replicates=20_000
    )
    heard = Heard()
    link.run(AnswerStatement(statement), {"t": table}, heard)
    wait(lambda: heard.steps)
    os.kill(link.pid, signal.SIGKILL)
    wait(lambda: heard.ended, 60)
    assert heard.ended == ("end", None)
    wanted = answer(statement, {"t": table})
    assert answer_json(heard.steps[-1].answer) == answer_json(wanted)


def test_only_columns_that_changed_are_sent(link: EngineLink) -> None:
    columns = {f"c{k}": [float(k), 2.0, 3.0] for k in range(8)}
    study = Study("", (make_table("t", **columns), make_table("u", v=[1.0])))
    total, cached, names = done(link, Total("t", "c3"), study.by_name).steps[0]
    assert (total, list(names)) == (8.0, ["t", "u"])
    assert link.columns_written == 8  # of the other table only the head was needed
    edited = SetCells("t", 0, 3, (("10",),)).apply(study)
    assert done(link, Total("t", "c3"), edited.by_name).steps[0][0] == 15.0
    assert link.columns_written == 9
    # what was worked out of another column is still known there
    total, cached, _ = done(link, Total("t", "c5"), edited.by_name).steps[0]
    again = SetCells("t", 0, 0, (("7",),)).apply(edited)
    total, cached, _ = done(link, Total("t", "c5"), again.by_name).steps[0]
    assert cached == ["numbers"]
    assert link.columns_written == 10
    # going back costs the columns that are out of use again, and no more
    done(link, Total("t", "c5"), study.by_name)
    assert link.columns_written == 12


@pytest.mark.parametrize("kind", list(Kind))
def test_every_kind_of_column_arrives_as_it_was(link: EngineLink, kind: Kind) -> None:
    from theoros.engine.tables import Receiver, Sender
    from theoros.table.table import Column

    texts = {"number": [1.5, None, -0.0, 1e300], "date": [0, None, 19_000, -5]}
    held = texts.get(kind.value, ["a", None, "", "a level longer than twelve letters"])
    dtype = kind.dtype
    series = pl.Series("x", held, dtype=pl.Int32 if kind is Kind.DATE else None).cast(dtype)
    about = Column("x", kind, "g", "what it means")
    table = Table("t", (about,), pl.DataFrame([series]), "cup", frozenset({2}), provenance=("made",))
    handed = Sender(link.folder.path).hand(table)
    assert Receiver(link.folder.path).table(handed) == table


def test_answers_are_those_of_this_process(link: EngineLink, demo: Study) -> None:
    for entry in demo.entries:
        heard = done(link, AnswerStatement(entry.statement), demo.by_name)
        wanted = answer_json(answer(entry.statement, demo.by_name))
        assert answer_json(heard.steps[-1].answer) == wanted


def test_the_folder_is_gone_after_leaving_and_swept_after_a_crash(tmp_path: Path) -> None:
    link = EngineLink("test engine", tmp_path)
    link.start()
    done(link, Count(1))
    assert list(tmp_path.glob(f"{PREFIX}*"))
    link.end()
    assert not list(tmp_path.glob(f"{PREFIX}*"))
    left = RuntimeFolder(tmp_path)
    (left.path / "column").write_bytes(b"x")
    assert sweep(tmp_path) == 0  # its program runs
    left._lock.close()  # as when it was killed
    assert sweep(tmp_path) == 1
    assert not list(tmp_path.glob(f"{PREFIX}*"))


def test_the_process_ends_with_its_program(tmp_path: Path) -> None:
    import subprocess
    import sys

    code = (
        "import os, sys, time\n"
        "from pathlib import Path\n"
        "from theoros.engine.link import EngineLink\n"
        "link = EngineLink('e', Path(sys.argv[1])); link.start(); print(link.pid, flush=True)\n"
        "time.sleep(60)\n"
    )
    program = subprocess.Popen([sys.executable, "-c", code, str(tmp_path)], stdout=subprocess.PIPE)
    assert program.stdout is not None
    pid = int(program.stdout.readline())
    program.kill()
    program.wait()

    def gone() -> bool:
        try:
            state = Path(f"/proc/{pid}/stat").read_text().split(")")[-1].split()[0]
        except OSError:
            return True
        return state == "Z"

    wait(gone)


def test_getting_ready_imports_the_answers_of_every_verb(tmp_path) -> None:
    assert list(WarmUp().steps({}, tmp_path))
    ready = {name.split(".")[2] for name in sys.modules if name.endswith(".answering")}
    assert ready >= set(verbs())


def test_limits_grow_with_the_file_but_not_beyond_what_there_is(tmp_path: Path, monkeypatch) -> None:
    small, large = tmp_path / "small.csv", tmp_path / "large.csv"
    small.write_bytes(b"x")
    with large.open("wb") as file:
        file.truncate(400_000_000_000)  # a sparse file: nothing is written
    least, most = limits.limits_for(small), limits.limits_for(large)
    assert limits.LEAST_MEMORY <= least.memory < limits.LEAST_MEMORY + 1000
    assert limits.LEAST_SECONDS <= least.seconds < limits.LEAST_SECONDS + 0.1
    assert (most.memory, most.seconds) == (limits.most_memory(), limits.MOST_SECONDS)
    assert limits.limits_for(tmp_path / "none").memory == limits.LEAST_MEMORY
    assert least.patience > least.seconds


def test_a_task_with_limits_is_ended_at_once_when_it_is_cancelled(link: EngineLink, monkeypatch) -> None:
    """It is not waited for, however long another would be."""
    monkeypatch.setattr(link_module, "PATIENCE", 600.0)
    hung, other = Heard(), Heard()
    number = link.run(HangWithin(), {}, hung)
    wait(lambda: hung.steps)
    link.cancel(number)
    link.run(Count(1), {}, other)
    wait(lambda: other.ended, 60)
    assert link.starts == 2


def test_a_task_is_asked_again_once_and_no_more(link: EngineLink, tmp_path: Path) -> None:
    starts = link.starts
    heard = done(link, Die())
    assert heard.ended is not None
    assert heard.ended[0] == "fail"
    assert link.starts == starts + MOST_CRASHES == starts + 2

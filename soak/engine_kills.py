"""The engine and the reader, killed while they work: the answer comes all the same."""

from __future__ import annotations

import os
import queue
import signal
import tempfile
import time
from pathlib import Path
from typing import Any

from soak.tally import Budget, Tally
from soak.traps import TRAPS
from theoros.engine.folder import RUNNING
from theoros.engine.link import EngineLink
from theoros.engine.tasks.answers import AnswerStatement
from theoros.engine.tasks.reading_files import ReadBack, ReadTable
from theoros.engine.tasks.task import Task
from theoros.study.file import demo_study
from theoros.verbs.core.registry import make

PATIENCE = 60.0


def run(budget: Budget) -> Tally:
    tally = Tally("kill -9 of the engine and of readers", "500: the answer comes all the same")
    tables = demo_study().by_name
    statement = make("test", table="trays", what="moisture loss", by="withering", first="slow", second="quick")
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder)
        file = home / "spaced.csv"
        TRAPS["spaced.csv"](file)
        file.write_bytes(file.read_bytes()[:1_500_000].rsplit(b"\n", 1)[0] + b"\n")
        link = EngineLink("engine", home)
        link.start()
        wanted: dict[str, str] = {}
        late = 0
        for at in budget.rounds(tally):
            reads = at % 2 == 1
            task: Task = ReadTable(file, None) if reads else AnswerStatement(statement)
            told: queue.SimpleQueue[tuple[str, Any]] = queue.SimpleQueue()
            number = link.run(task, {} if reads else tables, lambda how, value, told=told: told.put((how, value)))
            late += not _kill(link, number, budget)
            how, value = _last(told)
            found = f"{value.table.rows}" if isinstance(value, ReadBack) else _words(value)
            if how != "end" or found != wanted.setdefault(type(task).__name__, found):
                tally.fail(f"round {at}: {type(task).__name__} gave {how} {found[:200]}")
        tally.notes.append(f"{link.starts} processes; {late} were done before they were killed")
        link.end()
    return tally


def _kill(link: EngineLink, number: int, budget: Budget) -> bool:
    """Kills the process while it works on the task; False where that was over already."""
    late = time.monotonic() + PATIENCE
    while time.monotonic() < late:
        try:
            at_work = int((link.folder.path / RUNNING).read_text() or 0)
        except (OSError, ValueError):
            at_work = 0
        if at_work == number:
            break
        if at_work > number:
            return False
        time.sleep(0.0005)
    time.sleep(budget.chance.random() * 0.03)
    os.kill(link.pid, signal.SIGKILL)
    return True


def _last(told: queue.SimpleQueue[tuple[str, Any]]) -> tuple[str, Any]:
    last = None
    while True:
        how, value = told.get(timeout=PATIENCE)
        if how != "step":
            return how, last if how == "end" else value
        last = value


def _words(value: Any) -> str:
    answer = getattr(value, "answer", value)
    return str(getattr(getattr(answer, "reading", None), "headline", value))

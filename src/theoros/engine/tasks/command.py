"""Answering from the command line: all of it in a process with limits, as files come from anywhere.

What is asked and what is told pass as text, so that the process of the command line stays light
and outlives whatever a file or a statement does to the one that reads and answers.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

from theoros.engine.limits import MEMORY, TIME, Limits, limits_for, most_memory
from theoros.engine.tasks.task import Task
from theoros.files import json_text
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.study.entries import Study

SECONDS = 300.0
"""Of the processor, for the answers of a command, besides what its files take."""


@dataclass(frozen=True)
class Refused:
    """What is wrong with a command, as one sentence."""

    sentence: str


@dataclass(frozen=True)
class Command(Task):
    """Answers a statement about tables, or all entries of a study; gives JSON as text."""

    statement: str
    """As JSON; empty for the entries of a study."""
    tables: tuple[Path, ...] = ()
    study: Path | None = None

    @property
    def limits(self) -> Limits:
        files = (*self.tables, *([self.study] if self.study else []))
        read = limits_for(*files)
        return Limits(max(read.memory, most_memory() // 2), read.seconds + SECONDS)

    def ended(self, why: str) -> str:
        if why == MEMORY:
            return "The answer takes more memory than this machine can give it."
        if why == TIME:
            return f"The answer takes more than {self.limits.seconds:.0f} seconds."
        return "The process that answers ended without a word: the files may be damaged."

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        yield answered(self)


def answered(command: Command) -> str | Refused:
    """What a command comes to: JSON as text, or what is wrong with it."""
    try:
        made: Any = (
            _answer_study(command.study)
            if command.study is not None
            else _answer_one(command.statement, command.tables)
        )
    except ValueError as problem:
        return Refused(str(problem))
    return json.dumps(_finite(made), indent=2, ensure_ascii=False, allow_nan=False)


def _answer_one(written: str, files: tuple[Path, ...]) -> dict[str, Any]:
    from theoros.answer.parts import answer_json
    from theoros.files.formats import open_table
    from theoros.verbs.core.answering import answer
    from theoros.verbs.core.registry import statement_from_json

    names = [path.stem for path in files]
    for name in names:
        if names.count(name) > 1:
            raise ValueError(f"Two files would be the table “{name}”. Rename one.")
    statement = statement_from_json(_loaded(written))
    tables = {path.stem: open_table(path).table for path in files}
    if misread := statement.misread(tables):
        raise ValueError(misread)
    found = answer(statement, tables)
    if found.problem:
        raise ValueError(found.problem.sentence)
    return {"statement": statement.to_json(), **answer_json(found)}


def _answer_study(path: Path) -> list[dict[str, Any]]:
    from theoros.answer.digits import using
    from theoros.answer.parts import answer_json
    from theoros.study.file import open_study
    from theoros.verbs.core.answering import answer

    study: Study = open_study(path)
    with using(study.digits):
        return [
            {
                "id": entry.id,
                "title": entry.name(study.by_name),
                "statement": entry.statement.to_json(),
                **answer_json(answer(entry.statement, study.by_name)),
            }
            for entry in study.entries
        ]


def _loaded(written: str) -> Any:
    try:
        return json_text.load(written, parse_constant=_no_constant)
    except RecursionError:
        raise ValueError("The statement is not valid JSON: it is nested too deep.") from None
    except ValueError as problem:
        raise ValueError(f"The statement is not valid JSON: {problem}.") from None


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is no number")


def _finite(value: Any) -> Any:
    """JSON has no infinities; where a figure is one, it is null."""
    if isinstance(value, float) and not math.isfinite(value):
        return None
    if isinstance(value, dict):
        return {key: _finite(held) for key, held in value.items()}
    return [_finite(held) for held in value] if isinstance(value, list | tuple) else value

"""A guide of a verb: a few plain questions that lead to one of its statements, filled in."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from theoros.table.table import Table
from theoros.verbs.core.slots import Option, Tables
from theoros.verbs.core.statement import Statement

Answers = Mapping[str, str]
"""What was answered, by the key of the question."""


@dataclass(frozen=True)
class GuideQuestion:
    """A question with its answers, the one that is given, and a word of explanation."""

    key: str
    text: str
    options: tuple[Option, ...]
    given: str
    help: str = ""


@dataclass(frozen=True)
class Guide:
    label: str
    """What it is called, as a question: "Which test?"."""
    help: str
    preset: Callable[[Table | None, Sequence[str]], dict[str, str]]
    """What the columns that are selected answer already."""
    questions: Callable[[Answers, Table | None], tuple[GuideQuestion, ...]]
    """The questions that are to be asked, as far as the answers lead."""
    statement: Callable[[Answers, Tables, str, Sequence[str]], Statement]
    """Where the answers lead, with the table and the columns that are selected."""

"""Edits of the report, and the title of the study."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.digits import Digits
from theoros.study.edits.edit import Edit
from theoros.study.entries import Block, EntryBlock, Study, StudyError, TextBlock


def _with_block(study: Study, key: str, changed: Callable[[Block], Block]) -> Study:
    """The study with one block of its report changed."""
    return study.with_(report=tuple(changed(b) if b.id == key else b for b in study.report))


@dataclass(frozen=True)
class AddBlock(Edit):
    """A block placed in the report, before position `at` or at the end."""

    kind: ClassVar[str] = "add block"
    block: Block
    at: int | None = None
    label: ClassVar[str] = "placing in the report"

    def apply(self, study: Study) -> Study:
        if isinstance(self.block, EntryBlock):
            study.entry(self.block.entry)
        at = len(study.report) if self.at is None else self.at
        return study.with_(report=(*study.report[:at], self.block, *study.report[at:]))


@dataclass(frozen=True)
class SetText(Edit):
    kind: ClassVar[str] = "set text"
    id: str
    text: str
    label: ClassVar[str] = "writing in the report"

    def apply(self, study: Study) -> Study:
        return _with_block(study, self.id, lambda _: TextBlock(self.id, self.text))


@dataclass(frozen=True)
class MoveBlock(Edit):
    """A block moved to another position of the report."""

    kind: ClassVar[str] = "move block"
    id: str
    to: int
    label: ClassVar[str] = "moving in the report"

    def apply(self, study: Study) -> Study:
        moved = [b for b in study.report if b.id == self.id]
        rest = [b for b in study.report if b.id != self.id]
        return study.with_(report=tuple(rest[: self.to] + moved + rest[self.to :]))


@dataclass(frozen=True)
class RemoveBlock(Edit):
    kind: ClassVar[str] = "remove block"
    id: str
    label: ClassVar[str] = "taking out of the report"

    def apply(self, study: Study) -> Study:
        return study.with_(report=tuple(b for b in study.report if b.id != self.id))


@dataclass(frozen=True)
class ShowParts(Edit):
    """Which parts of a placed entry the report shows; none for those that suit it."""

    kind: ClassVar[str] = "show parts"
    id: str
    parts: tuple[str, ...] | None
    label: ClassVar[str] = "what the report shows"

    def apply(self, study: Study) -> Study:
        return _with_block(
            study, self.id, lambda block: replace(block, parts=self.parts) if isinstance(block, EntryBlock) else block
        )


@dataclass(frozen=True)
class SetDigits(Edit):
    """With how many decimals p-values and statistics are written in this study."""

    kind: ClassVar[str] = "set digits"
    p: int
    statistic: int
    label: ClassVar[str] = "decimals"

    def apply(self, study: Study) -> Study:
        try:
            return study.with_(digits=Digits(self.p, self.statistic))
        except ValueError:
            raise StudyError("Numbers cannot be written with so many decimals.") from None


@dataclass(frozen=True)
class SetTitle(Edit):
    kind: ClassVar[str] = "set title"
    title: str
    label: ClassVar[str] = "naming the study"

    def apply(self, study: Study) -> Study:
        return study.with_(title=" ".join(self.title.split())[:200])

"""Why a statement has no answer. Light to import: statements themselves need no more."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Problem:
    """Why there is no answer, and what to do about it."""

    sentence: str
    slot: str = ""
    """The slot to change, where it is one."""
    offers: tuple[tuple[str, str, Any], ...] = ()
    """What would put it right, each as words, a slot and the value to put there."""


class CannotAnswer(Exception):
    """Raised where a statement and its data have no answer, with a sentence for the student."""

    def __init__(self, sentence: str, slot: str = "", offers: tuple[tuple[str, str, Any], ...] = ()) -> None:
        super().__init__(sentence)
        self.problem = Problem(sentence, slot, offers)

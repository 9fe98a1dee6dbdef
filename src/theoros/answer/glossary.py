"""The words of statistics that readings use, each with a plain meaning and an example; its texts stand in glossary.md.

A sentence is written for the answer at hand. What a word means in every answer is said here once, and opens where
the word stands.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path


@dataclass(frozen=True)
class GlossaryTerm:
    """A word or phrase with its meaning."""

    name: str
    forms: tuple[str, ...]
    """How it stands in sentences; the name first."""
    meaning: str
    example: str


@dataclass(frozen=True)
class TermPlace:
    """Where a term stands in a text: from `start` up to `end`."""

    start: int
    end: int
    term: GlossaryTerm


@cache
def terms() -> dict[str, GlossaryTerm]:
    """All terms by their names, in alphabetical order."""
    text = Path(__file__).with_name("glossary.md").read_text(encoding="utf-8")
    made = []
    for part in text.removeprefix("## ").split("\n## "):
        head, _, rest = part.partition("\n")
        meaning, _, example = rest.partition("\nExample: ")
        forms = tuple(form.strip() for form in head.split(";"))
        made.append(GlossaryTerm(forms[0], forms, meaning.strip(), example.strip()))
    return {term.name: term for term in sorted(made, key=lambda term: term.name.lower())}


@cache
def _by_form() -> dict[str, GlossaryTerm]:
    return {form.lower(): term for term in terms().values() for form in term.forms}


@cache
def _pattern() -> re.Pattern[str]:
    """Every form, the longest first, as whole words; no break between words of a form is told from a space."""
    forms = sorted(_by_form(), key=len, reverse=True)
    said = "|".join(re.escape(form).replace(r"\ ", "[ \u00a0]") for form in forms)
    return re.compile(rf"(?<![\w’-])(?:{said})(?![\w’-])", re.IGNORECASE)


def term_of(form: str) -> GlossaryTerm | None:
    """The term that a word or phrase is a form of."""
    return _by_form().get(form.replace("\u00a0", " ").lower())


def terms_in(text: str, known: Iterable[str] = ()) -> Iterator[TermPlace]:
    """The first place of each term in a marked-up text, but for those whose names are `known`."""
    seen = set(known)
    for found in _pattern().finditer(text):
        term = term_of(found[0])
        if term is not None and term.name not in seen:
            seen.add(term.name)
            yield TermPlace(found.start(), found.end(), term)

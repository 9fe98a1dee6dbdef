"""Which parts of an entry the report shows: those chosen, else those that suit its answer."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from theoros.answer.parts import Answer, ResultTable


def main_figures(found: Answer) -> tuple[ResultTable, ...]:
    return tuple(figures for figures in found.figures if not figures.methods)


def other_ways(found: Answer) -> tuple[ResultTable, ...]:
    return tuple(figures for figures in found.figures if figures.methods)


_THERE: Mapping[str, Callable[[Answer], object]] = {
    "picture": lambda found: found.picture,
    "hypotheses": lambda found: found.symbols,
    "figures": lambda found: main_figures(found) or found.sections,
    "other ways": other_ways,
    "reading": lambda found: found.reading.headline or found.reading.paragraphs,
    "conditions": lambda found: found.reading.assumptions,
    "cautions": lambda found: found.reading.cautions,
    "working": lambda found: found.working,
    "five steps": lambda found: found.writeup,
}
REPORT_PARTS = tuple(_THERE)
"""All parts by name, in the order in which they stand."""


def offered(found: Answer) -> tuple[str, ...]:
    """The parts that an answer has."""
    return tuple(part for part, there in _THERE.items() if there(found))


def suited(found: Answer) -> tuple[str, ...]:
    """The parts that make one argument: where the five steps stand, nothing is said twice."""
    left_out = {"other ways", "working"}
    if found.writeup:
        left_out |= {"hypotheses", "reading", "conditions"}
    return tuple(part for part in offered(found) if part not in left_out)


def shown(found: Answer, parts: tuple[str, ...] | None) -> tuple[str, ...]:
    """The parts to show of an answer, as they were chosen for its place in the report."""
    if parts is None:
        return suited(found)
    return tuple(part for part in offered(found) if part in parts)

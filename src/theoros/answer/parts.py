"""The parts of an answer besides its picture: figures, reading, working. All are values."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Literal

from theoros.answer.cannot import Problem
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.written import to_latex, to_line
from theoros.answer.wording import NONE, to_plain
from theoros.lazy_imports import np

if TYPE_CHECKING:
    from theoros.answer.picture import Picture

Tone = Literal["", "good", "bad", "warn", "mute", "ink"]
"""What a figure or a symbol is coloured for."""
Mark = Literal["holds", "fails", "judge"]
MARKS: dict[str, str] = {"holds": "✓", "fails": "✕", "judge": "?"}
MARK_WORDS: dict[str, str] = {"holds": "holds", "fails": "fails", "judge": "for you to judge"}


@dataclass(frozen=True)
class Cell:
    """One figure: how it is written, its full value, and the rows that stand behind it."""

    text: str
    value: float | int | str | None = None
    rows: tuple[int, ...] = ()
    tone: Tone = ""
    edits: str = ""
    """The slot that typing over it sets; its `value` is then what was typed."""


@dataclass(frozen=True)
class Heading:
    """A column of figures."""

    key: str
    label: str
    numeric: bool = True
    help: str = ""


@dataclass(frozen=True)
class FigureRow:
    cells: tuple[Cell, ...]
    sets: tuple[str, Any] | None = None
    """The slot and value that choosing this row puts into the statement."""
    chosen: bool = False
    links: tuple[Link, ...] = ()
    """What its figures can be carried into."""
    waits: bool = False
    """Whether it holds nothing yet and waits to be typed; it stands on the page alone."""


@dataclass(frozen=True)
class ResultTable:
    """A table of figures. `key` names it in machine-read output."""

    key: str
    headings: tuple[Heading, ...]
    rows: tuple[FigureRow, ...]
    title: str = ""
    methods: bool = False
    """Whether its rows are other ways to the same end, of which one is chosen."""

    @property
    def filled(self) -> tuple[FigureRow, ...]:
        """The rows that hold something."""
        return tuple(row for row in self.rows if not row.waits)

    def to_lines(self) -> list[list[str]]:
        """Headings and cells as plain text, for copying."""
        head = [to_plain(heading.label) for heading in self.headings]
        return [head, *([to_plain(cell.text) for cell in row.cells] for row in self.filled)]


@dataclass(frozen=True)
class Choice:
    """One way to answer a question that only the student can answer."""

    label: str
    slot: str
    value: Any
    chosen: bool = False


@dataclass(frozen=True)
class Assumption:
    """An assumption as it stands: it holds, it fails, or it is left to judgement, with choices."""

    mark: Mark
    text: str
    choices: tuple[Choice, ...] = ()
    rows: tuple[int, ...] = ()
    brief: str = ""
    """What a table of methods says of it where it does not hold."""
    remedy: str = ""
    """What would help, where that is more than another method: "merge"."""
    line: str = ""
    """The same for the steps of a report; the text by default."""
    key: str = ""
    """What the statement calls it, of one that only the student can judge."""

    def told(self) -> str:
        """A line of a report, behind its mark."""
        return f"{MARKS[self.mark]} {self.line or self.text}"


@dataclass(frozen=True)
class Link:
    """Something worth doing next: another statement, a change of this one, or rows to see."""

    label: str
    statement: Any = None
    sets: tuple[str, Any] | None = None
    rows: tuple[int, ...] = ()
    figures: str = ""
    """The key of figures of this answer that become a table of the study."""
    draws: str = ""
    """What of the statement becomes a table of the study, worked out anew for that."""
    copies: str = ""
    """Text that is put on the clipboard."""
    aside: bool | None = None
    """Whether `rows` are to be set aside (True) or taken back (False) rather than shown."""


@dataclass(frozen=True)
class Reading:
    """The answer in words and in context."""

    headline: str = ""
    paragraphs: tuple[str, ...] = ()
    assumptions: tuple[Assumption, ...] = ()
    assumptions_title: str = "Conditions"
    cautions: tuple[str, ...] = ()
    next: tuple[Link, ...] = ()


@dataclass(frozen=True)
class Step:
    """A step of the working, as on a board: formula, with the numbers put in, result.

    A line is a sentence, or a formula.
    """

    title: str
    lines: tuple[str | Formula, ...]

    @property
    def formulas(self) -> tuple[Formula, ...]:
        return tuple(line for line in self.lines if isinstance(line, Formula))

    def to_lines(self) -> list[str]:
        """Its lines as plain text."""
        return [to_plain(line) if isinstance(line, str) else to_line(line) for line in self.lines]


@dataclass(frozen=True)
class Symbol:
    """A piece of the line of hypotheses; `tone` colours what warns or confirms."""

    text: str
    tone: Tone = ""


@dataclass(frozen=True)
class Control:
    """Something to do with what is shown, as a button: "one more", "run to N", "start over"."""

    label: str
    sets: tuple[str, Any]
    """The slot and the value that it puts there."""
    main: bool = False
    """Whether it is the one that is done most."""
    adds: int = 0
    """By how much it raises a number each time; held down, it does so in growing steps."""
    asks: str = ""
    """A slot that is typed within the button, as the N of "run to N"; empty for none."""


@dataclass(frozen=True)
class Section:
    """A part of an answer that stands on its own: a picture with a title, controls and figures."""

    title: str = ""
    picture: Picture | None = None
    controls: tuple[Control, ...] = ()
    note: str = ""
    """A line beside the controls: "mean 3.11 · SD 1.66"."""
    figures: tuple[ResultTable, ...] = ()


@dataclass(frozen=True)
class Answer:
    """All that follows from a statement and its tables."""

    caption: str = ""
    """The statement as it is said; it is put in for every verb where the answer is asked for."""
    symbols: tuple[Symbol, ...] = ()
    picture: Picture | None = None
    above: tuple[Section, ...] = ()
    """What stands above the picture, such as the sample that it comes from."""
    sections: tuple[Section, ...] = ()
    """What stands below the picture, above the figures, in order."""
    figures_first: bool = False
    """Whether the figures stand above the sections instead, as where those follow from them."""
    figures: tuple[ResultTable, ...] = ()
    reading: Reading = Reading()
    working: tuple[Step, ...] = ()
    writeup: tuple[Step, ...] = ()
    """The whole argument in steps, ready for a report; where a verb has one."""
    used: int = 0
    """Rows in use."""
    left_out: tuple[str, ...] = ()
    """Which rows were not used, and why, in words."""
    seed: int | None = None
    problem: Problem | None = None
    numbers: Mapping[str, Any] = field(default_factory=dict)
    """Every number behind the answer by name, nested where there are several of a kind; for
    machine-read output, which has no picture to read them from."""


@dataclass(frozen=True)
class Draft:
    """An answer on its way: what is known so far, and how much of the work is done."""

    answer: Answer | None
    done: float = 1.0
    doing: str = "Working"
    """What is being done, in a word or two, for the line that tells how far it is."""


def cell(value: float | int | None, text: str | None = None, **more: Any) -> Cell:
    """A cell of a number; one that is not there or not finite shows a dash and no value."""
    if value is None or (isinstance(value, float) and not math.isfinite(value)):
        return Cell(NONE, None, **more)
    plain = value.item() if isinstance(value, np.generic) else value
    return Cell(str(plain) if text is None else text, plain, **more)


def answer_json(answer: Answer) -> dict[str, Any]:
    """An answer as plain JSON values, every figure at full precision."""
    reading = answer.reading
    made: dict[str, Any] = {"statement_text": answer.caption}
    if answer.problem:
        made["problem"] = answer.problem.sentence
        return made
    made |= {
        "symbols": [to_plain(symbol.text) for symbol in answer.symbols],
        "figures": {figures.key: _figures_json(figures) for figures in answer.figures},
        "reading": {
            "headline": to_plain(reading.headline),
            "paragraphs": [to_plain(text) for text in reading.paragraphs],
            "conditions": [{"mark": MARK_WORDS[c.mark], "text": to_plain(c.text)} for c in reading.assumptions],
            "cautions": [to_plain(text) for text in reading.cautions],
            "next": [_link_json(link) for link in reading.next],
        },
        "working": [_step_json(step) for step in answer.working],
        "rows_used": answer.used,
        "left_out": list(answer.left_out),
        "picture": to_plain(answer.picture.alt) if answer.picture else None,
        "seed": answer.seed,
        "numbers": _plain(answer.numbers),
    }
    if answer.above or answer.sections:
        made["sections"] = [
            {
                "title": to_plain(section.title),
                "picture": to_plain(section.picture.alt) if section.picture else None,
                "note": to_plain(section.note),
                "figures": {figures.key: _figures_json(figures) for figures in section.figures},
            }
            for section in (*answer.above, *answer.sections)
        ]
    if answer.writeup:
        made["writeup"] = [_step_json(step) for step in answer.writeup]
    return made


def _step_json(step: Step) -> dict[str, Any]:
    made: dict[str, Any] = {"title": step.title, "lines": step.to_lines()}
    if step.formulas:
        made["latex"] = [None if isinstance(line, str) else to_latex(line) for line in step.lines]
    return made


def _plain(value: Any) -> Any:
    """Nested numbers as JSON values; what is not finite is null."""
    if isinstance(value, Mapping):
        return {str(key): _plain(one) for key, one in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(one) for one in value]
    if isinstance(value, np.generic):
        value = value.item()
    return None if isinstance(value, float) and not math.isfinite(value) else value


def _cell_json(cell: Cell) -> Any:
    """The value of a cell, or what it says where it has none but words."""
    if cell.value is not None and cell.value != "":
        return cell.value
    return to_plain(cell.text) or cell.value if cell.text != NONE else None


def _link_json(link: Link) -> dict[str, Any]:
    """What can be done next, with the slot that it sets."""
    made: dict[str, Any] = {"label": to_plain(link.label)}
    if link.sets is not None:
        made["sets"] = {link.sets[0]: link.sets[1]}
    return made


def _figures_json(figures: ResultTable) -> list[dict[str, Any]]:
    made = []
    for row in figures.filled:
        line: dict[str, Any] = {
            heading.key: _cell_json(cell) for heading, cell in zip(figures.headings, row.cells, strict=True)
        }
        rows = sorted({at + 1 for cell in row.cells for at in cell.rows})
        if rows:
            line["rows"] = rows
        if row.chosen:
            line["chosen"] = True
        made.append(line)
    return made

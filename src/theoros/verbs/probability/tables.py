"""Tables that answers of probability share: the parts of a question, how often they came true."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.wording import rounded, whole
from theoros.verbs.probability.statement import ProbabilityStatement
from theoros.verbs.probability.words import LETTERS


@dataclass(frozen=True)
class PartRow:
    """A part in the table of parts: as it was typed, said and written, and what it comes to."""

    typed: str
    words: str
    symbols: str
    probability: float | None
    said: str
    many: str
    more: tuple[Cell, ...] = ()
    """Cells of further columns."""


def parts_table(
    s: ProbabilityStatement, rows: Sequence[PartRow | None], each: str, hint: str, more: Sequence[Heading] = ()
) -> ResultTable:
    """A row for each part (None where it is not understood), and one to type another.

    `each` is what repetitions are called, `hint` an example of a part.
    """
    headings = (
        Heading("part", "part", numeric=False),
        Heading("words", "in words", numeric=False, help="Type over it to ask something else."),
        Heading("symbols", "in symbols", numeric=False, help="Type over it as well."),
        Heading("probability", "probability"),
        Heading("about", f"of {whole(s.per)} {each}, about", numeric=False),
        *more,
    )
    made = []
    for at, (text, row) in enumerate(zip(s.parts, rows, strict=True)):
        slot, letter = f"parts.{at}", LETTERS[at % 26]
        if row is None:
            cells = (
                Cell(letter),
                Cell(text, text, tone="bad", edits=slot),
                Cell("not understood", tone="bad"),
                Cell("–"),
                Cell("–"),
                *(Cell("–") for _ in more),
            )
            made.append(FigureRow(cells))
            continue
        cells = (
            Cell(letter, ""),
            Cell(row.words, text, edits=slot),
            Cell(row.symbols, row.symbols, edits=slot),
            Cell(row.said) if row.probability is None else cell(row.probability, row.said),
            Cell(row.many),
            *row.more,
        )
        chosen = at == min(s.chosen, len(s.parts) - 1)
        made.append(FigureRow(cells, sets=("chosen", at), chosen=chosen))
    slot, none = f"parts.{len(s.parts)}", Cell("", "")
    add = Cell(f"type a part, such as {hint}", "", tone="mute", edits=slot)
    rest = (none,) * (3 + len(more))
    made.append(FigureRow((Cell("+", "", tone="mute"), add, *rest), waits=True))
    return ResultTable("parts", headings, tuple(made), "parts of the question")


def check_heading(s: ProbabilityStatement) -> Heading:
    return Heading(
        "drawn",
        f"of {whole(s.replicates)} drawn",
        numeric=False,
        help="The number of simulated repetitions in which it came true.",
    )


def check_cell(some: int, of: int) -> Cell:
    """How often a part came true among those that count."""
    if of == 0:
        return Cell("–")
    return Cell(f"{whole(some)} ({rounded(some / of, 4)})", some)

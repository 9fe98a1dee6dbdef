"""How probabilities are said: to so many decimals, in so many repetitions, part by part."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.parts import Cell, Choice, Condition, FigureRow, Heading, ResultTable, cell
from theoros.answer.wording import number, p_value, significant, whole

if TYPE_CHECKING:
    from theoros.verbs.probability.statement import ProbabilityStatement

LETTERS = "abcdefghijklmnopqrstuvwxyz"
UNUSUAL = 0.05
"""What happens less often is called unusual."""


def chance_text(p: float) -> str:
    """A probability as p-values are written, or to three figures where those would be 0 or 1."""
    if math.isnan(p):
        return "–"
    if not 0 < p < 1:
        return number(p, 0)
    text = p_value(p)
    if text.startswith("<"):
        return significant(p, 3)
    return f"1 − {significant(1 - p, 3)}" if text.startswith(">") else text


def short_chance(p: float) -> str:
    """The same without zeros at its end, as on a branch or a bar."""
    text = chance_text(p)
    return text.rstrip("0").rstrip(".") if "." in text and "×" not in text else text


def about(p: float, per: int) -> str:
    """How many of so many: "766", or "fewer than 1" where that is all that can be said."""
    if math.isnan(p):
        return "–"
    count = p * per
    if 0 < count < 0.5:
        return "fewer than 1"
    rounded = math.floor(count + 0.5 + 1e-9)  # halves go up, as in textbooks
    if rounded == per and p < 1:
        return "nearly all"
    return whole(rounded)


def roughly(p: float, per: int) -> str:
    """ "about 766", "nearly all"."""
    count = about(p, per)
    return f"about {count}" if count[0].isdigit() else count


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


def conditions(s: ProbabilityStatement) -> tuple[Condition, ...]:
    """What must hold: checked, or for the student to judge."""
    made = []
    for demand in s.situation.demands():
        if demand.met is not None:
            made.append(Condition("holds" if demand.met else "fails", demand.text))
            continue
        agreed, denied = demand.key in s.agreed, demand.key in s.denied
        choices = (
            Choice("yes", "judge", f"+{demand.key}", chosen=agreed),
            Choice("no", "judge", f"-{demand.key}", chosen=denied),
        )
        mark = "holds" if agreed else "fails" if denied else "judge"
        made.append(Condition(mark, demand.text, choices))  # type: ignore[arg-type]
    return tuple(made)


def why_it_fits(s: ProbabilityStatement) -> tuple[str, ...]:
    """The student's own reason, as a sentence."""
    reason = s.reason.strip()
    if not reason:
        return ()
    ending = "" if reason.endswith((".", "!", "?", "…")) else "."
    return (f"Why it fits: {reason}{ending}",)

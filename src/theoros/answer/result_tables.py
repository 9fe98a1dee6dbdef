"""Result tables by columns that are declared: what each is called, what it holds of a row, how it is written."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, Tone, cell
from theoros.answer.wording import NONE, number, p_value, percent_text, significant

R = TypeVar("R")
Row = TypeVar("Row", contravariant=True)
Ends = tuple[float, float]


@dataclass(frozen=True)
class TableColumn(Generic[Row]):
    """A column: its heading, and the cell of a row."""

    heading: Heading
    cell: Callable[[Row], Cell]


def named_headings(names: Iterable[str], taken: Iterable[str]) -> list[Heading]:
    """A heading for each level, whose own name is its key; numbered where that is `taken`."""
    made, used = list[Heading](), set(taken)
    for name in names:
        key, more = name, 2
        while key in used:
            key, more = f"{name} ({more})", more + 1
        used.add(key)
        made.append(Heading(key, name))
    return made


def words(key: str, label: str, of: Callable[[R], str], *, tone: Callable[[R], Tone] | None = None) -> TableColumn[R]:
    """A column of words, which are their own values."""

    def made(row: R) -> Cell:
        text = of(row)
        return Cell(text, text, tone=tone(row) if tone else "")

    return TableColumn(Heading(key, label, numeric=False), made)


def figure(
    key: str,
    label: str,
    of: Callable[[R], float | int | None],
    write: Callable[[float], str] | None = None,
    *,
    help: str = "",  # noqa: A002 - as of a heading
    tone: Callable[[R], Tone] | None = None,
) -> TableColumn[R]:
    """A column of numbers; one that is None or not finite is a dash, without a value."""

    def made(row: R) -> Cell:
        value = of(row)
        if value is None or not math.isfinite(value):
            return Cell(NONE, None)
        more: dict[str, Any] = {"tone": tone(row)} if tone else {}
        return cell(value, write(value) if write else None, **more)

    return TableColumn(Heading(key, label, help=help), made)


def aicc(of: Callable[[R], float | None]) -> TableColumn[R]:
    """Akaike's criterion, corrected for small samples, of models that are compared."""
    told = "Lower is better; less than 2 apart is about as good."
    return figure("aicc", "AICc", of, lambda value: number(value, 1), help=told)


def interval(
    confidence: float, of: Callable[[R], Ends | None], write: Callable[[float], str], *, what: str = "", key: str = ""
) -> tuple[TableColumn[R], TableColumn[R]]:
    """The two ends of an interval, headed by its confidence: "95 % from" and "to"."""
    low, high = interval_headings(confidence, what=what, key=key)

    def end(at: int) -> Callable[[R], Cell]:
        def made(row: R) -> Cell:
            ends = of(row)
            return Cell(NONE, None) if ends is None else cell(ends[at], write(ends[at]))

        return made

    return TableColumn(low, end(0)), TableColumn(high, end(1))


def interval_headings(confidence: float, *, what: str = "", key: str = "") -> tuple[Heading, Heading]:
    """The headings of both ends: "95 % from" or "mean, 95 % from", and "to"."""
    prefix = f"{what}, " if what else ""
    start = f"{key}_" if key else ""
    return Heading(f"{start}low", f"{prefix}{percent_text(confidence)} from"), Heading(f"{start}high", "to")


def table_of(
    key: str,
    columns: Sequence[TableColumn[R]],
    rows: Iterable[R],
    *,
    title: str = "",
    methods: bool = False,
    sets: Callable[[R], tuple[str, Any] | None] | None = None,
    chosen: Callable[[R], bool] | None = None,
) -> ResultTable:
    """A row of figures for each of `rows`; `sets` and `chosen` say what choosing one does."""
    made = tuple(
        FigureRow(
            tuple(column.cell(row) for column in columns),
            sets=sets(row) if sets else None,
            chosen=chosen(row) if chosen else False,
        )
        for row in rows
    )
    return ResultTable(key, tuple(column.heading for column in columns), made, title, methods)


@dataclass(frozen=True)
class ComparedRow(Generic[R]):
    """One of several that can be chosen, with what it came to; None, and why, where it came to nothing."""

    label: str
    name: str
    found: R | None
    said: str = ""
    tone: Tone = ""
    waits: bool = False
    sets: tuple[str, Any] | None = None
    chosen: bool = False


def comparison(
    key: str,
    rows: Iterable[ComparedRow[R]],
    name: Heading,
    columns: Sequence[TableColumn[R]],
    said: Heading,
    title: str = "",
) -> ResultTable:
    """All of them side by side: the name, the columns of what was found, and what is said of it."""
    made = []
    for one in rows:
        figures = [Cell(NONE, None) if one.found is None else column.cell(one.found) for column in columns]
        cells = (Cell(one.label, one.name), *figures, Cell(one.said, one.said, tone=one.tone))
        made.append(FigureRow(cells, sets=one.sets, chosen=one.chosen, waits=one.waits))
    return ResultTable(key, (name, *(column.heading for column in columns), said), tuple(made), title, methods=True)


@dataclass(frozen=True)
class Coefficient:
    """A coefficient of a model with its test and its interval; None where there is none."""

    name: str
    estimate: float
    se: float | None = None
    statistic: float | None = None
    p: float | None = None
    ends: Ends | None = None


def coefficient_columns(statistic: str = "t", estimate: str = "estimate") -> tuple[TableColumn[Coefficient], ...]:
    """Term, estimate, standard error, statistic and p-value; an interval follows where it is wanted."""
    return (
        words("term", "term", lambda one: one.name),
        figure("estimate", estimate, lambda one: one.estimate, lambda v: significant(v, 5)),
        figure("se", "standard error", lambda one: one.se, lambda v: significant(v, 4)),
        figure(statistic, statistic, lambda one: one.statistic, lambda v: number(v, 2)),
        figure("p", "p-value", lambda one: one.p, p_value),
    )


def coefficients_table(
    rows: Sequence[Coefficient], confidence: float, more: Sequence[TableColumn[Coefficient]] = (), title: str = ""
) -> ResultTable:
    """Coefficients with t and their intervals, and further columns after them."""

    def ends(one: Coefficient) -> Ends | None:
        return one.ends

    columns = (*coefficient_columns(), *interval(confidence, ends, lambda v: significant(v, 4)), *more)
    return table_of("coefficients", columns, rows, title=title)

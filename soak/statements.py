"""Statements of every verb made by chance, about awkward tables: an answer, or a reason."""

from __future__ import annotations

import json
import re
import time
import xml.etree.ElementTree as ElementTree
from dataclasses import replace
from html.parser import HTMLParser
from typing import Any

import polars as pl

from soak.mutations import ODD_NUMBERS, mutated_json
from soak.tally import Budget, Tally, at_most
from theoros.answer.layout import lay_out
from theoros.answer.parts import answer_json
from theoros.answer.svg import to_svg
from theoros.study.entries import Entry, EntryBlock, Study
from theoros.study.file import demo_study
from theoros.study.report_html import report_html
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import arrangements, statement_from_json, verbs

NO_NUMBER = re.compile(r"(?<![\w.])-?(nan|inf|NaN|Infinity)(?![\w])|\bNone\b(?! of )|<[A-Z]\w+\.")
MOST_SECONDS = 10.0
ODD_NAMES = ("‘x’", "a <b>&amp;", "=1+1", "|e\u0301", "mean(x)", "3 'and' \"4\"")
"""Names that columns can have, and levels: looking like quotes, markup, formulas, notation."""
TAGS = frozenset(
    """
    html head meta title style body main section article figure figcaption img h1 h2 h3 p div span
    b i em strong sub sup br ul ol li table thead tbody tr th td caption svg g path rect circle
    line text polyline polygon defs pattern clippath math semantics mrow mi mn mo mtext msub msup
    msubsup mfrac msqrt mover munder munderover mtable mtr mtd mspace mstyle mpadded annotation use
    header footer nav details summary hr code small tspan desc a marker
    """.split()  # noqa: SIM905
)
"""What a report is made of."""


def awkward_tables() -> dict[str, Table]:
    """Tables of the demo, and such as nobody would make on purpose."""
    days = pl.Series(["2026-01-31", "0001-01-01", "9999-12-31", None]).str.to_date()
    odd = {
        "empty": ([], [], [], [], []),
        "one": ([1.0], ["a"], [days[0]], ["low"], ["t"]),
        "missing": ([None] * 4, [None] * 4, [None] * 4, [None] * 4, [None] * 4),
        "equal": ([3.0] * 5, ["a"] * 5, [days[0]] * 5, ["low"] * 5, ["t"] * 5),
        "huge": (
            [1e308, -1e308, 1e300, 5e-324, 0.0, -1e-300, 1e17, 2.0**53] * 3,
            ["a", "b"] * 12, list(days) * 6, ["low", "high"] * 12, ["<b>", "=1+1", "|", "\\"] * 6,
        ),
        "close": ([1e9 + k * 1e-6 for k in range(12)], ["a", "b", "c"] * 4, [days[0]] * 12,
                  ["low", "mid", "high"] * 4, ["t"] * 12),
        "two": ([0.0, 1.0], ["a", "b"], [days[1], days[2]], ["low", "high"], ["", "x" * 400]),
        "many": ([float(k % 7) for k in range(300)], [f"g{k}" for k in range(300)],
                 [days[0]] * 300, ["low"] * 300, [f"{k}" for k in range(300)]),
    }  # fmt: skip
    made = dict(demo_study().by_name)
    for name, columns in odd.items():
        kinds = (Kind.NUMBER, Kind.CATEGORY, Kind.DATE, Kind.ORDERED, Kind.TEXT)
        named = [
            Column(title, kind, levels=("low", "mid", "high") if kind is Kind.ORDERED else ())
            for title, kind in zip(("x", "g", "d", "o", "t"), kinds, strict=True)
        ]
        named.insert(1, Column("y"))
        values = [columns[0], list(reversed(columns[0])), *columns[1:]]
        frame = pl.DataFrame([pl.Series(c.name, v, dtype=c.kind.dtype) for c, v in zip(named, values, strict=True)])
        made[name] = Table(name, tuple(named), frame)
    made["<odd> & 'names'"] = _oddly_named(made["huge"], made["close"])
    return made


def _oddly_named(huge: Table, close: Table) -> Table:
    """A table whose names and levels are as awkward as names can be."""
    columns = tuple(
        replace(column, name=name, unit="<i>" if column.kind is Kind.NUMBER else "")
        for column, name in zip(close.columns, ODD_NAMES, strict=True)
    )
    frame = close.frame.rename(dict(zip(close.frame.columns, ODD_NAMES, strict=True)))
    levels = pl.Series(["<script>a</script>", "=1+1", "a|b$x$"] * 4)
    frame = frame.with_columns(levels.alias(ODD_NAMES[2]))
    return Table("<odd> & 'names'", columns, frame, noun="<b>row</b>")


def run(budget: Budget) -> Tally:
    tally = Tally("random statements of every verb", "20 000: no exception, no NaN or inf in a sentence")
    tables = awkward_tables()
    examples = [one.to_json() for verb in verbs().values() for one in verb.examples]
    examples += [kind().to_json() for kind in arrangements().values()]
    answered = 0
    slowest = (0.0, "")
    for _ in budget.rounds(tally):
        data = _changed(budget.chance.choice(examples), tables, budget.chance)
        began = time.process_time()
        try:
            with at_most(MOST_SECONDS):
                answered += _tried(data, tables, tally)
        except Exception as problem:
            tally.fault(json.dumps(data, ensure_ascii=True, default=str), problem)
        took = time.process_time() - began
        slowest = max(slowest, (took, json.dumps(data)[:300]))
    tally.notes.append(f"{answered} answered, the others refused in words")
    tally.notes.append(f"slowest {slowest[0]:.1f} s: {slowest[1]}")
    return tally


def _tried(data: dict[str, Any], tables: dict[str, Table], tally: Tally) -> bool:
    """Whether a statement is answered; otherwise it is refused in words."""
    try:
        statement = statement_from_json(data)
    except StatementError as problem:
        _check(str(problem), data, tally)
        return False
    if statement_from_json(json.loads(json.dumps(statement.to_json()))) != statement:
        tally.fail(f"not the same after JSON: {data}")
    statement.phrase(tables)
    statement.title(tables)
    statement.settings(tables)
    found = answer(statement, tables)
    if found.problem:
        _check(found.problem.sentence, data, tally)
        return False
    told = json.dumps(_sentences(answer_json(found)), ensure_ascii=False)
    _check(told, data, tally, whole=False)
    if found.picture is not None:
        drawing = lay_out(found.picture, 700, 420)
        ElementTree.fromstring(to_svg(drawing, found.picture.alt))
    if tally.tried % 400 == 0:
        entry = Entry("e1", statement, "<title> & more", "<question>")
        study = Study("<study>", tuple(tables.values()), (entry,), (EntryBlock("r1", "e1"),))
        _Tags(tally, data).feed(report_html(study, lambda _: found))
    return True


class _Tags(HTMLParser):
    """Looks on as a page is read: nothing may be in it that was not made here."""

    def __init__(self, tally: Tally, data: dict[str, Any]) -> None:
        super().__init__()
        self.tally, self.data = tally, data

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag not in TAGS or any(name.startswith("on") for name, _ in attrs):
            self.tally.fail(f"<{tag} {attrs}> in a report of {json.dumps(self.data)[:300]}")


def _changed(example: dict[str, Any], tables: dict[str, Table], chance: Any) -> dict[str, Any]:
    """An example about another table, with other columns, levels and numbers."""
    text = json.dumps(example)
    table = tables.get(str(example.get("table"))) or next(iter(tables.values()))
    if chance.random() < 0.8:
        other = chance.choice(list(tables.values()))
        swaps = {table.name: other.name}
        for column in table.columns:
            alike = [c.name for c in other.columns if c.kind is column.kind] or [c.name for c in other.columns]
            if alike and chance.random() < 0.95:
                swaps[column.name] = chance.choice(alike)
            if column.kind.is_grouping:
                levels = [v for c in other.columns if c.kind.is_grouping for v in other.levels(c.name)]
                for level in table.levels(column.name):
                    if levels:
                        swaps[level] = chance.choice(levels)
        data = _swapped(json.loads(text), swaps)
    else:
        data = json.loads(text)
    method = chance.random()
    if method < 0.45:
        data = _other_numbers(data, chance)
    if method > 0.75:
        data = mutated_json(data, chance)
    return data if isinstance(data, dict) else {"verb": data}


def _swapped(value: Any, swaps: dict[str, str]) -> Any:
    if isinstance(value, dict):
        return {k: v if k in ("verb", "kind") else _swapped(v, swaps) for k, v in value.items()}
    if isinstance(value, list):
        return [_swapped(one, swaps) for one in value]
    return swaps.get(value, value) if isinstance(value, str) else value


def _other_numbers(value: Any, chance: Any) -> Any:
    if isinstance(value, dict):
        return {k: _other_numbers(v, chance) for k, v in value.items()}
    if isinstance(value, list):
        return [_other_numbers(one, chance) for one in value]
    if isinstance(value, bool) or not isinstance(value, int | float) or chance.random() < 0.6:
        return value
    other = chance.choice(ODD_NUMBERS)
    return int(other) if isinstance(value, int) else float(other)


def _sentences(value: Any) -> list[str]:
    """All texts of an answer, without what stands for a figure that is none (null)."""
    if isinstance(value, dict):
        return [text for held in value.values() for text in _sentences(held)]
    if isinstance(value, list | tuple):
        return [text for held in value for text in _sentences(held)]
    return [value] if isinstance(value, str) else []


def _check(text: str, data: dict[str, Any], tally: Tally, *, whole: bool = True) -> None:
    found = NO_NUMBER.search(text)
    if found and not NO_NUMBER.search(json.dumps(data, ensure_ascii=False)):
        around = text[max(0, found.start() - 90) : found.end() + 60]
        tally.fail(f"“{found.group()}” in: …{around}… for {json.dumps(data)[:500]}")
    if whole and (len(text) > 1500 or "\n" in text or not text.rstrip().endswith((".", "?", ")"))):
        tally.fail(f"no sentence: {text[:200]!r} … ({len(text)} letters) for {json.dumps(data)[:300]}")

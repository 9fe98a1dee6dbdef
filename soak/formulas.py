"""Formulas and names of columns made by chance: bounded, and every name can be written and read."""

from __future__ import annotations

import random
import resource
import time

import polars as pl

from soak.mutations import ODD_TEXTS
from soak.tally import Budget, Tally
from theoros.table.changes import check_name
from theoros.table.formula import columns_in, evaluate, quoted, renamed
from theoros.table.formula.known_functions import FUNCTIONS
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, TableError

ROWS, MORE_ROWS = 1_000, 16_000
MOST_SECONDS, MOST_MEMORY = 2.0, 500_000_000
LETTERS = "abxyz 019_'’‘\"“”()[]{}+-*/^&=<>,;.:!?%$#@~`|\\éβ中🍵\u00a0\u202e\u0301\u200b"


def run(budget: Budget) -> Tally:
    tally = Tally("formulas and column names", "10 000: within 2 s and 500 MB at 1 000 rows, linear in rows")
    slowest = 0.0
    # what a formula may take beyond what the program holds anyway
    evaluate_some(_table(["x"], ROWS, random.Random(1)), "x + 1")
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    for at in budget.rounds(tally):
        chance = budget.chance
        names = _names(chance)
        table = _table(names, ROWS, chance)
        text = ""
        try:
            _round_trip(names, tally)
            text = _formula(names, chance, chance.choice([1, 2, 3, 6, 12]))
            began = time.process_time()
            worked = evaluate_some(table, text)
            took = time.process_time() - began
            slowest = max(slowest, took)
            if took > MOST_SECONDS:
                tally.fail(f"{took:.1f} s at {ROWS} rows: {text[:400]}")
            if worked and at % 50 == 0:
                more = _table(names, MORE_ROWS, chance)
                took, longer = _best(table, text), _best(more, text)
                if longer > 0.1 and longer > 3 * took * MORE_ROWS / ROWS:
                    tally.fail(f"{took:.3f} s at {ROWS}, {longer:.3f} s at {MORE_ROWS}: {text[:400]}")
        except Exception as problem:
            tally.fault(f"{text!r} with {names!r}", problem)
    grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) * 1024
    if grown > MOST_MEMORY:
        tally.fail(f"{grown / 1e6:.0f} MB")
    tally.notes.append(f"slowest {slowest:.2f} s, {grown / 1e6:.0f} MB more at most")
    return tally


def _best(table: Table, text: str) -> float:
    """The shortest of a few times: what else the machine does only adds to it."""
    times = []
    for _ in range(4):
        began = time.process_time()
        evaluate_some(table, text)
        times.append(time.process_time() - began)
    return min(times)


def evaluate_some(table: Table, text: str) -> bool:
    """Whether a formula could be worked out; a sentence that says why not is as good."""
    try:
        worked = evaluate(text, table)
    except TableError as problem:
        if len(str(problem)) > 600:
            raise AssertionError(f"a message of {len(str(problem))} letters") from None
        return False
    values = worked.values
    if values.len() != table.rows:
        raise AssertionError(f"{values.len()} values for {table.rows} rows")
    if values.dtype == pl.Float64 and not values.drop_nulls().is_finite().all():
        raise AssertionError("a value that is no finite number")
    if values.dtype == pl.Date:  # every one of them can be shown
        _ = [day.isoformat() for day in values.drop_nulls().head(20)]
        _ = (values.min(), values.max())
    return True


def _round_trip(names: list[str], tally: Tally) -> None:
    for name in names:
        written = quoted(name, names)
        if columns_in(f"{written} + 1", names) != (name,):
            tally.fail(f"the name {name!r} among {names!r}, written {written!r}, is not read back")
        new = f"{name} 2"
        if columns_in(renamed(f"1 + {written}", name, new, names), [new, *names]) != (new,):
            tally.fail(f"the name {name!r} among {names!r} cannot be changed in a formula")


def _names(chance: random.Random) -> list[str]:
    """Names that columns can have, five of them."""
    found: list[str] = []
    while len(found) < 5:
        if chance.random() < 0.2:
            raw = chance.choice(ODD_TEXTS)
        elif chance.random() < 0.2:
            raw = chance.choice([*FUNCTIONS, "if", "and", "missing", "mod", "in", "3", "1e5", "a b"])
        else:
            raw = "".join(chance.choice(LETTERS) for _ in range(chance.choice([1, 2, 3, 5, 30])))
        try:
            found.append(check_name(raw, "column", found))
        except TableError:
            continue
    return found


def _table(names: list[str], rows: int, chance: random.Random) -> Table:
    kinds = [Kind.NUMBER, Kind.NUMBER, Kind.CATEGORY, Kind.DATE, Kind.TEXT]
    values: list[pl.Series] = []
    for kind in kinds[: len(names)]:
        if kind is Kind.NUMBER:
            some: list = [0.0, 1.0, -2.5, None, 1e308, 3.0, 1e-300, 7.0]
        elif kind is Kind.DATE:
            days = ["2026-11-26", None, "0001-01-01", "9999-12-31"]
            some = pl.Series(days).str.to_date().to_list()
        else:
            some = ["a", None, "Ridge", "", "3", "x" * 300]
        made = [some[chance.randrange(len(some))] for _ in range(rows)]
        values.append(pl.Series(made, dtype=kind.dtype))
    columns = tuple(Column(n, k) for n, k in zip(names, kinds, strict=False))
    frame = pl.DataFrame([v.alias(n) for v, n in zip(values, names, strict=True)])
    return Table("t", columns, frame)


def _formula(names: list[str], chance: random.Random, depth: int) -> str:
    def part(deep: int) -> str:
        if deep <= 0 or chance.random() < 0.25:
            return chance.choice(
                [
                    quoted(chance.choice(names), names),
                    "1",
                    "0",
                    "2.5",
                    "1e308",
                    "3000000",
                    '"a"',
                    "missing",
                    "true",
                    "-1",
                ]
            )
        inner = part(deep - 1)
        match chance.randrange(9):
            case 0 | 1 | 2:
                sign = chance.choice([*"+-*/^&=<>", "mod", "and", "or", "<>", "<=", ">="])
                return f"({inner} {sign} {part(deep - 2)})"
            case 3:
                return f"(if {part(1)} then {inner} else {part(1)})"
            case 4:
                return f"{chance.choice(['-', 'not '])}({inner})"
            case 5:
                return f"({inner} {chance.choice(['is missing', 'is not missing'])})"
            case 6:
                held = ", ".join(part(0) for _ in range(chance.choice([1, 3, 60])))
                return f"({inner} in ({held}))"
            case _:
                more = [part(chance.choice([0, 1])) for _ in range(chance.randrange(3))]
                return f"{chance.choice([*FUNCTIONS])}({', '.join([inner, *more])})"

    text = part(depth)
    if chance.random() < 0.1:
        sign = chance.choice([" + ", " & ", " mod ", " ^ ", " * "])
        text = sign.join([text[:40], *["x", "1"] * chance.choice([2, 20, 120])])
    if chance.random() < 0.1:
        at = chance.randrange(len(text) + 1)
        text = text[:at] + chance.choice(ODD_TEXTS)[:50] + text[at:]
    return text

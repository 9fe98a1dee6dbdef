"""No p-value that is not there is set against a level."""

from __future__ import annotations

import ast
import math
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

import pytest

import theoros
from theoros.numeric.levels import at_most, below

SOURCES = Path(theoros.__file__).parent
P_VALUES = {"p", "decides", "shapiro", "bend", "p_value"}
LEVELS = {"alpha", "CLEAR", "PLAIN", "NO_SEASONS", "SHOWN", "FOUND", "plain", "level"}
NUMBERS = {0.05, 0.01, 0.001}
SHARES = {"verbs/laws/binomial.py", "numeric/procedures/exact_power.py"}
"""Where p is the chance of a success, or of each count, which is never missing."""


def test_a_p_value_that_is_not_there_is_on_neither_side() -> None:
    assert [below(p, 0.05) for p in (0.04, 0.05, 0.06)] == [True, False, False]
    assert [at_most(p, 0.05) for p in (0.04, 0.05, 0.06)] == [True, True, False]
    for compare in (below, at_most):
        with pytest.raises(ValueError, match="no p-value"):
            compare(math.nan, 0.05)


def _name(node: ast.expr) -> str:
    if isinstance(node, ast.Call):
        said = _name(node.func)
        return "p" if said.endswith("_p") or said.startswith("p_of") or said == "p" else ""
    return node.attr if isinstance(node, ast.Attribute) else node.id if isinstance(node, ast.Name) else ""


def _is_level(node: ast.expr) -> bool:
    if isinstance(node, ast.BinOp):
        return _is_level(node.left)
    return _name(node) in LEVELS or (isinstance(node, ast.Constant) and node.value in NUMBERS)


def compared(text: str) -> Iterator[str]:
    """Every place of a module where a p-value is set against a level by a sign of its own."""
    for node in ast.walk(ast.parse(text)):
        if not isinstance(node, ast.Compare):
            continue
        sides = [node.left, *node.comparators]
        for one, other in pairwise(sides):
            if any(_name(a) in P_VALUES and _is_level(b) for a, b in ((one, other), (other, one))):
                yield f"line {node.lineno}: {ast.unparse(node)}"


def test_every_p_value_is_set_against_a_level_by_what_refuses_none() -> None:
    found = {}
    for path in sorted(SOURCES.rglob("*.py")):
        name = path.relative_to(SOURCES).as_posix()
        if name != "numeric/levels.py" and name not in SHARES and (told := list(compared(path.read_text("utf-8")))):
            found[name] = told
    assert not found


@pytest.mark.parametrize(
    "text", ["p < 0.05", "0.05 > one.p", "p >= CLEAR", "one.p <= s.alpha + SAME", "a < p < 0.01", "season_p(x) < CLEAR"]
)
def test_what_is_looked_for_is_found(text: str) -> None:
    assert list(compared(text))
    assert not list(compared("below(p, 0.05) and 0 < p < 1 and 0 < alpha < 1 and share < 0.05"))

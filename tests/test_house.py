"""The house itself: no circles of imports, files by role, nothing that cannot be reached."""

from __future__ import annotations

import ast
import re
from functools import cache
from pathlib import Path

from soak.mutants import MUTANTS

from theoros.study import edits

ROOT = Path(__file__).parents[1]
SRC = ROOT / "src"


@cache
def modules() -> dict[str, ast.Module]:
    """Every module of the application by its name."""
    found = {}
    for path in sorted(SRC.rglob("*.py")):
        parts = path.relative_to(SRC).with_suffix("").parts
        name = ".".join(parts[:-1] if parts[-1] == "__init__" else parts)
        found[name] = ast.parse(path.read_text(encoding="utf-8"))
    return found


def imports_of(tree: ast.Module) -> set[str]:
    """Modules of ours that one names in imports: deferred and for type checking alone, too."""
    found = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and node.module:
            for one in node.names:
                inner = f"{node.module}.{one.name}"
                found.add(inner if inner in modules() else node.module)
        elif isinstance(node, ast.Import):
            found |= {one.name for one in node.names}
    return found & modules().keys()


def circles(arrows: dict[str, set[str]]) -> list[list[str]]:
    """Groups of names that lead to each other (R. Tarjan, 1972)."""
    index: dict[str, int] = {}
    low: dict[str, int] = {}
    held: list[str] = []
    made: list[list[str]] = []

    def visit(name: str) -> None:
        index[name] = low[name] = len(index)
        held.append(name)
        for other in sorted(arrows[name]):
            if other not in index:
                visit(other)
                low[name] = min(low[name], low[other])
            elif other in held:
                low[name] = min(low[name], index[other])
        if low[name] == index[name]:
            group = held[held.index(name) :]
            del held[held.index(name) :]
            if len(group) > 1:
                made.append(sorted(group))

    for name in arrows:
        if name not in index:
            visit(name)
    return made


def test_circles_are_found() -> None:
    assert circles({"a": {"b"}, "b": {"c"}, "c": {"a"}, "d": {"a"}}) == [["a", "b", "c"]]
    assert circles({"a": {"b"}, "b": set()}) == []


def test_no_modules_import_each_other_in_a_circle() -> None:
    arrows = {name: imports_of(tree) - {name} for name, tree in modules().items()}
    assert sum(map(len, arrows.values())) > 2000
    assert circles(arrows) == []


ROLES = {"statement", "data", "answering", "tables", "pictures", "words", "working", "report", "verb"}
"""The files of a verb's room; a larger verb has rooms inside, some of them named by a role."""


def test_every_verb_has_its_files_by_role() -> None:
    rooms = [path.parent for path in (SRC / "theoros/verbs").glob("*/verb.py")]
    assert len(rooms) >= 8
    for room in rooms:
        files = {path.stem for path in room.glob("*.py")} - {"__init__"}
        assert files <= ROLES, f"{room.name}: {sorted(files - ROLES)} is no role"
        assert {"statement", "answering", "verb"} <= files


def test_what_is_registered_by_name_is_named_once() -> None:
    rooms = edits._ROOMS
    for room, names in rooms.items():
        assert len(names) == len(set(names)), room
        tree = modules()[f"theoros.study.edits.{room}"]
        made = {node.name for node in tree.body if isinstance(node, ast.ClassDef | ast.FunctionDef)}
        assert set(names) <= made, room
        public = {node.name for node in tree.body if isinstance(node, ast.ClassDef) and not node.name.startswith("_")}
        assert public <= set(names), f"{room}: {sorted(public - set(names))} cannot be reached"
    assert sorted(name for names in rooms.values() for name in names) == sorted(edits.__all__)


IDENTIFIER = re.compile(r"\b[a-z]+_[a-z]\w*\b|\b[A-Z][a-z]+[A-Z]\w+\b")
WORDS_OF_THE_TRADE = {"LaTeX", "McFadden", "McNemar", "MacOS"}


def test_no_sentence_of_a_verb_has_a_name_of_the_code_in_it() -> None:
    """A rename that reaches into a text would be read by students."""
    found = []
    for name, tree in modules().items():
        if not name.startswith("theoros.verbs.") or name.endswith(".manual"):
            continue
        told = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}  # docstrings
        for node in ast.walk(tree):
            if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in told:
                names = set(IDENTIFIER.findall(node.value)) - WORDS_OF_THE_TRADE
                if " " in node.value and names:
                    found.append(f"{name}:{node.lineno}: {sorted(names)}")
    assert not found


def test_what_other_rooms_call_of_the_arithmetic_says_what_it_is() -> None:
    """Shapes, units, errors and sources stand in docstrings; what overrides a documented method need not repeat it."""
    texts = {path: path.read_text(encoding="utf-8") for path in SRC.rglob("*.py")}
    outside = set(re.findall(r"\w+", "".join(text for path, text in texts.items() if "/numeric/" not in str(path))))
    told: set[str] = set()
    silent: list[tuple[str, str]] = []
    for name, tree in modules().items():
        if not name.startswith("theoros.numeric."):
            continue
        for node in tree.body:
            inner = node.body if isinstance(node, ast.ClassDef) and not node.name.startswith("_") else []
            for one in (node, *inner):
                if not isinstance(one, ast.FunctionDef | ast.ClassDef) or one.name.startswith("_"):
                    continue
                if ast.get_docstring(one):
                    told |= {one.name} if one is not node else set()
                elif one.name in outside:
                    silent.append((name, one.name))
    overrides = told | {"mean"}  # an attribute everybody knows
    assert [one for one in silent if one[1] not in overrides] == []


def test_every_kept_mutant_has_its_place() -> None:
    for one in MUTANTS:
        text = (SRC / "theoros" / one.where).read_text(encoding="utf-8")
        assert text.count(one.before) == 1, f"{one.where}: {one.before}"
        assert all((ROOT / "tests" / name.partition("::")[0]).exists() for name in one.tests.split()), one.tests


MOST_LINES_OF_A_FILE, MOST_LINES_OF_A_FUNCTION, MOST_PARAMETERS = 450, 60, 9
MOST_ANY, MOST_OVERRULED = 60, 60
"""Untyped places in the verbs, and places where the formatter is overruled, in all."""


def test_files_and_functions_have_one_subject() -> None:
    for path in SRC.rglob("*.py"):
        text = path.read_text(encoding="utf-8")
        assert text.count("\n") <= MOST_LINES_OF_A_FILE, path
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.FunctionDef):
                assert node.end_lineno is not None
                assert node.end_lineno - node.lineno < MOST_LINES_OF_A_FUNCTION, f"{path}: {node.name}"
                names = [one.arg for one in (*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs)]
                assert len([one for one in names if one not in ("self", "cls")]) <= MOST_PARAMETERS, node.name


def test_what_is_untyped_and_what_is_overruled_stays_rare() -> None:
    verbs = [path.read_text(encoding="utf-8") for path in (SRC / "theoros/verbs").rglob("*.py")]
    untyped = [node for text in verbs for node in ast.walk(ast.parse(text)) if getattr(node, "id", "") == "Any"]
    assert len(untyped) < MOST_ANY
    assert sum(path.read_text(encoding="utf-8").count("# fmt: skip") for path in SRC.rglob("*.py")) <= MOST_OVERRULED


def test_no_two_classes_have_one_name() -> None:
    found: dict[str, str] = {}
    for name, tree in modules().items():
        for node in tree.body:
            if isinstance(node, ast.ClassDef):
                assert node.name not in found, f"{node.name}: {found.get(node.name)} and {name}"
                found[node.name] = name

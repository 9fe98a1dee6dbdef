"""`theoros`: open the desk, or answer statements without one."""

from __future__ import annotations

import argparse
import gc
import json
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

USAGE = 2
"""Exit code for bad input, as command lines have it."""
FAULT = 70
"""Exit code for a fault in the program (EX_SOFTWARE of sysexits.h)."""


def main(argv: Sequence[str] | None = None) -> int:
    """The command line. Returns the exit code."""
    arguments = list(sys.argv[1:] if argv is None else argv)
    if arguments[:1] == ["answer"]:
        return _answer(arguments[1:])
    if arguments[:1] == ["manual"]:
        return _manual()
    parser = argparse.ArgumentParser(
        prog="theoros",
        description="Ask questions of your data in sentences.",
        epilog="theoros answer --help tells how to answer statements without the desk.",
    )
    parser.add_argument("file", nargs="?", type=Path, help="a study or a table to open")
    parser.add_argument("--demo", action="store_true", help="open the demo study")
    options = parser.parse_args(arguments)
    gc.disable()  # nothing made while starting is garbage; the window turns it on once it is up
    from theoros.engine.links import Links

    links = Links()  # first of all, so that the engine gets ready beside the window
    from theoros.desk.application import run

    return run(options.file, demo=options.demo, links=links)


def _answer(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(
        prog="theoros answer",
        description="Answer a statement, or every entry of a study, as JSON.",
    )
    parser.add_argument("statement", nargs="?", help="JSON text, a file that holds it, or -")
    parser.add_argument(
        "--table",
        action="append",
        default=[],
        type=Path,
        metavar="FILE",
        help="a table to ask about, named by its file name without the ending",
    )
    parser.add_argument("--study", type=Path, metavar="FILE", help="answer every entry of a study")
    options = parser.parse_args(arguments)
    try:
        if options.study:
            if options.statement or options.table:
                raise ValueError("Give a study, or a statement with tables, not both.")
            made: Any = _answer_study(options.study)
        elif options.statement is None:
            raise ValueError("Give a statement, or a study with --study FILE.")
        else:
            made = _answer_one(options.statement, options.table)
    except ValueError as problem:
        print(f"theoros: {' '.join(str(problem).split())}", file=sys.stderr)
        return USAGE
    except Exception as problem:  # a fault of ours, told in a line all the same
        said = f"{type(problem).__name__}: {' '.join(str(problem).split())}"
        print(f"theoros: something went wrong inside ({said})", file=sys.stderr)
        return FAULT
    print(json.dumps(made, indent=2, ensure_ascii=False))
    return 0


def _answer_one(written: str, files: Sequence[Path]) -> dict[str, Any]:
    from theoros.answer.parts import answer_json
    from theoros.files.formats import open_table
    from theoros.verbs.core.registry import statement_from_json
    from theoros.verbs.core.statement import answer

    tables = {}
    for path in files:
        if path.stem in tables:
            raise ValueError(f"Two files would be the table “{path.stem}”. Rename one.")
        tables[path.stem] = open_table(path).table
    statement = statement_from_json(_statement_json(written))
    found = answer(statement, tables)
    if found.problem:
        raise ValueError(found.problem.sentence)
    return {"statement": statement.to_json(), **answer_json(found)}


def _answer_study(path: Path) -> list[dict[str, Any]]:
    from theoros.answer.parts import answer_json
    from theoros.study.file import open_study
    from theoros.verbs.core.statement import answer

    study = open_study(path)
    return [
        {
            "id": entry.id,
            "title": entry.name(study.by_name),
            "statement": entry.statement.to_json(),
            **answer_json(answer(entry.statement, study.by_name)),
        }
        for entry in study.entries
    ]


def _statement_json(written: str) -> Any:
    text = written
    if written == "-":
        text = sys.stdin.read()
    elif not written.lstrip().startswith("{"):
        try:
            text = Path(written).read_text(encoding="utf-8")
        except (OSError, UnicodeDecodeError):
            raise ValueError(
                f"{written} is neither a statement in JSON nor a file of one."
            ) from None
    try:
        return json.loads(text)
    except (ValueError, RecursionError) as problem:
        raise ValueError(f"The statement is not valid JSON: {problem}.") from None


def _manual() -> int:
    from theoros.study.file import demo_study
    from theoros.verbs.manual import manual

    sys.stdout.write(manual(demo_study().by_name))
    return 0


if __name__ == "__main__":
    sys.exit(main())

"""`theoros`: open the desk, or answer statements without one."""

from __future__ import annotations

import argparse
import gc
import json
import os
import queue
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

USAGE = 2
"""Exit code for bad input, as command lines have it."""
MOST_BYTES, MOST_LETTERS = 1_000_000, 600
"""Of a statement, and of what is said about one."""


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
        prog="theoros answer", description="Answer a statement, or every entry of a study, as JSON."
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
        if options.study and (options.statement or options.table):
            raise ValueError("Give a study, or a statement with tables, not both.")
        if options.study is None and options.statement is None:
            raise ValueError("Give a statement, or a study with --study FILE.")
        written = "" if options.study else _statement_text(options.statement)
        text = _run(written, tuple(options.table), options.study)
        _print(text)
    except (ValueError, OSError) as problem:
        print(f"theoros: {_on_a_line(str(problem))}", file=sys.stderr)
        return USAGE
    return 0


def _run(written: str, tables: tuple[Path, ...], study: Path | None) -> str:
    """What a command comes to, worked out in a process with limits. Raises ValueError."""
    from theoros.engine.link import EngineLink
    from theoros.engine.tasks.command import Command, Refused

    told: queue.SimpleQueue[tuple[str, Any]] = queue.SimpleQueue()
    link = EngineLink("command")
    link.start()
    try:
        link.run(Command(written, tables, study), {}, lambda how, value: told.put((how, value)))
        how, value = told.get()
    finally:
        link.end()
    if isinstance(value, Refused):
        raise ValueError(value.sentence)
    if how == "fail":  # a fault of ours, or too much for the machine: told in a line all the same
        raise ValueError(value if value.endswith(".") else f"something went wrong inside ({value})")
    return str(value)


def _print(text: str) -> None:
    """Writes an answer; as ASCII where the terminal, or the text, cannot be written otherwise."""
    try:
        text.encode(sys.stdout.encoding or "ascii")
    except UnicodeEncodeError:
        text = json.dumps(json.loads(text), indent=2)
    try:
        print(text, flush=True)
    except OSError as problem:
        # what is left of it must not be tried again when the program ends
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        raise ValueError(f"the answer could not be written ({problem.strerror})") from None


def _on_a_line(text: str) -> str:
    said = " ".join(text.split())
    return said if len(said) <= MOST_LETTERS else said[: MOST_LETTERS - 1] + "…"


def _statement_text(written: str) -> str:
    """A statement as JSON text: as it stands, from a file, or from standard input."""
    if written == "-":
        data = sys.stdin.buffer.read(MOST_BYTES + 1)
    elif written.lstrip().startswith("{"):
        return written
    else:
        file = Path(written)
        try:
            if not file.is_file():
                raise OSError
            with open(file, "rb") as opened:
                data = opened.read(MOST_BYTES + 1)
        except (OSError, ValueError):
            raise ValueError(f"{_on_a_line(written)} is neither a statement in JSON nor a file of one.") from None
    if len(data) > MOST_BYTES:
        raise ValueError("The statement is longer than any statement is (1 MB).")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise ValueError("The statement is not text in UTF-8.") from None


def _manual() -> int:
    from theoros.study.file import demo_study
    from theoros.verbs.manual import manual

    sys.stdout.write(manual(demo_study().by_name))
    return 0


if __name__ == "__main__":
    sys.exit(main())

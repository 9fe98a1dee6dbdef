"""`theoros answer` with whatever somebody may write: 0 or 2, one line, and JSON that is valid.

Most commands are worked out in this process, as the one with limits would; the whole way, through
a shell's eyes, is gone for one in fifty, and for the cases known to be odd.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from soak.mutations import mutated, mutated_json
from soak.tally import Budget, Tally, at_most
from theoros.engine.tasks.command import Command, Refused, answered
from theoros.files.formats import write_table
from theoros.study.file import demo_study
from theoros.verbs.core.registry import verbs

MOST_SECONDS = 30.0
PROGRAM = [sys.executable, "-m", "theoros.cli"]


def run(budget: Budget) -> Tally:
    tally = Tally("malformed statements on the command line", "10 000: exit 0 or 2, and one line")
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder)
        tables = demo_study().tables
        for table in tables:
            write_table(table, home / f"{table.name}.csv")
        examples = [one.to_json() for verb in verbs().values() for one in verb.examples]
        _odd_ones(home, tally)
        for at in budget.rounds(tally):
            data = mutated_json(budget.chance.choice(examples), budget.chance)
            written = json.dumps(data)
            if budget.chance.random() < 0.3:
                written = mutated(written.encode(), budget.chance).decode("utf-8", "surrogateescape")
            named = [table.name for table in tables if f'"{table.name}"' in written]
            files = [home / f"{name}.csv" for name in named[:2]]
            try:
                if at % 50 == 0 and "\x00" not in written:
                    _whole_way(written, files, tally)
                else:
                    with at_most(MOST_SECONDS):
                        _check(answered(Command(written, tuple(files))), tally)
            except Exception as problem:
                tally.fault(written, problem)
    return tally


def _check(found: str | Refused, tally: Tally) -> None:
    if isinstance(found, str):
        json.loads(found, parse_constant=_never)
    elif not found.sentence.strip() or len(found.sentence) > 3000:
        tally.fail(f"no sentence ({len(found.sentence)} letters): {found.sentence[:200]!r}")


def _never(name: str) -> None:
    raise AssertionError(f"{name} in what is told")


def _whole_way(written: str, files: list[Path], tally: Tally) -> None:
    tables = [part for file in files for part in ("--table", str(file))]
    began = time.monotonic()
    done = subprocess.run([*PROGRAM, "answer", *tables, "--", written], capture_output=True, check=False, timeout=120)
    _judge(done, written, tally, time.monotonic() - began)


def _judge(done: Any, what: str, tally: Tally, seconds: float) -> None:
    lines = done.stderr.decode("utf-8", "replace").splitlines()
    if done.returncode not in (0, 2):
        tally.fail(f"exit {done.returncode}: {lines[-1:]} for {what[:400]!r}")
    if done.returncode == 2 and (len(lines) != 1 or done.stdout):
        tally.fail(f"{len(lines)} lines: {lines[:3]} for {what[:400]!r}")
    if done.returncode == 0 and done.stdout is not None:
        json.loads(done.stdout, parse_constant=_never)
    if seconds > MOST_SECONDS:
        tally.fail(f"{seconds:.0f} s for {what[:400]!r}")


def _odd_ones(home: Path, tally: Tally) -> None:
    """What was found to be odd once, or may well be."""
    good = json.dumps({"verb": "describe", "table": "bushes", "what": "leaf length"})
    table = ["--table", str(home / "bushes.csv")]
    os.mkfifo(home / "pipe.csv")
    plain = {**os.environ}
    ascii_only = {**plain, "LC_ALL": "C", "PYTHONUTF8": "0", "PYTHONIOENCODING": "ascii"}
    cases: list[tuple[list[str], dict[str, Any]]] = [
        (["answer", '{"verb": ["plot"]}'], {}),
        (["answer", "\udcff"], {}),
        (["answer", '{"verb": "plot", "table": "\\ud800"}'], {}),
        (["answer", good, *table], {"env": ascii_only}),
        (["answer", '{"verb": "simulate", "table": "é‘"}'], {"env": ascii_only}),
        (["answer", good, "--table", "/dev/zero"], {}),
        (["answer", good, "--table", str(home / "pipe.csv")], {}),
        (["answer", good, "--table", str(home)], {}),
        (["answer", "/dev/zero"], {}),
        (["answer", str(home / "pipe.csv")], {}),
        (["answer", "-"], {"stdin": open("/dev/zero", "rb")}),  # noqa: SIM115 - the child's
        (["answer", "-"], {"input": b"\xff\xfe"}),
        (["answer", "-"], {"input": b""}),
        (["answer", good, *table], {"stdout": open("/dev/full", "wb")}),  # noqa: SIM115
        (["answer", '{"verb": "test", "sigma": Infinity}'], {}),
        (["answer", '{"verb": "test", "sigma": 1e999}'], {}),
        (["answer", "-"], {"input": b"[" * 100_000}),
        (["answer", "-"], {"input": b'{"a":' * 50_000}),
        (["answer", "--study", str(home / "bushes.csv")], {}),
        (["answer", "--study", "/dev/zero"], {}),
    ]
    for arguments, how in cases:
        began = time.monotonic()
        given = {"capture_output": True, **how}
        if "stdout" in how:
            given = {"stderr": subprocess.PIPE, **how}
        done = subprocess.run([*PROGRAM, *arguments], check=False, timeout=120, **given)
        _judge(done, " ".join(arguments), tally, time.monotonic() - began)
    _closed_pipe([*PROGRAM, "answer", good, *table], tally)
    tally.notes.append(f"{len(cases) + 1} odd ones")


def _closed_pipe(command: list[str], tally: Tally) -> None:
    """Somebody reads no further, as `head` does."""
    child = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    assert child.stdout is not None
    assert child.stderr is not None
    child.stdout.close()
    said = child.stderr.read().decode().splitlines()
    if child.wait(timeout=120) != 2 or len(said) != 1:
        tally.fail(f"a closed pipe: exit {child.returncode}, {said[:3]}")

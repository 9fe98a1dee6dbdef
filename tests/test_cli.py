"""The command line, as somebody would run it."""

from __future__ import annotations

import io
import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from scipy import stats

from theoros.cli import main
from theoros.study.entries import Study
from theoros.study.file import save_study

CSV = "withering,loss (%)\nslow,35.5\nslow,36.1\nslow,34.9\nquick,31.2\nquick,33.0\nquick,32.1\n"
STATEMENT = {
    "verb": "test",
    "table": "trays",
    "what": "loss",
    "by": "withering",
    "first": "slow",
    "second": "quick",
    "claim": "greater",
    "replicates": 500,
}


@pytest.fixture
def trays(tmp_path: Path) -> Path:
    path = tmp_path / "trays.csv"
    path.write_text(CSV)
    return path


def test_answering_a_statement(trays: Path, capsys) -> None:
    assert main(["answer", json.dumps(STATEMENT), "--table", str(trays)]) == 0
    made = json.loads(capsys.readouterr().out)
    ref = stats.ttest_ind([35.5, 36.1, 34.9], [31.2, 33, 32.1], equal_var=False, alternative="greater")
    welch = made["figures"]["methods"][0]
    assert welch["p"] == pytest.approx(ref.pvalue, rel=1e-12)
    assert made["statement"]["replicates"] == 500
    assert made["statement_text"].startswith("Test whether the mean of loss (%) for slow")


def test_a_statement_from_a_file_and_from_standard_input(trays: Path, tmp_path: Path, capsys, monkeypatch) -> None:
    file = tmp_path / "statement.json"
    file.write_text(json.dumps(STATEMENT))
    assert main(["answer", str(file), "--table", str(trays)]) == 0
    one = capsys.readouterr().out
    standard = io.TextIOWrapper(io.BytesIO(json.dumps(STATEMENT).encode()))
    monkeypatch.setattr(sys, "stdin", standard)
    assert main(["answer", "-", "--table", str(trays)]) == 0
    assert capsys.readouterr().out == one


def test_answering_a_study(demo: Study, tmp_path: Path, capsys) -> None:
    path = tmp_path / "s.theoros"
    save_study(demo, path)
    assert main(["answer", "--study", str(path)]) == 0
    made = json.loads(capsys.readouterr().out)
    assert [entry["id"] for entry in made] == ["e1", "e2", "e3", "e4", "e5"]
    assert all("problem" not in entry for entry in made)


@pytest.mark.parametrize(
    ("arguments", "told"),
    [
        (["answer"], "Give a statement"),
        (["answer", "{"], "not valid JSON"),
        (["answer", "no-such-file"], "neither a statement in JSON nor a file"),
        (["answer", "[]"], "neither a statement"),
        (["answer", '{"verb": "test"}'], "There is no table called “”"),
        (["answer", '{"verb": "test", "table": "trays"}', "--table", "TRAYS"], "Choose"),
        (["answer", '{"verb": "plot", "table": "x"}', "--table", "/no/such.csv"], "could not be opened"),
        (["answer", "--study", "/no/such.theoros"], "could not be opened"),
        (["answer", "{}", "--study", "x"], "not both"),
        (["answer", "{}", "--table", "TRAYS", "--table", "TRAYS"], "Two files would be the table"),
    ],
)
def test_bad_input_is_one_line_and_exit_two(arguments: list[str], told: str, trays: Path, capsys) -> None:
    assert main([str(trays) if a == "TRAYS" else a for a in arguments]) == 2
    out, err = capsys.readouterr()
    assert out == ""
    assert err.count("\n") == 1
    assert told in err


def test_no_qt_without_the_desk(trays: Path) -> None:
    code = (
        "import sys; from theoros.cli import main; "
        f"main(['answer', {json.dumps(json.dumps(STATEMENT))}, '--table', {str(trays)!r}]); "
        "sys.exit(any(name.startswith('PySide6') for name in sys.modules))"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, check=False)
    assert done.returncode == 0, done.stderr


PROGRAM = [sys.executable, "-m", "theoros.cli", "answer"]


@pytest.mark.parametrize(
    ("arguments", "how", "told"),
    [
        (['{"verb": ["plot"]}'], {}, "begins with its verb"),
        (['{"verb": "test", "alpha": Infinity}'], {}, "Infinity is no number"),
        (['{"verb": "test", "alpha": 1e999}'], {}, "must be a finite number"),
        (['{"verb": "plot", "table": "\\ud800"}'], {}, "There is no table"),
        (["\udcff"], {}, "neither a statement"),
        (["/dev/zero"], {}, "neither a statement"),
        (["-"], {"input": b"\xff"}, "not text in UTF-8"),
        (["-"], {"input": b"[" * 200_000}, "nested too deep"),
        (["-"], {"input": b" " * 2_000_000}, "longer than any statement"),
        (['{"verb": "plot", "table": "zero"}', "--table", "/dev/zero"], {}, "not a file"),
    ],
)
def test_whatever_is_written_ends_in_a_line_and_two(arguments, how: dict, told: str) -> None:
    """Through a process of its own, as a shell sees it."""
    done = subprocess.run([*PROGRAM, *arguments], capture_output=True, check=False, timeout=60, **how)
    said = done.stderr.decode("utf-8", "replace")
    assert (done.returncode, done.stdout, said.count("\n")) == (2, b"", 1), said
    assert told in said


def test_an_answer_that_cannot_be_written_is_told(trays: Path) -> None:
    with open("/dev/full", "wb") as full:
        done = subprocess.run(
            [*PROGRAM, json.dumps(STATEMENT), "--table", str(trays)],
            stdout=full,
            stderr=subprocess.PIPE,
            check=False,
            timeout=60,
        )
    assert done.returncode == 2
    assert done.stderr.decode() == "theoros: the answer could not be written (No space left on device)\n"


def test_a_terminal_of_ascii_gets_escapes(trays: Path) -> None:
    done = subprocess.run(
        [*PROGRAM, json.dumps(STATEMENT), "--table", str(trays)],
        capture_output=True,
        check=False,
        env={**os.environ, "PYTHONIOENCODING": "ascii", "PYTHONUTF8": "0", "LC_ALL": "C"},
        timeout=60,
    )
    assert done.returncode == 0, done.stderr
    assert done.stdout.isascii()
    assert "≥" in json.dumps(json.loads(done.stdout), ensure_ascii=False)

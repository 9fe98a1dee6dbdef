"""The command line, as somebody would run it."""

from __future__ import annotations

import io
import json
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
    "verb": "test", "table": "trays", "what": "loss", "by": "withering", "first": "slow",
    "second": "quick", "claim": "greater", "shuffles": 500,
}  # fmt: skip


@pytest.fixture
def trays(tmp_path: Path) -> Path:
    path = tmp_path / "trays.csv"
    path.write_text(CSV)
    return path


def test_answering_a_statement(trays: Path, capsys) -> None:
    assert main(["answer", json.dumps(STATEMENT), "--table", str(trays)]) == 0
    made = json.loads(capsys.readouterr().out)
    ref = stats.ttest_ind(
        [35.5, 36.1, 34.9], [31.2, 33, 32.1], equal_var=False, alternative="greater"
    )
    welch = made["figures"]["ways"][0]
    assert welch["p"] == pytest.approx(ref.pvalue, rel=1e-12)
    assert made["statement"]["shuffles"] == 500
    assert made["statement_text"].startswith("Test whether the mean of loss (%) for slow")


def test_a_statement_from_a_file_and_from_standard_input(
    trays: Path, tmp_path: Path, capsys, monkeypatch
) -> None:
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
        (
            ["answer", '{"verb": "plot", "table": "x"}', "--table", "/no/such.csv"],
            "could not be opened",
        ),
        (["answer", "--study", "/no/such.theoros"], "could not be opened"),
        (["answer", "{}", "--study", "x"], "not both"),
        (["answer", "{}", "--table", "TRAYS", "--table", "TRAYS"], "Two files would be the table"),
    ],
)
def test_bad_input_is_one_line_and_exit_two(
    arguments: list[str], told: str, trays: Path, capsys
) -> None:
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

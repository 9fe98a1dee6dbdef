"""Kept mutants: one change each that makes a sentence, a working, a picture or a safeguard wrong.

Each is put into a copy of the source, and the tests named beside it must fail. One whose place is
gone fails the trial, too, so that the list follows the source.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path

from soak.tally import Budget, Tally

ROOT = Path(__file__).parents[1]
MOST_ALIVE = 0.1
MOST_SECONDS = 300


@dataclass(frozen=True)
class Mutant:
    """A change of one place; `where` is below the source, `tests` below the tests."""

    where: str
    before: str
    after: str
    tests: str


HOLD, TABLES = "verbs/test_sentences_hold.py", "engine/test_tables.py"
PLAIN = "verbs/test_plain_words.py"
LINK, JOURNAL, LAYOUT = "engine/test_link.py", "study/test_journal.py", "answer/test_layout.py"
ANOVA = "numeric/procedures/analysis_of_variance.py"
MUTANTS = (
    Mutant(ANOVA, "(whole + self.mean_within)", "whole", HOLD),
    Mutant(ANOVA, "self.between / (self.between + self.within)", "self.within / (self.between + self.within)", HOLD),
    Mutant("verbs/procedures/ranks.py", "{sum of the ranks of {one}}} = {_half(w)}", "{sum of the ranks of {one}}} = {_half(w + n1)}", HOLD),
    Mutant("verbs/procedures/intervals.py", "if (values != np.round(values)).any():", "if (values == np.round(values)).all():", HOLD),
    Mutant("verbs/procedures/intervals.py", "if low >= 0 or math.isinf(low)", "if low <= 0 or math.isinf(low)", HOLD),
    Mutant("verbs/procedures/report.py", "if not self.fails(method):\n            return []\n        then", "if self.fails(method):\n            return []\n        then", HOLD),
    Mutant("verbs/procedures/procedure.py", "if parameter in method.compares and not fails(method)", "if parameter in method.compares", HOLD),
    Mutant("verbs/simulate/report.py", "of} at least that\", slot, -1)", "of} at least that\", slot, 1)", HOLD),
    Mutant("verbs/simulate/report.py", "of} at most that\", slot, 1)", "of} at most that\", slot, -1)", HOLD),
    Mutant("verbs/laws/poisson.py", "\"λ of at least 10\", one.mean >= 10", "\"λ of at least 10\", one.mean >= 5", HOLD),
    Mutant("verbs/describe/words/sample_shape.py", "side = \"above\" if shape.kind == \"right\"", "side = \"below\" if shape.kind == \"right\"", HOLD),
    Mutant("verbs/describe/words/sample_shape.py", "to the right (mean above median)", "to the right (mean below median)", HOLD),
    Mutant("verbs/plot/words/pairs.py", "inside = (p.x >= p.across.low) & (p.x <= p.across.high)", "inside = p.x >= p.across.low", HOLD),
    Mutant("verbs/plot/words/pairs.py", "inside &= (p.y >= p.up.low) & (p.y <= p.up.high)", "inside &= p.y <= p.up.high", HOLD),
    Mutant("verbs/model/curves/logarithmic.py", "math.log(2)", "math.log(10)", HOLD),
    Mutant("verbs/model/curves/power_curves.py", "step ** min(float(f.coefficients[1]), 900.0)", "step ** -min(float(f.coefficients[1]), 900.0)", HOLD),
    Mutant("verbs/model/curves/exponential_curves.py", "min(700.0, rate * step)", "min(700.0, rate)", HOLD),
    Mutant("verbs/model/curves/polynomials.py", "\"lowest\" if bend > 0 else \"highest\"", "\"highest\" if bend > 0 else \"lowest\"", HOLD),
    Mutant("verbs/model/curves/two_pieces.py", "slope_only(pairs, slope + change, low, high)", "slope_only(pairs, change, low, high)", HOLD),
    Mutant("verbs/model/curves/logistic_growth.py", "level_words(pairs, f.x, level, shift / rate)", "level_words(pairs, f.x, level, rate / shift)", HOLD),
    Mutant("verbs/model/words/amounts.py", "'higher' if change > 0 else 'lower'", "'lower' if change > 0 else 'higher'", HOLD),
    Mutant("verbs/model/words/amounts.py", "'higher' if factor > 1 else 'lower'", "'lower' if factor > 1 else 'higher'", HOLD),
    Mutant("verbs/model/simple/answering.py", "side = \"above\" if off > 0 else \"below\"", "side = \"below\" if off > 0 else \"above\"", HOLD),
    Mutant("verbs/model/simple/words.py", "keep = np.arange(f.n) != place", "keep = np.arange(f.n) != place + 1", HOLD),
    Mutant("verbs/model/logistic/tables.py", "now.misses, now.sensitivity)", "now.misses, now.specificity)", HOLD),
    Mutant("verbs/model/logistic/tables.py", "now.false_alarms, now.rejections", "now.rejections, now.false_alarms", HOLD),
    Mutant("answer/wording.py", "exact(round(100 * float(share), most))", "exact(round(100 * float(share)))", HOLD),
    Mutant("verbs/forecast/words/assumptions.py", "fitted + 3), fitted)", "fitted + 3), 0)", HOLD),
    Mutant("verbs/forecast/report.py", "wide / (2 * normal)", "wide / 3.92", HOLD),
    Mutant("verbs/core/verdict.py", "\"enough\" if self.rejects(alpha)", "\"enough\" if not self.rejects(alpha)", PLAIN),
    Mutant("verbs/core/verdict.py", "return at_most(p, alpha + SAME)", "return at_most(p, 2 * alpha)", PLAIN),
    Mutant("verbs/core/verdict.py", "return \"rare\" if share >= 0.01", "return \"not rare\" if share >= 0.01", PLAIN),
    Mutant("verbs/test/pictures.py", "'contains' if inside else 'does not contain'", "'does not contain' if inside else 'contains'", PLAIN),
    Mutant("verbs/model/simple/words.py", "return made if slope_is_not_shown(f)", "return made if not slope_is_not_shown(f)", PLAIN),
    Mutant("verbs/forecast/words/series.py", "way = \"rises\" if slope > 0", "way = \"falls\" if slope > 0", HOLD),
    Mutant("verbs/forecast/words/series.py", "int(np.argmax(parts.effects)), int(np.argmin(parts.effects))", "int(np.argmin(parts.effects)), int(np.argmax(parts.effects))", HOLD),
    Mutant("verbs/forecast/methods/naive.py", "shown.at % cycle", "(shown.at + 1) % cycle", HOLD),
    Mutant("verbs/forecast/methods/line.py", "× {step}\"]", "× {step + 1}\"]", HOLD),
    Mutant("verbs/procedures/means.py", "({say(s.mean)}{put_off}) / ({say(s.sd)}", "({say(s.mean)}{put_off}) / ({say(s.mean)}", HOLD),
    Mutant("verbs/procedures/means.py", "s_{{{two}}}^{{2}}/n_{{{two}}})\"", "s_{{{two}}}^{{2}}/n_{{{one}}})\"", HOLD),
    Mutant("verbs/procedures/pivots.py", "self.estimate - reach, self.estimate + reach", "self.estimate - reach, self.estimate", HOLD),
    Mutant("verbs/follow_ups.py", "alpha=alpha,\n        claimed=claimed,", "claimed=claimed,", "verbs/test_follow_ups.py"),
    Mutant("answer/layout.py", "max(rooms[at] * every, text * 2)", "max(rooms[at] / every, text * 2)", LAYOUT),
    Mutant("answer/layout.py", "if at % every == 0 and self.turn:", "if at % every == 1 and self.turn:", LAYOUT),
    Mutant("study/journal.py", "data[\"edit\"] == SAVED and data[\"whole\"]]", "data[\"edit\"] == SAVED]", JOURNAL),
    Mutant("study/journal.py", "seen is not None and seen.sum == of_source", "seen is not None", JOURNAL),
    Mutant("study/journal.py", "since = lines[whole[-1] + 1 :] if whole else lines", "since = lines", JOURNAL),
    Mutant("study/journal.py", "lock.parent for lock in folder.glob", "lock.parent.parent for lock in folder.glob", JOURNAL),
    Mutant("engine/link.py", "job.crashes >= MOST_CRASHES", "job.crashes > MOST_CRASHES", LINK),
    Mutant("engine/link.py", "0.0 if job.limits is not None else PATIENCE", "PATIENCE", LINK),
    Mutant("engine/tables.py", "key[1] in names and key[0] in OF_ONE_COLUMN", "key[1] in names", TABLES),
    Mutant("engine/tables.py", "held = (*self._in_use.values(), *waiting)", "held = (*self._in_use.values(),)", TABLES),
    Mutant("engine/limits.py", "min(seconds, MOST_SECONDS)", "seconds", LINK),
    Mutant("engine/limits.py", "min(memory, most_memory())", "memory", LINK),
    Mutant("table/formula/__init__.py", "from theoros.table.formula import functions  # noqa", "# noqa", "test_house.py table/test_formula.py"),
)  # fmt: skip


def run(budget: Budget) -> Tally:
    tally = Tally("kept mutants", f"{len(MUTANTS)}: at most {MOST_ALIVE:.0%} alive")
    order = list(MUTANTS)
    budget.chance.shuffle(order)
    alive: list[str] = []
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder)
        for name in ("src", "tests", "soak", "scripts", "benchmarks", "packaging", "docs"):
            shutil.copytree(ROOT / name, home / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
        for name in ("pyproject.toml", "README.md", "run"):
            shutil.copy(ROOT / name, home / name)
        for at in budget.rounds(tally):
            if at >= len(order):
                break
            one = order[at]
            said = f"{one.where}: {one.before!r} → {one.after!r}"
            path = home / "src/theoros" / one.where
            text = path.read_text(encoding="utf-8") if path.exists() else ""
            if text.count(one.before) < 1:
                tally.fail(f"its place is gone: {said}")
                continue
            path.write_text(text.replace(one.before, one.after, 1), encoding="utf-8")
            try:
                if _passes(home, one.tests):
                    alive.append(said)
            finally:
                path.write_text(text, encoding="utf-8")
    tally.seconds = time.monotonic() - began
    tally.notes.append(f"{len(alive)} alive")
    if len(alive) > MOST_ALIVE * max(tally.tried, 10):
        for said in alive:
            tally.fail(f"no test notices {said}")
    else:
        tally.notes += [f"alive: {said}" for said in alive]
    return tally


def _passes(home: Path, tests: str) -> bool:
    """Whether the tests pass with the mutant in place."""
    paths = {"PYTHONPATH": f"{home / 'src'}:{home}", "QT_QPA_PLATFORM": "offscreen", "PYTHONDONTWRITEBYTECODE": "1"}
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-n0", "-p", "no:cacheprovider"]
    command += [f"tests/{one}" for one in tests.split()]
    try:
        done = subprocess.run(
            command, cwd=home, env={**os.environ, **paths}, capture_output=True, timeout=MOST_SECONDS, check=False
        )
    except subprocess.TimeoutExpired:
        return False  # a mutant that hangs is noticed
    return done.returncode == 0

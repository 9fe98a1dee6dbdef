"""Keeps answers as they are, and says what of them changed: for work that must not change any.

    python scripts/compare_answers.py keep FILE [N]   answers of all examples, and of N statements
                                                      made by chance that are answered (400)
    python scripts/compare_answers.py compare FILE [VERB]   the same statements again, and what differs

Statements are kept as the JSON that they had, so that what was kept before a field was renamed
can be asked after it.
"""

from __future__ import annotations

import hashlib
import json
import random
import sys
from collections import Counter
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).parents[1]))

from soak.statements import _changed, awkward_tables
from soak.tally import at_most

from theoros.answer.layout import lay_out
from theoros.answer.parts import Answer, answer_json
from theoros.answer.svg import to_svg
from theoros.answer.wording import to_plain
from theoros.study.file import demo_study
from theoros.verbs.core.answering import answer
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import arrangements, statement_from_json, verbs

SEED = 2026
MOST_SHOWN = 400
"""Letters of a value that differs."""


def told(found: Answer) -> dict[str, Any]:
    """All that an answer shows, as plain values: figures as they are written, links, pictures."""
    made = answer_json(found)
    if found.problem:
        return made
    made["shown"] = [
        [[to_plain(heading.label) for heading in table.headings]]
        + [[to_plain(cell.text) for cell in row.cells] for row in table.rows]
        for part in (found, *found.above, *found.sections)
        for table in part.figures
    ]
    made["next"] = [to_plain(link.label) for link in found.reading.next]
    made["choices"] = [[choice.label for choice in one.choices] for one in found.reading.assumptions]
    pictures = [part.picture for part in (found, *found.above, *found.sections) if part.picture]
    made["drawn"] = [
        hashlib.sha256(to_svg(lay_out(one, 700, 420), one.alt).encode()).hexdigest()[:16] for one in pictures
    ]
    return made


def asked(data: dict[str, Any]) -> dict[str, Any]:
    """A statement, what it says of itself, and its answer."""
    tables = awkward_tables()
    try:
        statement = statement_from_json(data)
    except StatementError as problem:
        return {"refused": str(problem)}
    found = told(answer(statement, tables))
    found["title"] = statement.title(tables)
    found["settings"] = [f"{s.label}: {s.shown}" for s in statement.settings(tables)]
    return found


def keep(path: Path, most: int) -> None:
    tables, chance = awkward_tables(), random.Random(SEED)
    examples = [one.to_json() for verb in verbs().values() for one in verb.examples]
    examples += [kind().to_json() for kind in arrangements().values()]
    examples += [entry.statement.to_json() for entry in demo_study().entries]
    kept = [(data, asked(data)) for data in examples]
    answered = 0
    while answered < most:
        data = _changed(chance.choice(examples), tables, chance)
        try:
            with at_most(10.0):
                made = asked(data)
        except Exception as problem:  # kept as it is: a fault that is there before
            made = {"raised": type(problem).__name__}
        answered += "problem" not in made and "refused" not in made
        kept.append((data, made))
    path.write_text(json.dumps(kept))
    print(f"{len(kept)} statements kept, {answered} of those made by chance answered")


def differences(before: Any, after: Any, path: str = "") -> list[str]:
    """Paths at which two values differ, with both."""
    if isinstance(before, dict) and isinstance(after, dict):
        names = [*before, *(name for name in after if name not in before)]
        return [line for name in names for line in differences(before.get(name), after.get(name), f"{path}.{name}")]
    if isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        return [
            line
            for at, (one, other) in enumerate(zip(before, after, strict=True))
            for line in differences(one, other, f"{path}.{at}")
        ]
    if isinstance(before, float) and isinstance(after, float):
        near = abs(before - after) <= 1e-9 * max(abs(before), abs(after))
        if near:
            return []
    if before == after:
        return []
    return [f"{path}\n    - {str(before)[:MOST_SHOWN]}\n    + {str(after)[:MOST_SHOWN]}"]


def compare(path: Path, verb: str = "") -> None:
    kept = [one for one in json.loads(path.read_text()) if verb in ("", one[0].get("verb"))]
    differ, places = 0, Counter[str]()
    for data, before in kept:
        try:
            with at_most(20.0):
                after = json.loads(json.dumps(asked(data)))
        except Exception as problem:
            after = {"raised": type(problem).__name__}
        found = differences(before, after)
        if found:
            differ += 1
            print(json.dumps(data)[:300])
            for line in found[:12]:
                places[f"{data.get('verb')} {line.split(chr(10))[0]}"] += 1
                print("  ", line)
    print(f"{differ} of {len(kept)} differ")
    for place, n in places.most_common(30):
        print(f"  {n:5} {place}")


if __name__ == "__main__":
    what, where = sys.argv[1], Path(sys.argv[2])
    if what == "keep":
        keep(where, int(sys.argv[3]) if len(sys.argv) > 3 else 400)
    else:
        compare(where, *sys.argv[3:4])

"""From a changed claim to the answer painted with all ways that have a formula."""

from __future__ import annotations

import statistics

import numpy as np
import polars as pl

from benchmarks.measure import Figure, judged, leave, median_seconds, quiet_window, settle, until_painted

LIMITS = {1000: 50, 100_000: 250}
"""Milliseconds, corrected, by the number of rows."""


def figures() -> list[Figure]:
    return [*judged(_painted), *judged(_several_groups)]


def _table(rows: int):  # type: ignore[no-untyped-def]
    from theoros.table.kinds import Kind
    from theoros.table.table import Column, Table

    rng = np.random.default_rng(7)
    shed = rng.choice(["north", "south", "west"], rows)
    loss = np.round(rng.normal(50, 9, rows) + (shed == "north") * 2, 2)
    mass = np.round(loss * 0.4 + rng.normal(0, 3, rows), 2)
    grade = rng.choice(["fine", "broken", "dust"], rows, p=[0.5, 0.3, 0.2])
    frame = pl.DataFrame({"loss": loss, "mass": mass, "shed": shed, "grade": grade})
    columns = (
        Column("loss", unit="%"),
        Column("mass", unit="g"),
        Column("shed", Kind.CATEGORY),
        Column("grade", Kind.CATEGORY),
    )
    return Table("trays", columns, frame, "tray")


CLAIMS = {
    "two means": {"kind": "two levels", "what": "loss", "by": "shed", "first": "north", "second": "south"},
    "one mean": {"kind": "one column", "what": "loss"},
    "several means": {"kind": "levels", "what": "loss", "by": "shed"},
    "two categories": {"kind": "two categories", "what": "grade", "by": "shed"},
    "a correlation": {"kind": "two numbers", "what": "loss", "against": "mass"},
}

MORE: dict[str, dict[str, object]] = {
    "two means": {"parameter": "mean", "method": "welch t"},
    "one mean": {"parameter": "mean", "method": "one-sample t", "null": 50.0},
    "several means": {"parameter": "mean", "method": "anova"},
    "two categories": {"parameter": "relation", "method": "chi-square"},
    "a correlation": {"parameter": "correlation", "method": "pearson"},
}


def _painted() -> list[Figure]:
    """Medians over changes of α, of the slowest of the claims."""
    from theoros.study.edits import AddTable
    from theoros.verbs.core.registry import statement_from_json

    made = []
    for rows, limit in LIMITS.items():
        window = quiet_window()
        window.warm_up()
        window.session.do(AddTable(_table(rows)))
        found = {}
        for name, data in CLAIMS.items():
            said = {"verb": "test", "table": "trays", "data": data} | MORE[name]
            window.asking.add_entry(statement_from_json(said))
            page, taken = window.entry_page, []
            settle(window, 300)
            for at in range(13):
                alpha = 0.01 + 0.01 * (at % 5)
                taken.append(until_painted([page], lambda p=page, a=alpha: p.set_slot("alpha", a)))
            found[name] = statistics.median(taken[3:]) * 1000
        leave(window)
        slowest = max(found, key=lambda name: found[name])
        title = f"changed claim to painted answer, {rows:,} rows, slowest: {slowest}"
        made.append(Figure(title.replace(",", " ", 1), found[slowest], limit, "ms"))
    return made


def _several_groups() -> list[Figure]:
    """ANOVA with Tukey's intervals, as it is answered in the engine, of 5 groups of 100 000."""
    from theoros.verbs.data.sample import Sample
    from theoros.verbs.data.samples import SeveralSamples
    from theoros.verbs.parameters.parameter import parameters
    from theoros.verbs.procedures.procedure import Question, procedures

    rng = np.random.default_rng(11)
    groups = tuple(
        Sample(name, name, rng.normal(50 + at / 50, 9, 100_000), np.arange(100_000))
        for at, name in enumerate(("north", "south", "west", "east", "ridge"))
    )
    data = SeveralSamples(measure="loss", unit="%", decimals=1, groups=groups)
    method = procedures()["anova"]
    question = Question(data, parameters()["mean"], 0.0, "different", 0.05, confidence=0.95)
    took = median_seconds(lambda: method.found(question), 9) * 1000
    return [Figure("ANOVA with Tukey, 5 groups of 100 000", took, 300, "ms")]

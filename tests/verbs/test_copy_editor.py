"""What a copy editor would mark: rules over the sentences of some hundred awkward answers.

`approved.txt` beside this file holds sentences as they were read and approved; after a change of
wording that is meant, `python -m tests.verbs.test_copy_editor` writes it anew, and the diff shows
what changed.
"""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import make_table
from theoros.answer.parts import Answer
from theoros.answer.wording import to_plain
from theoros.study.file import demo_study
from theoros.table.table import Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, verbs
from theoros.verbs.core.statement import Statement
from theoros.verbs.probability.data import situations
from theoros.verbs.probability.statement import ProbabilityStatement

APPROVED = Path(__file__).parent / "approved.txt"

LEVELS = {
    "yes and no": ("yes", "no"),
    "classes": ("under 20", "20 and over"),
    "braces": ("c_{d}", "e^{f}"),
    "ranges": ("1–5", "6–10"),
    "words": ("slow", "quick"),
    "prepositions": ("in", "out"),
    "times": ("before", "after"),
    "letters": ("a", "b"),
    "markup": ("<b>", "=1+1"),
    "long": ("withered slowly in the shade", "withered quickly"),
}
VALUES = {
    "plain": [35.1, 36.2, 34.0, 37.3, 35.8, 33.9, 36.6, 32.0, 33.1, 31.2, 34.4, 32.5, 33.3, 31.8],
    "ties": [3.0, 3, 4, 4, 4, 5, 5, 2, 3, 3, 3, 4, 4, 4],
    "negative": [-3.5, -2.5, -1.0, 0.5, -0.5, -2.0, 1.0, -6.5, -7.0, -5.5, -8.0, -7.5, -6.0, -9.0],
    "tiny": [k * 1e-10 for k in (3, 4, 5, 4.5, 3.5, 5.5, 6, 1, 2, 1.5, 2.5, 1.2, 2.2, 0.8)],
    "huge": [k * 1e11 for k in (3, 4, 5, 4.5, 3.5, 5.5, 6, 1, 2, 1.5, 2.5, 1.2, 2.2, 0.8)],
    "close": [2.98, 2.99, 2.98, 2.99, 2.98, 2.99, 2.98, 3.02, 3.01, 3.02, 3.01, 3.02, 3.01, 3.02],
    "one of each": [4.0, 9.0],
    "equal": [7.0] * 14,
}
NAMES = (
    ("loss", "%", "tray"),
    ("leaf mass (fresh)", "g", "bush"),
    ("visitors", "", "month"),
    ("cost", "pounds", "child"),
)


def awkward() -> Iterator[tuple[str, Statement, dict[str, Table]]]:
    """Statements with the tables that they are about, each with a name."""
    kinds = itertools.cycle(NAMES)
    for (levels_name, levels), (values_name, values) in itertools.product(LEVELS.items(), VALUES.items()):
        what, unit, noun = next(kinds)
        half = len(values) // 2
        table = make_table("t", noun, **{what: values, "when": [levels[0]] * half + [levels[1]] * half})
        columns = tuple(c if c.name == "when" else type(c)(c.name, c.kind, unit) for c in table.columns)
        tables = {"t": table.with_(columns=columns)}
        base = f"{levels_name}, {values_name}"
        yield f"{base}, describe", make("describe", table="t", what=what, by="when"), tables
        yield f"{base}, plot", make("plot", table="t", what=what, by="when", cut=values[0]), tables
        for method, parameter in (("welch t", "mean"), ("rank sum", "median")):
            made = make("test", table="t", what=what, by="when", first=levels[0], second=levels[1],
                        method=method, parameter=parameter, replicates=200)  # fmt: skip
            yield f"{base}, {method}", made, tables


def chances() -> Iterator[tuple[str, Statement, dict[str, Table]]]:
    """Questions of probability, with numbers that are easily said wrong."""
    values = ("exactly 0", "exactly 1", "at least 1", "more than 1000000", "between 1 and 2",
              "not 3", "X = 0 or X = 2", "top 10 %", "at least 2 given at least 1")  # fmt: skip
    kinds: dict[str, dict[str, object]] = {
        "binomial": {"n": 1, "p": 0.5},
        "poisson": {"rate": 1e-7},
        "geometric": {"p": 1.0},
        "hypergeometric": {"population": 3, "successes": 1, "drawn": 1},
        "normal": {"mu": -3.0, "sigma": 1e-10},
        "exponential": {"mean": 1e11},
        "proportion of n": {"n": 1, "p": 0.001},
        "t": {"df": 1.0},
        "chi-square": {"df": 1.0},
        "typed values": {"rows": [{"value": -2.0, "weight": 1.0}]},
    }
    for kind, held in kinds.items():
        for per, each, counts in ((1, "tray", "seals"), (1000, "child", ""), (100, "", "cost")):
            if kind not in situations():
                raise AssertionError(kind)
            made = make(
                "probability",
                situation={"kind": kind, **held},
                parts=list(values),
                per=per,
                each=each,
                counts=counts,
                simulated=100,
            )
            yield f"{kind}, {per}", made, {}
    for name, levels in LEVELS.items():
        table = make_table("t", "tray", when=[levels[0]] * 3 + [levels[1]], of=["x", "y"] * 2)
        asked = [
            f"{a} {joiner} {b}"
            for joiner in ("and", "or", "given")
            for a, b in (("x", levels[0]), (levels[1], "y"), ("not x", f"when {levels[1]}"))
        ]
        data = {"kind": "two categories", "what": "when", "by": "of"}
        for per in (1, 1000):
            made = make(
                "probability",
                table="t",
                parts=[*asked, f"x and {levels[0]} independent"],
                situation={"kind": "two-way table", "data": data},
                per=per,
            )
            yield f"{name}, table, {per}", made, {"t": table}
    tree = {"kind": "tree", "first": "mite, no mite", "second": "spotted, clean"}
    for at, held_ in enumerate(([0.0, 1.0, 0.0], [1e-9, 0.5, 1e-12], [0.5, 0.5, 0.5])):
        parts = ["spotted", "mite given spotted", "mite and spotted independent", "not mite"]
        yield f"tree {at}", make("probability", situation={**tree, "chances": held_}, parts=parts, each="child"), {}
    draws = {"kind": "draws", "contents": "1 red, 1 green"}
    parts = ["both red", "exactly 1 red", "second green given first red", "the same"]
    yield "draws", make("probability", situation=draws, parts=parts, per=1), {}


def simulations() -> Iterator[tuple[str, Statement, dict[str, Table]]]:
    """Models of chance, with words and numbers that are easily said wrong."""
    models: dict[str, dict[str, object]] = {
        "share": {"case": "child", "success": "is left-handed", "p": 0.5, "n": 1},
        "outcomes": {"case": "die", "listed": "1 to 6", "n": 1},
        "stages": {"case": "bus", "n": 1},
        "shape": {"measure": "cost", "unit": "pounds", "mean": -3.0, "sd": 1e-10, "n": 1},
        "waiting": {"case": "box", "p": 1.0},
        "walk": {"n": 1},
    }
    usual = {"outcomes": "number", "shape": "mean", "waiting": "wait", "walk": "end"}
    for kind, held in models.items():
        for ask, value, replicates in (
            ("distribution", None, 1),
            ("at most", 1.0, 1),
            ("at least", -2.0, 2),
            ("as far", 0.0, 200),
            ("between", 1.0, 200),
            ("middle", None, 200),
            ("at most", 1e9, 200),
        ):
            made = make(
                "simulate",
                model={"kind": kind, **held},
                statistic=usual.get(kind, "number"),
                ask=ask,
                value=value,
                high=None if value is None else value + 1,
                replicates=replicates,
                each="crate" if replicates == 2 else "",
            )
            yield f"{kind}, {ask} {value}, {replicates}", made, {}
    for name, levels in LEVELS.items():
        table = make_table("t", "tray", loss=VALUES["plain"], when=[levels[0]] * 7 + [levels[1]] * 7)
        data = {
            "kind": "two levels",
            "what": "loss",
            "by": "when",
            "first": levels[0],
            "second": levels[1],
            "design": "separate",
        }
        for method, parameter in (("shuffled labels", "mean"), ("shuffled labels", "median")):
            made = make(
                "simulate",
                table="t",
                model={"kind": "claim"},
                data=data,
                method=method,
                parameter=parameter,
                ask="as far",
                replicates=200,
            )
            yield f"{name}, watched {parameter}", made, {"t": table}


def models() -> Iterator[tuple[str, Statement, dict[str, Table]]]:
    """Models with values and levels that are easily said wrong."""
    along = [1.0, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14]
    kinds = itertools.cycle(NAMES)
    for values_name, values in VALUES.items():
        levels = LEVELS["braces" if values_name == "tiny" else "words"]
        what, unit, noun = next(kinds)
        n = len(values)
        made = make_table(
            "t", noun, **{what: values, "age": along[:n], "when": [levels[at % 3 > 0] for at in range(n)]}
        )
        columns = tuple(type(c)(c.name, c.kind, unit) if c.name == what else c for c in made.columns)
        tables = {"t": made.with_(columns=columns)}
        asked: dict[str, dict[str, object]] = {
            curve: {"curve": curve, "read": 3.5, "also_at": "40"}
            for curve in ("line", "origin", "quadratic", "exponential", "power by logs",
                          "two pieces", "robust", "smooth", "logistic growth", "polynomial")
        }  # fmt: skip
        asked["groups"] = {"by": "when", "read": 1.0}
        asked["several"] = {"also": ("when",), "values": "age 3"}
        asked["products"] = {"also": ("when",), "products": True, "squares": True}
        asked["turned"] = {"what": "age", "against": what}
        asked["levels"] = {"against": "when"}
        asked["odds"] = {"what": "when", "level": levels[0], "read": 2.0}
        asked["odds of several"] = {"what": "when", "level": levels[1], "also": (what,), "cut": 0.3}
        for name, slots in asked.items():
            said = {"what": what, "against": "age", **slots}
            yield f"{values_name}, model, {name}", make("model", table="t", **said), tables


def forecasts() -> Iterator[tuple[str, Statement, dict[str, Table]]]:
    """Series with values, steps and gaps that are easily said wrong."""
    kinds = itertools.cycle(NAMES)
    times = {
        "months": [f"{2015 + k // 12}M{k % 12 + 1:02}" for k in range(42)],
        "quarters": [f"Q{k % 4 + 1} {2008 + k // 4}" for k in range(42)],
        "years": [str(1970 + k) for k in range(42)],
        "weeks": [f"2020W{k + 1:02}" for k in range(42)],
        "rows": [f"week {k + 1}" for k in range(42)],
    }
    for (step, texts), (values_name, values) in itertools.product(times.items(), VALUES.items()):
        what, unit, noun = next(kinds)
        n = 6 if values_name == "one of each" else 42
        held: list[float | None] = [values[k * 5 % len(values)] + k % 3 * values[0] for k in range(n)]
        if values_name == "ties":
            held[7] = held[9] = None
        made = make_table("t", noun, when=texts[:n], **{what: held})
        columns = tuple(type(c)(c.name, c.kind, unit) if c.name == what else c for c in made.columns)
        tables = {"t": made.with_(columns=columns)}
        asked: dict[str, dict[str, object]] = {
            "as it comes": {},
            "one step": {"steps": 1, "held": 1},
            "best": {"method": "best"},
            "line": {"method": "line", "parts": "trend", "bands": "simulation"},
            "again": {"method": "again", "parts": "level with seasons", "held": 0},
            "ARIMA": {"method": "arima", "orders": "1 0 0"},
            "robust": {"taken": "local regression", "cycle": 3, "reason": "a fire"},
            "far": {"steps": 90, "gaps": "left"},
        }
        for name, slots in asked.items():
            said = {"table": "t", "what": what, **slots}
            yield f"{step}, {values_name}, forecast, {name}", make("forecast", **said), tables


def each_part(statement: Statement) -> list[Statement]:
    """The statement with each of its parts chosen, where it has parts."""
    if not isinstance(statement, ProbabilityStatement):
        return [statement]
    return [replace(statement, chosen=at) for at in range(len(statement.parts))]


CASES = [*awkward(), *chances(), *simulations(), *models(), *forecasts()]


def sentences(found: Answer) -> list[str]:
    """Every sentence of an answer, as it is read."""
    if found.problem:
        return [to_plain(found.problem.sentence)]
    reading = found.reading
    made = [reading.headline, *reading.paragraphs, *reading.cautions]
    made += [condition.text for condition in reading.assumptions]
    made += [found.picture.alt] if found.picture else []
    return [to_plain(text) for text in made if text]


def lines(found: Answer) -> list[str]:
    """The working and the steps."""
    steps = (*found.working, *found.writeup)
    return [line for step in steps for line in step.to_lines()]


PLURALS = "values|rows|trays|bushes|months|children|pairs|groups|cases|outliers|shuffles|points"
SINGULARS = "value|row|tray|bush|month|child|pair|group|case|outlier|shuffle|point"
RULES = {
    "a plural of one": rf"(?<![\d.,])1 (?:{PLURALS})\b",
    "a singular of many": rf"\b(?:[02-9]|\d\d+) (?:{SINGULARS})\b(?! t\b)",
    "doubled signs": r"[−+] ?[−+]",
    "nothing subtracted": r" [−+] 0\b(?!\.\d*[1-9])",
    "markup": r"[_^]\{|\}|&lt;|&amp;|</?su[bp]>",
    "an exponent of a machine": r"\d[eE][-+]?\d",
    "no number": r"\bnan\b|\bNaN\b|\binf\b|\bNone\b(?! of)|\barray\b",
    "a wrong article": r"\b[Aa] (?:[aei]\w{2,}|SD\b|SE\b|IQR)|\b[Aa]n [bcdfgjklpqtvwyz]\w+",
    "spaces": r"  | [,.;:)]|\( ",
    "a word twice": r"\b(the|of|for|is|in|by) \1\b",
    "empty quotes": "“”|‘’",
    "a nought with a sign": r"−0(?:\.0+)?(?![\d.])",
}


@pytest.mark.parametrize("name", [name for name, _, _ in CASES])
def test_no_rule_is_broken(name: str) -> None:
    _, statement, tables = next(case for case in CASES if case[0] == name)
    for one in each_part(statement):
        found = answer(one, tables)
        for text in (*sentences(found), *lines(found)):
            plain = text.replace("\u00a0", " ").replace("\u2060", "")
            quoted = re.sub(r"“[^”]*”|c_\{d\}|e\^\{f\}", "“x”", plain)
            for fault, pattern in RULES.items():
                assert not re.search(pattern, quoted), (fault, text)
        if found.problem:
            assert found.problem.sentence.endswith("."), found.problem
            continue
        reading = found.reading
        said = (reading.headline, *reading.paragraphs, *reading.cautions)
        for text in said if one is statement else said[1:]:  # P(X = 3) = 0.2 is no sentence
            assert text.endswith((".", "…")), text
        if "close" in name and "describe" in name:
            ends = re.findall(r"3\.0\b", found.reading.headline)
            assert not ends, found.reading.headline
        if "quadratic" not in name:
            assert "highest" not in found.reading.headline  # of two, the one is higher


def approved_cases() -> dict[str, list[tuple[Statement, dict[str, Table]]]]:
    """Answers whose sentences are approved word by word, by verb: examples, what is entered in the demo, awkward ones."""
    demo = demo_study()
    tables = dict(demo.by_name)
    wanted = (
        "words, plain, welch t",
        "words, plain, rank sum",
        "yes and no, ties, describe",
        "times, negative, welch t",
        "classes, close, describe",
        "braces, plain, plot",
        "prepositions, huge, describe",
        "letters, one of each, welch t",
        "long, equal, rank sum",
        "markup, tiny, describe",
    )
    made: dict[str, list[tuple[Statement, dict[str, Table]]]] = {}
    statements = [entry.statement for entry in demo.entries]
    statements += [example for verb in verbs().values() for example in verb.examples]
    statements += [
        make("plot", table="bushes", what="leaf mass", by="netting", shape=shape)
        for shape in ("means with intervals", "normal quantiles", "histogram")
    ]
    statements += MORE
    for verb in verbs():
        own = [one for one in statements if one.verb == verb]
        made[verb] = [(part, tables) for one in own for part in each_part(one)]
        made[verb] += [(one, t) for name, one, t in CASES if one.verb == verb and name in wanted]
    return made


def _levels(what: str, by: str, first: str, second: str) -> dict[str, str]:
    return {"kind": "two levels", "what": what, "by": by, "first": first, "second": second}


_JADE = {"kind": "level", "what": "cultivar", "level": "Jade"}
_LENGTH = {"kind": "one column", "what": "leaf length"}
MORE: list[Statement] = [
    *(
        make("test", table="bushes", parameter=parameter, method=method, data=data, **slots)
        for parameter, method, data, slots in (
            ("mean", "one-sample t", _LENGTH, {"null": 62}),
            ("median", "signed rank", _LENGTH, {"null": 62, "alternative": "greater"}),
            ("standard deviation", "chi-square of a variance", _LENGTH, {"null": 9}),
            ("proportion", "z of a share", _JADE, {"null": 0.3}),
            ("mean", "welch t", _levels("leaf mass", "netting", "open", "netted"), {}),
            ("mean", "shuffled labels", _levels("pluck mass", "netting", "open", "netted"), {}),
            ("median", "median test", _levels("pluck mass", "netting", "open", "netted"), {"alternative": "less"}),
            ("standard deviation", "Brown–Forsythe", _levels("leaf mass", "netting", "open", "netted"), {}),
            ("mean", "anova", {"kind": "levels", "what": "leaf length", "by": "cultivar"}, {}),
            ("median", "kruskal–wallis", {"kind": "levels", "what": "leaf mass", "by": "cultivar"}, {}),
            (
                "mean",
                "interaction",
                {"kind": "two factors", "what": "leaf mass", "by": "cultivar", "and_by": "netting"},
                {},
            ),
            ("shares", "chi-square of fit", {"kind": "counts of levels", "what": "grade"}, {}),
            ("relation", "chi-square", {"kind": "two categories", "what": "grade", "by": "netting"}, {}),
            ("correlation", "pearson", {"kind": "two numbers", "what": "leaf mass", "against": "leaf length"}, {}),
            ("slope", "t of a slope", {"kind": "two numbers", "what": "leaf mass", "against": "elevation"}, {}),
            ("shape", "shapiro–wilk", _LENGTH, {}),
            ("order", "runs", _LENGTH, {}),
        )
    ),
    *(
        make("estimate", table="bushes", parameter=parameter, method=method, data=data, **slots)
        for parameter, method, data, slots in (
            ("median", "order statistics", _LENGTH, {}),
            ("standard deviation", "chi-square of a variance", _LENGTH, {}),
            ("quantile", "percentile", _LENGTH, {"share": 0.9}),
            ("proportion", "wilson", _JADE, {"value": 0.5}),
            ("mean", "welch t", _levels("leaf mass", "netting", "open", "netted"), {"value": 0}),
            ("mean", "one-sample t", _LENGTH, {"bound": "lower"}),
            ("correlation", "fisher z", {"kind": "two numbers", "what": "leaf mass", "against": "leaf length"}, {}),
        )
    ),
    make("model", table="bushes", what="leaf mass", against="elevation"),
    make("model", table="bushes", what="leaf mass", against="leaf length", curve="two pieces"),
    make("forecast", table="visits", what="visitors", method="naive", parts="level"),
]
"""A statement for each kind of claim and estimate, on the demo's tables."""


def approved_text() -> str:
    """A heading for each verb, then each statement with its sentences below it."""
    blocks = []
    for verb, cases in approved_cases().items():
        blocks.append(f"# {verbs()[verb].label}")
        for statement, tables in cases:
            told = [to_plain(statement.text(tables))]
            told += [f"  {text}" for text in sentences(answer(statement, tables))]
            blocks.append("\n".join(told))
    return "\n\n".join(blocks) + "\n"


def test_the_approved_sentences_are_as_they_were_read() -> None:
    text = approved_text()
    assert text.split("\n") == APPROVED.read_text(encoding="utf-8").split("\n")
    assert len({line for line in text.split("\n") if line.startswith("  ")}) >= 300


def test_the_rules_find_what_they_are_for() -> None:
    """Each rule against a fault that it is there to find."""
    faults = {
        "a plural of one": "1 values",
        "a singular of many": "3 value",
        "doubled signs": "2 − −3",
        "nothing subtracted": "(4.2 − 0)",
        "markup": "10^{−5}",
        "an exponent of a machine": "2e-10 C",
        "no number": "a mean of nan",
        "a wrong article": "a SD",
        "spaces": "so , it",
        "a word twice": "of of",
        "empty quotes": "whose x is “”",
        "a nought with a sign": "−0.0",
    }
    assert set(faults) == set(RULES)
    for fault, text in faults.items():
        assert re.search(RULES[fault], text), fault
    assert np.all([not re.search(RULES["nothing subtracted"], t) for t in ("5 − 0.5", "x − 2")])


if __name__ == "__main__":
    APPROVED.write_text(approved_text(), encoding="utf-8")

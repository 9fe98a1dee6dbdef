"""Every line of every working gives the result that it shows, from the figures that it shows."""

from __future__ import annotations

from itertools import product

import numpy as np
import pytest

from tests.conftest import make_table
from theoros.answer.formulas.evaluated import wrong_steps
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.written import to_line
from theoros.answer.parts import Answer
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.data.data import data_kinds
from theoros.verbs.procedures.procedure import compared, procedures_for


def lines(found: Answer) -> list[Formula]:
    steps = (*found.working, *found.writeup)
    return [line for step in steps for line in step.lines if isinstance(line, Formula)]


def checked(found: Answer) -> int:
    made = lines(found)
    wrong = {to_line(line): wrong_steps(line.row) for line in made if wrong_steps(line.row)}
    assert not wrong
    return len(made)


class Data:
    """Made-up data of every family, of a size and with decimals of its own."""

    def __init__(self, seed: int, size: float, decimals: int) -> None:
        self.rng, self.size, self.decimals = np.random.default_rng(seed), size, decimals
        x = self.rng.normal(5 * size, size, 26)
        self.x = np.round(x, decimals).tolist()
        y = np.round(0.4 * x + self.rng.normal(0, size, 26), decimals).tolist()
        self.tables = {"rows": make_table("rows", a=self.x, b=y, g=["p", "q"] * 13, h=(["u", "v", "w"] * 9)[:26])}

    def count(self) -> int:
        return int(self.rng.integers(3, 60))

    def sample(self, name: str) -> dict:
        mean, sd = float(self.rng.normal(5, 1)) * self.size, float(self.rng.uniform(0.5, 2)) * self.size
        return {"name": name, "n": self.count() + 3, "mean": round(mean, 4), "sd": round(sd, 4)}

    def share(self, **name: str) -> dict:
        n = int(self.rng.integers(20, 300))
        return {**name, "x": int(self.rng.integers(1, n)), "n": n}

    @property
    def kinds(self) -> dict[str, dict]:
        three = [self.sample(name) for name in "ABC"]
        return {
            "one column": {"what": "a"},
            "typed sample": {"groups": three[:1]},
            "two levels": {"what": "a", "by": "g", "first": "p", "second": "q"},
            "pairs": {"what": "a", "other": "b"},
            "two typed samples": {"groups": three[:2]},
            "levels": {"what": "a", "by": "h"},
            "two factors": {"what": "a", "by": "g", "and_by": "h"},
            "several columns": {"columns": ["a", "b"]},
            "several typed samples": {"groups": three},
            "typed counts": {"levels": [{"name": name, "count": self.count()} for name in "abc"]},
            "typed two-way counts": {"rows": ["a", "b"], "columns": ["x", "y"],
                                     "counts": [[self.count(), self.count()], [self.count(), self.count()]]},
            "two numbers": {"what": "a", "against": "b"},
            "typed share": {"success": "s", "groups": [self.share()]},
            "typed shares": {"success": "s", "groups": [self.share(name="a"), self.share(name="b")]},
        }  # fmt: skip


@pytest.mark.parametrize(("seed", "size", "decimals"), [(1, 0.02, 3), (2, 12.0, 1), (3, 4000.0, 0)])
@pytest.mark.parametrize("verb", ["test", "estimate"])
def test_lines_of_procedures(verb: str, seed: int, size: float, decimals: int) -> None:
    data, purpose, looked = Data(seed, size, decimals), "test" if verb == "test" else "interval", 0
    for kind, fields in data.kinds.items():
        cls = data_kinds()[kind]
        for parameter, way in product(compared(cls.family, purpose), procedures_for(cls.family, purpose=purpose)):
            if parameter not in way.compares or (cls.bare() and not way.from_figures):
                continue
            asked = {"verb": verb, "table": "" if cls.typed else "rows", "data": {"kind": kind, **fields}}
            asked |= {"parameter": parameter, "method": way.name, "replicates": 200}
            if verb == "estimate":
                asked |= {"share": 0.4, "population": 5000, "wanted_margin": float(f"{size / 9:.2g}")}
            elif parameter == "mean" and cls.family == "one sample":
                asked["null"] = 4 * size
            looked += checked(answer(statement_from_json(asked), data.tables))
    assert looked > 300


@pytest.mark.parametrize(("seed", "size", "decimals"), [(4, 0.02, 3), (5, 12.0, 1), (6, 4000.0, 0)])
def test_lines_of_the_other_verbs(seed: int, size: float, decimals: int) -> None:
    data, looked = Data(seed, size, decimals), 0
    asked = [{"verb": "describe", "table": "rows", "what": "a"}]
    curves = ("line", "quadratic", "exponential", "logarithmic", "exponential by logs", "reciprocal")
    asked += [
        {"verb": "model", "table": "rows", "what": "a", "against": "b", "curve": curve, "read": data.x[0]}
        for curve in curves
    ]
    mu, sigma = data.x[0], round(size * 1.3, 4)
    parts = [f"at least {mu + sigma}", f"from {mu - sigma} to {mu + 0.7 * sigma}", "top 12 %",
             f"at least {mu + sigma} given at least {mu}"]  # fmt: skip
    asked.append({"verb": "probability", "situation": {"kind": "normal", "mu": mu, "sigma": sigma}, "parts": parts})
    for p, n, k in ((0.85, 12, 4), (0.03, 30, 2), (0.5, 9, 7)):
        parts = [f"at least {k}", f"at most {k}", f"from {k} to {k + 3}", f"at least {k} given at least {k - 2}"]
        asked += [
            {"verb": "probability", "situation": situation, "parts": parts}
            for situation in (
                {"kind": "binomial", "n": n, "p": p},
                {"kind": "poisson", "rate": n * p},
                {"kind": "exponential", "mean": n * p},
                {"kind": "geometric", "p": p},
            )
        ]
        model = {"kind": "share", "case": "jar", "success": "leaks", "p": p, "n": n}
        asked.append({"verb": "simulate", "model": model, "ask": "at least", "value": k, "replicates": 1000})
    for one in asked:
        looked += checked(answer(statement_from_json(one), data.tables))
    assert looked > 60


def test_a_chance_near_1_stands_in_brackets() -> None:
    """Sums by SciPy: P(10 < X < 20) of an exponential with mean 1 is e^-10 − e^-20."""
    asked = {"verb": "probability", "situation": {"kind": "exponential", "mean": 1}, "parts": ["from 10 to 20"]}
    found = answer(statement_from_json(asked), {})
    (line,) = [to_line(one) for one in lines(found) if "0.0000454" in to_line(one)]
    assert line.endswith("= (1 − 2.06 × 10⁻⁹) − (1 − 0.0000454) = 0.0000454")


def test_a_corrected_z_keeps_its_sign() -> None:
    asked = {"verb": "test", "parameter": "proportion", "null": 0.5, "method": "z of a share, corrected",
             "data": {"kind": "typed share", "success": "s", "groups": [{"x": 21, "n": 56}]}}  # fmt: skip
    told = [to_line(one) for one in lines(answer(statement_from_json(asked), {}))]
    assert "z = −(|0.375 − 0.5| − 1 / (2 × 56)) / √(0.5 × (1 − 0.5) / 56) = −1.737" in told

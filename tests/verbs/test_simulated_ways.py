"""Simulated procedures: against all samples and arrangements counted one by one, and their words."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json

VALUES = [3.1, 4.4, 2.7, 5.9, 4.0, 6.3]
SLOW = [3.1, 9.4, 2.7, 12.9, 4.0]
QUICK = [5.1, 5.4, 4.7, 6.2, 5.0, 5.6]
SIDED = {"less": "less", "greater": "greater", "different": "two-sided"}


def asked(method: str, tables, **slots):
    return answer(statement_from_json({"verb": "test", "method": method, **slots}), tables)


@pytest.fixture(scope="module")
def trays():
    made = make_table(loss=SLOW + QUICK, pace=["slow"] * len(SLOW) + ["quick"] * len(QUICK))
    return {"t": made}


@pytest.mark.parametrize("centre", ["mean", "median"])
@pytest.mark.parametrize("alternative", SIDED)
def test_the_moved_bootstrap_is_all_samples_counted(centre: str, alternative: str) -> None:
    values, null = np.array(VALUES), 3.5
    middle = np.mean if centre == "mean" else np.median
    seen = middle(values)
    every = np.array(list(itertools.product(values - seen + null, repeat=values.size)))
    centres = middle(every, axis=1)
    expected = {
        "less": (centres <= seen + 1e-9).mean(),
        "greater": (centres >= seen - 1e-9).mean(),
        "different": (np.abs(centres - null) >= abs(seen - null) - 1e-9).mean(),
    }[alternative]
    found = asked(
        "shifted bootstrap",
        {"t": make_table(mass=VALUES)},
        table="t",
        parameter=centre,
        null=null,
        alternative=alternative,
        replicates=40_000,
        data={"kind": "one column", "what": "mass"},
    ).numbers["shifted bootstrap"]
    assert abs(found["p"] - expected) < 5 * math.sqrt(expected * (1 - expected) / 40_000) + 5e-5


@pytest.mark.parametrize("alternative", SIDED)
def test_shuffled_distances_are_all_arrangements_counted(trays, alternative: str) -> None:
    x, y = (np.abs(np.array(v) - np.median(v)) for v in (SLOW, QUICK))
    pooled = np.concatenate([x, y])

    def t(chosen) -> float:
        rest = np.delete(pooled, chosen)
        return stats.ttest_ind(pooled[list(chosen)], rest, equal_var=False).statistic

    seen = t(range(x.size))
    every = np.array([t(c) for c in itertools.combinations(range(pooled.size), x.size)])
    expected = {
        "less": (every <= seen + 1e-9).mean(),
        "greater": (every >= seen - 1e-9).mean(),
        "different": (np.abs(every) >= abs(seen) - 1e-9).mean(),
    }[alternative]
    found = asked(
        "shuffled distances",
        trays,
        table="t",
        parameter="standard deviation",
        alternative=alternative,
        data={"kind": "two levels", "what": "loss", "by": "pace", "first": "slow", "second": "quick"},
    ).numbers["shuffled distances"]
    assert found["all_arrangements"]
    assert found["p"] == pytest.approx(expected, abs=1e-12)


def test_the_normal_tail_over_the_pile_is_told(trays) -> None:
    """For a pile that is about normal, the tail by its curve is near the tail counted."""
    rng = np.random.default_rng(7)
    masses = rng.normal(10, 2, 60).tolist()
    found = asked(
        "shuffled signs",
        {"t": make_table(mass=masses)},
        table="t",
        null=9.6,
        data={"kind": "one column", "what": "mass"},
    )
    own = found.numbers["shuffled signs"]
    assert own["z"] == pytest.approx(own["statistic"] / own["spread_by_chance"], rel=1e-12)
    assert own["normal_p"] == pytest.approx(2 * stats.norm.sf(abs(own["z"])), rel=1e-12)
    assert own["normal_p"] == pytest.approx(own["p"], abs=0.02)
    said = " ".join(str(line) for step in found.working for line in step.lines)
    assert "both tails together" in said
    assert "simulated standard error" in said


def test_large_values_alone_have_no_normal_tail() -> None:
    found = asked(
        "drawn counts",
        {},
        parameter="shares",
        data={"kind": "typed counts", "levels": [{"name": "fine", "count": 12}, {"name": "fair", "count": 30}]},
    )
    assert found.problem is None, found.problem
    assert "z" not in found.numbers["drawn counts"]


@pytest.mark.parametrize(
    ("values", "why"), [([4.0] * 9, "all values are equal"), ([4.0, 5.0], "needs at least 5 values")]
)
def test_what_cannot_be_drawn_from_is_said(values, why: str) -> None:
    found = asked(
        "shifted bootstrap",
        {"t": make_table(mass=values)},
        table="t",
        null=3,
        data={"kind": "one column", "what": "mass"},
    )
    assert why in found.reading.headline

"""One list of laws for Probability, Arrange, Test's claims and Simulate."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.table.table import TableError
from theoros.verbs.arrange.answering import arranged
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.core.slots import Pick
from theoros.verbs.core.statement import StatementError
from theoros.verbs.laws.law import laws, laws_to_draw
from theoros.verbs.probability.data import situations
from theoros.verbs.test.data import fitted_law, law_named, laws_to_claim

TABLES = {"cups": make_table("cups", "cup", heat=[1.0] * 40_000)}
SCIPY = {
    "binomial": stats.binom(10, 0.5),
    "poisson": stats.poisson(3),
    "geometric": stats.geom(0.5),
    "geometric failures": stats.geom(0.5, loc=-1),
    "negative binomial": stats.nbinom(3, 0.5, loc=3),
    "negative binomial failures": stats.nbinom(3, 0.5),
    "hypergeometric": stats.hypergeom(50, 20, 10),
    "discrete uniform": stats.randint(1, 7),
    "normal": stats.norm(0, 1),
    "uniform": stats.uniform(0, 1),
    "exponential": stats.expon(0, 1),
    "gamma": stats.gamma(2, scale=1),
    "weibull": stats.weibull_min(2, scale=1),
    "beta": stats.beta(2, 2),
    "lognormal": stats.lognorm(1),
    "t": stats.t(10),
    "chi-square": stats.chi2(5),
    "F": stats.f(5, 10),
}
"""Every law with its usual parameters, as SciPy has it."""


def test_every_law_that_values_can_be_drawn_from_is_known_to_scipy() -> None:
    assert set(laws_to_draw()) == set(SCIPY)


@pytest.mark.parametrize("kind", laws_to_draw())
class TestEveryLaw:
    """Offered in all four places, and the same distribution in each."""

    def test_probability_asks_about_it(self, kind: str) -> None:
        law = laws()[kind]
        one = law.of(*law.usual).made()
        assert situations()[kind] is law
        assert one.mean == pytest.approx(SCIPY[kind].mean())
        assert one.sd == pytest.approx(SCIPY[kind].std())
        at = float(SCIPY[kind].ppf(0.7))
        assert float(one.cdf(at)) == pytest.approx(SCIPY[kind].cdf(at), rel=1e-9)

    def test_arrange_draws_from_it(self, kind: str) -> None:
        """Mean and share below the median within five standard errors."""
        statement = make("random values", table="cups").with_slot("law", kind, TABLES).statement
        assert kind in [option.value for option in picked(statement, "law")]
        values = arranged(statement, TABLES).table.numbers("random")
        law = SCIPY[kind]
        assert abs(values.mean() - law.mean()) < 5 * law.std() / math.sqrt(values.size)
        below = float((values <= law.median()).mean())
        assert abs(below - law.cdf(law.median())) < 5 * 0.5 / math.sqrt(values.size)

    def test_simulate_draws_samples_of_it(self, kind: str) -> None:
        """The mean of means within five standard errors, and their SD by sigma over the root of n."""
        begun = make("simulate", model={"kind": "law", "n": 16}, statistic="mean", replicates=4000)
        statement = begun.with_slot("model.law", kind, {}).statement
        assert kind in [option.value for option in picked(statement, "model.law")]
        found = answer(statement, {})
        assert found.problem is None
        law, error = SCIPY[kind], SCIPY[kind].std() / 4
        assert abs(found.numbers["mean"] - law.mean()) < 5 * error / math.sqrt(4000)
        assert found.numbers["se"] == pytest.approx(error, rel=0.1)
        assert found.numbers["theory_se"] == pytest.approx(error)


def picked(statement, name: str) -> tuple:
    slot = statement.slot(name, TABLES)
    assert isinstance(slot.holds, Pick)
    return slot.holds.options


@pytest.mark.parametrize("law", laws_to_claim(), ids=lambda one: one.kind)
def test_test_claims_every_law_of_one_word(law) -> None:
    """The shares of three levels against SciPy, all parameters given."""
    given = ", ".join(str(value) for value in law.usual)
    ends = [float(SCIPY[law.kind].ppf(p)) for p in (0.35, 0.75)]
    if law.counting:
        levels = [f"up to {ends[0]:.0f}", f"{ends[0] + 1:.0f} to {ends[1]:.0f}", f"over {ends[1]:.0f}"]
        shares = np.diff([0.0, *(SCIPY[law.kind].cdf(round(end)) for end in ends), 1.0])
    else:
        levels = [f"under {ends[0]:.3f}", f"{ends[0]:.3f} to {ends[1]:.3f}", f"{ends[1]:.3f} or more"]
        shares = np.diff([0.0, *(SCIPY[law.kind].cdf(round(end, 3)) for end in ends), 1.0])
    found = fitted_law(f"{law.kind}({given})", levels, np.array([10, 10, 10]))
    assert found is not None
    assert found.shares == pytest.approx(shares, rel=1e-9)
    assert not found.estimated


def test_a_law_whose_parameters_are_not_estimated_wants_them_all() -> None:
    with pytest.raises(StatementError, match=r"Type gamma as gamma\(shape, scale\); shape and scale have to be given"):
        law_named("gamma")
    with pytest.raises(StatementError, match="n has to be given"):
        law_named("binomial")
    assert law_named("Poisson") is not None


BEFORE = [
    ({"law": "normal", "first": 5.0, "second": 2.0}, lambda rng, n: rng.normal(5, 2, n)),
    ({"law": "uniform", "first": 0.0, "second": 12.0}, lambda rng, n: rng.uniform(0, 12, n)),
    ({"law": "whole numbers", "first": 1.0, "second": 6.0}, lambda rng, n: rng.integers(1, 6, n, endpoint=True)),
    ({"law": "binomial", "first": 12.0, "second": 0.85}, lambda rng, n: rng.binomial(12, 0.85, n)),
    ({"law": "poisson", "first": 3.0}, lambda rng, n: rng.poisson(3, n)),
    ({"law": "exponential", "first": 2.0}, lambda rng, n: rng.exponential(2, n)),
    ({}, lambda rng, n: rng.normal(0, 1, n)),
]


@pytest.mark.parametrize(("slots", "draw"), BEFORE, ids=[str(one.get("law")) for one, _ in BEFORE])
def test_random_values_of_an_earlier_version_are_drawn_as_they_were(slots: dict, draw) -> None:
    """A law was a name with two numbers; NumPy's own draws from the same seed."""
    statement = statement_from_json({"verb": "random values", "table": "cups", "seed": 7, **slots})
    values = arranged(statement, TABLES).table.numbers("random")
    assert np.array_equal(values, draw(np.random.default_rng(7), values.size))


def test_parameters_that_make_no_distribution_are_said() -> None:
    law = {"kind": "uniform", "low": 3.0, "high": 1.0}
    statement = make("random values", table="cups", law=law)
    assert any(slot.problem for slot in statement.slots(TABLES))
    with pytest.raises(TableError, match="do not make a distribution"):
        statement.arrange(TABLES["cups"], TABLES)

"""Models of chance against exact laws, enumeration and theory."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from mpmath import harmonic
from scipy import stats

from theoros.numeric.chance import statistics as of
from theoros.numeric.chance.draws import Bag, DrawStage, Stages, Trials, joint
from theoros.numeric.chance.laws import law_of_all_kinds, law_of_run, law_of_total
from theoros.numeric.chance.populations import SHAPES, Population, ShapedPopulation
from theoros.numeric.chance.samples import Model
from theoros.numeric.chance.waiting import Waiting, Walk, run_lengths
from theoros.numeric.resampling.replicates import Replicates

MANY = 40_000
"""Replicates from which shares are told to about half a percent."""


def drawn(model: Model, statistic, many: int = MANY, seed: int = 7) -> np.ndarray:
    pile = Replicates(lambda rng, size: statistic(model.draw(rng, size))[:, None], seed, 500)
    for _ in pile.grow(many):
        pass
    return pile.first(many)[:, 0]


def fits(values: np.ndarray, law) -> float:
    """The p-value of chi-square of values against a law by its masses, rare ones together."""
    at = np.unique(values)
    seen = np.array([(values == one).sum() for one in at], dtype=float)
    expected = np.array([law(one) for one in at]) * values.size
    big = expected >= 8
    rest = max(values.size - expected[big].sum(), 1e-9)
    seen = np.append(seen[big], seen[~big].sum())
    expected = np.append(expected[big], rest)
    if expected[-1] < 8:
        seen, expected = seen[:-1], expected[:-1] * seen[:-1].sum() / expected[:-1].sum()
    return float(stats.chisquare(seen, expected).pvalue)


def test_a_share_is_binomial() -> None:
    values = drawn(Trials(1 / 8, 25), lambda drawn_: of.count_of(drawn_.values[0], 0))
    assert fits(values, stats.binom(25, 1 / 8).pmf) > 0.001


def test_a_bag_that_is_not_refilled_is_hypergeometric() -> None:
    values = drawn(Bag((7, 5, 8), 6, replace=False), lambda d: of.count_of(d.values[0], 1))
    assert fits(values, stats.hypergeom(20, 5, 6).pmf) > 0.001


def test_weights_of_outcomes_are_their_shares() -> None:
    values = drawn(Bag((3, 1, 2), 1), lambda d: d.values[0][:, 0].astype(float))
    assert fits(values, lambda k: (3, 1, 2)[int(k)] / 6) > 0.001


def test_stages_come_to_the_chances_that_total_probability_gives() -> None:
    first = DrawStage(-1, np.array([[2 / 3, 1 / 3]]))
    second = DrawStage(0, np.array([[0.9, 0.1], [0.8, 0.2]]))
    ways = dict(joint((first, second)))
    assert ways == pytest.approx({(0, 0): 0.6, (0, 1): 1 / 15, (1, 0): 4 / 15, (1, 1): 1 / 15})
    model = Stages((first, second), 25)
    values = drawn(model, lambda d: of.count_of(d.values[1], 1))
    assert fits(values, stats.binom(25, 2 / 15).pmf) > 0.001


def test_a_stage_without_outcomes_after_one_does_not_come_about() -> None:
    first = DrawStage(-1, np.array([[0.5, 0.5]]))
    second = DrawStage(0, np.array([[0.25, 0.75], [0.0, 0.0]]))
    drawn_ = Stages((first, second), 40).draw(np.random.default_rng(1), 50)
    one, two = drawn_.values
    assert ((two == -1) == (one == 1)).all()


def test_means_of_samples_without_replacement_have_the_finite_standard_error() -> None:
    population = np.array([3.0, 4, 4, 7, 9, 15, 21, 2])
    values = drawn(Population(population, 3, replace=False), lambda d: of.means(d.values[0]))
    every = [np.mean(one) for one in itertools.combinations(population, 3)]
    assert values.mean() == pytest.approx(np.mean(every), abs=4 * np.std(every) / math.sqrt(MANY))
    assert values.std() == pytest.approx(np.std(every), rel=0.02)
    shares = {round(v, 9): every.count(v) / len(every) for v in every}
    assert fits(np.round(values, 9), lambda v: shares.get(v, 0.0)) > 0.001


@pytest.mark.parametrize("name", list(SHAPES))
def test_shapes_have_the_mean_and_the_standard_deviation(name: str) -> None:
    model = ShapedPopulation(name, 62.0, 9.5, 1)
    values = drawn(model, lambda d: d.values[0][:, 0], 200_000)
    assert values.mean() == pytest.approx(62, abs=0.12)
    assert values.std() == pytest.approx(9.5, rel=0.015)
    z = np.linspace(-9, 9, 20_001)
    height = SHAPES[name].height(z)
    assert np.trapezoid(height, z) == pytest.approx(1, abs=2e-3)
    assert np.trapezoid(z * height, z) == pytest.approx(0, abs=3e-3)
    # what is drawn lies where the density says
    inside = np.trapezoid(np.where((z > 0.3) & (z < 1.1), height, 0), z)
    scaled = (values - 62) / 9.5
    assert ((scaled > 0.3) & (scaled < 1.1)).mean() == pytest.approx(inside, abs=6e-3)


def test_waiting_for_successes_is_negative_binomial() -> None:
    for k in (1, 3):
        values = drawn(Waiting((0.2, 0.8), "successes", k, 10_000), lambda d: d.lengths * 1.0)
        assert fits(values, stats.nbinom(k, 0.2, loc=k).pmf) > 0.001


def test_waiting_for_all_faces_of_a_die() -> None:
    values = drawn(Waiting((1,) * 6, "all kinds", 1, 10_000), lambda d: d.lengths * 1.0)
    law = law_of_all_kinds(np.full(6, 1 / 6), 10_000)
    assert law is not None
    # n times the n-th harmonic number (Feller 1968, section IX.3), by mpmath
    assert law.mean == pytest.approx(float(6 * harmonic(6)), rel=1e-12)
    # P(all six within ten rolls) by counting onto maps: 6! S(10, 6) / 6^10 with S = 22827
    assert float(law.cdf(10)) == pytest.approx(720 * 22827 / 6**10, rel=1e-10)
    assert fits(values, lambda t: float(law.height(t))) > 0.001


def test_the_law_of_all_kinds_with_unequal_weights_by_going_through_subsets() -> None:
    shares = np.array([0.5, 0.3, 0.2])
    law = law_of_all_kinds(shares, 2000)
    assert law is not None
    states, found = {0: 1.0}, {}
    for t in range(1, 60):
        after: dict[int, float] = {}
        for state, chance in states.items():
            for kind, share in enumerate(shares):
                into = state | 1 << kind
                after[into] = after.get(into, 0.0) + chance * share
        found[t] = after.pop(7, 0.0)
        states = after
    for t in (3, 4, 7, 20, 40):
        assert float(law.height(t)) == pytest.approx(found[t], rel=1e-8)


def test_the_law_of_a_run_by_every_sequence() -> None:
    p, k = 0.4, 3
    law = law_of_run(p, k, 5000)
    assert law is not None
    for t in range(3, 11):
        total = 0.0
        for tosses in itertools.product((0, 1), repeat=t):
            ends = [at + 1 for at in range(2, t) if tosses[at - 2 : at + 1] == (1, 1, 1)]
            if ends and ends[0] == t:
                total += p ** sum(tosses) * (1 - p) ** (t - sum(tosses))
        assert float(law.height(t)) == pytest.approx(total, rel=1e-10)
    assert law.mean == pytest.approx((1 - p**k) / ((1 - p) * p**k), rel=1e-9)
    values = drawn(Waiting((p, 1 - p), "run", k, 10_000), lambda d: d.lengths * 1.0)
    assert fits(values, lambda t: float(law.height(t))) > 0.001


def test_waiting_that_does_not_end_is_told() -> None:
    found = Waiting((1e-9, 1.0), "successes", 1, 50).draw(np.random.default_rng(3), 20)
    assert found.finished is not None
    assert not found.finished.any()
    assert found.values[0].shape[1] == 50


def test_a_walk_ends_where_its_steps_lead() -> None:
    values = drawn(Walk(0.6, 30), lambda d: d.values[0][:, -1])
    assert fits((values + 30) / 2, stats.binom(30, 0.6).pmf) > 0.001
    above = drawn(Walk(0.5, 2), lambda d: of.returns(d.values[0]))
    assert above.mean() == pytest.approx(0.5, abs=0.01)  # up-down or down-up


@given(st.lists(st.integers(1, 9), min_size=1, max_size=4, unique=True), st.integers(1, 5))
def test_the_law_of_a_total_is_that_of_every_outcome(values: list[int], n: int) -> None:
    weights = [k + 1 for k in range(len(values))]
    shares = np.array(weights) / sum(weights)
    law = law_of_total(np.array(values, dtype=float), shares, n)
    assert law is not None
    found: dict[float, float] = {}
    for way in itertools.product(range(len(values)), repeat=n):
        total = float(sum(values[k] for k in way))
        found[total] = found.get(total, 0.0) + math.prod(float(shares[k]) for k in way)
    assert law.values.tolist() == pytest.approx(sorted(found))
    assert law.chances.tolist() == pytest.approx([found[v] for v in sorted(found)], abs=1e-14)


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 10**6), st.lists(st.integers(1, 400), min_size=1, max_size=6))
def test_more_never_changes_what_was_there(seed: int, steps: list[int]) -> None:
    def make(rng: np.random.Generator, size: int) -> np.ndarray:
        return rng.random((size, 2))

    grown, at_once = Replicates(make, seed, 50), Replicates(make, seed, 50)
    for wanted in itertools.accumulate(steps):
        told = list(grown.grow(wanted))
        assert not told or told[-1] == wanted
    total = sum(steps)
    for _ in at_once.grow(total):
        pass
    assert (grown.first(total) == at_once.first(total)).all()


@given(st.lists(st.booleans(), min_size=1, max_size=60))
def test_runs_are_as_long_as_they_are(tosses: list[bool]) -> None:
    longest = max((len(list(own)) for hit, own in itertools.groupby(tosses) if hit), default=0)
    assert run_lengths(np.array([tosses])).max() == longest
    assert of.longest_run(np.array([tosses]))[0] == longest


def test_statistics_of_rows() -> None:
    rng = np.random.default_rng(5)
    values = rng.normal(3, 2, (40, 17))
    assert of.standard_deviations(values) == pytest.approx(values.std(axis=1, ddof=1))
    assert of.quantiles(values, 0.3) == pytest.approx(np.quantile(values, 0.3, axis=1))
    assert of.ranges(values) == pytest.approx(np.ptp(values, axis=1))
    assert np.isnan(of.standard_deviations(values[:, :1])).all()
    codes = rng.integers(0, 3, (40, 17))
    assert of.count_of(codes, 2) == pytest.approx((codes == 2).sum(axis=1))
    assert of.count_of(codes == 2, 0) == pytest.approx((codes != 2).sum(axis=1))

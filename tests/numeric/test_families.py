"""Every family of distributions against mpmath (34 digits), and the laws that bind its functions."""

from __future__ import annotations

import math

import mpmath as mp
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.numeric.distributions.beta import Beta
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.counting import Counting
from theoros.numeric.distributions.discrete_uniform import DiscreteUniform
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.exponential import Exponential
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.gamma import Gamma
from theoros.numeric.distributions.geometric import Geometric
from theoros.numeric.distributions.hypergeometric import Hypergeometric
from theoros.numeric.distributions.lognormal import Lognormal
from theoros.numeric.distributions.negative_binomial import NegativeBinomial
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.poisson import Poisson
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.distributions.uniform import Uniform
from theoros.numeric.distributions.weibull import Weibull

mp.mp.dps = 34
CLOSE = 1e-12
"""The relative error that is allowed."""


def error(found: float, exact) -> float:
    return float(abs(mp.mpf(float(found)) - exact) / abs(exact)) if exact else abs(float(found))


# masses in 34 digits, from their formulas


def log_choose(n, k):
    return mp.loggamma(n + 1) - mp.loggamma(k + 1) - mp.loggamma(n - k + 1)


def exact_mass(one: Counting, k: int):
    if isinstance(one, Binomial):
        p = mp.mpf(one.p)
        return mp.exp(log_choose(one.n, k) + k * mp.log(p) + (one.n - k) * mp.log(1 - p))
    if isinstance(one, Poisson):
        return mp.exp(k * mp.log(mp.mpf(one.rate)) - mp.mpf(one.rate) - mp.loggamma(k + 1))
    if isinstance(one, Geometric):
        p = mp.mpf(one.p)
        return p * (1 - p) ** (k - (0 if one.failures else 1))
    if isinstance(one, NegativeBinomial):
        p, f = mp.mpf(one.p), k - (0 if one.failures else one.r)
        return mp.exp(log_choose(one.r + f - 1, f) + one.r * mp.log(p) + f * mp.log(1 - p))
    assert isinstance(one, Hypergeometric)
    return mp.exp(
        log_choose(one.successes, k)
        + log_choose(one.population - one.successes, one.drawn - k)
        - log_choose(one.population, one.drawn)
    )


def exact_sum(one: Counting, start: int, step: int):
    """The masses from `start` outwards, by their ratios, until they no longer count."""
    first, last = one.support
    if isinstance(one, Geometric):
        q, trials = 1 - mp.mpf(one.p), start - (0 if one.failures else 1)
        return q**trials if step > 0 else 1 - q ** (trials + 1)
    mass = exact_mass(one, start)
    total, k = mass, start
    while first <= k + step <= last:
        k += step
        mass = mass * ratio(one, k, step)
        total += mass
        if mass < total * mp.mpf(10) ** -22:
            break
    return total


def ratio(one: Counting, k: int, step: int):
    """The mass at k over the one before it."""
    up = k if step > 0 else k + 1
    made = rising(one, up)
    return made if step > 0 else 1 / made


def rising(one: Counting, k: int):
    """P(X = k) / P(X = k - 1)."""
    if isinstance(one, Binomial):
        p = mp.mpf(one.p)
        return (one.n - k + 1) * p / (k * (1 - p))
    if isinstance(one, Poisson):
        return mp.mpf(one.rate) / k
    if isinstance(one, Geometric):
        return 1 - mp.mpf(one.p)
    if isinstance(one, NegativeBinomial):
        f = k - (0 if one.failures else one.r)
        return (one.r + f - 1) * (1 - mp.mpf(one.p)) / f
    assert isinstance(one, Hypergeometric)
    rest = one.population - one.successes - one.drawn
    return mp.mpf((one.successes - k + 1) * (one.drawn - k + 1)) / (k * (rest + k))


COUNTING = [
    (Binomial(12, 0.85), (0, 3, 8, 10, 11, 12)),
    (Binomial(100, 0.3), (0, 10, 30, 31, 60, 99)),
    (Binomial(1000, 1e-3), (0, 1, 5, 50, 120)),
    (Binomial(10**6, 0.2), (186_000, 199_000, 200_000, 201_000, 214_000)),
    (Binomial(10**9, 0.3), (299_500_000, 300_100_000)),
    (Binomial(10**9, 1e-9), (0, 1, 4, 40, 160)),
    (Poisson(0.1), (0, 1, 3, 60)),
    (Poisson(4.5), (0, 2, 4, 5, 12, 130)),
    (Poisson(1e6), (964_000, 999_000, 1_001_000, 1_036_000)),
    (Poisson(1e9), (998_900_000, 1_000_200_000)),
    (Geometric(0.3), (1, 2, 10, 1900)),
    (Geometric(1e-6, failures=True), (0, 10, 10**6, 6 * 10**8)),
    (NegativeBinomial(3, 0.4), (3, 4, 10, 60, 1300)),
    (NegativeBinomial(50, 0.9, failures=True), (0, 2, 5, 30, 270)),
    (NegativeBinomial(1000, 0.01), (80_000, 101_000, 140_000)),
    (Hypergeometric(20, 8, 5), (0, 1, 2, 4, 5)),
    (Hypergeometric(1000, 400, 50), (2, 15, 20, 21, 40, 50)),
    (Hypergeometric(10**6, 300_000, 10_000), (2000, 2900, 3000, 3100, 4500)),
    (Hypergeometric(10**9, 5 * 10**8, 10**6), (490_000, 500_000, 501_000, 518_000)),
]


@pytest.mark.parametrize(("one", "values"), COUNTING, ids=lambda v: str(v)[:60])
def test_masses_and_tails_of_counts_against_mpmath(one: Counting, values: tuple[int, ...]) -> None:
    first, last = one.support
    for k in values:
        mass = exact_mass(one, k)
        assert error(one.height(k), mass) < CLOSE, k
        above, below = k >= one.mean, k <= one.mean
        if above:
            exact = exact_sum(one, k, 1)
            assert error(one.probability(Region(((k, math.inf),))), exact) < CLOSE, k
            if k > first:
                assert error(one.probability(Region(((-math.inf, k - 1),))), 1 - exact) < CLOSE
        if below:
            exact = exact_sum(one, k, -1)
            assert error(one.probability(Region(((-math.inf, k),))), exact) < CLOSE, k
            if k < last:
                assert error(one.probability(Region(((k + 1, math.inf),))), 1 - exact) < CLOSE


def test_events_between_against_mpmath() -> None:
    one = Binomial(12, 0.85)
    for low in range(13):
        for high in range(low, 13):
            exact = sum((exact_mass(one, k) for k in range(low, high + 1)), mp.mpf(0))
            assert error(one.between(low, high), exact) < CLOSE
    rare = Hypergeometric(1000, 400, 50)
    exact = sum((exact_mass(rare, k) for k in range(45, 49)), mp.mpf(0))
    assert error(rare.between(44.5, 48.9), exact) < CLOSE


def upper_gamma(a, x):
    """The regularized upper incomplete gamma function: Legendre's continued fraction above a, the
    power series below (Abramowitz and Stegun 6.5.31 and 6.5.29)."""
    a, x = mp.mpf(a), mp.mpf(x)
    scale = mp.exp(a * mp.log(x) - x - mp.loggamma(a))
    tiny = mp.mpf(10) ** -30
    if x < a + 1:
        term = total = 1 / a
        n = a
        while term > total * tiny:
            n += 1
            term *= x / n
            total += term
        return 1 - scale * total
    b = x + 1 - a
    c, d = 1 / mp.mpf(10) ** -200, 1 / b
    h = d
    for i in range(1, 200_000):
        an = -i * (i - a)
        b += 2
        d = 1 / (an * d + b)
        c = b + an / c
        h *= d * c
        if abs(d * c - 1) < tiny:
            break
    return scale * h


def exact_sf(one: Distribution, x):
    x = mp.mpf(x)
    if isinstance(one, Normal):
        return mp.erfc((x - mp.mpf(one.mu)) / mp.mpf(one.sigma) / mp.sqrt(2)) / 2
    if isinstance(one, Lognormal):
        return mp.erfc((mp.log(x) - mp.mpf(one.mu)) / mp.mpf(one.sigma) / mp.sqrt(2)) / 2
    if isinstance(one, Gamma):
        return upper_gamma(one.shape, x / mp.mpf(one.scale))
    if isinstance(one, Exponential):
        return mp.exp(-x / mp.mpf(one.average))
    if isinstance(one, Weibull):
        return mp.exp(-((x / mp.mpf(one.scale)) ** mp.mpf(one.shape)))
    if isinstance(one, Uniform):
        return (mp.mpf(one.high) - x) / (mp.mpf(one.high) - mp.mpf(one.low))
    if isinstance(one, Beta):
        return exact_beta_sf(one.a, one.b, x)
    if isinstance(one, FisherF):
        a, b = mp.mpf(one.df1) / 2, mp.mpf(one.df2) / 2
        y = a * x / (a * x + b)
        return exact_beta_sf(a, b, y)
    assert isinstance(one, StudentT)
    df = mp.mpf(one.df)
    if df > 1000:
        return exact_t_sf(df, x)
    y = x * x / (df + x * x)
    half = exact_beta_sf(mp.mpf(1) / 2, df / 2, y) / 2
    return half if x >= 0 else 1 - half


def exact_t_sf(df, x):
    """The density of t, integrated from |x| on in steps over which it falls to a half or so."""
    constant = mp.loggamma((df + 1) / 2) - mp.loggamma(df / 2) - mp.log(df * mp.pi) / 2
    low, step, total = abs(x), 1 / (2 * abs(x) + 2), mp.mpf(0)
    for _ in range(1000):
        part = mp.quad(lambda t: mp.exp(constant - (df + 1) / 2 * mp.log1p(t * t / df)), [low, low + step])
        total, low = total + part, low + step
        if part < total * mp.mpf(10) ** -20:
            break
    return total if x >= 0 else 1 - total


def exact_beta_sf(a, b, y):
    """P(Beta > y)."""
    return mp.betainc(mp.mpf(b), mp.mpf(a), 0, 1 - mp.mpf(y), regularized=True)


CONTINUOUS = [
    (Normal(), (-37.0, -8.0, -1.0, 0.0, 0.5, 3.0, 8.0, 37.0)),
    (Normal(64.3, 2.1), (50.0, 60.0, 64.3, 70.0, 120.0)),
    (StudentT(0.5), (-5.0, 0.1, 3.0, 1e6, 1e100)),
    (StudentT(5), (-2.0, 0.5, 2.571, 40.0, 1e30)),
    (StudentT(1e6), (-1.0, 0.5, 5.0, 37.0)),
    (ChiSquare(0.5), (1e-6, 0.1, 4.0, 100.0, 1300.0)),
    (ChiSquare(7), (0.5, 7.0, 14.07, 200.0, 1350.0)),
    (ChiSquare(1e6), (1_002_000.0, 1_010_000.0, 1_050_000.0)),
    (FisherF(3, 20), (0.01, 1.0, 3.1, 50.0, 1e6)),
    (FisherF(0.5, 12), (0.001, 2.0, 100.0)),
    (FisherF(12, 0.5), (0.1, 3.0, 1e8)),
    (Uniform(2, 10), (2.5, 6.0, 9.99)),
    (Exponential(4.0), (0.001, 4.0, 100.0, 2760.0)),
    (Gamma(2.5, 3.0), (0.01, 5.0, 30.0, 2000.0)),
    (Gamma(0.1, 1.0), (1e-8, 0.2, 30.0)),
    (Beta(2, 5), (0.001, 0.2, 0.7, 0.999)),
    (Beta(0.5, 0.5), (1e-9, 0.5, 0.999)),
    (Lognormal(0.3, 0.8), (0.01, 1.5, 20.0, 1e8)),
    (Weibull(1.7, 12.0), (0.1, 10.0, 50.0, 500.0)),
]


@pytest.mark.parametrize(("one", "values"), CONTINUOUS, ids=lambda v: str(v)[:60])
def test_tails_of_curves_against_mpmath(one: Distribution, values: tuple[float, ...]) -> None:
    for x in values:
        exact = exact_sf(one, x)
        assert error(one.sf(x), exact) < CLOSE, (x, float(exact))
        assert error(one.cdf(x), 1 - exact) < CLOSE, (x, float(exact))


@pytest.mark.parametrize(("one", "values"), CONTINUOUS, ids=lambda v: str(v)[:60])
def test_densities_are_the_slope_of_the_tail(one: Distribution, values: tuple[float, ...]) -> None:
    for x in values[1:-1]:
        step = mp.mpf(x) * mp.mpf(10) ** -12 if x else mp.mpf(10) ** -12
        if isinstance(one, ChiSquare) and one.df > 1e5:
            step = mp.mpf(10) ** -6
        slope = (exact_sf(one, mp.mpf(x) - step) - exact_sf(one, mp.mpf(x) + step)) / (2 * step)
        assert error(one.height(x), slope) < 1e-8, x


ALL = [one for one, _ in CONTINUOUS + COUNTING] + [DiscreteUniform(1, 6)]


@pytest.mark.parametrize("one", [o for o in ALL if not o.discrete], ids=str)
@given(p=st.floats(1e-12, 1 - 1e-9))
def test_a_quantile_undoes_the_cdf(one: Distribution, p: float) -> None:
    if isinstance(one, StudentT | FisherF | ChiSquare) and getattr(one, "df", 1) == 0.5 and p < 1e-6:
        return  # values beyond what doubles hold
    assert float(one.cdf(one.quantile(p))) == pytest.approx(p, rel=1e-8)
    upper = one.upper_quantile(p)
    crowded = isinstance(one, Beta) and upper > 1 - 1e-6  # doubles near 1 are too few
    if math.isfinite(upper) and float(one.sf(upper)) > 0 and not crowded:
        assert float(one.sf(upper)) == pytest.approx(p, rel=1e-8)


@pytest.mark.parametrize("one", [o for o in ALL if o.discrete and o.sd < 500], ids=str)
@given(p=st.floats(1e-9, 1 - 1e-9))
def test_a_quantile_of_counts_is_the_least_value_that_reaches(one: Counting, p: float) -> None:
    k = float(one.quantile(p))
    first, _ = one.support
    assert one.between(first, k) >= p * (1 - 1e-9)
    if k > first:
        assert one.between(first, k - 1) < p * (1 + 1e-9)


@pytest.mark.parametrize("one", [o for o in ALL if o.discrete and o.sd < 2000], ids=str)
def test_masses_sum_to_one_and_have_the_mean_and_sd(one: Counting) -> None:
    low, high = max(one.support[0], one.mean - 60 * one.sd), one.mean + 60 * one.sd + 1
    values, masses = one.masses(low, high)
    assert masses.sum() == pytest.approx(1, rel=1e-11)
    assert (values * masses).sum() == pytest.approx(one.mean, rel=1e-9)
    spread = math.sqrt(((values - one.mean) ** 2 * masses).sum())
    assert spread == pytest.approx(one.sd, rel=1e-8)
    assert float(one.height(one.mode)) == pytest.approx(masses.max(), rel=1e-12)


@pytest.mark.parametrize("one", ALL, ids=str)
def test_draws_follow_the_distribution(one: Distribution) -> None:
    """The share of draws below the median and the upper quarter (5 standard errors allowed)."""
    drawn = one.draws(np.random.default_rng(5), 4000)
    for p in (0.5, 0.75):
        at = float(one.quantile(p))
        share = float((drawn <= at).mean())
        exact = float(one.cdf(at))
        assert abs(share - exact) < 5 * math.sqrt(0.25 / 4000)


@given(st.integers(0, 60), st.floats(0, 1), st.integers(-2, 62), st.integers(-2, 62))
def test_parts_of_the_line_add_up(n: int, p: float, a: int, b: int) -> None:
    one, (a, b) = Binomial(n, p), sorted((a, b))
    total = (
        one.probability(Region(((-math.inf, a - 1),)))
        + one.between(a, b)
        + one.probability(Region(((b + 1, math.inf),)))
    )
    assert total == pytest.approx(1, abs=1e-12)


@pytest.mark.parametrize(
    "make",
    [
        lambda: Poisson(-1), lambda: Geometric(0), lambda: NegativeBinomial(0, 0.5),
        lambda: Hypergeometric(10, 11, 2), lambda: Hypergeometric(10, 2, 11),
        lambda: DiscreteUniform(3, 2), lambda: ChiSquare(0), lambda: FisherF(1, 0),
        lambda: Uniform(1, 1), lambda: Exponential(0), lambda: Gamma(0, 1), lambda: Beta(1, -1),
        lambda: Lognormal(0, 0), lambda: Weibull(1, 0), lambda: NegativeBinomial(2, 1.5),
    ],
)  # fmt: skip
def test_parameters_out_of_range_are_refused(make) -> None:
    with pytest.raises(ValueError, match=r"must|cannot|can be|needs"):
        make()

"""Advice: which way is suggested, for data where the usual one errs. How often it errs is in benchmarks/advice.txt."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import Answer
from theoros.numeric.correlation import even_spread_p
from theoros.numeric.procedures.spread_of_any_shape import log_variance
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json

RNG = np.random.default_rng(12)


def ask(verb: str, parameter: str, data: dict, columns: dict, **more) -> Answer:
    tables = {"t": make_table("t", **{name: list(held) for name, held in columns.items()})}
    made = {"verb": verb, "table": "t", "parameter": parameter, "data": data, "replicates": 300, **more}
    return answer(statement_from_json(made), tables)


def suggested(found: Answer) -> str:
    return next(
        (row.cells[0].text.split(",")[0] for row in found.figures[0].rows if "suggested" in row.cells[-1].text), ""
    )


ONE = {"kind": "one column", "what": "v"}
TWO = {"kind": "two levels", "what": "v", "by": "g", "first": "a", "second": "b"}


def scores(law, n: int) -> np.ndarray:
    """Values as a law has them on average, so that nothing is left to chance."""
    return law.ppf((np.arange(n) + 0.5) / n)


@pytest.mark.parametrize("law", [stats.expon(), stats.lognorm(1), stats.chi2(4)])
@pytest.mark.parametrize("n", [20, 50, 200])
def test_the_median_of_skewed_values_is_tested_by_signs(law, n: int) -> None:
    if law.args == (4,) and n == 20:
        return  # too little skewness to be told from chance
    assert suggested(ask("test", "median", ONE, {"v": scores(law, n)}, null=1.0)) == "Sign test"
    assert suggested(ask("test", "median", ONE, {"v": scores(stats.norm(), n)}, null=1.0)) == "Signed rank"


@pytest.mark.parametrize("n", [20, 30])
def test_the_mean_of_skewed_values_by_bootstrap_t(n: int) -> None:
    values = {"v": scores(stats.lognorm(1), n)}
    assert suggested(ask("test", "mean", ONE, values, null=1.6)) == "Bootstrap t"
    assert suggested(ask("estimate", "mean", ONE, values)) == "Bootstrap t"
    assert suggested(ask("estimate", "mean", ONE, {"v": scores(stats.norm(), n)})) == "t"


@pytest.mark.parametrize(
    ("law", "way"), [(stats.norm(), "Chi-square"), (stats.expon(), "Bonett"), (stats.t(2), "Bonett")]
)
def test_a_spread_of_long_tails_by_a_way_that_bears_them(law, way: str) -> None:
    values = {"v": scores(law, 60)}
    assert suggested(ask("test", "standard deviation", ONE, values, null=1.2)) == way
    assert suggested(ask("estimate", "standard deviation", ONE, values)) == way


def test_ranks_are_not_suggested_for_groups_of_unlike_shapes() -> None:
    two = [*scores(stats.expon(), 50), *scores(stats.norm(0.69, 1), 50)]
    columns = {"v": two, "g": ["a"] * 50 + ["b"] * 50}
    assert suggested(ask("test", "median", TWO, columns)) == "Median test"
    mirrored = {"v": [*scores(stats.expon(), 50), *(1.4 - scores(stats.expon(), 50))], "g": columns["g"]}
    assert suggested(ask("test", "median", TWO, mirrored)) == "Median test"
    alike = {"v": [*scores(stats.expon(), 50), *(1 + scores(stats.expon(), 50))], "g": columns["g"]}
    assert suggested(ask("test", "median", TWO, alike)) == "Rank sum"


@pytest.mark.parametrize(("sizes", "sds", "way"), [((40, 40, 8), (1, 1, 1.9), "Welch analysis of variance"),
                                                   ((40, 40, 40), (1, 1, 1.9), "Analysis of variance"),
                                                   ((40, 40, 8), (1, 1, 1.1), "Analysis of variance")])  # fmt: skip
def test_unlike_sizes_bear_less_unlike_spreads(sizes, sds, way: str) -> None:
    values = [float(v) for n, sd in zip(sizes, sds, strict=True) for v in sd * scores(stats.norm(), n)]
    groups = [name for name, n in zip("abc", sizes, strict=True) for _ in range(n)]
    assert suggested(ask("test", "mean", {"kind": "levels", "what": "v", "by": "g"}, {"v": values, "g": groups})) == way


def test_where_every_way_fails_none_is_suggested() -> None:
    values = np.concatenate([k * scores(stats.lognorm(1.2), 10) for k in (1, 3, 9)])
    groups = [name for name in "abc" for _ in range(10)]
    found = ask("test", "mean", {"kind": "levels", "what": "v", "by": "g"}, {"v": values, "g": groups})
    assert suggested(found) == ""


def test_uneven_spread_and_skewed_margins_of_pairs_are_noticed() -> None:
    x = np.linspace(1, 10, 80)
    uneven = {"x": x, "y": x + x * np.tile([-1.0, 0.4, 0.9, -0.3], 20)}
    even = {"x": x, "y": x + np.tile([-1.0, 0.4, 0.9, -0.3], 20)}
    pairs = {"kind": "two numbers", "what": "y", "against": "x"}
    assert even_spread_p(uneven["x"], uneven["y"]) < 0.001 < 0.2 < even_spread_p(even["x"], even["y"])
    for parameter in ("correlation", "slope"):
        assert suggested(ask("test", parameter, pairs, even)) in ("Pearson", "t of the slope")
        assert suggested(ask("test", parameter, pairs, uneven)) in ("Spearman", "")
    skewed = {"x": scores(stats.expon(), 60), "y": scores(stats.expon(), 60)[::-1].copy()}
    assert suggested(ask("estimate", "correlation", pairs, skewed)) != "Fisher z"


def test_even_spread_as_breusch_pagan_has_it() -> None:
    """n R² of squared residuals on x, by numpy's least squares (Koenker's form of the test)."""
    x, e = RNG.uniform(0, 5, 40), RNG.normal(size=40)
    y = 2 * x + e * x
    design = np.column_stack([np.ones(40), x])
    squares = (y - design @ np.linalg.lstsq(design, y, rcond=None)[0]) ** 2
    fitted = design @ np.linalg.lstsq(design, squares, rcond=None)[0]
    r2 = 1 - ((squares - fitted) ** 2).sum() / ((squares - squares.mean()) ** 2).sum()
    assert even_spread_p(x, y) == pytest.approx(stats.chi2(1).sf(40 * r2), rel=1e-9)


class TestBonett:
    """Bonett 2006: the formulas written out anew, and how often the interval covers."""

    def test_ends_by_the_formula(self) -> None:
        y = RNG.gamma(2, 3, 25)
        n, z = 25, stats.norm.ppf(0.975)
        trimmed = stats.trim_mean(y, 1 / (2 * math.sqrt(n - 4)))
        gamma = n * ((y - trimmed) ** 4).sum() / ((y - y.mean()) ** 2).sum() ** 2
        c = n / (n - z)
        error = c * math.sqrt((gamma - (n - 3) / n) / (n - 1))
        low, high = (math.exp(math.log(c * y.var(ddof=1)) + side * z * error) ** 0.5 for side in (-1, 1))
        found = log_variance(y)
        assert (found.end(-z), found.end(z)) == pytest.approx((low, high), rel=1e-12)
        made = ask("estimate", "standard deviation", ONE, {"v": y}, method="Bonett").numbers["Bonett"]
        assert (made["low"], made["high"]) == pytest.approx((low, high), rel=1e-9)

    @pytest.mark.parametrize("null", [3.0, 4.0, 6.5])
    def test_p_is_alpha_where_an_end_is_the_claimed_value(self, null: float) -> None:
        y = RNG.gamma(2, 3, 25)
        p = ask("test", "standard deviation", ONE, {"v": y}, method="Bonett", null=null).numbers["Bonett"]["p"]
        made = ask("estimate", "standard deviation", ONE, {"v": y}, method="Bonett", confidence=1 - p).numbers["Bonett"]
        assert min(abs(made["low"] - null), abs(made["high"] - null)) < 1e-6 * null

    @pytest.mark.parametrize(("draw", "sd", "least"), [
        (lambda n: RNG.normal(0, 1, n), 1.0, 0.93), (lambda n: RNG.exponential(1, n), 1.0, 0.85),
        (lambda n: RNG.laplace(0, 1, n), math.sqrt(2), 0.88),
    ])  # fmt: skip
    def test_it_covers_where_chi_square_does_not(self, draw, sd: float, least: float) -> None:
        z, covered, by_chi = stats.norm.ppf(0.975), 0, 0
        for _ in range(1000):
            y = draw(40)
            one = log_variance(y)
            covered += one.end(-z) <= sd <= one.end(z)
            ends = np.sqrt(39 * y.var(ddof=1) / stats.chi2(39).ppf([0.975, 0.025]))
            by_chi += ends[0] <= sd <= ends[1]
        assert covered / 1000 > least
        assert by_chi / 1000 < 0.83 or least == 0.93


def test_bootstrap_t_keeps_its_level_where_t_does_not() -> None:
    """One mean of 15 lognormal values, H0 true: the share of 300 samples in which each rejects."""
    errors = {"one-sample t": 0, "bootstrap t": 0}
    for seed in range(300):
        values = np.random.default_rng([4, seed]).lognormal(0, 1, 15)
        for method in errors:
            asked = statement_from_json({"verb": "test", "table": "t", "data": ONE, "null": math.exp(0.5),
                                         "method": method, "replicates": 400, "seed": seed})  # fmt: skip
            found = _p(asked, values)
            errors[method] += found <= 0.05
    assert errors["bootstrap t"] < errors["one-sample t"]
    assert errors["bootstrap t"] / 300 < 0.14


def _p(asked, values) -> float:
    from theoros.verbs.data.sample import Sample
    from theoros.verbs.data.samples import OneSample
    from theoros.verbs.procedures.procedure import Question, Settings, procedures

    held = Sample("x", "x", np.asarray(values), np.arange(len(values)))
    data = OneSample(measure="x", unit="", decimals=2, sample=held)
    settings = Settings(replicates=asked.replicates, seed=asked.seed)
    question = Question(data, asked.about, float(asked.null), "different", 0.05, settings=settings)
    return procedures()[asked.method].found(question).p or 0.0


@pytest.mark.parametrize(("asked", "law", "share"), [
    ({"kind": "poisson", "rate": 10}, stats.poisson(10), 1e-15),
    ({"kind": "geometric", "p": 1e-6}, stats.geom(1e-6), 1e-8),
    ({"kind": "poisson", "rate": 10}, stats.poisson(10), 1e-19),
    ({"kind": "binomial", "n": 30, "p": 0.4}, stats.binom(30, 0.4), 0.05),
])  # fmt: skip
def test_the_value_that_cuts_off_a_tiny_upper_tail(asked: dict, law, share: float) -> None:
    """The first value whose tail, by SciPy, is within the share."""
    made = {"verb": "probability", "situation": asked, "parts": [f"top {100 * share:.17g} %"]}
    found = answer(statement_from_json(made), {})
    low, high = 0, 2**26
    while high - low > 1:
        half = (low + high) // 2
        low, high = (low, half) if law.sf(half - 1) <= share else (half, high)
    at = high
    assert any(f"{at:,}".replace(",", "\u202f") in row.cells[2].text or str(at) in row.cells[2].text
               for row in found.figures[0].rows) or str(at) in found.reading.headline.replace("\u202f", "")  # fmt: skip

"""The statistics that can be taken of a sample, each with its words and what theory says of it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from theoros.answer.cannot import CannotAnswer
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.wording import counted, exact, number, percent_text, significant
from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.numeric.chance import statistics as of
from theoros.numeric.chance.draws import Bag, Trials
from theoros.numeric.chance.laws import law_of_all_kinds, law_of_run, law_of_total
from theoros.numeric.chance.samples import Samples
from theoros.numeric.chance.waiting import Waiting, Walk
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.distribution import Discrete, Distribution
from theoros.numeric.distributions.hypergeometric import Hypergeometric
from theoros.numeric.distributions.lattice import Lattice
from theoros.numeric.distributions.negative_binomial import NegativeBinomial
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.simulate.sampling.facts import Facts
from theoros.verbs.simulate.statistics.choices import TAKEN, Taken
from theoros.verbs.simulate.statistics.theory import Theory
from theoros.verbs.simulate.words.nouns import plural_verb

if TYPE_CHECKING:
    from theoros.verbs.simulate.statement import SimulateStatement as S

Lines = tuple[str | Formula, ...]
MOST_MASSES = 50_000
"""A law is put on another scale up to so many values."""
ENOUGH = 10
"""Expected successes, and failures, from which on a normal curve does."""
PLENTY = 30
"""Cases from which on the mean of most populations varies nearly normally."""


@dataclass(frozen=True)
class Statistic:
    """How a statistic is worked out, how it is spoken of, and what theory says of it."""

    taken: Taken
    compute: Callable[[Samples, Facts, S], Floats]
    said: Callable[[Facts, S], str]
    """Its name without an article: "number of jars that leak"."""
    theory: Callable[[Facts, S], Theory | None] = lambda facts, s: None

    @property
    def name(self) -> str:
        return self.taken.name

    def places(self, facts: Facts) -> int:
        """Decimals with which it is written."""
        if self.taken.whole:
            return 0
        return 3 if not self.taken.in_units else min(6, facts.decimals + 2)


# names


def _target(facts: Facts, s: S) -> tuple[tuple[int, int], ...]:
    return ((0, 0),) if facts.success else facts.target(s.outcome or facts.names[0][0])


def _number(samples: Samples, facts: Facts, s: S) -> Floats:
    target = _target(facts, s)
    if len(target) == 1:
        stage, place = target[0]
        return of.count_of(samples.values[stage], place)
    return np.asarray(np.count_nonzero(facts.hits(samples, target), axis=1), dtype=np.float64)


def _which(facts: Facts, s: S) -> str:
    """ "jars that leak", "cases with Jade"."""
    if facts.success:
        return f"{facts.cases} that {plural_verb(facts.success)}"
    return f"{facts.cases} with {s.outcome or facts.names[0][0]}"


def _count_theory(facts: Facts, s: S) -> Theory:
    n, p = facts.n, facts.chance_of(_target(facts, s))
    mean, q = n * p, 1 - p
    said_p, few = _p_text(facts, s, p), min(n * p, n * q)
    law: Distribution
    lines: Lines
    if facts.finite is not None and isinstance(facts.model, Bag):
        big = facts.finite
        law, name = Hypergeometric(big, round(big * p), n), "Exact hypergeometric"
        error = law.sd
        lines = formulas(
            f"{{mean}} = n K/N = {n} × {round(big * p)}/{big} = {number(mean, 2)}",
            "{SE} = √(n K/N (1 − K/N) (N − n) / (N − 1))",
            f"{{SE}} = {significant(error, 3)}",
        )
    else:
        law, name = Binomial(n, min(max(p, 0.0), 1.0)), "Exact binomial"
        error = law.sd
        lines = formulas(
            f"{{mean}} = n p = {n} × {said_p} = {number(mean, 2)}",
            f"{{SE}} = √(n p (1 − p)) = √({n} × {said_p} × (1 − {said_p})) = {significant(error, 3)}",
        )
    rule = f"n p = {number(n * p, 1)} and n (1 − p) = {number(n * q, 1)}"
    fits = few >= ENOUGH, rule if few >= ENOUGH else f"{_small(n, p)} is below {ENOUGH}"
    return Theory(mean, error, lines, law, name, fits)


def _small(n: int, p: float) -> str:
    return f"n p = {number(n * p, 1)}" if p <= 0.5 else f"n (1 − p) = {number(n * (1 - p), 1)}"


def _p_text(facts: Facts, s: S, p: float) -> str:
    typed = getattr(s.model, "p", None)
    return exact(typed) if isinstance(facts.model, Trials) and typed is not None else number(p, 4)


def _share_theory(facts: Facts, s: S) -> Theory:
    counts = _count_theory(facts, s)
    n, p = facts.n, counts.mean / facts.n
    said = _p_text(facts, s, p)
    error = counts.error / n
    lines: Lines = formulas(
        f"{{mean}} = p = {said}",
        f"{{SE}} = √(p (1 − p) / n) = √({said} × (1 − {said}) / {n}) = {significant(error, 3)}",
    )
    if facts.finite is not None:
        lines = (
            f"The count of {counted(n, facts.case)} over n: mean {number(p, 4)}, standard "
            f"error {significant(error, 3)}.",
        )
    return Theory(p, error, lines, _scaled(counts.law, 1 / n), counts.law_name, counts.fits)


def _scaled(law: Distribution | None, by: float) -> Distribution | None:
    """A law on another scale, where it has few values or is normal."""
    if isinstance(law, Normal):
        return Normal(law.mu * by, law.sigma * by)
    if not isinstance(law, Discrete):
        return None
    low, high = law.support
    if not high - low <= MOST_MASSES:
        return None
    values, chances = law.masses(low, high)
    there = chances > 0
    return Lattice(values[there] * by, chances[there] / chances.sum())


def _longest(samples: Samples, facts: Facts, s: S) -> Floats:
    return of.longest_run(facts.hits(samples, _target(facts, s)))


# numbers


def _taking(work: Callable[[Floats], Floats]) -> Callable[[Samples, Facts, S], Floats]:
    return lambda samples, facts, s: work(facts.values(samples))


def _named(word: str) -> Callable[[Facts, S], str]:
    return lambda facts, s: (
        f"{word} {facts.measure}"
        if facts.measure != "value"
        else (f"{word} of the values" if word.endswith("deviation") else word)
    )


def _shrunk(facts: Facts) -> float:
    """What drawing without replacement takes off a standard error."""
    if facts.finite is None or facts.finite < 2:
        return 1.0
    return math.sqrt(max(facts.finite - facts.n, 0) / (facts.finite - 1))


def _mean_theory(facts: Facts, s: S) -> Theory | None:
    total = _total_theory(facts, s)
    if total is None or facts.moments is None:
        return None
    mu, sigma = facts.moments
    n, error = facts.n, total.error / facts.n
    fpc = "" if facts.finite is None else " √((N − n) / (N − 1))"
    put = "" if facts.finite is None else f" × {number(_shrunk(facts), 4)}"
    places = min(6, facts.decimals + 2)
    lines = formulas(
        f"{{mean}} = μ = {number(mu, places)}",
        f"{{SE}} = σ / √n{fpc} = {number(sigma, places)} / √({n}){put} = {significant(error, 3)}",
    )
    return Theory(mu, error, lines, _scaled(total.law, 1 / n), total.law_name, total.fits)


def _total_theory(facts: Facts, s: S) -> Theory | None:
    if facts.moments is None:
        return None
    (mu, sigma), n = facts.moments, facts.n
    error = math.sqrt(n) * sigma * _shrunk(facts)
    places = min(6, facts.decimals + 2)
    fpc = "" if facts.finite is None else " √((N − n) / (N − 1))"
    put = "" if facts.finite is None else f" × {number(_shrunk(facts), 4)}"
    lines = formulas(
        f"{{mean}} = n μ = {n} × {number(mu, places)} = {number(n * mu, places)}",
        f"{{SE}} = σ √n{fpc} = {number(sigma, places)} × √({n}){put} = {significant(error, 3)}",
    )
    law: Distribution | None = None
    name = ""
    one = facts.law()
    if facts.normal and sigma > 0:
        law, name = Normal(n * mu, error), "Exact normal"
    elif one is not None and facts.finite is None:
        law, name = law_of_total(one[0], one[1], n), "Every outcome counted"
    fits = (
        None if facts.normal else (n >= PLENTY, f"n = {n}, which is {'at least' if n >= PLENTY else 'below'} {PLENTY}")
    )
    return Theory(n * mu, error, lines, law, name if law is not None else "", fits)


def _quantile_said(facts: Facts, s: S) -> str:
    what = f" of {facts.measure}" if facts.measure != "value" else ""
    return f"{percent_text(s.share)} quantile{what}"


def _by_formula(samples: Samples, facts: Facts, s: S) -> Floats:
    """The value of the formula for each sample; NaN where it has none."""
    from theoros.table.formula import evaluate_for_each
    from theoros.table.formula.tokens import FormulaError
    from theoros.table.kinds import Kind
    from theoros.table.table import Column, Table

    values = facts.values(samples)
    size, n = values.shape
    which = np.repeat(np.arange(size), n)
    table = Table("sample", (Column("x", Kind.NUMBER),), pl.DataFrame({"x": values.ravel()}))
    try:
        return evaluate_for_each(s.formula, table, which, size)
    except FormulaError as problem:
        raise CannotAnswer(str(problem), "formula") from None


# waiting and walking


def _waited(samples: Samples, facts: Facts, s: S) -> Floats:
    assert samples.lengths is not None
    assert samples.finished is not None
    return np.where(samples.finished, samples.lengths, np.nan)


def _wait_theory(facts: Facts, s: S) -> Theory | None:
    model = facts.model
    assert isinstance(model, Waiting)
    shares = np.array(model.weights) / sum(model.weights)
    p, k = float(shares[0]), model.k
    law: Distribution | None
    if model.until == "all kinds":
        law = law_of_all_kinds(shares, model.most)
        if law is None:
            return None
        kinds = shares.size
        lines: Lines = ("By inclusion and exclusion over the kinds that are still missing.",)
        if np.ptp(shares) < 1e-15:
            lines = formulas(
                f"{{mean}} = n (1 + 1/2 + … + 1/n) {{with}} n = {kinds}, {{which is}} {number(law.mean, 2)}"
            )
        return Theory(law.mean, law.sd, lines, law, "Every course counted", (False, _LOPSIDED))
    if p <= 0:
        return None
    if model.until == "run":
        law = law_of_run(p, k, model.most)
        if law is None:
            return None
        lines = formulas(f"{{mean}} = (1 − p^{{k}}) / ((1 − p) p^{{k}}) = {number(law.mean, 2)}") if p < 1 else ()
        return Theory(law.mean, law.sd, lines, law, "Every course counted", (False, _LOPSIDED))
    law = NegativeBinomial(k, p)
    name = "Exact geometric" if k == 1 else "Exact negative binomial"
    said = _wait_p(s, p)
    top, root = ("1", "1 − p") if k == 1 else ("k", "k (1 − p)")
    lines = formulas(
        f"{{mean}} = {top}/p = {k} / {said} = {number(law.mean, 2)}",
        f"{{SE}} = √({root}) / p = {significant(law.sd, 3)}",
    )
    return Theory(law.mean, law.sd, lines, law, name, (False, _LOPSIDED))


_LOPSIDED = "waits have a long tail to the right"


def _wait_p(s: S, p: float) -> str:
    typed = getattr(s.model, "p", None)
    return exact(typed) if typed is not None else number(p, 4)


def _wait_said(facts: Facts, s: S) -> str:
    return f"number of {facts.cases} until {s.model.ending}"  # type: ignore[attr-defined]


def _walk_theory(facts: Facts, s: S) -> Theory:
    model = facts.model
    assert isinstance(model, Walk)
    n, p = model.n, model.p
    mean, error = n * (2 * p - 1), 2 * math.sqrt(n * p * (1 - p))
    said = exact(getattr(s.model, "p", None) or p)
    lines = formulas(
        f"{{mean}} = n (2 p − 1) = {n} × (2 × {said} − 1) = {number(mean, 2)}",
        f"{{SE}} = 2 √(n p (1 − p)) = {significant(error, 3)}",
    )
    law = None
    if 0 < p < 1 and n <= MOST_MASSES:
        ups, chances = Binomial(n, p).masses(0.0, float(n))
        there = chances > 0
        law = Lattice(2 * ups[there] - n, chances[there] / chances.sum())
    fits = min(n * p, n * (1 - p)) >= ENOUGH, f"{_small(n, p)} steps the rarer way"
    return Theory(mean, error, lines, law, "Exact binomial" if law else "", fits)


def _walked(work: Callable[[Floats], Floats]) -> Callable[[Samples, Facts, S], Floats]:
    return lambda samples, facts, s: work(np.asarray(samples.values[0], dtype=np.float64))


def _plain(text: str) -> Callable[[Facts, S], str]:
    return lambda facts, s: text


_HOW: dict[str, tuple[Any, ...]] = {
    "number": (_number, lambda f, s: f"number of {_which(f, s)}", _count_theory),
    "share": (lambda x, f, s: _number(x, f, s) / f.n, lambda f, s: f"share of {_which(f, s)}", _share_theory),
    "longest run": (_longest, lambda f, s: f"longest run of {_which(f, s)}"),
    "mean": (_taking(of.means), _named("mean"), _mean_theory),
    "median": (_taking(lambda x: of.quantiles(x, 0.5)), _named("median")),
    "total": (_taking(of.totals), _named("total"), _total_theory),
    "standard deviation": (_taking(of.standard_deviations), _named("standard deviation")),
    "range": (_taking(of.ranges), _named("range")),
    "least": (_taking(lambda x: x.min(axis=1)), _named("least")),
    "greatest": (_taking(lambda x: x.max(axis=1)), _named("greatest")),
    "quantile": (lambda x, f, s: of.quantiles(f.values(x), s.share), _quantile_said),
    "formula": (_by_formula, lambda f, s: f"value of {s.formula.strip() or 'the formula'}"),
    "wait": (_waited, _wait_said, _wait_theory),
    "end": (_walked(lambda x: x[:, -1]), _plain("end of the walk"), _walk_theory),
    "highest": (_walked(lambda x: np.maximum(x.max(axis=1), 0.0)), _plain("highest place of the walk")),
    "returns": (_walked(of.returns), _plain("number of returns to the start")),
    "above": (_walked(of.time_above), _plain("share of steps above the start")),
}
STATISTICS: dict[str, Statistic] = {name: Statistic(taken, *_HOW[name]) for name, taken in TAKEN.items()}

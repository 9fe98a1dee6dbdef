"""Statistics of cases that have names: how many have one, which share, how long a run."""

from __future__ import annotations

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.nouns import counted
from theoros.answer.wording import exact, number, significant
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.chance import statistics as of
from theoros.numeric.chance.draws import Trials
from theoros.numeric.chance.samples import Samples
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.distribution import Distribution
from theoros.numeric.distributions.hypergeometric import Hypergeometric
from theoros.verbs.simulate.sampling.facts import Facts
from theoros.verbs.simulate.statistics.statistic import AsksStatistic, Statistic
from theoros.verbs.simulate.statistics.theory import ENOUGH, Theory, few_words, scaled
from theoros.verbs.simulate.words.nouns import plural_verb

Lines = tuple[str | Formula, ...]


def _target(facts: Facts, s: AsksStatistic) -> tuple[tuple[int, int], ...]:
    return ((0, 0),) if facts.success else facts.target(s.outcome or facts.names[0][0])


def _number(samples: Samples, facts: Facts, s: AsksStatistic) -> Floats:
    target = _target(facts, s)
    if len(target) == 1:
        stage, place = target[0]
        return of.count_of(samples.values[stage], place)
    return np.asarray(np.count_nonzero(facts.hits(samples, target), axis=1), dtype=np.float64)


def _which(facts: Facts, s: AsksStatistic) -> str:
    """ "jars that leak", "cases with Jade"."""
    if facts.success:
        return f"{facts.cases} that {plural_verb(facts.success)}"
    return f"“{s.outcome or facts.names[0][0]}” among the {facts.cases}"


def _count_theory(facts: Facts, s: AsksStatistic) -> Theory:
    n, p = facts.n, facts.chance_of(_target(facts, s))
    mean, q = n * p, 1 - p
    said_p, few = _p_text(facts, s, p), min(n * p, n * q)
    law: Distribution
    lines: Lines
    if facts.finite is not None:  # none is drawn twice, of a bag and of a column alike
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
    fits = few >= ENOUGH, rule if few >= ENOUGH else f"{few_words(n, p)} is below {ENOUGH}"
    return Theory(mean, error, lines, law, name, fits)


def _p_text(facts: Facts, s: AsksStatistic, p: float) -> str:
    typed = getattr(s.model, "p", None)
    return exact(typed) if isinstance(facts.model, Trials) and typed is not None else number(p, 4)


def _share_theory(facts: Facts, s: AsksStatistic) -> Theory:
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
    return Theory(p, error, lines, scaled(counts.law, 1 / n), counts.law_name, counts.fits)


def _longest(samples: Samples, facts: Facts, s: AsksStatistic) -> Floats:
    return of.longest_run(facts.hits(samples, _target(facts, s)))


STATISTICS = (
    Statistic(
        "number",
        "the number",
        "names",
        _number,
        lambda f, s: f"number of {_which(f, s)}",
        _count_theory,
        asks=("outcome",),
        whole=True,
        order=1,
    ),
    Statistic(
        "share",
        "the share",
        "names",
        lambda x, f, s: _number(x, f, s) / f.n,
        lambda f, s: f"share of {_which(f, s)}",
        _share_theory,
        asks=("outcome",),
        share=True,
        order=2,
    ),
    Statistic(
        "longest run",
        "the longest run",
        "names",
        _longest,
        lambda f, s: f"longest run of {_which(f, s)}",
        asks=("outcome",),
        whole=True,
        order=3,
    ),
)

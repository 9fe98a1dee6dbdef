"""Statistics of draws until something was seen, and of random walks."""

from __future__ import annotations

import math
from collections.abc import Callable

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.wording import exact, number, significant
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.chance import statistics as of
from theoros.numeric.chance.laws import law_of_all_kinds, law_of_run
from theoros.numeric.chance.samples import Samples
from theoros.numeric.chance.waiting import Waiting, Walk
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.distribution import Distribution
from theoros.numeric.distributions.lattice import Lattice
from theoros.numeric.distributions.negative_binomial import NegativeBinomial
from theoros.verbs.simulate.sampling.facts import Facts
from theoros.verbs.simulate.statistics.statistic import AsksStatistic, Statistic, plain
from theoros.verbs.simulate.statistics.theory import ENOUGH, MOST_MASSES, Theory, few_words

LONGEST = 100_000
"""Waits up to so many draws are part of an exact law."""
Lines = tuple[str | Formula, ...]


def _waited(samples: Samples, facts: Facts, s: AsksStatistic) -> Floats:
    assert samples.lengths is not None
    assert samples.finished is not None
    # a wait that was not over is longer than all that were
    return np.where(samples.finished, samples.lengths, np.inf)


def _wait_theory(facts: Facts, s: AsksStatistic) -> Theory | None:
    model = facts.model
    assert isinstance(model, Waiting)
    shares = np.array(model.weights) / sum(model.weights)
    p, k = float(shares[0]), model.k
    law: Distribution | None
    if model.until == "all kinds":
        law = law_of_all_kinds(shares, max(model.most, LONGEST))
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
        law = law_of_run(p, k, max(model.most, LONGEST))
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


def _wait_p(s: AsksStatistic, p: float) -> str:
    typed = getattr(s.model, "p", None)
    return exact(typed) if typed is not None else number(p, 4)


def _wait_said(facts: Facts, s: AsksStatistic) -> str:
    return f"number of {facts.cases} until {s.model.ending}"  # type: ignore[attr-defined]


def _walk_theory(facts: Facts, s: AsksStatistic) -> Theory:
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
    fits = min(n * p, n * (1 - p)) >= ENOUGH, f"{few_words(n, p)} steps in the rarer direction"
    return Theory(mean, error, lines, law, "Exact binomial" if law else "", fits)


def _walked(work: Callable[[Floats], Floats]) -> Callable[[Samples, Facts, AsksStatistic], Floats]:
    return lambda samples, facts, s: work(np.asarray(samples.values[0], dtype=np.float64))


def _of_walks(
    name: str, label: str, work: Callable[[Floats], Floats], said: str, order: int, **more: bool
) -> Statistic:
    return Statistic(name, label, "walks", _walked(work), plain(said), order=order, **more)  # type: ignore[arg-type]


STATISTICS = (
    Statistic("wait", "the number of draws", "waits", _waited, _wait_said, _wait_theory, whole=True, order=20),
    Statistic(
        "end",
        "where it ends",
        "walks",
        _walked(lambda x: x[:, -1]),
        plain("end of the walk"),
        _walk_theory,
        whole=True,
        order=30,
    ),
    _of_walks(
        "highest",
        "how high it comes",
        lambda x: np.maximum(x.max(axis=1), 0.0),
        "highest place of the walk",
        31,
        whole=True,
    ),
    _of_walks("returns", "how often it comes back", of.returns, "number of returns to the start", 32, whole=True),
    _of_walks(
        "above", "the share of time above the start", of.time_above, "share of steps above the start", 33, share=True
    ),
)

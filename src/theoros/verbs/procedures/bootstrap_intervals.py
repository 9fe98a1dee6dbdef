"""Intervals by resampling: the sample stands for the population, and is drawn from again."""

from __future__ import annotations

import math
from collections.abc import Callable, Hashable, Iterator
from dataclasses import dataclass, replace
from functools import partial
from weakref import WeakKeyDictionary

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, number, put_in, significant, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.procedures.order_statistics import highest_level
from theoros.numeric.resampling.bootstrap import (
    Statistic,
    corrected,
    cut_off,
    left_out,
    resamples,
    row_means,
    row_variances,
)
from theoros.numeric.resampling.replicates import MakeBlock, Replicates, block_size
from theoros.verbs.data.data import Family
from theoros.verbs.data.number_pairs import NumberPairs
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import OneSample, Paired, TwoSamples
from theoros.verbs.data.shares import Shares
from theoros.verbs.procedures.intervals import Ends, interval_result, level, tails_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question, Result, Steps
from theoros.verbs.procedures.quantiles import share_of

LEAST, FEW, FIRST_LOOK = 5, 20, 1000
"""Fewer values do not stand for a population; so many resamples can still be alike by chance; after
so many a result is shown."""
MOST_LEFT_OUT = 2000
"""Of more values BCa, which leaves out one at a time, is not worked out."""
INFINITE = (-math.inf, math.inf)


@dataclass(frozen=True)
class Drawn:
    """What is drawn from, and what is made of each resample."""

    samples: tuple[Floats, ...]
    statistic: Statistic
    estimate: float
    decimals: int
    together: bool = False
    limits: Ends = INFINITE
    make: MakeBlock | None = None
    """A quicker way to the same replicates."""
    cases: int = 0
    """How many there are, where they are too many to be laid out in `samples`."""

    @property
    def size(self) -> int:
        return self.cases or sum(one.size for one in self.samples)

    @property
    def block(self) -> MakeBlock:
        return self.make or resamples(self.samples, self.statistic, together=self.together)


def _along(work: Callable[..., object], **more: object) -> Statistic:
    return lambda drawn: np.asarray(work(drawn, axis=1, **more), dtype=np.float64)


def statistic_of(question: Question) -> Statistic:
    """The parameter, of every row of an array of resamples."""
    known: dict[str, Statistic] = {
        "mean": row_means,
        "median": _along(np.quantile, q=share_of(question)),
        "quantile": _along(np.quantile, q=share_of(question)),
        "variance": row_variances,
        "standard deviation": _row_deviations,
        "ratio of standard deviations": _row_deviations,
    }
    return known[question.parameter.name]


def _row_deviations(drawn: Floats) -> Floats:
    return np.sqrt(row_variances(drawn))


def _over(a: Floats, b: Floats, where_none: float) -> Floats:
    """a / b, and another value where b is 0."""
    out = np.full_like(a, where_none)
    return np.asarray(np.divide(a, b, out=out, where=b > 0), dtype=np.float64)


def _correlation(x: Floats, y: Floats) -> Floats:
    """Of every row; 0 where one of the two does not vary."""
    x = x - x.mean(axis=1, keepdims=True)
    y = y - y.mean(axis=1, keepdims=True)
    across = np.einsum("ij,ij->i", x, y)
    size = np.sqrt(np.einsum("ij,ij->i", x, x) * np.einsum("ij,ij->i", y, y))
    return _over(across, size, 0.0)


def _slope(x: Floats, y: Floats) -> Floats:
    x = x - x.mean(axis=1, keepdims=True)
    across = np.einsum("ij,ij->i", x, y - y.mean(axis=1, keepdims=True))
    size = np.einsum("ij,ij->i", x, x)
    return _over(across, size, 0.0)


def drawn_of(question: Question) -> Drawn:
    """What a question draws from. Raises ProcedureFails where too little is there."""
    data, name = question.data, question.parameter.name
    if isinstance(data, Shares):
        return _shares(question, data)
    if isinstance(data, NumberPairs):
        of = _correlation if name == "correlation" else _slope
        check_plenty(data.n, "pairs")
        estimate = float(of(data.x[None, :], data.y[None, :])[0])
        limits = (-1.0, 1.0) if name == "correlation" else INFINITE
        return Drawn((data.x, data.y), of, estimate, 4, together=True, limits=limits)
    one = statistic_of(question)
    limits = (0.0, math.inf) if question.parameter.kin == "spread" else INFINITE
    if isinstance(data, TwoSamples):
        values = data.first.values, data.second.values
        check_plenty(min(v.size for v in values), "values in each group")
        ratio = question.parameter.ratio

        def both(x: Floats, y: Floats) -> Floats:
            a, b = one(x), one(y)
            if not ratio:
                return a - b
            return _over(a, b, np.inf)

        estimate = float(both(values[0][None, :], values[1][None, :])[0])
        return Drawn(values, both, estimate, data.decimals, limits=(0.0, math.inf) if ratio else INFINITE)
    assert isinstance(data, OneSample | Paired)
    values_ = data.single.values
    if name in ("median", "quantile") and question.confidence is not None:
        _reaches(question, int(values_.size))
    check_plenty(values_.size, "pairs" if isinstance(data, Paired) else "values")
    if np.ptp(values_) == 0:
        raise ProcedureFails("all values are equal")
    estimate = float(one(values_[None, :])[0])
    return Drawn((values_,), one, estimate, data.decimals, limits=limits)


def _reaches(question: Question, n: int) -> None:
    """Resamples of a quantile end at the outermost values: these must lie beyond it surely enough."""
    share, (low, high) = share_of(question), tails_of(question)
    tail = max(low, high) * (1 + 1e-9)
    if (1 - share) ** n > tail or share**n > tail:
        reached = highest_level(n, share)
        raise ProcedureFails(f"reaches {level(round(reached, 4))} confidence at most with {whole(n)} values")


def check_plenty(n: int, what: str) -> None:
    if n < LEAST:
        raise ProcedureFails(f"needs at least {LEAST} {what}")


def _shares(question: Question, data: Shares) -> Drawn:
    """Cases as ones and noughts; drawing with replacement, their number is binomial."""
    shares = data.of
    check_plenty(min(one.n for one in shares), "cases" if len(shares) == 1 else "cases in each group")
    if all(one.x in (0, one.n) for one in shares):
        raise ProcedureFails("all cases are equal, so every resample is the same")
    n = sum(one.n for one in shares)
    laid = n <= MOST_LEFT_OUT  # only what leaves out one case at a time looks at cases
    values = tuple(np.repeat(np.array([1.0, 0.0]), [one.x, one.n - one.x]) for one in shares) if laid else ()

    def make(rng: np.random.Generator, size: int) -> Floats:
        made = [rng.binomial(one.n, one.value, size=size) / one.n for one in shares]
        return made[0] if len(made) == 1 else np.asarray(made[0] - made[1])

    def of(*drawn: Floats) -> Floats:
        means = [one.mean(axis=1) for one in drawn]
        return means[0] if len(means) == 1 else np.asarray(means[0] - means[1])

    estimate = shares[0].value - (shares[1].value if len(shares) > 1 else 0.0)
    limits = (0.0, 1.0) if len(shares) == 1 else (-1.0, 1.0)
    return Drawn(values, of, estimate, 3, limits=limits, make=make, cases=n)


_SHARED: WeakKeyDictionary[Observation, dict[Hashable, Replicates]] = WeakKeyDictionary()
"""Replicates of the data that are asked about, which several methods share."""


def replicates_of(
    question: Question, make: MakeBlock, size: int, what: str = ""
) -> Iterator[tuple[Floats | None, float]]:
    """All replicates, in steps; those that another method has made are taken.

    `what` tells apart what is made of the resamples, where that is not the parameter itself.
    """
    settings, wanted = question.settings, question.settings.replicates
    key = question.parameter.name, what, settings.share, settings.seed
    shared = _SHARED.setdefault(question.data, {})
    drawn = shared.setdefault(key, Replicates(make, settings.seed, block_size(size)))
    for count, look in drawn.looks(wanted):
        if count < wanted:
            yield (drawn.values(count) if look else None), count / wanted
    yield drawn.values(wanted), 1.0


Cuts = Callable[[Question, Drawn, Floats], tuple[Ends, tuple[str | Formula, ...], dict[str, float]]]
"""From the ordered replicates the ends, how they come about, and figures."""


def _resampled(question: Question, *, cuts: Cuts) -> Steps:
    drawn = drawn_of(question)
    for made, done in replicates_of(question, drawn.block, drawn.size):
        yield (None if made is None else _result(question, drawn, made, cuts)), done


def _result(question: Question, drawn: Drawn, made: Floats, cuts: Cuts) -> Result:
    ordered = np.sort(made)
    if ordered.size > FEW and ordered[-1] - ordered[0] <= 1e-12 * (abs(drawn.estimate) or 1.0):
        raise ProcedureFails("every resample gives the same estimate")
    try:
        ends, lines, figures = cuts(question, drawn, ordered)
    except TooFewResamples as few:
        return _without_ends(drawn, made, str(few))
    low, high = tails_of(question)
    if not low:
        ends = drawn.limits[0], ends[1]
    if not high:
        ends = ends[0], drawn.limits[1]
    n = ordered.size
    pile = Pile(made, around=drawn.estimate)
    places = min(6, drawn.decimals + 2)
    steps = (
        Step("Point estimate", (formula(f"{{estimate}} = {put_in(drawn.estimate, drawn.decimals)}"),)),
        Step(
            "Resamples",
            (
                f"{counted(n, 'resample')} of the same size are drawn with replacement from the sample (seed "
                f"{question.settings.seed}), and the estimate is calculated for each.",
                f"Their mean is {number(float(ordered.mean()), places)}; their standard deviation, "
                f"{significant(pile.sd, 4)}, is the standard error.",
            ),
        ),
        Step("Ends", lines),
    )
    made_of = {"margin": (ends[1] - ends[0]) / 2, "standard_error": pile.sd, "replicates": float(n)}
    told = interval_result(
        drawn.estimate,
        ends,
        steps=steps,
        error=pile.sd,
        curve=pile,
        figures=made_of | figures,
        text=counted(n, "resample"),
    )
    return replace(told, title=f"Estimates of {counted(n, 'resample')}")


class TooFewResamples(ProcedureFails):
    """A tail that no resample lies in."""


def _without_ends(drawn: Drawn, made: Floats, why: str) -> Result:
    """The pile as far as it has grown."""
    n = made.size
    return Result(
        estimate=drawn.estimate,
        statistic=drawn.estimate,
        statistic_text="",
        standard_error=float(made.std()),
        distribution=Pile(made, around=drawn.estimate),
        observed=drawn.estimate,
        remarks=(why,),
        title=f"Estimates of {counted(n, 'resample')}",
        figures={"estimate": drawn.estimate, "replicates": float(n)},
    )


def cut_at(ordered: Floats, below: float) -> tuple[float, int]:
    found = cut_off(ordered, below)
    if found is None:
        n = counted(ordered.size, "resample")
        raise TooFewResamples(f"{n} {'is' if ordered.size == 1 else 'are'} too few for such tails")
    return found.value, found.rank


def _percentile(question: Question, drawn: Drawn, ordered: Floats):  # type: ignore[no-untyped-def]
    """The middle part of the pile (Efron 1979)."""
    low, high = tails_of(question)
    ends, lines, figures = [-math.inf, math.inf], [], {}
    for at, (tail, word) in enumerate(((low, "lower"), (1 - high, "upper"))):
        if 0 < tail < 1:
            ends[at], rank = cut_at(ordered, tail)
            lines.append(
                f"The {word} end is the estimate at rank {whole(rank)} of "
                f"{whole(ordered.size)}: {put_in(ends[at], drawn.decimals)}."
            )
            figures[f"{word}_rank"] = float(rank)
    return (ends[0], ends[1]), tuple(lines), figures


def _basic(question: Question, drawn: Drawn, ordered: Floats):  # type: ignore[no-untyped-def]
    """The pile turned over at the estimate (Davison and Hinkley 1997, section 5.2)."""
    low, high = tails_of(question)
    turned = replace(question, tails=(high, low))
    (a, b), lines, figures = _percentile(turned, drawn, ordered)
    ends = 2 * drawn.estimate - b, 2 * drawn.estimate - a
    put = partial(put_in, decimals=drawn.decimals)
    say = put(drawn.estimate)
    swapped = tuple(
        str(line).replace("lower end is", "lower cut is").replace("upper end is", "upper cut is") for line in lines
    )
    told = [
        formula(f"{{{word} end}} = 2 × {bracketed(say)} − {bracketed(put(cut))} = {put(end)}")
        for word, cut, end in (("lower", b, ends[0]), ("upper", a, ends[1]))
        if math.isfinite(cut)
    ]
    kept = max(ends[0], drawn.limits[0]), min(ends[1], drawn.limits[1])
    return kept, (*swapped, *told), figures


def _bca(question: Question, drawn: Drawn, ordered: Floats):  # type: ignore[no-untyped-def]
    """Bias-corrected and accelerated (Efron 1987)."""
    if drawn.size > MOST_LEFT_OUT:
        raise ProcedureFails(f"can be calculated for up to {whole(MOST_LEFT_OUT)} values")
    low, high = tails_of(question)
    kept = left_out(drawn.samples, drawn.statistic, together=drawn.together)
    found = corrected(ordered, drawn.estimate, kept, low or 0.5, high or 0.5)
    if found is None:
        raise ProcedureFails("all resamples lie on one side of the estimate")
    moved = replace(question, tails=(found.low if low else 0.0, 1 - found.high if high else 0.0))
    ends, lines, figures = _percentile(moved, drawn, ordered)
    first = (
        formula(f"z_{{0}} = {number(found.bias, 4)}"),
        formula(f"a = {number(found.acceleration, 4)}"),
        "z_{0} corrects for bias, and a for a spread that changes with the estimate. The tails become "
        + " and ".join(
            [f"{number(100 * t, 2)}\u00a0%" for t in (found.low * bool(low), (1 - found.high) * bool(high)) if t]
        )
        + ".",
    )
    figures |= {"bias": found.bias, "acceleration": found.acceleration}
    return ends, (*first, *lines), figures


_CENTRES = ("mean", "median", "quantile", "standard deviation", "variance")
_ALL = (*_CENTRES, "correlation", "slope", "ratio of standard deviations")
_ROWS: tuple[Family, ...] = ("one sample", "pairs", "two samples", "two numbers")
_SHARES: tuple[Family, ...] = ("one share", "two shares")
CHANCE = ("replicates", "seed", "tails")
_KINDS = (
    ("percentile", "Bootstrap percentile", "The middle part of the estimates of resamples.", _percentile),
    ("basic", "Bootstrap basic", "The estimates of resamples, mirrored at the estimate.", _basic),
    ("bca", "BCa bootstrap", "Corrects for bias and for a spread that changes.", _bca),
)
PROCEDURES = (
    *(Procedure(name, label, help_, _ROWS, _ALL, ("plenty", "borne"), order=11 + at, simulated=True, settings=CHANCE,
                interval=AsInterval(partial(_resampled, cuts=cuts)), watched=at == 0)
      for at, (name, label, help_, cuts) in enumerate(_KINDS)),
    *(Procedure(f"{name} of shares", label, help_, _SHARES, ("proportion",), (),
                interval=AsInterval(partial(_resampled, cuts=cuts)), order=11 + at, simulated=True, from_figures=True,
                settings=CHANCE, watched=at == 0)
      for at, (name, label, help_, cuts) in enumerate(_KINDS)),
)  # fmt: skip

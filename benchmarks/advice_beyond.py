"""How often what is suggested errs where the usual way does: medians, skewed means, spreads, unlike groups, quantiles.

Run as `python -m benchmarks.advice_beyond`; it takes some minutes. H0 is true in every sample, and α is
0.05. “before” is the way that was suggested when only failing conditions of its own were looked at: signed
rank, t, chi-square, analysis of variance, rank sum. Intervals are of 95 %.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from scipy import stats

from theoros.verbs.assumptions.assumption import checked, summed_up
from theoros.verbs.data.data import Family
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import Measured, OneSample, SeveralSamples, TwoSamples
from theoros.verbs.parameters.parameter import parameters
from theoros.verbs.procedures.procedure import (
    Procedure,
    ProcedureFails,
    Purpose,
    Question,
    Settings,
    procedures,
    procedures_for,
    suggested,
)

TIMES, REPLICATES = 400, 399
Draw = Callable[[np.random.Generator, int], np.ndarray]
LAWS: dict[str, tuple[Draw, stats.rv_continuous]] = {
    "normal": (lambda rng, n: rng.normal(0, 1, n), stats.norm()),
    "t with 3 df": (lambda rng, n: rng.standard_t(3, n), stats.t(3)),
    "exponential": (lambda rng, n: rng.exponential(1, n), stats.expon()),
    "lognormal": (lambda rng, n: rng.lognormal(0, 1, n), stats.lognorm(1)),
    "chi-square 4": (lambda rng, n: rng.chisquare(4, n), stats.chi2(4)),
    "Laplace": (lambda rng, n: rng.laplace(0, 1, n), stats.laplace()),
}


def one(values: np.ndarray) -> OneSample:
    held = Sample("x", "x", values, np.arange(values.size))
    return OneSample(measure="x", unit="", decimals=2, sample=held)


def samples(groups: Sequence[np.ndarray]) -> list[Sample]:
    return [Sample(str(at), str(at), values, np.arange(values.size)) for at, values in enumerate(groups)]


def advised(data: Measured, family: Family, parameter: str, purpose: Purpose = "test") -> Procedure | None:
    """What is suggested; None where every way fails."""
    ways = [way for way in procedures_for(family, purpose=purpose) if parameter in way.compares and not way.asks]
    return suggested(ways, parameter, fails(data, parameter))


def p_of(method: str, data: Measured, parameter: str, null: float, seed: int) -> float:
    settings = Settings(replicates=REPLICATES, seed=seed)
    question = Question(data, parameters()[parameter], null, "different", 0.05, settings=settings, in_full=False)
    return procedures()[method].found(question).p or 0.0


def errors(title: str, draw: Callable[[np.random.Generator], tuple[Measured, float]], family: Family, parameter: str,
           before: str) -> None:  # fmt: skip
    """A line: how often the way of before rejects, and what is suggested, where something is."""
    rng, old, new, none = np.random.default_rng(7), 0, 0, 0
    for seed in range(TIMES):
        data, null = draw(rng)
        old += p_of(before, data, parameter, null, seed) <= 0.05
        way = advised(data, family, parameter)
        if way is None:
            none += 1
        else:
            new += p_of(way.name, data, parameter, null, seed) <= 0.05
    told = TIMES - none
    after = f"{new / told:.3f}" if told else "–"
    print(f"{title:<44}{old / TIMES:>10.3f}{after:>10}{none / TIMES:>14.2f}", flush=True)


def of_one(name: str, what: str, n: int) -> Callable[[np.random.Generator], tuple[Measured, float]]:
    """Samples of a law with its true figure: "median", "mean" or "std"."""
    draw, law = LAWS[name]
    true = float(getattr(law, what)())
    return lambda rng: (one(draw(rng, n)), true)


def fails(data: Measured, parameter: str) -> Callable[[Procedure], bool]:
    about = parameters()[parameter]
    return lambda way: summed_up(checked(way.needs, data, about))[1] == "fails"


def coverage(title: str, draw: Draw, true: float, n: int, parameter: str, before: str, share: float = 0.9) -> None:
    rng, old, new, none, failed = np.random.default_rng(7), 0, 0, 0, 0
    for seed in range(TIMES):
        data = one(draw(rng, n))
        settings = Settings(replicates=999, seed=seed, share=share)
        question = Question(data, parameters()[parameter], confidence=0.95, settings=settings, in_full=False)

        def covers(way: Procedure, question: Question = question) -> bool | None:
            try:
                found = way.found(question).interval
            except ProcedureFails:
                return None
            return None if found is None else found[0] <= true <= found[1]

        came = covers(procedures("interval")[before])
        failed += came is None
        old += bool(came)
        ways = [
            way
            for way in procedures_for("one sample", purpose="interval")
            if parameter in way.compares and not way.asks
        ]
        able = [way for way in ways if covers(way) is not None]
        best = suggested(able, parameter, fails(data, parameter))
        came = covers(best) if best else None
        none += came is None
        new += bool(came)
    before_ = f"{old / (TIMES - failed):.3f}" if failed < TIMES else "refused"
    after = f"{new / (TIMES - none):.3f}" if none < TIMES else "–"
    print(f"{title:<44}{before_:>10}{after:>10}{none / TIMES:>14.2f}", flush=True)


def main() -> None:
    head = f"{'before':>10}{'after':>10}{'none advised':>14}"
    print(f"{'error rates at 0.05 · one median':<44}{head}")
    for name in ("normal", "t with 3 df", "exponential", "lognormal", "chi-square 4"):
        draw, law = LAWS[name]
        for n in (20, 50, 200):
            errors(f"{name}, {n}", of_one(name, "median", n), "one sample",
                   "median", "signed rank")  # fmt: skip
    print(f"\n{'one mean':<44}{head}")
    for name in ("normal", "exponential", "lognormal"):
        draw, law = LAWS[name]
        for n in (10, 20, 50):
            errors(f"{name}, {n}", of_one(name, "mean", n), "one sample",
                   "mean", "one-sample t")  # fmt: skip
    print(f"\n{'one standard deviation':<44}{head}")
    for name in ("normal", "exponential", "Laplace", "t with 3 df"):
        draw, law = LAWS[name]
        for n in (20, 50):
            errors(f"{name}, {n}", of_one(name, "std", n), "one sample",
                   "standard deviation", "chi-square of a variance")  # fmt: skip
    print(f"\n{'several means':<44}{head}")
    for sizes, sds in (
        ((20, 20, 20), (1, 1, 1)),
        ((40, 40, 8), (1, 1, 1)),
        ((40, 40, 8), (1, 1, 1.9)),
        ((50, 50, 5), (1, 1, 1.8)),
    ):

        def several(rng: np.random.Generator, sizes=sizes, sds=sds) -> tuple[Measured, float]:
            made = samples([rng.normal(0, sd, n) for n, sd in zip(sizes, sds, strict=True)])
            return SeveralSamples(measure="x", unit="", decimals=2, groups=tuple(made)), 0.0

        errors(f"normal, n {sizes}, SD {sds}", several, "several samples", "mean", "anova")
    print(f"\n{'two medians':<44}{head}")
    pairs = (("exponential", "exponential", 50, 1), ("exponential", "normal", 50, 1), ("lognormal", "normal", 50, 1),
             ("exponential", "exponential", 100, -1))  # fmt: skip
    for first, second, n, side in pairs:
        (a, law_a), (b, law_b) = LAWS[first], LAWS[second]

        def two(rng: np.random.Generator, a=a, b=b, la=law_a, lb=law_b, n=n, side=side) -> tuple[Measured, float]:
            held = samples([a(rng, n) - la.median(), side * (b(rng, n) - lb.median())])
            return TwoSamples(measure="x", unit="", decimals=2, first=held[0], second=held[1]), 0.0

        errors(
            f"{first} and {second}{' turned round' if side < 0 else ''}, {n} each",
            two,
            "two samples",
            "median",
            "rank sum",
        )
    print(f"\n{'coverage of 95 % intervals':<44}{head}")
    for name in ("exponential", "lognormal"):
        draw, law = LAWS[name]
        for n in (10, 20, 50):
            coverage(f"mean, {name}, {n}", draw, float(law.mean()), n, "mean", "percentile")
    for name in ("normal", "exponential", "Laplace"):
        draw, law = LAWS[name]
        for n in (20, 50):
            coverage(f"standard deviation, {name}, {n}", draw, float(law.std()), n, "standard deviation", "percentile")
    draw, law = LAWS["normal"]
    for n, share in ((10, 0.9), (30, 0.9), (40, 0.9), (100, 0.9), (50, 0.95)):
        coverage(f"quantile {share}, normal, {n}", draw, float(law.ppf(share)), n, "quantile", "percentile", share)


if __name__ == "__main__":
    main()

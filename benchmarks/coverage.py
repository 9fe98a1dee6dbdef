"""How often intervals at 95 % hold what they are for: `python -m benchmarks.coverage`.

Samples are drawn from populations whose value is known, over a grid of sizes and shapes. It takes
some minutes, and belongs to no run of the other figures.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy import stats

from theoros.verbs.data.number_pairs import NumberPairs
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import OneSample, TwoSamples
from theoros.verbs.data.shares import Share, Shares
from theoros.verbs.parameters.parameter import parameters
from theoros.verbs.procedures.procedure import ProcedureFails, Question, Settings, procedures_for

SAMPLES, RESAMPLES, SURE = 2000, 399, 0.95
Draw = Callable[[np.random.Generator], Any]


@dataclass(frozen=True)
class Case:
    name: str
    parameter: str
    true: float
    draw: Draw


def one_sample(values: np.ndarray) -> OneSample:
    sample = Sample("x", "x", values, np.arange(values.size))
    return OneSample(measure="x", unit="", decimals=2, sample=sample)


def two_samples(x: np.ndarray, y: np.ndarray) -> TwoSamples:
    made = [Sample(n, n, v, np.arange(v.size)) for n, v in (("first", x), ("second", y))]
    return TwoSamples(measure="x", unit="", decimals=2, first=made[0], second=made[1])


def shares(*of: tuple[int, int]) -> Shares:
    return Shares(success="x", of=tuple(Share(str(at), "cases", x, n) for at, (x, n) in enumerate(of)))


SHAPES = {
    "normal": (stats.norm(10, 2), lambda rng, n: rng.normal(10, 2, n)),
    "skewed": (stats.expon(), lambda rng, n: rng.exponential(1, n)),
    "very skewed": (stats.lognorm(1), lambda rng, n: rng.lognormal(0, 1, n)),
}


def cases() -> Iterator[Case]:
    for n in (10, 30, 100):
        for shape, (law, make) in SHAPES.items():
            for name, true in (("mean", law.mean()), ("median", law.median()), ("standard deviation", law.std())):
                yield Case(f"{name}, n = {n}, {shape}", name, true, lambda rng, m=make, n=n: one_sample(m(rng, n)))
            yield Case(
                f"difference of means, n = {n} each, {shape}",
                "mean",
                0.0,
                lambda rng, m=make, n=n: two_samples(m(rng, n), m(rng, n)),
            )
        for p in (0.5, 0.1):
            yield Case(
                f"proportion {p}, n = {n}", "proportion", p, lambda rng, p=p, n=n: shares((int(rng.binomial(n, p)), n))
            )
        yield Case(
            f"difference of proportions 0.3 and 0.1, n = {n} each",
            "proportion",
            0.2,
            lambda rng, n=n: shares((int(rng.binomial(n, 0.3)), n), (int(rng.binomial(n, 0.1)), n)),
        )
        yield Case(f"correlation 0.5, n = {n}", "correlation", 0.5, lambda rng, n=n: _pairs(rng, n))


def _pairs(rng: np.random.Generator, n: int) -> NumberPairs:
    x = rng.normal(size=n)
    y = 0.5 * x + np.sqrt(0.75) * rng.normal(size=n)
    return NumberPairs(names_=("x", "y"), units=("", ""), x=x, y=y, rows=np.arange(n))


def covered(case: Case, samples: int = SAMPLES) -> dict[str, float]:
    """For each way the share of intervals that hold the value, of those that there are."""
    rng, hits = np.random.default_rng(20), {}
    for at in range(samples):
        data = case.draw(rng)
        family = (
            "one sample"
            if isinstance(data, OneSample)
            else (
                "two samples"
                if isinstance(data, TwoSamples)
                else "two numbers"
                if isinstance(data, NumberPairs)
                else "one share"
                if len(data.of) == 1
                else "two shares"
            )
        )
        asked = Question(
            data, parameters()[case.parameter], confidence=SURE, settings=Settings(replicates=RESAMPLES, seed=at)
        )
        for method in procedures_for(family, purpose="interval"):
            if case.parameter not in method.compares or method.asks:
                continue
            try:
                ends = method.found(asked).interval
            except ProcedureFails:
                continue
            if ends is not None:
                hits.setdefault(method.label, []).append(ends[0] <= case.true <= ends[1])
    return {label: float(np.mean(one)) for label, one in hits.items()}


if __name__ == "__main__":
    for case in cases():
        told = ", ".join(f"{label} {100 * share:.1f}" for label, share in covered(case).items())
        print(f"{case.name:<55} {told}", flush=True)

"""How good the advice of Test is: what is suggested, and how often that errs.

Run as `python -m benchmarks.advice`.
Pairs of samples are drawn for which H0 is true. Told are the share for which a t procedure is
suggested, and the error rate at α = 0.05 of whatever is suggested (about 0.05 is right). It takes
some minutes, and belongs to no run of the other figures.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from theoros.verbs.assumptions.assumption import checked, summed_up
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import OneSample, TwoSamples
from theoros.verbs.parameters.parameter import parameters
from theoros.verbs.procedures.procedure import Procedure, Question, Settings, procedures, procedures_for, suggested

ALPHA, SHUFFLES = 0.05, 399
Draw = Callable[[np.random.Generator, int], np.ndarray]


@dataclass(frozen=True)
class Case:
    """Two populations with the same mean and median, and the sizes of the samples."""

    name: str
    first: Draw
    second: Draw
    sizes: tuple[int, int]

    def sample(self, rng: np.random.Generator) -> TwoSamples:
        one, two = self.first(rng, self.sizes[0]), self.second(rng, self.sizes[1])
        made = [
            Sample(name, name, values, np.arange(values.size)) for name, values in (("first", one), ("second", two))
        ]
        return TwoSamples(measure="x", unit="", decimals=2, first=made[0], second=made[1])


def normal(sd: float = 1.0) -> Draw:
    return lambda rng, n: rng.normal(0, sd, n)


def lognormal(rng: np.random.Generator, n: int) -> np.ndarray:
    return rng.lognormal(0, 1, n)


def advised(data: TwoSamples, parameter: str) -> Procedure:
    """What Test suggests for a claim about a parameter."""
    about = parameters()[parameter]
    methods = procedures_for("two samples")
    best = suggested(methods, parameter, lambda method: summed_up(checked(method.needs, data, about))[1] == "fails")
    return best or next(
        method for method in methods if parameter in method.compares
    )  # where none is, students keep the first


def p_of(method: Procedure, data: OneSample | TwoSamples, parameter: str, seed: int, null: float = 0.0) -> float:
    question = Question(
        data, parameters()[parameter], null, "different", ALPHA, settings=Settings(replicates=SHUFFLES, seed=seed)
    )
    return method.found(question).p or 0.0


def shares_of_t(times: int = 400) -> None:
    print(f"{'':<24}" + "".join(f"{n:>8}" for n in SIZES))
    for name, draw in (("normal", normal()), ("lognormal", lognormal)):
        told = []
        for n in SIZES:
            rng = np.random.default_rng([1, n])
            case = Case(name, draw, draw, (n, n))
            made = [advised(case.sample(rng), "mean") for _ in range(times)]
            told.append(sum(method.name in ("welch t", "pooled t") for method in made) / times)
        print(f"t suggested, {name:<11}" + "".join(f"{share:>8.3f}" for share in told))


SIZES = (10, 15, 20, 30, 50, 100, 200, 500)
CASES = (
    Case("normal, 10 and 10", normal(), normal(), (10, 10)),
    Case("normal, 30 and 30", normal(), normal(), (30, 30)),
    Case("normal, SD 1 and 3, 40 and 10", normal(1), normal(3), (40, 10)),
    Case("normal, SD 1 and 3, 30 and 30", normal(1), normal(3), (30, 30)),
    Case("lognormal, 10 and 10", lognormal, lognormal, (10, 10)),
    Case("lognormal, 30 and 30", lognormal, lognormal, (30, 30)),
    Case("lognormal, 40 and 10", lognormal, lognormal, (40, 10)),
)


def error_rates(times: int = 1000) -> None:
    """Of what is suggested for means and for medians, and of the ways whatever is advised."""
    methods = ("welch t", "shuffled labels", "rank sum")
    heads = ("means", "medians", "advised *", "Welch t", "labels, means", "labels, med.", "rank sum")
    print(f"\n{'':<32}" + "".join(f"{head:>14}" for head in heads))
    for case in CASES:
        rng, errors = np.random.default_rng(5), np.zeros(len(heads))
        failing = 0
        for seed in range(times):
            data = case.sample(rng)
            p = {
                (name, about): p_of(procedures()[name], data, about, seed)
                for name in methods
                for about in procedures()[name].compares
            }
            mean, median = advised(data, "mean"), advised(data, "median")
            for_mean = p.get((mean.name, "mean"))
            if for_mean is None:
                for_mean = p_of(mean, data, "mean", seed)
            about = parameters()["median"]
            fails = summed_up(checked(median.needs, data, about))[1] == "fails"
            failing += fails
            told = (
                for_mean,
                p[median.name, "median"],
                1.0 if fails else p[median.name, "median"],
                p["welch t", "mean"],
                p["shuffled labels", "mean"],
                p["shuffled labels", "median"],
                p["rank sum", "median"],
            )
            errors += np.array(told) <= ALPHA
        rates = errors / times
        rates[2] = errors[2] / max(1, times - failing)
        print(f"{case.name:<32}" + "".join(f"{rate:>14.3f}" for rate in rates))
    print("* of the samples for which no condition of the way suggested for medians fails")


def spread_errors(times: int = 2000) -> None:
    """Of the ways to compare two standard deviations, where both are the same."""
    methods = ("F ratio", "Brown–Forsythe", "shuffled distances")
    print(f"\n{'spreads':<32}" + "".join(f"{name:>20}" for name in methods))
    for case in CASES:
        if "SD" in case.name:
            continue
        rng, errors = np.random.default_rng(5), np.zeros(len(methods))
        for seed in range(times):
            data = case.sample(rng)
            told = [p_of(procedures()[name], data, "standard deviation", seed) for name in methods]
            errors += np.array(told) <= ALPHA
        print(f"{case.name:<32}" + "".join(f"{rate:>20.3f}" for rate in errors / times))


def one_sample_errors(times: int = 2000) -> None:
    """Of the ways to test one mean, where the value under H0 is that of the population."""
    methods = ("one-sample t", "shuffled signs", "shifted bootstrap")
    print(f"\n{'one mean':<32}" + "".join(f"{name:>20}" for name in methods))
    populations = (("normal", normal(), 0.0), ("lognormal", lognormal, float(np.exp(0.5))))
    for name, draw, mean in populations:
        for n in (10, 20, 30, 100):
            rng, errors = np.random.default_rng(5), np.zeros(len(methods))
            for seed in range(times):
                held = Sample("x", "x", draw(rng, n), np.arange(n))
                data = OneSample(measure="x", unit="", decimals=2, sample=held)
                told = [p_of(procedures()[method], data, "mean", seed, mean) for method in methods]
                errors += np.array(told) <= ALPHA
            print(f"{f'{name}, {n}':<32}" + "".join(f"{rate:>20.3f}" for rate in errors / times))


if __name__ == "__main__":
    shares_of_t()
    error_rates()
    spread_errors()
    one_sample_errors()

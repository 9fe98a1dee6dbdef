"""Bootstrap t: the t of each resample about the sample takes the place of a table of t (Efron 1981)."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.formulas.notation import formula
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, exact, number, put_in, statistic, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.resampling.bootstrap import drawn_places, resamples, row_means, row_variances
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import OneSided, Paired
from theoros.verbs.procedures.bootstrap_intervals import CHANCE, check_plenty, cut_at, drawn_of, replicates_of
from theoros.verbs.procedures.by_chance import ByChance, Simulated
from theoros.verbs.procedures.intervals import interval_result, tails_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question, Steps


def _studentized(question: Question) -> Steps:
    """Each resample's distance from the estimate over its own standard error (Efron 1981)."""
    data = question.of(OneSided)
    drawn = drawn_of(question)
    n, error = drawn.samples[0].size, float(drawn.samples[0].std(ddof=1) / math.sqrt(drawn.samples[0].size))

    ordered = np.zeros(0)
    for made, done in replicates_of(
        question, resamples(drawn.samples, partial(_t_of_rows, mean=drawn.estimate)), n, "t"
    ):
        if done < 1 or made is None:
            yield None, done
        else:
            ordered = np.sort(made)
    low, high = tails_of(question)
    below, low_rank = cut_at(ordered, 1 - low) if low else (math.inf, 0)
    above, high_rank = cut_at(ordered, high) if high else (-math.inf, 0)
    ends = drawn.estimate - below * error, drawn.estimate - above * error
    say = partial(put_in, decimals=data.decimals)
    lines = [
        f"Of each of {counted(ordered.size, 'resample')} t* is the distance of its mean from "
        f"{say(drawn.estimate)}, divided by its own standard error."
    ]
    for word, t, rank, end in (("lower", below, low_rank, ends[0]), ("upper", above, high_rank, ends[1])):
        if rank:
            lines.append(
                f"The t* at rank {whole(rank)} is {number(t, 3)}: the {word} end is "
                f"{say(drawn.estimate)} − {bracketed(number(t, 3))} × {say(error)} = {say(end)}."
            )
    steps = (Step("Point estimate", (formula(f"x̄ = {say(drawn.estimate)}"),)), Step("Ends", tuple(lines)))
    yield (
        interval_result(
            drawn.estimate,
            ends,
            steps=steps,
            error=error,
            figures={"replicates": float(ordered.size), "margin": (ends[1] - ends[0]) / 2},
            text=f"t* {number(above, 2)} to {number(below, 2)}" if low and high else "t*",
        ),
        1.0,
    )


def _studentized_claim(question: Question) -> Simulated:
    """The claim by the same t*: how often resamples lie as far from their sample as it does from H0."""
    data = question.of(OneSided)
    values = data.single.values
    check_plenty(values.size, "pairs" if isinstance(data, Paired) else "values")
    if np.ptp(values) == 0:
        raise ProcedureFails("all values are equal")
    n, mean, null = int(values.size), float(values.mean()), float(question.null)
    error = float(values.std(ddof=1)) / math.sqrt(n)
    say, t = partial(put_in, decimals=data.decimals), (mean - null) / error

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        (places,) = drawn_places(rng, [n], size)
        return data.with_values([values[places[at]]])

    return Simulated(
        resamples([values], partial(_told_t, mean=mean)),
        n,
        t,
        f"{whole(n)} values are drawn with replacement from the sample, and t* is the distance of their mean from "
        f"{say(mean)}, divided by their own standard error",
        axis="t* of a resample",
        said=f"t = {statistic(t)}",
        lines=(
            formula(f"t = ({say(mean)} − {bracketed(exact(question.null))}) / {say(error)} = {statistic(t, 1)}"),
            "No shape is assumed: resamples of the sample itself show how t varies.",
        ),
        noun="resample",
        estimate=mean,
        error=error,
        observed_text=f"t = {statistic(t)}",
        again=again,
    )


def _t_of_rows(drawn: Floats, *, mean: float) -> Floats:
    """How far the mean of every row lies from `mean`, over its own standard error."""
    own = np.sqrt(row_variances(drawn) / drawn.shape[1])
    gap = row_means(drawn) - mean
    # a resample of one value alone lies infinitely far
    far = np.where(gap == 0, 0.0, np.copysign(np.inf, gap))
    return np.asarray(np.divide(gap, own, out=far, where=own > 0), dtype=np.float64)


def _told_t(drawn: Floats, *, mean: float) -> Floats:
    """The same, with what lies infinitely far farther than anything that is looked at."""
    return np.clip(_t_of_rows(drawn, mean=mean), -FARTHEST, FARTHEST)


FARTHEST = 50.0


PROCEDURES = (
    Procedure(
        "bootstrap t", "Bootstrap t", "One mean, by how t varies in resamples; suits skewed values.",
        ("one sample", "pairs"), ("mean",), ("plenty",), ByChance(_studentized_claim),
        interval=AsInterval(_studentized, help="x̄ − t* × SE, with t* from resamples."), order=14, simulated=True,
        settings=CHANCE,
    ),
)  # fmt: skip

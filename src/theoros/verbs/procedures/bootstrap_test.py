"""The bootstrap test: the sample moved to the value under H0, and drawn from again and again."""

from __future__ import annotations

from theoros.answer.wording import exact, number
from theoros.lazy_imports import np
from theoros.numeric.arrays import Centre, ties_within
from theoros.numeric.resampling.bootstrap import drawn_places, resampled
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import OneSample
from theoros.verbs.procedures.by_chance import CHANCE, ByChance, Simulated
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question

LEAST = 5
"""Fewer values than these do not stand for a population."""


def _shifted(question: Question) -> Simulated:
    """Efron and Tibshirani 1993, section 16.4."""
    data = question.of(OneSample)
    values, name = data.single.values, question.parameter.name
    if values.size < LEAST:
        raise ProcedureFails(f"needs at least {LEAST} values")
    if np.ptp(values) == 0:
        raise ProcedureFails("all values are equal")
    centre: Centre = "median" if name == "median" else "mean"
    observed = float(np.median(values) if centre == "median" else values.mean())
    null, places = float(question.null), min(6, data.decimals + 2)
    moved = values - observed + null
    said = f"{name} {number(observed, min(6, data.decimals + 1))}"
    by = number(abs(null - observed), places)
    lines = (
        f"The sample {name}: {number(observed, places)}.",
        f"Shifted {'up' if null > observed else 'down'} by {by}, so that its {name} is {exact(question.null)}, the "
        f"sample represents a population in which H_{{0}} is true.",
    )

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        (places,) = drawn_places(rng, [moved.size], size)
        return data.with_values([moved[places[at]]])

    return Simulated(
        resampled(moved, centre),
        values.size,
        observed,
        f"{values.size} values are drawn with replacement from the shifted sample",
        axis=f"{name} of a sample from the shifted one",
        said=said,
        lines=lines,
        places=places,
        noun="sample",
        around=null,
        resolution=ties_within(moved),
        estimate=observed,
        again=again,
    )


PROCEDURES = (
    Procedure(
        "shifted bootstrap",
        "Shifted bootstrap",
        "Resamples of the sample, shifted to the claimed value.",
        ("one sample",),
        ("mean", "median"),
        ("pull", "plenty", "normal"),
        ByChance(_shifted),
        order=5,
        simulated=True,
        settings=CHANCE,
    ),
)

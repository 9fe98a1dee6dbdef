"""The simulated procedures: labels dealt out again, or signs by a fair coin."""

from __future__ import annotations

from theoros.answer.digits import digits
from theoros.answer.wording import MINUS, exact, number, sentence_case, statistic
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, subtract
from theoros.numeric.resampling.shuffles import (
    Shuffle,
    dealt_places,
    difference,
    shuffled_labels,
    shuffled_signs,
    tossed,
)
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import Measured, OneSample, OneSided, Paired, TwoSamples
from theoros.verbs.procedures.by_chance import CHANCE, Again, ByChance, Simulated
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question

_LABELS = "the group labels are shuffled among the values"
_DISTANCES = "the group labels are shuffled among the distances"
_LABELS_WAYS = "ways to assign the labels"
_SIGNS = "the sign of each difference is decided by a coin toss"
_SIGNS_WAYS = "ways to put the signs"


def _labels(question: Question) -> Simulated:
    data = question.of(TwoSamples)
    x, y, name = data.first.values, data.second.values, question.parameter.name
    if min(x.size, y.size) < 1:
        raise ProcedureFails("needs a value in each group")
    if question.null:
        x = subtract(x, question.null)
    if np.ptp(np.concatenate([x, y])) == 0:
        raise ProcedureFails("all values are equal")
    shuffle = shuffled_labels(x, y, _centre(name))
    gap = difference(x, y, _centre(name))
    one, two = data.first.label, data.second.label
    what = f"difference of the {name}s, {one} {MINUS} {two}"
    if shuffle.studentized:
        what += ", over its standard error"
    return _run(question, shuffle, gap, x.size + y.size, what, _LABELS, _LABELS_WAYS, _dealt_again(data, x, y))


def _distances(question: Question) -> Simulated:
    """The labels of distances from the group's own median: Brown and Forsythe's, by shuffles."""
    data = question.of(TwoSamples)
    x, y = data.first.values, data.second.values
    if min(x.size, y.size) < 2:
        raise ProcedureFails("needs at least two values in a group")
    far_x, far_y = np.abs(x - np.median(x)), np.abs(y - np.median(y))
    if np.ptp(np.concatenate([far_x, far_y])) == 0:
        raise ProcedureFails("all values have the same distance from their median")
    shuffle = shuffled_labels(far_x, far_y, "mean")
    one, two = data.first.label, data.second.label
    what = f"difference of the mean distances from the median, {one} {MINUS} {two}"
    if shuffle.studentized:
        what += ", over its standard error"
    gap = question.parameter.estimate(data)
    return _run(
        question, shuffle, gap, x.size + y.size, what, _DISTANCES, _LABELS_WAYS, _dealt_again(data, far_x, far_y)
    )


def _signs(question: Question) -> Simulated:
    data = question.of(OneSided)
    moved, name = subtract(data.single.values, question.null), question.parameter.name
    pairs = isinstance(data, Paired)
    if moved.size < 1 or not moved.any():
        what = "difference" if pairs else "value"
        raise ProcedureFails(f"every {what} is {exact(question.null)}")
    shuffle = shuffled_signs(moved, _centre(name))
    what = f"{name} difference" if pairs else f"{name} distance from {exact(question.null)}"

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        signed = tossed(rng, moved.size, size)[at] * moved
        return data.with_values([signed + float(question.null)])

    return _run(question, shuffle, shuffle.observed, moved.size, what, _SIGNS, _SIGNS_WAYS, again)


def _dealt_again(data: TwoSamples, x: Floats, y: Floats) -> Again:
    """The values dealt to the groups anew."""
    pooled = np.concatenate([x, y])

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        values = pooled[dealt_places(rng, pooled.size, size)[at]]
        return data.with_values([values[: x.size], values[x.size :]])

    return again


def _centre(name: str):  # type: ignore[no-untyped-def]
    """The statistic of a simulation by the name of the parameter it is about."""
    return "mean" if name == "mean" else "median"


def _run(
    question: Question, shuffle: Shuffle, gap: float, size: int, what: str, how: str, ways: str, again: Again
) -> Simulated:
    data, observed = question.of(Measured), shuffle.observed
    one = isinstance(data, OneSample)
    shift = f", after subtracting {exact(question.null)}" if question.null and not one else ""
    places = digits().statistic + 1 if shuffle.studentized else min(6, data.decimals + 2)
    said = question.parameter.name if one else "difference"
    text = f"{said} {number(gap + question.null, min(6, data.decimals + 1))}"
    error = None
    if shuffle.studentized:
        text = f"t = {statistic(observed)}"
        error = abs(gap / observed) if observed else None
    line = f"{sentence_case(what)}{shift}: {number(observed, places)}."
    return Simulated(
        shuffle.make, size, observed, how, axis=f"{what}{shift}", said=text, lines=(line,),
        places=places, resolution=shuffle.resolution, estimate=gap + question.null, error=error,
        observed_text=text if shuffle.studentized else "", arrangements=shuffle.ways, ways_words=ways,
        every=shuffle.every, figures={"difference": gap + question.null}, again=again,
    )  # fmt: skip


PROCEDURES = (
    Procedure(
        "shuffled labels", "Shuffled labels",
        "The differences that occur when the labels are shuffled.",
        ("two samples",), ("mean", "median"), ("pull", "alike"), ByChance(_labels), order=4,
        simulated=True, settings=CHANCE, other_names=("permutation test", "randomization test")
    ),
    Procedure(
        "shuffled distances", "Shuffled distances",
        "Two spreads: distances from the medians, with shuffled labels.",
        ("two samples",), ("standard deviation",), (), ByChance(_distances), order=6,
        simulated=True, settings=CHANCE,
    ),
    Procedure(
        "shuffled signs", "Shuffled signs",
        "The means that occur when the signs of the differences are decided by coin tosses.",
        ("pairs", "one sample"), ("mean", "median"), ("pull", "symmetry"), ByChance(_signs),
        order=3, simulated=True, settings=CHANCE, other_names=("permutation test", "randomization test")
    ),
)  # fmt: skip

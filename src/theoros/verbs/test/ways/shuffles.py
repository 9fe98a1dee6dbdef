"""The simulated ways: labels dealt out again, or signs by a fair coin."""

from __future__ import annotations

import math
from collections.abc import Iterator

from theoros.answer.parts import Step
from theoros.answer.wording import MINUS, exact, number, p_value, significant, whole
from theoros.heavy import np
from theoros.numeric.arrays import Floats, subtract
from theoros.numeric.replicates import MakeBlock, block_size, replicates
from theoros.numeric.shuffles import as_far, difference, shuffled_labels, shuffled_signs
from theoros.verbs.test.null_pictures import replicates_frame
from theoros.verbs.test.way import Outcome, Question, Way, WayFails

FIRST_LOOK = 1000
"""After so many shuffles a first result is shown, before the rest are made."""

Run = Iterator[tuple[Outcome | None, float]]


def _labels(question: Question) -> Run:
    samples = question.samples
    x, y = samples.first.values, samples.second.values
    if min(x.size, y.size) < 1:
        raise WayFails("needs a value in each group")
    if question.null:
        x = subtract(x, question.null)
    if np.ptp(np.concatenate([x, y])) == 0:
        raise WayFails("all values are equal")
    seen = difference(x, y, question.centre)
    make = shuffled_labels(x, y, question.centre)
    what = (
        f"difference of the {question.centre}s, {samples.first.label} {MINUS} "
        f"{samples.second.label}"
    )
    yield from _run(question, make, seen, x.size + y.size, what, "labels")


def _signs(question: Question) -> Run:
    pairs = question.samples.pairs
    assert pairs is not None
    moved = subtract(pairs.values, question.null)
    if moved.size < 1 or not moved.any():
        raise WayFails(f"every difference is {exact(question.null)}")
    seen = float(np.mean(moved) if question.centre == "mean" else np.median(moved))
    make = shuffled_signs(moved, question.centre)
    what = f"{question.centre} difference"
    yield from _run(question, make, seen, moved.size, what, "signs")


def _run(question: Question, make: MakeBlock, seen: float, size: int, what: str, dealt: str) -> Run:
    made: list[Floats] = []
    done, shown = 0, False
    for block in replicates(make, question.seed, block_size(size), question.shuffles):
        made.append(block)
        done += block.size
        if done >= question.shuffles:
            break
        if done >= FIRST_LOOK and not shown:
            shown = True
            yield (
                _outcome(question, np.concatenate(made), seen, what, dealt),
                (done / question.shuffles),
            )
        else:
            yield None, done / question.shuffles
    yield _outcome(question, np.concatenate(made), seen, what, dealt), 1.0


def _outcome(question: Question, null: Floats, seen: float, what: str, dealt: str) -> Outcome:
    hits = int(as_far(null, seen, question.claim).sum())
    n = int(null.size)
    p = hits / n
    places = min(6, question.samples.decimals + 2)
    text = f"difference {number(seen + question.null, places)}"
    error = math.sqrt(p * (1 - p) / n)
    far = {
        "less": f"{number(seen, places)} or less",
        "greater": f"{number(seen, places)} or more",
        "different": f"{number(abs(seen), places)} or more on either side of 0, both tails counted",
    }[question.claim]
    shift = f", after taking off {exact(question.null)}" if question.null else ""
    unit = {"labels": "the group labels are dealt out again", "signs": "each sign is tossed anew"}
    p_text = "" if hits else f"< {p_value(1 / n) if n <= 10_000 else exact(1 / n)}"
    written = f"= {whole(hits)}/{whole(n)} = {p_value(p)}" if hits else p_text
    spread = float(null.std(ddof=1)) if n > 1 else math.nan
    return Outcome(
        p=p,
        statistic=seen,
        statistic_text=text,
        figures={
            "difference": seen + question.null,
            "p": p,
            "as_far": float(hits),
            "shuffles": float(n),
            "standard_error": spread,
        },
        null_frame=lambda: replicates_frame(
            null,
            seen,
            question.claim,
            f"{what}{shift}",
            number(seen, places),
            f"What chance alone gives: {whole(n)} shuffles",
        ),
        working=(
            Step(
                "Statistic",
                (f"{what}{shift} = {number(seen, places)}",),
            ),
            Step(
                "p-value",
                (
                    f"In each of {whole(n)} shuffles {unit[dealt]} (seed {question.seed}).",
                    f"{whole(hits)} of them gave {far}.",
                    f"p {written}, give or take {significant(error, 2)} "
                    f"(one standard error of the simulation)",
                    f"Standard deviation of the shuffled differences: {number(spread, places)}",
                ),
            ),
        ),
        p_text=p_text,
        remarks=(
            f"Simulated: another seed gives a slightly different p-value, by about "
            f"{significant(error, 2)}."
            if hits
            else f"None of {whole(n)} shuffles went as far, so p is below 1 in {whole(n)}.",
        ),
    )


WAYS = (
    Way(
        "shuffled labels",
        "Shuffled labels",
        ("mean", "median"),
        False,
        "The differences that come up when labels are dealt out by chance.",
        ("pull",),
        _labels,
        simulated=True,
        order=4,
    ),
    Way(
        "shuffled signs",
        "Shuffled signs",
        ("mean", "median"),
        True,
        "The differences that come up when each pair's sign is tossed.",
        ("pull", "symmetry"),
        _signs,
        simulated=True,
        order=3,
    ),
)

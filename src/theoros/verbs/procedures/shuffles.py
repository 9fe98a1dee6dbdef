"""The simulated procedures: labels dealt out again, or signs by a fair coin."""

from __future__ import annotations

import math

from theoros.answer.parts import Step
from theoros.answer.wording import MINUS, exact, number, p_value, significant, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, subtract
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.resampling.replicates import MakeBlock, block_size, replicates
from theoros.numeric.resampling.shuffles import difference, shuffled_labels, shuffled_signs
from theoros.verbs.data.samples import Paired, TwoSamples
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps

FIRST_LOOK = 1000
"""After so many shuffles a first result is shown, before the rest are made."""


def _labels(question: Question) -> Steps:
    data: TwoSamples = question.data
    x, y, name = data.first.values, data.second.values, question.parameter.name
    if min(x.size, y.size) < 1:
        raise ProcedureFails("needs a value in each group")
    if question.null:
        x = subtract(x, question.null)
    if np.ptp(np.concatenate([x, y])) == 0:
        raise ProcedureFails("all values are equal")
    seen = difference(x, y, _centre(name))
    make = shuffled_labels(x, y, _centre(name))
    what = f"difference of the {name}s, {data.first.label} {MINUS} {data.second.label}"
    yield from _run(question, make, seen, x.size + y.size, what, "labels")


def _signs(question: Question) -> Steps:
    data: Paired = question.data
    moved, name = subtract(data.differences.values, question.null), question.parameter.name
    if moved.size < 1 or not moved.any():
        raise ProcedureFails(f"every difference is {exact(question.null)}")
    seen = float(np.mean(moved) if name == "mean" else np.median(moved))
    make = shuffled_signs(moved, _centre(name))
    yield from _run(question, make, seen, moved.size, f"{name} difference", "signs")


def _centre(name: str):  # type: ignore[no-untyped-def]
    """The statistic of a simulation by the name of the parameter it is about."""
    return "mean" if name == "mean" else "median"


def _run(
    question: Question, make: MakeBlock, seen: float, size: int, what: str, dealt: str
) -> Steps:  # fmt: skip
    made: list[Floats] = []
    done, shown, wanted = 0, False, question.settings.shuffles
    for block in replicates(make, question.settings.seed, block_size(size), wanted):
        made.append(block)
        done += block.size
        if done >= wanted:
            break
        if done >= FIRST_LOOK and not shown:
            shown = True
            yield _result(question, np.concatenate(made), seen, what, dealt), done / wanted
        else:
            yield None, done / wanted
    yield _result(question, np.concatenate(made), seen, what, dealt), 1.0


def _result(question: Question, null: Floats, seen: float, what: str, dealt: str) -> Result:
    pile, alternative = Pile(null), question.alternative or "different"
    region = pile.region(alternative, seen)
    hits, n = pile.counted(region), pile.size
    p = hits / n
    places = min(6, question.data.decimals + 2)
    error = math.sqrt(p * (1 - p) / n)
    far = {
        "less": f"{number(seen, places)} or less",
        "greater": f"{number(seen, places)} or more",
        "different": f"{number(abs(seen), places)} or more on either side of 0, both tails counted",
    }[alternative]
    shift = f", after taking off {exact(question.null)}" if question.null else ""
    unit = {"labels": "the group labels are dealt out again", "signs": "each sign is tossed anew"}
    p_text = "" if hits else f"< {p_value(1 / n) if n <= 10_000 else exact(1 / n)}"
    written = f"= {whole(hits)}/{whole(n)} = {p_value(p)}" if hits else p_text
    spread = pile.sd
    counted = (
        f"In each of {whole(n)} shuffles {unit[dealt]} (seed {question.settings.seed}).",
        f"{whole(hits)} of them gave {far}.",
        f"p {written}, give or take {significant(error, 2)} (one standard error of the simulation)",
        f"Standard deviation of the shuffled differences: {number(spread, places)}",
    )
    remark = f"None of {whole(n)} shuffles went as far, so p is below 1 in {whole(n)}."
    if hits:
        remark = (
            f"Simulated: another seed gives a slightly different p-value, by about "
            f"{significant(error, 2)}."
        )
    return Result(
        estimate=seen + question.null, statistic=seen,
        statistic_text=f"difference {number(seen + question.null, places)}",
        standard_error=spread, distribution=pile, seen=seen, seen_text=number(seen, places),
        region=region, p=p,
        figures={
            "difference": seen + question.null,
            "p": p,
            "as_far": float(hits),
            "shuffles": float(n),
            "standard_error": spread,
        },
        working=(
            Step("Statistic", (f"{what}{shift} = {number(seen, places)}",)),
            Step("p-value", counted),
        ),
        p_text=p_text, remarks=(remark,), axis=f"{what}{shift}",
        title=f"What chance alone gives: {whole(n)} shuffles",
    )  # fmt: skip


_SETTINGS = ("shuffles", "seed")
PROCEDURES = (
    Procedure(
        "shuffled labels", "Shuffled labels",
        "The differences that come up when labels are dealt out by chance.",
        "two samples", ("mean", "median"), ("pull",), _labels, order=4, simulated=True,
        settings=_SETTINGS,
    ),
    Procedure(
        "shuffled signs", "Shuffled signs",
        "The differences that come up when each pair's sign is tossed.",
        "pairs", ("mean", "median"), ("pull", "symmetry"), _signs, order=3, simulated=True,
        settings=_SETTINGS,
    ),
)  # fmt: skip

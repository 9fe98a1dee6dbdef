"""The simulated procedures: labels dealt out again, or signs by a fair coin."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.digits import digits
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.parts import Step
from theoros.answer.wording import (
    MINUS,
    counted,
    exact,
    number,
    p_value,
    sentence_case,
    significant,
    statistic,
    whole,
)
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, subtract
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.resampling.replicates import block_size, replicates
from theoros.numeric.resampling.shuffles import (
    Shuffle,
    difference,
    shuffled_labels,
    shuffled_signs,
)
from theoros.verbs.data.samples import OneSample, Paired, TwoSamples
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps

FIRST_LOOK = 1000
"""After so many shuffles a first result is shown, before the rest are made."""


FEW_WAYS = 10_000
"""So many arrangements are all counted, also where fewer shuffles were asked for."""


def _labels(question: Question) -> Steps:
    data: TwoSamples = question.data
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
    yield from _run(question, shuffle, gap, x.size + y.size, what, _LABELS)


def _signs(question: Question) -> Steps:
    data: OneSample | Paired = question.data
    moved, name = subtract(data.single.values, question.null), question.parameter.name
    pairs = isinstance(data, Paired)
    if moved.size < 1 or not moved.any():
        what = "difference" if pairs else "value"
        raise ProcedureFails(f"every {what} is {exact(question.null)}")
    shuffle = shuffled_signs(moved, _centre(name))
    what = f"{name} difference" if pairs else f"{name} distance from {exact(question.null)}"
    yield from _run(question, shuffle, shuffle.seen, moved.size, what, _SIGNS)


def _centre(name: str):  # type: ignore[no-untyped-def]
    """The statistic of a simulation by the name of the parameter it is about."""
    return "mean" if name == "mean" else "median"


@dataclass(frozen=True)
class _Dealt:
    """How chance is spoken of."""

    shuffled: str
    """What is done in a shuffle."""
    ways: str
    """What all arrangements are."""


_LABELS = _Dealt(
    "the group labels are given to the values anew, by chance", "ways to give out the labels"
)
_SIGNS = _Dealt("each difference gets its sign by the toss of a coin", "ways to put the signs")


def _run(
    question: Question, shuffle: Shuffle, gap: float, size: int, what: str, dealt: _Dealt
) -> Steps:  # fmt: skip
    made: list[Floats] = []
    done, shown, wanted = 0, False, question.settings.shuffles
    if shuffle.ways <= max(wanted, FEW_WAYS):
        for block in shuffle.every():
            made.append(block)
            done += block.size
            if done < shuffle.ways:
                yield None, done / shuffle.ways
        pile = Pile(np.concatenate(made), resolution=shuffle.resolution)
        yield _result(question, shuffle, pile, gap, what, dealt), 1.0
        return
    for block in replicates(shuffle.make, question.settings.seed, block_size(size), wanted):
        made.append(block)
        done += block.size
        if done >= wanted:
            break
        if done >= FIRST_LOOK and not shown:
            shown = True
            yield (
                _result(question, shuffle, _with_seen(made, shuffle), gap, what, dealt),
                (done / wanted),
            )
        else:
            yield None, done / wanted
    yield _result(question, shuffle, _with_seen(made, shuffle), gap, what, dealt), 1.0


def _with_seen(made: list[Floats], shuffle: Shuffle) -> Pile:
    """What was seen counts as one of the shuffles: under H0 it is as good as any of them.

    So p = (k + 1) / (N + 1), which is never 0, and whose error rate is at most α (Davison and
    Hinkley 1997, section 4.2; Phipson and Smyth 2010).
    """
    return Pile(np.concatenate([*made, [shuffle.seen]]), resolution=shuffle.resolution)


def _result(
    question: Question, shuffle: Shuffle, pile: Pile, gap: float, what: str, dealt: _Dealt
) -> Result:  # fmt: skip
    alternative, seen = question.alternative or "different", shuffle.seen
    region = pile.region(alternative, seen)
    hits, n = pile.counted(region), pile.size
    p, all_ways = hits / n, pile.size == shuffle.ways
    places = digits().statistic + 1 if shuffle.studentized else min(6, question.data.decimals + 2)
    far = {
        "less": f"{number(seen, places)} or less",
        "greater": f"{number(seen, places)} or more",
        "different": f"{number(abs(seen), places)} or more on either side of 0, both tails counted",
    }[alternative]
    one = isinstance(question.data, OneSample)
    shift = f", after taking off {exact(question.null)}" if question.null and not one else ""
    if all_ways:
        remarks: tuple[str, ...] = ()
        title = f"What chance alone gives: all {counted(n, 'arrangement')}"
        lines: tuple[str | Formula, ...] = (
            f"There are {whole(n)} {dealt.ways}, each as likely under H_{{0}} as what was seen.",
            f"{whole(hits)} of them give {far}; what was seen is among them.",
            formula(f"p = {whole(hits)}/{whole(n)} = {p_value(p)}"),
        )
    else:
        error = math.sqrt(p * (1 - p) / n)
        title = f"What chance alone gives: {counted(n - 1, 'shuffle')}"
        lines = (
            f"In each of {counted(n - 1, 'shuffle')} {dealt.shuffled} "
            f"(seed {question.settings.seed}).",
            f"{whole(hits - 1)} of them gave {far}; what was seen counts as one more.",
            formula(f"p = ({whole(hits - 1)} + 1)/({whole(n - 1)} + 1) = {p_value(p)}"),
            f"Give or take {significant(error, 2)}: one standard error of the simulation.",
        )
        remarks = (
            (f"None of {counted(n - 1, 'shuffle')} went as far, so that p is as low as it can be "
             f"with so many.")
            if hits == 1
            else f"Simulated: another seed gives a slightly different p-value, by about "
            f"{significant(error, 2)}.",
        )  # fmt: skip
        if abs(p - question.alpha) <= 2 * error:
            remarks += (
                f"p lies so close to α = {exact(question.alpha)} that another seed could decide "
                f"otherwise: ask for more shuffles.",
            )
    data_places = min(6, question.data.decimals + 1)
    said = question.parameter.name if one else "difference"
    text = f"{said} {number(gap + question.null, data_places)}"
    if shuffle.studentized:
        text = f"t = {statistic(seen)}"
    return Result(
        estimate=gap + question.null, statistic=seen, statistic_text=text,
        standard_error=pile.sd if not shuffle.studentized else abs(gap / seen) if seen else None,
        distribution=pile, seen=seen,
        seen_text=text if shuffle.studentized else number(seen, places),
        region=region, p=p,
        figures={
            "difference": gap + question.null,
            "statistic": seen,
            "p": p,
            "as_far": float(hits),
            "shuffles": float(n),
            "all_arrangements": float(all_ways),
            "spread_by_chance": pile.sd,
        },
        working=(
            Step("Statistic", (f"{sentence_case(what)}{shift}: {number(seen, places)}.",)),
            Step("p-value", lines),
        ),
        least_p=pile.least_tail(alternative) if all_ways else 1 / n,
        too_few="values" if all_ways else "shuffles",
        remarks=remarks, axis=f"{what}{shift}", title=title,
    )  # fmt: skip


_SETTINGS = ("shuffles", "seed")
PROCEDURES = (
    Procedure(
        "shuffled labels", "Shuffled labels",
        "The differences that come up when labels are dealt out by chance.",
        ("two samples",), ("mean", "median"), ("pull", "alike"), _labels, order=4, simulated=True,
        settings=_SETTINGS,
    ),
    Procedure(
        "shuffled signs", "Shuffled signs",
        "What comes up when the sign of each difference is tossed.",
        ("pairs", "one sample"), ("mean", "median"), ("pull", "symmetry"), _signs, order=3,
        simulated=True,
        settings=_SETTINGS,
    ),
)  # fmt: skip

"""What all simulated procedures have in common: replicates, p with its uncertainty, the words."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, number, p_equals, p_value, put_in, significant, statistic, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.resampling.replicates import MakeBlock, Replicates, block_size
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.procedures.procedure import Question, Result, Steps

FEW_WAYS = 10_000
"""So many arrangements are all counted, also where fewer shuffles were asked for."""
CHANCE = ("replicates", "seed")
"""The settings that simulated procedures use."""
SURE = 1.96
"""Standard errors within which a simulated p-value lies in 95 of 100 simulations."""
Lines = tuple[str | Formula, ...]
Again = Callable[["np.random.Generator", int, int], Observation]
"""Given the generator and the size of a block, and a place in it, the data of that replicate."""


@dataclass(frozen=True)
class Simulated:
    """A statistic, what was seen of it, what chance makes of it, and how these are spoken of."""

    make: MakeBlock
    size: int
    """Of the values that one replicate is made of."""
    observed: float
    how: str
    """What is done in each replicate, as a clause: "the labels are given out anew, by chance"."""
    axis: str
    """What the statistic is."""
    said: str
    """What was seen, with its symbol: "F = 3.21"."""
    lines: Lines
    """How the statistic is worked out."""
    places: int = 2
    """Decimals of the statistic."""
    noun: str = "shuffle"
    around: float = 0.0
    """The middle of what chance gives, from which both tails are counted."""
    resolution: float = 0.0
    """Values this close are equal but for rounding."""
    upper: bool = False
    """Whether only large values speak against H0, as of F and chi-square."""
    region: Region | None = None
    """What counts as at least as far, where it is not the distance from `around`."""
    estimate: float = math.nan
    error: float | None = None
    """Of the estimate; that of the pile by default."""
    observed_text: str = ""
    """Beside the mark on the axis; the number by default."""
    arrangements: int = 0
    """How many arrangements there are in all, each as likely; 0 where they are not counted."""
    ways_words: str = ""
    every: Callable[[], Iterator[Floats]] | None = None
    """The statistic of all arrangements, in blocks."""
    figures: Mapping[str, float] = field(default_factory=dict)
    tells: tuple[str, ...] = ()
    """Remarks of its own."""
    exact: Distribution | None = None
    """What the pile comes to in the long run, where that is known."""
    again: Again | None = None
    """The data of one replicate, as they would stand in a table."""


@dataclass(frozen=True)
class ByChance:
    """Runs a procedure that simulates; `of` is what it simulates, for others to watch."""

    of: Callable[[Question], Simulated]

    def __call__(self, question: Question) -> Steps:
        yield from simulate(question, self.of(question))


def simulate(question: Question, one: Simulated) -> Steps:
    """The replicates, in blocks that can be stopped between, and what follows from them.

    Where there are few arrangements, all of them are counted instead.
    """
    wanted = question.settings.replicates
    if one.every is not None and one.arrangements <= max(wanted, FEW_WAYS):
        made, done = [], 0
        for block in one.every():
            made.append(block)
            done += block.size
            if done < one.arrangements:
                yield None, done / one.arrangements
        yield _result(question, one, np.concatenate(made), all_arrangements=True), 1.0
        return
    drawn = Replicates(one.make, question.settings.seed, block_size(one.size))
    for count, look in drawn.looks(wanted):
        if count < wanted:
            yield (_result(question, one, _with_observed(drawn.values(count), one)) if look else None), count / wanted
    yield _result(question, one, _with_observed(drawn.values(wanted), one)), 1.0


def _with_observed(made: Floats, one: Simulated) -> Floats:
    """What was seen counts as one of the replicates: under H0 it is as good as any of them.

    So p = (k + 1) / (N + 1), which is never 0, and whose error rate is at most α (Davison and
    Hinkley 1997, section 4.2; Phipson and Smyth 2010).
    """
    return np.append(made, one.observed)


def _result(question: Question, one: Simulated, made: Floats, *, all_arrangements: bool = False) -> Result:
    pile = Pile(made, around=one.around, resolution=one.resolution)
    alternative = "greater" if one.upper else question.alternative or "different"
    region = _region_of(one, pile, alternative)
    hits, n = pile.counted(region), pile.size
    p = hits / n
    bell, bell_step, bell_figures = _by_the_bell(question, one, pile)
    remarks: tuple[str, ...] = one.tells
    if all_arrangements:
        title = f"If H₀ is true: all {counted(n, 'arrangement')}"
        lines: Lines = (
            f"There are {whole(n)} {one.ways_words}, all equally likely under H_{{0}}.",
            f"Of these {_tails(pile, region, one, 0)}; the observed one is among them.",
            formula(f"p = {whole(hits)}/{whole(n)} = {p_value(p)}"),
        )
    else:
        error = math.sqrt(p * (1 - p) / n)
        title = f"If H₀ is true: {counted(n - 1, one.noun)}"
        lines = (
            f"In each of {counted(n - 1, one.noun)} {one.how} (seed {question.settings.seed}).",
            f"Of these {_tails(pile, region, one, 1)}; the observed one counts as one more.",
            formula(f"p = ({whole(hits - 1)} + 1)/({whole(n - 1)} + 1) = {p_value(p)}"),
            f"The standard error of this simulated p-value is {significant(error, 2)}.",
        )
        remarks += (
            (
                (
                    f"None of {counted(n - 1, one.noun)} was as extreme, so p has the smallest value that so many "
                    "can give."
                )
                if hits == 1
                else f"Simulated: another seed gives a slightly different p-value, by about {significant(error, 2)}.",
            )
            if hits < n
            else ()
        )
    return Result(
        estimate=one.estimate, statistic=one.observed, statistic_text=one.said,
        standard_error=one.error if one.error is not None else pile.sd,
        distribution=pile, observed=one.observed,
        observed_text=one.observed_text or number(one.observed, one.places), region=region, p=p,
        figures={
            **one.figures, "statistic": one.observed, "p": p, "as_far": float(hits),
            "replicates": float(n), "all_arrangements": float(all_arrangements),
            "spread_by_chance": pile.sd, **bell_figures,
        },
        working=(Step("Statistic", one.lines), Step("p-value", lines), *bell_step),
        least_p=pile.least_tail(alternative) if all_arrangements else 1 / n,
        too_few="values" if all_arrangements else f"{one.noun}s",
        margin=0.0 if all_arrangements else SURE * math.sqrt(p * (1 - p) / n),
        exact_p=None if one.exact is None else one.exact.probability(_region_of(one, one.exact, alternative)),
        remarks=remarks, axis=one.axis, title=title, bell=bell,
    )  # fmt: skip


def _region_of(one: Simulated, law: Distribution, alternative: Alternative) -> Region:
    """What counts as at least as far, of the pile or of what it comes to."""
    return one.region or law.region(alternative, one.observed)


def _tails(pile: Pile, region: Region, one: Simulated, extra: int) -> str:
    """How many lie in each tail; both are said, with their sum, where two count."""
    said, total = [], 0
    for low, high in region.parts:
        part = Region(((low, high),), region.slack)
        hits = pile.counted(part) - (extra if part.holds(np.array([one.observed])).any() else 0)
        total += hits
        if math.isinf(low) and math.isinf(high):
            return f"all {whole(hits)} were at least as extreme"
        far = f"{number(high, one.places)} or less" if math.isinf(low) else f"{number(low, one.places)} or more"
        said.append(f"{whole(hits)} gave {far}")
    together = f", both tails together {whole(total)}" if len(said) > 1 else ""
    return f"{' and '.join(said)}{together}"


def _by_the_bell(
    question: Question, one: Simulated, pile: Pile
) -> tuple[Normal | None, tuple[Step, ...], dict[str, float]]:
    """The standardized statistic, and its normal tail; nothing where only large values count."""
    if one.upper or not 0 < pile.sd < math.inf:
        return None, (), {}
    z = (one.observed - one.around) / pile.sd
    tail = Normal().tail(question.alternative or "different", z)
    at = statistic(z, 1)
    symbol = {"less": f"P(Z ≤ {at})", "greater": f"P(Z ≥ {at})", "different": f"2 × P(Z ≥ {statistic(abs(z), 1)})"}[
        question.alternative or "different"
    ]
    observed, null = put_in(one.observed, one.places), "0"
    if one.around:
        null = bracketed(put_in(one.around, one.places))
    lines = (
        f"The standard deviation of the {one.noun}s is the simulated standard error: {significant(pile.sd, 4)}.",
        formula(f"z = ({observed} − {null}) / {significant(pile.sd, 5)} = {at}"),
        formula(p_equals(tail, symbol).replace("\u00a0", " ")),
        "Use this tail only if the simulated distribution has the shape of the normal curve.",
    )
    bell = Normal(one.around, pile.sd)
    return bell, (Step("By the normal curve", lines),), {"z": z, "normal_p": tail}

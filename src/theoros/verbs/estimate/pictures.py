"""What was seen with the interval below it, and the curve or pile that the interval comes from."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from theoros.answer.axis import Axis, span
from theoros.answer.chance_pictures import chance_frame, lattice_step
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.layers.ladders import Ladder
from theoros.answer.layers.lines import Line
from theoros.answer.layers.spots import Interval
from theoros.answer.nouns import counted
from theoros.answer.parts import Control, Section
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import number, put_in, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Region
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.resampling.replicates import Replicates
from theoros.verbs.data.observed import observed_frame
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.pictures import fine_width, stacks
from theoros.verbs.data.samples import OneSample, Paired, TwoSamples
from theoros.verbs.data.shares import Shares
from theoros.verbs.estimate.words import Estimated
from theoros.verbs.procedures.bootstrap_intervals import drawn_of
from theoros.verbs.procedures.procedure import ProcedureFails, Question, Result
from theoros.verbs.procedures.resampled_data import another_sample, resample_of

MOST_OPENED = 1000
"""Up to so many resamples have a dot each."""
ON_THE_AXIS = ("mean", "median", "quantile")
"""What lies on the axis of the values themselves."""


def interval_frames(words: Estimated, result: Result, bound: str) -> tuple[Frame, ...]:
    """Two frames; in the second the ends can be dragged."""
    observed = observed_frame(words.data)
    on_axis = isinstance(words.data, OneSample) and words.parameter.name in ON_THE_AXIS
    if on_axis and result.interval is not None:
        observed = _with_interval(observed, words, result)
    return observed, _chance(words, result, bound)


def _with_interval(observed: Frame, words: Estimated, result: Result) -> Frame:
    """The rows with the interval on a line of its own below them."""
    low, high = _drawn(result, (observed.x.low, observed.x.high))
    bar = Interval(low, result.estimate, high, line_role="range")
    below = Panel((Lane((bar,)),), "interval")
    room = replace(observed.x, low=min(observed.x.low, low), high=max(observed.x.high, high))
    return replace(observed, x=room, panels=(*observed.panels, below))


def _drawn(result: Result, edge: tuple[float, float]) -> tuple[float, float]:
    """The ends, or the edge of the picture where there is none."""
    assert result.interval is not None
    low, high = result.interval
    return (low if math.isfinite(low) else edge[0]), (high if math.isfinite(high) else edge[1])


def _chance(words: Estimated, result: Result, bound: str) -> Frame:
    """How the estimate varies from sample to sample, with what is left out shaded."""
    if result.distribution is None:
        return _strip(words, result, bound)
    low, high = result.interval or (-math.inf, math.inf)
    parts = []
    pile = result.distribution.discrete
    if pile:  # the replicates at the ends belong to the interval
        low, high = math.nextafter(low, -math.inf), math.nextafter(high, math.inf)
    if bound != "upper" and math.isfinite(low):
        parts.append((-math.inf, low))
    if bound != "lower" and math.isfinite(high):
        parts.append((high, math.inf))
    if isinstance(result.distribution, Pile) and result.distribution.size <= MOST_OPENED:
        return _dots(words, result, result.distribution, (low, high), bound)
    title = result.title if pile else "How the estimate varies from sample to sample"
    frame = chance_frame(result.distribution, Region(tuple(parts)), result.estimate, axis=words.short, title=title)
    return replace(frame, rules=_rules(words, result, bound, frame.x))


def _dots(words: Estimated, result: Result, pile: Pile, inside: tuple[float, float], bound: str) -> Frame:
    """A dot for each resample, hollow where it is left out; a click opens it."""
    values = pile.replicates
    low, high = span(np.append(values, result.estimate), 0.06)
    width, step = fine_width(values), lattice_step(np.unique(values))
    if step:  # a whole number of the possible values to a bin, or piles would come out uneven
        width = step * max(1, round(width / step))
    out = (values < inside[0]) | (values > inside[1])
    dots = stacks(
        values,
        np.arange(1, values.size + 1),
        np.zeros(values.size, dtype=np.int64),
        out,
        width,
        float(values.min()) - width / 2,
    )
    lane = Lane((replace(dots, stands_for="replicate"),))
    axis = Axis(low, high, words.short)
    title = f"{result.title}; a click on one opens it"
    return Frame(axis, (Panel((lane,)),), title, _rules(words, result, bound, axis))


def _strip(words: Estimated, result: Result, bound: str) -> Frame:
    """The interval alone, where its way has no curve on this axis."""
    assert result.interval is not None
    finite = [end for end in (*result.interval, result.estimate) if math.isfinite(end)]
    first, last = span(np.array(finite), 0.25)
    low, high = _drawn(result, (first, last))
    bar = Interval(low, result.estimate, high, line_role="range")
    axis = Axis(first, last, words.short)
    frame = Frame(axis, (Panel((Lane((bar,)),)),), "The interval")
    return replace(frame, rules=_rules(words, result, bound, axis))


def _rules(words: Estimated, result: Result, bound: str, axis: Axis) -> tuple[Rule, ...]:
    """The ends, to be dragged."""
    if result.interval is None:
        return ()
    places = words.places(result.interval, result.estimate)
    step = 10.0 ** -(places + 1)
    made = []
    for slot, end, open_ in (
        ("low", result.interval[0], bound == "upper"),
        ("high", result.interval[1], bound == "lower"),
    ):
        if not open_ and axis.low <= end <= axis.high:
            made.append(Rule(end, number(end, places), "range", slot=slot, step=step))
    return tuple(made)


MOST_COVERING = 1000

FEW_RESAMPLES = 199
"""Of a resampling way within each of many samples."""


CURVE = 120


def resample_section(words: Estimated, question: Question, result: Result, opened: int | None) -> Section:
    """What was seen beside a resample, case by case, with what there is to do."""
    drawn, n = drawn_of(question), question.settings.replicates
    at = min(opened or n, n)
    again = resample_of(words.data, drawn, at, question.settings.seed)
    first, second = observed_frame(words.data), observed_frame(again)
    one = words.parameter.name
    places = words.places(result.interval or (result.estimate, result.estimate), result.estimate)
    told = replace(question, data=again)
    star = drawn_of(told).estimate if _varies(told) else math.nan
    observed = number(result.estimate, places)
    frames = (
        replace(first, title=f"Observed: {observed}"),
        replace(second, x=first.x, title=f"Resample number {whole(at)}: {number(star, places)}"),
    )
    alt = f"The sample, and resample number {whole(at)}, whose {one} is {number(star, places)}."
    controls = (
        Control("One more", ("replicates", n + 1), main=True),
        Control("Run to 1000", ("replicates", 1000)),
        Control("Run to 10\u202f000", ("replicates", 10_000)),
        Control("Start over", ("replicates", 1)),
    )
    error = "" if n < 2 else f" · standard error {number(result.standard_error or 0.0, places + 1)}"
    note = f"{counted(n, 'resample')}{error}"
    return Section("A resample", Picture(frames, alt=alt, breaks=True), controls, note)


def _varies(question: Question) -> bool:
    try:
        drawn_of(question)
    except ProcedureFails:
        return False
    return True


def coverage(data: Observation, ask: Callable[[Observation], Result], seed: int) -> Replicates:
    """Samples from a population like this one: of each the lower end, the estimate and the upper end.

    NaN where a sample gives no interval.
    """

    def make(rng: np.random.Generator, size: int) -> Floats:
        found = []
        for _ in range(size):
            try:
                made = ask(another_sample(data, rng))
                low, high = made.interval or (math.nan, math.nan)
                found.append((low, made.estimate if made.interval else math.nan, high))
            except ProcedureFails:
                found.append((math.nan, math.nan, math.nan))
        return np.array(found, dtype=np.float64)

    return Replicates(make, seed, 1)


def covering_section(words: Estimated, sure: str, result: Result, samples: int, found: Floats) -> Section:
    """Many samples from a population like this one, and whether their intervals hold its value.

    `found` are those of `coverage` that there are, shape (k, 3).
    """
    controls = (
        Control("One more sample", ("covering", min(samples + 1, MOST_COVERING)), main=True),
        Control("100 samples", ("covering", 100)),
        Control("Start over", ("covering", 0)),
    )
    title = f"What {sure} means"
    if not len(found):
        note = (
            "Draw samples from a population like this one, whose value is known, and see how many of their "
            f"intervals contain it. In the long run about {sure} should."
        )
        return Section(title, controls=controls, note="Drawing samples …" if samples else note)
    ends = found[~np.isnan(found).any(axis=1)]
    true, failed = result.estimate, len(found) - len(ends)
    holds = (ends[:, 0] <= true) & (true <= ends[:, 2])
    finite = ends[np.isfinite(ends)]
    low, high = span(np.append(finite, true), 0.04)
    ladder = Ladder(np.maximum(ends[:, 0], low), ends[:, 1], np.minimum(ends[:, 2], high), holds, max(samples, 20))
    places = words.places(result.interval or (true, true), true)
    rule = Rule(true, f"true here: {number(true, places)}", "data", knob=False)
    frame = Frame(Axis(low, high, words.short), (Panel((Lane((ladder,)),)),), rules=(rule,))
    caught, many = int(holds.sum()), len(ends)
    hold = "holds" if many == 1 else "hold"
    note = f"{whole(caught)} of {counted(many, 'interval')} {hold} the value"
    if many > 19:
        note += f": {number(100 * caught / many, 1)}\u00a0%"
    if failed:
        note += f"; of {counted(failed, 'sample')} there is none"
    alt = f"Intervals of {counted(len(found), 'sample')} above each other; {note}."
    return Section(title, Picture((frame,), alt=alt), controls, f"{note}.")


@dataclass(frozen=True)
class SampleSizePlan:
    """How the margin depends on the sample size: margin = reach × √(scale / n)."""

    scale: float
    reach: float
    now: float
    """The size that there is; of two groups, the smaller."""
    each: bool
    """Whether it is that of each of two groups."""
    line: str
    """The formula, in notation."""
    put: str
    """The same with figures in it, without the margin."""

    def margin(self, n: float | Floats) -> Floats:
        return np.asarray(self.reach * np.sqrt(self.scale / n))

    def size(self, margin: float) -> int:
        """The least whole size whose margin is no larger."""
        return max(1, math.ceil(self.scale * (self.reach / margin) ** 2 - 1e-9))


def plan_of(words: Estimated, question: Question, *, guess: bool = True) -> SampleSizePlan | None:
    """What a margin takes, by the normal curve; None where it cannot be told."""
    data, sigmas = words.data, question.settings.sigmas
    low, high = question.tails or (0.025, 0.025)
    z = Normal().upper_quantile(low or high)
    put = number(z, 3)
    if isinstance(data, Shares):
        spreads = [s.value * (1 - s.value) if guess else 0.25 for s in data.of]
        now = min(s.n for s in data.of)
        if len(spreads) == 1:
            p = number(data.of[0].value if guess else 0.5, 4)
            q = number(1 - data.of[0].value if guess else 0.5, 4)
            return SampleSizePlan(
                spreads[0],
                z,
                now,
                each=False,
                line="n = (z / E)^{2} p (1 − p)",
                put=f"({put} / {{E}})^{{2}} × {p} × {q}",
            )
        total = sum(spreads)
        return SampleSizePlan(
            total,
            z,
            now,
            each=True,
            line="n = (z / E)^{2} (p_{1} (1 − p_{1}) + p_{2} (1 − p_{2}))",
            put=f"({put} / {{E}})^{{2}} × {number(total, 4)}",
        )
    if isinstance(data, TwoSamples):
        sds = [sigma if sigma is not None else one.summary.sd for sigma, one in zip(sigmas, data.samples, strict=True)]
        scale, now = sds[0] ** 2 + sds[1] ** 2, min(one.n for one in data.samples)
        say = [put_in(sd, data.decimals) for sd in sds]
        return SampleSizePlan(
            scale,
            z,
            now,
            each=True,
            line="n = (z / E)^{2} (σ_{1}^{2} + σ_{2}^{2})",
            put=f"({put} / {{E}})^{{2}} × ({say[0]}^{{2}} + {say[1]}^{{2}})",
        )
    if isinstance(data, OneSample | Paired):
        known = sigmas[0] if isinstance(data, OneSample) else None
        sd = known if known is not None else data.single.summary.sd
        if not sd > 0:
            return None
        return SampleSizePlan(
            sd**2,
            z,
            data.single.n,
            each=False,
            line="n = (z σ / E)^{2}",
            put=f"({put} × {put_in(sd, data.decimals)} / {{E}})^{{2}}",
        )
    return None


def planning_section(
    words: Estimated,
    plan: SampleSizePlan,
    wanted: float | None,
    planned: int | None,
    unguessed: SampleSizePlan | None = None,
) -> tuple[Section, tuple[str | Formula, ...]]:
    """The margin against the sample size, with a handle on it; and its working.

    `unguessed` is the plan for shares of one half, which takes the most cases.
    """
    each = " in each group" if plan.each else ""
    n = planned or (plan.size(wanted) if wanted is not None else int(plan.now))
    margin = float(plan.margin(n))
    places = max(0, 2 - math.floor(math.log10(margin))) if margin > 0 else 2
    said = with_unit(number(margin, places), words.unit)
    lines: list[str | Formula] = [*formulas(plan.line)]
    if wanted is not None and planned is None:
        asked = with_unit(number(wanted, places), words.unit)
        bare = plan.scale * (plan.reach / wanted) ** 2
        many = counted(n, words.data.noun)
        note = f"For a margin of {asked}, {many}{each} are needed (rounded up)."
        if unguessed is not None:
            most = unguessed.size(wanted)
            note += (
                f" That is with the proportion{'s' if plan.each else ''} of the sample as a guess. Without a "
                f"guess, at 0.5, {whole(most)}{each} are needed."
            )
        lines += [
            *formulas(f"n = {plan.put.replace('{E}', number(wanted, places))} = {number(bare, 2)}"),
            f"Rounded up, so that the margin is no larger: {whole(n)}{each}.",
        ]
        if unguessed is not None:
            put = unguessed.put.replace("{E}", number(wanted, places))
            lines += [
                "Without a guess, at 0.5, where a proportion varies most:",
                *formulas(f"n = {put} = {number(unguessed.scale * (unguessed.reach / wanted) ** 2, 2)}"),
                f"Rounded up: {whole(unguessed.size(wanted))}{each}.",
            ]
    else:
        note = f"With n = {whole(n)}{each} the margin is about {said}."
        lines += [
            *formulas(
                f"{{margin}} = z √({{scale}} / n) = {number(plan.reach, 3)} × "
                f"√({number(plan.scale, 4)} / {n}) = {number(margin, places)}"
            )
        ]
    note += " Drag the handle to try another size. The normal curve is used, as in textbooks."
    top = max(2.5 * n, 2.0 * plan.now, 20.0)
    grid = np.geomspace(2.0, top, CURVE)
    heights = plan.margin(grid)
    high = float(min(heights[0], 6 * margin))
    grid, heights = grid[heights <= high], heights[heights <= high]
    lane = Lane((Line(grid, heights, "range", 2.0),), y=Axis(0.0, high * 1.02, "margin"))
    rule = Rule(float(n), f"n = {whole(n)}: {said}", "range", slot="planned", step=1.0)
    axis = Axis(0.0, top, f"n{each}")
    frame = Frame(axis, (Panel((lane,)),), rules=(rule,), show_y=True)
    alt = f"The margin falls as the sample size grows. {note}"
    return Section("Planning", Picture((frame,), alt=alt), note=note), tuple(lines)

"""The conditions of the ways, each checked on the samples and said in words."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from theoros.answer.parts import Condition, Mark
from theoros.answer.wording import (
    between_data,
    counted,
    listed_briefly,
    number,
    p_equals,
    with_unit,
)
from theoros.numeric.arrays import Centre
from theoros.verbs.test.samples import LARGE, SPREAD_RATIO, Sample, Samples


@dataclass(frozen=True)
class Check:
    """One condition checked on one sample or on both: in full, and in a few words."""

    mark: Mark
    text: str
    brief: str = ""
    """What the table of ways says of it where it does not hold."""
    rows: tuple[int, ...] = ()

    def condition(self) -> Condition:
        return Condition(self.mark, self.text, rows=self.rows)


def checks(needs: tuple[str, ...], samples: Samples, centre: Centre) -> list[Check]:
    """The checks for the named conditions, in order, of a way that compares this centre."""
    if centre == "median":  # which outliers hardly move
        needs = tuple(need for need in needs if need != "pull")
    return [check for need in needs for check in _CHECKS[need](samples)]


def summed_up(found: list[Check]) -> tuple[str, Mark]:
    """What the table of ways says: "hold", or which fail, in a few words."""
    fails = [check.brief for check in found if check.mark == "fails"]
    judge = [check.brief for check in found if check.mark == "judge" and check.brief]
    if fails:
        return f"fail: {', '.join(dict.fromkeys(fails))}", "fails"
    if judge:
        return ", ".join(dict.fromkeys(judge)), "judge"
    return "hold", "holds"


def _normal(samples: Samples) -> list[Check]:
    return [_normal_one(sample) for sample in samples.each]


def _normal_one(sample: Sample) -> Check:
    name = sample.label
    if sample.given:
        n = counted(sample.n, "value")
        if sample.n >= LARGE:
            return Check("holds", f"{name}: with {n} the mean varies nearly normally")
        text = f"{name}: figures alone cannot show whether its {n} look normal"
        return Check("judge", text, "shapes not seen")
    if sample.n > 5000:
        return Check("holds", f"{name}: with {counted(sample.n, 'value')} the shape matters little")
    if sample.shapiro is None:
        if sample.n < 3:
            few = counted(sample.n, "value")
            text = f"{name}: {few}, too few to see a shape"
            return Check("judge", text, f"{name} too small to check")
        return Check("fails", f"{name}: all values are equal, so there is no shape", f"{name} flat")
    said = f"Shapiro–Wilk {p_equals(sample.shapiro)}"
    if sample.looks_normal:
        if sample.n < 10:
            text = f"{name}: nothing against a normal shape, but few values ({said})"
            return Check("holds", text)
        return Check("holds", f"{name} {'look' if sample.many else 'looks'} normal: {said}")
    if sample.n >= LARGE:
        return Check(
            "holds",
            f"{name}: not normal ({said}), but with n = {sample.n} the mean varies nearly so",
        )
    do = "do" if sample.many else "does"
    return Check("fails", f"{name} {do} not look normal: {said}", f"{name} not normal")


def _outliers(samples: Samples) -> list[Check]:
    made = []
    for sample in samples.each:
        if sample.given:
            made.append(Check("judge", f"{sample.label}: figures alone cannot show outliers"))
            continue
        if not sample.outliers:
            made.append(Check("holds", f"{sample.label}: no outliers"))
            continue
        s = sample.summary
        named, rows = [], []
        for at in sample.outliers:
            value, row = float(sample.values[at]), int(sample.rows[at])
            above = value > s.upper_fence
            side, fence = ("above", s.upper_fence) if above else ("below", s.lower_fence)
            named.append(
                f"row {row + 1} ({number(value, samples.decimals)}) lies {side} the fence "
                f"{between_data(fence, samples.decimals, 2)}"
            )
            rows.append(row)
        n = len(rows)
        # a few outliers among many values hardly move a mean
        small = n <= 0.01 * sample.n and sample.n >= LARGE
        made.append(
            Check(
                "judge" if small else "fails",
                f"{sample.label}: {listed_briefly(named, 3)}",
                counted(n, "outlier"),
                tuple(rows),
            )
        )
    return made


def _spreads(samples: Samples) -> list[Check]:
    ratio = samples.spread_ratio
    if ratio is None:
        return [Check("judge", "the spreads cannot be compared", "spreads unknown")]
    larger = max((samples.first, samples.second), key=lambda sample: sample.summary.sd)
    places = min(6, samples.decimals + 1)
    sds = " and ".join(
        with_unit(number(sample.summary.sd, places), samples.unit)
        for sample in (samples.first, samples.second)
    )
    if ratio <= SPREAD_RATIO:
        return [Check("holds", f"spreads alike: SD {sds}, ratio {number(ratio, 2)}")]
    return [
        Check(
            "fails",
            f"{larger.label} spreads more: SD {sds}, ratio {number(ratio, 2)}, more than 2",
            "spreads differ",
        )
    ]


def _shapes(samples: Samples) -> list[Check]:
    a, b = samples.first.summary.iqr, samples.second.summary.iqr
    small, large = sorted((a, b))
    if min(samples.first.n, samples.second.n) < 5:
        return [
            Check(
                "judge",
                "it compares medians if both groups have the same shape, which so few values "
                "cannot show",
            )
        ]
    if small > 0 and large / small <= 2:
        return [Check("holds", "the middle halves of both groups are about equally wide")]
    return [
        Check(
            "judge",
            "the groups differ in spread, so a small p-value may speak of that rather than of the "
            "medians alone",
            "spreads differ",
        )
    ]


def _symmetry(samples: Samples) -> list[Check]:
    pairs = samples.pairs
    if pairs is None or pairs.n < 5 or not pairs.summary.sd > 0:
        return [Check("judge", "the differences should be about symmetric; too few to see")]
    s = pairs.summary
    lean = abs(s.mean - s.median) / s.sd
    if lean <= 0.25:
        return [Check("holds", "the differences look about symmetric")]
    return [
        Check("judge", "the differences lean to one side of their median", "differences skewed")
    ]


def _pull(samples: Samples) -> list[Check]:
    rows = [int(s.rows[at]) for s in samples.each for at in s.outliers]
    if not rows:
        return []
    pulls = "pulls" if len(rows) == 1 else "pull"
    brief = f"{counted(len(rows), 'outlier')} {pulls} the mean"
    return [Check("judge", brief, brief, tuple(rows))]


_CHECKS: dict[str, Callable[[Samples], list[Check]]] = {
    "normal": _normal,
    "outliers": _outliers,
    "spreads": _spreads,
    "shapes": _shapes,
    "symmetry": _symmetry,
    "pull": _pull,
}

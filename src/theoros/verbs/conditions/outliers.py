"""Whether values lie beyond the fences."""

from __future__ import annotations

from theoros.answer.wording import between_data, counted, listed_briefly, number
from theoros.verbs.conditions.condition import LARGE, Check, Condition
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter


def _outliers(data: Measured, parameter: Parameter) -> list[Check]:
    made = []
    for sample in data.samples:
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
                f"row {row + 1} ({number(value, data.decimals)}) lies {side} the fence "
                f"{between_data(fence, data.decimals, 2)}"
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


CONDITIONS = (Condition("outliers", _outliers),)

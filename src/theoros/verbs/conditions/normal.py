"""Whether samples look drawn from a normal curve, or are so large that it matters little."""

from __future__ import annotations

from theoros.answer.wording import counted, p_equals
from theoros.verbs.conditions.condition import LARGE, Check, Condition
from theoros.verbs.data.samples import Measured, Sample
from theoros.verbs.parameters.parameter import Parameter


def _normal(data: Measured, parameter: Parameter) -> list[Check]:
    return [_normal_one(sample) for sample in data.samples]


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


CONDITIONS = (Condition("normal", _normal),)

"""The shape of a distribution in words, with what speaks for it."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.wording import listed, percent
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.lean_and_peaks import SampleShape, shape_of
from theoros.numeric.summaries import Summary


def shape_words(name: str, values: Floats, summary: Summary) -> str:
    """What can be said of the shape, and by what; empty for too few values or none."""
    shape = shape_of(values, summary)
    if shape is None:
        return ""
    if shape.kind == "flat":
        distinct = np.unique(values).size
        return f"There are only {distinct} different values of {name}, so the shape is not described."
    if shape.kind == "peaks":
        return (
            f"A smooth curve of {name} has {_peaks(shape)}, so there may be different groups. Compare the levels "
            "of a category."
        )
    if shape.kind == "symmetric":
        inside = int((np.abs(values - summary.mean) <= summary.sd).sum())
        share = percent(inside, summary.n)
        return (
            f"The shape of {name} is roughly symmetric with one peak: mean and median lie close "
            f"together, and {share} of the values lie within one standard deviation of the mean."
        )
    if shape.kind == "unclear":
        return f"The shape of {name} is not clearly skewed."
    side = "above" if shape.kind == "right" else "below"
    box = f", and the {shape.wider} part of the box is wider" if shape.wider else ""
    if not shape.clear:
        return (
            f"In this sample {name} is slightly skewed to the {shape.kind}: the mean lies {side} the median{box}. "
            "Small samples from a symmetric population often look like this."
        )
    return f"The shape of {name} is skewed to the {shape.kind}: the mean lies {side} the median{box}."


def shapes_of_groups(name: str, groups: Sequence[tuple[str, Floats, Summary]]) -> str:
    """The shapes of several groups (phrase, values, summary) in one sentence; empty for none."""
    said: dict[str, list[str]] = {}
    for phrase, values, summary in groups:
        shape = shape_of(values, summary)
        if shape is None or shape.kind == "flat":
            continue
        lean = "is skewed" if shape.clear else "is slightly skewed"
        words = {
            "peaks": f"has {_peaks(shape)}",
            "symmetric": "is roughly symmetric with one peak",
            "unclear": "is not clearly skewed",
            "right": f"{lean} to the right (mean above median)",
            "left": f"{lean} to the left (mean below median)",
        }[shape.kind]
        said.setdefault(words, []).append(phrase)
    if not said:
        return ""
    parts = [f"{words} for {listed(phrases)}" for words, phrases in said.items()]
    return f"The shape of {name} {'; it '.join(parts)}."


def _peaks(shape: SampleShape) -> str:
    return {2: "two peaks", 3: "three peaks"}.get(shape.peaks, "several peaks")

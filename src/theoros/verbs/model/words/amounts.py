"""Amounts of a model in words: values and steps with their units, more or less, shares."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.nouns import singular
from theoros.answer.wording import exact, number, sentence_case, significant, whole, with_unit
from theoros.verbs.core.cautions import assigned
from theoros.verbs.model.data import ModelPairs

if TYPE_CHECKING:
    from theoros.numeric.arrays import Floats


def y_text(pairs: ModelPairs, value: float, more: int = 1) -> str:
    """A value of y with its unit, with a decimal more than the data."""
    return with_unit(number(value, min(8, pairs.decimals[1] + more)), pairs.response.unit)


def x_text(pairs: ModelPairs, value: float) -> str:
    """A value of x as it was typed, or the name of a level."""
    for at, name in pairs.names:
        if value == at:
            return name
    rounded = float(f"{value:.12g}")
    text = whole(int(rounded)) if rounded.is_integer() and abs(rounded) < 1e15 else exact(rounded)
    return with_unit(text, pairs.predictor.unit)


def rounded_place(x: Floats, value: float) -> float:
    """A place along x, rounded by the range of x rather than by its own size: to about a 200th of it."""
    reach = float(x.max() - x.min())
    if not reach > 0:
        return value
    step = 10.0 ** math.floor(math.log10(reach / 200))
    step *= next(times for times in (5, 2, 1) if times * step <= reach / 200 * (1 + 1e-9))
    return float(f"{round(value / step) * step:.12g}")


def place_text(pairs: ModelPairs, value: float) -> str:
    """A place along x, with its name where it has no unit: "72 mm", "age 3.5"."""
    said = x_text(pairs, value)
    return said if pairs.predictor.unit or pairs.names else f"{pairs.predictor.name} {said}"


def round_step(x_low: float, x_high: float, decimals: int) -> float:
    """A round step along x of which some fit into the data, no finer than these: 1, 10, 0.1."""
    reach = x_high - x_low
    return float(10.0 ** max(math.floor(math.log10(reach / 5)), -decimals)) if reach > 0 else 1.0


def step_of(pairs: ModelPairs, x_low: float, x_high: float) -> float:
    """The step along the predictor that is told of."""
    return round_step(x_low, x_high, pairs.decimals[0])


def causes(pairs: ModelPairs) -> bool:
    """Whether x was assigned by chance, so that a cause may be named."""
    return assigned(pairs.table)


def caused(pairs: ModelPairs, change: str) -> str:
    """The change of y behind "for each …": only where x was assigned by chance is it one of causes."""
    y = pairs.response.name
    return f"{y} becomes {change}" if causes(pairs) else f"the predicted {y} is {change}"


def level_words(pairs: ModelPairs, x: Floats, level: float, half: float) -> str:
    """A level that a curve comes near, and where half of it is reached."""
    y = pairs.response.name
    return (
        f"{y[:1].upper()}{y[1:]} approaches a level of about {y_text(pairs, level)}. Half of that level is reached "
        f"at about {x_text(pairs, rounded_place(x, half))}."
    )


def change_text(pairs: ModelPairs, change: float) -> str:
    """So much more or less of y; of percentages, percentage points."""
    unit = "percentage points" if pairs.response.unit == "%" else pairs.response.unit
    return with_unit(significant(change, 2), unit)


def points(step: float, amount: str, unit: str) -> str:
    """An amount; of percentages, in percentage points."""
    if unit != "%":
        return amount
    if step == 1:
        return "percentage point"
    return f"{exact(float(f'{step:.3g}'))} percentage points"


def each_step(pairs: ModelPairs, step: float, amount: str) -> str:
    """ "For each extra 10 mm of leaf length", "For each extra child", "For each increase of 2 in age"."""
    return for_each(pairs.predictor.name, pairs.predictor.unit, step, amount)


HELD = ", with the other predictors held constant"
TIMES = ("year", "month", "week", "day", "hour", "minute", "second", "quarter")


def for_each(name: str, unit: str, step: float, amount: str) -> str:
    """How to begin a sentence on a step of a column: in its unit, by the thing that it counts, or as a number."""
    if unit:
        amount = with_unit("1", unit).partition("\u00a0")[2] if step == 1 else amount
        return f"For each extra {points(step, amount, unit)} of {name}"
    if step == 1 and (one := name if name in TIMES else singular(name)):
        return f"For each extra {one}"
    return f"For each increase of {exact(float(f'{step:.3g}'))} in {name}"


def slope_words(pairs: ModelPairs, slope: float, low: float, high: float) -> str:
    """ "For each extra mm of leaf length, the predicted leaf mass is 0.42 g higher, on average"."""
    step = step_of(pairs, low, high)
    change = slope * step
    x, y = pairs.predictor.name, pairs.response.name
    amount = with_unit(exact(float(f"{step:.3g}")), pairs.predictor.unit)
    if step == 1 and pairs.predictor.unit and len(pairs.predictor.unit) < 16:
        amount = pairs.predictor.unit
    if change == 0:
        return f"{sentence_case(y)} does not change with {x}"
    begin = f"From one level of {x} to the next" if pairs.names else each_step(pairs, step, amount)
    return f"{begin}, {caused(pairs, higher(pairs, change))}, on average"


def times_text(factor: float) -> str:
    """ "about 5 % higher", "about 3.2 times as high"."""
    if factor >= 2:
        return f"about {significant(factor, 2)} times as high"
    if abs(factor - 1) < 1e-6:
        return "the same"
    return f"about {with_unit(significant(abs(factor - 1) * 100, 2), '%')} {'higher' if factor > 1 else 'lower'}"


def higher(pairs: ModelPairs, change: float) -> str:
    """ "4.1 g higher"."""
    return f"{change_text(pairs, abs(change))} {'higher' if change > 0 else 'lower'}"


def slope_only(pairs: ModelPairs, slope: float, low: float, high: float) -> str:
    return higher(pairs, slope * step_of(pairs, low, high))


def share_text(share: float) -> str:
    """R² as a percentage; what is not 0 or all is not written so."""
    percent = 100 * share
    if share <= 0:
        return "nothing"
    if percent < 0.5:
        return "less than 1\u00a0%"
    if 99.5 <= percent < 100 - 1e-9:
        return f"{number(min(percent, 99.99), 2)}\u00a0%"
    return f"{number(percent, 0)}\u00a0%"

"""Amounts of a model in words: values and steps with their units, more or less, shares."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

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


def brings(pairs: ModelPairs) -> str:
    """The verb between x and y: only where x was assigned by chance is it one of causes."""
    return "brings" if causes(pairs) else "goes with"


def level_words(pairs: ModelPairs, x: Floats, level: float, half: float) -> str:
    """A level that a curve comes near, and where half of it is reached."""
    y = pairs.response.name
    return (
        f"{y[:1].upper()}{y[1:]} comes near a level of about {y_text(pairs, level)}; half "
        f"of it is reached at about {x_text(pairs, rounded_place(x, half))}."
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
    """ "Each extra 10 mm of leaf length", "Each step of 2 in age"."""
    if pairs.predictor.unit:
        return f"Each extra {points(step, amount, pairs.predictor.unit)} of {pairs.predictor.name}"
    return f"Each step of {exact(float(f'{step:.3g}'))} in {pairs.predictor.name}"


def slope_words(pairs: ModelPairs, slope: float, low: float, high: float) -> str:
    """ "Each extra mm of leaf length goes with about 0.42 g more leaf mass"."""
    step = step_of(pairs, low, high)
    change = slope * step
    said = change_text(pairs, abs(change))
    x, y = pairs.predictor.name, pairs.response.name
    amount = with_unit(exact(float(f"{step:.3g}")), pairs.predictor.unit)
    if step == 1 and pairs.predictor.unit and len(pairs.predictor.unit) < 16:
        amount = pairs.predictor.unit
    verb = brings(pairs)
    if change == 0:
        return f"{sentence_case(y)} does not change with {x}"
    goes = more_text(pairs, f"about {said}", change > 0)
    if pairs.names:
        return f"Each level of {x} {verb} {goes} than the one before"
    return f"{each_step(pairs, step, amount)} {verb} {goes}"


def times_text(pairs: ModelPairs, factor: float) -> str:
    """ "about 5 % more leaf mass", "about 3.2 times as much leaf mass", "visitors 5 % higher"."""
    y = pairs.response.name
    if factor >= 2:
        said = f"about {significant(factor, 2)} times as"
        return f"{said} much {y}" if pairs.response.unit else f"{y} {said} high"
    if abs(factor - 1) < 1e-6:
        return f"the same {y}"
    change = f"about {with_unit(significant(abs(factor - 1) * 100, 2), '%')}"
    return more_text(pairs, change, factor > 1)


def more_text(pairs: ModelPairs, said: str, up: bool) -> str:
    """ "about 4.1 g more leaf mass"; of what has no unit, "visitors about 0.6 higher"."""
    if pairs.response.unit:
        return f"{said} {'more' if up else 'less'} {pairs.response.name}"
    return f"{pairs.response.name} {said} {'higher' if up else 'lower'}"


def slope_only(pairs: ModelPairs, slope: float, low: float, high: float) -> str:
    change = slope * step_of(pairs, low, high)
    said = change_text(pairs, abs(change))
    return f"about {said} {'more' if change > 0 else 'less'}"


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

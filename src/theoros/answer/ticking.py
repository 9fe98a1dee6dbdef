"""Where a scale is ticked and what its ticks say; words cut to the room that they have."""

from __future__ import annotations

import math

from theoros.answer.axis import Axis
from theoros.answer.metrics import text_width
from theoros.answer.wording import number, shortened
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.bins import log_ticks, ticks


def tick_labels(values: Floats) -> list[str]:
    """Labels with as few decimals as tell the ticks apart; powers of ten where needed."""
    if values.size == 0:
        return []
    largest = float(np.abs(values).max())
    if largest >= 1e7 or 0 < largest < 1e-4:
        return [f"{value:.6g}".replace("-", "−").replace("e+", "e") for value in values]
    for places in range(8):
        labels = [number(float(value), places) for value in values]
        close = np.abs(np.round(values, places) - values) <= 1e-6 * max(largest, 1e-300)
        if bool(close.all()) and len(set(labels)) == len(labels):
            return labels
    return [f"{value:.6g}" for value in values]


def _axis_ticks(axis: Axis, about: int) -> Floats:
    if axis.log:
        return log_ticks(axis.low, axis.high, about)
    values = ticks(axis.low, axis.high, about)
    while values.size < 2 and about < 4:  # one mark alone does not tell a scale
        about += 1
        values = ticks(axis.low, axis.high, about)
    if not axis.whole:
        return values
    values = np.unique(np.round(values))
    return values[(values >= axis.low) & (values <= axis.high)]


def marks_on(axis: Axis, about: int) -> list[tuple[float, str]]:
    """The ticks of a scale with their labels; of days, first days of months or years."""
    if axis.names:
        return [(value, shortened(name, 24)) for value, name in axis.names]
    if axis.days:
        return day_marks(axis.low, axis.high, about)
    values = _axis_ticks(axis, about)
    labels = tick_labels(values)
    if axis.log:  # each with the decimals that it needs: 0.1, 1, 10
        labels = [tick_labels(values[at : at + 1])[0] for at in range(values.size)]
    return list(zip(values.tolist(), labels, strict=True))


def day_marks(low: float, high: float, about: int) -> list[tuple[float, str]]:
    """Round dates within [low, high] (days since 1970-01-01), about so many."""
    days = (high - low) / max(1, about)
    if days < 25:
        step = next((s for s in (1, 2, 7, 14) if days <= s * 1.4), 14)
        first = math.ceil(low / step) * step
        dates = np.arange(first, math.floor(high) + 1, step).astype("datetime64[D]")
        return [(float(d.astype(np.int64)), str(d)) for d in dates]
    months = next((m for m in (1, 2, 3, 6, 12, 24, 60, 120, 240) if days <= m * 30.4 * 1.4), 600)
    first_month = np.datetime64(math.floor(low), "D").astype("datetime64[M]").astype(np.int64)
    begin = math.floor(first_month / months) * months
    made = []
    for month in range(begin, begin + months * (about * 3 + 3), months):
        date = np.datetime64(month, "M")
        day = float(date.astype("datetime64[D]").astype(np.int64))
        if low <= day <= high:
            made.append((day, str(date)[:4] if months % 12 == 0 else str(date)))
    return made


def fit(text: str, width: float, size: float) -> str:
    """The text, cut with an ellipsis to the width."""
    if text_width(text, size) <= width:
        return text
    while text and text_width(text + "…", size) > width:
        text = text[:-1]
    return text.rstrip() + "…"

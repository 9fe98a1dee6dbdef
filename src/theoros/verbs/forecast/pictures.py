"""The series with its trend and what is to come; seasonal effects; cycles over each other."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.axis import Axis, Reads, span
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Band, Level, Line
from theoros.answer.layers.points import Points
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import decimals_needed, number, plural
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.numeric.bins import round_step
from theoros.numeric.series.parts import Parts
from theoros.verbs.forecast.saying import signed_value
from theoros.verbs.forecast.series import Series

if TYPE_CHECKING:
    from theoros.verbs.forecast.answering import Told

MOST_LINE = 4000
"""Longer lines are drawn through the least and the largest of each stretch."""
MOST_MARKS = 2000
LEAST_STRIP = 0.2
"""How high the strip of what is left over is at the least, beside the series."""
MOST_CYCLES = 40


def picture_of(t: Told) -> Picture:
    """Series, trend, what is to come, and below it what is left over, in the same units."""
    s, series = t.s, t.series
    axis = _time_axis(t)
    visible = (t.x >= axis.low) & (t.x <= axis.high)
    up = Axis(*_reach(t, visible), series.column.label, column=series.column.name)
    panels = [Panel((Lane(tuple(_main(t)), y=up),))]
    if "left over" in s.shown and t.parts is not None:
        panels.append(_left_over(t, t.parts, up, visible))
    frame = Frame(axis, tuple(panels), rules=_rules(t), show_y=True, ends=("low", "high"))
    return Picture((frame,), alt=_alt(t), notes=_notes(t))


def _time_axis(t: Told) -> Axis:
    series = t.series
    last = t.until
    label = "" if series.times.on_calendar else series.step
    ends = series.along(np.array([0, last]))
    low, high = span(ends, 0.02)
    if t.s.low is not None:
        low = float(t.s.low)
    if t.s.high is not None:
        high = float(t.s.high)
    if not low < high:
        from theoros.answer.cannot import CannotAnswer

        raise CannotAnswer(
            "The axis of time would end before it begins. Choose other ends, or leave them automatic.",
            "low",
            (("Show all of it", "axis", None),),
        )
    cut = t.s.low is not None or t.s.high is not None
    whole = not series.times.on_calendar
    return Axis(low, high, label, days=series.times.on_calendar, whole=whole, cut=cut)


def _reach(t: Told, visible: Bools) -> tuple[float, float]:
    """What the vertical scale holds: all that is seen of values, forecasts and bands."""
    held = [t.series.values[visible[: t.series.n]]]
    for first, forecast, band in t.stretches:
        here = slice(first, first + band[0].size)
        seen = visible[here]
        held += [forecast.ahead.middle[: seen.size][seen], band[0][seen], band[1][seen]]
    values = np.concatenate(held)
    values = values[np.isfinite(values)]
    low, high = span(values, 0.04)
    if values.size and float(values.min()) >= 0 > low:
        low = 0.0
    return low, high


def _main(t: Told) -> list[Layer]:
    s, series = t.s, t.series
    known = series.n - t.held
    made: list[Layer] = []
    for first, forecast, band in t.stretches:
        made += _ahead(t, first, forecast.ahead.middle[: band[0].size], band)
    made += _lines(t.x[:known], series.values[:known], "data", 1.6)
    parts = t.parts
    if parts is not None:
        if "season" in s.shown and parts.cycle > 1:
            made += _lines(t.x[: series.n], parts.together, "ink", 1.0)
        if "trend" in s.shown:
            made += _lines(t.x[: series.n], parts.trend, "ink", 1.8, dashed=True)
    if t.held:
        there = np.flatnonzero(np.isfinite(series.values[known:])) + known
        codes = np.zeros(there.size, dtype=np.int64)
        made.append(Points(t.x[there], series.values[there], series.rows[there], codes, 8.0, hollow=True))
    if known <= 150:
        there = np.flatnonzero((series.rows[:known] >= 0) & np.isfinite(series.raw[:known]))
        made.append(
            Points(t.x[there], series.values[there], series.rows[there], np.zeros(there.size, dtype=np.int64), 4.0)
        )
    return made


def _ahead(t: Told, first: int, middle: Floats, band: tuple[Floats, Floats]) -> list[Layer]:
    """A band that opens at the last value it was worked out from, and the line in it."""
    x = t.x[first : first + middle.size]
    low, high = band
    start = t.series.values[first - 1] if first else np.nan
    if np.isfinite(start):
        x = np.append(t.x[first - 1], x)
        low, high = np.append(start, low), np.append(start, high)
        middle = np.append(start, middle)
    made: list[Layer] = [Band(x, low, high, "range", 0.2)]
    return [*made, Line(x, middle, "range", 2.0)]


def _lines(x: Floats, y: Floats, role: str, width: float, *, dashed: bool = False) -> list[Layer]:
    """A line with gaps where there are some, thinned where it is very long."""
    if y.size > MOST_LINE:
        x, y = _thinned(x, y)
    there = np.flatnonzero(np.isfinite(y))
    if not there.size:
        return []
    breaks = np.flatnonzero(np.diff(there) > 1) + 1
    return [Line(x[one], y[one], role, width, dashed) for one in np.split(there, breaks)]


def _thinned(x: Floats, y: Floats) -> tuple[Floats, Floats]:
    """The least and the largest of each stretch, in the order of time."""
    stretch = -(-y.size // (MOST_LINE // 2))
    whole = y.size // stretch * stretch
    blocks = y[:whole].reshape(-1, stretch)
    starts = np.arange(blocks.shape[0]) * stretch
    least = starts + np.argmin(np.where(np.isfinite(blocks), blocks, np.inf), axis=1)
    most = starts + np.argmax(np.where(np.isfinite(blocks), blocks, -np.inf), axis=1)
    places = np.unique(np.concatenate([least, most, np.arange(whole, y.size)]))
    return x[places], y[places]


def _left_over(t: Told, parts: Parts, up: Axis, visible: Bools) -> Panel:
    """On a scale of the same units, so that it is as high as it is beside the series."""
    rest = parts.rest
    seen = rest[visible[: rest.size]]
    reach = float(np.nanmax(np.abs(seen))) if np.isfinite(seen).any() else 1.0
    whole = up.high - up.low
    share = max(LEAST_STRIP, min(1.0, 2.3 * reach / whole if whole > 0 else 1.0))
    half = share * whole / 2
    mark = round_step(half / 3)
    mark *= max(1, int(half * 0.8 / mark))
    names = (
        (-mark, f"−{number(mark, decimals_needed(mark, 6))}"),
        (mark, f"+{number(mark, decimals_needed(mark, 6))}"),
    )
    axis = Axis(-half, half, "left over", names=names)
    return Panel((Lane((Level(0.0), *_rest_marks(t, rest)), y=axis),), share=share)


def _rest_marks(t: Told, rest: Floats) -> list[Layer]:
    there = np.flatnonzero(np.isfinite(rest))
    if there.size > MOST_MARKS:
        return list(_lines(t.x[: rest.size], rest, "data", 1.0))
    codes = np.zeros(there.size, dtype=np.int64)
    return [Points(t.x[there], rest[there], t.series.rows[there], codes, 5.0)]


def _rules(t: Told) -> tuple[Rule, ...]:
    """The handle of what is held back, and the reading line."""
    s, series = t.s, t.series
    n = series.n
    made = []
    edge = (float(t.x[n - t.held - 1]) + float(t.x[n - t.held])) / 2
    label = f"held back from {series.named(n - t.held)}" if t.held else "drag to hold back"
    places, values = _reads_held(t)
    made.append(Rule(edge, label, "seen", "held", step=1.0, reads=Reads(places, values)))
    if s.read is not None:
        at = float(series.along(np.array([t.read_step or 0]))[0])
        made.append(Rule(at, t.read_text, "ink", "read", dashed=True))
    return tuple(made)


def _reads_held(t: Told) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Places on the axis of time with how many steps are held back there."""
    n, most = t.series.n, t.most_held
    held = np.arange(most, -1, -1)
    if held.size > 400:
        held = np.unique(np.round(np.linspace(0, most, 400)).astype(np.int64))[::-1]
    edges = (t.x[n - held - 1] + t.x[n - held]) / 2
    return tuple(edges.tolist()), tuple(held.astype(float).tolist())


def _notes(t: Told) -> tuple[str, ...]:
    made = []
    if t.parts is not None and "trend" in t.s.shown:
        made.append("Dashed: the trend.")
    if t.parts is not None and "season" in t.s.shown and t.parts.cycle > 1:
        made.append("Thin: the trend with its season.")
    if t.held:
        made.append("Rings: what came.")
    if t.parts is not None and "left over" in t.s.shown:
        made.append("Below: what is left over, in the same units.")
    return tuple(made)


def _alt(t: Told) -> str:
    series = t.series
    said = f"{series.column.name} from {series.named(0)} to {series.named(series.n - 1)}"
    if t.parts is not None:
        said += ", with its trend"
    if t.stretches:
        said += f", and what is to be expected to {series.named(t.until)}"
    if t.held:
        said += f"; held back from {series.named(series.n - t.held)}"
    return f"{said}. {t.headline}"


# the seasons


def effects_picture(series: Series, parts: Parts) -> Picture:
    """A bar for each season of a cycle, from its mean of 0 (or of 1)."""
    cycle = parts.cycle
    base = 1.0 if parts.multiplicative else 0.0
    order = season_order(series, cycle)
    heights = parts.effects[order]
    at = np.arange(cycle, dtype=np.float64)
    names: tuple[tuple[float, str], ...] = ()
    if cycle <= 31:
        names = tuple((float(k), series.season_short(int(step))) for k, step in enumerate(order))
    labels: tuple[str, ...] = ()
    if cycle <= 14:
        labels = tuple(effect_text(series, parts, float(h)) for h in heights)
    low, high = min(base, float(heights.min())), max(base, float(heights.max()))
    room = (high - low) * 0.14 or 0.5
    bars = Blocks(
        at - 0.36,
        at + 0.36,
        np.minimum(base, heights),
        np.maximum(base, heights),
        np.zeros(cycle, dtype=np.int64),
        labels,
    )
    up = Axis(low - room, high + room, "times the trend" if base else series.column.label)
    lane = Lane((bars, Level(base, role="mute", dashed=False)), y=up)
    axis = Axis(-0.7, cycle - 0.3, "" if names else f"{series.step} of the cycle", names=names)
    alt = f"Seasonal effects on {series.column.name}: " + ", ".join(
        f"{series.season(int(step))} {effect_text(series, parts, float(parts.effects[step]))}" for step in order[:14]
    )
    return Picture((Frame(axis, (Panel((lane,)),), show_y=True),), alt=f"{alt}.", slim=True)


def season_order(series: Series, cycle: int) -> Ints:
    """Places in a cycle as the calendar has them: from January, from Monday."""
    if series.times.step == "month" and cycle == 12:
        first = -series.first % 12
    elif series.times.step == "quarter" and cycle == 4:
        first = -series.first % 4
    elif series.times.step == "day" and cycle == 7:
        first = next(k for k in range(7) if series.times.season(series.first + k, 7) == "Monday")
    else:
        first = 0
    return np.asarray((first + np.arange(cycle)) % cycle)


def effect_text(series: Series, parts: Parts, effect: float) -> str:
    """A seasonal effect with its sign, or as a factor."""
    if parts.multiplicative:
        return f"× {number(effect, 2)}"
    return signed_value(series, effect)


def cycles_picture(series: Series) -> Picture:
    """Each cycle as a line over the seasons; the last one strongest."""
    cycle = series.cycle
    order = season_order(series, cycle)
    offset = int(order[0])  # steps from the first value to the first whole cycle
    lead = (cycle - offset) % cycle
    layers: list[Layer] = []
    starts = list(range(-lead, series.n, cycle))[-MOST_CYCLES:]
    for start in starts:
        steps = np.arange(max(0, start), min(series.n, start + cycle))
        last = start == starts[-1]
        layers += _lines(
            (steps - start).astype(np.float64), series.values[steps], "seen" if last else "mute", 2.0 if last else 1.0
        )
    names: tuple[tuple[float, str], ...] = ()
    if cycle <= 31:
        names = tuple((float(k), series.season_short(int(step))) for k, step in enumerate(order))
    values = series.values[np.isfinite(series.values)]
    lane = Lane(tuple(layers), y=Axis(*span(values, 0.05), series.column.label))
    axis = Axis(-0.5, cycle - 0.5, "" if names else f"{series.step} of the cycle", names=names)
    many = plural(series.step)
    alt = f"{series.column.name} over the {many} of each cycle, laid over each other."
    return Picture((Frame(axis, (Panel((lane,)),), show_y=True),), alt=alt)

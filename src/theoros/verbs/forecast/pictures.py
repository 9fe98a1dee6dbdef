"""The series with its trend and what is to come; seasonal effects; cycles over each other."""

from __future__ import annotations

from theoros.answer.axis import Axis, Reads, span
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Band, Level, Line
from theoros.answer.layers.points import Points
from theoros.answer.nouns import plural
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import decimals_needed, number
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.numeric.bins import round_step
from theoros.numeric.series.decomposition import Decomposition
from theoros.verbs.forecast.report import ForecastReport
from theoros.verbs.forecast.series.series import Series
from theoros.verbs.forecast.words.forecast import headline_of, read_out
from theoros.verbs.forecast.words.series import effect_text

MOST_LINE = 4000
"""Longer lines are drawn through the least and the largest of each stretch."""
MOST_MARKS = 2000
LEAST_STRIP = 0.2
"""How high the strip of what is left over is at the least, beside the series."""
MOST_CYCLES = 40


def picture_of(r: ForecastReport) -> Picture:
    """Series, trend, what is to come, and below it what is left over, in the same units."""
    s, series = r.s, r.series
    axis = _time_axis(r)
    visible = (r.x >= axis.low) & (r.x <= axis.high)
    up = Axis(*_reach(r, visible), series.column.label, column=series.column.name)
    panels = [Panel((Lane(tuple(_main(r)), y=up),))]
    if "remainder" in s.shown and r.parts is not None:
        panels.append(_left_over(r, r.parts, up, visible))
    frame = Frame(axis, tuple(panels), rules=_rules(r), show_y=True, ends=("low", "high"))
    return Picture((frame,), alt=_alt(r), notes=_notes(r))


def _time_axis(r: ForecastReport) -> Axis:
    series = r.series
    last = r.until
    label = "" if series.times.on_calendar else series.step
    ends = series.along(np.array([0, last]))
    low, high = span(ends, 0.02)
    if r.s.low is not None:
        low = float(r.s.low)
    if r.s.high is not None:
        high = float(r.s.high)
    if not low < high:
        from theoros.answer.cannot import CannotAnswer

        raise CannotAnswer(
            "The time axis would end before it begins. Choose other ends, or leave them automatic.",
            "low",
            (("Show all of it", "axis", None),),
        )
    cut = r.s.low is not None or r.s.high is not None
    whole = not series.times.on_calendar
    return Axis(low, high, label, days=series.times.on_calendar, whole=whole, cut=cut)


def _reach(r: ForecastReport, visible: Bools) -> tuple[float, float]:
    """What the vertical scale holds: all that is seen of values, forecasts and bands."""
    held = [r.series.values[visible[: r.series.n]]]
    for first, forecast, band in r.stretches:
        here = slice(first, first + band[0].size)
        seen = visible[here]
        held += [forecast.result.median[: seen.size][seen], band[0][seen], band[1][seen]]
    values = np.concatenate(held)
    values = values[np.isfinite(values)]
    low, high = span(values, 0.04)
    if values.size and float(values.min()) >= 0 > low:
        low = 0.0
    return low, high


def _main(r: ForecastReport) -> list[Layer]:
    s, series = r.s, r.series
    known = series.n - r.holdout
    made: list[Layer] = []
    for first, forecast, band in r.stretches:
        made += _ahead(r, first, forecast.result.median[: band[0].size], band)
    made += _lines(r.x[:known], series.values[:known], "data", 1.6)
    parts = r.parts
    if parts is not None:
        if "season" in s.shown and parts.cycle > 1:
            made += _lines(r.x[: series.n], parts.together, "ink", 1.0)
        if "trend" in s.shown:
            made += _lines(r.x[: series.n], parts.trend, "ink", 1.8, dashed=True)
    if r.holdout:
        there = np.flatnonzero(np.isfinite(series.values[known:])) + known
        codes = np.zeros(there.size, dtype=np.int64)
        made.append(Points(r.x[there], series.values[there], series.rows[there], codes, 8.0, hollow=True))
    if known <= 150:
        there = np.flatnonzero((series.rows[:known] >= 0) & np.isfinite(series.raw[:known]))
        made.append(
            Points(r.x[there], series.values[there], series.rows[there], np.zeros(there.size, dtype=np.int64), 4.0)
        )
    return made


def _ahead(r: ForecastReport, first: int, middle: Floats, band: tuple[Floats, Floats]) -> list[Layer]:
    """A band that opens at the last value it was worked out from, and the line in it."""
    x = r.x[first : first + middle.size]
    low, high = band
    start = r.series.values[first - 1] if first else np.nan
    if np.isfinite(start):
        x = np.append(r.x[first - 1], x)
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


def _left_over(r: ForecastReport, parts: Decomposition, up: Axis, visible: Bools) -> Panel:
    """On a scale of the same units, so that it is as high as it is beside the series."""
    rest = parts.remainder
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
    return Panel((Lane((Level(0.0), *_rest_marks(r, rest)), y=axis),), share=share)


def _rest_marks(r: ForecastReport, rest: Floats) -> list[Layer]:
    there = np.flatnonzero(np.isfinite(rest))
    if there.size > MOST_MARKS:
        return list(_lines(r.x[: rest.size], rest, "data", 1.0))
    codes = np.zeros(there.size, dtype=np.int64)
    return [Points(r.x[there], rest[there], r.series.rows[there], codes, 5.0)]


def _rules(r: ForecastReport) -> tuple[Rule, ...]:
    """The handle of what is held back, and the reading line."""
    s, series = r.s, r.series
    n = series.n
    made = []
    edge = (float(r.x[n - r.holdout - 1]) + float(r.x[n - r.holdout])) / 2
    label = f"held back from {series.named(n - r.holdout)}" if r.holdout else "drag to hold back"
    places, values = _reads_held(r)
    made.append(Rule(edge, label, "seen", "holdout", step=1.0, reads=Reads(places, values)))
    if s.read is not None:
        at = float(series.along(np.array([r.read_step or 0]))[0])
        made.append(Rule(at, read_out(r), "ink", "read", dashed=True))
    return tuple(made)


def _reads_held(r: ForecastReport) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Places on the axis of time with how many steps are held back there."""
    n, most = r.series.n, r.most_holdout
    held = np.arange(most, -1, -1)
    if held.size > 400:
        held = np.unique(np.round(np.linspace(0, most, 400)).astype(np.int64))[::-1]
    edges = (r.x[n - held - 1] + r.x[n - held]) / 2
    return tuple(edges.tolist()), tuple(held.astype(float).tolist())


def _notes(r: ForecastReport) -> tuple[str, ...]:
    made = []
    if r.parts is not None and "trend" in r.s.shown:
        made.append("Dashed: the trend.")
    if r.parts is not None and "season" in r.s.shown and r.parts.cycle > 1:
        made.append("Thin: the trend with its season.")
    if r.holdout:
        made.append("Rings: observed values.")
    if r.parts is not None and "remainder" in r.s.shown:
        made.append("Below: the remainder, in the same units.")
    return tuple(made)


def _alt(r: ForecastReport) -> str:
    series = r.series
    said = f"{series.column.name} from {series.named(0)} to {series.named(series.n - 1)}"
    if r.parts is not None:
        said += ", with its trend"
    if r.stretches:
        said += f", and the forecast to {series.named(r.until)}"
    if r.holdout:
        said += f"; held back from {series.named(series.n - r.holdout)}"
    return f"{said}. {headline_of(r)}"


# the seasons


def effects_picture(series: Series, parts: Decomposition) -> Picture:
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
    alt = f"{series.column.name} over the {many} of each cycle, on top of each other."
    return Picture((Frame(axis, (Panel((lane,)),), show_y=True),), alt=alt)

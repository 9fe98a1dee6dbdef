"""The scatter with its curves and bands, and the pictures of residuals."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from theoros.answer.axis import Axis, role_of, span
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Band, Level, Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.layers.residuals import HandLine, Residuals
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture, Rule
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.bins import round_step
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.regression.diagnostics import cooks_distance, standardized
from theoros.numeric.regression.smooth import lowess
from theoros.verbs.data.pictures import MOST_POINTS, counted_columns
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.pairs import Group, ModelPairs

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

CURVE, BEYOND = 161, 0.06
"""Points of a drawn curve; how far beyond the data it goes on, as a share of their reach."""
MOST_RESIDUALS = 600
"""Residuals of more cases are not drawn in the scatter."""


@dataclass(frozen=True, eq=False)
class Drawn:
    """A group with its curve, or in words why it has none."""

    group: Group
    fitted: Fitted | str
    role: str = "range"

    @property
    def curve(self) -> Fitted | None:
        return self.fitted if isinstance(self.fitted, Fitted) else None


def label_of(name: str, unit: str) -> str:
    return f"{name} ({unit})" if unit else name


def scatter_picture(s: ModelStatement, pairs: ModelPairs, drawn: Sequence[Drawn], said: str, alt: str) -> Picture:
    """All groups in one frame with a key, or a panel each."""
    together = pairs.all
    x_low, x_high = _x_ends(s, together.x)
    y_axis = _y_axis(s, pairs, drawn, x_low, x_high)
    across = Axis(x_low, x_high, pairs.predictor.label, names=pairs.names)
    if pairs.predictor.kind.value == "number":
        across = replace(across, column=pairs.predictor.name)
    rules = _rules(s, said, x_low, x_high)
    several = len(drawn) > 1
    if several and s.panels:
        panels = tuple(
            Panel((Lane(_layers(s, [one], x_low, x_high), y=y_axis),), one.group.label, f"n = {one.group.x.size}")
            for one in drawn
        )
        return Picture((Frame(across, panels, rules=rules, show_y=True),), alt=alt)
    lane = Lane(_layers(s, drawn, x_low, x_high), y=y_axis)
    keys = tuple(Key(one.group.label) for one in drawn) if several else ()
    return Picture((Frame(across, (Panel((lane,)),), rules=rules, show_y=True),), keys, alt=alt)


def _x_ends(s: ModelStatement, x: Floats) -> tuple[float, float]:
    low, high = float(x.min()), float(x.max())
    reach = high - low or abs(low) or 1.0
    ends = [low - BEYOND * reach, high + BEYOND * reach]
    for at in s.reads():  # no picture is stretched to what is far off
        if low - 2 * reach <= at <= high + 2 * reach:
            ends += [at - 0.02 * reach, at + 0.02 * reach]
    return min(ends), max(ends)


def _y_axis(s: ModelStatement, pairs: ModelPairs, drawn: Sequence[Drawn], x_low: float, x_high: float) -> Axis:
    y = pairs.all.y
    low, high = float(y.min()), float(y.max())
    reach = high - low or abs(low) or 1.0
    ends = [low, high]
    for one in drawn:
        if one.curve is None:
            continue
        at = np.linspace(one.group.x.min(), one.group.x.max(), 41)
        held = [one.curve.predict(at)]
        if s.bands in ("single", "both"):
            band = one.curve.band(at, s.confidence, single=True)
            held += list(band) if band is not None else []
        for values in held:
            good = values[np.isfinite(values)]
            good = good[(good > low - reach) & (good < high + reach)]
            ends += good.tolist()
    label = pairs.response.label
    first, last = span(np.array(ends), 0.03)
    return Axis(first, last, label, column=pairs.response.name)


def _rules(s: ModelStatement, said: str, low: float, high: float) -> tuple[Rule, ...]:
    """The reading line with its handle, and lines at the further values."""
    step = round_step((high - low) / 200)
    made = []
    if s.read is not None and low <= s.read <= high:
        made.append(Rule(float(s.read), said, "seen", slot="read", step=step))
    for at in s.reads():
        if (s.read is None or at != s.read) and low <= at <= high:
            made.append(Rule(at, "", "seen", knob=False, dashed=True))
    return tuple(made)


def _layers(s: ModelStatement, drawn: Sequence[Drawn], x_low: float, x_high: float) -> tuple[Layer, ...]:
    layers: list[Layer] = []
    several = len(drawn) > 1 or (s.by is not None and not s.panels)
    for one in drawn:
        layers += _bands(s, one, x_low, x_high, faint=several)
    if sum(one.group.x.size for one in drawn) > MOST_POINTS:
        x = np.concatenate([one.group.x for one in drawn])
        y = np.concatenate([one.group.y for one in drawn])
        layers.append(Shades.of(x, y, 72, 44))
    else:
        for one in drawn:
            curve = one.curve
            if s.drawn != "none" and curve is not None and one.group.x.size <= MOST_RESIDUALS:
                ends = hand_at(s, curve) if s.by_hand and len(drawn) == 1 else curve.fitted
                layers.append(Residuals(curve.x, curve.y, ends, s.drawn == "squares"))
        for at, one in enumerate(drawn):
            codes = np.full(one.group.x.size, at if several else 0, dtype=np.int64)
            layers.append(Points(one.group.x, one.group.y, one.group.rows, codes))
    for at, one in enumerate(drawn):
        role = role_of(at) if several and not s.panels else "range"
        layers += _curve(one, role, x_low, x_high)
    if s.by_hand and len(drawn) == 1 and drawn[0].curve is not None:
        layers.append(hand_line(s, drawn[0].curve))
    return tuple(layers)


def hand_ends(s: ModelStatement, fitted: Fitted) -> tuple[float, float]:
    """The heights of the line by hand at both ends of the data: at first level, at the mean."""
    mean = float(fitted.y.mean())
    left = mean if s.hand_left is None else float(s.hand_left)
    right = mean if s.hand_right is None else float(s.hand_right)
    return left, right


def hand_at(s: ModelStatement, fitted: Fitted) -> Floats:
    """The line by hand at the values of x."""
    left, right = hand_ends(s, fitted)
    low, high = float(fitted.x.min()), float(fitted.x.max())
    return np.asarray(left + (right - left) * (fitted.x - low) / (high - low))


def hand_line(s: ModelStatement, fitted: Fitted) -> HandLine:
    left, right = hand_ends(s, fitted)
    reach = float(np.ptp(fitted.y)) or 1.0
    return HandLine(
        (float(fitted.x.min()), left),
        (float(fitted.x.max()), right),
        ("hand_left", "hand_right"),
        round_step(reach / 200),
    )


def _bands(s: ModelStatement, one: Drawn, low: float, high: float, *, faint: bool) -> list[Layer]:
    """For single cases below, for the mean above it; over the data, and no farther."""
    if one.curve is None or s.bands == "none":
        return []
    at = np.linspace(one.group.x.min(), one.group.x.max(), CURVE)
    made: list[Layer] = []
    for wanted, single, role, opacity in (("single", True, "chance", 0.22), ("mean", False, "range", 0.28)):
        if s.bands not in (wanted, "both") or (faint and single and s.bands == "both"):
            continue
        band = one.curve.band(at, s.confidence, single=single)
        if band is not None:
            good = np.isfinite(band[0]) & np.isfinite(band[1])
            made.append(Band(at[good], band[0][good], band[1][good], role, opacity * (0.6 if faint else 1)))
    return made


def _curve(one: Drawn, role: str, low: float, high: float) -> list[Layer]:
    """Over the data in full, beyond them dashed."""
    curve = one.curve
    if curve is None:
        return []
    first, last = float(one.group.x.min()), float(one.group.x.max())
    made: list[Layer] = []
    for start, end, dashed in ((low, first, True), (first, last, False), (last, high, True)):
        if end <= start:
            continue
        at = np.linspace(start, end, CURVE if not dashed else 31)
        y = curve.predict(at)
        good = np.isfinite(y)
        if good.sum() > 1:
            made.append(Line(at[good], y[good], role, 1.4 if dashed else 2.4, dashed))
    return made


# residuals


STRIPS = ("fitted", "along", "order")
"""Residuals along a line, for which a strip of paper is enough."""
NOTES = {
    "fitted": "The smooth line through them should run near 0.",
    "along": "The smooth line through them should run near 0.",
    "normal": "Normal residuals lie along the line.",
    "histogram": "The curve is the normal one with the same spread.",
    "order": "Runs above or below 0 say that neighbours go together.",
    "leverage": "Rows beyond the dashed lines pull the curve towards them.",
}


def residual_title(s: ModelStatement) -> str:
    """How the residuals are shown, in words."""
    from theoros.verbs.model.statement import RESIDUALS

    how = next(option.label for option in RESIDUALS if option.value == s.residuals)
    return f"Residuals {how}"


def residual_note(s: ModelStatement) -> str:
    """What to look for in them."""
    return NOTES.get(s.residuals, "")


def residual_frame(s: ModelStatement, pairs: ModelPairs, drawn: Sequence[Drawn]) -> Frame | None:
    """The residuals of all groups, as they are wanted."""
    there = [one for one in drawn if one.curve is not None]
    if not there or s.residuals == "none":
        return None
    fits = [one.curve for one in there if one.curve is not None]
    residuals = np.concatenate([fit.residuals for fit in fits])
    rows = np.concatenate([one.group.rows for one in there])
    codes = np.repeat(np.arange(len(there)), [fit.n for fit in fits])
    if len(drawn) == 1:
        codes = np.zeros_like(codes)
    unit = pairs.response.unit
    up = Axis(*span(residuals, 0.06), label_of("residual", unit))
    if s.residuals == "histogram":
        return _histogram(residuals, unit)
    if s.residuals == "normal":
        return _quantiles(residuals, rows, codes, up)
    if s.residuals == "leverage":
        return _leverage(there, rows, codes)
    x = {
        "fitted": np.concatenate([fit.fitted for fit in fits]),
        "along": np.concatenate([fit.x for fit in fits]),
        "order": rows + 1.0,
    }[s.residuals]
    label = {"fitted": label_of(f"fitted {pairs.response.name}", unit), "along": pairs.predictor.label, "order": "row"}[
        s.residuals
    ]
    names = pairs.names if s.residuals == "along" else ()
    layers: list[Layer] = [Level(0.0)]
    layers += _points(x, residuals, rows, codes)
    if s.residuals == "order":
        order = np.argsort(rows, kind="stable")
        if order.size <= 2000:
            layers.insert(1, Line(x[order], residuals[order], "rule", 1.0))
    elif np.unique(x).size > 4:
        places, heights = lowess(x, residuals)
        layers.append(Line(places, heights, "seen", 2.0))
    whole = s.residuals == "order"
    axis = Axis(*span(x, 0.04), label, whole=whole, names=names)
    return Frame(axis, (Panel((Lane(tuple(layers), y=up),)),), show_y=True)


def _points(x: Floats, y: Floats, rows: Ints, codes: Ints) -> list[Layer]:
    if x.size > MOST_POINTS:
        return [Shades.of(x, y, 72, 32)]
    return [Points(x, y, rows, codes)]


def _histogram(residuals: Floats, unit: str) -> Frame:
    """With the normal curve of the same spread."""
    from theoros.answer.layers.blocks import Blocks
    from theoros.numeric.bins import bin_start, default_width

    width = default_width(residuals)
    columns = counted_columns(residuals, np.zeros(residuals.size, dtype=np.int64), width, bin_start(residuals, width))
    counts, half = columns.counts.sum(axis=0), columns.width / 2
    bars = Blocks(
        columns.centres - half,
        columns.centres + half,
        np.zeros(counts.size),
        counts,
        np.zeros(counts.size, dtype=np.int64),
    )
    layers: list[Layer] = [bars]
    sd = float(residuals.std(ddof=1)) if residuals.size > 1 else 0.0
    ends = np.append(columns.centres - half, columns.centres + half)
    low, high = span(ends, 0.03)
    top = float(counts.max())
    if sd > 0:
        grid = np.linspace(low, high, CURVE)
        heights = Normal(0.0, sd).height(grid) * residuals.size * width
        layers.append(Line(grid, heights, "seen", 1.8))
        top = max(top, float(heights.max()))
    lane = Lane(tuple(layers), y=Axis(0.0, top * 1.06, "cases"))
    return Frame(Axis(low, high, label_of("residual", unit)), (Panel((lane,)),), show_y=True)


def _quantiles(residuals: Floats, rows: Ints, codes: Ints, up: Axis) -> Frame:
    """Ordered residuals against the quantiles that normal ones would have (Blom's places)."""
    order = np.argsort(residuals, kind="stable")
    n = residuals.size
    shares: Floats = (np.arange(1.0, n + 1) - 0.375) / (n + 0.25)
    z = np.asarray(Normal().quantile(shares))
    q1, q3 = np.quantile(residuals, [0.25, 0.75])
    step = float(q3 - q1) / (2 * float(Normal().quantile(0.75)))
    middle = float(q1 + q3) / 2
    ends = np.array([float(z[0]), float(z[-1])])
    line = Line(ends, middle + step * ends, "seen", 1.6)
    layers = (line, *_points(z, residuals[order], rows[order], codes[order]))
    axis = Axis(*span(z, 0.05), "normal quantile")
    return Frame(axis, (Panel((Lane(layers, y=up),)),), show_y=True)


def _leverage(there: Sequence[Drawn], rows: Ints, codes: Ints) -> Frame | None:
    """Standardized residuals against leverage, with curves where Cook's distance is 1/2 and 1."""
    fits = [one.curve for one in there if one.curve is not None and one.curve.leverage is not None]
    if len(fits) < len(there):
        return None
    held = [fit.leverage for fit in fits if fit.leverage is not None]
    leverage = np.concatenate(held)
    r = np.concatenate([standardized(fit.residuals, h, fit.sigma) for fit, h in zip(fits, held, strict=True)])
    top = min(1.0, float(leverage.max()) * 1.1)
    layers: list[Layer] = [Level(0.0), *_points(leverage, r, rows, codes)]
    terms = fits[0].terms
    reach = max(3.0, float(np.abs(r).max()) * 1.1)
    grid = np.linspace(max(1e-3, top / 100), min(top, 0.999), CURVE)
    for distance in (0.5, 1.0):
        height = np.sqrt(distance * terms * (1 - grid) / grid)
        for side in (1, -1):
            inside = height <= reach
            if inside.sum() > 1:
                layers.append(Line(grid[inside], side * height[inside], "seen", 1.2, True))
    up = Axis(-reach, reach, "standardized residual")
    axis = Axis(0.0, top * 1.02 or 1.0, "leverage; dashed: Cook’s distance 0.5 and 1")
    return Frame(axis, (Panel((Lane(tuple(layers), y=up),)),), show_y=True)


def largest_cook(fitted: Fitted) -> tuple[int, float]:
    """The place of the case with the largest Cook's distance, and that."""
    if fitted.leverage is None or not fitted.sigma > 0:
        return 0, 0.0
    found = cooks_distance(fitted.residuals, fitted.leverage, fitted.sigma, fitted.terms)
    at = int(np.argmax(found))
    return at, float(found[at])

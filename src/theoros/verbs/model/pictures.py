"""Pictures that models share: residuals, along what is fitted, beside normal quantiles, against leverage."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.axis import Axis, span
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Level, Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.picture import Frame, Lane, Panel
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.regression.diagnostics import cooks_distance, standardized
from theoros.numeric.regression.smooth import lowess
from theoros.verbs.data.pictures import MOST_POINTS, counted_columns
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.simple.report import GroupFit
from theoros.verbs.model.statement import ModelStatement

MOST_RESIDUALS = 600
"""Residuals of more cases are not drawn in the scatter."""


STRIPS = ("fitted", "along", "order")
"""Residuals along a line, for which a strip of paper is enough."""


NOTES = {
    "fitted": "The smooth line through them should run near 0.",
    "along": "The smooth line through them should run near 0.",
    "normal": "Normal residuals lie close to the line.",
    "histogram": "The curve is a normal distribution with the same spread.",
    "order": "Long runs above or below 0 show that neighbouring residuals are similar (autocorrelation).",
    "leverage": "Rows outside the dashed lines have a large influence on the curve.",
}


def residual_title(s: ModelStatement) -> str:
    """How the residuals are shown, in words."""
    from theoros.verbs.model.statement import RESIDUALS

    how = next(option.label for option in RESIDUALS if option.value == s.residuals)
    return f"Residuals {how}"


def residual_note(s: ModelStatement) -> str:
    """What to look for in them."""
    return NOTES.get(s.residuals, "")


def residual_frame(s: ModelStatement, pairs: ModelPairs, drawn: Sequence[GroupFit]) -> Frame | None:
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


def _leverage(there: Sequence[GroupFit], rows: Ints, codes: Ints) -> Frame | None:
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


def label_of(name: str, unit: str) -> str:
    return f"{name} ({unit})" if unit else name


CURVE, BEYOND = 161, 0.06
"""Points of a drawn curve; how far beyond the data it goes on, as a share of their reach."""

"""The scatter with its curves and bands, and the pictures of residuals."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.axis import Axis, role_of, span
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Band, Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.layers.residuals import HandLine, Residuals
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture, Rule
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.bins import round_step
from theoros.verbs.data.pictures import MOST_POINTS
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.pictures import BEYOND, CURVE, MOST_RESIDUALS
from theoros.verbs.model.simple.report import GroupFit

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement


def scatter_picture(s: ModelStatement, pairs: ModelPairs, drawn: Sequence[GroupFit], said: str, alt: str) -> Picture:
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


def _y_axis(s: ModelStatement, pairs: ModelPairs, drawn: Sequence[GroupFit], x_low: float, x_high: float) -> Axis:
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


def _layers(s: ModelStatement, drawn: Sequence[GroupFit], x_low: float, x_high: float) -> tuple[Layer, ...]:
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


def _bands(s: ModelStatement, one: GroupFit, low: float, high: float, *, faint: bool) -> list[Layer]:
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


def _curve(one: GroupFit, role: str, low: float, high: float) -> list[Layer]:
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

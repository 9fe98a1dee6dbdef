"""What goes with each predictor once the others are held: partial residuals."""

from __future__ import annotations

from theoros.answer.axis import Axis, span
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Level, Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.picture import Frame, Lane, Panel, Picture
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.smooth import lowess
from theoros.verbs.data.pictures import MOST_POINTS
from theoros.verbs.model.multiple.data import Predictor
from theoros.verbs.model.multiple.fit import Several

MOST_FRAMES = 4


def partial_picture(f: Several, response: str) -> Picture:
    """For each of the first predictors what is left of y once the other terms are taken off."""
    count = min(MOST_FRAMES, len(f.design.predictors))
    own = [contribution(f, at) for at in range(count)]
    ends = span(np.concatenate([one + f.residuals for one in own]), 0.05)
    frames = tuple(_frame(f, at, own[at], ends, response) for at in range(count))
    shown = ", ".join(one.name for one in f.design.predictors[:MOST_FRAMES])
    return Picture(frames, alt=f"Partial residuals of {response} along {shown}.", breaks=True)


def contribution(f: Several, at: int) -> Floats:
    """What the own terms of a predictor (itself and its square) add, about their mean."""
    design = f.design
    own = [k for k, term in enumerate(design.terms) if set(term.parts) == {at}]
    columns = np.flatnonzero(np.isin(design.owners, own))
    made = design.matrix[:, columns] @ f.coefficients[columns]
    return np.asarray(made - made.mean())


def _frame(f: Several, at: int, own: Floats, ends: tuple[float, float], response: str) -> Frame:
    """One scale for all frames, so that what the predictors do can be compared."""
    one = f.design.predictors[at]
    left = own + f.residuals
    up = Axis(*ends, f"{response}, with the other predictors held constant" if at == 0 else "")
    layers: list[Layer] = [Level(0.0)]
    x = _places(one)
    layers.append(
        Points(x, left, f.design.rows, np.zeros(x.size, dtype=np.int64)) if x.size <= MOST_POINTS else _shaded(x, left)
    )
    if one.levels:
        for code in range(len(one.levels)):
            here = one.values == code
            height = float(own[here][0]) if here.any() else 0.0
            layers.append(Line(np.array([code - 0.3, code + 0.3]), np.array([height] * 2), "range", 2.4))
        names = tuple((float(k), level) for k, level in enumerate(one.levels))
        axis = Axis(-0.6, len(one.levels) - 0.4, one.column.label, names=names)
        return Frame(axis, (Panel((Lane(tuple(layers), y=up),)),), show_y=True)
    order = np.argsort(one.values, kind="stable")
    step = max(1, order.size // 400)
    thin = np.append(order[::step], order[-1])
    layers.append(Line(one.values[thin], own[thin], "range", 2.4))
    if np.unique(x).size > 4:
        layers.append(Line(*lowess(x, left), "seen", 1.6))
    axis = Axis(*span(x, 0.04), one.column.label, column=one.name)
    return Frame(axis, (Panel((Lane(tuple(layers), y=up),)),), show_y=True)


def _places(one: Predictor) -> Floats:
    """Values, or codes of levels spread a little so that cases do not cover each other."""
    if not one.levels:
        return one.values
    spread = (np.arange(one.values.size) * 0.6180339887498949) % 1.0 - 0.5
    return np.asarray(one.values + 0.4 * spread)


def _shaded(x: Floats, y: Floats) -> Shades:
    return Shades.of(x, y, 48, 40)

"""The probability over the marks of both outcomes, the cut-off, and how well cases are told."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.axis import Axis, span
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Band, Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture, Rule
from theoros.answer.wording import exact, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.numeric.bins import round_step
from theoros.verbs.data.pictures import MOST_POINTS
from theoros.verbs.model.logistic.fit import FittedOutcome
from theoros.verbs.model.multiple.data import Design

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

CURVE = 161


def marks(design: Design, outcome: Bools) -> list[Layer]:
    """Cases at 1 and at 0, spread a little so that they do not cover each other."""
    x = design.predictors[0].values
    spread = (np.arange(x.size) * 0.6180339887498949) % 1.0 * 0.09
    y = np.where(outcome, 1.0 + spread - 0.02, -spread + 0.02)
    if x.size > MOST_POINTS:
        return [Shades.of(x, y, 72, 24)]
    return [Points(x, y, design.rows, np.where(outcome, 0, 1).astype(np.int64))]


def _keys(what: str, level: str) -> tuple[Key, ...]:
    return (Key(level), Key(f"not {level}"))


def curve_picture(s: ModelStatement, found: FittedOutcome | None, design: Design, outcome: Bools) -> Picture:
    """Of one number: the marks, with the probability and its band where there is one."""
    one = design.predictors[0]
    low, high = span(one.values, 0.05)
    layers, rules = marks(design, outcome), tuple[Rule, ...]()
    if found is not None:
        at = np.linspace(low, high, CURVE)
        middle, first, last = found.probability(design.row(at[:, None]), s.confidence)
        if s.bands != "none":
            layers.insert(0, Band(at, first, last, "range", 0.24))
        layers.append(Line(at, middle, "range", 2.4))
        if s.read is not None and low <= s.read <= high:
            here = found.probability(design.row(np.array([[float(s.read)]])), s.confidence)[0]
            where = with_unit(exact(float(f"{s.read:.8g}")), one.column.unit)
            said = f"at {where}: {100 * float(here[0]):.1f}\u00a0%"
            rules = (Rule(float(s.read), said, "seen", slot="read", step=round_step((high - low) / 200)),)
    up = Axis(-0.12, 1.12, f"probability of {s.level}")
    frame = Frame(
        Axis(low, high, one.column.label, column=one.name),
        (Panel((Lane(tuple(layers), y=up),)),),
        rules=rules,
        show_y=True,
    )
    alt = f"{s.level} or not against {one.name}" + (", with the probability." if found is not None else ".")
    return Picture((frame,), _keys(str(s.what), str(s.level)), alt=alt)


def cut_picture(s: ModelStatement, found: FittedOutcome) -> Picture:
    """The probabilities of the cases of each outcome, with the cut-off to be dragged."""
    panels = []
    for label, here in ((str(s.level), found.outcome), (f"not {s.level}", ~found.outcome)):
        values = found.fit.probabilities[here]
        panels.append(
            Panel(
                (
                    Lane(
                        (_spread(values, found.design.rows[here], label == str(s.level)),), y=Axis(0.0, 1.0, bare=True)
                    ),
                ),
                label,
                f"n = {values.size}",
            )
        )
    cut = float(s.cut)
    rule = Rule(cut, f"classified as {s.level} from {100 * cut:.3g}\u00a0%", "seen", slot="cut", step=0.005)
    frame = Frame(Axis(0.0, 1.0, f"probability of {s.level}"), tuple(panels), rules=(rule,))
    return Picture(
        (frame,), _keys(str(s.what), str(s.level)), alt="The predicted probabilities of the cases of each outcome."
    )


def _spread(values: Floats, rows: Ints, first: bool) -> Layer:
    code = 0 if first else 1
    if values.size > MOST_POINTS:
        counts, x_edges, y_edges = np.histogram2d(
            values, np.full(values.size, 0.5), bins=(72, 1), range=((0, 1), (0, 1))
        )
        return Shades(x_edges, y_edges, counts)
    height: Floats = np.asarray((np.arange(values.size) * 0.6180339887498949) % 1.0 * 0.8 + 0.1)
    return Points(values, height, rows, np.full(values.size, code, dtype=np.int64))


def roc_picture(s: ModelStatement, found: FittedOutcome) -> Picture:
    """The shares found and wrongly found at every cut-off, and where this one is."""
    roc = found.roc
    step = max(1, roc.cuts.size // 600)
    thin = np.unique(np.append(np.arange(0, roc.cuts.size, step), roc.cuts.size - 1))
    now = found.classed(float(s.cut))
    ends = np.array([0.0, 1.0])
    here: Floats = np.array([1.0 - now.specificity], dtype=np.float64)
    high: Floats = np.array([now.sensitivity], dtype=np.float64)
    nobody: Ints = np.array([-1], dtype=np.int64)
    mark = Points(here, high, nobody, np.zeros(1, dtype=np.int64), 11.0, "case")
    layers: tuple[Layer, ...] = (
        Line(ends, ends, "rule", 1.0, True),
        Line(roc.false_shares[thin], roc.true_shares[thin], "range", 2.2),
        mark,
    )
    up = Axis(0.0, 1.03, f"share of {s.level} found (sensitivity)")
    across = Axis(0.0, 1.0, "share of the others found (1 − specificity)")
    return Picture(
        (Frame(across, (Panel((Lane(layers, y=up),)),), show_y=True),), alt=f"ROC curve with an area of {roc.area:.3f}."
    )

"""How values are spread, as areas and curves: histogram, density, steps, quantiles, box, stems."""

from __future__ import annotations

from theoros.answer.axis import Axis, span
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line, Under
from theoros.answer.layers.points import Points
from theoros.answer.layers.spots import Rings
from theoros.answer.layers.written_words import StemLines, WrittenWords
from theoros.answer.picture import Frame, Lane
from theoros.answer.wording import exact, percent, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.bins import bin_indices
from theoros.numeric.density import density_curve, ecdf, normal_scores
from theoros.numeric.stems import stems
from theoros.verbs.data.groups import Group
from theoros.verbs.data.pictures import MOST_POINTS
from theoros.verbs.plot.data.numbers import Plotted
from theoros.verbs.plot.pictures.reading_line import reading_rules
from theoros.verbs.plot.shapes.dots import bin_label, bins_handle
from theoros.verbs.plot.shapes.shape import NUMBER, Shape

SIDES = 0.22
"""Room above what is drawn for how many lie on each side of a split line, as a share of it."""


def binned(values: Floats, codes: Ints, width: float, start: float) -> tuple[Ints, Floats]:
    """The bins that hold something (from `start`), and counts of shape (colours, bins)."""
    bins = bin_indices(values, width, start)
    low = int(bins.min())
    size = int(bins.max()) - low + 1
    keys = int(codes.max(initial=0)) + 1
    flat = np.bincount(codes * size + bins - low, minlength=keys * size)
    return np.arange(low, low + size), flat.reshape(keys, size).astype(np.float64)


def histogram(p: Plotted) -> tuple[Frame, ...]:
    """Bars over bins, side by side, from 0; colours stand on each other."""
    made = {}
    tallest = 0.0
    for group in p.groups:
        if group.values.size:
            bins, counts = binned(group.values, p.colours(group.rows), p.width, p.start)
            heights = counts * _per_case(p, group.values.size)
            made[id(group)] = bins, counts, heights
            tallest = max(tallest, float(heights.sum(axis=0).max()))
    words = {"count": "count", "percent": "percent", "density": "density"}[p.scale]
    room = 1.16 if p.has("counts") or p.has("percent") else 1.06
    room += SIDES if p.cuts else 0.0
    up = Axis(0.0, tallest * room or 1.0, words, whole=p.scale == "count")

    def lanes(group: Group) -> list[Lane]:
        bins, counts, heights = made[id(group)]
        layers: list[Layer] = []
        base = np.zeros(bins.size)
        left = np.asarray(p.start + bins * p.width, dtype=np.float64)
        totals = counts.sum(axis=0)
        for code, height in enumerate(heights):
            last = code == len(heights) - 1
            labels: tuple[str, ...] = ()
            if last and (p.has("counts") or p.has("percent")):
                n = group.values.size
                labels = tuple(bin_label(p, int(t), n) if t else "" for t in totals.tolist())
            codes = np.full(bins.size, code)
            layers.append(Blocks(left, left + p.width, base, base + height, codes, labels))
            base = base + height
        return [Lane(tuple(layers), y=up)]

    return p.frames(lanes, p.axis(*p.whole_bins()), show_y=True, frame=bins_handle(p))


def _per_case(p: Plotted, n: int) -> float:
    if p.scale == "percent":
        return 100 / n
    return 1 / (n * p.width) if p.scale == "density" else 1.0


def density(p: Plotted) -> tuple[Frame, ...]:
    """A smooth curve for each group; the area below it is 1.

    Values that are all equal have no spread for a curve to show, and are told instead.
    """
    spread = [g for g in p.groups if g.values.size and np.ptp(g.values) > 0]
    curves = {id(g): density_curve(g.values) for g in spread}
    top = max((float(y.max()) for _, y in curves.values()), default=1.0)
    up = Axis(0.0, top * (1.06 + (SIDES if p.cuts else 0.0)), "density")
    ends = span(p.values)
    axis = p.axis(
        min((float(x[0]) for x, _ in curves.values()), default=ends[0]),
        max((float(x[-1]) for x, _ in curves.values()), default=ends[1]),
    )
    if curves:  # equal values may lie beyond the curves
        axis = p.axis(min(axis.low, ends[0]), max(axis.high, ends[1]))

    def lanes(group: Group) -> list[Lane]:
        if id(group) not in curves:
            at, n = float(group.values[0]), group.values.size
            why = "one value" if n == 1 else f"{whole(n)} equal values"
            side = "start" if at / 2 < axis.low / 4 + axis.high / 4 else "end"
            return [Lane((WrittenWords(((at, f"{why}, so no curve", side),)),), y=up)]
        x, y = curves[id(group)]
        return [Lane((Under(x, y, "wash", hatched=False), Line(x, y, "data", 2.0)), y=up)]

    return p.frames(lanes, axis, show_y=True)


def cumulative(p: Plotted) -> tuple[Frame, ...]:
    """For each value the percentage of cases at or below it."""
    up = Axis(0.0, 104.0, "percent at or below")
    read = p.statement.read
    axis = p.axis()

    def lanes(group: Group) -> list[Lane]:
        x, share = ecdf(group.values)
        if x.size > 2000:  # no more steps than can be seen
            keep = np.unique(np.linspace(0, x.size - 1, 2000).astype(np.int64))
            x, share = x[keep], share[keep]
        xs = np.concatenate([[axis.low], np.repeat(x, 2), [axis.high]])
        ys = np.concatenate([[0.0, 0.0], np.repeat(share, 2)]) * 100
        layers: list[Layer] = [Line(xs, ys, "data", 2.0)]
        if read is not None:
            below = percent(int((group.values <= read).sum()), group.values.size)
            layers.append(WrittenWords(((read, f"{below} at or below", "start"),)))
        return [Lane(tuple(layers), y=up)]

    said = with_unit(exact(read), p.column.unit) if read is not None else ""
    rules = reading_rules(p.statement, read, said)
    return p.frames(lanes, axis, show_y=True, frame=Frame(axis, (), rules=rules))


def normal_quantiles(p: Plotted) -> tuple[Frame, ...]:
    """Values against where normal ones would lie: near the line, they look normal."""
    most = max((g.values.size for g in p.groups), default=1)
    reach = float(normal_scores(max(most, 3))[-1]) * 1.08
    up = Axis(-reach, reach, "normal quantile")

    def lanes(group: Group) -> list[Lane]:
        n = group.values.size
        order = np.argsort(group.values, kind="stable")
        scores = normal_scores(n)
        summary = p.summary(group)
        layers: list[Layer] = []
        if n > 2 and summary.sd > 0:
            # through the quartiles, which no outlier moves
            slope = (summary.q3 - summary.q1) / 1.3489795 or summary.sd
            middle = summary.q1 / 2 + summary.q3 / 2
            ends = np.array([-reach, reach])
            layers.append(Line(middle + slope * ends, ends, "range", 1.6, dashed=True))
        values, rows = group.values[order], group.rows[order]
        if n > MOST_POINTS:
            keep = np.unique(np.linspace(0, n - 1, MOST_POINTS).astype(np.int64))
            values, rows, scores = values[keep], rows[keep], scores[keep]
        layers.append(Points(values, scores, rows, p.colours(rows)))
        return [Lane(tuple(layers), y=up)]

    return p.frames(lanes, p.axis(), show_y=True, boxes=False)


def boxes(p: Plotted) -> tuple[Frame, ...]:
    """A box for each group, outliers as rings; the other dots are hidden."""
    plain = p.has("plain boxes") and not p.has("boxes")

    def lanes(group: Group) -> list[Lane]:
        from dataclasses import replace

        from theoros.verbs.data.pictures import box

        summary = p.summary(group)
        drawn = box(group.values, summary, mean=p.has("mean"))
        if plain:
            drawn = replace(drawn, low=summary.minimum, high=summary.maximum)
            return [Lane((drawn,))]
        outside = group.beyond(summary)
        values, rows = group.values[outside], group.rows[outside]
        rings = Rings(values, rows, p.colours(rows))
        return [Lane((drawn, rings))]

    return p.frames(lanes, p.axis(), boxes=False)


def stem_and_leaf(p: Plotted) -> tuple[Frame, ...]:
    """Every value as a stem and a digit."""

    most = max(6, 24 // max(1, len(p.across[0].groups)))

    def lanes(group: Group) -> list[Lane]:
        return [Lane((StemLines(stems(group.values, most).lines),))]

    return p.frames(lanes, Axis(0.0, 1.0, leaf_words(p, most), bare=True), boxes=False)


def leaf_words(p: Plotted, most: int) -> str:
    """What a stem and a leaf stand for: "4 | 2 is 42 g"."""
    found = [stems(group.values, most) for group in p.groups if group.values.size]
    units = {made.unit for made in found}
    if len(units) != 1:
        return "each panel has leaves of its own size"
    worth = with_unit(exact(round(42 * found[0].unit, 12)), p.column.unit)
    return f"{p.column.name}: 4 | 2 stands for {worth}"


_USUAL = frozenset({"marks", "cut", "ends"})
SHAPES = (
    Shape("histogram", "Bars over bins, as counts, percent or density.", (NUMBER,), histogram,
          _USUAL | {"bins", "scale", "colour"}, 5),
    Shape("box plot", "Quartiles, median and whiskers; only outliers as dots.", (NUMBER,), boxes,
          frozenset({"marks", "cut", "ends", "colour", "log", "turn"}), 6,
          other_names=("boxplot", "box and whisker plot")),
    Shape("density", "A smooth curve; where it is high, many values lie.", (NUMBER,), density,
          _USUAL, 7),
    Shape("cumulative steps", "For each value, the share of cases at or below it.", (NUMBER,),
          cumulative, _USUAL | {"log", "read"}, 8),
    Shape("normal quantiles", "Near a straight line, values look normal.", (NUMBER,),
          normal_quantiles, frozenset({"ends", "colour"}), 9, other_names=("QQ plot", "Q-Q plot")),
    Shape("stem and leaf", "Every value as a stem and a digit.", (NUMBER,), stem_and_leaf,
          frozenset(), 10),
)  # fmt: skip

"""The figures a description can hold, each with its name, its heading and how it is rounded."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from theoros.answer.parts import Cell, FigureRow, Heading, Link, ResultTable, cell
from theoros.answer.wording import data_decimals, decimals_needed, number, shortened
from theoros.numeric import measures
from theoros.numeric.summaries import Summary
from theoros.table.table import Column
from theoros.verbs import follow_ups
from theoros.verbs.data.counted import Counted
from theoros.verbs.data.counts import TypedCount, TypedCounts, TypedTable
from theoros.verbs.data.groups import Group
from theoros.verbs.data.typed import SeveralTyped, TypedGroup, TypedSamples
from theoros.verbs.data.typed_from import short as _short

TRIMMED = 0.1


@dataclass(frozen=True)
class Figure:
    """One figure of a group: `more` is how many decimals it may carry beyond those of the data.

    None for a figure without a unit, which carries two decimals.
    """

    name: str
    label: str
    of: Callable[[Summary, Group], float]
    more: int | None = 1
    help: str = ""
    whole: bool = False
    same: bool = False
    """Whether it is rounded like the data where it needs no more, as a quartile is."""


FIGURES: dict[str, Figure] = {}


def _add(key: str, label: str, of: Callable[[Summary, Group], float], name: str = "", **more: object) -> None:
    FIGURES[key] = Figure(name or label, label, of, **more)  # type: ignore[arg-type]


_add("n", "n", lambda s, g: s.n, whole=True)
_add("missing", "missing", lambda s, g: g.missing, whole=True)
_add("total", "total", lambda s, g: measures.total(g.values), more=0, same=True)
_add("mean", "mean", lambda s, g: s.mean)
_add("sd", "SD", lambda s, g: s.sd, "standard deviation", help="Standard deviation of the sample, divisor n − 1")
_add("variance", "variance", lambda s, g: measures.variance(s.sd), more=2, help="The square of SD, in square units")
_add(
    "se",
    "SE",
    lambda s, g: measures.standard_error(g.values),
    "standard error of the mean",
    more=2,
    help="SD / √n: how much the mean of such a sample varies",
)
_add(
    "cv",
    "CV %",
    lambda s, g: measures.variation(g.values),
    "coefficient of variation",
    more=None,
    help="100 SD / mean; only where all values are above 0",
)
_add("minimum", "min", lambda s, g: s.minimum, "minimum", more=0)
_add("q1", "Q1", lambda s, g: s.q1, "lower quartile", same=True)
_add("median", "median", lambda s, g: s.median, same=True)
_add("q3", "Q3", lambda s, g: s.q3, "upper quartile", same=True)
_add("maximum", "max", lambda s, g: s.maximum, "maximum", more=0)
_add("range", "range", lambda s, g: s.maximum - s.minimum, more=0)
_add("iqr", "IQR", lambda s, g: s.iqr, "interquartile range", same=True)
_add("lower_fence", "lower fence", lambda s, g: s.lower_fence, more=2, same=True, help="Q1 − 1.5 × IQR")
_add("upper_fence", "upper fence", lambda s, g: s.upper_fence, more=2, same=True, help="Q3 + 1.5 × IQR")
_add(
    "outside",
    "outside",
    lambda s, g: float(g.beyond(s).sum()),
    "values outside the fences",
    whole=True,
    help="Values outside a fence. Choose it to select the rows.",
)
_add(
    "mode",
    "mode",
    lambda s, g: measures.mode(g.values),
    more=0,
    help="The most frequent value; none if several are equally frequent",
)
_add(
    "trimmed",
    "trimmed mean",
    lambda s, g: measures.trimmed_mean(g.values, TRIMMED),
    help="The mean without the lowest and the highest 10 %",
)
_add(
    "geometric",
    "geometric mean",
    lambda s, g: measures.geometric_mean(g.values),
    help="For values above 0, such as growth factors",
)
_add(
    "skewness",
    "skewness",
    lambda s, g: measures.skewness(g.values),
    more=None,
    help="0 for symmetry, above 0 for a longer tail to the right",
)
_add(
    "kurtosis",
    "kurtosis",
    lambda s, g: measures.kurtosis(g.values),
    more=None,
    help="0 for a normal curve, above 0 for heavy tails",
)


def percentile_list(text: str) -> list[float]:
    """Typed percentiles such as "5 90 97.5". Raises ValueError with what is wrong."""
    from theoros.table.kinds import NotAValue, parse_number

    made = []
    for piece in text.replace(";", " ").replace(", ", " ").replace("%", " ").split():
        try:
            value = parse_number(piece)
        except NotAValue:
            value = -1.0
        if not 0 <= value <= 100:
            raise ValueError(f"“{piece}” is not a percentile from 0 to 100, such as 90.")
        made.append(value)
    return list(dict.fromkeys(made))[:12]


def figures_table(
    groups: Sequence[tuple[str, Group, Summary, int]],
    names: Sequence[str],
    first: str,
    percentiles: Sequence[float] = (),
    rule: str = "halves",
    title: str = "",
) -> ResultTable:
    """A row for each group (label, cases, summary, decimals of its data), a column for each figure.

    Decimals are the same down a column: as many as its figures need, up to what is sensible.
    """
    chosen: list[tuple[str, Figure]] = [(name, FIGURES[name]) for name in names]
    chosen += [
        (f"p{share:g}", Figure(f"P{share:g}", f"P{share:g}", _percentile(share, rule), same=True))
        for share in percentiles
    ]
    values = [[_value(figure, s, g) for _, figure in chosen] for _, g, s, _ in groups]
    headings = [Heading(key, figure.label, help=figure.help) for key, figure in chosen]
    rows = []
    for at, (label, group, summary, places) in enumerate(groups):
        cells = []
        for k, (key, figure) in enumerate(chosen):
            column = [line[k] for line in values]
            own = [p for *_, p in groups]
            cells.append(_cell(key, figure, values[at][k], column, own, places, group, summary))
        named = replace(cell(0, shortened(label)), value=label) if label else cell(None)
        rows.append(FigureRow((named, *cells) if first else tuple(cells)))
    if first:
        headings.insert(0, Heading("group", first, numeric=False))
    return ResultTable("summary", tuple(headings), tuple(rows), title)


def _percentile(share: float, rule: str) -> Callable[[Summary, Group], float]:
    return lambda s, g: measures.percentile(g.values, share, rule) if s.n else math.nan


def _value(figure: Figure, summary: Summary, group: Group) -> float:
    if summary.n == 0 and not figure.whole:
        return math.nan
    return float(figure.of(summary, group))


def _cell(
    key: str,
    figure: Figure,
    value: float,
    column: Sequence[float],
    own: Sequence[int],
    places: int,
    group: Group,
    summary: Summary,
) -> Cell:
    if figure.whole:
        rows: tuple[int, ...] = ()
        if key == "outside" and group.values.size:
            rows = tuple(dict.fromkeys(group.rows[group.beyond(summary)].tolist()))
        return cell(int(value), rows=rows)
    if figure.more is None:
        return cell(value, number(value, 2))
    if figure.same:
        most = [min(6, p + max(figure.more, 1 if figure.more else 0)) for p in own]
        needed = [decimals_needed(v, m) for v, m in zip(column, most, strict=True) if v == v]
        decimals = max(needed, default=0)
        if needed:  # no fewer than the data have, as "34.60" beside "36.25"
            decimals = max(decimals, min(6, places))
    elif figure.more == 0:
        decimals = places
    else:
        decimals = min(6, data_decimals(places, summary.n) + figure.more - 1)
    return cell(value, number(value, decimals))


Described = tuple[Group, Summary]


MOST_TOGETHER = 12
"""As many groups, or levels of each category, are carried over at once."""


MOST = 6
"""Other groups that a row offers to be tested against one by one."""


def _typed(group: Group, s: Summary, name: str) -> TypedGroup:
    """The figures of a group as they would be typed."""
    return TypedGroup(shortened(name, 80), s.n, _short(s.mean), _short(s.sd))


def carried(table: str, column: Column, groups: Sequence[Described]) -> tuple[Link, ...]:
    """A test that holds the figures of one group, or of the first two; none it cannot hold."""
    typed = [_typed(group, s, f"these {group.phrase}" if not group.label else group.phrase) for group, s in groups[:2]]
    both = (*typed, TypedGroup())[:2]  # one that is not carried has still to be typed
    data = TypedSamples(shortened(column.name, 80), column.unit, both)
    made = follow_ups.hypothesis_test(data, table=table)
    carried_slots = [f"data.groups.{at}." for at in range(len(typed))]
    if any(slot.problem for slot in made.slots({}) if slot.name.startswith(tuple(carried_slots))):
        return ()  # such as figures too large to square
    if len(groups) == 1:
        return (Link("Carry these figures into a test", statement=made),)
    one, two = (shortened(group.label, 30) for group, _ in groups[:2])
    return (Link(f"Test {one} against {two} by these figures", statement=made),)


def carried_together(column: Column, groups: Sequence[Described]) -> tuple[Link, ...]:
    """A test of several means that holds the figures of all groups."""
    if not 2 < len(groups) <= MOST_TOGETHER:
        return ()
    typed = tuple(_typed(group, s, group.phrase) for group, s in groups)
    data = SeveralTyped(shortened(column.name, 80), column.unit, typed)
    made = follow_ups.hypothesis_test(data, method="anova")
    if any(slot.problem for slot in made.slots({})):
        return ()
    return (Link(f"Test these {len(groups)} means by their figures", statement=made),)


def carried_counts(p: Counted) -> tuple[Link, ...]:
    """A test that holds the counts of one category, or of two."""
    counts = p.counts.T.astype(int).tolist()  # (levels, groups)
    name = shortened(p.column.name, 80)
    levels = [shortened(level, 80) for level in p.levels]
    if len(levels) < 2 or (p.by is not None and max(len(levels), len(p.groups)) > MOST_TOGETHER):
        return ()
    if p.by is None:
        held = tuple(TypedCount(n, line[0]) for n, line in zip(levels, counts, strict=True))
        made = follow_ups.hypothesis_test(TypedCounts(name, held), "shares", "chi-square of fit")
        return (Link("Test the shares by these counts", statement=made),)
    columns = tuple(shortened(group, 80) for group in p.groups)
    data = TypedTable(name, shortened(p.by, 80), tuple(levels), columns, tuple(tuple(line) for line in counts))
    made = follow_ups.hypothesis_test(data, "relation", "chi-square")
    return (Link(f"Test {name} against {p.by} by these counts", statement=made),)


def links_of_row(table: str, column: Column, groups: Sequence[Described], at: int) -> tuple[Link, ...]:
    """What the row of group `at` can be carried into: a test against each other group."""
    able = [pair for pair in groups if pair[1].n > 1]
    own = groups[at]
    if own[1].n < 2:
        return ()
    others = [pair for pair in able if pair is not own]
    if not 0 < len(others) <= MOST:
        return carried(table, column, [own])
    return tuple(link for other in others for link in carried(table, column, [own, other]))

"""What pictures of a number say in words: of one group, of several, of several numbers."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.nouns import counted, with_article
from theoros.answer.parts import Link, Reading
from theoros.answer.wording import (
    between_data,
    data_decimals,
    difference_unit,
    exact,
    listed,
    listed_briefly,
    number,
    percent,
    sentence_case,
    shortened,
    statistic,
    telling_apart,
    whole,
    with_unit,
)
from theoros.lazy_imports import np
from theoros.numeric.correlation import pearson
from theoros.numeric.density import normal_scores
from theoros.numeric.lean_and_peaks import shape_of
from theoros.numeric.normality import shapiro_wilk
from theoros.numeric.procedures.means import mean_interval
from theoros.numeric.summaries import Summary
from theoros.verbs import follow_ups
from theoros.verbs.core.row_links import row_links
from theoros.verbs.core.verdict import shown
from theoros.verbs.data.groups import Group
from theoros.verbs.data.pictures import describe_group, describe_groups
from theoros.verbs.data.two_columns import TwoColumns
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.plot.data.numbers import Plotted
from theoros.verbs.plot.statement import PlotStatement

RINGED = ("stacked dots", "dots at exact values", "box plot")
"""Shapes that show outliers as rings."""
FEW = 5
"""Fewer values than this say little about their middle and spread."""
LEAST_STRAIGHT = 5
"""Fewer points than this follow any line."""
MOST_SAID = 4
"""Groups of which it is told how many lie on each side of a line."""

Summed = tuple[Group, Summary]


def alt_words(p: Plotted) -> str:
    """Words in place of the picture: shape, centre, spread and unusual values of each group."""
    shape = p.statement.shape
    if shape == "means with intervals":
        return f"Means with intervals of {p.column.name}. {_means_alt(p)}."
    if not p.statement.also:
        places = p.table.decimals(p.column.name)
        return describe_groups(p.cases.groups, p.column.name, p.column.unit, places, shape, p.statement.quartiles)
    names = [group.label for group in p.cases.groups]
    each = [
        describe_group(group, p.table.column(name).unit, p.table.decimals(name), p.statement.quartiles)
        for name, group in zip(names, p.cases.groups, strict=True)
    ]
    return f"{sentence_case(shape)} of {listed(names)}. {'; '.join(each)}."


def read_number(p: Plotted, compared: Sequence[str]) -> Reading:
    """The Reading, with what the lines on the picture tell, and a comparison by eye."""
    full = [(group, group.summary()) for group in p.cases.groups if group.values.size]
    shape = p.statement.shape
    if shape == "means with intervals":
        headline, paragraphs = _means(p, full)
    elif shape == "normal quantiles":
        headline, *paragraphs = _normality(full)
    else:
        headline, paragraphs = (_several if p.statement.also else _groups)(p, full)
    cautions, outlying = _cautions(p, full)
    told = (*_side_words(p), *_below_words(p), *paragraphs, *compared)
    links = (*row_links(p.table, outlying), *_links(p, full))
    return Reading(headline, told, cautions=tuple(cautions), next=links)


def _amount(p: Plotted, group: Group, value: float) -> str:
    """A value of the number that a group holds, with its unit."""
    column = p.table.column(group.label if p.statement.also else p.column.name)
    return with_unit(between_data(value, p.table.decimals(column.name)), column.unit)


def _apart(p: Plotted, value: float) -> str:
    """A distance on the scale: between percentages it is in percentage points."""
    unit = difference_unit(p.column.unit)
    return with_unit(between_data(value, p.table.decimals(p.column.name)), unit)


def _whose(p: Plotted, group: Group) -> tuple[str, str]:
    """How to speak of the cases of a group, and what they do with a value: have it or are it."""
    if p.statement.also:
        return group.phrase, "are"
    return group.phrase if group.label else counted(group.values.size, p.table.noun), "have"


def _means(p: Plotted, full: Sequence[Summed]) -> tuple[str, list[str]]:
    """Headline and paragraphs for means with their intervals."""
    name, column = p.column.name, p.column
    places = data_decimals(p.table.decimals(name), 2)
    means = telling_apart([s.mean for _, s in full], places)
    said = [
        f"{with_unit(text, column.unit)}{f' for {group.phrase}' if len(full) > 1 else ''}"
        for (group, _), text in zip(full, means, strict=True)
    ]
    headline = f"The mean {name} is {listed_briefly(said)}."
    paragraphs = ["Each bar is a 95\u00a0% confidence interval for the mean. It does not show where single values lie."]
    if len(full) == 2 and min(s.n for _, s in full) > 1:
        ends = [mean_interval(group.values, 0.95) for group, _ in full]
        apart = ends[0][2] < ends[1][0] or ends[1][2] < ends[0][0]
        paragraphs.append(
            "The two intervals do not overlap, so the means probably differ. Use a test to check it."
            if apart
            else "The two intervals overlap, which does not show whether the means differ. Use a test."
        )
    if any(s.n == 1 for _, s in full):
        paragraphs.append("A single value has no interval.")
    return headline, paragraphs


def _means_alt(p: Plotted) -> str:
    """Each mean with the ends of its interval."""
    places = data_decimals(p.table.decimals(p.column.name), 2)
    parts = []
    for group in p.cases.groups:
        name = f"{shortened(group.label)}: " if group.label else ""
        if not group.values.size:
            parts.append(f"{name}no values")
            continue
        low, mean, high = (number(v, places) for v in mean_interval(group.values, 0.95))
        ends = f", interval {low} to {with_unit(high, p.column.unit)}" if low != high else ""
        parts.append(f"{name}n = {whole(group.values.size)}, mean {mean}{ends}")
    return "; ".join(parts)


def _normality(full: Sequence[Summed]) -> list[str]:
    """What normal quantiles show: how straight the points lie."""
    made = []
    for group, s in full[:MOST_SAID]:
        whose = f" of {group.phrase}" if group.label else ""
        if s.n < LEAST_STRAIGHT or not s.sd > 0:
            made.append(f"The points{whose} are too few to judge whether they follow a line.")
            continue
        order = np.sort(group.values)
        r = pearson(order, normal_scores(s.n))
        lean = shape_of(group.values, s)
        bent = ""
        if lean is not None and lean.kind in ("right", "left") and lean.clear:
            bent = f", as for values that are skewed to the {lean.kind}"
        p = shapiro_wilk(group.values)
        said = f" (r = {statistic(r, 1)})"
        if p is not None and shown(p):
            made.append(
                f"The points{whose} do not follow the straight line{bent}{said}, so the values do not look normal."
            )
        else:
            made.append(f"The points{whose} lie close to a straight line{said}, so the values look normal.")
    return made


def _groups(p: Plotted, full: Sequence[Summed]) -> tuple[str, list[str]]:
    """Headline and paragraphs for one number, of all cases or in groups."""
    if len(full) == 1:
        return _one_group(p, *full[0])
    name = p.column.name
    high, low = max(full, key=lambda one: one[1].median), min(full, key=lambda one: one[1].median)
    gap = high[1].median - low[1].median
    if gap == 0:
        middle = _amount(p, high[0], high[1].median)
        return f"The groups have the same median {name}, {middle}.", []
    headline = (
        f"Among {high[0].phrase} the median {name} is {_amount(p, high[0], high[1].median)}; "
        f"among {low[0].phrase} it is {_amount(p, low[0], low[1].median)}."
    )
    if len(full) == 3:
        each = [f"{_amount(p, group, s.median)} for {group.phrase}" for group, s in full]
        headline = f"The median {name} is {listed(each)}."
    reach = max(s.q3 for _, s in full) - min(s.q1 for _, s in full)
    few = min(s.n for _, s in full) < FEW
    if len(full) != 2 or p.statement.gap or reach <= 0 or few:
        return headline, []
    return headline, [
        f"The medians differ by {_apart(p, gap)}. Both boxes together span {_apart(p, reach)}, so the difference "
        f"is {percent(gap, reach)} of that span."
    ]


def _one_group(p: Plotted, group: Group, s: Summary) -> tuple[str, list[str]]:
    name, values, middle = p.column.name, group.values, _amount(p, group, s.median)
    if values.size == 1:
        return f"There is one value of {name}: {middle}.", []
    if s.minimum == s.maximum:
        return f"All {counted(values.size, 'value')} of {name} are {middle}.", []
    # equal values at the median may hold far more than half of the cases
    half = abs(int((values <= s.median).sum()) - values.size / 2) <= 0.5
    headline = f"The median {name} of the {group.phrase} is {middle}."
    if half:
        headline = f"Half of the {group.phrase} have {with_article(name)} of {middle} or less."
    ends = [_amount(p, group, value) for value in (s.q1, s.q3, s.minimum, s.maximum)]
    return headline, [
        f"The middle half lies between {ends[0]} and {ends[1]}, and all values between {ends[2]} and {ends[3]}."
    ]


def _several(p: Plotted, full: Sequence[Summed]) -> tuple[str, list[str]]:
    """Headline and paragraphs for several numbers on one scale."""
    each = [f"{_amount(p, group, s.median)} for {group.label}" for group, s in full]
    verb = "medians are" if len(each) > 1 else "median is"
    headline = f"The {verb} {listed_briefly(each)}."
    units = {p.table.column(group.label).unit or "no unit" for group, _ in full}
    if len(units) == 1:
        return headline, []
    return headline, [
        f"These numbers have different units ({listed(sorted(units))}), so only their shapes can be compared on "
        "one scale."
    ]


def _cautions(p: Plotted, full: Sequence[Summed]) -> tuple[list[str], list[int]]:
    """What to be careful with, and the rows that lie beyond the fences."""
    several = len(full) > 1
    cautions = []
    if any(1 < s.n < FEW or (s.n == 1 and several) for _, s in full):
        where = ""
        if several:
            where = " of a number" if p.statement.also else " in a group"
        what = {"means with intervals": "a mean says", "normal quantiles": "a shape says"}.get(
            p.statement.shape, "medians and boxes say"
        )
        cautions.append(f"With fewer than {FEW} values{where}, {what} little.")
    beyond = [(group, group.rows[s.outside(group.values)]) for group, s in full]
    beyond = [(group, rows) for group, rows in beyond if rows.size]
    if not beyond:
        return cautions, []
    total = sum(rows.size for _, rows in beyond)
    among = "of" if p.statement.also else "among"
    names = [group.label if p.statement.also else group.phrase for group, _ in beyond]
    parts = [f"{rows.size} {among} {name}" for name, (_, rows) in zip(names, beyond, strict=True)]
    where = f": {listed(parts)}" if several else ""
    ringed = " (drawn as rings)" if p.statement.shape in RINGED else ""
    cautions.append(
        f"{total} {'values lie' if total > 1 else 'value lies'} outside the fences{ringed}{where}. Check "
        f"{'them' if total > 1 else 'it'}: an outlier is not always an error."
    )
    return cautions, np.unique(np.concatenate([rows for _, rows in beyond])).tolist()


def _side_words(p: Plotted) -> list[str]:
    """What the split lines say, in words."""
    cuts = p.cuts
    if not cuts:
        return []
    places = p.table.decimals(p.column.name)
    at = [with_unit(between_data(cut, places), p.column.unit) for cut in cuts]
    made = []
    for group in _told(p):
        whose, have = _whose(p, group)
        inside, side = group.values >= cuts[0], f"{at[0]} or more"
        if len(cuts) > 1:
            inside = inside & (group.values < cuts[1])
            side = f"at least {at[0]} and less than {at[1]}"
        made.append(_share_sentence(whose, have, side, int(inside.sum()), group.values.size))
    return [*made, *_others(p)]


def _share_sentence(whose: str, have: str, side: str, count: int, size: int) -> str:
    """ "Of the 180 bushes, 35 % have 60 mm or more.", "None of the …", "All …"."""
    if count == 0:
        one = {"have": "has", "are": "is"}[have]
        return f"None of the {whose} {one} {side}."
    if count == size:
        return f"All of the {whose} {have} {side}."
    return f"Of the {whose}, {percent(count, size)} {have} {side}."


def _told(p: Plotted) -> list[Group]:
    """The groups of which a line's sides are told in words."""
    return [group for group in p.cases.groups if group.values.size][:MOST_SAID]


def _others(p: Plotted) -> list[str]:
    more = sum(group.values.size > 0 for group in p.cases.groups) - MOST_SAID
    if more <= 0:
        return []
    others = counted(more, "group") if more > 1 else "group"
    return [f"The picture shows the other {others} too."]


def _below_words(p: Plotted) -> list[str]:
    """What the reading line of cumulative steps says, in words."""
    at = p.statement.read
    if at is None or "read" not in p.statement.uses:
        return []
    amount = with_unit(exact(at), p.column.unit)
    made = []
    for group in _told(p):
        whose, have = _whose(p, group)
        count = int((group.values <= at).sum())
        made.append(_share_sentence(whose, have, f"{amount} or less", count, group.values.size))
    return [*made, *_others(p)]


def _links(p: Plotted, full: Sequence[Summed]) -> list[Link]:
    """What to ask next: the figures, and a test where there are two to compare."""
    s, table = p.statement, p.table.name
    links = [_describe_link(s)]
    differ = f"Test whether the two differ in {p.column.name}"
    if len(full) == 2 and s.by:
        first, second = (group.label for group, _ in full)
        test = follow_ups.hypothesis_test(TwoLevels(s.what, s.by, s.and_by, first, second), table=table)
        links.append(Link(differ, statement=test))
    elif len(full) == 2 and s.also:
        one, other = (p.table.column(group.label) for group, _ in full)
        if one.unit == other.unit:
            test = follow_ups.hypothesis_test(TwoColumns(one.name, other.name), table=table)
            links.append(Link(f"Test whether {one.name} and {other.name} differ", statement=test))
    return links


def _describe_link(s: PlotStatement) -> Link:
    if s.also:
        made = follow_ups.describe(s.table, s.what, also=s.also)
        return Link(f"Describe {listed([str(s.what), *s.also])}", statement=made)
    each = s.split_words
    label = f"Describe {s.what}" + (f" for each {each}" if each else "")
    made = follow_ups.describe(s.table, s.what, by=s.by, and_by=s.and_by)
    return Link(label, statement=made)

"""A number in words: where it lies, how it spreads, what its groups have apart, what lies beyond."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from functools import cached_property

from theoros.answer.nouns import counted
from theoros.answer.wording import (
    between_data,
    difference_unit,
    listed,
    listed_briefly,
    located,
    number,
    sentence_case,
    telling_apart,
    whole,
    with_unit,
)
from theoros.numeric.lean_and_peaks import LEAST
from theoros.numeric.summaries import Summary
from theoros.table.table import Column
from theoros.verbs.data.groups import Group
from theoros.verbs.describe.words.sample_shape import shape_words, shapes_of_groups

MOST_SHOWN = 4
"""Outlying rows named in a sentence; the rest are counted."""
MOST_SHAPES = 6
"""Groups whose shapes are told; more would be a list that nobody reads."""
FEW = 5
"""Values of which quartiles say something."""


@dataclass(frozen=True)
class NumberWords:
    """Sentences on a number, of all cases together or of groups that are compared."""

    column: Column
    noun: str
    """What a row is."""
    places: int
    """Decimals of the data."""
    full: tuple[tuple[Group, Summary], ...]
    """The groups that have values, with their figures."""

    def amount(self, value: float, more: int = 0) -> str:
        """Figures on the data as they are; means and spreads rounded to so many decimals more."""
        spread = self._spread_of_all
        if 1e9 <= abs(value) < 1e15 and spread < 1e-3 * abs(value):
            return with_unit(located(value, max(more, 0 if float(value).is_integer() else 1), spread), self.column.unit)
        text = number(value, min(6, self.places + more)) if more else between_data(value, self.places)
        return with_unit(text, self.column.unit)

    @cached_property
    def _spread_of_all(self) -> float:
        """From the least value of all groups to the greatest."""
        return max(s.maximum for _, s in self.full) - min(s.minimum for _, s in self.full)

    def width(self, value: float) -> str:
        return with_unit(between_data(value, self.places), difference_unit(self.column.unit))

    def fence(self, value: float) -> str:
        return with_unit(between_data(value, self.places, 2), self.column.unit)

    # one group

    def headline(self) -> str:
        """Mean and median of one group; of several, which mean is higher."""
        if len(self.full) > 1:
            return self._compared_means()
        (group, s), name = self.full[0], self.column.name
        if s.n == 1:
            return f"There is one value of {name}: {self.amount(s.mean)}."
        whose = f"{whole(s.n)} {group.phrase}" if group.label else counted(s.n, self.noun)
        mean, median = self.amount(s.mean, 1), self.amount(s.median)
        return f"For the {whose}, the mean of {name} is {mean} and the median is {median}."

    def paragraphs(self) -> list[str]:
        """Spread and shape, of one group or of those that are compared."""
        if len(self.full) > 1:
            return [*self._compared_spreads(), *self._shapes()]
        group, s = self.full[0]
        if s.n == 1:
            return []
        shape = shape_words(self.column.name, group.values, s)
        return [*self._spread(s), *([shape] if shape else [])]

    def _spread(self, s: Summary) -> list[str]:
        if s.minimum == s.maximum:
            return [f"Every value of {self.column.name} is {self.amount(s.mean)}, so there is no spread."]
        ends, sd = f"{self.amount(s.q1)} and {self.amount(s.q3)}", self.amount(s.sd, 1)
        words = [f"The middle half lies between {ends}; the standard deviation is {sd}."]
        pull = (s.mean - s.median) / s.sd if s.sd > 0 else 0.0
        if abs(pull) > 0.2 and s.n < LEAST:
            side = "above" if pull > 0 else "below"
            tail = "high" if pull > 0 else "low"
            words.append(f"The mean is clearly {side} the median, because {tail} values pull it.")
        return words

    # several

    def _compared_means(self) -> str:
        full, name = self.full, self.column.name
        means = telling_apart([s.mean for _, s in full], self.places + 1)
        said = {id(group): with_unit(text, self.column.unit) for (group, _), text in zip(full, means, strict=True)}
        high, low = max(full, key=lambda pair: pair[1].mean), min(full, key=lambda pair: pair[1].mean)
        one, other = said[id(high[0])], said[id(low[0])]
        if high[1].mean == low[1].mean:
            return f"All groups have the same mean {name}, {self.amount(high[1].mean, 1)}."
        if len(full) == 2:
            return f"The mean {name} is higher for {high[0].phrase}, {one}, than for {low[0].phrase}, {other}."
        if len(full) == 3:
            return f"The mean {name} is {listed([f'{said[id(group)]} for {group.phrase}' for group, _ in full])}."
        return f"The mean {name} is highest for {high[0].phrase}, {one}, and lowest for {low[0].phrase}, {other}."

    def _compared_spreads(self) -> list[str]:
        wide = [pair for pair in self.full if pair[1].n > 1]
        if len(wide) < 2:
            return []
        most, least = max(wide, key=lambda pair: pair[1].iqr), min(wide, key=lambda pair: pair[1].iqr)
        if most[1].iqr == 0:
            return ["In every group, the values of the middle half are all equal."]
        if most[1].iqr > 1.2 * least[1].iqr:
            widest = f"{most[0].phrase} ({self.width(most[1].iqr)})"
            narrowest = f"{least[0].phrase} ({self.width(least[1].iqr)})"
            return [f"The interquartile range is largest for {widest} and smallest for {narrowest}."]
        return ["The interquartile ranges of the groups are similar."]

    def _shapes(self) -> list[str]:
        if len(self.full) > MOST_SHAPES:
            return []
        shapes = shapes_of_groups(self.column.name, [(g.phrase, g.values, s) for g, s in self.full])
        return [shapes] if shapes else []

    # what to mind

    def cautions(self) -> list[str]:
        """Values beyond the fences, and groups that are too small for quartiles."""
        made = self._outliers()
        if any(s.n < FEW for _, s in self.full):
            where = " in a group" if len(self.full) > 1 else ""
            made.append(f"With fewer than {FEW} values{where}, quartiles say little.")
        return made

    def outlying_rows(self) -> list[int]:
        """Rows with a value beyond a fence of their group, each once."""
        return list(dict.fromkeys(row for group, s in self.full for row in group.rows[group.beyond(s)].tolist()))

    def _outliers(self) -> list[str]:
        rows = self.outlying_rows()
        if not rows:
            return []
        named: list[str] = []
        for group, s in self.full:
            outside = group.beyond(s)
            beyond = group.rows[outside]
            # only as many are written out as are shown; a row that counts several times stands once
            values = dict(zip(beyond.tolist(), group.values[outside].tolist(), strict=True))
            often = Counter(beyond.tolist())
            for row in list(values)[: MOST_SHOWN - len(named)]:
                side = "above" if values[row] > s.upper_fence else "below"
                where = f"{side} {self.fence(s.upper_fence if side == 'above' else s.lower_fence)}"
                times = f", {counted(often[row], 'time')}" if often[row] > 1 else ""
                named.append(f"row {row + 1} ({self.amount(values[row])}{times}, {where})")
        verb, them = ("lies", "it") if len(rows) == 1 else ("lie", "them")
        return [
            f"{sentence_case(listed_briefly(named, MOST_SHOWN, len(rows)))} {verb} outside the fences. Check "
            f"{them}: an outlier is not always an error."
        ]

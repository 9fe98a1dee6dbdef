"""What pictures of counts say in words: which level is most frequent, how shares differ."""

from __future__ import annotations

from theoros.answer.nouns import counted, group_phrase
from theoros.answer.parts import Reading
from theoros.answer.wording import listed_briefly, percent, sentence_case, shortened, whole
from theoros.lazy_imports import np
from theoros.verbs.data.counted import Counted

MOST_LEVELS_SAID = 12
"""Levels of a category that are told one by one in the words for a picture."""


def count_words(p: Counted, shape: str) -> str:
    """Words for a picture of counts."""
    parts = []
    for name, counts in zip(p.groups, p.counts.tolist(), strict=True):
        there = zip(p.levels, counts, strict=True)
        levels = [f"{shortened(level)} {whole(int(n))}" for level, n in there]
        said = listed_briefly(levels, MOST_LEVELS_SAID)
        parts.append(f"{shortened(name)}: {said}" if name else said)
    title = sentence_case(p.column.name) + (f" for each {p.by}" if p.by else "")
    return f"{title}, as {shape}. {'; '.join(parts)}."


def count_reading(p: Counted) -> Reading:
    """What counts of one category, or of two, say."""
    what, by = p.column.name, p.by
    noun = p.table.case_noun
    totals = p.counts.sum(axis=0)
    n = int(p.total)
    order = np.argsort(-totals, kind="stable")
    most = int(totals[order[0]])
    tops = [shortened(p.levels[k]) for k in order.tolist() if totals[k] == most]
    share = percent(most, n)
    headline = f"The most frequent {what} is {tops[0]}: {share} of the {counted(n, noun)}."
    if len(p.levels) == 1:
        headline = f"All {counted(n, noun)} have the {what} {tops[0]}."
        if n == 1:
            headline = f"The one {noun} has the {what} {tops[0]}."
    elif len(tops) == len(p.levels):
        headline = f"Every {what} is equally frequent: {counted(most, noun)} each."
    elif len(tops) > 1:
        headline = (
            f"The most frequent levels of {what} are {listed_briefly(tops)}: {counted(most, noun)} each, of {whole(n)}."
        )
    paragraphs = []
    if by is not None:
        sizes = p.counts.sum(axis=1)
        full = [g for g in range(len(p.groups)) if sizes[g]]
        shares = p.counts[full] / sizes[full][:, None]
        spread = shares.max(axis=0) - shares.min(axis=0)
        if len(full) > 1 and spread.max() > 0:
            level = int(np.argmax(spread))
            high, low = int(np.argmax(shares[:, level])), int(np.argmin(shares[:, level]))
            names = [group_phrase(p.groups[g], by, noun) for g in full]

            def said(place: int) -> str:
                g = full[place]
                return percent(int(p.counts[g, level]), int(sizes[g]))

            headline = (
                f"The share of {shortened(p.levels[level])} differs most: {said(high)} of "
                f"{names[high]} and {said(low)} of {names[low]}."
            )
            if float(spread.max()) < 0.05:
                paragraphs.append("The shares of all levels are similar in all groups.")
            paragraphs.append("Shares that differ in this sample may be equal in the population.")
        elif len(full) > 1:
            headline = f"The shares of every {what} are the same in all groups."
    return Reading(headline, tuple(paragraphs))

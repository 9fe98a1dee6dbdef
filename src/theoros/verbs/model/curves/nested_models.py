"""One curve for all against one for each group, and one slope against several: by F."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.regression.least_squares import Dependent, TooFewCases, extra_f, fit
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.data import PairsGroup


@dataclass(frozen=True)
class NestedTest:
    """The F of what a larger model has beyond a smaller one."""

    f: float
    df1: int
    df2: int
    p: float


def separate_against_one(one: Fitted, each: list[Fitted]) -> NestedTest | None:
    """Whether the groups take curves of their own, beside one for all (the same cases in both)."""
    rss = sum(fit_.rss for fit_ in each)
    df = sum(fit_.df for fit_ in each)
    return _compared(one.rss, one.df, rss, df)


def slopes_alike(groups: list[PairsGroup]) -> tuple[NestedTest | None, float]:
    """Whether lines of the groups have different slopes; and the slope that is common to all."""
    x = np.concatenate([group.x for group in groups])
    y = np.concatenate([group.y for group in groups])
    codes = np.repeat(np.arange(len(groups)), [group.x.size for group in groups])
    marks = (codes[:, None] == np.arange(len(groups))).astype(np.float64)
    try:
        common = fit(np.column_stack([marks, x - x.mean()]), y)
        own = fit(np.hstack([marks, marks * (x - x.mean())[:, None]]), y)
    except (Dependent, TooFewCases):
        return None, float("nan")
    slope = float(common.coefficients[-1])
    return _compared(common.rss, common.df, own.rss, own.df), slope


def _compared(rss0: float, df0: int, rss1: float, df1: int) -> NestedTest | None:
    if df1 < 1 or df0 <= df1 or not rss1 > 1e-20 * max(rss0, 1e-300):
        return None
    f, more, rest = extra_f(rss0, df0, rss1, df1)
    f = max(f, 0.0)
    return NestedTest(f, more, rest, float(FisherF(more, rest).sf(f)))

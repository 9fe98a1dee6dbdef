"""Every curve through the pairs, what its residuals show, and which of them is suggested."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.nouns import counted
from theoros.answer.parts import Tone
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.levels import below
from theoros.numeric.regression.diagnostics import Pattern, corrected_aic, cubic_basis, outlying, pattern
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.verbs.model.curves.curve import CannotFit, Curve, Fitted, curves
from theoros.verbs.model.data import ModelPairs, PairsChoice, PairsGroup, read_pairs

if TYPE_CHECKING:
    from theoros.table.table import Table
    from theoros.verbs.core.slots import Tables
    from theoros.verbs.model.statement import ModelStatement

CLEAR = 0.01
"""A pattern of residuals with a p-value below this is told."""
AS_GOOD = 2.0
"""A simpler curve is as good as another whose AICc is lower by no more than this."""
FOR_A_LINE, FOR_FEW_ROWS = 4.0, 20.0
"""A curve is suggested for a line if its AICc is lower by more than the first, and the second over n."""
SHOWN, FOUND = 0.05, 0.001
"""Where a line is not shown at the first level, a curve is suggested only if it is at the second: of a dozen, with
joints that were searched for, the best looks better than it is."""
HANGS = 0.9
"""From this leverage on a curve is drawn to where one row is."""
MANY = 20_000
"""Of more pairs than these, other curves are worked out after the chosen one is shown."""


def curve_of(s: ModelStatement, name: str = "") -> Curve:
    """A curve by its name, the chosen one by default."""
    curve = curves()[name or s.curve]
    return curve.of_degree(s.degree) if curve.of_degree is not None else curve


def _shown(p: float) -> bool:
    """Whether residuals speak against a curve; of too few nothing is known, which is told elsewhere."""
    return not math.isnan(p) and below(p, CLEAR)


@dataclass(frozen=True, eq=False)
class Diagnosed:
    """A curve that was fitted, with what its residuals show."""

    fitted: Fitted
    basis: Floats | None = None
    """Of cubics in x, which is the same for all curves through the same pairs."""

    @cached_property
    def pattern(self) -> Pattern:
        f = self.fitted
        return pattern(f.x, f.fitted, f.residuals, f.terms, self.basis)

    @cached_property
    def outliers(self) -> Floats:
        """Places of cases whose residual is too large for chance."""
        f = self.fitted
        leverage = f.leverage if f.leverage is not None else np.zeros(f.n)
        return outlying(f.residuals, leverage, f.df, f.sigma)

    @property
    def nonlinear(self) -> bool:
        return not self.fitted.perfect and _shown(self.pattern.bend)

    @property
    def heteroscedastic(self) -> bool:
        return not self.fitted.perfect and _shown(self.pattern.spread)

    def shown(self) -> tuple[str, Tone]:
        """What the residuals show in a few words, and the tone of it."""
        if self.fitted.perfect:
            return "no residuals: all pairs lie on it", ""
        said = []
        if self.nonlinear:
            said.append("a bend is left")
        if self.heteroscedastic:
            said.append(f"the spread {'grows' if self.pattern.grows else 'shrinks'}")
        n = int(self.outliers.size)
        if n:
            said.append(f"{counted(n, 'unusual row')}")
        if not said and math.isnan(self.pattern.bend):
            return "too few rows to judge", ""
        if not said:
            return "no pattern", "good"
        return ", ".join(said), "bad" if self.nonlinear or self.heteroscedastic else "warn"


def fit_group(curve: Curve, group: PairsGroup) -> Fitted | str:
    """A curve through the pairs of a group, or in words why not."""
    if group.x.size < 2:
        return "there is one pair only" if group.x.size else "there are no pairs"
    if np.ptp(group.x) == 0:
        return "all values of x are equal, so no slope can be fitted"
    if np.ptp(group.y) == 0:
        return "all values of y are equal, so there is nothing to explain"
    try:
        return curve.fit(group.x, group.y)
    except CannotFit as why:
        return f"it {why}"


def suggested(found: dict[str, Diagnosed | str]) -> tuple[str, str]:
    """The curve that is advised and the reason, of those that may be; empty for none.

    The simplest curve whose AICc is as low as the lowest, give or take 2, and that leaves no bend;
    if all leave one, the lowest of them. A straight line is given up for more than that, the more
    the fewer rows there are, and only for a curve that does not hang on one of them. Where none
    is clearly better than a level line, none is advised. How often this errs is in
    `benchmarks/model_advice.txt`.
    """
    able = {
        name: one
        for name, one in found.items()
        if isinstance(one, Diagnosed) and curves()[name].suggests and not math.isnan(one.fitted.aicc)
    }
    if not able:
        return "", ""
    line = able.get("line")
    if line is not None:
        kept = line.fitted.aicc - (FOR_A_LINE + FOR_FEW_ROWS / line.fitted.n)
        able = {
            name: one
            for name, one in able.items()
            if one is line or one.fitted.perfect or (one.fitted.aicc < kept and not _hangs(one))
        }
        if not _shown_at(line, SHOWN):
            able = {name: one for name, one in able.items() if one is line or _shown_at(one, FOUND)}
        if not _beats_level(able.values()):
            return "", ""
    best = min(one.fitted.aicc for one in able.values())
    near = {name: one for name, one in able.items() if one.fitted.aicc <= best + AS_GOOD or one.fitted.perfect}
    straight = [name for name, one in near.items() if not one.nonlinear] or list(near)
    chosen = min(straight, key=lambda name: (curves()[name].terms, curves()[name].order))
    low = min(able, key=lambda name: able[name].fitted.aicc)
    if low == chosen:
        return chosen, "because its AICc is lowest"
    return chosen, "because it is simpler and no other curve fits clearly better"


def _shown_at(one: Diagnosed, level: float) -> bool:
    """Whether a curve explains more than chance does, as far as an F test tells; True where there is none."""
    found = _against_mean(one.fitted)
    return found is None or below(found[2], level)


def overall_test(f: Fitted) -> tuple[int, float, float] | None:
    """Of a curve that is tested as a whole: its coefficients but one, F against the mean of y, and p."""
    return None if f.curve.overall == "none" else _against_mean(f)


def _against_mean(f: Fitted) -> tuple[int, float, float] | None:
    if f.standard_errors is None or f.perfect or f.df < 1:
        return None
    total, more = sum_of_squares(f.y), f.terms - 1
    if not f.r_squared < 1 or more < 1:
        return None
    ratio = max(0.0, total - f.rss) / more / (f.rss / f.df)
    return more, ratio, float(FisherF(more, f.df).sf(ratio))


def _hangs(one: Diagnosed) -> bool:
    """Whether a curve goes where a single row is because that row is there."""
    leverage = one.fitted.leverage
    return leverage is not None and bool(leverage.size) and float(leverage.max()) > HANGS


def _beats_level(able: Iterable[Diagnosed]) -> bool:
    """Whether one of them tells more than the mean of y does."""
    some = list(able)
    y = some[0].fitted.y
    level = corrected_aic(sum_of_squares(y), int(y.size), 1)
    return any(one.fitted.perfect or one.fitted.aicc < level - AS_GOOD for one in some)


@dataclass(eq=False)
class FitCache:
    """Curves through the pairs of a statement, each fitted when it is first asked for."""

    pairs: ModelPairs
    judged: dict[tuple[str, int], Diagnosed | str] = field(default_factory=dict)

    @cached_property
    def group(self) -> PairsGroup:
        """All pairs together."""
        return self.pairs.all

    @cached_property
    def basis(self) -> Floats | None:
        return cubic_basis(self.group.x)

    def curve(self, s: ModelStatement, name: str = "") -> Diagnosed | str:
        """The chosen curve, or another by its name; in words why there is none."""
        name = name or s.curve
        key = name, s.degree if curves()[name].of_degree is not None else 0
        if key not in self.judged:
            found = fit_group(curve_of(s, name), self.group)
            self.judged[key] = found if isinstance(found, str) else Diagnosed(found, self.basis)
        return self.judged[key]

    def has_all(self, s: ModelStatement) -> bool:
        """Whether every curve is fitted already."""
        wanted = {curve.name for curve in curves().values() if curve.suggests}
        return wanted <= {name for name, _ in self.judged}

    def all(self, s: ModelStatement) -> dict[str, Diagnosed | str]:
        """The chosen curve and all that may be suggested, by name."""
        return {name: self.curve(s, name) for name, one in curves().items() if name == s.curve or one.suggests}


_LAST: list[tuple[Table, PairsChoice, FitCache]] = []


def through(s: ModelStatement, tables: Tables) -> FitCache:
    """The curves of a statement, those of the last one if only what is read off them changed.

    A reading line that is dragged, another confidence or another curve fit nothing anew. Raises
    CannotAnswer.
    """
    table = tables[s.table]
    key = s.pairs_choice
    if _LAST and _LAST[0][0] is table and _LAST[0][1] == key:
        return _LAST[0][2]
    made = FitCache(read_pairs(key, tables))
    _LAST[:] = [(table, key, made)]
    return made

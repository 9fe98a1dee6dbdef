"""Every curve through the pairs, what its residuals show, and which of them is suggested."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.wording import counted, significant
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.diagnostics import Pattern, cubic_basis, outlying, pattern
from theoros.verbs.model.curves.curve import CannotFit, Curve, Fitted, curves
from theoros.verbs.model.curves.polynomials import polynomial
from theoros.verbs.model.pairs import Group, ModelPairs, read_pairs

if TYPE_CHECKING:
    from theoros.table.table import Table
    from theoros.verbs.core.slots import Tables
    from theoros.verbs.model.statement import ModelStatement

CLEAR = 0.01
"""A pattern of residuals with a p-value below this is told."""
AS_GOOD = 2.0
"""A simpler curve is as good as another whose AICc is lower by no more than this."""
MANY = 20_000
"""Of more pairs than these, other curves are worked out after the chosen one is shown."""


def curve_of(s: ModelStatement, name: str = "") -> Curve:
    """A curve by its name, the chosen one by default."""
    name = name or s.curve
    if name == "polynomial":
        return polynomial(s.degree)
    return curves()[name]


@dataclass(frozen=True, eq=False)
class Judged:
    """A curve that was fitted, with what its residuals show."""

    fitted: Fitted
    basis: Floats | None = None
    """Of cubics in x, which is the same for all curves through the same pairs."""

    @cached_property
    def pattern(self) -> Pattern:
        f = self.fitted
        return pattern(f.x, f.fitted, f.residuals, f.terms, self.basis)

    @cached_property
    def unusual(self) -> Floats:
        """Places of cases whose residual is too large for chance."""
        f = self.fitted
        leverage = f.leverage if f.leverage is not None else np.zeros(f.n)
        return outlying(f.residuals, leverage, f.df, f.sigma)

    @property
    def bent(self) -> bool:
        return not self.fitted.perfect and self.pattern.bend < CLEAR

    @property
    def uneven(self) -> bool:
        return not self.fitted.perfect and self.pattern.spread < CLEAR

    def shown(self) -> tuple[str, str]:
        """What the residuals show in a few words, and the tone of it."""
        if self.fitted.perfect:
            return "none: all pairs lie on it", ""
        said = []
        if self.bent:
            said.append("a bend is left")
        if self.uneven:
            said.append(f"the spread {'grows' if self.pattern.grows else 'shrinks'}")
        n = int(self.unusual.size)
        if n:
            said.append(f"{counted(n, 'unusual row')}")
        if not said:
            return "no pattern", "good"
        return ", ".join(said), "bad" if self.bent or self.uneven else "warn"


def fit_group(curve: Curve, group: Group) -> Fitted | str:
    """A curve through the pairs of a group, or in words why not."""
    if group.x.size < 2:
        return "there is one pair only" if group.x.size else "there are no pairs"
    if np.ptp(group.x) == 0:
        return "x is all alike, so that nothing can be told of what goes with it"
    if np.ptp(group.y) == 0:
        return "y is all alike, so that there is nothing to tell"
    try:
        return curve.fit(group.x, group.y)
    except CannotFit as why:
        return f"it {why}"


def suggested(found: dict[str, Judged | str]) -> tuple[str, str]:
    """The curve that is advised and the reason, of those that may be; empty for none.

    The simplest curve whose AICc is as low as the lowest, give or take 2, and that leaves no bend;
    if all leave one, the lowest of them.
    """
    able = {
        name: one
        for name, one in found.items()
        if isinstance(one, Judged) and curve_known(name).suggests and not math.isnan(one.fitted.aicc)
    }
    if not able:
        return "", ""
    best = min(one.fitted.aicc for one in able.values())
    near = {name: one for name, one in able.items() if one.fitted.aicc <= best + AS_GOOD or one.fitted.perfect}
    straight = [name for name, one in near.items() if not one.bent] or list(near)
    chosen = min(straight, key=lambda name: (curve_known(name).terms, curve_known(name).order))
    low = min(able, key=lambda name: able[name].fitted.aicc)
    if low == chosen:
        return chosen, "its AICc is the lowest"
    return chosen, "simpler than others that do no better"


def curve_known(name: str) -> Curve:
    return curves()[name]


@dataclass(eq=False)
class Through:
    """Curves through the pairs of a statement, each fitted when it is first asked for."""

    pairs: ModelPairs
    judged: dict[tuple[str, int], Judged | str] = field(default_factory=dict)

    @cached_property
    def group(self) -> Group:
        """All pairs together."""
        return self.pairs.all

    @cached_property
    def basis(self) -> Floats | None:
        return cubic_basis(self.group.x)

    def curve(self, s: ModelStatement, name: str = "") -> Judged | str:
        """The chosen curve, or another by its name; in words why there is none."""
        name = name or s.curve
        key = name, s.degree if name == "polynomial" else 0
        if key not in self.judged:
            found = fit_group(curve_of(s, name), self.group)
            self.judged[key] = found if isinstance(found, str) else Judged(found, self.basis)
        return self.judged[key]

    def has_all(self, s: ModelStatement) -> bool:
        """Whether every curve is fitted already."""
        rivals = sum(name not in ALONE for name in curves())
        return sum(name not in ALONE for name, _ in self.judged) == rivals

    def all(self, s: ModelStatement) -> dict[str, Judged | str]:
        """Every curve by name; without those that are chosen by who wants them, and no rivals."""
        return {name: self.curve(s, name) for name in curves() if name == s.curve or name not in ALONE}


ALONE = ("polynomial", "smooth", "origin", "robust")
_LAST: list[tuple[Table, tuple[object, ...], Through]] = []


def through(s: ModelStatement, tables: Tables) -> Through:
    """The curves of a statement, those of the last one if only what is read off them changed.

    A reading line that is dragged, another confidence or another curve fit nothing anew. Raises
    CannotAnswer.
    """
    table = tables[s.table]
    key = s.what, s.against, s.by, s.and_by, s.as_numbers
    if _LAST and _LAST[0][0] is table and _LAST[0][1] == key:
        return _LAST[0][2]
    made = Through(read_pairs(s, tables))
    _LAST[:] = [(table, key, made)]
    return made


def coefficient(value: float) -> str:
    """A coefficient with four figures, as it stands in an equation."""
    return significant(value, 4)


def equation(fitted: Fitted, left: str = "ŷ") -> str:
    """In the notation of formulas: "ŷ = −7.9 + 0.418 x"; empty where it has none."""
    form = fitted.curve.form
    if not form:
        return ""
    made = form.format(*(coefficient(float(c)) for c in fitted.coefficients))
    return f"{left} = {tidy(made)}"


def plain_equation(fitted: Fitted, name: str) -> str:
    """As a formula of a table or a spreadsheet, in full digits, over what x is called."""
    form = fitted.curve.plain
    if not form:
        return ""
    made = form.format(*(repr(float(c)) for c in fitted.coefficients))
    made = made.replace("+ -", "- ").replace("- -", "+ ")
    return _over(made, name)


def _over(text: str, name: str) -> str:
    """With x by another name, but within words such as max or exp."""
    return re.sub(r"(?<![A-Za-z])x(?![A-Za-z])", lambda _: name, text)


def tidy(text: str) -> str:
    """Signs that follow each other as one, and no term that is 0."""
    text = text.replace("+ −", "− ").replace("− −", "+ ")
    return re.sub(r" [+−] 0 x(?:\^\{\d+\})?", "", text)

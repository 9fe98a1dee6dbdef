"""The fit of several predictors, what each adds, and which of them would do."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, replace
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.regression.diagnostics import Pattern, corrected_aic, pattern
from theoros.numeric.regression.least_squares import Dependent, LinearFit, TooFewCases, fit, sum_of_squares
from theoros.verbs.model.curves.curve import CannotFit, Curve, Fitted
from theoros.verbs.model.curves.fits import Diagnosed
from theoros.verbs.model.multiple.data import Design

MOST_PREDICTORS = 10
"""Of more predictors not every set is tried."""
ENTERS, LEAVES = 0.05, 0.10
"""p-values by which a step takes a predictor in or leaves one out."""


@dataclass(frozen=True)
class Plane(Curve):
    """Linear in several predictors; it is fitted by its design, not by pairs."""

    def fit(self, x: Floats, y: Floats) -> Fitted:
        raise CannotFit("is fitted by its design, not by pairs")


PLANE = Plane("several", "model", "", 0, 0, "", "", suggests=False)


@dataclass(frozen=True, eq=False)
class Several(Fitted):
    """A fit by several predictors; as x stands what is fitted."""

    design: Design
    linear: LinearFit

    def predict(self, at: Floats) -> Floats:
        return at

    @property
    def standard_errors(self) -> Floats:
        return self.linear.standard_errors

    @property
    def leverage(self) -> Floats:
        return self.linear.leverage

    @cached_property
    def adjusted(self) -> float:
        """R² adjusted for the number of terms."""
        return 1 - (1 - self.r_squared) * (self.n - 1) / self.df

    @cached_property
    def inflations(self) -> Floats:
        """Variance inflation of each column but the constant: 1 / (1 - R²), from the fit itself."""
        squares = (self.linear.inverse**2).sum(axis=1)[1:]
        columns = self.design.matrix[:, 1:]
        centred = columns - columns.mean(axis=0)
        return np.asarray(squares * (centred**2).sum(axis=0))


def fit_several(design: Design, y: Floats) -> Several:
    """Raises Dependent or TooFewCases."""
    found = fit(design.matrix, y)
    return Several(PLANE, found.fitted, y, found.coefficients, design, found)


class DiagnosedSeveral(Diagnosed):
    """With a bend looked for by powers of what is fitted."""

    @cached_property
    def pattern(self) -> Pattern:
        f = self.fitted
        assert isinstance(f, Several)
        seen = pattern(f.x, f.fitted, f.residuals, f.terms)
        return replace(seen, bend=_reset(f))


def _reset(f: Several) -> float:
    """The p-value of squares and cubes of what is fitted beside the terms (Ramsey 1969)."""
    z = f.fitted - f.fitted.mean()
    spread = float(np.abs(z).max())
    if not spread > 0 or f.df < 4:
        return 1.0
    z = z / spread
    try:
        wider = fit(np.column_stack([f.design.matrix, z**2, z**3]), f.y)
    except (Dependent, TooFewCases):
        return 1.0
    if not wider.rss > 0:
        return 1.0
    more = max(0.0, f.rss - wider.rss) / 2 / (wider.rss / wider.df)
    return float(FisherF(2, wider.df).sf(more))


@dataclass(frozen=True)
class TermPart:
    """What a term adds to all the others."""

    label: str
    df: int
    square: float
    f: float
    p: float
    share: float
    """How much R² would lose without it."""


def is_within(design: Design, at: int) -> bool:
    """Whether a term is part of a product or a square that is in the model, too."""
    parts = design.terms[at].parts
    return len(parts) == 1 and any(len(other.parts) > 1 and parts[0] in other.parts for other in design.terms)


def parts_of(f: Several) -> list[TermPart]:
    """Each term given all the others, by the F of leaving it out.

    Not those that are in a product or a square: what they add by themselves depends on where 0 of
    the other lies (Nelder 1977).
    """
    total = sum_of_squares(f.y)
    made = []
    for at, term in enumerate(f.design.terms):
        if is_within(f.design, at):
            continue
        own = np.flatnonzero(f.design.owners == at)
        b = f.coefficients[own]
        # the gain of columns given all the others: b' C⁻¹ b for their block C of (X'X)⁻¹
        block = f.linear.inverse[own] @ f.linear.inverse[own].T
        square = float(b @ np.linalg.solve(block, b))
        ratio = square / own.size / f.sigma**2 if f.sigma > 0 else math.inf
        p = float(FisherF(own.size, f.df).sf(ratio)) if math.isfinite(ratio) else 0.0
        label = term.label(f.design.predictors)
        made.append(TermPart(label, own.size, square, ratio, p, square / total))
    return made


@dataclass(frozen=True)
class Subset:
    """Some of the predictors, each by itself, and how well they do."""

    names: tuple[str, ...]
    r_squared: float
    adjusted: float
    sigma: float
    aicc: float


def best_subsets(f: Several) -> list[Subset]:
    """Of each number of predictors the set with the lowest AICc, from one on.

    Of sets of as many terms that is the one with the least sum of squares; a category has more
    terms than a number. All sets are tried, by the triangle of the design: it has as many rows as there are columns.
    """
    design, n = f.design, f.n
    count = len(design.predictors)
    if count > MOST_PREDICTORS or len(design.terms) > count or count < 2:
        return []
    q, r = np.linalg.qr(design.matrix)
    height = q.T @ f.y
    rest = float(((f.y - q @ height) ** 2).sum())
    total = sum_of_squares(f.y)
    made = []
    for size in range(1, count + 1):
        tried = [
            (rest + _left(r, height, _columns(design, chosen)), chosen)
            for chosen in itertools.combinations(range(count), size)
        ]
        rss, chosen = min(tried, key=lambda one: corrected_aic(one[0], n, len(_columns(design, one[1]))))
        made.append(_subset(design, chosen, rss, n, total))
    return made


def _columns(design: Design, chosen: tuple[int, ...]) -> list[int]:
    return [0, *np.flatnonzero(np.isin(design.owners, chosen)).tolist()]


def _left(r: Floats, height: Floats, columns: list[int]) -> float:
    own, _ = np.linalg.qr(r[:, columns])
    left = height - own @ (own.T @ height)
    return float(left @ left)


def _subset(design: Design, chosen: tuple[int, ...], rss: float, n: int, total: float) -> Subset:
    terms = len(_columns(design, chosen))
    share = 1 - rss / total
    return Subset(
        tuple(design.predictors[at].name for at in chosen),
        share,
        1 - (1 - share) * (n - 1) / (n - terms),
        math.sqrt(rss / (n - terms)),
        corrected_aic(rss, n, terms),
    )


def stepwise(f: Several) -> tuple[str, ...]:
    """Predictors by steps: one comes in at p < 0.05, one goes out at p > 0.10 (Efroymson 1960)."""
    design, n = f.design, f.n
    q, r = np.linalg.qr(design.matrix)
    height = q.T @ f.y
    rest = float(((f.y - q @ height) ** 2).sum())

    def rss(chosen: tuple[int, ...]) -> float:
        return rest + _left(r, height, _columns(design, chosen))

    def p_of(small: tuple[int, ...], large: tuple[int, ...]) -> float:
        terms = len(_columns(design, large))
        more = terms - len(_columns(design, small))
        below = rss(large) / (n - terms)
        if not below > 0:
            return 0.0
        return float(FisherF(more, n - terms).sf(max(0.0, rss(small) - rss(large)) / more / below))

    inside: tuple[int, ...] = ()
    seen = {inside}
    while True:
        outside = [at for at in range(len(design.predictors)) if at not in inside]
        entering = min(((p_of(inside, tuple(sorted((*inside, at)))), at) for at in outside), default=(1.0, -1))
        if entering[0] >= ENTERS:
            break
        inside = tuple(sorted((*inside, entering[1])))
        leaving = max((p_of(tuple(k for k in inside if k != at), inside), at) for at in inside)
        if leaving[0] > LEAVES:
            inside = tuple(k for k in inside if k != leaving[1])
        if inside in seen:
            break
        seen.add(inside)
    return tuple(design.predictors[at].name for at in inside)

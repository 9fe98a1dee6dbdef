"""The conditions of a model, checked on its residuals, and what to do where one fails."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import plural
from theoros.answer.parts import Assumption, Choice
from theoros.answer.wording import number, p_equals, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.levels import below
from theoros.numeric.normality import shapiro_wilk
from theoros.numeric.regression.diagnostics import durbin_watson
from theoros.numeric.regression.least_squares import lack_of_fit
from theoros.table.kinds import Kind
from theoros.verbs.assumptions.independence import independence
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.verdict import shown
from theoros.verbs.model.curves.curve import LinearFitted
from theoros.verbs.model.curves.fits import CLEAR, Diagnosed, curve_of, fit_group
from theoros.verbs.model.curves.nested_models import separate_against_one
from theoros.verbs.model.data import ModelPairs, read_pairs
from theoros.verbs.model.pictures import largest_cook

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

LARGE = 40
"""From so many cases on, means and slopes vary nearly normally whatever the residuals do."""
MOST_TRIED = 4
"""Categories of the table that are looked at for groups that differ."""
FEW_REPEATS = 5
"""With fewer degrees of freedom of pure error nothing is said of lack of fit."""
FEW_LEVELS, MANY_ROWS = 8, 20_000
LEAST_LEFT = 5
"""Degrees of freedom of residuals from which on their shape can be looked at."""


def assumptions_of(s: ModelStatement, pairs: ModelPairs, judged: Diagnosed, tables: Tables) -> tuple[Assumption, ...]:
    """Straight or not, even spread, normal residuals, unusual rows, independence, groups."""
    f = judged.fitted
    if f.perfect or f.df < 1 or not curve_of(s).form:
        return ()
    made = list(checks_of(s, pairs, judged))
    if s.by is None:
        made += _groups(s, pairs, judged, tables)
    return tuple(made)


def checks_of(s: ModelStatement, pairs: ModelPairs, judged: Diagnosed) -> tuple[Assumption, ...]:
    """Those conditions that any model by least squares has."""
    made = []
    line = curve_of(s).is_line and not s.also
    shape = "the relation is linear" if line else "the curve has the right shape"
    wrong = "the relation is not linear" if line else "the curve does not have the right shape"
    p = p_equals(judged.pattern.bend)
    if math.isnan(judged.pattern.bend):
        made.append(Assumption("judge", f"{shape}: too few rows to judge"))
    elif judged.nonlinear:
        made.append(Assumption("fails", f"{wrong}: the residuals show a bend ({p})"))
    else:
        made.append(Assumption("holds", f"{shape}: no bend in the residuals"))
    made += _lack(judged)
    if s.also or curve_of(s).least_squares:
        made += _spread(judged)
        made += _normal(judged)
    made += _rows(pairs, judged)
    made.append(_independent(s, pairs, judged))
    return tuple(made)


def _lack(judged: Diagnosed) -> list[Assumption]:
    """Lack of fit, where x repeats and the curve is fitted by least squares in y."""
    f = judged.fitted
    if f.standard_errors is None or (isinstance(f, LinearFitted) and f.out is not None):
        return []
    found = lack_of_fit(f.x, f.residuals, f.terms)
    if found is None or found[2] < FEW_REPEATS:
        return []
    ratio, df1, df2 = found
    p = float(FisherF(df1, df2).sf(max(0.0, ratio)))
    said = f"F({whole(df1)}, {whole(df2)}) = {number(ratio, 2)}, {p_equals(p)}"
    if below(p, CLEAR):
        return [Assumption("fails", f"lack of fit: the means at equal x differ from the curve ({said})")]
    if judged.nonlinear:
        text = f"rows with equal x alone do not show a lack of fit ({said}), but all rows together show a bend"
        return [Assumption("judge", text)]
    return [Assumption("holds", f"no lack of fit at repeated x: {said}")]


def _spread(judged: Diagnosed) -> list[Assumption]:
    if math.isnan(judged.pattern.spread):
        return [Assumption("judge", "constant spread: too few rows to judge")]
    if judged.heteroscedastic:
        way = "grows" if judged.pattern.grows else "shrinks"
        p = p_equals(judged.pattern.spread)
        return [Assumption("fails", f"the spread is not constant: it {way} with the predicted values ({p})")]
    return [Assumption("holds", "constant spread of the residuals")]


def _normal(judged: Diagnosed) -> list[Assumption]:
    """Matters for the mean and the slope in small samples, for single cases always."""
    f = judged.fitted
    if f.df < LEAST_LEFT:  # so few residuals hang together so much that their shape is that of the design
        return [Assumption("judge", "normal residuals: too few rows to judge")]
    p = shapiro_wilk(f.residuals)
    if p is None:
        return []
    if not shown(p):
        return [Assumption("holds", f"residuals look normal ({p_equals(p)})")]
    if f.n >= LARGE:
        return [
            Assumption(
                "judge",
                f"residuals are not normal ({p_equals(p)}); with {f.n} cases this matters for predictions of "
                "single cases only",
            )
        ]
    return [Assumption("fails", f"residuals do not look normal ({p_equals(p)})")]


def _rows(pairs: ModelPairs, judged: Diagnosed) -> list[Assumption]:
    f = judged.fitted
    rows = tuple(int(pairs.all.rows[at]) for at in judged.outliers.tolist())
    made = []
    if rows:
        what = "one residual is" if len(rows) == 1 else f"{len(rows)} residuals are"
        made.append(Assumption("judge", f"{what} unusually large", rows=rows))
    at, distance = largest_cook(f)
    if distance > 1:
        row = int(pairs.all.rows[at])
        made.append(
            Assumption(
                "judge",
                f"row {row + 1} has a large influence on the curve: Cook’s distance {number(distance, 2)}",
                rows=(row,),
            )
        )
    return made or [Assumption("holds", "no unusual rows")]


def _independent(s: ModelStatement, pairs: ModelPairs, judged: Diagnosed) -> Assumption:
    """Asked, and for rows in the order of x, such as times, looked at, too."""
    made = independence_of(s, pairs.noun)
    if s.independent != "not said":
        return made
    text, x = made.text, judged.fitted.x
    if x.size > 5 and (np.diff(x) > 0).all():
        found = durbin_watson(judged.fitted.residuals)
        text += f" The rows are in the order of x: Durbin–Watson {number(found, 2)}"
        # about 2 with a standard error of 2/√n, were they independent; a level of 1 %
        if abs(found - 2) <= 2.58 * 2 / math.sqrt(x.size):
            text += ", which is near 2"
        else:
            text += ", so neighbouring residuals are similar (autocorrelation)"
        text += "."
    return replace(made, text=text)


def independence_of(s: ModelStatement, noun: str) -> Assumption:
    return independence(s.independent, plural(noun), ": errors and bands are too small")


def _groups(s: ModelStatement, pairs: ModelPairs, judged: Diagnosed, tables: Tables) -> list[Assumption]:
    """A category whose levels take curves of their own."""
    table = pairs.table
    if pairs.used > MANY_ROWS:
        return []
    known = [
        c
        for c in table.of_kind(Kind.CATEGORY, Kind.ORDERED)
        if c.name != s.against and 2 <= len(table.levels(c.name)) <= FEW_LEVELS
    ][:MOST_TRIED]
    best: tuple[float, str] | None = None
    for column in known:
        try:
            split = read_pairs(replace(s.pairs_choice, by=column.name), tables)
        except CannotAnswer:
            continue
        if len(split.groups) < 2 or split.used < pairs.used:
            continue
        fits = [fit_group(curve_of(s), group) for group in split.groups]
        each = [one for one in fits if not isinstance(one, str)]
        if len(each) < len(fits):
            continue
        found = separate_against_one(judged.fitted, each)
        if found is not None and below(found.p, 0.01 / len(known)) and (best is None or found.p < best[0]):
            best = found.p, column.name
    if best is None:
        return []
    p, name = best
    return [
        Assumption(
            "judge",
            f"levels of {name} may differ ({p_equals(p)}): fit a curve for each",
            (Choice(f"fit each {name}", "by", name),),
        )
    ]

"""How a curve and its prediction are worked out."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, number, p_equals, significant, statistic
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.regression.least_squares import lack_of_fit
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.data import ModelPairs

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement


def working_of(s: ModelStatement, pairs: ModelPairs, f: Fitted) -> tuple[Step, ...]:
    """The equation, how well it fits, a prediction; of a line from means and sums of squares."""
    steps = [*f.curve.worked_out(pairs, f), _fit(f)]
    if s.read is not None:
        steps += f.curve.prediction_worked_out(pairs, f, float(s.read), s.confidence)
    lack = lack_of_fit(f.x, f.residuals, f.terms) if f.curve.form else None
    if lack is not None and not f.perfect:
        steps.append(_lack(lack))
    return tuple(steps)


def _fit(f: Fitted) -> Step:
    total = float(((f.y - f.y.mean()) ** 2).sum())
    rss, share = significant(f.rss, 5), number(f.r_squared, 4)
    lines: list[str | Formula] = [
        *formulas(
            f"R^{{2}} = 1 − Σ (y − ŷ)^{{2}} / Σ (y − ȳ)^{{2}} = 1 − {bracketed(rss)} / "
            f"{bracketed(significant(total, 5))} = {share}"
        )
    ]
    if f.df > 0:
        lines += formulas(f"s = √(Σ (y − ŷ)^{{2}} / (n − {f.terms})) = {significant(f.sigma, 4)}")
    lines += f.curve.test_worked_out(f)
    return Step("How well it fits", tuple(lines))


def _lack(lack: tuple[float, int, int]) -> Step:
    f, df1, df2 = lack
    p = float(FisherF(df1, df2).sf(max(f, 0.0)))
    return Step(
        "Lack of fit, where x repeats",
        (
            "Rows with the same x differ only by pure error. The rest of the residuals is lack of fit.",
            formula(f"F = {statistic(f, 1)} {{with}} {df1} {{and}} {df2} {{degrees of freedom}}"),
            formula(p_equals(p)),
        ),
    )

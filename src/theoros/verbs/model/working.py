"""How a curve and its prediction are worked out."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, exact, number, put_in, significant, statistic
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import lack_of_fit
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.fits import equation
from theoros.verbs.model.pairs import ModelPairs
from theoros.verbs.model.saying import place_text

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement


def working_of(s: ModelStatement, pairs: ModelPairs, f: Fitted) -> tuple[Step, ...]:
    """The equation, how well it fits, a prediction; of a line from means and sums of squares."""
    steps = [_line(pairs, f)] if f.curve.name == "line" else []
    eq = equation(f)
    if eq and f.curve.name != "line":
        lines: list[str | Formula] = [formula(eq)]
        if f.curve.how:
            lines.append(f.curve.how)
        steps.append(Step("Equation", tuple(lines)))
    steps.append(_fit(f))
    if s.read is not None and f.curve.name in ("line",):
        steps.append(_prediction(s, pairs, f, float(s.read)))
    lack = lack_of_fit(f.x, f.residuals, f.terms) if f.curve.name != "smooth" else None
    if lack is not None and not f.perfect:
        steps.append(_lack(lack))
    return tuple(steps)


def _line(pairs: ModelPairs, f: Fitted) -> Step:
    x, y = f.x, f.y
    dx, dy = pairs.decimals
    sxx = float(((x - x.mean()) ** 2).sum())
    sxy = float(((x - x.mean()) * (y - y.mean())).sum())
    b0, b1 = (float(c) for c in f.coefficients)
    mx, my = put_in(float(x.mean()), dx), put_in(float(y.mean()), dy)
    lines = formulas(
        f"x̄ = {mx}, ȳ = {my}",
        f"Σ (x − x̄)^{{2}} = {significant(sxx, 6)}, Σ (x − x̄) (y − ȳ) = {significant(sxy, 6)}",
        f"b = Σ (x − x̄) (y − ȳ) / Σ (x − x̄)^{{2}} = {significant(b1, 5)}",
        f"a = ȳ − b x̄ = {my} − {bracketed(significant(b1, 5))} × {bracketed(mx)} = {significant(b0, 5)}",
        equation(f),
    )
    return Step("The line by least squares", lines)


def _fit(f: Fitted) -> Step:
    total = float(((f.y - f.y.mean()) ** 2).sum())
    rss, share = significant(f.rss, 5), number(f.share, 4)
    lines: list[str | Formula] = [
        *formulas(
            f"R^{{2}} = 1 − Σ (y − ŷ)^{{2}} / Σ (y − ȳ)^{{2}} = 1 − {bracketed(rss)} / "
            f"{bracketed(significant(total, 5))} = {share}"
        )
    ]
    if f.df > 0:
        lines += formulas(f"s = √(Σ (y − ŷ)^{{2}} / (n − {f.terms})) = {significant(f.sigma, 4)}")
    if f.curve.name == "line" and f.share >= 0:
        r = math.copysign(math.sqrt(f.share), float(f.coefficients[1]))
        lines += formulas(f"r = {number(r, 4)}")
        error = float(f.errors[1]) if f.errors is not None else math.nan
        if math.isfinite(error) and error > 0:
            t = float(f.coefficients[1]) / error
            lines += formulas(
                f"{{SE of b}} = s / √(Σ (x − x̄)^{{2}}) = {significant(error, 4)}, t = b / {{SE}} = {statistic(t, 1)}"
            )
    return Step("How well it fits", tuple(lines))


def _prediction(s: ModelStatement, pairs: ModelPairs, f: Fitted, at: float) -> Step:
    """The prediction with both intervals."""
    b0, b1 = (float(c) for c in f.coefficients)
    value = b0 + b1 * at
    n, mean = f.n, float(f.x.mean())
    sxx = float(((f.x - mean) ** 2).sum())
    t = StudentT(f.df).critical(1 - s.confidence, "different")
    spread = math.sqrt(1 / n + (at - mean) ** 2 / sxx)
    x = exact(float(f"{at:.8g}"))
    off, far = t * f.sigma * spread, t * f.sigma * math.sqrt(1 + spread**2)
    places = min(8, pairs.decimals[1] + 2)
    lines = formulas(
        f"ŷ = {significant(b0, 5)} + {bracketed(significant(b1, 5))} × {bracketed(x)} = {number(value, places)}",
        f"{{for the mean:}} ŷ ± t s √(1/n + (x − x̄)^{{2}} / Σ (x − x̄)^{{2}}) = "
        f"{number(value, places)} ± {number(t, 3)} × {significant(f.sigma, 4)} × "
        f"{significant(spread, 4)} = {number(value, places)} ± {number(off, places)}",
        f"{{for a single case:}} ŷ ± t s √(1 + 1/n + (x − x̄)^{{2}} / Σ (x − x̄)^{{2}}) = "
        f"{number(value, places)} ± {number(far, places)}",
    )
    return Step(f"The prediction at {place_text(pairs, at)}", lines)


def _lack(lack: tuple[float, int, int]) -> Step:
    from theoros.answer.wording import p_equals
    from theoros.numeric.distributions.fisher_f import FisherF

    f, df1, df2 = lack
    p = float(FisherF(df1, df2).sf(max(f, 0.0)))
    return Step(
        "Lack of fit, where x repeats",
        (
            "Rows with the same x differ by pure error alone; what the curve misses beyond that is lack of fit.",
            formula(f"F = {statistic(f, 1)} {{with}} {df1} {{and}} {df2} {{degrees of freedom}}"),
            formula(p_equals(p)),
        ),
    )

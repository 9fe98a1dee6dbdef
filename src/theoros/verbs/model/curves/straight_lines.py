"""The straight line, and the one through the origin."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, exact, number, put_in, significant, statistic
from theoros.lazy_imports import np
from theoros.numeric.distributions.student import StudentT
from theoros.verbs.model.curves.curve import Fitted, LinearCurve, equation
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import place_text, slope_words


def slope_says(pairs: ModelPairs, f: Fitted) -> str:
    """What a step in x goes with, by the last coefficient."""
    return f"{slope_words(pairs, float(f.coefficients[-1]), float(f.x.min()), float(f.x.max()))}."


def _from_zero_says(pairs: ModelPairs, f: Fitted) -> str:
    return slope_says(pairs, f)


@dataclass(frozen=True)
class RegressionLine(LinearCurve):
    """The line whose working is that of textbooks, from means and sums of squares."""

    def worked_out(self, pairs: ModelPairs, f: Fitted) -> list[Step]:
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
        return [Step("The line by least squares", lines)]

    def test_worked_out(self, f: Fitted) -> list[Formula]:
        if f.r_squared < 0:
            return []
        r = math.copysign(math.sqrt(f.r_squared), float(f.coefficients[1]))
        lines = list(formulas(f"r = {number(r, 4)}"))
        error = float(f.standard_errors[1]) if f.standard_errors is not None else math.nan
        if math.isfinite(error) and error > 0:
            t = float(f.coefficients[1]) / error
            lines += formulas(
                f"{{SE of b}} = s / √(Σ (x − x̄)^{{2}}) = {significant(error, 4)}, t = b / {{SE}} = {statistic(t, 1)}"
            )
        return lines

    def prediction_worked_out(self, pairs: ModelPairs, f: Fitted, at: float, confidence: float) -> list[Step]:
        """The prediction with both intervals."""
        b0, b1 = (float(c) for c in f.coefficients)
        value = b0 + b1 * at
        n, mean = f.n, float(f.x.mean())
        sxx = float(((f.x - mean) ** 2).sum())
        t = StudentT(f.df).critical(1 - confidence, "different")
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
        return [Step(f"The prediction at {place_text(pairs, at)}", lines)]


CURVES = (
    RegressionLine(
        "line", "straight line", "Each step in x changes y by the same amount.", 2, 10,
        "{0} + {1} x", "{0} + {1}*x", ("intercept", "slope"), live=("{x}",), says=slope_says,
        overall="none", tries_logs=True, basis=lambda x: np.column_stack([np.ones(x.size), x]),
    ),
    LinearCurve(
        "origin", "straight line through the origin", "A line that is 0 where x is 0.", 1, 11,
        "{0} x", "{0}*x", ("slope",), suggests=False, says=_from_zero_says, overall="none",
        basis=lambda x: x[:, None],
    ),
)  # fmt: skip

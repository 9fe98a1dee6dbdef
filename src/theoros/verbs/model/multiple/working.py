"""How a model of several predictors is worked out."""

from __future__ import annotations

from theoros.answer.parts import Step
from theoros.answer.wording import number, significant, whole
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.verbs.model.multiple import words as saying
from theoros.verbs.model.multiple.fit import Several
from theoros.verbs.model.multiple.report import MultipleReport


def working_of(r: MultipleReport) -> tuple[Step, ...]:
    f, s = r.fit, r.s
    rss, total = f.rss, sum_of_squares(f.y)
    lines = [
        "The coefficients make the sum of the squared residuals as small as possible (least squares).",
        saying.equation(f, str(s.what)),
    ]
    made = [Step("The coefficients", tuple(lines))]
    if f.terms <= 4:
        made.append(Step("The normal equations", tuple(_normal_equations(f))))
    made.append(
        Step(
            "How well it fits",
            (
                f"R² = 1 − {significant(rss, 5)} / {significant(total, 5)} = {number(f.r_squared, 4)}",
                f"adjusted R² = 1 − (1 − R²)(n − 1)/(n − {f.terms}) = {number(f.adjusted, 4)}",
                f"s = √({significant(rss, 5)} / {whole(f.df)}) = {significant(f.sigma, 4)}",
            ),
        )
    )
    return tuple(made)


def _normal_equations(f: Several) -> list[str]:
    """Each of them with its numbers."""
    x = f.design.matrix
    square, side = x.T @ x, x.T @ f.y
    made = []
    for at in range(x.shape[1]):
        terms = [f"{significant(float(square[at, k]), 6)} b{_SUB[k]}" for k in range(x.shape[1])]
        made.append(f"{' + '.join(terms)} = {significant(float(side[at]), 6)}".replace("+ −", "− "))
    return made


_SUB = "₀₁₂₃₄"

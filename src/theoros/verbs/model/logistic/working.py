"""How a model of two outcomes is worked out."""

from __future__ import annotations

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.parts import Step
from theoros.answer.wording import number, p_equals, significant
from theoros.verbs.model.logistic.report import LogisticReport


def working_of(r: LogisticReport) -> tuple[Step, ...]:
    found, level = r.found, str(r.s.level)
    terms = significant(float(found.fit.coefficients[0]), 5)
    for name, b in zip(r.design.names[1:], found.fit.coefficients[1:].tolist(), strict=True):
        terms += f" {'−' if b < 0 else '+'} {significant(abs(b), 5)} × {name}"
    lines: list[str | Formula] = [f"log odds η of {level} = {terms}", formula("{probability} = 1 / (1 + e^{−η})")]
    made = [Step("The probability", tuple(lines))]
    if r.predicted is not None:
        row, _, ends = r.predicted
        eta = float((r.design.row(row[None, :]) @ found.fit.coefficients)[0])
        made.append(
            Step(
                "The probability asked for",
                (
                    f"η = {number(eta, 4)}",
                    formula(f"{{probability}} = 1 / (1 + e^{{{number(-eta, 4)}}}) = {number(ends[0], 4)}"),
                ),
            )
        )
    made.append(
        Step(
            "Against one probability for all",
            (
                f"χ² = 2 ({number(found.fit.log_likelihood, 3)} − ({number(found.fit.null, 3)})) = "
                f"{number(found.fit.gain, 3)} with {found.terms - 1} degree"
                f"{'s' if found.terms > 2 else ''} of freedom",
                p_equals(found.p),
            ),
        )
    )
    return tuple(made)

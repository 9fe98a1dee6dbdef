"""Seasonal ARIMA, of orders that are typed."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import number
from theoros.numeric.series.arima import Arima, Orders
from theoros.numeric.series.forecasts import ForecastResult, by_arima
from theoros.verbs.forecast.methods.method import Candidate, FitRequest, ForecastMethod, Shown, TooLong
from theoros.verbs.forecast.methods.smoothing import MOST_WORK
from theoros.verbs.forecast.series.series import filled

MOST_ORDER = 5
MOST_STEPS = 2000


class SeasonalArima(ForecastMethod):
    name: ClassVar[str] = "arima"
    label: ClassVar[str] = "seasonal ARIMA"
    help: ClassVar[str] = "With orders that you choose."
    order: ClassVar[int] = 40
    other_names: ClassVar[tuple[tuple[str, str], ...]] = (
        ("seasonal ARIMA, Box-Jenkins", ("With orders that you choose.")),
    )
    own_seasons: ClassVar[bool] = True
    uses: ClassVar[tuple[str, ...]] = ("orders",)

    def title(self, candidate: Candidate) -> str:
        return self.label

    def how(self, candidate: Candidate) -> str:
        return self.label

    def check(self, settings: Mapping[str, str], cycle: int) -> None:
        orders_of(settings["orders"], cycle)

    def fit(self, asked: FitRequest) -> ForecastResult:
        if asked.steps > MOST_STEPS or asked.cycle**2 * asked.values.size > MOST_WORK:
            raise TooLong
        orders = orders_of(asked.settings["orders"], asked.cycle)
        return by_arima(filled(asked.values, asked.cycle), asked.steps, orders)

    def coefficients(self, result: ForecastResult) -> list[Step]:
        model = result.model
        assert isinstance(model, Arima)
        o = model.orders
        names = [f"φ_{{{k + 1}}}" for k in range(o.p)]
        names += [f"Φ_{{{k + 1}}}" for k in range(o.seasonal_p)]
        names += [f"θ_{{{k + 1}}}" for k in range(o.q)]
        names += [f"Θ_{{{k + 1}}}" for k in range(o.seasonal_q)]
        orders = f"({o.p}, {o.d}, {o.q})"
        if o.cycle > 1:
            orders += f" ({o.seasonal_p}, {o.seasonal_d}, {o.seasonal_q})_{{{o.cycle}}}"
        found = ", ".join(f"{name} = {number(float(v), 4)}" for name, v in zip(names, model.coefficients, strict=True))
        lines: list[str | Formula] = [f"ARIMA {orders}, by exact maximum likelihood."]
        if found:
            lines.append(formula(found))
        lines.append(f"Log-likelihood {number(model.log_likelihood, 2)}.")
        return [Step("Coefficients", tuple(lines))]

    def worked_out(self, shown: Shown) -> list[str | Formula]:
        return [
            f"The forecast {counted(shown.at + 1, shown.series.step)} ahead, from all values and the coefficients "
            f"above: {shown.total}."
        ]


def orders_of(text: str, cycle: int) -> Orders:
    """The orders that were typed. Raises CannotAnswer."""
    found = [int(one) for one in re.findall(r"\d+", text)[:7]]
    good = re.fullmatch(r"[\s\d,;()]*", text) and len(found) in (3, 6)
    if len(found) == 3:
        found += [0, 0, 0]
    if not good or max(found) > MOST_ORDER or found[1] > 2 or found[4] > 1:
        raise CannotAnswer(
            "Type three whole numbers p, d and q, and three more for the seasons, such as 0 1 1, 0 1 1. None can "
            f"be above {MOST_ORDER}; at most two differences and one seasonal difference are allowed.",
            "orders",
            (("Use 0 1 1, 0 1 1", "orders", "0 1 1, 0 1 1"),),
        )
    if cycle == 1:
        found[3:] = [0, 0, 0]
    p, d, q, *rest = found
    return Orders(p, d, q, rest[0], rest[1], rest[2], cycle)


METHODS = (SeasonalArima(),)

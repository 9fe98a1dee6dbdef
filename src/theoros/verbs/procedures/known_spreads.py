"""The slots of standard deviations that are known of the populations."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.wording import exact
from theoros.verbs.core.slots import Slot, TypeNumber, number_slot
from theoros.verbs.procedures.procedure import procedures
from theoros.verbs.procedures.statement import ByProcedure


def known_spreads(s: ByProcedure) -> list[Slot]:
    """The standard deviations of the populations: known in some textbooks, rarely else."""
    help_ = "Of the population, where it is known; for z."
    holds = TypeNumber(0, low_open=True, auto=True, help=help_)
    way = procedures(s.purpose).get(s.way)
    asked = way is not None and way.asks == "sigmas"
    two = s.family == "two samples"
    names = [("sigma", "σ of the first, if known" if two else "σ, if known", s.sigma)]
    if two:
        names.append(("other_sigma", "σ of the second, if known", s.other_sigma))
    return [
        replace(
            number_slot(name, label, value, holds, exact(value) if value is not None else "unknown"),
            group="known spread",
            changed=value is not None or asked,
        )
        for name, label, value in names
    ]

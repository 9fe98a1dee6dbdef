"""How a test of typed figures says itself: the slots of its sentence."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.wording import exact, whole, with_unit
from theoros.verbs.core.slots import Phrase, Slot, TypeNumber, TypeText, number_slot, text_slot

if TYPE_CHECKING:
    from theoros.verbs.test.statement import TestStatement

LARGEST = 1e150
"""Squares of larger figures overflow."""
PLACES = ("first", "second")


def measure_slot(s: TestStatement) -> Slot:
    """What the figures are of."""
    holds = TypeText("What was measured, such as “moisture loss”.", longest=120)
    slot = text_slot("measure", "what was measured", s.measure, holds)
    return slot if s.measure.strip() else replace(slot, missing="Type what was measured.")


def unit_slot(s: TestStatement) -> Slot:
    holds = TypeText("The unit of the figures, such as g or %.", longest=40)
    return text_slot("unit", "unit", s.unit, holds, empty="none")


def group_phrase(s: TestStatement, place: str) -> Phrase:
    """ "slow (n = 11, mean 7.2 %, SD 1.1 %)", every part a slot."""
    name, n, mean, sd = figures_of(s, place)
    named = text_slot(
        f"{place}_name", f"name of the {place} group", name, TypeText(longest=120), empty="…"
    )
    if not name.strip():
        named = replace(named, missing=f"Type a name for the {place} group.")
    said = name or f"the {place} group"
    size = number_slot(
        f"{place}_n", f"n of {said}", n,
        TypeNumber(2, 1e9, whole=True, help="How many values its figures are of."),
        whole(n) if n is not None else "…",
    )  # fmt: skip
    centre = _typed(f"{place}_mean", f"mean of {said}", mean, TypeNumber(-LARGEST, LARGEST), s.unit)
    spread = _typed(
        f"{place}_sd", f"SD of {said}", sd,
        TypeNumber(0, LARGEST, help="Standard deviation with divisor n − 1."), s.unit,
    )  # fmt: skip
    slots = [
        slot if slot.value is not None else replace(slot, missing=f"Type the {slot.label}.")
        for slot in (size, centre, spread)
    ]
    return (named, " (n = ", slots[0], ", mean ", slots[1], ", SD ", slots[2], ")")


def _typed(name: str, label: str, value: float | None, holds: TypeNumber, unit: str) -> Slot:
    shown = with_unit(exact(value), unit) if value is not None else "…"
    return number_slot(name, label, value, replace(holds, unit=unit), shown)


def figures_of(
    s: TestStatement, place: str
) -> tuple[str, int | None, float | None, float | None]:  # fmt: skip
    """Name, n, mean and standard deviation of the "first" or "second" group."""
    if place == "first":
        return s.first_name, s.first_n, s.first_mean, s.first_sd
    return s.second_name, s.second_n, s.second_mean, s.second_sd

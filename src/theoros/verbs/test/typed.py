"""Two samples of which only the figures are known: how they are said, checked and shown."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.parts import CannotAnswer
from theoros.answer.picture import Axis, Frame, Lane, Layer, Line, Panel, Spots
from theoros.answer.wording import decimals_needed, exact, whole, with_unit
from theoros.heavy import np
from theoros.numeric.t_tests import Moments
from theoros.verbs.slots import Phrase, Slot, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.test.samples import Sample, Samples

if TYPE_CHECKING:
    from theoros.verbs.test.statement import TestStatement

LARGEST = 1e150
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


def typed_samples(s: TestStatement) -> Samples:
    """The two samples as their figures. Raises CannotAnswer."""
    if s.design == "matched":
        raise CannotAnswer(
            "Figures of two groups do not say how the matched values differ. Put the rows into a "
            "table, the two measurements of each case in two columns; or answer that the samples "
            "were picked separately.",
            "groups",
        )
    if s.first_name.strip() == s.second_name.strip():
        raise CannotAnswer(
            "Both groups have the same name. Give the second another one, so that the conclusion "
            "can tell them apart.",
            "second_name",
        )
    labels = short_names(s.first_name, s.second_name)
    made = []
    places = 0
    nothing = np.zeros(0, dtype=np.float64)
    for place, label in zip(PLACES, labels, strict=True):
        name, n, mean, sd = figures_of(s, place)
        assert n is not None
        assert mean is not None
        assert sd is not None
        places = max(places, decimals_needed(mean, 6))
        rows = np.zeros(0, dtype=np.int64)
        made.append(Sample(label, name.strip(), nothing, rows, given=Moments(n, mean, sd)))
    return Samples(made[0], made[1], s.unit.strip(), max(0, places - 1))


def short_names(first: str, second: str) -> tuple[str, str]:
    """Both names without the words that both end in: "slow trays", "quick trays" lose theirs."""
    one, two = first.split(), second.split()
    while len(one) > 1 and len(two) > 1 and one[-1] == two[-1]:
        one, two = one[:-1], two[:-1]
    return " ".join(one), " ".join(two)


def typed_frame(samples: Samples, label: str) -> Frame:
    """Both means, with one standard deviation on each side."""
    ends = [(s.summary.mean - s.summary.sd, s.summary.mean + s.summary.sd) for s in samples.each]
    low, high = min(e[0] for e in ends), max(e[1] for e in ends)
    room = (high - low) * 0.15 or abs(high) * 0.1 or 1.0
    panels = []
    for sample, (first, last) in zip(samples.each, ends, strict=True):
        layers: list[Layer] = [Line(np.array([first, last]), np.zeros(2), "data", 3.0)]
        for end in (first, last):
            layers.append(Line(np.array([end, end]), np.array([-0.14, 0.14]), "data", 2.0))
        layers.append(Spots(((sample.summary.mean, "triangle", "range"),)))
        lane = Lane(tuple(layers), y=Axis(-1.0, 1.0, bare=True))
        panels.append(Panel((lane,), sample.label, f"n = {whole(sample.n)}"))
    return Frame(Axis(low - room, high + room, label), tuple(panels), "Mean, and one SD each way")


def figures_words(samples: Samples) -> str:
    """The figures in words, for who cannot see the picture."""
    said = [
        f"{s.phrase}: n = {whole(s.n)}, mean {with_unit(exact(s.summary.mean), samples.unit)}, "
        f"SD {with_unit(exact(s.summary.sd), samples.unit)}"
        for s in samples.each
    ]
    return f"Typed figures. {'; '.join(said)}."

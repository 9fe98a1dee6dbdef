"""Two samples of which only the figures are known: how they are checked and shown."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.parts import CannotAnswer
from theoros.answer.picture import Axis, Frame, Lane, Layer, Line, Panel, Spots
from theoros.answer.wording import decimals_needed, exact, whole, with_unit
from theoros.heavy import np
from theoros.numeric.t_tests import Moments
from theoros.verbs.test.samples import Sample, Samples
from theoros.verbs.test.typed_sentence import PLACES, figures_of

if TYPE_CHECKING:
    from theoros.verbs.test.statement import TestStatement


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

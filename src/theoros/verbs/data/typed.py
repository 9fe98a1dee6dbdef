"""Samples of which only the figures are known: n, mean and standard deviation are typed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import decimals_needed, exact, sentence_case, whole, with_unit
from theoros.verbs.core.fields import text_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, SlotGrid, Tables, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.data.data import LARGEST, Data, Design, Family, Sides, row_field, waiting, with_row
from theoros.verbs.data.samples import ANY_VALUE

if TYPE_CHECKING:
    from theoros.verbs.data.sample import Sample
    from theoros.verbs.data.samples import OneSample, Paired, SeveralSamples, TwoSamples

MEASURED = TypeText("What was measured, such as “moisture loss”.", longest=120)
IN_UNITS = TypeText("The unit of the figures, such as g or %.", longest=40)
ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth")


@dataclass(frozen=True)
class TypedGroup:
    """The figures of one sample: n (2 or more), mean, standard deviation with divisor n - 1."""

    name: str = ""
    n: int | None = None
    mean: float | None = None
    sd: float | None = None

    def slots(self, at: int, unit: str, place: Place, *, alone: bool = False) -> tuple[Slot, ...]:
        """Its name, n, mean and SD as slots."""
        said = self.called(at, alone=alone)
        which = "the group" if alone else f"the {_ordinal(at)} group"
        name = text_slot(f"groups.{at}.name", f"name of {which}", self.name, TypeText(longest=120), empty=said)
        size = number_slot(
            f"groups.{at}.n",
            f"n of {said}",
            self.n,
            TypeNumber(2, 1e9, whole=True, help="How many values its figures are of."),
            whole(self.n) if self.n is not None else "…",
        )
        help_ = "Standard deviation with divisor n − 1."
        centre = _typed(f"groups.{at}.mean", f"mean of {said}", self.mean, unit)
        spread = _typed(f"groups.{at}.sd", f"SD of {said}", self.sd, unit, low=0, help_=help_)
        rest = [
            slot if slot.value is not None else replace(slot, missing=f"Type the {slot.label}.")
            for slot in (size, centre, spread)
        ]
        return tuple(place.slot(slot) for slot in (name, *rest))

    def phrase(self, at: int, unit: str, place: Place, *, alone: bool = False) -> Phrase:
        """ "slow (n = 11, mean 7.2 %, SD 1.1 %)", every part a slot."""
        name, size, centre, spread = self.slots(at, unit, place, alone=alone)
        return (name, " (n = ", size, ", mean ", centre, ", SD ", spread, ")")

    def called(self, at: int, *, alone: bool = False) -> str:
        """Its name; if none is typed, "group 1", or "the group" where it is the only one."""
        return self.name.strip() or ("the group" if alone else f"group {at + 1}")

    def sample(self, at: int, label: str = "", *, alone: bool = False) -> Sample:
        """The sample with these figures, all of them typed; `label` is its name in short."""
        from theoros.verbs.data.sample import typed_sample

        assert self.n is not None
        assert self.mean is not None
        assert self.sd is not None
        name = self.called(at, alone=alone)
        # "slow trays" are cases; "red" is a word for them
        cases = " " in name or name.lower().endswith("s")
        phrase = name if cases else f"“{name}”"
        return typed_sample(label or name, phrase, self.n, self.mean, self.sd)


def _ordinal(at: int) -> str:
    return ORDINALS[at] if at < len(ORDINALS) else f"{at + 1}th"


def _typed(name: str, label: str, value: float | None, unit: str, *, low: float = -LARGEST, help_: str = "") -> Slot:
    shown = with_unit(exact(value), unit) if value is not None else "…"
    return number_slot(name, label, value, TypeNumber(low, LARGEST, unit=unit, help=help_), shown)


@dataclass(frozen=True)
class _Typed(Data):
    """What all typed samples have: what was measured, and in which unit."""

    typed: ClassVar[bool] = True
    measure: str = text_field("what was measured", MEASURED, empty=ANY_VALUE)
    unit: str = text_field("unit", IN_UNITS, empty="none")
    groups: tuple[TypedGroup, ...] = ()

    def measure_slot(self, place: Place) -> Slot:
        """What the figures are of."""
        return self.field_slot("measure", place)

    def settings(self, place: Place) -> tuple[Slot, ...]:
        return (self.field_slot("unit", place),)

    def slots(self, place: Place) -> tuple[Slot, ...]:
        own = [slot for at, group in enumerate(self.groups) for slot in group.slots(at, self.unit, place)]
        return (self.measure_slot(place), *own)

    @property
    def decimals(self) -> int:
        """Of the data: one fewer than the means are written with."""
        means = [group.mean for group in self.groups if group.mean is not None]
        return max(0, max((decimals_needed(mean, 6) for mean in means), default=0) - 1)

    def _about(self) -> dict[str, object]:
        measure, unit = self.measure.strip() or ANY_VALUE, self.unit.strip()
        axis = f"{measure} ({unit})" if unit else measure
        return {"measure": measure, "unit": unit, "decimals": self.decimals, "axis": axis}


@dataclass(frozen=True)
class TypedSample(_Typed):
    """The figures of one sample."""

    kind: ClassVar[str] = "typed sample"
    label: ClassVar[str] = "typed figures of one group"
    help: ClassVar[str] = "No rows: n, mean and SD are typed."
    family: ClassVar[Family] = "one sample"
    order: ClassVar[int] = 6
    fixed_groups: ClassVar[int] = 1
    groups: tuple[TypedGroup, ...] = (TypedGroup(),)

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (self.measure_slot(place), *self.groups[0].slots(0, self.unit, place, alone=True))

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        own = self.groups[0].phrase(0, self.unit, place, alone=True)
        return Sides((*parameter, " ", self.measure_slot(place), " of ", *own))

    @property
    def title(self) -> str:
        return sentence_case(self.measure or "typed figures")

    def read(self, tables: Tables, table: str) -> OneSample:
        from theoros.verbs.data.samples import OneSample

        sample = self.groups[0].sample(0, alone=True)
        return OneSample(sample=sample, **self._about())  # type: ignore[arg-type]


@dataclass(frozen=True)
class TypedSamples(_Typed):
    """The figures of two separate samples."""

    kind: ClassVar[str] = "two typed samples"
    label: ClassVar[str] = "typed figures of two groups"
    help: ClassVar[str] = "No rows: n, mean and SD of each group are typed."
    family: ClassVar[Family] = "two samples"
    order: ClassVar[int] = 13
    fixed_groups: ClassVar[int] = 2
    groups: tuple[TypedGroup, ...] = (TypedGroup(), TypedGroup())
    design: Design = "not said"

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        one, two = (group.phrase(at, self.unit, place) for at, group in enumerate(self.groups))
        start: Phrase = (*parameter, " ", self.measure_slot(place), " of ", *one)
        return Sides(start, ("that of ", *two))

    def swapped(self) -> TypedSamples:
        return replace(self, groups=self.groups[::-1])

    @property
    def title(self) -> str:
        one, two = (group.called(at) for at, group in enumerate(self.groups))
        return f"{sentence_case(self.measure or 'test')}: {one} and {two}"

    def read(self, tables: Tables, table: str) -> TwoSamples:
        from theoros.verbs.data.samples import TwoSamples

        if self.design == "matched":
            raise CannotAnswer(
                "Figures of two groups do not say how the matched values differ. Put the rows into "
                "a table, the two measurements of each case in two columns; or answer that the "
                "samples were picked separately.",
                "data",
            )
        one, two = (group.called(at) for at, group in enumerate(self.groups))
        if one == two:
            raise CannotAnswer(
                "Both groups have the same name. Give the second another one, so that the "
                "conclusion can tell them apart.",
                "data.groups.1.name",
            )
        labels = short_names((one, two))
        pairs = enumerate(zip(self.groups, labels, strict=True))
        first, second = (group.sample(at, label) for at, (group, label) in pairs)
        return TwoSamples(first=first, second=second, **self._about())  # type: ignore[arg-type]


@dataclass(frozen=True)
class TypedDifferences(_Typed):
    """The figures of the differences in matched pairs."""

    kind: ClassVar[str] = "typed differences"
    label: ClassVar[str] = "typed figures of differences"
    help: ClassVar[str] = "No rows: n, mean and SD of the differences in pairs are typed."
    family: ClassVar[Family] = "pairs"
    order: ClassVar[int] = 14
    one: str = text_field("what comes first", TypeText(longest=120), empty="first")
    two: str = text_field("what is taken off", TypeText(longest=120), empty="second")
    fixed_groups: ClassVar[int] = 1
    groups: tuple[TypedGroup, ...] = (TypedGroup("differences"),)

    design: ClassVar[Design] = "matched"

    def _sides(self, place: Place) -> tuple[Slot, Slot]:
        return self.field_slot("one", place), self.field_slot("two", place)

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (*self._sides(place), *self.groups[0].slots(0, self.unit, place)[1:])

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        one, two = self._sides(place)
        _, size, centre, spread = self.groups[0].slots(0, self.unit, place)
        return Sides((*parameter, " of the differences ", one, " minus ", two, " (n = ", size,
                      ", mean ", centre, ", SD ", spread, ")"))  # fmt: skip

    @property
    def title(self) -> str:
        return sentence_case(f"{self.one.strip() or 'first'} and {self.two.strip() or 'second'}")

    def read(self, tables: Tables, table: str) -> Paired:
        from theoros.verbs.data.sample import typed_sample
        from theoros.verbs.data.samples import Paired

        group = self.groups[0]
        assert group.n is not None
        assert group.mean is not None
        assert group.sd is not None
        gaps = typed_sample("the differences", "the differences", group.n, group.mean, group.sd)
        sides = [
            typed_sample(name, name, group.n, 0.0, 0.0)
            for name in (self.one.strip() or "first", self.two.strip() or "second")
        ]
        about = self._about() | {"axis": f"{sides[0].label} − {sides[1].label}", "noun": "pair"}
        return Paired(first=sides[0], second=sides[1], differences=gaps, **about)  # type: ignore[arg-type]


@dataclass(frozen=True)
class SeveralTyped(_Typed):
    """The figures of several separate samples, in a grid."""

    kind: ClassVar[str] = "several typed samples"
    label: ClassVar[str] = "typed figures of several groups"
    help: ClassVar[str] = "No rows: n, mean and SD of each group are typed into a grid."
    family: ClassVar[Family] = "several samples"
    order: ClassVar[int] = 21
    groups: tuple[TypedGroup, ...] = (TypedGroup(), TypedGroup(), TypedGroup())

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        return Sides((*parameter, " ", self.measure_slot(place), " of the groups below"))

    def grid(self, place: Place) -> SlotGrid | None:
        rows = [group.slots(at, self.unit, place) for at, group in enumerate(self.groups)]
        more = TypedGroup().slots(len(self.groups), self.unit, place)
        rows.append((replace(more[0], shown="one more"), *map(waiting, more[1:])))
        return SlotGrid("figures of the groups", ("group", "n", "mean", "SD"), tuple(rows))

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        """What is typed behind the last group is one more."""
        found = row_field(field, "groups")
        if found is None or found[1] not in ("name", "n", "mean", "sd"):
            return None
        return replace(self, groups=with_row(self.groups, TypedGroup(), *found, value, 2)), []

    @property
    def title(self) -> str:
        return sentence_case(self.measure or "typed figures")

    def read(self, tables: Tables, table: str) -> SeveralSamples:
        from theoros.verbs.data.samples import SeveralSamples

        names = tuple(group.called(at) for at, group in enumerate(self.groups))
        if len(set(names)) < len(names):
            raise CannotAnswer("Two groups have the same name. Give each one of its own.", "data")
        labels = short_names(names)
        pairs = enumerate(zip(self.groups, labels, strict=True))
        made = tuple(group.sample(at, label) for at, (group, label) in pairs)
        return SeveralSamples(groups=made, **self._about())  # type: ignore[arg-type]


def short_names(names: tuple[str, ...]) -> tuple[str, ...]:
    """Names without the words that all end in: "slow trays", "quick trays" lose theirs."""
    parts = [name.split() for name in names]
    while all(len(one) > 1 for one in parts) and len({one[-1] for one in parts}) == 1:
        parts = [one[:-1] for one in parts]
    return tuple(" ".join(one) for one in parts)


DATA = (TypedSample, TypedSamples, TypedDifferences, SeveralTyped)

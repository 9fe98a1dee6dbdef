"""A population that is sampled: a column of a table, or a shape with a mean and an SD."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar, Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.wording import decimals_needed, sentence_case
from theoros.lazy_imports import np
from theoros.numeric.chance.populations import SHAPES, Population, ShapedPopulation
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import (
    GROUPING,
    HoldsNumber,
    choice_field,
    column_field,
    declared,
    number_field,
    word_field,
)
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, TypeNumber
from theoros.verbs.data.columns import first_number
from theoros.verbs.data.data import LARGEST
from theoros.verbs.data.groups import unit_of_count, why_none, workable
from theoros.verbs.simulate.models.bag import REPLACED
from theoros.verbs.simulate.models.model import DrawnModel, size
from theoros.verbs.simulate.sampling.facts import Facts, Takes

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure

KINDS = (Kind.NUMBER, *GROUPING)


@dataclass(frozen=True)
class ColumnModel(DrawnModel):
    kind: ClassVar[str] = "column"
    label: ClassVar[str] = "a column as the population"
    help: ClassVar[str] = "The rows of a table are the population; samples are drawn from them."
    order: ClassVar[int] = 40
    what: str | None = column_field("the population", KINDS, "The column that is the population.")
    n: int | None = size()
    replace: bool = choice_field(False, "replacement", REPLACED)

    needs_table: ClassVar[bool] = True
    varies: ClassVar[tuple[str, ...]] = ("n",)

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        what, n, back = (self.field_slot(name, place) for name in ("what", "n", "replace"))
        return ("From all values of ", what, " draw ", n, " ", back)

    def filled(self, table: Table) -> ColumnModel:
        column = table.by_name.get(self.what or "")
        if column is not None and column.kind in KINDS:
            return self
        return replace(self, what=first_number(table))

    def _is_number(self, place: Place) -> bool:
        own = place.own
        column = own.by_name.get(self.what or "") if own else None
        return column is None or column.kind is Kind.NUMBER

    def outcomes(self, place: Place) -> tuple[str, ...]:
        own = place.own
        if own is None or self._is_number(place):
            return ()
        return tuple(own.levels(str(self.what)))

    def takes_now(self, place: Place) -> tuple[Takes, ...]:
        return ("numbers",) if self._is_number(place) else ("names",)

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        from theoros.verbs.simulate.pictures.samples import values_frame

        own, what = place.own, str(self.what)
        assert own is not None
        assert self.n is not None
        column, cases = own.column(what), own.cases
        number = column.kind is Kind.NUMBER
        held: np.ndarray = workable(own, what) if number else own.codes(what)
        there = np.isfinite(held[cases]) if number else held[cases] >= 0
        values = held[cases][there]
        if not values.size:
            raise CannotAnswer(why_none(own, what), "model.what")
        lost = int(cases.size - values.size)
        if not self.replace and self.n > values.size:
            raise CannotAnswer(
                f"There are {counted(values.size, 'value')} of {what}, so {self.n} cannot be drawn without "
                "replacement. Draw fewer, or draw with replacement.",
                "model.n",
            )
        values = np.ascontiguousarray(values)
        told = hashlib.blake2b(values.tobytes(), digest_size=16).digest()
        notes = (f"{counted(lost, unit_of_count(own))} left out: {what} is missing",) if lost else ()
        made = Facts(
            Population(values, self.n, self.replace),
            ("column", told, values.size, self.n, self.replace),
            frozenset({"numbers" if number else "names"}),
            self.n,
            case=own.noun,
            measure=what,
            unit=column.unit,
            decimals=own.decimals(what) if number else 0,
            finite=None if self.replace else int(values.size),
            used=int(values.size),
            notes=notes,
        )
        if number:
            frame = values_frame(values.astype(np.float64), column.label, f"The population: {own.name}")
            sd = float(values.std()) if values.size > 1 else 0.0
            return replace(made, moments=(float(values.mean()), sd), population=lambda: frame)
        levels = tuple(own.levels(what))
        shares = np.bincount(values, minlength=len(levels)) / values.size
        return replace(made, names=(levels,), chances=tuple(((at,), float(share)) for at, share in enumerate(shares)))

    def title(self) -> str:
        return f"Samples of {self.what}" if self.what else "Samples of a column"


ShapeName = Literal["normal", "uniform", "skewed right", "skewed left", "two-peaked"]
_SHAPES = tuple(
    Option(name, name, help=help_)
    for name, help_ in (
        ("normal", "Symmetric, most values near the mean."),
        ("uniform", "All values between two ends are equally likely."),
        ("skewed right", "Many small values and a long tail of large ones: exponential."),
        ("skewed left", "The mirror image: a long tail of small values."),
        ("two-peaked", "Two groups of values, one on either side of the mean."),
    )
)


@dataclass(frozen=True)
class ShapeModel(DrawnModel):
    kind: ClassVar[str] = "shape"
    label: ClassVar[str] = "a population of a shape"
    help: ClassVar[str] = "Normal, uniform, skewed or two-peaked, with a mean and an SD."
    order: ClassVar[int] = 50
    takes: ClassVar[tuple[Takes, ...]] = ("numbers",)
    statistic: ClassVar[str] = "mean"
    measure: str = word_field("what is measured", "What is measured, such as “leaf length”.", empty="values")
    unit: str = word_field("unit", "The unit of the measurement.", empty="none")
    shape: ShapeName = choice_field("normal", "shape of the population", _SHAPES)
    mean: float | None = number_field(None, "mean μ", TypeNumber(-LARGEST, LARGEST))
    sd: float | None = number_field(None, "standard deviation σ", TypeNumber(0, low_open=True))
    n: int | None = size()
    varies: ClassVar[tuple[str, ...]] = ("n",)

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        shape, measure, n = (self.field_slot(name, place) for name in ("shape", "measure", "n"))
        mean, sd = self._typed(place, "mean"), self._typed(place, "sd")
        return ("From a ", shape, " population of ", measure, " with mean μ = ", mean, " and σ = ", sd, " draw ", n)

    def _typed(self, place: Place, name: str) -> Slot:
        told = declared(type(self))[name]
        assert isinstance(told, HoldsNumber)
        missing = f"Type the {told.label} of the population." if getattr(self, name) is None else ""
        return self.field_slot(name, place, holds=replace(told.holds, unit=self.unit.strip()), missing=missing)

    def settings(self, place: Place) -> tuple[Slot, ...]:
        return (self.field_slot("unit", place),)

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        from theoros.verbs.simulate.pictures.samples import density_frame

        assert self.mean is not None
        assert self.sd is not None
        assert self.n is not None
        mean, sd = float(self.mean), float(self.sd)
        if sd > LARGEST:
            raise CannotAnswer("This σ is too large for the calculation. Type a smaller one.", "model.sd")
        measure, unit = self.measure.strip() or "value", self.unit.strip()
        label = f"{measure} ({unit})" if unit else measure
        decimals = max(decimals_needed(self.mean, 6), decimals_needed(self.sd, 6))
        return Facts(
            ShapedPopulation(self.shape, mean, sd, self.n),
            ("shape", self.shape, mean, sd, self.n),
            frozenset({"numbers"}),
            self.n,
            case="case",
            measure=measure,
            unit=unit,
            decimals=decimals,
            moments=(mean, sd),
            normal=self.shape == "normal",
            population=lambda: density_frame(SHAPES[self.shape], mean, sd, label),
        )

    def title(self) -> str:
        what = self.measure.strip()
        return sentence_case(f"{what} of samples") if what else f"Samples of a {self.shape} population"


MODELS = (ColumnModel, ShapeModel)

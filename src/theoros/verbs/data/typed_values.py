"""Values that are typed in a row: 12.1 11.4 12.8."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import decimals_needed, sentence_case, shortened
from theoros.lazy_imports import np
from theoros.verbs.core.fields import text_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeText
from theoros.verbs.data.data import LARGEST, Data, Family, Sides
from theoros.verbs.data.samples import ANY_VALUE
from theoros.verbs.data.typed import MEASURED

MOST_VALUES = 500
LISTED = TypeText("Values with spaces between them: 12.1 11.4 12.8.", longest=8000)


def values_of(text: str) -> tuple[TypedNumber, ...]:
    """The values that a text lists, parted by spaces, semicolons or commas.

    A comma with a figure on either side and no space behind it is a decimal comma where the values
    are parted by spaces or semicolons. Raises StatementError with what cannot be read.
    """
    text = text.strip()
    spaced = re.search(r"[;\s]", text) is not None
    pieces = [one.strip(",") for one in re.split(r"[;\s]+" if spaced else r",", text)]
    made = []
    for piece in pieces:
        if not piece:
            continue
        try:
            made.append(TypedNumber(piece.replace(",", ".") if spaced else piece))
        except NotWorkedOut:
            raise StatementError(
                f"“{shortened(piece, 30)}” is not a number. Type the values with spaces between them: 12.1 11.4 12.8."
            ) from None
        if abs(made[-1]) > LARGEST:
            raise StatementError(f"{piece} is too large to work with.")
    if len(made) > MOST_VALUES:
        raise StatementError(
            f"{counted(len(made), 'value')} are more than the {MOST_VALUES} that can be typed "
            f"here. Put them into a table."
        )
    return tuple(made)


@dataclass(frozen=True)
class TypedValues(Data):
    """The values of one sample, typed."""

    kind: ClassVar[str] = "typed values"
    label: ClassVar[str] = "typed values"
    help: ClassVar[str] = "No table: the values themselves are typed, with spaces between them."
    family: ClassVar[Family] = "one sample"
    typed: ClassVar[bool] = True
    valued: ClassVar[bool] = True
    order: ClassVar[int] = 7
    measure: str = text_field("what was measured", MEASURED, empty=ANY_VALUE)
    unit: str = text_field("unit", TypeText("The unit of the values, such as g or %.", longest=40), empty="none")
    values: str = text_field("the values", LISTED, empty="…")

    def slots(self, place: Place) -> tuple[Slot, ...]:
        values = self.field_slot("values", place)
        values = replace(values, shown=shortened(values.shown, 48))
        try:
            if not values_of(self.values):
                values = replace(values, missing="Type the values, with spaces between them.")
        except StatementError as problem:
            values = replace(values, missing=str(problem))
        return self.field_slot("measure", place), values

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        measure, values = self.slots(place)
        return Sides((*parameter, " ", measure, " (values ", values, ")"))

    def settings(self, place: Place) -> tuple[Slot, ...]:
        return (self.field_slot("unit", place),)

    @property
    def title(self) -> str:
        return sentence_case(self.measure.strip() or "typed values")

    def read(self, tables: Tables, table: str):  # type: ignore[no-untyped-def]
        from theoros.verbs.data.columns import workable_sample
        from theoros.verbs.data.groups import Group, Split
        from theoros.verbs.data.sample import Sample
        from theoros.verbs.data.samples import OneSample

        typed = values_of(self.values)
        values = np.array([float(one) for one in typed], dtype=np.float64)
        if not values.size:
            raise CannotAnswer("Type the values, with spaces between them.", "data.values")
        measure, unit = self.measure.strip() or ANY_VALUE, self.unit.strip()
        rows = np.arange(values.size)
        sample = Sample(measure, "cases", values, rows)
        workable_sample(sample, measure, "data.values")
        return OneSample(
            measure=measure,
            unit=unit,
            noun="case",
            sample=sample,
            decimals=max(decimals_needed(one, 6) for one in typed),
            axis=f"{measure} ({unit})" if unit else measure,
            cases=Split((Group("", "cases", values, rows, 0),), ()),
        )


DATA = (TypedValues,)

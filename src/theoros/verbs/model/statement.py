"""The statement of a model: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, ClassVar, Literal, Self

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, plural, sentence_case, with_unit
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    column_slot,
    number_slot,
    text_slot,
)
from theoros.verbs.core.statement import Statement, column_field

if TYPE_CHECKING:
    from theoros.answer.parts import Draft

GROUPING = (Kind.CATEGORY, Kind.ORDERED)
Bands = Literal["none", "mean", "single", "both"]
Residuals = Literal["none", "fitted", "along", "normal", "histogram", "order", "leverage"]
MOST_READ = 20
CONFIDENCE = TypeNumber(0, 1, low_open=True, high_open=True, percent=True,
                        help="Of the bands and intervals.")  # fmt: skip
RESIDUALS = (
    Option("fitted", "against what is fitted"),
    Option("along", "against x"),
    Option("normal", "beside normal quantiles"),
    Option("histogram", "as a histogram"),
    Option("order", "in the order of the rows"),
    Option("leverage", "against leverage, with Cook’s distance"),
    Option("none", "not shown"),
)
DRAWN = (
    Option("none", "not drawn"),
    Option("segments", "as segments"),
    Option("squares", "as squares"),
)
CURVE_NAMES: tuple[tuple[str, str], ...] = (
    ("line", "straight line"), ("origin", "straight line through the origin"),
    ("logarithmic", "logarithmic curve"), ("square root", "square root curve"),
    ("reciprocal", "reciprocal curve"), ("exponential", "exponential curve"),
    ("exponential by logs", "exponential curve by logs"), ("power", "power curve"),
    ("power by logs", "power curve by logs"), ("saturation", "saturation curve"),
    ("quadratic", "quadratic curve"), ("cubic", "cubic curve"),
    ("two pieces", "line of two pieces"), ("logistic growth", "logistic growth curve"),
    ("polynomial", "polynomial"), ("robust", "robust line"), ("smooth", "smooth line"),
)  # fmt: skip
"""For the list of the slot, which must be there before the curves themselves are imported."""


@dataclass(frozen=True)
class ModelStatement(Statement):
    """Model a number from another by a curve, for all cases or for each group."""

    verb: ClassVar[str] = "model"
    what: str | None = column_field()
    against: str | None = column_field()
    curve: str = "line"
    degree: int = 4
    by: str | None = column_field()
    and_by: str | None = column_field()
    panels: bool = False
    bands: Bands = "both"
    confidence: float = 0.95
    read: float | None = None
    also_at: str = ""
    residuals: Residuals = "fitted"
    drawn: Literal["none", "segments", "squares"] = "none"
    by_hand: bool = False
    hand_left: float | None = None
    hand_right: float | None = None
    as_numbers: bool = False
    independent: Literal["not said", "yes", "no"] = "not said"

    def phrase(self, tables: Tables) -> Phrase:
        table = tables.get(self.table)
        what = column_slot("what", "the response", self.what, tables, self.table, (Kind.NUMBER,),
                           elsewhere=True)  # fmt: skip
        against = column_slot(
            "against", "what it is predicted from", self.against, tables, self.table,
            (Kind.NUMBER, *GROUPING), exclude=[self.what] if self.what else (),
        )  # fmt: skip
        options = [Option(name, label) for name, label in CURVE_NAMES]
        curve = choice_slot("curve", "the curve", self.curve, options)
        article = "an" if curve.shown[:1] in "aeiou" else "a"
        made: Phrase = ("Model ", what, " from ", against, f" with {article} ", curve)
        if self.curve == "polynomial":
            holds = TypeNumber(1, 10, whole=True)
            made += (" of degree ", number_slot("degree", "degree", self.degree, holds))
        noun = table.noun if table else "case"
        everyone = f"all {plural(noun)} together"
        exclude = [self.against] if self.against else []
        by = column_slot("by", "groups", self.by, tables, self.table, GROUPING, none=everyone,
                         exclude=exclude)  # fmt: skip
        made += (", ",) if self.by is None else (", one for each ",)
        made += (by,)
        if self.by is not None:
            and_by = column_slot(
                "and_by", "a second category", self.and_by, tables, self.table, GROUPING,
                none="no other", exclude=[*exclude, self.by],
            )  # fmt: skip
            made += (" and ", and_by) if self.and_by is not None else ()
        bands = choice_slot("bands", "bands", self.bands, band_options(noun))
        shown = f"{exact(round(100 * self.confidence, 10))}\u00a0%"
        sure = number_slot("confidence", "confidence", self.confidence, CONFIDENCE, shown)
        if self.bands == "none":
            return (*made, ", showing ", bands, ".")
        return (*made, ", showing ", bands, ", at ", sure, ".")

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        table = tables.get(self.table)
        made: list[Slot] = []
        if self.by is not None:
            if self.and_by is None:
                made.append(column_slot(
                    "and_by", "and by", self.and_by, tables, self.table, GROUPING, none="no other",
                    exclude=[self.by, *([self.against] if self.against else [])],
                ))  # fmt: skip
            options = (Option(False, "in one picture"), Option(True, "a panel each"))
            made.append(choice_slot("panels", "groups", self.panels, options))
        column = table.by_name.get(self.against or "") if table else None
        unit = column.unit if column else ""
        holds = TypeNumber(auto=True, unit=unit, help="Where a prediction is read.")
        shown = with_unit(exact(self.read), unit) if self.read is not None else "not read"
        made.append(number_slot("read", "predict at", self.read, holds, shown))
        more = TypeText("Further values of x, with commas between them: 50, 60, 75.", longest=200)
        slot = text_slot("also_at", "and at", self.also_at, more, empty="none")
        try:
            self.reads()
        except StatementError as problem:
            slot = replace(slot, missing=str(problem))
        made.append(slot)
        made.append(choice_slot("residuals", "residuals", self.residuals, RESIDUALS))
        made.append(choice_slot("drawn", "in the scatter", self.drawn, DRAWN))
        if self.curve in ("line", "origin", "robust") and self.by is None:
            hand = (Option(False, "not shown"), Option(True, "to be dragged"))
            made.append(choice_slot("by_hand", "a line by hand", self.by_hand, hand))
        if column is not None and column.kind in GROUPING:
            numbers = (Option(False, "as levels"), Option(True, "as numbers"))
            made.append(choice_slot("as_numbers", f"{column.name} is read", self.as_numbers,
                                    numbers))  # fmt: skip
        return tuple(made)

    def reads(self) -> tuple[float, ...]:
        """All values of x at which a prediction is wanted. Raises StatementError."""
        made: list[float] = [] if self.read is None else [float(self.read)]
        for piece in self.also_at.replace(";", ",").split(","):
            if piece.strip():
                try:
                    made.append(float(TypedNumber(piece.strip())))
                except NotWorkedOut as problem:
                    raise StatementError(
                        f"{problem}. Type values with commas between them."
                    ) from None
        if len(made) > MOST_READ:
            raise StatementError(f"Predictions are read at {MOST_READ} values at the most.")
        return tuple(dict.fromkeys(made))

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        made = super().with_slot(name, value, tables)
        s = made.statement
        if isinstance(s, ModelStatement) and name in ("hand_left", "hand_right"):
            return Mended(replace(s, by_hand=True), made.notes)
        return made

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        made, notes = self, list[str]()
        if table is None:
            return Mended(made)
        if slot in ("what", "against") and made.what is not None and made.what == made.against:
            other = next((c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.what), None)
            changed: Any = {"against" if slot == "what" else "what": other}
            made = replace(made, **changed)
            notes.append("The two have changed so that they are not the same column.")
        known = table.by_name
        if made.what not in known or known[str(made.what)].kind is not Kind.NUMBER:
            numbers = [c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.against]
            made = replace(made, what=next(iter(numbers), None))
        if made.against not in known:
            numbers = [c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.what]
            made = replace(made, against=next(iter(numbers), None))
        if made.by is not None and (made.by not in known or made.by == made.against):
            made = replace(made, by=None, and_by=None)
        if made.by is None or made.and_by in (made.by, made.against):
            made = replace(made, and_by=None)
        if slot in ("what", "against", "curve"):
            made = replace(made, hand_left=None, hand_right=None)
        if slot == "against":
            made = replace(made, read=None, also_at="", as_numbers=False)
        if made.by is not None or made.curve not in ("line", "origin", "robust"):
            made = replace(made, by_hand=False)
        return Mended(made, tuple(notes))

    def swapped(self) -> Self:
        """The same with x and y in each other's place."""
        return replace(self, what=self.against, against=self.what, read=None, also_at="")

    def slot_for_drop(self, zone: str, column: Column) -> str:
        if column.kind.is_grouping:
            return "by"
        return "against" if zone == "axis" else "what"

    def title(self, tables: Tables) -> str:
        if not (self.what and self.against):
            return "Model"
        return sentence_case(f"{self.what} from {self.against}")

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.verbs.model.answering import answer_in_drafts

        yield from answer_in_drafts(self, tables)


def band_options(noun: str) -> tuple[Option, ...]:
    """Bands for the mean, for single cases, for both."""
    many = plural(noun)
    return (
        Option("both", f"bands for the mean and single {many}"),
        Option("mean", "a band for the mean", help="Where the curve itself is likely to run."),
        Option("single", f"a band for single {many}", help="Where one more case is likely to lie."),
        Option("none", "no bands"),
    )

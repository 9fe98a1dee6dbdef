"""The statement of a model: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar, Literal, Self

from theoros.answer.nouns import plural
from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import listed, sentence_case
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.fields import (
    GROUPING,
    bare_field,
    choice_field,
    choices_field,
    column_field,
    columns_field,
    level_field,
    number_field,
    text_field,
)
from theoros.verbs.core.json_values import StatementError, check_named
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    percent_inside,
)
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.columns import level_slot
from theoros.verbs.model.data import PairsChoice

if TYPE_CHECKING:
    from theoros.verbs.model.curves.curve import Curve


def curves() -> Mapping[str, Curve]:
    """The curves by name; they need arithmetic that the window starts without."""
    from theoros.verbs.model.curves import curve

    return curve.curves()


RESPONSE = (Kind.NUMBER, *GROUPING)
Bands = Literal["none", "mean", "single", "both"]
Residuals = Literal["none", "fitted", "along", "normal", "histogram", "order", "leverage"]
MOST_READ = 20
CONFIDENCE = percent_inside("Of the bands and intervals.")
RESIDUALS = (
    Option("fitted", "against predicted values"),
    Option("along", "against x"),
    Option("normal", "beside normal quantiles"),
    Option("histogram", "as a histogram"),
    Option("order", "in the order of the rows"),
    Option("leverage", "against leverage, with Cook’s distance"),
    Option("none", "not shown"),
)
PANELS = (Option(False, "in one picture"), Option(True, "a panel each"))
BY_HAND = (Option(False, "not shown"), Option(True, "to be dragged"))
AS_NUMBERS = (Option(False, "as levels"), Option(True, "as numbers"))
PRODUCTS = (Option(False, "no interactions"), Option(True, "products of two"))
SQUARES = (Option(False, "no squares"), Option(True, "of the numbers"))
READ = TypeNumber(auto=True, help="Where a prediction is read.")
ALSO_AT = TypeText("More values of x, separated by commas: 50, 60, 75.", longest=200)
CUT = percent_inside("A case with at least this probability is classified so.")
DRAWN = (Option("none", "not drawn"), Option("segments", "as segments"), Option("squares", "as squares"))


@dataclass(frozen=True)
class ModelStatement(Statement):
    """Model a number from another by a curve, for all cases or for each group."""

    verb: ClassVar[str] = "model"
    answered_by: ClassVar[str] = "theoros.verbs.model.answering"
    what: str | None = column_field(
        "the response",
        RESPONSE,
        "The response y: a number, or a category; then the probability of a level is modelled.",
        elsewhere=True,
    )
    against: str | None = column_field("the predictor", RESPONSE, "The predictor x.", other_than=("what",))
    curve: str = bare_field("line", lambda: f"The curve: {', '.join(curves())}.")
    degree: int = number_field(4, "degree", TypeNumber(1, 10, whole=True), "Degree of a polynomial, 1 to 10.")
    by: str | None = column_field(
        "groups",
        GROUPING,
        "A category; each of its levels has its own curve.",
        none="all cases together",
        other_than=("against",),
    )
    and_by: str | None = column_field(
        "and by",
        GROUPING,
        "A second category, for each combination of levels.",
        none="no other",
        other_than=("against", "by"),
    )
    panels: bool = choice_field(False, "groups", PANELS, "Whether groups have a panel each.")
    bands: Bands = choice_field("both", "bands", (), "Which bands are drawn: none, mean, single or both.")
    confidence: float = number_field(0.95, "confidence", CONFIDENCE, "Level of bands and intervals, between 0 and 1.")
    read: float | None = number_field(
        None,
        "predict at",
        READ,
        "A value of x at which a prediction is read; null for none.",
        empty="not read",
        reset_by=("against",),
    )
    also_at: str = text_field(
        "and at", ALSO_AT, "Further such values, as text: “50, 60”.", empty="none", reset_by=("against",)
    )
    residuals: Residuals = choice_field(
        "fitted",
        "residuals",
        RESIDUALS,
        "How residuals are drawn: fitted, along, normal, histogram, order, leverage or none.",
    )
    drawn: Literal["none", "segments", "squares"] = choice_field(
        "none", "in the scatter", DRAWN, "How residuals are drawn in the scatter: none, segments or squares."
    )
    by_hand: bool = choice_field(False, "a line by hand", BY_HAND, "Whether there is a line that can be dragged.")
    hand_left: float | None = bare_field(
        None, "Its height at the least x; null for the mean of y.", reset_by=("what", "against", "curve")
    )
    hand_right: float | None = bare_field(None, "Its height at the greatest x.", reset_by=("what", "against", "curve"))
    as_numbers: bool = choice_field(
        False, "a category is read", AS_NUMBERS, "Whether a category is read as numbers.", reset_by=("against",)
    )
    also: tuple[str, ...] = columns_field(
        "and from",
        RESPONSE,
        "More predictors; a category is used by its levels.",
        none="no other column",
        other_than=("what", "against"),
    )
    products: bool = choice_field(
        False, "interactions", PRODUCTS, "Whether products of two predictors (interactions) are in the model."
    )
    squares: bool = choice_field(False, "squares", SQUARES, "Whether squares of the numbers are in it.")
    references: tuple[str, ...] = choices_field(
        (), "compared with", (), "The reference levels, as “column: level”.", what="levels", none="the first of each"
    )
    values: str = text_field(
        "predict for",
        TypeText(longest=400),
        "Values of the predictors to predict for, as “leaf length 70, cultivar Jade”.",
        empty="none",
        reset_by=("what", "against", "also"),
    )
    level: str | None = level_field(
        "what", "the level", "If the response is a category: the level whose probability is modelled."
    )
    cut: float = number_field(0.5, "cut-off", CUT, "From this probability on a case is classified as that level.")
    independent: Literal["not said", "yes", "no"] = bare_field(
        "not said", "Whether the cases are independent: not said, yes or no."
    )

    @property
    def pairs_choice(self) -> PairsChoice:
        """Which pairs a curve goes through."""
        return PairsChoice(self.table, self.what, self.against, self.by, self.and_by, self.as_numbers)

    def asks(self, tables: Tables) -> Literal["curve", "several", "outcome"]:
        """A curve from one number, several predictors, or one of two outcomes."""
        table = tables.get(self.table)
        column = table.by_name.get(self.what or "") if table else None
        if column is not None and column.kind in GROUPING:
            return "outcome"
        return "several" if self.also else "curve"

    def phrase(self, tables: Tables) -> Phrase:
        here, asks = self.here(tables), self.asks(tables)
        what, against, sure = (self.field_slot(name, here) for name in ("what", "against", "confidence"))
        if asks != "curve":
            also = self.field_slot("also", here)
            between = ", " if len(self.also) > 1 else " and "
            if asks == "several":
                return ("Model ", what, " from ", against, between, also, ", at ", sure, ".")
            level_ = level_slot(here, "level", "the level", self.level, self.what, several=False)
            begin: Phrase = ("Model whether ", what, " is ", level_, " from ", against)
            return (*begin, between, also, ", at ", sure, ".")
        options = [Option(name, one.listed, help=one.help) for name, one in curves().items()]
        curve = choice_slot("curve", "the curve", self.curve, options)
        article = "an" if curve.shown[:1] in "aeiou" else "a"
        made: Phrase = ("Model ", what, " from ", against, f" with {article} ", curve)
        if curves()[self.curve].of_degree is not None:
            made += (" of degree ", self.field_slot("degree", here))
        noun = here.own.noun if here.own else "case"
        by = self.field_slot("by", here, none=f"all {plural(noun)} together")
        made += (", " if self.by is None else ", one for each ", by)
        if self.by is not None and self.and_by is not None:
            made += (" and ", self.field_slot("and_by", here, label="a second category"))
        bands = self.field_slot("bands", here, options=band_options(noun))
        if self.bands == "none":
            return (*made, ", showing ", bands, ".")
        return (*made, ", showing ", bands, ", at ", sure, ".")

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        here, asks = self.here(tables), self.asks(tables)
        if asks != "curve":
            return self._several_settings(here, asks)
        along, line = here.column(self.against), curves()[self.curve].is_line
        category = along is not None and along.kind in GROUPING
        missing = ""
        try:
            self.reads()
        except StatementError as problem:
            missing = str(problem)
        shown: dict[str, tuple[bool, dict[str, object]]] = {
            "also": (True, {}),
            "and_by": (self.by is not None and self.and_by is None, {}),
            "panels": (self.by is not None, {}),
            "read": (True, {"holds": self._read_at(here)}),
            "also_at": (True, {"missing": missing}),
            "residuals": (True, {}),
            "drawn": (True, {}),
            "by_hand": (line and self.by is None, {}),
            "as_numbers": (category, {"label": f"{self.against} is read"}),
        }
        return tuple(self.field_slot(name, here, **other) for name, (there, other) in shown.items() if there)

    def _read_at(self, here: Place) -> TypeNumber:
        along = here.column(self.against)
        return replace(READ, unit=along.unit if along else "")

    def _several_settings(self, here: Place, asks: str) -> tuple[Slot, ...]:
        made = [self.field_slot("products", here), self.field_slot("squares", here)]
        names = [name for name in dict.fromkeys((self.against, *self.also)) if name]
        grouping = [c for name in names if (c := here.column(name)) is not None and c.kind in GROUPING]
        options = tuple(
            Option(f"{c.name}: {level}", f"{c.name}: {level}", group=c.name)
            for c in grouping
            if here.own
            for level in here.own.levels(c.name)
        )
        if options:
            made.append(self.field_slot("references", here, options=options))
        along = here.column(self.against)
        if asks == "outcome" and not self.also and along is not None and along.kind is Kind.NUMBER:
            holds = replace(self._read_at(here), help="Where a probability is read.")
            made.append(self.field_slot("read", here, holds=holds))
        else:
            example = ", ".join(f"{name} …" for name in names[:2])
            holds_text = TypeText(f"Values of the predictors: {example}.", longest=400)
            made.append(self.field_slot("values", here, holds=holds_text))
        made.append(self.field_slot("cut" if asks == "outcome" else "residuals", here))
        return tuple(made)

    def reads(self) -> tuple[float, ...]:
        """All values of x at which a prediction is wanted. Raises StatementError."""
        made: list[float] = [] if self.read is None else [float(self.read)]
        for piece in self.also_at.replace(";", ",").split(","):
            if piece.strip():
                try:
                    made.append(float(TypedNumber(piece.strip())))
                except NotWorkedOut as problem:
                    raise StatementError(f"{problem}. Type values, separated by commas.") from None
        if len(made) > MOST_READ:
            raise StatementError(f"At most {MOST_READ} values can be predicted at once.")
        return tuple(dict.fromkeys(made))

    def put(self, name: str, value: object, slot: Slot | None, tables: Tables) -> Mended:
        if name == "subset":  # a set of predictors that is chosen as a whole
            assert isinstance(value, tuple)
            first, *rest = value
            made = self.with_slot("against", first, tables)
            return Mended(replace(made.statement, also=tuple(rest)), made.notes)
        return super().put(name, value, slot, tables)

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        made, notes = self.put_back(slot), list[str]()
        if slot in ("hand_left", "hand_right"):
            made = replace(made, by_hand=True)
        if table is None:
            return Mended(made)
        if slot in ("what", "against") and made.what is not None and made.what == made.against:
            other = "against" if slot == "what" else "what"
            made = replace(made, **{other: _other_number(table, made.what)})  # type: ignore[arg-type]
            notes.append("The other one was changed, because both cannot be the same column.")
        known = table.by_name
        if made.what not in known or known[str(made.what)].kind not in RESPONSE:
            made = replace(made, what=_other_number(table, made.against))
        if made.against not in known:
            made = replace(made, against=_other_number(table, made.what))
        also = tuple(one for one in made.also if one in known and one not in (made.what, made.against))
        kept = {one.partition(": ")[0]: one for one in made.references}  # the last of each column
        references = tuple(one for name, one in kept.items() if name in (made.against, *also))
        made = replace(made, also=also, references=references, level=made._level_in(table))
        if made.by is not None and (made.by not in known or made.by == made.against):
            made = replace(made, by=None)
        if made.by is None or made.and_by in (made.by, made.against):
            made = replace(made, and_by=None)
        if slot not in ("hand_left", "hand_right") and (made.by is not None or not curves()[made.curve].is_line):
            made = replace(made, by_hand=False)
        return Mended(made, tuple(notes))

    def _level_in(self, table: Table) -> str | None:
        """The level that is modelled, of a category; None of a number."""
        if self.what not in table.by_name or table.column(str(self.what)).kind not in GROUPING:
            return None
        levels = table.levels(str(self.what))
        return self.level if self.level in levels else next(iter(levels), None)

    def check_values(self) -> None:
        super().check_values()
        check_named(self.curve, curves(), "model", "curve")

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
        what = self.what
        if self.asks(tables) == "outcome":
            return sentence_case(f"{what} {self.level or '…'} from {listed([self.against, *self.also])}")
        if self.also:
            return sentence_case(f"{what} from {listed([self.against, *self.also])}")
        return sentence_case(f"{what} from {self.against}")


def _other_number(table: Table, but: str | None) -> str | None:
    """The first number column other than one."""
    return next((c.name for c in table.of_kind(Kind.NUMBER) if c.name != but), None)


def band_options(noun: str) -> tuple[Option, ...]:
    """Bands for the mean, for single cases, for both."""
    many = plural(noun)
    return (
        Option("both", f"bands for the mean and single {many}"),
        Option("mean", "a band for the mean", help="Where the true curve is likely to be."),
        Option("single", f"a band for single {many}", help="Where a new case is likely to be."),
        Option("none", "no bands"),
    )

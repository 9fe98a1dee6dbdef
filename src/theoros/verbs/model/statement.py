"""The statement of a model: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal, Self

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, listed, percent_text, plural, sentence_case, with_unit
from theoros.table.kinds import Kind
from theoros.table.table import Column
from theoros.verbs.core.reading import StatementError, check_named
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    PickSeveral,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    column_slot,
    columns_slot,
    number_slot,
    text_slot,
)
from theoros.verbs.core.statement import Statement, column_field, level_field
from theoros.verbs.data.columns import level_slot
from theoros.verbs.data.data import Place
from theoros.verbs.model.curves.curve import curves
from theoros.verbs.model.data import PairsChoice

GROUPING = (Kind.CATEGORY, Kind.ORDERED)
Bands = Literal["none", "mean", "single", "both"]
Residuals = Literal["none", "fitted", "along", "normal", "histogram", "order", "leverage"]
MOST_READ = 20
CONFIDENCE = TypeNumber(0, 1, low_open=True, high_open=True, percent=True, help="Of the bands and intervals.")
RESIDUALS = (
    Option("fitted", "against what is fitted"),
    Option("along", "against x"),
    Option("normal", "beside normal quantiles"),
    Option("histogram", "as a histogram"),
    Option("order", "in the order of the rows"),
    Option("leverage", "against leverage, with Cook’s distance"),
    Option("none", "not shown"),
)
DRAWN = (Option("none", "not drawn"), Option("segments", "as segments"), Option("squares", "as squares"))


@dataclass(frozen=True)
class ModelStatement(Statement):
    """Model a number from another by a curve, for all cases or for each group."""

    verb: ClassVar[str] = "model"
    answered_by: ClassVar[str] = "theoros.verbs.model.answering"
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
    also: tuple[str, ...] = column_field(default=())
    products: bool = False
    squares: bool = False
    references: tuple[str, ...] = ()
    values: str = ""
    level: str | None = level_field("what")
    cut: float = 0.5
    independent: Literal["not said", "yes", "no"] = "not said"

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
        table, asks = tables.get(self.table), self.asks(tables)
        what = column_slot(
            "what", "the response", self.what, tables, self.table, (Kind.NUMBER, *GROUPING), elsewhere=True
        )
        against = column_slot(
            "against",
            "what it is predicted from",
            self.against,
            tables,
            self.table,
            (Kind.NUMBER, *GROUPING),
            exclude=[self.what] if self.what else (),
        )
        shown = percent_text(self.confidence)
        sure = number_slot("confidence", "confidence", self.confidence, CONFIDENCE, shown)
        if asks != "curve":
            also = self._also_slot(tables)
            between = ", " if len(self.also) > 1 else " and "
            if asks == "several":
                return ("Model ", what, " from ", against, between, also, ", at ", sure, ".")
            level = level_slot(
                Place(tables, self.table, ""), "level", "the level", self.level, self.what, several=False
            )
            begin: Phrase = ("Model whether ", what, " is ", level, " from ", against)
            return (*begin, between, also, ", at ", sure, ".")
        options = [Option(name, one.listed, help=one.help) for name, one in curves().items()]
        curve = choice_slot("curve", "the curve", self.curve, options)
        article = "an" if curve.shown[:1] in "aeiou" else "a"
        made: Phrase = ("Model ", what, " from ", against, f" with {article} ", curve)
        if curves()[self.curve].of_degree is not None:
            holds = TypeNumber(1, 10, whole=True)
            made += (" of degree ", number_slot("degree", "degree", self.degree, holds))
        noun = table.noun if table else "case"
        everyone = f"all {plural(noun)} together"
        exclude = [self.against] if self.against else []
        by = column_slot("by", "groups", self.by, tables, self.table, GROUPING, none=everyone, exclude=exclude)
        made += (", ",) if self.by is None else (", one for each ",)
        made += (by,)
        if self.by is not None:
            and_by = column_slot(
                "and_by",
                "a second category",
                self.and_by,
                tables,
                self.table,
                GROUPING,
                none="no other",
                exclude=[*exclude, self.by],
            )
            made += (" and ", and_by) if self.and_by is not None else ()
        bands = choice_slot("bands", "bands", self.bands, band_options(noun))
        if self.bands == "none":
            return (*made, ", showing ", bands, ".")
        return (*made, ", showing ", bands, ", at ", sure, ".")

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        table, asks = tables.get(self.table), self.asks(tables)
        if asks != "curve":
            return self._several_settings(tables, asks)
        made: list[Slot] = [self._also_slot(tables)]
        if self.by is not None:
            if self.and_by is None:
                made.append(
                    column_slot(
                        "and_by",
                        "and by",
                        self.and_by,
                        tables,
                        self.table,
                        GROUPING,
                        none="no other",
                        exclude=[self.by, *([self.against] if self.against else [])],
                    )
                )
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
        if curves()[self.curve].is_line and self.by is None:
            hand = (Option(False, "not shown"), Option(True, "to be dragged"))
            made.append(choice_slot("by_hand", "a line by hand", self.by_hand, hand))
        if column is not None and column.kind in GROUPING:
            numbers = (Option(False, "as levels"), Option(True, "as numbers"))
            made.append(choice_slot("as_numbers", f"{column.name} is read", self.as_numbers, numbers))
        return tuple(made)

    def _also_slot(self, tables: Tables) -> Slot:
        slot = columns_slot(
            "also", "and from", self.also, tables, self.table, (Kind.NUMBER, *GROUPING), none="no other column"
        )
        assert isinstance(slot.holds, PickSeveral)
        taken = (self.what, self.against)
        options = tuple(o for o in slot.holds.options if o.value not in taken)
        return replace(slot, holds=replace(slot.holds, options=options, least=0))

    def _several_settings(self, tables: Tables, asks: str) -> tuple[Slot, ...]:
        table = tables.get(self.table)
        products = (Option(False, "no interactions"), Option(True, "products of two"))
        squares = (Option(False, "no squares"), Option(True, "of the numbers"))
        made = [
            choice_slot("products", "interactions", self.products, products),
            choice_slot("squares", "squares", self.squares, squares),
        ]
        names = [name for name in dict.fromkeys((self.against, *self.also)) if name]
        known = table.by_name if table else {}
        options = [
            Option(f"{name}: {level}", f"{name}: {level}", group=name)
            for name in names
            if table and name in known and known[name].kind in GROUPING
            for level in table.levels(name)
        ]
        if options:
            holds = PickSeveral(tuple(options), 0, "levels")
            shown = ", ".join(self.references) or "the first of each"
            made.append(Slot("references", "compared with", shown, self.references, holds))
        example = ", ".join(f"{name} …" for name in names[:2])
        holds_text = TypeText(f"Values of the predictors: {example}.", longest=400)
        column = known.get(self.against or "")
        alone = not self.also and column is not None and column.kind is Kind.NUMBER
        if asks == "outcome" and alone and column is not None:
            holds_read = TypeNumber(auto=True, unit=column.unit, help="Where a probability is read.")
            shown = "not read" if self.read is None else with_unit(exact(self.read), column.unit)
            made.append(number_slot("read", "predict at", self.read, holds_read, shown))
        else:
            made.append(text_slot("values", "predict for", self.values, holds_text, empty="none"))
        if asks == "outcome":
            between = TypeNumber(
                0, 1, low_open=True, high_open=True, percent=True, help="From this probability on a case is classed so."
            )
            shown = percent_text(self.cut)
            made.append(number_slot("cut", "classed from", self.cut, between, shown))
        else:
            made.append(choice_slot("residuals", "residuals", self.residuals, RESIDUALS))
        return tuple(made)

    def reads(self) -> tuple[float, ...]:
        """All values of x at which a prediction is wanted. Raises StatementError."""
        made: list[float] = [] if self.read is None else [float(self.read)]
        for piece in self.also_at.replace(";", ",").split(","):
            if piece.strip():
                try:
                    made.append(float(TypedNumber(piece.strip())))
                except NotWorkedOut as problem:
                    raise StatementError(f"{problem}. Type values with commas between them.") from None
        if len(made) > MOST_READ:
            raise StatementError(f"Predictions are read at {MOST_READ} values at the most.")
        return tuple(dict.fromkeys(made))

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        if name == "subset":  # a set of predictors that is chosen as a whole
            first, *rest = value
            made = super().with_slot("against", first, tables)
            return Mended(replace(made.statement, also=tuple(rest)), made.notes)
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
        if made.what not in known or known[str(made.what)].kind not in (Kind.NUMBER, *GROUPING):
            numbers = [c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.against]
            made = replace(made, what=next(iter(numbers), None))
        if made.against not in known:
            numbers = [c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.what]
            made = replace(made, against=next(iter(numbers), None))
        also = tuple(one for one in made.also if one in known and one not in (made.what, made.against))
        references = tuple(one for one in made.references if one.partition(": ")[0] in (made.against, *also))
        if len({one.partition(": ")[0] for one in references}) < len(references):
            kept = {one.partition(": ")[0]: one for one in references}  # the last of each column
            references = tuple(kept.values())
        made = replace(made, also=also, references=references)
        if known and made.what in known and known[str(made.what)].kind in GROUPING:
            levels = list(table.levels(str(made.what)))
            if made.level not in levels:
                made = replace(made, level=next(iter(levels), None))
        else:
            made = replace(made, level=None)
        if slot in ("what", "against", "also"):
            made = replace(made, values="")
        if made.by is not None and (made.by not in known or made.by == made.against):
            made = replace(made, by=None, and_by=None)
        if made.by is None or made.and_by in (made.by, made.against):
            made = replace(made, and_by=None)
        if slot in ("what", "against", "curve"):
            made = replace(made, hand_left=None, hand_right=None)
        if slot == "against":
            made = replace(made, read=None, also_at="", as_numbers=False)
        if made.by is not None or not curves()[made.curve].is_line:
            made = replace(made, by_hand=False)
        return Mended(made, tuple(notes))

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
            return sentence_case(f"{what} {self.level} from {listed([self.against, *self.also])}")
        if self.also:
            return sentence_case(f"{what} from {listed([self.against, *self.also])}")
        return sentence_case(f"{what} from {self.against}")


def band_options(noun: str) -> tuple[Option, ...]:
    """Bands for the mean, for single cases, for both."""
    many = plural(noun)
    return (
        Option("both", f"bands for the mean and single {many}"),
        Option("mean", "a band for the mean", help="Where the curve itself is likely to run."),
        Option("single", f"a band for single {many}", help="Where one more case is likely to lie."),
        Option("none", "no bands"),
    )

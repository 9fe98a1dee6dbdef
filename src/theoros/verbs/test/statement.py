"""The statement of a test: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar, Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import exact, with_unit
from theoros.numeric.arrays import Alternative
from theoros.table.table import Column
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.slots import (
    Grid,
    Mended,
    Option,
    Phrase,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    number_slot,
    text_slot,
)
from theoros.verbs.core.statement import Statement, check
from theoros.verbs.data.data import Data, Family, Place, data_kinds, turned_into
from theoros.verbs.data.merging import merged
from theoros.verbs.data.samples import CountsOfLevels, TwoFactorSamples, TwoWayCounts
from theoros.verbs.data.two_samples import TwoLevels
from theoros.verbs.parameters.parameter import (
    ONE_SIDED,
    Parameter,
    parameter_slot,
    parameters,
    parameters_for,
)
from theoros.verbs.procedures.procedure import (
    Procedure,
    Settings,
    compared,
    default_procedure,
    procedures,
    procedures_for,
)
from theoros.verbs.test.claimed import claimed_shares
from theoros.verbs.test.claims.compared import WORDS
from theoros.verbs.test.named_law import fitted_law, law_named, phrase
from theoros.verbs.test.older import from_flat
from theoros.verbs.test.settings import kinds_for, settings_of

if TYPE_CHECKING:
    from theoros.answer.parts import Draft


@dataclass(frozen=True)
class TestStatement(Statement):
    """Test whether a parameter is greater, less or different in one group than another."""

    __test__ = False  # its name must not make pytest collect it

    verb: ClassVar[str] = "test"
    parameter: str = "mean"
    data: Data = field(default_factory=TwoLevels)
    alternative: Alternative = "different"
    null: float = 0.0
    alpha: float = 0.05
    way: str = "welch t"
    continuity: bool = True
    shuffles: int = 10_000
    seed: int = 1
    sigma: float | None = None
    other_sigma: float | None = None
    claimed: str = ""
    true_value: float | None = None
    power: float = 0.8
    rejection: bool = False
    bounded: bool = False
    bound: bool = False
    merge: bool = False
    independent: Literal["not said", "yes", "no"] = "not said"
    because: str = ""
    part: Literal["not said", "small", "large"] = "not said"
    sums: Literal["II", "III", "I"] = "II"
    pairs: Literal["Tukey", "Bonferroni", "Holm"] = "Tukey"

    @classmethod
    def upgraded(cls, data: Mapping[str, Any]) -> Mapping[str, Any]:
        """Before data were a nested value, every way of having them had fields of its own."""
        return data if "data" in data else from_flat(data)

    @property
    def needs_table(self) -> bool:
        return not self.data.typed

    @property
    def family(self) -> Family:
        return self.data.family

    def place(self, tables: Tables) -> Place:
        """Where its data stand."""
        return Place(tables, self.table)

    def phrase(self, tables: Tables) -> Phrase:
        parameter = parameter_slot("parameter", "what is compared", self.parameter, compared())
        claim = choice_slot("alternative", "direction", self.alternative, _CLAIMS)
        sides = self.data.sides(("the ", parameter), self.place(tables))
        alpha = number_slot("alpha", "significance level α", self.alpha, _ALPHA)
        ending: Phrase = (", at α = ", alpha, ", by ", self._way_slot(), ".")
        if not self.about.points(self.family):
            return ("Test whether ", *self._undirected(parameter, sides.first, tables), *ending)
        null = self.null_slot(tables)
        if sides.second and not self.null:
            than = sides.than if sides.than and self.alternative != "different" else sides.second
            middle: Phrase = (*sides.first, " is ", claim, " ", *than)
        elif sides.second:
            middle = (*sides.first, " minus ", *sides.second, " is ", claim, " ", null)
        else:
            middle = (*sides.first, " is ", claim, " ", null)
        return ("Test whether ", *middle, *ending)

    def _undirected(self, parameter: Slot, side: Phrase, tables: Tables) -> Phrase:
        """What is claimed where there is no direction."""
        if self.family == "two-way counts":
            both = self.data.sides((), self.place(tables)).first
            return ("there is a ", parameter, " between ", *both)
        if self.family == "counts":
            return (*side, " differ from ", self._claimed_slot(tables))
        ends = {"shape": " is not that of a normal distribution", "order": " is not random"}
        return (*side, ends.get(self.parameter, " differs"))

    def _claimed_slot(self, tables: Tables) -> Slot:
        holds = TypeText(
            "Empty for equal shares; else a number for each level, in their order: 9:3:3:1, or "
            "50 %, 30 %, 20 %. Or a distribution: Poisson, binomial(4), normal(62, 9).",
            longest=400,
        )  # fmt: skip
        slot = text_slot("claimed", "the claimed shares", self.claimed, holds, empty="equal ones")
        if not self.claimed.strip():
            return slot
        try:
            levels = self.data.levels_of(self.place(tables))
            named = law_named(self.claimed)
            if named is not None:
                law, given = named
                values = f" with {phrase(law, given)}" if given else ""
                slot = replace(slot, shown=f"those of a {law.name} distribution{values}")
                fitted_law(self.claimed, levels, None)
            else:
                claimed_shares(self.claimed, levels)
        except StatementError as problem:
            return replace(slot, missing=str(problem))
        return slot

    def prepared(self, data: Any) -> Any:
        """Data with what is claimed of them, where that is more than a number."""
        if isinstance(data, TwoFactorSamples):
            return replace(data, effect=self.way.partition(" ")[0])
        if isinstance(data, TwoWayCounts):
            data = replace(data, matched=self.parameter == "change")
            return merged(data) if self.merge and not data.matched else data
        if not isinstance(data, CountsOfLevels):
            return data
        data = self._with_shares(data)
        return merged(data) if self.merge else data

    def _with_shares(self, data: CountsOfLevels) -> CountsOfLevels:
        levels, text = data.levels, self.claimed.strip()
        if not text:
            return replace(data, claimed=(1 / len(levels),) * len(levels))
        law = fitted_law(text, levels, data.counts)
        if law is not None:
            return replace(
                data, claimed=law.shares, law=law.said, law_values=law.values,
                law_how=law.how, estimated=len(law.estimated), ordered=True,
            )  # fmt: skip
        return replace(data, claimed=claimed_shares(text, levels), claimed_text=text)

    def grid(self, tables: Tables) -> Grid | None:
        return self.data.grid(self.place(tables))

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        return settings_of(self, tables)

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        """As for every statement; data of another kind take over what fits of those there were."""
        if name == "parameter" and isinstance(value, str):
            slot = self.slot(name, tables)
            if slot is not None and not slot.holds.problem(value):
                return self._about_another(parameters()[value], tables)
        if name == "data" and isinstance(value, str):
            slot = self.slot(name, tables)
            if slot is not None and not slot.holds.problem(value):
                return self._with_data_of(value, tables)
        if name == "way" and value in procedures():
            slot = self.slot(name, tables)
            if slot is not None and slot.holds.problem(value):
                return self._by_another(procedures()[str(value)], tables)
        if name.startswith("data."):
            slot = self.slot(name, tables)
            if slot is not None and slot.holds.problem(value):
                raise StatementError(slot.holds.problem(value))
            put = self.data.put(name.removeprefix("data."), value, tables.get(self.table))
            if put is not None:
                return Mended(replace(self, data=put[0]), tuple(put[1]))
        return super().with_slot(name, value, tables)

    def _with_data_of(self, kind: str, tables: Tables) -> Mended:
        if kind == (self.data.stands_for or self.data.kind):
            return Mended(self)
        typed = self._figures(tables)  # figures that rows have need not be typed anew
        data = typed if typed is not None and typed.kind == kind else None
        made = replace(self, data=data or turned_into(self.data, kind, self.place(tables)))
        return made._set_against(self).mend("data", tables)

    def _figures(self, tables: Tables) -> Data | None:
        """The figures of its rows as typed data, where they have such."""
        from theoros.verbs.data.typed_from import typed_from

        if self.data.typed:
            return None
        try:
            check(self, tables)
            return typed_from(self.data.read(tables, self.table))
        except CannotAnswer:
            return None

    def with_figures(self, data: Data) -> TestStatement:
        """The same claim about typed data of the same family, by a way that needs no rows."""
        made, _ = replace(self, table="", data=data)._fitting("data")
        return made

    @property
    def known(self) -> Settings:
        """What is set of procedures."""
        return Settings(
            self.continuity, self.shuffles, self.seed, (self.sigma, self.other_sigma), self.pairs,
            self.sums,
        )  # fmt: skip

    @property
    def about(self) -> Parameter:
        """The parameter of the claim."""
        return parameters()[self.parameter]

    def _about_another(self, about: Parameter, tables: Tables) -> Mended:
        """A claim about another parameter, with data that it can be tested on."""
        made = replace(self, parameter=about.name)
        kinds = kinds_for(about)
        if (self.data.stands_for or self.data.kind) not in kinds:
            have = data_kinds()

            def fits(kind: str) -> tuple[bool, bool]:
                cls = have[kind]
                return cls.typed != self.data.typed, ("two" in cls.family) != (
                    "two" in self.family or self.family == "pairs"
                )

            kind = min(kinds, key=fits)
            made = replace(made, data=turned_into(self.data, kind, self.place(tables)))
        return made._set_against(self).mend("parameter", tables)

    def _by_another(self, way: Procedure, tables: Tables) -> Mended:
        """A claim that a way which takes other data is about, with such data."""
        made = replace(self, parameter=way.compares[0], way=way.name)
        fitting = [
            (cls.typed != self.data.typed, kind) for kind, cls in data_kinds().items()
            if cls.family in way.families and (way.from_figures or not cls.typed)
        ]  # fmt: skip
        kind = min(fitting, key=lambda one: one[0])[1]
        made = replace(made, data=turned_into(self.data, kind, self.place(tables)))
        return made._set_against(self).mend("way", tables)

    def _set_against(self, before: TestStatement) -> TestStatement:
        """With the usual value under H0, where the claim is about something else than before."""
        one_sided = self.family in ONE_SIDED
        same = self.about.kin == before.about.kin and one_sided == (before.family in ONE_SIDED)
        if same:
            return self
        return replace(self, null=self.about.usual_null if one_sided else 0.0)

    def mend(self, slot: str, tables: Tables) -> Mended:
        made, notes = self, []
        if slot.startswith("data."):
            data, said = made.data.mended(slot.removeprefix("data."), self.place(tables))
            made, notes = replace(made, data=data), list(said)
        made, said = made._fitting(slot)
        return Mended(made, (*notes, *said))

    def _fitting(self, slot: str) -> tuple[TestStatement, list[str]]:
        """With a way and a parameter that fit the data and each other; the slot just set leads."""
        made, notes = self, []
        if not self.about.points(self.family) and self.alternative != "different":
            made = replace(made, alternative="different")
        typed, family = self.data.typed, self.family
        known = [
            one.name for one in parameters_for(family, typed=typed) if one.name in compared(family)
        ]
        if made.parameter not in known and known:
            made = replace(made, parameter=known[0])
            if typed and parameters()[known[0]].kin == self.about.kin:
                notes.append("Figures with a mean and a standard deviation compare means.")
        kin = parameters()[made.parameter].kin
        ways = {one.name for one in procedures_for(family, typed=typed, kin=kin)}
        if not ways:
            return made, notes  # data that no claim of this verb is about; a slot says so
        if made.way not in ways:
            way = default_procedure(made.parameter, family, typed=typed)
            made = replace(made, way=way)
            which = ", which needs no rows" if typed else ""
            notes.append(f"The way is {procedures()[way].inline} now{which}.")
            return made, notes
        own = procedures()[made.way]
        if made.parameter in own.compares:
            return made, notes
        if slot == "way":
            notes.append(
                f"{own.label} compares {own.compares[0]}s, so “{made.parameter}” became "
                f"“{own.compares[0]}”."
            )
            return replace(made, parameter=own.compares[0]), notes
        way = default_procedure(made.parameter, family, typed=typed)
        notes.append(
            f"{own.label} compares {own.compares[0]}s, so the way became "
            f"{procedures()[way].inline}."
        )
        return replace(made, way=way), notes

    def swapped(self) -> TestStatement:
        """The same test with the two groups in each other's place."""
        return replace(self, data=self.data.swapped())

    def slot_for_drop(self, zone: str, column: Column) -> str:
        wanted = "by" if column.kind.is_grouping else "what"
        return f"data.{wanted}" if hasattr(self.data, wanted) else ""

    def title(self, tables: Tables) -> str:
        return self.data.title or "Test"

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.verbs.test.answering import answer_in_drafts

        yield from answer_in_drafts(self, tables)

    # slots

    def _way_slot(self) -> Slot:
        options = tuple(
            Option(way.name, way.inline,
                   f"compares {' or '.join(f'{name}s' for name in way.compares)}", way.help)
            for way in procedures_for(self.family, typed=self.data.typed, kin=self.about.kin)
        )  # fmt: skip
        return choice_slot("way", "way", self.way, options)

    def null_slot(self, tables: Tables) -> Slot:
        """The slot of the value under H0."""
        table = tables.get(self.table)
        column = table.by_name.get(getattr(self.data, "what", None) or "") if table else None
        unit = str(getattr(self.data, "unit", "")).strip() or (column.unit if column else "")
        one_sided = self.family in ONE_SIDED
        if unit == "%" and not one_sided:
            unit = "percentage points"
        holds = self.about.holds_null(self.family, unit)
        shown = with_unit(exact(self.null), holds.unit) if self.null or one_sided else "0"
        label = "value under H₀" if one_sided else "difference under H₀"
        return number_slot("null", label, self.null, holds, shown)


_CLAIMS = tuple(
    Option(claim, words, help=help_)
    for (claim, words), help_ in zip(
        WORDS.items(),
        ("One tail: the low end.", "One tail: the high end.", "Two tails: either way counts."),
        strict=True,
    )
)
_ALPHA = TypeNumber(0, 1, low_open=True, high_open=True, help="Often 0.05 or 0.01.")

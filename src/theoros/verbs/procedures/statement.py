"""What statements share that ask about a parameter of data, and are answered by a procedure."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import listed, shortened
from theoros.table.table import Column
from theoros.verbs.core.answering import check
from theoros.verbs.core.fields import bare_field, nested_field, number_field, seed_field, text_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Mended, Option, Slot, SlotGrid, Tables, TypeNumber, TypeText, choice_slot
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.data import Data, Family, data_kinds, with_data_of
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.parameters.parameter import ONE_SIDED, Parameter, parameter_slot, parameters, parameters_for
from theoros.verbs.procedures.procedure import (
    Procedure,
    Purpose,
    compared,
    default_procedure,
    kinds_for,
    procedures,
    procedures_for,
)

SIGMA = TypeNumber(0, low_open=True, auto=True, help="Of the population, where it is known; for z.")
ALPHA = TypeNumber(0, 1, low_open=True, high_open=True, help="Often 0.05 or 0.01.")
BECAUSE = TypeText("A reason for the report, such as “one leaf of each bush”.", longest=300)


@dataclass(frozen=True)
class ByProcedure(Statement):
    """A statement about a parameter of data, by one of several ways.

    What is set of one of the three changes the others so that they fit each other.
    """

    purpose: ClassVar[Purpose]
    """What its ways are for."""
    parameter: str = bare_field("mean", "What is asked about.")
    data: Data = nested_field(TwoLevels, "The kind of data; see “Data” below.")
    method: str = bare_field("", "The method; the others are calculated too.")
    seed: int = seed_field("samples", "Seed of the random draws.")
    said_of_methods: ClassVar[str] = "compares"

    @property
    def needs_table(self) -> bool:
        return not self.data.typed

    @property
    def family(self) -> Family:
        return self.data.family

    @property
    def needs_method(self) -> bool:
        """Whether its way answers what is asked; else that may be left of another question."""
        return True

    def completed(self, given: frozenset[str]) -> Self:
        """With the parameter that its data have, and the method that suits both, where none was given."""
        data = self.data.agreeing()
        made = self if data is self.data else replace(self, data=data)
        if "parameter" not in given:
            own = procedures(made.purpose).get(made.method) if "method" in given else None
            known = own.compares if own else compared(made.family, made.purpose)
            if known and made.parameter not in known:
                made = replace(made, parameter=known[0])
        if "method" not in given and made.by_procedure:
            suits = default_procedure(made.parameter, made.family, typed=made.data.bare(), purpose=made.purpose)
            made = replace(made, method=suits or made.method)
        return made

    @property
    def by_procedure(self) -> bool:
        """Whether what it asks is answered by a procedure at all."""
        return True

    def check_values(self) -> None:
        super().check_values()
        known = [(self.parameter, parameters())]
        if self.needs_method:
            known.append((self.method, procedures(self.purpose)))  # type: ignore[arg-type]
        for name, there in known:
            if name not in there:
                raise StatementError(f"{self.verb}: there is no “{shortened(name)}”. There are: {', '.join(there)}.")

    @property
    def grouped(self) -> bool:
        """Whether groups of rows are compared, which a column tells apart."""
        return bool(getattr(self.data, "by", None))

    @property
    def about(self) -> Parameter:
        """The parameter that is asked about."""
        return parameters()[self.parameter]

    @property
    def procedure(self) -> Procedure:
        """The way by its name."""
        return procedures(self.purpose)[self.method]

    def place(self, tables: Tables) -> Place:
        """Where its data stand."""
        return self.place_of("data", tables)

    def measured_unit(self, tables: Tables) -> str:
        """The unit of what was measured, typed or that of its column."""
        column = self.here(tables).column(getattr(self.data, "what", None))
        return str(getattr(self.data, "unit", "")).strip() or (column.unit if column else "")

    def null_holds(self, tables: Tables) -> TypeNumber:
        """What the value under H0 may be."""
        unit = self.measured_unit(tables)
        if unit == "%" and self.family not in ONE_SIDED:
            unit = "percentage points"
        return self.about.holds_null(self.family, unit)

    def grid(self, tables: Tables) -> SlotGrid | None:
        return self.data.grid(self.place(tables))

    def methods(self, *, kin: str = "") -> list[Procedure]:
        """The ways that fit its data."""
        return procedures_for(self.family, typed=self.data.bare(), kin=kin, purpose=self.purpose)

    def put(self, name: str, value: object, slot: Slot | None, tables: Tables) -> Mended:
        """As for every statement; a parameter brings data with it that it can be asked of, a way both."""
        if slot is not None and isinstance(value, str):
            fits = not slot.holds.problem(value)
            if name == "parameter" and fits:
                return self._about_another(parameters()[value], tables)
            if name == "method" and not fits and value in procedures(self.purpose):
                return self._by_another(procedures(self.purpose)[value], tables)
        return super().put(name, value, slot, tables)

    def of_kind(self, field: str, kind: str, tables: Tables) -> Mended:
        """Data of another kind take over what fits of those there were."""
        if kind not in data_kinds():
            raise StatementError(f"{self.verb}: there are no data of the kind “{shortened(kind)}”.")
        return self._with_data_of(kind, tables)

    def _with_data_of(self, kind: str, tables: Tables) -> Mended:
        if kind == (self.data.stands_for or self.data.kind):
            return Mended(self)
        typed = self._figures(tables)  # figures that rows have need not be typed anew
        data = typed if typed is not None and typed.kind == kind else None
        made = replace(self, data=data or with_data_of(self.data, kind, self.place(tables)))
        return made.turned_from(self).mend("data", tables)

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

    def with_figures(self, data: Data) -> Self:
        """The same question about typed data of the same family, by a way that needs no rows."""
        made, _ = replace(self, table="", data=data).fitting("data")
        return made

    def _about_another(self, about: Parameter, tables: Tables) -> Mended:
        """A question about another parameter, with data that it can be asked of."""
        made = replace(self, parameter=about.name)
        kinds = kinds_for(about, self.purpose)
        if (self.data.stands_for or self.data.kind) not in kinds:
            have = data_kinds()

            def fits(kind: str) -> tuple[bool, bool]:
                cls = have[kind]
                return cls.typed != self.data.typed, ("two" in cls.family) != (
                    "two" in self.family or self.family == "pairs"
                )

            kind = min(kinds, key=fits)
            made = replace(made, data=with_data_of(self.data, kind, self.place(tables)))
        return made.turned_from(self).mend("parameter", tables)

    def _by_another(self, method: Procedure, tables: Tables) -> Mended:
        """A question that a way which takes other data is about, with such data."""
        made = replace(self, parameter=method.compares[0], method=method.name)
        fitting = [
            (cls.typed != self.data.typed, kind)
            for kind, cls in data_kinds().items()
            if cls.family in method.families and (method.from_figures or not cls.bare())
        ]
        kind = min(fitting, key=lambda one: one[0])[1]
        made = replace(made, data=with_data_of(self.data, kind, self.place(tables)))
        return made.turned_from(self).mend("method", tables)

    def turned_from(self, before: Self) -> Self:
        """With what a verb of its own has to set anew where the question was another before."""
        return self

    def mend(self, slot: str, tables: Tables) -> Mended:
        found = super().mend(slot, tables)
        made, said = found.statement.fitting(slot)
        return Mended(made, (*found.notes, *said))

    def fitting(self, slot: str) -> tuple[Self, list[str]]:
        """With a way and a parameter that fit the data and each other; the slot just set leads."""
        made, notes = self, []
        typed, family, purpose = self.data.bare(), self.family, self.purpose
        known = [one.name for one in parameters_for(family, typed=typed) if one.name in compared(family, purpose)]
        if made.parameter not in known and known:
            made = replace(made, parameter=known[0])
            if typed and parameters()[known[0]].kin == self.about.kin:
                notes.append("Figures with a mean and a standard deviation compare means.")
        kin = parameters()[made.parameter].kin
        methods = {one.name for one in made.methods(kin=kin)}
        if not methods:
            return made, notes  # data that no question of this verb is about; a slot says so
        default = default_procedure(made.parameter, family, typed=typed, purpose=purpose)
        if made.method not in methods:
            made = replace(made, method=default)
            which = ", which needs no rows" if typed else ""
            notes.append(f"The method is now {made.procedure.inline}{which}.")
            return made, notes
        own = made.procedure
        if made.parameter in own.compares:
            return made, notes
        if slot == "method":
            notes.append(
                f"{own.label} {self.said_of_methods} {plural(own.compares[0])}, so "
                f"“{made.parameter}” became “{own.compares[0]}”."
            )
            return replace(made, parameter=own.compares[0]), notes
        made = replace(made, method=default)
        notes.append(
            f"{own.label} {self.said_of_methods} {plural(own.compares[0])}, so the method is now "
            f"{made.procedure.inline}."
        )
        return made, notes

    def parameter_slot(self, label: str, known: tuple[str, ...]) -> Slot:
        """What is asked about; it says where the data have no such parameter."""
        slot = parameter_slot("parameter", label, self.parameter, known)
        return replace(slot, missing=self._not_of_such_data()) if self.parameter in known else slot

    def _not_of_such_data(self) -> str:
        """Why its data have no such parameter; empty if they have."""
        here = {name for one in self.methods() for name in one.compares}
        there = [name for name in compared(self.family, self.purpose) if name in here]
        if self.parameter in there:
            return ""
        kinds = [data_kinds()[kind].label for kind in kinds_for(self.about, self.purpose)]
        asked = f"{listed(there, 'or')}, or " if there else ""
        return (
            f"The {self.parameter} does not fit such data ({self.data.label}). Choose {asked}other data: "
            f"{listed(kinds, 'or')}."
        )

    def method_slot(self) -> Slot:
        """The ways that fit, with what each is about; it says where the one chosen is about something else."""
        own = procedures(self.purpose).get(self.method)
        suits = default_procedure(self.parameter, self.family, typed=self.data.bare(), purpose=self.purpose)
        missing = "" if self.methods(kin=self.about.kin) else self._not_of_such_data()
        if own is not None and self.family in own.families and suits and self.parameter not in own.compares:
            missing = (
                f"{own.label} {self.said_of_methods} {listed(list(map(plural, own.compares)), 'or')}, and the "
                f"statement asks about the {self.parameter}. Choose another method, such as “{suits}”."
            )
        options = tuple(
            Option(
                method.name,
                method.inline,
                f"{self.said_of_methods} {' or '.join(map(plural, method.compares))}",
                method.help,
            )
            for method in self.methods(kin=self.about.kin)
        )
        return replace(choice_slot("method", "method", self.method, options), missing=missing)

    def swapped(self) -> Self:
        """The same with the two groups in each other's place."""
        return replace(self, data=self.data.swapped())

    def slot_for_drop(self, zone: str, column: Column) -> str:
        wanted = "by" if column.kind.is_grouping else "what"
        return f"data.{wanted}" if hasattr(self.data, wanted) else ""


@dataclass(frozen=True)
class Inference(ByProcedure):
    """A statement that concludes from data to the population they were drawn from."""

    sigma: float | None = number_field(
        None, "σ, if known", SIGMA, "Standard deviation of the first population, where it is known.", empty="unknown"
    )
    other_sigma: float | None = number_field(
        None, "σ of the second, if known", SIGMA, "The same of the second population.", empty="unknown"
    )
    independent: Literal["not said", "yes", "no"] = bare_field(
        "not said", "Whether the cases are independent of each other."
    )
    because: str = text_field("why independent", BECAUSE, "Why they do not, for the report.", empty="…")
    part: Literal["not said", "small", "large"] = bare_field(
        "not said", "Whether the sample is at most 5 % of the population (small), or more (large)."
    )

    def known_spreads(self, tables: Tables) -> list[Slot]:
        """The standard deviations of the populations: known in some textbooks, rarely else."""
        method, here = procedures(self.purpose).get(self.method), self.here(tables)
        asked, two = method is not None and method.asks == "sigmas", self.family == "two samples"
        made = [self.field_slot("sigma", here, label="σ of the first, if known" if two else "σ, if known")]
        if two:
            made.append(self.field_slot("other_sigma", here))
        return [replace(one, group="known spread", changed=one.value is not None or asked) for one in made]


def plural(parameter: str) -> str:
    """ "means"; of what is a plural, itself."""
    return parameters()[parameter].plural

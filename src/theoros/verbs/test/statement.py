"""The statement of a test: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.parts import Draft
from theoros.answer.wording import exact, sentence_case, with_unit
from theoros.numeric.arrays import Centre, Claim
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.registry import Verb
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    Pick,
    Slot,
    Tables,
    TypeNumber,
    choice_slot,
    column_slot,
    number_slot,
)
from theoros.verbs.core.splitting import and_by_slot
from theoros.verbs.core.statement import Statement, column_field, level_field
from theoros.verbs.core.suggesting import numbers_and_groups
from theoros.verbs.data.groups import group_labels
from theoros.verbs.test.claims import WORDS
from theoros.verbs.test.typed_sentence import group_phrase, measure_slot, unit_slot
from theoros.verbs.test.way import ways, ways_for

MOST_SHUFFLES = 1_000_000

Groups = Literal["levels", "columns", "figures"]
Design = Literal["not said", "separate", "matched"]


@dataclass(frozen=True)
class TestStatement(Statement):
    """Test whether a mean or median is greater, less or different in one group than another."""

    __test__ = False  # its name must not make pytest collect it

    verb: ClassVar[str] = "test"
    groups: Groups = "levels"
    centre: Centre = "mean"
    what: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()
    first: str | None = level_field("by")
    second: str | None = level_field("by")
    other: str | None = column_field()
    claim: Claim = "different"
    null: float = 0.0
    alpha: float = 0.05
    way: str = "welch t"
    design: Design = "not said"
    continuity: bool = True
    measure: str = ""
    unit: str = ""
    first_name: str = ""
    first_n: int | None = None
    first_mean: float | None = None
    first_sd: float | None = None
    second_name: str = ""
    second_n: int | None = None
    second_mean: float | None = None
    second_sd: float | None = None
    shuffles: int = 10_000
    seed: int = 1

    @property
    def matched(self) -> bool:
        """Whether the test works on the differences of matched pairs."""
        return self.groups == "columns" and self.design == "matched"

    @property
    def typed(self) -> bool:
        """Whether it works on typed figures rather than on rows."""
        return self.groups == "figures"

    @property
    def needs_table(self) -> bool:
        return not self.typed

    def phrase(self, tables: Tables) -> Phrase:
        centre = choice_slot("centre", "what is compared", self.centre, _CENTRES)
        claim = choice_slot("claim", "direction", self.claim, _CLAIMS)
        alpha = number_slot("alpha", "significance level α", self.alpha, _ALPHA)
        way = self._way_slot()
        ending: Phrase = (", at α = ", alpha, ", by ", way, ".")
        null = self._null_slot(tables)
        if self.typed:
            first, second = group_phrase(self, "first"), group_phrase(self, "second")
            start: Phrase = ("Test whether the ", centre, " ", measure_slot(self), " of ", *first)
            if self.null:
                return (*start, " minus that of ", *second, " is ", claim, " ", null, *ending)
            return (*start, " is ", claim, " that of ", *second, *ending)
        what = self._what_slot(tables)
        if self.groups == "columns":
            other = column_slot(
                "other", "the second column", self.other, tables, self.table, (Kind.NUMBER,),
                exclude=[self.what] if self.what else [],
            )  # fmt: skip
            if self.matched:
                return (
                    "Test whether the ", centre, " of the differences ", what, " minus ", other,
                    " is ", claim, " ", null, *ending,
                )  # fmt: skip
            if self.null:
                return (
                    "Test whether the ", centre, " ", what, " minus the ", self.centre, " ", other,
                    " is ", claim, " ", null, *ending,
                )  # fmt: skip
            return (
                "Test whether the ", centre, " ", what, " is ", claim, " the ",
                self.centre, " ", other, *ending,
            )  # fmt: skip
        one, two = self._level_slots(tables)
        start = ("Test whether the ", centre, " of ", what, " for ", one)
        if self.null:
            return (*start, " minus that for ", two, " is ", claim, " ", null, *ending)
        joiner = " that for " if self.claim == "different" else " for "
        return (*start, " is ", claim, joiner, two, *ending)

    def asides(self, tables: Tables) -> tuple[Slot, ...]:
        made = [choice_slot("groups", "the two groups", self.groups, _GROUPS)]
        if self.typed:
            made.append(unit_slot(self))
        if self.groups == "levels" and self.by is not None:
            made.append(and_by_slot(self, tables))
        if not self.null and not self.matched:
            made.append(self._null_slot(tables))
        way = ways().get(self.way)
        if way and way.simulated:
            shuffles = TypeNumber(100, MOST_SHUFFLES, whole=True, help="More give a steadier p.")
            made.append(number_slot("shuffles", "shuffles", self.shuffles, shuffles))
            seed = TypeNumber(0, 2**31 - 1, whole=True, help="The same seed, the same shuffles.")
            made.append(number_slot("seed", "seed", self.seed, seed, str(self.seed)))
        if way and "median" in way.compares and not way.simulated and not self.typed:
            made.append(
                choice_slot("continuity", "continuity correction", self.continuity, _CONTINUITY)
            )
        return tuple(made)

    def mend(self, slot: str, tables: Tables) -> Mended:
        made, notes = self, []
        table = tables.get(self.table)
        if self.typed:
            return self._mend_typed(slot, tables)
        if table is None:
            return Mended(self)
        if slot == "groups":
            made = made._filled(table)
        if made.groups == "levels":
            made, said = made._mend_levels(slot, table, self)
            notes += said
        elif slot in ("what", "groups", "other") and (
            made.other == made.what or made.other not in table.by_name
        ):
            made = made._filled(table)
        # the way and what it compares follow each other, the slot just set leading
        way = ways().get(made.way)
        if way is None or way.matched != made.matched:
            made = replace(made, way=default_way(made.centre, made.matched))
            notes.append(f"The way is {ways()[made.way].inline} now.")
        elif made.centre not in way.compares:
            if slot == "way":
                made = replace(made, centre=way.compares[0])
                notes.append(
                    f"{way.label} compares {way.compares[0]}s, so “{self.centre}” became "
                    f"“{made.centre}”."
                )
            else:
                made = replace(made, way=default_way(made.centre, made.matched))
                notes.append(
                    f"{way.label} compares {way.compares[0]}s, so the way became "
                    f"{ways()[made.way].inline}."
                )
        return Mended(made, tuple(notes))

    def _mend_typed(self, slot: str, tables: Tables) -> Mended:
        """Of typed figures only means can be compared, by the ways that need no rows."""
        made, notes = self, []
        if slot == "groups" and not made.measure:
            table = tables.get(self.table)
            column = table.by_name.get(self.what or "") if table else None
            if column is not None:
                made = replace(made, measure=column.name, unit=column.unit)
        if slot == "groups" and made.design == "matched":
            made = replace(made, design="not said")
        if made.centre != "mean":
            made = replace(made, centre="mean")
            notes.append("Figures with a mean and a standard deviation compare means.")
        if made.way not in {way.name for way in ways_for(False, figures=True)}:
            made = replace(made, way=default_way("mean", False, figures=True))
            notes.append(f"The way is {ways()[made.way].inline} now, which needs no rows.")
        return Mended(made, tuple(notes))

    def _mend_levels(
        self, slot: str, table: Table, asked: TestStatement
    ) -> tuple[TestStatement, list[str]]:
        made = self
        if slot in ("first", "second") and made.first == made.second:
            # choosing the other's level means changing places
            column = table.by_name.get(made.by or "")
            levels = group_labels(table, made.by, made.and_by) if column else ()
            rest = [level for level in levels if level != made.first]
            if not rest:
                return made, []
            name = "second" if slot == "first" else "first"
            made = replace(made, **{name: rest[0]})  # type: ignore[arg-type]
            return made, [f"The {name} group is “{rest[0]}” now."]
        if slot in ("what", "by", "and_by", "groups"):
            refilled = made._filled(table)
            if (refilled.by, refilled.first, refilled.second) != (made.by, made.first, made.second):
                notes = []
                if slot == "what" and asked.first is not None and refilled.first is not None:
                    notes.append(f"The groups are {refilled.first} and {refilled.second} now.")
                return refilled, notes
        return made, []

    def swapped(self) -> TestStatement:
        """The same test with the two groups in each other's place."""
        if self.typed:
            return replace(
                self, first_name=self.second_name, first_n=self.second_n,
                first_mean=self.second_mean, first_sd=self.second_sd,
                second_name=self.first_name, second_n=self.first_n,
                second_mean=self.first_mean, second_sd=self.first_sd,
            )  # fmt: skip
        if self.groups == "columns":
            return replace(self, what=self.other, other=self.what)
        return replace(self, first=self.second, second=self.first)

    def _filled(self, table: Table) -> TestStatement:
        """Groups chosen where the fields name none that the table has."""
        made = self
        numbers = [c.name for c in table.of_kind(Kind.NUMBER)]
        if made.what not in numbers:
            made = replace(made, what=numbers[0] if numbers else None)
        if made.groups == "columns":
            if made.other not in numbers or made.other == made.what:
                rest = [name for name in numbers if name != made.what]
                made = replace(made, other=rest[0] if rest else None)
            return made
        column = table.by_name.get(made.by or "")
        if column is None or not column.kind.is_grouping:
            found = next(
                (c for c in table.of_kind(Kind.CATEGORY, Kind.ORDERED)
                 if len(table.levels(c.name)) >= 2),
                None,
            )  # fmt: skip
            made = replace(made, by=found.name if found else None, first=None, second=None)
        if made.and_by is not None and (
            made.and_by == made.by or not group_labels(table, made.by, made.and_by)
        ):
            made = replace(made, and_by=None)
        if made.by is not None:
            levels = group_labels(table, made.by, made.and_by)
            first = made.first if made.first in levels else None
            second = made.second if made.second in levels else None
            rest = [level for level in levels if level not in (first, second)]
            first = first or (rest.pop(0) if rest else None)
            second = second or (rest.pop(0) if rest else None)
            made = replace(made, first=first, second=second)
        return made

    def title(self, tables: Tables) -> str:
        if self.typed:
            names = f"{self.first_name or '…'} and {self.second_name or '…'}"
            return f"{sentence_case(self.measure or 'test')}: {names}"
        if self.groups == "columns":
            return f"{sentence_case(self.what or 'test')} and {self.other or '…'}"
        if not self.what:
            return "Test"
        return f"{sentence_case(self.what)}: {self.first} and {self.second}"

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.verbs.test.answering import answer_in_drafts

        yield from answer_in_drafts(self, tables)

    # slots

    def _what_slot(self, tables: Tables) -> Slot:
        label = "the first column" if self.groups == "columns" else "the number to compare"
        return column_slot(
            "what", label, self.what, tables, self.table, (Kind.NUMBER,), elsewhere=True
        )

    def _way_slot(self) -> Slot:
        options = tuple(
            Option(way.name, way.inline,
                   f"compares {' or '.join(c + 's' for c in way.compares)}", way.help)
            for way in ways_for(self.matched, self.typed)
        )  # fmt: skip
        return choice_slot("way", "way", self.way, options)

    def _null_slot(self, tables: Tables) -> Slot:
        table = tables.get(self.table)
        column = table.by_name.get(self.what or "") if table else None
        unit = self.unit.strip() if self.typed else column.unit if column else ""
        if unit == "%":
            unit = "percentage points"
        holds = TypeNumber(unit=unit, help="The difference if H₀ is true; 0 for none.")
        shown = with_unit(exact(self.null), unit) if self.null else "0"
        return number_slot("null", "difference under H₀", self.null, holds, shown)

    def _level_slots(self, tables: Tables) -> tuple[Slot, Slot]:
        table = tables.get(self.table)
        made = []
        for name, label, value in (
            ("first", "the first group", self.first),
            ("second", "the second group", self.second),
        ):
            options: list[Option] = []
            missing, shown = "", value if value is not None else f"choose {label}"
            if table is not None:
                grouping = table.of_kind(Kind.CATEGORY, Kind.ORDERED)
                own = [c for c in grouping if c.name == self.by]
                for column in own + (
                    [c for c in grouping if c not in own] if name == "first" else []
                ):
                    mine = column.name == self.by
                    labels = group_labels(table, column.name, self.and_by if mine else None)
                    for level in labels[:200]:
                        chosen = level if mine else f"{column.name}\x1f{level}"
                        options.append(Option(chosen, level, column.name, group=column.name))
                home = table.by_name.get(self.by or "")
                if not grouping:
                    missing = (
                        f"There is no category column in {self.table} to make two groups of. "
                        f"Compare two columns instead, or change a column’s kind to category."
                    )
                elif self.by is None:
                    missing = f"Choose {label}."
                elif home is None:
                    missing = f"There is no column “{self.by}” in {self.table}. Choose a group."
                elif not home.kind.is_grouping:
                    missing = (
                        f"{self.by} is a {home.kind} column, which has no groups. Choose "
                        f"another, or change its kind to category."
                    )
                elif value is None:
                    have = group_labels(table, home.name, self.and_by)
                    missing = (
                        f"Choose {label}."
                        if len(have) >= 2
                        else f"{self.by} has only one level, and a test compares two groups."
                        if have
                        else f"Every value of {self.by} is missing, so there are no groups."
                    )
                elif value not in group_labels(table, home.name, self.and_by):
                    both = f"{self.by} and {self.and_by}" if self.and_by else self.by
                    missing = f"No row has {both} “{value}” any more. Choose another group."
                elif name == "second" and value == self.first:
                    missing = "Both groups are the same. Choose another second group."
            made.append(Slot(name, label, shown, value, Pick(tuple(options)), missing))
        return made[0], made[1]

    def with_slot(self, name, value, tables):  # type: ignore[no-untyped-def]
        """As for every statement; a level of another category brings that category along."""
        if name in ("first", "second") and isinstance(value, str) and "\x1f" in value:
            by, _, level = value.partition("\x1f")
            moved = replace(self, by=by, and_by=None, first=level, second=None)
            table = tables.get(self.table)
            if table is not None:
                moved = moved._filled(table)
            return Mended(moved, (f"The groups are levels of {by} now.",))
        if name in ("first", "second") and value == getattr(
            self, "second" if name == "first" else "first"
        ):
            return Mended(self.swapped(), ("The two groups have changed places.",))
        return super().with_slot(name, value, tables)


def default_way(centre: Centre, matched: bool, figures: bool = False) -> str:
    """The first way that compares this centre."""
    return next(way.name for way in ways_for(matched, figures) if centre in way.compares)


_CENTRES = (
    Option("mean", "mean", help="The balance point; outliers pull it."),
    Option("median", "median", help="The middle value; outliers hardly move it."),
)
_CLAIMS = tuple(
    Option(claim, words, help=help_)
    for (claim, words), help_ in zip(
        WORDS.items(),
        ("One tail: the low end.", "One tail: the high end.", "Two tails: either way counts."),
        strict=True,
    )
)
_GROUPS = (
    Option("levels", "two levels of a category", help="One row a case; a column says which group."),
    Option("columns", "two columns", help="Each group, or each measurement, has its own column."),
    Option("figures", "typed figures", help="No rows: n, mean and SD of each group are typed."),
)
_CONTINUITY = (
    Option(True, "with", help="Half a unit towards the mean, when the normal curve stands in."),
    Option(False, "without", help="The statistic as it is."),
)
_ALPHA = TypeNumber(0, 1, low_open=True, high_open=True, help="Often 0.05 or 0.01.")


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """Two number columns, or a number and the first two levels of a category."""
    own = tables.get(table)
    if own is None:
        return TestStatement(table=table, groups="figures")
    numbers, grouping = numbers_and_groups(own, columns)
    made = TestStatement(
        table=table,
        what=numbers[0] if numbers else None,
        by=grouping[0] if grouping else None,
    )
    categories = own.of_kind(Kind.CATEGORY, Kind.ORDERED)
    if len(numbers) >= 2 or (not categories and len(own.of_kind(Kind.NUMBER)) >= 2):
        made = replace(made, groups="columns", other=numbers[1] if len(numbers) > 1 else None)
    return made._filled(own)


VERB = Verb(
    TestStatement,
    "Test",
    "Put a claim about two means or medians to the test.",
    suggest,
    examples=(
        TestStatement(
            table="trays", what="moisture loss", by="withering", first="slow", second="quick",
            centre="median", claim="greater", alpha=0.01, way="rank sum", design="separate",
        ),
        TestStatement(
            table="tasters", groups="columns", what="score after", other="score before",
            claim="greater", design="matched", way="paired t",
        ),
        TestStatement(
            groups="figures", measure="moisture loss", unit="%", claim="greater",
            first_name="slow trays", first_n=11, first_mean=64.3, first_sd=2.1,
            second_name="quick trays", second_n=11, second_mean=61.9, second_sd=2.6,
        ),
    ),
    methods=lambda: [(way.label, way.help, "way", way.name) for way in ways().values()],
    slot_help={
        "groups": "“levels” compares two levels of a category; “columns” two number columns; "
        "“figures” samples of which n, mean and standard deviation are typed.",
        "centre": "What is compared.",
        "what": "The number column; with “columns”, the first of the two.",
        "by": "With “levels”: the category column.",
        "and_by": "With “levels”: a second category; then a group is a combination of levels.",
        "first": "With “levels”: the first level.",
        "second": "With “levels”: the second level.",
        "other": "With “columns”: the second column.",
        "claim": "Which way H₁ points, first against second.",
        "null": "The difference, first minus second, if H₀ is true.",
        "alpha": "Significance level, between 0 and 1.",
        "way": "How the p-value is found; the other ways are worked out too.",
        "design": "Whether the samples were picked separately or matched one to one.",
        "measure": "With “figures”: what was measured.",
        "unit": "With “figures”: the unit of the means and standard deviations.",
        "first_name": "With “figures”: a name for the first group.",
        "first_n": "How many values its figures are of, 2 or more.",
        "first_mean": "Its mean.",
        "first_sd": "Its standard deviation, divisor n − 1; 0 or more.",
        "second_name": "The same for the second group.",
        "second_n": "The same for the second group.",
        "second_mean": "The same for the second group.",
        "second_sd": "The same for the second group.",
        "continuity": "Continuity correction, where ranks are read off the normal curve.",
        "shuffles": "How often labels or signs are dealt out again, 100 to 1 000 000.",
        "seed": "Seed of the simulation.",
    },
)  # fmt: skip

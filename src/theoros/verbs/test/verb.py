"""Test as a verb: what it suggests and offers, its examples, and what its slots are for."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

from theoros.answer.wording import listed_briefly
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.guiding import Answers, Guide, GuideQuestion
from theoros.verbs.core.registry import Findable, Offer, Verb
from theoros.verbs.core.slots import Option, Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import numbers_and_groups
from theoros.verbs.data.data import Data, data_kinds
from theoros.verbs.data.one_sample import Levels
from theoros.verbs.data.two_columns import PairedColumns, TwoColumns
from theoros.verbs.data.two_factors import TwoFactors
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.data.typed import TypedGroup, TypedSamples
from theoros.verbs.parameters.parameter import usual_null
from theoros.verbs.procedures.procedure import default_procedure, procedures
from theoros.verbs.test.statement import TestStatement


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """What the selected columns can be asked; two means, as long as none is selected."""
    own = tables.get(table)
    if own is None:
        return TestStatement(table=table, data=TypedSamples())
    numbers, grouping = numbers_and_groups(own, columns)
    if len(numbers) == 1 and len(grouping) == 2:
        factors = TwoFactors(numbers[0], *grouping)
        return TestStatement(table=table, data=factors.filled(own), method="interaction")
    if not numbers and (len(grouping) > 1 or (grouping and not own.of_kind(Kind.NUMBER))):
        return GUIDE.statement(GUIDE.preset(own, columns), tables, table, columns)
    if len(numbers) < 2 and grouping and len(own.levels(grouping[0])) > 2:
        levels = Levels(numbers[0] if numbers else None, grouping[0])
        return TestStatement(table=table, data=levels.filled(own), method="anova")
    what = numbers[0] if numbers else None
    categories = own.of_kind(Kind.CATEGORY, Kind.ORDERED)
    data: Data = TwoLevels(what, grouping[0] if grouping else None)
    if len(numbers) >= 2 or (not categories and len(own.of_kind(Kind.NUMBER)) >= 2):
        data = TwoColumns(what, numbers[1] if len(numbers) > 1 else None)
    return TestStatement(table=table, data=data.filled(own))


def offers(table: Table, column: Column) -> list[Offer]:
    """Whether the two levels of a category differ in the first number there is."""
    if not column.kind.is_grouping or len(table.levels(column.name)) != 2:
        return []
    numbers = [c for c in table.of_kind(Kind.NUMBER) if c.name != table.counts]
    if not numbers:
        return []
    (one, two), what = table.levels(column.name), numbers[0].name
    made = TestStatement(table=table.name, data=TwoLevels(what, column.name, None, one, two))
    return [Offer(f"Test whether {one} and {two} differ in {what}", made, 30)]


ABOUT = (
    Option("mean", "a mean", help="The average of a number."),
    Option("median", "a median", help="The middle value of a number; outliers hardly move it."),
    Option("proportion", "a proportion", help="The proportion of cases that have something."),
    Option("standard deviation", "a spread", help="How much a number varies."),
    Option("shares", "the shares of one category", help="Whether they are as claimed, or equal."),
    Option("relation", "two categories", help="Whether they are related."),
    Option("correlation", "two numbers", help="Whether one number changes with the other."),
    Option(
        "two factors",
        "a number by two categories",
        help="Whether the effect of one category on the mean depends on the other.",
    ),
    Option("shape", "the shape of a number", help="Whether it is normally distributed."),
    Option("order", "the order of the values", help="Whether high and low values follow at random."),
)


GROUPS = (
    Option("one", "one group", help="It is compared with a claimed value."),
    Option("two", "two groups"),
    Option("several", "three or more"),
)


MATCHED = (
    Option("separate", "separate", help="Each case is in one group only."),
    Option("matched", "matched", help="Each value of one belongs to a value of the other."),
)


TWICE = (
    Option("once", "two different things", help="Such as netting and grade."),
    Option("twice", "the same thing, twice", help="Before and after, for the same cases."),
)


FIGURES = (
    Option("rows", "rows of a table"),
    Option("figures", "figures alone", help="Such as n, mean and SD, or x of n."),
)


_KINDS = {
    ("one", "rows"): "one column",
    ("one", "figures"): "typed sample",
    ("two", "rows"): "two levels",
    ("two", "figures"): "two typed samples",
    ("several", "rows"): "levels",
    ("several", "figures"): "several typed samples",
}


_MATCHED = {("two", "rows"): "pairs", ("two", "figures"): "typed differences", ("several", "rows"): "several columns"}


_OTHERS = {
    ("proportion", "one", "rows"): "level",
    ("proportion", "one", "figures"): "typed share",
    ("proportion", "two", "rows"): "level in two groups",
    ("proportion", "two", "figures"): "typed shares",
    ("shares", "", "rows"): "counts of levels",
    ("shares", "", "figures"): "typed counts",
    ("relation", "", "rows"): "two categories",
    ("relation", "", "figures"): "typed two-way counts",
    ("correlation", "", "rows"): "two numbers",
    ("correlation", "", "figures"): "typed correlation",
    ("two factors", "", "rows"): "two factors",
    ("shape", "", "rows"): "one column",
    ("order", "", "rows"): "one column",
}


def preset(table: Table | None, columns: Sequence[str]) -> dict[str, str]:
    """What the columns that are selected answer already."""
    if table is None:
        return {"figures": "figures"}
    numbers, groups = numbers_and_groups(table, columns)
    if numbers and len(groups) >= 2:
        return {"about": "two factors"}
    if numbers and groups:
        many = len(table.levels(groups[0])) > 2
        return {"about": "mean", "groups": "several" if many else "two"}
    if len(numbers) >= 2:
        same = len({table.column(name).unit for name in numbers[:2]}) == 1
        unit = table.column(numbers[0]).unit
        if same and unit:  # one unit: the same thing, measured twice
            several = len(numbers) > 2
            return {"about": "mean", "groups": "several" if several else "two", "matched": "matched"}
        return {"about": "correlation"}
    if len(groups) >= 2:
        return {"about": "relation"}
    if groups:
        two = len(table.levels(groups[0])) == 2
        return {"about": "proportion" if two else "shares", "groups": "one"}
    return {"about": "mean", "groups": "one"} if numbers else {}


def questions(answers: Answers, table: Table | None) -> tuple[GuideQuestion, ...]:
    """The questions that are to be asked, as far as the answers lead."""
    about = answers.get("about", "mean")
    made = [GuideQuestion("about", "What is the claim about?", ABOUT, about)]
    groups = answers.get("groups", "two")
    if about in ("mean", "median", "standard deviation", "proportion"):
        fitting: tuple[Option, ...] = GROUPS if about in ("mean", "median") else GROUPS[:2]
        groups = groups if any(one.value == groups for one in fitting) else "two"
        made.append(GuideQuestion("groups", "How many groups are there?", fitting, groups))
    matched = "separate"
    if about in ("mean", "median") and groups != "one":
        matched = answers.get("matched", "separate")
        made.append(
            GuideQuestion(
                "matched", "Are they matched one to one, or separate?", MATCHED, matched, _about_matching(table)
            )
        )
    if about == "relation":
        twice = answers.get("twice", "once")
        made.append(GuideQuestion("twice", "What do the two categories tell?", TWICE, twice))
    fitting = _to_go_by(about, groups, matched, rows=table is not None)
    figures = answers.get("figures", "rows")
    if all(one.value != figures for one in fitting):
        figures = str(fitting[0].value)
    made.append(GuideQuestion("figures", "What data do you have?", fitting, figures))
    return tuple(made)


def _to_go_by(about: str, groups: str, matched: str, *, rows: bool) -> tuple[Option, ...]:
    """Rows, where there are any, and figures, where they are enough for such a claim."""
    grouped = about in ("mean", "median", "standard deviation", "proportion")
    known = (groups, "figures") in _MATCHED if matched == "matched" else grouped or (about, "", "figures") in _OTHERS
    if not known:
        return FIGURES[:1]
    return FIGURES if rows else FIGURES[1:]


def _about_matching(table: Table | None) -> str:
    """What matched means, by the rows of the table where it has two groups."""
    start = "Matched: both values come from one case, or from two cases that were paired before measuring."
    end = "Equal group sizes do not show that the groups are matched."
    if table is None:
        return f"{start} {end}"
    category = next((c for c in table.of_kind(Kind.CATEGORY) if len(table.levels(c.name)) == 2), None)
    if category is not None:
        one, two = table.levels(category.name)
        ask = (
            f"Is there a reason why the first row of {one} belongs to the first row of {two}? If "
            f"not, they are separate."
        )
        return f"{start} {ask} {end}"
    numbers = [c.name for c in table.of_kind(Kind.NUMBER)]
    if len(numbers) >= 2:
        both = listed_briefly(numbers[:2])
        return f"{start} Do {both} of one row belong to one {table.noun}? {end}"
    return f"{start} {end}"


def statement_of(answers: Answers, tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """The statement that the answers lead to, filled in from the selected columns."""
    from theoros.verbs.test.statement import TestStatement

    own = tables.get(table)
    given = {one.key: one.given for one in questions(answers, own)}
    about, figures = given["about"], given["figures"]
    groups = given.get("groups", "")
    kind = _OTHERS.get((about, groups, figures)) or _KINDS.get((groups, figures), "two levels")
    if given.get("matched") == "matched":
        kind = _MATCHED[groups, figures]
    if given.get("twice") == "twice":
        about = "change"
    if about == "two factors":
        about = "mean"
    if figures == "figures" and about == "median":
        about = "mean"  # which figures with a mean and a standard deviation tell
    cls = data_kinds()[kind]
    data = _with_columns(cls(), own, columns) if figures == "rows" and own is not None else cls()
    method = default_procedure(about, cls.family, typed=cls.bare())
    return TestStatement(
        table=table if figures == "rows" else "", parameter=about, data=data, null=usual_null(cls.family), method=method
    )


def _with_columns(data, own: Table, columns: Sequence[str]):  # type: ignore[no-untyped-def]
    """Data with the selected columns where they fit, and others where none is selected."""
    from dataclasses import fields, replace

    numbers, groups = numbers_and_groups(own, columns)
    names = {field.name for field in fields(data)}
    if "other" in names and len(numbers) < 2:
        numbers = _in_one_unit(own) or numbers
    first = groups if data.family in ("one share", "two shares", "counts", "two-way counts") else (numbers)
    change: dict[str, object] = {}
    if "what" in names and first:
        change["what"] = first[0]
    for other in ("other", "against"):
        if other in names and len(numbers) > 1:
            change[other] = numbers[1]
    rest = [one for one in groups if one != change.get("what")]
    for name, column in zip(("by", "and_by"), rest, strict=False):
        if name in names:
            change[name] = column
    if "columns" in names and len(numbers) > 1:
        change["columns"] = tuple(numbers)
    return replace(data, **change).filled(own)


def _in_one_unit(table: Table) -> list[str]:
    """Two number columns in one unit, which can be the same thing measured twice."""
    columns = table.of_kind(Kind.NUMBER)
    for one, two in combinations(columns, 2):
        if one.unit == two.unit and table.counts not in (one.name, two.name):
            return [one.name, two.name]
    return []


GUIDE = Guide(
    "Which test?", "A few plain questions that lead to the right test, filled in.", preset, questions, statement_of
)


VERB = Verb(
    TestStatement,
    "Test",
    "Put a claim about two means or medians to the test.",
    suggest,
    order=40,
    offers=offers,
    guide=GUIDE,
    examples=(
        TestStatement(
            table="trays",
            data=TwoLevels("moisture loss", "withering", first="slow", second="quick", design="separate"),
            parameter="median",
            alternative="greater",
            alpha=0.01,
            method="rank sum",
        ),
        TestStatement(
            table="tasters", data=PairedColumns("score after", "score before"), alternative="greater", method="paired t"
        ),
        TestStatement(
            data=TypedSamples(
                "moisture loss",
                "%",
                (TypedGroup("slow trays", 11, 64.3, 2.1), TypedGroup("quick trays", 11, 61.9, 2.6)),
            ),
            alternative="greater",
        ),
    ),
    methods=lambda: [
        Findable(one.label, one.help, "method", one.name, one.other_names) for one in procedures().values()
    ],
    other_names=("hypothesis test", "significance test", "p-value"),
)

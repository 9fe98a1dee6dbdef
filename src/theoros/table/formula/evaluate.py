"""The values of a formula: each part becomes one operation on whole columns.

Missing values spread: what is worked out from one is missing. `and` and `or` know what can
still be known (false and missing is false). A number that is not finite, such as 1/0 or
log(-1), is missing. Statistics of a column use every row that has a value, each as often as
it counts, so that they do not depend on which rows are kept for the analysis.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats, Ints
from theoros.table.formula import grammar
from theoros.table.formula.known_functions import FUNCTIONS, Type
from theoros.table.formula.tokens import FormulaError
from theoros.table.kinds import Kind
from theoros.table.table import Table

MOST_TEXT = 200_000_000
"""Letters that the texts a formula joins may have in all."""
LONGEST_TEXT = 10_000
NUMBER_LETTERS = 18
"""Letters that a number may take as text."""

WORDS = {"number": "a number", "truth": "true or false", "text": "text", "date": "a date", "missing": "missing"}


@dataclass(frozen=True)
class Typed:
    """An expression on whole columns and the type of its values."""

    expr: pl.Expr
    type: Type
    node: grammar.Node
    levels: tuple[str, ...] = ()
    """The levels in order, for an ordered category."""


@dataclass(frozen=True)
class Worked:
    """The values of a formula, without a name, and the type they have."""

    values: pl.Series
    type: Type


@dataclass
class FormulaColumns:
    """The columns a formula works on, under names that mean nothing to the data frame library."""

    table: Table
    used: dict[str, str] = field(default_factory=dict)
    letters: int = 0
    steps: list[tuple[str, pl.Expr]] = field(default_factory=list)
    """What is worked out, in order, each under a name that later steps know it by."""
    groups: pl.Series | None = None
    """For each row its group, where a formula is worked out in every group by itself."""

    def let(self, expr: pl.Expr) -> pl.Expr:
        """Works something out once, however often it is mentioned.

        An expression that is mentioned twice within another is worked out twice, so that nesting
        would take exponential time.
        """
        name = f"t{len(self.steps)}"
        self.steps.append((name, expr))
        return pl.col(name)

    def count_letters(self, more: int, node: grammar.Node) -> None:
        """Raises FormulaError where the texts that are joined grow too long for the memory."""
        self.letters += more
        if self.letters > MOST_TEXT:
            what = node.column if isinstance(node, grammar.Name) else "this"
            raise FormulaError(f"The texts of {what} are too long to be worked with so often.", node.at, node.end)

    def worked(self, last: pl.Expr) -> pl.Series:
        """The values of an expression that may build on all steps."""
        steps = [*self.steps, ("result", last)]
        needed = {}  # the last step that needs each
        for at, (_, expr) in enumerate(steps):
            needed.update(dict.fromkeys(expr.meta.root_names(), at))
        frame = self.frame()
        for at, (name, expr) in enumerate(steps):
            if not expr.meta.root_names():
                expr = _constant(expr, frame.height)
            elif self.groups is not None:
                expr = expr.over("group")
            frame = frame.with_columns(expr.alias(name))
            over = [one for one in frame.columns if one in needed and needed[one] <= at and one != "group"]
            frame = frame.drop(over)
        return frame["result"]

    def expr(self, name: str) -> pl.Expr:
        if name not in self.used:
            self.used[name] = f"c{len(self.used)}"
        return pl.col(self.used[name])

    @property
    def weights(self) -> pl.Expr | None:
        """How often each row counts, or None for once."""
        return pl.col("weight") if self.table.weights is not None else None

    def frame(self) -> pl.DataFrame:
        rows = pl.Series("row", range(self.table.rows), dtype=pl.Int64)
        columns = [self.table.frame[name].alias(key) for name, key in self.used.items()]
        if self.table.weights is not None:
            columns.append(pl.Series("weight", self.table.weights, dtype=pl.UInt32))
        if self.groups is not None:
            columns.append(self.groups.alias("group"))
        return pl.DataFrame([rows, *columns])


def _constant(expr: pl.Expr, rows: int) -> pl.Expr:
    """What no column is in, for every row: some functions would give a column of one."""
    value = pl.select(expr).to_series()
    return pl.lit(value.new_from_index(0, rows)) if value.len() == 1 else expr


def evaluate(text: str, table: Table, names: Mapping[str, object] | None = None) -> Worked:
    """The value of a formula for every row. Raises FormulaError with what is wrong and where."""
    known = table.by_name if names is None else names
    tree = grammar.parse(text, known)
    columns = FormulaColumns(table)
    made = typed(tree, columns)
    if made.type == "missing":
        raise FormulaError("Every value would be missing.", made.node.at, made.node.end)
    values = columns.worked(made.expr)
    if made.type == "number":
        values = values.cast(pl.Float64)
    elif made.type == "text":
        longest = values.str.len_chars().max()
        if isinstance(longest, int) and longest > LONGEST_TEXT:
            raise FormulaError(f"A text would have {longest} letters, and {LONGEST_TEXT} are the most.", 0, len(text))
    return Worked(values.alias(""), made.type)


def evaluate_for_each(text: str, table: Table, groups: Ints, count: int) -> Floats:
    """The one number that a formula gives for each of `count` groups of rows; NaN for none.

    `groups` has for each row its group, from 0, ascending. Raises FormulaError, also where the
    formula gives a value for every row rather than one for the group.
    """
    tree = grammar.parse(text, table.by_name)
    columns = FormulaColumns(table, groups=pl.Series("group", groups))
    made = need(typed(tree, columns), "number")
    values = columns.worked(made.expr).cast(pl.Float64)
    frame = pl.DataFrame([pl.Series("group", groups), values.alias("value")])
    value = pl.col("value")
    found = frame.group_by("group", maintain_order=True).agg(value.first(), (value.max() - value.min()).alias("off"))
    if count and (found["off"].fill_null(0.0) > 0).any():
        raise FormulaError(
            "This gives a value for every case of a sample. Take one number of them, such as "
            "mean(x), max(x) − min(x) or sd(x)/mean(x).",
            0,
            len(text),
        )
    made_of = np.full(count, np.nan)
    made_of[found["group"].to_numpy()] = found["value"].fill_null(np.nan).to_numpy()
    return made_of


def truth(text: str, table: Table) -> pl.Series:
    """For which rows a condition holds; where it cannot be told, it does not."""
    worked = evaluate(text, table)
    if worked.type != "truth":
        raise FormulaError(
            f"A condition is true or false, such as x > 5. This gives {WORDS[worked.type]}.", 0, len(text)
        )
    return worked.values.fill_null(False)


def typed(node: grammar.Node, columns: FormulaColumns) -> Typed:
    """A part of a formula as an expression, its types checked. Numbers are finite or missing."""
    made = _typed(node, columns)
    if isinstance(node, grammar.Number | grammar.Text | grammar.Truth | grammar.Missing):
        return made
    if isinstance(node, grammar.Name) or made.type == "missing":
        return made
    expr = made.expr
    if made.type == "number":
        expr = finite(expr)
    elif made.type == "date":
        expr = in_calendar(expr)
    return replace(made, expr=columns.let(expr))


def _typed(node: grammar.Node, columns: FormulaColumns) -> Typed:
    match node:
        case grammar.Number(value=value):
            return Typed(pl.lit(value, dtype=pl.Float64), "number", node)
        case grammar.Text(value=value):
            return Typed(pl.lit(value, dtype=pl.String), "text", node)
        case grammar.Truth(value=value):
            return Typed(pl.lit(value), "truth", node)
        case grammar.Missing():
            return Typed(pl.lit(None), "missing", node)
        case grammar.Name(column=name):
            return _column(node, name, columns)
        case grammar.Unary(sign="not", held=held):
            return Typed(~need(typed(held, columns), "truth").expr, "truth", node)
        case grammar.Unary(sign=sign, held=held):
            number = need(typed(held, columns), "number").expr
            return Typed(-number if sign == "-" else number, "number", node)
        case grammar.Binary(sign=sign, left=left, right=right):
            return _binary(node, sign, typed(left, columns), typed(right, columns), columns)
        case grammar.IsMissing(held=held):
            return Typed(typed(held, columns).expr.is_null(), "truth", node)
        case grammar.OneOf(held=held, among=among):
            one, others = typed(held, columns), [typed(other, columns) for other in among]
            found = [_compare(node, "=", one, other).expr for other in others]
            values = [o.value for o in among if isinstance(o, grammar.Number | grammar.Text)]
            if len(values) == len(among):  # many times faster than one by one
                return Typed(one.expr.is_in(values), "truth", node)
            return Typed(pl.any_horizontal(*found), "truth", node)
        case grammar.If(condition=condition, then=then, otherwise=otherwise):
            return _choose(node, typed(condition, columns), typed(then, columns), typed(otherwise, columns))
        case grammar.Call(function=name, given=given):
            return call(node, name, [typed(part, columns) for part in given], columns)
    raise AssertionError(node)  # every node of the grammar is above


def need(made: Typed, wanted: Type) -> Typed:
    """`made` if its type is the one that is wanted; raises FormulaError otherwise."""
    if made.type == wanted:
        return made
    if made.type == "missing":
        dtype = {"number": pl.Float64(), "truth": pl.Boolean(), "date": pl.Date()}
        return Typed(pl.lit(None, dtype=dtype.get(wanted, pl.String())), wanted, made.node)
    what, node = "This is", made.node
    if isinstance(node, grammar.Name):
        what = f"{node.column} is"
    hint = ""
    if wanted == "number" and made.type == "truth":
        hint = " Write if … then 1 else 0 to make a number of it."
    elif wanted == "number" and isinstance(node, grammar.Text):
        hint = " Numbers and names of columns stand without double quotes."
    elif wanted == "number" and isinstance(node, grammar.Name):
        hint = " Change its kind in the table if it holds numbers."
    raise FormulaError(f"{what} {WORDS[made.type]}, and {WORDS[wanted]} is needed here.{hint}", node.at, node.end)


def finite(expr: pl.Expr) -> pl.Expr:
    """A number where it is one; missing where it is infinite or undefined."""
    return pl.when(expr.is_finite()).then(expr).otherwise(None)


def in_calendar(expr: pl.Expr) -> pl.Expr:
    """A date where it is one of the years 1 to 9999; missing where it is beyond."""
    return pl.when(expr.is_between(date.min, date.max)).then(expr).otherwise(None)


def _column(node: grammar.Node, name: str, columns: FormulaColumns) -> Typed:
    about = columns.table.column(name)
    expr = columns.expr(name)
    if about.kind is Kind.NUMBER:
        return Typed(expr, "number", node)
    if about.kind is Kind.DATE:
        return Typed(expr, "date", node)
    columns.count_letters(int(columns.table.frame[name].str.len_bytes().sum() or 0), node)
    levels = columns.table.levels(name) if about.kind is Kind.ORDERED else ()
    return Typed(expr, "text", node, levels)


def _binary(node: grammar.Node, sign: str, left: Typed, right: Typed, columns: FormulaColumns) -> Typed:
    if sign in ("and", "or"):
        one, two = need(left, "truth").expr, need(right, "truth").expr
        return Typed(one & two if sign == "and" else one | two, "truth", node)
    if sign == "&":
        for side in (left, right):
            if side.type != "text":  # the letters of texts are counted where they are named
                columns.count_letters(NUMBER_LETTERS * columns.table.rows, side.node)
        return Typed(pl.concat_str(as_text(left), as_text(right)), "text", node)
    if sign in ("=", "<>", "<", "<=", ">", ">="):
        return _compare(node, sign, left, right)
    if "date" in (left.type, right.type) and sign in "+-":
        return _days(node, sign, left, right)
    one, two = need(left, "number").expr, need(right, "number").expr
    if sign == "^":
        return Typed(one.pow(two), "number", node)
    if sign == "mod":
        return Typed(one - two * (one / two).floor(), "number", node)
    made = {"+": one + two, "-": one - two, "*": one * two, "/": one / two}[sign]
    return Typed(made, "number", node)


def _days(node: grammar.Node, sign: str, left: Typed, right: Typed) -> Typed:
    """A date and days, or the days between two dates."""
    if left.type == right.type == "date" and sign == "-":
        days = (left.expr - right.expr).dt.total_days().cast(pl.Float64)
        return Typed(days, "number", node)
    if left.type == "date":
        count = need(right, "number").expr.round().cast(pl.Int64, strict=False)
        days = pl.duration(days=count if sign == "+" else -count)
        return Typed((left.expr + days).cast(pl.Date), "date", node)
    raise FormulaError("Days can be added to a date or taken from it, and one date from another.", node.at, node.end)


_TURNED = {"<": ">", "<=": ">=", ">": "<", ">=": "<="}


def _compare(node: grammar.Node, sign: str, left: Typed, right: Typed) -> Typed:
    for side in (left, right):
        if side.type == "missing":
            raise FormulaError(
                "Nothing equals a missing value. Write “is missing” or “is not missing”.", side.node.at, side.node.end
            )
    if left.type != right.type:
        other = right if isinstance(right.node, grammar.Text) else left
        hint = ""
        if left.type == "number" and isinstance(other.node, grammar.Text):
            hint = " Numbers stand without quotes."
        raise FormulaError(
            f"{WORDS[left.type].capitalize()} cannot be compared with {WORDS[right.type]}.{hint}", node.at, node.end
        )
    one, two = left.expr, right.expr
    if left.type in ("text", "truth") and sign not in ("=", "<>"):
        levels = left.levels or right.levels
        if not levels:
            raise FormulaError(f"“{sign}” needs numbers, dates or an ordered column on both sides.", node.at, node.end)
        one, two = _place(left, levels), _place(right, levels)
    if not one.meta.root_names():
        # a literal on the left of a column that holds one value gives that once, not for each row
        one, two, sign = two, one, _TURNED.get(sign, sign)
    made = {"=": one == two, "<>": one != two, "<": one < two, "<=": one <= two, ">": one > two, ">=": one >= two}[sign]
    return Typed(made, "truth", node)


def _place(made: Typed, levels: tuple[str, ...]) -> pl.Expr:
    """The place of a level in the order."""
    node = made.node
    if isinstance(node, grammar.Text):
        if node.value not in levels:
            raise FormulaError(f"“{node.value}” is not one of the levels: {', '.join(levels)}.", node.at, node.end)
        return pl.lit(levels.index(node.value))
    if made.levels != levels:
        raise FormulaError("The two do not have the same levels in order.", node.at, node.end)
    return made.expr.replace_strict(list(levels), list(range(len(levels))), default=None, return_dtype=pl.Int64)


def _choose(node: grammar.Node, condition: Typed, then: Typed, otherwise: Typed) -> Typed:
    if then.type == otherwise.type == "missing":
        return Typed(pl.lit(None), "missing", node)
    if then.type == "missing":
        then = need(then, otherwise.type)
    otherwise = need(otherwise, then.type)
    said = need(condition, "truth").expr
    # a condition that cannot be told gives neither
    made = pl.when(said).then(then.expr).when(~said).then(otherwise.expr).otherwise(None)
    return Typed(made, then.type, node)


def as_text(made: Typed) -> pl.Expr:
    """Any value as text, numbers as they are typed."""
    if made.type == "number":
        return number_text(made.expr)
    if made.type == "truth":
        return pl.when(made.expr).then(pl.lit("yes")).when(~made.expr).then(pl.lit("no"))
    return made.expr.cast(pl.String)


def number_text(expr: pl.Expr) -> pl.Expr:
    """12.0 is written 12."""
    return expr.cast(pl.String).str.replace(r"\.0$", "")


def call(node: grammar.Node, name: str, given: list[Typed], columns: FormulaColumns) -> Typed:
    """A call of a function, what it is given checked. Raises FormulaError."""
    function = FUNCTIONS[name]
    least = len(function.given) if function.least is None else function.least
    if len(given) < least or (len(given) > len(function.given) and not function.more):
        raise FormulaError(f"{name} is written {function.form}.", node.at, node.end)
    checked = []
    for at, one in enumerate(given):
        wanted = function.given[min(at, len(function.given) - 1)]
        checked.append(one if wanted is None else need(one, wanted))
    if function.gives is None and checked[0].type == "missing":
        raise FormulaError(f"{name} needs a column or a value here.", node.at, node.end)
    return Typed(
        function.build(checked, columns),
        function.gives or checked[0].type,
        node,
        checked[0].levels if function.gives is None else (),
    )

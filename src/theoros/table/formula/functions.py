"""The functions of formulas, each with its form, its help and what it does to whole columns."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from theoros.lazy_imports import pl
from theoros.numeric.series.moving import moving_average
from theoros.table.formula import fitting, grammar
from theoros.table.formula.evaluate import FormulaColumns, Typed, as_text
from theoros.table.formula.known_functions import FUNCTIONS, Function, Type
from theoros.table.formula.tokens import FormulaError

MOST_MOVING = 1_000
"""Rows that a moving average may take together."""
Build = Callable[[list[Typed], FormulaColumns], pl.Expr]


def _add(
    name: str, form: str, text: str, given: Sequence[Type | None], gives: Type | None, build: Build, **more: object
) -> None:
    FUNCTIONS[name] = Function(name, form, text, tuple(given), gives, build, **more)  # type: ignore[arg-type]


def whole(made: Typed, what: str, low: int, high: int) -> int:
    """A whole number that is written in the formula itself."""
    node = made.node
    sign = 1
    if isinstance(node, grammar.Unary) and node.sign == "-":
        sign, node = -1, node.held
    if isinstance(node, grammar.Number) and low <= sign * node.value <= high:
        value = sign * node.value
        if value == int(value):
            return int(value)
    raise FormulaError(f"{what} must be a whole number from {low} to {high}.", made.node.at, made.node.end)


# numbers

_ONE: tuple[Type, ...] = ("number",)
_TWO: tuple[Type, ...] = ("number", "number")


def _simple(name: str, text: str, make: Callable[[pl.Expr], pl.Expr]) -> None:
    _add(name, f"{name}(x)", text, _ONE, "number", lambda given, _: make(given[0].expr))


def _log(given: list[Typed], _: FormulaColumns) -> pl.Expr:
    x = given[0].expr
    if len(given) == 1:
        return x.log10()
    return x.log() / given[1].expr.log()


def _round(given: list[Typed], _: FormulaColumns) -> pl.Expr:
    digits = whole(given[1], "The number of digits", 0, 15) if len(given) > 1 else 0
    return given[0].expr.round(digits, mode="half_away_from_zero")


_add("log", "log(x) or log(x, base)", "Logarithm, to base 10 unless another is given.", _TWO, "number", _log, least=1)
_simple("ln", "Natural logarithm.", lambda x: x.log())
_simple("exp", "e to the power of x.", lambda x: x.exp())
_simple("sqrt", "Square root.", lambda x: x.sqrt())
_simple("abs", "Size without the sign.", lambda x: x.abs())
_simple("floor", "Rounded down to a whole number.", lambda x: x.floor())
_simple("ceiling", "Rounded up to a whole number.", lambda x: x.ceil())
_add("round", "round(x) or round(x, digits)", "Rounded; a half goes away from zero.", _TWO, "number", _round, least=1)


def _row_wise(pick: Callable[..., pl.Expr], column: Callable[[pl.Expr], pl.Expr]) -> Build:
    def build(given: list[Typed], _: FormulaColumns) -> pl.Expr:
        if len(given) == 1:
            return column(given[0].expr)
        exprs = [one.expr for one in given]
        some_missing = pl.any_horizontal(*(e.is_null() for e in exprs))
        return pl.when(~some_missing).then(pick(*exprs)).otherwise(None)

    return build


_add(
    "min",
    "min(a, b, …) or min(x)",
    "The least in each row, or of a whole column.",
    _ONE,
    "number",
    _row_wise(pl.min_horizontal, lambda x: x.min()),
    more=True,
)
_add(
    "max",
    "max(a, b, …) or max(x)",
    "The greatest in each row, or of a whole column.",
    _ONE,
    "number",
    _row_wise(pl.max_horizontal, lambda x: x.max()),
    more=True,
)

# statistics of a column, the same in every row


def _cases(x: pl.Expr, columns: FormulaColumns) -> pl.Expr:
    """The values that are there, each as often as its row counts."""
    weights = columns.weights
    if weights is None:
        return x.drop_nulls()
    return x.repeat_by(weights).explode().drop_nulls()


def _statistic(name: str, text: str, make: Callable[[pl.Expr], pl.Expr]) -> None:
    _add(
        name,
        f"{name}(x)",
        text,
        _ONE,
        "number",
        lambda given, columns: make(_cases(given[0].expr, columns)).cast(pl.Float64),
        group="statistics of a column",
    )


_statistic("mean", "Mean of the column.", lambda x: x.mean())
_statistic("sd", "Standard deviation of the column, divisor n − 1.", lambda x: x.std())
_statistic("median", "Median of the column.", lambda x: x.median())
_statistic("total", "Sum of the column.", lambda x: x.sum())
_statistic("count", "How many values the column has.", lambda x: x.len())


def _quantile(given: list[Typed], columns: FormulaColumns) -> pl.Expr:
    node = given[1].node
    if not isinstance(node, grammar.Number) or not 0 <= node.value <= 1:
        raise FormulaError("The share must be a number from 0 to 1.", node.at, node.end)
    return _cases(given[0].expr, columns).quantile(node.value, interpolation="linear")


def _zscore(given: list[Typed], columns: FormulaColumns) -> pl.Expr:
    x = given[0].expr
    cases = _cases(x, columns)
    return (x - cases.mean()) / cases.std()


_OF = "statistics of a column"
_add(
    "quantile",
    "quantile(x, share)",
    "The value below which a share of the column lies, by linear interpolation.",
    _TWO,
    "number",
    _quantile,
    group=_OF,
)
_add(
    "zscore",
    "zscore(x)",
    "How many standard deviations each value lies above the mean.",
    _ONE,
    "number",
    _zscore,
    group=_OF,
)
_add(
    "rank",
    "rank(x)",
    "Place in order from the least, 1; equal values share the average.",
    _ONE,
    "number",
    lambda given, _: given[0].expr.rank("average").cast(pl.Float64),
    group=_OF,
)
_add(
    "running",
    "running(x)",
    "Running total down the rows.",
    _ONE,
    "number",
    lambda given, _: given[0].expr.cum_sum(),
    group="rows",
)

# a model of one column by others

_MODEL = "a model by least squares"


def _of_model(name: str, text: str, of: fitting.Of) -> None:
    _add(
        name,
        f"{name}(y, x, …)",
        text,
        _TWO,
        "number",
        lambda given, columns: fitting.model(of, given, columns),
        more=True,
        group=_MODEL,
    )


_of_model("fitted", "What a line from x (or from more) gives for y.", fitting.fitted)
_of_model("residual", "y less what is fitted to it.", fitting.residual)
_of_model("leverage", "How much the row pulls what is fitted to it.", fitting.leverage)
_add(
    "meanband",
    "meanband(confidence, y, x, …)",
    "Half the width of the band for the mean: fitted(y, x) ± meanband(0.95, y, x).",
    ("number", *_TWO),
    "number",
    lambda given, columns: fitting.band(given, columns, single=False),
    more=True,
    group=_MODEL,
)
_add(
    "caseband",
    "caseband(confidence, y, x, …)",
    "Half the width of the band for single cases.",
    ("number", *_TWO),
    "number",
    lambda given, columns: fitting.band(given, columns, single=True),
    more=True,
    group=_MODEL,
)

# rows


def _lag(given: list[Typed], _: FormulaColumns) -> pl.Expr:
    by = whole(given[1], "The number of rows", -1_000_000, 1_000_000) if len(given) > 1 else 1
    return given[0].expr.shift(by)


def _moving(given: list[Typed], _: FormulaColumns) -> pl.Expr:
    rows = whole(given[1], "The number of rows", 1, MOST_MOVING)

    def work(values: pl.Series) -> pl.Series:
        found = moving_average(values.fill_null(float("nan")).to_numpy(), rows)
        return pl.Series(found, dtype=pl.Float64).fill_nan(None)

    return given[0].expr.map_batches(work, return_dtype=pl.Float64)


_add(
    "lag",
    "lag(x) or lag(x, rows)",
    "The value one row above, or so many rows above.",
    (None, "number"),
    None,
    _lag,
    least=1,
    group="rows",
)
_add(
    "moving",
    "moving(x, rows)",
    "Mean of so many rows around each; of an even number, those at both ends count half.",
    _TWO,
    "number",
    _moving,
    group="rows",
)
_add(
    "at",
    "at(x, row)",
    "The value of one row, in every row.",
    (None, "number"),
    None,
    lambda given, _: given[0].expr.slice(whole(given[1], "The row", 1, 100_000_000) - 1, 1).first(),
    group="rows",
)
_add(
    "row",
    "row()",
    "The number of the row, from 1.",
    (),
    "number",
    lambda _, __: (pl.col("row") + 1).cast(pl.Float64),
    group="rows",
)

# text


def _part(given: list[Typed], _: FormulaColumns) -> pl.Expr:
    first = whole(given[1], "The first letter", 1, 100_000)
    count = whole(given[2], "The number of letters", 0, 100_000) if len(given) > 2 else None
    return given[0].expr.str.slice(first - 1, count)


_TEXT: tuple[Type, ...] = ("text",)
_add(
    "length",
    "length(t)",
    "How many letters a text has.",
    _TEXT,
    "number",
    lambda given, _: given[0].expr.str.len_chars().cast(pl.Float64),
    group="text",
)
_add(
    "upper", "upper(t)", "In capitals.", _TEXT, "text", lambda given, _: given[0].expr.str.to_uppercase(), group="text"
)
_add(
    "lower",
    "lower(t)",
    "In small letters.",
    _TEXT,
    "text",
    lambda given, _: given[0].expr.str.to_lowercase(),
    group="text",
)
_add(
    "trim",
    "trim(t)",
    "Without spaces at the ends.",
    _TEXT,
    "text",
    lambda given, _: given[0].expr.str.strip_chars(),
    group="text",
)
_add(
    "part",
    "part(t, first) or part(t, first, letters)",
    "Letters of a text, from the first on.",
    ("text", "number", "number"),
    "text",
    _part,
    least=2,
    group="text",
)
_add(
    "contains",
    "contains(t, piece)",
    "Whether a text has the piece in it.",
    ("text", "text"),
    "truth",
    lambda given, _: given[0].expr.str.contains(given[1].expr, literal=True),
    group="text",
)
_add("text", "text(x)", "Any value as text.", (None,), "text", lambda given, _: as_text(given[0]), group="text")
_add(
    "number",
    "number(t)",
    "Text as a number; missing where it is none.",
    _TEXT,
    "number",
    lambda given, _: given[0].expr.str.strip_chars().str.replace(",", ".", literal=True).cast(pl.Float64, strict=False),
    group="text",
)

# dates


def _date_part(name: str, text: str, make: Callable[[pl.Expr], pl.Expr]) -> None:
    _add(
        name,
        f"{name}(d)",
        text,
        ("date",),
        "number",
        lambda given, _: make(given[0].expr).cast(pl.Float64),
        group="dates",
    )


_date_part("year", "The year of a date.", lambda d: d.dt.year())
_date_part("month", "The month of a date, 1 to 12.", lambda d: d.dt.month())
_date_part("day", "The day of the month.", lambda d: d.dt.day())
_date_part("weekday", "The day of the week, Monday 1 to Sunday 7.", lambda d: d.dt.weekday())


def _date(given: list[Typed], _: FormulaColumns) -> pl.Expr:
    pieces = [one.expr.cast(pl.Int64, strict=False).cast(pl.String) for one in given]
    padded = [pieces[0].str.zfill(4), pieces[1].str.zfill(2), pieces[2].str.zfill(2)]
    return pl.concat_str(*padded, separator="-").str.to_date("%Y-%m-%d", strict=False)


_add(
    "date",
    "date(year, month, day)",
    "A date from its parts; missing where there is no such day.",
    ("number", "number", "number"),
    "date",
    _date,
    group="dates",
)

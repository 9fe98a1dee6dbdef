"""The design of a model: a column for each term, named, with what belongs to which predictor."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.wording import exact, listed, shortened
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.kinds import Kind, NotAValue, parse_number
from theoros.table.table import Column, Table
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.columns import squarable
from theoros.verbs.data.groups import said_unused, unit_of_count

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

MOST_COLUMNS = 60
MOST_LEVELS = 20


@dataclass(frozen=True, eq=False)
class Predictor:
    """A column that a response is predicted from."""

    column: Column
    values: Floats
    """Numbers, or codes of the levels."""
    levels: tuple[str, ...] = ()
    """Of a category, those that occur, the one to compare with first."""
    middle: float = 0.0
    """Of a number, its mean: where it is held for a prediction that does not say."""

    @property
    def name(self) -> str:
        return self.column.name

    def columns(self, values: Floats) -> Floats:
        """Its own columns of the design: itself, or a mark for each further level."""
        if not self.levels:
            return values[:, None]
        marks = values[:, None] == np.arange(1, len(self.levels))
        return np.asarray(marks, dtype=np.float64)

    @property
    def labels(self) -> tuple[str, ...]:
        """What its columns are called: "leaf length", "cultivar Jade"."""
        return tuple(f"{self.name} {level}" for level in self.levels[1:]) if self.levels else (self.name,)


@dataclass(frozen=True)
class Term:
    """Predictors whose columns are multiplied: one, two, or one by itself (a square)."""

    parts: tuple[int, ...]

    def label(self, predictors: tuple[Predictor, ...]) -> str:
        names = [predictors[at].name for at in self.parts]
        if len(names) == 2 and names[0] == names[1]:
            return f"{names[0]}²"
        return " × ".join(names)


@dataclass(frozen=True, eq=False)
class Design:
    """All that a model with several predictors is fitted from."""

    table: Table
    predictors: tuple[Predictor, ...]
    terms: tuple[Term, ...]
    names: tuple[str, ...]
    """Of the columns, the constant first."""
    owners: Ints
    """For each column the term that it belongs to; -1 for the constant."""
    matrix: Floats
    rows: Ints
    left_out: tuple[str, ...]

    def row(self, values: Floats) -> Floats:
        """Rows of the design for values of the predictors, shape (k, predictors)."""
        return build(self.predictors, self.terms, [values[:, at] for at in range(values.shape[1])])

    @property
    def noun(self) -> str:
        return self.table.noun


def terms_of(s: ModelStatement, predictors: tuple[Predictor, ...]) -> tuple[Term, ...]:
    """Each on its own, then squares of numbers, then products of two, as they are wanted."""
    made = [Term((at,)) for at in range(len(predictors))]
    if s.squares:
        made += [Term((at, at)) for at, one in enumerate(predictors) if not one.levels]
    if s.products:
        made += [Term(pair) for pair in itertools.combinations(range(len(predictors)), 2)]
    return tuple(made)


def build(predictors: tuple[Predictor, ...], terms: tuple[Term, ...], values: list[Floats]) -> Floats:
    """The matrix of a design for values of each predictor."""
    own = [one.columns(column) for one, column in zip(predictors, values, strict=True)]
    blocks = [np.ones((values[0].size, 1))]
    for term in terms:
        block = own[term.parts[0]]
        for at in term.parts[1:]:
            block = (block[:, :, None] * own[at][:, None, :]).reshape(block.shape[0], -1)
        blocks.append(block)
    return np.hstack(blocks)


def named(predictors: tuple[Predictor, ...], term: Term) -> list[str]:
    """Names of the columns of a term."""
    made = list(predictors[term.parts[0]].labels)
    for at in term.parts[1:]:
        if term.parts[0] == at:
            return [f"{made[0]}²"]
        made = [f"{one} × {other}" for one in made for other in predictors[at].labels]
    return made


def read_design(s: ModelStatement, tables: Tables, there: Ints) -> Design:
    """The design over those rows of `there` that have every predictor. Raises CannotAnswer."""
    table = tables[s.table]
    names = tuple(dict.fromkeys((str(s.against), *s.also)))
    for name in names:
        if name not in table.by_name:
            raise CannotAnswer(f"There is no column “{shortened(name)}” in {table.name}.", "also")
    raw = {name: _raw(table, table.column(name)) for name in names}
    good = np.ones(there.size, dtype=np.bool_)
    for values in raw.values():
        good &= np.isfinite(values[there])
    rows = there[good]
    lost = int(there.size - rows.size)
    left_out = list(said_unused(table))
    if lost:
        one = unit_of_count(table)
        left_out.insert(0, f"{counted(lost, one)} left out: {listed(list(names), 'or')} is missing")
    if not rows.size:
        raise CannotAnswer(f"No row has all of {listed(list(names))}.", "also")
    chosen = dict(one.partition(": ")[::2] for one in s.references)
    predictors = tuple(_predictor(table, table.column(name), raw[name][rows], chosen.get(name)) for name in names)
    terms = terms_of(s, predictors)
    labels, owners = ["intercept"], [-1]
    for at, term in enumerate(terms):
        own = named(predictors, term)
        labels += own
        owners += [at] * len(own)
    if len(labels) > MOST_COLUMNS:
        raise CannotAnswer(
            f"That makes {len(labels)} terms, more than the {MOST_COLUMNS} that can be used. Use fewer predictors, "
            "or remove products.",
            "also",
        )
    matrix = build(predictors, terms, [one.values for one in predictors])
    if matrix.shape[0] <= matrix.shape[1]:
        raise CannotAnswer(
            f"{counted(matrix.shape[1], 'term')} cannot be estimated from {counted(matrix.shape[0], table.noun)}: "
            + ("take fewer predictors." if len(names) > 1 else "more are needed."),
            "also",
        )
    return Design(table, predictors, terms, tuple(labels), np.array(owners), matrix, rows, tuple(left_out))


def _raw(table: Table, column: Column) -> Floats:
    """Numbers, or codes of levels with NaN where they are missing."""
    if column.kind is Kind.NUMBER:
        return np.asarray(table.numbers(column.name), dtype=np.float64)
    codes = table.codes(column.name).astype(np.float64)
    return np.where(codes < 0, np.nan, codes)


def _predictor(table: Table, column: Column, values: Floats, reference: str | None) -> Predictor:
    """With the levels that occur, the chosen one first."""
    if column.kind is Kind.NUMBER:
        squarable(values, column.name, "also")
        if np.ptp(values) == 0:
            raise CannotAnswer(
                f"{column.name} is the same in every row, so it cannot explain anything. Remove it.", "also"
            )
        return Predictor(column, values, middle=float(values.mean()))
    levels = tuple(table.levels(column.name))
    here = np.unique(values).astype(np.int64)
    if here.size < 2:
        raise CannotAnswer(f"{column.name} has only one level in these rows. Remove it.", "also")
    if here.size > MOST_LEVELS:
        raise CannotAnswer(
            f"{column.name} has {here.size} levels, more than the {MOST_LEVELS} that a model can use. Merge "
            "levels, or remove it.",
            "also",
        )
    order = sorted(here.tolist(), key=lambda code: levels[code] != reference)
    place = {code: at for at, code in enumerate(order)}
    worth = np.array([place.get(code, 0) for code in range(len(levels))], dtype=np.float64)
    return Predictor(column, worth[values.astype(np.int64)], tuple(levels[code] for code in order))


def dependent_words(design: Design, which: tuple[int, ...]) -> str:
    """Which column follows from which others, in words."""
    at = which[0]
    name = design.names[at]
    before = design.matrix[:, :at]
    lengths = np.sqrt((before**2).sum(axis=0))
    lengths[lengths == 0] = 1.0
    weights, *_ = np.linalg.lstsq(before / lengths, design.matrix[:, at], rcond=None)
    large = np.abs(weights) > 1e-6 * np.abs(weights).max(initial=0.0)
    others = [design.names[k] for k in range(1, at) if large[k]]
    if not others:
        return f"{name} is the same in every row"
    if len(others) == 1:
        return f"{name} is determined by {others[0]}"
    return f"{name} is determined by {listed(others)} together"


def leave_out(s: ModelStatement, design: Design, column: int) -> tuple[tuple[str, str, object], ...]:
    """Offers to leave out the predictors that a column of the design is of."""
    term = design.terms[int(design.owners[column])]
    names = dict.fromkeys(design.predictors[at].name for at in term.parts)
    return tuple(
        (f"Leave {name} out", "also", tuple(one for one in s.also if one != name)) for name in names if name in s.also
    )


def typed_values(s: ModelStatement, design: Design) -> tuple[Floats, tuple[str, ...]]:
    """Values of the predictors for a prediction, one row, and the names of those not typed.

    Typed as "leaf length 70, cultivar Jade" or as values in the order of the predictors; what is
    not typed is held at the mean, or at the level that others are compared with. Raises
    CannotAnswer.
    """
    made = np.array([one.middle for one in design.predictors])
    said: set[int] = set()
    pieces = [piece.strip() for piece in s.values.replace(";", ",").split(",") if piece.strip()]
    for place, piece in enumerate(pieces):
        at, text = _whose(design, piece, place)
        one = design.predictors[at]
        if one.levels:
            found = next((k for k, v in enumerate(one.levels) if v.lower() == text.lower()), None)
            if found is None:
                raise CannotAnswer(
                    f"{one.name} has no level “{text}”; it has {listed(list(one.levels), 'or')}.", "values"
                )
            made[at] = found
        else:
            try:
                made[at] = parse_number(text.removesuffix(one.column.unit).strip())
            except NotAValue:
                raise CannotAnswer(
                    f"“{text}” is not a number for {one.name}. Type one, such as "
                    f"{one.name} {exact(float(f'{one.middle:.3g}'))}.",
                    "values",
                ) from None
        said.add(at)
    unsaid = tuple(one.name for at, one in enumerate(design.predictors) if at not in said)
    return made[None, :], unsaid


def _whose(design: Design, piece: str, place: int) -> tuple[int, str]:
    """The predictor that a typed piece is for, and its value as text."""
    names = sorted(enumerate(design.predictors), key=lambda one: -len(one[1].name))
    for at, one in names:
        if piece.lower().startswith(one.name.lower()):
            rest = piece[len(one.name) :]
            if not rest or rest[0] in " =:":
                return at, rest.lstrip(" =:").strip()
    if place >= len(design.predictors):
        raise CannotAnswer(
            f"“{piece}” is one value too many. There are {counted(len(design.predictors), 'predictor')}.", "values"
        )
    return place, piece

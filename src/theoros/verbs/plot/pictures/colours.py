"""Colours by a category: codes for rows, the legend, what is hidden, what was picked."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.palette import CATEGORY_NAMES
from theoros.answer.picture import Key, Tints
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.table.table import Table
from theoros.verbs.data.groups import Split
from theoros.verbs.plot.statement import PlotStatement

MOST_COLOURS = 8


def tinted(statement: PlotStatement, keys: tuple[Key, ...]) -> tuple[Key, ...]:
    """The legend with the colours that were picked for some of it, and how to pick others.

    Whoever had a picked colour by position takes the one that is left free by that.
    """
    keys = tuple(replace(key, tints=_tints(statement, key.label)) for key in keys)
    picked = {label: tint for label, tint in statement.picked if label in {k.label for k in keys}}
    if not picked:
        return keys
    left = [at for at, key in enumerate(keys) if key.label not in picked]
    free = [tint for tint in range(len(keys)) if tint not in picked.values()]
    spare = iter(tint for tint in free if tint not in left)
    tints = {at: at if at in free else next(spare) for at in left}
    return tuple(replace(key, tint=picked.get(key.label, tints.get(at))) for at, key in enumerate(keys))


def _tints(statement: PlotStatement, label: str) -> Tints:
    """How an entry of the legend is given another colour."""
    picks = tuple((name, statement.with_tint(label, name).tints) for name in CATEGORY_NAMES)
    return Tints("tints", statement.with_tint(label, "").tints, picks)


def _toggled(statement: PlotStatement, level: str) -> tuple[str, tuple[str, ...]]:
    """The slot and value that hide the marks of a level, or show them again."""
    shown = tuple(one for one in statement.hidden if one != level)
    return "hidden", shown if level in statement.hidden else (*statement.hidden, level)


def without_hidden(
    statement: PlotStatement, keys: tuple[Key, ...], codes: Ints | None, cases: Split
) -> tuple[tuple[Key, ...], Split, tuple[str, ...]]:
    """The groups without the cases of colours that are hidden, and what is said of them."""
    shut = [at for at, key in enumerate(keys) if key.label in statement.hidden]
    if not shut or codes is None or len(shut) == len(keys):
        return keys, cases, ()
    away = np.isin(codes, shut)
    groups = tuple(replace(g, values=g.values[~away[g.rows]], rows=g.rows[~away[g.rows]]) for g in cases.groups)
    gone = sum(g.values.size for g in cases.groups) - sum(g.values.size for g in groups)
    shown = tuple(replace(key, hidden=at in shut) for at, key in enumerate(keys))
    return shown, Split(groups, cases.left_out), (f"{counted(gone, 'case')} hidden by colour",)


def colours(statement: PlotStatement, table: Table) -> tuple[Ints | None, tuple[Key, ...], tuple[str, ...]]:
    """Colour codes for every row, the legend, and what is said of rows without a colour."""
    colour = statement.colour
    if colour is None:
        return None, (), ()
    levels = table.levels(colour)
    if len(levels) > MOST_COLOURS:
        raise CannotAnswer(
            f"{colour} has {len(levels)} levels, and at most {MOST_COLOURS} colours can be distinguished. Choose "
            "another column to colour by, or merge levels.",
            "colour",
        )
    codes = table.codes(colour)
    keys = tuple(Key(level, toggles=_toggled(statement, level)) for level in levels)
    if (codes < 0).any():
        lost = int((codes < 0).sum())
        codes = np.where(codes < 0, len(levels), codes)
        return (
            codes,
            (*keys, Key("missing", toggles=_toggled(statement, "missing"))),
            (f"{colour} is missing in {counted(lost, 'row')}",),
        )
    return codes, keys, ()

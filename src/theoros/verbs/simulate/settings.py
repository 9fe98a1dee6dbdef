"""The settings of a simulation."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, whole
from theoros.table.kinds import Kind
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.slots import (
    Option,
    PickSeveral,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    column_slot,
    number_slot,
    text_slot,
)
from theoros.verbs.data.columns import GROUPING
from theoros.verbs.data.data import kind_slot
from theoros.verbs.procedures.procedure import kinds_for
from theoros.verbs.simulate.taking import TAILS, fitting

if TYPE_CHECKING:
    from theoros.verbs.simulate.statement import SimulateStatement

MOST_COMPARED = 6
MOST_N = 100_000
_ALPHA = TypeNumber(0, 1, low_open=True, high_open=True, help="Often 0.05 or 0.01.")
_SHARE = TypeNumber(
    0, 1, low_open=True, high_open=True, percent=True, help="The share of the values that lies below it."
)
YES_NO = (Option(False, "not shown"), Option(True, "shown"))


def settings_of(s: SimulateStatement, tables: Tables) -> tuple[Slot, ...]:
    made: list[Slot] = []
    place = s.model_place(tables)
    takes = frozenset(s.model.takes_now(place))
    if s.by_procedure:
        made.append(kind_slot(s.data, kinds_for(s.about, s.purpose), "the data"))
        made += s.data.settings(s.place(tables))
    if (s.by_procedure and s.parameter == "quantile") or "share" in s.taken.asks:
        shown = f"{exact(round(100 * s.share, 10))}\u00a0%"
        made.append(number_slot("share", "lies above", s.share, _SHARE, shown))
    made += s.model.settings(place)
    if not s.by_procedure:
        holds = TypeText("What one sample is, such as “crate”.", longest=60)
        made.append(text_slot("each", "one sample", s.each, holds, empty="sample"))
        others = tuple(
            Option(one.name, one.label)
            for one in fitting(takes)  # type: ignore[arg-type]
            if one.name not in (s.statistic, "formula")
        )
        if others:
            shown = ", ".join(s.also) or "none"
            made.append(Slot("also", "besides", shown, s.also, PickSeveral(others, 0, "statistics")))
        made += _seen_slots(s, tables)
    if s.model.kind in ("share", "claim"):
        made.append(number_slot("alpha", "level α", s.alpha, _ALPHA))
    seed = TypeNumber(0, 2**31 - 1, whole=True, help="The same seed, the same samples.")
    made.append(number_slot("seed", "seed", s.seed, seed, str(s.seed)))
    which = TypeNumber(1, s.repeats, whole=True, auto=True, help="The number of a sample.")
    shown = "the latest" if s.opened is None else whole(s.opened)
    made.append(number_slot("opened", "sample shown", s.opened, which, shown))
    made += _compared(s)
    return tuple(made)


def _seen_slots(s: SimulateStatement, tables: Tables) -> list[Slot]:
    """A column in which was seen what is asked about."""
    own = tables.get(s.table)
    if s.taken.takes not in ("names", "numbers") or s.ask not in TAILS or not (own or s.seen_in):
        return []
    kinds = (Kind.NUMBER,) if s.taken.takes == "numbers" else GROUPING
    made = [column_slot("seen_in", "what was seen", s.seen_in, tables, s.table, kinds, none="typed")]
    if s.seen_in and s.taken.takes == "names" and own is not None and s.seen_in in own.by_name:
        levels = own.levels(s.seen_in) if own.column(s.seen_in).kind.is_grouping else ()
        slot = choice_slot("seen_level", "counted there", s.seen_level, [Option(level, level) for level in levels])
        missing = "" if s.seen_level in levels else f"Choose a level of {s.seen_in}."
        made.append(replace(slot, missing=missing))
    return made


def compared_values(s: SimulateStatement) -> tuple[float, ...]:
    """The values of n or p that are compared. Raises StatementError."""
    pieces = [one for one in s.values.replace(";", ",").split(",") if one.strip()]
    made = []
    for piece in pieces:
        try:
            made.append(TypedNumber(piece.strip()))
        except NotWorkedOut as problem:
            raise StatementError(f"{problem}. Type values with commas between them.") from None
    if not 2 <= len(made) <= MOST_COMPARED:
        raise StatementError(f"Type two to {MOST_COMPARED} values with commas between them.")
    for value in made:
        if s.varies == "p" and not 0 < value < 1:
            raise StatementError(f"A chance lies between 0 and 1, and {exact(value)} does not.")
        if s.varies == "n" and (value != int(value) or not 1 <= value <= MOST_N):
            raise StatementError(
                f"A sample size is a whole number from 1 to {whole(MOST_N)}, and {exact(value)} is not."
            )
    return tuple(dict.fromkeys(made))


def _compared(s: SimulateStatement) -> list[Slot]:
    can = s.model.varies
    if not can:
        return []
    words = {"n": "several n", "p": "several p"}
    options = [Option("nothing", "nothing"), *(Option(one, words[one]) for one in can)]
    made = [choice_slot("varies", "compared", s.varies, options)]
    if s.varies != "nothing":
        holds = TypeText("Values with commas between them, such as 5, 20, 80.", longest=200)
        slot = text_slot("values", f"values of {s.varies}", s.values, holds, empty="type them")
        try:
            compared_values(s)
        except StatementError as problem:
            slot = replace(slot, missing=str(problem))
        made.append(slot)
    if "waits" not in s.model.takes and "walks" not in s.model.takes:
        made.append(choice_slot("running", "as cases come in", s.running, YES_NO))
        made.append(choice_slot("intervals", "intervals of samples", s.intervals, YES_NO))
    changed = s.varies != "nothing" or s.running or s.intervals
    return [replace(slot, group="comparisons", changed=changed) for slot in made]

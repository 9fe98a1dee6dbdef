"""The answer to a plot: the picture, and what it says in words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Answer, Draft, Link
from theoros.answer.picture import Frame, Key, Picture
from theoros.lazy_imports import np
from theoros.numeric.bins import MOST_BINS, round_step
from theoros.numeric.summaries import Summary
from theoros.table.table import Table
from theoros.verbs import follow_ups
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.count_words import count_reading, count_words
from theoros.verbs.data.counted import Counted, count_levels
from theoros.verbs.plot.data.numbers import Plotted, plotted_number
from theoros.verbs.plot.pictures.colours import tinted
from theoros.verbs.plot.pictures.comparison import compared
from theoros.verbs.plot.sentence.sentence import number_text
from theoros.verbs.plot.shapes.shape import shapes
from theoros.verbs.plot.statement import PlotStatement
from theoros.verbs.plot.words.numbers import alt_words, read_number
from theoros.verbs.plot.words.pairs import answer_pairs, said_beyond


def drafts(statement: PlotStatement, tables: Tables) -> Iterator[Draft]:
    """The answer, in one step. Raises CannotAnswer."""
    yield Draft(plotted(statement, tables))


def plotted(statement: PlotStatement, tables: Tables) -> Answer:
    """The answer: frames by the shape that is asked for, and the words that go with them."""
    table = tables[statement.table]
    subject = statement.subject(table)
    shape = shapes()[statement.shape]
    if subject not in shape.subjects:
        raise CannotAnswer(f"{statement.what} cannot be shown as {statement.shape}. Choose another shape.", "shape")
    if subject == "number":
        made = _number(statement, table)
    elif subject in ("category", "two categories"):
        made = _category(statement, table)
    else:
        made = answer_pairs(statement, table)
    answer = made
    if statement.heading and answer.picture is not None and answer.picture.frames:
        titled = replace(answer.picture, title=statement.heading, title_slot="heading")
        answer = replace(answer, picture=titled)
    return answer


def _number(statement: PlotStatement, table: Table) -> Answer:
    p = plotted_number(statement, table)
    if "bins" in statement.uses:
        _check_bins(statement.bins, p.values)
    frames = shapes()[statement.shape].draw(p)
    frames, said = compared(p, frames)
    outside = _outside(p, frames)
    return Answer(
        "",
        picture=Picture(frames, p.keys, alt_words(p), outside),
        reading=read_number(p, said),
        used=p.used,
        left_out=p.cases.left_out,
        numbers={group.label or "all": _figures_of(group.summary()) for group in p.cases.groups},
    )


def _figures_of(s: Summary) -> dict[str, float]:
    """What a picture shows of a group, in figures."""
    return {
        "n": s.n,
        "mean": s.mean,
        "sd": s.sd,
        "min": s.minimum,
        "q1": s.q1,
        "median": s.median,
        "q3": s.q3,
        "max": s.maximum,
    }


def _outside(p: Plotted, frames: tuple[Frame, ...]) -> tuple[str, ...]:
    """What is said of cases beyond the ends that were given to the axis."""
    if p.statement.low is None and p.statement.high is None:
        return ()
    axis = frames[0].x
    return said_beyond(int(((p.values < axis.low) | (p.values > axis.high)).sum()), "case")


def _category(statement: PlotStatement, table: Table) -> Answer:
    s = statement
    p = count_levels(table, str(s.what), s.by, order=s.order, percent=s.scale == "percent")
    shape = shapes()[statement.shape]
    frames = shape.draw(p)
    keys = tinted(s, tuple(Key(level) for level in p.levels)) if shape.keyed else ()
    return Answer(
        "",
        picture=Picture(frames, keys, count_words(p, s.shape)),
        reading=replace(count_reading(p), next=(_describe_link(p),)),
        used=int(p.total),
        left_out=p.left_out,
        numbers={
            name or "all": dict(zip(p.levels, counts, strict=True))
            for name, counts in zip(p.groups, p.counts.tolist(), strict=True)
        },
    )


def _check_bins(width: float | None, values: np.ndarray) -> None:
    if width is not None and values.size:
        spread = float(values.max() / 2 - values.min() / 2) * 2
        if spread / width > MOST_BINS:
            least = round_step(spread / MOST_BINS * 1.5)
            raise CannotAnswer(
                f"Bins of {number_text(width)} would make more than {MOST_BINS} of them. "
                f"Choose a width of {number_text(least)} or more.",
                "bins",
            )


def _describe_link(p: Counted) -> Link:
    what, each = p.column.name, f" for each {p.by}" if p.by else ""
    return Link(f"Describe {what}{each}", statement=follow_ups.describe(p.table.name, what, by=p.by))

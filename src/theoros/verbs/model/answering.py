"""Answers a model: the chosen curve first, then the others beside it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Answer, Cell, Draft, FigureRow, Heading, Link, Reading, ResultTable, Section, cell
from theoros.answer.picture import Picture
from theoros.answer.wording import (
    counted,
    listed,
    number,
    p_value,
    plural,
    sentence_case,
    significant,
    whole,
    with_article,
)
from theoros.lazy_imports import np
from theoros.numeric.distributions.student import StudentT
from theoros.table.kinds import Kind
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.core.slots import Tables
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.fits import ALONE, MANY, Judged, Through, curve_of, equation, fit_group, suggested, through
from theoros.verbs.model.grouped import Compared, separate_against_one, slopes_alike
from theoros.verbs.model.judging import conditions_of, links_of
from theoros.verbs.model.outcomes.answering import answer_outcome
from theoros.verbs.model.pairs import ModelPairs, is_numeric
from theoros.verbs.model.pictures import (
    STRIPS,
    Drawn,
    hand_ends,
    residual_frame,
    residual_note,
    residual_title,
    scatter_picture,
)
from theoros.verbs.model.saying import (
    at_zero,
    cautions,
    headline,
    middle_of,
    not_shown,
    p_of_slope,
    place_text,
    prediction,
    strength,
    told,
    without_row,
    x_text,
    y_text,
)
from theoros.verbs.model.several.answering import answer_several
from theoros.verbs.model.statement import ModelStatement
from theoros.verbs.model.working import working_of

if TYPE_CHECKING:
    from theoros.table.table import Table

FITTING = "Fitting curves"
MOST_TOLD = 12
"""Groups of which the Reading tells one by one."""


def drafts(s: ModelStatement, tables: Tables) -> Iterator[Draft]:
    """By what it asks: a curve of one predictor, several predictors, or the chance of an outcome."""
    asks = s.asks(tables)
    if asks == "several":
        yield Draft(answer_several(s, tables))
    elif asks == "outcome":
        yield Draft(answer_outcome(s, tables))
    else:
        yield from _curve_drafts(s, tables)


def _curve_drafts(s: ModelStatement, tables: Tables) -> Iterator[Draft]:
    """Of many pairs the chosen curve is shown before the others are worked out."""
    table = tables[s.table]
    column = table.by_name.get(str(s.against))
    if column is not None and column.kind is not Kind.NUMBER and not s.as_numbers:
        yield Draft(_of_levels(s, table, tables))
        return
    kept = through(s, tables)
    pairs = kept.pairs
    asked = _Modelled(s, tables, kept)
    if isinstance(asked.chosen, str) and len(pairs.groups) == 1:
        yield Draft(asked.without_curve(asked.chosen))
        return
    if pairs.used > MANY and s.by is None and not kept.has_all(s):
        yield Draft(asked.answer(), 0.5, FITTING)
    if s.by is None and isinstance(asked.chosen, Judged):
        asked.found.update(kept.all(s))
    yield Draft(asked.answer())


def _of_levels(s: ModelStatement, table: Table, tables: Tables) -> Answer:
    """x is a category: what can be done with it."""
    against, what = str(s.against), str(s.what)
    column, levels = table.column(against), tuple(table.levels(against))
    ordered = column.kind is Kind.ORDERED
    numeric = is_numeric(levels)
    links = []
    said = [
        f"A curve goes along numbers, and {against} has levels: {', '.join(levels[:6])}"
        f"{' …' if len(levels) > 6 else ''}."
    ]
    if numeric:
        links.append(Link(f"Read the levels of {against} as numbers", sets=("as_numbers", True)))
        said.append("Its levels are numbers: they can be read as such here, as the table stands.")
    elif ordered and len(levels) > 2:
        links.append(Link(f"Read {against} by its order, as 1 to {len(levels)}", sets=("as_numbers", True)))
        said.append(
            "Means by level use no order: any exchange of the levels gives the same answer. Read "
            "as 1, 2, 3, … each level counts as far from the next as from the one before."
        )
    data = {"kind": "levels", "what": what, "by": against}
    links.append(
        Link(
            f"Compare the means of {what} by {against} (one-way analysis)",
            statement=make("test", table=s.table, data=data, parameter="mean", way="anova"),
        )
    )
    plot = make("plot", table=s.table, what=what, by=against)
    links.append(Link(f"Plot {what} by {against}", statement=plot))
    kind = "an ordered" if ordered else "a"
    drawn = answer(plot, tables)
    return Answer(
        s.text(tables),
        picture=drawn.picture,
        used=drawn.used,
        left_out=drawn.left_out,
        reading=Reading(f"{against} is {kind} category.", tuple(said), next=tuple(links)),
    )


@dataclass
class _Modelled:
    """A model with its pairs, ready to be written up with the curves that are there."""

    s: ModelStatement
    tables: Tables
    through: Through
    found: dict[str, Judged | str] = field(default_factory=dict)

    @property
    def pairs(self) -> ModelPairs:
        return self.through.pairs

    @cached_property
    def drawn(self) -> list[Drawn]:
        """Each group with its curve."""
        if len(self.pairs.groups) == 1 and self.s.by is None:
            one = self.chosen
            return [Drawn(self.through.group, one if isinstance(one, str) else one.fitted)]
        curve = curve_of(self.s)
        return [Drawn(group, fit_group(curve, group)) for group in self.pairs.groups]

    @cached_property
    def chosen(self) -> Judged | str:
        """The chosen curve through all pairs."""
        return self.through.curve(self.s)

    @property
    def grouped(self) -> bool:
        return len(self.drawn) > 1

    @property
    def fits(self) -> list[Fitted]:
        return [one.curve for one in self.drawn if one.curve is not None]

    def without_curve(self, why: str) -> Answer:
        """The scatter alone, and why there is no curve."""
        s, pairs = self.s, self.pairs
        picture = scatter_picture(s, pairs, self.drawn, "", "The pairs, without a curve.")
        curve = curve_of(s)
        return Answer(
            s.text(self.tables),
            picture=picture,
            reading=Reading(
                f"No {curve.label} can be told here: {why}.",
                () if self._other_curves() else ("Choose another column, or collect more rows.",),
                next=self._other_curves(),
            ),
            used=pairs.used,
            left_out=pairs.left_out,
        )

    def _other_curves(self) -> tuple[Link, ...]:
        if self.s.curve == "line":
            return ()
        return (Link("Fit a straight line instead", sets=("curve", "line")),)

    def answer(self) -> Answer:
        s, pairs = self.s, self.pairs
        if not self.fits:
            raise CannotAnswer(
                f"In none of the groups can a curve be told: {self.drawn[0].fitted}. Choose other groups, or none.",
                "by",
                ((f"All {plural(pairs.noun)} together", "by", None),),
            )
        picture = scatter_picture(s, pairs, self.drawn, self._read_text(), self._alt())
        return Answer(
            s.text(self.tables),
            picture=picture,
            sections=self._sections(),
            figures=self._figures(),
            reading=self._reading(),
            working=working_of(s, pairs, self.fits[0]) if not self.grouped else (),
            used=pairs.used,
            left_out=pairs.left_out,
            numbers=self._numbers(),
        )

    def _read_text(self) -> str:
        s = self.s
        if s.read is None:
            return ""
        if not self.grouped:
            return prediction(s, self.pairs, self.fits[0], float(s.read), short=True)
        at, where = np.array([float(s.read)]), place_text(self.pairs, float(s.read))
        if s.panels or len(self.drawn) > 2:
            return f"at {where}"  # the table has them all
        said = [
            f"{one.group.label} {y_text(self.pairs, float(one.curve.predict(at)[0]))}"
            for one in self.drawn
            if one.curve is not None
        ]
        return f"at {where}: {', '.join(said)}"

    def _alt(self) -> str:
        pairs = self.pairs
        said = f"{counted(pairs.used, 'pair')} of {pairs.response.name} and {pairs.predictor.name}"
        if self.grouped:
            curve = self.fits[0].curve.label
            return f"{said}, with {counted(len(self.fits), curve)}, one for each group."
        curve = with_article(self.fits[0].curve.label)
        return f"{said}, with {curve}. {headline(pairs, self.fits[0])}"

    def _sections(self) -> tuple[Section, ...]:
        s, pairs, made = self.s, self.pairs, []
        frame = residual_frame(s, pairs, self.drawn)
        if frame is not None:
            title = residual_title(s)
            picture = Picture((frame,), alt=f"{title}.", slim=s.residuals in STRIPS)
            made.append(Section(title, picture, note=residual_note(s)))
        return tuple(made)

    # figures

    def _figures(self) -> tuple[ResultTable, ...]:
        made = []
        if self.found:
            made.append(self._ways())
        if self.s.by_hand and not self.grouped:
            made.append(self._by_hand())
        if self.grouped:
            made.append(self._groups())
        else:
            made += self._coefficients()
        if self.s.reads():
            made.append(self._predictions())
        return tuple(made)

    def _ways(self) -> ResultTable:
        """The curves side by side, on the scale of y."""
        best, _ = suggested(self.found)
        rows = []
        unit = self.pairs.response.unit
        places = min(6, self.pairs.decimals[1] + 2)
        order = sorted(self.found, key=lambda name: (name != self.s.curve, curve_of(self.s, name).order))
        for name in order:
            one, curve = self.found[name], curve_of(self.s, name)
            sets = ("curve", name)
            if isinstance(one, str):
                blank = Cell("–", None)
                cells = (Cell(curve.label, name), blank, blank, blank, Cell(one, one, tone="mute"))
                rows.append(FigureRow(cells, sets=sets))
                continue
            f = one.fitted
            said, tone = one.shown()
            if name == best:
                said = f"{said} · suggested"
            eq = equation(f).removeprefix("ŷ = ") if name == self.s.curve else ""
            plain = f"{curve.label}: {_unmarked(eq)}" if eq else curve.label
            cells = (
                Cell(plain, name),
                cell(f.share, number(f.share, 3)),
                cell(f.sigma, number(f.sigma, places)),
                cell(f.aicc, number(f.aicc, 1)),
                Cell(said, said, tone=tone),  # type: ignore[arg-type]
            )
            rows.append(FigureRow(cells, sets=sets, chosen=name == self.s.curve))
        headings = (
            Heading("curve", "Curve", numeric=False),
            Heading("r2", "R²"),
            Heading("sd", f"residual SD ({unit})" if unit else "residual SD"),
            Heading("aicc", "AICc", help="Lower is better; less than 2 apart is about as good."),
            Heading("shows", "what the residuals show", numeric=False),
        )
        return ResultTable("ways", headings, tuple(rows), ways=True)

    def _coefficients(self) -> list[ResultTable]:
        f, s = self.fits[0], self.s
        if not f.coefficients.size:
            return []
        sure = f"{number(100 * s.confidence, 0)}\u00a0%"
        rows = []
        for at, value in enumerate(f.coefficients.tolist()):
            name = f.curve.meanings[at] if at < len(f.curve.meanings) else f"b_{at}"
            error = None if f.errors is None else float(f.errors[at])
            if error is not None and not math.isfinite(error):
                error = None
            t = value / error if error else math.nan
            p = float(2 * StudentT(f.df).sf(abs(t))) if f.df > 0 and math.isfinite(t) else None
            ends = f.interval(at, s.confidence) if error else None
            rows.append(
                FigureRow(
                    (
                        Cell(name, name),
                        cell(value, significant(value, 5)),
                        cell(error, significant(error, 4)) if error is not None else Cell("–"),
                        cell(t, number(t, 2)),
                        cell(p, p_value(p)) if p is not None else Cell("–"),
                        cell(ends[0], significant(ends[0], 4)) if ends else Cell("–"),
                        cell(ends[1], significant(ends[1], 4)) if ends else Cell("–"),
                    )
                )
            )
        headings = (
            Heading("term", "term", numeric=False),
            Heading("estimate", "estimate"),
            Heading("se", "standard error"),
            Heading("t", "t"),
            Heading("p", "p-value"),
            Heading("low", f"{sure} from"),
            Heading("high", "to"),
        )
        return [ResultTable("coefficients", headings, tuple(rows))]

    def _groups(self) -> ResultTable:
        """A row for each group: its curve and how well it fits."""
        places = min(6, self.pairs.decimals[1] + 2)
        meanings = self.fits[0].curve.meanings
        rows = []
        for one in self.drawn:
            n = one.group.x.size
            f = one.curve
            if f is None:
                cells = [
                    Cell(one.group.label),
                    Cell(whole(n), n),
                    *[Cell("–")] * len(meanings),
                    Cell("–"),
                    Cell("–"),
                    Cell(str(one.fitted), tone="mute"),
                ]
            else:
                said, tone = Judged(f).shown()
                cells = [
                    Cell(one.group.label),
                    Cell(whole(n), n),
                    *(cell(float(c), significant(float(c), 4)) for c in f.coefficients),
                    cell(f.share, number(f.share, 3)),
                    cell(f.sigma, number(f.sigma, places)),
                    Cell(said, tone=tone),  # type: ignore[arg-type]
                ]
            rows.append(FigureRow(tuple(cells)))
        headings = (
            Heading("group", "group", numeric=False),
            Heading("n", "n"),
            *(Heading(f"b{at}", name) for at, name in enumerate(meanings)),
            Heading("r2", "R²"),
            Heading("sd", "residual SD"),
            Heading("shows", "what the residuals show", numeric=False),
        )
        return ResultTable("groups", headings, tuple(rows))

    def _predictions(self) -> ResultTable:
        s, pairs = self.s, self.pairs
        places = min(8, pairs.decimals[1] + 1)
        sure = f"{number(100 * s.confidence, 0)}\u00a0%"
        rows = []
        for at in s.reads():
            for one in self.drawn:
                f = one.curve
                if f is None:
                    continue
                place = np.array([at])
                value = float(f.predict(place)[0])
                cells = [Cell(x_text(pairs, at), at)]
                if self.grouped:
                    cells.append(Cell(one.group.label))
                cells.append(cell(value, number(value, places)))
                for single in (False, True):
                    band = f.band(place, s.confidence, single=single)
                    for k in (0, 1):
                        end = float(band[k][0]) if band is not None else math.nan
                        cells.append(cell(end, number(end, places)))
                low, high = float(f.x.min()), float(f.x.max())
                out = not low <= at <= high
                cells.append(Cell("outside the data" if out else "", tone="warn" if out else ""))
                rows.append(FigureRow(tuple(cells)))
        many = plural(pairs.noun)
        group = (Heading("group", "group", numeric=False),) if self.grouped else ()
        headings = (
            Heading("x", pairs.predictor.label),
            *group,
            Heading("prediction", "prediction"),
            Heading("mean_low", f"{middle_of(self.fits[0])}, {sure} from"),
            Heading("mean_high", "to"),
            Heading("single_low", f"single {many} from"),
            Heading("single_high", "to"),
            Heading("where", "", numeric=False),
        )
        return ResultTable("predictions", headings, tuple(rows), title="Predictions")

    def _by_hand(self) -> ResultTable:
        """The line by hand beside the best one, by their sums of squares."""
        f = self.fits[0]
        left, right = hand_ends(self.s, f)
        low, high = float(f.x.min()), float(f.x.max())
        slope = (right - left) / (high - low)
        intercept = left - slope * low
        off = f.y - (intercept + slope * f.x)
        rss = float(off @ off)
        rows = tuple(
            FigureRow(
                (Cell(name), cell(a, significant(a, 4)), cell(b, significant(b, 4)), cell(total, significant(total, 5)))
            )
            for name, a, b, total in (
                ("by hand", intercept, slope, rss),
                (f.curve.label, _intercept(f), _slope(f), f.rss),
            )
        )
        headings = (
            Heading("line", "line", numeric=False),
            Heading("intercept", "intercept"),
            Heading("slope", "slope"),
            Heading("rss", "sum of squared residuals"),
        )
        return ResultTable("by hand", headings, rows)

    def _numbers(self) -> dict[str, object]:
        made: dict[str, object] = {}
        for one in self.drawn:
            f = one.curve
            if f is None:
                continue
            made[one.group.label or f.curve.name] = {
                "n": f.n,
                "coefficients": f.coefficients.tolist(),
                "errors": None if f.errors is None else f.errors.tolist(),
                "r2": f.share,
                "sigma": f.sigma,
                "rss": f.rss,
                "df": f.df,
                "aicc": f.aicc,
            }
        for name, judged in self.found.items():
            if isinstance(judged, Judged) and name not in made:
                f = judged.fitted
                made[name] = {"coefficients": f.coefficients.tolist(), "r2": f.share, "sigma": f.sigma, "aicc": f.aicc}
        return made

    # words

    @cached_property
    def separate(self) -> Compared | None:
        """Whether the groups take curves of their own."""
        if not self.grouped or isinstance(self.chosen, str) or len(self.fits) < len(self.drawn):
            return None
        return separate_against_one(self.chosen.fitted, self.fits)

    @cached_property
    def alike(self) -> tuple[Compared | None, float]:
        if self.s.curve != "line" or not self.grouped:
            return None, math.nan
        return slopes_alike([one.group for one in self.drawn if one.curve is not None])

    def _reading(self) -> Reading:
        s, pairs = self.s, self.pairs
        if self.grouped:
            return self._group_reading()
        judged = self.chosen
        assert isinstance(judged, Judged)
        f = judged.fitted
        said = [strength(pairs, f), not_shown(pairs, f), at_zero(pairs, f)]
        if p_of_slope(f) >= 0.05:
            said.insert(0, f"{told(pairs, f)[:-1]}, as far as it can be seen.")
        said += [prediction(s, pairs, f, at) for at in s.reads()[:4]]
        best, why = suggested(self.found) if self.found else ("", "")
        if best and best != s.curve and s.curve not in ALONE:
            said.append(f"Suggested: {with_article(curve_of(s, best).label)}, {why}.")
        worry = cautions(s, pairs, f)
        if judged.unusual.size:
            place = int(judged.unusual[np.argmax(np.abs(f.residuals[judged.unusual]))])
            row, off = int(pairs.all.rows[place]) + 1, float(f.residuals[place])
            side = "above" if off > 0 else "below"
            worry.insert(
                0,
                (
                    f"Row {row} is unusual: it lies {y_text(pairs, abs(off))} {side} the curve. "
                    f"{without_row(pairs, f, place)}"
                ).strip(),
            )
        if f.perfect:
            worry.insert(0, "All pairs lie on the curve exactly, so that no errors can be told.")
        return Reading(
            headline(pairs, f),
            tuple(text for text in said if text),
            conditions=conditions_of(s, pairs, judged, self.tables),
            cautions=tuple(worry),
            next=links_of(s, pairs, judged, best),
        )

    def _group_reading(self) -> Reading:
        s, pairs = self.s, self.pairs
        label = self.fits[0].curve.label
        said = []
        if s.curve == "line":
            unit = pairs.response.unit
            per = f"{unit} per {pairs.predictor.unit}" if unit and pairs.predictor.unit else ""
            slopes = [
                f"{one.group.label} {significant(float(one.curve.coefficients[1]), 3)}"
                for one in self.drawn
                if one.curve is not None
            ][:MOST_TOLD]
            said.append(f"Slopes{f' ({per})' if per else ''}: {', '.join(slopes)}.")
            found, common = self.alike
            if found is not None:
                shown = "differ" if found.p < 0.05 else "are not shown to differ"
                said.append(
                    f"The slopes {shown}: F({found.df1}, {whole(found.df2)}) = "
                    f"{number(found.f, 2)}, p {_p(found.p)}. A slope common to all would be "
                    f"{significant(common, 3)}."
                )
        head = f"{label[:1].upper()}{label[1:]}s were fitted to {counted(len(self.fits), 'group')}."
        found = self.separate
        if found is not None:
            better = (
                "do better than one for all together"
                if found.p < 0.05
                else "are not shown to do better than one for all together"
            )
            head = f"Curves of their own {better}."
            said.insert(
                0,
                (
                    f"One {label} for each group against one for all: F({found.df1}, "
                    f"{whole(found.df2)}) = {number(found.f, 2)}, p {_p(found.p)}."
                ),
            )
        alike = self.alike[0]
        if found is not None and alike is not None and found.p < 0.05 <= alike.p:
            said.append("So the lines lie apart, and nothing shows that their slopes differ.")
        worry = [f"{one.group.label}: {one.fitted}." for one in self.drawn if isinstance(one.fitted, str)]
        for at in s.reads():
            out = [
                one.group.label
                for one in self.drawn
                if one.curve is not None and not one.group.x.min() <= at <= one.group.x.max()
            ]
            if out:
                where = sentence_case(place_text(pairs, at))
                worry.append(f"{where} lies outside the data of {listed(out)}.")
        if found is not None and alike is not None and alike.p < 0.05 <= found.p:
            worry.append(
                "The two tests ask different things, and near the limit they can disagree: trust "
                "the picture and the sizes more than either."
            )
        links = (
            Link("One curve for all together", sets=("by", None)),
            Link(
                "Show a panel for each group" if not s.panels else "Show all in one picture",
                sets=("panels", not s.panels),
            ),
        )
        return Reading(head, tuple(said), cautions=tuple(worry), next=links)


def _p(p: float) -> str:
    text = p_value(p)
    return text if text.startswith(("<", ">")) else f"= {text}"


def _slope(f: Fitted) -> float:
    return float(f.coefficients[-1])


def _intercept(f: Fitted) -> float:
    return float(f.coefficients[0]) if f.coefficients.size > 1 else 0.0


def _unmarked(text: str) -> str:
    """An equation on one line, for a cell."""
    from theoros.answer.formulas.notation import formula
    from theoros.answer.formulas.written import to_line

    return to_line(formula(text))

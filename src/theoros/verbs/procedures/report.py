"""What an answer by procedures reads from: its data, the procedures that can answer, and their assumptions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from theoros.answer.parts import Assumption, Link, Tone
from theoros.table.table import Table
from theoros.verbs import follow_ups
from theoros.verbs.assumptions.assumption import checked, summed_up
from theoros.verbs.core.row_links import row_links
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.parameters.parameter import Parameter, parameters
from theoros.verbs.procedures.design_questions import asked_of
from theoros.verbs.procedures.drafting import WAITING, Results
from theoros.verbs.procedures.procedure import Procedure, Result, suggested
from theoros.verbs.procedures.scope import KNOWN, scope_of
from theoros.verbs.procedures.statement import Inference

TONES: dict[str, Tone] = {"holds": "good", "fails": "bad", "judge": "warn"}


@dataclass(frozen=True)
class ProcedureReport:
    """A statement that procedures answer, with its data."""

    statement: Inference
    tables: Tables
    data: Observation
    """A value of `verbs.data.samples`."""
    methods: tuple[Procedure, ...]

    @property
    def table(self) -> Table | None:
        """The table of its rows; None for typed figures."""
        return self.tables.get(self.statement.table) if self.statement.needs_table else None

    @property
    def sampling(self) -> str:
        """How the rows were got, as the table says; empty where it is not said."""
        return self.table.sampling if self.table is not None else ""

    @property
    def known(self) -> bool:
        """Whether the rows are the whole population, so that there is nothing to conclude to."""
        return self.sampling == KNOWN

    def scope(self, *, shown: bool) -> tuple[str, ...]:
        """How far a conclusion reaches, and one that something was `shown`."""
        return scope_of(self.sampling, self.data, grouped=self.statement.grouped, shown=shown)

    # assumptions

    @cached_property
    def _checks(self) -> dict[tuple[str, str], list[Assumption]]:
        return {}

    def asked_about(self, method: Procedure) -> Parameter:
        """What a procedure is asked about: its own parameter, where it knows no other."""
        return parameters()[method.about(self.statement.parameter)]

    def checked(self, method: Procedure) -> list[Assumption]:
        """The assumptions of a procedure; each is checked once, however many lean on it."""
        about, known = self.asked_about(method), self._checks
        for need in method.needs:
            if (need, about.name) not in known:
                known[need, about.name] = checked((need,), self.data, about)
        return [check for need in method.needs for check in known[need, about.name]]

    def fails(self, method: Procedure) -> bool:
        return any(check.mark == "fails" for check in self.checked(method))

    def assumptions(self, method: Procedure) -> tuple[Assumption, ...]:
        """What was checked of a procedure, and what no data can show and is asked."""
        return (*self.checked(method), *asked_of(self.statement, self.data, self.sampling))

    def said_of(self, method: Procedure, best: Procedure | None) -> tuple[str, Tone]:
        """What the table of procedures says of one's assumptions, and the tone of it."""
        told, mark = summed_up(self.checked(method))
        return f"{told} · suggested" if best is not None and best.name == method.name else told, TONES[mark]

    def suggested(self, results: Results) -> Procedure | None:
        """The procedure that is advised, of those that have or will have a result."""
        able = [w for w in self.methods if isinstance(results[w.name], Result) or results[w.name] == WAITING]
        return suggested(able, self.statement.parameter, self.fails)

    # what can come next

    def failed(self, method: Procedure, remedies: Sequence[Link]) -> list[str]:
        """The caution where an assumption fails: what to do, or that there is nothing."""
        if not self.fails(method):
            return []
        then = ": see what to do under Next" if remedies else f", and every method here needs it: {self.weakened}"
        return [f"A condition of {method.inline} fails{then}."]

    weakened = "the result is less certain than it looks"
    """What follows where an assumption fails and nothing can be done."""

    def another(self, method: Procedure, results: Results) -> list[Link]:
        """Another procedure, where an assumption of the chosen one fails and one is suggested."""
        best = self.suggested(results)
        if best is None or best.name == method.name or not self.fails(method):
            return []
        return [Link(f"Use {best.inline} instead, which is suggested here", sets=("method", best.name))]

    def row_links(self, method: Procedure) -> list[Link]:
        """The rows that a check names, to be seen or tried without."""
        rows = sorted({row for check in self.checked(method) for row in check.rows})
        return row_links(self.table, rows) if self.table is not None else []

    def about_links(self) -> list[Link]:
        """What other verbs can be asked of the same columns."""
        about = self.statement.data.about
        if not about:
            return []
        table, y, by, x = self.statement.table, about["what"], about.get("by"), about.get("against")
        if x is not None:
            return [
                Link(f"See {y} against {x}", statement=follow_ups.plot(table, y, against=x, shape="scatter")),
                Link(f"Model {y} from {x}", statement=follow_ups.model(table, y, x)),
            ]
        return [
            Link(f"Describe {y}", statement=follow_ups.describe(table, y, by=by)),
            Link(f"Plot {y}", statement=follow_ups.plot(table, y, by=by)),
        ]

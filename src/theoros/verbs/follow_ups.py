"""Statements that can come next, of whatever verb: factories with typed slots.

No verb imports another; what one offers of another is made here. A slot that is misspelt or of the
wrong type fails where types are checked, and `tests/verbs/test_follow_ups.py` holds every slot
against the statement it becomes.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Literal

from theoros.numeric.arrays import Alternative
from theoros.verbs.core.json_values import to_plain_values
from theoros.verbs.core.registry import known_statement
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.data import Data

Ask = Literal["distribution", "at most", "at least", "as far", "between", "middle"]


@dataclass(frozen=True)
class ChanceSettings:
    """How often chance is asked, and from which seed."""

    replicates: int = 10_000
    seed: int = 1


def _made(verb: str, data: Data | None = None, **slots: object) -> Statement:
    if data is not None:
        slots["data"] = to_plain_values(data)
    return known_statement({"verb": verb, **slots})


def plot(
    table: str,
    what: str | None,
    *,
    by: str | None = None,
    and_by: str | None = None,
    against: str | None = None,
    shape: str = "stacked dots",
) -> Statement:
    """A plot of a column, for each group or against another."""
    return _made("plot", table=table, what=what, by=by, and_by=and_by, against=against, shape=shape)


def describe(
    table: str, what: str | None, *, by: str | None = None, and_by: str | None = None, also: tuple[str, ...] = ()
) -> Statement:
    """The figures of a column, for each group or beside others."""
    return _made("describe", table=table, what=what, by=by, and_by=and_by, also=also)


def model(table: str, what: str | None, against: str | None) -> Statement:
    """A line from one number to another."""
    return _made("model", table=table, what=what, against=against)


def hypothesis_test(
    data: Data,
    parameter: str = "mean",
    method: str = "welch t",
    *,
    table: str = "",
    alternative: Alternative = "different",
    null: float | None = None,
    alpha: float = 0.05,
    claimed: str = "",
    drawn: ChanceSettings = ChanceSettings(),
) -> Statement:
    """A claim about a parameter of data."""
    return _made(
        "test",
        data,
        table=table,
        parameter=parameter,
        method=method,
        alternative=alternative,
        null=null,
        alpha=alpha,
        claimed=claimed,
        **asdict(drawn),
    )


def estimate(
    data: Data,
    parameter: str,
    method: str,
    *,
    table: str = "",
    confidence: float = 0.95,
    share: float = 0.9,
    replicates: int = 10_000,
    seed: int = 1,
) -> Statement:
    """An interval for a parameter of data."""
    return _made(
        "estimate",
        data,
        table=table,
        parameter=parameter,
        method=method,
        confidence=confidence,
        share=share,
        replicates=replicates,
        seed=seed,
    )


def watch_claim(
    data: Data,
    parameter: str,
    method: str,
    *,
    table: str,
    null: float | None,
    claimed: str,
    alpha: float,
    ask: Ask,
    drawn: ChanceSettings,
) -> Statement:
    """The same claim as a simulation, with everything filled in."""
    claim = {"kind": "claim", "null": null, "claimed": claimed}
    return _made(
        "simulate",
        data,
        table=table,
        parameter=parameter,
        method=method,
        model=claim,
        alpha=alpha,
        ask=ask,
        **asdict(drawn),
    )


def watch_resamples(
    data: Data, parameter: str, method: str, *, table: str, share: float, middle: float, drawn: ChanceSettings
) -> Statement:
    """An estimate whose resamples are watched."""
    return _made(
        "simulate",
        data,
        table=table,
        parameter=parameter,
        method=method,
        model={"kind": "resample"},
        share=share,
        ask="middle",
        middle=middle,
        **asdict(drawn),
    )


def binomial(n: int | None, p: float, *, counts: str, each: str, parts: tuple[str, ...]) -> Statement:
    """The exact chances of a number of successes."""
    situation = {"kind": "binomial", "n": n, "p": p}
    return _made("probability", situation=situation, counts=counts, each=each, parts=parts)


def new_column(table: str, name: str, formula: str) -> Statement:
    """A column of a table that is worked out by a formula, and follows."""
    return _made("new column", table=table, name=name, formula=formula)

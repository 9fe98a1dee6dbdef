"""Cautions that answers of several verbs share, each in one wording."""

from __future__ import annotations

from theoros.table.table import Table

NOT_A_CAUSE = "Association does not show that one causes the other."


def assigned(table: Table) -> bool:
    """Whether its rows were assigned at random, so that a cause may be named."""
    return table.sampling == "random assignment"


def cause_cautions(table: Table) -> tuple[str, ...]:
    """That an association is no cause, unless the rows were assigned at random."""
    return () if assigned(table) else (NOT_A_CAUSE,)

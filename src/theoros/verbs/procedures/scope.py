"""How the rows were got, and so how far a conclusion reaches: to a population, to a cause."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import plural
from theoros.verbs.data.number_pairs import Associated
from theoros.verbs.data.observed_counts import Observation, TwoWayCounts
from theoros.verbs.data.samples import Paired

KNOWN = "whole population"
"""What a table says of its rows where there is nothing to conclude to."""


def how_they_were_got(sampling: str, noun: str, *, grouped: bool, verb: str) -> Assumption | None:
    """What the way in which the rows were got means for `verb`; None where figures were typed.

    `grouped` says whether groups of rows are compared, which alone can have been assigned.
    """
    many = plural(noun)
    if sampling == "random assignment" and not grouped:
        return Assumption(
            "judge", f"the {many} were assigned to groups at random: are they a random sample of others, too?"
        )
    said = {
        "random sample": Assumption("holds", f"the {many} are a random sample"),
        "random assignment": Assumption("holds", f"the {many} were assigned to their groups at random"),
        "observed": Assumption(
            "judge", f"the {many} were taken as they came: would others like them have been as likely to be among them?"
        ),
        "whole population": Assumption(
            "fails",
            f"the table is the whole population: its own figures answer the question, and there is nothing to {verb}",
        ),
    }
    return said.get(sampling)


def scope_of(sampling: str, data: Observation, *, grouped: bool, shown: bool) -> tuple[str, ...]:
    """What may be concluded from rows that were got like this; nothing where it is not said.

    `grouped` says whether groups of rows are compared, `shown` whether a difference (or a
    relation) was found that chance does not explain.
    """
    many = plural(data.noun)
    what = "a relation" if isinstance(data, Associated | TwoWayCounts) else "a difference"
    alone = len(data.sides) == 1 and not isinstance(data, Paired) and what == "a difference"
    told = {
        "random sample": f"As a random sample, the {many} speak for all that they were drawn from"
        + ("." if alone else f"; what causes {what} cannot be told from a sample alone."),
        "random assignment": f"Since the {many} were assigned at random, {what} that chance "
        f"does not explain is due to what was done to them."
        if grouped and shown
        else "",
        "observed": f"The {many} were observed as they came, so that "
        + ("they may not stand for others." if alone else f"another cause may stand behind {what}."),
    }.get(sampling, "")
    return (told,) if told else ()

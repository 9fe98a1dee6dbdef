"""How the rows were got, and so how far a conclusion reaches: to a population, to a cause."""

from __future__ import annotations

from theoros.answer.nouns import plural
from theoros.answer.parts import Assumption
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
            "judge", f"the {many} were assigned to groups at random: are they also a random sample of a population?"
        )
    said = {
        "random sample": Assumption("holds", f"the {many} are a random sample"),
        "random assignment": Assumption("holds", f"the {many} were assigned to their groups at random"),
        "observed": Assumption(
            "judge", f"the {many} were not chosen at random: could other {many} have been included just as easily?"
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
    elsewhere = (
        f"the {what[2:]} may have another cause" if shown and not alone else f"they may not represent other {many}"
    )
    told = {
        "random sample": f"The {many} are a random sample, so the result applies to the population they were drawn from"
        + (f". A sample alone does not show what causes {what}." if shown and not alone else "."),
        "random assignment": f"The {many} were assigned at random, so the groups differ because of what was done "
        "to them."
        if grouped and shown
        else "",
        "observed": f"The {many} were only observed, so {elsewhere}.",
    }.get(sampling, "")
    return (told,) if told else ()

"""How the rows were got, and so how far a conclusion reaches: to a population, to a cause."""

from __future__ import annotations

from theoros.answer.wording import plural, sentence_case
from theoros.verbs.assumptions.assumption import Check
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import Paired


def got_check(sampling: str, noun: str) -> Check | None:
    """What the way in which the rows were got means for a test; None where figures were typed."""
    many = plural(noun)
    said = {
        "random sample": Check("holds", f"the {many} are a random sample"),
        "random assignment": Check("holds", f"the {many} were assigned to their groups at random"),
        "observed": Check(
            "judge", f"the {many} were taken as they came: would others like them have been as likely to be among them?"
        ),
        "whole population": Check(
            "fails",
            "the table is the whole population: its own figures answer the question, and there is nothing to test",
        ),
    }
    return said.get(sampling)


def scope_of(sampling: str, data: Observation) -> tuple[str, ...]:
    """What may be concluded from rows that were got like this; nothing where it is not said."""
    many = plural(data.noun)
    alone = len(data.sides) == 1 and not isinstance(data, Paired)
    said = {
        "random sample": f"As a random sample, the {many} speak for all that they were drawn from"
        + ("." if alone else "; what causes a difference cannot be told from a sample alone."),
        "random assignment": f"Since the {many} were assigned at random, a difference that chance "
        f"does not explain is due to what was done to them.",
        "observed": f"The {many} were observed as they came, so that another cause may stand behind a difference.",
        "whole population": sentence_case(
            f"the {many} are all there are, so that a difference among them is simply there."
        ),
    }
    return (said[sampling],) if sampling in said else ()

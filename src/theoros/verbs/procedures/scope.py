"""How the rows were got, and so how far a conclusion reaches: to a population, to a cause."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import plural, sentence_case
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import Paired


def how_they_were_got(sampling: str, noun: str) -> Assumption | None:
    """What the way in which the rows were got means for a test; None where figures were typed."""
    many = plural(noun)
    said = {
        "random sample": Assumption("holds", f"the {many} are a random sample"),
        "random assignment": Assumption("holds", f"the {many} were assigned to their groups at random"),
        "observed": Assumption(
            "judge", f"the {many} were taken as they came: would others like them have been as likely to be among them?"
        ),
        "whole population": Assumption(
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

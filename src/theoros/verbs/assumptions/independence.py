"""Whether cases are independent, which no data show: it is asked."""

from __future__ import annotations

from typing import Literal

from theoros.answer.parts import Assumption, Choice

Independent = Literal["not said", "yes", "no"]


def independence(said: Independent, cases: str, costs: str, because: str = "") -> Assumption:
    """The question, or what was answered; `costs` goes on behind that they depend on each other."""
    choices = (
        Choice("independent", "independent", "yes", said == "yes"),
        Choice("not", "independent", "no", said == "no"),
    )
    if said == "yes":
        reason = f": {because.strip().rstrip('.')}" if because.strip() else ""
        line = f"the {cases} are independent of each other{reason}"
        return Assumption("holds", f"As you say, {line}.", choices, line=line)
    if said == "no":
        line = f"the {cases} depend on each other{costs}"
        return Assumption("fails", f"As you say, {line}.", choices, line=line)
    text = f"Are the {cases} independent: does the value of one have no influence on the value of another?"
    line = f"it has not been said whether the {cases} are independent"
    return Assumption("judge", text, choices, line=line)

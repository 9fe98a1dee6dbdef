"""The results of several procedures as they come in: what formulas give first, then simulations."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence

from theoros.answer.parts import Answer, Draft
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result

Results = dict[str, Result | str]
"""For each way its result, or in words why there is none (yet)."""
WAITING = "…"
Ask = Callable[[Procedure], Question]
"""What a way is asked. Raises ProcedureFails where it cannot be asked that."""
Mend = Callable[[Question, Result], Result]


def as_found(question: Question, result: Result) -> Result:
    """A result as it is."""
    return result


def result_of(method: Procedure, ask: Ask, mend: Mend = as_found) -> Result | str:
    """What a way found, or in words why it cannot."""
    try:
        question = ask(method)
        return mend(question, method.found(question))
    except ProcedureFails as why:
        return str(why)


def in_drafts(
    methods: Sequence[Procedure],
    chosen: str,
    ask: Ask,
    write: Callable[[Results], Answer],
    doing: str,
    mend: Mend = as_found,
) -> Generator[Draft, None, Results]:
    """Answers with whatever results are there; of the simulations, the one that was chosen first.

    `doing` says what is being done meanwhile, `mend` puts right what a procedure cannot know.
    Returns the results, for what is to follow from them.
    """
    results: Results = {
        method.name: WAITING if method.simulated else result_of(method, ask, mend) for method in methods
    }
    simulated = sorted((method for method in methods if method.simulated), key=lambda w: w.name != chosen)
    if simulated:
        yield Draft(write(results), 0.0, doing)
    for place, method in enumerate(simulated):
        before, whole = place / len(simulated), 1 / len(simulated)
        try:
            question = ask(method)
            for result, done in method.run(question):
                if result is None:
                    yield Draft(None, before + done * whole, doing)
                    continue
                results[method.name] = mend(question, result)
                if done < 1:
                    yield Draft(write(results), before + done * whole, doing)
        except ProcedureFails as why:
            results[method.name] = str(why)
    yield Draft(write(results), 1.0)
    return results


_VERBS = ("can", "compares", "has", "is", "leaves", "needs", "reaches", "tests")
"""With which a reason begins that says what a procedure does or needs."""


def cannot_answer(method: Procedure, why: str) -> str:
    """Why a procedure has no result, as a sentence."""
    said = f"it {why}" if why.split()[0] in _VERBS else why
    return f"{method.label} cannot be used here: {said}. Choose another method."

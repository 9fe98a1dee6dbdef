"""How the chance of an event was worked out, as on a board."""

from __future__ import annotations

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools
from theoros.verbs.probability.outcomes.space import (
    AllOf,
    AnyOf,
    AskedEvent,
    EventClaim,
    HowMany,
    Label,
    Opposite,
    Space,
)
from theoros.verbs.probability.words import chance_put_in, chance_text

FEW = 8
"""As many terms of a sum are written out."""
Line = str | Formula


def lines_of(space: Space, asked: AskedEvent, *, on_tree: bool) -> tuple[Line, ...]:
    """The lines of one part; `on_tree` says whether what follows is given by the branches."""
    if asked.relation and asked.given is not None:
        return _relation(space, asked.claim, asked.given, asked.relation)
    if asked.given is not None:
        return _given(space, asked, asked.given, on_tree)
    claim, holds = asked.claim, asked.claim.holds(space)
    p = chance_text(space.chance(holds))
    name = f"P({claim.formula})"
    if isinstance(claim, Opposite):
        inner = claim.of
        q = chance_put_in(space.chance(inner.holds(space)))
        put = "" if q in ("0", "1") else f"1 − {q} = "
        return (formula(f"{name} = 1 − P({inner.formula}) = {put}{p}"),)
    if isinstance(claim, AnyOf) and len(claim.of) == 2:
        return (_addition(space, claim, name, p),)
    least_one = isinstance(claim, HowMany) and claim.least == 1 and claim.most == len(claim.of)
    if least_one and space.counts is None:
        none = ~holds
        q = chance_put_in(space.chance(none))
        terms = _sum(space, none)
        middle = f"1 − ({terms}) = " if terms not in ("", q) else ""
        return (formula(f"{name} = 1 − P({{none}}) = {middle}1 − {q} = {p}"),)
    return (formula(f"{name} = {_worked(space, holds, p)}"),)


def _worked(space: Space, holds: Bools, said: str) -> str:
    """The sum that gives a chance, with the chance behind it."""
    if space.counts is not None:
        count, total = space.count(holds), space.total
        terms = _sum(space, holds)
        start = f"({terms}) / {total} = " if terms and " + " in terms else ""
        return f"{start}{count} / {total} = {said}"
    terms = _sum(space, holds)
    return f"{terms} = {said}" if terms and terms != said else said


def _sum(space: Space, holds: Bools) -> str:
    """The terms of the outcomes, added; empty where they are more than a few."""
    there = np.flatnonzero(holds & (space.chances > 0)).tolist()
    if not 0 < len(there) <= FEW:
        return "0" if not there else ""
    return " + ".join(space.terms[at] for at in there)


def _addition(space: Space, claim: AnyOf, name: str, p: str) -> Formula:
    one, two = claim.of
    both = AllOf(claim.of)
    chances = [c.holds(space) for c in (one, two, both)]
    if space.counts is not None:
        said = [f"{space.count(holds)}/{space.total}" for holds in chances]
    else:
        said = [chance_put_in(space.chance(holds)) for holds in chances]
    return formula(
        f"{name} = P({one.formula}) + P({two.formula}) − P({both.formula}) = {said[0]} + {said[1]} − {said[2]} = {p}"
    )


def _given(space: Space, asked: AskedEvent, given: EventClaim, on_tree: bool) -> tuple[Line, ...]:
    """A conditional probability: Bayes' rule, where the sums are those of a tree."""
    within = given.holds(space)
    both = within & asked.claim.holds(space)
    name, whole = asked.formula, space.chance(within)
    if whole == 0:
        return (formula(f"P({given.formula}) = 0"),)
    p = chance_text(space.chance(both) / whole)
    pair = (given, asked.claim) if _is_forward(asked.claim, given) else (asked.claim, given)
    joint = AllOf(pair).formula
    rule = f"{name} = (P({joint})) / (P({given.formula}))"
    if space.counts is not None:
        return (formula(rule), formula(f"= {space.count(both)} / {space.count(within)} = {p}"))
    over, under = chance_put_in(space.chance(both)), chance_put_in(whole)
    lines: list[Line] = [formula(rule)]
    one, two = _sum(space, both), _sum(space, within)
    if one and two and (one != over or two != under):
        lines.append(formula(f"= ({one}) / ({two})"))
    lines.append(formula(f"= {over} / {under} = {p}"))
    if on_tree and _is_forward(asked.claim, given):
        lines.append("It is the chance on the branch itself.")
    return tuple(lines)


def _is_forward(claim: EventClaim, given: EventClaim) -> bool:
    """Whether it goes along the tree: what comes second, given what came first."""
    return isinstance(claim, Label) and isinstance(given, Label) and (claim.stage, given.stage) == (1, 0)


def _relation(space: Space, one: EventClaim, two: EventClaim, relation: str) -> tuple[Line, ...]:
    both = AllOf((one, two))
    p, a, b = (space.chance(c.holds(space)) for c in (both, one, two))
    first = formula(f"P({both.formula}) = {chance_text(p)}")
    if relation == "exclusive":
        return (first,)
    product = f"P({one.formula}) P({two.formula})"
    if space.counts is not None:
        counts = [space.count(c.holds(space)) for c in (one, two)]
        put = " × ".join(f"{count}/{space.total}" for count in counts)
    else:
        put = f"{chance_put_in(a)} × {chance_put_in(b)}"
    return first, formula(f"{product} = {put} = {chance_text(a * b)}")


def same(one: float, two: float) -> bool:
    """Whether two chances are equal but for rounding."""
    return abs(one - two) <= 1e-9 * max(one, two, 1e-300)

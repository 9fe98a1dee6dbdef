"""A claimed distribution, "Poisson" or "normal(62, 9)", over levels that are spans of values."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from theoros.answer.nouns import with_article
from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, listed, significant
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.numeric.procedures.fitting import best_fit, class_chances
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.laws.law import Law, laws_to_draw

INF = math.inf
Span = tuple[float, float]


_NAMED = re.compile(r"^\s*([a-z]{3,})(?:\s+distribution)?\s*(?:\((.*)\)|([^:]*))$", re.IGNORECASE)


@dataclass(frozen=True)
class FittedLaw:
    """A claimed distribution with the shares that it gives to the levels."""

    said: str
    """With what was given of it: "a Poisson distribution", "the normal … with μ = 2"."""
    values: str
    """All parameters, where some were estimated: "λ = 1.83"; else empty."""
    shares: tuple[float, ...]
    estimated: tuple[str, ...]
    """The letters of the parameters that were estimated from the counts."""
    how: str
    """How they were, as a sentence; empty for none."""


def laws_to_claim() -> list[type[Law]]:
    """The laws that can be claimed by name, of one word."""
    return [law for law in laws_to_draw().values() if not law.curve and " " not in law.kind]


def law_named(text: str) -> tuple[type[Law], tuple[float, ...]] | None:
    """The distribution that is named, with the parameters given; None where none is.

    Raises StatementError where there are too many, or what is given is no number.
    """
    found = _NAMED.match(text)
    if found is None:
        return None
    known = laws_to_claim()
    law = next((one for one in known if found[1].lower() in (one.kind, called(one).lower())), None)
    if law is None:
        raise StatementError(
            f"“{found[1]}” cannot be claimed as a distribution here: {', '.join(map(called, known))}. Or type a "
            "number for each level."
        )
    pieces = [p for p in re.split(r"\s*[;,]\s+|\s*;\s*|,", found[2] or found[3] or "") if p.strip()]
    try:
        given = tuple(float(TypedNumber(piece.split("=")[-1])) for piece in pieces)
    except NotWorkedOut as problem:
        raise StatementError(f"{problem}.") from None
    letters = letters_of(law)
    needed = law.fixed if law.start(1.0, 1.0) else len(letters)
    if not needed <= len(given) <= len(letters):
        least = ""
        if needed:
            least = f"; {listed(letters[:needed])} {'has' if needed == 1 else 'have'} to be given"
        raise StatementError(f"Type {called(law)} as {called(law)}({', '.join(letters)}){least}.")
    for (name, told), value in zip(law.parameters().items(), given, strict=False):
        low = 1 if name == "n" and law.fixed else None  # counts of no trials tell nothing
        if told.holds.whole and (value != int(value) or (low is not None and value < low)):
            raise StatementError(f"{told.symbol} must be a whole number{', 1 or more' if low else ''}.")
    return law, given


def called(law: type[Law]) -> str:
    """ "Poisson", "binomial"."""
    return law.label.partition(",")[0]


def letters_of(law: type[Law]) -> tuple[str, ...]:
    """The letters of its parameters, in their order."""
    return tuple(told.symbol for told in law.parameters().values())


def fitted_law(text: str, levels: Sequence[str], counts: Ints | None) -> FittedLaw | None:
    """The law that is claimed, fitted to the counts as far as its parameters are not given.

    None where the text names none. Without counts, parameters that are missing are left at a
    start. Raises StatementError.
    """
    named = law_named(text)
    if named is None:
        return None
    law, given = named
    spans = [span_of(level, whole=law.counting) for level in levels]
    order = sorted(range(len(spans)), key=lambda at: spans[at])
    _check_neighbours([spans[at] for at in order], [levels[at] for at in order], whole=law.counting)
    if spans[order[0]][1] < law.least:
        raise StatementError(f"“{levels[order[0]]}” lies below {exact(law.least)}.")
    single = all(low == high for low, high in spans)
    middles = _middles(spans)
    spans[order[0]] = (-INF, spans[order[0]][1])  # whatever lies beyond belongs to the outer levels
    spans[order[-1]] = (spans[order[-1]][0], INF)
    estimated = letters_of(law)[len(given) :]
    made, how = given, ""
    if estimated:
        made, how = _estimated(law, given, spans, middles, counts, single=single)
    try:
        curve = law.of(*made).made()
    except (ValueError, OverflowError) as problem:
        raise StatementError(f"{str(problem)[0].upper()}{str(problem)[1:]}.") from None
    shares = class_chances(curve, spans)
    if shares.min() <= 0:
        at = int(shares.argmin())
        raise StatementError(
            f"“{levels[at]}” is not possible under this distribution: leave the level out, or merge it."
        )
    return _told(law, given, made, estimated, shares, how)


def _estimated(
    law: type[Law],
    given: tuple[float, ...],
    spans: list[Span],
    middles: np.ndarray,
    counts: Ints | None,
    *,
    single: bool,
) -> tuple[tuple[float, ...], str]:
    """All parameters, those that are not given estimated from the counts, and how that was done."""
    weights = np.ones(len(spans))
    if counts is not None and counts.sum():
        weights = counts.astype(np.float64)
    mean = float(np.average(middles, weights=weights))
    sd = math.sqrt(float(np.average((middles - mean) ** 2, weights=weights))) or 1.0
    if law.fixed:
        mean = min(max(mean / given[0], 1e-6), 1 - 1e-6)
    start = law.start(mean, sd)[len(given) - law.fixed :]
    if single or counts is None:
        over = f", over {exact(given[0])}" if law.fixed else ""
        return (*given, *start), f"by the mean of the counted values{over}"
    rest = best_fit(lambda *x: law.of(*given, *x).made(), start, spans, weights)
    return (*given, *rest), "by maximum likelihood"


def _told(
    law: type[Law],
    given: tuple[float, ...],
    made: tuple[float, ...],
    estimated: tuple[str, ...],
    shares: np.ndarray,
    how: str,
) -> FittedLaw:
    """A claimed law in words."""
    values = " and ".join(
        f"{letter} = {significant(value, 4) if letter in estimated else exact(value)}"
        for letter, value in zip(letters_of(law), made, strict=True)
    )
    verb = "is" if len(estimated) == 1 else "are"
    said_how = f"{' and '.join(estimated)} {verb} estimated from the counts, {how}." if estimated else ""
    said = f"{with_article(called(law)) if estimated else f'the {called(law)}'} distribution"
    if given:
        said += f" with {phrase(law, given)}"
    return FittedLaw(said, values if estimated else "", tuple(shares.tolist()), estimated, said_how)


def phrase(law: type[Law], given: Sequence[float]) -> str:
    """The parameters that are given: "μ = 62 and σ = 9"."""
    return " and ".join(f"{letter} = {exact(value)}" for letter, value in zip(letters_of(law), given, strict=False))


_NUMBER = r"([−-]?\d+(?:[.,]\d+)?)"
_FORMS = (
    (re.compile(rf"^{_NUMBER}$"), "value"),
    (re.compile(rf"^{_NUMBER}\s*(?:to under|to|[–-]|up to|…|\.\.\.?)\s*{_NUMBER}$"), "between"),
    (re.compile(rf"^(?:under|below|less than|fewer than|<)\s*{_NUMBER}$"), "under"),
    (re.compile(rf"^(?:up to|at most|no more than|<=|≤)\s*{_NUMBER}$"), "up to"),
    (re.compile(rf"^{_NUMBER}\s*(?:or less|or fewer|and less|and under)$"), "up to"),
    (re.compile(rf"^(?:at least|from|>=|≥)\s*{_NUMBER}$"), "from"),
    (re.compile(rf"^{_NUMBER}\s*(?:or more|and more|and over|or over|\+)$"), "from"),
    (re.compile(rf"^(?:over|above|more than|>)\s*{_NUMBER}$"), "over"),
)


def span_of(level: str, *, whole: bool) -> Span:
    """The values that a level stands for. Raises StatementError where it names none."""
    text = level.strip().lower()
    for form, kind in _FORMS:
        found = form.match(text)
        if found is None:
            continue
        ends = [float(one.replace(",", ".").replace("−", "-")) for one in found.groups()]
        if kind == "value" and not whole:
            break
        if whole and any(end != int(end) for end in ends):
            raise StatementError(f"“{level}” is not a whole number, and this distribution has whole numbers only.")
        step = 1.0 if whole else 0.0
        last = ends[-1] - (step if "to under" in text else 0.0)
        return {
            "value": (ends[0], ends[0]),
            "between": (ends[0], last),
            "under": (-INF, ends[0] - step),
            "up to": (-INF, ends[0]),
            "from": (ends[0], INF),
            "over": (ends[0] + step, INF),
        }[kind]
    like = "0, 1, 2 and 3 or more" if whole else "under 50, 50 to 60 and 60 or more"
    raise StatementError(f"“{level}” is not a range of values. The levels must be such as {like}.")


def _check_neighbours(spans: Sequence[Span], levels: Sequence[str], *, whole: bool) -> None:
    step = 1.0 if whole else 0.0
    for (one, two), (name, other) in zip(pairwise(spans), pairwise(levels), strict=True):
        if two[0] != one[1] + step:
            what = "overlap" if two[0] < one[1] + step else "leave a gap between them"
            raise StatementError(f"“{name}” and “{other}” {what}.")


def _middles(spans: Sequence[Span]) -> np.ndarray:
    """A value for each level; open ones get as much room as their neighbours have."""
    known = [high - low for low, high in spans if math.isfinite(high - low)]
    width = (sum(known) / len(known) if known else 1.0) or 0.0
    return np.array(
        [
            high - width / 2 if math.isinf(low) else low + width / 2 if math.isinf(high) else (low + high) / 2
            for low, high in spans
        ]
    )

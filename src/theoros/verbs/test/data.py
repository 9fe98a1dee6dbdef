"""A claimed distribution, "Poisson" or "normal(62, 9)", over levels that are spans of values."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.answer.wording import exact, significant
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.distribution import Distribution
from theoros.numeric.distributions.exponential import Exponential
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.poisson import Poisson
from theoros.numeric.procedures.fitting import best_fit, class_chances
from theoros.verbs.core.reading import StatementError

INF = math.inf
Span = tuple[float, float]


@dataclass(frozen=True)
class Law:
    """A distribution that can be claimed by name."""

    name: str
    make: Callable[..., Distribution]
    letters: tuple[str, ...]
    start: Callable[[float, float], tuple[float, ...]]
    """Where to look for parameters from, by the mean and the SD of the middles of classes."""
    whole: bool = True
    fixed: int = 0
    """As many parameters have to be given: n of a binomial."""
    least: float = -INF


LAWS = (
    Law("Poisson", Poisson, ("λ",), lambda mean, sd: (mean,), least=0.0),
    Law("binomial", Binomial, ("n", "p"), lambda mean, sd: (mean,), fixed=1, least=0.0),
    Law("normal", Normal, ("μ", "σ"), lambda mean, sd: (mean, sd), whole=False),
    Law("exponential", Exponential, ("mean",), lambda mean, sd: (mean,), whole=False, least=0.0),
)
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


def law_named(text: str) -> tuple[Law, tuple[float, ...]] | None:
    """The distribution that is named, with the parameters given; None where none is.

    Raises StatementError where there are too many, or what is given is no number.
    """
    found = _NAMED.match(text)
    if found is None:
        return None
    law = next((one for one in LAWS if one.name.lower() == found[1].lower()), None)
    if law is None:
        raise StatementError(
            f"“{found[1]}” is no distribution that can be claimed here: "
            f"{', '.join(one.name for one in LAWS)}. Or type a number for each level."
        )
    pieces = [p for p in re.split(r"\s*[;,]\s+|\s*;\s*|,", found[2] or found[3] or "") if p.strip()]
    try:
        given = tuple(float(TypedNumber(piece.split("=")[-1])) for piece in pieces)
    except NotWorkedOut as problem:
        raise StatementError(f"{problem}.") from None
    if not law.fixed <= len(given) <= len(law.letters):
        call = f"{law.name}({', '.join(law.letters)})"
        least = "" if not law.fixed else f"; {law.letters[0]} has to be given"
        raise StatementError(f"Type {law.name} as {call}{least}.")
    if law.fixed and (given[0] < 1 or given[0] != int(given[0])):
        raise StatementError("n must be a whole number, 1 or more.")
    return law, given


def fitted_law(text: str, levels: Sequence[str], counts: Ints | None) -> FittedLaw | None:
    """The law that is claimed, fitted to the counts as far as its parameters are not given.

    None where the text names none. Without counts, parameters that are missing are left at a
    start. Raises StatementError.
    """
    named = law_named(text)
    if named is None:
        return None
    law, given = named
    spans = [span_of(level, whole=law.whole) for level in levels]
    order = sorted(range(len(spans)), key=lambda at: spans[at])
    _check_neighbours([spans[at] for at in order], [levels[at] for at in order], whole=law.whole)
    if spans[order[0]][1] < law.least:
        raise StatementError(f"“{levels[order[0]]}” lies below {exact(law.least)}.")
    single = all(low == high for low, high in spans)
    middles = _middles(spans)
    spans[order[0]] = (-INF, spans[order[0]][1])  # whatever lies beyond belongs to the outer levels
    spans[order[-1]] = (spans[order[-1]][0], INF)
    made, how = given, ""
    letters = law.letters[len(given) :]
    if letters:
        weights = np.ones(len(levels))
        if counts is not None and counts.sum():
            weights = counts.astype(np.float64)
        mean = float(np.average(middles, weights=weights))
        sd = math.sqrt(float(np.average((middles - mean) ** 2, weights=weights))) or 1.0
        if law.fixed:
            mean = min(max(mean / given[0], 1e-6), 1 - 1e-6)
        start = law.start(mean, sd)[len(given) - law.fixed :]
        if single or counts is None:
            made = (*given, *start)
            how = "by the mean of the counted values"
            how += f", over {exact(given[0])}" if law.fixed else ""
        else:
            rest = best_fit(lambda *x: law.make(*_typed(law, (*given, *x))), start, spans, weights)
            made = (*given, *rest)
            how = "so that counts in these levels are the likeliest"
    try:
        curve = law.make(*_typed(law, made))
    except ValueError as problem:
        raise StatementError(f"{str(problem)[0].upper()}{str(problem)[1:]}.") from None
    shares = class_chances(curve, spans)
    if shares.min() <= 0:
        at = int(shares.argmin())
        raise StatementError(f"“{levels[at]}” cannot come of it: leave the level out, or merge it.")
    values = " and ".join(
        f"{letter} = {significant(value, 4) if letter in letters else exact(value)}"
        for letter, value in zip(law.letters, made, strict=True)
    )
    told = " and ".join(letters)
    verb = "is" if len(letters) == 1 else "are"
    said_how = f"{told} {verb} estimated from the counts, {how}." if letters else ""
    said = f"a {law.name} distribution" if letters else f"the {law.name} distribution"
    if given:
        said += f" with {phrase(law, given)}"
    return FittedLaw(said, values if letters else "", tuple(shares.tolist()), letters, said_how)


def phrase(law: Law, given: Sequence[float]) -> str:
    """The parameters that are given: "μ = 62 and σ = 9"."""
    return " and ".join(f"{letter} = {exact(value)}" for letter, value in zip(law.letters, given, strict=False))


def _typed(law: Law, given: Sequence[float]) -> tuple[float, ...]:
    return (int(given[0]), *given[1:]) if law.fixed else tuple(given)


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
            raise StatementError(f"“{level}” is no whole number, which this distribution counts.")
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
    raise StatementError(f"“{level}” tells no values: for this the levels have to be such as {like}.")


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

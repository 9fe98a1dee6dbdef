"""Reads a part as people say it or write it: "no more than 8", "P(X ≤ 8)", "top 10 %"."""

from __future__ import annotations

import re
from collections.abc import Callable

from theoros.answer.typed_number import NotWorkedOut, TypedNumber
from theoros.verbs.probability.data import LONGEST, NotUnderstood
from theoros.verbs.probability.values.spans import AskedPart, CutOff, Event, Side, ValueSpan

_WORDED = ("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
_N = (
    r"(?P<{0}>[-−–]?\s*(?:\d{{1,3}}(?: \d{{3}})+(?:[.,]\d+)?|\d+(?:[.,/]\d+)*(?:e[+-]?\d+)?"
    r"|sqrt\([^()]*\))(?:\s*%)?)"
)
A, B = _N.format("a"), _N.format("b")
_UNIT = (
    r"(?:\s+(?!(?:or|and|but|to|up|upwards?|on|more|fewer|less|greater|larger|smaller|higher|lower|"
    r"over|under|above|below|inclusive|inclusively|exclusive|exclusively|ends?|both|included|"
    r"excluded|left|out|strictly|not)\b)[^\d\s<>=≤≥()|,]+)*"
)
"""What is counted or the unit may follow a number: "at least 8 sound seals". No word that could
change what is asked is taken for it."""


def read_part(text: str, *, apart: bool) -> AskedPart:
    """What is asked. Raises NotUnderstood.

    `apart` says whether values of X lie apart, so that it matters which ends are included.
    """
    plain = _plain(_of_x(text))
    if not plain:
        raise NotUnderstood("Type a question, such as “at least 10” or “P(X < 10)”.")
    if len(plain) > LONGEST:
        raise NotUnderstood(f"A part can have {LONGEST} letters at most.")
    found = _cut_off(plain)
    if found is not None:
        return AskedPart(cut_off=found)
    inside = _unwrapped(plain)
    sides = re.split(r"\bgiven(?: that)?\b|\||\bif\b", inside, maxsplit=1)
    if len(sides) == 2 and not re.fullmatch(r"\|[^|]*\|.*", inside):  # |x − 50| is no condition
        return AskedPart(_event(sides[0], text), _event(sides[1], text))
    between = re.fullmatch(rf"(?:is )?between {A} and {B}{_UNIT}", _spoken(inside))
    if between is not None and apart:
        low, high = sorted((_number(between["a"], text), _number(between["b"], text)))
        closed = AskedPart(Event.of([ValueSpan(low, high)]))
        return (
            AskedPart(
                Event.of([ValueSpan(low, high)]),
                otherwise=AskedPart(Event.of([ValueSpan(low, high, low_in=False, high_in=False)])),
            )
            if high > low
            else closed
        )
    return AskedPart(_event(inside, text))


_SIGN = r"[<>≤≥=≠]"


def _of_x(text: str) -> str:
    """With the letter of a variable as X: "P(Z > 1.96)", "t < 2". A capital beside a sign is one, or
    the only letter there is."""
    beside = [
        found[1] or found[2]
        for found in re.finditer(rf"(?<![^\W\d_])([^\W\d_])\|? *{_SIGN}|{_SIGN} *\|?([^\W\d_])(?![^\W\d_(])", text)
    ]
    letters = list(dict.fromkeys(beside))
    capitals = [letter for letter in letters if letter.isupper()]
    names = capitals or (letters if len(letters) == 1 else [])
    if len(names) != 1 or names[0] in "xX":
        return text
    return re.sub(rf"(?<![^\W\d_]){names[0]}(?![^\W\d_(])", "X", text)


def _plain(text: str) -> str:
    text = " ".join(text.replace("\u00a0", " ").replace("\u202f", "").split()).lower()
    for sign, plain in (("<=", "≤"), (">=", "≥"), ("=<", "≤"), ("=>", "≥"), ("!=", "≠"), ("<>", "≠"), ("==", "=")):
        text = text.replace(sign, plain)
    return text.rstrip(".?!").strip()


def _unwrapped(text: str) -> str:
    """What stands within P( … ), or pr( … )."""
    found = re.fullmatch(r"pr?(?:ob)?(?:ability)?\s*[\[(](.*)[\])]", text)
    return found[1].strip() if found else text


def _spoken(text: str) -> str:
    """Numbers that are words as figures: "at least one"."""
    for value, word in enumerate(_WORDED):
        text = re.sub(rf"\b{word}\b", str(value), text)
    return text


def _number(text: str, whole: str) -> float:
    plain = text.replace("–", "−").replace(" ", "")
    try:
        return TypedNumber(plain)
    except NotWorkedOut:
        raise NotUnderstood(f"“{text.strip()}” in “{whole.strip()}” is not a number.") from None


def _below(high: float, ends: bool) -> Event:
    return Event.of([ValueSpan(high=high, high_in=ends)])


def _above(low: float, ends: bool) -> Event:
    return Event.of([ValueSpan(low=low, low_in=ends)])


_SMALLER = r"(?:fewer|less|smaller|lower|lighter|shorter|under|below)"
_LARGER = r"(?:more|greater|larger|higher|heavier|longer|over|above)"
_ONE: tuple[tuple[str, Callable[[float], Event]], ...] = (
    (rf"(?:exactly|precisely|equal to|equals?|is|just|=)?\s*{A}", lambda a: Event.of([ValueSpan(a, a)])),
    (
        rf"(?:is )?(?:not(?: equal to)?|anything but|other than|≠) ?{A}",
        lambda a: Event.of([ValueSpan(a, a)]).complement,
    ),
    (
        rf"(?:is )?(?:(?:no|not) {_LARGER}(?: than)?|at (?:the )?most|up to|a maximum of|maximum|≤|"
        rf"does not exceed|not exceeding) ?{A}",
        lambda a: _below(a, True),
    ),
    (
        rf"(?:is )?(?:(?:no|not) {_SMALLER}(?: than)?|at (?:the )?least|a minimum of|minimum|≥|"
        rf"from|no fewer than) ?{A}(?: (?:on|up|upwards?))?",
        lambda a: _above(a, True),
    ),
    (rf"{A}{_UNIT} (?:or|and) {_SMALLER}", lambda a: _below(a, True)),
    (rf"{A}{_UNIT} (?:or|and) {_LARGER}", lambda a: _above(a, True)),
    (rf"(?:is )?(?:{_SMALLER}(?: than)?|<) ?{A}", lambda a: _below(a, False)),
    (rf"(?:is )?(?:{_LARGER}(?: than)?|exceeds|exceeding|>) ?{A}", lambda a: _above(a, False)),
)
_TWO: tuple[tuple[str, Callable[[float, float], Event]], ...] = (
    (
        rf"(?:is )?(?:between|from) {A} (?:and|to) {B}{_UNIT},? ?(?:\(?(?:both )?(?:ends )?"
        rf"(?:inclusive|inclusively|included)\)?)",
        lambda a, b: Event.of([ValueSpan(a, b)]),
    ),
    (
        rf"(?:is )?(?:(?:strictly )?between|from) {A} (?:and|to) {B}{_UNIT},? ?\(?(?:both )?"
        rf"(?:ends )?(?:exclusive|exclusively|excluded|left out)\)?",
        lambda a, b: Event.of([ValueSpan(a, b, False, False)]),
    ),
    (rf"(?:is )?strictly between {A} and {B}", lambda a, b: Event.of([ValueSpan(a, b, False, False)])),
    (rf"(?:is )?(?:from )?{A} ?(?:to|–|…|\.\.) ?{B}", lambda a, b: Event.of([ValueSpan(a, b)])),
    (rf"(?:is )?between {A} and {B}", lambda a, b: Event.of([ValueSpan(a, b)])),
    (
        rf"(?:is )?(?:outside(?: of)?|not between|not from) {A} (?:to|and|–) {B}",
        lambda a, b: Event.of([ValueSpan(a, b)]).complement,
    ),
    (rf"(?:is )?within {A} of {B}", lambda a, b: Event.of([ValueSpan(b - abs(a), b + abs(a))])),
)
_SIGNS = {"<": (False, True), "≤": (True, True), ">": (False, False), "≥": (True, False)}
"""Whether the end is in it, and whether the sign points up."""


def _event(text: str, whole: str) -> Event:
    """The event that words or symbols name: alternatives of assumptions of single ends."""
    text = _spoken(text.strip().strip(","))
    single = _single(text, whole)
    if single is not None:
        return single
    tail = rf"(?:or|and) (?:{_SMALLER}|{_LARGER})\b(?! (?:than )?{_N.format('z')})"
    for word, both in ((r"\bor\b|∪|,", Event.joined), (r"\band\b|\bbut\b|∩|&", Event.met)):
        pieces = [piece for piece in re.split(rf"\s*(?:{word})\s*", re.sub(tail, _kept, text)) if piece]
        if len(pieces) > 1:
            events = [_event(piece.replace("\x00", " ").strip(), whole) for piece in pieces]
            made = events[0]
            for one in events[1:]:
                made = both(made, one)
            return made
    raise NotUnderstood(
        f"“{whole.strip()}” is not understood. Type it as “exactly 3”, “fewer than 10”, “at least 10”, “from 9 to "
        "11”, “outside 40 to 60”, “P(X < 10)” or “top 10 %”."
    )


def _kept(found: re.Match[str]) -> str:
    """An "or more" that belongs to its number is no alternative of its own."""
    return found[0].replace(" ", "\x00").replace("or", "o\x01r").replace("and", "a\x01nd")


def _single(text: str, whole: str) -> Event | None:
    text = text.replace("\x01", "").replace("\x00", " ")
    text = re.sub(r"^either ", "", text)
    if text in ("none", "no", "none at all"):
        return Event.of([ValueSpan(0, 0)])
    if text in ("any", "some"):
        return _above(1, True)
    chain = re.fullmatch(rf"{A} ?([<≤]) ?x ?([<≤]) ?{B}", text)
    if chain:
        return Event.of(
            [ValueSpan(_number(chain["a"], whole), _number(chain["b"], whole), chain[2] == "≤", chain[3] == "≤")]
        )
    chain = re.fullmatch(rf"{A} ?([>≥]) ?x ?([>≥]) ?{B}", text)
    if chain:
        return Event.of(
            [ValueSpan(_number(chain["b"], whole), _number(chain["a"], whole), chain[3] == "≥", chain[2] == "≥")]
        )
    turned = re.fullmatch(rf"{A} ?([<≤>≥=]) ?x", text)
    if turned:
        value = _number(turned["a"], whole)
        if turned[2] == "=":
            return Event.of([ValueSpan(value, value)])
        ends, up = _SIGNS[turned[2]]
        return _above(value, ends) if up else _below(value, ends)
    far = re.fullmatch(rf"\|x(?: ?− ?{A}| ?- ?{A.replace('<a>', '<c>')})?\| ?([<≤>≥]) ?{B}", text)
    if far:
        centre = _number(far["a"] or far["c"] or "0", whole)
        reach, (ends, up) = _number(far["b"], whole), _SIGNS[far[3]]
        near = Event.of([ValueSpan(centre - reach, centre + reach, ends == up, ends == up)])
        return near if up else near.complement
    bare = re.sub(r"^x ?(?=[<≤>≥=≠]|is\b|lies\b|at\b|no\b|not\b|between\b|exceeds)", "", text)
    bare = re.sub(r"^lies ", "", bare)
    for pattern, make in _TWO:
        found = re.fullmatch(rf"{pattern}{_UNIT}", bare)
        if found:
            low, high = sorted((_number(found["a"], whole), _number(found["b"], whole)))
            if "within" in pattern:
                return make(_number(found["a"], whole), _number(found["b"], whole))
            return make(low, high)
    for pattern, make_one in _ONE:
        found = re.fullmatch(rf"{pattern}{_UNIT}", bare)
        if found:
            return make_one(_number(found["a"], whole))
    return None


_SIDES: tuple[tuple[str, Side], ...] = (
    (r"(?:the )?(?:bottom|lowest|lower|smallest|least|left(?: tail)?)", "bottom"),
    (r"(?:the )?(?:top|highest|upper|largest|greatest|right(?: tail)?)", "top"),
    (r"(?:the )?(?:middle|central|centre|inner)", "middle"),
    (r"(?:in )?(?:both|the two|two) (?:tails|ends|sides),?|(?:the )?outer", "tails"),
)
_SHARE = r"(?P<s>\d+(?:[.,/]\d+)*(?:e[+-]?\d+)? ?%?)(?: of (?:all|the) .*| together)?"


def _cut_off(text: str) -> CutOff | None:
    """A question turned round; None for one that is not."""
    for words, side in _SIDES:
        found = re.fullmatch(rf"(?:{words}) {_SHARE}", text)
        if found:
            return CutOff(side, _share(found["s"], text))
    named: dict[str, tuple[Side, float]] = {
        "median": ("bottom", 0.5),
        "the median": ("bottom", 0.5),
        "lower quartile": ("bottom", 0.25),
        "upper quartile": ("bottom", 0.75),
        "q1": ("bottom", 0.25),
        "q3": ("bottom", 0.75),
    }
    if text in named:
        return CutOff(*named[text])
    found = re.fullmatch(r"(?:the )?(?P<s>\d+(?:\.\d+)?)(?:st|nd|rd|th) percentile|p(?P<t>\d+)", text)
    if found:
        return CutOff("bottom", _share(f"{found['s'] or found['t']}%", text))
    both = rf"p ?\( ?x ?[<≤] ?[a-z]₁ ?\) ?= ?p ?\( ?x ?[>≥] ?[a-z]₂ ?\) ?= ?{_SHARE}"
    if found := re.fullmatch(both, text):
        return CutOff("tails", min(1.0, 2 * _share(found["s"], text)))
    found = re.fullmatch(rf"p ?\( ?x ?([<≤>≥]) ?[a-z]?₀? ?\) ?= ?{_SHARE}", text)
    if found:
        return CutOff("bottom" if found[1] in "<≤" else "top", _share(found["s"], text))
    found = re.fullmatch(rf"p ?\( ?[-−]?[a-z]₁? ?[<≤] ?x ?[<≤] ?[a-z]₂? ?\) ?= ?{_SHARE}", text)
    if found:
        return CutOff("middle", _share(found["s"], text))
    return None


def _share(text: str, whole: str) -> float:
    value = float(_number(text, whole))
    if not 0 < value < 1:
        raise NotUnderstood(
            f"“{text.strip()}” is not a proportion. Type one between 0 and 1, or between 0 % and 100 %."
        )
    return value

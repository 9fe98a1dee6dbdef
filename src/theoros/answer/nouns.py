"""Nouns as students name their rows and columns: plurals, singulars, articles, and how to speak of groups."""

from __future__ import annotations

import re
from functools import cache
from typing import TYPE_CHECKING

from theoros.answer.wording import shortened, whole

if TYPE_CHECKING:
    import inflect


NOT_KNOWN = (
    ("passer-by", "passers-by"),
    ("runner-up", "runners-up"),
    ("(gentle|fire|police|sales|crafts|fisher|trades|sports|states|work|business)man", "$1men"),
    ("grandchild", "grandchildren"),
    ("larva", "larvae"),
    ("index", "indices"),
    ("matrix", "matrices"),
    ("thief", "thieves"),
    ("hoof", "hooves"),
    ("piano", "pianos"),
    ("swine", "swine"),
    ("staff", "staff"),
    ("means", "means"),
)
"""Plurals that the library has otherwise."""


@cache
def _english() -> inflect.engine:
    """Imported on first use: it takes longer than a window should wait for."""
    import inflect

    made = inflect.engine()
    made.classical(ancient=True)  # larvae, cacti
    for one, many in NOT_KNOWN:
        made.defnoun(one, many)
    return made


_COUNTED = "row column value case cell level group pair change table point outlier shuffle sample resample line"
_COUNTED += " day week month quarter year predictor term"
OWN = {noun: f"{noun}s" for noun in _COUNTED.split()} | {"entry": "entries"}
"""What the program itself counts: known without the library, which a window at its start would wait for."""


@cache
def plural(noun: str) -> str:
    """The plural of an English noun, or of the noun that is counted in a phrase: "kinds of order"."""
    if noun in OWN:
        return OWN[noun]
    head, of, rest = noun.partition(" of ")
    if of:
        return plural(head) + of + rest
    if not noun[-1:].isalpha():  # a number, a symbol: none is known
        return noun
    return str(_english().plural_noun(noun))


@cache
def singular(noun: str) -> str:
    """The singular of a plural: "child" for "children"; empty for what is none, or is the same."""
    if not re.fullmatch(r"[a-z][a-z -]+", noun) or noun.endswith(("ss", "us", "is")):
        return ""
    made = _english().singular_noun(noun)
    return str(made) if made and made != noun and plural(str(made)) == noun else ""


def counted(n: int, noun: str) -> str:
    """ "1 row", "2 rows", "10 000 rows"."""
    return f"{whole(n)} {noun if n == 1 else plural(noun)}"


@cache
def with_article(name: str) -> str:
    """A name behind the article that its first sound asks for: "an elevation", "a unit", "an x", "an 11"."""
    first = re.split(r"[^\w]", name, maxsplit=1)[0]
    if first[:1].isdigit():  # as it is spoken: eight, eleven, eighteen, eighty
        vowel = first.startswith("8") or first in ("11", "18")
    elif len(first) == 1 or (first.isupper() and len(first) < 5):  # spelt letter by letter
        vowel = first[:1].lower() in "aefhilmnorsxαεηιουω"
    else:
        return str(_english().a(name)) if first else f"a {name}"
    return f"{'an' if vowel else 'a'} {name}"


_NOT_ADJECTIVES = {
    "yes", "no", "true", "false", "none", "other", "y", "n", "a", "b", "c", "in", "out", "on",
    "off", "up", "down", "before", "after", "under", "over", "above", "below", "with", "without",
    "more", "less", "and", "or", "not", "is", "are", "of", "all", "both", "never", "always",
    "sometimes", "often", "now", "then", "here", "there", "this", "that",
}  # fmt: skip
"""Levels that make no sense before a noun."""


def spoken(level: str) -> str:
    """A level within a sentence: in quotes where it would be read as a word of the sentence."""
    word = re.fullmatch(r"[^\W\d_]{2,}([ -][^\W\d_]{2,}){0,2}", level) is not None
    if word and level.lower() not in _NOT_ADJECTIVES:
        return level
    return shortened(level) if len(level) > 24 else f"“{shortened(level)}”"


def group_phrase(level: str, by: str, noun: str) -> str:
    """How to speak of the cases of one level: "slow trays", or "trays whose row is “3”".

    Levels that are words stand before the noun; numbers, single letters, yes and no say
    which column they are a level of.
    """
    word = re.fullmatch(r"[^\W\d_]{2,}([ -][^\W\d_]{2,}){0,2}", level) is not None
    if word and level.lower() not in _NOT_ADJECTIVES:
        return f"{level} {plural(noun)}"
    return f"{plural(noun)} whose {by} is “{shortened(level)}”"


def pair_phrase(levels: tuple[str, str], by: tuple[str, str], noun: str) -> str:
    """How to speak of the cases of two levels at once: "open Jade bushes"."""
    phrases = [group_phrase(level, name, noun) for level, name in zip(levels, by, strict=True)]
    ending = f" {plural(noun)}"
    if all(phrase.endswith(ending) for phrase in phrases):
        return f"{levels[0]} {phrases[1]}"
    if phrases[0].endswith(ending) or phrases[1].endswith(ending):
        word, other = phrases if phrases[0].endswith(ending) else reversed(phrases)
        return word + other.removeprefix(plural(noun))
    return f"{phrases[0]} and {by[1]} is “{shortened(levels[1])}”"

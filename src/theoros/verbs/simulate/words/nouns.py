"""Words that a situation is told with."""

from __future__ import annotations

import re

_PLURAL_VERBS = {
    "is": "are",
    "has": "have",
    "does": "do",
    "was": "were",
    "goes": "go",
    "isn't": "aren't",
    "hasn't": "haven't",
    "doesn't": "don't",
}


def plural_verb(said: str) -> str:
    """What several do of which one does it: "leaks" becomes "leak", "is red" "are red"."""
    first, space, rest = said.strip().partition(" ")
    low = first.lower()
    if low in _PLURAL_VERBS:
        made = _PLURAL_VERBS[low]
    elif re.search(r"[^aeiou]ies$", low):
        made = first[:-3] + "y"
    elif re.search(r"(ss|sh|ch|x|zz)es$", low):
        made = first[:-2]
    elif low.endswith("s") and not low.endswith("ss"):
        made = first[:-1]
    else:
        made = first
    return made + space + rest

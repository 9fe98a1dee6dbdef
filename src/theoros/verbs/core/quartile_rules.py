"""The quartile rules in words. Textbooks differ, so the rule is a slot and its name is said."""

from __future__ import annotations

from theoros.numeric.quartiles import RULES
from theoros.verbs.core.fields import choice_field
from theoros.verbs.core.slots import Option

_WORDS = {
    "halves": (
        "halves without the middle value",
        "The medians of the lower and the upper half; an odd middle value is in neither.",
    ),
    "halves with middle": (
        "halves with the middle value",
        "The medians of the lower and the upper half; an odd middle value is in both.",
    ),
    "type 1": ("type 1, inverse of the steps", "The first value that at least a quarter of the values do not exceed."),
    "type 2": ("type 2, steps averaged", "As type 1, averaged where a step is level."),
    "type 3": ("type 3, nearest even place", "The value at the place nearest to n/4."),
    "type 4": ("type 4, interpolated at np", "Between the values on either side of place np."),
    "type 5": ("type 5, interpolated at np + ½", "Midway rule, common in hydrology."),
    "type 6": ("type 6, interpolated at (n + 1)p", "Taught in many textbooks."),
    "type 7": ("type 7, interpolated at 1 + (n − 1)p", "What many spreadsheets use."),
    "type 8": ("type 8, median-unbiased", "Place (n + ⅓)p + ⅓, whatever the distribution."),
    "type 9": ("type 9, for normal data", "Place (n + ¼)p + ⅜."),
}


def _help(name: str) -> str:
    return _WORDS.get(name, ("", ""))[1]


def quartile_rule(told: str) -> str:
    """A field for the quartile rule."""
    options = [Option(name, *_WORDS.get(name, (name, ""))[:1], help=_help(name)) for name in RULES]
    return choice_field("halves", "quartile rule", options, told)


def rule_words(rule: str) -> str:
    """The name of a rule in words."""
    return _WORDS.get(rule, (rule, ""))[0]

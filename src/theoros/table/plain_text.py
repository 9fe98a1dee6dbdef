"""Text from anywhere as it can be stored, named by, and written into pages."""

from __future__ import annotations

import re

_ALONE = re.compile("[\ud800-\udfff]")
"""Halves of a pair that stand alone: no text in UTF-8 can hold them."""
_UNSEEN = re.compile("[\x00-\x1f\x7f-\x9f\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]")
"""Control characters, and marks that are not seen but turn the text around them."""
_NOT_XML = re.compile("[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
REPLACED = "\ufffd"
"""What stands for a character that cannot be held, as Unicode has it."""


def storable(text: str) -> str:
    """The text; what no encoding can hold in it is replaced."""
    return _ALONE.sub(REPLACED, text) if not text.isascii() else text


def held_name(text: str) -> str:
    """Text as the name of a column can be held.

    The library of data frames takes a name between ^ and $ for a pattern, so it gets brackets.
    """
    plain = storable(text)
    return f"({plain})" if plain.startswith("^") and plain.endswith("$") else plain


def clean_name(text: str) -> str:
    """Text as a name: on one line, with nothing in it that is not seen."""
    spaced = " ".join(storable(text).split())
    return held_name(" ".join(_UNSEEN.sub("", spaced).split()))


def in_xml(text: str) -> str:
    """The text without characters that XML, and so SVG, cannot hold."""
    return _NOT_XML.sub("", text)

"""JSON as it is read from and written to files: text that no encoding can hold is replaced."""

from __future__ import annotations

import json
from typing import Any

from theoros.table.plain_text import storable


def load(data: bytes | str, **how: Any) -> Any:
    """A value from JSON in UTF-8, by the options of `json.loads`.

    Raises ValueError, and RecursionError for what is nested too deep.
    """
    text = data.decode("utf-8-sig") if isinstance(data, bytes) else data
    loaded = json.loads(text, **how)
    # only an escape can bring in half a pair, as a text in UTF-8 has none
    return _storable(loaded) if "\\u" in text or isinstance(data, str) else loaded


def dump(value: object, indent: int | None = 1) -> bytes:
    """A value as JSON in UTF-8."""
    text = json.dumps(value, indent=indent, ensure_ascii=False)
    return (text + "\n").encode("utf-8", "backslashreplace")


def _storable(value: Any) -> Any:
    if isinstance(value, str):
        return storable(value)
    if isinstance(value, list):
        return [_storable(held) for held in value]
    if isinstance(value, dict):
        return {storable(key): _storable(held) for key, held in value.items()}
    return value

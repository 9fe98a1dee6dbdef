"""Changing bytes and JSON by chance, as disks, programs and mischief do."""

from __future__ import annotations

import copy
import io
import json
import random
import string
import zipfile
from typing import Any

ODD_TEXTS = (
    "", " ", "'", '"', "=1+1", "-", "\x00", "\x01b", "a\nb", "\r", "\ud800", "‮evil", "🍵" * 50,
    "<img src=x onerror=alert(1)>", "&amp;", "x" * 5000, "‘x’", "[x]", "{x}", "a|b", "\\", "$x$",
    "*", "^.*$", "^x$", "NaN", "inf", "1e999", "9" * 400, "2017-13-45", "'=x", "＝1", "é",
    "e\u0301",
)  # fmt: skip
ODD_NUMBERS = (0, -1, 1, 2, 3, 0.5, -0.0, 1e-300, 1e300, 1e308, 2**53 + 1, 2**63, 10**30, 0.1, 99, 100, 101)
ODD_VALUES: tuple[Any, ...] = (
    *ODD_TEXTS, *ODD_NUMBERS, True, False, None, [], {}, [[]], [None], [1, "a"], {"kind": "x"},
    {"a": {"b": []}}, float("inf"), float("-inf"), float("nan"),
)  # fmt: skip


def mutated(data: bytes, chance: random.Random) -> bytes:
    """Bytes changed, taken out, doubled, cut off."""
    damaged = bytearray(data)
    for _ in range(chance.choice([1, 1, 2, 5, 30])):
        at = chance.randrange(max(1, len(damaged)))
        match chance.randrange(6):
            case 0 if damaged:
                damaged[at] = chance.randrange(256)
            case 1:
                del damaged[at : at + chance.randrange(1, 40)]
            case 2:
                damaged[at:at] = damaged[at : at + chance.randrange(1, 60)]
            case 3:
                odd = chance.choice(ODD_TEXTS).encode("utf-8", "surrogatepass")
                damaged[at:at] = odd
            case 4 if damaged:
                damaged[at] ^= 1 << chance.randrange(8)
            case 5 if chance.random() < 0.2:
                del damaged[at:]
    return bytes(damaged)


def mutated_zip(data: bytes, chance: random.Random) -> bytes:
    """A zip that is sound, with a part of it damaged."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        parts = {name: archive.read(name) for name in archive.namelist()}
    name = chance.choice(list(parts))
    if name.endswith(".json") and chance.random() < 0.7:
        parts[name] = json.dumps(mutated_json(json.loads(parts[name]), chance)).encode()
    elif chance.random() < 0.1:
        del parts[name]
    else:
        parts[name] = mutated(parts[name], chance)
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for part, held in parts.items():
            archive.writestr(part, held)
    return made.getvalue()


def mutated_json(value: Any, chance: random.Random) -> Any:
    """JSON with a few values changed, left out, doubled or put elsewhere."""
    made = copy.deepcopy(value)
    for _ in range(chance.choice([1, 1, 1, 2, 4])):
        places = list(_places(made))
        if not places:
            return chance.choice(ODD_VALUES)
        holder, key = chance.choice(places)
        match chance.randrange(5):
            case 0 | 1:
                holder[key] = copy.deepcopy(chance.choice(ODD_VALUES))
            case 2:
                del holder[key]
            case 3:
                other, at = chance.choice(places)
                if isinstance(other, dict) and at in other:
                    holder[key] = copy.deepcopy(other[at])
            case 4 if isinstance(holder, dict):
                holder[chance.choice(["x", *string.ascii_lowercase, *ODD_TEXTS])] = holder[key]
    return made


def _places(value: Any) -> Any:
    if isinstance(value, dict):
        for key, held in value.items():
            yield value, key
            yield from _places(held)
    elif isinstance(value, list):
        for at, held in enumerate(value):
            yield value, at
            yield from _places(held)

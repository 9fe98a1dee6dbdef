"""Tests as earlier versions wrote them: one flat object with a field for everything."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

_SAME = ("verb", "table", "null", "alpha", "way", "continuity", "shuffles", "seed")
_RENAMED = {"centre": "parameter", "claim": "alternative"}
_LEVELS = ("what", "by", "and_by", "first", "second", "design")
_COLUMNS = ("what", "other")


def from_flat(data: Mapping[str, Any]) -> Mapping[str, Any]:
    """The same test with its data as a nested value. Fields it never had stay, to be refused."""
    taken = {*_SAME, *_RENAMED, *_LEVELS, *_COLUMNS, "groups", "measure", "unit"}
    taken |= {f"{which}_{what}" for which in ("first", "second") for what in _FIGURES}
    made = {name: value for name, value in data.items() if name not in taken}
    made |= {name: data[name] for name in _SAME if name in data}
    made |= {new: data[old] for old, new in _RENAMED.items() if old in data}
    had = data.get("groups", "levels")
    if had == "figures":
        made["data"] = _figures(data)
    elif had == "columns":
        design = data.get("design", "not said")
        kind = "pairs" if design == "matched" else "two columns"
        own = {name: data[name] for name in _COLUMNS if name in data}
        made["data"] = {"kind": kind, **own, "design": design}
    elif had == "levels":
        made["data"] = {"kind": "two levels", **{n: data[n] for n in _LEVELS if n in data}}
    else:
        made["data"] = {"kind": had}
    return made


_FIGURES = ("name", "n", "mean", "sd")


def _figures(data: Mapping[str, Any]) -> dict[str, Any]:
    groups = [
        {what: data[f"{which}_{what}"] for what in _FIGURES if f"{which}_{what}" in data}
        for which in ("first", "second")
    ]
    own = {name: data[name] for name in ("measure", "unit", "design") if name in data}
    return {"kind": "two typed samples", **own, "groups": groups}

"""Finding what the modules of a package list of themselves, so that a new one is one file."""

from __future__ import annotations

import importlib
import pkgutil
from functools import cache
from typing import Any


@cache
def listed_in(package: str, name: str) -> tuple[Any, ...]:
    """What every module of a package lists in the tuple `name`, in the order of `order`."""
    room = importlib.import_module(package)
    found: list[Any] = []
    for module in pkgutil.iter_modules(room.__path__):
        if not module.ispkg:
            found += getattr(importlib.import_module(f"{package}.{module.name}"), name, ())
    return tuple(sorted(found, key=lambda one: one.order))

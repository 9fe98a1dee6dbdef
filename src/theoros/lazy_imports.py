"""NumPy and Polars, imported when they are first used, so that the window is up at once.

`from theoros.lazy_imports import np, pl` costs nothing; the first `np.something` imports NumPy.
After that an attribute is found as fast as on the module itself.
"""

from __future__ import annotations

import importlib
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import numpy as np
    import polars as pl
else:

    class _Late:
        def __init__(self, name: str) -> None:
            self._name = name

        def __getattr__(self, attribute: str) -> Any:
            found = getattr(importlib.import_module(self._name), attribute)
            self.__dict__[attribute] = found
            return found

    np, pl = _Late("numpy"), _Late("polars")

__all__ = ["np", "pl"]

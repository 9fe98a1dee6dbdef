"""Samples drawn with replacement from the sample itself."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Centre, Floats
from theoros.numeric.resampling.replicates import MakeBlock


def resampled(values: Floats, centre: Centre) -> MakeBlock:
    """Centres of samples of the same size, drawn with replacement from `values` (Efron 1979).

    `values` are finite, at least one, of shape (n,).
    """
    middle = np.mean if centre == "mean" else np.median

    def make(rng: np.random.Generator, size: int) -> Floats:
        drawn = values[rng.integers(0, values.size, size=(size, values.size))]
        return np.asarray(middle(drawn, axis=1), dtype=np.float64)

    return make

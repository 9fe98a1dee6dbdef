"""Statistics of data whose group labels, or signs, are dealt out again by chance."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Centre, Floats
from theoros.numeric.resampling.replicates import MakeBlock


def difference(x: Floats, y: Floats, centre: Centre) -> float:
    """Centre of x minus centre of y (finite, at least one value each)."""
    middle = np.mean if centre == "mean" else np.median
    return float(middle(x) - middle(y))


def shuffled_labels(x: Floats, y: Floats, centre: Centre) -> MakeBlock:
    """Differences of the centres when the pooled values are dealt to groups of the same sizes.

    Each replicate permutes all values and takes centre of the first n_x minus centre of the rest
    (Fisher 1935, "The Design of Experiments"; Edgington, "Randomization Tests"). `x` and `y` are
    finite, at least one value each.
    """
    pooled = np.concatenate([x, y])
    n1, n = x.size, pooled.size

    def by_means(rng: np.random.Generator, size: int) -> Floats:
        dealt = rng.permuted(np.broadcast_to(centred, (size, n)), axis=1)
        first = dealt[:, :n1].sum(axis=1)
        # the centred values sum to zero, so that the second sum is minus the first
        return np.asarray(first * (1 / n1 + 1 / (n - n1)), dtype=np.float64)

    def by_medians(rng: np.random.Generator, size: int) -> Floats:
        dealt = rng.permuted(np.broadcast_to(pooled, (size, n)), axis=1)
        return np.asarray(
            np.median(dealt[:, :n1], axis=1) - np.median(dealt[:, n1:], axis=1), dtype=np.float64
        )

    centred = pooled - pooled.mean()
    centred -= centred.mean()
    return by_means if centre == "mean" else by_medians


def shuffled_signs(differences: Floats, centre: Centre) -> MakeBlock:
    """Centres of matched differences when each keeps its size and gets its sign by a fair coin.

    The randomization test of Fisher (1935) for matched pairs. `differences` are finite, at least
    one.
    """
    n = differences.size

    def make(rng: np.random.Generator, size: int) -> Floats:
        signs = rng.integers(0, 2, size=(size, n), dtype=np.int8) * 2 - 1
        dealt = signs * differences
        centres = dealt.mean(axis=1) if centre == "mean" else np.median(dealt, axis=1)
        return np.asarray(centres, dtype=np.float64)

    return make

"""10 000 shuffles of two groups, against SciPy's permutation test."""

from __future__ import annotations

import numpy as np
from scipy import stats

from benchmarks.measure import Figure, median_seconds
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.resampling.replicates import Replicates, block_size
from theoros.numeric.resampling.shuffles import shuffled_labels


def figures() -> list[Figure]:
    rng = np.random.default_rng(3)
    x, y = rng.normal(10, 2, 100), rng.normal(9.5, 2, 100)

    def ours() -> float:
        shuffle = shuffled_labels(x, y, "mean")
        made = Replicates(shuffle.make, 1, block_size(200)).drawn(10_000)
        return Pile(made).tail("different", shuffle.observed)

    def scipys() -> float:
        return float(
            stats.permutation_test(
                (x, y),
                lambda a, b, axis: stats.ttest_ind(a, b, axis=axis, equal_var=False).statistic,
                vectorized=True,
                n_resamples=10_000,
                rng=1,
            ).pvalue
        )

    assert abs(ours() - scipys()) < 0.03
    ratio = median_seconds(ours, 7) / median_seconds(scipys, 7)
    return [Figure("10 000 shuffles of 100 + 100 / scipy permutation_test", ratio, 0.4, "×")]

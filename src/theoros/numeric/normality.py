"""Whether values look drawn from a normal curve."""

from __future__ import annotations

from theoros.numeric.arrays import Floats

SHAPIRO_LEAST, SHAPIRO_MOST = 3, 5000


def shapiro_wilk(values: Floats) -> float | None:
    """The p-value of `shapiro_wilk_w` alone."""
    found = shapiro_wilk_w(values)
    return found[1] if found else None


def shapiro_wilk_w(values: Floats) -> tuple[float, float] | None:
    """W and p-value of the Shapiro-Wilk test (Royston 1995, as SciPy has it) of finite values.

    None where it is not defined: fewer than 3 values, all equal, or more than 5000, where
    the approximation has not been checked.
    """
    if not SHAPIRO_LEAST <= values.size <= SHAPIRO_MOST:
        return None
    scale = float(abs(values).max())
    if float(values.max() - values.min()) <= 1e-12 * scale:
        return None
    from scipy import stats

    found = stats.shapiro(values)
    return float(found.statistic), float(found.pvalue)

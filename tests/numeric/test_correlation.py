"""Pearson's r against certified data and SciPy."""

from __future__ import annotations

import math
from importlib import resources

import numpy as np
import pytest
from scipy import stats

from theoros.numeric.correlation import pearson


def test_r_squared_is_the_certified_one() -> None:
    # NIST StRD linear regression set Norris: certified R-squared 0.999993745883712
    path = resources.files("scipy.stats") / "tests/data/nist_linregress/Norris.dat"
    rows = [line.split() for line in path.read_text().splitlines()[60:] if line.strip()]
    y, x = np.array(rows, dtype=float).T
    assert x.size == 36
    assert pearson(x, y) ** 2 == pytest.approx(0.999993745883712, rel=1e-14)


def test_against_scipy_and_whatever_the_scale() -> None:
    rng = np.random.default_rng(8)
    x = rng.normal(size=40)
    y = -0.6 * x + rng.normal(size=40)
    r = stats.pearsonr(x, y).statistic
    for scale in (1e-290, 1.0, 1e290):
        assert pearson(x * scale, y * scale) == pytest.approx(r, rel=1e-12)
    assert pearson(x + 1e9, y) == pytest.approx(r, rel=1e-5)


def test_where_it_is_not_defined() -> None:
    assert math.isnan(pearson(np.array([1.0]), np.array([2.0])))
    assert math.isnan(pearson(np.array([1.0, 1.0]), np.array([2.0, 3.0])))

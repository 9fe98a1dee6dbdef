"""Seasonal ARIMA: against statsmodels, by hand, and by what must hold of it."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.numeric.series.arima import Orders, TooShort, arima
from theoros.study.entries import Study

REFERENCE = {
    # statsmodels 0.15, SARIMAX (simple_differencing), visitors of the demo: log-likelihood;
    # forecasts 1, 2 and 12 months ahead and their standard errors 1, 6 and 12 ahead
    (0, 1, 1, 0, 1, 1): (
        -484.8987842604965,
        [779.1218145954996, 784.7860885641355, 836.9470945990879],
        [36.25907664722036, 37.191735587548195, 38.280885438072346],
    ),
    (1, 1, 1, 0, 1, 1): (
        -484.3553965307425,
        [778.3026144182821, 789.3061711690536, 842.3197995313918],
        [35.971987065083354, 37.0127020092022, 37.573925190592504],
    ),
    (2, 0, 0, 1, 1, 0): (
        -509.5398249711453,
        [737.6480347513327, 751.0993727089132, 746.7493869422276],
        [48.29507853603757, 61.700774164355984, 63.132699474174096],
    ),
    (1, 0, 1, 1, 0, 1): (
        -572.9332332003315,
        [762.0397029758561, 766.9783025672517, 809.6074703166428],
        [38.65001595972026, 43.006006797704984, 47.457351702920946],
    ),
}


@pytest.mark.parametrize("orders", REFERENCE, ids=str)
def test_likelihood_forecasts_and_errors_of_another_library(demo: Study, orders) -> None:
    visitors = demo.table("visits").numbers("visitors")
    likelihood, forecasts, errors = REFERENCE[orders]
    found = arima(visitors, Orders(*orders, cycle=12))
    assert likelihood - 1e-3 < found.log_likelihood < likelihood + 0.05
    expected, deviation, _ = found.ahead(12)
    assert expected[[0, 1, 11]] == pytest.approx(forecasts, rel=3e-3)
    # the other takes the variance by maximum likelihood, which is a little narrow
    narrow = math.sqrt((found.n - found.parameters + 1) / found.n)
    assert narrow * deviation[[0, 5, 11]] == pytest.approx(errors, rel=0.015)


def test_a_random_walk_by_hand() -> None:
    values = np.array([3.0, 5, 4, 8, 9, 7])
    found = arima(values, Orders(0, 1, 0, 0, 0, 0, 1))
    variance = (4 + 1 + 16 + 1 + 4) / 5
    assert found.variance == pytest.approx(variance)
    expected, deviation, carried = found.ahead(3)
    assert expected.tolist() == [7, 7, 7]
    assert deviation == pytest.approx(np.sqrt(variance * np.array([1, 2, 3])))
    assert carried.tolist() == [1, 1, 1]


@given(st.floats(-0.9, 0.9), st.floats(-0.9, 0.9), st.floats(-0.9, 0.9), st.integers(0, 2**31), st.integers(6, 14))
def test_the_likelihood_is_that_of_the_normal_law(phi: float, theta: float, seasonal: float, seed: int, n: int) -> None:
    """Of an ARMA (1, 1) with a seasonal MA: by its whole matrix of covariances."""
    from theoros.numeric.series.arima import _likelihood, _polynomials, _psi

    orders = Orders(1, 0, 1, 0, 0, 1, 3)
    w = np.random.default_rng(seed).normal(0, 1, n)
    coefficients = np.array([phi, theta, seasonal])
    likelihood, variance, mean, _ = _likelihood(w, coefficients, orders)
    psi = _psi(*_polynomials(coefficients, orders), 4000)
    own = np.array([float(psi[: psi.size - lag] @ psi[lag:]) for lag in range(n)])
    whole = variance * own[np.abs(np.subtract.outer(np.arange(n), np.arange(n)))]
    off = w - mean
    _, logs = np.linalg.slogdet(whole)
    by_law = -0.5 * (n * math.log(2 * math.pi) + logs + off @ np.linalg.solve(whole, off))
    assert likelihood == pytest.approx(by_law, rel=1e-6, abs=1e-6)


def test_too_short_a_series_is_refused() -> None:
    with pytest.raises(TooShort):
        arima(np.arange(20.0), Orders(cycle=12))

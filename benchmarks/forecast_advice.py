"""How often the bands of Forecast hold what comes, and how often its advice errs.

Run as `python -m benchmarks.forecast_advice`; it takes some minutes, and belongs to no run of the
other figures. Series of months are drawn from laws that are known. Told are the shares of what came
1, 6 and 12 months ahead that lay in bands of 80 % and 95 %, and the shares of series of which
something is said that is not so.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np

from theoros.numeric.series.arima import Orders
from theoros.numeric.series.decomposition import Decomposition, parts_by_means, suggests_multiplicative
from theoros.numeric.series.forecasts import ForecastResult, by_arima, line, naive, smoothing
from theoros.numeric.series.residual_tests import season_p, turns
from theoros.numeric.series.robust import parts_by_local_regression
from theoros.numeric.series.scales import LOG, PLAIN, ROOT, SeriesScale
from theoros.numeric.series.smoothing import SmoothingForm
from theoros.verbs.forecast.words.assumptions import CLEAR, pattern_of
from theoros.verbs.forecast.words.series import FAR, robust_spread, trend_reach

AHEAD = (0, 5, 11)
SEASON = np.array([-40.0, -30, -10, 5, 30, 45, 50, 40, 10, -20, -35, -45])
Law = Callable[[np.random.Generator, int], np.ndarray]


def straight(rng: np.random.Generator, n: int) -> np.ndarray:
    return 300 + 2 * np.arange(n) + np.resize(SEASON, n) + rng.normal(0, 15, n)


def wandering(rng: np.random.Generator, n: int) -> np.ndarray:
    """A level that moves by 0.4 of each error, with fixed seasons."""
    errors = rng.normal(0, 15, n)
    level = 300 + np.concatenate([[0.0], 0.4 * np.cumsum(errors)[:-1]])
    return level + np.resize(SEASON, n) + errors


def walking(rng: np.random.Generator, n: int) -> np.ndarray:
    """Each season a random walk of its own."""
    made = np.zeros(n)
    for season in range(12):
        own = made[season::12]
        own[:] = 300 + SEASON[season] + np.cumsum(rng.normal(0, 15, own.size))
    return made


def growing(rng: np.random.Generator, n: int) -> np.ndarray:
    """Trend, seasons and errors multiply."""
    return 200 * np.exp(0.01 * np.arange(n) + np.resize(SEASON, n) / 150 + rng.normal(0, 0.06, n))


def counted(rng: np.random.Generator, n: int) -> np.ndarray:
    """Counts near 0, as of breakages."""
    return rng.poisson(2 + 1.8 * (1 + np.resize(SEASON, n) / 50)).astype(float)


def skewed(rng: np.random.Generator, n: int) -> np.ndarray:
    return 300 + 2 * np.arange(n) + np.resize(SEASON, n) + 15 * (rng.exponential(1, n) - 1)


SEASONAL = SmoothingForm(cycle=12)
TRENDED = SmoothingForm(slope=True, cycle=12)
Way = Callable[[np.ndarray, int], ForecastResult]
CASES: tuple[tuple[str, Law, Way, SeriesScale], ...] = (
    ("line, of a line", straight, lambda y, h: line(y, h, 12), PLAIN),
    ("smoothing with a trend, of a line", straight, lambda y, h: smoothing(y, h, TRENDED), PLAIN),
    ("ARIMA, of a line", straight, lambda y, h: by_arima(y, h, Orders(cycle=12)), PLAIN),
    ("smoothing, of a level that moves", wandering, lambda y, h: smoothing(y, h, SEASONAL), PLAIN),
    ("ARIMA, of a level that moves", wandering, lambda y, h: by_arima(y, h, Orders(cycle=12)), PLAIN),
    ("the last cycle, of seasons that walk", walking, lambda y, h: naive(y, h, 12), PLAIN),
    ("smoothing by logs, of products", growing, lambda y, h: smoothing(y, h, TRENDED), LOG),
    ("smoothing by roots, of low counts", counted, lambda y, h: smoothing(y, h, SEASONAL), ROOT),
    ("the same without roots, cut at 0", counted, lambda y, h: smoothing(y, h, SEASONAL), PLAIN),
    ("line, of skewed errors", skewed, lambda y, h: line(y, h, 12), PLAIN),
    ("the same by simulation", skewed, lambda y, h: line(y, h, 12), PLAIN),
)


def coverage(times: int = 400) -> None:
    heads = "".join(f"{f'{share} %, {at + 1}':>10}" for share in (80, 95) for at in AHEAD)
    print(f"{'the band held (96 months)':<40}{heads}")
    for name, law, method, scale in CASES:
        held = np.zeros((2, len(AHEAD)))
        rng = np.random.default_rng(96)
        for k in range(times):
            series = law(rng, 108)
            found = method(scale.forward(series[:96]), 12).on(scale, series[:96])
            for i, share in enumerate((0.8, 0.95)):
                ends = found.simulated_band(share, k) if "simulation" in name else found.band(share)
                low, high = (np.maximum(end, 0.0) for end in ends)
                inside = (low <= series[96:]) & (series[96:] <= high)
                held[i] += inside[list(AHEAD)]
        print(f"{name:<40}" + "".join(f"{v:10.3f}" for v in (held / times).ravel()), flush=True)


def series_without(rng: np.random.Generator, n: int) -> Iterator[tuple[str, np.ndarray]]:
    yield "a line with seasons", straight(rng, n)
    yield "no trend, no seasons", 300 + rng.normal(0, 15, n)
    yield "products", growing(rng, n)


def far(parts: Decomposition) -> bool:
    rest = parts.remainder[np.isfinite(parts.remainder)]
    return bool((np.abs(rest) > FAR * robust_spread(parts)).any())


def alarms(times: int = 400) -> None:
    heads = ("turn", "season", "multiplied", "far off", "the same, robust", "pattern")
    print(f"\n{'told of':<24}{'n':>6}" + "".join(f"{h:>18}" for h in heads))
    for n in (48, 96, 240):
        found: dict[str, np.ndarray] = {}
        rng = np.random.default_rng(n)
        for _ in range(times):
            for name, series in series_without(rng, n):
                parts = parts_by_means(series, 12)
                robust = parts_by_local_regression(series, 12)
                ahead = smoothing(series, 1, TRENDED)
                told = (
                    turns(parts.trend, trend_reach(parts)).size > 0,
                    season_p(series - parts.trend, 12) < 0.05,
                    suggests_multiplicative(series, 12),
                    far(parts),
                    far(robust),
                    pattern_of(ahead.errors, 12, ahead.fitted) < CLEAR,
                )
                found[name] = found.get(name, np.zeros(len(told))) + np.array(told)
        for name, sums in found.items():
            print(f"{name:<24}{n:>6}" + "".join(f"{v:18.3f}" for v in sums / times), flush=True)


if __name__ == "__main__":
    coverage()
    alarms()

"""How good the advice of Model is: which curve is suggested, and how often its conditions err.

Run as `python -m benchmarks.model_advice`; it takes a few minutes, and belongs to no run of the
other figures. Pairs are drawn from curves that are known. Told are, for each, the share in which
that very curve is suggested, or one that cannot be estimated from it (R² of the true curve's values by
it at least 0.998), and the shares in which a bend, an uneven spread, or an unusual row is told.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from theoros.verbs.model.curves.fits import Diagnosed, FitCache, suggested
from theoros.verbs.model.data import ModelPairs, PairsGroup
from theoros.verbs.model.statement import ModelStatement

Truth = Callable[[np.ndarray], np.ndarray]
TRUTHS: dict[str, tuple[Truth, float]] = {
    "line": (lambda x: 3 + 2 * x, 3.0),
    "quadratic": (lambda x: 40 - 7 * x + 0.5 * x**2, 2.0),
    "exponential": (lambda x: 2 * np.exp(0.18 * x), 2.0),
    "logarithmic": (lambda x: 5 + 9 * np.log(x), 1.5),
    "saturation": (lambda x: 40 * x / (3 + x), 1.5),
    "logistic growth": (lambda x: 40 / (1 + np.exp(5 - 0.5 * x)), 1.5),
}
SIZES = (20, 50, 150)
ASKED = ModelStatement(table="t", what="y", against="x")


def judged(x: np.ndarray, y: np.ndarray) -> dict[str, Diagnosed | str]:
    group = PairsGroup("", "", x, y, np.arange(x.size))
    pairs = ModelPairs(None, None, None, (2, 2), (group,), ())  # type: ignore[arg-type]
    return FitCache(pairs).all(ASKED)


def curves_suggested(times: int = 300) -> None:
    print(f"{'suggested, or as good as it':<28}" + "".join(f"{n:>8}" for n in SIZES))
    for name, (truth, sd) in TRUTHS.items():
        row = f"{name:<28}"
        for n in SIZES:
            rng, good = np.random.default_rng(n), 0
            for _ in range(times):
                x = rng.uniform(0.5, 20, n)
                found = judged(x, truth(x) + rng.normal(0, sd, n))
                best, _ = suggested(found)
                one = found.get(best)
                if best == name:
                    good += 1
                elif isinstance(one, Diagnosed):
                    at = np.linspace(1, 20, 60)
                    miss = one.fitted.predict(at) - truth(at)
                    good += float((miss**2).mean()) < 0.25 * sd**2
            row += f"{good / times:8.3f}"
        print(row)


def alarms(times: int = 1000) -> None:
    """Where a line with even, normal errors is true; then where it is not."""
    print(f"\n{'told of a line':<28}{'n':>6}{'bend':>8}{'spread':>8}{'row':>8}")
    cases: dict[str, Callable[[np.random.Generator, np.ndarray], np.ndarray]] = {
        "all as it should be": lambda rng, x: 3 + 2 * x + rng.normal(0, 3, x.size),
        "errors twice as skewed": lambda rng, x: 3 + 2 * x + 3 * (rng.exponential(1, x.size) - 1),
        "a bend": lambda rng, x: 3 + 0.1 * x**2 + rng.normal(0, 3, x.size),
        "a spread that grows": lambda rng, x: 3 + 2 * x + rng.normal(0, 1, x.size) * x * 0.4,
        "one row off by 6 SD": lambda rng, x: 3 + 2 * x + rng.normal(0, 3, x.size) + 18.0 * (np.arange(x.size) == 0),
    }
    for name, draw in cases.items():
        for n in SIZES:
            rng, told = np.random.default_rng(n), np.zeros(3)
            for _ in range(times):
                x = rng.uniform(0.5, 20, n)
                group = PairsGroup("", "", x, draw(rng, x), np.arange(n))
                pairs = ModelPairs(None, None, None, (2, 2), (group,), ())  # type: ignore[arg-type]
                one = FitCache(pairs).curve(ASKED)
                assert isinstance(one, Diagnosed)
                told += (one.nonlinear, one.heteroscedastic, one.outliers.size > 0)
            bend, spread, row = told / times
            print(f"{name:<28}{n:>6}{bend:8.3f}{spread:8.3f}{row:8.3f}")


if __name__ == "__main__":
    curves_suggested()
    alarms()

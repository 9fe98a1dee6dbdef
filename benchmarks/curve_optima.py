"""How often the nonlinear curves of Model reach the least sum of squares, wherever x lies.

Run as `python -m benchmarks.curve_optima`. Seventeen shapes, three sizes, three noises, and x counted from
0, in years, as days of a calendar, and in millions. What is reached is set against a search of its own,
by SciPy: every value of a fine grid of the nonlinear coefficients, the best ones refined.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

import numpy as np
from scipy import optimize

from theoros.verbs.model.curves.curve import CannotFit, curves

SHAPES: dict[str, Callable[[np.ndarray], np.ndarray]] = {
    "line up": lambda u: 2 + 0.5 * u, "line down": lambda u: 12 - 0.4 * u, "flat": lambda u: 5 + 0 * u,
    "parabola": lambda u: 1 + (u - 8) ** 2 / 8, "cap": lambda u: 9 - (u - 8) ** 2 / 8,
    "doubling": lambda u: np.exp(0.35 * u), "halving": lambda u: 20 * np.exp(-0.4 * u),
    "slow growth": lambda u: np.exp(0.05 * u), "below nought": lambda u: -3 * np.exp(0.2 * u),
    "power 2": lambda u: 0.1 * u**2, "power half": lambda u: 2 * np.sqrt(u), "power −1": lambda u: 9 / u,
    "saturation": lambda u: 10 * u / (3 + u), "early level": lambda u: 10 * u / (0.4 + u),
    "s-shape": lambda u: 10 / (1 + np.exp(6 - 0.8 * u)), "step": lambda u: 10 / (1 + np.exp(24 - 3 * u)),
    "two pieces": lambda u: 1 + 1.2 * u - 1.5 * np.maximum(u - 7, 0),
}  # fmt: skip
SCALES = {"u": (0.0, 1.0), "1990 + 2u": (1990.0, 2.0), "45 000 + 5u": (45_000.0, 5.0), "10⁶ + 10u": (1e6, 10.0)}
SIZES, NOISES = (8, 15, 40), (0.02, 0.1, 0.3)
CURVES = ("exponential", "power", "saturation", "logistic growth", "two pieces")


def least(name: str, x: np.ndarray, y: np.ndarray) -> float:
    """The least sum of squares that a search of its own finds."""
    if name == "two pieces":
        levels = np.unique(x)
        return min(_joined(x, y, at) for at in _joints(x, y, levels))
    u = (x - x.mean()) / (np.ptp(x) / 2)

    def part(theta: np.ndarray) -> np.ndarray:
        if name == "exponential":
            return np.exp(np.clip(theta[0] * u, -700, 300))
        if name == "power":
            return np.exp(np.clip(theta[0] * np.log(x / x.mean()), -700, 300))
        if name == "saturation":
            return x / (np.exp(theta[0]) * x.mean() + x)
        return 1 / (1 + np.exp(np.clip(theta[1] * (theta[0] - u), -700, 700)))

    def rss(theta: np.ndarray) -> float:
        g = part(np.atleast_1d(theta))
        size = float(g @ g)
        return float(y @ y) - float(g @ y) ** 2 / size if size > 0 else float(y @ y)

    if name == "logistic growth":
        grid = [
            np.array([m, k])
            for m in np.linspace(-3.5, 3.5, 36)
            for k in np.concatenate([-np.geomspace(0.2, 150, 24), np.geomspace(0.2, 150, 24)])
        ]
    else:
        reach = np.ptp(np.log(x)) / 2 if name == "power" else 1.0
        line = (
            np.linspace(-14, 14, 700)
            if name == "saturation"
            else np.concatenate([-np.geomspace(200, 1e-3, 350), np.geomspace(1e-3, 200, 350)]) / reach
        )
        grid = [np.array([value]) for value in line]
    found = np.array([rss(theta) for theta in grid])
    best = np.inf
    for at in np.argsort(found)[:3]:
        best = min(
            best,
            float(
                optimize.minimize(
                    rss, grid[at], method="Nelder-Mead", options={"xatol": 1e-10, "fatol": 1e-14, "maxiter": 500}
                ).fun
            ),
        )
    return best


def _joined(x: np.ndarray, y: np.ndarray, joint: float) -> float:
    design = np.column_stack([np.ones(x.size), x - x.mean(), np.maximum(x - joint, 0)])
    made = np.linalg.lstsq(design, y, rcond=None)[0]
    return float(((y - design @ made) ** 2).sum())


def _joints(x: np.ndarray, y: np.ndarray, levels: np.ndarray) -> list[float]:
    made = list(levels[1:-1])
    for low, high in pairwise(levels[1:-1]):
        made.append(
            float(optimize.minimize_scalar(lambda at: _joined(x, y, at), bounds=(low, high), method="bounded").x)
        )
    return made


def limit(name: str, x: np.ndarray, y: np.ndarray) -> float:
    """The least sum of squares of what a curve comes to where it has no optimum of its own."""
    flat = float(((y - y.mean()) ** 2).sum())
    one_case = float(y @ y) - max(y[0] ** 2, y[-1] ** 2)
    if name == "saturation":
        return min(flat, float(y @ y) - float(x @ y) ** 2 / float(x @ x))
    if name == "logistic growth":
        return min(least("exponential", x, y), *(_step(side, np.delete(y, at)) for side, at in _steps(y)))
    return min(flat, one_case)


def _steps(y: np.ndarray) -> list[tuple[np.ndarray, list[int]]]:
    """Which cases stand beyond a step, up or down, at a place between two cases or at one, which is then left out."""
    made: list[tuple[np.ndarray, list[int]]] = []
    for at in range(y.size + 1):
        side = np.arange(y.size) >= at
        for beyond in (side, ~side):
            if not beyond.any():
                continue
            made.append((beyond, []))
            edge = at if beyond is side else at - 1
            inner = np.flatnonzero(beyond & (np.arange(y.size) != edge))
            if inner.size and y[edge] * (y[edge] - y[inner].mean()) < 0:
                made.append((np.delete(beyond, edge), [edge]))
    return made


def _step(beyond: np.ndarray, y: np.ndarray) -> float:
    return float((y[~beyond] ** 2).sum() + ((y[beyond] - y[beyond].mean()) ** 2).sum())


def main() -> None:
    print("reached / refused though a search finds one better than what the curve comes to / not reached;")
    print("the others of 153 have none: they come to a level, a line through 0, an exponential curve or a step\n")
    print(f"{'':<18}" + "".join(f"{name:>22}" for name in SCALES))
    for name in CURVES:
        told = []
        for offset, step in SCALES.values():
            reached = refused = missed = 0
            for n in SIZES:
                for noise in NOISES:
                    for at, shape in enumerate(SHAPES.values()):
                        u = np.linspace(0.5, 15, n)
                        rng = np.random.default_rng([n, int(1000 * noise), at])
                        y = shape(u)
                        y = y + rng.normal(size=n) * noise * (np.ptp(y) or 1)
                        x = np.round(offset + step * u, 6)
                        best = least(name, x, y)
                        flat = float(((y - y.mean()) ** 2).sum())
                        try:
                            found = curves()[name].fit(x, y).rss
                        except CannotFit:
                            refused += best < limit(name, x, y) * (1 - 1e-6) - 1e-12 * flat
                            continue
                        good = found <= best * (1 + 1e-6) + 1e-12 * flat
                        reached, missed = reached + good, missed + (not good)
            told.append(f"{reached} / {refused} / {missed}")
        print(f"{name:<18}" + "".join(f"{text:>22}" for text in told), flush=True)


if __name__ == "__main__":
    main()

"""Simulations against the bare draws of NumPy, and how they are shown while they run."""

from __future__ import annotations

import statistics
import time

import numpy as np
from scipy import stats

from benchmarks.measure import Figure, judged, leave, median_seconds, quiet_window, settle, until_painted
from theoros.numeric.resampling.replicates import Replicates
from theoros.numeric.resampling.shuffles import dealt
from theoros.study.file import demo_study
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.simulate.sampling.procedure_sampler import sampler_for

N, WANTED = 100, 10_000
SHARE = {"kind": "share", "p": 0.125, "n": N}


def figures() -> list[Figure]:
    return [*_against_numpy(), *judged(_shown), *judged(_running)]


def _against_numpy() -> list[Figure]:
    tables, rng = demo_study().by_name, np.random.default_rng(1)
    column = tables["bushes"].numbers("leaf mass")
    column = column[np.isfinite(column)]
    cases = (
        ("a share", {"model": SHARE}, lambda: (rng.random((WANTED, N)) < 0.125).sum(axis=1)),
        (
            "a column",
            {
                "table": "bushes",
                "statistic": "mean",
                "model": {"kind": "column", "what": "leaf mass", "n": N, "replace": True},
            },
            lambda: column[rng.integers(0, column.size, (WANTED, N))].mean(axis=1),
        ),
        (
            "a normal population",
            {"statistic": "mean", "model": {"kind": "shape", "mean": 62, "sd": 9.5, "n": N}},
            lambda: rng.normal(62, 9.5, (WANTED, N)).mean(axis=1),
        ),
    )
    made = []
    for name, slots, bare in cases:
        ready = sampler_for(statement_from_json({"verb": "simulate", **slots}), tables)

        def ours(ready=ready) -> None:
            pile = Replicates(ready.rows, int(rng.integers(10**9)), ready.block)
            for _ in pile.grow(WANTED):
                pass

        ratio = median_seconds(ours, 11) / median_seconds(bare, 11)
        title = f"10 000 samples of n = {N} from {name} / bare NumPy"
        made.append(Figure(title, ratio, 1.5, "×"))
    x, y = rng.normal(size=N), rng.normal(size=N)

    def shuffled() -> None:
        pile = Replicates(lambda r, size: (dealt(r, x - x.mean(), size) @ y)[:, None], 3, 500)
        for _ in pile.grow(WANTED):
            pass

    def scipys() -> None:
        stats.permutation_test(
            (x,),
            lambda a, axis: np.sum((a - a.mean(axis=axis, keepdims=True)) * y, axis=axis),
            permutation_type="pairings",
            n_resamples=WANTED,
            vectorized=True,
            rng=3,
        )

    ratio = median_seconds(shuffled, 7) / median_seconds(scipys, 7)
    made.append(Figure("10 000 shuffled correlations, n = 100 / scipy", ratio, 0.4, "×"))
    return made


def _shown() -> list[Figure]:
    """One more sample, from the key to the painted dot."""
    window = quiet_window()
    window.warm_up()
    statement = statement_from_json(
        {"verb": "simulate", "replicates": 200, "ask": "at most", "value": 1, "model": {**SHARE, "n": 25}}
    )
    window.asking.add_entry(statement)
    settle(window)
    page, taken = window.entry_page, []
    for at in range(25):
        settle(window)
        taken.append(until_painted([page], lambda p=page, k=at: p.set_slot("replicates", 201 + k)))
    leave(window)
    return [Figure("one more sample painted", statistics.median(taken[3:]) * 1000, 30, "ms")]


def _running() -> list[Figure]:
    """While a million replicates are drawn: each frame of the pile, and the longest hold-up."""
    from PySide6.QtCore import QEventLoop, QTimer

    window = quiet_window()
    window.warm_up()
    model = {"kind": "shape", "mean": 62, "sd": 9.5, "n": 25}
    statement = statement_from_json(
        {"verb": "simulate", "replicates": 100_000, "statistic": "mean", "model": model, "ask": "at least", "value": 66}
    )
    window.asking.add_entry(statement)
    settle(window)
    page, frames = window.entry_page, []
    view = page.picture
    for _ in range(12):
        begun = time.perf_counter()
        view.show_picture(page.answer.picture)
        view.repaint()
        frames.append(time.perf_counter() - begun)
    beats: list[float] = []
    beat = QTimer(interval=1)
    beat.timeout.connect(lambda: beats.append(time.perf_counter()))
    beat.start()
    loop = QEventLoop()
    page.set_slot("replicates", 1_000_000)
    look = QTimer(interval=20)
    look.timeout.connect(lambda: loop.quit() if window.idle else None)
    look.start()
    loop.exec()
    look.stop()
    beat.stop()
    worst = float(np.diff(beats).max(initial=0.0)) * 1000
    leave(window)
    return [
        Figure("pile of 100 000 repainted", statistics.median(frames) * 1000, 16, "ms"),
        Figure("longest hold-up while 1 000 000 samples are drawn", worst, 30, "ms"),
    ]

"""Resampling against the raw integers that it draws, and BCa against SciPy's."""

from __future__ import annotations

import numpy as np
from scipy import stats

from benchmarks.measure import Figure, judged, leave, median_seconds, quiet_window, settle
from theoros.numeric.resampling.bootstrap import corrected, cut_off, left_out, resampled, resamples, row_variances
from theoros.numeric.resampling.replicates import Replicates, block_size, generator

N, WANTED = 100, 10_000


def figures() -> list[Figure]:
    return [*_against_references(), *judged(_dragged)]


def _against_references() -> list[Figure]:
    data = np.random.default_rng(3).gamma(4, 2, N)
    block = block_size(N)

    def means() -> float:
        made = Replicates(resampled(data, "mean"), 1, block).drawn(WANTED)
        return float(made.mean())

    def integers() -> int:
        return sum(int(generator(1, at).integers(0, N, size=(block, N))[0, 0]) for at in range(WANTED // block))

    def spread(drawn: np.ndarray) -> np.ndarray:
        return np.sqrt(row_variances(drawn))

    def bca() -> tuple[float, float]:
        made = np.sort(Replicates(resamples([data], spread), 1, block).drawn(WANTED))
        found = corrected(made, float(data.std(ddof=1)), left_out([data], spread), 0.025, 0.025)
        low, high = cut_off(made, found.low), cut_off(made, found.high)
        return low.value, high.value

    def scipys() -> tuple[float, float]:
        found = stats.bootstrap(
            (data,), lambda x, axis: x.std(axis=axis, ddof=1), n_resamples=WANTED, method="BCa", rng=1
        )
        return tuple(found.confidence_interval)

    assert np.allclose(bca(), scipys(), rtol=0.03)
    drawing = median_seconds(means, 9) / median_seconds(integers, 9)
    ratio = median_seconds(bca, 7) / median_seconds(scipys, 7)
    return [
        Figure("10 000 resampled means, n = 100 / drawing the integers", drawing, 1.5, "×"),
        Figure("BCa of 10 000 resamples / scipy bootstrap", ratio, 0.6, "×"),
    ]


def _dragged() -> list[Figure]:
    """From a move of the mouse on an end of an interval to the painted picture."""
    import statistics
    import time

    from PySide6.QtCore import QPoint, Qt
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QApplication

    from benchmarks.claims import _table
    from theoros.desk.parts.picture_view import PictureView
    from theoros.study.edits import AddTable
    from theoros.verbs.core.registry import statement_from_json

    window = quiet_window()
    window.warm_up()
    window.session.do(AddTable(_table(1000)))
    made = []
    for method in ("t", "percentile"):
        said = {"verb": "estimate", "table": "trays", "method": method, "data": {"kind": "one column", "what": "loss"}}
        window.asking.add_entry(statement_from_json(said))
        settle(window)
        view = window.entry_page.findChild(PictureView)
        one = next(h for h in view.drawing.handles if h.slot == "low")
        start, taken = QPoint(round(one.x), round(one.y)), []
        QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
        for at in range(1, 41):
            begun = time.perf_counter()
            QTest.mouseMove(view, start - QPoint(at % 20, 0))
            QApplication.processEvents()
            taken.append(time.perf_counter() - begun)
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start - QPoint(10, 0))
        settle(window)
        made.append(
            Figure(f"a move of an end dragged, painted, {method}", statistics.median(taken[5:]) * 1000, 16, "ms")
        )
    leave(window)
    return made

"""Thousands of marks laid on the pixels at once look like as many stamps."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtGui import QImage, QPainter

from theoros.answer.drawing import Marks
from theoros.answer.palette import LIGHT
from theoros.desk.parts import crowd, paint


def painted(marks: Marks, ratio: float, move: tuple[float, float] = (0, 0)) -> np.ndarray:
    image = QImage(int(420 * ratio), int(300 * ratio), QImage.Format.Format_ARGB32_Premultiplied)
    image.setDevicePixelRatio(ratio)
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    painter.translate(*move)
    paint.paint_item(painter, marks, LIGHT)
    painter.end()
    return np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), -1, 4).copy()


@pytest.mark.parametrize("ratio", [1.0, 2.0])
@pytest.mark.parametrize("hollow", [False, True])
@pytest.mark.parametrize("shape", ["circle", "square", "diamond"])
def test_a_crowd_looks_like_its_marks_one_by_one(qapp, monkeypatch, ratio: float, hollow: bool, shape: str) -> None:
    rng = np.random.default_rng(3)
    # on whole pixels, where no stamp is smoothed; a few lie apart, many upon each other
    x = np.round(rng.normal(200, 60, crowd.CROWD)).clip(20, 390)
    y = np.round(rng.normal(140, 40, crowd.CROWD)).clip(20, 270)
    marks = Marks(x, y, None, shape, "ink", 6.0, hollow=hollow)
    at_once = painted(marks, ratio, (3, -2))
    monkeypatch.setattr(paint, "crowd_fits", lambda *_: False)
    apart = painted(marks, ratio, (3, -2))
    differ = np.abs(at_once.astype(int) - apart).max(axis=2)
    assert (apart[..., :3] < 128).any()
    # what is smoothed at an edge is a little denser where stamps are laid over each other
    assert np.quantile(differ, 0.9) <= 8
    assert ((at_once[..., 0] < 128) == (apart[..., 0] < 128)).mean() > 0.97
    edge = slice(None, int(20 * ratio))
    assert (at_once[edge] == apart[edge]).all()


def test_few_marks_and_turned_pages_are_drawn_one_by_one(qapp) -> None:
    image = QImage(50, 50, QImage.Format.Format_ARGB32_Premultiplied)
    painter = QPainter(image)
    many, few = np.zeros(crowd.CROWD), np.zeros(9)
    assert crowd.crowd_fits(painter, many, many, 1.0)
    assert not crowd.crowd_fits(painter, few, few, 1.0)
    painter.scale(2, 2)
    assert not crowd.crowd_fits(painter, many, many, 1.0)
    painter.end()

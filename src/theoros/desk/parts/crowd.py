"""Thousands of marks of one look, laid onto the pixels at once instead of stamped one by one."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtGui import QColor, QImage, QPainter, QPixmap, QTransform

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

CROWD = 2000
"""From so many marks on it is worth while."""
_MOST_PIXELS = 4_000_000


def crowd_fits(painter: QPainter, x: Floats, y: Floats, ratio: float) -> bool:
    """Whether that many marks (all finite) can be laid on the pixels of this painter at once."""
    moved = QTransform.TransformationType.TxTranslate.value
    if x.size < CROWD or painter.transform().type().value > moved:
        return False
    return float((np.ptp(x) + 50) * (np.ptp(y) + 50)) * ratio**2 < _MOST_PIXELS


def draw_crowd(painter: QPainter, x: Floats, y: Floats, stamp: QPixmap, colour: QColor) -> None:
    """`stamp`, of one colour, with its middle at every (x, y), to the nearest pixel.

    Where marks lie on each other the pixel is as dense as the densest of them there.
    """
    ratio = stamp.devicePixelRatio()
    ink = _density(stamp.toImage())
    high, wide = ink.shape
    columns = np.rint(x * ratio - wide / 2).astype(np.int64)
    rows = np.rint(y * ratio - high / 2).astype(np.int64)
    left, top = int(columns.min()), int(rows.min())
    there = np.zeros((int(rows.max()) - top + 1, int(columns.max()) - left + 1), dtype=np.uint8)
    there[rows - top, columns - left] = 255
    full = np.zeros((there.shape[0] + high, there.shape[1] + wide), dtype=np.uint8)
    for row, column in zip(*np.nonzero(ink), strict=True):
        part = full[row : row + there.shape[0], column : column + there.shape[1]]
        np.maximum(part, np.minimum(there, ink[row, column]), out=part)
    image = _image(full, colour)
    image.setDevicePixelRatio(ratio)
    painter.drawImage(QPointF(left / ratio, top / ratio), image)


def _density(image: QImage) -> np.ndarray:
    """How much of each pixel is covered, 0 to 255."""
    grey = image.convertToFormat(QImage.Format.Format_Alpha8)
    lines = np.frombuffer(grey.constBits(), dtype=np.uint8)
    return lines.reshape(grey.height(), grey.bytesPerLine())[:, : grey.width()].copy()


def _image(density: np.ndarray, colour: QColor) -> QImage:
    covered = density.astype(np.uint32)
    pixels = covered << 24
    for shift, part in ((16, colour.red()), (8, colour.green()), (0, colour.blue())):
        pixels |= (covered * part + 127) // 255 << shift
    high, wide = density.shape
    made = QImage(wide, high, QImage.Format.Format_ARGB32_Premultiplied)
    lines = np.frombuffer(made.bits(), dtype=np.uint32)
    lines.reshape(high, wide)[:] = pixels
    return made

"""Draws a drawing with Qt: on the screen, and as PNG or PDF. Geometry is the core's."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QFontMetricsF,
    QImage,
    QPageSize,
    QPainter,
    QPainterPath,
    QPdfWriter,
    QPen,
    QPixmap,
    QPolygonF,
)

from theoros.answer.drawing import Block, Drawing, FilledOutline, Handle, Item, Marks, Stroke, Words
from theoros.answer.palette import LIGHT
from theoros.answer.picture import Picture
from theoros.answer.static import lay_out_static
from theoros.answer.svg import outline
from theoros.answer.wording import to_plain
from theoros.desk.parts.crowd import crowd_fits, draw_crowd
from theoros.desk.parts.theme import SANS, SERIF
from theoros.study.atomic import write_atomically
from theoros.study.entries import StudyError

Palette = Mapping[str, str]
EXPORT_SIZE = (900, 440)


def paint(painter: QPainter, drawing: Drawing, palette: Palette, *, handles: bool = True) -> None:
    """Draws every item in order; handles on top where they can be dragged."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for item in drawing.items:
        paint_item(painter, item, palette)
    if handles:
        for handle in drawing.handles:
            paint_handle(painter, handle, palette)


def paint_item(painter: QPainter, item: Item, palette: Palette) -> None:
    if isinstance(item, Stroke):
        pen = QPen(QColor(palette[item.role]), item.width)
        if item.dashed:
            pen.setDashPattern([3, 3])
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in item.points.tolist()]))
    elif isinstance(item, Block):
        _block(painter, item, palette)
    elif isinstance(item, FilledOutline):
        shape = QPolygonF([QPointF(x, y) for x, y in item.points.tolist()])
        painter.setPen(Qt.PenStyle.NoPen)
        if item.hatched and item.opacity == 1.0 and _is_plain(painter):
            painter.setBrush(QBrush(_hatched_tile(palette[item.fill], palette["ink"])))
            painter.drawPolygon(shape)
            return
        painter.setBrush(_faded(palette[item.fill], item.opacity))
        painter.drawPolygon(shape)
        if item.hatched:
            painter.setBrush(_hatch(palette))
            painter.drawPolygon(shape)
    elif isinstance(item, Marks):
        _marks(painter, item, palette)
    elif isinstance(item, Words):
        _words(painter, item, palette)


def paint_handle(painter: QPainter, handle: Handle, palette: Palette) -> None:
    painter.setPen(QPen(QColor(palette["page"]), 1.5))
    painter.setBrush(QColor(palette[handle.role]))
    if handle.shape == "square":
        painter.drawRect(QRectF(handle.x - 5, handle.y - 5, 10, 10))
    else:
        painter.drawEllipse(QPointF(handle.x, handle.y), 7, 7)


def _block(painter: QPainter, item: Block, palette: Palette) -> None:
    rect = QRectF(item.x, item.y, item.width, item.height)
    if item.hatched and item.opacity == 1.0 and not item.stroke and _is_plain(painter):
        # on a screen a tile of both colours is laid at a third of the time of two layers
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        painter.fillRect(rect, QBrush(_hatched_tile(palette[item.fill], palette["ink"])))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        return
    painter.setPen(QPen(QColor(palette[item.stroke]), item.line) if item.stroke else Qt.PenStyle.NoPen)
    painter.setBrush(_faded(palette[item.fill], item.opacity) if item.fill else Qt.BrushStyle.NoBrush)
    painter.drawRect(rect)
    if item.hatched:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(_hatch(palette))
        painter.drawRect(rect)


def _words(painter: QPainter, item: Words, palette: Palette) -> None:
    font = QFont(SANS if item.face == "sans" else SERIF)
    font.setPixelSize(round(item.size))
    font.setItalic(item.face == "italic")
    if item.bold:
        font.setWeight(QFont.Weight.DemiBold)
    painter.setFont(font)
    painter.setPen(QColor(palette[item.role]))
    x = item.x
    if item.anchor != "start":
        wide = QFontMetricsF(font).horizontalAdvance(item.text)
        x -= wide if item.anchor == "end" else wide / 2
    painter.drawText(QPointF(x, item.y), item.text)


def _marks(painter: QPainter, marks: Marks, palette: Palette) -> None:
    """Many marks of one look: drawn once as a pixmap, stamped everywhere."""
    ratio = painter.device().devicePixelRatioF() if painter.device() else 1.0
    if isinstance(painter.device(), QPdfWriter):  # as shapes, not as pixels
        path = _path(marks.shape, marks.size)
        _mark_style(painter, marks, palette)
        for x, y in zip(marks.x.tolist(), marks.y.tolist(), strict=True):
            painter.drawPath(path.translated(x, y))
        return
    stamp = _stamp(marks.shape, marks.size, palette[marks.role], marks.hollow, ratio)
    if crowd_fits(painter, marks.x, marks.y, ratio):
        draw_crowd(painter, marks.x, marks.y, stamp, QColor(palette[marks.role]))
        return
    half = stamp.width() / stamp.devicePixelRatio() / 2
    for x, y in zip(marks.x.tolist(), marks.y.tolist(), strict=True):
        painter.drawPixmap(QPointF(x - half, y - half), stamp)


def _mark_style(painter: QPainter, marks: Marks, palette: Palette) -> None:
    colour = QColor(palette[marks.role])
    painter.setPen(QPen(colour, 1.8) if marks.hollow else Qt.PenStyle.NoPen)
    painter.setBrush(Qt.BrushStyle.NoBrush if marks.hollow else colour)


@lru_cache(maxsize=256)
def _stamp(shape: str, size: float, colour: str, hollow: bool, ratio: float) -> QPixmap:
    side = int(size * 1.5 + 4)
    side += side % 2
    pixmap = QPixmap(round(side * ratio), round(side * ratio))
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    ink = QColor(colour)
    painter.setPen(QPen(ink, 1.8) if hollow else Qt.PenStyle.NoPen)
    painter.setBrush(Qt.BrushStyle.NoBrush if hollow else ink)
    painter.drawPath(_path(shape, size - (1.6 if hollow else 0)).translated(side / 2, side / 2))
    painter.end()
    return pixmap


def _path(shape: str, size: float) -> QPainterPath:
    path = QPainterPath()
    corners = outline(shape, size)
    if not corners:
        path.addEllipse(QPointF(0, 0), size / 2, size / 2)
        return path
    path.addPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))
    path.closeSubpath()
    return path


def _faded(colour: str, opacity: float) -> QColor:
    made = QColor(colour)
    made.setAlphaF(opacity)
    return made


def _is_plain(painter: QPainter) -> bool:
    """Whether it draws on pixels, one for one."""
    device = painter.device()
    return (
        isinstance(device, QPixmap | QImage) and device.devicePixelRatio() == 1.0 and painter.transform().isIdentity()
    )


@lru_cache(maxsize=32)
def _hatched_tile(fill: str, ink: str) -> QPixmap:
    tile = QPixmap(8, 8)
    tile.fill(QColor(fill))
    painter = QPainter(tile)
    painter.fillRect(tile.rect(), QBrush(_faded(ink, 0.5), Qt.BrushStyle.BDiagPattern))
    painter.end()
    return tile


def _hatch(palette: Palette) -> QBrush:
    return QBrush(_faded(palette["ink"], 0.5), Qt.BrushStyle.BDiagPattern)


def picture_image(
    picture: Picture, size: tuple[int, int] = EXPORT_SIZE, scale: float = 2.0, caption: str = ""
) -> QImage:
    """The picture as an image on paper colours, `scale` pixels to the point."""
    image = drawing_image(lay_out_static(picture, *size, caption), scale)
    image.setText("Description", to_plain(picture.alt))
    return image


def drawing_image(drawing: Drawing, scale: float) -> QImage:
    """A drawing as an image on paper colours, `scale` pixels to the point."""
    pixels = max(1, round(drawing.width * scale)), max(1, round(drawing.height * scale))
    image = QImage(*pixels, QImage.Format.Format_ARGB32)
    image.setDevicePixelRatio(scale)
    image.fill(QColor(LIGHT["page"]))
    painter = QPainter(image)
    paint(painter, drawing, LIGHT)
    painter.end()
    return image


def save_picture(picture: Picture, path: Path, svg: str, caption: str = "") -> None:
    """Writes a picture as PNG, PDF or SVG by the ending of the path. Raises StudyError."""
    suffix = path.suffix.lower()
    if suffix == ".svg":
        write_atomically(path, lambda target: target.write_text(svg, encoding="utf-8"))
    elif suffix == ".pdf":
        write_atomically(path, lambda target: _write_pdf(picture, target, caption))
    elif suffix == ".png":
        write_atomically(path, lambda target: _write_png(picture, target, caption))
    else:
        raise StudyError(f"A picture can be saved as .png, .svg or .pdf, not as “{path.name}”.")


def _write_png(picture: Picture, target: Path, caption: str) -> None:
    if not picture_image(picture, caption=caption).save(str(target)):
        raise OSError("the image could not be written")


def _write_pdf(picture: Picture, target: Path, caption: str) -> None:
    drawing = lay_out_static(picture, *EXPORT_SIZE, caption)
    writer = QPdfWriter(str(target))
    writer.setTitle(caption or to_plain(picture.alt))
    writer.setResolution(72)
    size = QSizeF(drawing.width, drawing.height)
    writer.setPageSize(QPageSize(size, QPageSize.Unit.Point))
    writer.setPageMargins(writer.pageLayout().margins() * 0)
    painter = QPainter(writer)
    paint(painter, drawing, LIGHT)
    painter.end()

"""What goes out by the clipboard: tables as TSV and HTML, pictures as PNG and SVG, steps."""

from __future__ import annotations

from PySide6.QtCore import QMimeData
from PySide6.QtWidgets import QApplication

from theoros.answer.markup import escaped
from theoros.answer.parts import ResultTable
from theoros.answer.picture import Picture
from theoros.answer.static import lay_out_static
from theoros.answer.svg import to_svg
from theoros.desk.parts.paint import EXPORT_SIZE, picture_image
from theoros.files.grid import guarded
from theoros.files.lines_of_cells import table_text
from theoros.study.report_html import figures_html


def copy_figures(figures: ResultTable) -> None:
    """A table that pastes as cells into a spreadsheet and as a table into a document."""
    copy_cells(figures.to_lines(), figures_html(figures, guarded))


def copy_cells(lines: list[list[str]], rich: str = "") -> None:
    """Cells as tab-separated text and as an HTML table, none of which a spreadsheet would run."""
    lines = [[guarded(cell) for cell in line] for line in lines]
    if not rich:
        rows = "".join("<tr>" + "".join(f"<td>{escaped(cell)}</td>" for cell in line) + "</tr>" for line in lines)
        rich = f"<table>{rows}</table>"
    data = QMimeData()
    data.setText(table_text(lines))
    data.setHtml(rich)
    QApplication.clipboard().setMimeData(data)


def picture_svg(picture: Picture, caption: str = "") -> str:
    """A picture as an SVG document at the size of exports."""
    return to_svg(lay_out_static(picture, *EXPORT_SIZE, caption), picture.alt)


def copy_picture(picture: Picture, caption: str = "") -> None:
    """A picture as PNG at twice its size and as SVG with real text."""
    data = QMimeData()
    data.setImageData(picture_image(picture, caption=caption))
    data.setData("image/svg+xml", picture_svg(picture, caption).encode())
    QApplication.clipboard().setMimeData(data)

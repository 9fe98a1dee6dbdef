"""What is shown, on paper: a table, an entry or the report, as a document that Qt prints."""

from __future__ import annotations

import itertools
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QUrl
from PySide6.QtGui import QImage, QTextDocument
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QDialog

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.placing import place
from theoros.answer.markup import escaped
from theoros.answer.nouns import counted
from theoros.desk.parts.paint import drawing_image, picture_image
from theoros.study.entries import EntryBlock, TextBlock
from theoros.study.report_html import Means, entry_html
from theoros.study.report_parts import REPORT_PARTS
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.desk.window.interfaces import Stage

WIDTH, HEIGHT = 640, 320
"""Of a picture on a page, in points."""
FORMULA = 13
SHARP = 3.0
"""Pixels to the point."""
ENTRY_PARTS = tuple(part for part in REPORT_PARTS if part not in ("working", "five steps"))
"""Of an entry that is printed by itself, as its page shows it."""
MOST_ROWS = 2000
STYLE = (
    "body { font-family: 'Source Sans 3'; font-size: 10pt; } "
    "td, th { padding: 2pt 6pt; } h2 { font-size: 14pt; } h3 { font-size: 11pt; }"
)


def print_shown(stage: Stage) -> None:
    """Asks for a printer, and prints what is shown."""
    document = document_of(stage)
    if document is None:
        stage.banner.say("There is nothing to print here yet.", "mute")
        return
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setDocName(document.metaInformation(QTextDocument.MetaInformation.DocumentTitle))
    dialog = QPrintDialog(printer, stage.frame)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    dialog.accepted.connect(lambda: document.print_(printer))
    QDialog.open(dialog)  # its own asks for a slot by name


def document_of(stage: Stage) -> QTextDocument | None:
    """What is shown as a document; None where there is nothing."""
    what, key = stage.shown or ("", "")
    study, document = stage.session.study, QTextDocument()
    document.setDefaultStyleSheet(STYLE)
    title, body, means = study.title, "", _paper(document)
    if what == "table":
        title, body = key, _table(study.table(key))
    elif what == "entry":
        page = stage.entry_page
        if page.answer is None or page.entry is None:
            return None
        title = page.entry.name(study.by_name)
        body = entry_html(title, page.entry.question, page.answer, ENTRY_PARTS, means)
    elif what == "report":
        pieces = [f"<h1>{escaped(study.title or 'Report')}</h1>"]
        for block in study.report:
            if isinstance(block, TextBlock):
                lines = escaped(block.text).splitlines()
                pieces.append("".join(f"<p>{line}</p>" for line in lines))
            elif isinstance(block, EntryBlock):
                found = stage.report_answer(block.entry)
                entry = study.entry(block.entry)
                if found is not None:
                    name = entry.name(study.by_name)
                    pieces.append(entry_html(name, entry.question, found, block.parts, means))
        body = "".join(pieces)
    else:
        return None
    document.setMetaInformation(QTextDocument.MetaInformation.DocumentTitle, title)
    document.setHtml(f"<body>{body}</body>")
    return document


def _paper(document: QTextDocument) -> Means:
    """Pictures and formulas as images of a document that Qt prints, which knows no SVG."""
    count = itertools.count()

    def image(made: QImage, width: float) -> str:
        where = QUrl(f"drawn:{next(count)}")
        document.addResource(QTextDocument.ResourceType.ImageResource, where, made)
        return f'<p><img src="{where.toString()}" width="{width:.0f}"></p>'

    def formula(value: Formula) -> str:
        drawing = place(value, FORMULA, WIDTH)
        return image(drawing_image(drawing, SHARP), drawing.width)

    return Means(lambda p: image(picture_image(p, (WIDTH, HEIGHT), SHARP), WIDTH), formula)


def _table(table: Table) -> str:
    shown = min(table.rows, MOST_ROWS)
    head = "".join(f"<th>{escaped(column.label)}</th>" for column in table.columns)
    texts = [table.cell_texts(column.name, 0, shown) for column in table.columns]
    rows = "".join(
        "<tr><td>" + str(at + 1) + "</td>" + "".join(f"<td>{escaped(cell)}</td>" for cell in line) + "</tr>"
        for at, line in enumerate(zip(*texts, strict=True))
    )
    said = counted(table.rows, "row")
    if shown < table.rows:
        said = f"the first {shown} of {said}"
    return (
        f"<h2>{escaped(table.name)}</h2><p>{said}</p>"
        f'<table border="1" cellspacing="0"><tr><th></th>{head}</tr>{rows}</table>'
    )

"""Printing: the sheet that belongs to what is open, else the page of the stage as it stands."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QRectF, QSize, Qt
from PyQt6.QtGui import QPageLayout, QPageSize, QPainter
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter, QPrintPreviewDialog
from PyQt6.QtWidgets import QWidget

from lumvak.files.export.formats import exported
from lumvak.files.problem import FileProblem
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, said_of, worded
from lumvak.ui.widgets.pages import waiting

# The export that is the sheet of a stage: what one has beside one's hands at that work.
SHEETS = {"joints": "pdf", "hand": "placing", "taps": "wiring"}
PAPERS = {"a4": QPageSize.PageSizeId.A4, "letter": QPageSize.PageSizeId.Letter}
POINTS_PER_INCH = 72.0


def sheet_of(session: Session, stage: str) -> QPdfDocument | None:
    """The sheet that belongs to a stage, as it is exported; ``None`` where there is none now."""
    if stage not in SHEETS:
        return None
    try:
        with waiting():
            made = exported(session.evaluation, SHEETS[stage], session.paper, SPEECH.spelling)
    except FileProblem as problem:
        session.tell("note", worded("{}; the view is printed instead.", said_of(problem)))
        return None
    document = QPdfDocument(session)
    buffer = QBuffer(document)
    buffer.setData(QByteArray(made))
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    document.load(buffer)
    return document


def print_it(session: Session, stage: str, page: QWidget) -> None:
    """Ask for a printer and print the sheet of a stage, else its page."""
    sheet, printer = sheet_of(session, stage), _printer(session)
    if QPrintDialog(printer, page).exec() == QPrintDialog.DialogCode.Accepted:
        draw_on(sheet, page, printer)


def preview(session: Session, stage: str, page: QWidget) -> None:
    """Show how it would be printed, and set the page up."""
    dialog = QPrintPreviewDialog(_printer(session), page)
    dialog.paintRequested.connect(partial(draw_on, sheet_of(session, stage), page))
    dialog.exec()


def _printer(session: Session) -> QPrinter:
    """A printer for the paper that is preferred, to its edges: templates are true to size."""
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setPageSize(QPageSize(PAPERS[session.paper]))
    return printer


def draw_on(sheet: QPdfDocument | None, page: QWidget, printer: QPrinter) -> None:
    """Draw a sheet true to size, page after page; else the page of a stage, as large as fits."""
    if sheet is None:
        _draw_view(page, printer)
        return
    printer.setFullPage(True)
    printer.setPageMargins(QMarginsF(), QPageLayout.Unit.Millimeter)
    painter, scale = QPainter(printer), printer.resolution() / POINTS_PER_INCH
    for place in range(sheet.pageCount()):
        size = sheet.pagePointSize(place)
        wide = size.width() > size.height()
        printer.setPageOrientation(
            QPageLayout.Orientation.Landscape if wide else QPageLayout.Orientation.Portrait
        )
        if place:
            printer.newPage()
        pixels = QSize(round(size.width() * scale), round(size.height() * scale))
        painter.drawImage(
            QRectF(0, 0, pixels.width(), pixels.height()), sheet.render(place, pixels)
        )
    painter.end()


def _draw_view(page: QWidget, printer: QPrinter) -> None:
    painter, picture = QPainter(printer), page.grab()
    room = painter.viewport()
    size = picture.size().scaled(room.size(), Qt.AspectRatioMode.KeepAspectRatio)
    painter.setViewport(room.x(), room.y(), size.width(), size.height())
    painter.setWindow(picture.rect())
    painter.drawPixmap(0, 0, picture)
    painter.end()

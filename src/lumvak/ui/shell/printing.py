"""Printing a window as it stands."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter, QPrintPreviewDialog
from PyQt6.QtWidgets import QWidget


def print_view(window: QWidget) -> None:
    """Ask for a printer and print the window."""
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    if QPrintDialog(printer, window).exec() == QPrintDialog.DialogCode.Accepted:
        draw_on(window, printer)


def preview(window: QWidget) -> None:
    """Show how the window would be printed, and set the page up."""
    dialog = QPrintPreviewDialog(window)
    dialog.paintRequested.connect(partial(draw_on, window))
    dialog.exec()


def draw_on(window: QWidget, printer: QPrinter) -> None:
    """Draw the window on a page, as large as fits."""
    painter, picture = QPainter(printer), window.grab()
    room = painter.viewport()
    size = picture.size().scaled(room.size(), Qt.AspectRatioMode.KeepAspectRatio)
    painter.setViewport(room.x(), room.y(), size.width(), size.height())
    painter.setWindow(picture.rect())
    painter.drawPixmap(0, 0, picture)
    painter.end()

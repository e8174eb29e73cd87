"""The icon as pictures in the usual sizes, from its drawing."""

import os
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QByteArray, Qt
from PyQt6.QtGui import QGuiApplication, QImage, QPainter
from PyQt6.QtSvg import QSvgRenderer

from lumvak.cli.installing.desktop import ICON_SIZES

FOLDER = Path(__file__).resolve().parents[1] / "src" / "lumvak" / "data" / "desktop"

if __name__ == "__main__":
    app = QGuiApplication([])
    drawing = QSvgRenderer(QByteArray((FOLDER / "lumvak.svg").read_bytes()))
    for size in ICON_SIZES:
        image = QImage(size, size, QImage.Format.Format_ARGB32)
        image.fill(Qt.GlobalColor.transparent)
        painter = QPainter(image)
        drawing.render(painter)
        painter.end()
        image.save(str(FOLDER / f"lumvak-{size}.png"))

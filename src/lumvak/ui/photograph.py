"""A photograph as it is shown small, beside what it is of."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSize, Qt, QUrl
from PyQt6.QtGui import QDesktopServices, QIcon, QImageReader, QPixmap
from PyQt6.QtWidgets import QPushButton

from lumvak.ui.speech import worded
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import tip

KINDS = "Photographs (*.jpg *.jpeg *.png *.webp *.bmp);;All files (*)"
SHOWN = 52


def small_picture(path: Path | None) -> QPixmap:
    """A picture at the height at which it is shown; null where there is none."""
    if path is None or not path.is_file():
        return QPixmap()
    reader = QImageReader(str(path))
    reader.setAutoTransform(True)
    size = reader.size()
    high = THEME.px(SHOWN) * 2
    if size.isValid() and size.height() > high:
        reader.setScaledSize(size.scaled(high * 4, high, Qt.AspectRatioMode.KeepAspectRatio))
    picture = QPixmap.fromImage(reader.read())
    picture.setDevicePixelRatio(2.0)
    return picture


def open_whole(path: Path | None) -> None:
    """Open a photograph with the desktop's own program."""
    if path is not None:
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(path)))


def show_small(button: QPushButton, picture: QPixmap, reference: str) -> bool:
    """Show a picture on a button that opens it; whether there is one."""
    button.setIcon(QIcon(picture))
    if picture.isNull():
        return False
    button.setIconSize(QSize(round(picture.width() / picture.devicePixelRatio()), THEME.px(SHOWN)))
    button.setToolTip(tip(worded("{}: open it whole", reference)))
    return True

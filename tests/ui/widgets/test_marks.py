"""Marks of severity: each of its own colour and shape, so that colour is not all that tells."""

from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtWidgets import QApplication

from lumvak.ui.widgets.marks import draw_mark, draw_ring
from lumvak.ui.widgets.theme import THEME


def drawn(severity: str, ring: bool = False) -> QImage:
    image = QImage(40, 40, QImage.Format.Format_RGB32)
    image.fill(THEME.colour("paper"))
    painter = QPainter(image)
    if ring:
        draw_ring(painter, 20.0, 20.0)
    else:
        draw_mark(painter, 20.0, 20.0, severity)
    painter.end()
    return image


def shape(image: QImage) -> frozenset[tuple[int, int]]:
    """Where anything is painted, whatever its colour."""
    paper = THEME.colour("paper").rgb()
    return frozenset((x, y) for x in range(40) for y in range(40) if image.pixel(x, y) != paper)


def test_every_severity_has_a_shape_of_its_own(qapp: QApplication) -> None:
    shapes = {name: shape(drawn(name)) for name in ("stop", "warn", "note", "fine", "to do")}
    assert all(shapes.values())
    assert len(set(shapes.values())) >= 4
    assert shapes["stop"] != shapes["warn"]


def test_a_ring_goes_around_the_mark(qapp: QApplication) -> None:
    ring = shape(drawn("", ring=True))
    assert ring and (20, 20) not in ring

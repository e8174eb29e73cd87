"""A picture of a sheet's discharges on which points are clicked."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QImageReader,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.sheet_curves import LEAST_POINTS
from lumvak.core.cells.sheet_reading import Corner, Point, traced
from lumvak.core.units import CAPACITY, VOLTAGE, Kind, QuantityError
from lumvak.ui.speech import parse, said_of, spell, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.keys import is_return
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing
from lumvak.ui.widgets.words import plain, side_by_side, soft

MOST_PIXELS = 40_000_000
STEPS = (
    "Click where the axes begin: the left and lower corner.",
    "Click the corner across: the right and upper one.",
    "Click along the discharge from left to right; Backspace takes the last one back.",
)


class Sheet(Drawing):
    """The picture, fitted into the room there is, with corners and points on it."""

    clicked = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.scan = QPixmap()
        self.places: list[Point] = []
        self.setMinimumSize(QSize(THEME.px(200), THEME.px(160)))
        self.setCursor(Qt.CursorShape.CrossCursor)

    def rect_shown(self) -> QRectF:
        """Where the picture lies."""
        size = self.scan.size().scaled(self.size(), Qt.AspectRatioMode.KeepAspectRatio)
        return QRectF(0.0, 0.0, float(size.width()), float(size.height()))

    def on_picture(self, at: QPointF) -> Point:
        """A place of the widget in pixels of the picture."""
        rect = self.rect_shown()
        return (
            at.x() * self.scan.width() / max(rect.width(), 1.0),
            at.y() * self.scan.height() / max(rect.height(), 1.0),
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.rect_shown().contains(event.position()):
            self.clicked.emit(self.on_picture(event.position()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rect = self.rect_shown()
        painter.drawPixmap(rect, self.scan, QRectF(self.scan.rect()))
        across = rect.width() / max(self.scan.width(), 1)
        for place, (x, y) in enumerate(self.places):
            at = QPointF(x * across, y * across)
            corner = place < 2
            painter.setPen(QPen(THEME.colour("crimson" if corner else "copper"), 2))
            arm = THEME.px(7 if corner else 4)
            painter.drawLine(at - QPointF(arm, 0), at + QPointF(arm, 0))
            painter.drawLine(at - QPointF(0, arm), at + QPointF(0, arm))
        if len(self.places) > 3:
            painter.setPen(QPen(THEME.colour("copper"), 1, Qt.PenStyle.DashLine))
            line = [QPointF(x * across, y * across) for x, y in self.places[2:]]
            painter.drawPolyline(QPolygonF(line))


class TracePicture(QWidget):
    """The picture with what its two corners read; ``taken`` gives the points in Ah and V."""

    taken = pyqtSignal(object)
    closed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.sheet = Sheet()
        self.step = soft("", wrap=True)
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setFont(THEME.font("note", table=True))
        self.problem.setWordWrap(True)
        self.fields: dict[str, QLineEdit] = {}
        rows = []
        for name, label in (("ah", "taken there"), ("volts", "volts there")):
            for place, words in ((0, "lower left"), (1, "upper right")):
                edit = EntryField()
                edit.setFixedWidth(THEME.px(70))
                edit.setAccessibleName(worded("{} corner, {}", words, label))
                edit.editingFinished.connect(self._read_again)
                self.fields[f"{name}{place}"] = edit
        for place, words in ((0, "lower left reads"), (1, "upper right reads")):
            rows.append(
                side_by_side(soft(words), self.fields[f"ah{place}"], self.fields[f"volts{place}"])
            )
        self.take = QPushButton("take the points")
        self.back = QPushButton("last one back")
        self.close_it = QPushButton("leave the picture")
        buttons = QHBoxLayout()
        for button in (self.take, self.back, self.close_it):
            buttons.addWidget(button)
        buttons.addStretch(1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(self.step)
        outer.addWidget(flowing(*rows, gap=8))
        outer.addWidget(self.sheet, 1)
        outer.addWidget(self.problem)
        outer.addLayout(buttons)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.sheet.clicked.connect(self._click)
        self.take.clicked.connect(self._take)
        self.back.clicked.connect(self._back)
        self.close_it.clicked.connect(self.closed)

    def open(self, path: Path, cell: Cell) -> str:
        """Show a picture; returns what is wrong with it, or an empty text."""
        reader = QImageReader(str(path))
        size = reader.size()
        if size.isValid() and size.width() * size.height() > MOST_PIXELS:
            return worded(
                "{}: {} × {} pixels; accepted: 40 million", path.name, size.width(), size.height()
            )
        image = reader.read()
        if image.isNull():
            return worded("{}: no picture that can be read ({})", path.name, reader.errorString())
        self.sheet.scan = QPixmap.fromImage(image)
        self.sheet.places = []
        for name, value, kind in (
            ("ah0", 0.0, CAPACITY),
            ("ah1", cell.capacity_typical_ah, CAPACITY),
            ("volts0", cell.voltage_empty_v, VOLTAGE),
            ("volts1", cell.voltage_full_v, VOLTAGE),
        ):
            self.fields[name].setText(spell(value, kind))
        self.say("")
        self._turn()
        return ""

    def say(self, problem: str) -> None:
        """Say what is wrong; an empty text takes it away."""
        self.problem.setText(problem)
        self.problem.setVisible(bool(problem))

    def points(self) -> list[Point]:
        """The points clicked so far, in Ah and V; raises QuantityError."""
        places = self.sheet.places
        if len(places) < 2 + LEAST_POINTS:
            raise QuantityError(worded("click both corners and at least {} points", LEAST_POINTS))
        corners = [
            Corner(
                *places[at], self._value(f"ah{at}", CAPACITY), self._value(f"volts{at}", VOLTAGE)
            )
            for at in (0, 1)
        ]
        return traced(places[2:], corners[0], corners[1])

    def _value(self, name: str, kind: Kind) -> float:
        return float(parse(self.fields[name].text(), kind))

    def _turn(self) -> None:
        count = len(self.sheet.places)
        words = STEPS[min(count, 2)]
        self.step.setText(words + (worded(" {} so far.", count - 2) if count > 2 else ""))
        self.take.setEnabled(count >= 2 + LEAST_POINTS)
        self.back.setEnabled(count > 0)
        self.sheet.update()

    def _click(self, place: Point) -> None:
        self.sheet.places.append(place)
        self.say("")
        self._turn()

    def _back(self) -> None:
        if self.sheet.places:
            self.sheet.places.pop()
            self._turn()

    def _read_again(self) -> None:
        self.say("")

    def _take(self) -> None:
        try:
            points = self.points()
        except QuantityError as error:
            self.say(said_of(error))
            return
        self.taken.emit(points)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Backspace:
            self._back()
        elif is_return(event):
            self._take()
        elif event is not None and event.key() == Qt.Key.Key_Escape:
            self.closed.emit()
        else:
            super().keyPressEvent(event)

"""The groups as vessels: each of its own size, filled to its own level, what is lost hatched."""

from __future__ import annotations

from msgspec import Struct
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QBrush,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
)
from PyQt6.QtWidgets import QSizePolicy

from lumvak.core.balancing.imbalance import LEAST_LOSS, Imbalance
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.widgets.keys import step_of
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told

STEP = 0.01
# Vessels narrower than this have no numbers of their own.
NARROW, GAP_SHARE = 22.0, 0.28
# Below the vessels stand their numbers, and a word.
FOOT = 38.0


class VesselPlace(Struct, frozen=True):
    """Where a vessel is drawn: its outline, and how many px an Ah is high."""

    rect: QRectF
    px_per_ah: float


class VesselsView(Drawing):
    """Every group a vessel; a level can be dragged, or moved by Up and Down.

    ``levelled`` tells a group, from 1, and the share it was brought to, ``levelling`` the same
    while it is dragged; ``marked`` the one at hand.
    """

    levelled = pyqtSignal(int, float)
    levelling = pyqtSignal(int, float)
    marked = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.stand: Imbalance | None = None
        self.at = 0
        self._dragged: float | None = None
        self._begun = 0.0
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(THEME.px(210))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(620), THEME.px(260))

    def show_vessels(self, stand: Imbalance) -> None:
        """Show groups as they stand."""
        self.stand = stand
        self.at = min(self.at, len(stand.ah) - 1)
        self.setAccessibleName(self._said())
        self.update()

    def _said(self) -> str:
        if self.stand is None:
            return in_words("Groups as filled columns")
        ah, charge = float(self.stand.ah[self.at]), float(self.stand.charge_ah[self.at])
        return worded(
            "Groups as filled columns. Group {}: {} in {}, {} lost at the top, {} at the bottom",
            self.at + 1,
            say(charge, in_words("Ah")),
            say(ah, in_words("Ah")),
            say(float(self.stand.lost_top_ah[self.at]), in_words("Ah")),
            say(float(self.stand.lost_bottom_ah[self.at]), in_words("Ah")),
        )

    def told(self) -> Told:
        """The vessels as rows."""
        found = self.stand
        if found is None:
            return Told("Groups", (), ())
        columns = (found.ah, found.charge_ah, found.lost_top_ah, found.lost_bottom_ah)
        rows = [
            (str(place + 1), *(say(float(values[place]), in_words("Ah")) for values in columns))
            for place in range(len(found.ah))
        ]
        return Told("Groups", ("group", "holds", "has", "lost at the top", "at the bottom"), rows)

    # Where everything is.

    def places(self) -> list[VesselPlace]:
        """Where each vessel is drawn."""
        if self.stand is None:
            return []
        head, foot, left = THEME.px(22), THEME.px(FOOT), THEME.px(8)
        high = max(self.height() - head - foot, 1)
        most = float(self.stand.ah.max())
        pitch = (self.width() - 2 * left) / len(self.stand.ah)
        wide = min(pitch * (1.0 - GAP_SHARE), THEME.px(64))
        scale = high / most
        found = []
        for place, ah in enumerate(self.stand.ah.tolist()):
            x = left + pitch * (place + 0.5) - wide / 2.0
            found.append(VesselPlace(QRectF(x, head + high - ah * scale, wide, ah * scale), scale))
        return found

    def _group_at(self, x: float) -> int | None:
        places = self.places()
        if not places:
            return None
        near = min(range(len(places)), key=lambda at: abs(places[at].rect.center().x() - x))
        pitch = self.width() / len(places)
        return near if abs(places[near].rect.center().x() - x) <= pitch / 2.0 else None

    # What is painted.

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.stand is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(THEME.font("note", table=True))
        for number, place in enumerate(self.places()):
            self._paint_vessel(painter, number, place)
        self._paint_names(painter)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(THEME.colour("verdigris"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _paint_vessel(self, painter: QPainter, number: int, place: VesselPlace) -> None:
        found, rect, scale = self.stand, place.rect, place.px_per_ah
        assert found is not None
        level = float(found.charge_ah[number])
        if number == self.at and self._dragged is not None:
            level = self._dragged * float(found.ah[number])
        small = float(found.ah[number]) < found.even_ah + LEAST_LOSS * float(found.ah.mean())
        small = small and found.by_size_ah > LEAST_LOSS * float(found.ah.mean())
        filled = QRectF(rect.left(), rect.bottom() - level * scale, rect.width(), level * scale)
        painter.fillRect(rect, THEME.colour("sheet"))
        painter.fillRect(filled, THEME.colour("verdigris_wash"))
        self._hatch(
            painter,
            QRectF(rect.left(), rect.top(), rect.width(), float(found.lost_top_ah[number]) * scale),
        )
        stays = float(found.lost_bottom_ah[number]) * scale
        self._hatch(painter, QRectF(rect.left(), rect.bottom() - stays, rect.width(), stays))
        painter.setPen(QPen(THEME.colour("verdigris"), 2))
        painter.drawLine(filled.topLeft(), filled.topRight())
        # A small vessel is told by its wall, one out of step by its hatching.
        wall = QPen(THEME.colour("copper" if small else "ink"), 3 if small else 1)
        painter.setPen(wall)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(
            QPolygonF([rect.topLeft(), rect.bottomLeft(), rect.bottomRight(), rect.topRight()])
        )

    def _hatch(self, painter: QPainter, rect: QRectF) -> None:
        if rect.height() < 0.5:
            return
        painter.fillRect(rect, THEME.colour("amber_wash"))
        painter.fillRect(rect, QBrush(THEME.colour("amber"), Qt.BrushStyle.BDiagPattern))

    def _paint_names(self, painter: QPainter) -> None:
        """Numbers below, and at those that matter why they do."""
        found, places = self.stand, self.places()
        assert found is not None
        least = LEAST_LOSS * float(found.ah.mean())
        words = [list[str]() for _ in places]
        if found.by_size_ah > least:
            words[found.smallest - 1].append("small")
        below = dict[int, str]()
        if found.by_step_ah > least or found.by_size_ah > least:
            words[found.first_full - 1].append("full first")
            below[found.first_empty - 1] = "empty first"
        every = 1 if places[0].rect.width() >= THEME.px(NARROW) or len(places) < 16 else 2
        for number, place in enumerate(places):
            here = number == self.at
            painter.setFont(THEME.font("note", table=True, strong=here))
            painter.setPen(THEME.colour("ink" if here or number in below else "soft"))
            foot = self.height() - THEME.px(FOOT)
            if number % every == 0 or here or number in below:
                self._word(painter, place.rect, foot + THEME.px(2), str(number + 1))
            painter.setPen(THEME.colour("ink"))
            if number in below:
                self._word(painter, place.rect, foot + THEME.px(18), in_words(below[number]))
            if words[number]:
                colour = "copper" if "small" in words[number] else "ink"
                painter.setPen(THEME.colour(colour))
                self._word(
                    painter, place.rect, THEME.px(2), ", ".join(map(in_words, words[number]))
                )

    def _word(self, painter: QPainter, rect: QRectF, top: float, text: str) -> None:
        """A word about the middle of a vessel, within the picture."""
        wide = painter.fontMetrics().horizontalAdvance(text) + 4.0
        left = min(max(rect.center().x() - wide / 2.0, 0.0), self.width() - wide)
        painter.drawText(
            QRectF(left, top, wide, THEME.px(17)), int(Qt.AlignmentFlag.AlignCenter), text
        )

    # What is done.

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        group = self._group_at(event.position().x())
        if group is not None:
            self._mark(group)
            self._drag_to(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if event.buttons() & Qt.MouseButton.LeftButton and self._dragged is not None:
            self._drag_to(event.position())
            return
        near = self._group_at(event.position().x())
        shape = Qt.CursorShape.ArrowCursor if near is None else Qt.CursorShape.SizeVerCursor
        self.setCursor(shape)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._dragged is not None and self.stand is not None:
            share, self._dragged = self._dragged, None
            if abs(share - self._begun) > STEP / 8.0:
                self.levelled.emit(self.at + 1, share)
            self.update()

    def _drag_to(self, point: QPointF) -> None:
        place = self.places()[self.at]
        share = (place.rect.bottom() - point.y()) / max(place.rect.height(), 1.0)
        if self._dragged is None and self.stand is not None:
            now = float(self.stand.charge_ah[self.at] / self.stand.ah[self.at])
            # A click beside the level marks the group; only its level is dragged.
            if abs(share - now) * place.rect.height() > THEME.px(12):
                return
            self._dragged = self._begun = now
            return
        self._dragged = round(min(max(share, 0.0), 1.0) / (STEP / 4.0)) * (STEP / 4.0)
        self.levelling.emit(self.at + 1, self._dragged)
        self.update()

    def _mark(self, group: int) -> None:
        self.at = group
        self.setAccessibleName(self._said())
        self.marked.emit(group + 1)
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or self.stand is None:
            return
        across = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        up = step_of(event, Qt.Key.Key_Down, Qt.Key.Key_Up)
        if across:
            self._mark(min(max(self.at + across, 0), len(self.stand.ah) - 1))
        elif up:
            now = float(self.stand.charge_ah[self.at] / self.stand.ah[self.at])
            self.levelled.emit(self.at + 1, round(min(max(now + up * STEP, 0.0), 1.0), 4))
        else:
            event.ignore()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.update()

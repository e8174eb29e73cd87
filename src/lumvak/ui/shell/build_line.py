"""The build line: the stages in the order of the work, each with its answer in one line."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.keys import moved, step_of
from lumvak.ui.widgets.marks import draw_mark, draw_ring
from lumvak.ui.widgets.theme import THEME


@dataclass(frozen=True, slots=True)
class Entry:
    """One stage as the build line shows it."""

    key: str
    name: str
    answer: str
    severity: str


def entries(seen: Evaluation) -> list[Entry]:
    """Every stage's answer, and the worst thing to notice there."""
    return [
        Entry(stage.key, stage.name, stage.answer(seen), worst(seen, stage.key)) for stage in STAGES
    ]


def worst(seen: Evaluation, stage: str) -> str:
    """The worst severity among a stage's findings; notes leave it fine."""
    found = {item.severity for item in seen.findings if item.stage == stage}
    return "stop" if "stop" in found else "warn" if "warn" in found else "fine"


class BuildLine(QWidget):
    """Paints the stages down the left; Up and Down move, a click opens."""

    opened = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.entries: list[Entry] = []
        self._current = "need"
        self.setAccessibleName("Build line")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setObjectName("paper")

    def show_evaluation(self, seen: Evaluation, current: str) -> None:
        """Show the answers of this evaluation and which stage is open."""
        fresh = entries(seen)
        if fresh != self.entries or current != self._current:
            self.entries, self._current = fresh, current
            self.update()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(190), THEME.px(300))

    def _rect(self, place: int) -> QRectF:
        return QRectF(0, THEME.px(8 + 62 * place), self.width() - THEME.px(4), THEME.px(56))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        x = THEME.px(26)
        painter.setPen(THEME.colour("line"))
        if self.entries:
            first = self._rect(0).top() + THEME.px(17)
            last = self._rect(len(self.entries) - 1).top() + THEME.px(17)
            painter.drawLine(x, round(first), x, round(last))
        for place, entry in enumerate(self.entries):
            self._paint_entry(painter, self._rect(place), entry)

    def _paint_entry(self, painter: QPainter, rect: QRectF, entry: Entry) -> None:
        here = entry.key == self._current
        if here:
            painter.fillRect(rect, THEME.colour("tint"))
            painter.fillRect(
                QRectF(rect.left(), rect.top(), THEME.px(3), rect.height()),
                THEME.colour("verdigris"),
            )
        mark_y = rect.top() + THEME.px(17)
        if here:
            draw_ring(painter, THEME.px(26), mark_y)
        draw_mark(painter, THEME.px(26), mark_y, entry.severity)
        left = THEME.px(46)
        width = rect.width() - left - THEME.px(6)
        painter.setPen(THEME.colour("ink"))
        painter.setFont(THEME.font("stage", strong=here))
        top = QRectF(left, rect.top() + THEME.px(6), width, THEME.px(22))
        name = painter.fontMetrics().elidedText(entry.name, Qt.TextElideMode.ElideRight, int(width))
        painter.drawText(top, Qt.AlignmentFlag.AlignVCenter, name)
        role = {"stop": "crimson", "warn": "amber"}.get(entry.severity, "soft")
        painter.setPen(THEME.colour(role))
        font = THEME.font("note", table=True)
        painter.setFont(font)
        shown = QFontMetrics(font).elidedText(entry.answer, Qt.TextElideMode.ElideRight, int(width))
        bottom = QRectF(left, rect.top() + THEME.px(28), width, THEME.px(20))
        painter.drawText(bottom, Qt.AlignmentFlag.AlignVCenter, shown)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for place, entry in enumerate(self.entries):
            if self._rect(place).contains(event.position()):
                self.opened.emit(entry.key)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if not step:
            super().keyPressEvent(event)
            return
        keys = [stage.key for stage in STAGES]
        self.opened.emit(keys[moved(keys.index(self._current), step, len(keys))])

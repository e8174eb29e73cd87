"""The margin's list of what there is to notice."""

from __future__ import annotations

from PyQt6.QtCore import QRect, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from lumvak.core.figures.finding import Finding
from lumvak.ui.widgets.keys import moved, step_of
from lumvak.ui.widgets.marks import draw_mark
from lumvak.ui.widgets.measured import wrapped_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import WRAP


class FindingsView(QWidget):
    """Paints the findings of a stage; a click shows the figure that one is about."""

    explained = pyqtSignal(str)
    laid_out = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.findings: tuple[Finding, ...] | None = None
        self._rects: list[QRect] = []
        self._current = -1
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def show_findings(self, findings: tuple[Finding, ...]) -> None:
        """Show these findings, the worst first."""
        if findings == self.findings:
            return
        self.findings = findings
        self._current = -1
        self.setAccessibleName("; ".join(item.text for item in findings))
        self.relayout()

    def relayout(self) -> None:
        """Lay the texts out for the width there is."""
        width = max(self.width(), THEME.px(120))
        top = 0
        self._rects = []
        for item in self.findings or ():
            text = sum(self._heights(item, width)) + THEME.px(14)
            self._rects.append(QRect(0, top, width, text))
            top += text
        tall = top if self.findings else THEME.px(40)
        if tall != self.minimumHeight():
            self.setMinimumHeight(tall)
            self.laid_out.emit()
        self.update()

    def _heights(self, item: Finding, width: int) -> tuple[int, int]:
        inner = width - THEME.px(24)
        return (
            wrapped_height(item.text, inner, "table", strong=True),
            wrapped_height(f"{item.why} {item.do}", inner, "note"),
        )

    def resizeEvent(self, event: object) -> None:
        self.relayout()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if not self.findings:
            painter.setFont(THEME.font("note"))
            painter.setPen(THEME.colour("soft"))
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignTop | WRAP, "Nothing to notice at this stage."
            )
            return
        for place, (item, rect) in enumerate(zip(self.findings, self._rects, strict=True)):
            if place == self._current and self.hasFocus():
                painter.fillRect(rect, THEME.colour("tint"))
            head, body = self._heights(item, rect.width())
            draw_mark(painter, THEME.px(8), rect.top() + THEME.px(10), item.severity)
            left = THEME.px(22)
            width = rect.width() - THEME.px(24)
            painter.setFont(THEME.font("table", strong=True))
            painter.setPen(THEME.colour("ink"))
            painter.drawText(QRect(left, rect.top(), width, head), WRAP, item.text)
            painter.setFont(THEME.font("note"))
            role = "soft" if item.severity == "note" else "ink"
            painter.setPen(THEME.colour(role))
            painter.drawText(
                QRect(left, rect.top() + head + THEME.px(2), width, body),
                WRAP,
                f"{item.why} {item.do}",
            )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for place, rect in enumerate(self._rects):
            if rect.contains(event.position().toPoint()):
                self._take(place)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if not step or not self.findings:
            super().keyPressEvent(event)
            return
        self._take(moved(self._current, step, len(self.findings)))

    def _take(self, place: int) -> None:
        self._current = place
        self.update()
        if self.findings and self.findings[place].figure:
            self.explained.emit(self.findings[place].figure)

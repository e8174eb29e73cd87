"""The margin's list of what there is to notice."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPoint, QRect, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from lumvak.core.figures.cures import cure_of
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.mentioned import Mention, mentioned
from lumvak.core.said import Text, sentences
from lumvak.ui.speech import SPEECH, in_words, placed, spoken, worded
from lumvak.ui.widgets.keys import is_enter, moved, step_of
from lumvak.ui.widgets.linked_text import LinkedText
from lumvak.ui.widgets.marks import draw_mark
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Spots, Told
from lumvak.ui.widgets.words import WRAP

Laid = tuple[str, tuple[Mention, ...]]


def _body(item: Finding) -> Text:
    return sentences(item.why, item.do)


def _laid(said: Text, item: Finding, figures: Mapping[str, Figure]) -> Laid:
    """A text of a finding, and the places in it that are figures."""
    text, places = placed(said)
    return text, mentioned(places, figures, (item.figure, *item.beside))


class FindingsView(QWidget):
    """Paints the findings of a stage; a click shows the figure that one is about.

    Numbers in the sentences are underlined; a click on one shows the figure that it is. Up and Down
    go from finding to finding, Left and Right along the figures of one, Enter to where it is cured.
    """

    explained = pyqtSignal(str)
    cured = pyqtSignal(str)
    laid_out = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.findings: tuple[Finding, ...] | None = None
        self._said: list[tuple[Laid, Laid]] = []
        self._texts: list[tuple[LinkedText, LinkedText]] = []
        self._rects: list[QRect] = []
        self._width = -1
        self._spelling = SPEECH.spelling
        self._current, self._along = -1, 0
        self._spots = Spots(self, self._cure)
        self.setMouseTracking(True)

    def show_findings(
        self, findings: tuple[Finding, ...], figures: Mapping[str, Figure] | None = None
    ) -> None:
        """Show these findings, the worst first; ``figures`` are all that their numbers may be."""
        if (findings, SPEECH.spelling) == (self.findings, self._spelling):
            return
        self._spelling = SPEECH.spelling
        self._said = [
            (_laid(item.text, item, figures or {}), _laid(_body(item), item, figures or {}))
            for item in findings
        ]
        self._current = -1
        count = worded("{} at this stage", len(findings)) if findings else "nothing at this stage"
        known = {item.code for item in self.findings or ()}
        fresh = [
            f"{in_words(item.severity)}: {spoken(item.text)}"
            for item in findings
            if item.code not in known
        ]
        # What is new is in the name, for a name that changes is announced.
        new = worded(", new: {}", "; ".join(fresh)) if fresh and self.findings is not None else ""
        self.setAccessibleName(worded("To notice: {}{}", count, new))
        self.findings = findings
        self._tell()
        self.relayout()

    def _tell(self) -> None:
        names = [
            f"{in_words(item.severity)}: {head}. {body}"
            for item, ((head, _), (body, _)) in zip(self.findings or (), self._said, strict=True)
        ]
        self._spots.show(names, max(self._current, 0))

    def told(self) -> Told:
        """The findings as rows."""
        rows = [
            (item.severity, head, body)
            for item, ((head, _), (body, _)) in zip(self.findings or (), self._said, strict=True)
        ]
        return Told("To notice", ("how bad", "what", "why, and what to do"), rows)

    def relayout(self) -> None:
        """Lay the texts out for the width there is."""
        width = max(self.width(), THEME.px(120))
        inner = width - THEME.px(24)
        top = 0
        self._rects, self._texts = [], []
        for head, body in self._said:
            texts = (
                LinkedText(*head, inner, "table", strong=True),
                LinkedText(*body, inner, "note", strong=False),
            )
            tall = sum(text.height for text in texts) + THEME.px(14)
            self._texts.append(texts)
            self._rects.append(QRect(0, top, width, tall))
            top += tall
        tall = top if self.findings else THEME.px(40)
        if tall != self.minimumHeight():
            self.setMinimumHeight(tall)
            self.laid_out.emit()
        self._spots.lay(self._rects)
        self.update()

    def resizeEvent(self, event: object) -> None:
        if self.width() != self._width:
            self._width = self.width()
            self.relayout()

    def _places(self, place: int) -> list[tuple[LinkedText, QPoint]]:
        """The two texts of a finding and their upper left corners."""
        rect, (head, body) = self._rects[place], self._texts[place]
        left = rect.left() + THEME.px(22)
        return [
            (head, QPoint(left, rect.top())),
            (body, QPoint(left, rect.top() + head.height + THEME.px(2))),
        ]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if not self.findings:
            painter.setFont(THEME.font("note"))
            painter.setPen(THEME.colour("soft"))
            painter.drawText(
                self.rect(),
                Qt.AlignmentFlag.AlignTop | WRAP,
                in_words("Nothing to notice at this stage."),
            )
            return
        for place, (item, rect) in enumerate(zip(self.findings, self._rects, strict=True)):
            if place == max(self._current, 0) and self.hasFocus():
                painter.fillRect(rect, THEME.colour("tint"))
                painter.setPen(QPen(THEME.colour("verdigris"), 2))
                painter.drawRect(rect.adjusted(1, 1, -1, -1))
            draw_mark(painter, THEME.px(8), rect.top() + THEME.px(10), item.severity)
            roles = ("ink", "soft" if item.severity == "note" else "ink")
            for (text, corner), role in zip(self._places(place), roles, strict=True):
                painter.setPen(THEME.colour(role))
                text.draw(painter, corner.x(), corner.y())

    def number_at(self, at: QPoint) -> str:
        """Key of the figure whose number stands at a place; empty where there is none."""
        for place in range(len(self._rects)):
            for text, corner in self._places(place):
                if key := text.key_at(at.x() - corner.x(), at.y() - corner.y()):
                    return key
        return ""

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            over = bool(self.number_at(event.position().toPoint()))
            shape = Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor
            self.setCursor(shape)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        at = event.position().toPoint()
        number = self.number_at(at)
        for place, rect in enumerate(self._rects):
            if rect.contains(at):
                self._take(place)
        if number:
            self.explained.emit(number)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if not self.findings:
            super().keyPressEvent(event)
        elif step := step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._take(moved(self._current, step, len(self.findings)))
        elif step := step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right):
            keys = self._keys(max(self._current, 0))
            self._along = (self._along + step) % max(len(keys), 1)
            if keys:
                self.explained.emit(keys[self._along])
        elif is_enter(event):
            self._cure(max(self._current, 0))
        else:
            super().keyPressEvent(event)

    def _cure(self, place: int) -> None:
        """Go to where a finding is cured; a caution has no such place."""
        if self.findings and (path := cure_of(self.findings[place])):
            self.cured.emit(path)

    def _keys(self, place: int) -> list[str]:
        """The figure that a finding is about, and those of its numbers, each once."""
        assert self.findings is not None
        numbers = (item.key for text in self._texts[place] for item in text.mentions)
        about = self.findings[place].figure
        return list(dict.fromkeys(key for key in (about, *numbers) if key))

    def _take(self, place: int) -> None:
        self._current, self._along = place, 0
        self._tell()
        self.update()
        if self.findings and self.findings[place].figure:
            self.explained.emit(self.findings[place].figure)

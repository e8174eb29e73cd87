"""Headings, soft lines, rows of widgets, and what stands where nothing was entered yet."""

from __future__ import annotations

import html
from collections.abc import Sequence

from PyQt6.QtCore import QRect, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QSizePolicy, QWidget

from lumvak.ui.speech import in_words
from lumvak.ui.widgets.theme import THEME

# Text that goes on in the next line, as a flag for painters.
WRAP = int(Qt.TextFlag.TextWordWrap)
HIGHEST_PX = 100_000


class Label(QLabel):
    """A text in the language in force, whenever it is set."""

    def __init__(self, text: str = "") -> None:
        super().__init__(in_words(text))

    def setText(self, text: str | None) -> None:
        """Show a text."""
        super().setText(in_words(text or ""))

    def setAccessibleName(self, name: str | None) -> None:
        """Tell a name to those who do not see the text."""
        super().setAccessibleName(in_words(name or ""))

    def setToolTip(self, text: str | None) -> None:
        """Tell more where the pointer rests."""
        super().setToolTip(in_words(text or ""))


def plain(text: str) -> QLabel:
    """A label that shows its text as it is, whatever it looks like: names come from elsewhere."""
    label = Label(text)
    label.setTextFormat(Qt.TextFormat.PlainText)
    return label


def tip(text: str) -> str:
    """A text as a tip that shows it as it is."""
    if "<" not in text:
        return text
    return f"<qt>{html.escape(text).replace(chr(10), '<br>')}</qt>"


def heading(text: str) -> QLabel:
    """A section heading."""
    label = plain(text)
    label.setFont(THEME.font("section", strong=True))
    return label


class Wrapped(Label):
    """A text that goes on in the next line, and is never lower than its lines."""

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._be_high()

    def setText(self, text: str | None) -> None:
        """Show a text."""
        super().setText(text)
        self._be_high()

    def _be_high(self) -> None:
        # Pages that scroll ask for the least height, and do not ask for which width. A label's own
        # height for a width is never under the least height that it was given when it was narrower.
        inner, edges = self.contentsRect(), self.contentsMargins()
        room = QRect(0, 0, max(inner.width(), 1), HIGHEST_PX)
        lines = self.fontMetrics().boundingRect(room, WRAP, self.text())
        high = lines.height() + edges.top() + edges.bottom() if self.text() else 0
        if high != self.minimumHeight():
            self.setMinimumHeight(high)


def soft(text: str, *, wrap: bool = False) -> QLabel:
    """A line of soft text."""
    label = Wrapped() if wrap else Label()
    label.setTextFormat(Qt.TextFormat.PlainText)
    label.setObjectName("soft")
    label.setFont(THEME.font("table"))
    label.setWordWrap(wrap)
    label.setText(text)
    return label


def side_by_side(*fields: QWidget) -> QWidget:
    """Fields in one row, packed to the left."""
    row = QWidget()
    layout = QHBoxLayout(row)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(THEME.px(10))
    for field in fields:
        layout.addWidget(field)
    layout.addStretch(1)
    return row


class Empty(QWidget):
    """A title and the steps to begin with, numbered where one comes after the other."""

    def __init__(self, title: str, lines: Sequence[str], *, numbered: bool = True) -> None:
        super().__init__()
        self.title = heading(title)
        self.lines: list[QLabel] = [soft(line, wrap=True) for line in lines]
        self.setAccessibleName(f"{title}: {' '.join(lines)}")
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        rows = QGridLayout(self)
        rows.setContentsMargins(0, THEME.px(14), 0, THEME.px(14))
        rows.setHorizontalSpacing(THEME.px(10))
        rows.setVerticalSpacing(THEME.px(8))
        rows.addWidget(self.title, 0, 0, 1, 2)
        for place, line in enumerate(self.lines, 1):
            mark = plain(str(place) if numbered else "·")
            mark.setFont(THEME.font("table", strong=True, table=True))
            rows.addWidget(mark, place, 0)
            rows.addWidget(line, place, 1)
        rows.setColumnStretch(1, 1)

    def say(self, place: int, text: str) -> None:
        """Say something else in the line of a place, from 0."""
        self.lines[place].setText(text)

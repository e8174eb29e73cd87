"""The window's own line: what went wrong, or work to bring back, with what can be done."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from lumvak.ui.speech import in_words
from lumvak.ui.widgets.marks import draw_mark
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain

Action = tuple[str, Callable[[], None]]


class Notice(QWidget):
    """A strip below the title line; hidden while there is nothing to say."""

    def __init__(self) -> None:
        super().__init__()
        self.severity = "note"
        self.text = plain("")
        self.text.setWordWrap(True)
        self._layout = QHBoxLayout(self)
        self._layout.setContentsMargins(THEME.px(46), THEME.px(4), THEME.px(16), THEME.px(4))
        self._layout.addWidget(self.text, 1)
        self.buttons: list[QPushButton] = []
        self.hide()

    def say(self, severity: str, text: str, actions: Sequence[Action] = ()) -> None:
        """Show ``text``; each action is a word and what it does, and one more closes the line."""
        self.severity = severity
        self.text.setText(text)
        self.setAccessibleName(f"{in_words(severity)}: {text}")
        for button in self.buttons:
            self._layout.removeWidget(button)
            button.deleteLater()
        self.buttons = []
        for word, do in (*actions, ("close", self.hide)):
            button = QPushButton(word)
            # Whoever comes here by keys hears what it is about.
            button.setAccessibleDescription(f"{in_words(severity)}: {text}")
            button.clicked.connect(self.hide)
            if do != self.hide:
                button.clicked.connect(do)
            self.buttons.append(button)
            self._layout.addWidget(button)
        self.show()
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), THEME.colour("amber_wash"))
        draw_mark(painter, THEME.px(26), self.height() / 2, self.severity)

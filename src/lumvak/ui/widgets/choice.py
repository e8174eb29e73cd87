"""A row of buttons of which one is chosen, or several are."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QPoint, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QAbstractButton,
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QRadioButton,
    QSizePolicy,
    QWidget,
)

from lumvak.ui.speech import in_words
from lumvak.ui.widgets.keys import step_of
from lumvak.ui.widgets.theme import THEME


def list_box(name: str) -> QComboBox:
    """A list of words to choose from, as wide as they are."""
    box = QComboBox()
    box.setAccessibleName(name)
    # Dressed first: a width that was found undressed would stay.
    box.ensurePolished()
    box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
    return box


def _word_size(button: QAbstractButton) -> QSize:
    wide = QFontMetrics(THEME.font("table")).horizontalAdvance(button.text())
    return QSize(wide + THEME.px(18), THEME.px(26))


def _paint_word(button: QAbstractButton) -> None:
    """A button as a word, with a mark under it where it is in force."""
    painter = QPainter(button)
    rect, chosen = button.rect(), button.isChecked()
    if chosen:
        painter.fillRect(rect, THEME.colour("tint"))
        high = THEME.px(3)
        mark = QRect(rect.left(), rect.bottom() + 1 - high, rect.width(), high)
        painter.fillRect(mark, THEME.colour("copper"))
    painter.setFont(THEME.font("table", strong=chosen))
    painter.setPen(THEME.colour("ink" if chosen else "soft"))
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, button.text())
    if button.hasFocus() and isinstance(button, QCheckBox):
        painter.setPen(QPen(THEME.colour("verdigris"), 1, Qt.PenStyle.DotLine))
        painter.drawRect(rect.adjusted(3, 3, -4, -6))


def _stepped(button: QAbstractButton, event: QKeyEvent | None) -> bool:
    """Whether a key goes from word to word, and has."""
    row = button.parent()
    step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
    if step and isinstance(row, ChoiceRow):
        row.step(step)
    return bool(step)


class _One(QRadioButton):
    """A word of which one is in force."""

    def sizeHint(self) -> QSize:
        return _word_size(self)

    def minimumSizeHint(self) -> QSize:
        return _word_size(self)

    def hitButton(self, pos: QPoint) -> bool:
        return self.rect().contains(pos)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        _paint_word(self)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if not _stepped(self, event):
            super().keyPressEvent(event)


class _Any(QCheckBox):
    """A word that may be in force beside others."""

    def sizeHint(self) -> QSize:
        return _word_size(self)

    def minimumSizeHint(self) -> QSize:
        return _word_size(self)

    def hitButton(self, pos: QPoint) -> bool:
        return self.rect().contains(pos)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        _paint_word(self)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if not _stepped(self, event):
            super().keyPressEvent(event)


class ChoiceRow(QWidget):
    """A few words side by side, one of them in force; arrow keys move between them.

    What is picked is told, and shown once it is in force.
    """

    picked = pyqtSignal(object)
    _word: type[_One | _Any] = _One

    def __init__(self, items: Sequence[tuple[Any, str]], name: str) -> None:
        super().__init__()
        self._items: list[tuple[Any, str]] = []
        self._value: Any = items[0][0]
        self._buttons: list[_One | _Any] = []
        self.name = name
        # Whether it is keys that go from word to word: what is picked so does not end there.
        self.stepping = False
        layout = QHBoxLayout(self)
        layout.setContentsMargins(1, 1, 1, 1)
        layout.setSpacing(0)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.offer(items)

    @property
    def value(self) -> Any:
        """The value in force."""
        return self._value

    @property
    def offered(self) -> tuple[Any, ...]:
        """The values to choose from."""
        return tuple(value for value, _ in self._items)

    @property
    def words(self) -> tuple[QAbstractButton, ...]:
        """The buttons of the values, in order."""
        return tuple(self._buttons[: len(self._items)])

    def offer(self, items: Sequence[tuple[Any, str]]) -> None:
        """Offer these words instead."""
        if list(items) == self._items:
            return
        self._items = list(items)
        for place in range(len(self._buttons), len(items)):
            self._add(place)
        for place, button in enumerate(self._buttons):
            there = place < len(items)
            button.setVisible(there)
            if there:
                word = in_words(items[place][1])
                button.setText(word)
                button.setAccessibleName(f"{in_words(self.name)}: {word}")
                button.updateGeometry()
        self._tell()
        self.updateGeometry()

    def _add(self, place: int) -> None:
        button = self._word(self)
        button.setCursor(Qt.CursorShape.PointingHandCursor)
        button.clicked.connect(lambda: self._take(place))
        self._buttons.append(button)
        row = self.layout()
        assert row is not None
        row.addWidget(button)

    def show_value(self, value: Any) -> None:
        """Show ``value`` as the one in force."""
        if value != self._value:
            self._value = value
            self._tell()

    def step(self, by: int) -> None:
        """Pick the next word, or the one before."""
        values = [value for value, _ in self._items]
        place = values.index(self._value) if self._value in values else 0
        self.stepping = True
        try:
            self._pick(values[(place + by) % len(values)])
        finally:
            self.stepping = False

    def _take(self, place: int) -> None:
        # First, for who listens may give the focus to what comes next.
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._pick(self._items[place][0])
        # Of what was refused nothing is shown.
        self._tell()

    def _pick(self, value: Any) -> None:
        if value != self._value:
            self.picked.emit(value)

    def _in_force(self, value: Any) -> bool:
        return bool(value == self._value)

    def _at_hand(self) -> int:
        """The place that takes the focus for all."""
        force = [at for at, (value, _) in enumerate(self._items) if self._in_force(value)]
        return force[0] if force else 0

    def _tell(self) -> None:
        """Show what is in force, in the buttons and in the name of the whole."""
        words = [text for value, text in self._items if self._in_force(value)]
        name = f"{in_words(self.name)}: {', '.join(map(in_words, words))}"
        self.setAccessibleName(name)
        here, had = self._at_hand(), any(button.hasFocus() for button in self._buttons)
        for place, (value, _) in enumerate(self._items):
            button = self._buttons[place]
            # Alone for a moment: of what is in force none may be among the words.
            button.setAutoExclusive(False)
            button.setChecked(self._in_force(value))
            policy = Qt.FocusPolicy.StrongFocus if place == here else Qt.FocusPolicy.NoFocus
            button.setFocusPolicy(policy)
        for button in self._buttons:
            button.setAutoExclusive(isinstance(button, QRadioButton))
        self.setFocusProxy(self._buttons[here])
        if had and not self._buttons[here].hasFocus():
            self._buttons[here].setFocus(Qt.FocusReason.OtherFocusReason)
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if step:
            self.step(step)
        elif event is not None and event.key() == Qt.Key.Key_Space:
            self._take(self._at_hand())
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        here = any(button.hasFocus() for button in self._buttons)
        painter.setPen(QPen(THEME.colour("verdigris" if here else "line"), 2 if here else 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


class Several(ChoiceRow):
    """A few words side by side, any of them in force but at least one; Space turns one over.

    ``value`` is the tuple of those in force, in the order in which they stand.
    """

    _word = _Any
    _at = 0

    def __init__(self, items: Sequence[tuple[Any, str]], name: str) -> None:
        super().__init__(items, name)
        self._value = tuple(value for value, _ in items)
        self._tell()

    def _at_hand(self) -> int:
        return self._at

    def _in_force(self, value: Any) -> bool:
        return isinstance(self._value, tuple) and value in self._value

    def step(self, by: int) -> None:
        """Go to the next word, or the one before."""
        self._at = (self._at + by) % len(self._items)
        self._tell()

    def _pick(self, value: Any) -> None:
        """Turn one over; the last one in force stays."""
        self._at = [item for item, _ in self._items].index(value)
        kept = tuple(item for item, _ in self._items if (item in self._value) != (item == value))
        if kept:
            self.picked.emit(kept)

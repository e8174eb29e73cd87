"""A row of buttons of which one is chosen."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QCheckBox, QComboBox, QRadioButton, QSizePolicy, QWidget

from lumvak.ui.widgets.keys import step_of
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Spots


def list_box(name: str) -> QComboBox:
    """A list of words to choose from, as wide as they are."""
    box = QComboBox()
    box.setAccessibleName(name)
    # Dressed first: a width that was found undressed would stay.
    box.ensurePolished()
    box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
    return box


class Choice(QWidget):
    """A few words side by side, one of them in force; arrow keys move between them."""

    picked = pyqtSignal(object)
    _kind: type[QRadioButton | QCheckBox] = QRadioButton

    def __init__(self, items: Sequence[tuple[Any, str]], name: str) -> None:
        super().__init__()
        self._items = list(items)
        self._value: Any = items[0][0]
        self.name = name
        self._spots = Spots(self, lambda place: self._pick(self._items[place][0]), self._kind)
        self._say()
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    @property
    def value(self) -> Any:
        """The value in force."""
        return self._value

    @property
    def offered(self) -> tuple[Any, ...]:
        """The values to choose from."""
        return tuple(value for value, _ in self._items)

    def offer(self, items: Sequence[tuple[Any, str]]) -> None:
        """Offer these words instead."""
        if list(items) != self._items:
            self._items = list(items)
            self._say()
            self.updateGeometry()
            self.update()

    def show_value(self, value: Any) -> None:
        """Show ``value`` as the one in force."""
        if value != self._value:
            self._value = value
            self._say()
            self.update()

    def _say(self) -> None:
        """Its name, and the words of which one is in force."""
        words = [text for value, text in self._items if self._in_force(value)]
        self.setAccessibleName(f"{self.name}: {', '.join(words)}")
        self._tell()

    def _tell(self) -> None:
        force = [at for at, (value, _) in enumerate(self._items) if self._in_force(value)]
        names = [f"{self.name}: {text}" for _, text in self._items]
        self._spots.show(names, self._at_hand(force), force)
        self._spots.lay(self._rects())

    def _at_hand(self, force: Sequence[int]) -> int:
        """The place that the keys are at."""
        return force[0] if force else 0

    def _in_force(self, value: Any) -> bool:
        return bool(value == self._value)

    def _rects(self) -> list[QRectF]:
        metrics = QFontMetrics(THEME.font("table"))
        left, height = 1.0, THEME.px(26)
        rects = []
        for _, text in self._items:
            width = metrics.horizontalAdvance(text) + THEME.px(18)
            rects.append(QRectF(left, 1, width, height))
            left += width
        return rects

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._spots.lay(self._rects())

    def sizeHint(self) -> QSize:
        rects = self._rects()
        return QSize(round(rects[-1].right()) + 2, round(rects[-1].bottom()) + 2)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rects = self._rects()
        frame = rects[0].united(rects[-1])
        for rect, (value, text) in zip(rects, self._items, strict=True):
            chosen = self._in_force(value)
            if chosen:
                painter.fillRect(rect, THEME.colour("tint"))
                mark = QRectF(rect.left(), rect.bottom() - THEME.px(3), rect.width(), THEME.px(3))
                painter.fillRect(mark, THEME.colour("copper"))
            painter.setFont(THEME.font("table", strong=chosen))
            painter.setPen(THEME.colour("ink" if chosen else "soft"))
            painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, text)
        here = self.hasFocus()
        painter.setPen(QPen(THEME.colour("verdigris" if here else "line"), 2 if here else 1))
        painter.drawRect(frame)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for rect, (value, _) in zip(self._rects(), self._items, strict=True):
            if rect.contains(event.position()):
                self._pick(value)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if not step:
            super().keyPressEvent(event)
            return
        values = [value for value, _ in self._items]
        place = values.index(self._value) if self._value in values else 0
        self._pick(values[(place + step) % len(values)])

    def _pick(self, value: Any) -> None:
        if value != self._value:
            self.picked.emit(value)


class Several(Choice):
    """A few words side by side, any of them in force but at least one; Space turns one over.

    ``value`` is the tuple of those in force, in the order in which they stand.
    """

    _kind = QCheckBox
    _at = 0

    def __init__(self, items: Sequence[tuple[Any, str]], name: str) -> None:
        super().__init__(items, name)
        self._value = tuple(value for value, _ in items)
        self._say()

    def _at_hand(self, force: Sequence[int]) -> int:
        return self._at

    def _in_force(self, value: Any) -> bool:
        return value in self._value

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if self.hasFocus():
            painter = QPainter(self)
            painter.setPen(QPen(THEME.colour("verdigris"), 1, Qt.PenStyle.DotLine))
            painter.drawRect(self._rects()[self._at].adjusted(3, 3, -3, -5))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if step:
            self._at = (self._at + step) % len(self._items)
            self._tell()
            self.update()
        elif event is not None and event.key() == Qt.Key.Key_Space:
            self._pick(self._items[self._at][0])
        else:
            super().keyPressEvent(event)

    def _pick(self, value: Any) -> None:
        """Turn one over; the last one in force stays."""
        self._at = [item for item, _ in self._items].index(value)
        kept = tuple(item for item, _ in self._items if (item in self._value) != (item == value))
        if kept:
            self.picked.emit(kept)
        self._tell()
        self.update()

"""A layout that sets widgets side by side and goes on in a new line where the width ends."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QBoxLayout, QLayout, QLayoutItem, QScrollArea, QVBoxLayout, QWidget

from lumvak.ui.widgets.theme import THEME


class FlowLayout(QLayout):
    """Widgets in reading order, each in its own width, centred on its line."""

    def __init__(self, parent: QWidget, gap: int = 10) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self._gap = THEME.px(gap)
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem | None) -> None:
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._place(QRect(0, 0, width, 0), move=False)

    def sizeHint(self) -> QSize:
        shown = self._shown()
        width = sum(item.sizeHint().width() for item in shown) + self._gap * max(0, len(shown) - 1)
        return QSize(width, max((item.sizeHint().height() for item in shown), default=0))

    def minimumSize(self) -> QSize:
        sizes = [item.minimumSize() for item in self._shown()]
        return QSize(
            max((size.width() for size in sizes), default=0),
            max((size.height() for size in sizes), default=0),
        )

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        high = self._place(rect, move=True)
        widget = self.parentWidget()
        if widget is not None and widget.minimumHeight() != high:
            # So that nothing is squeezed where the height is short.
            widget.setMinimumHeight(high)

    def _shown(self) -> list[QLayoutItem]:
        return [item for item in self._items if not item.isEmpty()]

    def _place(self, rect: QRect, move: bool) -> int:
        """Set everything in its place; returns the height that takes."""
        lines: list[list[QLayoutItem]] = [[]]
        left = 0
        for item in self._shown():
            width = item.sizeHint().width()
            if lines[-1] and left + width > rect.width():
                lines.append([])
                left = 0
            lines[-1].append(item)
            left += width + self._gap
        top = 0
        for line in lines:
            high = max((item.sizeHint().height() for item in line), default=0)
            x = rect.x()
            for item in line if move else ():
                size = item.sizeHint()
                y = rect.y() + top + (high - size.height()) // 2
                item.setGeometry(QRect(QPoint(x, y), size))
                x += size.width() + self._gap
            top += high + (self._gap // 2 if line is not lines[-1] else 0)
        return top


def flowing(*widgets: QWidget, gap: int = 10) -> QWidget:
    """Widgets in a line that goes on in the next where the width ends."""
    row = QWidget()
    flow = FlowLayout(row, gap)
    for widget in widgets:
        flow.addWidget(widget)
    policy = row.sizePolicy()
    policy.setHeightForWidth(True)
    row.setSizePolicy(policy)
    return row


class Turning(QWidget):
    """Columns side by side where there is the width for it, else one below the other."""

    def __init__(self, wide_px: float, gap: int = 20) -> None:
        super().__init__()
        self._wide_px = wide_px
        self.columns = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self.columns.setContentsMargins(0, 0, 0, 0)
        self.columns.setSpacing(THEME.px(gap))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        beside = self.width() >= THEME.px(self._wide_px)
        self.columns.setDirection(
            QBoxLayout.Direction.LeftToRight if beside else QBoxLayout.Direction.TopToBottom
        )

    def minimumSizeHint(self) -> QSize:
        # Narrower than all side by side, for then they go below each other.
        items = [self.columns.itemAt(place) for place in range(self.columns.count())]
        widths = [item.minimumSize().width() for item in items if item is not None]
        return QSize(max(widths, default=0), super().minimumSizeHint().height())


class Scrolled(QScrollArea):
    """Scrolls up and down alone, and is never narrower than what is in it."""

    def minimumSizeHint(self) -> QSize:
        inner, bar, hint = self.widget(), self.verticalScrollBar(), super().minimumSizeHint()
        if inner is None or bar is None:
            return hint
        wide = inner.minimumSizeHint().width() + bar.sizeHint().width()
        return QSize(max(hint.width(), wide), hint.height())


def scrolled(inner: QWidget) -> QScrollArea:
    """A widget that takes the room there is, and can be scrolled where that is too little."""
    area = Scrolled()
    # What is in it takes the focus, and comes into view with it.
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setWidget(inner)
    return area


def scrolled_body(view: QWidget) -> QWidget:
    """The body of a view that fills it, and scrolls where there is too little room."""
    body = QWidget()
    page = QVBoxLayout(view)
    page.setContentsMargins(0, 0, 0, 0)
    page.addWidget(scrolled(body))
    return body

"""What a drawing shows, as heads and rows of words: for eyes, ears and hands that want a table."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
from msgspec import Struct
from PyQt6 import sip
from PyQt6.QtCore import QEvent, QObject, QRect, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QLabel, QPushButton, QWidget

from lumvak.ui.speech import digits, in_words, worded
from lumvak.ui.widgets.theme import THEME

# So many points are told of each curve of a plot.
POINTS = 12


class Told(Struct, frozen=True):
    """A drawing in words: its name, the heads of its columns, and its rows."""

    name: str
    heads: tuple[str, ...]
    rows: Sequence[tuple[str, ...]]

    @property
    def heard(self) -> str:
        """All rows in one text, for those who do not see them."""
        return "; ".join(" ".join(map(in_words, row)) for row in self.rows)


def told_by(widget: QWidget) -> Told | None:
    """What a widget tells of itself; a plot tells points of its curves. None for any other."""
    tell = getattr(widget, "told", None)
    if callable(tell):
        found: Told = tell()
        return found
    return told_plot(widget) if hasattr(widget, "getPlotItem") else None


def told_plot(plot: Any) -> Told:
    """Points of each curve of a plot, from end to end, with the words of its axes."""
    item = plot.getPlotItem()
    if item is None:
        return Told("", (), ())
    heads = ("curve", *(item.getAxis(side).labelText or side for side in ("bottom", "left")))
    rows: list[tuple[str, ...]] = []
    for number, curve in enumerate(item.listDataItems(), 1):
        if not hasattr(curve, "getOriginalDataset") or not curve.isVisible():
            continue
        data = [
            np.asarray(values, dtype=float)
            for values in curve.getOriginalDataset()
            if values is not None
        ]
        if len(data) != 2:
            continue
        x, y = data
        shown = np.flatnonzero(np.isfinite(x) & np.isfinite(y))
        ends = np.linspace(0, len(shown) - 1, min(POINTS, len(shown))).astype(int)
        name = curve.name() or worded("curve {}", number)
        rows += [(name, f"{digits(x[at], '.4g')}", f"{digits(y[at], '.4g')}") for at in shown[ends]]
    return Told(plot.accessibleName() or "plot", heads, rows)


class Drawing(QLabel):
    """Something painted, with the role of an image: what it shows is its name."""

    def __init__(self) -> None:
        super().__init__()
        # An image it is by having one; none of it is seen.
        self.setPixmap(QPixmap(1, 1))


class PlotImage(Drawing):
    """Lies over a plot, is an image of it to those who do not see it, and takes the focus for it.

    It paints nothing but the mark of the focus; pointer and keys are the plot's.
    """

    came = pyqtSignal(Qt.FocusReason)
    left = pyqtSignal()

    def __init__(self, plot: QWidget) -> None:
        super().__init__()
        self.setParent(plot)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        plot.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        plot.setFocusProxy(self)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.hasFocus():
            painter = QPainter(self)
            painter.setPen(QPen(THEME.colour("verdigris"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()
        if event is not None:
            self.came.emit(event.reason())

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()
        self.left.emit()


class Spots(QObject):
    """The places of something painted as buttons of their own, for those who do not see it.

    They paint nothing, and leave pointer and keys to what they lie over. The one at hand takes the
    focus for all of it. ``take`` is called with the place of one that is pressed without pointer or
    keys.
    """

    def __init__(
        self,
        over: QWidget,
        take: Callable[[int], object],
    ) -> None:
        super().__init__(over)
        self._over, self._take = over, take
        self._spots: list[QPushButton] = []
        self._shown: tuple[tuple[str, ...], int] = ((), -1)

    def show(self, names: Sequence[str], here: int) -> None:
        """Have a place for each name; ``here`` is the one at hand."""
        fresh = (tuple(names), here)
        if fresh == self._shown:
            return
        self._shown = fresh
        for place in range(len(self._spots), len(names)):
            self._add(place)
        for place, spot in enumerate(self._spots):
            there = place < len(names)
            spot.setVisible(there)
            spot.setAccessibleName(names[place] if there else "")
            at_hand = there and place == here
            spot.setFocusPolicy(Qt.FocusPolicy.StrongFocus if at_hand else Qt.FocusPolicy.NoFocus)
        had = self._over.hasFocus()
        # The place is told, not the whole, where there is one; a policy goes on to a proxy.
        self._over.setFocusProxy(None)
        self._over.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._over.setFocusProxy(self._spots[here] if 0 <= here < len(names) else None)
        if had:
            self._over.setFocus()

    def lay(self, rects: Sequence[QRect | QRectF]) -> None:
        """Where they are painted."""
        for spot, rect in zip(self._spots, rects, strict=False):
            spot.setGeometry(rect.toRect() if isinstance(rect, QRectF) else rect)

    def _add(self, place: int) -> None:
        spot = QPushButton(self._over)
        spot.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        spot.installEventFilter(self)
        spot.clicked.connect(lambda _=False: self._take(place))
        self._spots.append(spot)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        kind = QEvent.Type.None_ if event is None else event.type()
        turned = kind in (QEvent.Type.FocusIn, QEvent.Type.FocusOut)
        # What goes away takes the focus from its places last, when nothing may be left of this.
        over = vars(self).get("_over")
        if turned and over is not None and not sip.isdeleted(over):
            over.update()
        if event is not None and kind == QEvent.Type.KeyPress:
            # It goes on to what lies below.
            event.ignore()
        return kind in (QEvent.Type.KeyPress, QEvent.Type.Paint)

"""What the plots share: axes in our look, lines with a word on them, and looking closer."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any
from weakref import WeakKeyDictionary

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy

from lumvak.ui.speech import SPEECH, in_words
from lumvak.ui.widgets.keys import step_of
from lumvak.ui.widgets.theme import SIZES, THEME
from lumvak.ui.widgets.told import PlotImage

Numbers = Sequence[float] | np.ndarray
Span = tuple[float, float]
# A step closer shows so much of what was seen; no less than so much of the whole is shown.
CLOSER, CLOSEST = 0.8, 0.02
STEP_SHARE = 0.1


class NumberAxis(pg.AxisItem):  # type: ignore[misc]
    """An axis whose numbers have the builder's decimal sign."""

    def tickStrings(self, values: Any, scale: float, spacing: float) -> Any:
        texts = super().tickStrings(values, scale, spacing)
        return [text.replace(".", ",") for text in texts] if SPEECH.spelling.comma else texts


class BrushBox(pg.ViewBox):  # type: ignore[misc]
    """A view in which a drag draws a rectangle, and a click picks a place.

    ``hovered`` tells the place under the pointer, ``None`` once it left.
    """

    brushed = pyqtSignal(QRectF)
    clicked = pyqtSignal(QPointF)
    hovered = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__(enableMenu=False)
        self.setMouseEnabled(False, False)

    def mouseDragEvent(self, event: Any, axis: Any = None) -> None:
        event.accept()
        start, stop = (
            self.mapSceneToView(event.buttonDownScenePos()),
            self.mapSceneToView(event.scenePos()),
        )
        self.brushed.emit(QRectF(start, stop).normalized())

    def mouseClickEvent(self, event: Any) -> None:
        event.accept()
        self.clicked.emit(self.mapSceneToView(event.scenePos()))

    def hoverEvent(self, event: Any) -> None:
        self.hovered.emit(None if event.isExit() else self.mapSceneToView(event.scenePos()))


class Plot(pg.PlotWidget):  # type: ignore[misc]
    """A plot that shows the whole of what it is told to, or a part of it, looked at closer.

    + and − or the wheel with Ctrl look closer and back, 0 or a double click show the whole; the
    arrows move along, where they mean nothing else here. ``looked`` tells the part across.
    """

    looked = pyqtSignal(float, float)

    def __init__(self, **wanted: Any) -> None:
        axes = {side: NumberAxis(side) for side in ("left", "bottom")}
        # A menu that nobody is shown is not made: it costs more than the plot.
        made = {"axisItems": axes, "enableMenu": False, **wanted}
        super().__init__(background=THEME.colour("sheet"), **made)
        self.setMouseEnabled(x=False, y=False)
        self.hideButtons()
        self.disableAutoRange()
        # Below the words of the axis, whose tails would be cut.
        self.getPlotItem().layout.setContentsMargins(1, 1, 1, THEME.px(6))
        # Only the plot takes the focus, not what it draws on.
        self.viewport().setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.seen = PlotImage(self)
        self.whole: tuple[Span, Span] = ((0.0, 1.0), (0.0, 1.0))
        # The part that is seen, as shares of the whole.
        self._part: tuple[Span, Span] = ((0.0, 1.0), (0.0, 1.0))

    def show_whole(self, x: Span, y: Span) -> None:
        """Show these ranges, or the part of them that is looked at."""
        self.whole = (x, y)
        self._show_part()

    def look_across(self, low: float, high: float) -> None:
        """Look at the part between two shares of the axis across."""
        if self._part[0] != (low, high):
            self._part = ((low, high), self._part[1])
            self._show_part()

    def closer(self, by: float, about: QPointF | None = None) -> None:
        """Show ``by`` as much as now, around a place in the view; else around its middle."""
        spans = self.getPlotItem().vb.viewRange()
        at = [0.5, 0.5]
        if about is not None:
            at = [
                (place - low) / (high - low)
                for place, (low, high) in zip((about.x(), about.y()), spans, strict=True)
            ]
        across, up = self._part
        self.look((_zoomed(across, by, at[0]), _zoomed(up, by, at[1])))

    def along(self, across: float, up: float) -> None:
        """Move the part that is seen by shares of it."""
        self.look((_moved(self._part[0], across), _moved(self._part[1], up)))

    def look(self, part: tuple[Span, Span]) -> None:
        """Look at a part of the whole, by shares of it."""
        self._part = part
        self._show_part()
        self.looked.emit(*self._part[0])

    def _show_part(self) -> None:
        wanted = [
            (low + part[0] * (high - low), low + part[1] * (high - low))
            for (low, high), part in zip(self.whole, self._part, strict=True)
        ]
        seen_x, seen_y = self.viewRange()
        # Nothing is drawn anew where it is shown already.
        if (*seen_x,) != wanted[0]:
            self.setXRange(*wanted[0], padding=0)
        if (*seen_y,) != wanted[1]:
            self.setYRange(*wanted[1], padding=0)

    def setAccessibleName(self, name: str) -> None:
        """Name it, to those who do not see it too."""
        super().setAccessibleName(name)
        self.seen.setAccessibleName(name)

    def tell(self, at_cursor: str) -> None:
        """Say what is at the cursor to those who do not see it: it is part of the name."""
        self.seen.setAccessibleName(f"{self.accessibleName()}: {at_cursor}")

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        # Qt resizes it once before it is whole.
        if hasattr(self, "seen"):
            self.seen.setGeometry(self.rect())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        across = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        up = step_of(event, Qt.Key.Key_Down, Qt.Key.Key_Up)
        if event.text() in ("+", "-", "\u2212"):
            self.closer(CLOSER if event.text() == "+" else 1.0 / CLOSER)
        elif event.text() == "0":
            self.closer(math.inf)
        elif (across or up) and self._part != ((0.0, 1.0), (0.0, 1.0)):
            self.along(across * STEP_SHARE, up * STEP_SHARE)
        else:
            # Not the plot's own keys, which would move it as a scene.
            event.ignore()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is None:
            return
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            place = self.getPlotItem().vb.mapSceneToView(
                self.mapToScene(event.position().toPoint())
            )
            self.closer(CLOSER if event.angleDelta().y() > 0 else 1.0 / CLOSER, place)
            event.accept()
        else:
            event.ignore()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self.closer(math.inf)
        super().mouseDoubleClickEvent(event)


def _zoomed(part: Span, by: float, share: float) -> Span:
    """A part of a whole made narrower or wider around a share of it, within the whole."""
    wide = min(max((part[1] - part[0]) * by, CLOSEST), 1.0)
    low = part[0] + share * (part[1] - part[0] - wide)
    low = min(max(low, 0.0), 1.0 - wide)
    return low, low + wide


def _moved(part: Span, by: float) -> Span:
    wide = part[1] - part[0]
    low = min(max(part[0] + by * wide, 0.0), 1.0 - wide)
    return low, low + wide


def named_plot(left: str, bottom: str, left_px: int = 52) -> Plot:
    """A plot with its axes named."""
    plot = Plot()
    plot.setAccessibleName(left)
    axis(plot, "left", left)
    axis(plot, "bottom", bottom)
    plot.getAxis("left").setWidth(THEME.px(left_px))
    return plot


def keep_room(plot: pg.PlotWidget, high_px: float, wide_px: float = 240) -> None:
    """Never smaller than so many px at 100 %; a plot takes what room there is in its page."""
    plot.setMinimumHeight(THEME.px(high_px))
    plot.setMinimumWidth(THEME.px(wide_px))
    plot.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
    plot.getPlotItem().setContentsMargins(0, THEME.px(6), THEME.px(8), 0)


def axis(plot: pg.PlotWidget, side: str, text: str) -> None:
    """Dress one axis of a plot; ``text`` names what it shows and its unit.

    An axis that is dressed so already is left alone: its ticks need not be painted anew.
    """
    font = THEME.font("note", table=True)
    made = plot.getAxis(side)
    text = in_words(text)
    if text and made.labelText == text and made.label.font() == font:
        return
    # Numbers as they are, in the unit that is named.
    made.enableAutoSIPrefix(False)
    made.setPen(THEME.colour("line"))
    made.setTextPen(THEME.colour("soft"))
    made.setTickFont(font)
    if text:
        made.setLabel(text, color=THEME.colours.soft)
        made.label.setFont(font)


def show_points(item: Any, x: Numbers, y: Numbers) -> None:
    """Show a curve or dots through these places; nothing is drawn anew where it does already."""
    before = _SHOWN.get(item)
    if before is None or not (np.array_equal(before[0], x) and np.array_equal(before[1], y)):
        _SHOWN[item] = (x, y)
        item.setData(x, y)


# What each curve shows, until it is thrown away.
_SHOWN: WeakKeyDictionary[Any, tuple[Any, Any]] = WeakKeyDictionary()


def legend_look() -> dict[str, Any]:
    """Colour and size of the words of a legend."""
    return {"labelTextColor": THEME.colour("ink"), "labelTextSize": f"{THEME.px(SIZES['note'])}px"}


def marked_line(
    place: float,
    angle: int,
    role: str,
    text: str,
    along: float,
    anchor: tuple[float, float] = (0, 1),
) -> pg.InfiniteLine:
    """A dotted line right across, lying (0) or standing (90), with a word beside it.

    ``anchor`` is the corner of the word that lies on the line: right and above it unless given. The
    word of a standing line is on its side where there is more room, so that it stays inside.
    """
    sides = [anchor, anchor] if angle == 0 else [(0.0, anchor[1]), (1.0, anchor[1])]
    line = pg.InfiniteLine(
        pos=place,
        angle=angle,
        pen=pg.mkPen(THEME.colour(role), width=1, style=Qt.PenStyle.DotLine),
        label=text,
        labelOpts={"position": along, "color": THEME.colour(role), "anchors": sides},
    )
    line.label.setFont(THEME.font("note", table=True))
    return line


def round_range(low: float, high: float) -> tuple[float, float]:
    """A range widened to round numbers, so that an axis stands still while a value creeps."""
    span = max(high - low, 1e-6)
    power = 10.0 ** math.floor(math.log10(span / 5.0))
    step = next(size * power for size in (1.0, 2.0, 5.0, 10.0) if size * power * 10.0 >= span)
    return math.floor(low / step) * step, math.ceil(high / step) * step

"""The time-current chart: amps over how long, log-log, with a cursor that reads every curve."""

from __future__ import annotations

import math
from collections.abc import Callable, Collection, Sequence
from typing import Any

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QPointF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QResizeEvent

from lumvak.core.power.opening_order import Curve
from lumvak.core.time_current import LONGEST_S, SHORTEST_S, TIMES_S, Array
from lumvak.ui.speech import digits, in_words, say, say_about, spoken, worded
from lumvak.ui.stages.power.curve_names import Box, name_places
from lumvak.ui.widgets.keys import step_of
from lumvak.ui.widgets.measured import text_width
from lumvak.ui.widgets.plots import Plot, Span, axis, marked_line, show_points
from lumvak.ui.widgets.theme import THEME

STEP_DECADES = 0.05
SOLID, DASH = Qt.PenStyle.SolidLine, Qt.PenStyle.DashLine
DOT, DASH_DOT = Qt.PenStyle.DotLine, Qt.PenStyle.DashDotLine
# Colour and line of each curve: told by its line and its name as well as by its colour.
LOOKS: dict[str, tuple[str, Qt.PenStyle, float]] = {
    "load": ("copper", SOLID, 2.6),
    "surge": ("copper", DASH, 1.8),
    "stage-1": ("ink", SOLID, 1.8),
    "stage-2": ("ink", DASH, 1.8),
    "stage-3": ("ink", DOT, 1.8),
    "fuse": ("verdigris", SOLID, 1.4),
    "link": ("verdigris", DASH_DOT, 1.4),
    "cells": ("soft", DOT, 1.6),
    "series-joints": ("crimson", DASH, 1.4),
    "group-joints": ("crimson", DOT, 1.4),
    "leads": ("amber", SOLID, 1.4),
    "connector": ("amber", DASH, 1.4),
    "switch": ("amber", DOT, 1.4),
}
NAME_VEIL = 170
# Where there is less room than this, names stay where they are.
MOST_CRAMPED_PX = 60
# Names are not placed anew for curves that moved no farther.
UNSEEN_PX = 2.0


class _DecadeAxis(pg.AxisItem):  # type: ignore[misc]
    """A logarithmic axis in plain words: 1, 2 and 5 of each decade, no powers of ten."""

    def __init__(self, side: str, steps: Sequence[float], spell: Callable[[float], str]) -> None:
        super().__init__(side)
        self._steps, self._spell = tuple(steps), spell

    def tickValues(self, low: float, high: float, size: float) -> list[Any]:
        found = [
            math.log10(step) + decade
            for decade in range(math.floor(low), math.ceil(high) + 1)
            for step in self._steps
        ]
        return [(1.0, [value for value in found if low - 1e-9 <= value <= high + 1e-9])]

    def tickStrings(self, values: Sequence[float], scale: float, spacing: float) -> list[str]:
        return [self._spell(10.0**value) for value in values]


class CurvePlot(Plot):
    """Curves over time; ``moved`` with the time in s under the cursor."""

    moved = pyqtSignal(float)

    def __init__(self, over_short: float = 1.6) -> None:
        """``over_short`` times the short-circuit current is where the chart ends at the top."""
        self._over_short = over_short
        self._curves: dict[str, Curve] = {}
        self._boxes: list[Box] = []
        self._placed: tuple[dict[str, Array], tuple[float, float]] = ({}, (0.0, 0.0))
        super().__init__(
            axisItems={
                "left": _DecadeAxis("left", (1.0, 2.0, 5.0), lambda amps: say(amps, "")),
                "bottom": _DecadeAxis("bottom", (1.0,), _brief),
            },
        )
        self.setLogMode(x=True, y=True)
        axis(self, "left", "current, A")
        axis(self, "bottom", "for how long")
        self.getAxis("left").setWidth(THEME.px(52))
        self.setAccessibleName(in_words("Current against time of every part"))
        self.seconds = 1.0
        self.cursor_line = marked_line(0.0, 90, "soft", "", 0.06)
        self.short_line = marked_line(3.0, 0, "crimson", "", 0.98, (1, 1))
        self.addItem(self.short_line)
        self.addItem(self.cursor_line)
        self.drawn: dict[str, tuple[pg.PlotDataItem, pg.PlotDataItem]] = {}
        self._fills: dict[str, pg.FillBetweenItem] = {}
        self._names: dict[str, pg.TextItem] = {}
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self.place_names)
        self.set_seconds(1.0)
        self.scene().sigMouseMoved.connect(self._hover)

    def show_curves(self, curves: Sequence[Curve], hidden: Collection[str], short_a: float) -> None:
        """Draw these curves but for the hidden ones, up to what a dead short gives."""
        shown = {curve.key: curve for curve in curves if curve.key not in hidden}
        for key in [key for key in self.drawn if key not in shown]:
            self._drop(key)
        top = short_a * self._over_short
        bottom = _bottom(list(shown.values()), top)
        for curve in shown.values():
            self._draw(curve, top)
        self.short_line.setPos(math.log10(short_a))
        self.short_line.label.setFormat(worded("short-circuit current {}", say(short_a, "A")))
        x = (math.log10(SHORTEST_S), math.log10(LONGEST_S))
        self.show_whole(x, (math.log10(bottom), math.log10(top)))
        self._curves = shown
        self._names_soon()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        # The base calls this before there is anything to show.
        if self._curves:
            self._names_soon()

    def look(self, part: tuple[Span, Span]) -> None:
        """Look at a part of the whole; the names go with it."""
        super().look(part)
        self._names_soon()

    def _names_soon(self) -> None:
        """Place the names once, when all that moves has moved."""
        if not self._soon.isActive():
            self._soon.start()

    def _are_placed(self, lines: dict[str, Array], room: tuple[float, float]) -> bool:
        """Whether the names were placed for curves that no eye tells from these."""
        before, before_room = self._placed
        return (
            room == before_room
            and lines.keys() == before.keys()
            and all(
                lines[key].shape == before[key].shape
                and np.allclose(lines[key], before[key], rtol=0.0, atol=UNSEEN_PX, equal_nan=True)
                for key in lines
            )
        )

    def names_px(self) -> list[Box]:
        """Middle, width and height in px of each name that is shown."""
        return self._boxes

    def place_names(self) -> None:
        """Set the names apart and off the lines, for the size and the ranges in view."""
        box = self.getPlotItem().vb
        room = (box.width(), box.height())
        (left, right), (bottom, top) = box.viewRange()
        if min(room) < MOST_CRAMPED_PX or not self._curves:
            return
        scale = np.array([room[0] / (right - left), room[1] / (top - bottom)])
        lines, sizes = {}, {}
        for key, curve in self._curves.items():
            seconds, amps = self.drawn[key][0].getOriginalDataset()
            points = np.log10(np.stack([seconds, np.maximum(amps, 1e-9)], axis=1))
            lines[key] = (points - (left, top)) * scale * (1.0, -1.0)
            width = text_width(spoken(curve.name), "note", table=True) + 2.0 * THEME.px(4)
            sizes[key] = (width, float(THEME.px(20)))
        if self._are_placed(lines, room):
            return
        self._placed = (lines, room)
        label = self.short_line.label
        wide = text_width(label.format, "note", table=True) + THEME.px(8)
        y = (top - self.short_line.value()) * scale[1] - THEME.px(10)
        short = (0.98 * room[0] - wide / 2.0, y, float(wide), float(THEME.px(20)))
        places = name_places(lines, sizes, room, (short,))
        self._boxes = [(*places[key], *sizes[key]) for key in places]
        for key, curve in self._curves.items():
            item = self._names[key]
            item.setVisible(key in places)
            if key in places:
                x, y = places[key]
                item.setText(spoken(curve.name))
                item.setPos(QPointF(left + x / scale[0], top - y / scale[1]))

    def _drop(self, key: str) -> None:
        for item in self.drawn.pop(key):
            self.removeItem(item)
        if key in self._fills:
            self.removeItem(self._fills.pop(key))
        self.removeItem(self._names.pop(key))

    def _draw(self, curve: Curve, top: float) -> None:
        role, style, width = LOOKS.get(curve.key, ("soft", SOLID, 1.2))
        if curve.key not in self.drawn:
            pen = pg.mkPen(THEME.colour(role), width=width, style=style)
            pair = (self.plot(pen=pen, connect="finite"), self.plot(pen=pen, connect="finite"))
            self.drawn[curve.key] = pair
            if curve.kind in ("fuse", "link"):
                wash = QColor(THEME.colour("verdigris_wash"))
                wash.setAlpha(120)
                fill = pg.FillBetweenItem(*pair, brush=pg.mkBrush(wash))
                fill.setZValue(-10)
                self.addItem(fill)
                self._fills[curve.key] = fill
            veil = QColor(THEME.colour("sheet"))
            veil.setAlpha(NAME_VEIL)
            name = pg.TextItem(
                "", color=THEME.colour(role), anchor=(0.5, 0.5), fill=pg.mkBrush(veil)
            )
            name.setFont(THEME.font("note", table=True))
            self.addItem(name)
            self._names[curve.key] = name
        low, high = self.drawn[curve.key]
        show_points(low, *_stairs(curve, curve.low_a, top))
        if curve.kind in ("fuse", "link"):
            show_points(high, *_stairs(curve, curve.high_a, top))

    def set_seconds(self, seconds: float) -> None:
        """Move the cursor to a time."""
        self.seconds = min(max(seconds, SHORTEST_S), LONGEST_S)
        self.cursor_line.setPos(math.log10(self.seconds))
        self.cursor_line.label.setFormat(say_about(self.seconds))
        self.moved.emit(self.seconds)

    def _hover(self, place: QPointF) -> None:
        box = self.getPlotItem().vb
        if box.sceneBoundingRect().contains(place):
            self.set_seconds(10.0 ** box.mapSceneToView(place).x())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if step:
            self.set_seconds(self.seconds * 10.0 ** (step * STEP_DECADES))
        else:
            super().keyPressEvent(event)


def _brief(seconds: float) -> str:
    """A time on the axis."""
    return (
        worded("{} ms", digits(seconds * 1000.0, ".3g"))
        if seconds < 0.099
        else f"{say(round(seconds, 1), 's')}"
    )


def _bottom(curves: Sequence[Curve], top: float) -> float:
    """The bottom of the chart: 1, 2 or 5 of a decade, under all that is shown."""
    least = 0.8 * max(min((float(np.min(item.low_a)) for item in curves), default=1.0), 0.1)
    decade = 10.0 ** math.floor(math.log10(least))
    return min(max(step * decade for step in (1.0, 2.0, 5.0) if step * decade <= least), top / 10.0)


def _stairs(curve: Curve, amps: Array, top: float) -> tuple[Array, Array]:
    """What is drawn of a curve: a step of a board's delay stands upright, up to the top."""
    seconds = TIMES_S
    amps = np.minimum(amps, top * 10.0)
    # Each value holds from its own time on, or up to its own time.
    if curve.kind == "stage":
        return np.repeat(seconds, 2)[1:], np.repeat(amps, 2)[:-1]
    if curve.key == "load":
        return np.repeat(seconds, 2)[:-1], np.repeat(amps, 2)[1:]
    return seconds, amps

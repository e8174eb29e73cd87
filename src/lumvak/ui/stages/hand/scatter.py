"""Capacity against resistance of the cells in hand: who is out is seen, named and taken."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QPointF, QRectF, pyqtSignal

from lumvak.core.matching.judging import (
    LEAST_CAPACITY,
    MOST_RESISTANCE,
    JudgedCell,
    LotJudged,
)
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.plots import BrushBox, Plot, axis, marked_line, round_range, show_points
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Told

LOOKS = {
    "good": ("o", "verdigris", 7), "look": ("d", "amber", 10), "reject": ("x", "crimson", 11),
}  # fmt: skip
MOST_NAMED = 24
NEAR_PX = 14.0


class Scatter(Plot):
    """Dots of cells; a click picks one, a drag the cells of a rectangle.

    ``pointed`` tells the number of the cell under the pointer, 0 where there is none.
    """

    picked = pyqtSignal(object)
    pointed = pyqtSignal(int)

    def __init__(self) -> None:
        self.box = BrushBox()
        super().__init__(viewBox=self.box)
        axis(self, "left", "resistance, mΩ")
        axis(self, "bottom", "capacity, Ah")
        self.getAxis("left").setWidth(THEME.px(52))
        self.setAccessibleName(in_words("Capacity against resistance"))
        self.getPlotItem().setContentsMargins(0, THEME.px(8), THEME.px(8), 0)
        self._cells: list[JudgedCell] = []
        self._xy = np.zeros((0, 2))
        self.dots = {}
        for state, (symbol, role, size) in LOOKS.items():
            item = pg.ScatterPlotItem(
                symbol=symbol,
                size=THEME.px(size),
                pen=pg.mkPen(THEME.colour(role), width=1.4),
                brush=pg.mkBrush(THEME.colour("verdigris_wash" if state == "good" else "sheet")),
            )
            self.addItem(item)
            self.dots[state] = item
        self.chosen = pg.ScatterPlotItem(
            symbol="s",
            size=THEME.px(16),
            pen=pg.mkPen(THEME.colour("copper"), width=2),
            brush=None,
        )
        self.ring = pg.ScatterPlotItem(
            symbol="o", size=THEME.px(20), pen=pg.mkPen(THEME.colour("ink"), width=1.4), brush=None
        )
        self.sheet = pg.ScatterPlotItem(
            symbol="+", size=THEME.px(18), pen=pg.mkPen(THEME.colour("ink"), width=2)
        )
        self.least = marked_line(0.0, 90, "crimson", "least for this origin", 0.9)
        self.most = marked_line(0.0, 0, "crimson", "most", 0.03)
        for item in (self.chosen, self.ring, self.sheet, self.least, self.most):
            self.addItem(item)
        self._names: list[pg.TextItem] = []
        self.box.clicked.connect(self._click)
        self.box.brushed.connect(self._brush)
        self.box.hovered.connect(self._hover)

    def show_lot(self, lot: LotJudged, chosen: frozenset[int]) -> None:
        """Show the cells of a lot of which both were measured."""
        self._cells = [
            item for item in lot.cells if item.cell.ah is not None and item.cell.mohm is not None
        ]
        self._xy = np.array(
            [(item.cell.ah, item.cell.mohm) for item in self._cells], dtype=float
        ).reshape(-1, 2)
        states = np.array([item.state for item in self._cells])
        for state, dots in self.dots.items():
            here = states == state
            show_points(dots, self._xy[here, 0], self._xy[here, 1])
        mine = np.array([item.cell.number in chosen for item in self._cells], dtype=bool)
        show_points(self.chosen, self._xy[mine, 0], self._xy[mine, 1])
        self._limits(lot)
        self._name_out()

    def told(self) -> Told:
        """The cells as rows."""
        rows = [
            (
                str(item.cell.number),
                worded("{} Ah", item.cell.ah),
                worded("{} mΩ", item.cell.mohm),
                item.state,
            )
            for item in self._cells
        ]
        return Told("Capacity against resistance", ("cell", "capacity", "resistance", "is"), rows)

    def _limits(self, lot: LotJudged) -> None:
        x, y = [*self._xy[:, 0]], [*self._xy[:, 1]]
        sheet = lot.sheet
        ohm = None if sheet is None or sheet.ohm is None else sheet.ohm * 1e3
        for item in (self.sheet, self.least):
            item.setVisible(sheet is not None)
        self.most.setVisible(ohm is not None)
        if sheet is not None:
            rated = sheet.ah
            least = LEAST_CAPACITY[lot.lot.origin] * rated
            self.least.setValue(least)
            show_points(self.sheet, [rated] if ohm else [], [ohm] if ohm else [])
            x += [rated, least]
            if ohm is not None:
                self.most.setValue(MOST_RESISTANCE * ohm)
                y += [ohm, MOST_RESISTANCE * ohm]
        if x and y:
            self.show_whole(_around(x), _around(y))

    def _name_out(self) -> None:
        for item in self._names:
            self.removeItem(item)
        self._names = []
        out = [place for place, item in enumerate(self._cells) if item.state in ("reject", "look")]
        for place in out[:MOST_NAMED]:
            text = pg.TextItem(
                str(self._cells[place].cell.number), color=THEME.colour("ink"), anchor=(0, 1)
            )
            text.setFont(THEME.font("note", table=True))
            text.setPos(*self._xy[place])
            text.setZValue(20)
            self.addItem(text)
            self._names.append(text)

    def point_at(self, number: int) -> None:
        """Draw a ring around a cell; 0 is none."""
        here = np.array([item.cell.number == number for item in self._cells], dtype=bool)
        show_points(self.ring, self._xy[here, 0], self._xy[here, 1])

    def _near(self, at: QPointF) -> int:
        """The number of the cell at a place; 0 where there is none."""
        if not len(self._xy):
            return 0
        wide, high = self.box.viewPixelSize()
        gaps = np.hypot((self._xy[:, 0] - at.x()) / wide, (self._xy[:, 1] - at.y()) / high)
        near = int(np.argmin(gaps))
        return self._cells[near].cell.number if gaps[near] <= THEME.px(NEAR_PX) else 0

    def _hover(self, at: QPointF | None) -> None:
        self.pointed.emit(0 if at is None else self._near(at))

    def _click(self, at: QPointF) -> None:
        self.picked.emit(frozenset({self._near(at)} - {0}))

    def _brush(self, rect: QRectF) -> None:
        x, y = self._xy[:, 0], self._xy[:, 1]
        inside = (x >= rect.left()) & (x <= rect.right()) & (y >= rect.top()) & (y <= rect.bottom())
        numbers = (self._cells[place].cell.number for place in np.flatnonzero(inside).tolist())
        self.picked.emit(frozenset(numbers))


def _around(values: Sequence[float]) -> tuple[float, float]:
    low, high = min(values), max(values)
    gap = 0.1 * max(high - low, 1e-3 * abs(high))
    return round_range(low - gap, high + gap)

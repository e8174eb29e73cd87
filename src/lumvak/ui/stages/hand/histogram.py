"""How readings are spread, as bars by where the cells come from."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal

from lumvak.core.matching.judging import LotJudged, column
from lumvak.ui.speech import digits, in_words, worded
from lumvak.ui.widgets.plots import BrushBox, Plot, axis, legend_look, round_range
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Told

LEAST_BARS, MOST_BARS = 6, 60
# Room above the bars for the words of what they are.
HEADROOM = 1.35
LOOKS = {
    "new": ("verdigris", Qt.BrushStyle.SolidPattern, "new"),
    "reclaimed": ("copper", Qt.BrushStyle.Dense4Pattern, "reclaimed, unused"),
    "used": ("soft", Qt.BrushStyle.BDiagPattern, "used"),
}
AXES = {"ah": "capacity, Ah", "mohm": "resistance, mΩ", "volts": "OCV, V", "grams": "mass, g"}


class Histogram(Plot):
    """Bars of one reading, those of one origin on top of those of another.

    A click picks the cells of a bar, a drag those of all it goes over.
    """

    picked = pyqtSignal(object)

    def __init__(self) -> None:
        self.box = BrushBox()
        super().__init__(viewBox=self.box)
        axis(self, "left", "cells")
        self.getAxis("left").setWidth(THEME.px(52))
        self.setAccessibleName(in_words("How readings are spread"))
        self.getPlotItem().setContentsMargins(0, THEME.px(8), THEME.px(8), 0)
        self.legend = self.addLegend(offset=(-8, 2), verSpacing=-6, **legend_look())
        self._bars: list[pg.BarGraphItem] = []
        self._told: list[tuple[str, ...]] = []
        self._name = ""
        self._edges, self._values = np.zeros(0), np.zeros(0)
        self._numbers: list[int] = []
        self.box.clicked.connect(self._click)
        self.box.brushed.connect(self._brush)

    def show_lots(self, lots: Sequence[LotJudged], field: str) -> None:
        """Show a reading of all cells that have it."""
        for bar in self._bars:
            self.removeItem(bar)
        self.legend.clear()
        self._bars, self._told, self._name = [], [], AXES[field]
        axis(self, "bottom", AXES[field])
        by_origin: dict[str, list[float]] = {}
        self._numbers = [item.cell.number for lot in lots for item in lot.cells]
        self._values = column([item.cell for lot in lots for item in lot.cells], field)
        for lot in lots:
            values = column([item.cell for item in lot.cells], field)
            by_origin.setdefault(lot.lot.origin, []).extend(values[np.isfinite(values)].tolist())
        every = np.array([value for values in by_origin.values() for value in values])
        if not len(every):
            self._edges = every
            return
        edges = self._edges = _edges(every)
        ground = np.zeros(len(edges) - 1)
        for origin, (role, pattern, words) in LOOKS.items():
            values = np.array(by_origin.get(origin, []))
            if not len(values):
                continue
            count = np.histogram(values, edges)[0].astype(float)
            brush = pg.mkBrush(THEME.colour(role))
            brush.setStyle(pattern)
            bar = pg.BarGraphItem(
                x0=edges[:-1],
                x1=edges[1:],
                y0=ground,
                height=count,
                brush=brush,
                pen=pg.mkPen(THEME.colour(role), width=1),
            )
            self.addItem(bar)
            self.legend.addItem(bar, f"{words}, {len(values)}")
            self._bars.append(bar)
            ground = ground + count
            self._told += [
                (
                    words,
                    worded("{} to {}", digits(low, ".4g"), digits(high, ".4g")),
                    str(int(cells)),
                )
                for low, high, cells in zip(edges[:-1], edges[1:], count, strict=True)
                if cells
            ]
        self.show_whole(
            (float(edges[0]), float(edges[-1])), (0.0, round_range(0.0, HEADROOM * ground.max())[1])
        )

    def _click(self, at: QPointF) -> None:
        place = int(np.searchsorted(self._edges, at.x()))
        inside = 0 < place < len(self._edges) and at.y() >= 0.0
        self._pick(*(self._edges[place - 1 : place + 1] if inside else (1.0, 0.0)))

    def _brush(self, rect: QRectF) -> None:
        self._pick(rect.left(), rect.right())

    def _pick(self, low: float, high: float) -> None:
        here = np.flatnonzero((self._values >= low) & (self._values <= high)).tolist()
        self.picked.emit(frozenset(self._numbers[place] for place in here))

    def told(self) -> Told:
        """The bars as rows."""
        return Told(
            worded("How {} is spread", self._name), ("origin", self._name, "cells"), self._told
        )


def _edges(values: np.ndarray) -> np.ndarray:
    """Where bars begin and end: as wide as suits most of the cells, whatever lies far out."""
    low, high = float(values.min()), float(values.max())
    quarters = np.quantile(values, (0.25, 0.75))
    width = max(2.0 * float(np.ptp(quarters)) / len(values) ** (1.0 / 3.0), 1e-6)
    count = int(np.clip((high - low) / width, LEAST_BARS, MOST_BARS))
    gap = max(high - low, 1e-6) * 0.02
    return np.linspace(low - gap, high + gap, count + 1)

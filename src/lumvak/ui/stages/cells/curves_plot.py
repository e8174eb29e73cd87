"""A cell's drawn discharges as dots, and the cell as worked out as lines."""

from __future__ import annotations

import numpy as np
import pyqtgraph as pg
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.sheet_reading import curve_said
from lumvak.core.run.one_cell import one_cell
from lumvak.ui.speech import spoken
from lumvak.ui.widgets.plots import legend_look, named_plot, round_range, show_points
from lumvak.ui.widgets.theme import THEME

ROLES = ("copper", "verdigris", "ink", "amber", "crimson")
USUAL_RATE = 0.2
MOST_KEPT = 40
Course = tuple[np.ndarray, np.ndarray]


class CurvesPlot(QWidget):
    """Charge taken against volts: each drawn discharge with its line, the marked one stronger."""

    def __init__(self) -> None:
        super().__init__()
        self.plot = named_plot("cell, V", "taken, Ah; dots of the sheet", 46)
        self.legend = self.plot.addLegend(offset=(8, -6), verSpacing=-6, **legend_look())
        self._items: list[tuple[pg.PlotDataItem, pg.PlotDataItem]] = []
        self._models: dict[tuple[int, float, float], Course] = {}
        self._named: list[str] = []
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(self.plot)

    def show_cell(self, cell: Cell, behaviour: Behaviour, marked: int) -> None:
        """Show the discharges of a cell; one without any as it gives a fifth of its charge."""
        asked = [(curve.current_a, curve.temperature_c) for curve in cell.curves]
        asked = asked or [(USUAL_RATE * cell.capacity_typical_ah, 25.0)]
        points = [np.array(curve.points) for curve in cell.curves] or [np.zeros((0, 2))]
        while len(self._items) < len(asked):
            self._items.append(
                (
                    self.plot.plot(pen=None, symbol="o", symbolSize=THEME.px(5)),
                    self.plot.plot(),
                )
            )
        for dots, line in self._items[len(asked) :]:
            show_points(dots, [], [])
            show_points(line, [], [])
        low, high, far = cell.voltage_empty_v, cell.voltage_full_v, 0.0
        for (amps, celsius), drawn, (dots, line) in zip(asked, points, self._items, strict=False):
            ah, volts = self._course(cell, behaviour, amps, celsius)
            show_points(line, ah, volts)
            show_points(dots, drawn[:, 0], drawn[:, 1])
            far = max(far, float(ah[-1]), *drawn[:, 0].tolist())
            low = min(low, *drawn[:, 1].tolist(), low)
        self._name([spoken(curve_said(curve)) for curve in cell.curves])
        self.weigh(marked)
        self.plot.show_whole((0.0, round_range(0.0, far)[1]), round_range(low, high))

    def weigh(self, marked: int) -> None:
        """The marked discharge is drawn stronger."""
        for place, (dots, line) in enumerate(self._items):
            colour = THEME.colour(ROLES[place % len(ROLES)])
            line.setPen(pg.mkPen(colour, width=3 if place == marked else 1))
            dots.setSymbolBrush(colour)
            dots.setSymbolPen(None)

    def _name(self, names: list[str]) -> None:
        """A word for each discharge beside its colour."""
        if names != self._named:
            self._named = names
            self.legend.clear()
            for name, (dots, _) in zip(names, self._items, strict=False):
                self.legend.addItem(dots, name)

    def _course(self, cell: Cell, behaviour: Behaviour, amps: float, celsius: float) -> Course:
        key = (id(behaviour), amps, celsius)
        if key not in self._models:
            run = one_cell(cell, behaviour, amps, celsius)
            if len(self._models) > MOST_KEPT:
                self._models.clear()
            self._models[key] = (run.time_s * amps / 3600.0, run.volts)
        return self._models[key]

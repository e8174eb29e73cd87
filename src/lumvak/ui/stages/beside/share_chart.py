"""Who carries how much over the run, against what each may carry."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.beside.together import Together
from lumvak.ui.speech import say, worded
from lumvak.ui.widgets.plots import keep_room, legend_look, named_plot, show_points
from lumvak.ui.widgets.theme import THEME

ROLES = ("copper", "verdigris", "amber", "ink")
# Over the highest there is room for the words.
OVER = 1.6


class ShareChart(QWidget):
    """A curve for each pack, dotted where the weakest of its parts ends."""

    def __init__(self) -> None:
        super().__init__()
        self.plot = named_plot("A", "minutes")
        self.legend = self.plot.addLegend(offset=(-8, 4), **legend_look())
        keep_room(self.plot, 210)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(self.plot)
        self.names: list[str] = []
        self.curves: list[Any] = []
        self.limits: list[Any] = []

    def _make(self, names: list[str]) -> None:
        """A curve and a limit for each of so many packs."""
        for old in (*self.curves, *self.limits):
            self.plot.removeItem(old)
        self.names, roles = names, ROLES[: len(names)]
        self.legend.setColumnCount(len(names))
        self.curves = [
            self.plot.plot([], [], pen=pg.mkPen(THEME.colour(role), width=2), name=name)
            for role, name in zip(roles, names, strict=True)
        ]
        dotted = Qt.PenStyle.DotLine
        self.limits = [
            self.plot.plot(
                [],
                [],
                pen=pg.mkPen(THEME.colour(role), width=1.4, style=dotted),
                name="it may give",
            )
            for role in roles
        ]

    def show_together(self, found: Together) -> None:
        """Show a run of packs."""
        course = found.course
        if course is None:
            return
        names = ["this pack", *(it.name for it in found.sides[1:])]
        if names != self.names:
            self._make(names)
        minutes = course.seconds / 60.0
        most = [float(course.amps.max())]
        for place, (curve, limit) in enumerate(zip(self.curves, self.limits, strict=True)):
            show_points(curve, minutes, course.amps[:, place])
            may = found.sides[place].least_a("gives_a")
            if math.isfinite(may):
                show_points(limit, np.array([0.0, minutes[-1]]), np.array([may, may]))
                most.append(may)
            else:
                show_points(limit, [], [])
        low = min(float(course.amps.min()), 0.0)
        high = min(max(most), 2.5 * most[0])
        self.plot.show_whole((0.0, float(minutes[-1])), (1.08 * low, OVER * high))
        told = "; ".join(
            worded(
                "{} from {}, at most {}",
                side.name,
                say(float(course.amps[0, place]), "A"),
                say(float(course.amps[:, place].max()), "A"),
            )
            for place, side in enumerate(found.sides)
        )
        self.plot.setAccessibleName(worded("Amps of each over the run: {}", told))

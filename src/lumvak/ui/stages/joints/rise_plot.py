"""The rise of a joint against the current through the pack, with the load and the peak on it."""

from __future__ import annotations

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import Qt

from lumvak.core.joints.candidates import rise_curve_k
from lumvak.core.joints.joint_figures import JointResult
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.widgets.plots import Plot, axis, marked_line
from lumvak.ui.widgets.theme import THEME

POINTS = 80


class RisePlot(Plot):
    """Curves of the conductor in force and of the recommended one; lines at load, peak, limit."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(in_words("Rise over the cell against pack current"))

    def show_result(self, result: JointResult, rise_limit_k: float) -> None:
        """Draw this joint's curves."""
        self.clear()
        setting = result.setting
        axis(self, "bottom", "pack current, A")
        axis(self, "left", "rise, K")
        top = 1.25 * max(setting.peak_a, setting.current_a)
        currents = np.linspace(0.0, top, POINTS)
        for item, role, style in (
            (result.proposal, "verdigris", Qt.PenStyle.DashLine),
            (result.chosen, "copper", Qt.PenStyle.SolidLine),
        ):
            pen = pg.mkPen(THEME.colour(role), width=2, style=style)
            self.plot(currents, rise_curve_k(item, setting, currents), pen=pen, connect="finite")
        self.addItem(
            marked_line(
                rise_limit_k, 0, "crimson", worded("limit {}", say(rise_limit_k, "K")), 0.08
            )
        )
        self.addItem(marked_line(setting.current_a, 90, "ink", "load", 0.8))
        if setting.peak_a > setting.current_a:
            self.addItem(marked_line(setting.peak_a, 90, "soft", "peak", 0.8))
        self.show_whole((0.0, top), (0.0, 2.6 * rise_limit_k))

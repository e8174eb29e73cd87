"""What the plots share: axes in our look, and lines with a word on them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any
from weakref import WeakKeyDictionary

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import Qt

from lumvak.ui.widgets.theme import SIZES, THEME

Numbers = Sequence[float] | np.ndarray


def still_plot(left: str, bottom: str, left_px: int = 52) -> pg.PlotWidget:
    """A plot that shows just what it is told to: no menu, no panning, no range of its own."""
    plot = pg.PlotWidget(background=THEME.colour("sheet"))
    plot.setMenuEnabled(False)
    plot.setMouseEnabled(x=False, y=False)
    plot.hideButtons()
    plot.disableAutoRange()
    # There is nothing to do in it by keys; what it shows can be had as rows.
    leave_focus(plot)
    plot.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    plot.setAccessibleName(left)
    axis(plot, "left", left)
    axis(plot, "bottom", bottom)
    plot.getAxis("left").setWidth(THEME.px(left_px))
    return plot


def leave_focus(plot: pg.PlotWidget) -> None:
    """Let the plot itself take the focus, if anything of it does: not what it draws on."""
    plot.viewport().setFocusPolicy(Qt.FocusPolicy.NoFocus)


def axis(plot: pg.PlotWidget, side: str, text: str) -> None:
    """Dress one axis of a plot; ``text`` names what it shows and its unit.

    An axis that is dressed so already is left alone: its ticks need not be painted anew.
    """
    font = THEME.font("note", table=True)
    made = plot.getAxis(side)
    if text and made.labelText == text and made.label.font() == font:
        return
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


def show_range(plot: pg.PlotWidget, x: tuple[float, float], y: tuple[float, float]) -> None:
    """Show these ranges; nothing is drawn anew where they are shown already."""
    shown_x, shown_y = plot.viewRange()
    if [*shown_x] != [*x]:
        plot.setXRange(*x, padding=0)
    if [*shown_y] != [*y]:
        plot.setYRange(*y, padding=0)

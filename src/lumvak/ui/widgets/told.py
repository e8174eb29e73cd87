"""What a drawing shows, as heads and rows of words: for eyes, ears and hands that want a table."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from PyQt6.QtWidgets import QWidget

from lumvak.core.units import digits

# So many points are told of each curve of a plot.
POINTS = 12


@dataclass(frozen=True, slots=True)
class Told:
    """A drawing in words: its name, the heads of its columns, and its rows."""

    name: str
    heads: tuple[str, ...]
    rows: Sequence[tuple[str, ...]]


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
        data = [np.asarray(values, dtype=float) for values in curve.getOriginalDataset()
                if values is not None]  # fmt: skip
        if len(data) != 2:
            continue
        x, y = data
        shown = np.flatnonzero(np.isfinite(x) & np.isfinite(y))
        ends = np.linspace(0, len(shown) - 1, min(POINTS, len(shown))).astype(int)
        name = curve.name() or f"curve {number}"
        rows += [(name, f"{digits(x[at], '.4g')}", f"{digits(y[at], '.4g')}") for at in shown[ends]]
    return Told(plot.accessibleName() or "plot", heads, rows)

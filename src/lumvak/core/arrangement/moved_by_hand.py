"""Cells moved, turned, swapped and renumbered by hand; what would overlap is refused."""

from __future__ import annotations

import math
from collections.abc import Collection

import numpy as np
from msgspec.structs import replace

from lumvak.core.arrangement.layout import Layout, overlaps
from lumvak.core.arrangement.outline import inside
from lumvak.core.arrangement.proposals import Placing
from lumvak.core.document.arrangement import Spot
from lumvak.core.document.edit import ProjectError
from lumvak.core.said import phrase

PATH = "arrangement.spots"


def checked(placing: Placing, layout: Layout) -> tuple[Spot, ...]:
    """The spots of a layout; raises ProjectError where cells overlap or leave the room."""
    clash = overlaps(layout)
    if len(clash):
        one, other = (layout.name[cell] for cell in clash[0])
        raise ProjectError(
            phrase("{} and {} would take up the same place; nothing was moved", one, other), PATH
        )
    discs = (layout.axis == 0) & (layout.cell.diameter_mm is not None)
    free = placing.free if placing.fits or placing.by_hand else None
    out = ~inside(free, layout.x_mm, layout.y_mm, layout.half_mm[:, :2], discs)
    if out.any():
        name = layout.name[int(np.flatnonzero(out)[0])]
        raise ProjectError(
            phrase("{} would not lie in the free room; nothing was moved", name), PATH
        )
    return layout.spots()


def moved(placing: Placing, cells: Collection[int], dx_mm: float, dy_mm: float) -> tuple[Spot, ...]:
    """Shift some cells; the first snaps against its new neighbours. Raises ProjectError."""
    was = placing.layout
    chosen = np.array(sorted(cells), dtype=np.intp)
    others = np.setdiff1d(np.arange(len(was)), chosen)
    lead = chosen[0]
    x, y = float(was.x_mm[lead]) + dx_mm, float(was.y_mm[lead]) + dy_mm
    snap_x, snap_y = _snapped(was, int(lead), others, x, y)
    return checked(
        placing,
        shifted(was, cells, snap_x - float(was.x_mm[lead]), snap_y - float(was.y_mm[lead])),
    )


def nudged(
    placing: Placing, cells: Collection[int], dx_mm: float, dy_mm: float
) -> tuple[Spot, ...]:
    """Shift some cells by exactly so much. Raises ProjectError."""
    return checked(placing, shifted(placing.layout, cells, dx_mm, dy_mm))


def shifted(was: Layout, cells: Collection[int], dx_mm: float, dy_mm: float) -> Layout:
    """The layout with some cells moved, not checked."""
    x, y = was.x_mm.copy(), was.y_mm.copy()
    x[list(cells)] += dx_mm
    y[list(cells)] += dy_mm
    return replace(was, x_mm=x, y_mm=y)


def _snapped(
    layout: Layout, cell: int, others: np.ndarray, x_mm: float, y_mm: float
) -> tuple[float, float]:
    """The nearest place a gap away from a cell that stays, else half millimetres."""
    coarse = round(2.0 * x_mm) / 2.0, round(2.0 * y_mm) / 2.0
    if not len(others):
        return coarse
    step_x = 2.0 * float(layout.half_mm[cell, 0]) + layout.gap_mm
    step_y = 2.0 * float(layout.half_mm[cell, 1]) + layout.gap_mm
    ways = [(step_x, 0.0), (-step_x, 0.0), (0.0, step_y), (0.0, -step_y)]
    if layout.cell.diameter_mm is not None and layout.axis[cell] == 0:
        tall = math.sqrt(0.75) * step_x
        ways += [(sx * step_x / 2.0, sy * tall) for sx in (-1, 1) for sy in (-1, 1)]
        ways += [(sx * tall, sy * step_x / 2.0) for sx in (-1, 1) for sy in (-1, 1)]
    same = others[
        (layout.layer[others] == layout.layer[cell]) & (layout.axis[others] == layout.axis[cell])
    ]
    if not len(same):
        return coarse
    middles = np.stack([layout.x_mm[same], layout.y_mm[same]], axis=1)
    places = (middles[:, None] + np.array(ways)[None]).reshape(-1, 2)
    least = np.hypot(*(places[:, None] - middles[None]).transpose(2, 0, 1)).min(axis=1)
    clear = places[least >= min(step_x, step_y) - 0.05]
    if not len(clear):
        return coarse
    away = np.hypot(clear[:, 0] - x_mm, clear[:, 1] - y_mm)
    near = int(np.argmin(away))
    if away[near] > 0.5 * min(step_x, step_y):
        return coarse
    return float(clear[near, 0]), float(clear[near, 1])


def turned(placing: Placing, cells: Collection[int]) -> tuple[Spot, ...]:
    """Turn some cells end for end."""
    was = placing.layout
    ends = was.turned.copy()
    ends[list(cells)] ^= True
    return replace(was, turned=ends).spots()


def swapped(placing: Placing, one: int, other: int) -> tuple[Spot, ...]:
    """Let two cells change places; each then points as its new place's group asks."""
    was = placing.layout
    order = np.arange(len(was))
    order[[one, other]] = other, one
    return replace(
        was,
        x_mm=was.x_mm[order],
        y_mm=was.y_mm[order],
        layer=was.layer[order],
        axis=was.axis[order],
    ).spots()


def renumbered(placing: Placing) -> tuple[Spot, ...]:
    """Count the groups from the other end; every cell then points the other way or stays."""
    was = placing.layout
    order = np.arange(len(was)).reshape(was.series, was.parallel)[::-1].ravel()
    return replace(
        was,
        x_mm=was.x_mm[order],
        y_mm=was.y_mm[order],
        layer=was.layer[order],
        axis=was.axis[order],
    ).spots()

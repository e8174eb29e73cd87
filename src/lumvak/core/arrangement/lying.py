"""Places for lying cells: rows one behind the other, cells to the side, and layers."""

from __future__ import annotations

import math

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layers import between_of, is_nested
from lumvak.core.arrangement.layout import AXES, half_sizes
from lumvak.core.arrangement.outline import inside
from lumvak.core.arrangement.sites import Sites, clear, for_middles, lattice_pairs
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement

Array = NDArray[np.float64]
Index = NDArray[np.intp]
# In an uneven room the rows are tried in so many places of a step, along and across; a lattice of
# more places is none.
PHASES = (0.0, 0.25, 0.5, 0.75)
MOST_PLACES = 20_000


def lying(
    cell: Cell,
    arrangement: Arrangement,
    gap_mm: float,
    counts: tuple[int, int, int],
    corner: tuple[float, float],
    shape: BaseGeometry | None,
) -> Sites:
    """Lying cells: so many rows one behind the other, cells to the side, and layers, in ``shape``.

    ``corner`` is that of the lattice in mm. Neighbours lie beside and above each other, not behind.
    """
    axis = arrangement.axis
    nested = is_nested(arrangement, cell)
    behind, beside, layers = counts
    half = half_sizes(cell, axis)
    stack, row, column, x, y = _middles(cell, arrangement, gap_mm, counts, corner)
    fits = inside(
        shape, x, y, np.tile(np.array(half[:2]), (len(x), 1)), np.zeros(len(x), dtype=bool)
    )
    place = np.full(len(x), -1)
    place[fits] = np.arange(int(fits.sum()))
    each = beside * layers
    pairs = np.concatenate(
        [
            lattice_pairs(place[at * each : (at + 1) * each], layers, beside, nested)
            for at in range(behind)
        ]
    )
    kept = np.flatnonzero(fits)
    return Sites(
        x[kept],
        y[kept],
        layer=row[kept].astype(np.intp),
        column=column[kept],
        row=row[kept],
        stack=stack[kept],
        axis=np.full(len(kept), AXES.index(axis)),
        pairs=pairs,
    )


def _middles(
    cell: Cell,
    arrangement: Arrangement,
    gap_mm: float,
    counts: tuple[int, int, int],
    corner: tuple[float, float],
) -> tuple[Index, Index, Index, Array, Array]:
    """Row behind row, layer, place beside, and x and y in mm of all that ``lying`` could hold."""
    behind, beside, layers = counts
    nested = is_nested(arrangement, cell)
    half = half_sizes(cell, arrangement.axis)
    along = arrangement.axis == "along"
    long, wide = (half[0], half[1]) if along else (half[1], half[0])
    stack, row, column = (grid.ravel() for grid in np.mgrid[0:behind, 0:layers, 0:beside])
    shift = (wide + gap_mm / 2.0) * (row % 2) * nested
    u = wide + column * (2.0 * wide + gap_mm) + shift
    end = long + stack * (2.0 * long + max(gap_mm, between_of(arrangement)))
    x, y = (end, u) if along else (u, end)
    return stack, row, column, x + corner[0], y + corner[1]


def lying_in(
    shape: BaseGeometry,
    arrangement: Arrangement,
    cell: Cell,
    gap_mm: float,
    layers: int,
    shifted: bool,
) -> list[Sites]:
    """The fullest lattice of lying cells in a room."""
    left, top, right, bottom = shape.bounds
    half = half_sizes(cell, arrangement.axis)
    along = arrangement.axis == "along"
    long, wide = (half[0], half[1]) if along else (half[1], half[0])
    deep, broad = (right - left, bottom - top) if along else (bottom - top, right - left)
    step_end = 2.0 * long + max(gap_mm, between_of(arrangement))
    step = 2.0 * wide + gap_mm
    behind = math.floor((deep - 2.0 * long) / step_end + 1e-9) + 1
    beside = math.floor((broad - 2.0 * wide) / step + 1e-9) + 1
    if behind < 1 or beside < 1 or behind * beside * layers > MOST_PLACES:
        return []
    boxy = shape.equals(shapely.box(*shape.bounds))
    phases = PHASES if shifted and not boxy else PHASES[:1]
    starts = []
    for phase_end in phases:
        for phase in phases:
            back_end, back = int(phase_end > 0.0), int(phase > 0.0)
            shift = (step_end * (phase_end - back_end), step * (phase - back))
            shift = shift if along else shift[::-1]
            corner = (left + shift[0], top + shift[1])
            starts.append(((behind + back_end, beside + back, layers), corner))
    best = max(
        (
            lying(cell, arrangement, gap_mm, counts, corner, shape)
            for counts, corner in _likely_lying(shape, cell, arrangement, gap_mm, starts)
        ),
        key=len,
    )
    return [clear(best, arrangement, cell, gap_mm)] if len(best) else []


def _likely_lying(
    shape: BaseGeometry,
    cell: Cell,
    arrangement: Arrangement,
    gap_mm: float,
    starts: list[tuple[tuple[int, int, int], tuple[float, float]]],
) -> list[tuple[tuple[int, int, int], tuple[float, float]]]:
    """Of the places where lying cells may begin the two that hold most, by their middles."""
    if len(starts) == 1:
        return starts
    half_x, half_y, _ = half_sizes(cell, arrangement.axis)
    inner = for_middles(shape, half_x, half_y, False)
    if inner.is_empty:
        return starts[:1]
    shapely.prepare(inner)
    held = []
    for counts, corner in starts:
        flat = (counts[0], counts[1], min(counts[2], 2))
        x, y = _middles(cell, arrangement, gap_mm, flat, corner)[3:]
        held.append(int(shapely.contains_xy(inner, x, y).sum()))
    order = np.argsort(-np.array(held), kind="stable")[:2]
    return [starts[place] for place in order.tolist()]

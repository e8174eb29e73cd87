"""Places for cells: straight and nested lattices in a room, layers, and blocks of cells."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layout import AXES, half_sizes, layer_height_mm, near_pairs
from lumvak.core.arrangement.outline import inside
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement, Axis, CellBlock

Array = NDArray[np.float64]
Index = NDArray[np.intp]
PHASES = (0.0, 0.5, 0.999)


@dataclass(frozen=True, eq=False)
class Sites:
    """Places of one layer: (K,) middles in mm, lattice column and row, direction, neighbours.

    ``column`` counts along x and ``row`` along y; ``pairs`` (M, 2) are places side by side.
    """

    x_mm: Array
    y_mm: Array
    column: Index
    row: Index
    axis: Index
    pairs: Index

    def __len__(self) -> int:
        """How many places there are."""
        return len(self.x_mm)


def gap_of(arrangement: Arrangement, cell: Cell, gap_mm: float) -> float:
    """Gap in mm between two wrappers: what the holder leaves, else the gap set for the joints."""
    if arrangement.pitch_mm is None:
        return gap_mm
    return max(0.0, arrangement.pitch_mm - cell.pitch_mm)


def steps_mm(cell: Cell, axis: Axis, gap_mm: float, nested: bool) -> tuple[float, float]:
    """Distance in mm between columns and between rows; nested rows run along x."""
    half_x, half_y, _ = half_sizes(cell, axis)
    step_x, step_y = 2.0 * half_x + gap_mm, 2.0 * half_y + gap_mm
    return step_x, step_y * math.sqrt(0.75) if nested else step_y


def lattice(
    cell: Cell,
    axis: Axis,
    gap_mm: float,
    nested: bool,
    columns: int,
    rows: int,
    corner: tuple[float, float],
    shape: BaseGeometry | None,
    upright_rows: bool = False,
) -> Sites:
    """The places of a lattice that lie in ``shape``; ``corner`` is its corner in mm.

    ``upright_rows`` runs the nested rows along y instead of x.
    """
    step_x, step_y = steps_mm(cell, axis, gap_mm, nested)
    half: Array = np.array(half_sizes(cell, axis)[:2])
    row, column = (grid.ravel() for grid in np.mgrid[0:rows, 0:columns])
    x = corner[0] + half[0] + column * step_x + (step_x / 2.0) * (row % 2) * nested
    y = corner[1] + half[1] + row * step_y
    if upright_rows:
        x, y = corner[0] + (y - corner[1]), corner[1] + (x - corner[0])
        row, column = column, row
    fits = inside(
        shape, x, y, np.tile(half, (len(x), 1)), np.full(len(x), cell.diameter_mm is not None)
    )
    place = np.full(len(x), -1)
    place[fits] = np.arange(int(fits.sum()))
    pairs = _lattice_pairs(place, rows, columns, nested)
    kept = np.flatnonzero(fits)
    return Sites(
        x[kept], y[kept], column[kept], row[kept],
        np.full(len(kept), AXES.index(axis)), pairs,
    )  # fmt: skip


def _lattice_pairs(place: Index, rows: int, columns: int, nested: bool) -> Index:
    """(M, 2) neighbours of a lattice given the number of each place in it, -1 where none is."""
    grid = place.reshape(rows, columns)
    found = [(grid[:, :-1], grid[:, 1:]), (grid[:-1], grid[1:])]
    if nested:
        # The next row lies half a step to the right of even rows, to the left of odd ones.
        found.append((grid[:-1:2, 1:], grid[1::2, :-1]))
        found.append((grid[1:-1:2, :-1], grid[2::2, 1:]))
    pairs = np.concatenate([np.stack([a.ravel(), b.ravel()], axis=1) for a, b in found])
    return np.sort(pairs[(pairs >= 0).all(axis=1)], axis=1)


def lattices_in(
    shape: BaseGeometry,
    arrangement: Arrangement,
    cell: Cell,
    gap_mm: float,
    shifted: bool = True,
) -> list[Sites]:
    """The fullest lattice in a room, and for nested rows one for each way they can run.

    ``shifted`` tries the rows in several places of an uneven room.
    """
    nested = arrangement.rows == "nested" and cell.diameter_mm is not None
    left, top, right, bottom = shape.bounds
    ways = (False, True) if nested else (False,)
    found = []
    for upright_rows in ways:
        step_x, step_y = steps_mm(cell, arrangement.axis, gap_mm, nested)
        half_x, half_y, _ = half_sizes(cell, arrangement.axis)
        wide, high = right - left, bottom - top
        if upright_rows:
            wide, high = high, wide
        columns = math.floor((wide - 2.0 * half_x) / step_x + 1e-9) + 1
        rows = math.floor((high - 2.0 * half_y) / step_y + 1e-9) + 1
        if columns < 1 or rows < 1 or columns * rows > 20_000:
            continue
        slack_x = wide - 2.0 * half_x - (columns - 1) * step_x
        slack_y = high - 2.0 * half_y - (rows - 1) * step_y
        boxy = shape.equals(shapely.box(*shape.bounds))
        phases = PHASES if shifted and not boxy else PHASES[:1]
        best: Sites | None = None
        for phase_x in phases:
            for phase_y in phases:
                shift = (slack_x * phase_x, slack_y * phase_y)
                if upright_rows:
                    shift = shift[::-1]
                made = lattice(
                    cell, arrangement.axis, gap_mm, nested, columns, rows,
                    (left + shift[0], top + shift[1]), shape, upright_rows,
                )  # fmt: skip
                if best is None or len(made) > len(best):
                    best = made
        if best is not None:
            found.append(best)
    return found


def layers_in(arrangement: Arrangement, cell: Cell) -> int:
    """How many layers the height holds; one where no height is given."""
    height = arrangement.room.height_mm
    if arrangement.room.kind == "none" or height is None:
        return 1
    return math.floor(height / layer_height_mm(cell, arrangement.axis) + 1e-9)


def block_sites(block: CellBlock, cell: Cell, gap_mm: float, shape: BaseGeometry | None) -> Sites:
    """The places of one block of cells that lie in the room."""
    return lattice(
        cell, block.axis, gap_mm, False, block.columns, block.rows,
        (block.x_mm, block.y_mm), shape,
    )  # fmt: skip


def ring_sites(
    diameter_mm: float, wall_mm: float, cell: Cell, gap_mm: float, shape: BaseGeometry | None
) -> Sites | None:
    """Standing round cells in rings along the wall of a round room, the outer ring first."""
    if cell.diameter_mm is None:
        return None
    each = cell.diameter_mm
    radius = diameter_mm / 2.0 - wall_mm - each / 2.0
    x: list[float] = []
    y: list[float] = []
    ring: list[int] = []
    place: list[int] = []
    while radius >= 0.0:
        half = (each + gap_mm) / 2.0
        count = 1 if radius < half else math.floor(math.pi / math.asin(half / radius) + 1e-9)
        turn = 0.0 if count == 1 else 2.0 * math.asin(min(1.0, half / radius))
        middle = 0.0 if count == 1 else radius
        x.extend(diameter_mm / 2.0 + middle * math.cos(turn * k) for k in range(count))
        y.extend(diameter_mm / 2.0 + middle * math.sin(turn * k) for k in range(count))
        ring.extend([len(set(ring))] * count)
        place.extend(range(count))
        radius -= each + gap_mm
    if not x:
        return None
    middles = np.stack([np.array(x), np.array(y)], axis=1)
    fits = inside(
        shape, middles[:, 0], middles[:, 1], np.full(middles.shape, each / 2.0),
        np.full(len(x), True),
    )  # fmt: skip
    middles = middles[fits]
    pairs = near_pairs(middles[:, 0], middles[:, 1], each + gap_mm + 0.12 * each)
    return Sites(
        middles[:, 0],
        middles[:, 1],
        np.array(place, dtype=np.intp)[fits],
        np.array(ring, dtype=np.intp)[fits],
        np.zeros(len(middles), dtype=np.intp),
        pairs,
    )

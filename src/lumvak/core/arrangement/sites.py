"""Places of cells in a lattice: which are side by side, layers of them, several lattices as one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray
from shapely import affinity
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layout import AXES, half_sizes
from lumvak.core.arrangement.set_aside import clear_of_parts
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement

Array = NDArray[np.float64]
Index = NDArray[np.intp]
# A middle so little outside counts as inside where lattices are compared.
MIDDLE_SLACK_MM = 1e-3


class Sites(Struct, frozen=True, eq=False):
    """Places of cells: (K,) middles in mm seen from above, layer, direction, neighbours.

    ``column`` and ``row`` count in the plane in which the ends lie: of standing cells along x and
    y, of lying ones to the side and upwards. ``stack`` counts such planes one behind the other:
    layers of standing cells, rows of lying ones. ``pairs`` (M, 2) are places side by side.
    """

    x_mm: Array
    y_mm: Array
    layer: Index
    column: Index
    row: Index
    stack: Index
    axis: Index
    pairs: Index

    def __len__(self) -> int:
        """How many places there are."""
        return len(self.x_mm)


def lattice_pairs(place: Index, rows: int, columns: int, nested: bool) -> Index:
    """(M, 2) neighbours of a lattice given the number of each place in it, -1 where none is."""
    grid = place.reshape(rows, columns)
    found = [(grid[:, :-1], grid[:, 1:]), (grid[:-1], grid[1:])]
    if nested:
        # The next row lies half a step to the right of even rows, to the left of odd ones.
        found.append((grid[:-1:2, 1:], grid[1::2, :-1]))
        found.append((grid[1:-1:2, :-1], grid[2::2, 1:]))
    pairs = np.concatenate([np.stack([a.ravel(), b.ravel()], axis=1) for a, b in found])
    return np.sort(pairs[(pairs >= 0).all(axis=1)], axis=1)


def in_layers(sites: Sites, layers: int) -> Sites:
    """The same places in so many layers of standing cells, each over the other."""
    if layers == 1:
        return sites
    count = len(sites)
    level = np.repeat(np.arange(layers), count)
    shift = np.repeat(np.arange(layers) * count, len(sites.pairs))[:, None]
    return Sites(
        np.tile(sites.x_mm, layers),
        np.tile(sites.y_mm, layers),
        layer=level,
        column=np.tile(sites.column, layers),
        row=np.tile(sites.row, layers),
        stack=level,
        axis=np.tile(sites.axis, layers),
        pairs=np.tile(sites.pairs, (layers, 1)) + shift,
    )


def together(parts: Sequence[Sites]) -> Sites:
    """Places of several lattices as one; none of one is beside one of another."""
    starts = np.cumsum([0, *(len(part) for part in parts)])
    joined = {
        name: np.concatenate([getattr(part, name) for part in parts])
        for name in ("x_mm", "y_mm", "layer", "column", "row", "stack", "axis")
    }
    pairs = [part.pairs + start for part, start in zip(parts, starts, strict=False)]
    return Sites(**joined, pairs=np.concatenate(pairs))


def clear(sites: Sites, arrangement: Arrangement, cell: Cell, gap_mm: float) -> Sites:
    """The places that no part takes which is lower than the room."""
    if not arrangement.kept_free:
        return sites
    half = np.array([half_sizes(cell, axis)[:2] for axis in AXES])[sites.axis]
    disc = (sites.axis == 0) & (cell.diameter_mm is not None)
    free = clear_of_parts(
        sites.x_mm,
        sites.y_mm,
        half=half,
        disc=disc,
        layer=sites.layer,
        arrangement=arrangement,
        cell=cell,
        gap_mm=gap_mm,
    )
    if free.all():
        return sites
    number = np.cumsum(free) - 1
    pairs = sites.pairs[free[sites.pairs].all(axis=1)]
    kept = {
        name: getattr(sites, name)[free]
        for name in ("x_mm", "y_mm", "layer", "column", "row", "stack", "axis")
    }
    return Sites(**kept, pairs=number[pairs])


def for_middles(
    shape: BaseGeometry, half_x_mm: float, half_y_mm: float, disc: bool
) -> BaseGeometry:
    """Where the middles of cells of half a length and width may lie in a shape.

    Of rectangles by their corners alone.
    """
    if disc:
        return shape.buffer(-half_x_mm + MIDDLE_SLACK_MM)
    return shapely.intersection_all(
        [
            affinity.translate(shape, x, y)
            for x in (-half_x_mm, half_x_mm)
            for y in (-half_y_mm, half_y_mm)
        ]
    ).buffer(MIDDLE_SLACK_MM)

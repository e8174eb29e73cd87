"""Places for cells: straight and nested lattices in a room, at any angle, layers, blocks, rings."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

import numpy as np
import shapely
from msgspec.structs import replace
from numpy.typing import NDArray
from shapely import affinity
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layers import is_nested, layers_in
from lumvak.core.arrangement.layout import AXES, half_sizes, near_pairs
from lumvak.core.arrangement.lying import MOST_PLACES, lying_in
from lumvak.core.arrangement.outline import inside
from lumvak.core.arrangement.sites import (
    Sites,
    clear,
    for_middles,
    in_layers,
    lattice_pairs,
    together,
)
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement, Axis, CellBlock

Array = NDArray[np.float64]
Index = NDArray[np.intp]
# In an uneven room the rows are tried in so many places of a step, along and across.
PHASES = tuple(step / 8.0 for step in range(8))
# Edges of a room that differ by less, in degrees, give one direction; no more of them are tried.
SAME_DEGREES, MOST_ANGLES = 2.0, 8
EVERY_ANGLE = tuple(float(degrees) for degrees in range(3, 90, 3))


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
    """One layer: the places of a lattice that lie in ``shape``; ``corner`` is its corner in mm.

    ``upright_rows`` runs the nested rows along y instead of x. Lying cells end to end are no
    neighbours here.
    """
    half: Array = np.array(half_sizes(cell, axis)[:2])
    step_x, step_y = steps_mm(cell, axis, gap_mm, nested)
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
    pairs = lattice_pairs(place, rows, columns, nested)
    kept = np.flatnonzero(fits)
    nothing = np.zeros(len(kept), dtype=np.intp)
    return Sites(
        x[kept],
        y[kept],
        layer=nothing,
        column=column[kept],
        row=row[kept],
        stack=nothing,
        axis=np.full(len(kept), AXES.index(axis)),
        pairs=pairs,
    )


def lattices_in(
    shape: BaseGeometry,
    arrangement: Arrangement,
    cell: Cell,
    gap_mm: float,
    shifted: bool = True,
    every_angle: bool = False,
    starts: int = 1,
) -> list[Sites]:
    """The fullest lattice in a room for each way that rows can run, in all layers.

    ``shifted`` tries the rows in several places of an uneven room, and along its own edges;
    ``every_angle`` turns them in steps through a quarter, in whatever room. Of lattices that begin
    elsewhere the fullest ``starts`` are kept.
    """
    layers = layers_in(arrangement, cell, gap_mm)
    if not layers:
        return []
    if arrangement.axis != "up":
        return lying_in(shape, arrangement, cell, gap_mm, layers, shifted)
    found = []
    angles = [0.0]
    if cell.diameter_mm is not None and shifted:
        angles = _angles(shape) + (list(EVERY_ANGLE) if every_angle else [])
    for degrees in angles:
        turned = affinity.rotate(shape, -degrees, origin=(0, 0)) if degrees else shape
        for sites in _standing_in(turned, arrangement, cell, gap_mm, shifted, starts):
            x, y = _rotated(sites.x_mm, sites.y_mm, degrees)
            back = replace(sites, x_mm=x, y_mm=y) if degrees else sites
            found.append(in_layers(back, layers))
    if shape.geom_type == "MultiPolygon":
        found += _part_by_part(shape, arrangement, cell, gap_mm, layers, shifted)
    found = [clear(sites, arrangement, cell, gap_mm) for sites in found]
    # As drawn first, then what holds most.
    return found[:1] + sorted(found[1:], key=lambda sites: -len(sites))


def _part_by_part(
    shape: BaseGeometry,
    arrangement: Arrangement,
    cell: Cell,
    gap_mm: float,
    layers: int,
    shifted: bool,
) -> list[Sites]:
    """A lattice of its own in each part of a room that is split, one part after the other."""
    parts: list[Sites] = []
    for part in sorted(shapely.get_parts(shape), key=lambda part: part.bounds[:2]):
        made = max(_standing_in(part, arrangement, cell, gap_mm, shifted), key=len, default=None)
        if made is not None:
            part_sites = in_layers(made, layers)
            stack = part_sites.stack + layers * len(parts)
            parts.append(replace(part_sites, stack=stack))
    return [together(parts)] if len(parts) > 1 else []


def _rotated(x_mm: Array, y_mm: Array, degrees: float) -> tuple[Array, Array]:
    """Places turned about the origin as ``affinity.rotate`` turns shapes."""
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return cos * x_mm - sin * y_mm, sin * x_mm + cos * y_mm


def _angles(shape: BaseGeometry) -> list[float]:
    """Directions in degrees in which rows may run: as drawn, and along the longest edges."""
    lengths: dict[float, float] = {}
    for part in getattr(shape, "geoms", [shape]):
        corners = np.array(part.exterior.coords)
        for (x, y), (far_x, far_y) in pairwise(corners.tolist()):
            degrees = round(math.degrees(math.atan2(far_y - y, far_x - x)) % 90.0, 2) % 90.0
            near = next(
                (
                    known
                    for known in lengths
                    if min(abs(known - degrees), 90.0 - abs(known - degrees)) < SAME_DEGREES
                ),
                degrees,
            )
            lengths[near] = lengths.get(near, 0.0) + math.hypot(far_x - x, far_y - y)
    # Along a curve no direction stands out.
    whole = sum(lengths.values())
    edges = sorted((d for d in lengths if lengths[d] > 0.05 * whole), key=lambda d: -lengths[d])
    level = [d for d in edges if min(d, 90.0 - d) >= SAME_DEGREES]
    return [0.0, *level[: MOST_ANGLES - 1]]


def _standing_in(
    shape: BaseGeometry,
    arrangement: Arrangement,
    cell: Cell,
    gap_mm: float,
    shifted: bool,
    starts: int = 1,
) -> Iterator[Sites]:
    """One layer of standing cells, and for nested rows one for each way they can run.

    The fullest first, of so many that begin elsewhere.
    """
    nested = is_nested(arrangement, cell)
    left, top, right, bottom = shape.bounds
    half_x, half_y, _ = half_sizes(cell, arrangement.axis)
    step_x, step_y = steps_mm(cell, arrangement.axis, gap_mm, nested)
    boxy = shape.equals(shapely.box(*shape.bounds))
    phases = PHASES if shifted and not boxy else PHASES[:1]
    for upright_rows in (False, True) if nested else (False,):
        wide, high = right - left, bottom - top
        if upright_rows:
            wide, high = high, wide
        columns = math.floor((wide - 2.0 * half_x) / step_x + 1e-9) + 1
        rows = math.floor((high - 2.0 * half_y) / step_y + 1e-9) + 1
        if columns < 1 or rows < 1 or columns * rows > MOST_PLACES:
            continue
        # A lattice that begins before the room reaches its far side as well.
        shifts = [
            (step_x * (across - (across > 0.0)), step_y * (down - 2.0 * (down > 0.0)))
            for across in phases
            for down in phases
        ]
        more = int(len(phases) > 1)
        made = [
            lattice(
                cell,
                arrangement.axis,
                gap_mm=gap_mm,
                nested=nested,
                columns=columns + more,
                rows=rows + 2 * more,
                corner=(left + (y if upright_rows else x), top + (x if upright_rows else y)),
                shape=shape,
                upright_rows=upright_rows,
            )
            for x, y in _likely(
                shape,
                cell,
                shifts=shifts,
                counts=(columns + more, rows + 2 * more),
                steps=(step_x, step_y),
                nested=nested,
                upright_rows=upright_rows,
                starts=starts,
            )
        ]
        yield from sorted((sites for sites in made if len(sites)), key=len, reverse=True)


def _likely(
    shape: BaseGeometry,
    cell: Cell,
    shifts: list[tuple[float, float]],
    counts: tuple[int, int],
    steps: tuple[float, float],
    nested: bool,
    upright_rows: bool,
    starts: int,
) -> list[tuple[float, float]]:
    """Of the places where a lattice may begin so many that hold most: by the middles of the cells,
    counted within the room less half a cell.
    """
    if len(shifts) == 1:
        return shifts
    half_x, half_y, _ = half_sizes(cell, "up")
    inner = for_middles(shape, half_x, half_y, cell.diameter_mm is not None)
    if inner.is_empty:
        return shifts[:1]
    shapely.prepare(inner)
    row, column = (grid.ravel() for grid in np.mgrid[0 : counts[1], 0 : counts[0]])
    along = half_x + column * steps[0] + (steps[0] / 2.0) * (row % 2) * nested
    down = half_y + row * steps[1]
    left, top = shape.bounds[:2]
    held = []
    for x, y in shifts:
        u, v = along + x, down + y
        u, v = (v, u) if upright_rows else (u, v)
        held.append(int(shapely.contains_xy(inner, left + u, top + v).sum()))
    order = np.argsort(-np.array(held), kind="stable")[:starts]
    return [shifts[place] for place in order.tolist()]


def block_sites(block: CellBlock, cell: Cell, gap_mm: float, shape: BaseGeometry | None) -> Sites:
    """The places of one block of cells that lie in the room."""
    return lattice(
        cell,
        block.axis,
        gap_mm=gap_mm,
        nested=False,
        columns=block.columns,
        rows=block.rows,
        corner=(block.x_mm, block.y_mm),
        shape=shape,
    )


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
        shape,
        middles[:, 0],
        middles[:, 1],
        np.full(middles.shape, each / 2.0),
        np.full(len(x), True),
    )
    middles = middles[fits]
    pairs = near_pairs(middles[:, 0], middles[:, 1], each + gap_mm + 0.12 * each)
    nothing = np.zeros(len(middles), dtype=np.intp)
    return Sites(
        middles[:, 0],
        middles[:, 1],
        layer=nothing,
        column=np.array(place, dtype=np.intp)[fits],
        row=np.array(ring, dtype=np.intp)[fits],
        stack=nothing,
        axis=nothing,
        pairs=pairs,
    )

"""The template: every side of the pack as shapes in true millimetres, in named layers."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence

import numpy as np
from msgspec import Struct
from shapely.geometry import LineString

from lumvak.core.arrangement.layout import FACE_A, FACE_B, FACE_HIGH, FACE_LOW, Layout
from lumvak.core.clearance.planes import Ends, Planes
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.making.cut_lines import numbers_of
from lumvak.core.making.cut_list import SHEET, Cut, ScrewHole, Size

Point = tuple[float, float]
# A weld is a pair of marks, so far from the middle of the terminal and so large.
WELD_APART_MM, WELD_MM = 2.0, 0.8
# A wire that leaves a plane is drawn as a circle so large.
STUB_MM = 3.0
SIDE_NAMES = {FACE_A: "A", FACE_B: "B", FACE_LOW: "LOW", FACE_HIGH: "HIGH"}
SIDE_WORDS = {
    FACE_A: "side A, facing you",
    FACE_B: "side B, turned over to the side",
    FACE_LOW: "the low end, seen from outside",
    FACE_HIGH: "the high end, seen from outside",
}


class Shape(Struct, frozen=True):
    """A shape on a named layer: a circle, a closed or open line, or a text at a point.

    Millimetres, x to the right and y downwards, from the corner of its side's drawing.
    """

    layer: str
    points: tuple[Point, ...]
    diameter_mm: float = 0.0
    closed: bool = False
    text: str = ""


class SideDrawing(Struct, frozen=True):
    """One side of one layer of cells with its size in mm."""

    name: str
    words: str
    width_mm: float
    height_mm: float
    shapes: tuple[Shape, ...]


def template_of(
    joined_pack: JoinedPack, ends: Ends, cuts: Sequence[Cut]
) -> tuple[SideDrawing, ...]:
    """Every plane in which ends of cells lie, as it is seen from outside.

    Strips carry their number in the cut list, and where they are welded or screwed.
    """
    planes = ends.planes
    names = _names(planes)
    numbers = numbers_of(cuts)
    return tuple(
        _side(joined_pack, planes, cuts, numbers, plane, names[plane])
        for plane in range(len(planes))
    )


def _names(planes: Planes) -> list[tuple[str, str]]:
    """The name of each plane, and what is written over its drawing."""
    found = []
    for plane in range(len(planes)):
        face = int(planes.face[plane])
        alike = np.flatnonzero((planes.face == face) & (planes.axis == planes.axis[plane]))
        place = int(np.flatnonzero(alike == plane)[0]) + 1
        number = str(place) if len(alike) > 1 else ""
        level = "layer" if planes.layer[plane] >= 0 else "row"
        words = f", {level} {place} of {len(alike)}" if number else ""
        found.append((SIDE_NAMES[face] + number, SIDE_WORDS[face] + words))
    return found


def _side(
    joined_pack: JoinedPack,
    planes: Planes,
    cuts: Sequence[Cut],
    numbers: Mapping[Size, int],
    plane: int,
    named: tuple[str, str],
) -> SideDrawing:
    name, words = named
    own = [cut for cut in cuts if cut.plane == plane or plane in dict(cut.beyond)]
    drawn = list(_shapes(joined_pack, planes, own, plane, name))
    drawn += _wires(planes, cuts, plane, name)
    for cut in own:
        drawn += _marks(planes, cut, numbers[cut.size], plane, name)
    points = [point for shape in drawn for point in _extent(shape)]
    low_x, low_y = min(p[0] for p in points), min(p[1] for p in points)
    high_x, high_y = max(p[0] for p in points), max(p[1] for p in points)
    mirrored = planes.mirrored(plane)

    def place(point: Point) -> Point:
        x = high_x - point[0] if mirrored else point[0] - low_x
        return x, point[1] - low_y

    shapes = tuple(
        Shape(
            shape.layer,
            tuple(place(point) for point in shape.points),
            shape.diameter_mm,
            shape.closed,
            shape.text,
        )
        for shape in drawn
    )
    return SideDrawing(name, words, high_x - low_x, high_y - low_y, shapes)


def _extent(shape: Shape) -> list[Point]:
    if not shape.diameter_mm:
        return [] if shape.text else list(shape.points)
    (x, y), radius = shape.points[0], shape.diameter_mm / 2.0
    return [(x - radius, y - radius), (x + radius, y + radius)]


def _shapes(
    joined_pack: JoinedPack, planes: Planes, cuts: Sequence[Cut], plane: int, name: str
) -> Iterator[Shape]:
    """The cells with their poles, the pieces with their holes, the main leads."""
    yield from _cells(joined_pack.layout, planes, plane, name)
    for cut in cuts:
        role = "PLATE" if cut.size.form == SHEET else cut.size.role.upper()
        rings = [ring for at, ring in cut.beyond if at == plane]
        for ring in (*cut.outlines, *cut.windows) if cut.plane == plane else rings:
            yield Shape(f"{name}_STRIPS_{role}", ring, closed=True)
    for lead in joined_pack.leads:
        if planes.plane[lead.terminal] != plane:
            continue
        at = planes.uv_mm[lead.terminal]
        if lead.toward is not None:
            at = at + lead.share * (planes.uv_mm[lead.toward] - at)
        yield Shape(f"{name}_LEADS", ((float(at[0]), float(at[1])),), diameter_mm=5.0)


def _wires(planes: Planes, cuts: Sequence[Cut], plane: int, name: str) -> Iterator[Shape]:
    """Wires as lines between the ends that lie in the plane, or a stub where one leaves it."""
    for cut in cuts:
        if cut.plane >= 0:
            continue
        here = [end for end in cut.joins if planes.plane[end] == plane]
        if len(here) > 1:
            points = tuple((float(x), float(y)) for x, y in planes.uv_mm[here])
            yield Shape(f"{name}_WIRES", points)
        elif here:
            x, y = (float(value) for value in planes.uv_mm[here[0]])
            yield Shape(f"{name}_WIRES", ((x, y),), diameter_mm=STUB_MM)


def _marks(planes: Planes, cut: Cut, number: int, plane: int, name: str) -> Iterator[Shape]:
    """The number of a piece between its first two joints, and where each joint is made."""
    here = [end for end in cut.joins if cut.plane < 0 or planes.plane[end] == plane]
    ends = [(float(x), float(y)) for x, y in planes.uv_mm[here]]
    one, two = (ends[0], ends[1]) if len(ends) > 1 else (cut.start, cut.end)
    middle = ((one[0] + two[0]) / 2.0, (one[1] + two[1]) / 2.0)
    layered = f" {cut.layers}×" if cut.layers > 1 else ""
    yield Shape(f"{name}_NUMBERS", (middle,), text=f"{number}{layered}")
    for hole in cut.holes:
        yield from _hole(hole, name)
    if cut.holes:
        return
    length = max(math.dist(cut.start, cut.end), 1e-9)
    along = tuple(
        (far - near) / length * WELD_APART_MM for near, far in zip(cut.start, cut.end, strict=True)
    )
    for x, y in ends:
        for sign in (-1.0, 1.0):
            at_x, at_y = x + sign * along[0], y + sign * along[1]
            for slant in (-WELD_MM, WELD_MM):
                yield Shape(
                    f"{name}_WELDS",
                    ((at_x - WELD_MM, at_y - slant), (at_x + WELD_MM, at_y + slant)),
                )


def _hole(hole: ScrewHole, name: str) -> Iterator[Shape]:
    """A round hole, or a slot as the line around it."""
    if not hole.slot_mm:
        yield Shape(f"{name}_HOLES", (hole.at_mm,), diameter_mm=hole.diameter_mm)
        return
    ring = LineString(hole.ends).buffer(hole.diameter_mm / 2.0, quad_segs=16).exterior
    points = tuple((float(x), float(y)) for x, y in list(ring.coords)[:-1])
    yield Shape(f"{name}_HOLES", points, closed=True)


def _cells(layout: Layout, planes: Planes, plane: int, name: str) -> Iterator[Shape]:
    own = np.flatnonzero(planes.plane == plane)
    for cell in dict.fromkeys((own // 2).tolist()):
        terminals = [end for end in (2 * cell, 2 * cell + 1) if planes.plane[end] == plane]
        x, y = (float(value) for value in planes.uv_mm[terminals].mean(axis=0))
        if layout.cell.diameter_mm is not None:
            yield Shape(f"{name}_CELLS", ((x, y),), diameter_mm=layout.cell.diameter_mm)
        else:
            half = layout.half_mm[cell]
            axis = int(layout.axis[cell])
            half_x = float(half[1] if axis == 1 else half[0])
            half_y = float(half[1] if axis == 0 else half[2])
            yield Shape(
                f"{name}_CELLS", _box(x - half_x, y - half_y, x + half_x, y + half_y), closed=True
            )
        for terminal in terminals:
            at_x, at_y = (float(value) for value in planes.uv_mm[terminal])
            sign = "+-"[terminal % 2]
            yield Shape(f"{name}_TERMINALS", ((at_x, at_y),), diameter_mm=2.0)
            yield Shape(f"{name}_LABELS", ((at_x, at_y),), text=f"{sign}{layout.level[terminal]}")


def _box(x: float, y: float, far_x: float, far_y: float) -> tuple[Point, ...]:
    return (x, y), (far_x, y), (far_x, far_y), (x, far_y)

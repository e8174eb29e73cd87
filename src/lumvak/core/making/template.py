"""The template: both sides of the pack as shapes in true millimetres, in named layers."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from lumvak.core.arrangement.layout import FACE_A, FACE_B, Layout
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.pieces import level_of
from lumvak.core.making.cut_list import SHEET, WIRE_FORM, Cut, numbers_of

Point = tuple[float, float]
# A weld is a pair of marks, so far from the middle of the terminal and so large.
WELD_APART_MM, WELD_MM = 2.0, 0.8
SIDE_NAMES = {FACE_A: "A", FACE_B: "B"}
SIDE_WORDS = {FACE_A: "side A, facing you", FACE_B: "side B, turned over to the side"}


@dataclass(frozen=True, slots=True)
class Shape:
    """A shape on a named layer: a circle, a closed or open line, or a text at a point.

    Millimetres, x to the right and y downwards, from the corner of its side's drawing.
    """

    layer: str
    points: tuple[Point, ...]
    diameter_mm: float = 0.0
    closed: bool = False
    text: str = ""


@dataclass(frozen=True, slots=True)
class SideDrawing:
    """One side of one layer of cells with its size in mm."""

    name: str
    words: str
    width_mm: float
    height_mm: float
    shapes: tuple[Shape, ...]


def template_of(table: JoinedPack, cuts: Sequence[Cut]) -> tuple[SideDrawing, ...]:
    """Both sides of every layer of cells; side B mirrored as it is seen when turned over.

    Strips carry their number in the cut list, and where they are welded.
    """
    layers = int(table.layout.layer.max(initial=0)) + 1
    return tuple(
        _side(table, cuts, face, layer, layers)
        for layer in range(layers)
        for face in (FACE_A, FACE_B)
    )


def _side(
    table: JoinedPack, cuts: Sequence[Cut], face: int, layer: int, layers: int
) -> SideDrawing:
    name = SIDE_NAMES[face] + (str(layer + 1) if layers > 1 else "")
    own = [
        cut for cut in cuts if cut.layer == layer and cut.face not in ({FACE_A, FACE_B} - {face})
    ]
    drawn = list(_shapes(table, own, face, layer, name))
    numbers = numbers_of(cuts)
    for cut in own:
        drawn += _marks(table.layout, cut, numbers[cut.size], face, name)
    points = [point for shape in drawn for point in _extent(shape)]
    low_x, low_y = min(p[0] for p in points), min(p[1] for p in points)
    high_x, high_y = max(p[0] for p in points), max(p[1] for p in points)

    def place(point: Point) -> Point:
        x = high_x - point[0] if face == FACE_B else point[0] - low_x
        return x, point[1] - low_y

    shapes = tuple(
        Shape(
            shape.layer, tuple(place(point) for point in shape.points), shape.diameter_mm,
            shape.closed, shape.text,
        )
        for shape in drawn
    )  # fmt: skip
    words = SIDE_WORDS[face] + (f", layer {layer + 1} of {layers}" if layers > 1 else "")
    return SideDrawing(name, words, high_x - low_x, high_y - low_y, shapes)


def _extent(shape: Shape) -> list[Point]:
    if not shape.diameter_mm:
        return [] if shape.text else list(shape.points)
    (x, y), radius = shape.points[0], shape.diameter_mm / 2.0
    return [(x - radius, y - radius), (x + radius, y + radius)]


def _shapes(
    table: JoinedPack, cuts: Sequence[Cut], face: int, layer: int, name: str
) -> Iterator[Shape]:
    hidden = FACE_B if face == FACE_A else FACE_A
    yield from _cells(table.layout, layer, name, hidden)
    for cut in cuts:
        if cut.size.form == WIRE_FORM:
            yield Shape(f"{name}_WIRES", (cut.start, cut.end))
        elif cut.size.form == SHEET:
            yield Shape(f"{name}_STRIPS_PLATE", _box(*cut.start, *cut.end), closed=True)
        else:
            yield Shape(f"{name}_STRIPS_{cut.size.role.upper()}", strip_corners(cut), closed=True)
    for lead in table.leads:
        layout = table.layout
        if layout.face[lead.terminal] == hidden or layout.layer[lead.terminal // 2] != layer:
            continue
        at = layout.terminal_mm[lead.terminal]
        if lead.toward is not None:
            at = at + lead.share * (layout.terminal_mm[lead.toward] - at)
        yield Shape(f"{name}_LEADS", ((float(at[0]), float(at[1])),), diameter_mm=5.0)


def _marks(layout: Layout, cut: Cut, number: int, face: int, name: str) -> Iterator[Shape]:
    """The number of a piece between its first two joints, and a pair of marks for each weld."""
    ends = [
        (float(layout.terminal_mm[terminal, 0]), float(layout.terminal_mm[terminal, 1]))
        for terminal in cut.joins
        if layout.face[terminal] == face
    ]
    one, two = (ends[0], ends[1]) if len(ends) > 1 else (cut.start, cut.end)
    middle = ((one[0] + two[0]) / 2.0, (one[1] + two[1]) / 2.0)
    yield Shape(f"{name}_NUMBERS", (middle,), text=str(number))
    if cut.size.form == WIRE_FORM:
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


def _cells(layout: Layout, layer: int, name: str, hidden: int) -> Iterator[Shape]:
    levels = level_of(layout)
    for cell in range(len(layout)):
        if layout.layer[cell] != layer:
            continue
        x, y = float(layout.x_mm[cell]), float(layout.y_mm[cell])
        if layout.cell.diameter_mm is not None and layout.axis[cell] == 0:
            yield Shape(f"{name}_CELLS", ((x, y),), diameter_mm=layout.cell.diameter_mm)
        else:
            half_x, half_y = (float(layout.half_mm[cell, axis]) for axis in (0, 1))
            yield Shape(f"{name}_CELLS", _box(x - half_x, y - half_y, x + half_x, y + half_y),
                        closed=True)  # fmt: skip
        for pole, sign in ((0, "+"), (1, "-")):
            terminal = 2 * cell + pole
            if layout.face[terminal] == hidden:
                continue
            at_x, at_y = (float(value) for value in layout.terminal_mm[terminal, :2])
            yield Shape(f"{name}_TERMINALS", ((at_x, at_y),), diameter_mm=2.0)
            yield Shape(f"{name}_LABELS", ((at_x, at_y),), text=f"{sign}{levels[terminal]}")


def _box(x: float, y: float, far_x: float, far_y: float) -> tuple[Point, ...]:
    return (x, y), (far_x, y), (far_x, far_y), (x, far_y)


def strip_corners(cut: Cut) -> tuple[Point, ...]:
    """The four corners of a strip as it lies, its strips side by side drawn as one."""
    (x, y), (far_x, far_y) = cut.start, cut.end
    length = max(math.hypot(far_x - x, far_y - y), 1e-9)
    half = cut.size.width_mm / 2.0
    over_x, over_y = -(far_y - y) / length * half, (far_x - x) / length * half
    return (
        (x + over_x, y + over_y),
        (far_x + over_x, far_y + over_y),
        (far_x - over_x, far_y - over_y),
        (x - over_x, y - over_y),
    )

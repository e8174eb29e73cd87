"""The room as a shape: what is wrong with an outline, and which cells lie inside it."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry
from shapely.validation import explain_validity

from lumvak.core.document.arrangement import Room
from lumvak.core.said import Text, phrase, say_sides

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
CIRCLE_SIDES = 160
SLACK_MM = 1e-6


class Flaw(Struct, frozen=True):
    """Something wrong at a place on the drawing: what it is, what to do, and where in mm.

    ``face`` is the side of the pack that it is on, -1 where it is seen from both; ``cure`` the path
    of the field that puts it right, where its code does not tell.
    """

    code: str
    text: Text
    do: Text
    x_mm: float
    y_mm: float
    face: int = -1
    cure: str = ""


class RoomShape(NamedTuple):
    """The shape of a room, or what is wrong with it."""

    shape: BaseGeometry | None
    flaws: tuple[Flaw, ...]


def outline_of(room: Room) -> RoomShape:
    """The room's shape without its holes, in mm; ``None`` where nothing limits it or it is flawed.

    A round room is a polygon drawn around the circle's inside, so nothing that fits is too large.
    """
    if room.kind == "none":
        return RoomShape(None, ())
    if room.kind == "box":
        shape: BaseGeometry = shapely.box(0.0, 0.0, room.length_mm, room.width_mm)
    elif room.kind == "round":
        radius = room.diameter_mm / 2.0
        shape = shapely.Point(radius, radius).buffer(radius, quad_segs=CIRCLE_SIDES)
    else:
        flaws = outline_flaws(room)
        if flaws:
            return RoomShape(None, flaws)
        shape = shapely.Polygon(room.outline, [list(ring) for ring in room.cut_outs])
    for hole in room.holes:
        shape = shape.difference(
            shapely.Point(hole.x_mm, hole.y_mm).buffer(
                hole.diameter_mm / 2.0 / math.cos(math.pi / (4 * CIRCLE_SIDES)),
                quad_segs=CIRCLE_SIDES,
            )
        )
    return RoomShape(shape, ())


def outline_flaws(room: Room) -> tuple[Flaw, ...]:
    """What keeps a typed, drawn or imported outline from being a room."""
    rings: list[tuple[Text, tuple[tuple[float, float], ...]]] = [("The outline", room.outline)]
    rings += [(phrase("Cut-out {}", place), ring) for place, ring in enumerate(room.cut_outs, 1)]
    flaws = []
    for name, ring in rings:
        if len(ring) < 3:
            at = ring[0] if ring else (0.0, 0.0)
            flaws.append(
                Flaw(
                    "outline-open",
                    phrase("{} has {} corners", name, len(ring)),
                    "Give it three or more.",
                    *at,
                )
            )
            continue
        polygon = shapely.Polygon(ring)
        if polygon.area < 1.0:
            flaws.append(
                Flaw(
                    "outline-empty",
                    phrase("{} encloses no area", name),
                    "Set its corners so that they go around a place.",
                    *ring[0],
                )
            )
        elif not polygon.is_valid:
            x, y = _crossing(explain_validity(polygon), ring[0])
            flaws.append(
                Flaw(
                    "outline-crosses",
                    phrase("{} crosses itself at {}", name, say_sides((x, y))),
                    "Move or take away a corner there.",
                    x,
                    y,
                )
            )
    if not flaws and room.cut_outs:
        whole = shapely.Polygon(room.outline)
        for place, ring in enumerate(room.cut_outs, 1):
            if not whole.contains(shapely.Polygon(ring)):
                flaws.append(
                    Flaw(
                        "cut-out-outside",
                        phrase("Cut-out {} does not lie within the outline", place),
                        "Move it inside, or take it away.",
                        *ring[0],
                    )
                )
    return tuple(flaws)


def _crossing(said: str, otherwise: tuple[float, float]) -> tuple[float, float]:
    """The place that the geometry library names in brackets."""
    inside = said.partition("[")[2].partition("]")[0].split()
    return (float(inside[0]), float(inside[1])) if len(inside) == 2 else otherwise


def inside(shape: BaseGeometry | None, x_mm: Array, y_mm: Array, half: Array, disc: Mask) -> Mask:
    """Which footprints lie in ``shape``: (N,) centres, (N, 2) half sizes, discs or rectangles."""
    if shape is None:
        return np.ones(len(x_mm), dtype=bool)
    shapely.prepare(shape)
    boxes = shapely.box(
        x_mm - half[:, 0] + SLACK_MM,
        y_mm - half[:, 1] + SLACK_MM,
        x_mm + half[:, 0] - SLACK_MM,
        y_mm + half[:, 1] - SLACK_MM,
    )
    fits = shapely.contains(shape, boxes)
    unsure = disc & ~fits
    if unsure.any():
        points = shapely.points(x_mm[unsure], y_mm[unsure])
        away = shapely.distance(shape.boundary, points)
        fits[unsure] = shapely.contains(shape, points) & (away >= half[unsure, 0] - 2e-3)
    return np.asarray(fits, dtype=bool)

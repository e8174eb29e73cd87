"""The strips as they are cut: runs of pieces in one line, sheets, wires."""

from __future__ import annotations

from collections import defaultdict
from functools import cached_property

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.folds import fold_between, half_outlines
from lumvak.core.arrangement.layout import FACE_A, FACE_B, FACE_HIGH, FACE_LOW
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.clearance.planes import Ends
from lumvak.core.clearance.plates import LaidPlate, letter_of, rings_of
from lumvak.core.document.joints import Pattern
from lumvak.core.joints.bridges import Bridge
from lumvak.core.joints.contacts import Screw
from lumvak.core.joints.piece_sections import MATERIAL_LIST, TIE_AWG, Sections, between_groups
from lumvak.core.joints.pieces import FOLD, TIE
from lumvak.core.said import Text, phrase, wire_name

Point = tuple[float, float]
Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
SAME_WAY = 0.999
STRIP, SHEET, WIRE_FORM = "strip", "sheet", "wire"
# A quarter of a window is cut in so many straight lines: true to 0.01 mm.
WINDOW_QUARTER = 32
# What lacks of the rectangle around a plate gives it a letter from so much of a cell on.
LETTER_SHARE = 0.5


class Size(Struct, frozen=True):
    """What makes two pieces alike: what for, from what, how large, and where they are bent.

    ``bends_mm`` are distances from one end; ``letter`` is what a plate that is no rectangle looks
    like.
    """

    role: str
    form: str
    part: Text
    part_id: str
    material: str
    thickness_mm: float
    width_mm: float
    length_mm: float
    bends_mm: tuple[float, ...] = ()
    letter: str = ""


class ScrewHole(Struct, frozen=True):
    """A hole for a screw: its middle in the plane, its diameter, and how long a slot it is.

    ``along`` is the direction, of length 1, in which a slot runs.
    """

    at_mm: Point
    diameter_mm: float
    slot_mm: float
    along: Point

    @property
    def ends(self) -> tuple[Point, Point]:
        """The middles of both ends of a slot."""
        (x, y), (u, v), half = self.at_mm, self.along, self.slot_mm / 2.0
        return (x - half * u, y - half * v), (x + half * u, y + half * v)


class Cut(Struct, frozen=True):
    """One piece as it is cut and laid; ``strips`` of them side by side in ``layers``.

    ``plane`` is where it lies (``clearance.planes``), or -1 for a wire, which lies anywhere.
    ``start`` and ``end`` are its ends there in mm, overhang included; of a plate the corners of
    the rectangle around it. ``outlines`` are its shape, one ring for each strip side by side; those
    of ``windows`` are cut out, and ``holes`` are for screws. ``joins`` are the terminals under it,
    ``pieces`` those of the network that it is. What is folded over an edge goes on in another
    plane: ``beyond`` are those with its outlines there.
    """

    size: Size
    layers: int
    strips: int
    face: int
    layer: int
    level: int
    plane: int
    start: Point
    end: Point
    outlines: tuple[tuple[Point, ...], ...]
    windows: tuple[tuple[Point, ...], ...]
    holes: tuple[ScrewHole, ...]
    joins: tuple[int, ...]
    pieces: tuple[int, ...]
    beyond: tuple[tuple[int, tuple[Point, ...]], ...] = ()

    @property
    def count(self) -> int:
        """How many pieces of this size lie here."""
        return self.layers * self.strips


class MadePack(Struct, frozen=True, eq=False, dict=True):
    """What a pack is made of: its pieces with their sections, its plates, what they are cut from.

    ``ends`` are those of its cells, ``reach_mm`` is how far a piece goes beyond its last joint,
    ``screw`` what it is screwed on with, where it is. On the faces ``bridged`` plates have a window
    over each cell with a ``bridge`` across.
    """

    sections: Sections
    ends: Ends
    plates: tuple[LaidPlate, ...]
    reach_mm: float
    screw: Screw | None
    group: Conductor
    series: Conductor
    bridge: Bridge | None = None
    bridged: frozenset[int] = frozenset()

    @cached_property
    def cuts(self) -> tuple[Cut, ...]:
        """Every piece as it is cut (methods 20); worked out when it is first looked at."""
        found = [_plate_cut(self, plate) for plate in self.plates]
        loose = ~self.sections.pieces.meshed
        outer = between_groups(self.sections.pieces)
        runs = _runs(self.sections, np.flatnonzero(loose), outer)
        found += [_run_cut(self, run, bool(outer[run].any())) for run in runs]
        for plate in self.plates:
            if self.bridge is not None and _face(self, plate) in self.bridged:
                found += _bridge_cuts(self, plate, self.bridge)
        return tuple(found)


def _runs(sections: Sections, which: np.ndarray, outer: Mask) -> list[list[int]]:
    """Pieces that follow each other in one line with the same section, as one strip.

    ``outer`` (M,) join a group to the next.
    """
    pieces = sections.pieces
    places = pieces.layout.terminal_mm
    ways = places[pieces.b] - places[pieces.a]
    lengths = np.maximum(np.linalg.norm(ways, axis=1), 1e-9)
    ways = ways / lengths[:, None]
    # Only strips within a group run on; series strips and wires are cut one by one. On posts and
    # tabs one bar lies over both groups of a joint.
    flat_cells = pieces.layout.cell.diameter_mm is None
    running = ((~outer | flat_cells) & ~sections.wire).tolist()
    ends, kinds = list(zip(pieces.a.tolist(), pieces.b.tolist(), strict=True)), _kinds(sections)
    lines = ways.tolist()
    at: dict[int, list[int]] = defaultdict(list)
    for piece in which.tolist():
        if running[piece]:
            for end in ends[piece]:
                at[end].append(piece)
    seen: set[int] = set()
    runs: list[list[int]] = []
    for piece in which.tolist():
        if piece in seen:
            continue
        seen.add(piece)
        run = [piece]
        queue = [piece] if running[piece] else []
        while queue:
            last = queue.pop()
            x, y, z = lines[last]
            for end in ends[last]:
                for other in at[end]:
                    if other in seen or kinds[other] != kinds[last]:
                        continue
                    along, across, up = lines[other]
                    if abs(x * along + y * across + z * up) > SAME_WAY:
                        seen.add(other)
                        run.append(other)
                        queue.append(other)
        runs.append(run)
    return runs


def _kinds(sections: Sections) -> list[int]:
    """A number for each piece: equal where two in one line are one strip.

    They are of one section, and on round cells of one kind of joint.
    """
    pieces = sections.pieces
    joint = pieces.kind if pieces.layout.cell.diameter_mm is not None else 0.0 * pieces.kind
    columns = (
        sections.material,
        sections.thickness_mm,
        sections.width_mm,
        sections.layers,
        sections.strips,
        joint,
    )
    found: list[int] = np.unique(np.stack(columns, 1), axis=0, return_inverse=True)[1].tolist()
    return found


def _run_cut(made: MadePack, run: list[int], outer: bool) -> Cut:
    """One strip or wire, ``outer`` from a group to the next; it says everything of it."""
    sections, planes = made.sections, made.ends.planes
    pieces = sections.pieces
    layout = pieces.layout
    first = run[0]
    wire = bool(sections.wire[first])
    if pieces.kind[first] == FOLD:
        return _fold_cut(made, first)
    part = made.series if outer else made.group
    terminals = sorted({int(t) for piece in run for t in (pieces.a[piece], pieces.b[piece])})
    places = planes.uv_mm[terminals]
    plane = int(planes.plane[terminals[0]])
    if wire or (planes.plane[terminals] != plane).any():
        places, plane = layout.terminal_mm[terminals, :2], -1
    way = places[-1] - places[0]
    order = np.argsort(places @ way)
    start, end = places[order[0]], places[order[-1]]
    along = (end - start) / max(float(np.linalg.norm(end - start)), 1e-9)
    length = float(pieces.length_mm[run].sum())
    width = round(float(sections.width_mm[first]), 2)
    strips = max(1, round(float(sections.strips[first])))
    outlines: tuple[tuple[Point, ...], ...] = ()
    holes: tuple[ScrewHole, ...] = ()
    if not wire:
        start, end = start - made.reach_mm * along, end + made.reach_mm * along
        length += 2.0 * made.reach_mm
        outlines = lanes(start, end, along, width, strips)
        holes = _holes(made.screw, places[order], (float(along[0]), float(along[1])))
    area = float(sections.area_mm2[first])
    name, part_id = (phrase("{} wire", wire_name(area)), "wire") if wire else (part.said, part.id)
    if pieces.kind[first] == TIE:
        name = phrase("AWG {} wire", TIE_AWG)
    size = Size(
        "series" if outer else "group",
        WIRE_FORM if wire else STRIP,
        part=name,
        part_id=part_id,
        material=MATERIAL_LIST[int(sections.material[first])].name,
        thickness_mm=float(sections.thickness_mm[first]),
        width_mm=width,
        length_mm=round(length, 1),
    )
    return Cut(
        size,
        layers=round(float(sections.layers[first])),
        strips=strips,
        face=int(pieces.face[first]),
        layer=int(layout.layer[pieces.a[first] // 2]),
        level=int(pieces.level[first]),
        plane=plane,
        start=(float(start[0]), float(start[1])),
        end=(float(end[0]), float(end[1])),
        outlines=outlines,
        windows=(),
        holes=holes,
        joins=tuple(terminals[place] for place in order),
        pieces=tuple(run),
    )


def _fold_cut(made: MadePack, piece: int) -> Cut:
    """A strip folded over an edge: its length laid flat, and where it is bent."""
    sections, planes, part = made.sections, made.ends.planes, made.series
    pieces = sections.pieces
    one, other = int(pieces.a[piece]), int(pieces.b[piece])
    fold = fold_between(pieces.layout, one, other)
    assert fold is not None, "it was laid so"
    width = round(float(sections.width_mm[piece]), 2)
    strips = max(1, round(float(sections.strips[piece])))
    first, side, _ = fold.legs_mm
    bends = (round(made.reach_mm + first, 1), round(made.reach_mm + first + side, 1))
    size = Size(
        "series",
        STRIP,
        part=part.said,
        part_id=part.id,
        material=part.material,
        thickness_mm=part.thickness_mm,
        width_mm=width,
        length_mm=round(fold.length_mm + 2.0 * made.reach_mm, 1),
        bends_mm=bends,
    )
    here, beyond = half_outlines(fold, width * strips, made.reach_mm)
    (x, y, _), (edge_x, edge_y, _) = fold.points_mm[:2].tolist()
    return Cut(
        size,
        layers=round(float(sections.layers[piece])),
        strips=strips,
        face=int(pieces.face[piece]),
        layer=int(pieces.layout.layer[one // 2]),
        level=int(pieces.level[piece]),
        plane=int(planes.plane[one]),
        start=(x, y),
        end=(edge_x, edge_y),
        outlines=(here,),
        windows=(),
        holes=(),
        joins=(one, other),
        pieces=(piece,),
        beyond=((int(planes.plane[other]), beyond),),
    )


def _holes(screw: Screw | None, places: Array, along: Point) -> tuple[ScrewHole, ...]:
    """A hole at each place; all but the first are slots, so that cells may grow."""
    if screw is None:
        return ()
    return tuple(
        ScrewHole((float(x), float(y)), screw.hole_mm, screw.slot_mm if place else 0.0, along)
        for place, (x, y) in enumerate(places)
    )


def lanes(
    start: Array, end: Array, along: Array, width_mm: float, strips: int
) -> tuple[tuple[Point, ...], ...]:
    """The corners of strips side by side, in mm; ``start``, ``end`` and the way ``along``: (2,)."""
    across = np.array([-along[1], along[0]])
    found = []
    for lane in range(strips):
        low, high = ((lane + side - strips / 2.0) * width_mm * across for side in (0, 1))
        corners = (start + low, end + low, end + high, start + high)
        found.append(tuple((float(x), float(y)) for x, y in corners))
    return tuple(found)


def sided(side_a: Pattern, side_b: Pattern) -> frozenset[int]:
    """The faces on which plates have windows; where ends look sideways side A holds."""
    faces = [face for face, side in ((FACE_A, side_a), (FACE_B, side_b)) if side == "tabs"]
    return frozenset([*faces, *((FACE_LOW, FACE_HIGH) if side_a == "tabs" else ())])


def _face(made: MadePack, laid: LaidPlate) -> int:
    return int(made.sections.pieces.face[laid.pieces[0]])


def _bridge_cuts(made: MadePack, laid: LaidPlate, bridge: Bridge) -> list[Cut]:
    """A bridge over the window of each cell under a plate, across the longer side of the plate."""
    plate, part, pieces = laid.plate, bridge.part, made.sections.pieces
    low_x, low_y, high_x, high_y = laid.shape.bounds
    along = np.array([0.0, 1.0]) if high_x - low_x >= high_y - low_y else np.array([1.0, 0.0])
    size = Size(
        "bridge",
        STRIP,
        part=part.said,
        part_id=part.id,
        material=part.material,
        thickness_mm=part.thickness_mm,
        width_mm=part.width_mm,
        length_mm=round(bridge.length_mm, 1),
    )
    found = []
    for terminal in plate.terminals.tolist():
        middle = made.ends.planes.uv_mm[terminal]
        start, end = (middle + sign * bridge.length_mm / 2.0 * along for sign in (-1.0, 1.0))
        found.append(
            Cut(
                size,
                layers=1,
                strips=1,
                face=_face(made, laid),
                layer=int(pieces.layout.layer[terminal // 2]),
                level=plate.level,
                plane=plate.plane,
                start=(float(start[0]), float(start[1])),
                end=(float(end[0]), float(end[1])),
                outlines=lanes(start, end, along, part.width_mm, 1),
                windows=(),
                holes=(),
                joins=(terminal,),
                pieces=(),
            )
        )
    return found


def _windowed(made: MadePack, laid: LaidPlate) -> BaseGeometry:
    """The shape of a plate, with a window over each of its cells where bridges lie on it."""
    if made.bridge is None or _face(made, laid) not in made.bridged:
        return laid.shape
    own = laid.plate.terminals
    points = shapely.points(made.ends.planes.uv_mm[own])
    holes = shapely.buffer(points, made.bridge.window.number / 2.0, quad_segs=WINDOW_QUARTER)
    return laid.shape.difference(shapely.union_all(holes))


def _plate_cut(made: MadePack, laid: LaidPlate) -> Cut:
    """One plate over the cells of a joint."""
    pieces, plate, part = made.sections.pieces, laid.plate, made.series
    low_x, low_y, high_x, high_y = laid.shape.bounds
    wide, high_mm = high_x - low_x, high_y - low_y
    size = Size(
        "plate",
        SHEET,
        part=part.said,
        part_id=part.id,
        material=part.material,
        thickness_mm=part.thickness_mm,
        width_mm=round(min(wide, high_mm), 2),
        length_mm=round(max(wide, high_mm), 1),
        letter=letter_of(laid.shape, LETTER_SHARE * pieces.layout.cell.pitch_mm**2),
    )
    outlines, windows = rings_of(_windowed(made, laid))
    terminals = plate.terminals
    first = laid.pieces[0]
    return Cut(
        size,
        layers=round(float(made.sections.layers[first])),
        strips=1,
        face=int(pieces.face[first]),
        layer=int(pieces.layout.layer[plate.a[0] // 2]),
        level=plate.level,
        plane=plate.plane,
        start=(low_x, low_y),
        end=(high_x, high_y),
        outlines=outlines,
        windows=windows,
        holes=_holes(made.screw, made.ends.planes.uv_mm[terminals], (1.0, 0.0)),
        joins=tuple(terminals.tolist()),
        pieces=laid.pieces,
    )

"""The strips as they are cut: runs of pieces in one line, sheets, wires."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import FACE_NAMES
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.clearance.planes import Ends, Planes
from lumvak.core.clearance.plates import Plate, plate_shapes, rings_of
from lumvak.core.joints.contacts import Screw
from lumvak.core.joints.piece_sections import MATERIAL_LIST, TIE_AWG, Sections, between_groups
from lumvak.core.joints.pieces import TIE
from lumvak.core.units import digits, gauge_name, say, say_sides, spelling

Point = tuple[float, float]
Array = NDArray[np.float64]
SAME_WAY = 0.999
STRIP, SHEET, WIRE_FORM = "strip", "sheet", "wire"


@dataclass(frozen=True, slots=True)
class Size:
    """What makes two pieces alike: what for, from what, and how large."""

    role: str
    form: str
    part: str
    part_id: str
    material: str
    thickness_mm: float
    width_mm: float
    length_mm: float


@dataclass(frozen=True, slots=True)
class Hole:
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


@dataclass(frozen=True, slots=True)
class Cut:
    """One piece as it is cut and laid; ``strips`` of them side by side in ``layers``.

    ``plane`` is where it lies (``clearance.planes``), or -1 for a wire, which lies anywhere.
    ``start`` and ``end`` are its ends there in mm, overhang included; of a plate the corners of
    the rectangle around it. ``outlines`` are its shape, one ring for each strip side by side; those
    of ``windows`` are cut out, and ``holes`` are for screws. ``joins`` are the terminals under it,
    ``pieces`` those of the network that it is.
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
    holes: tuple[Hole, ...]
    joins: tuple[int, ...]
    pieces: tuple[int, ...]

    @property
    def count(self) -> int:
        """How many pieces of this size lie here."""
        return self.layers * self.strips


@dataclass(frozen=True, slots=True)
class CutLine:
    """Equal pieces: what to cut and how many."""

    size: Size
    count: int


def cuts_of(
    sections: Sections, ends: Ends, reach_mm: float, screw: Screw | None, group: Conductor,
    series: Conductor, least_mm: float | None,
) -> tuple[Cut, ...]:  # fmt: skip
    """Every piece of a pack as it is cut (methods 20).

    ``ends`` are those of its cells, ``reach_mm`` is how far a piece goes beyond its last joint,
    ``screw`` what it is screwed on with, where it is; ``group`` and ``series`` are what the joints
    are made from; ``least_mm`` is what was typed as the least distance of bare metal.
    """
    found = list(_plates(series, sections, ends, screw, least_mm))
    loose = ~sections.pieces.meshed
    for run in _runs(sections, np.flatnonzero(loose)):
        found.append(_run_cut(sections, ends.planes, reach_mm, screw, group, series, run))
    return tuple(found)


def _runs(sections: Sections, which: np.ndarray) -> list[list[int]]:
    """Pieces that follow each other in one line with the same section, as one strip."""
    pieces = sections.pieces
    outer = between_groups(pieces)
    places = pieces.layout.terminal_mm
    ways = places[pieces.b] - places[pieces.a]
    lengths = np.maximum(np.linalg.norm(ways, axis=1), 1e-9)
    ways = ways / lengths[:, None]
    # Only strips within a group run on; series strips and wires are cut one by one. On posts and
    # tabs one bar lies over both groups of a joint.
    flat_cells = pieces.layout.cell.diameter_mm is None
    running = (~outer | flat_cells) & ~sections.wire
    at: dict[int, list[int]] = defaultdict(list)
    for piece in which.tolist():
        if running[piece]:
            at[int(pieces.a[piece])].append(piece)
            at[int(pieces.b[piece])].append(piece)
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
            for end in (int(pieces.a[last]), int(pieces.b[last])):
                for other in at[end]:
                    alike = (
                        other not in seen
                        and abs(float(ways[other] @ ways[last])) > SAME_WAY
                        and _alike(sections, other, last)
                    )
                    if alike:
                        seen.add(other)
                        run.append(other)
                        queue.append(other)
        runs.append(run)
    return runs


def _alike(sections: Sections, one: int, other: int) -> bool:
    """Whether two pieces in one line are one strip: of one section, and one kind of joint."""
    kind = sections.pieces.kind
    if sections.pieces.layout.cell.diameter_mm is not None and kind[one] != kind[other]:
        return False
    return all(
        item[one] == item[other]
        for item in (sections.material, sections.thickness_mm, sections.width_mm, sections.layers,
                     sections.strips)
    )  # fmt: skip


def _run_cut(
    sections: Sections, planes: Planes, reach: float, screw: Screw | None, group: Conductor,
    series: Conductor, run: list[int],
) -> Cut:  # fmt: skip
    """One strip or wire; it is long, for it says everything of it."""
    pieces = sections.pieces
    layout = pieces.layout
    first = run[0]
    wire = bool(sections.wire[first])
    outer = bool(between_groups(pieces)[run].any())
    part = series if outer else group
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
    holes: tuple[Hole, ...] = ()
    if not wire:
        start, end = start - reach * along, end + reach * along
        length += 2.0 * reach
        outlines = lanes(start, end, along, width, strips)
        holes = _holes(screw, places[order], (float(along[0]), float(along[1])))
    area = float(sections.area_mm2[first])
    name, part_id = (f"{gauge_name(area)} wire", "wire") if wire else (part.name, part.id)
    if pieces.kind[first] == TIE:
        name = f"AWG {TIE_AWG} wire"
    size = Size(
        "series" if outer else "group",
        WIRE_FORM if wire else STRIP,
        name,
        part_id,
        MATERIAL_LIST[int(sections.material[first])].name,
        float(sections.thickness_mm[first]),
        width,
        round(length, 1),
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


def _holes(screw: Screw | None, places: Array, along: Point) -> tuple[Hole, ...]:
    """A hole at each place; all but the first are slots, so that cells may grow."""
    if screw is None:
        return ()
    return tuple(
        Hole((float(x), float(y)), screw.hole_mm, screw.slot_mm if place else 0.0, along)
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


def _plates(
    part: Conductor, sections: Sections, ends: Ends, screw: Screw | None, least_mm: float | None
) -> Iterable[Cut]:
    """One plate over all terminals of a level that its meshed pieces join."""
    pieces, planes = sections.pieces, ends.planes
    meshed = np.flatnonzero(pieces.meshed)
    if not len(meshed):
        return
    layout = pieces.layout
    keys = defaultdict(list)
    for piece in meshed.tolist():
        keys[int(planes.plane[pieces.a[piece]]), int(pieces.level[piece])].append(piece)
    wanted = [
        Plate(plane, level, pieces.a[own], pieces.b[own])
        for (plane, level), own in sorted(keys.items())
    ]
    shapes = plate_shapes(layout, ends, wanted, least_mm)
    for (plate, shape), (_, own) in zip(
        zip(wanted, shapes, strict=True), sorted(keys.items()), strict=True
    ):
        low_x, low_y, high_x, high_y = shape.bounds
        wide, high_mm = high_x - low_x, high_y - low_y
        size = Size(
            "plate", SHEET, part.name, part.id, part.material, part.thickness_mm,
            round(min(wide, high_mm), 2), round(max(wide, high_mm), 1),
        )  # fmt: skip
        outlines, windows = rings_of(shape)
        yield Cut(
            size,
            layers=round(float(sections.layers[own[0]])),
            strips=1,
            face=int(pieces.face[own[0]]),
            layer=int(layout.layer[pieces.a[own[0]] // 2]),
            level=plate.level,
            plane=plate.plane,
            start=(low_x, low_y),
            end=(high_x, high_y),
            outlines=outlines,
            windows=windows,
            holes=_holes(screw, planes.uv_mm[np.unique([plate.a, plate.b])], (1.0, 0.0)),
            joins=tuple(sorted({int(t) for t in (*plate.a, *plate.b)})),
            pieces=tuple(own),
        )


def cut_lines(cuts: Sequence[Cut]) -> tuple[CutLine, ...]:
    """Equal pieces counted together, longest first."""
    counted: Counter[Size] = Counter()
    for cut in cuts:
        counted[cut.size] += cut.count
    lines = [CutLine(size, count) for size, count in counted.items()]
    return tuple(
        sorted(
            lines,
            key=lambda line: (line.size.form, line.size.part, line.size.role, -line.size.length_mm),
        )
    )


def numbers_of(cuts: Sequence[Cut]) -> dict[Size, int]:
    """The number that each size has in the cut list, from 1."""
    return {line.size: place for place, line in enumerate(cut_lines(cuts), 1)}


def where(cut: Cut) -> str:
    """Where a piece lies, in words: joint and side."""
    return f"joint {cut.level}, {FACE_NAMES[cut.face]}"


def size_words(line: CutLine) -> str:
    """``8 × 112 mm``, or the length of a wire."""
    if line.size.form == WIRE_FORM:
        return say(line.size.length_mm, "mm")
    if spelling().inches:
        return say_sides((line.size.width_mm, line.size.length_mm))
    return f"{digits(line.size.width_mm, 'g')} × {digits(line.size.length_mm, '.1f')} mm"

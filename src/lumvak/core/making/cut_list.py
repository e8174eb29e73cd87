"""The strips as they are cut: runs of pieces in one line, sheets, wires."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from lumvak.core.arrangement.layout import FACE_NAMES
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.piece_sections import MATERIAL_LIST, TIE_AWG, between_groups
from lumvak.core.joints.pieces import TIE
from lumvak.core.units import digits, gauge_name, say, say_sides, spelling

Point = tuple[float, float]
SAME_WAY = 0.999
EDGE_MM = 1.0
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
class Cut:
    """One piece as it is cut and laid.

    ``start`` and ``end`` are its ends on the drawing, in mm, overhang included; a sheet lies
    between them as the corners of its rectangle. ``joins`` are the terminals under it, ``pieces``
    those of the network that it is.
    """

    size: Size
    layers: int
    strips: int
    face: int
    layer: int
    level: int
    start: Point
    end: Point
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
    table: JoinedPack, group: Conductor, series: Conductor, overhang: float
) -> tuple[Cut, ...]:
    """Every piece of the pack in hand as it is cut (methods 20).

    ``group`` and ``series`` are what the joints are made from; ``overhang`` is how far in mm a
    piece reaches beyond its last joint.
    """
    found = list(_sheets(series, table, overhang))
    loose = ~table.pieces.meshed
    for run in _runs(table, np.flatnonzero(loose)):
        found.append(_run_cut(table, group, series, run, overhang))
    return tuple(found)


def _runs(table: JoinedPack, which: np.ndarray) -> list[list[int]]:
    """Pieces that follow each other in one line with the same section, as one strip."""
    pieces, sections = table.pieces, table.sections
    outer = between_groups(pieces)
    places = pieces.layout.terminal_mm
    ways = places[pieces.b] - places[pieces.a]
    lengths = np.maximum(np.linalg.norm(ways, axis=1), 1e-9)
    ways = ways / lengths[:, None]
    # Only strips within a group run on; series strips and wires are cut one by one.
    running = ~outer & ~sections.wire
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
                        and sections.layers[other] == sections.layers[last]
                        and pieces.kind[other] == pieces.kind[last]
                    )
                    if alike:
                        seen.add(other)
                        run.append(other)
                        queue.append(other)
        runs.append(run)
    return runs


def _run_cut(
    table: JoinedPack, group: Conductor, series: Conductor, run: list[int], overhang: float
) -> Cut:
    pieces, sections = table.pieces, table.sections
    layout = pieces.layout
    first = run[0]
    wire = bool(sections.wire[first])
    outer = bool(between_groups(pieces)[first])
    part = series if outer else group
    terminals = sorted({int(t) for piece in run for t in (pieces.a[piece], pieces.b[piece])})
    places = layout.terminal_mm[terminals, :2]
    way = places[-1] - places[0]
    order = np.argsort(places @ way)
    start, end = places[order[0]], places[order[-1]]
    along = (end - start) / max(float(np.linalg.norm(end - start)), 1e-9)
    length = float(pieces.length_mm[run].sum())
    if not wire:
        start, end = start - overhang * along, end + overhang * along
        length += 2.0 * overhang
    area = float(sections.area_mm2[first])
    name, part_id = (f"{gauge_name(area)} wire", "wire") if wire else (part.name, part.id)
    if pieces.kind[first] == TIE:
        name = f"AWG {TIE_AWG} wire"
    level = int(pieces.level[first])
    size = Size(
        "series" if outer else "group",
        WIRE_FORM if wire else STRIP,
        name,
        part_id,
        MATERIAL_LIST[int(sections.material[first])].name,
        float(sections.thickness_mm[first]),
        round(float(sections.width_mm[first]), 2),
        round(length, 1),
    )
    return Cut(
        size,
        layers=int(sections.layers[first]),
        strips=max(1, round(float(sections.strips[first]))),
        face=int(pieces.face[first]),
        layer=int(layout.layer[pieces.a[first] // 2]),
        level=level,
        start=(float(start[0]), float(start[1])),
        end=(float(end[0]), float(end[1])),
        joins=tuple(terminals[place] for place in order),
        pieces=tuple(run),
    )


def _sheets(part: Conductor, table: JoinedPack, overhang: float) -> Iterable[Cut]:
    """One sheet over all terminals of a level that its meshed pieces join."""
    pieces, sections = table.pieces, table.sections
    meshed = np.flatnonzero(pieces.meshed)
    if not len(meshed):
        return
    layout = pieces.layout
    # A plate covers its cells, and ends short of their walls.
    reach = max(overhang, layout.cell.pitch_mm / 2.0 - EDGE_MM)
    keys = defaultdict(list)
    for piece in meshed.tolist():
        layer = int(layout.layer[pieces.a[piece] // 2])
        keys[int(pieces.level[piece]), int(pieces.face[piece]), layer].append(piece)
    for (level, face, layer), own in sorted(keys.items()):
        terminals = sorted({int(t) for p in own for t in (pieces.a[p], pieces.b[p])})
        places = layout.terminal_mm[terminals, :2]
        low, high = places.min(axis=0) - reach, places.max(axis=0) + reach
        wide, high_mm = (high - low).tolist()
        size = Size(
            "plate", SHEET, part.name, part.id, part.material, part.thickness_mm,
            round(min(wide, high_mm), 2), round(max(wide, high_mm), 1),
        )  # fmt: skip
        yield Cut(
            size,
            layers=int(sections.layers[own[0]]),
            strips=1,
            face=face,
            layer=layer,
            level=level,
            start=(float(low[0]), float(low[1])),
            end=(float(high[0]), float(high[1])),
            joins=tuple(terminals),
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

"""The strips as they are cut: runs of pieces in one line, sheets, wires; from which stock."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lumvak.core.arrangement.layout import FACE_NAMES
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.document.making import Making
from lumvak.core.pieces import TIE
from lumvak.core.sections import MATERIAL_LIST, TIE_AWG, between_groups
from lumvak.core.table import Table
from lumvak.core.units import gauge_name, say

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


@dataclass(frozen=True, slots=True)
class Stock:
    """What one conductor takes: metres cut, stock opened, left over, grams and price.

    ``plan`` lists the pieces of each roll or sheet in mm; ``least`` is a bound on the stock that
    no plan can beat.
    """

    part: str
    form: str
    cut_m: float
    units: int
    unit_mm: float
    least: int
    left_m: float
    mass_g: float
    price: float
    plan: tuple[tuple[float, ...], ...]
    too_long_mm: float


def cuts_of(table: Table, group: Conductor, series: Conductor, overhang: float) -> tuple[Cut, ...]:
    """Every piece of the pack in hand as it is cut (methods 20).

    ``group`` and ``series`` are what the joints are made from; ``overhang`` is how far in mm a
    piece reaches beyond its last joint.
    """
    found = list(_sheets(series, table, overhang))
    loose = ~table.pieces.meshed
    for run in _runs(table, np.flatnonzero(loose)):
        found.append(_run_cut(table, group, series, run, overhang))
    return tuple(found)


def _runs(table: Table, which: np.ndarray) -> list[list[int]]:
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
    table: Table, group: Conductor, series: Conductor, run: list[int], overhang: float
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


def _sheets(part: Conductor, table: Table, overhang: float) -> Iterable[Cut]:
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


def stocks_of(
    lines: Sequence[CutLine], conductors: Mapping[str, Conductor], making: Making
) -> tuple[Stock, ...]:
    """What each conductor takes from its stock, with the least waste that was found."""
    by_part: dict[tuple[str, str, float], list[CutLine]] = defaultdict(list)
    for line in lines:
        size = line.size
        across = size.width_mm if size.form == WIRE_FORM else size.thickness_mm
        by_part[size.part_id, size.form, across].append(line)
    found = []
    for (part_id, form, _), own in sorted(by_part.items()):
        part = conductors.get(part_id)
        unit = making.sheet_mm if form == SHEET or (part and part.form != STRIP) else (
            making.roll_m * 1000.0
        )  # fmt: skip
        stock_width = part.width_mm if part is not None else own[0].size.width_mm
        lengths = [
            length for line in own for length in _lengths(line, stock_width)
        ]  # fmt: skip
        too_long = max((length for length in lengths if length > unit), default=0.0)
        fitting = [length for length in lengths if length <= unit]
        plan, least = packed(fitting, unit)
        total = sum(lengths)
        density = next(item.density_kg_per_m3 for item in MATERIAL_LIST
                       if item.name == own[0].size.material)  # fmt: skip
        found.append(
            Stock(
                part=own[0].size.part,
                form=form,
                cut_m=total / 1000.0,
                units=len(plan),
                unit_mm=unit,
                least=least,
                left_m=(len(plan) * unit - sum(fitting)) / 1000.0,
                mass_g=sum(_volume_mm3(line) * line.count for line in own) * density * 1e-6,
                price=0.0 if part is None else part.price_per_m * total / 1000.0,
                plan=tuple(tuple(item) for item in plan),
                too_long_mm=too_long,
            )
        )
    return tuple(found)


def _volume_mm3(line: CutLine) -> float:
    if line.size.form == WIRE_FORM:
        # The copper inside the insulation, from the outer diameter (methods 11).
        from lumvak.core.conductors.lead_wire import INSULATION_MM, STRAND_FACTOR

        bare = (line.size.width_mm - INSULATION_MM) / STRAND_FACTOR
        return math.pi * bare**2 / 4.0 * line.size.length_mm
    return line.size.thickness_mm * line.size.width_mm * line.size.length_mm


def _lengths(line: CutLine, stock_width_mm: float) -> list[float]:
    """The stock that equal pieces take, as lengths: narrow ones lie side by side in its width."""
    if line.size.form == WIRE_FORM:
        return [line.size.length_mm] * line.count
    beside = max(1, math.floor(stock_width_mm / line.size.width_mm + 1e-6))
    if line.size.width_mm > stock_width_mm * (1.0 + 1e-6):
        # A plate wider than its stock is made of lanes, each as long.
        return [line.size.length_mm] * (
            line.count * math.ceil(line.size.width_mm / stock_width_mm - 1e-6)
        )
    return [line.size.length_mm] * math.ceil(line.count / beside)


def packed(lengths: Sequence[float], unit: float) -> tuple[list[list[float]], int]:
    """Pieces on as few units as were found (longest first, into the fullest that takes it).

    Also returns the bound that no plan can beat: total length, or pieces over half a unit.
    """
    units: list[list[float]] = []
    room: list[float] = []
    for length in sorted(lengths, reverse=True):
        fits = [place for place, left in enumerate(room) if left >= length - 1e-9]
        if fits:
            place = min(fits, key=lambda item: room[item])
            units[place].append(length)
            room[place] -= length
        else:
            units.append([length])
            room.append(unit - length)
    least = max(
        math.ceil(sum(lengths) / unit - 1e-9), sum(length > unit / 2.0 for length in lengths)
    )
    return units, least


def where(cut: Cut) -> str:
    """Where a piece lies, in words: joint and side."""
    return f"joint {cut.level}, {FACE_NAMES[cut.face]}"


def size_words(line: CutLine) -> str:
    """``8 × 112 mm``, or the length of a wire."""
    if line.size.form == WIRE_FORM:
        return say(line.size.length_mm, "mm")
    return f"{line.size.width_mm:g} × {line.size.length_mm:.1f} mm"

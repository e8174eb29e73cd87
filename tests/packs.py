"""Random packs in random rooms, and a look at their metal by a few lines of its own."""

from __future__ import annotations

import math
import random
from itertools import combinations
from typing import Any

import numpy as np
import shapely
from msgspec import Struct
from shapely import affinity
from shapely.geometry import Point, Polygon

from lumvak.core.arrangement.sites import Sites
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation

AXES = ("up", "up", "up", "along", "across")
ROOMS = ("free", "box", "outline", "triangle", "tube")


class Pack(Struct, frozen=True):
    """What was drawn: the project, the kind of room, and the words that name it."""

    project: Project
    room: str
    name: str


def random_pack(catalogue: Catalogue, seed: int) -> Pack:
    """A pack of 3S to 24S and 1P to 12P in a room about as large as it needs; defaults else."""
    draw = random.Random(seed)
    cell = draw.choice(sorted(catalogue.cells.values(), key=lambda item: item.id))
    series, parallel = draw.randint(3, 24), draw.randint(1, 12)
    if cell.diameter_mm is None:
        series, parallel = draw.randint(3, 16), draw.randint(1, 4)
    rows, axis = draw.choice(("straight", "nested")), draw.choice(AXES)
    kind, layers = draw.choice(ROOMS), draw.choice((1, 1, 2, 3))
    area = series * parallel * math.prod(cell.footprint_mm) * draw.uniform(1.15, 2.2) / layers
    if axis != "up":
        area *= cell.height_mm / max(cell.footprint_mm)
    values: dict[str, Any] = {
        "pack.cell": cell.id,
        "pack.series": series,
        "pack.parallel": parallel,
        "need.rated_voltage_v": round(series * cell.voltage_nominal_v, 1),
        "need.current_a": round(draw.uniform(0.2, 0.8) * cell.continuous_a * parallel, 1),
        "arrangement.rows": rows,
        "arrangement.axis": axis,
        "joints.across": "fold" if seed % 3 == 0 else "wire",
    }
    if kind != "free":
        room = room_of(draw, kind, area)
        tall = cell.height_mm if axis == "up" else cell.footprint_mm[0]
        if kind != "tube" and (layers > 1 or draw.random() < 0.5):
            room["height_mm"] = round(layers * (tall + 3.0) + 4.0, 1)
        values["arrangement.room"] = room
    values |= _parts(
        random.Random(1000 + seed), values.get("arrangement.room", {}), cell, catalogue
    )
    name = f"{seed}: {cell.id} {series}S{parallel}P {rows} {axis} {kind} x{layers}"
    return Pack(with_values(Project(), values), kind, name)


def _parts(
    draw: random.Random, room: dict[str, Any], cell: Cell, catalogue: Catalogue
) -> dict[str, Any]:
    """Parts that take room, and a holder, in every third pack."""
    if not room or draw.random() > 0.33:
        return {}
    corners = room.get("outline") or ((0.0, 0.0),)
    wide = room.get("length_mm") or room.get("diameter_mm") or max(x for x, _ in corners)
    deep = room.get("width_mm") or room.get("diameter_mm") or max(y for _, y in corners)
    parts = [
        {
            "name": f"part {place}",
            "x_mm": round(draw.uniform(0.0, 0.8) * wide, 1),
            "y_mm": round(draw.uniform(0.0, 0.8) * deep, 1),
            "length_mm": round(draw.uniform(0.05, 0.3) * wide, 1),
            "width_mm": round(draw.uniform(0.05, 0.3) * deep, 1),
            "height_mm": draw.choice((None, round(draw.uniform(5.0, 120.0), 1))),
            "stands": draw.choice(("floor", "lid")),
            "kind": draw.choice(("other", "other", "board", "foam", "leads")),
        }
        for place in range(draw.randint(1, 3))
    ]
    holders = [
        item.id
        for item in sorted(catalogue.holders.values(), key=lambda item: item.id)
        if cell.diameter_mm is not None and 0.0 <= item.diameter_mm - cell.diameter_mm < 0.8
    ]
    holder = draw.choice([None, *holders])
    plate = None if cell.diameter_mm is not None else draw.choice((None, 3.0))
    return {
        "arrangement.kept_free": tuple(parts),
        "arrangement.holder": holder,
        "arrangement.plate_mm": plate,
    }


def in_the_way(evaluation: Evaluation) -> list[str]:
    """Cells that lie where a part does, as boxes in space and circles from above."""
    layout, wanted = evaluation.laid_out.joined_pack.layout, evaluation.project.arrangement
    found = []
    for part in wanted.kept_free:
        room_mm = wanted.room.height_mm
        tall = part.height_mm
        top = float((layout.z_mm + layout.half_mm[:, 2]).max())
        floor, lid = 0.0, math.inf
        if tall is not None and part.stands == "floor":
            lid = tall
        elif tall is not None:
            floor = top if room_mm is None else room_mm - tall
        left, near = part.x_mm, part.y_mm
        right, far = left + part.length_mm, near + part.width_mm
        for cell in range(len(layout)):
            x, y, z = (float(item[cell]) for item in (layout.x_mm, layout.y_mm, layout.z_mm))
            half = layout.half_mm[cell]
            apart = (max(left - x, 0.0, x - right), max(near - y, 0.0, y - far))
            if layout.cell.diameter_mm is not None and layout.axis[cell] == 0:
                meets = math.hypot(*apart) < half[0] - 0.01
            else:
                meets = apart[0] < half[0] - 0.01 and apart[1] < half[1] - 0.01
            if meets and z - half[2] < lid - 0.01 and z + half[2] > floor + 0.01:
                found.append(f"{layout.name[cell]} in {part.name}")
    return found


def touching(evaluation: Evaluation) -> list[str]:
    """Pieces that lie on a foreign can or on each other, seen from above by a few lines.

    Standing cells alone; pieces are taken as they are cut, cells as circles and posts as points.
    """
    layout = evaluation.laid_out.joined_pack.layout
    found = []
    flat = [cut for cut in evaluation.cuts if cut.outlines]
    shapes = [
        shapely.union_all([Polygon(ring, cut.windows) for ring in cut.outlines]) for cut in flat
    ]
    for k, (cut, shape) in enumerate(zip(flat, shapes, strict=True)):
        if cut.face > 1:
            continue
        for other in range(k):
            if (flat[other].face, flat[other].layer) != (cut.face, cut.layer):
                continue
            if flat[other].level != cut.level and shape.intersection(shapes[other]).area > 0.01:
                found.append(f"{cut.joins} on {flat[other].joins}")
        for cell in range(len(layout)):
            if layout.layer[cell] != cut.layer or layout.axis[cell] != 0:
                continue
            group = int(layout.group[cell])
            if layout.cell.diameter_mm is not None:
                up = (cut.face == 0) != bool(layout.turned[cell])
                levels = {group, group + 1} if up else {group}
                disc = Point(layout.x_mm[cell], layout.y_mm[cell]).buffer(
                    layout.cell.diameter_mm / 2.0
                )
                if cut.level not in levels and disc.intersection(shape).area > 0.05:
                    found.append(f"{cut.joins} on {layout.name[cell]}")
                continue
            for pole in (0, 1):
                x, y, _ = layout.terminal_mm[2 * cell + pole]
                if group + 1 - pole != cut.level and shape.distance(Point(x, y)) < 2.0:
                    found.append(f"{cut.joins} on {layout.name[cell]}")
    return found


def room_of(draw: random.Random, kind: str, area: float) -> dict[str, Any]:
    """A room of a kind about so large in mm², turned as it may be."""
    side = math.sqrt(area)
    if kind == "box":
        stretch = draw.uniform(1.0, 2.5)
        return {
            "kind": "box",
            "length_mm": round(side * stretch, 1),
            "width_mm": round(side / stretch + 8.0, 1),
        }
    if kind == "tube":
        return {"kind": "round", "diameter_mm": round(2.0 * math.sqrt(area / math.pi) + 8.0, 1)}
    if kind == "triangle":
        base = side * draw.uniform(1.2, 1.9)
        tall = 2.0 * area / base
        corners = [(0.0, 0.0), (base, 0.0), (base * draw.uniform(0.1, 0.9), tall)]
    else:
        long, wide = side * 1.3, side
        cut_x, cut_y = long * draw.uniform(0.2, 0.5), wide * draw.uniform(0.2, 0.5)
        corners = [
            (0.0, 0.0),
            (long, 0.0),
            (long, wide - cut_y),
            (long - cut_x, wide - cut_y),
            (long - cut_x, wide),
            (0.0, wide),
        ]
    turned = affinity.rotate(Polygon(corners), draw.choice((0.0, 0.0, draw.uniform(0, 360))))
    left, top, _, _ = turned.bounds
    ring = tuple((round(x - left, 1), round(y - top, 1)) for x, y in turned.exterior.coords[:-1])
    return {"kind": "outline", "outline": ring}


def best_lattice(
    shape: Polygon, diameter: float, gap: float, nested: bool, degrees: int = 3, phases: int = 8
) -> int:
    """Most discs of a lattice in a shape, by turning and shifting it in small steps.

    Far apart from the program's own: grids of numbers, and distances to the outline.
    """
    best = 0
    step = diameter + gap
    rise = step * math.sqrt(0.75) if nested else step
    for angle in range(0, 60 if nested else 90, degrees):
        turned = affinity.rotate(shape, angle, origin=(0, 0))
        inner = turned.buffer(-diameter / 2.0 + 1e-3)
        if inner.is_empty:
            continue
        left, top, right, bottom = inner.bounds
        shapely.prepare(inner)
        rows, columns = int((bottom - top) / rise) + 2, int((right - left) / step) + 3
        row, column = np.mgrid[0:rows, 0:columns]
        x = left + (column - 1) * step + (row % 2) * (step / 2.0) * nested
        y = top + row * rise - rise
        for across in range(phases):
            for down in range(2 * phases if nested else phases):
                points = shapely.points(x + across * step / phases, y + down * rise / phases)
                best = max(best, int(shapely.covers(inner, points).sum()))
    return best


def small_room(cells: list[tuple[int, int]]) -> Sites:
    """Places of a straight lattice, by column and row."""
    column, row = (np.array(item, dtype=np.intp) for item in zip(*cells, strict=True))
    pairs = [
        (one, other)
        for one, other in combinations(range(len(cells)), 2)
        if abs(column[one] - column[other]) + abs(row[one] - row[other]) == 1
    ]
    nothing = np.zeros(len(cells), dtype=np.intp)
    return Sites(
        column * 20.0,
        row * 20.0,
        nothing,
        column,
        row,
        nothing,
        nothing,
        np.array(pairs, dtype=np.intp).reshape(-1, 2),
    )


def path_exists(sites: Sites, series: int, parallel: int) -> bool:
    """Whether any groups do, by going through all connected sets of places one after the other."""
    count = len(sites)
    near = [0] * count
    for one, other in sites.pairs.tolist():
        near[one] |= 1 << other
        near[other] |= 1 << one

    def beside(group: int) -> int:
        return int(np.bitwise_or.reduce([near[k] for k in range(count) if group >> k & 1] or [0]))

    def whole(group: int) -> bool:
        part = group & -group
        while (more := (part | beside(part)) & group) != part:
            part = more
        return part == group

    groups = [sum(1 << k for k in chosen) for chosen in combinations(range(count), parallel)]
    groups = [group for group in groups if whole(group)]
    ends = {(group, group) for group in groups}
    for _ in range(series - 1):
        ends = {
            (used | group, group)
            for used, last in ends
            for group in groups
            if not used & group and beside(last) & group
        }
    return bool(ends)

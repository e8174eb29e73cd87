"""Outlines of rooms from DXF and SVG drawings: closed shapes in, a word on all the rest."""

from __future__ import annotations

import itertools
import logging
import math
import re
import time
from collections import Counter
from pathlib import Path
from typing import Any

import shapely
from msgspec import Struct

from lumvak.core.document.arrangement import Hole
from lumvak.files.contents import drawing_in
from lumvak.files.problem import FileProblem, check_size, read_text, readable

Corner = tuple[float, float]
Round = tuple[float, float, float]
FLAT_MM = 0.05
MOST_CORNERS = 2000
CIRCLE_CORNERS = 180
LONGEST_MM = 5000.0
# What no room of a pack needs: so many shapes, loose lines and corners of one, copies by “use”,
# so far from where the drawing begins, so long to read.
MOST_SHAPES, MOST_LOOSE, MOST_READ, MOST_USES = 5000, 2000, 20_000, 20
MOST_TAGS = 8 * MOST_SHAPES
FARTHEST_MM = 1e6
LONGEST_S = 5.0
# Drawing units in mm by the number that DXF gives them.
DXF_UNITS = {0: 1.0, 1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}
SVG_UNITS = ("mm", "cm", "in", "pt", "pc", "px")
CSS_MM = 25.4 / 96.0


class Outline(Struct, frozen=True):
    """A drawing as a room: outer corners, cut-outs, round holes, and what was left out."""

    corners: tuple[Corner, ...]
    cut_outs: tuple[tuple[Corner, ...], ...]
    holes: tuple[Hole, ...]
    ignored: tuple[str, ...]


def load_outline(path: Path) -> Outline:
    """Read an outline; raises FileProblem naming what was wrong and what would be accepted."""
    readers = {".dxf": _from_dxf, ".svg": _from_svg}
    read = readers.get(path.suffix.lower()) or readers.get(drawing_in(read_text(path)))
    if read is None:
        raise FileProblem(f"{path.name}: not a drawing; accepted: .dxf and .svg")
    check_size(path)
    # The readers raise whatever they stumble over.
    with readable(path, "is no drawing that can be read"):
        return _sorted_out(path, *read(path))


def _from_dxf(path: Path) -> tuple[list[list[Corner]], list[Round], Counter[str]]:
    import ezdxf
    from ezdxf import path as paths

    # What it mends by itself is nobody's business here.
    logging.getLogger("ezdxf").setLevel(logging.CRITICAL)
    try:
        document = ezdxf.readfile(path)  # type: ignore[attr-defined]
    except OSError as error:
        why = error.strerror or "no DXF drawing that can be read"
        raise FileProblem(f"{path.name}: cannot be read: {why}") from error
    except ezdxf.DXFError as error:  # type: ignore[attr-defined]
        raise FileProblem(f"{path.name}: no DXF drawing that can be read: {error}") from error
    scale = DXF_UNITS.get(int(document.header.get("$INSUNITS", 0)), 1.0)
    rings: list[list[Corner]] = []
    circles: list[Round] = []
    ignored: Counter[str] = Counter()
    loose: list[list[Corner]] = []
    begin = time.monotonic()
    for count, entity in enumerate(document.modelspace()):
        _check_bounds(path, count, begin)
        kind = entity.dxftype()
        if kind == "CIRCLE":
            x, y, _ = entity.dxf.center
            circles.append((x * scale, y * scale, 2.0 * entity.dxf.radius * scale))
            continue
        if kind not in ("LWPOLYLINE", "POLYLINE", "LINE", "ARC", "SPLINE", "ELLIPSE"):
            ignored[kind] += 1
            continue
        made = paths.make_path(entity)
        _check_reach(path, [(p.x * scale, p.y * scale) for p in made.control_vertices()])
        flat = itertools.islice(made.flattening(FLAT_MM / scale), MOST_READ)
        points = [(p.x * scale, p.y * scale) for p in flat]
        closed = made.is_closed or bool(getattr(entity, "is_closed", False))
        (rings if closed else loose).append(points)
    if len(loose) > MOST_LOOSE:
        raise FileProblem(
            f"{path.name}: {len(loose)} loose lines; accepted: closed shapes, or {MOST_LOOSE} lines"
        )
    joined, left = _joined(loose)
    rings += joined
    if left:
        ignored["open line"] += left
    # DXF counts upwards, the room downwards.
    upright = [[(x, -y) for x, y in ring] for ring in rings]
    return upright, [(x, -y, diameter) for x, y, diameter in circles], ignored


def _from_svg(path: Path) -> tuple[list[list[Corner]], list[Round], Counter[str]]:
    import svgelements as svg

    try:
        text = read_text(path)
        scale = _svg_scale(text)
        if text.count("<") > MOST_TAGS:
            raise FileProblem(
                f"{path.name}: over {MOST_TAGS} elements; accepted: the outline alone"
            )
        if text.count("<use") > MOST_USES or "<!ENTITY" in text:
            raise FileProblem(
                f"{path.name}: shapes are copied by reference; accepted: {MOST_USES} copies at most"
            )
        document = svg.SVG.parse(path, reify=True, ppi=96)
    except FileProblem:
        raise
    except Exception as error:  # the parser raises whatever its XML reader does
        raise FileProblem(f"{path.name}: no SVG drawing that can be read: {error}") from error
    rings: list[list[Corner]] = []
    circles: list[Round] = []
    ignored: Counter[str] = Counter()
    begin = time.monotonic()
    for count, item in enumerate(document.elements()):
        _check_bounds(path, count, begin)
        if isinstance(item, svg.SVG | svg.Group | svg.Use):
            continue
        if isinstance(item, svg.Circle):
            circles.append((item.cx * scale, item.cy * scale, 2.0 * item.rx * scale))
            continue
        if not isinstance(item, svg.Shape):
            name = type(item).__name__.lower()
            if name not in ("desc", "title", "svgelement"):
                ignored[name] += 1
            continue
        for part in svg.Path(item).as_subpaths():
            run = svg.Path(part)
            points = _svg_points(run, scale)
            _check_reach(path, points)
            if len(points) < 3 or not _closes(run, points):
                ignored["open line"] += 1
            else:
                rings.append(points)
    return rings, circles, ignored


def _check_bounds(path: Path, count: int, begin: float) -> None:
    """Raise FileProblem where a drawing has too many shapes, or takes too long."""
    if count > MOST_SHAPES:
        raise FileProblem(f"{path.name}: over {MOST_SHAPES} shapes; accepted: the outline alone")
    if time.monotonic() - begin > LONGEST_S:
        raise FileProblem(
            f"{path.name}: takes over {LONGEST_S:g} s to read; accepted: plain shapes"
        )


def _check_reach(path: Path, points: list[Corner]) -> None:
    """Raise FileProblem where a shape reaches farther than any room."""
    if any(not abs(value) <= FARTHEST_MM for point in points for value in point):
        raise FileProblem(
            f"{path.name}: a shape reaches over {FARTHEST_MM / 1e6:g} km from the origin; check "
            "its units, millimetres are meant"
        )


def _svg_scale(text: str) -> float:
    """Millimetres of a pixel as the parser gives them.

    A width with a unit, and a bare one beside a viewBox, is a length on paper: 96 pixels an inch.
    Where nothing says how large the drawing is, its numbers are taken as millimetres.
    """
    tag = re.search(r"<svg\b[^>]*>", text, re.S)
    head = tag[0] if tag is not None else ""
    found = re.search(r"\bwidth\s*=\s*[\"']\s*[-+0-9.eE]+\s*([a-z]*)\s*[\"']", head)
    if found is None:
        return 1.0
    sized = found[1] in SVG_UNITS or (not found[1] and re.search(r"\bviewBox\s*=", head))
    return CSS_MM if sized else 1.0


def _svg_points(run: Any, scale: float) -> list[Corner]:
    points: list[Corner] = []
    for segment in run:
        name = type(segment).__name__
        if name in ("Move", "Line", "Close"):
            if segment.end is not None:
                points.append((segment.end.x * scale, segment.end.y * scale))
            continue
        steps = max(4, min(96, math.ceil(segment.length(error=1e-2) * scale / 0.5)))
        for step in range(1, steps + 1):
            at = segment.point(step / steps)
            points.append((at.x * scale, at.y * scale))
    return _plain(points)


def _closes(run: Any, points: list[Corner]) -> bool:
    if any(type(segment).__name__ == "Close" for segment in run):
        return True
    return math.dist(points[0], points[-1]) < FLAT_MM


def _plain(points: list[Corner]) -> list[Corner]:
    """Corners without repeats."""
    kept: list[Corner] = []
    for point in points:
        if not kept or math.dist(kept[-1], point) > 1e-6:
            kept.append(point)
    return kept


def _joined(loose: list[list[Corner]]) -> tuple[list[list[Corner]], int]:
    """Lines and arcs that meet end to end as closed rings, and how many are left open."""
    rings: list[list[Corner]] = []
    waiting = [list(run) for run in loose if len(run) > 1]
    left = len(loose) - len(waiting)
    while waiting:
        run = waiting.pop()
        grown = True
        while grown and math.dist(run[0], run[-1]) > FLAT_MM:
            grown = False
            for place, other in enumerate(waiting):
                if math.dist(run[-1], other[0]) <= FLAT_MM:
                    run += other[1:]
                elif math.dist(run[-1], other[-1]) <= FLAT_MM:
                    run += other[::-1][1:]
                else:
                    continue
                del waiting[place]
                grown = True
                break
        if len(run) > 3 and math.dist(run[0], run[-1]) <= FLAT_MM:
            rings.append(run)
        else:
            left += 1
    return rings, left


def _sorted_out(
    path: Path, rings: list[list[Corner]], circles: list[Round], ignored: Counter[str]
) -> Outline:
    """The largest closed shape is the outline; what lies in it are cut-outs and holes."""
    shapes = _shapes(path, rings)
    circles = sorted(circles, key=lambda circle: -circle[2])
    largest = max((abs(shape.area) for shape, _ in shapes), default=0.0)
    if circles and math.pi * circles[0][2] ** 2 / 4.0 > largest:
        points = _around(circles.pop(0))
        shapes.append((shapely.Polygon(points), points))
    if not shapes:
        raise FileProblem(
            f"{path.name}: no closed shape in it; accepted: closed polylines, paths, polygons or "
            f"rectangles{_words(ignored)}"
        )
    shapes.sort(key=lambda item: -abs(item[0].area))
    outer, corners = shapes[0]
    left, top, right, bottom = (float(edge) for edge in outer.bounds)
    if max(right - left, bottom - top) > LONGEST_MM:
        raise FileProblem(
            f"{path.name}: the outline is over 5 m long; check its units, millimetres are meant"
        )

    def shifted(points: list[Corner]) -> tuple[Corner, ...]:
        return tuple((round(x - left, 3), round(y - top, 3)) for x, y in points)

    hull = outer if outer.is_valid else outer.convex_hull
    cut_outs = []
    for shape, points in shapes[1:]:
        if shape.is_valid and hull.contains(shape):
            cut_outs.append(shifted(points))
        else:
            ignored["closed shape outside the largest"] += 1
    holes = []
    for x, y, diameter in circles:
        if hull.contains(shapely.Point(x, y)):
            holes.append(
                Hole(
                    x_mm=round(x - left, 3),
                    y_mm=round(y - top, 3),
                    diameter_mm=round(diameter, 3),
                )
            )
        else:
            ignored["circle outside the outline"] += 1
    return Outline(
        shifted(corners),
        tuple(cut_outs),
        tuple(holes),
        tuple(f"{count} × {kind}" for kind, count in sorted(ignored.items())),
    )


def _shapes(path: Path, rings: list[list[Corner]]) -> list[tuple[Any, list[Corner]]]:
    """Rings of three corners or more as polygons, each with its corners."""
    shapes = []
    for ring in rings:
        points = _plain(ring)
        if len(points) > 1 and math.dist(points[0], points[-1]) < 1e-6:
            points = points[:-1]
        if len(points) > MOST_CORNERS:
            raise FileProblem(
                f"{path.name}: a shape has {len(points)} corners; accepted: {MOST_CORNERS} at most"
            )
        if len(points) >= 3:
            shapes.append((shapely.Polygon(points), points))
    return shapes


def _around(circle: Round) -> list[Corner]:
    """A circle as corners on it."""
    turns = (2.0 * math.pi * step / CIRCLE_CORNERS for step in range(CIRCLE_CORNERS))
    x, y, diameter = circle
    radius = diameter / 2.0
    return [(x + radius * math.cos(turn), y + radius * math.sin(turn)) for turn in turns]


def _words(ignored: Counter[str]) -> str:
    if not ignored:
        return ""
    return "; left out: " + ", ".join(f"{count} × {kind}" for kind, count in ignored.items())

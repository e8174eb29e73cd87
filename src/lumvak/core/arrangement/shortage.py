"""By how much a room is too small, in words; what is said to be enough has been tried."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import NamedTuple

import shapely
from msgspec.structs import replace
from shapely import affinity

from lumvak.core.arrangement.group_paths import Task, rings_in
from lumvak.core.arrangement.judged_paths import paths_of
from lumvak.core.arrangement.lattice import block_sites, lattices_in
from lumvak.core.arrangement.layers import between_of, is_nested, layers_in
from lumvak.core.arrangement.layout import layers_height_mm
from lumvak.core.arrangement.outline import outline_of
from lumvak.core.arrangement.set_aside import usable
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement, Axis
from lumvak.core.said import Text, listed, phrase, say

LARGEST_GROWTH, MOST_LAYERS = 6.0, 12
# What is said is a whole number of these; where it is not enough by so little, more is tried.
ROUND_MM, MOST_STEPS, STEP_GROWTH = 0.5, 16, 1.25


def shortage(task: Task) -> Text:
    """By how much the room is too small: millimetres in each direction, layers, and cells."""
    arrangement, cell = task.arrangement, task.cell
    room = arrangement.room
    tall = layers_height_mm(*_heights(task), 1)
    if room.kind != "none" and room.height_mm is not None and tall > room.height_mm + 1e-9:
        return phrase("short by {} in height", say(tall - room.height_mm, "mm"))
    total = task.series * task.parallel
    if arrangement.blocks:
        held = sum(
            len(block_sites(block, cell, task.gap_mm, task.free)) for block in arrangement.blocks
        )
        return phrase("the blocks hold {} cells, {} are wanted", held, total)
    shape, _ = outline_of(room)
    if shape is None:
        return "the outline is no room yet"
    here = _held(task)
    left, top, right, bottom = shapely.bounds(shape).tolist()
    wanted: list[tuple[str, float, Callable[[float], Arrangement]]] = (
        [("{} in diameter", right - left, lambda by: _stretched(arrangement, by, by))]
        if room.kind == "round"
        else [
            ("{} in length", right - left, lambda by: _stretched(arrangement, by, 0.0)),
            ("{} in width", bottom - top, lambda by: _stretched(arrangement, 0.0, by)),
        ]
    )
    said = list[Text]()
    for lacks, extent, larger in wanted:
        more = _enough_mm(task, extent, larger)
        if more is not None:
            said.append(phrase(lacks, say(more, "mm")))
    cells = [phrase("{} cells", total - here)] if here < total else []
    higher = _higher(task)
    if here >= total and not said and not higher:
        return "no path through the room keeps the groups together; try other rows or directions"
    short = [*said, *cells]
    words: Text = "it is too low"
    if short:
        words = phrase("short by {}", listed(short, " or "))
    return listed((words, higher), ", or ") if higher else words


class _LayerHeights(NamedTuple):
    """What the height of layers hangs on."""

    cell: Cell
    axis: Axis
    gap_mm: float
    between_mm: float
    nested: bool


def _heights(task: Task) -> _LayerHeights:
    """What the height of layers hangs on."""
    arrangement, cell = task.arrangement, task.cell
    nested = is_nested(arrangement, cell)
    return _LayerHeights(cell, arrangement.axis, task.gap_mm, between_of(arrangement), nested)


def _with(task: Task, arrangement: Arrangement) -> Task:
    """The same pack in another room."""
    shape, _ = outline_of(arrangement.room)
    free = usable(shape, arrangement, task.cell, task.gap_mm)
    return replace(task, arrangement=arrangement, free=free)


def _held(task: Task) -> int:
    """How many cells in whole groups the fullest lattice holds, wherever the rows begin."""
    if task.free is None or task.free.is_empty:
        return 0
    found = lattices_in(task.free, task.arrangement, task.cell, task.gap_mm, shifted=False)
    ring = rings_in(task.arrangement, task.cell, task.gap_mm, task.free)
    counts = [len(sites) for sites in (*found, *([ring] if ring is not None else []))]
    return max(counts, default=0) // task.parallel * task.parallel


def _serves(task: Task) -> bool:
    """Whether there is a path, without long trying."""
    if task.free is None or task.free.is_empty:
        return False
    return next(paths_of(task, trying=False), None) is not None


def _stretched(arrangement: Arrangement, by_x_mm: float, by_y_mm: float) -> Arrangement:
    """An arrangement in a room so many millimetres longer and wider."""
    room = arrangement.room
    changed: dict[str, object]
    if room.kind == "box":
        changed = {"length_mm": room.length_mm + by_x_mm, "width_mm": room.width_mm + by_y_mm}
    elif room.kind == "round":
        changed = {"diameter_mm": room.diameter_mm + by_x_mm}
    else:
        left, top, right, bottom = shapely.Polygon(room.outline).bounds
        scale = (1.0 + by_x_mm / (right - left), 1.0 + by_y_mm / (bottom - top))
        rings = [room.outline, *room.cut_outs]
        made = [
            tuple(affinity.scale(shapely.LinearRing(ring), *scale, origin=(left, top)).coords[:-1])
            for ring in rings
        ]
        changed = {"outline": made[0], "cut_outs": tuple(made[1:])}
    return replace(arrangement, room=replace(room, **changed))


def _enough_mm(
    task: Task, extent_mm: float, larger: Callable[[float], Arrangement]
) -> float | None:
    """How many mm more serve, found by halving the count of places and then tried; or ``None``."""
    total = task.series * task.parallel
    low, high = 0.0, (LARGEST_GROWTH - 1.0) * extent_mm
    if _held(_with(task, larger(high))) < total:
        return None
    while high - low > ROUND_MM / 2.0:
        middle = (low + high) / 2.0
        low, high = (low, middle) if _held(_with(task, larger(middle))) >= total else (middle, high)
    more = _said_up(max(ROUND_MM, high))
    step = max(ROUND_MM, round(task.cell.pitch_mm / 8.0 / ROUND_MM) * ROUND_MM)
    for _ in range(MOST_STEPS):
        if _serves(_with(task, larger(more))):
            return more
        more = _said_up(more + step)
        step *= STEP_GROWTH
    return None


def _said_up(mm: float) -> float:
    """The next larger length in mm that three figures say exactly."""
    step = max(ROUND_MM, 10.0 ** (math.floor(math.log10(mm)) - 2))
    return math.ceil(mm / step - 1e-9) * step


def _lid_mm(arrangement: Arrangement) -> float:
    """Height in mm that the highest part over the cells wants."""
    return max(
        (part.height_mm or 0.0 for part in arrangement.kept_free if part.stands == "lid"),
        default=0.0,
    )


def _higher(task: Task) -> Text:
    """The height at which more layers serve, and how many; empty where none do."""
    arrangement, cell = task.arrangement, task.cell
    room = arrangement.room
    now = layers_in(arrangement, cell, task.gap_mm)
    total = task.series * task.parallel
    each = _held(task) // max(1, now)
    if not each:
        return ""
    for layers in range(max(now + 1, -(-total // each)), MOST_LAYERS + 1):
        least = layers_height_mm(*_heights(task), layers) + _lid_mm(arrangement)
        height = _said_up(least)
        if room.height_mm is not None:
            height = room.height_mm + _said_up(least - room.height_mm)
        higher = replace(room, height_mm=height)
        if _serves(_with(task, replace(arrangement, room=higher))):
            if room.height_mm is None:
                # Over lying cells the holder's edge stands out as well.
                whole = height + (2.0 * task.edge_mm if arrangement.axis != "up" else 0.0)
                return phrase("give the room a height: {} for {} layers", say(whole, "mm"), layers)
            return phrase("{} in height for {} layers", say(height - room.height_mm, "mm"), layers)
    return ""

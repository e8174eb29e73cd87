"""The harness as it is made: wires of each brick's plug, the adapter to the board, sensors."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import Layout
from lumvak.core.catalogue.boards import Board
from lumvak.core.document.taps import BalanceLeads, TapModule
from lumvak.core.said import Text, digits, phrase
from lumvak.core.taps.guide import TapGuide

Array = NDArray[np.float64]
# Cells within so many pitches warm each other.
NEAR_PITCHES = 1.6


class HarnessWire(Struct, frozen=True):
    """A wire of the harness: ``number`` from 1, from a joint to a ``pin`` of a ``plug`` of a brick.

    ``board_pin`` is where the adapter takes it; empty where the neighbour's wire serves that joint,
    or the board has no pin for it. Without bricks the plug is the board's own.
    """

    number: int
    module: int
    plug: int
    pin: int
    joint: int
    place: str
    side: str
    colour: str
    length_mm: float
    board_pin: str
    board_plug: int


class Brick(Struct, frozen=True):
    """A brick: its ``name``, first and last joint, how many ``plugs``, and where it lies in mm.

    ``box_mm`` is x and y of a corner, length and width.
    """

    name: str
    first: int
    last: int
    plugs: int
    box_mm: tuple[float, float, float, float]


class Sensor(Struct, frozen=True):
    """Where a temperature sensor goes: the name of the cell, and why."""

    cell: str
    why: Text


class Harness(Struct, frozen=True, eq=False):
    """Bricks, wires and sensors; ``area_mm2`` is the section of every wire."""

    modules: tuple[Brick, ...]
    wires: tuple[HarnessWire, ...]
    sensors: tuple[Sensor, ...]
    area_mm2: float


def harness_of(
    leads: BalanceLeads,
    guides: Sequence[TapGuide],
    layout: Layout,
    board: Board | None,
    cell_a: Array | None,
) -> Harness:
    """The harness of a pack (methods 31).

    Without bricks, or where their groups are not those of the pack, it is one. ``cell_a`` is the
    current of each cell, (N,), where the network was solved.
    """
    modules = modules_of(leads.modules, layout)
    wires: list[HarnessWire] = []
    for at, module in enumerate(modules):
        each = math.ceil((module.last - module.first + 1) / module.plugs)
        for place, joint in enumerate(range(module.first, module.last + 1)):
            guide = guides[joint]
            # Two bricks share a joint: the lower one's wire goes on to the board.
            serves = at == 0 or place > 0
            wires.append(
                HarnessWire(
                    len(wires) + 1,
                    at,
                    plug=place // each + 1,
                    pin=place % each + 1,
                    joint=joint,
                    place=guide.place,
                    side=guide.side,
                    colour=guide.colour,
                    length_mm=guide.length_mm,
                    board_pin=guide.pin if serves else "",
                    board_plug=guide.plug if serves else 0,
                )
            )
    count = 1 if board is None else board.sensors
    return Harness(modules, tuple(wires), sensors_of(layout, cell_a, count), leads.area_mm2)


def modules_of(wanted: Sequence[TapModule], layout: Layout) -> tuple[Brick, ...]:
    """The bricks with their joints and places; one where what is wanted is not the whole pack."""
    if sum(item.groups for item in wanted) != layout.series:
        wanted = (TapModule(name="pack", groups=layout.series),)
    ends = np.cumsum([0, *(item.groups for item in wanted)]).tolist()
    return tuple(
        Brick(item.name, first, last, item.plugs, _box(layout, first, last))
        for item, (first, last) in zip(wanted, pairwise(ends), strict=True)
    )


def _box(layout: Layout, first: int, last: int) -> tuple[float, float, float, float]:
    here = (layout.group >= first) & (layout.group < last)
    x, y, half = layout.x_mm[here], layout.y_mm[here], layout.half_mm[here]
    left, top = float((x - half[:, 0]).min()), float((y - half[:, 1]).min())
    right, bottom = float((x + half[:, 0]).max()), float((y + half[:, 1]).max())
    return left, top, right - left, bottom - top


def sensors_of(layout: Layout, cell_a: Array | None, count: int) -> tuple[Sensor, ...]:
    """Where so many sensors go: the warmest cell first, then the most closed in, then far ones.

    A cell is as warm as what it and its neighbours turn into heat, currents squared; ``cell_a`` is
    the current of each in A, (N,).
    """
    if count < 1:
        return ()
    # Loaded where it is wanted: a pack may have thousands of cells.
    from scipy.spatial import cKDTree

    places = np.stack([layout.x_mm, layout.y_mm, layout.z_mm], axis=1)
    pitch = 2.0 * float(layout.half_mm[:, :2].min()) + layout.gap_mm
    pairs = cKDTree(places).query_pairs(NEAR_PITCHES * pitch, output_type="ndarray")
    heat = np.ones(len(layout)) if cell_a is None else np.square(cell_a)
    closed = np.bincount(pairs.ravel(), minlength=len(layout))
    about = np.bincount(pairs[:, 0], heat[pairs[:, 1]], len(layout))
    about += np.bincount(pairs[:, 1], heat[pairs[:, 0]], len(layout))
    warm = heat + about / 2.0
    first = int(np.argmax(warm))
    why = phrase("the warmest: {} cells about it", int(closed[first]))
    if cell_a is not None:
        usual = digits(100.0 * heat[first] / heat.mean(), ".0f")
        why = phrase("{}, {} % of the usual heat of a cell", why, usual)
    found = [(first, why)]
    far = _away(places, first)
    while len(found) < min(count, len(layout)):
        if len(found) == 1:
            # The most closed in of those that are not beside the first.
            score = np.where(far > 2.0 * pitch, closed + warm / warm.max() / 10.0, -1.0)
            reason = "worst cooled: {} cells about it, away from the first"
        else:
            score, reason = far, "farthest from the others; {} cells about it"
        at = int(np.argmax(score))
        found.append((at, phrase(reason, int(closed[at]))))
        far = np.minimum(far, _away(places, at))
    return tuple(Sensor(layout.name[at], words) for at, words in found)


def _away(places: Array, at: int) -> Array:
    return np.asarray(np.sqrt(np.square(places - places[at]).sum(axis=1)))

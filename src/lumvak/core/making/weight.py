"""What the pack weighs with all that lies in it, and where its centre of mass is (methods 40)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.findings import BARRIER_MM
from lumvak.core.arrangement.layers import between_of
from lumvak.core.arrangement.layout import Barriers, Layout
from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.holders import Holder
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.conductors.strip_and_wire import COPPER
from lumvak.core.document.arrangement import Arrangement, KeptFree
from lumvak.core.figures.finding import TOUCH_SAFE_V
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.piece_sections import mass_g
from lumvak.core.said import Text, phrase

Array = NDArray[np.float64]
# Densities in g/cm3: soft foam, insulating paper and board, plates of aluminium (methods 40).
FOAM_G_PER_CM3, BARRIER_G_PER_CM3, PLATE_G_PER_CM3 = 0.03, 1.2, 2.7
# A metre of balance lead with its insulation, in g.
TAP_G_PER_M = 3.0


class Weighed(Struct, frozen=True):
    """One kind of thing in the pack: what, its mass in g, its middle in mm, whether that is known.

    ``kind`` is one of cells, strips, holders, parts, leads.
    """

    kind: str
    name: Text
    mass_g: float
    at_mm: tuple[float, float, float]
    known: bool = True


class Around(Struct, frozen=True):
    """What lies around the cells: what was said of it, and the parts that are in force."""

    arrangement: Arrangement
    holder: Holder | None
    board: Board | None
    wire: LeadWire
    barriers: Barriers
    taps_mm: float


def weighed(joined_pack: JoinedPack, around: Around) -> tuple[Weighed, ...]:
    """Everything that has a weight: cells, strips, holders, parts, barriers, plates and leads."""
    layout = joined_pack.layout
    return (
        Weighed("cells", "cells", layout.cell.mass_g * len(layout), layout.centre_mm),
        _strips(joined_pack),
        *_holders(layout, around.holder),
        *_parts(layout, around),
        *_barriers(layout, around.barriers),
        *_plates(layout, around.arrangement),
        *_leads(joined_pack, around),
    )


def centre_mm(things: Sequence[Weighed]) -> tuple[float, float, float]:
    """The centre of mass in mm from the room's corner and floor; needs something that weighs."""
    mass: Array = np.array([item.mass_g for item in things])
    at: Array = np.array([item.at_mm for item in things])
    x, y, z = (mass @ at / mass.sum()).tolist()
    return x, y, z


def _strips(joined_pack: JoinedPack) -> Weighed:
    pieces, layout = joined_pack.sections.pieces, joined_pack.layout
    own = mass_g(joined_pack.sections)
    total = float(own.sum())
    if not total:
        return Weighed("strips", "strips and wires", 0.0, layout.centre_mm)
    middles = (layout.terminal_mm[pieces.a] + layout.terminal_mm[pieces.b]) / 2.0
    x, y, z = (own @ middles / total).tolist()
    return Weighed("strips", "strips and wires", total, (x, y, z))


def _holders(layout: Layout, holder: Holder | None) -> Iterator[Weighed]:
    if holder is not None:
        # One place over each end.
        each = 2.0 * holder.mass_g * len(layout)
        yield Weighed("holders", holder.name, each, layout.centre_mm, holder.mass_g > 0.0)


def _parts(layout: Layout, around: Around) -> Iterator[Weighed]:
    """The parts as they stand; the board in force lies where its place is, or amid the cells."""
    placed = False
    for part in around.arrangement.kept_free:
        mass, known = part.mass_g or 0.0, part.mass_g is not None
        if part.mass_g is None and part.kind == "foam":
            mass = FOAM_G_PER_CM3 * part.length_mm * part.width_mm * high_mm(part, layout) * 1e-3
        elif part.mass_g is None and part.is_board and not placed and around.board is not None:
            mass, known = around.board.mass_g, around.board.mass_g > 0.0
        placed = placed or part.is_board
        # Air weighs nothing, and where leads leave there is nothing but them.
        known = known or part.kind in ("air", "leads")
        yield Weighed("parts", part.name, mass, middle_mm(part, layout, around.arrangement), known)
    if not placed and around.board is not None:
        board = around.board
        yield Weighed("parts", board.name, board.mass_g, layout.centre_mm, board.mass_g > 0.0)


def high_mm(part: KeptFree, layout: Layout) -> float:
    """Height in mm of a part: as said, else as high as the cells stand."""
    return part.height_mm if part.height_mm is not None else layout.size_mm[2]


def middle_mm(
    part: KeptFree, layout: Layout, arrangement: Arrangement
) -> tuple[float, float, float]:
    """The middle of a part in mm; one over the cells lies on them, or lower under the lid."""
    high = high_mm(part, layout)
    room = arrangement.room
    lid = room.height_mm if room.kind != "none" else None
    floor = 0.0
    if part.stands == "lid":
        top = layout.size_mm[2]
        floor = top if lid is None else max(0.0, min(top, lid - high))
    return (
        part.x_mm + part.length_mm / 2.0,
        part.y_mm + part.width_mm / 2.0,
        floor + high / 2.0,
    )


def _barriers(layout: Layout, barriers: Barriers) -> Iterator[Weighed]:
    """A sheet between two cans: as high as a cell, as wide as one."""
    if not len(barriers.pairs):
        return
    thick = np.where(barriers.volts > TOUCH_SAFE_V, BARRIER_MM[1], BARRIER_MM[0])
    face = max(layout.cell.footprint_mm) * layout.cell.height_mm
    mass = thick * face * BARRIER_G_PER_CM3 * 1e-3
    middle = np.stack([layout.x_mm, layout.y_mm, layout.z_mm], axis=1)[barriers.pairs].mean(axis=1)
    x, y, z = (mass @ middle / mass.sum()).tolist()
    yield Weighed("parts", phrase("barriers"), float(mass.sum()), (x, y, z), False)


def _plates(layout: Layout, arrangement: Arrangement) -> Iterator[Weighed]:
    """Two plates over the broad sides of all cells."""
    if arrangement.plate_mm is None or layout.cell.diameter_mm is not None:
        return
    length, width, height = layout.size_mm
    high = height - between_of(arrangement) * (arrangement.axis == "up")
    broad = width if arrangement.axis == "across" else length
    mass = 2.0 * broad * high * arrangement.plate_mm * PLATE_G_PER_CM3 * 1e-3
    yield Weighed("parts", "compression plates", mass, layout.centre_mm, False)


def _leads(joined_pack: JoinedPack, around: Around) -> Iterator[Weighed]:
    """Main and balance leads, taken where the main ones leave."""
    layout, wire = joined_pack.layout, around.wire
    leave = layout.terminal_mm[[lead.terminal for lead in joined_pack.leads]]
    at = layout.centre_mm if not len(leave) else leave.mean(axis=0).tolist()
    metre = COPPER.density_kg_per_m3 * 1e-3 * wire.area.number
    if wire.part is not None and wire.part.mass_g_per_m:
        metre = wire.part.mass_g_per_m
    main = metre * wire.length.number * len(joined_pack.leads)
    yield Weighed("leads", "main leads", main, (at[0], at[1], at[2]))
    taps = TAP_G_PER_M * around.taps_mm * 1e-3
    yield Weighed("leads", "balance leads", taps, layout.centre_mm, False)

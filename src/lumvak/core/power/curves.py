"""The curves of the path over time, as pack currents: load, openings, and what is harmed."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.power_parts import Connector, Fuse, Switch
from lumvak.core.cells.cell_model import SPECIFIC_HEAT_J_PER_KG_K
from lumvak.core.cells.pack_heat import FILM_W_PER_M2_K
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.conductors.melting import link_curves
from lumvak.core.conductors.strip_and_wire import strip_time_constant_s
from lumvak.core.document.pack import Enclosure
from lumvak.core.joints.candidates import ROLE_NOUNS
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.joints.piece_sections import time_constants_s
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.connectors import harm_of
from lumvak.core.power.fuses import fuse_curves
from lumvak.core.power.opening_order import Curve
from lumvak.core.said import phrase, say, say_delay
from lumvak.core.time_current import (
    TIMES_S,
    Array,
    Lump,
    allowed_rise,
    lump_curve,
    stages_curve,
)

# Cells are harmed from here on; strips may rise so far over them, for a second and for good.
CELL_HARM_C = 80.0
STRIP_HARM_SHORT_K, STRIP_HARM_K = 250.0, 60.0
STRIP_SHORT_S, STRIP_STEADY_S = 1.0, 100.0
STAGE_NAMES = {1: ("stage",), 2: ("slow", "short"), 3: ("slow", "quick", "short")}


class CurveSource(Struct, frozen=True, eq=False):
    """The parts that have a curve, and the cells.

    ``cell_ohm`` is a cell at half charge; ``excess`` is how far the busiest is over its share.
    """

    draw: Draw
    board: Board | None
    fuse: Fuse | None
    connector: Connector | None
    switch: Switch | None
    wire: LeadWire
    ambient_c: float
    link_a: float | None
    cell: Cell
    parallel: int
    enclosure: Enclosure
    cell_ohm: float
    excess: float


def curves_of(
    source: CurveSource, joined_pack: JoinedPack, group: JointResult, series: JointResult
) -> tuple[Curve, ...]:
    """Every curve of the path that is known, in the order of the current (methods 22).

    It is long, for it lists one curve after the other.
    """
    excess, parallel = source.excess, source.parallel
    drawn = replace(source.draw, start_a=0.0).curve
    made = [Curve("load", phrase("load"), "load", drawn, drawn, "what is drawn")]
    if source.draw.start_a > source.draw.continuous_a:
        start = np.array([source.draw.start_after_a(float(seconds)) for seconds in TIMES_S])
        made.append(Curve("surge", phrase("surge"), "load", start, start, "a start"))
    if source.board is not None:
        made += board_curves(source.board)
    if source.fuse is not None:
        fuse = source.fuse
        least, most = fuse_curves(fuse, source.ambient_c)
        made.append(
            Curve(
                "fuse",
                "main fuse",
                kind="fuse",
                low_a=least,
                high_a=most,
                detail=fuse.name,
                place="power.fuse",
            )
        )
    if source.link_a is not None:
        low, high = link_curves(source.link_a, source.ambient_c)
        low, high = low * parallel / (1.0 + excess), high * parallel
        detail = phrase("{} each", say(source.link_a, "A"))
        made.append(
            Curve(
                "link",
                "cells' links",
                kind="link",
                low_a=low,
                high_a=high,
                detail=detail,
                place="joints.link_a",
            )
        )
    cells = cell_harm(source)
    made.append(Curve("cells", "cells", "harm", cells, cells, source.cell.name))
    for result in (group, series):
        harm = strip_harm(result, joined_pack)
        if harm is not None:
            role = result.setting.role
            made.append(
                Curve(
                    f"{role}-joints",
                    phrase("{}", ROLE_NOUNS[role]),
                    "harm",
                    harm,
                    harm,
                    result.chosen.part.name,
                )
            )
    wire = source.wire
    made.append(
        Curve(
            "leads",
            "main leads",
            kind="harm",
            low_a=wire.harm_a,
            high_a=wire.harm_a,
            detail=wire.name,
            place="leads.wire",
        )
    )
    for key, name, part in (
        ("connector", "connector", source.connector),
        ("switch", "switch", source.switch),
    ):
        if part is not None:
            harm = harm_of(part)
            made.append(
                Curve(
                    key,
                    name,
                    kind="harm",
                    low_a=harm,
                    high_a=harm,
                    detail=part.name,
                    place=f"power.{key}",
                )
            )
    return tuple(made)


def board_curves(board: Board) -> list[Curve]:
    """Each over-current stage of a board, and all of them together."""
    names = STAGE_NAMES.get(len(board.stages), ())
    made = []
    for place, stage in enumerate(board.stages):
        trips = stages_curve([(stage.current_a, stage.delay_s)])
        name = names[place] if names else str(place + 1)
        made.append(
            Curve(
                f"stage-{place + 1}",
                phrase("BMS, {}", name),
                kind="stage",
                low_a=trips,
                high_a=trips,
                detail=phrase("{}, {}", say(stage.current_a, "A"), say_delay(stage.delay_s))
                if place
                else board.name,
                place="" if place else "protection.board",
            )
        )
    trips = stages_curve(board.trips)
    return [*made, Curve("board", "BMS", "board", trips, trips, board.name)]


def cell_harm(source: CurveSource) -> Array:
    """(T,) pack current in A that warms the busiest cell to 80 °C in each time."""
    cell = source.cell
    length, width = cell.footprint_mm
    area = 2.0 * (length + width) * cell.height_mm * 1e-6
    cooled = 1.0 / (FILM_W_PER_M2_K[source.enclosure] * area)
    stored = cell.mass_g * 1e-3 * SPECIFIC_HEAT_J_PER_KG_K
    # As a pack current: a cell carries its share, the busiest a little more.
    share = (1.0 + source.excess) / source.parallel
    lump = Lump(source.cell_ohm * share**2 * cooled, cooled * stored)
    return lump_curve(lump, max(CELL_HARM_C - source.ambient_c, 1.0))


def strip_harm(result: JointResult, joined_pack: JoinedPack) -> Array | None:
    """(T,) pack current in A that harms the busiest strip of a role; ``None`` where none is."""
    role = result.setting.role
    rises = allowed_rise(STRIP_HARM_SHORT_K, STRIP_HARM_K, STRIP_SHORT_S, STRIP_STEADY_S)
    if result.setting.joints == 0:
        return None
    current = result.setting.current_a
    piece = joined_pack.busiest(role)
    if piece is not None and joined_pack.carried is not None:
        rise = float(joined_pack.carried.rise_k[piece])
        tau = float(time_constants_s(joined_pack.sections)[piece])
        growth = float(joined_pack.sections.of_material("per_kelvin")[piece])
    else:
        rise, tau = result.chosen.rise_k, strip_time_constant_s(result.chosen.section)
        growth = result.chosen.section.material.per_kelvin
    if not math.isfinite(rise) or rise <= 0.0:
        return None
    # The rise is that of the warm strip; at the start its resistance is less. Four digits do, and
    # let a curve be found again after an edit that warms the cells by a hair.
    cold = rise / (1.0 + growth * rise) / current**2
    return lump_curve(Lump(float(f"{cold:.4g}"), float(f"{tau:.6g}"), growth), rises)

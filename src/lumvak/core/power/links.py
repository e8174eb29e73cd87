"""The links of the power path: fuse, leads, board, connector, switch and surge part."""

from __future__ import annotations

import math

import numpy as np

from lumvak.core.bms.verdicts import peak_current_a
from lumvak.core.catalogue.boards import Board
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.document.power import FusePlace
from lumvak.core.figures.figure import Figure, Rule, of_part, sheet
from lumvak.core.figures.link import Link, PathLoad
from lumvak.core.power.connectors import curve_of
from lumvak.core.power.fuses import fuse_curves
from lumvak.core.power.power_path import Power
from lumvak.core.said import capital, phrase, say
from lumvak.core.time_current import Array, going_over, rated_curve, stages_curve

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
SET_A = Rule("board.set_a", "BMS carries, as set", "A",
             "its slow level as set: over it the BMS opens", "methods 12")
# fmt: on


def board_limit(board: Board, made: Board | None = None) -> Figure:
    """A board's continuous current as a figure; as it is set where that is less than it could."""
    own = of_part("board.continuous_a", "BMS carries", made or board, "continuous_a", "A")
    if made is None or board.continuous_a >= made.continuous_a:
        return own
    return SET_A.of(board.continuous_a, own)


def board_hold(board: Board) -> Array:
    """(T,) what a board passes: up to its stages for a peak, its continuous current for good."""
    stages = np.minimum(stages_curve(board.trips), board.stages[-1].current_a)
    return going_over(stages, board.continuous_a)


def power_links(
    power: Power,
    wire: LeadWire,
    leads_limit: Figure | None,
    fuse_place: FusePlace,
    ambient: Figure,
    load: PathLoad,
) -> tuple[Link, ...]:
    """The links from the joints to the equipment, in the order of the current (methods 13).

    ``leads_limit`` is what several main leads carry together, where there are several.
    """
    fuse = _fuse_link(power, ambient, load)
    at_cells = fuse_place == "cells"
    leads = leads_limit or wire.limit
    scale = leads.number / wire.limit.number
    return (
        *(fuse if at_cells else ()),
        load.link(
            "leads",
            "main leads",
            detail=phrase("{}, {}", wire.name, say(wire.length.number, "m")),
            stage="power",
            limit=leads,
            hold_a=wire.hold_a * scale,
            peak_a=wire.peak_limit_a * scale,
        ),
        *_board_link(power, load),
        *(() if at_cells else fuse),
        *_contact_links(power, load),
    )


def _fuse_link(power: Power, ambient: Figure, load: PathLoad) -> tuple[Link, ...]:
    fuse, limit = power.fuse.part, power.fuse_hold
    if fuse is None or limit is None:
        return ()
    held = going_over(fuse_curves(fuse, ambient.number)[0], limit.number)
    return (load.link("fuse", "fuse", fuse.name, "power", limit, held),)


def _board_link(power: Power, load: PathLoad) -> tuple[Link, ...]:
    board = power.board
    if board is None:
        return ()
    limit, peak_a = board_limit(board, power.made), peak_current_a(board, load.peak_s)
    return (
        load.link(
            "board",
            "BMS",
            detail=board.name,
            stage="power",
            limit=limit,
            hold_a=board_hold(board),
            peak_a=peak_a,
        ),
    )


def _contact_links(power: Power, load: PathLoad) -> tuple[Link, ...]:
    """Connector, switch and surge part, those that are there."""
    made: list[Link] = []
    for key, part in (("connector", power.connector.part), ("switch", power.switch.part)):
        if part is None:
            continue
        limit = sheet(
            f"power.{key}_a",
            phrase("{} carries", capital(key)),
            part.continuous_a,
            "A",
            part.name,
        )
        made.append(load.link(key, key, part.name, "power", limit, curve_of(part)))
    surge = power.surge.part
    if surge is not None:
        limit = sheet("power.surge_a", "Surge part carries", surge.steady_a, "A", surge.name)
        held = surge_hold(surge.steady_a or 0.0, surge.time_constant_s or 1.0)
        made.append(load.link("surge", "surge part", surge.name, "power", limit, held))
    return tuple(made)


def surge_hold(steady_a: float, time_constant_s: float) -> Array:
    """(T,) what a thermistor holds: as a lump that is at its rating for good."""
    short = steady_a / math.sqrt(-math.expm1(-1.0 / time_constant_s))
    return rated_curve(steady_a, short, 1.0)

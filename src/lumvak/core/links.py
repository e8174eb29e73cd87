"""The links of the chain, each from its topic, with what it holds for how long."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence

import numpy as np

from lumvak.core.boards import Board
from lumvak.core.chain import Link
from lumvak.core.contacts import curve_of
from lumvak.core.demand import Demand
from lumvak.core.figures import Figure, computed, sheet
from lumvak.core.fuses import fuse_curves
from lumvak.core.hand import Hand
from lumvak.core.joints import layers_name
from lumvak.core.leads import LeadWire
from lumvak.core.packfigures import PackFigures
from lumvak.core.path import JointResult
from lumvak.core.power import Power
from lumvak.core.powercurves import cells_hold, excess_of, strips_hold
from lumvak.core.project import Project
from lumvak.core.protection import peak_current_a
from lumvak.core.sections import joining_of
from lumvak.core.shortcircuit import link_curves
from lumvak.core.table import Table
from lumvak.core.timecurves import ALLOWANCES, Array, at_time, rated_curve, stages_curve

Maker = Callable[..., Link]


def board_limit(board: Board, made: Board | None = None) -> Figure:
    """A board's continuous current as a figure; as it is set where that is less than it could."""
    own = sheet("board.continuous_a", "Board carries", (made or board).continuous_a, "A",
                board.name)  # fmt: skip
    if made is None or board.continuous_a >= made.continuous_a:
        return own
    return computed(
        "board.set_a",
        "Board carries, as set",
        board.continuous_a,
        "A",
        "its slow stage as set: over it the board opens",
        "methods 12",
        own,
    )


def board_hold(board: Board) -> Array:
    """(T,) what a board passes: up to its stages for a peak, its continuous current for good."""
    stages = np.minimum(stages_curve(board.stages), board.stages[-1].current_a)
    return _into(stages, board.continuous_a)


def _into(peak_a: Array, continuous_a: float) -> Array:
    """What a peak may be, going over into the continuous current in ten minutes as strips do."""
    share = np.clip(ALLOWANCES - 1.0, 0.0, 1.0)
    return np.asarray(continuous_a * (peak_a / continuous_a) ** share)


def links(
    project: Project,
    demand: Demand,
    hand: Hand,
    pack: PackFigures,
    table: Table,
    results: Sequence[JointResult],
    wire: LeadWire,
    power: Power,
    solved: Mapping[str, Figure],
) -> tuple[Link, ...]:
    """The chain from the cells to the equipment, in the order in which the current passes.

    Where the pack on the table is ``solved``, cells, joints and leads carry what they do as they
    share the current; else as if they shared it evenly.
    """
    peak_s = demand.peak_duration.number
    load, peak = pack.current.number, demand.peak.number
    cell = hand.choice.cell

    def link(
        key: str,
        name: str,
        detail: str,
        stage: str,
        limit: Figure,
        peak_a: float,
        hold: Array | None = None,
    ) -> Link:
        value = math.inf if limit.value is None else limit.number
        return Link(key, name, detail, stage, value, peak_a, load, peak, peak_s, limit, hold)

    cells = solved.get("network.cells_limit_a", pack.cells_limit)
    shared = cells.number / pack.cells_limit.number
    chain = [
        link("cells", "cells", f"{int(pack.parallel.number)} × {cell.name}", "cells", cells,
             pack.cells_peak.number * shared, cells_hold(hand, cells.number, excess_of(solved)))
    ]  # fmt: skip
    contact = solved.get("network.contact_limit_a")
    if contact is not None:
        detail = joining_of(project.joints, cell)
        chain.append(link("contact", "cell joints", detail, "joints", contact, contact.number))
    fusible, rating_a = solved.get("network.link_limit_a"), project.joints.link_a
    if fusible is not None and rating_a is not None:
        # What surely does not melt one of them, shared as the busiest cell is.
        least = link_curves(rating_a, demand.ambient.number)[0] * fusible.number / rating_a
        melts = _into(least, fusible.number)
        chain.append(link("link", "links", f"{rating_a:g} A each", "joints", fusible,
                          at_time(melts, peak_s), melts))  # fmt: skip
    for result in results:
        role = result.setting.role
        if result.setting.joints == 0:
            continue
        limit = solved.get(f"network.{role}_limit_a", result.figures["limit"])
        peaks = solved.get(f"network.{role}_peak_a", result.figures["peak_limit"])
        chain.append(
            link(
                f"{role}-joints",
                f"{role} joints",
                "nothing to join"
                if limit.value is None
                else f"{result.chosen.part.name}, {layers_name(result.chosen.layers)}",
                "joints",
                limit,
                math.inf if peaks.value is None else peaks.number,
                strips_hold(table.role(role), table),
            )
        )
    take_off = solved.get("network.takeoff_limit_a")
    if take_off is not None:
        held = strips_hold(table.at_leads, table)
        most = math.inf if held is None else at_time(held, peak_s)
        chain.append(link("take-offs", "take-offs", "strips at the main leads", "joints",
                          take_off, most, held))  # fmt: skip
    fuse = _fuse_link(power, demand, link, peak_s)
    at_cells = project.power.fuse_place == "cells"
    chain += fuse if at_cells else []
    leads = solved.get("network.leads_limit_a", wire.limit)
    scale = leads.number / wire.limit.number
    chain.append(
        link("leads", "main leads", f"{wire.name}, {project.leads.length_m:g} m", "power", leads,
             wire.peak_limit_a * scale, wire.hold_a * scale)
    )  # fmt: skip
    chain += _board_link(power, link, peak_s)
    chain += [] if at_cells else fuse
    chain += _contacts(power, link, peak_s)
    return tuple(chain)


def _fuse_link(power: Power, demand: Demand, link: Maker, peak_s: float) -> list[Link]:
    fuse = power.fuse.part
    if fuse is None:
        return []
    least = fuse_curves(fuse, demand.ambient.number)[0]
    limit = next(item for item in power.figures if item.key == "power.fuse_hold_a")
    held = _into(least, limit.number)
    return [link("fuse", "fuse", fuse.name, "power", limit, at_time(held, peak_s), held)]


def _board_link(power: Power, link: Maker, peak_s: float) -> list[Link]:
    board = power.board
    if board is None:
        return []
    limit, peak_a = board_limit(board, power.made), peak_current_a(board, peak_s)
    return [link("board", "BMS", board.name, "power", limit, peak_a, board_hold(board))]


def _contacts(power: Power, link: Maker, peak_s: float) -> list[Link]:
    """Connector, switch and surge part, those that are there."""
    made: list[Link] = []
    for key, part in (("connector", power.connector.part), ("switch", power.switch.part)):
        if part is None:
            continue
        held = curve_of(part)
        limit = sheet(f"power.{key}_a", f"{key.capitalize()} carries", part.continuous_a, "A",
                      part.name)  # fmt: skip
        made.append(link(key, key, part.name, "power", limit, at_time(held, peak_s), held))
    surge = power.surge.part
    if surge is not None:
        limit = sheet("power.surge_a", "Surge part carries", surge.steady_a, "A", surge.name)
        held = surge_hold(surge.steady_a or 0.0, surge.time_constant_s or 1.0)
        made.append(
            link("surge", "surge part", surge.name, "power", limit, at_time(held, peak_s), held)
        )
    return made


def surge_hold(steady_a: float, time_constant_s: float) -> Array:
    """(T,) what a thermistor holds: as a lump that is at its rating for good."""
    short = steady_a / math.sqrt(-math.expm1(-1.0 / time_constant_s))
    return rated_curve(steady_a, short, 1.0)

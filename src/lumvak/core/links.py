"""The links of the chain, each from its topic: cells, joints, main leads and board."""

from __future__ import annotations

import math
from collections.abc import Mapping

from lumvak.core.catalogue import Board, Cell
from lumvak.core.chain import Link
from lumvak.core.demand import Demand
from lumvak.core.figures import Figure, sheet
from lumvak.core.joints import layers_name
from lumvak.core.leads import LeadWire
from lumvak.core.packfigures import PackFigures
from lumvak.core.path import JointResult
from lumvak.core.project import Project
from lumvak.core.protection import Verdict
from lumvak.core.sections import joining_of


def board_limit(board: Board) -> Figure:
    """A board's continuous current as a figure."""
    return sheet("board.continuous_a", "Board carries", board.continuous_a, "A", board.name)


def links(
    project: Project,
    cell: Cell,
    demand: Demand,
    pack: PackFigures,
    group: JointResult,
    series: JointResult,
    wire: LeadWire,
    board: Verdict | None,
    solved: Mapping[str, Figure],
) -> tuple[Link, ...]:
    """The chain from the cells to the equipment, in the order in which the current passes.

    Where the pack on the table is ``solved``, cells, joints and leads carry what they do as they
    share the current; else as if they shared it evenly.
    """
    peak_s = demand.peak_duration.number
    load, peak = pack.current.number, demand.peak.number
    count = f"{int(pack.parallel.number)} × {cell.name}"

    def link(key: str, name: str, detail: str, stage: str, limit: Figure, peak_a: float) -> Link:
        value = math.inf if limit.value is None else limit.number
        return Link(key, name, detail, stage, value, peak_a, load, peak, peak_s, limit)

    cells = solved.get("network.cells_limit_a", pack.cells_limit)
    shared = cells.number / pack.cells_limit.number
    chain = [link("cells", "cells", count, "cells", cells, pack.cells_peak.number * shared)]
    for key, name, detail in (
        ("contact", "cell joints", joining_of(project.joints, cell)),
        ("link", "links", f"{project.joints.link_a:g} A each" if project.joints.link_a else ""),
    ):
        limit = solved.get(f"network.{key}_limit_a")
        if limit is not None:
            chain.append(link(key, name, detail, "joints", limit, limit.number))
    for result in (group, series):
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
            )
        )
    leads = solved.get("network.leads_limit_a", wire.limit)
    chain.append(
        link(
            "leads",
            "main leads",
            f"{wire.name}, {project.leads.length_m:g} m",
            "power",
            leads,
            wire.peak_limit_a * leads.number / wire.limit.number,
        )
    )
    if board is not None:
        chain.append(
            link("board", "BMS", board.board.name, "power", board_limit(board.board), board.peak_a)
        )
    return tuple(chain)

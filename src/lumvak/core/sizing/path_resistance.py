"""The resistance between cells and equipment that sizing counts with."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.catalogue.power_parts import Connector, Fuse, Switch
from lumvak.core.conductors.strip_and_wire import MATERIALS, Section, strip_ohm
from lumvak.core.conductors.thermistor import hot_state
from lumvak.core.document.joints import Strip
from lumvak.core.document.power import PowerParts
from lumvak.core.figures.figure import Figure, Rule, of_part, sheet, typed
from lumvak.core.said import Text, phrase, say
from lumvak.core.sizing.terms import Array, CountedPath

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
JOINTS = Rule("path.joints", "Series connections", "", "in series − 1", "methods 5")
PARTS_OHM = Rule("path.parts_ohm", "Fuse, connector and such", "ohm", "{}", "methods 5")
PATH_PARTS_OHM = Rule("path.parts_ohm", "Fuse, connector and such", "ohm", "none of them is there",
                      "methods 5")
RESISTANCE_OHM = Rule("board.resistance_ohm", "BMS", "ohm",
                      "2 mΩ allowed until a BMS is picked", "methods 5")
JOINT_OHM = Rule("path.joint_ohm", "One series connection", "ohm",
                 "0.3 mΩ allowed until a conductor is picked", "methods 5")
PATH_JOINT_OHM = Rule("path.joint_ohm", "One series connection", "ohm", "ρ·L ÷ section, {}",
                      "methods 8 [3]")
PATH_RESISTANCE_OHM = Rule("path.resistance_ohm", "Between cells and equipment", "ohm",
                           "both main leads + BMS + fuse and such + one series connection × how "
                           "many there are", "methods 5")
# fmt: on

JOINT_ALLOWANCE_OHM = 0.3e-3
BOARD_ALLOWANCE_OHM = 2.0e-3
# For a fuse and for a connector that follow the recommendation, each.
PART_ALLOWANCE_OHM = 0.7e-3


def parts_ohm(power: PowerParts, catalogue: Catalogue, current: Figure, ambient: Figure) -> Figure:
    """Fuse, connector, switch and surge part together, as picked or allowed for (methods 5).

    ``current`` is the most that flows for good; it warms a surge part.
    """
    known: list[Figure] = []
    allowed = 0
    fuse = catalogue.fuses.get(power.fuse or "")
    connector = catalogue.connectors.get(power.connector or "")
    switch = catalogue.switches.get(power.switch)
    picked: tuple[tuple[str, str, str | None, Fuse | Connector | Switch | None, str], ...] = (
        ("fuse", "Fuse", power.fuse, fuse, "resistance_mohm"),
        ("connector", "Connector", power.connector, connector, "mated_mohm"),
        ("switch", "Switch", power.switch, switch, "resistance_mohm"),
    )
    for key, label, wanted, part, field in picked:
        if wanted is None:
            allowed += 1
        elif part is not None:
            known.append(
                of_part(f"power.{key}_mohm", phrase("{}: resistance", label), part, field, "mΩ")
            )
    surge = catalogue.surges.get(power.surge)
    hot = 0.0
    if surge is not None:
        hot = hot_state(surge, current.number, ambient.number).ohm
        known.append(sheet("power.surge_ohm", "At 25 °C", surge.ohm, "ohm", surge.name))
    total = hot + allowed * PART_ALLOWANCE_OHM
    total += sum(item.number * 1e-3 for item in known if item.unit == "mΩ")
    words: Text = "fuse + connector + switch + surge part, hot"
    if allowed:
        each = say(PART_ALLOWANCE_OHM * 1e3, "mΩ")
        words = phrase("{}; {} allowed for each that is not picked yet", words, each)
        return PARTS_OHM.assumed(total, *known, rule=words)
    if not known:
        return PATH_PARTS_OHM.of(0.0, origin="constant")
    return PARTS_OHM.of(total, *known, rule=words)


class SizingPath(Struct, frozen=True):
    """The resistance between cells and equipment, for arrays and as figures.

    ``joint_ohm`` is the allowance for a series joint, where its conductor is not picked yet.
    """

    path: CountedPath
    wire_ohm: Figure
    peak_wire_ohm: Figure
    board_ohm: Figure
    others_ohm: Figure
    joint_ohm: Figure | None


def sizing_path(
    strip: Strip,
    gap_mm: float,
    wanted_board: str | None,
    catalogue: Catalogue,
    cells: Sequence[Cell],
    joints_ohm: Array | None,
    wire_ohm: Figure,
    peak_wire_ohm: Figure,
    others: Figure,
) -> SizingPath:
    """The resistance that sizing counts between cells and equipment (methods 5).

    Leads as they are; a series joint and a board as picked, or an allowance while they follow the
    recommendation: ``joints_ohm`` (n,) is what ``picked_joints_ohm`` gives; ``others`` is that of
    fuse, connector and such.
    """
    board = catalogue.boards.get(wanted_board or "")
    board_ohm = (
        of_part("board.resistance_ohm", "BMS", board, "resistance_ohm", "ohm")
        if board is not None
        else RESISTANCE_OHM.assumed(BOARD_ALLOWANCE_OHM)
    )
    fixed = wire_ohm.number + board_ohm.number + others.number
    at_peak = fixed - wire_ohm.number + peak_wire_ohm.number
    if joints_ohm is None:
        allowance = JOINT_OHM.assumed(JOINT_ALLOWANCE_OHM)
        path = CountedPath(fixed, np.full(len(cells), JOINT_ALLOWANCE_OHM), False, at_peak)
        return SizingPath(path, wire_ohm, peak_wire_ohm, board_ohm, others, allowance)
    shared = strip.strips is None and catalogue.conductors[strip.part or ""].form != "busbar"
    path = CountedPath(fixed, joints_ohm, shared, at_peak)
    return SizingPath(path, wire_ohm, peak_wire_ohm, board_ohm, others, None)


def picked_joints_ohm(
    strip: Strip, gap_mm: float, conductors: Mapping[str, Conductor], cells: Sequence[Cell]
) -> Array | None:
    """One series joint in ohm for each of the cells, (n,), of the conductor picked for them.

    That of one strip where as many lie side by side as cells; ``None`` where none is picked.
    """
    part = conductors.get(strip.part or "")
    if part is None:
        return None

    def one(cell: Cell) -> float:
        width = strip.width_mm or (
            min(part.width_mm, cell.pitch_mm) if part.form == "sheet" else part.width_mm
        )
        section = Section(
            MATERIALS[part.material],
            part.thickness_mm,
            width,
            strip.layers or 1,
            cell.pitch_mm + gap_mm,
        )
        return strip_ohm(section) / (strip.strips or 1)

    return np.array([one(cell) for cell in cells])


def path_figure(
    between: SizingPath, row: int, series: int, parallel: int, part: str | None, gap_mm: float
) -> Figure:
    """The resistance between cells and equipment of the pack in hand, as a figure.

    ``part`` is the conductor picked for series joints.
    """
    path = between.path
    each = float(path.joint_ohm[row]) / (parallel if path.joint_shared else 1)
    joint = between.joint_ohm or PATH_JOINT_OHM.of(
        each,
        typed("joints.series.part", "Conductor", part, ""),
        typed("joints.gap_mm", "Gap between cells", gap_mm, "mm"),
        rule="one strip a cell" if path.joint_shared else "as set",
    )
    return PATH_RESISTANCE_OHM.of(
        path.fixed_ohm + each * (series - 1),
        between.wire_ohm,
        between.board_ohm,
        between.others_ohm,
        joint,
        JOINTS.of(series - 1, origin="constant"),
    )

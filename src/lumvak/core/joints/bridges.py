"""Bridges of nickel over the windows of a copper plate, one on each end of a cell (methods 19, 20).

Copper of a useful thickness is hard to weld to a cell: it is cut out over each end, and a strip of
nickel across the hole is joined to it on both sides and welded to the cell in its middle.
"""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.conductors.strip_and_wire import (
    MATERIALS,
    Cooling,
    Section,
    strip_rise_k,
    warm_rise_k,
)
from lumvak.core.document.joints import Joints
from lumvak.core.figures.figure import Figure, Rule, sheet, typed
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.said import phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
WINDOW_MM = Rule("joints.window_mm", "Windows in the plates", "mm",
                 "half of the diameter of a cell", "methods 20")
BRIDGE_RISE_K = Rule("joints.bridge_rise_k", "A bridge warms over the cell by", "K",
                     "as a strip from cell to copper, half of the busiest cell's current in each "
                     "half", "methods 9")
RESISTIVITY = Rule("constant.resistivity.{}", "Resistivity of {}", "nΩ·m", "at 20 °C",
                   "methods 8 [3]")
BRIDGE_MOHM = Rule("joints.bridge_mohm", "A bridge on a cell", "mΩ",
                   "ρ × half of the window ÷ section, both halves side by side", "methods 19 [3]")
# fmt: on

# A window is half as wide as the cell, in halves of a millimetre; on both sides of it a bridge lies
# on the copper so far, or as far as the end of the cell reaches.
WINDOW_SHARE, WINDOW_STEP_MM = 0.5, 0.5
LAP_MM, EDGE_MM = 4.0, 1.0
# The window is so much wider than the bridge, or no tool comes between.
BESIDE_MM = 0.5


class Bridge(Struct, frozen=True):
    """The bridge in force: what it is cut from, its window and length in mm, and its figures.

    ``mohm`` is what it adds at one end of a cell.
    """

    part: Conductor
    window: Figure
    length_mm: float
    mohm: Figure


def bridge_of(joints: Joints, cell: Cell, conductors: Mapping[str, Conductor]) -> Bridge | None:
    """The bridge over each window; ``None`` where no plate has windows, or the cells are flat."""
    if cell.diameter_mm is None or "tabs" not in (joints.side_a, joints.side_b):
        return None
    window = WINDOW_MM.said_or(
        joints.window_mm, round(WINDOW_SHARE * cell.diameter_mm / WINDOW_STEP_MM) * WINDOW_STEP_MM
    )
    part = conductors.get(joints.bridge or "")
    if part is None:
        part = _usual(joints, window.number, conductors)
    if part is None:
        return None
    across = (cell.diameter_mm - 2.0 * EDGE_MM - window.number) / 2.0
    length = window.number + 2.0 * max(0.0, min(LAP_MM, across))
    material = MATERIALS[part.material]
    mohm = (
        material.resistivity_ohm_m * window.number / (part.width_mm * part.thickness_mm) * 1e6 / 4.0
    )
    added = BRIDGE_MOHM.of(
        mohm,
        RESISTIVITY.of(
            material.resistivity_ohm_m * 1e9,
            origin="constant",
            key=part.material.replace(" ", "-"),
            label=part.material,
        ),
        window,
        sheet("joints.bridge.width_mm", "Width of a bridge", part.width_mm, "mm", part.said),
        sheet(
            "joints.bridge.thickness_mm",
            "Thickness of a bridge",
            part.thickness_mm,
            "mm",
            part.said,
        ),
    )
    return Bridge(part, window, length, added)


def _usual(
    joints: Joints, window_mm: float, conductors: Mapping[str, Conductor]
) -> Conductor | None:
    """The nickel of most section that the welder joins and the window lets through."""
    fitting = [
        part
        for part in conductors.values()
        if part.material == "nickel"
        and part.form == "strip"
        and part.thickness_mm <= joints.welder_limit_mm + 1e-9
        and part.width_mm <= window_mm - BESIDE_MM
    ]
    return max(fitting, key=lambda part: part.thickness_mm * part.width_mm, default=None)


class BridgeTopic(Struct, frozen=True):
    """What the bridges do at the pack's current."""

    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    links: tuple[Link, ...] = ()


def bridge_topic(
    bridge: Bridge | None,
    plate: Conductor,
    joints: Joints,
    cell_a: Figure | None,
    strips_at: Figure,
    cooling: Cooling,
) -> BridgeTopic:
    """How warm a bridge on the busiest cell grows; ``strips_at`` is how warm the cells are.

    The ``plate`` may be one that needs none.

    It is long, for there is a sentence or two for each thing to say.
    """
    if bridge is None:
        return BridgeTopic()
    part = bridge.part
    findings = []
    hard = plate.weld_equivalent_mm or plate.thickness_mm
    if plate.join == "weld" and hard <= joints.welder_limit_mm + 1e-9:
        findings.append(
            Finding(
                "bridge-needless",
                "note",
                text=phrase("{} is welded to the cells as it is", plate.said),
                why="Windows and bridges are for copper, which the welder does not join.",
                do="Lay it as a sheet, or take copper.",
                stage="joints",
                figure=bridge.window.key,
            )
        )
    if part.width_mm > bridge.window.number - BESIDE_MM + 1e-9:
        findings.append(
            Finding(
                "bridge-wide",
                "warn",
                text=phrase(
                    "A bridge {} wide does not go through windows of {}",
                    say(part.width_mm, "mm"),
                    say(bridge.window.number, "mm"),
                ),
                why="It lies on the copper all round and is bent down to the cell, or not welded "
                "at all.",
                do="Take a narrower strip, or wider windows.",
                stage="joints",
                figure=bridge.window.key,
            )
        )
    if cell_a is None:
        return BridgeTopic((bridge.mohm,), tuple(findings))
    material = MATERIALS[part.material]
    half = Section(
        material, part.thickness_mm, part.width_mm, 1, bridge.window.number / 2.0, cooling
    )
    rise = warm_rise_k(strip_rise_k(half, cell_a.number / 2.0), material, strips_at.number)
    limit = typed("joints.rise_limit_k", "Rise allowed over the cell", joints.rise_limit_k, "K")
    warm = BRIDGE_RISE_K.of(rise, bridge.mohm, cell_a, strips_at)
    if rise > limit.number:
        findings.append(
            Finding(
                "bridge-hot",
                "warn",
                text=phrase(
                    "The bridge on the busiest cell warms by {}; {} are allowed",
                    say(rise, "K"),
                    say(limit.number, "K"),
                ),
                why="All that a cell gives flows through its bridge.",
                do="Take wider or thicker nickel, smaller windows, or two bridges crosswise.",
                stage="joints",
                figure=warm.key,
            )
        )
    return BridgeTopic((bridge.mohm, warm, limit), tuple(findings))

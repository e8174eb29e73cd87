"""The strip checker: measured milliohms of a known piece tell pure nickel from plated steel."""

from __future__ import annotations

import math

from msgspec import Struct

from lumvak.core.conductors.strip_and_wire import MATERIALS
from lumvak.core.document.making import Making
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.said import Text, digits, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
RESISTIVITY = Rule("check.resistivity", "Resistivity of the strip", "nΩ·m",
                   "measured × width × thickness ÷ length, within {}", "methods 21")
# fmt: on


LENGTH_WITHIN_MM, WIDTH_WITHIN_MM, THICKNESS_WITHIN_MM = 0.5, 0.1, 0.01
# Strip that is sold for cells; plating lowers the steel's figure a little.
SOLD = ("nickel", "plated steel")
SHOWN = ("copper", *SOLD)
SIGMAS = 2.0


class StripVerdict(Struct, frozen=True):
    """What a measured strip is made of; ``sure`` where only one answer remains."""

    resistivity: Figure
    within: float
    materials: tuple[str, ...]
    sure: bool
    text: Text


class Reading(Struct, frozen=True):
    """What a meter would read on the piece if it were of a material, and within how much, in mΩ."""

    material: str
    mohm: float
    within_mohm: float


def readings(making: Making) -> tuple[Reading, ...]:
    """What the piece would read of each material, the least first (methods 21)."""
    section = making.check_width_mm * making.check_thickness_mm
    found = []
    for name in SHOWN:
        mohm = MATERIALS[name].resistivity_ohm_m * making.check_length_mm / section * 1e6
        share = math.hypot(_size_within(making), making.check_meter_mohm / mohm)
        found.append(Reading(name, mohm, SIGMAS * share * mohm))
    return tuple(sorted(found, key=lambda item: item.mohm))


def _size_within(making: Making) -> float:
    """How far off a piece's length ÷ section may be, as a share: calipers and strips vary."""
    return math.hypot(
        LENGTH_WITHIN_MM / making.check_length_mm,
        WIDTH_WITHIN_MM / making.check_width_mm,
        THICKNESS_WITHIN_MM / making.check_thickness_mm,
    )


def check(making: Making) -> StripVerdict | None:
    """Judge the measured strip; ``None`` while nothing was measured (methods 21)."""
    if making.check_mohm is None:
        return None
    section = making.check_width_mm * making.check_thickness_mm
    rho = making.check_mohm * 1e-3 * section / making.check_length_mm * 1e6
    within = rho * math.hypot(making.check_meter_mohm / making.check_mohm, _size_within(making))
    figure = RESISTIVITY.of(
        rho,
        typed("making.check_mohm", "Measured", making.check_mohm, "mΩ"),
        typed("making.check_meter_mohm", "Meter within", making.check_meter_mohm, "mΩ"),
        typed("making.check_length_mm", "Between the probes", making.check_length_mm, "mm"),
        typed("making.check_width_mm", "Width", making.check_width_mm, "mm"),
        typed("making.check_thickness_mm", "Thickness", making.check_thickness_mm, "mm"),
        rule=say(within, "nΩ·m"),
    )
    reach = SIGMAS * within
    found = tuple(
        name
        for name, material in MATERIALS.items()
        if abs(material.resistivity_ohm_m * 1e9 - rho) <= reach
    )
    of_strip = tuple(name for name in found if name in SOLD)
    return StripVerdict(
        figure, within, found, len(of_strip) == 1, _words(rho, within, of_strip, making)
    )


def _words(rho: float, within: float, found: tuple[str, ...], making: Making) -> Text:
    nickel, steel = (MATERIALS[name].resistivity_ohm_m * 1e9 for name in SOLD)
    read = phrase("{} ± {} nΩ·m", digits(rho, ".0f"), digits(SIGMAS * within, ".0f"))
    if found == ("nickel",):
        return phrase("Pure nickel: {}, nickel is {}", read, digits(nickel, ".0f"))
    if found == ("plated steel",):
        return phrase(
            "Plated steel: {}, nickel would be {} and steel is {}",
            read,
            digits(nickel, ".0f"),
            digits(steel, ".0f"),
        )
    if len(found) > 1:
        longer = making.check_length_mm * 2.0
        return phrase(
            "Cannot be told: {} holds both nickel ({}) and steel ({}); measure a piece of "
            "{} or more, with four wires",
            read,
            digits(nickel, ".0f"),
            digits(steel, ".0f"),
            say(longer, "mm"),
        )
    if rho < nickel:
        return phrase(
            "Neither: {} is under nickel ({}); copper in it, or a wrong size?",
            read,
            digits(nickel, ".0f"),
        )
    if rho < steel:
        return phrase(
            "Between nickel ({}) and steel ({}): {}; thick plating, or a wrong thickness?",
            digits(nickel, ".0f"),
            digits(steel, ".0f"),
            read,
        )
    return phrase(
        "Neither: {} is over steel ({}); poor contact of the probes?", read, digits(steel, ".0f")
    )

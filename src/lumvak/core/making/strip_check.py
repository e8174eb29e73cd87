"""The strip checker: measured milliohms of a known piece tell pure nickel from plated steel."""

from __future__ import annotations

import math

from msgspec import Struct

from lumvak.core.conductors.strip_and_wire import MATERIALS
from lumvak.core.document.making import Making
from lumvak.core.figures.figure import Figure, computed, typed
from lumvak.core.units import say

LENGTH_WITHIN_MM, WIDTH_WITHIN_MM, THICKNESS_WITHIN_MM = 0.5, 0.1, 0.01
# Strip that is sold for cells; plating lowers the steel's figure a little.
SOLD = ("nickel", "plated steel")
SHOWN = ("copper", *SOLD)
SIGMAS = 2.0


class Verdict(Struct, frozen=True):
    """What a measured strip is made of; ``sure`` where only one answer remains."""

    resistivity: Figure
    within: float
    materials: tuple[str, ...]
    sure: bool
    text: str


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


def check(making: Making) -> Verdict | None:
    """Judge the measured strip; ``None`` while nothing was measured (methods 21)."""
    if making.check_mohm is None:
        return None
    section = making.check_width_mm * making.check_thickness_mm
    rho = making.check_mohm * 1e-3 * section / making.check_length_mm * 1e6
    within = rho * math.hypot(making.check_meter_mohm / making.check_mohm, _size_within(making))
    figure = computed(
        "check.resistivity",
        "Resistivity of the strip",
        rho,
        "nΩ·m",
        f"measured × width × thickness ÷ length, within {say(within, 'nΩ·m')}",
        "methods 21",
        typed("making.check_mohm", "Measured", making.check_mohm, "mΩ"),
        typed("making.check_meter_mohm", "Meter within", making.check_meter_mohm, "mΩ"),
        typed("making.check_length_mm", "Between the probes", making.check_length_mm, "mm"),
        typed("making.check_width_mm", "Width", making.check_width_mm, "mm"),
        typed("making.check_thickness_mm", "Thickness", making.check_thickness_mm, "mm"),
    )
    reach = SIGMAS * within
    found = tuple(
        name
        for name, material in MATERIALS.items()
        if abs(material.resistivity_ohm_m * 1e9 - rho) <= reach
    )
    of_strip = tuple(name for name in found if name in SOLD)
    return Verdict(figure, within, found, len(of_strip) == 1, _words(rho, within, of_strip, making))


def _words(rho: float, within: float, found: tuple[str, ...], making: Making) -> str:
    nickel, steel = (MATERIALS[name].resistivity_ohm_m * 1e9 for name in SOLD)
    read = f"{rho:.0f} ± {SIGMAS * within:.0f} nΩ·m"
    if found == ("nickel",):
        return f"Pure nickel: {read}, nickel is {nickel:.0f}"
    if found == ("plated steel",):
        return f"Plated steel: {read}, nickel would be {nickel:.0f} and steel is {steel:.0f}"
    if len(found) > 1:
        longer = making.check_length_mm * 2.0
        return (
            f"Cannot be told: {read} holds both nickel ({nickel:.0f}) and steel ({steel:.0f}); "
            f"measure a piece of {say(longer, 'mm')} or more, with four wires"
        )
    if rho < nickel:
        return f"Neither: {read} is under nickel ({nickel:.0f}); copper in it, or a wrong size?"
    if rho < steel:
        return (
            f"Between nickel ({nickel:.0f}) and steel ({steel:.0f}): {read}; thick plating, or a "
            "wrong thickness?"
        )
    return f"Neither: {read} is over steel ({steel:.0f}); poor contact of the probes?"

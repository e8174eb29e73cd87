"""Figures as sellers print them: what one may mean, and how to find out (methods 41)."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from lumvak.core.document.shopping import PartKey
from lumvak.core.said import Text, phrase
from lumvak.core.specification.window import PartSpec, side_said


class OtherReading(Struct, frozen=True):
    """Another reading of a printed figure: ``share`` of it is what is to be had."""

    share: float
    words: str


# The usual readings of what is printed; shares are ours, from what such sheets turn out to mean.
READINGS: dict[tuple[PartKey, str], OtherReading] = {
    ("bms", "continuous_a"): OtherReading(0.5, "if that is what its switches bear on a cold plate"),
    ("bms", "peak_a"): OtherReading(0.6, "if that is where it opens at once, not what it holds"),
    ("cell", "continuous_a"): OtherReading(0.7, "if it holds with the cell at 80 °C alone"),
    ("cell", "capacity_min_ah"): OtherReading(0.97, "if that is the typical capacity, at 0.2 C"),
    ("cell", "resistance_dc_ohm"): OtherReading(1.5, "if that was read at 1 kHz"),
    ("fuse", "voltage_dc_v"): OtherReading(0.5, "if those are alternating volts"),
    ("charge-fuse", "voltage_dc_v"): OtherReading(0.5, "if those are alternating volts"),
    ("connector", "continuous_a"): OtherReading(0.6, "if that is on a thick cable in free air"),
    ("connector", "voltage_dc_v"): OtherReading(0.5, "if those are alternating volts"),
    ("switch", "continuous_a"): OtherReading(0.6, "if that is at alternating volts"),
    ("switch", "voltage_dc_v"): OtherReading(0.3, "if those are alternating volts"),
    ("switch", "breaking_a"): OtherReading(0.3, "if that is at alternating volts"),
    ("leads", "area_mm2"): OtherReading(0.62, "if it is aluminium under a coat of copper"),
    ("charge-leads", "area_mm2"): OtherReading(0.62, "if it is aluminium under a coat of copper"),
}  # fmt: skip
# How what a sheet leaves out is found out.
FIND: dict[tuple[PartKey, str], str] = {
    ("bms", "stages"): "a load that is raised until it opens, with a clock",
    ("bms", "over_voltage_v"): "a bench supply on one group's leads, raised until it cuts off",
    ("bms", "under_voltage_v"): "a bench supply on one group's leads, lowered until it cuts off",
    ("bms", "balance_a"): "the marks of its bleed resistors: volts of a group ÷ ohms",
    ("bms", "family"): "its cut-offs: 4.2 V and over is cobalt, 3.65 V iron phosphate",
    ("bms", "kind"): "thick traces from B− to P− with switches on them",
    ("bms", "sensors"): "a two-pin plug or a glass bead on wires",
    ("bms", "charge_a"): "its sheet; else count with a third of its discharge current",
    ("fuse", "band"): "the class on its body, and the curve of that class",
    ("fuse", "breaking_a"): "the kA on its body; glass ones break some tens of amps",
    ("charge-fuse", "breaking_a"): "the kA on its body; glass ones break some tens of amps",
    ("charge-fuse", "band"): "the class on its body, and the curve of that class",
    ("connector", "short_a"): "a peak of its length, and the shell felt after it",
    ("switch", "breaking_a"): "the DC rating on its body; without one count on none",
    ("cell", "resistance_dc_ohm"): "a pulse of a known current, read after ten seconds",
    ("cell", "capacity_min_ah"): "a discharge at a fifth of its charge an hour",
    ("cell", "charge_max_a"): "its sheet; else half of its capacity an hour",
    ("cell", "pulse_a"): "its sheet; else its continuous current",
    ("charger", "open_v"): "a meter on its plug, nothing connected, over an hour",
    ("charger", "volts"): "a meter on its plug, nothing connected",
}  # fmt: skip


def readings(spec: PartSpec, given: Mapping[str, float | str]) -> tuple[Text, ...]:
    """What the figures of a part may mean otherwise, where that would put it out of its window."""
    found: list[Text] = []
    for name, value in given.items():
        reading = READINGS.get((spec.key, name))
        field = "stages" if name == "peak_a" else name
        windows = [it for it in spec.windows if it.name == field and it.most is None]
        if reading is None or isinstance(value, str) or not windows:
            continue
        window = max(windows, key=lambda it: it.bounds[0])
        less = reading.share * value
        if window.takes(value) and not window.takes(less):
            found.append(
                phrase(
                    "{}, {} is {}: too little",
                    reading.words,
                    side_said(window, value),
                    side_said(window, less),
                )
            )
    return tuple(found)


def how_to_find(key: PartKey, name: str) -> str:
    """How a figure that a sheet leaves out is found out; empty where nothing is known."""
    return FIND.get((key, name), "")

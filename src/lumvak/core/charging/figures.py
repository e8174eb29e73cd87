"""Charging: to which voltage and with which current."""

from __future__ import annotations

from dataclasses import dataclass, replace

from lumvak.core.figures.figure import Figure, computed, product
from lumvak.core.sizing.sized_pack import SizedPack


@dataclass(frozen=True, slots=True)
class ChargeFigures:
    """To which voltage and with which current a pack is charged, as figures."""

    voltage: Figure
    current: Figure
    every: tuple[Figure, ...]


def charge_figures(
    hand: SizedPack, series: Figure, parallel: Figure, full_cell: Figure
) -> ChargeFigures:
    """Charge voltage and current (methods 15); ``full_cell`` is the full voltage of a cell."""
    pack, charger = hand.pack, hand.demand.charger_current
    ceiling = (
        hand.setting("ceiling_v", "Charge ceiling per cell", "V")
        if pack.ceiling_v is not None
        else full_cell
    )
    standard = hand.from_sheet("charge_standard_a", "Standard charge current", "A")
    by_cells = parallel.number * standard.number
    current = computed(
        "charge.current_a",
        "Charge current",
        by_cells if charger is None else min(by_cells, charger.number),
        "A",
        "parallel × standard charge current"
        + ("" if charger is None else ", at most what the charger gives"),
        "methods 15",
        parallel,
        standard,
        *(() if charger is None else (charger,)),
    )
    voltage = product("charge.voltage_v", "Charge voltage", "V", series, ceiling)
    voltage = replace(voltage, source="methods 15")
    return ChargeFigures(voltage, current, (voltage, current))

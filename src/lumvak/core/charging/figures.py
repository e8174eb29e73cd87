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
    hand: SizedPack,
    series: Figure,
    parallel: Figure,
    full_cell: Figure,
    weakest_ah: Figure | None = None,
) -> ChargeFigures:
    """Charge voltage and current (methods 15); ``full_cell`` is the full voltage of a cell.

    ``weakest_ah`` is the charge of the weakest group, where the cells were measured and placed.
    """
    pack, charger = hand.pack, hand.demand.charger_current
    ceiling = (
        hand.setting("ceiling_v", "Charge ceiling per cell", "V")
        if pack.ceiling_v is not None
        else full_cell
    )
    standard = hand.from_sheet("charge_standard_a", "Standard charge current", "A")
    by_cells, rule = parallel.number * standard.number, "parallel × standard charge current"
    more: tuple[Figure, ...] = (parallel, standard)
    if weakest_ah is not None:
        rated = hand.from_sheet("capacity_typical_ah", "Typical capacity", "Ah")
        by_group = standard.number / rated.number * weakest_ah.number
        if by_group < by_cells:
            by_cells = by_group
            rule = "standard charge current ÷ typical capacity × charge of the weakest group"
            more = (standard, rated, weakest_ah)
    current = computed(
        "charge.current_a",
        "Charge current",
        by_cells if charger is None else min(by_cells, charger.number),
        "A",
        rule + ("" if charger is None else ", at most what the charger gives"),
        "methods 15",
        *more,
        *(() if charger is None else (charger,)),
    )
    voltage = product("charge.voltage_v", "Charge voltage", "V", series, ceiling)
    voltage = replace(voltage, source="methods 15")
    return ChargeFigures(voltage, current, (voltage, current))

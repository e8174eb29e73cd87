"""What there is to notice about charging: the cold, the ceiling, the charger at hand."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.catalogue.cells import Cell
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.sizing.ranking import charger_fits
from lumvak.core.units import say


def cold_findings(cell: Cell, coldest: Figure) -> Iterator[Finding]:
    """Whether the cell may be charged where the pack works."""
    if coldest.number < cell.charge_min_c:
        yield Finding(
            "cold-charge",
            "warn",
            f"Do not charge at {say(coldest.number, '°C')}",
            f"This cell may be charged from {say(cell.charge_min_c, '°C')} up; "
            "colder, metal plates out inside it.",
            "Warm the pack before charging and take a board with a temperature sensor.",
            "need",
            coldest.key,
        )


def charger_findings(
    cell: Cell, full: Figure, charger: Figure | None, ceiling_v: float | None
) -> Iterator[Finding]:
    """Whether ceiling and charger suit the pack; ``full`` is its full voltage."""
    if ceiling_v is not None and ceiling_v > cell.voltage_full_v:
        yield Finding(
            "ceiling-too-high",
            "stop",
            f"A ceiling of {say(ceiling_v, 'V')} overcharges {cell.name}",
            f"The cell is full at {say(cell.voltage_full_v, 'V')}.",
            "Lower the ceiling, or leave it empty.",
            "need",
            "charge.voltage_v",
        )
    if charger is None:
        return
    if charger_fits(charger.number, full.number):
        return
    if charger.number > full.number:
        yield Finding(
            "charger-too-high",
            "warn",
            f"The charger goes to {say(charger.number, 'V')}; the pack is full at "
            f"{say(full.number, 'V')}",
            "Charging would end only when the board cuts off: everything leans on one protection.",
            f"Buy a certified charger for {say(full.number, 'V')} that ends at constant voltage.",
            "need",
            "need.charger_voltage_v",
            (full.key,),
        )
    else:
        yield Finding(
            "charger-too-low",
            "note",
            f"The charger stops at {say(charger.number, 'V')}; the pack is full at "
            f"{say(full.number, 'V')}",
            "The top of the charge is given up, and a board that balances at the top never gets "
            "there.",
            "Take a charger for the full voltage, or count on less run time.",
            "need",
            "need.charger_voltage_v",
            (full.key,),
        )

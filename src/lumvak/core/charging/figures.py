"""Charging: to which voltage and with which current."""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.figures.figure import Figure, Rule, computed, product
from lumvak.core.said import in_line, phrase
from lumvak.core.sizing.sized_pack import SizedPack

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
CURRENT_A = Rule("charge.current_a", "Charge current", "A", "{}", "methods 15")
# fmt: on


class ChargeFigures(Struct, frozen=True):
    """To which voltage and with which current a pack is charged, as figures.

    ``by_cells`` is what its cells take as a standard, ``most`` at the most.
    """

    voltage: Figure
    current: Figure
    by_cells: Figure
    most: Figure
    every: tuple[Figure, ...]


def charge_figures(
    sized_pack: SizedPack,
    series: Figure,
    parallel: Figure,
    full_cell: Figure,
    weakest_ah: Figure | None = None,
) -> ChargeFigures:
    """Charge voltage and current (methods 15); ``full_cell`` is the full voltage of a cell.

    ``weakest_ah`` is the charge of the weakest group, where the cells were measured and placed.
    """
    pack, charger = sized_pack.pack, sized_pack.demand.charger_current
    ceiling = (
        sized_pack.setting("ceiling_v", "Charge voltage per cell", "V")
        if pack.ceiling_v is not None
        else full_cell
    )
    standard = sized_pack.from_sheet("charge_standard_a", "Standard charge current", "A")
    given = standard
    if sized_pack.choice.cell.charge_max_a is not None:
        given = sized_pack.from_sheet("charge_max_a", "Most charge current", "A")
    by_cells = _of_cells(
        sized_pack, "charge.cells_a", "Cells take as a standard", parallel, standard, weakest_ah
    )
    most = _of_cells(sized_pack, "charge.most_a", "Cells take at most", parallel, given, weakest_ah)
    current = CURRENT_A.of(
        by_cells.number if charger is None else min(by_cells.number, charger.number),
        *by_cells.inputs,
        *(() if charger is None else (charger,)),
        rule=by_cells.rule
        if charger is None
        else phrase("{}, at most what the charger gives", by_cells.rule),
    )
    voltage = product("charge.voltage_v", "Charge voltage", "V", series, ceiling)
    voltage = replace(voltage, source="methods 15")
    return ChargeFigures(voltage, current, by_cells, most, (voltage, current, by_cells, most))


def _of_cells(
    sized_pack: SizedPack,
    key: str,
    label: str,
    parallel: Figure,
    each: Figure,
    weakest_ah: Figure | None,
) -> Figure:
    """What all cells of a group take in A, at ``each`` of a cell; a weak group in its measure."""
    amps, words = parallel.number * each.number, in_line(each.label)
    if weakest_ah is not None:
        rated = sized_pack.from_sheet("capacity_typical_ah", "Typical capacity", "Ah")
        by_group = each.number / rated.number * weakest_ah.number
        if by_group < amps:
            rule = phrase("{} ÷ typical capacity × charge of the weakest group", words)
            return computed(key, label, by_group, "A", rule, "methods 15", each, rated, weakest_ah)
    return computed(
        key, label, amps, "A", phrase("parallel × {}", words), "methods 15", parallel, each
    )

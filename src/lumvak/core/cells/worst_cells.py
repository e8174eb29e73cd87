"""A cell where a short circuit is worst: at its quickest, and at its slowest (methods 22)."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.behaviour_figures import ten_second_resistance
from lumvak.core.cells.cell_model import DC_OVER_AC, of_cell
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.said import digits, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
RESISTANCE_AC_OHM = Rule("cell.resistance_ac_ohm", "Resistance at 1 kHz", "ohm",
                         "the DC figure ÷ 1.5; the sheet gives none at 1 kHz", "methods 4 [2]")
WORST_TIMES = Rule("cell.worst_times", "Cold, worn and nearly empty over 10 s", "",
                   "steady over 10 s × factor at 10 % charge × factor of the cold × 1.5 for wear",
                   "methods 22 [2]")
NEARLY_EMPTY_V = Rule("cell.nearly_empty_v", "OCV at 10 % charge", "V",
                      "from the curve of its chemistry", "methods 4")
WORST_OHM = Rule("cell.worst_ohm", "Resistance, cold, worn and nearly empty", "ohm",
                 "steady, at 10 % charge and {}, half more for wear: {} times that after 10 s",
                 "methods 22 [2]")
# fmt: on

# Nearly empty, as cold as a pack is used (or the air, where that is colder), and worn.
EMPTY_CHARGE, COLD_C, WORN = 0.10, 0.0, 1.5


class WorstCells(Struct, frozen=True):
    """Resistance in ohm of a cell in the first milliseconds and at its worst, its volts then."""

    quick_ohm: Figure
    slow_ohm: Figure
    empty_v: Figure


def quickest_ohm(cell: Cell, behaviour: Behaviour) -> float:
    """Resistance in ohm of a cell in the first milliseconds of a short circuit."""
    return cell.resistance_ac_ohm or ten_second_resistance(cell, behaviour).number / DC_OVER_AC


def worst_cells(cell: Cell, behaviour: Behaviour, coldest: Figure) -> WorstCells:
    """What a cell puts in the way of a short circuit, at the least and at the most."""
    steady = ten_second_resistance(cell, behaviour)
    quick = (
        of_cell(cell, "resistance_ac_ohm", "Resistance at 1 kHz", "ohm")
        if cell.resistance_ac_ohm is not None
        else RESISTANCE_AC_OHM.assumed(quickest_ohm(cell, behaviour), steady)
    )
    cold = min(COLD_C, coldest.number)
    factor = behaviour.steady_ohm * float(behaviour.charge_factor(np.array(EMPTY_CHARGE)))
    factor *= float(behaviour.ohm_factor(np.array(cold))) * WORN / steady.number
    slow = WORST_OHM.assumed(
        factor * steady.number,
        steady,
        WORST_TIMES.of(factor, coldest),
        rule=(say(cold, "°C"), digits(factor, ".2f")),
    )
    empty = NEARLY_EMPTY_V.of(
        float(behaviour.rest(np.array(EMPTY_CHARGE))),
        of_cell(cell, "voltage_empty_v", "Empty voltage", "V"),
    )
    return WorstCells(quick, slow, empty)

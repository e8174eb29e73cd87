"""The rest voltage under which a cell is harmed, and is never charged again."""

from __future__ import annotations

from lumvak.core.catalogue.boards import Family
from lumvak.core.catalogue.cells import Cell

# Where the sheet is silent a cell is harmed so far under its empty voltage.
HARM_UNDER_V: dict[Family, float] = {
    "cobalt": 0.5, "phosphate": 0.5, "titanate": 0.3, "sodium": 0.5,
}  # fmt: skip
LEAST_V = 0.5


def recovery_v(cell: Cell, family: Family) -> float:
    """The least rest voltage in V of a cell that may be charged again (methods 24)."""
    return max(LEAST_V, cell.voltage_empty_v - HARM_UNDER_V[family])

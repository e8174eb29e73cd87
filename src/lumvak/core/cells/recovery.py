"""The rest voltage under which a cell is harmed, and is never charged again."""

from __future__ import annotations

from lumvak.core.catalogue.boards import Family
from lumvak.core.catalogue.cells import Cell

# Where the sheet is silent a cell is harmed so far under its empty voltage.
HARM_UNDER_V: dict[Family, float] = {
    "cobalt": 0.5, "phosphate": 0.5, "titanate": 0.3, "sodium": 0.5,
}  # fmt: skip
LEAST_V = 0.5
# Where nobody named the chemistry, what a lot rests at tells it: from so many V up, and the least
# rest voltage of such cells, taken low.
BY_REST_V = ((3.42, 2.0), (2.85, 1.5), (0.0, 1.2))


def recovery_v(cell: Cell, family: Family) -> float:
    """The least rest voltage in V of a cell that may be charged again (methods 24)."""
    return max(LEAST_V, cell.voltage_empty_v - HARM_UNDER_V[family])


def unknown_recovery_v(usual_v: float) -> float:
    """The least rest voltage in V of a cell of a lot that rests at ``usual_v``, where no one said
    what it is; nothing that was not read is under it (methods 26).
    """
    return next((least for from_v, least in BY_REST_V if usual_v >= from_v), LEAST_V)

"""Between a floor and a ceiling: the charge given up, what life usually gains, and the cold."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.boards import Family
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.said import digits, phrase
from lumvak.core.spelling import Refused

Array = NDArray[np.float64]
# Cycles are multiplied by about so much for each 0.1 V under full: as a range (methods 37).
GAIN_A_TENTH: dict[Family, tuple[float, float]] = {
    "cobalt": (1.4, 2.2), "phosphate": (1.0, 1.2), "titanate": (1.0, 1.1), "sodium": (1.1, 1.6),
}  # fmt: skip
# No more is promised, however low the ceiling.
MOST_GAIN = 4.0
# From the coldest at which a cell may be charged: so much of its current, all of it so much warmer.
COLD_SHARE, COLD_SPAN_K = 0.2, 15.0


class ChargeWindow(Struct, frozen=True):
    """What lies between floor and ceiling of a group.

    ``low`` and ``high`` are its charges at rest, ``kept_ah`` between them; ``gain`` is by what
    cycles are usually multiplied, least and most, ``range_share`` what is left of the run.
    """

    low: float
    high: float
    kept_ah: float
    given_top_ah: float
    given_bottom_ah: float
    gain: tuple[float, float]

    @property
    def range_share(self) -> float:
        """What is left of a whole charge."""
        return self.high - self.low


def charge_window(
    cell: Cell,
    family: Family,
    behaviour: Behaviour,
    group_ah: float,
    ceiling_v: float,
    floor_v: float,
) -> ChargeWindow:
    """The charge between a floor and a ceiling of a cell at rest (methods 37).

    Raises Refused where the ceiling is over the cell's own, or not over the floor.
    """
    if ceiling_v > cell.voltage_full_v + 1e-9:
        raise Refused(
            phrase(
                "a charge limit of {} V overcharges the cell; accepted: up to {} V",
                digits(ceiling_v, "g"),
                digits(cell.voltage_full_v, "g"),
            )
        )
    if floor_v >= ceiling_v:
        raise Refused(
            phrase(
                "a discharge limit of {} V is not under the charge limit; accepted: under {} V",
                digits(floor_v, "g"),
                digits(ceiling_v, "g"),
            )
        )
    low, high = behaviour.charge_at(np.array([floor_v, ceiling_v])).tolist()
    if ceiling_v >= cell.voltage_full_v - 1e-9:
        high = 1.0
    tenths = (cell.voltage_full_v - ceiling_v) / 0.1
    least, most = GAIN_A_TENTH[family]
    gain = (min(least**tenths, MOST_GAIN), min(most**tenths, MOST_GAIN))
    return ChargeWindow(
        low, high, (high - low) * group_ah, (1.0 - high) * group_ah, low * group_ah, gain
    )


def cold_share(cell: Cell, celsius: Array) -> Array:
    """How much of its charge current a cell takes (any shape) at a temperature in degC.

    None under the least and over the most of its sheet; a fifth at the least, rising to all of it
    15 K warmer (ours, where the sheet is silent).
    """
    cold = COLD_SHARE + (1.0 - COLD_SHARE) * (celsius - cell.charge_min_c) / COLD_SPAN_K
    share = np.clip(cold, COLD_SHARE, 1.0)
    allowed = (celsius >= cell.charge_min_c) & (celsius <= cell.charge_max_c)
    return np.asarray(np.where(allowed, share, 0.0))


def cold_words(cell: Cell, celsius: float, amps: float, most_a: float, sensors: int) -> str:
    """What charging at a temperature comes to, with the board's sensor or without one."""
    share = float(cold_share(cell, np.array(celsius)))
    if share == 0.0 and celsius < cell.charge_min_c:
        if sensors:
            return "The BMS’s sensor keeps the charge off until the cells are warm enough."
        return (
            "Nothing stops it: metal plates out inside the cells, which lose charge permanently "
            "and "
            "may short later."
        )
    if share == 0.0:
        if sensors:
            return "The BMS’s sensor keeps the charge off until the cells are cool enough."
        return "Nothing stops it: the cells age quickly, and warm each other further."
    if amps > share * most_a * (1.0 + 1e-9):
        return (
            "The BMS’s sensor does not lower the current: it knows on and off. Warm the pack, "
            "or charge slower."
        )
    return "The cells take this current at this temperature."

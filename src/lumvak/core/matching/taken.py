"""What the sheet's cell would read as a lot was measured: its current, its pulse, its warmth."""

from __future__ import annotations

from typing import Self

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.document.hand import Lot
from lumvak.core.said import Text, phrase, say, sentences

# A DC resistance over an AC one, where a sheet does not give both; of a usual cell, after 10 s.
DC_OVER_AC = 1.5
PULSE_S, PULSE_CHARGE, PULSE_C = 10.0, 0.5, 25.0


class AsTaken(Struct, frozen=True):
    """A sheet's cell as a lot was measured.

    ``ah`` is the capacity it gives so, ``ohm`` what it reads, ``None`` where the sheet is silent;
    ``dc_over`` is its DC resistance after 10 s at half charge and 25 degC over that. ``current_a``
    and ``to_v`` are as the lot says, ``None`` where it does not.
    """

    ah: float
    ohm: float | None
    dc_over: float
    current_a: float | None = None
    to_v: float | None = None

    @classmethod
    def from_sheet(cls, cell: Cell, resistance_by: str = "dc") -> Self:
        """As the sheet itself was measured."""
        dc = resistance_by == "dc"
        return cls(
            cell.capacity_typical_ah,
            cell.resistance_dc_ohm if dc else cell.resistance_ac_ohm,
            1.0 if dc else _dc_over_ac(cell),
        )

    @property
    def how(self) -> Text:
        """How the capacity was taken, in a few words; empty where the lot does not say."""
        return how_taken(self.current_a, self.to_v)


def how_taken(current_a: float | None, to_v: float | None) -> Text:
    """A capacity's current and the voltage it was taken down to; empty where neither is said."""
    return sentences(
        "" if current_a is None else phrase("at {}", say(current_a, "A")),
        "" if to_v is None else phrase("to {}", say(to_v, "V")),
    )


def as_taken(lot: Lot, cell: Cell, behaviour: Behaviour, ah: float) -> AsTaken:
    """A sheet's cell as a lot was measured; ``ah`` is what it gives at the lot's current.

    A DC pulse of another length, charge or warmth than 10 s, half and 25 degC reads so many times
    the resistance as the cell's behaviour says (methods 4, 26).
    """
    sheet = AsTaken.from_sheet(cell, lot.resistance_by)
    ohm, over = sheet.ohm, sheet.dc_over
    if lot.resistance_by == "dc":
        factor = pulse_factor(lot, behaviour)
        ohm, over = None if ohm is None else ohm * factor, 1.0 / factor
    return AsTaken(ah, ohm, over, lot.capacity_a, lot.capacity_to_v)


def pulse_factor(lot: Lot, behaviour: Behaviour) -> float:
    """What a lot's pulse reads over the resistance after 10 s at half charge and 25 degC."""
    length = PULSE_S if lot.pulse_s is None else lot.pulse_s
    charge = PULSE_CHARGE if lot.pulse_charge is None else lot.pulse_charge
    celsius = PULSE_C if lot.pulse_c is None else lot.pulse_c
    by_length = behaviour.time_factor(length) / behaviour.time_factor(PULSE_S)
    by_charge = behaviour.charge_factor(np.array([charge, PULSE_CHARGE]))
    warm = behaviour.ohm_factor(np.array([celsius, PULSE_C]))
    return float(by_length * by_charge[0] / by_charge[1] * warm[0] / warm[1])


def _dc_over_ac(cell: Cell) -> float:
    if cell.resistance_dc_ohm is not None and cell.resistance_ac_ohm is not None:
        return cell.resistance_dc_ohm / cell.resistance_ac_ohm
    return DC_OVER_AC


def told_apart(lots: list[Lot]) -> Text:
    """How the capacities of lots were taken apart from each other, or an empty text."""
    ways = {(lot.capacity_a, lot.capacity_to_v) for lot in lots}
    if len(ways) < 2:
        return ""
    first, second = (
        next(lot for lot in lots if (lot.capacity_a, lot.capacity_to_v) == way)
        for way in sorted(ways, key=str)[:2]
    )
    return phrase("{} {}, {} {}", first.name, _way(first), second.name, _way(second))


def _way(lot: Lot) -> Text:
    return how_taken(lot.capacity_a, lot.capacity_to_v) or "does not say how"

"""Before any two cells are joined: what would flow between them, and how to bring them level."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.document.hand import HandCell, Meter
from lumvak.core.matching.judging import column
from lumvak.core.matching.meter import volts_within
from lumvak.core.said import Text, say

Array = NDArray[np.float64]
# A resistor lets by so much of that, and is at work until so many V are left.
GENTLE_SHARE, LEVEL_V = 0.4, 0.01
# Resistors that are sold, in a decade (E6).
SOLD = (1.0, 1.5, 2.2, 3.3, 4.7, 6.8)
STORAGE_CHARGE = 0.5


class Recipe(Struct, frozen=True):
    """How to bring cells level: a resistor between the two, or a charger set to one voltage.

    ``ohm``, ``watts`` and ``hours`` are of the resistor; ``storage_v`` and ``charger_h`` of the
    charger with the sheet's standard current.
    """

    ohm: float
    watts: float
    hours: float
    storage_v: float
    charger_h: float

    @property
    def quantities(self) -> tuple[Text, ...]:
        """What its sentences say, in order: to what, how long, through what, and how long."""
        return (
            say(self.storage_v, "V"),
            say(self.charger_h, "h"),
            say(self.ohm, "Ω"),
            say(self.watts, "W"),
            say(self.hours, "h"),
        )


class Gate(Struct, frozen=True):
    """What would flow if cells were joined in parallel now.

    ``high`` and ``low`` are the numbers of the two between which most would flow, ``volts`` apart,
    ``current_a`` against ``limit_a``; ``flows_ah`` is what moves between all of them in the end.
    ``told`` is whether the meter tells them apart; ``unread`` are numbers without a voltage.
    """

    high: int
    low: int
    volts: float
    current_a: float
    limit_a: float
    flows_ah: float
    told: bool
    unread: tuple[int, ...]
    recipe: Recipe | None

    @property
    def may_join(self) -> bool:
        """Whether they may be joined as they are."""
        return self.recipe is None and not self.unread


def gate(cells: Sequence[HandCell], sheet: Cell, behaviour: Behaviour, meter: Meter) -> Gate | None:
    """What would flow between cells that are joined in parallel; ``None`` for fewer than two.

    Resistances that were not measured are the sheet's. The limit is what a cell may be charged
    with (methods 27).
    """
    known = [cell for cell in cells if cell.volts is not None]
    unread = tuple(cell.number for cell in cells if cell.volts is None)
    limit = sheet.charge_max_a or sheet.charge_standard_a
    if len(known) < 2:
        if not unread:
            return None
        return Gate(
            0,
            0,
            volts=0.0,
            current_a=0.0,
            limit_a=limit,
            flows_ah=0.0,
            told=False,
            unread=unread,
            recipe=None,
        )
    volts = column(known, "volts")
    ohm = np.where(
        np.isfinite(mohm := column(known, "mohm")), mohm * 1e-3, behaviour.ten_second_ohm
    )
    ah = np.where(np.isfinite(own := column(known, "ah")), own, sheet.capacity_typical_ah)
    flow = (volts[:, None] - volts[None]) / (ohm[:, None] + ohm[None])
    high, low = np.unravel_index(int(np.argmax(flow)), flow.shape)
    apart, current = float(volts[high] - volts[low]), float(flow[high, low])
    off = math.hypot(*(volts_within(meter, float(volts[at])) for at in (high, low)))
    charge = behaviour.charge_at(volts)
    level = float(ah @ charge / ah.sum())
    flows = float(np.abs(ah * (charge - level)).sum() / 2.0)
    recipe = None
    if current > limit:
        pair = np.array([high, low])
        recipe = _recipe(
            volts[pair],
            ohm[pair],
            ah=ah[pair],
            limit=limit,
            sheet=sheet,
            behaviour=behaviour,
            charges=charge,
            all_ah=ah,
        )
    return Gate(
        known[high].number,
        known[low].number,
        volts=apart,
        current_a=current,
        limit_a=limit,
        flows_ah=flows,
        told=apart > 2.0 * off,
        unread=unread,
        recipe=recipe,
    )


def _recipe(
    volts: Array,
    ohm: Array,
    ah: Array,
    limit: float,
    sheet: Cell,
    behaviour: Behaviour,
    charges: Array,
    all_ah: Array,
) -> Recipe:
    """Bring the two farthest apart level through a resistor, or all of them by a charger."""
    # The slope of the rest curve between them makes each cell a capacitor.
    charge = behaviour.charge_at(volts)
    resistor, watts, hours = through_resistor(
        float(volts[0] - volts[1]), float(ohm.sum()), ah, float(charge[0] - charge[1]), limit
    )
    storage = float(behaviour.rest(np.array(STORAGE_CHARGE)))
    charger = float(np.abs(all_ah * (charges - STORAGE_CHARGE)).max()) / sheet.charge_standard_a
    return Recipe(resistor, watts, hours, storage, charger)


class ResistorPlan(NamedTuple):
    """A resistor that brings two level: its ohm, its watts, and for how long."""

    ohm: float
    watts: float
    hours: float


def through_resistor(
    volts: float, ohm: float, ah: Array, charge: float, limit_a: float
) -> ResistorPlan:
    """A resistor in ohm to bring two level, its watts, and hours until they are (methods 27).

    They are ``volts`` and a share ``charge`` of their capacities ``ah``, (2,), apart, and are
    ``ohm`` together; the one that is charged takes ``limit_a``.
    """
    resistor = sold_ohm(volts / (GENTLE_SHARE * limit_a) - ohm)
    current = volts / (resistor + ohm)
    farad = ah * 3600.0 * max(charge, 1e-6) / volts
    tau_s = (resistor + ohm) * float(1.0 / (1.0 / farad).sum())
    hours = tau_s * math.log(max(volts / LEVEL_V, 1.0)) / 3600.0
    return ResistorPlan(resistor, current**2 * resistor, hours)


def sold_ohm(least: float) -> float:
    """The smallest resistor that is sold and is no less than ``least`` ohm."""
    least = max(least, 0.1)
    decade = 10.0 ** math.floor(math.log10(least))
    for factor in (*SOLD, 10.0):
        if factor * decade >= least * (1.0 - 1e-9):
            return factor * decade
    return 10.0 * decade

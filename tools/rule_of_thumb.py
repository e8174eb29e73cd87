"""A builder's rule of thumb for a need, in a few lines apart from the engine.

Cells by energy over the usable share of it, by amps over what the cell's sheet says, whichever is
more; of every new cell of the forms wanted, at the largest series count in the window and the two
below it. The usable share is read off the rest curve, less 1.35 times the DC resistance of the
sheet (with 2500 K in the cold) and 15 mohm of path. Nothing of `lumvak.core.sizing` is used.
"""

from __future__ import annotations

import itertools
import math

from msgspec import Struct

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FORMS, ROUND, Cell
from lumvak.core.document.need import Need

MOST_PARALLEL = 64


class Thumb(Struct, frozen=True):
    """A pack by rule of thumb."""

    cell: Cell
    series: int
    parallel: int
    usable: float

    @property
    def mass_kg(self) -> float:
        return self.series * self.parallel * self.cell.mass_g / 1000.0


class Asked(Struct, frozen=True):
    """What is asked, in plain numbers: volts, amps, hours, the coldest in degC."""

    rated_v: float
    highest_v: float
    stop_v: float | None
    amps: float
    peak_a: float
    hours: float
    coldest_c: float


def usable(cell: Cell, curve: list[tuple[float, float]], asked: Asked, s: int, p: int) -> float:
    """Share of the charge out when the pack under its load falls to the stop voltage."""
    cold = math.exp(2500.0 * (1.0 / (273.15 + min(asked.coldest_c, 25.0)) - 1.0 / 298.15))
    ohm = 1.35 * cold * (cell.resistance_dc_ohm or 1.5 * (cell.resistance_ac_ohm or 0.03))
    stop = max(cell.voltage_empty_v, ((asked.stop_v or 0.0) + 0.015 * asked.amps) / s)
    rest = stop + asked.amps / p * ohm
    for (low, low_v), (high, high_v) in itertools.pairwise(curve):
        if high_v >= rest:
            share = (rest - low_v) / (high_v - low_v) if high_v > low_v else 0.0
            return 1.0 - (low + max(share, 0.0) * (high - low))
    return 0.0


def thumb_packs(catalogue: Catalogue, need: Need, asked: Asked) -> list[Thumb]:
    """The lightest pack of each new cell that serves the rule, the lightest first."""
    found = []
    forms = ROUND if need.kind in ("vehicle", "tool") else FORMS
    for cell in catalogue.cells.values():
        if cell.origin != "new" or cell.format not in forms:
            continue
        if asked.coldest_c < cell.discharge_min_c:
            continue
        curve = [(float(z), float(v)) for z, v in catalogue.chemistry_of(cell).curve]
        most = math.floor(asked.highest_v / cell.voltage_full_v + 1e-9)
        least_ah = 0.92 * (cell.capacity_min_ah or 0.97 * cell.capacity_typical_ah)
        packs = []
        for s in range(max(1, most - 2), most + 1):
            if s * cell.voltage_nominal_v < 0.88 * asked.rated_v:
                continue
            by_amps = max(
                asked.amps / (0.8 * cell.continuous_a),
                asked.peak_a / (cell.pulse_a or cell.continuous_a),
            )
            for p in range(max(1, math.ceil(by_amps - 1e-9)), MOST_PARALLEL + 1):
                u = usable(cell, curve, asked, s, p)
                if u >= 0.75 and p * least_ah * u >= asked.amps * asked.hours:
                    packs.append(Thumb(cell, s, p, u))
                    break
        found += sorted(packs, key=lambda pack: pack.mass_kg)[:1]
    return sorted(found, key=lambda pack: pack.mass_kg)

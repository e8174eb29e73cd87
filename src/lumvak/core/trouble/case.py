"""What is known of a pack in trouble before anything is read."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.catalogue.cells import Chemistry
from lumvak.core.cells.behaviour import from_empty

# Usual for a pack of which no more is known (ours): ohm of a group, a series connection, the parts
# of the path; charge in Ah; amps of its load and where its BMS opens; amps of its charger.
GROUP_OHM, JOINT_OHM, PART_OHM = 0.012, 0.0004, 0.0015
LOAD_A, TRIP_A, CHARGE_A = 10.0, 40.0, 2.0
# How far groups of a used pack stand apart at rest, as a standard deviation in V.
APART_V = 0.010
# A resistance that nobody measured is known to such a share.
OHM_OFF = 0.3
EMPTY_V = {"cobalt": 3.0, "phosphate": 2.8, "titanate": 1.9, "sodium": 2.2}


class TroubleMeter(Struct, frozen=True):
    """A voltmeter: so much of the reading, and so many of its last digits; it has 6,000 counts."""

    share: float = 0.005
    digits: int = 2

    def digit_v(self, volts: float) -> float:
        """The last digit of a range that shows so many volts."""
        for top in (6.0, 60.0, 600.0):
            if abs(volts) < top:
                return top / 6000.0
        return 1.0


class TroubleCase(Struct, frozen=True):
    """A pack as far as trouble needs it.

    ``rest_v`` and ``rest_off_v`` are where a group likely rests and how sure that is; resistances
    are in ohm.
    """

    series: int
    full_v: float
    empty_v: float
    rest_v: float
    rest_off_v: float
    group_ohm: float = GROUP_OHM
    joint_ohm: float = JOINT_OHM
    part_ohm: float = PART_OHM
    load_a: float = LOAD_A
    trip_a: float = TRIP_A
    charge_a: float = CHARGE_A
    shows: bool = True
    meter: TroubleMeter = TroubleMeter()

    @property
    def charger_v(self) -> float:
        """What the right charger ends at."""
        return self.series * self.full_v


def case_of(series: int, chemistry: Chemistry, meter: TroubleMeter | None = None) -> TroubleCase:
    """A pack of which only count and chemistry are known."""
    empty = EMPTY_V[chemistry.family]
    charge, volts = from_empty(chemistry.curve, empty)
    full = float(volts[-1])
    middle = [float(v) for at, v in zip(charge, volts, strict=True) if 0.1 <= at <= 0.98]
    low, high = (min(middle), max(middle)) if middle else (empty, full)
    return TroubleCase(
        series,
        full,
        empty,
        rest_v=0.5 * (low + high),
        rest_off_v=max(0.35 * (high - low), 0.03),
        meter=meter or TroubleMeter(),
    )

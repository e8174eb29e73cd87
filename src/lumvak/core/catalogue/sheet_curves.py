"""What a cell's data sheet draws rather than says: discharges at several currents, and pulses."""

from itertools import pairwise
from typing import Annotated

from lumvak.core.record import CellVoltage, Celsius, Document, NotNegative, Positive, Unfit, about

ROOM_C = 25.0
# A discharge counts as one at room temperature within so many kelvin.
ROOM_WITHIN_K = 7.0
# A curve of fewer points says too little.
LEAST_POINTS = 4
# A volt may rise by so much from one point to the next: a hand is not steadier on a printed plot.
SHAKE_V = 0.02
Share = Annotated[float, about(ge=0.0, le=1.0)]


class SheetCurve(Document, frozen=True, kw_only=True):
    """A discharge from full at a steady current, as points of Ah taken and volts.

    ``temperature_c`` is that of the cell, held for the length of the curve.
    """

    current_a: Annotated[Positive, about("Current", "A", tip="Of the discharge")]
    temperature_c: Annotated[Celsius, about("Temperature", "°C", tip="Of the cell")] = ROOM_C
    points: Annotated[
        tuple[tuple[NotNegative, CellVoltage], ...],
        about("Points", min_length=LEAST_POINTS, max_length=2000, tip="Pairs of Ah taken and V"),
    ]

    @property
    def at_room(self) -> bool:
        """Whether it counts as a discharge at room temperature."""
        return abs(self.temperature_c - ROOM_C) <= ROOM_WITHIN_K

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        charge = [point[0] for point in self.points]
        volts = [point[1] for point in self.points]
        if any(after <= before for before, after in pairwise(charge)):
            raise Unfit("", "the charge taken must rise from point to point of a curve")
        if any(after > before + SHAKE_V for before, after in pairwise(volts)):
            raise Unfit("", "the volts of a discharge curve must not rise")
        if volts[-1] >= volts[0]:
            raise Unfit("", "a discharge curve must end lower than it begins")


class SheetPulse(Document, frozen=True, kw_only=True):
    """DC resistance in ohm after so many seconds of current, at a charge and a temperature."""

    charge: Annotated[Share, about("Charge", tip="How full: 1 is full")] = 0.5
    seconds: Annotated[float, about("After", "s", ge=0.1, le=600, tip="Length of the pulse")] = 10.0
    temperature_c: Annotated[Celsius, about("Temperature", "°C", tip="Of the cell")] = ROOM_C
    ohm: Annotated[Positive, about("Resistance", "Ω", tip="Drop over current at that time")]

"""Chemistries and cells, with the ratings of their sheets."""

from typing import Annotated, Literal, get_args

from lumvak.core.catalogue.boards import Family
from lumvak.core.catalogue.sheet_curves import SheetCurve, SheetPulse
from lumvak.core.record import (
    CellVoltage,
    Celsius,
    Document,
    NotNegative,
    PartId,
    Positive,
    Unfit,
    about,
)
from lumvak.core.said import digits, phrase

Form = Literal["18650", "21700", "26650", "32700", "pouch", "prismatic"]
FORMS: tuple[Form, ...] = get_args(Form)
ROUND: tuple[Form, ...] = ("18650", "21700", "26650", "32700")
FAMILY_NAMES: dict[str, str] = {
    "cobalt": "cobalt type",
    "phosphate": "iron phosphate",
    "titanate": "titanate",
    "sodium": "sodium",
}


class Chemistry(Document, frozen=True):
    """A chemistry class with its rest voltage against state of charge."""

    id: PartId
    name: str
    family: Family
    curve: Annotated[tuple[tuple[float, float], ...], about(min_length=2)]
    curve_source: str
    curve_assumed: bool = False
    sample: bool = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        charge = [point[0] for point in self.curve]
        volts = [point[1] for point in self.curve]
        if charge[0] != 0.0 or charge[-1] != 1.0:
            raise Unfit("", "curve must run from state of charge 0 to 1")
        for below, above in zip(self.curve, self.curve[1:], strict=False):
            if not (below[0] < above[0] and below[1] <= above[1]):
                raise Unfit("", "curve must rise in state of charge and never fall in voltage")
        if not 0.0 < volts[0] <= volts[-1] < 6.0:
            raise Unfit("", "curve voltages must lie between 0 and 6 V")


class Cell(Document, frozen=True, kw_only=True):
    """A cell with the ratings of its data sheet; ``None`` is what the sheet does not give.

    ``measured`` and ``guessed`` name the fields that do not come from the sheet.
    """

    id: PartId
    name: str
    chemistry: PartId
    format: Form
    origin: Literal["new", "reclaimed"] = "new"
    voltage_full_v: CellVoltage
    voltage_nominal_v: CellVoltage
    voltage_empty_v: CellVoltage
    capacity_typical_ah: Positive
    capacity_min_ah: Positive | None = None
    continuous_a: Positive
    continuous_at_c: Celsius | None = None
    pulse_a: Positive | None = None
    pulse_s: Positive | None = None
    charge_standard_a: Positive
    charge_max_a: Positive | None = None
    resistance_dc_ohm: Positive | None = None
    resistance_ac_ohm: Positive | None = None
    mass_g: Positive
    diameter_mm: Positive | None = None
    width_mm: Positive | None = None
    thickness_mm: Positive | None = None
    height_mm: Positive
    discharge_min_c: Celsius = -20.0
    discharge_max_c: Celsius = 60.0
    charge_min_c: Celsius = 0.0
    charge_max_c: Celsius = 45.0
    cycles: Annotated[int, about(gt=0)] | None = None
    cycles_note: str = ""
    price: NotNegative
    note: str = ""
    sample: bool = False
    curves: Annotated[tuple[SheetCurve, ...], about(max_length=20)] = ()
    pulses: Annotated[tuple[SheetPulse, ...], about(max_length=100)] = ()
    measured: tuple[str, ...] = ()
    guessed: tuple[str, ...] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        for name in (*self.measured, *self.guessed):
            if name not in self.__struct_fields__:
                raise Unfit(
                    "", phrase("measured or guessed names “{}”, which is no field of a cell", name)
                )
        if set(self.measured) & set(self.guessed):
            raise Unfit("", "a field is either measured or guessed")
        if not self.voltage_empty_v < self.voltage_nominal_v < self.voltage_full_v:
            raise Unfit("", "voltages must rise from empty over nominal to full")
        if self.capacity_min_ah is not None and self.capacity_min_ah > self.capacity_typical_ah:
            raise Unfit("", "capacity_min_ah must not exceed capacity_typical_ah")
        if (self.pulse_a is None) != (self.pulse_s is None):
            raise Unfit("", "pulse_a and pulse_s belong together: give both or neither")
        for curve in self.curves:
            begins = curve.points[0][1]
            if begins <= self.voltage_empty_v:
                raise Unfit(
                    "",
                    phrase(
                        "curves: a discharge begins at {} V; accepted: over the empty voltage, "
                        "{} V",
                        digits(begins, "g"),
                        digits(self.voltage_empty_v, "g"),
                    ),
                )
        if self.pulse_a is not None and self.pulse_a < self.continuous_a:
            raise Unfit("", "pulse_a must not be under continuous_a")
        flat = self.width_mm is not None and self.thickness_mm is not None
        if (self.diameter_mm is None) == (not flat):
            raise Unfit("", "give diameter_mm, or width_mm and thickness_mm")

    @property
    def footprint_mm(self) -> tuple[float, float]:
        """Length and width in mm of the rectangle a cell takes up, standing."""
        if self.diameter_mm is not None:
            return self.diameter_mm, self.diameter_mm
        return float(self.width_mm or 0.0), float(self.thickness_mm or 0.0)

    @property
    def volume_cm3(self) -> float:
        """Volume in cm3 of the box around one cell."""
        length, width = self.footprint_mm
        return length * width * self.height_mm / 1000.0

    @property
    def wh_per_kg(self) -> float:
        """Typical capacity at the nominal voltage for each kilogram, in Wh/kg."""
        return self.capacity_typical_ah * self.voltage_nominal_v / self.mass_g * 1000.0

    @property
    def price_per_wh(self) -> float:
        """Price for each Wh of typical capacity at the nominal voltage."""
        return self.price / (self.capacity_typical_ah * self.voltage_nominal_v)

    @property
    def pitch_mm(self) -> float:
        """The shorter side in mm, which sets how far apart neighbouring joints lie."""
        return min(self.footprint_mm)

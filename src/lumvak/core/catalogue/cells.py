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

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    family: Annotated[
        Family, about("Family", tip="Cobalt type, iron phosphate, titanate or sodium")
    ]
    curve: Annotated[
        tuple[tuple[float, float], ...],
        about(
            "OCV curve",
            min_length=2,
            tip="Pairs of state of charge, rising from 0 to 1, and OCV in V",
        ),
    ]
    curve_source: Annotated[str, about("Source", tip="Where the curve is from")]
    curve_assumed: Annotated[
        bool,
        about("Assumed", tip="True where the curve is not from measurements of this chemistry"),
    ] = False
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

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

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    chemistry: Annotated[PartId, about("Chemistry", tip="Id of its chemistry")]
    format: Annotated[Form, about("Form", tip="Round by diameter and length, pouch, or prismatic")]
    origin: Annotated[
        Literal["new", "reclaimed"], about("Origin", tip="New, or reclaimed from another pack")
    ] = "new"
    voltage_full_v: Annotated[
        CellVoltage, about("Charge voltage", "V", tip="At the end of a full charge")
    ]
    voltage_nominal_v: Annotated[CellVoltage, about("Nominal voltage", "V", tip="As printed")]
    voltage_empty_v: Annotated[
        CellVoltage, about("Discharge cut-off", "V", tip="Least voltage that its sheet allows")
    ]
    capacity_typical_ah: Annotated[
        Positive, about("Capacity, typical", "Ah", tip="Of a new cell at a small current")
    ]
    capacity_min_ah: (
        Annotated[Positive, about("Capacity, least", "Ah", tip="That its maker guarantees")] | None
    ) = None
    continuous_a: Annotated[
        Positive,
        about("Continuous current", "A", tip="Most discharge current that its sheet allows"),
    ]
    continuous_at_c: (
        Annotated[
            Celsius,
            about(
                "Continuous current up to",
                "°C",
                tip="Cell temperature up to which the continuous current holds",
            ),
        ]
        | None
    ) = None
    pulse_a: (
        Annotated[Positive, about("Pulse current", "A", tip="Most for a short time")] | None
    ) = None
    pulse_s: (
        Annotated[
            Positive, about("Pulse lasts", "s", tip="The time for which the pulse current holds")
        ]
        | None
    ) = None
    charge_standard_a: Annotated[
        Positive, about("Charge current, standard", "A", tip="Usual charge current")
    ]
    charge_max_a: (
        Annotated[
            Positive,
            about("Charge current, most", "A", tip="Most charge current at room temperature"),
        ]
        | None
    ) = None
    resistance_dc_ohm: (
        Annotated[
            Positive,
            about("DC resistance", "Ω", tip="Drop over current after 10 s, half full, 25 °C"),
        ]
        | None
    ) = None
    resistance_ac_ohm: Annotated[Positive, about("AC resistance", "Ω", tip="At 1 kHz")] | None = (
        None
    )
    mass_g: Annotated[Positive, about("Mass", "g", tip="Of one cell")]
    diameter_mm: (
        Annotated[Positive, about("Diameter", "mm", tip="Of a round cell, with its wrapper")] | None
    ) = None
    width_mm: Annotated[Positive, about("Width", "mm", tip="Of a flat cell")] | None = None
    thickness_mm: Annotated[Positive, about("Thickness", "mm", tip="Of a flat cell")] | None = None
    height_mm: Annotated[
        Positive, about("Height", "mm", tip="Of a cell that stands, over its ends")
    ]
    discharge_min_c: Annotated[
        Celsius, about("Discharge from", "°C", tip="Coldest discharge")
    ] = -20.0
    discharge_max_c: Annotated[Celsius, about("Discharge up to", "°C", tip="Warmest discharge")] = (
        60.0
    )
    charge_min_c: Annotated[Celsius, about("Charge from", "°C", tip="Coldest charge")] = 0.0
    charge_max_c: Annotated[Celsius, about("Charge up to", "°C", tip="Warmest charge")] = 45.0
    cycles: Annotated[int, about("Cycles", gt=0, tip="That its sheet states")] | None = None
    cycles_note: Annotated[
        str, about("Cycles, how", tip="Conditions under which they were counted")
    ] = ""
    price: Annotated[NotNegative, about("Cost", "money", tip="Of one cell")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False
    curves: Annotated[
        tuple[SheetCurve, ...],
        about("Discharge curves", max_length=20, tip="As drawn in its sheet"),
    ] = ()
    pulses: Annotated[
        tuple[SheetPulse, ...],
        about("Pulse resistances", max_length=100, tip="As given in its sheet"),
    ] = ()
    measured: Annotated[
        tuple[str, ...],
        about("Measured", tip="Names of fields that were measured and not taken from a sheet"),
    ] = ()
    guessed: Annotated[
        tuple[str, ...], about("Guessed", tip="Names of fields that nobody gave")
    ] = ()

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

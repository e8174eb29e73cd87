"""What a label says of its pack, short enough for a code that is printed on it."""

from typing import Annotated, Literal

from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import phrase, say

Standing = Literal["assumed", "partly measured", "proven"]
DATE = r"^[0-9]{4}-[0-9]{2}-[0-9]{2}$"
Date = Annotated[str, about(like="a day such as 2026-05-31", pattern=DATE)]
Amps = Annotated[float, about(unit="A", gt=0, le=10_000)]
Volts = Annotated[float, about(unit="V", gt=0, le=1000)]
Degrees = Annotated[float, about(unit="°C", ge=-60, le=150)]


class Passport(Document, frozen=True, kw_only=True):
    """A pack as its label has it: design, limits, what was measured, and days.

    Volts and amps are of the whole pack; ``standing`` is how its rating stands.
    """

    name: Annotated[str, about("Name", min_length=1, max_length=60, tip="Of the pack")]
    chemistry: Annotated[str, about("Chemistry", max_length=40, tip="In words")] = ""
    cell: Annotated[str, about("Cell", max_length=60, tip="In words")] = ""
    series: Annotated[int, about("Series", ge=1, le=400, tip="Groups in series")]
    parallel: Annotated[int, about("Parallel", ge=1, le=1000, tip="Cells in a group")]
    capacity_ah: Annotated[float, about("Capacity", "Ah", gt=0, le=100_000, tip="Of the pack")]
    capacity_is: Annotated[
        Literal["designed", "measured"], about("Capacity is", tip="Designed, or measured")
    ] = "designed"
    full_v: Annotated[Volts, about("Full", tip="Of the pack, full")]
    empty_v: Annotated[
        Volts, about("Empty", tip="Of the pack, where the equipment or the BMS stops")
    ]
    continuous_a: Annotated[Amps, about("Continuous", tip="Rating, continuous")] | None = None
    peak_a: Annotated[Amps, about("Peak", tip="Rating, for the peak")] | None = None
    peak_s: (
        Annotated[float, about("Peak lasts", "s", gt=0, le=3600, tip="Length of that peak")] | None
    ) = None
    charge_v: (
        Annotated[Volts, about("Charge to", tip="Voltage that the charger ends at")] | None
    ) = None
    charge_a: Annotated[Amps, about("Charge with at most", tip="Most charge current")] | None = None
    tail_a: (
        Annotated[Amps, about("Full when under", tip="Current under which it is full")] | None
    ) = None
    discharge_min_c: Annotated[Degrees, about("Use from", tip="Coldest use")] | None = None
    discharge_max_c: Annotated[Degrees, about("Use up to", tip="Warmest use")] | None = None
    charge_min_c: Annotated[Degrees, about("Charge from", tip="Coldest charge")] | None = None
    charge_max_c: Annotated[Degrees, about("Charge up to", tip="Warmest charge")] | None = None
    bms: Annotated[str, about("BMS", max_length=60, tip="In words")] = ""
    fuse_a: Annotated[Amps, about("Fuse", tip="Rating of the main fuse")] | None = None
    resistance_mohm: (
        Annotated[
            float,
            about(
                "Resistance measured", "mΩ", gt=0, le=100_000, tip="Of the pack, at its connector"
            ),
        ]
        | None
    ) = None
    standing: Annotated[Standing, about("Rating is", tip="Assumed, or proven by tests")] = "assumed"
    modified: Annotated[
        bool, about("Modified", tip="Whether it was changed after it was built")
    ] = False
    built: Annotated[Date, about("Built", tip="Day")] | None = None
    measured: Annotated[Date, about("Measured", tip="Day of the last test")] | None = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.empty_v >= self.full_v:
            raise Unfit(
                "empty_v", phrase("{} is not under full; accepted: less", say(self.empty_v, "V"))
            )

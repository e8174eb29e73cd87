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

    name: Annotated[str, about("Name", min_length=1, max_length=60)]
    chemistry: Annotated[str, about("Chemistry", max_length=40)] = ""
    cell: Annotated[str, about("Cell", max_length=60)] = ""
    series: Annotated[int, about("Series", ge=1, le=400)]
    parallel: Annotated[int, about("Parallel", ge=1, le=1000)]
    capacity_ah: Annotated[float, about("Capacity", "Ah", gt=0, le=100_000)]
    capacity_is: Annotated[Literal["designed", "measured"], about("Capacity is")] = "designed"
    full_v: Annotated[Volts, about("Full")]
    empty_v: Annotated[Volts, about("Empty")]
    continuous_a: Annotated[Amps, about("Continuous")] | None = None
    peak_a: Annotated[Amps, about("Peak")] | None = None
    peak_s: Annotated[float, about("Peak lasts", "s", gt=0, le=3600)] | None = None
    charge_v: Annotated[Volts, about("Charge to")] | None = None
    charge_a: Annotated[Amps, about("Charge with at most")] | None = None
    tail_a: Annotated[Amps, about("Full when under")] | None = None
    discharge_min_c: Annotated[Degrees, about("Use from")] | None = None
    discharge_max_c: Annotated[Degrees, about("Use up to")] | None = None
    charge_min_c: Annotated[Degrees, about("Charge from")] | None = None
    charge_max_c: Annotated[Degrees, about("Charge up to")] | None = None
    bms: Annotated[str, about("BMS", max_length=60)] = ""
    fuse_a: Annotated[Amps, about("Fuse")] | None = None
    resistance_mohm: (
        Annotated[float, about("Resistance measured", "mΩ", gt=0, le=100_000)] | None
    ) = None
    standing: Annotated[Standing, about("Rating is")] = "assumed"
    modified: Annotated[bool, about("Modified")] = False
    built: Annotated[Date, about("Built")] | None = None
    measured: Annotated[Date, about("Measured")] | None = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.empty_v >= self.full_v:
            raise Unfit(
                "empty_v", phrase("{} is not under full; accepted: less", say(self.empty_v, "V"))
            )

"""What the builder decided between the joints and the equipment: board, leads, fuse, rest."""

from typing import Annotated, Any, Literal

from lumvak.core.catalogue.power_parts import BandPoint, Insulation, check_band
from lumvak.core.record import Document, PartId, Unfit, about
from lumvak.core.said import digits, phrase, say

# In place of a part: there is none on purpose.
NONE = "none"
# In place of a part: one that is still to be bought, as specified.
AS_SPECIFIED_ID = "as-specified"
BalancingSchool = Literal["must", "matched"]
School = Literal["temperature", "rule", "loss"]
FusePlace = Literal["cells", "board", "output"]
SettingKey = Literal[
    "over-voltage",
    "under-voltage",
    "over-current-1",
    "over-current-2",
    "short-circuit",
    "charge-current",
    "charge-cold",
    "charge-hot",
    "discharge-cold",
    "discharge-hot",
    "balance-from",
    "balance-spread",
]


class Leads(Document, frozen=True):
    """Two leads of one kind; ``wire`` names a part, else section and diameter are as typed."""

    wire: Annotated[PartId, about("Wire", also="cable")] | None = None
    area_mm2: (
        Annotated[float, about("Section", "mm²", gt=0, le=500, also="wire gauge AWG")] | None
    ) = None
    length_m: Annotated[float, about("Length of one lead", "m", gt=0, le=100)] = 0.5
    outer_mm: Annotated[float, about("Outer diameter", "mm", gt=0, le=60)] | None = None
    insulation: Annotated[Insulation, about("Insulation")] | None = None
    bundled: Annotated[bool, about("Lies in a bundle")] = False
    school: Annotated[School, about("What a lead carries", also="ampacity")] = "temperature"
    rise_limit_k: Annotated[float, about("Rise over the air", "K", gt=0, le=150)] = 35.0
    rule_a_per_mm2: Annotated[float, about("Rule, copper", "A/mm²", gt=0, le=100)] = 6.0
    loss_mv: Annotated[float, about("Drop allowed in both leads", "mV", gt=0, le=1e5)] = 250.0


class SettingChange(Document, frozen=True):
    """One setting of an adjustable board that the builder wants otherwise than proposed."""

    key: SettingKey
    value: Annotated[float, about("Value", ge=-60, le=1e5)] | None = None
    release: Annotated[float, about("Release", ge=-60, le=1e5)] | None = None
    delay_s: Annotated[float, about("Delay", "s", gt=0, le=3600)] | None = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if not self.key.endswith(("-hot", "-cold")):
            for name, value in (("value", self.value), ("release", self.release)):
                if value is not None and value <= 0.0:
                    raise Unfit(
                        name,
                        phrase(
                            "{} was given for {}; accepted: over 0, for only temperatures go lower",
                            digits(value, "g"),
                            self.key,
                        ),
                    )


class Protection(Document, frozen=True):
    """The BMS; ``board`` ``None`` follows the recommendation."""

    board: Annotated[PartId, about("BMS")] | None = None
    balancing: Annotated[BalancingSchool, about("Balancing", also="BMS balance")] = "must"
    sensor: Annotated[bool, about("Temperature sensor wanted")] = True
    telemetry: Annotated[bool, about("Telemetry")] = False
    feeds: Annotated[bool, about("Feeds others through its charge socket")] = False
    settings: Annotated[tuple[SettingChange, ...], about("Settings of the BMS", max_length=40)] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        keys = [item.key for item in self.settings]
        for key in keys:
            if keys.count(key) > 1:
                raise Unfit("settings", phrase("“{}” stands there twice; accepted: each once", key))


class PowerParts(Document, frozen=True):
    """Parts in the path; ``None`` follows the recommendation, ``none`` is none on purpose."""

    fuse: Annotated[PartId, about("Main fuse", also="breaker")] | None = None
    fuse_place: Annotated[FusePlace, about("Main fuse sits")] = "cells"
    fuse_band: Annotated[tuple[BandPoint, ...], about("Melting band typed", max_length=40)] = ()
    charge_fuse: Annotated[PartId, about("Charge fuse")] | None = None
    connector: Annotated[PartId, about("Connector", also="plug")] | None = None
    switch: Annotated[PartId, about("Switch", also="on off")] = NONE
    surge: Annotated[PartId, about("Surge thermistor")] = NONE
    precharge: Annotated[PartId, about("Precharge", also="inrush anti-spark")] = NONE
    capacitance_uf: (
        Annotated[
            float, about("Capacitors of the controller", "µF", gt=0, le=1e6, also="capacitor")
        ]
        | None
    ) = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.fuse_band:
            check_band("fuse_band", self.fuse_band)


class Start(Document, frozen=True):
    """How the motor starts: how fast the trigger is pulled and how long it takes to run up."""

    spin_up_s: Annotated[float, about("Runs up in", "s", gt=0, le=60)] | None = None
    fast_s: Annotated[float, about("A fast pull", "s", gt=0, le=60)] = 0.02
    slow_s: Annotated[float, about("A slow pull", "s", gt=0, le=60)] = 1.5
    pause_s: Annotated[float, about("Between two starts", "s", gt=0, le=1e5)] = 60.0

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.fast_s >= self.slow_s:
            raise Unfit(
                "fast_s",
                phrase(
                    "{} is no faster than the slow one; accepted: under {}",
                    say(self.fast_s, "s"),
                    say(self.slow_s, "s"),
                ),
            )


class Rest(Document, frozen=True):
    """The pack left alone: from which charge, with what still drawing."""

    charge: Annotated[float, about("Stored at", "%", gt=0, le=1)] = 0.6
    meter_ma: Annotated[float, about("Meter draws", "mA", ge=0, le=1e5)] = 0.0
    converter_ma: Annotated[float, about("Converter draws", "mA", ge=0, le=1e5)] = 0.0
    days: Annotated[float, about("Stored for", "d", gt=0, le=1e4)] = 60.0
    damage_v: (
        Annotated[float, about("A cell is harmed under", "V", gt=0, le=6, also="over-discharge")]
        | None
    ) = None
    month_loss: Annotated[
        float, about("Cells lose by themselves a month", "%", ge=0, le=0.5, also="self-discharge")
    ] = 0.02


def picking(path: str, part: str | None) -> dict[str, Any]:
    """The changes that put a part into a place; a melting band typed belongs to the fuse it had."""
    return {path: part, **({"power.fuse_band": ()} if path == "power.fuse" else {})}

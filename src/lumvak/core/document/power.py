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

    wire: (
        Annotated[
            PartId,
            about("Wire", also="cable", tip="Id of the wire; as recommended where not given"),
        ]
        | None
    ) = None
    area_mm2: (
        Annotated[
            float,
            about(
                "Section",
                "mm²",
                gt=0,
                le=500,
                also="wire gauge AWG",
                tip="Copper section, where no wire is named",
            ),
        ]
        | None
    ) = None
    length_m: Annotated[
        float, about("Length of one lead", "m", gt=0, le=100, tip="From the pack to what it feeds")
    ] = 0.5
    outer_mm: (
        Annotated[
            float,
            about(
                "Outer diameter",
                "mm",
                gt=0,
                le=60,
                tip="Over the insulation; from the section where not given",
            ),
        ]
        | None
    ) = None
    insulation: (
        Annotated[
            Insulation,
            about("Insulation", tip="What it is insulated with; silicone where not given"),
        ]
        | None
    ) = None
    bundled: Annotated[
        bool, about("Lies in a bundle", tip="Whether both leads lie in one sleeve")
    ] = False
    school: Annotated[
        School,
        about(
            "What a lead carries",
            also="ampacity",
            tip="Criterion that leads are chosen by: temperature, current density or loss",
        ),
    ] = "temperature"
    rise_limit_k: Annotated[
        float,
        about(
            "Rise over the air",
            "K",
            gt=0,
            le=150,
            tip="Allowed over the air at the continuous load",
        ),
    ] = 35.0
    rule_a_per_mm2: Annotated[
        float, about("Rule, copper", "A/mm²", gt=0, le=100, tip="Allowed current density")
    ] = 6.0
    loss_mv: Annotated[
        float,
        about("Drop allowed in both leads", "mV", gt=0, le=1e5, tip="Allowed drop over both leads"),
    ] = 250.0


class SettingChange(Document, frozen=True):
    """One setting of an adjustable board that the builder wants otherwise than proposed."""

    key: Annotated[SettingKey, about("Setting", tip="Which one, such as over_voltage")]
    value: Annotated[float, about("Value", ge=-60, le=1e5, tip="What it opens at")] | None = None
    release: (
        Annotated[float, about("Release", ge=-60, le=1e5, tip="What it closes at again")] | None
    ) = None
    delay_s: (
        Annotated[float, about("Delay", "s", gt=0, le=3600, tip="How long before it opens")] | None
    ) = None

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

    board: (
        Annotated[PartId, about("BMS", tip="Id of the BMS; as recommended, or none on purpose")]
        | None
    ) = None
    balancing: Annotated[
        BalancingSchool,
        about(
            "Balancing",
            also="BMS balance",
            tip="Whether the BMS must balance, or matched cells do without",
        ),
    ] = "must"
    sensor: Annotated[
        bool,
        about("Temperature sensor wanted", tip="Whether the BMS must have a temperature sensor"),
    ] = True
    telemetry: Annotated[
        bool, about("Telemetry", tip="Whether the BMS must tell what it measures")
    ] = False
    feeds: Annotated[
        bool,
        about(
            "Feeds others through its charge socket",
            tip="Whether other loads are fed through the charge port",
        ),
    ] = False
    settings: Annotated[
        tuple[SettingChange, ...],
        about("Settings of the BMS", max_length=40, tip="Settings of an adjustable BMS"),
    ] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        keys = [item.key for item in self.settings]
        for key in keys:
            if keys.count(key) > 1:
                raise Unfit("settings", phrase("“{}” stands there twice; accepted: each once", key))


class PowerParts(Document, frozen=True):
    """Parts in the path; ``None`` follows the recommendation, ``none`` is none on purpose."""

    fuse: (
        Annotated[PartId, about("Main fuse", also="breaker", tip="Id of the fuse, or none")] | None
    ) = None
    fuse_place: Annotated[
        FusePlace, about("Main fuse sits", tip="At the cells, at the BMS, or at the output")
    ] = "cells"
    fuse_band: Annotated[
        tuple[BandPoint, ...],
        about("Melting band typed", max_length=40, tip="Times within which the typed fuse opens"),
    ] = ()
    charge_fuse: (
        Annotated[PartId, about("Charge fuse", tip="Id of the fuse in the charge path, or none")]
        | None
    ) = None
    connector: (
        Annotated[
            PartId, about("Connector", also="plug", tip="Id of the output connector, or none")
        ]
        | None
    ) = None
    switch: Annotated[
        PartId, about("Switch", also="on off", tip="Id of the switch in the main lead, or none")
    ] = NONE
    surge: Annotated[
        PartId,
        about("Surge thermistor", tip="Id of a surge thermistor that stays in the path, or none"),
    ] = NONE
    precharge: Annotated[
        PartId,
        about(
            "Precharge",
            also="inrush anti-spark",
            tip="Id of what charges the capacitors before the switch closes, or none",
        ),
    ] = NONE
    capacitance_uf: (
        Annotated[
            float,
            about(
                "Capacitors of the controller",
                "µF",
                gt=0,
                le=1e6,
                also="capacitor",
                tip="Across the input of the controller; usual for its current where not given",
            ),
        ]
        | None
    ) = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.fuse_band:
            check_band("fuse_band", self.fuse_band)


class Start(Document, frozen=True):
    """How the motor starts: how fast the trigger is pulled and how long it takes to run up."""

    spin_up_s: (
        Annotated[
            float,
            about(
                "Runs up in",
                "s",
                gt=0,
                le=60,
                tip="Time to speed under load; as usual for the kind where not given",
            ),
        ]
        | None
    ) = None
    fast_s: Annotated[
        float,
        about("A fast pull", "s", gt=0, le=60, tip="From nothing to full, as fast as a hand can"),
    ] = 0.02
    slow_s: Annotated[
        float, about("A slow pull", "s", gt=0, le=60, tip="From nothing to full, as one is told to")
    ] = 1.5
    pause_s: Annotated[
        float,
        about("Between two starts", "s", gt=0, le=1e5, tip="So that a surge thermistor cools"),
    ] = 60.0

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

    charge: Annotated[float, about("Stored at", "%", gt=0, le=1, tip="How full it is stored")] = 0.6
    meter_ma: Annotated[
        float, about("Meter draws", "mA", ge=0, le=1e5, tip="Drawn by a display that stays on")
    ] = 0.0
    converter_ma: Annotated[
        float,
        about("Converter draws", "mA", ge=0, le=1e5, tip="Drawn by a converter that stays on"),
    ] = 0.0
    days: Annotated[
        float, about("Stored for", "d", gt=0, le=1e4, tip="How long it is left alone")
    ] = 60.0
    damage_v: (
        Annotated[
            float,
            about(
                "A cell is harmed under",
                "V",
                gt=0,
                le=6,
                also="over-discharge",
                tip="No cell may fall under this; by its chemistry where not given",
            ),
        ]
        | None
    ) = None
    month_loss: Annotated[
        float,
        about(
            "Cells lose by themselves a month",
            "%",
            ge=0,
            le=0.5,
            also="self-discharge",
            tip="Share of the charge that cells lose each month",
        ),
    ] = 0.02


def picking(path: str, part: str | None) -> dict[str, Any]:
    """The changes that put a part into a place; a melting band typed belongs to the fuse it had."""
    return {path: part, **({"power.fuse_band": ()} if path == "power.fuse" else {})}

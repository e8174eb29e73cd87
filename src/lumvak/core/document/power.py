"""What the builder decided between the joints and the equipment: board, leads, fuse, rest."""

from __future__ import annotations

from typing import Any, Literal, Self

from pydantic import Field, model_validator

from lumvak.core.catalogue.power_parts import BandPoint, Insulation, check_band
from lumvak.core.record import Document, PartId
from lumvak.core.units import digits, say

# In place of a part: there is none on purpose.
NONE = "none"
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


class Leads(Document):
    """Two leads of one kind; ``wire`` names a part, else section and diameter are as typed."""

    wire: PartId | None = Field(default=None, title="Wire")
    area_mm2: float | None = Field(
        default=None, title="Section", gt=0, le=500, json_schema_extra={"unit": "mm²"}
    )
    length_m: float = Field(
        default=0.5, title="Length of one lead", gt=0, le=100, json_schema_extra={"unit": "m"}
    )
    outer_mm: float | None = Field(
        default=None, title="Outer diameter", gt=0, le=60, json_schema_extra={"unit": "mm"}
    )
    insulation: Insulation | None = Field(default=None, title="Insulation")
    bundled: bool = Field(default=False, title="Lies in a bundle")
    school: School = Field(default="temperature", title="What a lead carries")
    rise_limit_k: float = Field(
        default=35.0, title="Rise over the air", gt=0, le=150, json_schema_extra={"unit": "K"}
    )
    rule_a_per_mm2: float = Field(
        default=6.0, title="Rule, copper", gt=0, le=100, json_schema_extra={"unit": "A/mm²"}
    )
    loss_mv: float = Field(
        default=250.0,
        title="Drop allowed in both leads",
        gt=0,
        le=1e5,
        json_schema_extra={"unit": "mV"},
    )


class SettingChange(Document):
    """One setting of an adjustable board that the builder wants otherwise than proposed."""

    key: SettingKey
    value: float | None = Field(default=None, title="Value", ge=-60, le=1e5)
    release: float | None = Field(default=None, title="Release", ge=-60, le=1e5)
    delay_s: float | None = Field(
        default=None, title="Delay", gt=0, le=3600, json_schema_extra={"unit": "s"}
    )

    @model_validator(mode="after")
    def _as_its_kind(self) -> Self:
        if not self.key.endswith(("-hot", "-cold")):
            for title, value in (("Value", self.value), ("Release", self.release)):
                if value is not None and value <= 0.0:
                    raise ValueError(
                        f"{title}: {digits(value, 'g')} was given for {self.key}; accepted: over "
                        "0, for only temperatures go lower"
                    )
        return self


class Protection(Document):
    """The BMS; ``board`` ``None`` follows the recommendation."""

    board: PartId | None = Field(default=None, title="Board")
    balancing: BalancingSchool = Field(default="must", title="Balancing")
    sensor: bool = Field(default=True, title="Temperature sensor wanted")
    telemetry: bool = Field(default=False, title="Tells its state")
    feeds: bool = Field(default=False, title="Feeds others through its charge socket")
    settings: tuple[SettingChange, ...] = Field(
        default=(), title="Settings of the board", max_length=40
    )

    @model_validator(mode="after")
    def _once(self) -> Self:
        keys = [item.key for item in self.settings]
        for key in keys:
            if keys.count(key) > 1:
                raise ValueError(
                    f"Settings of the board: “{key}” stands there twice; accepted: each once"
                )
        return self


class PowerParts(Document):
    """Parts in the path; ``None`` follows the recommendation, ``none`` is none on purpose."""

    fuse: PartId | None = Field(default=None, title="Main fuse")
    fuse_place: FusePlace = Field(default="cells", title="Main fuse sits")
    fuse_band: tuple[BandPoint, ...] = Field(default=(), title="Melting band typed", max_length=40)
    charge_fuse: PartId | None = Field(default=None, title="Charge fuse")
    connector: PartId | None = Field(default=None, title="Connector")
    switch: PartId = Field(default=NONE, title="Switch")
    surge: PartId = Field(default=NONE, title="Surge thermistor")
    precharge: PartId = Field(default=NONE, title="Precharge")
    capacitance_uf: float | None = Field(
        default=None,
        title="Capacitors of the controller",
        gt=0,
        le=1e6,
        json_schema_extra={"unit": "µF"},
    )

    @model_validator(mode="after")
    def _band(self) -> Self:
        if self.fuse_band:
            check_band(self.fuse_band)
        return self


class Start(Document):
    """How the motor starts: how fast the trigger is pulled and how long it takes to run up."""

    spin_up_s: float | None = Field(
        default=None, title="Runs up in", gt=0, le=60, json_schema_extra={"unit": "s"}
    )
    fast_s: float = Field(
        default=0.02, title="A fast pull", gt=0, le=60, json_schema_extra={"unit": "s"}
    )
    slow_s: float = Field(
        default=1.5, title="A slow pull", gt=0, le=60, json_schema_extra={"unit": "s"}
    )
    pause_s: float = Field(
        default=60.0, title="Between two starts", gt=0, le=1e5, json_schema_extra={"unit": "s"}
    )

    @model_validator(mode="after")
    def _pulls(self) -> Self:
        if self.fast_s >= self.slow_s:
            raise ValueError(
                f"A fast pull: {say(self.fast_s, 's')} is no faster than the slow one; "
                f"accepted: under {say(self.slow_s, 's')}"
            )
        return self


class Rest(Document):
    """The pack left alone: from which charge, with what still drawing."""

    charge: float = Field(
        default=0.6, title="Put away at", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    meter_ma: float = Field(
        default=0.0, title="Meter draws", ge=0, le=1e5, json_schema_extra={"unit": "mA"}
    )
    converter_ma: float = Field(
        default=0.0, title="Converter draws", ge=0, le=1e5, json_schema_extra={"unit": "mA"}
    )
    days: float = Field(
        default=60.0, title="Left for", gt=0, le=1e4, json_schema_extra={"unit": "d"}
    )
    damage_v: float | None = Field(
        default=None,
        title="A cell is harmed under",
        gt=0,
        le=6,
        json_schema_extra={"unit": "V"},
    )
    month_loss: float = Field(
        default=0.02,
        title="Cells lose by themselves a month",
        ge=0,
        le=0.5,
        json_schema_extra={"unit": "%"},
    )


def picking(path: str, part: str | None) -> dict[str, Any]:
    """The changes that put a part into a place; a melting band typed belongs to the fuse it had."""
    return {path: part, **({"power.fuse_band": ()} if path == "power.fuse" else {})}

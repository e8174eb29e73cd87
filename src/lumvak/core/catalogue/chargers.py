"""Chargers and supplies, as their labels and a meter give them."""

from __future__ import annotations

from typing import Literal, Self

from pydantic import Field, model_validator

from lumvak.core.record import Document, PartId
from lumvak.core.units import say

ChargerKind = Literal["cccv", "lead", "nickel", "supply"]
Equalise = Literal["unknown", "off", "on"]
CHARGER_KINDS: dict[ChargerKind, str] = {
    "cccv": "constant current, then constant voltage",
    "lead": "for lead, in stages",
    "nickel": "for nickel cells",
    "supply": "a bare supply",
}
SHORT_KINDS: dict[ChargerKind, str] = {
    "cccv": "CC-CV", "lead": "lead", "nickel": "nickel", "supply": "supply",
}  # fmt: skip


class Charger(Document):
    """A charger or a supply.

    ``volts`` is where it ends: the constant voltage, the absorption stage of one for lead, what is
    set on a supply; ``low_v`` the other end of a band, as a vehicle's or a solar source has.
    ``open_v`` is what it shows with nothing connected, ``end_a`` where it turns off, ``equalise``
    whether one for lead has a stage over its absorption, ``compensates`` whether it follows the
    temperature. A supply that is not ``limited`` has no
    current limit of its own.
    """

    id: PartId
    name: str = Field(default="charger", title="Name", min_length=1, max_length=60)
    kind: ChargerKind = Field(default="cccv", title="Kind")
    volts: float = Field(title="Volts", gt=0, le=1000, json_schema_extra={"unit": "V"})
    amps: float = Field(title="Amps", ge=1e-3, le=1000, json_schema_extra={"unit": "A"})
    low_v: float | None = Field(
        default=None, title="At the least", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    open_v: float | None = Field(
        default=None, title="Shows with nothing connected", gt=0, le=2000,
        json_schema_extra={"unit": "V"},
    )  # fmt: skip
    end_a: float | None = Field(
        default=None, title="Turns off under", ge=1e-4, le=1000, json_schema_extra={"unit": "A"}
    )
    timer_h: float | None = Field(
        default=None, title="Turns off after", gt=0, le=1000, json_schema_extra={"unit": "h"}
    )
    equalise: Equalise = Field(default="unknown", title="Equalise stage")
    compensates: Equalise = Field(default="unknown", title="Volts rise in the cold")
    limited: bool = Field(default=True, title="Limits its current")
    rebuilt: bool = Field(default=False, title="Rebuilt")
    price: float | None = Field(default=None, title="Price", ge=0, le=1e6)
    sample: bool = False

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        if self.end_a is not None and self.end_a >= self.amps:
            raise ValueError(
                f"Turns off under: {say(self.end_a, 'A')} is no less than it gives; accepted: "
                f"under {say(self.amps, 'A')}"
            )
        if self.low_v is not None and self.low_v > self.volts:
            raise ValueError(
                f"At the least: {say(self.low_v, 'V')} is over its volts; accepted: "
                f"{say(self.volts, 'V')} or less"
            )
        return self

"""Charging: the chargers at hand, how groups are evened out, and what was read while charging."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.record import Document, PartId

# In place of a charger that is kept: the one of the need, and the one to buy.
GIVEN, RIGHT = "given", "right"
RESERVED = (GIVEN, RIGHT)
MOST_CHARGERS, MOST_GROUPS, MOST_LOG = 40, 400, 20_000
LONGEST_LOG_S = 1e7
BalancedBy = Literal["board", "module", "active", "none"]
BalancedAt = Literal["top", "bottom"]
ActiveWay = Literal["high-low", "pack-low", "high-pack"]
Strategy = Literal["threshold", "average"]
GroupVolts = Annotated[float, Field(ge=0, le=6)]


class ChargeGroup(Document):
    """A group as it is charged; ``None`` is as the others, or as measured.

    ``share`` is how full it is of its own capacity, ``volts`` what it rests at in its place.
    """

    ah: float | None = Field(default=None, title="Capacity", gt=0, le=1e5)
    share: float | None = Field(default=None, title="Charge", ge=0, le=1,
                                json_schema_extra={"unit": "%"})  # fmt: skip
    volts: float | None = Field(default=None, title="At rest", gt=0, le=6)
    leak_ma: float | None = Field(default=None, title="Loses by itself", ge=0, le=1e5,
                                  json_schema_extra={"unit": "mA"})  # fmt: skip
    mohm: float | None = Field(default=None, title="Resistance", gt=0, le=1e5)


class Module(Document):
    """A resistor across a group, switched on over a voltage: the builder's own bleed."""

    ohm: float = Field(default=22.0, title="Resistor", ge=0.1, le=1e5,
                       json_schema_extra={"unit": "Ω"})  # fmt: skip
    watt: float = Field(default=2.0, title="Rated for", gt=0, le=1000,
                        json_schema_extra={"unit": "W"})  # fmt: skip
    from_v: float | None = Field(default=None, title="Bleeds over", gt=0, le=6,
                                 json_schema_extra={"unit": "V"})  # fmt: skip
    strategy: Strategy = Field(default="threshold", title="Bleeds a group that is")
    always: bool = Field(default=True, title="Bleeds when nothing charges")


class Mover(Document):
    """What carries charge from group to group."""

    amps: float = Field(default=1.0, title="Carries", gt=0, le=100,
                        json_schema_extra={"unit": "A"})  # fmt: skip
    efficiency: float = Field(default=0.85, title="Of it arrives", gt=0, le=1,
                              json_schema_extra={"unit": "%"})  # fmt: skip
    way: ActiveWay = Field(default="high-low", title="From and to")


class LogRow(Document):
    """One reading while charging: seconds since the first, and what was seen."""

    seconds: float = Field(title="Time", ge=0, le=LONGEST_LOG_S, json_schema_extra={"unit": "s"})
    volts: float = Field(title="Volts", gt=0, le=1000, json_schema_extra={"unit": "V"})
    amps: float | None = Field(default=None, title="Amps", ge=-1000, le=1000,
                               json_schema_extra={"unit": "A"})  # fmt: skip
    warm_c: float | None = Field(default=None, title="Warmest", ge=-40, le=150,
                                 json_schema_extra={"unit": "°C"})  # fmt: skip
    groups: tuple[GroupVolts, ...] = Field(default=(), title="Groups", max_length=MOST_GROUPS)


class ChargeLog(Document):
    """What was read over one charge; ``start`` is when, as the builder's clock gives it."""

    start: str = Field(default="", title="Begun", max_length=40)
    share: float | None = Field(default=None, title="Begun at", ge=0, le=1,
                                json_schema_extra={"unit": "%"})  # fmt: skip
    wall_wh: float | None = Field(default=None, title="Drawn from the mains", gt=0, le=1e6,
                                  json_schema_extra={"unit": "Wh"})  # fmt: skip
    rows: tuple[LogRow, ...] = Field(default=(), title="Log", max_length=MOST_LOG)

    @model_validator(mode="after")
    def _forward(self) -> Self:
        seconds = [row.seconds for row in self.rows]
        for place, (one, two) in enumerate(pairwise(seconds), 2):
            if two <= one:
                raise ValueError(
                    f"Log: reading {place} is at {two:g} s, the one before it at {one:g} s; "
                    "accepted: times that run forward"
                )
        return self


class Charging(Document):
    """With what the pack is charged, how it is evened out, and how it went.

    ``charger`` names one of ``chargers``, ``given`` the one that the need gives, ``right`` the one
    to buy; ``None`` is the one that the need gives, else the one to buy.
    """

    chargers: tuple[Charger, ...] = Field(default=(), title="Chargers", max_length=MOST_CHARGERS)
    charger: PartId | None = Field(default=None, title="Charged with")
    start: float = Field(default=0.2, title="Charged from", ge=0, le=0.99,
                         json_schema_extra={"unit": "%"})  # fmt: skip
    floor_v: float | None = Field(default=None, title="Floor, a cell", gt=0, le=6,
                                  json_schema_extra={"unit": "V"})  # fmt: skip
    cell_c: float | None = Field(default=None, title="Cells at", ge=-40, le=70,
                                 json_schema_extra={"unit": "°C"})  # fmt: skip
    socket_a: float | None = Field(default=None, title="Charge socket carries", ge=0.01, le=1000,
                                   json_schema_extra={"unit": "A"})  # fmt: skip
    tariff: float | None = Field(default=None, title="A kWh costs", ge=0, le=100)
    mains_share: float = Field(default=0.88, title="Of the mains arrives", gt=0, le=1,
                               json_schema_extra={"unit": "%"})  # fmt: skip
    groups: tuple[ChargeGroup, ...] = Field(default=(), title="Groups", max_length=MOST_GROUPS)
    by: BalancedBy = Field(default="board", title="Evened out by")
    at: BalancedAt = Field(default="top", title="Balanced at the")
    module: Module = Module()
    mover: Mover = Mover()
    stays_h: float = Field(default=0.0, title="Stays connected for", ge=0, le=1000,
                           json_schema_extra={"unit": "h"})  # fmt: skip
    cycles: int = Field(default=10, title="Cycles", ge=1, le=200)
    between_days: float = Field(default=2.0, title="Between two charges", ge=0, le=365,
                                json_schema_extra={"unit": "d"})  # fmt: skip
    log: ChargeLog = ChargeLog()

    @model_validator(mode="after")
    def _named(self) -> Self:
        ids = [item.id for item in self.chargers]
        if len(set(ids)) < len(ids):
            raise ValueError("Chargers: one is there twice; accepted: each once")
        for name in ids:
            if name in RESERVED:
                raise ValueError(f"Chargers: the id “{name}” is taken; accepted: another one")
        if self.charger is not None and self.charger not in (*ids, *RESERVED):
            raise ValueError(
                f"Charged with: no charger is called “{self.charger}”; accepted: "
                f"{', '.join(ids) or 'one that is kept with the project'}"
            )
        return self

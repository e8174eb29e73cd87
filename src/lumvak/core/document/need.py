"""The need: what is to be powered, what limits it sets, and what is there already."""

from __future__ import annotations

from collections.abc import Collection
from typing import Literal, Self

from pydantic import Field, model_validator

from lumvak.core.record import Document
from lumvak.core.units import say

MOST_DUTY_STEPS = 500
MOST_RAILS = 12
MOST_APPLIANCES = 40
Kind = Literal["vehicle", "tool", "supply", "portable"]
LoadBasis = Literal["current", "power", "duty", "rails"]
EnduranceBasis = Literal["runtime", "capacity", "energy", "distance", "appliances", "open"]
RailKind = Literal["direct", "converter", "inverter"]
Given = Literal["measured", "estimated"]


class DutyStep(Document):
    """A part of a duty: an amount in A or W for a time in s."""

    amount: float = Field(title="Amount", ge=0, le=1e6)
    seconds: float = Field(title="Seconds", gt=0, le=1e6, json_schema_extra={"unit": "s"})


class Rail(Document):
    """One output of a portable supply: its voltage and what makes it from that of the pack."""

    name: str = Field(title="Rail", min_length=1, max_length=40)
    volts: float = Field(title="Volts", gt=0, le=1000, json_schema_extra={"unit": "V"})
    kind: RailKind = Field(default="converter", title="Made by")
    efficiency: float | None = Field(
        default=None, title="Efficiency", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    limit_w: float | None = Field(
        default=None, title="Gives at most", gt=0, le=1e6, json_schema_extra={"unit": "W"}
    )
    fuse_a: float | None = Field(
        default=None, title="Fuse", gt=0, le=1000, json_schema_extra={"unit": "A"}
    )
    idle_w: float = Field(
        default=0.0, title="Draws idle", ge=0, le=1e5, json_schema_extra={"unit": "W"}
    )


class Appliance(Document):
    """Something fed from a rail: watts, or amps at the volts of the rail, and hours a charge."""

    name: str = Field(title="Appliance", min_length=1, max_length=40)
    rail: str = Field(title="Fed from", min_length=1, max_length=40)
    amount: float = Field(title="Draws", ge=0, le=1e6)
    unit: Literal["W", "A"] = Field(default="W", title="In")
    hours: float = Field(title="Hours a charge", ge=0, le=1e4, json_schema_extra={"unit": "h"})


# What a load, and how long it is wanted, may be given as, and the fields that say so.
LOADS: dict[LoadBasis, tuple[str, ...]] = {
    "current": ("current_a",), "power": ("power_w",), "duty": ("duty",),
    "rails": ("rails", "appliances"),
}  # fmt: skip
ENDURANCES: dict[EnduranceBasis, tuple[str, ...]] = {
    "runtime": ("runtime_h",), "capacity": ("capacity_ah",), "energy": ("energy_wh",),
    "distance": ("distance_km",), "appliances": ("appliances",), "open": (),
}  # fmt: skip
AMOUNTS = frozenset(name for ways in (LOADS, ENDURANCES) for names in ways.values()
                    for name in names)  # fmt: skip


def bases_of(given: Collection[str]) -> dict[str, str]:
    """What ``load_basis`` and ``endurance_basis`` follow from the fields that are given.

    Raises ValueError where two of them contradict, and nobody says which counts.
    """
    found: dict[str, str] = {}
    for name, ways in (("load_basis", LOADS), ("endurance_basis", ENDURANCES)):
        named = {basis: [field for field in fields if field in given]
                 for basis, fields in ways.items()}  # fmt: skip
        meant = [basis for basis, fields in named.items() if fields]
        if name in given or not meant:
            continue
        if len(meant) > 1:
            fields = " and ".join(named[basis][0] for basis in meant)
            raise ValueError(
                f"{fields} are given, and not which of them counts; accepted: one of them, or "
                f"{name} {' or '.join(meant)}"
            )
        found[name] = meant[0]
    return found


def idle_in(need: Need, given: Collection[str]) -> tuple[str, ...]:
    """Which of the fields that are ``given`` have no effect, for another one counts."""
    load = need.load_basis
    watts = load == "power" or (load == "duty" and need.duty_unit == "W")
    idle = sorted(AMOUNTS - {*LOADS[load], *ENDURANCES[need.endurance_basis]})
    idle += ["efficiency"] * (not watts) + ["duty_unit"] * (load != "duty")
    idle += ["wheel_mm", "gear"] * (need.motor_kv is None)
    idle += ["lead_charger"] * (need.kind != "supply") + ["nickel_cells"] * (need.kind != "tool")
    return tuple(name for name in idle if name in given)


class Need(Document):
    """What is to be powered, and what limits it sets."""

    kind: Kind = Field(default="vehicle", title="Equipment")
    rated_voltage_v: float = Field(
        default=36.0, title="Rated voltage", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    max_voltage_v: float | None = Field(
        default=None, title="Survives", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    stop_voltage_v: float | None = Field(
        default=None, title="Stops at", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    nickel_cells: int | None = Field(
        default=None, title="Nickel cells in the old pack", ge=1, le=100
    )
    contacts: Literal[2, 3] | None = Field(default=None, title="Contacts of the old pack")
    old_charger_stop_v: float | None = Field(
        default=None,
        title="The old charger stopped at",
        gt=0,
        le=1000,
        json_schema_extra={"unit": "V"},
    )
    stall_current_a: float | None = Field(
        default=None, title="Stall current", gt=0, le=10000, json_schema_extra={"unit": "A"}
    )
    controller_limit_a: float | None = Field(
        default=None, title="Controller limit", gt=0, le=10000, json_schema_extra={"unit": "A"}
    )
    motor_kv: float | None = Field(
        default=None, title="Motor kv", gt=0, le=1e5, json_schema_extra={"unit": "rpm/V"}
    )
    wheel_mm: float | None = Field(
        default=None, title="Wheel", gt=0, le=5000, json_schema_extra={"unit": "mm"}
    )
    gear: float = Field(default=1.0, title="Motor turns per wheel turn", gt=0, le=1000)
    lead_replaced: bool = Field(default=False, title="Replaces a lead battery one for one")
    lead_charger: bool = Field(default=False, title="The lead charger stays")
    rails: tuple[Rail, ...] = Field(
        default=(
            Rail(name="12 V", volts=12.0),
            Rail(name="5 V", volts=5.0, limit_w=15.0),
        ),
        title="Rails",
        min_length=1,
        max_length=MOST_RAILS,
    )
    appliances: tuple[Appliance, ...] = Field(
        default=(
            Appliance(name="lamp", rail="12 V", amount=10.0, hours=5.0),
            Appliance(name="telephone", rail="5 V", amount=2.0, unit="A", hours=2.0),
        ),
        title="Appliances",
        min_length=1,
        max_length=MOST_APPLIANCES,
    )
    load_basis: LoadBasis = Field(default="current", title="Load given as")
    current_a: float = Field(
        default=15.0, title="Continuous current", gt=0, le=5000, json_schema_extra={"unit": "A"}
    )
    power_w: float = Field(
        default=500.0, title="Continuous power", gt=0, le=1e6, json_schema_extra={"unit": "W"}
    )
    efficiency: float | None = Field(
        default=None, title="Efficiency", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    duty: tuple[DutyStep, ...] = Field(
        default=(DutyStep(amount=30.0, seconds=10.0), DutyStep(amount=12.0, seconds=50.0)),
        title="Duty",
        min_length=1,
        max_length=MOST_DUTY_STEPS,
    )
    duty_unit: Literal["A", "W"] = Field(default="A", title="Duty in")
    peak_current_a: float | None = Field(
        default=None, title="Peak current", gt=0, le=10000, json_schema_extra={"unit": "A"}
    )
    peak_duration_s: float | None = Field(
        default=None, title="Peak lasts", gt=0, le=3600, json_schema_extra={"unit": "s"}
    )
    peak_given: Given = Field(default="measured", title="The peak is")
    endurance_basis: EnduranceBasis = Field(default="runtime", title="How long, given as")
    runtime_h: float = Field(
        default=1.0, title="Run time", gt=0, le=1000, json_schema_extra={"unit": "h"}
    )
    capacity_ah: float = Field(
        default=15.0, title="Capacity wanted", gt=0, le=1e5, json_schema_extra={"unit": "Ah"}
    )
    energy_wh: float = Field(
        default=500.0, title="Energy wanted", gt=0, le=1e6, json_schema_extra={"unit": "Wh"}
    )
    distance_km: float = Field(
        default=30.0, title="Distance", gt=0, le=1e4, json_schema_extra={"unit": "km"}
    )
    consumption_wh_per_km: float | None = Field(
        default=None, title="Consumption", gt=0, le=1e4, json_schema_extra={"unit": "Wh/km"}
    )
    ambient_c: float | None = Field(
        default=None, title="Ambient, warmest", ge=-40, le=70, json_schema_extra={"unit": "°C"}
    )
    coldest_c: float | None = Field(
        default=None, title="Ambient, coldest", ge=-40, le=70, json_schema_extra={"unit": "°C"}
    )
    charger_voltage_v: float | None = Field(
        default=None, title="Charger voltage", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    charger_current_a: float | None = Field(
        default=None, title="Charger current", gt=0, le=1000, json_schema_extra={"unit": "A"}
    )

    replaced_voltage_v: float | None = Field(
        default=None, title="Old pack, rated", gt=0, le=1000, json_schema_extra={"unit": "V"}
    )
    replaced_capacity_ah: float | None = Field(
        default=None, title="Old pack, capacity", gt=0, le=1e5, json_schema_extra={"unit": "Ah"}
    )
    replaced_mass_kg: float | None = Field(
        default=None, title="Old pack, weight", gt=0, le=1e4, json_schema_extra={"unit": "kg"}
    )

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.stop_voltage_v is not None and self.stop_voltage_v >= self.rated_voltage_v:
            raise ValueError(
                f"Stops at: {say(self.stop_voltage_v, 'V')} is not under the rated voltage; "
                f"accepted: a stop voltage below {say(self.rated_voltage_v, 'V')}"
            )
        if self.max_voltage_v is not None and self.max_voltage_v < self.rated_voltage_v:
            raise ValueError(
                f"Survives: {say(self.max_voltage_v, 'V')} is under the rated voltage; "
                f"accepted: {say(self.rated_voltage_v, 'V')} or more"
            )
        peak = self.peak_current_a
        if peak is not None and self.load_basis == "current" and peak < self.current_a:
            raise ValueError(
                f"Peak current: {say(peak, 'A')} is under the continuous current; "
                f"accepted: {say(self.current_a, 'A')} or more"
            )
        warm, cold = self.ambient_c, self.coldest_c
        if warm is not None and cold is not None and cold > warm:
            raise ValueError(
                f"Ambient: the coldest, {say(cold, '°C')}, is over the warmest, {say(warm, '°C')}; "
                f"accepted: a coldest of {say(warm, '°C')} or less, or a warmest of "
                f"{say(cold, '°C')} or more"
            )
        if not any(step.amount > 0.0 for step in self.duty):
            raise ValueError("Duty: every step is 0; accepted: a step with a load in it")
        return self

    @model_validator(mode="after")
    def _fed(self) -> Self:
        names = [rail.name for rail in self.rails]
        for place, name in enumerate(names):
            if name in names[:place]:
                raise ValueError(f"Rails: two are called “{name}”; accepted: names that differ")
        for item in self.appliances:
            if item.rail not in names:
                raise ValueError(
                    f"Appliances: “{item.name}” is fed from “{item.rail}”, which is no rail; "
                    f"accepted: {', '.join(names)}"
                )
        fed = sum(item.amount for item in self.appliances) + sum(item.idle_w for item in self.rails)
        if self.load_basis == "rails" and fed <= 0.0:
            raise ValueError("Appliances: nothing draws anything; accepted: one with watts or amps")
        return self

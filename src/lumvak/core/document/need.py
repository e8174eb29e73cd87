"""The need: what is to be powered, what limits it sets, and what is there already."""

from collections.abc import Collection
from typing import Annotated, Literal

from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import listed, phrase, say
from lumvak.core.spelling import Refused

MOST_DUTY_STEPS = 500
MOST_RAILS = 12
MOST_APPLIANCES = 40
Kind = Literal["vehicle", "tool", "supply", "portable"]
LoadBasis = Literal["current", "power", "duty", "rails"]
EnduranceBasis = Literal["runtime", "capacity", "energy", "distance", "appliances", "open"]
RailKind = Literal["direct", "converter", "inverter"]
Given = Literal["measured", "estimated"]


class DutyStep(Document, frozen=True):
    """A part of a duty: an amount in A or W for a time in s."""

    amount: Annotated[float, about("Amount", ge=0, le=1e6)]
    seconds: Annotated[float, about("Seconds", "s", gt=0, le=1e6)]


class Rail(Document, frozen=True):
    """One output of a portable supply: its voltage and what makes it from that of the pack."""

    name: Annotated[str, about("Rail", min_length=1, max_length=40)]
    volts: Annotated[float, about("Volts", "V", gt=0, le=1000)]
    kind: Annotated[RailKind, about("Made by")] = "converter"
    efficiency: Annotated[float, about("Efficiency", "%", gt=0, le=1)] | None = None
    limit_w: Annotated[float, about("Gives at most", "W", gt=0, le=1e6)] | None = None
    fuse_a: Annotated[float, about("Fuse", "A", gt=0, le=1000)] | None = None
    idle_w: Annotated[float, about("Draws idle", "W", ge=0, le=1e5)] = 0.0


class Appliance(Document, frozen=True, kw_only=True):
    """Something fed from a rail: watts, or amps at the volts of the rail, and hours a charge."""

    name: Annotated[str, about("Appliance", min_length=1, max_length=40)]
    rail: Annotated[str, about("Fed from", min_length=1, max_length=40)]
    amount: Annotated[float, about("Draws", ge=0, le=1e6)]
    unit: Annotated[Literal["W", "A"], about("In")] = "W"
    hours: Annotated[float, about("Hours a charge", "h", ge=0, le=1e4)]


# What a load, and how long it is wanted, may be given as, and the fields that say so.
LOADS: dict[LoadBasis, tuple[str, ...]] = {
    "current": ("current_a",), "power": ("power_w",), "duty": ("duty",),
    "rails": ("rails", "appliances"),
}  # fmt: skip
ENDURANCES: dict[EnduranceBasis, tuple[str, ...]] = {
    "runtime": ("runtime_h",), "capacity": ("capacity_ah",), "energy": ("energy_wh",),
    "distance": ("distance_km",), "appliances": ("appliances",), "open": (),
}  # fmt: skip
AMOUNTS = frozenset(
    name for ways in (LOADS, ENDURANCES) for names in ways.values() for name in names
)


def bases_of(given: Collection[str]) -> dict[str, str]:
    """What ``load_basis`` and ``endurance_basis`` follow from the fields that are given.

    Raises Refused where two of them contradict, and nobody says which counts.
    """
    found: dict[str, str] = {}
    for name, ways in (("load_basis", LOADS), ("endurance_basis", ENDURANCES)):
        named = {
            basis: [field for field in fields if field in given] for basis, fields in ways.items()
        }
        meant = [basis for basis, fields in named.items() if fields]
        if name in given or not meant:
            continue
        if len(meant) > 1:
            fields = " and ".join(named[basis][0] for basis in meant)
            raise Refused(
                phrase(
                    "{} are given, and not which of them counts; accepted: one of them, or {} {}",
                    fields,
                    name,
                    " or ".join(meant),
                )
            )
        found[name] = meant[0]
    return found


class Need(Document, frozen=True):
    """What is to be powered, and what limits it sets."""

    kind: Annotated[Kind, about("Equipment")] = "vehicle"
    rated_voltage_v: Annotated[
        float, about("Rated voltage", "V", gt=0, le=1000, also="nominal system volts")
    ] = 36.0
    max_voltage_v: (
        Annotated[float, about("Maximum voltage", "V", gt=0, le=1000, also="maximum input")] | None
    ) = None
    stop_voltage_v: (
        Annotated[float, about("Low-voltage cut-off", "V", gt=0, le=1000, also="cut-off LVC")]
        | None
    ) = None
    nickel_cells: Annotated[int, about("Nickel cells in the old pack", ge=1, le=100)] | None = None
    contacts: Annotated[Literal[2, 3], about("Contacts of the old pack")] | None = None
    old_charger_stop_v: (
        Annotated[
            float,
            about(
                "The old charger stopped at",
                "V",
                gt=0,
                le=1000,
                tip="The voltage at which the old charger ended, read with a meter",
            ),
        ]
        | None
    ) = None
    stall_current_a: Annotated[float, about("Stall current", "A", gt=0, le=10000)] | None = None
    controller_limit_a: (
        Annotated[float, about("Controller limit", "A", gt=0, le=10000, also="ESC")] | None
    ) = None
    motor_kv: (
        Annotated[
            float,
            about(
                "Motor kv",
                "rpm/V",
                gt=0,
                le=1e5,
                tip="Turns per minute and volt, without load",
                also="rpm per volt",
            ),
        ]
        | None
    ) = None
    wheel_mm: Annotated[float, about("Wheel", "mm", gt=0, le=5000)] | None = None
    gear: Annotated[
        float,
        about(
            "Motor turns per wheel turn",
            gt=0,
            le=1000,
            tip="Motor turns for one turn of the wheel; 1 for a hub motor",
        ),
    ] = 1.0
    lead_replaced: Annotated[bool, about("Replaces a lead battery one for one")] = False
    lead_charger: Annotated[bool, about("The lead charger stays")] = False
    rails: Annotated[tuple[Rail, ...], about("Rails", min_length=1, max_length=MOST_RAILS)] = (
        Rail(name="12 V", volts=12.0),
        Rail(name="5 V", volts=5.0, limit_w=15.0),
    )
    appliances: Annotated[
        tuple[Appliance, ...], about("Appliances", min_length=1, max_length=MOST_APPLIANCES)
    ] = (
        Appliance(name="lamp", rail="12 V", amount=10.0, hours=5.0),
        Appliance(name="telephone", rail="5 V", amount=2.0, unit="A", hours=2.0),
    )
    load_basis: Annotated[LoadBasis, about("Load given as")] = "current"
    current_a: Annotated[float, about("Continuous current", "A", gt=0, le=5000, also="amps")] = 15.0
    power_w: Annotated[float, about("Continuous power", "W", gt=0, le=1e6, also="watts")] = 500.0
    efficiency: Annotated[float, about("Efficiency", "%", gt=0, le=1)] | None = None
    duty: Annotated[
        tuple[DutyStep, ...], about("Duty", min_length=1, max_length=MOST_DUTY_STEPS)
    ] = (DutyStep(amount=30.0, seconds=10.0), DutyStep(amount=12.0, seconds=50.0))
    duty_unit: Annotated[Literal["A", "W"], about("Duty in")] = "A"
    peak_current_a: (
        Annotated[float, about("Peak current", "A", gt=0, le=10000, also="maximum burst amps")]
        | None
    ) = None
    peak_duration_s: Annotated[float, about("Peak lasts", "s", gt=0, le=3600)] | None = None
    peak_given: Annotated[Given, about("The peak is")] = "measured"
    endurance_basis: Annotated[EnduranceBasis, about("How long, given as")] = "runtime"
    runtime_h: Annotated[float, about("Run time", "h", gt=0, le=1000, also="duration")] = 1.0
    capacity_ah: Annotated[
        float, about("Capacity wanted", "Ah", gt=0, le=1e5, also="amp hours")
    ] = 15.0
    energy_wh: Annotated[float, about("Energy wanted", "Wh", gt=0, le=1e6)] = 500.0
    distance_km: Annotated[float, about("Distance", "km", gt=0, le=1e4, also="range")] = 30.0
    consumption_wh_per_km: Annotated[float, about("Consumption", "Wh/km", gt=0, le=1e4)] | None = (
        None
    )
    ambient_c: Annotated[float, about("Ambient, warmest", "°C", ge=-40, le=70)] | None = None
    coldest_c: Annotated[float, about("Ambient, coldest", "°C", ge=-40, le=70)] | None = None
    charger_voltage_v: Annotated[float, about("Charger voltage", "V", gt=0, le=1000)] | None = None
    charger_current_a: Annotated[float, about("Charger current", "A", gt=0, le=1000)] | None = None

    replaced_voltage_v: Annotated[float, about("Old pack, rated", "V", gt=0, le=1000)] | None = None
    replaced_capacity_ah: (
        Annotated[float, about("Old pack, capacity", "Ah", gt=0, le=1e5)] | None
    ) = None
    replaced_cost: Annotated[float, about("Old pack, cost", "money", ge=0, le=1e6)] | None = None
    replaced_mass_kg: Annotated[float, about("Old pack, mass", "kg", gt=0, le=1e4)] | None = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.stop_voltage_v is not None and self.stop_voltage_v >= self.rated_voltage_v:
            raise Unfit(
                "stop_voltage_v",
                phrase(
                    "{} is not under the rated voltage; accepted: a low-voltage cut-off below {}",
                    say(self.stop_voltage_v, "V"),
                    say(self.rated_voltage_v, "V"),
                ),
            )
        if self.max_voltage_v is not None and self.max_voltage_v < self.rated_voltage_v:
            raise Unfit(
                "max_voltage_v",
                phrase(
                    "{} is under the rated voltage; accepted: {} or more",
                    say(self.max_voltage_v, "V"),
                    say(self.rated_voltage_v, "V"),
                ),
            )
        peak = self.peak_current_a
        if peak is not None and self.load_basis == "current" and peak < self.current_a:
            raise Unfit(
                "peak_current_a",
                phrase(
                    "{} is under the continuous current; accepted: {} or more",
                    say(peak, "A"),
                    say(self.current_a, "A"),
                ),
            )
        warm, cold = self.ambient_c, self.coldest_c
        if warm is not None and cold is not None and cold > warm:
            raise Unfit(
                "coldest_c",
                phrase(
                    "{} is over the warmest, {}; accepted: a coldest of {} or less, or a warmest "
                    "of {} or more",
                    say(cold, "°C"),
                    say(warm, "°C"),
                    say(warm, "°C"),
                    say(cold, "°C"),
                ),
            )
        if not any(step.amount > 0.0 for step in self.duty):
            raise Unfit("duty", "every step is 0; accepted: a step with a load in it")
        self._check_fed()

    def _check_fed(self) -> None:
        names = [rail.name for rail in self.rails]
        for place, name in enumerate(names):
            if name in names[:place]:
                raise Unfit(
                    "rails", phrase("two are called “{}”; accepted: names that differ", name)
                )
        for item in self.appliances:
            if item.rail not in names:
                raise Unfit(
                    "appliances",
                    phrase(
                        "“{}” is fed from “{}”, which is no rail; accepted: {}",
                        item.name,
                        item.rail,
                        listed(names),
                    ),
                )
        fed = sum(item.amount for item in self.appliances) + sum(item.idle_w for item in self.rails)
        if self.load_basis == "rails" and fed <= 0.0:
            raise Unfit("appliances", "nothing draws anything; accepted: one with watts or amps")


def idle_in(need: Need, given: Collection[str]) -> tuple[str, ...]:
    """Which of the fields that are ``given`` have no effect, for another one counts."""
    load = need.load_basis
    watts = load == "power" or (load == "duty" and need.duty_unit == "W")
    idle = sorted(AMOUNTS - {*LOADS[load], *ENDURANCES[need.endurance_basis]})
    idle += ["efficiency"] * (not watts) + ["duty_unit"] * (load != "duty")
    idle += ["wheel_mm", "gear"] * (need.motor_kv is None)
    idle += ["lead_charger"] * (need.kind != "supply") + ["nickel_cells"] * (need.kind != "tool")
    return tuple(name for name in idle if name in given)

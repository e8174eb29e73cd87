"""The need: what is to be powered, what limits it sets, and what is there already."""

from collections.abc import Collection
from typing import Annotated, Literal

from lumvak.core.document.loads import (
    AMOUNTS,
    ENDURANCES,
    LOADS,
    MOST_APPLIANCES,
    MOST_DUTY_STEPS,
    MOST_RAILS,
    Appliance,
    DutyStep,
    EnduranceBasis,
    LoadBasis,
    Rail,
    check_fed,
)
from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import phrase, say

Kind = Literal["vehicle", "tool", "supply", "portable"]
Given = Literal["measured", "estimated"]


class Need(Document, frozen=True):
    """What is to be powered, and what limits it sets."""

    kind: Annotated[
        Kind,
        about(
            "Equipment",
            tip="Vehicle, tool, supply that replaces a lead battery, or portable supply with rails",
        ),
    ] = "vehicle"
    rated_voltage_v: Annotated[
        float,
        about(
            "Rated voltage",
            "V",
            gt=0,
            le=1000,
            also="nominal system volts",
            tip="As printed on the motor or its controller",
        ),
    ] = 36.0
    max_voltage_v: (
        Annotated[
            float,
            about(
                "Maximum voltage",
                "V",
                gt=0,
                le=1000,
                also="maximum input",
                tip="The most that the equipment stands; from the rated voltage where not given",
            ),
        ]
        | None
    ) = None
    stop_voltage_v: (
        Annotated[
            float,
            about(
                "Low-voltage cut-off",
                "V",
                gt=0,
                le=1000,
                also="cut-off LVC",
                tip="Where the equipment stops; from the rated voltage where not given",
            ),
        ]
        | None
    ) = None
    nickel_cells: (
        Annotated[
            int,
            about(
                "Nickel cells in the old pack",
                ge=1,
                le=100,
                tip="Of a tool: how many cells of 1.2 V its old pack had",
            ),
        ]
        | None
    ) = None
    contacts: (
        Annotated[
            Literal[2, 3],
            about(
                "Contacts of the old pack",
                tip="Of a tool: two for plus and minus, a third for the thermistor",
            ),
        ]
        | None
    ) = None
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
    stall_current_a: (
        Annotated[
            float,
            about("Stall current", "A", gt=0, le=10000, tip="Drawn with the motor held still"),
        ]
        | None
    ) = None
    controller_limit_a: (
        Annotated[
            float,
            about(
                "Controller limit",
                "A",
                gt=0,
                le=10000,
                also="ESC",
                tip="Most battery current that the controller lets flow",
            ),
        ]
        | None
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
    wheel_mm: (
        Annotated[float, about("Wheel", "mm", gt=0, le=5000, tip="Diameter of the driven wheel")]
        | None
    ) = None
    gear: Annotated[
        float,
        about(
            "Motor turns per wheel turn",
            gt=0,
            le=1000,
            tip="Motor turns for one turn of the wheel; 1 for a hub motor",
        ),
    ] = 1.0
    lead_replaced: Annotated[
        bool,
        about(
            "Replaces a lead battery one for one",
            tip="Whether the pack takes the place of a lead battery in its tray",
        ),
    ] = False
    lead_charger: Annotated[
        bool,
        about("The lead charger stays", tip="Whether the charger of the lead battery stays in use"),
    ] = False
    rails: Annotated[
        tuple[Rail, ...],
        about("Rails", min_length=1, max_length=MOST_RAILS, tip="Outputs of a portable supply"),
    ] = (
        Rail(name="12 V", volts=12.0),
        Rail(name="5 V", volts=5.0, limit_w=15.0),
    )
    appliances: Annotated[
        tuple[Appliance, ...],
        about(
            "Appliances", min_length=1, max_length=MOST_APPLIANCES, tip="What is fed from the rails"
        ),
    ] = (
        Appliance(name="lamp", rail="12 V", amount=10.0, hours=5.0),
        Appliance(name="telephone", rail="5 V", amount=2.0, unit="A", hours=2.0),
    )
    load_basis: Annotated[
        LoadBasis, about("Load given as", tip="Which of current, power, duty or rails counts")
    ] = "current"
    current_a: Annotated[
        float,
        about(
            "Continuous current",
            "A",
            gt=0,
            le=5000,
            also="amps",
            tip="Battery current that flows all the time",
        ),
    ] = 15.0
    power_w: Annotated[
        float,
        about(
            "Continuous power",
            "W",
            gt=0,
            le=1e6,
            also="watts",
            tip="At the shaft, or at the terminals where the efficiency is 100 %",
        ),
    ] = 500.0
    efficiency: (
        Annotated[
            float,
            about(
                "Efficiency", "%", gt=0, le=1, tip="Of motor and controller; 85 % where not given"
            ),
        ]
        | None
    ) = None
    duty: Annotated[
        tuple[DutyStep, ...],
        about("Duty", min_length=1, max_length=MOST_DUTY_STEPS, tip="Steps of load that repeat"),
    ] = (DutyStep(amount=30.0, seconds=10.0), DutyStep(amount=12.0, seconds=50.0))
    duty_unit: Annotated[Literal["A", "W"], about("Duty in", tip="A or W")] = "A"
    peak_current_a: (
        Annotated[
            float,
            about(
                "Peak current",
                "A",
                gt=0,
                le=10000,
                also="maximum burst amps",
                tip="Highest battery current; the continuous load where not given",
            ),
        ]
        | None
    ) = None
    peak_duration_s: (
        Annotated[
            float,
            about(
                "Peak lasts",
                "s",
                gt=0,
                le=3600,
                tip="How long the peak lasts; 10 s where not given",
            ),
        ]
        | None
    ) = None
    peak_given: Annotated[
        Given, about("The peak is", tip="Measured, or estimated and so marked as assumed")
    ] = "measured"
    endurance_basis: Annotated[
        EnduranceBasis,
        about(
            "How long, given as",
            tip="Which of run time, capacity, energy, distance or appliances counts",
        ),
    ] = "runtime"
    runtime_h: Annotated[
        float,
        about(
            "Run time", "h", gt=0, le=1000, also="duration", tip="How long it is to run at the load"
        ),
    ] = 1.0
    capacity_ah: Annotated[
        float,
        about(
            "Capacity wanted",
            "Ah",
            gt=0,
            le=1e5,
            also="amp hours",
            tip="Charge that is to be delivered",
        ),
    ] = 15.0
    energy_wh: Annotated[
        float, about("Energy wanted", "Wh", gt=0, le=1e6, tip="Energy that is to be delivered")
    ] = 500.0
    distance_km: Annotated[
        float,
        about(
            "Distance", "km", gt=0, le=1e4, also="range", tip="How far it is to go on one charge"
        ),
    ] = 30.0
    consumption_wh_per_km: (
        Annotated[
            float,
            about(
                "Consumption",
                "Wh/km",
                gt=0,
                le=1e4,
                tip="What a kilometre takes; usual for the rated voltage where not given",
            ),
        ]
        | None
    ) = None
    ambient_c: (
        Annotated[
            float,
            about(
                "Ambient, warmest",
                "°C",
                ge=-40,
                le=70,
                tip="Warmest air in use; 25 °C where not given",
            ),
        ]
        | None
    ) = None
    coldest_c: (
        Annotated[
            float,
            about(
                "Ambient, coldest",
                "°C",
                ge=-40,
                le=70,
                tip="Coldest air in use; as the warmest where not given",
            ),
        ]
        | None
    ) = None
    charger_voltage_v: (
        Annotated[
            float, about("Charger voltage", "V", gt=0, le=1000, tip="Of a charger that is there")
        ]
        | None
    ) = None
    charger_current_a: (
        Annotated[
            float, about("Charger current", "A", gt=0, le=1000, tip="Of a charger that is there")
        ]
        | None
    ) = None

    replaced_voltage_v: (
        Annotated[
            float,
            about(
                "Old pack, rated",
                "V",
                gt=0,
                le=1000,
                tip="Rated voltage of the pack that is replaced, to compare",
            ),
        ]
        | None
    ) = None
    replaced_capacity_ah: (
        Annotated[
            float,
            about(
                "Old pack, capacity",
                "Ah",
                gt=0,
                le=1e5,
                tip="Capacity of the pack that is replaced",
            ),
        ]
        | None
    ) = None
    replaced_cost: (
        Annotated[
            float,
            about(
                "Old pack, cost",
                "money",
                ge=0,
                le=1e6,
                tip="What the replaced pack would cost anew",
            ),
        ]
        | None
    ) = None
    replaced_mass_kg: (
        Annotated[
            float, about("Old pack, mass", "kg", gt=0, le=1e4, tip="Mass of the replaced pack")
        ]
        | None
    ) = None

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
        check_fed(self.rails, self.appliances, self.load_basis)


def idle_in(need: Need, given: Collection[str]) -> tuple[str, ...]:
    """Which of the fields that are ``given`` have no effect, for another one counts."""
    load = need.load_basis
    watts = load == "power" or (load == "duty" and need.duty_unit == "W")
    idle = sorted(AMOUNTS - {*LOADS[load], *ENDURANCES[need.endurance_basis]})
    idle += ["efficiency"] * (not watts) + ["duty_unit"] * (load != "duty")
    idle += ["wheel_mm", "gear"] * (need.motor_kv is None)
    idle += ["lead_charger"] * (need.kind != "supply") + ["nickel_cells"] * (need.kind != "tool")
    return tuple(name for name in idle if name in given)

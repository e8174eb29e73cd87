"""How fast a motor turns and a vehicle rolls at a pack voltage, without load."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lumvak.core.document.need import Need
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.figures.finding import Finding
from lumvak.core.need.demand import Demand, consumption_of
from lumvak.core.said import Text, digits, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
FREE_RPM = Rule("motion.{}_rpm", "Motor without load, {}", "rpm", "kv × voltage", "methods 3")
FREE_KMH = Rule("motion.{}_kmh", "Speed without load, {}", "km/h", "turns ÷ gear × π × wheel",
                "methods 3")
PACE_KMH = Rule("motion.pace_kmh", "Speed that load and consumption mean", "km/h",
                "mean load ÷ consumption", "methods 3")
# fmt: on

# Faster than this, or slower, a distance is told what speed it means; methods 3.
FAST_KMH, SLOW_KMH = 45.0, 4.0


def no_load_rpm(kv_rpm_per_v: float, voltage_v: float) -> float:
    """Turns per minute of a motor without load: kv × V (methods 3)."""
    return kv_rpm_per_v * voltage_v


def rolling_kmh(motor_rpm: float, wheel_mm: float, gear: float) -> float:
    """Speed in km/h of a wheel of ``wheel_mm`` across, ``gear`` motor turns per wheel turn."""
    return motor_rpm / gear * math.pi * wheel_mm * 60.0 / 1e6


def speed_words(need: Need, voltage_v: float) -> Text:
    """The no-load speed at a voltage in a few words; empty where the motor is not known."""
    if need.kind != "vehicle" or need.motor_kv is None:
        return ""
    rpm = no_load_rpm(need.motor_kv, voltage_v)
    if need.wheel_mm is None:
        return phrase("{} rpm", digits(rpm / need.gear, ".0f"))
    return phrase("{} km/h", digits(rolling_kmh(rpm, need.wheel_mm, need.gear), ".0f"))


def pace_of(need: Need, demand: Demand, nominal: Figure) -> Figure | None:
    """Speed in km/h at which the load takes what a kilometre takes; ``None`` without a distance.

    ``nominal`` is the voltage of the pack (methods 3).
    """
    if need.endurance_basis != "distance":
        return None
    consumption, load = consumption_of(need), demand.load
    watts, volts = load.power_w, tuple[Figure, ...]()
    if watts is None:
        watts, volts = (load.current_a or 0.0) * nominal.number, (nominal,)
    kmh = watts * demand.mean_share / consumption.number
    return PACE_KMH.of(kmh, demand.load_figure, *volts, consumption)


def pace_findings(need: Need, pace: Figure | None) -> Iterator[Finding]:
    """Where load, distance and consumption together mean a speed that nobody rides."""
    if pace is None or SLOW_KMH <= pace.number <= FAST_KMH:
        return
    yield Finding(
        "pace",
        "warn",
        text=phrase(
            "Load and consumption mean that the {} are covered at {}",
            say(need.distance_km, "km"),
            say(pace.number, "km/h", pace.key),
        ),
        why="A load in watts over what a kilometre takes is kilometres in an hour.",
        do="Enter the load at the speed that is ridden, or the consumption measured at this load.",
        stage="need",
        figure=pace.key,
    )


def motion_figures(need: Need, full: Figure, nominal: Figure) -> tuple[Figure, ...]:
    """No-load speed at the full and the nominal voltage of the pack; none without a motor kv."""
    if need.kind != "vehicle" or need.motor_kv is None:
        return ()
    kv = typed("need.motor_kv", "Motor kv", need.motor_kv, "rpm/V")
    gear = typed("need.gear", "Motor turns per wheel turn", need.gear, "")
    made = []
    for name, words, volts in (
        ("full", phrase("full"), full),
        ("nominal", phrase("nominal"), nominal),
    ):
        rpm = FREE_RPM.of(no_load_rpm(kv.number, volts.number), kv, volts, key=name, label=words)
        made.append(rpm)
        if need.wheel_mm is not None:
            wheel = typed("need.wheel_mm", "Wheel", need.wheel_mm, "mm")
            made.append(
                FREE_KMH.of(
                    rolling_kmh(rpm.number, wheel.number, gear.number),
                    rpm,
                    gear,
                    wheel,
                    key=name,
                    label=words,
                )
            )
    return tuple(made)

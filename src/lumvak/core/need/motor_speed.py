"""How fast a motor turns and a vehicle rolls at a pack voltage, without load."""

from __future__ import annotations

import math

from lumvak.core.document.need import Need
from lumvak.core.figures.figure import Figure, computed, typed


def no_load_rpm(kv_rpm_per_v: float, voltage_v: float) -> float:
    """Turns per minute of a motor without load: kv × V (methods 3)."""
    return kv_rpm_per_v * voltage_v


def rolling_kmh(motor_rpm: float, wheel_mm: float, gear: float) -> float:
    """Speed in km/h of a wheel of ``wheel_mm`` across, ``gear`` motor turns per wheel turn."""
    return motor_rpm / gear * math.pi * wheel_mm * 60.0 / 1e6


def speed_words(need: Need, voltage_v: float) -> str:
    """The no-load speed at a voltage in a few words; empty where the motor is not known."""
    if need.kind != "vehicle" or need.motor_kv is None:
        return ""
    rpm = no_load_rpm(need.motor_kv, voltage_v)
    if need.wheel_mm is None:
        return f"{rpm / need.gear:.0f} rpm"
    return f"{rolling_kmh(rpm, need.wheel_mm, need.gear):.0f} km/h"


def motion_figures(need: Need, full: Figure, nominal: Figure) -> tuple[Figure, ...]:
    """No-load speed at the full and the nominal voltage of the pack; none without a motor kv."""
    if need.kind != "vehicle" or need.motor_kv is None:
        return ()
    kv = typed("need.motor_kv", "Motor kv", need.motor_kv, "rpm/V")
    gear = typed("need.gear", "Motor turns per wheel turn", need.gear, "")
    made = []
    for name, volts in (("full", full), ("nominal", nominal)):
        rpm = computed(
            f"motion.{name}_rpm",
            f"Motor without load, {name}",
            no_load_rpm(kv.number, volts.number),
            "rpm",
            "kv × voltage",
            "methods 3",
            kv,
            volts,
        )
        made.append(rpm)
        if need.wheel_mm is not None:
            wheel = typed("need.wheel_mm", "Wheel", need.wheel_mm, "mm")
            made.append(
                computed(
                    f"motion.{name}_kmh",
                    f"Speed without load, {name}",
                    rolling_kmh(rpm.number, wheel.number, gear.number),
                    "km/h",
                    "turns ÷ gear × π × wheel",
                    "methods 3",
                    rpm,
                    gear,
                    wheel,
                )
            )
    return tuple(made)

"""A thermistor: its resistance cold and hot, and when it is cold again (methods 23)."""

from __future__ import annotations

import math

from msgspec import Struct

from lumvak.core.catalogue.power_parts import Surge

KELVIN_AT_0_C, REFERENCE_C = 273.15, 25.0
# A thermistor is cold again once it is back at this share of its cold resistance.
COLD_AGAIN = 0.7
HOTTEST_C = 400.0
HALVINGS = 36


class Hot(Struct, frozen=True):
    """A thermistor at a steady current: its temperature, resistance and loss."""

    temperature_c: float
    ohm: float
    watts: float


def thermistor_ohm(part: Surge, temperature_c: float) -> float:
    """Resistance in ohm at a temperature: R25 exp(B (1/T − 1/298.15))."""
    warm, cold = temperature_c + KELVIN_AT_0_C, REFERENCE_C + KELVIN_AT_0_C
    return part.ohm * math.exp((part.beta_k or 0.0) * (1.0 / warm - 1.0 / cold))


def hot_state(part: Surge, current_a: float, ambient_c: float) -> Hot:
    """Where the heat of a current is what the thermistor gives off, found by halving."""
    leaves = part.dissipation_w_per_k or 1.0
    low, high = ambient_c, HOTTEST_C
    for _ in range(HALVINGS):
        middle = (low + high) / 2.0
        if current_a**2 * thermistor_ohm(part, middle) > leaves * (middle - ambient_c):
            low = middle
        else:
            high = middle
    ohm = thermistor_ohm(part, low)
    return Hot(low, ohm, current_a**2 * ohm)


def recovery_s(part: Surge, hot_c: float, ambient_c: float) -> float:
    """Time in s from hot until it is back at 70 % of its cold resistance."""
    ambient_k = ambient_c + KELVIN_AT_0_C
    target_k = 1.0 / (1.0 / ambient_k + math.log(COLD_AGAIN) / (part.beta_k or 1.0))
    if hot_c + KELVIN_AT_0_C <= target_k:
        return 0.0
    return (part.time_constant_s or 0.0) * math.log((hot_c - ambient_c) / (target_k - ambient_k))

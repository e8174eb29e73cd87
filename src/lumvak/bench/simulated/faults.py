"""Faults that can be hidden in a simulated pack."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from lumvak.core.proving.bench_pack import PARTS, BenchPack, Built
from lumvak.core.said import listed, phrase
from lumvak.core.spelling import Refused

# Each with what it is, in words.
FAULTS = {
    "high-resistance-joint": "a series connection of six times its resistance",
    "weak-group": "a group of four fifths of its charge",
    "flat-group": "a group with a third of the charge gone",
    "bms-trips-low": "a BMS that opens at three quarters of its current",
    "worn-connector": "a connector of five times its resistance",
    "short-stopping-charger": "a charger that stops 3 % too low",
    "warm-strip": "a series strip that gets three times as warm",
    "leaking-group": "a group that loses its charge in a month",
}
# By how much each is off.
JOINT, WEAK, FLAT, TRIP, CONNECTOR, CHARGER, STRIP, LEAK = (
    6.0,
    0.8,
    0.33,
    0.75,
    5.0,
    0.97,
    3.0,
    50.0,
)


class FaultError(Refused):
    """A fault that nobody knows, or that this pack cannot have."""


def with_fault(pack: BenchPack, packs: Built, fault: str, generator: np.random.Generator) -> Built:
    """A built pack with a fault in a drawn place; raises FaultError.

    A leak is no part of how it was built: SimulatedPack has it.
    """
    if fault not in FAULTS:
        raise FaultError(phrase("no fault “{}”; accepted: {}", fault[:40], listed(list(FAULTS))))
    group = int(generator.integers(pack.series))
    if fault == "weak-group":
        return replace(packs, capacity=_times(packs.capacity, group, WEAK))
    if fault == "flat-group":
        charge = packs.charge.copy()
        charge[:, group] -= FLAT
        return replace(packs, charge=charge)
    if fault == "high-resistance-joint":
        if pack.series < 2:
            raise FaultError("a pack of one group has no series connection")
        joint = int(generator.integers(pack.series - 1))
        return replace(packs, joints=_times(packs.joints, joint, JOINT))
    if fault == "worn-connector":
        return replace(packs, parts=_times(packs.parts, PARTS.index("connector"), CONNECTOR))
    if fault == "bms-trips-low":
        return replace(packs, trip=packs.trip * TRIP)
    if fault == "short-stopping-charger":
        return replace(packs, charger=packs.charger * CHARGER)
    if fault == "warm-strip":
        return replace(packs, strip=packs.strip * STRIP)
    return packs


def _times(values: np.ndarray, column: int, factor: float) -> np.ndarray:
    changed = values.copy()
    changed[:, column] *= factor
    return changed

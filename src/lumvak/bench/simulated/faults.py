"""Faults that can be hidden in a simulated pack."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from msgspec import Struct
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
    "open-fuse": "a fuse that is open",
    "broken-joint": "a series connection that is broken",
    "swapped-leads": "two balance leads swapped in their plug",
    "open-lead": "a balance lead that is broken",
    "misread-group": "a BMS that reads a group 0.15 V too high",
    "lost-cell": "a group whose cells are one fewer",
    "dead-charger": "a charger that gives nothing",
}
# In what kind of place each is; the others are where there is but one.
PLACES: dict[str, Literal["group", "joint", "lead"]] = {
    "high-resistance-joint": "joint",
    "broken-joint": "joint",
    "weak-group": "group",
    "flat-group": "group",
    "leaking-group": "group",
    "misread-group": "group",
    "lost-cell": "group",
    "swapped-leads": "lead",
    "open-lead": "lead",
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
# A broken lead stands at such a share between its neighbours; a group is misread by so many volts.
FLOATS, MISREAD_V = 0.7, 0.15


class FaultError(Refused):
    """A fault that nobody knows, or that this pack cannot have."""


class Hidden(Struct, frozen=True):
    """A fault and where it is: the place of a group, a joint or a lead, from 0."""

    fault: str
    place: int = 0


def places_of(pack: BenchPack, fault: str) -> int:
    """In how many places of a pack a fault can be; 0 where the pack cannot have it."""
    if fault == "lost-cell" and pack.parallel < 2:
        return 0
    kind = PLACES.get(fault)
    if kind is None:
        return 1
    return pack.series if kind == "group" else pack.series - 1


def hidden_at(pack: BenchPack, fault: str, generator: np.random.Generator) -> Hidden:
    """A fault in a drawn place; raises FaultError."""
    if fault not in FAULTS:
        raise FaultError(phrase("no fault “{}”; accepted: {}", fault[:40], listed(list(FAULTS))))
    count = places_of(pack, fault)
    if not count:
        raise FaultError(phrase("this pack cannot have “{}”", FAULTS[fault]))
    return Hidden(fault, int(generator.integers(count)))


def with_fault(pack: BenchPack, packs: Built, hidden: Hidden) -> Built:
    """A built pack with a fault.

    What is no part of how it was built, such as a leak or an open fuse, SimulatedPack has.
    """
    fault, place = hidden.fault, hidden.place
    if fault == "weak-group":
        return replace(packs, capacity=_times(packs.capacity, place, WEAK))
    if fault == "flat-group":
        charge = packs.charge.copy()
        charge[:, place] -= FLAT
        return replace(packs, charge=charge)
    if fault == "lost-cell":
        left = (pack.parallel - 1) / pack.parallel
        packs = replace(packs, capacity=_times(packs.capacity, place, left))
        return replace(packs, resistance=_times(packs.resistance, place, 1.0 / left))
    if fault == "high-resistance-joint":
        return replace(packs, joints=_times(packs.joints, place, JOINT))
    if fault == "worn-connector":
        return replace(packs, parts=_times(packs.parts, PARTS.index("connector"), CONNECTOR))
    if fault == "bms-trips-low":
        return replace(packs, trip=packs.trip * TRIP)
    if fault == "short-stopping-charger":
        return replace(packs, charger=packs.charger * CHARGER)
    if fault == "warm-strip":
        return replace(packs, strip=packs.strip * STRIP)
    return packs


def told_of(group_v: np.ndarray, hidden: Sequence[Hidden]) -> np.ndarray:
    """What a BMS reads of groups (S,) through leads with faults."""
    levels = np.concatenate(([0.0], np.cumsum(group_v)))
    misread = np.zeros(len(group_v))
    for item in hidden:
        lead = item.place + 1
        if item.fault == "swapped-leads":
            levels[[lead, lead + 1]] = levels[[lead + 1, lead]]
        elif item.fault == "open-lead":
            levels[lead] = levels[lead - 1] + FLOATS * (levels[lead + 1] - levels[lead - 1])
        elif item.fault == "misread-group":
            misread[item.place] += MISREAD_V
    return np.asarray(np.diff(levels) + misread)


def _times(values: np.ndarray, column: int, factor: float) -> np.ndarray:
    changed = values.copy()
    changed[:, column] *= factor
    return changed

"""What can be wrong with a harness of balance leads: each single fault as where its leads sit."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Array = NDArray[np.float64]
Joints = NDArray[np.int16]
Name = Literal[
    "right", "swapped", "shifted", "reversed", "open", "doubled", "weak-group", "flat-group",
    "reversed-group", "mixed", "two-faults", "unexplained",
]  # fmt: skip
# A lead that sits on nothing.
OPEN = -1
# How often each comes about; near slips are likelier than far ones.
PRIOR: dict[Name, float] = {
    "right": 0.60, "swapped": 0.10, "shifted": 0.08, "reversed": 0.03, "open": 0.07,
    "doubled": 0.05, "weak-group": 0.04, "flat-group": 0.02, "reversed-group": 0.01,
    "mixed": 0.02,
}  # fmt: skip
# A group this far under what is expected, in V, is weak; under so much of it, flat; within so much
# of nothing it is missing or shorted, and under that it is reversed.
WEAK_V, FLAT_SHARE, NOTHING_V = 0.15, 0.5, 0.1
# One that is reversed lacks no more than so many times its volts.
REVERSED_TIMES = 2.2
APART_TIMES, LEAST_WEAK_V = 3.0, 0.01


class Fault(Struct, frozen=True):
    """One thing that is wrong: its name, leads from 0 and groups from 1 that it is about.

    Of leads that are shifted the first is named, and of a doubled one the lead, then the joint it
    sits on; ``up`` is whether they sit too high. Of leads whose order is mixed all are, and then
    the joints they sit on.
    """

    name: Name
    leads: tuple[int, ...] = ()
    groups: tuple[int, ...] = ()
    up: bool = False


class Singles(Struct, frozen=True, eq=False, dict=True):
    """All single faults of the leads, ``right`` first: where each lead sits, (m, n + 1).

    ``moves`` (m, n + 1) is which leads are not on their own joint, ``far`` (m,) whether that may be
    many.
    """

    faults: tuple[Fault, ...]
    joint: Joints
    log_prior: Array
    moves: NDArray[np.bool_]
    far: NDArray[np.bool_]

    @cached_property
    def places(self) -> dict[bytes, list[int]]:
        """Which of them are one harness, by the bytes of where its leads sit."""
        found: dict[bytes, list[int]] = {}
        for place, joint in enumerate(self.joint):
            found.setdefault(joint.tobytes(), []).append(place)
        return found


@lru_cache(maxsize=16)
def singles_of(groups: int) -> Singles:
    """Every single fault of the leads of a pack of so many groups (methods 30)."""
    right = np.arange(groups + 1, dtype=np.int16)
    found = list(_singles(right))
    weights = np.array([weight for _, _, weight in found])
    names = [fault.name for fault, _, _ in found]
    prior = np.array([PRIOR[name] for name in names])
    total = {name: weights[[item == name for item in names]].sum() for name in set(names)}
    share = prior * weights / np.array([total[name] for name in names])
    joint = np.stack([joint for _, joint, _ in found])
    far = np.array([name in ("shifted", "reversed") for name in names])
    return Singles(tuple(fault for fault, _, _ in found), joint, np.log(share), joint != right, far)


def _singles(right: Joints) -> Iterator[tuple[Fault, Joints, float]]:
    """Each fault with where its leads sit, and how likely it is among those of its name."""
    last = len(right) - 1
    yield Fault("right"), right, 1.0
    for one in range(last + 1):
        for other in range(one + 1, last + 1):
            yield Fault("swapped", (one, other)), swapped(right, one, other), (other - one) ** -2.0
    for first in range(1, last + 1):
        yield Fault("shifted", (first,)), shifted_down(right, first), 1.0
    for first in range(last):
        for ends in (last, OPEN):
            yield Fault("shifted", (first,), up=True), shifted_up(right, first, ends), 0.5
    yield Fault("reversed"), right[::-1].copy(), 1.0
    for lead in range(last + 1):
        yield Fault("open", (lead,)), moved(right, lead, OPEN), 1.0
        for on in range(last + 1):
            if on != lead:
                yield Fault("doubled", (lead, on)), moved(right, lead, on), abs(on - lead) ** -2.0


def swapped(joint: Joints, one: int, other: int) -> Joints:
    """Where leads sit once two have changed places."""
    found = joint.copy()
    found[[one, other]] = joint[[other, one]]
    return found


def moved(joint: Joints, lead: int, on: int) -> Joints:
    """Where leads sit once one sits elsewhere, or on nothing."""
    found = joint.copy()
    found[lead] = on
    return found


def shifted_down(joint: Joints, first: int) -> Joints:
    """Where leads sit once those from ``first`` on sit one joint too low."""
    found = joint.copy()
    found[first:] -= found[first:] > 0
    return found


def shifted_up(joint: Joints, first: int, ends: int) -> Joints:
    """Where leads sit once those from ``first`` on sit one too high.

    The last finds no joint over the highest: it ``ends`` there with its neighbour, or on nothing.
    """
    found = joint.copy()
    found[first:] += found[first:] >= 0
    found[found > len(joint) - 1] = ends
    return found


def group_kinds(
    volts: float, apart_v: float = 0.0, direct: bool = False
) -> tuple[tuple[Name, float, float, float], ...]:
    """Kinds of a group that reads under its ``volts``: name, from and to how many V, how likely.

    One that is flat gives nothing as often as it gives a little. ``apart_v`` is how far any group
    may be from what is given for it: what is no more than that is no weakness. Of one that was read
    across, ``direct``, less is told.
    """
    flat = (1.0 - FLAT_SHARE) * volts
    half = PRIOR["flat-group"] / 2.0
    weak = apart_v + LEAST_WEAK_V if direct else WEAK_V + APART_TIMES * apart_v
    return (
        ("weak-group", weak, flat, PRIOR["weak-group"]),
        ("flat-group", flat, volts - NOTHING_V, half),
        ("flat-group", volts - NOTHING_V, volts + NOTHING_V, half),
        ("reversed-group", volts + NOTHING_V, REVERSED_TIMES * volts, PRIOR["reversed-group"]),
    )

"""What flows when packs are joined: its peak, how long, and how far apart they may be."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.beside.side import PackSide, PartCarries, parts_carry

# It has died down once it is such a share of its peak.
DIED = 0.05
# A contact of copper melts where so many volts lie over its spot, whatever its size [22].
MELTS_V = 0.43


class JoinedSides(Struct, frozen=True):
    """Two packs at the moment in which they are joined.

    ``apart_v`` is the first over the second; ``peak_a`` flows from the higher into the lower and
    is down to DIED of that after ``seconds``; ``moves_ah`` until both are level, ``heat_j`` goes
    into their resistances. ``safe_v`` is how far apart they may be.
    """

    apart_v: float
    peak_a: float
    seconds: float
    moves_ah: float
    heat_j: float
    safe_v: float
    limits: tuple[PartCarries, ...]

    @property
    def sparks(self) -> bool:
        """Whether its contact melts where it touches first (methods 44)."""
        return abs(self.apart_v) > MELTS_V

    @property
    def is_safe(self) -> bool:
        """Whether no part of either carries more than it may."""
        return all(it.holds for it in self.limits)


def joined(one: PackSide, other: PackSide, between_ohm: float = 0.0) -> JoinedSides:
    """Join two packs as they stand, through ``between_ohm`` of leads beside their own."""
    return joined_on((one,), other, between_ohm)


def joined_on(
    standing: Sequence[PackSide], other: PackSide, between_ohm: float = 0.0
) -> JoinedSides:
    """Join a pack on others that are in parallel already and level with each other.

    The peak is what their fast resistances leave; it dies down as their volts come together, by
    the slopes of their curves (methods 44).
    """
    first = _Bank(standing)
    apart = first.emf_v - other.emf_v
    fast = first.fast_ohm + other.fast_ohm + between_ohm
    steady = first.ohm + other.ohm + between_ohm
    peak = abs(apart) / fast
    both = 1.0 / (1.0 / first.farad + 1.0 / _farad(other))
    moved = abs(apart) * both
    new, old = ("takes_a", "gives_a") if apart >= 0.0 else ("gives_a", "takes_a")
    limits = [
        it
        for side, share in zip(standing, first.shares, strict=True)
        for it in parts_carry(side, share * peak, old, "joined")
    ]
    # Whichever of them was filled up meanwhile, each may come to be the one that takes.
    least = min(it.least_a(way) for it in (first, other) for way in ("gives_a", "takes_a"))
    return JoinedSides(
        apart,
        peak_a=peak,
        seconds=steady * both * math.log(1.0 / DIED),
        moves_ah=moved / 3600.0,
        heat_j=0.5 * abs(apart) * moved,
        safe_v=least * fast,
        limits=(*limits, *parts_carry(other, peak, new, "joined")),
    )


class _Bank:
    """Packs in parallel that are level, as one: each carries by its conductance at first."""

    def __init__(self, sides: Sequence[PackSide]) -> None:
        self.sides = sides
        siemens = np.array([1.0 / it.fast_ohm for it in sides])
        self.shares = (siemens / siemens.sum()).tolist()
        self.fast_ohm = float(1.0 / siemens.sum())
        self.ohm = 1.0 / sum(1.0 / it.ohm for it in sides)
        self.farad = sum(_farad(it) for it in sides)
        self.emf_v = float(np.dot(self.shares, [it.emf_v for it in sides]))

    def least_a(self, way: str) -> float:
        """What all of them together give or take before a part of one of them is over its limit."""
        pairs = zip(self.sides, self.shares, strict=True)
        return float(min(side.least_a(way) / share for side, share in pairs))


def _farad(side: PackSide) -> float:
    """Coulombs for each volt, about where it stands."""
    place = int(np.searchsorted(side.charge, side.at, side="left"))
    place = min(max(place, 1), len(side.charge) - 1)
    rise = float(side.rest_v[place] - side.rest_v[place - 1])
    share = float(side.charge[place] - side.charge[place - 1])
    return 3600.0 * side.capacity_ah * share / max(rise, 1e-9)


def safe_charges(one: PackSide, other: PackSide, safe_v: float) -> tuple[float, float]:
    """Between which states of charge of the other pack the two may be joined."""
    middle = one.emf_v
    return other.at_volts(middle - safe_v), other.at_volts(middle + safe_v)

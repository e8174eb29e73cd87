"""What flows when packs are joined: its peak, how long, and how far apart they may be."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from lumvak.core.beside.side import PackSide, PartCarries, parts_carry

# It has died down once it is such a share of its peak.
DIED = 0.05


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
    def is_safe(self) -> bool:
        """Whether no part of either carries more than it may."""
        return all(it.holds for it in self.limits)


def joined(one: PackSide, other: PackSide, between_ohm: float = 0.0) -> JoinedSides:
    """Join two packs as they stand, through ``between_ohm`` of leads beside their own.

    The peak is what their fast resistances leave; it dies down as their volts come together, by
    the slopes of their curves (methods 44).
    """
    apart = one.emf_v - other.emf_v
    fast = one.fast_ohm + other.fast_ohm + between_ohm
    steady = one.ohm + other.ohm + between_ohm
    peak = abs(apart) / fast
    high, low = (one, other) if apart >= 0.0 else (other, one)
    farads = [_farad(side) for side in (high, low)]
    both = 1.0 / sum(1.0 / it for it in farads)
    tau = steady * both
    moved = abs(apart) * both
    limits = (
        *parts_carry(high, peak, "gives_a", "joined"),
        *parts_carry(low, peak, "takes_a", "joined"),
    )
    # Whichever of them was filled up meanwhile, each may come to be the one that takes.
    least = min(
        min(giver.least_a("gives_a"), taker.least_a("takes_a"))
        for giver, taker in ((one, other), (other, one))
    )
    return JoinedSides(
        apart,
        peak_a=peak,
        seconds=tau * math.log(1.0 / DIED),
        moves_ah=moved / 3600.0,
        heat_j=0.5 * abs(apart) * moved,
        safe_v=least * fast,
        limits=limits,
    )


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

"""Groups of their own size and level: what can be used, what is lost, and why."""

from __future__ import annotations

from typing import Literal

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrays import median
from lumvak.core.balancing.groups_run import Active

Array = NDArray[np.float64]
Cause = Literal["none", "out-of-step", "small", "both"]
Way = Literal["none", "top", "bottom", "active"]
# A loss counts from this share of the mean capacity on.
LEAST_LOSS = 0.005


class Imbalance(Struct, frozen=True, eq=False):
    """What groups give in one discharge from as full as they get.

    ``ah`` and ``charge_ah`` (n,) are their size and what is in each. ``top_ah`` is what the charger
    can still put in before the first is full, ``bottom_ah`` what can be taken before the first is
    empty; ``lost_top_ah`` and ``lost_bottom_ah`` (n,) what stays out of reach in each.
    """

    ah: Array
    charge_ah: Array
    top_ah: float
    bottom_ah: float

    @property
    def usable_ah(self) -> float:
        """From the first full one to the first empty one."""
        return self.top_ah + self.bottom_ah

    @property
    def lost_top_ah(self) -> Array:
        """Room of each group (n,) that stays empty when the first one is full."""
        return np.asarray(self.ah - self.charge_ah - self.top_ah)

    @property
    def lost_bottom_ah(self) -> Array:
        """Charge of each group (n,) that stays in it when the first one is empty."""
        return np.asarray(self.charge_ah - self.bottom_ah)

    @property
    def even_ah(self) -> float:
        """What they would give once evened out, at the top or at the bottom: the smallest."""
        return float(self.ah.min())

    @property
    def by_step_ah(self) -> float:
        """Lost because they are out of step: what evening out would give back."""
        return self.even_ah - self.usable_ah

    @property
    def by_size_ah(self) -> float:
        """Lost because one is small: how far the smallest is under the middle one."""
        return median(self.ah) - self.even_ah

    @property
    def lost_ah(self) -> float:
        """What is lost in all, of the middle group's capacity."""
        return self.by_step_ah + self.by_size_ah

    @property
    def first_full(self) -> int:
        """The group that is full first, from 1."""
        return int(np.argmin(self.ah - self.charge_ah)) + 1

    @property
    def first_empty(self) -> int:
        """The group that is empty first, from 1."""
        return int(np.argmin(self.charge_ah)) + 1

    @property
    def smallest(self) -> int:
        """The smallest group, from 1."""
        return int(np.argmin(self.ah)) + 1

    @property
    def cause(self) -> Cause:
        """What costs charge: groups out of step, a small one, both, or nothing that counts."""
        least = LEAST_LOSS * float(self.ah.mean())
        step, small = self.by_step_ah > least, self.by_size_ah > least
        return "both" if step and small else "out-of-step" if step else "small" if small else "none"


def imbalance(ah: Array, charge_ah: Array) -> Imbalance:
    """Groups as they stand: ``ah`` and ``charge_ah`` (n,) in Ah (methods 35)."""
    return Imbalance(ah, charge_ah, float((ah - charge_ah).min()), float(charge_ah.min()))


def evened(ah: Array, way: Way) -> Imbalance:
    """The same groups ``ah`` (n,) once they were evened out at the top or the bottom."""
    level = ah.copy() if way == "top" else np.zeros(len(ah))
    return imbalance(ah, level)


def active_ah(ah: Array, moved_ah: float, efficiency: float = 1.0) -> float:
    """What groups ``ah`` (n,) give where a mover carries charge between them, in Ah.

    All begin full. While they are emptied it may take ``moved_ah`` out of larger ones, of which
    ``efficiency`` arrives in smaller ones. The most is where what larger ones have over and what
    smaller ones lack are alike, or all that can be moved has been; without loss and with time
    enough it is the mean.
    """
    low, high = float(ah.min()), float(ah.mean())
    for _ in range(100):
        middle = (low + high) / 2.0
        lack = float(np.maximum(middle - ah, 0.0).sum())
        over = float(np.maximum(ah - middle, 0.0).sum())
        if lack <= efficiency * min(moved_ah, over):
            low = middle
        else:
            high = middle
    return low


def excess_ah(ah: Array, charge_ah: Array) -> Array:
    """What each group (n,) must lose so that all are full together, in Ah."""
    room = ah - charge_ah
    return np.asarray(room.max() - room)


def hours_to_even(
    excess: Array, bleed_a: float, leak_a: Array, most: int | None = None
) -> float | None:
    """Hours at the top until groups are even; ``None`` where it never comes to that.

    ``excess`` (n,) in Ah must be bled; ``leak_a`` (n,) is what each loses by itself in A. Groups
    that leak less than the worst must be bled by the difference too. ``most`` is how many bleed at
    once.
    """
    if not np.any(excess > 1e-12) and not np.any(leak_a != leak_a.max()):
        return 0.0
    if bleed_a <= 0.0:
        return None
    # The one that leaks most falls behind all others; they must be brought down after it.
    behind = leak_a.max() - leak_a
    gains = bleed_a - behind
    wanted = excess > 1e-12
    if np.any(gains[wanted | (behind > 0.0)] <= 0.0):
        return None
    each = float((excess[wanted] / gains[wanted]).max()) if wanted.any() else 0.0
    if most is None:
        return each
    total = most * bleed_a - float(behind.sum())
    if total <= 0.0:
        return None
    return max(each, float(excess.sum()) / total)


def hours_moved(room: Array, active: Active, leak_a: Array) -> float | None:
    """Hours until a mover has brought groups to alike ``room`` (n,) in Ah; ``None`` where never.

    ``leak_a`` (n,) is what each loses by itself: the mover makes up for that at the same time, and
    what it needs for it is not there for the rest (methods 35).
    """
    busy = _taken_ah(leak_a, active) / active.amps
    taken = _taken_ah(room, active)
    if taken <= 1e-12:
        return 0.0 if busy <= 1.0 else None
    return None if busy >= 1.0 else taken / active.amps / (1.0 - busy)


def _taken_ah(room: Array, active: Active) -> float:
    """What a mover takes, or gives, in Ah until all groups have alike room (n,)."""
    if active.way == "pack-low":
        # The whole pack pays alike; the fullest gets nothing.
        return float((room - room.min()).sum())
    if active.way == "high-pack":
        return float((room.max() - room).sum())
    low, high = float(room.min()), float(room.max())
    for _ in range(60):
        level = (low + high) / 2.0
        taken = float(np.maximum(level - room, 0.0).sum())
        wanted = float(np.maximum(room - level, 0.0).sum())
        if wanted > active.efficiency * taken:
            low = level
        else:
            high = level
    return float(np.maximum(high - room, 0.0).sum())


class UsableAs(Struct, frozen=True, eq=False):
    """What groups give in one way of evening out: Ah, and what is lost at both ends (n,)."""

    usable_ah: float
    lost_top_ah: Array
    lost_bottom_ah: Array


def usable_as(
    ah: Array, charge_ah: Array, way: Way, moved_ah: float = 0.0, efficiency: float = 1.0
) -> UsableAs:
    """What groups ``ah`` (n,) holding ``charge_ah`` (n,) give in a way (methods 35), in Ah.

    ``moved_ah`` is what a mover takes out of larger ones while they are emptied, of which
    ``efficiency`` arrives. The others need nothing moved.
    """
    if way != "active":
        found: Imbalance = imbalance(ah, charge_ah) if way == "none" else evened(ah, way)
        return UsableAs(found.usable_ah, found.lost_top_ah, found.lost_bottom_ah)
    usable = active_ah(ah, moved_ah, efficiency)
    spare = np.maximum(ah - usable, 0.0)
    taken = float(np.maximum(usable - ah, 0.0).sum()) / efficiency
    left = spare * (1.0 - taken / spare.sum()) if spare.sum() > 0.0 else spare
    return UsableAs(usable, np.zeros(len(ah)), np.maximum(left, 0.0))

"""Evening groups out by hand, and balancing at the bottom: what to put where, and for how long."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from lumvak.core.balancing.groups_run import Array, Groups

# A group that is off by less than this of its capacity is left as it is: volts hardly tell.
LEAST_SHARE = 0.01


class HandStep(Struct, frozen=True):
    """One group by hand: ``discharge`` with a resistor or ``charge`` with a charger for one cell.

    ``ah`` is to flow, for ``hours`` at ``amps``, until it rests at ``to_v``; ``from_v`` is where it
    rests now.
    """

    group: int
    do: str
    ah: float
    amps: float
    hours: float
    from_v: float
    to_v: float


def balancing_by_hand(
    groups: Groups, share: Array, ohm: float, charger_a: float, to_mean: bool = True
) -> tuple[HandStep, ...]:
    """What to do to which group so that all lack alike much to full, ``share`` (n,) now.

    High ones are brought down by a resistor of ``ohm``, low ones up by a charger for one cell of
    ``charger_a``; towards the mean, or else all down to the lowest. The most first.
    """
    room = (1.0 - share) * groups.ah
    goal = float(room.mean()) if to_mean else float(room.max())
    found = []
    for place, missing in enumerate(room.tolist()):
        ah = goal - missing
        if abs(ah) < LEAST_SHARE * float(groups.ah[place]):
            continue
        to = share[place] - ah / groups.ah[place]
        volts, _ = groups.rest(np.array([share[place], to]))
        amps = float(volts.mean()) / ohm if ah > 0.0 else charger_a
        found.append(
            HandStep(
                place + 1,
                "discharge" if ah > 0.0 else "charge",
                ah=abs(ah),
                amps=amps,
                hours=abs(ah) / amps,
                from_v=float(volts[0]),
                to_v=float(volts[1]),
            )
        )
    return tuple(sorted(found, key=lambda item: -item.ah))


class BottomPlan(Struct, frozen=True):
    """Balancing at the bottom: each group emptied to ``to_v`` by a load, and how charging ends.

    ``load_ohm`` draws about ``load_a`` from one group, ``watts`` in it; ``longest_h`` is the
    fullest group's time. The charger must stop when group ``first`` is at ``stop_v``: then the
    pack is at ``pack_v``, under the ``usual_v`` of a charger that knows the pack alone.
    """

    to_v: float
    load_ohm: float
    load_a: float
    watts: float
    longest_h: float
    first: int
    stop_v: float
    pack_v: float
    usual_v: float


def bottom_plan(
    groups: Groups, share: Array, empty_v: float, ceiling_v: float, load_ohm: float
) -> BottomPlan:
    """How groups are balanced at the bottom, ``share`` (n,) now (methods 36)."""
    ah = share * groups.ah
    middle_v = float(groups.rest(np.array(float(share.mean()) / 2.0))[0])
    amps = middle_v / load_ohm
    small = int(np.argmin(groups.ah))
    full = float(groups.ah[small]) / groups.ah
    pack_v = float(groups.rest(full)[0].sum())
    return BottomPlan(
        empty_v,
        load_ohm,
        load_a=amps,
        watts=middle_v * amps,
        longest_h=float(ah.max()) / amps,
        first=small + 1,
        stop_v=ceiling_v,
        pack_v=pack_v,
        usual_v=ceiling_v * len(ah),
    )

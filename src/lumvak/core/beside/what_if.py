"""What happens to packs in parallel when something changes: a plug pulled, a brake, a charge."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.beside.joining import JoinedSides, joined
from lumvak.core.beside.sharing import SharedLoad, now_shared, shared
from lumvak.core.beside.side import PackSide, PartCarries, parts_carry, standing_at


class Replugged(Struct, frozen=True, eq=False):
    """The second pack was unplugged for a while, and is plugged in again.

    ``charges`` (2,) are where both stand then, ``joining`` what flows.
    """

    charges: tuple[float, float]
    joining: JoinedSides


def replugged(
    one: PackSide, other: PackSide, load: SharedLoad, before_s: float, alone_s: float
) -> Replugged:
    """Both run for a while; then the first alone; then the second is plugged in again.

    At rest for a moment before: what is told is the least that flows (methods 44).
    """
    course = shared([one, other], load)
    at = [float(np.interp(before_s, course.seconds, course.charge[:, place])) for place in range(2)]
    left = standing_at(one, at[0])
    alone = shared([left], load)
    at[0] = float(np.interp(alone_s, alone.seconds, alone.charge[:, 0]))
    both = standing_at(one, at[0]), standing_at(other, at[1])
    return Replugged((at[0], at[1]), joined(*both))


def braking(sides: Sequence[PackSide], amps: float) -> tuple[PartCarries, ...]:
    """What each part takes where a brake gives so many amps back into packs that are joined."""
    flows = now_shared(sides, -amps)
    return tuple(
        it
        for side, flow in zip(sides, flows, strict=True)
        if flow < 0.0
        for it in parts_carry(side, -flow, "takes_a", "taking")
    )

"""Groups as they are, or once evened out in some way: what they give, what is lost in each."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lumvak.core.charging.groups_run import Array
from lumvak.core.charging.vessels import Vessels, Way, active_ah, evened, vessels


@dataclass(frozen=True, eq=False)
class UsableAs:
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
        found: Vessels = vessels(ah, charge_ah) if way == "none" else evened(ah, way)
        return UsableAs(found.usable_ah, found.lost_top_ah, found.lost_bottom_ah)
    usable = active_ah(ah, moved_ah, efficiency)
    spare = np.maximum(ah - usable, 0.0)
    taken = float(np.maximum(usable - ah, 0.0).sum()) / efficiency
    left = spare * (1.0 - taken / spare.sum()) if spare.sum() > 0.0 else spare
    return UsableAs(usable, np.zeros(len(ah)), np.maximum(left, 0.0))

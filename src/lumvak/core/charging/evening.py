"""What evens the groups out: the board's bleed, own resistors, a mover; for how long, how warm."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lumvak.core.catalogue.boards import Board
from lumvak.core.charging.charger import ChargeSetting
from lumvak.core.charging.groups_now import GroupsNow
from lumvak.core.charging.groups_run import Active, Array, Bleed
from lumvak.core.charging.vessels import excess_ah, hours_to_even
from lumvak.core.document.charging import Charging
from lumvak.core.figures.figure import Figure, computed

# Where nobody says a bleed begins so far under the ceiling of a cell.
UNDER_CEILING_V = 0.03
# A strategy that looks at the others bleeds what is over the lowest by so much.
OVER_LOWEST_V = 0.01
# A balancer without a threshold works at any volts of a cell.
ANY_V = 0.5


@dataclass(frozen=True, eq=False)
class Evening:
    """What evens the groups out, and what that comes to.

    ``excess_ah`` (n,) is what each must lose so that all are full together; ``hours`` how long
    that takes at the top, ``None`` where it never does; ``heat_w`` the heat of all at once,
    ``flow_a`` what one is bled by. ``name`` is what does it, in words. ``left_share`` is by how
    much of a capacity groups over the threshold stay apart, ``begins`` whether any gets to
    it. ``cut_off_v`` is where the board ends the charge at the fullest group while others are not
    full; ``stuck`` whether it then stays so, for it bleeds no lower than where it would go on.
    """

    bleed: Bleed | None
    active: Active | None
    name: str
    excess_ah: Array
    flow_a: float
    hours: float | None
    heat_w: float
    left_share: float
    begins: bool
    cut_off_v: float | None
    stuck: bool
    figures: tuple[Figure, ...]

    @property
    def works(self) -> bool:
        """Whether anything evens the groups out."""
        return self.bleed is not None or self.active is not None


def board_bleed(board: Board | None, ceiling_v: float, spread_v: float | None) -> Bleed | None:
    """The bleed of a board; ``None`` where it has none."""
    if board is None or board.balance_a == 0.0:
        return None
    from_v = board.balance_from_v
    if from_v is None and board.kind == "balancer":
        return Bleed(ANY_V, amps=board.balance_a, spread_v=OVER_LOWEST_V, always=True)
    return Bleed(
        ceiling_v - UNDER_CEILING_V if from_v is None else from_v, amps=board.balance_a,
        spread_v=spread_v, always=board.balance_always, most=board.balance_most,
    )  # fmt: skip


def means_of(
    charging: Charging, board: Board | None, ceiling_v: float, spread_v: float | None
) -> tuple[Bleed | None, Active | None, str]:
    """What evens the groups out as the builder chose, with its name (methods 35)."""
    if charging.at == "bottom" or charging.by == "none":
        return None, None, "nothing"
    if charging.by == "active":
        mover = charging.mover
        return None, Active(mover.amps, mover.efficiency, mover.way), "a mover"
    if charging.by == "module":
        module = charging.module
        from_v = module.from_v or ceiling_v - UNDER_CEILING_V
        spread = OVER_LOWEST_V if module.strategy == "average" else None
        return Bleed(from_v, module.ohm, spread_v=spread, always=module.always), None, "resistors"
    bleed = board_bleed(board, ceiling_v, spread_v)
    return bleed, None, "nothing" if bleed is None or board is None else board.name


def evening_of(
    charging: Charging, setting: ChargeSetting, now: GroupsNow, spread_v: float | None,
    stops_share: float = 1.0,
) -> Evening:  # fmt: skip
    """What evens the groups of a pack out, for how long, and how warm it gets (methods 35).

    ``stops_share`` is where the charger stops: a bleed that the fullest group never comes to there
    does nothing.
    """
    bleed, active, name = means_of(charging, setting.board, setting.ceiling_v, spread_v)
    excess = excess_ah(now.groups.ah, now.charge_ah)
    flow_a, heat_w, most, left = 0.0, 0.0, None, 0.0
    if bleed is not None:
        at_v = max(bleed.from_v, min(setting.ceiling_v, bleed.from_v))
        at_v = setting.ceiling_v if bleed.from_v <= ANY_V else at_v
        flow_a, most = bleed.at(at_v), bleed.most
        heat_w = (most or setting.series) * at_v * flow_a
        if bleed.spread_v is None:
            ends = np.array([bleed.from_v, setting.ceiling_v])
            low, high = now.groups.charge_at(ends).tolist()
            left = max(high - low, 0.0)
    elif active is not None:
        flow_a = active.amps * active.efficiency
        heat_w = active.amps * (1.0 - active.efficiency) * setting.ceiling_v
    hours = hours_to_even(excess, flow_a, now.groups.leak_a, most=most)
    begins = bleed is None or _highest_v(now, stops_share) >= bleed.from_v
    if not begins and hours:
        hours = None
    if active is not None and hours is not None:
        # One group after the other, from those that have most to those that have least.
        room = now.groups.ah - now.charge_ah
        moved = float(np.maximum(room.mean() - room, 0.0).sum())
        hours = moved / active.amps
    return Evening(
        bleed, active, name, excess, flow_a, hours, heat_w, left, begins,
        *_cut_off(setting, now, bleed, stops_share),
        tuple(_figures(excess, flow_a, hours, heat_w, name)),
    )  # fmt: skip


def _cut_off(
    setting: ChargeSetting, now: GroupsNow, bleed: Bleed | None, stops_share: float
) -> tuple[float | None, bool]:
    """Where the board ends a charge before all are full, and whether it stays there."""
    over_v, board = setting.over_v, setting.board
    if over_v is None or board is None or _highest_v(now, stops_share) < over_v:
        return None, False
    back_v = board.over_voltage_release_v
    lowest = None if bleed is None else bleed.from_v - bleed.back_v
    return over_v, back_v is not None and (lowest is None or lowest > back_v)


def _highest_v(now: GroupsNow, stops_share: float) -> float:
    """Volts of the fullest group where the groups' mean is at ``stops_share``."""
    room = now.groups.ah - now.charge_ah
    ahead = float(((room.mean() - room) / now.groups.ah).max())
    return float(now.groups.rest(np.array(stops_share + ahead))[0])


def _figures(
    excess: Array, flow_a: float, hours: float | None, heat_w: float, name: str
) -> tuple[Figure, ...]:
    most = Figure("charging.excess_ah", "The fullest must lose", float(excess.max()), "Ah",
                  "most room of all groups − its own", "methods 35", origin="measured")  # fmt: skip
    flow = Figure("charging.bleed_a", "A group is bled by", flow_a, "A", f"of {name}",
                  "methods 35", origin="sheet")  # fmt: skip
    return (
        most,
        computed("charging.even_h", "Hours at the top until even", hours, "h",
                 "what must be lost ÷ bleed, less what groups lose by themselves", "methods 35",
                 most, flow),
        computed("charging.bleed_w", "Heat of all bleeding at once", heat_w, "W",
                 "groups × volts × bleed", "methods 35", flow),
    )  # fmt: skip

"""Groups over charge, rest and discharge, again and again, with what evens them out."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from lumvak.core.charging.groups_run import Array, Groups, Sums
from lumvak.core.charging.phase import Equipment, Phase, State, phase_run

LONGEST_H = 200.0
# A board that has cut off a charge comes back no sooner than this.
LEAST_OFF_S, MOST_TRIPS = 60.0, 200


@dataclass(frozen=True, slots=True)
class CycleSetting:
    """How a pack is used: charged with ``amps`` to ``hold_v``, until ``end_a`` or a group is over
    ``over_v``, left on the charger for ``stays_h``, emptied with ``load_a`` until a group is under
    ``floor_v``, left for ``between_h`` before it is charged again.

    ``back_v`` is where a board that cut off lets the charge go on.
    """

    amps: float
    hold_v: float
    end_a: float
    over_v: float | None
    back_v: float | None
    stays_h: float
    load_a: float
    floor_v: float
    between_h: float


@dataclass(frozen=True, eq=False)
class Cycle:
    """One charge and discharge: what it gave in Ah and Wh, how long the charge took.

    ``full`` and ``empty`` are the charges of groups (n,) at both ends, ``lamp`` when the charger's
    lamp turned; ``ended_by`` is what ended the charge, ``bleed_wh`` what was bled.
    """

    usable_ah: float
    given_wh: float
    charge_h: float
    lamp: Array
    full: Array
    empty: Array
    full_v: Array
    ended_by: str
    bleed_wh: float

    @property
    def apart(self) -> float:
        """How far groups are apart at the top, as a share of their capacity."""
        return float(np.ptp(self.full))


def cycles(
    groups: Groups, share: Array, celsius: float, setting: CycleSetting, having: Equipment,
    count: int, report: Callable[[float], bool] | None = None,
) -> tuple[Cycle, ...]:  # fmt: skip
    """Run ``count`` cycles from where groups stand, ``share`` (n,); methods 35.

    ``report`` is told the share that is done and returns whether to go on; where not, the cycles so
    far are returned.

    Warmth is that of ``celsius`` throughout: bleeding is slow, and so is what is looked at here.
    """
    state = State(share.copy(), celsius, np.zeros(len(share), dtype=bool))
    having = replace(having, warmth=None)
    found = list[Cycle]()
    for place in range(count):
        if report is not None and not report(place / count):
            break
        state, cycle = _once(groups, state, setting, having)
        found.append(cycle)
    return tuple(found)


def _once(
    groups: Groups, state: State, setting: CycleSetting, having: Equipment
) -> tuple[State, Cycle]:
    begun = state.seconds
    charge = Phase(setting.amps, LONGEST_H * 3600.0, setting.hold_v, setting.end_a, setting.over_v)
    state, sums, why = phase_run(groups, state, charge, having)
    lamp, hours = state.charge, (state.seconds - begun) / 3600.0
    if setting.stays_h > 0.0:
        state, more = stays(groups, state, setting, having, why == "over")
        sums = sums + more
    full = state.charge
    still = Phase(0.0, 1.0)
    state, _, _ = phase_run(groups, state, still, having)
    rest_v = groups.rest(full)[0]
    out, given, _ = phase_run(
        groups, state, Phase(-setting.load_a, LONGEST_H * 3600.0, under_v=setting.floor_v), having
    )
    empty = out.charge
    if setting.between_h > 0.0:
        out, after, _ = phase_run(groups, out, Phase(0.0, setting.between_h * 3600.0), having)
        sums = sums + after
    cycle = Cycle(
        -given.ah, -given.wh, hours, lamp, full, empty, rest_v, why, sums.bleed_wh + given.bleed_wh
    )
    return out, cycle


def stays(
    groups: Groups, state: State, setting: CycleSetting, having: Equipment, cut_off: bool
) -> tuple[State, Sums]:
    """What happens on a charger that stays connected once its lamp has turned, for ``stays_h``.

    Where the board has ``cut_off`` the charge, it comes back once all groups are under ``back_v``,
    and cuts off again.
    """
    end, sums = state.seconds + setting.stays_h * 3600.0, Sums()
    for _ in range(MOST_TRIPS):
        left = end - state.seconds
        if left <= 1.0:
            break
        if cut_off:
            least = min(LEAST_OFF_S, left)
            state, flowed, _ = phase_run(groups, state, Phase(0.0, least, connected=True), having)
            sums = sums + flowed
            wait = Phase(0.0, left - least, released_v=setting.back_v, connected=True)
            state, flowed, why = phase_run(groups, state, wait, having)
        else:
            held = Phase(setting.amps, left, setting.hold_v, over_v=setting.over_v)
            state, flowed, why = phase_run(groups, state, held, having)
        sums = sums + flowed
        cut_off = why == "over"
    return state, sums
